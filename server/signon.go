package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"net/url"
	"strings"

	"keenmagpie/core/message"
	"keenmagpie/identity"
	"keenmagpie/store"
)

// WithProviders lets people sign in by what others say who they are. Without passwords, it is
// the only way.
func WithProviders(list []*identity.Provider, passwords bool) Option {
	return func(s *Server) { s.providers, s.noPasswords = list, !passwords }
}

// SignInWays are how one can sign in.
type SignInWays struct {
	Passwords bool             `json:"passwords"`
	Passkeys  bool             `json:"passkeys"`
	Mail      bool             `json:"mail" doc:"Whoever forgot a password can have a link sent"`
	Providers []SignInProvider `json:"providers" nullable:"false"`
	Problem   *Problem         `json:"problem,omitempty" doc:"Why the last try of this browser let nobody in; it is told once"`
}

// SignInProvider is one that says who somebody is.
type SignInProvider struct {
	ID   string `json:"id"`
	Name string `json:"name"`
}

type waysOutput struct{ Body SignInWays }

type signOnInput struct {
	Provider string `path:"provider" maxLength:"60"`
	To       string `query:"to" maxLength:"2000" doc:"Where to go then, within the application"`
	Ticket   string `query:"ticket" maxLength:"60" doc:"An invitation that is to be used by it"`
}

type answerInput struct {
	State string `query:"state" maxLength:"200"`
	Code  string `query:"code" maxLength:"4000"`
	Error string `query:"error" maxLength:"200"`
}

type elsewhere struct {
	Status   int
	Location string `header:"Location"`
}

// journey is a sign-in that has gone to a provider, as the browser's session keeps it.
type journey struct {
	identity.Trip
	To     string
	Ticket string
}

func (s *Server) signOnRoutes() {
	open(s, operation(http.MethodGet, "/api/session/ways", "signInWays", "How one can sign in"),
		func(ctx context.Context, _ *struct{}) (*waysOutput, error) {
			out := &waysOutput{SignInWays{Passwords: !s.noPasswords, Passkeys: s.relying != nil, Mail: s.mail, Providers: []SignInProvider{}}}
			for _, p := range s.providers {
				out.Body.Providers = append(out.Body.Providers, SignInProvider{p.ID, p.Name})
			}
			if kept := s.sessions.PopString(ctx, "refusal"); kept != "" {
				out.Body.Problem = new(Problem)
				return out, json.Unmarshal([]byte(kept), out.Body.Problem)
			}
			return out, nil
		})
	open(s, operation(http.MethodGet, "/api/session/with/{provider}", "signOn", "Go to a provider to sign in"), s.signOn)
	open(s, operation(http.MethodGet, "/api/session/back", "signedOn", "Come back from a provider"), s.signedOn)
}

func (s *Server) provider(id string) *identity.Provider {
	for _, p := range s.providers {
		if p.ID == id {
			return p
		}
	}
	return nil
}

func (s *Server) back() string { return s.public + "/api/session/back" }

// ownAddress is an address of the application, whatever else somebody wrote there.
func (s *Server) ownAddress(to string) string {
	u, err := url.Parse(to)
	if err != nil || u.Host != "" || u.Scheme != "" || !strings.HasPrefix(to, "/") || strings.HasPrefix(to, "//") || strings.Contains(to, `\`) {
		to = "/"
	}
	return s.base + to
}

func (s *Server) signOn(ctx context.Context, in *signOnInput) (*elsewhere, error) {
	p := s.provider(in.Provider)
	if p == nil {
		return nil, notFound("This way to sign in")
	}
	if err := within(ctx, s.signIns, "sign-ins"); err != nil {
		return nil, err
	}
	address, trip, err := p.Ask(ctx, s.back())
	if err != nil {
		return s.turnBack(ctx, journey{To: in.To, Ticket: in.Ticket}, p, err)
	}
	kept, err := json.Marshal(journey{trip, in.To, in.Ticket})
	if err != nil {
		return nil, err
	}
	s.sessions.Put(ctx, "journey", string(kept))
	return &elsewhere{http.StatusSeeOther, address}, nil
}

func (s *Server) signedOn(ctx context.Context, in *answerInput) (*elsewhere, error) {
	var j journey
	kept := s.sessions.PopString(ctx, "journey") // it is good for one answer
	if kept != "" {
		if err := json.Unmarshal([]byte(kept), &j); err != nil {
			return nil, err
		}
	}
	p := s.provider(j.Provider)
	switch {
	case p == nil:
		return s.turnBack(ctx, j, p, identity.ErrStale)
	case in.Error != "" && in.State == j.State:
		return s.turnBack(ctx, j, p, errRefusedThere)
	}
	who, err := p.Answer(ctx, s.back(), j.Trip, in.State, in.Code)
	if err != nil {
		return s.turnBack(ctx, j, p, err)
	}
	a, workspace, err := s.accountFor(ctx, p, who, j.Ticket)
	if err != nil {
		return s.turnBack(ctx, j, p, err)
	}
	m, err := s.store.MemberByID(ctx, a.ID, workspace)
	if errors.Is(err, store.ErrNotFound) {
		err = noWorkspace()
	}
	if err != nil {
		return s.turnBack(ctx, j, p, err)
	}
	known(ctx, m.ID)
	to := j.To
	if j.Ticket != "" {
		to = "/"
	}
	return &elsewhere{http.StatusSeeOther, s.ownAddress(to)}, s.enter(ctx, m, workspace)
}

var errRefusedThere = errors.New("the provider let nobody in")

// accountFor finds whose account somebody's is, or makes one for those who are let in: by an
// identity that came before, by a ticket, by an address that the provider speaks for, or as
// one of its people who come in by themselves.
func (s *Server) accountFor(ctx context.Context, p *identity.Provider, who identity.Person, ticket string) (a store.Account, workspace string, err error) {
	id := store.Identity{Issuer: who.Issuer, Subject: who.Subject}
	a, err = s.store.AccountOf(ctx, id)
	if err == nil && ticket == "" || err != nil && !errors.Is(err, store.ErrNotFound) {
		return a, "", err
	}
	theirs := who.Email != "" && p.SpeaksFor(who.Email)
	if a.ID == "" && theirs {
		if a, err = s.store.AccountByEmail(ctx, who.Email); err == nil {
			err = s.store.Link(ctx, id, a.ID)
		}
		if err != nil && !errors.Is(err, store.ErrNotFound) || err == nil && ticket == "" {
			return a, "", err
		}
	}
	fresh := a.ID == ""
	if fresh {
		a = store.Account{Email: who.Email, Name: cmp.Or(who.Name, who.Email)}
	}
	switch {
	case ticket != "":
		a, workspace, err = s.redeem(ctx, ticket, a, who)
		if err == nil && fresh {
			err = s.store.Link(ctx, id, a.ID)
		}
		return a, workspace, err
	case who.Email == "":
		return a, "", said(403, "no-address", "{provider} does not say that an email address is yours, so nobody can be told apart by it. Confirm your address there, then sign in again.", message.P{"provider": p.Name})
	case theirs && p.Workspace != "" && len(p.Domains) > 0:
		a, err = s.store.ComeIn(ctx, id, a, p.Workspace, store.Role(p.Role))
		if errors.Is(err, store.ErrNotFound) {
			s.log.Error("new people cannot come in: the workspace named for them is not there", "provider", p.ID)
			err = said(403, "no-workspace", "The workspace for new people of {provider} is not there. Tell whoever runs Keen Magpie for you.", message.P{"provider": p.Name})
		}
		return a, "", err
	}
	return a, "", said(403, "no-account", "{provider} knows you, and there is no account here for your address. Ask the owner of a workspace to invite you.", message.P{"provider": p.Name})
}

// redeem uses a ticket for somebody whom a provider knows.
func (s *Server) redeem(ctx context.Context, token string, a store.Account, who identity.Person) (store.Account, string, error) {
	t, err := s.ticket(ctx, token)
	switch {
	case err != nil:
		return a, "", err
	case t.Kind != store.ForJoining:
		return a, "", noTicket()
	case a.Email == "":
		return a, "", &Problem{Status: 403, Code: "no-address", Detail: "Your email address is not confirmed there. Confirm it, then open the invitation again."}
	case t.Email != "" && t.Email != a.Email && t.Email != who.Email:
		return a, "", &Problem{Status: 403, Code: "for-another", Detail: "This invitation is for another address than the one you signed in with."}
	}
	a, t, err = s.store.Join(ctx, token, a)
	switch {
	case errors.Is(err, store.ErrNotFound):
		return a, "", noTicket()
	case errors.Is(err, store.ErrTaken):
		return a, "", &Problem{Status: 409, Code: "taken", Detail: "There is an account with your address already, and this provider does not speak for it. Sign in with its password, then open the invitation again."}
	case err != nil:
		return a, "", err
	}
	return a, *t.WorkspaceID, nil
}

// turnBack sends the browser back to where it can sign in, which tells once why nobody did.
func (s *Server) turnBack(ctx context.Context, j journey, p *identity.Provider, err error) (*elsewhere, error) {
	name := "The provider"
	if p != nil {
		name = p.Name
	}
	var known *Problem
	switch {
	case errors.As(err, &known):
	case errors.Is(err, errRefusedThere):
		known = said(403, "refused-there", "You were not signed in at {provider}. Try again, or sign in another way.", message.P{"provider": name})
	case errors.Is(err, identity.ErrStale):
		known = &Problem{Status: 403, Code: "stale", Detail: "That sign-in took too long, or began in another browser. Sign in again."}
	case errors.Is(err, identity.ErrAway):
		known = said(502, "provider-away", "{provider} does not answer at the moment. Try again in a minute.", message.P{"provider": name})
	case errors.Is(err, identity.ErrInvalid):
		known = said(502, "provider-invalid", "What {provider} answered could not be trusted, so nobody is signed in. Try again; if it stays so, tell whoever runs Keen Magpie for you.", message.P{"provider": name})
	default:
		known = s.problem(ctx, "signOn", err)
	}
	if p != nil && known.Code != "refused-there" {
		s.log.Warn("nobody signed in", "provider", p.ID, "code", known.Code, "error", err.Error())
	}
	kept, err := json.Marshal(known)
	if err != nil {
		return nil, err
	}
	s.sessions.Put(ctx, "refusal", string(kept))
	to := j.To
	if j.Ticket != "" {
		to = TicketPath(j.Ticket)
	}
	return &elsewhere{http.StatusSeeOther, s.ownAddress(to)}, nil
}

func noWorkspace() *Problem {
	return &Problem{Status: 403, Code: "no-workspace", Detail: "Your account belongs to no workspace. Ask the owner of one to invite you."}
}

// passwordsOff is why a password is of no use here, or nil.
func (s *Server) passwordsOff() *Problem {
	if !s.noPasswords {
		return nil
	}
	return &Problem{Status: 403, Code: "no-passwords", Detail: "Passwords are not used here. Sign in with one of the buttons."}
}
