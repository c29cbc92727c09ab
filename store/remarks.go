package store

import (
	"context"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Remark is a release's finished sittings scored again under a corrected document.
// What each scored before is kept with it, so that it can be taken back.
type Remark struct {
	ID         string     `db:"id"`
	ReleaseID  string     `db:"release_id"`
	Document   string     `db:"document"`
	MadeAt     time.Time  `db:"made_at"`
	MadeBy     string     `db:"made_by"`
	MadeByName string     `db:"made_by_name"`
	RevertedAt *time.Time `db:"reverted_at"`
	Sittings   int        `db:"sittings"` // scored again
	Changed    int        `db:"changed"`  // with another score
}

// Remarked is what one sitting scores by a re-mark.
type Remarked struct {
	SittingID int64
	Standing
}

const remarkColumns = `SELECT k.id, k.release_id, k.document, k.made_at, k.made_by, k.reverted_at,
	COALESCE((SELECT name FROM accounts WHERE id = k.made_by), '') AS made_by_name,
	(SELECT COUNT(*) FROM remarked d WHERE d.remark_id = k.id) AS sittings,
	(SELECT COUNT(*) FROM remarked d WHERE d.remark_id = k.id AND d.score <> d.was_score) AS changed
	FROM remarks k `

// Remarks lists those of a release, the latest first.
func (s *Store) Remarks(ctx context.Context, release string) ([]Remark, error) {
	list := []Remark{}
	err := s.db.SelectContext(ctx, &list, remarkColumns+`WHERE k.release_id = ? ORDER BY k.made_at DESC, k.id`, release)
	return list, err
}

// Remark finds one of a release.
func (s *Store) Remark(ctx context.Context, release, id string) (Remark, error) {
	var k Remark
	err := s.db.GetContext(ctx, &k, remarkColumns+`WHERE k.release_id = ? AND k.id = ?`, release, id)
	return k, found(err)
}

// AddRemark scores sittings again: all of them or none.
func (s *Store) AddRemark(ctx context.Context, release, account, document string, list []Remarked) (Remark, error) {
	k := Remark{ID: NewID(), ReleaseID: release, Document: document, MadeAt: now(), MadeBy: account, Sittings: len(list)}
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.NamedExecContext(ctx, `INSERT INTO remarks (id, release_id, document, made_at, made_by) VALUES (:id, :release_id, :document, :made_at, :made_by)`, k); err != nil {
			return err
		}
		for _, x := range list {
			if _, err := tx.ExecContext(ctx, `INSERT INTO remarked (remark_id, sitting_id, was_remark, was_attempts, was_score, was_percent, was_outcome, attempts, score, percent, outcome)
				SELECT ?, id, remark_id, attempts, score, percent, outcome, ?, ?, ?, ? FROM sittings WHERE id = ? AND release_id = ?`,
				k.ID, x.Attempts, x.Score, x.Percent, x.Outcome, x.SittingID, release); err != nil {
				return err
			}
		}
		_, err := tx.ExecContext(ctx, `UPDATE sittings s JOIN remarked d ON d.sitting_id = s.id AND d.remark_id = ?
			SET s.remark_id = ?, s.attempts = d.attempts, s.score = d.score, s.percent = d.percent, s.outcome = d.outcome`, k.ID, k.ID)
		return err
	})
	return k, err
}

// ErrNotLatest says that another re-mark has been made since.
var ErrNotLatest = errors.New("another re-mark has been made since")

// RevertRemark gives the sittings back what they scored before. Only the latest that
// stands can be taken back: ErrNotLatest.
func (s *Store) RevertRemark(ctx context.Context, release, id string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		var latest string
		err := tx.GetContext(ctx, &latest, `SELECT id FROM remarks WHERE release_id = ? AND reverted_at IS NULL ORDER BY made_at DESC, id LIMIT 1 FOR UPDATE`, release)
		if err != nil {
			return found(err)
		}
		if latest != id {
			return ErrNotLatest
		}
		if _, err := tx.ExecContext(ctx, `UPDATE sittings s JOIN remarked d ON d.sitting_id = s.id AND d.remark_id = ?
			SET s.remark_id = d.was_remark, s.attempts = d.was_attempts, s.score = d.was_score, s.percent = d.was_percent, s.outcome = d.was_outcome`, id); err != nil {
			return err
		}
		_, err = tx.ExecContext(ctx, `UPDATE remarks SET reverted_at = ? WHERE id = ?`, now(), id)
		return err
	})
}
