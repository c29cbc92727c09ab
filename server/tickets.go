package server

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"keenmagpie/core/message"
	"keenmagpie/store"
)

// Ticket is what a single-use address is for.
type Ticket struct {
	Kind      string    `json:"kind" enum:"owner,join,password"`
	Workspace string    `json:"workspace" doc:"Its name; empty where there is none yet"`
	Email     string    `json:"email" doc:"Whom it is for; empty is whoever has it"`
	Role      string    `json:"role"`
	MadeBy    string    `json:"madeBy"`
	Until     time.Time `json:"until"`
	// Known is whether there is an account with that address.
	Known bool `json:"known"`
}

type ticketInput struct {
	Token string `path:"token" maxLength:"60"`
}

type ticketOutput struct{ Body Ticket }

type useInput struct {
	Token string `path:"token" maxLength:"60"`
	Body  struct {
		Name      string `json:"name,omitempty" maxLength:"200"`
		Email     string `json:"email,omitempty" maxLength:"200"`
		Password  string `json:"password,omitempty" maxLength:"400" doc:"A new one; of an account that there is, its own. Left out, whoever is signed in joins"`
		Workspace string `json:"workspace,omitempty" maxLength:"200" doc:"Of the first owner: its name"`
	}
}

func (s *Server) ticketRoutes() {
	open(s, operation(http.MethodGet, "/api/tickets/{token}", "ticket", "What a single-use address is for"),
		func(ctx context.Context, in *ticketInput) (*ticketOutput, error) {
			t, err := s.ticket(ctx, in.Token)
			if err != nil {
				return nil, err
			}
			out := &ticketOutput{Ticket{Kind: t.Kind, Workspace: t.Workspace, Email: t.Email, Role: string(t.Role), MadeBy: t.MadeBy, Until: t.UntilAt}}
			if t.Email != "" {
				_, err := s.store.AccountByEmail(ctx, t.Email)
				if out.Body.Known = err == nil; err != nil && !errors.Is(err, store.ErrNotFound) {
					return nil, err
				}
			}
			return out, nil
		})
	open(s, operation(http.MethodPost, "/api/tickets/{token}", "useTicket", "Use a single-use address: found, join, or set a password; it signs in"), s.useTicket)
}

func (s *Server) ticket(ctx context.Context, token string) (store.Ticket, error) {
	t, err := s.store.Ticket(ctx, token)
	if errors.Is(err, store.ErrNotFound) {
		return t, noTicket()
	}
	return t, err
}

func noTicket() *Problem {
	return &Problem{Status: 404, Code: "no-ticket", Detail: "This link has been used, withdrawn, or has expired. Ask for a new one."}
}

func (s *Server) useTicket(ctx context.Context, in *useInput) (*meOutput, error) {
	t, err := s.ticket(ctx, in.Token)
	if err != nil {
		return nil, err
	}
	if p := s.passwordsOff(); p != nil && in.Body.Password != "" && t.Kind != store.ForFirstOwner {
		return nil, p
	}
	var a store.Account
	switch t.Kind {
	case store.ForPassword:
		hash, err := s.newPassword(ctx, in.Body.Password, t.Email)
		if err != nil {
			return nil, err
		}
		a, err = s.store.ResetPassword(ctx, in.Token, hash)
		return s.come(ctx, a, "", err)
	case store.ForFirstOwner:
		workspace := strings.TrimSpace(in.Body.Workspace)
		if workspace == "" {
			return nil, &Problem{Status: 422, Code: "no-workspace-name", Detail: "Give the workspace a name, such as that of your school. Nothing was made."}
		}
		if a, err = s.newAccount(ctx, t, in); err != nil {
			return nil, err
		}
		a, err = s.store.FoundFirst(ctx, in.Token, workspace, a)
		return s.come(ctx, a, "", err)
	}
	if a, err = s.whoJoins(ctx, t, in); err != nil {
		return nil, err
	}
	a, t, err = s.store.Join(ctx, in.Token, a)
	to := ""
	if t.WorkspaceID != nil {
		to = *t.WorkspaceID
	}
	return s.come(ctx, a, to, err)
}

// whoJoins is a new account, or one that there is: of whoever is signed in, or by its own
// password.
func (s *Server) whoJoins(ctx context.Context, t store.Ticket, in *useInput) (store.Account, error) {
	if in.Body.Password == "" {
		m, err := s.signedIn(ctx)
		if err == nil && t.Email != "" && m.Email != t.Email {
			err = said(403, "for-another", "This invitation is for {address}. Sign out first, and open the link again.", message.P{"address": t.Email})
		}
		return m.Account, err
	}
	email := t.Email
	if email == "" {
		var p *Problem
		if email, p = emailOf(in.Body.Email); p != nil {
			return store.Account{}, p
		}
	}
	known, err := s.store.AccountByEmail(ctx, email)
	if errors.Is(err, store.ErrNotFound) {
		return s.newAccount(ctx, t, in)
	}
	if err != nil {
		return known, err
	}
	defer s.tries.oneByOne(ctx)()
	if err := s.tries.may(ctx, passwordTry, email); err != nil {
		return known, err
	}
	is, err := s.isPassword(ctx, known.PasswordHash, in.Body.Password)
	if err != nil {
		return known, err
	}
	if !is {
		if err := s.tries.inVain(ctx, passwordTry, email); err != nil {
			return known, err
		}
		return known, &Problem{Status: 401, Code: "wrong-sign-in", Detail: "There is an account with this address, and this is not its password. Nothing was changed."}
	}
	return known, nil
}

func (s *Server) newAccount(ctx context.Context, t store.Ticket, in *useInput) (a store.Account, err error) {
	a.Email, a.Name = t.Email, strings.Join(strings.Fields(in.Body.Name), " ")
	if a.Email == "" {
		var p *Problem
		if a.Email, p = emailOf(in.Body.Email); p != nil {
			return a, p
		}
	}
	if a.Name == "" {
		return a, &Problem{Status: 422, Code: "no-name", Detail: "Give your name, so that others know who changed something. Nothing was made."}
	}
	a.PasswordHash, err = s.newPassword(ctx, in.Body.Password, a.Email, a.Name)
	return a, err
}

// come signs in whoever has used a ticket.
func (s *Server) come(ctx context.Context, a store.Account, workspace string, err error) (*meOutput, error) {
	switch {
	case errors.Is(err, store.ErrNotFound):
		return nil, noTicket() // another was quicker
	case errors.Is(err, store.ErrTaken):
		return nil, &Problem{Status: 409, Code: "taken", Detail: "There is an account with this address already. Sign in with it; nothing was made."}
	case err != nil:
		return nil, err
	}
	m, err := s.store.MemberByID(ctx, a.ID, workspace)
	if errors.Is(err, store.ErrNotFound) { // what was asked for is done
		return nil, noWorkspace()
	}
	if err != nil {
		return nil, err
	}
	if err := s.enter(ctx, m, workspace); err != nil {
		return nil, err
	}
	return s.me(ctx, m)
}
