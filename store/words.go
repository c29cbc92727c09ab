package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
)

// Words are what a workspace lets its learners read in place of a language's own
// words, by id.
func (w Workspace) Words(ctx context.Context, lang string) (map[string]string, error) {
	out := map[string]string{}
	var body string
	err := w.s.db.GetContext(ctx, &body, `SELECT body FROM words WHERE workspace_id = ? AND lang = ?`, w.id, lang)
	if errors.Is(err, sql.ErrNoRows) {
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	return out, json.Unmarshal([]byte(body), &out)
}

// KeepWords keeps a workspace's words for a language, in place of those that were
// there.
func (w Workspace) KeepWords(ctx context.Context, lang string, words map[string]string) error {
	body, err := json.Marshal(words)
	if err != nil {
		return err
	}
	_, err = w.s.db.ExecContext(ctx, `INSERT INTO words (workspace_id, lang, body) VALUES (?, ?, ?) ON DUPLICATE KEY UPDATE body = VALUES(body)`, w.id, lang, string(body))
	return err
}
