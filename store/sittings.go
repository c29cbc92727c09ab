package store

import (
	"context"
	"errors"
	"time"
)

// Sitting is one learner's run through a release. State is the JSON of where it
// stands; the figures beside it are taken from it, for lists.
type Sitting struct {
	ID        int64     `db:"id"`
	ReleaseID string    `db:"release_id"`
	Token     string    `db:"token"`
	Learner   string    `db:"learner"`
	Semantics int       `db:"semantics"`
	StartedAt time.Time `db:"started_at"`
	MovedAt   time.Time `db:"moved_at"`
	N         int       `db:"n"`
	State     string    `db:"state"`
	Phase     string    `db:"phase"`
	Attempts  int       `db:"attempts"`
	Score     string    `db:"score"`
	Percent   string    `db:"percent"`
	Outcome   string    `db:"outcome"`
}

// ErrRaced says that another request has made this move in between.
var ErrRaced = errors.New("another request made this move first")

// AddSitting begins a sitting.
func (s *Store) AddSitting(ctx context.Context, x Sitting) (Sitting, error) {
	x.Token, x.StartedAt, x.MovedAt = NewID(), now(), now()
	r, err := s.db.NamedExecContext(ctx, `INSERT INTO sittings
		(release_id, token, learner, semantics, started_at, moved_at, n, state, phase, attempts, score, percent, outcome)
		VALUES (:release_id, :token, :learner, :semantics, :started_at, :moved_at, :n, :state, :phase, :attempts, :score, :percent, :outcome)`, x)
	if err != nil {
		return x, err
	}
	x.ID, err = r.LastInsertId()
	return x, err
}

// SittingByToken finds a learner's sitting.
func (s *Store) SittingByToken(ctx context.Context, release, token string) (Sitting, error) {
	var x Sitting
	err := s.db.GetContext(ctx, &x, `SELECT id, release_id, token, learner, semantics, started_at, moved_at, n, state, phase, attempts, score, percent, outcome
		FROM sittings WHERE token = ? AND release_id = ?`, token, release)
	return x, found(err)
}

// AppendMove keeps a move and the state after it, both or neither. When x.N has
// been taken by another request, nothing is kept: ErrRaced.
//
// The four statements go in one round trip: the learner waits for this commit and
// for nothing else.
func (s *Store) AppendMove(ctx context.Context, x Sitting, body, result string) error {
	conn, err := s.db.Connx(ctx)
	if err != nil {
		return err
	}
	defer conn.Close()
	at := now()
	// The sitting's row first: whoever has it keeps the others waiting. The other way
	// round each would share it for the foreign key, and none could then change it.
	_, err = conn.ExecContext(ctx, `START TRANSACTION;
		UPDATE sittings SET n = ?, state = ?, phase = ?, attempts = ?, score = ?, percent = ?, outcome = ?, moved_at = ? WHERE id = ? AND n = ?;
		INSERT INTO moves (sitting_id, n, body, result, at) VALUES (?, ?, ?, ?, ?);
		COMMIT`,
		x.N, x.State, x.Phase, x.Attempts, x.Score, x.Percent, x.Outcome, at, x.ID, x.N-1,
		x.ID, x.N, body, result, at)
	if err == nil {
		return nil
	}
	// The statements after a failed one were not run, so the transaction is open.
	// Where it cannot be rolled back the connection is broken, and so is it.
	rollback := context.WithoutCancel(ctx)
	_, rollbackErr := conn.ExecContext(rollback, `ROLLBACK`)
	if duplicate(err) {
		return errors.Join(ErrRaced, rollbackErr)
	}
	return errors.Join(err, rollbackErr)
}

// Sittings lists a release's sittings, the latest begun first.
func (s *Store) Sittings(ctx context.Context, release string) ([]Sitting, error) {
	list := []Sitting{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, learner, semantics, started_at, moved_at, n, phase, attempts, score, percent, outcome
		FROM sittings WHERE release_id = ? ORDER BY started_at DESC, id DESC`, release)
	return list, err
}

// EachSitting calls f with a release's sittings in the order in which they began,
// without holding them all in memory.
func (s *Store) EachSitting(ctx context.Context, release string, f func(Sitting) error) error {
	rows, err := s.db.QueryxContext(ctx, `SELECT id, learner, semantics, started_at, moved_at, n, phase, attempts, score, percent, outcome
		FROM sittings WHERE release_id = ? ORDER BY started_at, id`, release)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		var x Sitting
		if err := rows.StructScan(&x); err != nil {
			return err
		}
		if err := f(x); err != nil {
			return err
		}
	}
	return rows.Err()
}

// Moves lists a sitting's moves in order, as JSON.
func (s *Store) Moves(ctx context.Context, sitting int64) ([]string, error) {
	list := []string{}
	err := s.db.SelectContext(ctx, &list, `SELECT body FROM moves WHERE sitting_id = ? ORDER BY n`, sitting)
	return list, err
}
