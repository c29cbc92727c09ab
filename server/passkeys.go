package server

import (
	"cmp"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"errors"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"

	"github.com/go-webauthn/webauthn/protocol"
	"github.com/go-webauthn/webauthn/webauthn"

	"keenmagpie/store"
)

// Passkey is one of a person's own.
type Passkey struct {
	ID     string     `json:"id"`
	Name   string     `json:"name"`
	MadeAt time.Time  `json:"madeAt"`
	UsedAt *time.Time `json:"usedAt,omitempty"`
}

type passkeysOutput struct {
	Body struct {
		Passkeys []Passkey `json:"passkeys" nullable:"false"`
	}
}

type optionsOutput struct {
	Body struct {
		Options any `json:"options" doc:"For the browser, as WebAuthn has them"`
	}
}

type passkeyInput struct {
	Body struct {
		Name       string `json:"name,omitempty" maxLength:"100"`
		Credential any    `json:"credential" doc:"What the browser answered, as WebAuthn has it"`
	}
}

type ownPasskeyInput struct {
	ID string `path:"passkey" maxLength:"64"`
}

// relying is this server as passkeys know it, or nil where it has no name: browsers make none
// for a bare network address, nor without https but on the machine itself.
func relying(public string) *webauthn.WebAuthn {
	u, err := url.Parse(public)
	if err != nil || u.Hostname() == "" || net.ParseIP(u.Hostname()) != nil || u.Scheme != "https" && u.Hostname() != "localhost" {
		return nil
	}
	w, err := webauthn.New(&webauthn.Config{RPID: u.Hostname(), RPDisplayName: "Keen Magpie", RPOrigins: []string{u.Scheme + "://" + u.Host}})
	if err != nil {
		return nil
	}
	return w
}

// holder is an account as the library asks for it.
type holder struct {
	store.Account
	list []store.Passkey
}

func (h holder) WebAuthnID() []byte          { return []byte(h.ID) }
func (h holder) WebAuthnName() string        { return h.Email }
func (h holder) WebAuthnDisplayName() string { return h.Name }
func (h holder) WebAuthnCredentials() []webauthn.Credential {
	out := make([]webauthn.Credential, 0, len(h.list))
	for _, p := range h.list {
		var c webauthn.Credential
		if json.Unmarshal([]byte(p.Credential), &c) == nil {
			out = append(out, c)
		}
	}
	return out
}

func (s *Server) holder(ctx context.Context, a store.Account) (holder, error) {
	list, err := s.store.Passkeys(ctx, a.ID)
	return holder{a, list}, err
}

func keyID(c *webauthn.Credential) string {
	h := sha256.Sum256(c.ID)
	return hex.EncodeToString(h[:])
}

func badPasskey() *Problem {
	return &Problem{Status: 403, Code: "bad-passkey", Detail: "This passkey was not accepted here. Try again, or sign in another way."}
}

// mostPasskeys is how many one account may have.
const mostPasskeys = 20

func (s *Server) passkeyRoutes() {
	member(s, operation(http.MethodGet, "/api/me/passkeys", "passkeys", "One's own passkeys"), s.ownPasskeys)
	member(s, operation(http.MethodPost, "/api/me/passkeys/options", "passkeyOptions", "Begin to add a passkey"), s.passkeyOptions)
	member(s, created(operation(http.MethodPost, "/api/me/passkeys", "addPasskey", "Add a passkey")), s.addPasskey)
	drop := operation(http.MethodDelete, "/api/me/passkeys/{passkey}", "dropPasskey", "Take a passkey away")
	drop.DefaultStatus = http.StatusNoContent
	member(s, drop, func(ctx context.Context, m store.Member, in *ownPasskeyInput) (*struct{}, error) {
		return nil, s.store.DropPasskey(ctx, m.ID, in.ID)
	})
	open(s, operation(http.MethodPost, "/api/session/passkey/options", "passkeyQuestion", "Begin to sign in with a passkey"),
		func(ctx context.Context, _ *struct{}) (*optionsOutput, error) {
			if s.relying == nil {
				return nil, notFound("This way to sign in")
			}
			if err := within(ctx, s.signIns, "sign-ins"); err != nil {
				return nil, err
			}
			options, kept, err := s.relying.BeginDiscoverableLogin(webauthn.WithUserVerification(protocol.VerificationRequired))
			if err != nil {
				return nil, err
			}
			out := &optionsOutput{}
			out.Body.Options = options.Response
			return out, s.keepCeremony(ctx, kept)
		})
	open(s, operation(http.MethodPost, "/api/session/passkey", "signInByPasskey", "Sign in with a passkey"), s.signInByPasskey)
}

// keepCeremony keeps what an answer must fit in the browser's session; it is good for one.
func (s *Server) keepCeremony(ctx context.Context, kept *webauthn.SessionData) error {
	text, err := json.Marshal(kept)
	if err == nil {
		s.sessions.Put(ctx, "ceremony", string(text))
	}
	return err
}

// ceremony is what an answer must fit, and the answer.
func (s *Server) ceremony(ctx context.Context, in *passkeyInput) (kept webauthn.SessionData, answer []byte, err error) {
	text := s.sessions.PopString(ctx, "ceremony")
	if text == "" || s.relying == nil {
		return kept, nil, badPasskey()
	}
	answer, err = json.Marshal(in.Body.Credential)
	return kept, answer, errors.Join(err, json.Unmarshal([]byte(text), &kept))
}

func (s *Server) ownPasskeys(ctx context.Context, m store.Member, _ *struct{}) (*passkeysOutput, error) {
	list, err := s.store.Passkeys(ctx, m.ID)
	out := &passkeysOutput{}
	out.Body.Passkeys = make([]Passkey, len(list))
	for i, p := range list {
		out.Body.Passkeys[i] = Passkey{p.ID, p.Name, p.MadeAt, p.UsedAt}
	}
	return out, err
}

func (s *Server) passkeyOptions(ctx context.Context, m store.Member, _ *struct{}) (*optionsOutput, error) {
	if s.relying == nil {
		return nil, notFound("This way to sign in")
	}
	h, err := s.holder(ctx, m.Account)
	if err != nil {
		return nil, err
	}
	if len(h.list) >= mostPasskeys {
		return nil, &Problem{Status: 409, Code: "many-passkeys", Detail: "You have twenty passkeys. Take one away that you use no more, then add another."}
	}
	options, kept, err := s.relying.BeginRegistration(h,
		webauthn.WithAuthenticatorSelection(protocol.AuthenticatorSelection{ResidentKey: protocol.ResidentKeyRequirementRequired, UserVerification: protocol.VerificationRequired}),
		webauthn.WithExclusions(webauthn.Credentials(h.WebAuthnCredentials()).CredentialDescriptors()))
	if err != nil {
		return nil, err
	}
	out := &optionsOutput{}
	out.Body.Options = options.Response
	return out, s.keepCeremony(ctx, kept)
}

func (s *Server) addPasskey(ctx context.Context, m store.Member, in *passkeyInput) (*passkeysOutput, error) {
	kept, raw, err := s.ceremony(ctx, in)
	if err != nil {
		return nil, err
	}
	answer, err := protocol.ParseCredentialCreationResponseBytes(raw)
	if err != nil {
		return nil, badPasskey()
	}
	h, err := s.holder(ctx, m.Account)
	if err != nil {
		return nil, err
	}
	c, err := s.relying.CreateCredential(h, kept, answer)
	if err != nil {
		return nil, badPasskey()
	}
	text, err := json.Marshal(c)
	if err != nil {
		return nil, err
	}
	name := cmp.Or(strings.Join(strings.Fields(in.Body.Name), " "), deviceOf(agent(ctx)))
	err = s.store.AddPasskey(ctx, store.Passkey{ID: keyID(c), Account: m.ID, Name: name, Credential: string(text)})
	if errors.Is(err, store.ErrTaken) {
		return nil, badPasskey()
	}
	if err != nil {
		return nil, err
	}
	return s.ownPasskeys(ctx, m, nil)
}

func (s *Server) signInByPasskey(ctx context.Context, in *passkeyInput) (*meOutput, error) {
	kept, raw, err := s.ceremony(ctx, in)
	if err != nil {
		return nil, err
	}
	answer, err := protocol.ParseCredentialRequestResponseBytes(raw)
	if err != nil {
		return nil, badPasskey()
	}
	var m store.Member
	_, c, err := s.relying.ValidatePasskeyLogin(func(_, account []byte) (webauthn.User, error) {
		if m, err = s.store.MemberByID(ctx, string(account), ""); err != nil {
			return nil, err
		}
		return s.holder(ctx, m.Account)
	}, kept, answer)
	if err != nil || c.Authenticator.CloneWarning {
		return nil, badPasskey()
	}
	text, err := json.Marshal(c)
	if err != nil {
		return nil, err
	}
	if err := s.store.UsedPasskey(ctx, keyID(c), string(text)); err != nil {
		return nil, err
	}
	if err := s.enter(ctx, m, ""); err != nil {
		return nil, err
	}
	return s.me(ctx, m)
}
