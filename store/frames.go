package store

import (
	"context"
	"strings"
)

// Frames lists the origins of pages that may show the workspace's releases in a frame.
func (w Workspace) Frames(ctx context.Context) ([]string, error) {
	var list string
	err := w.s.db.GetContext(ctx, &list, `SELECT COALESCE(frames, '') FROM workspaces WHERE id = ?`, w.id)
	return strings.Fields(list), found(err)
}

// KeepFrames keeps another list of them.
func (w Workspace) KeepFrames(ctx context.Context, origins []string) error {
	_, err := w.s.db.ExecContext(ctx, `UPDATE workspaces SET frames = ? WHERE id = ?`, strings.Join(origins, "\n"), w.id)
	return err
}

// FramesOfLink lists those of the workspace that a release's link is of. Cost: one row.
func (s *Store) FramesOfLink(ctx context.Context, link string) ([]string, error) {
	var list string
	err := s.db.GetContext(ctx, &list, `SELECT COALESCE(w.frames, '') FROM releases r
		JOIN activities a ON a.id = r.activity_id JOIN workspaces w ON w.id = a.workspace_id WHERE r.link = ?`, link)
	return strings.Fields(list), found(err)
}
