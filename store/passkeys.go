package store

import (
	"context"
	"time"
)

// Passkey is what is known of one: nothing of it is secret.
type Passkey struct {
	ID         string     `db:"id"` // SHA-256 of the credential's own id, in hexadecimal
	Account    string     `db:"account_id"`
	Name       string     `db:"name"`
	Credential string     `db:"credential"` // as JSON
	MadeAt     time.Time  `db:"made_at"`
	UsedAt     *time.Time `db:"used_at"` // nil: never
}

// AddPasskey keeps a passkey: ErrTaken where it is known already, whoever's it is.
func (s *Store) AddPasskey(ctx context.Context, p Passkey) error {
	p.MadeAt = now()
	_, err := s.db.NamedExecContext(ctx, `INSERT INTO passkeys (id, account_id, name, credential, made_at) VALUES (:id, :account_id, :name, :credential, :made_at)`, p)
	if duplicate(err) {
		return ErrTaken
	}
	return err
}

// Passkeys lists those of an account, the latest first.
func (s *Store) Passkeys(ctx context.Context, account string) ([]Passkey, error) {
	list := []Passkey{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, account_id, name, credential, made_at, used_at FROM passkeys WHERE account_id = ? ORDER BY made_at DESC, id`, account)
	return list, err
}

// UsedPasskey notes that a passkey was used, and how it then counted.
func (s *Store) UsedPasskey(ctx context.Context, id, credential string) error {
	_, err := s.db.ExecContext(ctx, `UPDATE passkeys SET used_at = ?, credential = ? WHERE id = ?`, now(), credential, id)
	return err
}

// DropPasskey takes one of an account away.
func (s *Store) DropPasskey(ctx context.Context, account, id string) error {
	r, err := s.db.ExecContext(ctx, `DELETE FROM passkeys WHERE id = ? AND account_id = ?`, id, account)
	return changedOne(r, err)
}
