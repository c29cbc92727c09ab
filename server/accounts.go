package server

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/httprate"
	"golang.org/x/crypto/bcrypt"

	"keenmagpie/store"
)

// Me is who is signed in.
type Me struct {
	Name      string `json:"name"`
	Email     string `json:"email"`
	Workspace string `json:"workspace"`
	Role      string `json:"role" enum:"designer,viewer"`
}

type meOutput struct{ Body Me }

type signInInput struct {
	Body struct {
		Email    string `json:"email" maxLength:"200"`
		Password string `json:"password" maxLength:"200"`
	}
}

// HashPassword hashes a password for [store.Account]. bcrypt reads 72 bytes; a
// longer password is an error.
func HashPassword(password string) (string, error) {
	h, err := bcrypt.GenerateFromPassword([]byte(password), bcrypt.DefaultCost)
	return string(h), err
}

func (s *Server) accountRoutes() {
	// Compared with when there is no such account, for as long a wait as otherwise.
	const nobody = "$2a$10$mYRCfmvWQQLXlie/qO2tD.ag2EDf4FIRgsNjq0uBELA1YW1HtMsgu"
	tries := httprate.NewRateLimiter(20, time.Minute)
	signIn := operation(http.MethodPost, "/api/session", "signIn", "Sign in")
	open(s, signIn, func(ctx context.Context, in *signInInput) (*meOutput, error) {
		email := strings.ToLower(strings.TrimSpace(in.Body.Email))
		if tries.OnLimit(discard{http.Header{}}, (&http.Request{}).WithContext(ctx), email) {
			return nil, &Problem{Status: 429, Code: "too-many-tries", Detail: "There were many tries with this address. Wait a minute and try again."}
		}
		m, err := s.store.MemberByEmail(ctx, email)
		hash := m.PasswordHash
		if err == store.ErrNotFound {
			hash = nobody
		} else if err != nil {
			return nil, s.fail(err)
		}
		if bcrypt.CompareHashAndPassword([]byte(hash), []byte(in.Body.Password)) != nil || m.ID == "" {
			return nil, &Problem{Status: 401, Code: "wrong-sign-in", Detail: "No account has this address with this password. Check both and try again."}
		}
		if err := errors.Join(s.sessions.RenewToken(ctx), s.store.DropExpiredSessions(ctx)); err != nil {
			return nil, s.fail(err)
		}
		s.sessions.Put(ctx, "account", m.ID)
		return &meOutput{me(m)}, nil
	})
	member(s, operation(http.MethodGet, "/api/me", "me", "Who is signed in"),
		func(_ context.Context, m store.Member, _ *struct{}) (*meOutput, error) { return &meOutput{me(m)}, nil })
	signOut := operation(http.MethodDelete, "/api/session", "signOut", "Sign out")
	signOut.DefaultStatus = http.StatusNoContent
	open(s, signOut, func(ctx context.Context, _ *struct{}) (*struct{}, error) {
		return nil, s.fail(s.sessions.Destroy(ctx))
	})
}

func me(m store.Member) Me {
	return Me{Name: m.Name, Email: m.Email, Workspace: m.WorkspaceName, Role: string(m.Role)}
}

// discard takes the headers that the rate limiter writes.
type discard struct{ header http.Header }

func (d discard) Header() http.Header         { return d.header }
func (d discard) Write(b []byte) (int, error) { return len(b), nil }
func (d discard) WriteHeader(int)             {}

var _ huma.StatusError = (*Problem)(nil)
