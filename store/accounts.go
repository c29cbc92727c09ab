package store

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"
)

// Account is somebody who can sign in.
type Account struct {
	ID           string `db:"id"`
	Email        string `db:"email"`
	Name         string `db:"name"`
	PasswordHash string `db:"password_hash"`
	// SessionsFrom is before when all sessions are ended.
	SessionsFrom time.Time  `db:"sessions_from"`
	SeenAt       *time.Time `db:"seen_at"` // to the minute; nil: never
}

// Member is an account in a workspace, with what it may do there.
type Member struct {
	Account
	WorkspaceID   string `db:"workspace_id"`
	WorkspaceName string `db:"workspace_name"`
	Role          Role   `db:"role"`
	Owner         bool   `db:"owner"` // of the workspace: a designer who answers for it
	Privacy
}

// Role is what a member may do: a designer everything, a reviewer see and comment on drafts, a
// viewer see outcomes.
type Role string

// The roles.
const (
	Designer Role = "designer"
	Reviewer Role = "reviewer"
	Viewer   Role = "viewer"
)

// AddWorkspace makes a workspace and gives its id.
func (s *Store) AddWorkspace(ctx context.Context, name string) (string, error) {
	id := NewID()
	_, err := s.db.ExecContext(ctx, `INSERT INTO workspaces (id, name) VALUES (?, ?)`, id, name)
	return id, err
}

// AddMember makes an account and a member of the workspace of it. The first designer
// is the workspace's owner.
func (w Workspace) AddMember(ctx context.Context, a Account, role Role) (Member, error) {
	a.ID = NewID()
	err := w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.NamedExecContext(ctx, `INSERT INTO accounts (id, email, name, password_hash)
			VALUES (:id, :email, :name, :password_hash)`, a); err != nil {
			return err
		}
		owner := false
		if role == Designer {
			if err := tx.GetContext(ctx, &owner, `SELECT NOT EXISTS (SELECT 1 FROM members WHERE workspace_id = ? AND owner)`, w.id); err != nil {
				return err
			}
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO members (workspace_id, account_id, role, owner) VALUES (?, ?, ?, ?)`, w.id, a.ID, role, owner)
		return err
	})
	return Member{Account: a, WorkspaceID: w.id, Role: role}, err
}

const memberColumns = `SELECT a.id, a.email, a.name, a.password_hash, a.sessions_from, a.seen_at, m.role, m.owner, m.workspace_id, w.name AS workspace_name, w.names_for, w.names_days, w.least_group
	FROM accounts a JOIN members m ON m.account_id = a.id JOIN workspaces w ON w.id = m.workspace_id `

// MemberByEmail finds who signs in.
func (s *Store) MemberByEmail(ctx context.Context, email string) (Member, error) {
	var m Member
	err := s.db.GetContext(ctx, &m, memberColumns+`WHERE a.email = ? LIMIT 1`, email)
	return m, found(err)
}

// MemberByID finds who is signed in, in the workspace that they work in or, where
// they are in no such workspace, in another of theirs.
func (s *Store) MemberByID(ctx context.Context, account, workspace string) (Member, error) {
	var m Member
	err := s.db.GetContext(ctx, &m, memberColumns+`WHERE a.id = ? ORDER BY m.workspace_id = ? DESC, m.workspace_id LIMIT 1`, account, workspace)
	return m, found(err)
}

// Memberships lists a person's workspaces by name.
func (s *Store) Memberships(ctx context.Context, account string) ([]Member, error) {
	list := []Member{}
	err := s.db.SelectContext(ctx, &list, memberColumns+`WHERE a.id = ? ORDER BY w.name, m.workspace_id`, account)
	return list, err
}

// FoundWorkspace makes a workspace of which the account is the owner.
func (s *Store) FoundWorkspace(ctx context.Context, account, name string) (string, error) {
	id := NewID()
	err := s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := tx.ExecContext(ctx, `INSERT INTO workspaces (id, name) VALUES (?, ?)`, id, name); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO members (workspace_id, account_id, role, owner) VALUES (?, ?, ?, TRUE)`, id, account, Designer)
		return err
	})
	return id, err
}

// DropExpiredSessions forgets sessions that nobody can use any more.
func (s *Store) DropExpiredSessions(ctx context.Context) error {
	return s.dropSome(ctx, `sessions WHERE expiry < UTC_TIMESTAMP(6)`)
}
