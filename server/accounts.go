package server

import (
	"cmp"
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/store"
)

// Me is who is signed in.
type Me struct {
	Name      string `json:"name"`
	Email     string `json:"email"`
	Workspace string `json:"workspace"`
	Role      string `json:"role" enum:"designer,reviewer,viewer"`
	Owner     bool   `json:"owner" doc:"Of the workspace"`
	Password  bool   `json:"password" doc:"Has one; else signs in by a provider alone"`
	// Workspaces are all that this person is a member of.
	Workspaces []Workspace `json:"workspaces" nullable:"false"`
}

// Workspace is one that a person is a member of.
type Workspace struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Role string `json:"role" enum:"designer,reviewer,viewer"`
	Here bool   `json:"here"`
}

type workspaceInput struct {
	Body struct {
		ID string `json:"id" maxLength:"40"`
	}
}

type foundInput struct {
	Body struct {
		Name string `json:"name" minLength:"1" maxLength:"200"`
	}
}

type meOutput struct{ Body Me }

type signInInput struct {
	Body struct {
		Email    string `json:"email" maxLength:"200"`
		Password string `json:"password" maxLength:"200"`
	}
}

type renameInput struct {
	Body struct {
		Name string `json:"name" minLength:"1" maxLength:"200"`
	}
}

type passwordInput struct {
	Body struct {
		Old string `json:"old" maxLength:"400"`
		New string `json:"new" maxLength:"400"`
	}
}

func (s *Server) accountRoutes() {
	// Compared with when there is no such account, for as long a wait as otherwise.
	const nobody = "$2a$10$mYRCfmvWQQLXlie/qO2tD.ag2EDf4FIRgsNjq0uBELA1YW1HtMsgu"
	signIn := operation(http.MethodPost, "/api/session", "signIn", "Sign in")
	open(s, signIn, func(ctx context.Context, in *signInInput) (*meOutput, error) {
		if p := s.passwordsOff(); p != nil {
			return nil, p
		}
		email := strings.ToLower(strings.TrimSpace(in.Body.Email))
		defer s.tries.oneByOne(ctx)()
		if err := s.tries.may(ctx, passwordTry, email); err != nil {
			return nil, err
		}
		m, err := s.store.MemberByEmail(ctx, email)
		hash := m.PasswordHash
		if errors.Is(err, store.ErrNotFound) {
			err = nil
		}
		hash = cmp.Or(hash, nobody)
		if err != nil {
			return nil, err
		}
		is, err := s.isPassword(ctx, hash, in.Body.Password)
		if err != nil {
			return nil, err
		}
		if !is || m.ID == "" {
			if err := s.tries.inVain(ctx, passwordTry, email); err != nil {
				return nil, err
			}
			return nil, &Problem{Status: 401, Code: "wrong-sign-in", Detail: "No account has this address with this password. Check both and try again."}
		}
		if err := s.enter(ctx, m, ""); err != nil {
			return nil, err
		}
		return s.me(ctx, m)
	})
	member(s, operation(http.MethodGet, "/api/me", "me", "Who is signed in"),
		func(ctx context.Context, m store.Member, _ *struct{}) (*meOutput, error) { return s.me(ctx, m) })
	member(s, operation(http.MethodPut, "/api/session/workspace", "goToWorkspace", "Go to another workspace"),
		func(ctx context.Context, m store.Member, in *workspaceInput) (*meOutput, error) {
			to, err := s.store.MemberByID(ctx, m.ID, in.Body.ID)
			if err != nil || to.WorkspaceID != in.Body.ID {
				return nil, errors.Join(err, notFound("This workspace"))
			}
			s.sessions.Put(ctx, "workspace", to.WorkspaceID)
			return s.me(ctx, to)
		})
	designer(s, created(operation(http.MethodPost, "/api/workspaces", "foundWorkspace", "Make a workspace, and go there")),
		func(ctx context.Context, m store.Member, in *foundInput) (*meOutput, error) {
			id, err := s.store.FoundWorkspace(ctx, m.ID, in.Body.Name)
			if err != nil {
				return nil, err
			}
			s.sessions.Put(ctx, "workspace", id)
			to, err := s.store.MemberByID(ctx, m.ID, id)
			if err != nil {
				return nil, err
			}
			return s.me(ctx, to)
		})
	member(s, operation(http.MethodPut, "/api/me", "rename", "Change one's own name"),
		func(ctx context.Context, m store.Member, in *renameInput) (*meOutput, error) {
			name := strings.Join(strings.Fields(in.Body.Name), " ")
			if name == "" {
				return nil, &Problem{Status: 422, Code: "no-name", Detail: "Give your name, so that others know who changed something. Nothing was changed."}
			}
			if err := s.store.Rename(ctx, m.ID, name); err != nil {
				return nil, err
			}
			m.Name = name
			return s.me(ctx, m)
		})
	password := operation(http.MethodPut, "/api/me/password", "setPassword", "Change one's own password; all other sessions end")
	password.DefaultStatus = http.StatusNoContent
	member(s, password, s.setPassword)
	out := operation(http.MethodDelete, "/api/me/sessions", "signOutEverywhere", "End all sessions of one's own but this")
	out.DefaultStatus = http.StatusNoContent
	member(s, out, func(ctx context.Context, m store.Member, _ *struct{}) (*struct{}, error) {
		if err := s.store.EndSessions(ctx, m.ID); err != nil {
			return nil, err
		}
		return nil, s.enter(ctx, m, m.WorkspaceID)
	})
	signOut := operation(http.MethodDelete, "/api/session", "signOut", "Sign out")
	signOut.DefaultStatus = http.StatusNoContent
	open(s, signOut, func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		if visit := s.sessions.GetString(ctx, "visit"); visit != "" {
			if err := s.store.EndVisit(ctx, s.sessions.GetString(ctx, "account"), visit); err != nil && !errors.Is(err, store.ErrNotFound) {
				return nil, err
			}
		}
		return nil, s.sessions.Destroy(ctx)
	})
}

// enter begins a session, in a workspace or, with "", in any.
func (s *Server) enter(ctx context.Context, m store.Member, workspace string) error {
	if err := s.sessions.RenewToken(ctx); err != nil {
		return err
	}
	if before := s.sessions.GetString(ctx, "visit"); before != "" { // of whoever was here
		if err := s.store.EndVisit(ctx, s.sessions.GetString(ctx, "account"), before); err != nil && !errors.Is(err, store.ErrNotFound) {
			return err
		}
	}
	visit, err := s.store.AddVisit(ctx, store.Visit{Account: m.ID, Device: deviceOf(agent(ctx)), Place: address(ctx)})
	if err != nil {
		return err
	}
	s.sessions.Put(ctx, "account", m.ID)
	s.sessions.Put(ctx, "visit", visit)
	s.sessions.Put(ctx, "since", time.Now().UnixMilli())
	if workspace != "" {
		s.sessions.Put(ctx, "workspace", workspace)
	}
	return nil
}

func (s *Server) setPassword(ctx context.Context, m store.Member, in *passwordInput) (*struct{}, error) {
	defer s.tries.oneByOne(ctx)()
	if err := s.tries.may(ctx, passwordTry, m.Email); err != nil {
		return nil, err
	}
	is, err := s.isPassword(ctx, m.PasswordHash, in.Body.Old)
	if err != nil {
		return nil, err
	}
	if !is {
		if err := s.tries.inVain(ctx, passwordTry, m.Email); err != nil {
			return nil, err
		}
		return nil, &Problem{Status: 403, Code: "wrong-password", Detail: "This is not your password now. Nothing was changed."}
	}
	hash, err := s.newPassword(ctx, in.Body.New, m.Email, m.Name)
	if err != nil {
		return nil, err
	}
	if err := s.store.SetPassword(ctx, m.ID, hash); err != nil {
		return nil, err
	}
	return nil, s.enter(ctx, m, m.WorkspaceID)
}

func (s *Server) me(ctx context.Context, m store.Member) (*meOutput, error) {
	list, err := s.store.Memberships(ctx, m.ID)
	if err != nil {
		return nil, err
	}
	me := Me{Name: m.Name, Email: m.Email, Workspace: m.WorkspaceName, Role: string(m.Role), Owner: m.Owner, Password: m.PasswordHash != "" && !s.noPasswords, Workspaces: []Workspace{}}
	for _, w := range list {
		me.Workspaces = append(me.Workspaces, Workspace{w.WorkspaceID, w.WorkspaceName, string(w.Role), w.WorkspaceID == m.WorkspaceID})
	}
	return &meOutput{me}, nil
}

var (
	_ huma.StatusError  = (*Problem)(nil)
	_ huma.HeadersError = (*Problem)(nil)
)
