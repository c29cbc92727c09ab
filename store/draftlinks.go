package store

import (
	"context"
	"time"
)

// DraftLink lets whoever has it try a draft; nothing of that is kept. Secret is what
// the names of the draft's parts are made from: it never leaves the server.
type DraftLink struct {
	Link        string    `db:"link"`
	ActivityID  string    `db:"activity_id"`
	WorkspaceID string    `db:"workspace_id"`
	Secret      string    `db:"secret"`
	MadeAt      time.Time `db:"made_at"`
	MadeBy      string    `db:"made_by"`
	Revision    int       `db:"revision"` // the draft's present one
}

const draftLinkColumns = `SELECT d.link, d.activity_id, a.workspace_id, d.secret, d.made_at, d.made_by, a.revision
	FROM draft_links d JOIN activities a ON a.id = d.activity_id `

// DraftLinks lists the links to a draft, the oldest first.
func (w Workspace) DraftLinks(ctx context.Context, activity string) ([]DraftLink, error) {
	list := []DraftLink{}
	err := w.s.db.SelectContext(ctx, &list, draftLinkColumns+`WHERE a.workspace_id = ? AND a.id = ? ORDER BY d.made_at, d.link`, w.id, activity)
	return list, err
}

// AddDraftLink makes a link to a draft.
func (w Workspace) AddDraftLink(ctx context.Context, activity, account string) error {
	if _, err := w.Activity(ctx, activity); err != nil {
		return err
	}
	_, err := w.s.db.ExecContext(ctx, `INSERT INTO draft_links (link, activity_id, secret, made_at, made_by) VALUES (?, ?, ?, ?, ?)`,
		NewID(), activity, NewID(), now(), account)
	return err
}

// DraftByLink finds what a draft link leads to; whoever has the link may.
func (s *Store) DraftByLink(ctx context.Context, link string) (DraftLink, error) {
	var d DraftLink
	err := s.db.GetContext(ctx, &d, draftLinkColumns+`WHERE d.link = ? AND a.deleted_at IS NULL`, link)
	return d, found(err)
}

// WithdrawDraftLink ends a link: whoever has it can do nothing more with it.
func (w Workspace) WithdrawDraftLink(ctx context.Context, activity, link string) error {
	r, err := w.s.db.ExecContext(ctx, `DELETE d FROM draft_links d JOIN activities a ON a.id = d.activity_id
		WHERE d.link = ? AND a.id = ? AND a.workspace_id = ?`, link, activity, w.id)
	return changedOne(r, err)
}
