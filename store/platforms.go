package store

import (
	"context"
	"errors"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Platform is a learning platform that a workspace is connected with.
type Platform struct {
	ID          string    `db:"id"`
	WorkspaceID string    `db:"workspace_id"`
	Name        string    `db:"name"`
	Issuer      string    `db:"issuer"`
	ClientID    string    `db:"client_id"`
	Deployed    string    `db:"deployments"` // one a line
	Auth        string    `db:"auth_url"`
	Token       string    `db:"token_url"`
	Keys        string    `db:"keys_url"`
	Confirmed   bool      `db:"confirmed"` // by an owner: nobody comes by it before
	AddedAt     time.Time `db:"added_at"`
}

// Deployments are those that may launch; none is yet to be known.
func (p Platform) Deployments() []string { return strings.Fields(p.Deployed) }

const platformColumns = `SELECT id, workspace_id, name, issuer, client_id, deployments, auth_url, token_url, keys_url, confirmed, added_at FROM platforms `

// Platforms lists those of a workspace by name.
func (w Workspace) Platforms(ctx context.Context) ([]Platform, error) {
	list := []Platform{}
	err := w.s.db.SelectContext(ctx, &list, platformColumns+`WHERE workspace_id = ? ORDER BY name, id`, w.id)
	return list, err
}

// Platform finds one in a workspace.
func (w Workspace) Platform(ctx context.Context, id string) (Platform, error) {
	var p Platform
	err := w.s.db.GetContext(ctx, &p, platformColumns+`WHERE workspace_id = ? AND id = ?`, w.id, id)
	return p, found(err)
}

// PlatformsOf lists the confirmed ones of an issuer, in whichever workspace; of all clients
// where none is named.
func (s *Store) PlatformsOf(ctx context.Context, issuer, client string) ([]Platform, error) {
	list := []Platform{}
	err := s.db.SelectContext(ctx, &list, platformColumns+`WHERE issuer = ? AND (? = '' OR client_id = ?) AND confirmed AND auth_url <> '' ORDER BY id`, issuer, client, client)
	return list, err
}

// PlatformByID finds one, in whichever workspace.
func (s *Store) PlatformByID(ctx context.Context, id string) (Platform, error) {
	var p Platform
	err := s.db.GetContext(ctx, &p, platformColumns+`WHERE id = ?`, id)
	return p, found(err)
}

// AddPlatform keeps a new one: ErrTaken where its issuer knows the client already.
func (w Workspace) AddPlatform(ctx context.Context, p Platform) (Platform, error) {
	p.ID, p.WorkspaceID, p.AddedAt = NewID(), w.id, now()
	_, err := w.s.db.NamedExecContext(ctx, `INSERT INTO platforms (id, workspace_id, name, issuer, client_id, deployments, auth_url, token_url, keys_url, confirmed, added_at)
		VALUES (:id, :workspace_id, :name, :issuer, :client_id, :deployments, :auth_url, :token_url, :keys_url, :confirmed, :added_at)`, p)
	if duplicate(err) {
		return p, ErrTaken
	}
	return p, err
}

// KeepPlatform changes one: its name, deployments, and whether it is confirmed.
func (w Workspace) KeepPlatform(ctx context.Context, p Platform) error {
	if _, err := w.Platform(ctx, p.ID); err != nil {
		return err
	}
	_, err := w.s.db.ExecContext(ctx, `UPDATE platforms SET name = ?, deployments = ?, confirmed = ? WHERE id = ? AND workspace_id = ?`, p.Name, p.Deployed, p.Confirmed, p.ID, w.id)
	return err
}

// Deploy notes the first deployment of a platform of which none was known; where one is known
// by now, it stays: ErrTaken.
func (s *Store) Deploy(ctx context.Context, platform, deployment string) error {
	r, err := s.db.ExecContext(ctx, `UPDATE platforms SET deployments = ? WHERE id = ? AND deployments = ''`, deployment, platform)
	if err == nil {
		if n, err := r.RowsAffected(); err != nil || n == 0 {
			return errors.Join(ErrTaken, err)
		}
	}
	return err
}

// DropPlatform ends a connection. What learners did stays, and is no longer sent.
func (w Workspace) DropPlatform(ctx context.Context, id string) error {
	if _, err := w.Platform(ctx, id); err != nil {
		return err
	}
	return w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		for _, do := range []string{
			`UPDATE outbox o JOIN arrivals a ON o.lane = CONCAT('arrival ', a.id) SET o.state = 'dropped' WHERE a.platform_id = ? AND o.state = 'waiting'`,
			`UPDATE sittings s JOIN arrivals a ON a.id = s.arrival_id SET s.arrival_id = NULL WHERE a.platform_id = ?`,
			`UPDATE runs s JOIN arrivals a ON a.id = s.arrival_id SET s.arrival_id = NULL WHERE a.platform_id = ?`,
			`DELETE FROM platforms WHERE id = ?`,
		} {
			if _, err := tx.ExecContext(ctx, do, id); err != nil {
				return err
			}
		}
		return nil
	})
}

// Login is one that has gone to a platform. It is good for one answer.
type Login struct {
	State      string    `db:"state"`
	Nonce      string    `db:"nonce"`
	Proof      string    `db:"proof"` // what the browser can show that it is the same
	PlatformID string    `db:"platform_id"`
	Storage    string    `db:"storage"` // where the platform keeps something for the page, or ""
	MadeAt     time.Time `db:"made_at"`
}

// LoginHolds is how long a login waits for its answer.
const LoginHolds = 10 * time.Minute

// AddLogin notes one.
func (s *Store) AddLogin(ctx context.Context, l Login) (Login, error) {
	l.State, l.Nonce, l.Proof, l.MadeAt = NewID(), NewID(), NewID(), now()
	_, err := s.db.NamedExecContext(ctx, `INSERT INTO platform_logins (state, nonce, proof, platform_id, storage, made_at) VALUES (:state, :nonce, :proof, :platform_id, :storage, :made_at)`, l)
	return l, err
}

// Login finds one that waits for its answer.
func (s *Store) Login(ctx context.Context, state string) (Login, error) {
	var l Login
	err := s.db.GetContext(ctx, &l, `SELECT state, nonce, proof, platform_id, storage, made_at FROM platform_logins WHERE state = ? AND made_at > ?`, state, now().Add(-LoginHolds))
	return l, found(err)
}

// UseLogin uses one up: ErrNotFound where another has.
func (s *Store) UseLogin(ctx context.Context, state string) error {
	r, err := s.db.ExecContext(ctx, `DELETE FROM platform_logins WHERE state = ?`, state)
	return changedOne(r, err)
}

// SealedKey is a key of the installation, encrypted.
type SealedKey struct {
	ID     string    `db:"id"`
	Sealed []byte    `db:"sealed"`
	MadeAt time.Time `db:"made_at"`
}

// ToolKeys lists those that there are, the newest first.
func (s *Store) ToolKeys(ctx context.Context) ([]SealedKey, error) {
	list := []SealedKey{}
	err := s.db.SelectContext(ctx, &list, `SELECT id, sealed, made_at FROM tool_keys ORDER BY made_at DESC, id DESC`)
	return list, err
}

// AddToolKey keeps a new one, unless there is one that was made since: then that is the newest.
func (s *Store) AddToolKey(ctx context.Context, k SealedKey, since time.Time) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error {
		if err := guard(ctx, tx, guardKeys, ""); err != nil {
			return err
		}
		var n int
		if err := tx.GetContext(ctx, &n, `SELECT COUNT(*) FROM tool_keys WHERE made_at > ?`, since); err != nil || n > 0 {
			return err
		}
		k.MadeAt = now()
		_, err := tx.NamedExecContext(ctx, `INSERT INTO tool_keys (id, sealed, made_at) VALUES (:id, :sealed, :made_at)`, k)
		return err
	})
}

// DropToolKeys forgets those that were made before a time, but never the newest.
func (s *Store) DropToolKeys(ctx context.Context, before time.Time) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM tool_keys WHERE made_at < ? AND made_at < (SELECT newest FROM (SELECT MAX(made_at) AS newest FROM tool_keys) k)`, before)
	return err
}
