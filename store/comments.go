package store

import (
	"context"
	"time"
)

// Comment is what a member said of a draft.
type Comment struct {
	ID         string     `db:"id"`
	Part       string     `db:"part"` // the item or target that it is about; "" is the whole
	Text       string     `db:"text"`
	SaidBy     string     `db:"said_by"`
	SaidByName string     `db:"said_by_name"`
	SaidAt     time.Time  `db:"said_at"`
	DoneByName string     `db:"done_by_name"` // whoever saw to it; "" is nobody yet
	DoneAt     *time.Time `db:"done_at"`
}

// Comments lists what was said of an activity, the earliest first; what was seen to, last.
func (w Workspace) Comments(ctx context.Context, activity string) ([]Comment, error) {
	list := []Comment{}
	err := w.s.db.SelectContext(ctx, &list, `SELECT c.id, c.part, c.text, c.said_by, c.said_at, c.done_at,
		(SELECT name FROM accounts WHERE id = c.said_by) AS said_by_name, COALESCE((SELECT name FROM accounts WHERE id = c.done_by), '') AS done_by_name
		FROM comments c JOIN activities a ON a.id = c.activity_id WHERE a.workspace_id = ? AND a.id = ? AND a.deleted_at IS NULL
		ORDER BY c.done_at IS NOT NULL, c.said_at, c.id`, w.id, activity)
	return list, err
}

// Comment says something of an activity.
func (w Workspace) Comment(ctx context.Context, account, activity, part, text string) error {
	r, err := w.s.db.ExecContext(ctx, `INSERT INTO comments (id, activity_id, part, text, said_by, said_at)
		SELECT ?, a.id, ?, ?, ?, ? FROM activities a WHERE a.workspace_id = ? AND a.id = ? AND a.deleted_at IS NULL`, NewID(), part, text, account, now(), w.id, activity)
	return changedOne(r, err)
}

// SeeTo notes that somebody has seen to a comment, or, with done false, that it stands again.
func (w Workspace) SeeTo(ctx context.Context, account, activity, comment string, done bool) error {
	r, err := w.s.db.ExecContext(ctx, `UPDATE comments c JOIN activities a ON a.id = c.activity_id SET c.done_by = IF(?, ?, NULL), c.done_at = IF(?, ?, NULL)
		WHERE a.workspace_id = ? AND a.id = ? AND c.id = ?`, done, account, done, now(), w.id, activity, comment)
	return changedOne(r, err)
}

// TakeBack deletes a comment of an account's own.
func (w Workspace) TakeBack(ctx context.Context, account, activity, comment string) error {
	r, err := w.s.db.ExecContext(ctx, `DELETE c FROM comments c JOIN activities a ON a.id = c.activity_id
		WHERE a.workspace_id = ? AND a.id = ? AND c.id = ? AND c.said_by = ?`, w.id, activity, comment, account)
	return changedOne(r, err)
}
