package store

import (
	"context"
	"time"
)

// RecordStore is where a workspace's statements go.
type RecordStore struct {
	WorkspaceID string    `db:"workspace_id"`
	Endpoint    string    `db:"endpoint"`
	User        string    `db:"user"`
	Sealed      []byte    `db:"sealed"` // the password, encrypted
	KeptAt      time.Time `db:"kept_at"`
}

// RecordStore finds that of the workspace: ErrNotFound where it has none.
func (w Workspace) RecordStore(ctx context.Context) (RecordStore, error) {
	var r RecordStore
	err := w.s.db.GetContext(ctx, &r, `SELECT workspace_id, endpoint, user, sealed, kept_at FROM record_stores WHERE workspace_id = ?`, w.id)
	return r, found(err)
}

// KeepRecordStore gives the workspace one, in place of the one that it has.
func (w Workspace) KeepRecordStore(ctx context.Context, r RecordStore) error {
	r.WorkspaceID, r.KeptAt = w.id, now()
	_, err := w.s.db.NamedExecContext(ctx, `INSERT INTO record_stores (workspace_id, endpoint, user, sealed, kept_at) VALUES (:workspace_id, :endpoint, :user, :sealed, :kept_at)
		ON DUPLICATE KEY UPDATE endpoint = VALUES(endpoint), user = VALUES(user), sealed = VALUES(sealed), kept_at = VALUES(kept_at)`, r)
	return err
}

// DropRecordStore takes it away; what is not sent yet is not sent any more.
func (w Workspace) DropRecordStore(ctx context.Context) error {
	if _, err := w.s.db.ExecContext(ctx, `DELETE FROM record_stores WHERE workspace_id = ?`, w.id); err != nil {
		return err
	}
	_, err := w.s.db.ExecContext(ctx, `UPDATE outbox SET state = 'dropped' WHERE workspace_id = ? AND kind = ? AND state IN ('waiting', 'refused')`, w.id, AStatement)
	return err
}
