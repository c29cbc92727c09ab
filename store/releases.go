package store

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"
)

// Release is a frozen, numbered version of an activity or a series. Names is the JSON
// of the ids under which learners know its parts.
type Release struct {
	Form        string    `db:"form"`
	ID          string    `db:"id"`
	ActivityID  string    `db:"activity_id"`
	Title       string    `db:"title"` // of the draft, as it is called now
	WorkspaceID string    `db:"workspace_id"`
	Number      int       `db:"number"`
	Link        string    `db:"link"`
	Document    string    `db:"document"`
	Names       string    `db:"names"`
	Semantics   int       `db:"semantics"`
	ReleasedAt  time.Time `db:"released_at"`
	ReleasedBy  string    `db:"released_by"`
	Sittings    int       `db:"sittings"`
	Finished    int       `db:"finished"`
	Entry
}

// Entry says who may begin, when, and how often.
type Entry struct {
	RosterID *string    `db:"roster_id"` // nil: whoever has the link
	OpensAt  *time.Time `db:"opens_at"`  // nil: at once
	ClosesAt *time.Time `db:"closes_at"` // nil: never
	MostEach int        `db:"most_each"` // sittings of each learner of the roster; 0 is no limit
	Most     int        `db:"most"`      // sittings in all; 0 is no limit
}

const releaseFields = `SELECT r.form, r.id, r.activity_id, a.title, a.workspace_id, r.number, r.link, r.document, r.names, r.semantics, r.released_at, r.released_by,
	r.roster_id, r.opens_at, r.closes_at, r.most_each, r.most`

const releaseSittings = `(SELECT COUNT(*) FROM sittings s WHERE s.release_id = r.id AND s.run_id IS NULL)
	+ (SELECT COUNT(*) FROM runs s WHERE s.release_id = r.id)`

const releaseTables = ` FROM releases r JOIN activities a ON a.id = r.activity_id `

// AddRelease freezes a document under the activity's next number and a new link.
func (s *Store) AddRelease(ctx context.Context, activity, account, form, document, names string, semantics int) (Release, error) {
	return s.AddReleaseAt(ctx, now(), activity, account, form, document, names, semantics)
}

// AddReleaseAt keeps one that was made at another time.
func (s *Store) AddReleaseAt(ctx context.Context, at time.Time, activity, account, form, document, names string, semantics int) (Release, error) {
	r := Release{Form: form, ID: NewID(), ActivityID: activity, Link: NewID(), Document: document, Names: names,
		Semantics: semantics, ReleasedAt: at, ReleasedBy: account}
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		// The activity's row is locked, so that two releases get two numbers.
		if _, err := tx.ExecContext(ctx, `SELECT id FROM activities WHERE id = ? FOR UPDATE`, activity); err != nil {
			return err
		}
		if err := tx.GetContext(ctx, &r.Number, `SELECT COALESCE(MAX(number), 0) + 1 FROM releases WHERE activity_id = ?`, activity); err != nil {
			return err
		}
		_, err := tx.NamedExecContext(ctx, `INSERT INTO releases (form, id, activity_id, number, link, document, names, semantics, released_at, released_by)
			VALUES (:form, :id, :activity_id, :number, :link, :document, :names, :semantics, :released_at, :released_by)`, r)
		return err
	})
	return r, err
}

// Releases lists an activity's releases, the newest first.
func (s *Store) Releases(ctx context.Context, workspace, activity string) ([]Release, error) {
	list := []Release{}
	err := s.db.SelectContext(ctx, &list, releaseFields+`, `+releaseSittings+` AS sittings,
		(SELECT COUNT(*) FROM sittings s WHERE s.release_id = r.id AND s.run_id IS NULL AND s.phase = 'done')
		+ (SELECT COUNT(*) FROM runs s WHERE s.release_id = r.id AND s.reached = s.end_step) AS finished`+
		releaseTables+`WHERE a.workspace_id = ? AND r.activity_id = ? ORDER BY r.number DESC`, workspace, activity)
	return list, err
}

// Release finds one in a workspace; its sittings are not counted.
func (s *Store) Release(ctx context.Context, workspace, id string) (Release, error) {
	var r Release
	err := s.db.GetContext(ctx, &r, releaseFields+releaseTables+`WHERE a.workspace_id = ? AND r.id = ?`, workspace, id)
	return r, found(err)
}

// ReleaseByLink finds what a link leads to; whoever has the link may. Its sittings are
// counted where there may be so many and no more.
func (s *Store) ReleaseByLink(ctx context.Context, link string) (Release, error) {
	var r Release
	err := s.db.GetContext(ctx, &r, releaseFields+`, IF(r.most > 0, `+releaseSittings+`, 0) AS sittings`+releaseTables+`WHERE r.link = ?`, link)
	return r, found(err)
}
