package store

import (
	"context"
	"database/sql"
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
	// DueAt is when a run that is under way is finished without its learner; nil is never.
	DueAt *time.Time `db:"due_at"`
	Rev   int        `db:"rev"` // how often it was moved on
	// ArrivalID is by which arrival from a platform it was begun; nil by none.
	ArrivalID *int64 `db:"arrival_id"`
}

const runColumns = `SELECT id, release_id, token, learner, learner_id, started_at, limit_ms, at_step, reached, end_step, redo, score, percent, due_at, rev, arrival_id FROM runs `

// RunByToken finds a learner's run.
func (s *Store) RunByToken(ctx context.Context, release, token string) (Run, error) {
	var r Run
	err := s.db.GetContext(ctx, &r, runColumns+`WHERE token = ? AND release_id = ?`, token, release)
	return r, found(err)
}

// RunOfLearner finds the latest run of a roster's learner that is still known to be
// theirs.
func (s *Store) RunOfLearner(ctx context.Context, release string, learner int64) (Run, error) {
	var r Run
	err := s.db.GetContext(ctx, &r, runColumns+`WHERE release_id = ? AND learner_id = ? ORDER BY started_at DESC, id DESC LIMIT 1`, release, learner)
	return r, found(err)
}

// MoveRun keeps where a run has come to. Where it was moved on since it was read, also where
// it has come back to the same step, nothing is kept: ErrRaced. A request that was held up
// would otherwise put an older result in the place of a later one.
//
// posts are what others are told of it, and launched the session that they are of, if of one.
func (s *Store) MoveRun(ctx context.Context, r Run, launched *Cmi5Session, posts ...Post) error {
	const move = `UPDATE runs SET at_step = :at_step, reached = :reached, redo = :redo, score = :score, percent = :percent, rev = rev + 1
		WHERE id = :id AND rev = :rev`
	moved := func(x sql.Result, err error) error {
		if err != nil {
			return err
		}
		if n, err := x.RowsAffected(); err != nil || n == 0 {
			return errors.Join(ErrRaced, err)
		}
		return nil
	}
	if len(posts) == 0 {
		return moved(s.db.NamedExecContext(ctx, move, r))
	}
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if err := moved(tx.NamedExecContext(ctx, move, r)); err != nil {
			return err
		}
		if err := keepCmi5(ctx, tx, launched); err != nil {
			return err
		}
		return addPosts(ctx, tx, posts)
	})
}

// Runs lists a release's runs, the latest begun first.
func (s *Store) Runs(ctx context.Context, release string) ([]Run, error) {
	list := []Run{}
	err := s.old.SelectContext(ctx, &list, runColumns+`WHERE release_id = ? ORDER BY started_at DESC, id DESC`, release)
	return list, err
}

// SetEntry says who may begin with a release from now on, and how late moves may arrive,
// also of what is under way.
func (w Workspace) SetEntry(ctx context.Context, release string, basedOn int, e Entry) error {
	if _, err := w.Release(ctx, release); err != nil {
		return err
	}
	return w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		r, err := tx.ExecContext(ctx, `UPDATE releases SET roster_id = ?, opens_at = ?, closes_at = ?, most_each = ?, most = ?, allowance_ms = ?, extension = ?, entry_rev = entry_rev + 1
			WHERE id = ? AND (? = 0 OR entry_rev = ?)`, e.RosterID, e.OpensAt, e.ClosesAt, e.MostEach, e.Most, e.AllowanceMS, e.Extension, release, basedOn, basedOn)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); err != nil || n == 0 {
			return errors.Join(ErrNewer, err)
		}
		for _, table := range []string{`sittings SET due_at = started_at + INTERVAL (limit_ms + ?) * 1000 MICROSECOND WHERE phase <> 'done' AND `,
			`runs SET due_at = started_at + INTERVAL (limit_ms + ?) * 1000 MICROSECOND WHERE under_way AND `} {
			if _, err := tx.ExecContext(ctx, `UPDATE `+table+`release_id = ? AND limit_ms > 0`, e.AllowanceMS, release); err != nil {
				return err
			}
		}
		return nil
	})
}
