package store

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"
)

// Visit is a session of an account as its owner sees it: on what device, and where from.
type Visit struct {
	ID      string    `db:"id"`
	Account string    `db:"account_id"`
	Device  string    `db:"device"` // as "Firefox on Windows"
	Place   string    `db:"place"`  // the address that it was last used from
	BeganAt time.Time `db:"began_at"`
	SeenAt  time.Time `db:"seen_at"` // to the minute
}

// visitKept is for how long a visit is known after it was last used: longer than any session.
const visitKept = 15 * 24 * time.Hour

// AddVisit notes that a session has begun, and gives the visit's id.
func (s *Store) AddVisit(ctx context.Context, v Visit) (string, error) {
	v.ID, v.BeganAt, v.SeenAt = NewID(), now(), now()
	_, err := s.db.NamedExecContext(ctx, `INSERT INTO visits (id, account_id, device, place, began_at, seen_at)
		VALUES (:id, :account_id, :device, :place, :began_at, :seen_at)`, v)
	return v.ID, err
}

// Visit finds one of an account: ErrNotFound once it was ended.
func (s *Store) Visit(ctx context.Context, account, id string) (Visit, error) {
	var v Visit
	err := s.db.GetContext(ctx, &v, `SELECT id, account_id, device, place, began_at, seen_at FROM visits WHERE id = ? AND account_id = ?`, id, account)
	return v, found(err)
}

// Visits lists those of an account, the latest first.
func (s *Store) Visits(ctx context.Context, account string) ([]Visit, error) {
	list := []Visit{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, account_id, device, place, began_at, seen_at FROM visits WHERE account_id = ? ORDER BY seen_at DESC, id`, account)
	return list, err
}

// SeenAt notes that a visit goes on, and from where.
func (s *Store) SeenAt(ctx context.Context, id, place string) error {
	_, err := s.db.ExecContext(ctx, `UPDATE visits SET seen_at = ?, place = ? WHERE id = ?`, now(), place, id)
	return err
}

// EndVisit ends one of an account.
func (s *Store) EndVisit(ctx context.Context, account, id string) error {
	r, err := s.db.ExecContext(ctx, `DELETE FROM visits WHERE id = ? AND account_id = ?`, id, account)
	return changedOne(r, err)
}

// endVisits ends all of an account.
func endVisits(ctx context.Context, to sqlx.ExecerContext, account string) error {
	_, err := to.ExecContext(ctx, `DELETE FROM visits WHERE account_id = ?`, account)
	return err
}

// DropVisits forgets those whose session is over.
func (s *Store) DropVisits(ctx context.Context) error {
	return s.dropSome(ctx, `visits WHERE seen_at < ?`, now().Add(-visitKept))
}
