package store

import (
	"context"
	"database/sql"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Sitting is one learner's run through a release: its log of moves, and beside it
// the figures for lists, which change with a check.
type Sitting struct {
	ID        int64     `db:"id"`
	ReleaseID string    `db:"release_id"`
	Token     string    `db:"token"`
	Learner   string    `db:"learner"`
	Semantics int       `db:"semantics"`
	Seed      uint64    `db:"seed"`
	StartedAt time.Time `db:"started_at"`
	MovedAt   time.Time `db:"moved_at"`   // the last move's time; the start's without one
	LearnerID *int64    `db:"learner_id"` // of a roster
	LimitMS   *int64    `db:"limit_ms"`   // the time limit; nil is the document's own
	RunID     *int64    `db:"run_id"`     // of a series: the run, its step, and the how manieth sitting there
	Step      int       `db:"step"`
	Turn      int       `db:"turn"`
	RemarkID  *string   `db:"remark_id"` // by which it is scored now, in place of its release
	TookMS    int64     `db:"took_ms"`   // from its start to the last move that changed its standing
	// DueAt is when its time is over and moves that were made in time have had their time
	// to arrive: then it is finished without its learner. nil is never.
	DueAt *time.Time `db:"due_at"`
	Late  int        `db:"late"` // moves that were made in time and received afterwards
	// ArrivalID is by which arrival from a platform it was begun; nil by none.
	ArrivalID *int64 `db:"arrival_id"`
	Result
}

// Result is what a sitting has come to, for lists.
type Result struct {
	Phase    string `db:"phase"`
	Attempts int    `db:"attempts"`
	Score    string `db:"score"`
	Percent  string `db:"percent"`
	Outcome  string `db:"outcome"`
}

// Change is what a move changed beside the log.
type Change struct {
	Result
	TookMS int64
	Late   int
	Tally  *Tally // where the sitting is done by it
	Posts  []Post // what others are told of it
	Cmi5   *Cmi5Session
}

// Move is one entry of the log. Body is its JSON.
type Move struct {
	N      int    `db:"n"`
	Body   string `db:"body"`
	Result string `db:"result"`
}

// ErrRaced says that another request has made this move in between.
var ErrRaced = errors.New("another request made this move first")

// AddSitting begins a sitting of a step of a series. Where another request has begun the
// same turn of the step, nothing is kept: ErrRaced.
func (s *Store) AddSitting(ctx context.Context, x Sitting, allowance time.Duration) (Sitting, error) {
	return addSitting(ctx, s.db, x, "", allowance)
}

func addSitting(ctx context.Context, db sqlx.ExtContext, x Sitting, request string, allowance time.Duration) (Sitting, error) {
	x.Token, x.StartedAt = NewID(), now()
	x.MovedAt = x.StartedAt
	if x.LimitMS != nil {
		x.DueAt = due(x.StartedAt, *x.LimitMS, allowance)
	}
	r, err := sqlx.NamedExecContext(ctx, db, `INSERT INTO sittings
		(release_id, token, learner, semantics, seed, started_at, learner_id, limit_ms, run_id, step, turn, phase, attempts, score, percent, outcome, due_at, arrival_id, request)
		VALUES (:release_id, :token, :learner, :semantics, :seed, :started_at, :learner_id, :limit_ms, :run_id, :step, :turn, :phase, :attempts, :score, :percent, :outcome, :due_at, :arrival_id, :request)`,
		struct {
			Sitting
			Request *string `db:"request"`
		}{x, orNull(request)})
	if err != nil {
		return x, raced(err)
	}
	x.ID, err = r.LastInsertId()
	return x, err
}

// due is when what was begun is finished without its learner, or nil without a limit.
func due(begun time.Time, limitMS int64, allowance time.Duration) *time.Time {
	if limitMS <= 0 {
		return nil
	}
	at := begun.Add(time.Duration(limitMS)*time.Millisecond + allowance)
	return &at
}

func orNull(text string) *string {
	if text == "" {
		return nil
	}
	return &text
}

const sittingColumns = `SELECT s.id, s.release_id, s.token, s.learner, s.semantics, s.seed, s.started_at,
	s.learner_id, s.limit_ms, s.run_id, s.step, s.turn, s.remark_id, s.took_ms, s.due_at, s.late, s.arrival_id,
	COALESCE((SELECT m.at FROM moves m WHERE m.sitting_id = s.id ORDER BY m.n DESC LIMIT 1), s.started_at) AS moved_at,
	s.phase, s.attempts, s.score, s.percent, s.outcome FROM sittings s `

// SittingByToken finds a learner's sitting.
func (s *Store) SittingByToken(ctx context.Context, release, token string) (Sitting, error) {
	var x Sitting
	err := s.db.GetContext(ctx, &x, sittingColumns+`WHERE s.token = ? AND s.release_id = ?`, token, release)
	return x, found(err)
}

// Sitting finds one of those that are meant.
func (s *Store) Sitting(ctx context.Context, p Played, id int64) (Sitting, error) {
	var x Sitting
	err := s.db.GetContext(ctx, &x, sittingColumns+`WHERE `+p.where()+` AND s.id = ?`, p.args(id)...)
	return x, found(err)
}

// AppendMove keeps a move, and, where a figure has changed, the figures after it:
// both or neither. judgedBy is the re-mark by whose key the move was judged. When the
// number has been taken by another request, or the sitting is judged by another key since,
// nothing is kept: ErrRaced.
func (s *Store) AppendMove(ctx context.Context, sitting int64, m Move, judgedBy *string, changed *Change) error {
	const insert = `INSERT INTO moves (sitting_id, n, body, result, at) SELECT id, ?, ?, ?, ? FROM sittings WHERE id = ? AND remark_id <=> ?`
	if changed == nil {
		r, err := s.db.ExecContext(ctx, insert, m.N, m.Body, m.Result, now(), sitting, judgedBy)
		if err = appended(r, err); errors.Is(err, ErrRaced) {
			var there int
			if gone := s.db.GetContext(ctx, &there, `SELECT 1 FROM sittings WHERE id = ?`, sitting); gone != nil {
				return found(gone)
			}
		}
		return err
	}
	return raced(s.inTx(ctx, func(tx *sqlx.Tx) error {
		// The sitting's row first: whoever has it keeps the others waiting. The other
		// way round each would share it for the foreign key, and none could change it.
		var by *string
		if err := tx.GetContext(ctx, &by, `SELECT remark_id FROM sittings WHERE id = ? FOR UPDATE`, sitting); err != nil {
			return found(err)
		}
		if (by == nil) != (judgedBy == nil) || by != nil && *by != *judgedBy {
			return ErrRaced
		}
		if _, err := tx.ExecContext(ctx, `UPDATE sittings SET phase = ?, attempts = ?, score = ?, percent = ?, outcome = ?, took_ms = ?, late = ? WHERE id = ?`,
			changed.Phase, changed.Attempts, changed.Score, changed.Percent, changed.Outcome, changed.TookMS, changed.Late, sitting); err != nil {
			return err
		}
		if err := retally(ctx, tx, changed.Tally); err != nil {
			return err
		}
		r, err := tx.ExecContext(ctx, insert, m.N, m.Body, m.Result, now(), sitting, judgedBy)
		if err := appended(r, err); err != nil {
			return err
		}
		if err := keepCmi5(ctx, tx, changed.Cmi5); err != nil {
			return err
		}
		return addPosts(ctx, tx, changed.Posts)
	}))
}

// appended says what came of keeping a move: where no row took it, the sitting is gone, or
// is judged by another key than the move was.
func appended(r sql.Result, err error) error {
	if err != nil {
		return raced(err)
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrRaced, err)
	}
	return nil
}

func raced(err error) error {
	if duplicate(err) {
		return ErrRaced
	}
	if gone(err) {
		return ErrNotFound // the sitting was deleted while it was played
	}
	return err
}

// Moves lists a sitting's moves in order.
func (s *Store) Moves(ctx context.Context, sitting int64) ([]Move, error) {
	list := []Move{}
	err := s.db.SelectContext(ctx, &list, `SELECT n, body, result FROM moves WHERE sitting_id = ? ORDER BY n`, sitting)
	return list, err
}

// SittingsOfRun lists the present sitting of each step of a run that was begun.
func (s *Store) SittingsOfRun(ctx context.Context, run int64) ([]Sitting, error) {
	list := []Sitting{}
	err := s.db.SelectContext(ctx, &list, sittingColumns+`WHERE s.run_id = ?
		AND s.turn = (SELECT MAX(x.turn) FROM sittings x WHERE x.run_id = s.run_id AND x.step = s.step) ORDER BY s.step`, run)
	return list, err
}

// ofRuns picks the sittings of all runs of a release, by run and step.
const (
	ofRuns = `WHERE s.release_id = ? AND s.run_id IS NOT NULL` + byRun
	byRun  = ` ORDER BY s.run_id, s.step, s.turn`
)

// SittingsOfRuns lists, for each run of a release, the last sitting of each step.
func (s *Store) SittingsOfRuns(ctx context.Context, release string) (map[int64][]Sitting, error) {
	list := []Sitting{}
	err := s.old.SelectContext(ctx, &list, sittingColumns+ofRuns, release)
	return lastOfSteps(list), err
}

// lastOfSteps sorts [ofRuns] by run, and leaves out what was restarted.
func lastOfSteps(list []Sitting) map[int64][]Sitting {
	out := map[int64][]Sitting{}
	for _, x := range list {
		of := out[*x.RunID]
		if n := len(of); n > 0 && of[n-1].Step == x.Step {
			of[n-1] = x
		} else {
			of = append(of, x)
		}
		out[*x.RunID] = of
	}
	return out
}

// SittingOfRun finds the sitting of a step of a run by its turn.
func (s *Store) SittingOfRun(ctx context.Context, run int64, step, turn int) (Sitting, error) {
	var x Sitting
	err := s.db.GetContext(ctx, &x, sittingColumns+`WHERE s.run_id = ? AND s.step = ? AND s.turn = ?`, run, step, turn)
	return x, found(err)
}

// SittingOfLearner finds the latest sitting of a roster's learner that is still known to
// be theirs.
func (s *Store) SittingOfLearner(ctx context.Context, release string, learner int64) (Sitting, error) {
	var x Sitting
	err := s.db.GetContext(ctx, &x, sittingColumns+`WHERE s.release_id = ? AND s.learner_id = ? AND s.run_id IS NULL ORDER BY s.started_at DESC, s.id DESC LIMIT 1`, release, learner)
	return x, found(err)
}

// Logged is a sitting with its moves, as they were made.
type Logged struct {
	Sitting
	Moves []Move
	// At is when each move was made.
	At []time.Time
}

// ImportRelease keeps a release that was made at another time, with sittings that were
// played elsewhere: all of it or nothing. The same request again is the same release.
func (s *Store) ImportRelease(ctx context.Context, r Release, request string, list []Logged) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		r, err := addRelease(ctx, tx, r, request)
		if err != nil || r.again {
			return err
		}
		for _, x := range list {
			x.ReleaseID = r.ID
			x.Token = NewID()
			r, err := tx.NamedExecContext(ctx, `INSERT INTO sittings
				(release_id, token, learner, semantics, seed, started_at, learner_id, limit_ms, run_id, step, turn, took_ms, phase, attempts, score, percent, outcome)
				VALUES (:release_id, :token, :learner, :semantics, :seed, :started_at, :learner_id, :limit_ms, :run_id, :step, :turn, :took_ms, :phase, :attempts, :score, :percent, :outcome)`, x.Sitting)
			if err != nil {
				return err
			}
			id, err := r.LastInsertId()
			if err != nil {
				return err
			}
			if len(x.Moves) == 0 {
				continue
			}
			type row struct {
				SittingID int64     `db:"sitting_id"`
				At        time.Time `db:"at"`
				Move
			}
			rows := make([]row, len(x.Moves))
			for i, m := range x.Moves {
				rows[i] = row{id, x.At[i], m}
			}
			if _, err := tx.NamedExecContext(ctx, `INSERT INTO moves (sitting_id, n, body, result, at) VALUES (:sitting_id, :n, :body, :result, :at)`, rows); err != nil {
				return err
			}
		}
		return nil
	})
}
