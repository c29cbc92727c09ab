package store

import (
	"context"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Remark is a release's finished sittings, or those of one step of a series, scored again
// under a corrected document. It
// is worked out first, which changes nothing, and then applied. What each sitting scored
// before is kept with it, so that it can be taken back.
type Remark struct {
	ID         string     `db:"id"`
	ReleaseID  string     `db:"release_id"`
	Step       *int       `db:"step"` // of a series
	Document   string     `db:"document"`
	Revision   int        `db:"revision"` // of the draft that the document was
	MadeAt     time.Time  `db:"made_at"`
	MadeBy     string     `db:"made_by"`
	MadeByName string     `db:"made_by_name"`
	AppliedAt  *time.Time `db:"applied_at"`
	RevertedAt *time.Time `db:"reverted_at"`
	NeverLower bool       `db:"never_lower"` // sittings that would score less keep what they have
}

// Effect is what a re-mark does in all.
type Effect struct {
	Sittings int `db:"sittings"` // scored again
	Better   int `db:"better"`   // with more
	Worse    int `db:"worse"`    // with less
}

// Remarked is what one sitting scores by a re-mark.
type Remarked struct {
	Sitting  // as it was
	Is       Result
	Gone     int // moves that come out differently
	TallyNow Tally
}

// Rescored is one sitting of a re-mark with another score than before.
type Rescored struct {
	SittingID  int64  `db:"sitting_id"`
	Learner    string `db:"learner"`
	WasScore   string `db:"was_score"`
	WasPercent string `db:"was_percent"`
	Score      string `db:"score"`
	Percent    string `db:"percent"`
	Gone       int    `db:"gone"`
}

const remarkColumns = `SELECT k.id, k.release_id, k.step, k.document, k.revision, k.made_at, k.made_by, k.applied_at, k.reverted_at, k.never_lower,
	COALESCE((SELECT name FROM accounts WHERE id = k.made_by), '') AS made_by_name FROM remarks k `

// standing picks the re-mark whose document counts: the latest that was not taken back.
const standing = `WHERE k.release_id = ? AND k.step <=> ? AND k.applied_at IS NOT NULL AND k.reverted_at IS NULL ORDER BY k.applied_at DESC, k.id LIMIT 1`

// Remarks lists those of what was played that were applied, the latest first.
func (s *Store) Remarks(ctx context.Context, p Played) ([]Remark, error) {
	list := []Remark{}
	err := s.db.SelectContext(ctx, &list, remarkColumns+`WHERE k.release_id = ? AND k.step <=> ? AND k.applied_at IS NOT NULL ORDER BY k.applied_at DESC, k.id`, p.release, p.Step)
	return list, err
}

// Remark finds one of a release that is in the workspace.
func (w Workspace) Remark(ctx context.Context, release, id string) (Remark, error) {
	if _, err := w.Release(ctx, release); err != nil {
		return Remark{}, err
	}
	return w.s.RemarkOf(ctx, release, id)
}

// RemarkOf finds the one by which a sitting of a release is judged.
func (s *Store) RemarkOf(ctx context.Context, release, id string) (Remark, error) {
	var k Remark
	err := s.db.GetContext(ctx, &k, remarkColumns+`WHERE k.release_id = ? AND k.id = ?`, release, id)
	return k, found(err)
}

// RemarkInForce finds the one whose document counts. ErrNotFound: the release's own.
func (s *Store) RemarkInForce(ctx context.Context, p Played) (Remark, error) {
	var k Remark
	err := s.db.GetContext(ctx, &k, remarkColumns+standing, p.release, p.Step)
	return k, found(err)
}

// NewRemark begins one; nothing is scored by it yet. Those that the same person began
// and did not apply are dropped, and all of a day ago.
func (s *Store) NewRemark(ctx context.Context, p Played, account, document string, revision int) (Remark, error) {
	k := Remark{ID: NewID(), ReleaseID: p.release, Step: p.Step, Document: document, Revision: revision, MadeAt: now(), MadeBy: account}
	old := []string{}
	if err := s.db.SelectContext(ctx, &old, `SELECT id FROM remarks WHERE release_id = ? AND applied_at IS NULL AND (made_by = ? OR made_at < ?)`,
		p.release, account, now().Add(-24*time.Hour)); err != nil {
		return k, err
	}
	for _, id := range old {
		if err := s.DropRemark(ctx, p.release, id); err != nil && !errors.Is(err, ErrNotFound) {
			return k, err
		}
	}
	_, err := s.db.NamedExecContext(ctx, `INSERT INTO remarks (id, release_id, step, document, revision, made_at, made_by, reverted_at)
		VALUES (:id, :release_id, :step, :document, :revision, :made_at, :made_by, :made_at)`, k)
	return k, err
}

// DropRemark forgets one that was not applied.
func (s *Store) DropRemark(ctx context.Context, release, id string) error {
	r, err := s.db.ExecContext(ctx, `UPDATE remarks SET doing = '`+dropping+`' WHERE release_id = ? AND id = ? AND applied_at IS NULL`, release, id)
	if err := changedOne(r, err); err != nil && !errors.Is(err, ErrNotFound) {
		return err
	}
	var k string
	if err := s.db.GetContext(ctx, &k, `SELECT id FROM remarks WHERE release_id = ? AND id = ? AND doing = '`+dropping+`'`, release, id); err != nil {
		return found(err)
	}
	if err := errors.Join(s.dropSome(ctx, `tallies WHERE release_id = ? AND stage = ?`, release, id), s.dropSome(ctx, `remarked WHERE remark_id = ?`, id)); err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, `DELETE FROM remarks WHERE id = ?`, id)
	return err
}

// AddRemarked keeps what some sittings score by a re-mark.
func (s *Store) AddRemarked(ctx context.Context, id string, list []Remarked) error {
	if len(list) == 0 {
		return nil
	}
	type row struct {
		RemarkID  string  `db:"remark_id"`
		SittingID int64   `db:"sitting_id"`
		WasRemark *string `db:"was_remark"`
		Result
		WasAttempts int    `db:"was_attempts"`
		WasScore    string `db:"was_score"`
		WasPercent  string `db:"was_percent"`
		WasOutcome  string `db:"was_outcome"`
		Gone        int    `db:"gone"`
	}
	rows, tallies := make([]row, len(list)), make([]Tally, len(list))
	for i, x := range list {
		rows[i] = row{RemarkID: id, SittingID: x.ID, WasRemark: x.RemarkID, Result: x.Is, WasAttempts: x.Attempts, WasScore: x.Score,
			WasPercent: x.Percent, WasOutcome: x.Outcome, Gone: x.Gone}
		tallies[i] = x.TallyNow
	}
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.NamedExecContext(ctx, `REPLACE INTO remarked (remark_id, sitting_id, was_remark, was_attempts, was_score, was_percent, was_outcome, attempts, score, percent, outcome, gone)
			VALUES (:remark_id, :sitting_id, :was_remark, :was_attempts, :was_score, :was_percent, :was_outcome, :attempts, :score, :percent, :outcome, :gone)`, rows); err != nil {
			return err
		}
		return keepTallies(ctx, tx, tallies)
	})
}

// ToRemark lists the finished sittings that a re-mark has not scored as they are now: of a
// step of a series all of them, including those that were restarted.
func (s *Store) ToRemark(ctx context.Context, k Remark) ([]int64, error) {
	list := []int64{}
	err := s.db.SelectContext(ctx, &list, `SELECT s.id FROM sittings s LEFT JOIN remarked d ON d.remark_id = ? AND d.sitting_id = s.id
		WHERE s.release_id = ? AND (s.run_id IS NULL AND ? IS NULL OR s.run_id IS NOT NULL AND s.step = ?) AND s.phase = 'done' AND (d.sitting_id IS NULL OR d.was_score <> s.score
		OR d.was_attempts <> s.attempts OR NOT d.was_remark <=> s.remark_id) ORDER BY s.id`, k.ID, k.ReleaseID, k.Step, k.Step)
	return list, err
}

// RemarkEffect counts what a re-mark does.
func (s *Store) RemarkEffect(ctx context.Context, id string) (Effect, error) {
	var e Effect
	err := s.db.GetContext(ctx, &e, `SELECT COUNT(*) AS sittings, COALESCE(SUM(score > was_score), 0) AS better,
		COALESCE(SUM(score < was_score), 0) AS worse FROM remarked WHERE remark_id = ?`, id)
	return e, err
}

// Rescored lists the sittings that a re-mark scores differently, the most changed
// first; at most so many, and all where most is 0.
func (s *Store) Rescored(ctx context.Context, id string, most int) ([]Rescored, error) {
	list := []Rescored{}
	if most == 0 {
		most = 1 << 40
	}
	err := s.db.SelectContext(ctx, &list, `SELECT d.sitting_id, s.learner, d.was_score, d.was_percent, d.score, d.percent, d.gone
		FROM remarked d JOIN sittings s ON s.id = d.sitting_id WHERE d.remark_id = ? AND d.score <> d.was_score
		ORDER BY ABS(d.score - d.was_score) DESC, d.sitting_id LIMIT ?`, id, most)
	return list, err
}
