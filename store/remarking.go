package store

import (
	"context"
	"database/sql"
	"errors"

	"github.com/jmoiron/sqlx"
)

// ErrNotLatest says that another re-mark has been made since.
var ErrNotLatest = errors.New("another re-mark has been made since")

// Totals says what a run comes to that has the result of its series, from the sittings of
// its steps.
type Totals func(Run, []Sitting) (score, percent string, err error)

// What is being done to the sittings of a re-mark.
const (
	applying  = "apply"
	reverting = "revert"
	dropping  = "drop"
)

// ApplyRemark scores the sittings by it, and with them the runs that they are part of. One
// that has changed since it was scored keeps what it has, and so does, with neverLower, one
// that would score less. From its beginning the corrected document counts; where it is
// interrupted, [Store.CarryOnRemark] does the rest.
func (s *Store) ApplyRemark(ctx context.Context, k Remark, neverLower bool, totals Totals) error {
	r, err := s.db.ExecContext(ctx, `UPDATE remarks SET applied_at = ?, reverted_at = NULL, never_lower = ?, doing = ?, done_to = 0
		WHERE release_id = ? AND id = ? AND applied_at IS NULL AND doing = ''`, now(), neverLower, applying, k.ReleaseID, k.ID)
	if err := changedOne(r, err); err != nil {
		return err
	}
	return s.CarryOnRemark(ctx, k, totals)
}

// RevertRemark gives the sittings back what they scored before, as [Store.ApplyRemark] scores
// them. Only the latest one in force can be reverted: ErrNotLatest. A sitting that has been
// restarted since keeps its score, for it was played under the corrected document.
func (s *Store) RevertRemark(ctx context.Context, k Remark, totals Totals) error {
	if err := s.CarryOnRemark(ctx, k, totals); err != nil {
		return err
	}
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		var latest string
		if err := tx.GetContext(ctx, &latest, `SELECT k.id FROM remarks k `+standing+` FOR UPDATE`, k.ReleaseID, k.Step); err != nil {
			return found(err)
		}
		if latest != k.ID {
			return ErrNotLatest
		}
		_, err := tx.ExecContext(ctx, `UPDATE remarks SET reverted_at = ?, doing = ?, done_to = 0 WHERE id = ?`, now(), reverting, k.ID)
		return err
	})
	if err != nil {
		return err
	}
	return s.CarryOnRemark(ctx, k, totals)
}

// Unfinished is a re-mark that is still being applied or reverted, or was when its server died.
type Unfinished struct {
	Remark
	Link string `db:"link"` // of their releases
}

// UnfinishedRemarks lists them.
func (s *Store) UnfinishedRemarks(ctx context.Context) (list []Unfinished, err error) {
	err = s.db.SelectContext(ctx, &list, `SELECT k.id, k.release_id, k.step, r.link FROM remarks k JOIN releases r ON r.id = k.release_id
		WHERE k.doing IN (?, ?)`, applying, reverting)
	return list, err
}

// atATime is how many sittings are scored again in one transaction.
const atATime = 500

// CarryOnRemark does what is left to do to the sittings of a re-mark, some hundred in a
// transaction: several may do it at once, and whoever is interrupted loses nothing.
func (s *Store) CarryOnRemark(ctx context.Context, k Remark, totals Totals) error {
	for more := true; more; {
		err := s.inTx(ctx, func(tx *sqlx.Tx) (err error) {
			more, err = carryOn(ctx, tx, k, totals)
			return err
		})
		if err != nil {
			return err
		}
	}
	return nil
}

func carryOn(ctx context.Context, tx *sqlx.Tx, k Remark, totals Totals) (more bool, err error) {
	var at struct {
		Doing string `db:"doing"`
		To    int64  `db:"done_to"`
		Never bool   `db:"never_lower"`
	}
	if err := tx.GetContext(ctx, &at, `SELECT doing, done_to, never_lower FROM remarks WHERE id = ? FOR UPDATE`, k.ID); errors.Is(err, sql.ErrNoRows) || err == nil && at.Doing != applying && at.Doing != reverting {
		return false, nil
	} else if err != nil {
		return false, err
	}
	ids := []int64{}
	if err := tx.SelectContext(ctx, &ids, `SELECT sitting_id FROM remarked WHERE remark_id = ? AND sitting_id > ? ORDER BY sitting_id LIMIT ?`, k.ID, at.To, atATime); err != nil {
		return false, err
	}
	if len(ids) == 0 {
		_, err := tx.ExecContext(ctx, `UPDATE remarks SET doing = '' WHERE id = ?`, k.ID)
		return false, err
	}
	which := ` AND s.id IN (` + numbers(ids) + `)`
	if at.Doing == applying {
		_, err = tx.ExecContext(ctx, `UPDATE sittings s JOIN remarked d ON d.sitting_id = s.id AND d.remark_id = ?
			SET s.remark_id = ?, s.attempts = d.attempts, s.score = d.score, s.percent = d.percent, s.outcome = d.outcome
			WHERE s.phase = 'done' AND s.score = d.was_score AND s.attempts = d.was_attempts AND d.was_remark <=> s.remark_id
			AND (NOT ? OR d.score >= d.was_score)`+which, k.ID, k.ID, at.Never)
	} else {
		_, err = tx.ExecContext(ctx, `UPDATE sittings s JOIN remarked d ON d.sitting_id = s.id AND d.remark_id = ?
			SET s.remark_id = d.was_remark, s.attempts = d.was_attempts, s.score = d.was_score, s.percent = d.was_percent, s.outcome = d.was_outcome
			WHERE s.remark_id = ? AND s.score = d.score AND s.attempts = d.attempts`+which, k.ID, k.ID)
	}
	if err == nil && k.Step != nil {
		err = sumUp(ctx, tx, ids, totals)
	}
	if err != nil {
		return false, err
	}
	_, err = tx.ExecContext(ctx, `UPDATE remarks SET done_to = ? WHERE id = ?`, ids[len(ids)-1], k.ID)
	return true, err
}

// sumUp adds up the runs of sittings that a re-mark has scored, those that have come to a
// result. All of them count as moved on: a learner who comes to the result at the same time
// adds up again.
func sumUp(ctx context.Context, tx *sqlx.Tx, sittings []int64, totals Totals) error {
	of := `(SELECT x.run_id FROM sittings x WHERE x.id IN (` + numbers(sittings) + `))`
	runs, list := []Run{}, []Sitting{}
	if err := tx.SelectContext(ctx, &runs, runColumns+`WHERE id IN `+of+` ORDER BY id FOR UPDATE`); err != nil {
		return err
	}
	if err := tx.SelectContext(ctx, &list, sittingColumns+`WHERE s.run_id IN `+of+byRun); err != nil {
		return err
	}
	last := lastOfSteps(list)
	for _, r := range runs {
		score, percent := r.Score, r.Percent
		if r.Reached >= r.End {
			var err error
			if score, percent, err = totals(r, last[r.ID]); err != nil {
				return err
			}
		}
		if _, err := tx.ExecContext(ctx, `UPDATE runs SET score = ?, percent = ?, rev = rev + 1 WHERE id = ?`, score, percent, r.ID); err != nil {
			return err
		}
	}
	return nil
}
