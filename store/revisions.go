package store

import (
	"context"
	"time"
)

// Revision is an activity as it was saved at a time. Document is empty in a list.
type Revision struct {
	Revision    int       `db:"revision"`
	SavedAt     time.Time `db:"saved_at"`
	SavedBy     string    `db:"saved_by"`
	SavedByName string    `db:"saved_by_name"`
	Name        string    `db:"name"` // "" for one that nobody named
	Document    string    `db:"document"`
}

const revisionColumns = `v.revision, v.saved_at, v.saved_by, COALESCE(v.name, '') AS name,
	COALESCE((SELECT name FROM accounts WHERE id = v.saved_by), '') AS saved_by_name`

// Revisions lists an activity's revisions before one (0: all) without their documents, the
// newest first.
func (w Workspace) Revisions(ctx context.Context, id string, before int) ([]Revision, error) {
	list := []Revision{}
	err := w.s.db.SelectContext(ctx, &list, `SELECT `+revisionColumns+`, '' AS document
		FROM revisions v JOIN activities a ON a.id = v.activity_id
		WHERE a.workspace_id = ? AND a.id = ? AND (? = 0 OR v.revision < ?) ORDER BY v.revision DESC`, w.id, id, before, before)
	return list, err
}

// Revision finds one with its document.
func (w Workspace) Revision(ctx context.Context, id string, revision int) (Revision, error) {
	var v Revision
	err := w.s.db.GetContext(ctx, &v, `SELECT `+revisionColumns+`, v.document
		FROM revisions v JOIN activities a ON a.id = v.activity_id
		WHERE a.workspace_id = ? AND a.id = ? AND v.revision = ?`, w.id, id, revision)
	return v, found(err)
}

// NameRevision gives a revision a name, with which it is kept for good; "" takes it away.
func (w Workspace) NameRevision(ctx context.Context, id string, revision int, name string) error {
	if _, err := w.Revision(ctx, id, revision); err != nil {
		return err
	}
	_, err := w.s.db.ExecContext(ctx, `UPDATE revisions SET name = NULLIF(?, '') WHERE activity_id = ? AND revision = ?`, name, id, revision)
	return err
}

// Of revisions, each is kept for a day, then the last of every hour, and after a month the
// last of every day.
const (
	everyRevision  = 24 * time.Hour
	hourlyRevision = 30 * 24 * time.Hour
)

// ThinRevisions takes away, so many at most, revisions that are not the last of their hour
// or day, and says how many went. The first and the newest of an activity stay, what has a
// name, and what was released. Cost: a look through an index of revisions.
func (s *Store) ThinRevisions(ctx context.Context, most int) (int, error) {
	t := now()
	list := []struct {
		Activity string `db:"activity_id"`
		Revision int    `db:"revision"`
	}{}
	if err := s.db.SelectContext(ctx, &list, `SELECT x.activity_id, x.revision FROM (
			SELECT v.activity_id, v.revision, v.saved_at, ROW_NUMBER() OVER (
				PARTITION BY v.activity_id, IF(v.saved_at > ?, DATE_FORMAT(v.saved_at, '%Y-%m-%d %H'), DATE(v.saved_at)) ORDER BY v.revision DESC) AS nth
			FROM revisions v WHERE v.saved_at < ? AND v.name IS NULL AND v.revision > 1
		) x JOIN activities a ON a.id = x.activity_id
		WHERE x.nth > 1 AND x.revision < a.revision AND NOT EXISTS (
			SELECT 1 FROM releases r WHERE r.activity_id = x.activity_id AND r.released_at >= x.saved_at
			AND r.released_at < (SELECT MIN(n.saved_at) FROM revisions n WHERE n.activity_id = x.activity_id AND n.revision > x.revision))
		LIMIT ?`, t.Add(-hourlyRevision), t.Add(-everyRevision), most); err != nil {
		return 0, err
	}
	n := 0
	for _, x := range list {
		r, err := s.db.ExecContext(ctx, `DELETE FROM revisions WHERE activity_id = ? AND revision = ? AND name IS NULL`, x.Activity, x.Revision)
		if err != nil {
			return n, err
		}
		gone, err := r.RowsAffected()
		if err != nil {
			return n, err
		}
		n += int(gone)
	}
	return n, nil
}
