package store

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"
)

// guard lets one transaction at a time go on that guards the same: the others wait or, where
// they are at another database of a cluster, are run again by inTx. What is read afterwards
// is what the one before has kept. It comes before anything else is read or written.
func guard(ctx context.Context, tx *sqlx.Tx, what, which string) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO guards (name, n, at) VALUES (?, 1, ?) ON DUPLICATE KEY UPDATE n = n + 1, at = VALUES(at)`, what+" "+which, now())
	return err
}

// What is guarded.
const (
	guardBegins  = "begins"  // of a release that may be begun so often
	guardNumbers = "numbers" // of an activity's releases
	guardOwners  = "owners"  // of a workspace
	guardMedium  = "medium"  // whose bytes workspaces share
	guardKeys    = "keys"    // of the installation
	guardCourse  = "course"  // of a platform, and its roster
)

// DropGuards forgets those that nobody has used for an hour.
func (s *Store) DropGuards(ctx context.Context) error {
	return s.dropSome(ctx, `guards WHERE at < ?`, now().Add(-time.Hour))
}

// dropSome deletes rows some thousand at a time: a cluster of databases holds everybody up
// for as long as one large deletion takes.
func (s *Store) dropSome(ctx context.Context, which string, args ...any) error {
	const most = 2000
	for {
		r, err := s.db.ExecContext(ctx, `DELETE FROM `+which+` LIMIT ?`, append(args, most)...)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); err != nil || n < most {
			return err
		}
	}
}
