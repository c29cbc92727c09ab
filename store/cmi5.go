package store

import (
	"context"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Cmi5Session is one launch by cmi5. Its statements go to its platform's record store, with a
// token of its own.
type Cmi5Session struct {
	ID         string     `db:"id"`
	PlatformID string     `db:"platform_id"`
	ArrivalID  int64      `db:"arrival_id"`
	Endpoint   string     `db:"endpoint"`
	Sealed     []byte     `db:"sealed"` // the token, encrypted
	Launch     string     `db:"launch"` // JSON: what is said of it in each statement
	Completed  bool       `db:"completed"`
	Judged     string     `db:"judged"` // passed or failed, as it was said
	BegunAt    time.Time  `db:"begun_at"`
	OverAt     *time.Time `db:"over_at"`
}

const cmi5Columns = `SELECT id, platform_id, arrival_id, endpoint, sealed, launch, completed, judged, begun_at, over_at FROM cmi5_sessions `

// OwnPlatform finds, or makes, the platform that comes by cmi5 from an address: it is known by
// that alone, and has no keys.
func (w Workspace) OwnPlatform(ctx context.Context, origin, name string) (Platform, error) {
	client := "cmi5 " + w.id
	find := func() (p Platform, err error) {
		err = w.s.db.GetContext(ctx, &p, platformColumns+`WHERE issuer = ? AND client_id = ?`, origin, client)
		return p, found(err)
	}
	p, err := find()
	if !errors.Is(err, ErrNotFound) {
		return p, err
	}
	p, err = w.AddPlatform(ctx, Platform{Name: name, Issuer: origin, ClientID: client, Deployed: "cmi5", Confirmed: true})
	if errors.Is(err, ErrTaken) {
		return find()
	}
	return p, err
}

// BeginCmi5 begins a session of an arrival, with what is said of its beginning. The one before,
// where it was not ended, is over.
func (s *Store) BeginCmi5(ctx context.Context, x Cmi5Session, posts []Post) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `UPDATE cmi5_sessions SET over_at = ? WHERE arrival_id = ? AND over_at IS NULL`, now(), x.ArrivalID); err != nil {
			return err
		}
		if _, err := tx.NamedExecContext(ctx, `INSERT INTO cmi5_sessions (id, platform_id, arrival_id, endpoint, sealed, launch, completed, judged, begun_at)
			VALUES (:id, :platform_id, :arrival_id, :endpoint, :sealed, :launch, :completed, :judged, :begun_at)`, x); err != nil {
			return err
		}
		return addPosts(ctx, tx, posts)
	})
}

// Cmi5Of is the last session of an arrival: ErrNotFound where it came otherwise.
func (s *Store) Cmi5Of(ctx context.Context, arrival int64) (Cmi5Session, error) {
	var x Cmi5Session
	err := s.db.GetContext(ctx, &x, cmi5Columns+`WHERE arrival_id = ? ORDER BY begun_at DESC, id DESC LIMIT 1`, arrival)
	return x, found(err)
}

// Cmi5Session finds one.
func (s *Store) Cmi5Session(ctx context.Context, id string) (Cmi5Session, error) {
	var x Cmi5Session
	err := s.db.GetContext(ctx, &x, cmi5Columns+`WHERE id = ?`, id)
	return x, found(err)
}

// keepCmi5 notes what has been said of a session, in the transaction of what tells it.
func keepCmi5(ctx context.Context, tx *sqlx.Tx, x *Cmi5Session) error {
	if x == nil {
		return nil
	}
	_, err := tx.NamedExecContext(ctx, `UPDATE cmi5_sessions SET completed = :completed, judged = :judged WHERE id = :id`, x)
	return err
}

// LeftCmi5 notes that the page of a session is gone, or is there again.
func (s *Store) LeftCmi5(ctx context.Context, arrival int64, gone bool) error {
	_, err := s.db.ExecContext(ctx, `UPDATE cmi5_sessions SET left_at = IF(?, ?, NULL) WHERE arrival_id = ? AND over_at IS NULL`, gone, now(), arrival)
	return err
}

// LeftBehind lists the arrivals of sessions whose page has been gone since before a time.
func (s *Store) LeftBehind(ctx context.Context, before time.Time, most int) ([]int64, error) {
	list := []int64{}
	err := s.db.SelectContext(ctx, &list, `SELECT arrival_id FROM cmi5_sessions WHERE left_at < ? AND over_at IS NULL ORDER BY left_at LIMIT ?`, before, most)
	return list, err
}

// EndCmi5 ends a session once, with what is said of its end: ErrNotFound where it was ended.
func (s *Store) EndCmi5(ctx context.Context, id string, posts []Post) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		r, err := tx.ExecContext(ctx, `UPDATE cmi5_sessions SET over_at = ? WHERE id = ? AND over_at IS NULL`, now(), id)
		if err := changedOne(r, err); err != nil {
			return err
		}
		return addPosts(ctx, tx, posts)
	})
}
