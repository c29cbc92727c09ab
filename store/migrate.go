package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"strconv"
	"strings"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/lock"
)

// ErrTooNew says that a newer program has brought the schema further than this one knows.
var ErrTooNew = errors.New("the database's schema is newer than this program")

// Migrate brings the schema up to date; several processes may call it at once. Each of
// its steps can be run again, so that one that was interrupted is repeated by the next
// call. waiting, where it is not nil, is called when another process holds the lock. A
// schema that is newer than the program is left as it is: ErrTooNew.
func (s *Store) Migrate(ctx context.Context, waiting func()) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	// A process that was killed holds the lock for as long as its lease.
	table, err := lock.NewMySQLTableLocker(lock.WithTableLeaseDuration(lease), lock.WithTableHeartbeatInterval(lease/5),
		lock.WithTableLockTimeout(lease/5, 300))
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(goose.DialectMySQL, s.db.DB, files, goose.WithLocker(patient{table, waiting}))
	if err != nil {
		return err
	}
	if err := s.versionsBegun(ctx); err != nil {
		return err
	}
	has, err := p.GetDBVersion(ctx)
	if err != nil {
		return fmt.Errorf("the database's schema could not be read: %w", err)
	}
	sources := p.ListSources()
	if knows := sources[len(sources)-1].Version; has > knows {
		return fmt.Errorf("%w: it is at step %d, and this program knows %d", ErrTooNew, has, knows)
	}
	// Tables refer to each other: those that an earlier version made come first.
	if err := s.unicode(ctx); err != nil {
		return err
	}
	if _, err := p.Up(ctx); err != nil {
		return fmt.Errorf("the database's schema could not be brought up to date: %w", err)
	}
	return nil
}

// lease is for how long the lock of a process that was killed keeps others waiting.
const lease = 5 * time.Second

// patient is a lock that says when it has to wait.
type patient struct {
	lock.Locker
	waiting func()
}

func (p patient) Lock(ctx context.Context, db *sql.DB) error {
	if p.waiting != nil {
		soon := time.AfterFunc(500*time.Millisecond, p.waiting)
		defer soon.Stop()
	}
	return p.Locker.Lock(ctx, db)
}

// versionsBegun completes the list of steps where its table was made and its first line
// was not: a start that was interrupted right there.
func (s *Store) versionsBegun(ctx context.Context) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO goose_db_version (version_id, is_applied)
		SELECT 0, 1 FROM DUAL WHERE NOT EXISTS (SELECT 1 FROM goose_db_version)`)
	if failed(err, noSuchTable) {
		return nil
	}
	return err
}

// unicode gives tables that were made with another character set, that of the database,
// the one that holds every name. Columns that refer to each other cannot be changed one by
// one, so their references are taken away for that time. They are written down first, so
// that a call after one that was interrupted puts them back.
func (s *Store) unicode(ctx context.Context) error {
	tables := []string{}
	if err := s.db.SelectContext(ctx, &tables, `SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE()
		AND table_collation <> 'utf8mb4_bin' AND table_name NOT LIKE 'goose%' ORDER BY table_name`); err != nil {
		return err
	}
	var interrupted int
	if err := s.db.GetContext(ctx, &interrupted, `SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = 'kept_references'`); err != nil {
		return err
	}
	if len(tables) == 0 && interrupted == 0 {
		return nil
	}
	do := func(query string, args ...any) error {
		_, err := s.db.ExecContext(ctx, query, args...)
		return err
	}
	if err := errors.Join(
		do(`CREATE TABLE IF NOT EXISTS kept_references (name VARCHAR(64) NOT NULL PRIMARY KEY, of_table VARCHAR(64) NOT NULL, definition TEXT NOT NULL) CHARACTER SET utf8mb4 COLLATE utf8mb4_bin`),
		do("INSERT IGNORE INTO kept_references SELECT constraint_name, table_name, CONCAT('FOREIGN KEY (`', GROUP_CONCAT(column_name ORDER BY ordinal_position SEPARATOR '`, `'),"+
			" '`) REFERENCES `', referenced_table_name, '` (`', GROUP_CONCAT(referenced_column_name ORDER BY ordinal_position SEPARATOR '`, `'), '`)')"+
			" FROM information_schema.key_column_usage WHERE table_schema = DATABASE() AND referenced_table_name IS NOT NULL"+
			" GROUP BY constraint_name, table_name, referenced_table_name")); err != nil {
		return err
	}
	kept := []struct {
		Name       string `db:"name"`
		Table      string `db:"of_table"`
		Definition string `db:"definition"`
	}{}
	if err := s.db.SelectContext(ctx, &kept, `SELECT name, of_table, definition FROM kept_references ORDER BY name`); err != nil {
		return err
	}
	for _, k := range kept {
		if err := do("ALTER TABLE `" + k.Table + "` DROP FOREIGN KEY IF EXISTS `" + k.Name + "`"); err != nil {
			return err
		}
	}
	for _, t := range tables {
		if err := do("ALTER TABLE `" + t + "` CONVERT TO CHARACTER SET utf8mb4 COLLATE utf8mb4_bin"); err != nil {
			return fmt.Errorf("the table %s could not be made Unicode: %w", t, err)
		}
	}
	for _, k := range kept {
		if err := do("ALTER TABLE `" + k.Table + "` ADD CONSTRAINT `" + k.Name + "` " + k.Definition); err != nil {
			return err
		}
	}
	return do(`DROP TABLE kept_references`)
}

// Setting is what is kept under a name; "" where nothing is.
func (s *Store) Setting(ctx context.Context, name string) (value string, err error) {
	err = s.db.GetContext(ctx, &value, `SELECT value FROM settings WHERE name = ?`, name)
	if errors.Is(err, sql.ErrNoRows) {
		return "", nil
	}
	return value, err
}

// Set keeps something under a name.
func (s *Store) Set(ctx context.Context, name, value string) error {
	_, err := s.db.ExecContext(ctx, `REPLACE INTO settings (name, value) VALUES (?, ?)`, name, value)
	return err
}

// SchemaVersion is how far the database's schema has been brought, and how far this program
// would bring it.
func (s *Store) SchemaVersion(ctx context.Context) (has, knows int, err error) {
	err = s.db.GetContext(ctx, &has, `SELECT COALESCE(MAX(version_id), 0) FROM goose_db_version WHERE is_applied`)
	return has, SchemaKnown(), err
}

// SchemaKnown is how far this program brings a schema: the number of its last migration.
func SchemaKnown() int {
	names, err := fs.Glob(migrations, "migrations/*.sql")
	if err != nil {
		panic(err) // the pattern is a constant
	}
	number, _, _ := strings.Cut(strings.TrimPrefix(names[len(names)-1], "migrations/"), "_")
	knows, err := strconv.Atoi(number)
	if err != nil {
		panic(err) // so are the names
	}
	return knows
}
