package store

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Summary is what lists tell of a draft, so that it need not be read for them. It is of one
// revision: one of an earlier revision, as a program that knows nothing of summaries leaves
// behind, is as good as none.
type Summary struct {
	Kind string
	Face string   // JSON: the board as it is drawn small, or the steps of a series
	Uses []string // ids of media
}

// Card is a draft as lists have it. Where its summary is out of date it has the document in
// its place.
type Card struct {
	Activity
	Summed int     `db:"summed"`
	Kind   string  `db:"kind"`
	Face   *string `db:"face"`
	Uses   *string `db:"uses"`
}

// IsSummed says whether the summary is of the revision that there is.
func (c *Card) IsSummed() bool { return c.Summed == c.Revision && c.Face != nil }

// Media are the ids of the media that it uses, by its summary.
func (c *Card) Media() (ids []string, err error) {
	if c.Uses == nil {
		return nil, nil
	}
	return ids, json.Unmarshal([]byte(*c.Uses), &ids)
}

const isSummed = `a.summed = a.revision AND a.face IS NOT NULL`

// cardColumns has the face only where it is asked for: it is most of a summary.
func cardColumns(faces bool) string {
	face := `''`
	if faces {
		face = `a.face`
	}
	return strings.Replace(activityColumns, `a.document,`, `IF(`+isSummed+`, '', a.document) AS document, a.summed, a.kind, IF(`+isSummed+`, `+face+`, NULL) AS face, a.uses,`, 1)
}

// Page is a part of a list, the last saved first.
type Page struct {
	Find  string   // in the title or the kind, in any case; "" is everything
	After string   // where the page before ended; "" begins
	Most  int      // 0 is no end
	IDs   []string // these alone; nil is all
	// Bare leaves out the faces.
	Bare bool
}

// Cards lists a workspace's activities, or its series, with what their summaries tell; next
// is where another page begins, or "". Cost: of the page alone, by an index.
func (w Workspace) Cards(ctx context.Context, form string, p Page) (list []Card, next string, err error) {
	list = []Card{}
	where, args := `WHERE a.workspace_id = ? AND a.form = ? AND a.deleted_at IS NULL`, []any{w.id, form}
	if p.After != "" {
		at, id, err := readPlace(p.After)
		if err != nil {
			return nil, "", err
		}
		where, args = where+` AND (a.saved_at < ? OR a.saved_at = ? AND a.id < ?)`, append(args, at, at, id)
	}
	if p.Find != "" {
		like := `%` + likeless.Replace(p.Find) + `%`
		where, args = where+` AND (a.title COLLATE utf8mb4_general_ci LIKE ? OR a.kind LIKE ?)`, append(args, like, like)
	}
	if p.IDs != nil {
		if len(p.IDs) == 0 {
			return list, "", nil
		}
		in, ids, err := sqlx.In(` AND a.id IN (?)`, p.IDs)
		if err != nil {
			return nil, "", err
		}
		where, args = where+in, append(args, ids...)
	}
	const order = ` ORDER BY a.saved_at DESC, a.id DESC`
	where += order
	if p.Most > 0 {
		where, args = where+` LIMIT ?`, append(args, p.Most+1)
	}
	// Which ones is found in an index that has all that is asked for, the rest of them alone.
	if err := w.s.old.SelectContext(ctx, &list, cardColumns(!p.Bare)+`JOIN (SELECT a.id FROM activities a `+where+`) page ON page.id = a.id`+order, args...); err != nil {
		return nil, "", err
	}
	if p.Most > 0 && len(list) > p.Most {
		list = list[:p.Most]
		last := list[p.Most-1]
		next = fmt.Sprintf("%d.%s", last.SavedAt.UnixMilli(), last.ID)
	}
	return list, next, nil
}

// likeless takes away what a text would mean to LIKE.
var likeless = strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`)

// ErrBadPlace is the answer to a place in a list that no page ended at.
var ErrBadPlace = errors.New("no page of this list ends there")

func readPlace(place string) (at time.Time, id string, err error) {
	var ms int64
	if n, err := fmt.Sscanf(place, "%d.%s", &ms, &id); n != 2 || err != nil {
		return at, "", ErrBadPlace
	}
	return time.UnixMilli(ms).UTC(), id, nil
}

// KeepSummary keeps what lists tell of a revision, as long as it is the newest.
func (s *Store) KeepSummary(ctx context.Context, id string, revision int, x Summary) error {
	uses, err := json.Marshal(x.Uses)
	if err != nil {
		return err
	}
	_, err = s.db.ExecContext(ctx, `UPDATE activities SET summed = ?, kind = ?, face = ?, uses = ? WHERE id = ? AND revision = ?`,
		revision, x.Kind, x.Face, string(uses), id, revision)
	return err
}

const unsummed = `NOT (` + isSummed + `) AND a.deleted_at IS NULL`

// Unsummed are drafts whose summary is out of date, at most so many, in any workspace.
func (s *Store) Unsummed(ctx context.Context, most int) (list []Activity, err error) {
	err = s.db.SelectContext(ctx, &list, `SELECT a.form, a.id, a.revision, a.document FROM activities a WHERE `+unsummed+` LIMIT ?`, most)
	return list, err
}
