// Package store keeps everything in MariaDB. SQL stands here and nowhere else;
// one file for each thing that is kept.
//
// What belongs to a workspace is asked of [Store.In], which finds nothing of another:
// [ErrNotFound], as for an id that does not exist. A [Store] itself answers what is asked by
// a link or a learner's token, and for the installation as a whole.
package store

import (
	"context"
	"crypto/rand"
	"database/sql"
	"database/sql/driver"
	"embed"
	"errors"
	"fmt"
	mathrand "math/rand/v2"
	"strings"
	"time"

	"github.com/go-sql-driver/mysql"
	"github.com/jmoiron/sqlx"
)

// ErrNotFound is the answer for what is not there, or not theirs.
var ErrNotFound = errors.New("not found")

// Store is safe for use by many at once.
type Store struct {
	db      *sqlx.DB
	old     *sqlx.DB      // where what is read may be a moment old; db, where there is none such
	reading chan struct{} // pieces of media being read
}

//go:embed migrations/*.sql
var migrations embed.FS

// Open connects to the database and waits for nothing: it must be up. Where the data source
// name has several servers, as in tcp(a:3306,b:3306), they are nodes of a cluster that keep
// the same: the first that is there and ready is used.
func Open(ctx context.Context, dsn string) (*Store, error) {
	db, err := open(ctx, dsn, false)
	if err != nil {
		return nil, err
	}
	s := &Store{db: db, old: db, reading: make(chan struct{}, 3)}
	s.SetPool(DefaultConnections, 0)
	return s, nil
}

func open(ctx context.Context, dsn string, lagging bool) (*sqlx.DB, error) {
	c, err := connector(dsn, lagging)
	if err != nil {
		return nil, fmt.Errorf("the data source name cannot be read: %w", err)
	}
	db := sqlx.NewDb(sql.OpenDB(c), "mysql")
	if err := db.PingContext(ctx); err != nil {
		return nil, errors.Join(fmt.Errorf("the database does not answer: %w", err), db.Close())
	}
	return db, nil
}

// ReadFrom lets lists be read from another database that keeps the same a moment later: the
// shelf, outcomes, and downloads.
func (s *Store) ReadFrom(ctx context.Context, dsn string) error {
	db, err := open(ctx, dsn, true)
	if err == nil {
		s.old = db
	}
	return err
}

// DefaultConnections is how many connections a store has at most unless it is told otherwise.
const DefaultConnections = 32

// SetPool sets how many connections there are at most, and for how long one is used: a
// database behind a balancer, or one that ends connections itself, wants less than its own
// limit. 0 is for good.
func (s *Store) SetPool(most int, lifetime time.Duration) {
	for _, db := range []*sqlx.DB{s.db, s.old} {
		db.SetMaxOpenConns(most)
		db.SetMaxIdleConns(most)
		db.SetConnMaxLifetime(lifetime)
	}
}

// Close closes all connections.
func (s *Store) Close() error {
	if s.old == s.db {
		return s.db.Close()
	}
	return errors.Join(s.db.Close(), s.old.Close())
}

// DB is the bare connection pool, for the session library and benchmarks.
func (s *Store) DB() *sql.DB { return s.db.DB }

// NewID makes an id that cannot be guessed: 26 letters and digits, 130 bits.
func NewID() string { return strings.ToLower(rand.Text()) }

func now() time.Time { return time.Now().UTC().Truncate(time.Millisecond) }

// found turns "no rows" into ErrNotFound.
func found(err error) error {
	if errors.Is(err, sql.ErrNoRows) {
		return ErrNotFound
	}
	return err
}

// changedOne is [ErrNotFound] for what changed nothing.
func changedOne(r sql.Result, err error) error {
	if err != nil {
		return err
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNotFound, err)
	}
	return nil
}

// inTx runs f in a transaction, which is rolled back when f fails. Where it and another
// stood in each other's way, also at two nodes of a cluster, or where its node was lost
// before it was to be kept, it is run again: f must not go on from what it did before.
func (s *Store) inTx(ctx context.Context, f func(tx *sqlx.Tx) error) error {
	for try := 1; ; try++ {
		err, kept := s.once(ctx, f)
		again := failed(err, deadlock) || failed(err, changedSince) || !kept && (errors.Is(err, driver.ErrBadConn) || errors.Is(err, mysql.ErrInvalidConn))
		if try == 12 || !again || ctx.Err() != nil {
			return err
		}
		// Those that were in each other's way do not meet again at once.
		time.Sleep(time.Duration(mathrand.IntN(try*4)) * time.Millisecond)
	}
}

const (
	deadlock     = 1213
	changedSince = 1020 // a row that was read has been changed by another transaction
	noSuchTable  = 1146
)

// once runs it once; kept says that it may have been kept even where there is an error.
func (s *Store) once(ctx context.Context, f func(tx *sqlx.Tx) error) (failed error, kept bool) {
	tx, err := s.db.BeginTxx(ctx, nil)
	if err != nil {
		return err, false
	}
	if err := f(tx); err != nil {
		return errors.Join(err, tx.Rollback()), false
	}
	return tx.Commit(), true
}

func duplicate(err error) bool { return failed(err, 1062) }

// gone says that what a row belongs to is not there.
func gone(err error) bool { return failed(err, 1452) }

func failed(err error, number uint16) bool {
	var e *mysql.MySQLError
	return errors.As(err, &e) && e.Number == number
}

// Workspace is what can be asked within a workspace: everything that belongs to it, and
// nothing of another, which is [ErrNotFound] here as what is not there is.
type Workspace struct {
	s  *Store
	id string
}

// In is the store as the members of a workspace may ask it. Whether somebody is one is for
// whoever asks to know.
func (s *Store) In(workspace string) Workspace { return Workspace{s, workspace} }
