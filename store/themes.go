package store

import (
	"context"
)

// Theme is a workspace's own. Body is its JSON.
type Theme struct {
	ID   string `db:"id"`
	Body string `db:"body"`
}

// Themes lists a workspace's themes.
func (w Workspace) Themes(ctx context.Context) ([]Theme, error) {
	list := []Theme{}
	err := w.s.db.SelectContext(ctx, &list, `SELECT id, body FROM themes WHERE workspace_id = ? ORDER BY id`, w.id)
	return list, err
}

// KeepTheme keeps a theme: a new one where id is empty.
func (w Workspace) KeepTheme(ctx context.Context, t Theme) (Theme, error) {
	if t.ID == "" {
		t.ID = NewID()
		_, err := w.s.db.ExecContext(ctx, `INSERT INTO themes (id, workspace_id, body) VALUES (?, ?, ?)`, t.ID, w.id, t.Body)
		return t, err
	}
	var there int
	if err := w.s.db.GetContext(ctx, &there, `SELECT 1 FROM themes WHERE id = ? AND workspace_id = ?`, t.ID, w.id); err != nil {
		return t, found(err)
	}
	_, err := w.s.db.ExecContext(ctx, `UPDATE themes SET body = ? WHERE id = ? AND workspace_id = ?`, t.Body, t.ID, w.id)
	return t, err
}

// DropTheme forgets a theme; boards that have it keep their copy.
func (w Workspace) DropTheme(ctx context.Context, id string) error {
	r, err := w.s.db.ExecContext(ctx, `DELETE FROM themes WHERE id = ? AND workspace_id = ?`, id, w.id)
	return changedOne(r, err)
}
