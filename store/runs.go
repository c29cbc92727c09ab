package store

import (
	"context"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Run is one learner's way through a released series. The sittings of its activities
// are kept as all others are, each with its run and step.
type Run struct {
	ID        int64     `db:"id"`
	ReleaseID string    `db:"release_id"`
	Token     string    `db:"token"`
	Learner   string    `db:"learner"`
	LearnerID *int64    `db:"learner_id"`
	StartedAt time.Time `db:"started_at"`
	LimitMS   int64     `db:"limit_ms"` // 0 is none
	At        int       `db:"at_step"`
	Reached   int       `db:"reached"`
	End       int       `db:"end_step"` // the number of the result
	Redo      string    `db:"redo"`     // steps that are to be begun anew, as 1,4
	Score     string    `db:"score"`
	Percent   string    `db:"percent"`
}

const runColumns = `SELECT id, release_id, token, learner, learner_id, started_at, limit_ms, at_step, reached, end_step, redo, score, percent FROM runs `

// AddRun begins a run.
func (s *Store) AddRun(ctx context.Context, r Run) (Run, error) {
	r.Token, r.StartedAt, r.Score, r.Percent = NewID(), now(), "0.00", "0.00"
	x, err := s.db.NamedExecContext(ctx, `INSERT INTO runs (release_id, token, learner, learner_id, started_at, limit_ms, at_step, reached, end_step)
		VALUES (:release_id, :token, :learner, :learner_id, :started_at, :limit_ms, :at_step, :reached, :end_step)`, r)
	if err != nil {
		return r, err
	}
	r.ID, err = x.LastInsertId()
	return r, err
}

// RunByToken finds a learner's run.
func (s *Store) RunByToken(ctx context.Context, release, token string) (Run, error) {
	var r Run
	err := s.db.GetContext(ctx, &r, runColumns+`WHERE token = ? AND release_id = ?`, token, release)
	return r, found(err)
}

// RunOfLearner finds the latest run of a roster's learner, and how many there are.
func (s *Store) RunOfLearner(ctx context.Context, release string, learner int64) (r Run, n int, err error) {
	if err := s.db.GetContext(ctx, &n, `SELECT COUNT(*) FROM runs WHERE release_id = ? AND learner_id = ?`, release, learner); err != nil || n == 0 {
		return r, n, err
	}
	err = s.db.GetContext(ctx, &r, runColumns+`WHERE release_id = ? AND learner_id = ? ORDER BY id DESC LIMIT 1`, release, learner)
	return r, n, found(err)
}

// MoveRun keeps where a run has come to. Where it stands elsewhere by now, nothing is
// kept: ErrRaced.
func (s *Store) MoveRun(ctx context.Context, r Run, from int) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var at int
		if err := tx.GetContext(ctx, &at, `SELECT at_step FROM runs WHERE id = ? FOR UPDATE`, r.ID); err != nil {
			return err
		}
		if at != from {
			return ErrRaced
		}
		_, err := tx.NamedExecContext(ctx, `UPDATE runs SET at_step = :at_step, reached = :reached, redo = :redo, score = :score, percent = :percent WHERE id = :id`, r)
		return err
	})
}

// Runs lists a release's runs, the latest begun first.
func (s *Store) Runs(ctx context.Context, release string) ([]Run, error) {
	list := []Run{}
	err := s.db.SelectContext(ctx, &list, runColumns+`WHERE release_id = ? ORDER BY started_at DESC, id DESC`, release)
	return list, err
}

// SetEntry says who may begin with a release from now on.
func (s *Store) SetEntry(ctx context.Context, workspace, release string, e Entry) error {
	r, err := s.db.ExecContext(ctx, `UPDATE releases r JOIN activities a ON a.id = r.activity_id
		SET r.roster_id = ?, r.opens_at = ?, r.closes_at = ?, r.most_each = ?, r.most = ?
		WHERE r.id = ? AND a.workspace_id = ?`, e.RosterID, e.OpensAt, e.ClosesAt, e.MostEach, e.Most, release, workspace)
	if err != nil {
		return err
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		// What was set to what it was already changes no row.
		_, there := s.Release(ctx, workspace, release)
		return errors.Join(there, err)
	}
	return nil
}
