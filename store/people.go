package store

import (
	"context"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Ticket is an address that can be used once, until a time: to found the first workspace, to
// join one, or to set a password. Only a hash of its token is kept, so that whoever reads the
// database can use none.
type Ticket struct {
	ID          string    `db:"id"` // to speak of it, as when it is withdrawn
	Kind        string    `db:"kind"`
	WorkspaceID *string   `db:"workspace_id"`
	Workspace   string    `db:"workspace"` // its name
	AccountID   *string   `db:"account_id"`
	Email       string    `db:"email"` // whom it is for, where that is known
	Role        Role      `db:"role"`
	Owner       bool      `db:"owner"`
	MadeBy      string    `db:"made_by"`
	MadeAt      time.Time `db:"made_at"`
	UntilAt     time.Time `db:"until_at"`
}

// What a ticket is for.
const (
	ForFirstOwner = "owner"
	ForJoining    = "join"
	ForPassword   = "password"
	ForConnecting = "connect" // a platform registers itself
)

func hashOf(token string) string {
	h := sha256.Sum256([]byte(token))
	return hex.EncodeToString(h[:])
}

// AddTicket makes a ticket that holds for so long, and gives its token: the only time that it
// is known. Where there is one of the same kind for the same account it takes its place, and
// so it does with that for the first owner.
func (s *Store) AddTicket(ctx context.Context, t Ticket, long time.Duration) (token string, err error) {
	token = strings.ToLower(rand.Text())
	t.ID, t.MadeAt, t.UntilAt = NewID(), now(), now().Add(long)
	err = s.inTx(ctx, func(tx *sqlx.Tx) error {
		if t.Kind != ForJoining {
			if _, err := tx.ExecContext(ctx, `DELETE FROM tickets WHERE kind = ? AND account_id <=> ?`, t.Kind, t.AccountID); err != nil {
				return err
			}
		}
		_, err := tx.ExecContext(ctx, `INSERT INTO tickets (hash, id, kind, workspace_id, account_id, email, role, owner, made_by, made_at, until_at)
			VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)`, hashOf(token), t.ID, t.Kind, t.WorkspaceID, t.AccountID, t.Email, t.Role, t.Owner, t.MadeBy, t.MadeAt, t.UntilAt)
		return err
	})
	return token, err
}

const ticketColumns = `SELECT t.id, t.kind, t.workspace_id, COALESCE(w.name, '') AS workspace, t.account_id, t.email, t.role, t.owner, t.made_by, t.made_at, t.until_at
	FROM tickets t LEFT JOIN workspaces w ON w.id = t.workspace_id `

// Ticket finds the one with a token, if it still holds.
func (s *Store) Ticket(ctx context.Context, token string) (Ticket, error) {
	var t Ticket
	err := s.db.GetContext(ctx, &t, ticketColumns+`WHERE t.hash = ? AND t.until_at > ?`, hashOf(token), now())
	return t, found(err)
}

// Invitations lists who was invited and has not come yet, the latest first.
func (w Workspace) Invitations(ctx context.Context) ([]Ticket, error) {
	list := []Ticket{}
	err := w.s.db.SelectContext(ctx, &list, ticketColumns+`WHERE t.workspace_id = ? AND t.kind = 'join' AND t.until_at > ? ORDER BY t.made_at DESC, t.id`, w.id, now())
	return list, err
}

// Withdraw ends an invitation.
func (w Workspace) Withdraw(ctx context.Context, id string) error {
	r, err := w.s.db.ExecContext(ctx, `DELETE FROM tickets WHERE id = ? AND workspace_id = ? AND kind = 'join'`, id, w.id)
	return changedOne(r, err)
}

// DropTickets forgets those that hold no more.
func (s *Store) DropTickets(ctx context.Context) error {
	return s.dropSome(ctx, `tickets WHERE until_at < ?`, now())
}

// use takes a ticket, once, whoever else tries at the same time: ErrNotFound for the others.
func use(ctx context.Context, tx *sqlx.Tx, token, kind string) (t Ticket, err error) {
	if err := tx.GetContext(ctx, &t, ticketColumns+`WHERE t.hash = ? AND t.kind = ? AND t.until_at > ? FOR UPDATE`, hashOf(token), kind, now()); err != nil {
		return t, found(err)
	}
	_, err = tx.ExecContext(ctx, `DELETE FROM tickets WHERE id = ?`, t.ID)
	return t, err
}

// EndTicket uses one up.
func (s *Store) EndTicket(ctx context.Context, token string) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM tickets WHERE hash = ?`, hashOf(token))
	return err
}

// ErrTaken says that what is to be told apart by this is there already: an account with an
// address, a platform with a client.
var ErrTaken = errors.New("there is one of this name")

// FoundFirst uses a ticket to make the first workspace and its owner.
func (s *Store) FoundFirst(ctx context.Context, token, workspace string, a Account) (Account, error) {
	a.ID = NewID()
	return a, s.inTx(ctx, func(tx *sqlx.Tx) error {
		if _, err := use(ctx, tx, token, ForFirstOwner); err != nil {
			return err
		}
		id := NewID()
		if _, err := tx.ExecContext(ctx, `INSERT INTO workspaces (id, name) VALUES (?, ?)`, id, workspace); err != nil {
			return err
		}
		if err := addAccount(ctx, tx, a); err != nil {
			return err
		}
		return addMember(ctx, tx, id, a.ID, Designer, true)
	})
}

// Join uses a ticket to make an account a member of a workspace: a new one, or, where its ID
// is given, one that there is.
func (s *Store) Join(ctx context.Context, token string, a Account) (Account, Ticket, error) {
	var t Ticket
	known := a.ID != ""
	if !known {
		a.ID = NewID()
	}
	err := s.inTx(ctx, func(tx *sqlx.Tx) (err error) {
		if t, err = use(ctx, tx, token, ForJoining); err != nil {
			return err
		}
		if !known {
			if err := addAccount(ctx, tx, a); err != nil {
				return err
			}
		}
		return addMember(ctx, tx, *t.WorkspaceID, a.ID, t.Role, t.Owner)
	})
	return a, t, err
}

func addAccount(ctx context.Context, tx *sqlx.Tx, a Account) error {
	_, err := tx.NamedExecContext(ctx, `INSERT INTO accounts (id, email, name, password_hash) VALUES (:id, :email, :name, :password_hash)`, a)
	if duplicate(err) {
		return ErrTaken
	}
	return err
}

// addMember keeps what a member may already do where the new role is less.
func addMember(ctx context.Context, tx *sqlx.Tx, workspace, account string, role Role, owner bool) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO members (workspace_id, account_id, role, owner) VALUES (?, ?, ?, ?)
		ON DUPLICATE KEY UPDATE owner = owner OR VALUES(owner), role = IF(role = 'designer' OR role = 'reviewer' AND VALUES(role) = 'viewer', role, VALUES(role))`, workspace, account, role, owner)
	return err
}

// AccountByEmail finds an account, whether it is a member of a workspace or not.
func (s *Store) AccountByEmail(ctx context.Context, email string) (Account, error) {
	var a Account
	err := s.db.GetContext(ctx, &a, `SELECT id, email, name, password_hash FROM accounts WHERE email = ?`, email)
	return a, found(err)
}

// HasAccounts says whether anybody can sign in.
func (s *Store) HasAccounts(ctx context.Context) (some bool, err error) {
	err = s.db.GetContext(ctx, &some, `SELECT EXISTS (SELECT 1 FROM accounts)`)
	return some, err
}

// SetPassword sets a password; all sessions that began before end by it.
func (s *Store) SetPassword(ctx context.Context, account, hash string) error {
	if err := endVisits(ctx, s.db, account); err != nil {
		return err
	}
	_, err := s.db.ExecContext(ctx, `UPDATE accounts SET password_hash = ?, sessions_from = ? WHERE id = ?`, hash, now(), account)
	return err
}

// ResetPassword is SetPassword by a ticket.
func (s *Store) ResetPassword(ctx context.Context, token, hash string) (a Account, err error) {
	err = s.inTx(ctx, func(tx *sqlx.Tx) error {
		t, err := use(ctx, tx, token, ForPassword)
		if err != nil {
			return err
		}
		if err := endVisits(ctx, tx, *t.AccountID); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, `UPDATE accounts SET password_hash = ?, sessions_from = ? WHERE id = ?`, hash, now(), *t.AccountID); err != nil {
			return err
		}
		return tx.GetContext(ctx, &a, `SELECT id, email, name, password_hash FROM accounts WHERE id = ?`, *t.AccountID)
	})
	return a, err
}

// EndSessions ends all sessions of an account.
func (s *Store) EndSessions(ctx context.Context, account string) error {
	if err := endVisits(ctx, s.db, account); err != nil {
		return err
	}
	_, err := s.db.ExecContext(ctx, `UPDATE accounts SET sessions_from = ? WHERE id = ?`, now(), account)
	return err
}

// Rename changes an account's name.
func (s *Store) Rename(ctx context.Context, account, name string) error {
	_, err := s.db.ExecContext(ctx, `UPDATE accounts SET name = ? WHERE id = ?`, name, account)
	return err
}

// Seen notes that somebody is here; at most once a minute.
func (s *Store) Seen(ctx context.Context, account string) error {
	_, err := s.db.ExecContext(ctx, `UPDATE accounts SET seen_at = ? WHERE id = ? AND (seen_at IS NULL OR seen_at < ?)`, now(), account, now().Add(-time.Minute))
	return err
}

// Person is a member as the owners of a workspace see one.
type Person struct {
	ID     string     `db:"id"`
	Name   string     `db:"name"`
	Email  string     `db:"email"`
	Role   Role       `db:"role"`
	Owner  bool       `db:"owner"`
	SeenAt *time.Time `db:"seen_at"`
}

const personColumns = `SELECT a.id, a.name, a.email, m.role, m.owner, a.seen_at FROM members m JOIN accounts a ON a.id = m.account_id `

// People lists the members of a workspace by name.
func (w Workspace) People(ctx context.Context) ([]Person, error) {
	list := []Person{}
	err := w.s.db.SelectContext(ctx, &list, personColumns+`WHERE m.workspace_id = ? ORDER BY a.name, a.email`, w.id)
	return list, err
}

// Person finds one.
func (w Workspace) Person(ctx context.Context, account string) (Person, error) {
	var p Person
	err := w.s.db.GetContext(ctx, &p, personColumns+`WHERE m.workspace_id = ? AND a.id = ?`, w.id, account)
	return p, found(err)
}

// ErrLastOwner says that nobody would answer for the workspace any more.
var ErrLastOwner = errors.New("it is the last owner")

// SetRole changes what a member may do.
func (w Workspace) SetRole(ctx context.Context, account string, role Role, owner bool) error {
	return w.changeOwners(ctx, account, !owner, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `UPDATE members SET role = ?, owner = ? WHERE workspace_id = ? AND account_id = ?`, role, owner, w.id, account)
		return err
	})
}

// RemovePerson ends a membership. What the person made stays.
func (w Workspace) RemovePerson(ctx context.Context, account string) error {
	return w.changeOwners(ctx, account, true, func(tx *sqlx.Tx) error {
		_, err := tx.ExecContext(ctx, `DELETE FROM members WHERE workspace_id = ? AND account_id = ?`, w.id, account)
		return err
	})
}

// changeOwners does something to a member, one at a time in a workspace, so that of two
// owners who take each other's place away at once one stays.
func (w Workspace) changeOwners(ctx context.Context, account string, ends bool, do func(tx *sqlx.Tx) error) error {
	return w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		if err := guard(ctx, tx, guardOwners, w.id); err != nil {
			return err
		}
		var list []Person
		if err := tx.SelectContext(ctx, &list, personColumns+`WHERE m.workspace_id = ?`, w.id); err != nil {
			return err
		}
		is, others := false, 0
		for _, p := range list {
			if p.ID == account {
				is = true
				ends = ends && p.Owner
			} else if p.Owner {
				others++
			}
		}
		switch {
		case !is:
			return ErrNotFound
		case ends && others == 0:
			return ErrLastOwner
		}
		return do(tx)
	})
}

// Accounts lists everybody, for whoever runs the installation.
func (s *Store) Accounts(ctx context.Context) ([]Person, error) {
	list := []Person{}
	err := s.db.SelectContext(ctx, &list, `SELECT a.id, a.name, a.email, COALESCE(GROUP_CONCAT(CONCAT(w.name, ' (', IF(m.owner, 'owner', m.role), ')') ORDER BY w.name SEPARATOR ', '), '') AS role, FALSE AS owner, a.seen_at
		FROM accounts a LEFT JOIN members m ON m.account_id = a.id LEFT JOIN workspaces w ON w.id = m.workspace_id GROUP BY a.id ORDER BY a.email`)
	return list, err
}

// WorkspaceNamed finds a workspace by its name.
func (s *Store) WorkspaceNamed(ctx context.Context, name string) (id string, err error) {
	err = s.db.GetContext(ctx, &id, `SELECT id FROM workspaces WHERE name = ? ORDER BY id LIMIT 1`, name)
	return id, found(err)
}
