package store

import (
	"context"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Activity is a draft as it was last saved. Document is its JSON. A series is kept
// in the same way; Form tells them apart.
type Activity struct {
	Form        string     `db:"form"`
	ID          string     `db:"id"`
	WorkspaceID string     `db:"workspace_id"`
	Title       string     `db:"title"`
	Revision    int        `db:"revision"`
	Document    string     `db:"document"`
	CreatedAt   time.Time  `db:"created_at"`
	SavedAt     time.Time  `db:"saved_at"`
	SavedBy     string     `db:"saved_by"`
	SavedByName string     `db:"saved_by_name"`
	DeletedAt   *time.Time `db:"deleted_at"`
	Releases    int        `db:"releases"`
	Sittings    int        `db:"sittings"`
	// SaveID is the id that a browser gave to the save that made this revision.
	SaveID *string `db:"save_id"`
}

// What a draft, or a release, can be.
const (
	AnActivity = "activity"
	ASeries    = "series"
)

// ErrNewer says that another revision has been saved in between.
var ErrNewer = errors.New("another revision has been saved in between")

const activityColumns = `SELECT a.form, a.id, a.workspace_id, a.title, a.revision, a.document, a.created_at, a.saved_at, a.saved_by, a.deleted_at, a.save_id,
	COALESCE((SELECT name FROM accounts WHERE id = a.saved_by), '') AS saved_by_name,
	(SELECT COUNT(*) FROM releases r WHERE r.activity_id = a.id) AS releases,
	(SELECT COUNT(*) FROM sittings s JOIN releases r ON r.id = s.release_id WHERE r.activity_id = a.id AND s.run_id IS NULL)
	+ (SELECT COUNT(*) FROM runs s JOIN releases r ON r.id = s.release_id WHERE r.activity_id = a.id) AS sittings
	FROM activities a `

// Activities lists a workspace's activities, or its series, the last saved first.
func (w Workspace) Activities(ctx context.Context, form string) ([]Activity, error) {
	list := []Activity{}
	err := w.s.db.SelectContext(ctx, &list, activityColumns+`WHERE a.workspace_id = ? AND a.form = ? AND a.deleted_at IS NULL ORDER BY a.saved_at DESC, a.id DESC`, w.id, form)
	return list, err
}

// Everything lists all that a workspace has, with what was deleted and is still there.
func (w Workspace) Everything(ctx context.Context) ([]Activity, error) {
	list := []Activity{}
	err := w.s.db.SelectContext(ctx, &list, activityColumns+`WHERE a.workspace_id = ? ORDER BY a.saved_at DESC, a.id DESC`, w.id)
	return list, err
}

// Activity finds one in a workspace.
func (w Workspace) Activity(ctx context.Context, id string) (Activity, error) {
	return w.draft(ctx, AnActivity, id)
}

// Series finds one in a workspace.
func (w Workspace) Series(ctx context.Context, id string) (Activity, error) {
	return w.draft(ctx, ASeries, id)
}

func (w Workspace) draft(ctx context.Context, form, id string) (Activity, error) {
	var a Activity
	err := w.s.db.GetContext(ctx, &a, activityColumns+`WHERE a.workspace_id = ? AND a.form = ? AND a.id = ? AND a.deleted_at IS NULL`, w.id, form, id)
	return a, found(err)
}

// AddActivity keeps a new activity as its revision 1, and its media with it: all
// or nothing.
func (w Workspace) AddActivity(ctx context.Context, account, title, document string, media []Medium) (Activity, error) {
	return w.add(ctx, account, AnActivity, title, document, media)
}

// AddSeries keeps a new series, as AddActivity does an activity.
func (w Workspace) AddSeries(ctx context.Context, account, title, document string, media []Medium) (Activity, error) {
	return w.add(ctx, account, ASeries, title, document, media)
}

func (w Workspace) add(ctx context.Context, account, form, title, document string, media []Medium) (Activity, error) {
	list, err := w.AddAll(ctx, account, []Fresh{{form, NewID(), title, document}}, media)
	if err != nil {
		return Activity{}, err
	}
	return list[0], nil
}

// Fresh is an activity or a series that is new, under an id from [NewID].
type Fresh struct{ Form, ID, Title, Document string }

// AddAll keeps several new ones with their media: all of them, or none.
func (w Workspace) AddAll(ctx context.Context, account string, fresh []Fresh, media []Medium) ([]Activity, error) {
	var list []Activity
	for _, x := range fresh {
		list = append(list, Activity{Form: x.Form, ID: x.ID, WorkspaceID: w.id, Title: x.Title, Revision: 1, Document: x.Document,
			CreatedAt: now(), SavedAt: now(), SavedBy: account})
	}
	err := w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		for _, m := range media {
			if err := addMedium(ctx, tx, w.id, m); err != nil {
				return err
			}
		}
		for _, a := range list {
			if _, err := tx.NamedExecContext(ctx, `INSERT INTO activities (form, id, workspace_id, title, revision, document, created_at, saved_at, saved_by)
				VALUES (:form, :id, :workspace_id, :title, :revision, :document, :created_at, :saved_at, :saved_by)`, a); err != nil {
				return err
			}
			if err := addRevision(ctx, tx, a); err != nil {
				return err
			}
		}
		return nil
	})
	return list, err
}

func addRevision(ctx context.Context, tx *sqlx.Tx, a Activity) error {
	_, err := tx.NamedExecContext(ctx, `INSERT INTO revisions (activity_id, revision, document, saved_at, saved_by)
		VALUES (:id, :revision, :document, :saved_at, :saved_by)`, a)
	return err
}

// SaveActivity saves a draft that was made from the revision basedOn. Where a
// newer one is there, nothing is saved: ErrNewer, with the newer one, whose SaveID says
// to a browser whether it was its own. saveID may be empty.
func (w Workspace) SaveActivity(ctx context.Context, account, id, saveID string, basedOn int, title, document string) (Activity, error) {
	return w.save(ctx, account, AnActivity, id, saveID, basedOn, title, document)
}

// SaveSeries saves a series, as SaveActivity does an activity.
func (w Workspace) SaveSeries(ctx context.Context, account, id, saveID string, basedOn int, title, document string) (Activity, error) {
	return w.save(ctx, account, ASeries, id, saveID, basedOn, title, document)
}

func (w Workspace) save(ctx context.Context, account, form, id, saveID string, basedOn int, title, document string) (Activity, error) {
	a := Activity{ID: id, Title: title, Document: document, SavedAt: now(), SavedBy: account, Revision: basedOn + 1}
	err := w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		r, err := tx.ExecContext(ctx, `UPDATE activities SET title = ?, document = ?, revision = ?, saved_at = ?, saved_by = ?, save_id = NULLIF(?, '')
			WHERE id = ? AND workspace_id = ? AND form = ? AND revision = ? AND deleted_at IS NULL`, title, document, a.Revision, a.SavedAt, account, saveID, id, w.id, form, basedOn)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); err != nil || n == 0 {
			return errors.Join(ErrNewer, err)
		}
		return addRevision(ctx, tx, a)
	})
	if errors.Is(err, ErrNewer) {
		newer, err := w.draft(ctx, form, id)
		if err != nil {
			return Activity{}, err
		}
		return newer, ErrNewer
	}
	return a, err
}

// KeptFor is how long a deleted activity can be brought back.
const KeptFor = 30 * 24 * time.Hour

// DeleteActivity takes an activity off the shelf. Its releases go on, and it can be
// brought back for [KeptFor].
func (w Workspace) DeleteActivity(ctx context.Context, id string) error {
	at := now()
	return w.mark(ctx, id, &at)
}

// RestoreActivity brings a deleted activity back.
func (w Workspace) RestoreActivity(ctx context.Context, id string) error {
	return w.mark(ctx, id, nil)
}

func (w Workspace) mark(ctx context.Context, id string, deleted *time.Time) error {
	r, err := w.s.db.ExecContext(ctx, `UPDATE activities SET deleted_at = ?
		WHERE id = ? AND workspace_id = ? AND (deleted_at IS NULL) <> (? IS NULL)`, deleted, id, w.id, deleted)
	return changedOne(r, err)
}

// Deleted lists what can still be brought back, the last deleted first.
func (w Workspace) Deleted(ctx context.Context) ([]Card, error) {
	list := []Card{}
	err := w.s.db.SelectContext(ctx, &list, cardColumns(true)+`WHERE a.workspace_id = ? AND a.deleted_at > ? ORDER BY a.deleted_at DESC, a.id`,
		w.id, now().Add(-KeptFor))
	return list, err
}

// DropDeleted forgets activities that were deleted longer ago than [KeptFor]. One
// that was ever released stays in the database, for its sittings.
func (s *Store) DropDeleted(ctx context.Context) error {
	const which = `deleted_at < ? AND NOT EXISTS (SELECT 1 FROM releases r WHERE r.activity_id = a.id)`
	before := now().Add(-KeptFor)
	old := []string{}
	if err := s.db.SelectContext(ctx, &old, `SELECT a.id FROM activities a WHERE a.`+which, before); err != nil {
		return err
	}
	for _, id := range old {
		if err := s.dropSome(ctx, `revisions WHERE activity_id = ?`, id); err != nil {
			return err
		}
		if err := s.inTx(ctx, func(tx *sqlx.Tx) error {
			for _, of := range []string{"draft_links", "comments", "revisions"} {
				if _, err := tx.ExecContext(ctx, `DELETE FROM `+of+` WHERE activity_id = ?`, id); err != nil {
					return err
				}
			}
			_, err := tx.ExecContext(ctx, `DELETE a FROM activities a WHERE a.id = ? AND a.`+which, id, before)
			return err
		}); err != nil {
			return err
		}
	}
	return nil
}

// MoveActivity gives an activity, with its releases and sittings, to another
// workspace, and that the media that it uses.
func (s *Store) MoveActivity(ctx context.Context, from, to, id string, media []string) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		for _, m := range media {
			if err := guard(ctx, tx, guardMedium, m); err != nil {
				return err
			}
			if _, err := tx.ExecContext(ctx, `INSERT IGNORE INTO media (workspace_id, id, type, bytes, added_at, name, licence, source, width, height)
				SELECT ?, id, type, bytes, added_at, name, licence, source, width, height FROM media WHERE workspace_id = ? AND id = ?`, to, from, m); err != nil {
				return err
			}
		}
		r, err := tx.ExecContext(ctx, `UPDATE activities SET workspace_id = ? WHERE id = ? AND workspace_id = ? AND form = 'activity' AND deleted_at IS NULL`, to, id, from)
		if err != nil {
			return err
		}
		if n, err := r.RowsAffected(); err != nil || n == 0 {
			return errors.Join(ErrNotFound, err)
		}
		return nil
	})
}
