package store

import (
	"context"
	"errors"
	"strings"
	"time"
)

// Tables names all tables of the database.
func (s *Store) Tables(ctx context.Context) (names []string, err error) {
	err = s.db.SelectContext(ctx, &names, `SELECT table_name FROM information_schema.tables WHERE table_schema = DATABASE() ORDER BY table_name`)
	return names, err
}

// DropAll takes everything out of the database: for a restore that failed half way.
func (s *Store) DropAll(ctx context.Context) error {
	names, err := s.Tables(ctx)
	if err != nil || len(names) == 0 {
		return err
	}
	c, err := s.db.Connx(ctx)
	if err != nil {
		return err
	}
	defer c.Close()
	_, err = c.ExecContext(ctx, `SET foreign_key_checks = 0`)
	_, dropped := c.ExecContext(ctx, "DROP TABLE IF EXISTS `"+strings.Join(names, "`, `")+"`")
	_, back := c.ExecContext(ctx, `SET foreign_key_checks = 1`)
	return errors.Join(err, dropped, back)
}

// Counts is how much there is of what an installation holds.
type Counts struct {
	Accounts   int `db:"accounts"`
	Activities int `db:"activities"`
	Releases   int `db:"releases"`
	Sittings   int `db:"sittings"`
}

// Counts counts. Cost: an index of each table.
func (s *Store) Counts(ctx context.Context) (c Counts, err error) {
	err = s.db.GetContext(ctx, &c, `SELECT (SELECT COUNT(*) FROM accounts) AS accounts, (SELECT COUNT(*) FROM activities) AS activities,
		(SELECT COUNT(*) FROM releases) AS releases, (SELECT COUNT(*) FROM sittings) AS sittings`)
	return c, err
}

// Health is what a database says of itself to whoever looks after it.
type Health struct {
	Version     string        // of the server
	Away        time.Duration // by how much its clock is ahead of this program's
	Variables   map[string]string
	Bytes       int64 // of all tables with their indexes
	Threads     int   // connections to it now
	DataDir     string
	LostChunks  int // pieces of media that no workspace has
	BareMedia   int // media without their bytes
	Unowned     []string
	Unsummed    int // drafts whose summary is out of date
	DemoAccount bool
}

// demoAddresses end so; nobody real has one.
const demoAddresses = "%@cobblelane.example"

// Health looks. Cost: a look through the list of media, without their bytes.
func (s *Store) Health(ctx context.Context) (h Health, err error) {
	var theirs time.Time
	before := time.Now()
	if err := s.db.GetContext(ctx, &theirs, `SELECT UTC_TIMESTAMP(6)`); err != nil {
		return h, err
	}
	took := time.Since(before)
	h.Away = theirs.Sub(before.Add(took / 2)).Truncate(time.Millisecond)
	rows, err := s.db.QueryContext(ctx, `SHOW GLOBAL VARIABLES`)
	if err != nil {
		return h, err
	}
	defer rows.Close()
	h.Variables = map[string]string{}
	for rows.Next() {
		var name, value string
		if err := rows.Scan(&name, &value); err != nil {
			return h, err
		}
		h.Variables[name] = value
	}
	if err := rows.Err(); err != nil {
		return h, err
	}
	h.Version, h.DataDir = h.Variables["version"], h.Variables["datadir"]
	var status struct {
		Name  string `db:"Variable_name"`
		Value int    `db:"Value"`
	}
	err = errors.Join(
		s.db.GetContext(ctx, &status, `SHOW GLOBAL STATUS LIKE 'Threads_connected'`),
		s.db.GetContext(ctx, &h.Bytes, `SELECT COALESCE(SUM(data_length + index_length), 0) FROM information_schema.tables WHERE table_schema = DATABASE()`),
		s.db.GetContext(ctx, &h.LostChunks, `SELECT COUNT(*) FROM media_chunks c WHERE `+isLost),
		s.db.GetContext(ctx, &h.BareMedia, `SELECT COUNT(*) FROM media m WHERE NOT EXISTS (SELECT 1 FROM media_chunks c WHERE c.id = m.id)`),
		s.db.SelectContext(ctx, &h.Unowned, `SELECT w.name FROM workspaces w WHERE NOT EXISTS (SELECT 1 FROM members m WHERE m.workspace_id = w.id AND m.owner) ORDER BY w.name`),
		s.db.GetContext(ctx, &h.Unsummed, `SELECT COUNT(*) FROM activities a WHERE `+unsummed),
		s.db.GetContext(ctx, &h.DemoAccount, `SELECT EXISTS (SELECT 1 FROM accounts WHERE email LIKE ?)`, demoAddresses),
	)
	h.Threads = status.Value
	return h, err
}
