package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/base64"
	"errors"
	"time"

	"github.com/jmoiron/sqlx"
)

// Tried is how often something was tried in vain: wrong codes or passwords, by address or
// by account.
type Tried struct {
	N       int       `db:"n"`
	UntilAt time.Time `db:"until_at"` // nothing more is to be tried before
}

// whose hides an address or an account: the table says nothing of who they are.
func whose(who string) string {
	sum := sha256.Sum256([]byte(who))
	return base64.RawURLEncoding.EncodeToString(sum[:])
}

// Tries finds how often something was tried in vain.
func (s *Store) Tries(ctx context.Context, what, who string) (Tried, error) {
	var t Tried
	err := s.db.GetContext(ctx, &t, `SELECT n, until_at FROM tries WHERE what = ? AND who = ? AND forgotten_at > ?`, what, whose(who), now())
	if errors.Is(err, sql.ErrNoRows) {
		return Tried{}, nil
	}
	return t, err
}

// TriedInVain counts one more. delay is for how long nothing more is to be tried after the
// nth; what nobody tried for keep is forgotten.
func (s *Store) TriedInVain(ctx context.Context, what, who string, keep time.Duration, delay func(n int) time.Duration) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		at, n := now(), 0
		if _, err := tx.ExecContext(ctx, `INSERT INTO tries (what, who, n, until_at, forgotten_at) VALUES (?, ?, 1, ?, ?)
			ON DUPLICATE KEY UPDATE n = IF(forgotten_at > ?, n + 1, 1), forgotten_at = VALUES(forgotten_at)`, what, whose(who), at, at.Add(keep), at); err != nil {
			return err
		}
		if err := tx.GetContext(ctx, &n, `SELECT n FROM tries WHERE what = ? AND who = ? FOR UPDATE`, what, whose(who)); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `UPDATE tries SET until_at = ? WHERE what = ? AND who = ?`, at.Add(delay(n)), what, whose(who))
		return err
	})
}

// DropTries forgets tries of a while ago.
func (s *Store) DropTries(ctx context.Context) error {
	return s.dropSome(ctx, `tries WHERE forgotten_at < ?`, now())
}
