package store

import (
	"context"
	"errors"
	"io"
	"time"

	"github.com/jmoiron/sqlx"
)

// Medium is a picture or a sound, named by the SHA-256 of its bytes. The bytes are
// kept once for all workspaces, in chunks; who may see them, and what is known of
// them, is kept by workspace.
type Medium struct {
	ID   string
	Type string
	Body []byte
	About
}

// About is what is known of a medium besides its bytes.
type About struct {
	Name    string `db:"name"` // of the file that it came from
	Licence string `db:"licence"`
	Source  string `db:"source"`
	Width   int    `db:"width"` // of a picture, as it is shown; 0 where it does not say
	Height  int    `db:"height"`
}

// MediumEntry is a medium in a list, without its bytes.
type MediumEntry struct {
	ID      string    `db:"id"`
	Type    string    `db:"type"`
	Bytes   int       `db:"bytes"`
	AddedAt time.Time `db:"added_at"`
	About
}

const chunk = 1 << 20

// addMedium keeps a medium; one that was deleted is there again. Whoever purges what nobody
// has waits for it.
func addMedium(ctx context.Context, tx *sqlx.Tx, workspace string, m Medium) error {
	if err := guard(ctx, tx, guardMedium, m.ID); err != nil {
		return err
	}
	if _, err := tx.ExecContext(ctx, `INSERT INTO media (workspace_id, id, type, bytes, added_at, name, licence, source, width, height)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON DUPLICATE KEY UPDATE deleted_at = NULL, added_at = VALUES(added_at)`,
		workspace, m.ID, m.Type, len(m.Body), now(), m.Name, m.Licence, m.Source, m.Width, m.Height); err != nil {
		return err
	}
	for part := 0; part*chunk < len(m.Body); part++ {
		body := m.Body[part*chunk : min(len(m.Body), (part+1)*chunk)]
		if _, err := tx.ExecContext(ctx, `INSERT IGNORE INTO media_chunks (id, part, body) VALUES (?, ?, ?)`, m.ID, part, body); err != nil {
			return err
		}
	}
	return nil
}

// Media lists all media of a workspace, the newest first.
func (w Workspace) Media(ctx context.Context) ([]MediumEntry, error) {
	list := []MediumEntry{}
	err := w.s.db.SelectContext(ctx, &list, `SELECT id, type, bytes, added_at, name, licence, source, width, height
		FROM media WHERE workspace_id = ? AND deleted_at IS NULL ORDER BY added_at DESC, name, id`, w.id)
	return list, err
}

// DescribeMedium writes down a medium's name, licence and source.
func (w Workspace) DescribeMedium(ctx context.Context, id string, a About) error {
	var there int
	if err := w.s.db.GetContext(ctx, &there, `SELECT 1 FROM media WHERE workspace_id = ? AND id = ?`, w.id, id); err != nil {
		return found(err)
	}
	_, err := w.s.db.ExecContext(ctx, `UPDATE media SET name = ?, licence = ?, source = ? WHERE workspace_id = ? AND id = ?`,
		a.Name, a.Licence, a.Source, w.id, id)
	return err
}

// DeleteMedium takes a medium from a workspace's library. What uses it keeps it; see
// [Store.PurgeMedia].
func (w Workspace) DeleteMedium(ctx context.Context, id string) error {
	r, err := w.s.db.ExecContext(ctx, `UPDATE media SET deleted_at = ? WHERE workspace_id = ? AND id = ? AND deleted_at IS NULL`, now(), w.id, id)
	return changedOne(r, err)
}

// PurgeMedia forgets the media that were deleted, or added, longer ago than [KeptFor] and
// that no document, revision, release or theme of their workspace uses; of those that no other
// workspace has, the bytes, too. At most so many at once, and it says how many.
// Cost: a look through all documents of its workspace for each.
func (s *Store) PurgeMedia(ctx context.Context, most int) (n int, err error) {
	before := now().Add(-KeptFor)
	list := []struct {
		Workspace string `db:"workspace_id"`
		ID        string `db:"id"`
	}{}
	const unused = `NOT EXISTS (SELECT 1 FROM activities a WHERE a.workspace_id = m.workspace_id AND LOCATE(m.id, a.document) > 0)
		AND NOT EXISTS (SELECT 1 FROM revisions v JOIN activities a ON a.id = v.activity_id WHERE a.workspace_id = m.workspace_id AND LOCATE(m.id, v.document) > 0)
		AND NOT EXISTS (SELECT 1 FROM releases r JOIN activities a ON a.id = r.activity_id WHERE a.workspace_id = m.workspace_id AND LOCATE(m.id, r.document) > 0)
		AND NOT EXISTS (SELECT 1 FROM themes t WHERE t.workspace_id = m.workspace_id AND LOCATE(m.id, t.body) > 0)`
	if err := s.db.SelectContext(ctx, &list, `SELECT m.workspace_id, m.id FROM media m WHERE COALESCE(m.deleted_at, m.added_at) < ? AND `+unused+` LIMIT ?`, before, most); err != nil {
		return 0, err
	}
	for _, x := range list {
		err := s.inTx(ctx, func(tx *sqlx.Tx) error {
			if err := guard(ctx, tx, guardMedium, x.ID); err != nil {
				return err
			}
			r, err := tx.ExecContext(ctx, `DELETE m FROM media m WHERE m.workspace_id = ? AND m.id = ? AND `+unused, x.Workspace, x.ID)
			if err != nil {
				return err
			}
			if gone, err := r.RowsAffected(); err != nil || gone == 0 {
				return err
			}
			n++
			return dropChunks(ctx, tx, x.ID)
		})
		if err != nil {
			return n, err
		}
	}
	return n, nil
}

// dropChunks drops the bytes of a medium that no workspace has. It is guarded.
func dropChunks(ctx context.Context, tx *sqlx.Tx, id string) error {
	others := 0
	if err := tx.GetContext(ctx, &others, `SELECT COUNT(*) FROM media WHERE id = ?`, id); err != nil || others > 0 {
		return err
	}
	_, err := tx.ExecContext(ctx, `DELETE FROM media_chunks WHERE id = ?`, id)
	return err
}

const isLost = `NOT EXISTS (SELECT 1 FROM media m WHERE m.id = c.id)`

// DropLostChunks drops bytes that no workspace has a medium for, of so many media at most.
func (s *Store) DropLostChunks(ctx context.Context, most int) error {
	var lost []string
	if err := s.db.SelectContext(ctx, &lost, `SELECT DISTINCT c.id FROM media_chunks c WHERE `+isLost+` LIMIT ?`, most); err != nil {
		return err
	}
	for _, id := range lost {
		if err := s.inTx(ctx, func(tx *sqlx.Tx) error {
			if err := guard(ctx, tx, guardMedium, id); err != nil {
				return err
			}
			return dropChunks(ctx, tx, id)
		}); err != nil {
			return err
		}
	}
	return nil
}

// AddMedium keeps a picture for a workspace; one that is there already stays.
func (w Workspace) AddMedium(ctx context.Context, m Medium) error {
	return w.s.inTx(ctx, func(tx *sqlx.Tx) error { return addMedium(ctx, tx, w.id, m) })
}

// Medium finds a workspace's picture.
func (w Workspace) Medium(ctx context.Context, id string) (Medium, error) {
	m := Medium{ID: id}
	if err := w.s.db.GetContext(ctx, &m.Type, `SELECT type FROM media WHERE workspace_id = ? AND id = ?`, w.id, id); err != nil {
		return m, found(err)
	}
	var parts [][]byte
	if err := w.s.db.SelectContext(ctx, &parts, `SELECT body FROM media_chunks WHERE id = ? ORDER BY part`, id); err != nil {
		return m, err
	}
	for _, p := range parts {
		m.Body = append(m.Body, p...)
	}
	return m, nil
}

// MediumReader reads a medium from the database a chunk at a time; see [io.ReadSeeker].
type MediumReader struct {
	Type  string
	Bytes int64
	store *Store
	ctx   context.Context
	id    string
	at    int64
	part  int // whose bytes body has; -1 is none
	body  []byte
}

// OpenMedium finds a workspace's medium, to be read while ctx lasts. Cost: a query for
// each MiB that is read, and as much memory.
func (w Workspace) OpenMedium(ctx context.Context, id string) (*MediumReader, error) {
	m := &MediumReader{store: w.s, ctx: ctx, id: id, part: -1}
	row := w.s.db.QueryRowxContext(ctx, `SELECT type, bytes FROM media WHERE workspace_id = ? AND id = ?`, w.id, id)
	return m, found(row.Scan(&m.Type, &m.Bytes))
}

// Read reads on from where the reader stands.
func (m *MediumReader) Read(p []byte) (int, error) {
	if m.at >= m.Bytes {
		return 0, io.EOF
	}
	if part := int(m.at / chunk); part != m.part {
		m.body = nil
		select { // many who read at once do not all hold a piece in the same moment
		case m.store.reading <- struct{}{}:
		case <-m.ctx.Done():
			return 0, m.ctx.Err()
		}
		defer func() { <-m.store.reading }()
		if err := m.store.db.GetContext(m.ctx, &m.body, `SELECT body FROM media_chunks WHERE id = ? AND part = ?`, m.id, part); err != nil {
			return 0, found(err)
		}
		m.part = part
	}
	rest := m.body[min(m.at%chunk, int64(len(m.body))):]
	if len(rest) == 0 {
		return 0, io.ErrUnexpectedEOF
	}
	n := copy(p, rest)
	m.at += int64(n)
	return n, nil
}

// Seek is that of [io.Seeker].
func (m *MediumReader) Seek(offset int64, whence int) (int64, error) {
	switch whence {
	case io.SeekCurrent:
		offset += m.at
	case io.SeekEnd:
		offset += m.Bytes
	}
	if offset < 0 {
		return m.at, errors.New("a medium has nothing before its start")
	}
	m.at = offset
	return offset, nil
}
