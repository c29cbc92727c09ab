package server

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strings"
	"time"

	"keenmagpie/store"
)

// WithMail says that mail goes out: invitations are sent, and whoever forgot a password gets
// a link.
func WithMail(goes bool) Option { return func(s *Server) { s.mail = goes } }

type forgottenInput struct {
	Body struct {
		Email string `json:"email" maxLength:"200"`
	}
}

func (s *Server) letterRoutes() {
	op := operation(http.MethodPost, "/api/session/forgotten", "forgotPassword", "Have a link for a new password sent; the answer is the same for everybody")
	op.DefaultStatus = http.StatusNoContent
	open(s, op, func(ctx context.Context, in *forgottenInput) (*struct{}, error) {
		if p := s.passwordsOff(); p != nil {
			return nil, p
		}
		if !s.mail {
			return nil, &Problem{Status: 404, Code: "no-mail", Detail: "No mail goes out from here. Ask the owner of your workspace for a link to set a new password."}
		}
		email := strings.ToLower(strings.TrimSpace(in.Body.Email))
		defer s.tries.oneByOne(ctx)()
		if err := s.tries.may(ctx, mailTry, email); err != nil {
			return nil, err
		}
		// Each counts, so that nobody is sent many, and nobody learns who has an account.
		if err := s.tries.inVain(ctx, mailTry, email); err != nil {
			return nil, err
		}
		a, err := s.store.AccountByEmail(ctx, email)
		if errors.Is(err, store.ErrNotFound) {
			return nil, nil
		}
		if err != nil {
			return nil, err
		}
		token, err := s.store.AddTicket(ctx, store.Ticket{Kind: store.ForPassword, AccountID: &a.ID, Email: a.Email, MadeBy: a.Name}, PasswordTicketHolds)
		if err != nil {
			return nil, err
		}
		return nil, s.write(ctx, a.Email, PasswordTicketHolds, "A new password for Keen Magpie", fmt.Sprintf(`Hello %s,

Here you can choose a new password. The link works once, for an hour:

%s

If you did not ask for it, do nothing: your password stays as it is.`, a.Name, s.public+TicketPath(token)))
	})
}

// invited sends an invitation to whom it is for.
func (s *Server) invited(ctx context.Context, m store.Member, t store.Ticket, token string) error {
	return s.write(ctx, t.Email, InvitationHolds, fmt.Sprintf("%s invites you to %s", m.Name, m.WorkspaceName), fmt.Sprintf(`Hello,

%s invites you to the workspace %s in Keen Magpie. The link works once, until %s:

%s

If you do not know why, do nothing: nobody is told.`, m.Name, m.WorkspaceName, t.UntilAt.Format("2 January 2006"), s.public+TicketPath(token)))
}

func (s *Server) write(ctx context.Context, to string, useful time.Duration, subject, body string) error {
	return s.store.AddLetter(ctx, store.Letter{To: to, Subject: strings.Join(strings.Fields(subject), " "), Body: body}, useful)
}
