package store

import (
	"context"
	"errors"
)

// Theme is a workspace's own. Body is its JSON.
type Theme struct {
	ID   string `db:"id"`
	Body string `db:"body"`
}

// Themes lists a workspace's themes.
func (s *Store) Themes(ctx context.Context, workspace string) ([]Theme, error) {
	list := []Theme{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, body FROM themes WHERE workspace_id = ? ORDER BY id`, workspace)
	return list, err
}

// KeepTheme keeps a theme: a new one where id is empty.
func (s *Store) KeepTheme(ctx context.Context, workspace string, t Theme) (Theme, error) {
	if t.ID == "" {
		t.ID = NewID()
		_, err := s.db.ExecContext(ctx, `INSERT INTO themes (id, workspace_id, body) VALUES (?, ?, ?)`, t.ID, workspace, t.Body)
		return t, err
	}
	var there int
	if err := s.db.GetContext(ctx, &there, `SELECT 1 FROM themes WHERE id = ? AND workspace_id = ?`, t.ID, workspace); err != nil {
		return t, found(err)
	}
	_, err := s.db.ExecContext(ctx, `UPDATE themes SET body = ? WHERE id = ? AND workspace_id = ?`, t.Body, t.ID, workspace)
	return t, err
}

// DropTheme forgets a theme; boards that have it keep their copy.
func (s *Store) DropTheme(ctx context.Context, workspace, id string) error {
	r, err := s.db.ExecContext(ctx, `DELETE FROM themes WHERE id = ? AND workspace_id = ?`, id, workspace)
	if err != nil {
		return err
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(ErrNotFound, err)
	}
	return nil
}
