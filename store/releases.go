package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"time"

	"github.com/jmoiron/sqlx"
)

// Release is a frozen, numbered version of an activity or a series. Names is the JSON
// of the ids under which learners know its parts.
type Release struct {
	Form        string     `db:"form"`
	ID          string     `db:"id"`
	ActivityID  string     `db:"activity_id"`
	Title       string     `db:"title"` // of the draft, as it is called now
	WorkspaceID string     `db:"workspace_id"`
	Number      int        `db:"number"`
	Link        string     `db:"link"`
	Document    string     `db:"document"`
	Names       string     `db:"names"`
	Semantics   int        `db:"semantics"`
	ReleasedAt  time.Time  `db:"released_at"`
	ReleasedBy  string     `db:"released_by"`
	DeletedAt   *time.Time `db:"deleted_at"` // the activity's: then its links lead nowhere
	Sittings    int        `db:"sittings"`
	Finished    int        `db:"finished"`
	Entry
	again bool // it was there already
}

// Entry says who may begin, when, and how often.
type Entry struct {
	RosterID *string    `db:"roster_id"` // nil: whoever has the link
	OpensAt  *time.Time `db:"opens_at"`  // nil: at once
	ClosesAt *time.Time `db:"closes_at"` // nil: never
	MostEach int        `db:"most_each"` // sittings of each learner of a roster or a platform; 0 is no limit
	Most     int        `db:"most"`      // sittings in all; 0 is no limit
	// AllowanceMS is how late a move may arrive that was made in time, in milliseconds.
	AllowanceMS int64 `db:"allowance_ms"`
	// Extension is the percent of a time limit that learners may be given, in place of
	// what the activity says; nil leaves that.
	Extension *int `db:"extension"`
	// Rev counts the changes of all this.
	Rev int `db:"entry_rev"`
}

// DefaultAllowance is a release's allowance until it is changed.
const DefaultAllowance = 2 * time.Minute

// Anyone is the entry of a release of which nothing else is said: whoever has the link, at
// any time.
func Anyone() Entry { return Entry{AllowanceMS: DefaultAllowance.Milliseconds()} }

// Allowance is AllowanceMS as a duration.
func (e Entry) Allowance() time.Duration { return time.Duration(e.AllowanceMS) * time.Millisecond }

const releaseFields = `SELECT r.form, r.id, r.activity_id, a.title, a.workspace_id, r.number, r.link, r.document, r.names, r.semantics, r.released_at, r.released_by, a.deleted_at,
	r.roster_id, r.opens_at, r.closes_at, r.most_each, r.most, r.allowance_ms, r.extension, r.entry_rev`

const releaseSittings = `(SELECT COUNT(*) FROM sittings s WHERE s.release_id = r.id AND s.run_id IS NULL)
	+ (SELECT COUNT(*) FROM runs s WHERE s.release_id = r.id)`

const releaseTables = ` FROM releases r JOIN activities a ON a.id = r.activity_id `

// AddRelease freezes a document under the activity's next number and a new link. The same
// request again, where it has one, is the same release.
func (s *Store) AddRelease(ctx context.Context, r Release, request string) (Release, error) {
	err := s.inTx(ctx, func(tx *sqlx.Tx) (err error) {
		r, err = addRelease(ctx, tx, r, request)
		return err
	})
	return r, err
}

// addRelease keeps a release as of its time, or of now.
func addRelease(ctx context.Context, tx *sqlx.Tx, r Release, request string) (Release, error) {
	// Two releases get two numbers, and a request that comes twice makes one.
	if err := guard(ctx, tx, guardNumbers, r.ActivityID); err != nil {
		return r, err
	}
	if request != "" {
		var known Release
		err := tx.GetContext(ctx, &known, releaseFields+releaseTables+`WHERE r.activity_id = ? AND r.request = ?`, r.ActivityID, request)
		if err == nil {
			known.again = true
			return known, nil
		}
		if !errors.Is(err, sql.ErrNoRows) {
			return r, err
		}
	}
	r.ID, r.Link = NewID(), NewID()
	if r.ReleasedAt.IsZero() {
		r.ReleasedAt = now()
	}
	if err := tx.GetContext(ctx, &r.Number, `SELECT COALESCE(MAX(number), 0) + 1 FROM releases WHERE activity_id = ?`, r.ActivityID); err != nil {
		return r, err
	}
	_, err := tx.NamedExecContext(ctx, `INSERT INTO releases (form, id, activity_id, number, link, document, names, semantics, released_at, released_by, roster_id, opens_at, closes_at, most_each, most, allowance_ms, extension, request)
		VALUES (:form, :id, :activity_id, :number, :link, :document, :names, :semantics, :released_at, :released_by, :roster_id, :opens_at, :closes_at, :most_each, :most, :allowance_ms, :extension, :request)`,
		struct {
			Release
			Request *string `db:"request"`
		}{r, orNull(request)})
	return r, err
}

// Releases lists an activity's releases, the newest first.
func (w Workspace) Releases(ctx context.Context, activity string) ([]Release, error) {
	list := []Release{}
	err := w.s.db.SelectContext(ctx, &list, releaseFields+`, `+releaseSittings+` AS sittings,
		(SELECT COUNT(*) FROM sittings s WHERE s.release_id = r.id AND s.run_id IS NULL AND s.phase = 'done')
		+ (SELECT COUNT(*) FROM runs s WHERE s.release_id = r.id AND s.reached = s.end_step) AS finished`+
		releaseTables+`WHERE a.workspace_id = ? AND r.activity_id = ? ORDER BY r.number DESC`, w.id, activity)
	return list, err
}

// Released lists activities and series that have been released, the last released first, each
// with its newest release and without its document; next is where another page begins, or "".
func (w Workspace) Released(ctx context.Context, find, after string, most int) (list []Release, next string, err error) {
	list = []Release{}
	where, args := `WHERE a.workspace_id = ? AND a.deleted_at IS NULL AND r.number = (SELECT MAX(x.number) FROM releases x WHERE x.activity_id = r.activity_id)`, []any{w.id}
	if find != "" {
		where, args = where+` AND a.title COLLATE utf8mb4_general_ci LIKE ?`, append(args, `%`+likeless.Replace(find)+`%`)
	}
	if after != "" {
		at, id, err := readPlace(after)
		if err != nil {
			return nil, "", err
		}
		where, args = where+` AND (r.released_at < ? OR r.released_at = ? AND r.id < ?)`, append(args, at, at, id)
	}
	err = w.s.old.SelectContext(ctx, &list, `SELECT r.form, r.id, r.activity_id, a.title, a.workspace_id, r.number, r.link, r.released_at`+releaseTables+where+` ORDER BY r.released_at DESC, r.id DESC LIMIT ?`, append(args, most+1)...)
	if len(list) > most {
		list = list[:most]
		next = fmt.Sprintf("%d.%s", list[most-1].ReleasedAt.UnixMilli(), list[most-1].ID)
	}
	return list, next, err
}

// Release finds one in a workspace; its sittings are not counted.
func (w Workspace) Release(ctx context.Context, id string) (Release, error) {
	var r Release
	err := w.s.db.GetContext(ctx, &r, releaseFields+releaseTables+`WHERE a.workspace_id = ? AND r.id = ?`, w.id, id)
	return r, found(err)
}

// ReleaseByLink finds what a link leads to; whoever has the link may. Its sittings are
// counted where there may be so many and no more.
func (s *Store) ReleaseByLink(ctx context.Context, link string) (Release, error) {
	var r Release
	err := s.db.GetContext(ctx, &r, releaseFields+`, IF(r.most > 0, `+releaseSittings+`, 0) AS sittings`+releaseTables+`WHERE r.link = ?`, link)
	return r, found(err)
}
