package store

import (
	"context"

	"github.com/jmoiron/sqlx"
)

// Identity is somebody as a provider of sign-in knows them.
type Identity struct {
	Issuer  string
	Subject string
}

// AccountOf finds whose account an identity is.
func (s *Store) AccountOf(ctx context.Context, id Identity) (Account, error) {
	var a Account
	err := s.db.GetContext(ctx, &a, `SELECT a.id, a.email, a.name, a.password_hash FROM accounts a JOIN identities i ON i.account_id = a.id
		WHERE i.issuer = ? AND i.subject = ?`, id.Issuer, id.Subject)
	return a, found(err)
}

// Link notes that an identity is an account's. One that is somebody's already stays theirs.
func (s *Store) Link(ctx context.Context, id Identity, account string) error {
	return link(ctx, s.db, id, account)
}

func link(ctx context.Context, to sqlx.ExecerContext, id Identity, account string) error {
	_, err := to.ExecContext(ctx, `INSERT INTO identities (issuer, subject, account_id, linked_at) VALUES (?, ?, ?, ?)
		ON DUPLICATE KEY UPDATE account_id = account_id`, id.Issuer, id.Subject, account, now())
	return err
}

// ComeIn makes an account for an identity and a member of a workspace of it: ErrTaken where
// the address has an account, ErrNotFound where there is no workspace of that name.
func (s *Store) ComeIn(ctx context.Context, id Identity, a Account, workspace string, role Role) (Account, error) {
	a.ID = NewID()
	return a, s.inTx(ctx, func(tx *sqlx.Tx) error {
		var to string
		if err := tx.GetContext(ctx, &to, `SELECT id FROM workspaces WHERE name = ? ORDER BY id LIMIT 1`, workspace); err != nil {
			return found(err)
		}
		if err := addAccount(ctx, tx, a); err != nil {
			return err
		}
		if err := addMember(ctx, tx, to, a.ID, role, false); err != nil {
			return err
		}
		return link(ctx, tx, id, a.ID)
	})
}
