package store

import (
	"context"
	"crypto/rand"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Roster is learners who are given a release together.
type Roster struct {
	ID          string    `db:"id"`
	WorkspaceID string    `db:"workspace_id"`
	Name        string    `db:"name"`
	MadeAt      time.Time `db:"made_at"`
	Rev         int       `db:"rev"` // counts its changes
	Learners    int       `db:"learners"`
	MostTime    int       `db:"most_time"` // the largest TimePercent of its learners
}

// Learner is one of a roster, with the code by which they enter. TimePercent is how
// much of a time limit is theirs: 100 is as it is.
type Learner struct {
	ID          int64  `db:"id"`
	RosterID    string `db:"roster_id"`
	Name        string `db:"name"`
	Code        string `db:"code"`
	TimePercent int    `db:"time_percent"`
}

// newCode makes a code of 8 letters and digits that are not taken for each other:
// close to 40 random bits, and trying is slowed down.
func newCode() string {
	const letters = "23456789abcdefghjkmnpqrstuvwxyz"
	code := make([]byte, 0, 8)
	for b := make([]byte, 1); len(code) < cap(code); {
		_, _ = rand.Read(b) // never fails
		if i := int(b[0] & 31); i < len(letters) {
			code = append(code, letters[i])
		}
	}
	return string(code)
}

const rosterColumns = `SELECT r.id, r.workspace_id, r.name, r.made_at, r.rev,
	(SELECT COUNT(*) FROM learners l WHERE l.roster_id = r.id) AS learners,
	(SELECT COALESCE(MAX(l.time_percent), 100) FROM learners l WHERE l.roster_id = r.id) AS most_time FROM rosters r `

// Rosters lists a workspace's rosters by name.
func (w Workspace) Rosters(ctx context.Context) ([]Roster, error) {
	list := []Roster{}
	err := w.s.db.SelectContext(ctx, &list, rosterColumns+`WHERE r.workspace_id = ? ORDER BY r.name, r.id`, w.id)
	return list, err
}

// Roster finds one in a workspace.
func (w Workspace) Roster(ctx context.Context, id string) (Roster, error) {
	var r Roster
	err := w.s.db.GetContext(ctx, &r, rosterColumns+`WHERE r.workspace_id = ? AND r.id = ?`, w.id, id)
	return r, found(err)
}

// Learners lists those of a roster by name.
func (s *Store) Learners(ctx context.Context, roster string) ([]Learner, error) {
	list := []Learner{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, roster_id, name, code, time_percent FROM learners WHERE roster_id = ? ORDER BY name, id`, roster)
	return list, err
}

// LearnerByCode finds who enters by a code.
func (s *Store) LearnerByCode(ctx context.Context, roster, code string) (Learner, error) {
	var l Learner
	err := s.db.GetContext(ctx, &l, `SELECT id, roster_id, name, code, time_percent FROM learners WHERE roster_id = ? AND code = ?`, roster, code)
	return l, found(err)
}

// LearnerByID finds one of a roster.
func (s *Store) LearnerByID(ctx context.Context, id int64) (Learner, error) {
	var l Learner
	err := s.db.GetContext(ctx, &l, `SELECT id, roster_id, name, code, time_percent FROM learners WHERE id = ?`, id)
	return l, found(err)
}

// AddRoster keeps a new roster, each learner with a code of their own.
func (w Workspace) AddRoster(ctx context.Context, name string, learners []Learner) (Roster, error) {
	r := Roster{ID: NewID(), WorkspaceID: w.id, Name: name, MadeAt: now(), Learners: len(learners)}
	err := w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.NamedExecContext(ctx, `INSERT INTO rosters (id, workspace_id, name, made_at) VALUES (:id, :workspace_id, :name, :made_at)`, r); err != nil {
			return err
		}
		return addLearners(ctx, tx, r.ID, learners)
	})
	return r, err
}

func addLearners(ctx context.Context, tx *sqlx.Tx, roster string, learners []Learner) error {
	for _, l := range learners {
		l.RosterID = roster
		for try := 0; ; try++ {
			l.Code = newCode()
			_, err := tx.NamedExecContext(ctx, `INSERT INTO learners (roster_id, name, code, time_percent) VALUES (:roster_id, :name, :code, :time_percent)`, l)
			if err == nil {
				break
			}
			if !duplicate(err) || try == 3 {
				return err
			}
		}
	}
	return nil
}

// SaveRoster gives a roster another name and other learners: those with an id are
// changed and keep their code, those without are added, and the rest are taken away.
// Their sittings stay. basedOn is the Rev that was changed; where another is there by
// now, nothing is: ErrNewer. 0 changes whatever is there.
func (w Workspace) SaveRoster(ctx context.Context, id string, basedOn int, name string, learners []Learner) error {
	if _, err := w.Roster(ctx, id); err != nil {
		return err
	}
	return w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		r, err := tx.ExecContext(ctx, `UPDATE rosters SET name = ?, rev = rev + 1 WHERE id = ? AND (? = 0 OR rev = ?)`, name, id, basedOn, basedOn)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); err != nil || n == 0 {
			return errors.Join(ErrNewer, err)
		}
		keep := []int64{0}
		var added []Learner
		for _, l := range learners {
			if l.ID == 0 {
				added = append(added, l)
				continue
			}
			keep = append(keep, l.ID)
			if _, err := tx.ExecContext(ctx, `UPDATE learners SET name = ?, time_percent = ? WHERE id = ? AND roster_id = ?`, l.Name, l.TimePercent, l.ID, id); err != nil {
				return err
			}
		}
		query, args, err := sqlx.In(`DELETE FROM learners WHERE roster_id = ? AND id NOT IN (?)`, id, keep)
		if err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, query, args...); err != nil {
			return err
		}
		return addLearners(ctx, tx, id, added)
	})
}

// ErrUsed says that a release still lets in by a roster.
var ErrUsed = errors.New("a release still lets in by it")

// DeleteRoster takes a roster away. One by which a release lets in stays: ErrUsed.
func (w Workspace) DeleteRoster(ctx context.Context, id string) error {
	if _, err := w.Roster(ctx, id); err != nil {
		return err
	}
	return w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		var used int
		if err := tx.GetContext(ctx, &used, `SELECT COUNT(*) FROM releases WHERE roster_id = ? FOR UPDATE`, id); err != nil {
			return err
		}
		if used > 0 {
			return ErrUsed
		}
		if _, err := tx.ExecContext(ctx, `DELETE FROM learners WHERE roster_id = ?`, id); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `DELETE FROM rosters WHERE id = ?`, id)
		return err
	})
}
