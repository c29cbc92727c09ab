package server

import (
	"context"
	"errors"
	"net/http"
	"net/mail"
	"slices"
	"strings"
	"time"

	"keenmagpie/store"
)

// How long single-use addresses hold.
const (
	OwnerTicketHolds    = time.Hour
	PasswordTicketHolds = time.Hour
	InvitationHolds     = 7 * 24 * time.Hour
)

// Person is a member of the workspace.
type Person struct {
	ID     string     `json:"id"`
	Name   string     `json:"name"`
	Email  string     `json:"email"`
	Role   string     `json:"role" enum:"designer,reviewer,viewer"`
	Owner  bool       `json:"owner"`
	SeenAt *time.Time `json:"seenAt,omitempty" doc:"When they were last here"`
	Me     bool       `json:"me"`
}

// Invitation is one that nobody has used yet.
type Invitation struct {
	ID     string    `json:"id"`
	Email  string    `json:"email" doc:"Whom it is for; empty is whoever has the link"`
	Role   string    `json:"role" enum:"designer,reviewer,viewer"`
	Owner  bool      `json:"owner"`
	MadeBy string    `json:"madeBy"`
	Until  time.Time `json:"until"`
	// Link is there in the answer that makes it, and never again.
	Link string `json:"link,omitempty"`
	Sent bool   `json:"sent,omitempty" doc:"By mail, too"`
}

type peopleOutput struct {
	Body struct {
		People      []Person     `json:"people" nullable:"false"`
		Invitations []Invitation `json:"invitations" nullable:"false"`
	}
}

// MayDo is what a member may do.
type MayDo struct {
	Role  string `json:"role" enum:"designer,reviewer,viewer"`
	Owner bool   `json:"owner,omitempty"`
}

func (x MayDo) check() *Problem {
	if x.Owner && x.Role != string(store.Designer) {
		return &Problem{Status: 422, Code: "owner-designs", Detail: "An owner is a designer as well. Nothing was changed."}
	}
	return nil
}

type inviteInput struct {
	Body struct {
		MayDo
		Email string `json:"email,omitempty" maxLength:"200"`
	}
}

type invitationOutput struct{ Body Invitation }

type personInput struct {
	ID string `path:"id" maxLength:"40"`
}

type roleInput struct {
	ID   string `path:"id" maxLength:"40"`
	Body MayDo
}

type linkOutput struct {
	Body struct {
		Link  string    `json:"link" doc:"A path"`
		Until time.Time `json:"until"`
	}
}

func (s *Server) peopleRoutes() {
	owner(s, operation(http.MethodGet, "/api/people", "people", "The members of the workspace, and who is invited"), s.people)
	owner(s, created(operation(http.MethodPost, "/api/people/invitations", "invite", "Invite somebody into the workspace")), s.invite)
	withdraw := operation(http.MethodDelete, "/api/people/invitations/{id}", "withdrawInvitation", "Withdraw an invitation")
	withdraw.DefaultStatus = http.StatusNoContent
	owner(s, withdraw, func(ctx context.Context, m store.Member, in *personInput) (*struct{}, error) {
		return nil, s.store.In(m.WorkspaceID).Withdraw(ctx, in.ID)
	})
	owner(s, operation(http.MethodPut, "/api/people/{id}", "setRole", "Change what a member may do"),
		func(ctx context.Context, m store.Member, in *roleInput) (*peopleOutput, error) {
			if p := in.Body.check(); p != nil {
				return nil, p
			}
			if err := s.store.In(m.WorkspaceID).SetRole(ctx, in.ID, store.Role(in.Body.Role), in.Body.Owner); err != nil {
				return nil, ofPeople(err)
			}
			if in.ID == m.ID && !in.Body.Owner { // whoever hands over sees the list no more
				return &peopleOutput{}, nil
			}
			return s.people(ctx, m, nil)
		})
	remove := operation(http.MethodDelete, "/api/people/{id}", "removePerson", "Remove a member; what they made stays")
	remove.DefaultStatus = http.StatusNoContent
	owner(s, remove, func(ctx context.Context, m store.Member, in *personInput) (*struct{}, error) {
		return nil, ofPeople(s.store.In(m.WorkspaceID).RemovePerson(ctx, in.ID))
	})
	owner(s, created(operation(http.MethodPost, "/api/people/{id}/password", "passwordLink", "A link by which a member sets a new password")),
		func(ctx context.Context, m store.Member, in *personInput) (*linkOutput, error) {
			p, err := s.store.In(m.WorkspaceID).Person(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			if err := s.mayReset(ctx, m, p.ID); err != nil {
				return nil, err
			}
			token, err := s.store.AddTicket(ctx, store.Ticket{Kind: store.ForPassword, AccountID: &p.ID, Email: p.Email, MadeBy: m.Name}, PasswordTicketHolds)
			out := &linkOutput{}
			out.Body.Link, out.Body.Until = TicketPath(token), s.clock().Add(PasswordTicketHolds)
			return out, err
		})
}

// mayReset says whether an owner may make a link to somebody's account: only where that leads
// nowhere that the owner does not own, or one could get into others' workspaces by inviting
// their people.
func (s *Server) mayReset(ctx context.Context, m store.Member, account string) error {
	own, err := s.store.Memberships(ctx, m.ID)
	if err != nil {
		return err
	}
	theirs, err := s.store.Memberships(ctx, account)
	if err != nil {
		return err
	}
	for _, w := range theirs {
		if !slices.ContainsFunc(own, func(x store.Member) bool { return x.Owner && x.WorkspaceID == w.WorkspaceID }) {
			return &Problem{Status: 403, Code: "in-others-workspaces", Detail: "They are also in a workspace that you do not own, so their password is not yours to reset. Whoever runs this server can make a link: magpie account reset."}
		}
	}
	return nil
}

// TicketPath is where a ticket is used.
func TicketPath(token string) string { return "/join/" + token }

func ofPeople(err error) error {
	if errors.Is(err, store.ErrLastOwner) {
		return &Problem{Status: 409, Code: "last-owner", Detail: "A workspace needs an owner, and there is no other. Make somebody else an owner first; nothing was changed."}
	}
	return err
}

func (s *Server) people(ctx context.Context, m store.Member, _ *struct{}) (*peopleOutput, error) {
	list, err := s.store.In(m.WorkspaceID).People(ctx)
	if err != nil {
		return nil, err
	}
	invited, err := s.store.In(m.WorkspaceID).Invitations(ctx)
	if err != nil {
		return nil, err
	}
	out := &peopleOutput{}
	out.Body.People, out.Body.Invitations = make([]Person, len(list)), make([]Invitation, len(invited))
	for i, p := range list {
		out.Body.People[i] = Person{p.ID, p.Name, p.Email, string(p.Role), p.Owner, p.SeenAt, p.ID == m.ID}
	}
	for i, t := range invited {
		out.Body.Invitations[i] = Invitation{ID: t.ID, Email: t.Email, Role: string(t.Role), Owner: t.Owner, MadeBy: t.MadeBy, Until: t.UntilAt}
	}
	return out, nil
}

func (s *Server) invite(ctx context.Context, m store.Member, in *inviteInput) (*invitationOutput, error) {
	if p := in.Body.check(); p != nil {
		return nil, p
	}
	t := store.Ticket{Kind: store.ForJoining, WorkspaceID: &m.WorkspaceID, Role: store.Role(in.Body.Role), Owner: in.Body.Owner, MadeBy: m.Name}
	if in.Body.Email != "" {
		var p *Problem
		if t.Email, p = emailOf(in.Body.Email); p != nil {
			return nil, p
		}
	}
	token, err := s.store.AddTicket(ctx, t, InvitationHolds)
	if err != nil {
		return nil, err
	}
	kept, err := s.store.Ticket(ctx, token)
	if err != nil {
		return nil, err
	}
	sent := s.mail && kept.Email != ""
	if sent {
		err = s.invited(ctx, m, kept, token)
	}
	return &invitationOutput{Invitation{kept.ID, kept.Email, string(kept.Role), kept.Owner, kept.MadeBy, kept.UntilAt, TicketPath(token), sent}}, err
}

// emailOf is an address as accounts have it.
func emailOf(text string) (string, *Problem) {
	email := strings.ToLower(strings.TrimSpace(text))
	if a, err := mail.ParseAddress(email); err != nil || a.Address != email || len(email) > 200 {
		return "", &Problem{Status: 422, Code: "bad-email", Detail: "This is not an email address. Nothing was changed."}
	}
	return email, nil
}
