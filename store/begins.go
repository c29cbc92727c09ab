package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Why nothing more may be begun.
var (
	ErrFull   = errors.New("as many have been begun as a release allows")
	ErrEnough = errors.New("this learner has begun as often as a release allows")
)

// Begin begins a sitting of a release as far as its limits allow, counted and kept under
// one lock, also where several servers do it at once: ErrFull, ErrEnough. The same request
// again, where it has one, is the same sitting.
func (s *Store) Begin(ctx context.Context, r Release, x Sitting, request string) (Sitting, error) {
	err := s.begin(ctx, r, x.LearnerID, func(tx *sqlx.Tx) (err error) {
		if request != "" {
			var kept Sitting
			err = tx.GetContext(ctx, &kept, sittingColumns+`WHERE s.release_id = ? AND s.request = ?`, r.ID, request)
			if err == nil {
				x = kept
				return errAgain
			}
			if !errors.Is(err, sql.ErrNoRows) {
				return err
			}
		}
		return nil
	}, func(tx *sqlx.Tx) (err error) {
		x.ReleaseID = r.ID
		x, err = addSitting(ctx, tx, x, request, r.Allowance())
		return err
	})
	return x, err
}

// BeginRun begins a run through a released series, as Begin does a sitting.
func (s *Store) BeginRun(ctx context.Context, r Release, x Run, request string) (Run, error) {
	err := s.begin(ctx, r, x.LearnerID, func(tx *sqlx.Tx) error {
		if request != "" {
			var kept Run
			err := tx.GetContext(ctx, &kept, runColumns+`WHERE release_id = ? AND request = ?`, r.ID, request)
			if err == nil {
				x = kept
				return errAgain
			}
			if !errors.Is(err, sql.ErrNoRows) {
				return err
			}
		}
		return nil
	}, func(tx *sqlx.Tx) error {
		x.ReleaseID, x.Token, x.StartedAt, x.Score, x.Percent = r.ID, NewID(), now(), "0.00", "0.00"
		x.DueAt = due(x.StartedAt, x.LimitMS, r.Allowance())
		added, err := tx.NamedExecContext(ctx, `INSERT INTO runs (release_id, token, learner, learner_id, started_at, limit_ms, at_step, reached, end_step, due_at, arrival_id, request)
			VALUES (:release_id, :token, :learner, :learner_id, :started_at, :limit_ms, :at_step, :reached, :end_step, :due_at, :arrival_id, :request)`,
			struct {
				Run
				Request *string `db:"request"`
			}{x, orNull(request)})
		if err != nil {
			return raced(err)
		}
		x.ID, err = added.LastInsertId()
		return err
	})
	return x, err
}

// errAgain ends a transaction in which nothing is to be begun.
var errAgain = errors.New("the same request was kept before")

// begin counts under locks and lets add keep what is begun, all or nothing. Where there is
// no limit, learners do not wait for each other.
func (s *Store) begin(ctx context.Context, r Release, learner *int64, known, add func(*sqlx.Tx) error) error {
	once := func(tx *sqlx.Tx) error {
		// Locks first: what is read afterwards is what the one before has kept.
		if r.Most > 0 {
			if err := guard(ctx, tx, guardBegins, r.ID); err != nil {
				return err
			}
		}
		begun := 0
		if learner != nil {
			if _, err := tx.ExecContext(ctx, `INSERT INTO begins (release_id, learner_id, n) VALUES (?, ?, 1) ON DUPLICATE KEY UPDATE n = n + 1`, r.ID, *learner); err != nil {
				return err
			}
			if err := tx.GetContext(ctx, &begun, `SELECT n FROM begins WHERE release_id = ? AND learner_id = ? FOR UPDATE`, r.ID, *learner); err != nil {
				return err
			}
		}
		if err := known(tx); err != nil {
			return err
		}
		if r.MostEach > 0 && begun > r.MostEach {
			return ErrEnough
		}
		if r.Most > 0 {
			n := 0
			if err := tx.GetContext(ctx, &n, `SELECT (SELECT COUNT(*) FROM sittings WHERE release_id = ? AND run_id IS NULL) + (SELECT COUNT(*) FROM runs WHERE release_id = ?)`, r.ID, r.ID); err != nil {
				return err
			}
			if n >= r.Most {
				return ErrFull
			}
		}
		return add(tx)
	}
	for try := 1; ; try++ {
		err := s.inTx(ctx, once)
		switch {
		case errors.Is(err, errAgain):
			return nil
		case !errors.Is(err, ErrRaced) || try == 3: // the same request twice at once: the other one is kept
			return err
		}
	}
}

// Begun is how often a roster's learner has begun a release, also where the names of those
// sittings have been forgotten since.
func (s *Store) Begun(ctx context.Context, release string, learner int64) (n int, err error) {
	err = s.db.GetContext(ctx, &n, `SELECT COALESCE(MAX(n), 0) FROM begins WHERE release_id = ? AND learner_id = ?`, release, learner)
	return n, err
}

// Due is a run whose time is over, and that is still under way.
type Due struct {
	Link  string `db:"link"`
	Token string `db:"token"`
}

// DueSittings lists sittings that are still under way though they were due, the longest due
// first, with the links of their releases. At most so many.
func (s *Store) DueSittings(ctx context.Context, at time.Time, most int) (list []Sitting, links []string, err error) {
	if err := s.db.SelectContext(ctx, &list, sittingColumns+`WHERE s.phase IN ('placing', 'paused') AND s.due_at < ? ORDER BY s.due_at LIMIT ?`, at, most); err != nil {
		return nil, nil, err
	}
	for _, x := range list {
		var link string
		if err := s.db.GetContext(ctx, &link, `SELECT link FROM releases WHERE id = ?`, x.ReleaseID); err != nil {
			return nil, nil, err
		}
		links = append(links, link)
	}
	return list, links, nil
}

// DueRuns lists runs, as DueSittings does sittings.
func (s *Store) DueRuns(ctx context.Context, at time.Time, most int) ([]Due, error) {
	list := []Due{}
	err := s.db.SelectContext(ctx, &list, `SELECT r.link, s.token FROM runs s JOIN releases r ON r.id = s.release_id
		WHERE s.under_way AND s.due_at < ? ORDER BY s.due_at LIMIT ?`, at, most)
	return list, err
}
