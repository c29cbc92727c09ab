package store

import (
	"context"

	"github.com/jmoiron/sqlx"
)

// Medium is a picture, named by the SHA-256 of its bytes. The bytes are kept once
// for all workspaces, in chunks; who may see them is kept by workspace.
type Medium struct {
	ID   string
	Type string
	Body []byte
}

const chunk = 1 << 20

func addMedium(ctx context.Context, tx *sqlx.Tx, workspace string, m Medium) error {
	for part := 0; part*chunk < len(m.Body); part++ {
		body := m.Body[part*chunk : min(len(m.Body), (part+1)*chunk)]
		if _, err := tx.ExecContext(ctx, `INSERT IGNORE INTO media_chunks (id, part, body) VALUES (?, ?, ?)`, m.ID, part, body); err != nil {
			return err
		}
	}
	_, err := tx.ExecContext(ctx, `INSERT IGNORE INTO media (workspace_id, id, type, bytes, added_at) VALUES (?, ?, ?, ?, ?)`,
		workspace, m.ID, m.Type, len(m.Body), now())
	return err
}

// AddMedium keeps a picture for a workspace; one that is there already stays.
func (s *Store) AddMedium(ctx context.Context, workspace string, m Medium) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error { return addMedium(ctx, tx, workspace, m) })
}

// Medium finds a workspace's picture.
func (s *Store) Medium(ctx context.Context, workspace, id string) (Medium, error) {
	m := Medium{ID: id}
	if err := s.db.GetContext(ctx, &m.Type, `SELECT type FROM media WHERE workspace_id = ? AND id = ?`, workspace, id); err != nil {
		return m, found(err)
	}
	var parts [][]byte
	if err := s.db.SelectContext(ctx, &parts, `SELECT body FROM media_chunks WHERE id = ? ORDER BY part`, id); err != nil {
		return m, err
	}
	for _, p := range parts {
		m.Body = append(m.Body, p...)
	}
	return m, nil
}
