// Package identity signs people in by OpenID Connect: whom a school's own provider says they
// are. It knows nothing of accounts; what somebody may do is for whoever asks.
//
// A sign-in goes out with [Provider.Ask] and comes back to [Provider.Answer]. What binds the
// two is a [Trip], which belongs to one browser and is good for one answer.
package identity

import (
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"net"
	"net/http"
	"net/mail"
	"net/url"
	"os"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/BurntSushi/toml"
	"github.com/coreos/go-oidc/v3/oidc"
	"golang.org/x/oauth2"
)

// Settings are those of one provider, as the file has them.
type Settings struct {
	// ID names it in addresses: small letters, digits and hyphens.
	ID string `toml:"id"`
	// Name is what people know it by.
	Name         string `toml:"name"`
	Issuer       string `toml:"issuer"`
	ClientID     string `toml:"client-id"`
	ClientSecret string `toml:"client-secret"`
	// SecretFile holds the secret instead.
	SecretFile string `toml:"client-secret-file"`
	// Domains are those of the addresses that it speaks for; none is all of them.
	Domains []string `toml:"domains"`
	// Workspace is where new people of these domains come in by themselves, by its name; ""
	// lets in nobody who has no account and no invitation.
	Workspace string `toml:"workspace"`
	// Role is what they may do there: viewer, unless it says reviewer or designer.
	Role string `toml:"role"`
}

// Read reads a file of providers, each a table [[provider]], and refuses what cannot be meant.
func Read(file string) ([]*Provider, error) {
	var is struct {
		Provider []Settings `toml:"provider"`
	}
	found, err := toml.DecodeFile(file, &is)
	if err != nil {
		return nil, fmt.Errorf("the providers of sign-in could not be read: %w", err)
	}
	if unknown := found.Undecoded(); len(unknown) > 0 {
		return nil, fmt.Errorf("%s: there is no setting %q", file, unknown[0])
	}
	if len(is.Provider) == 0 {
		return nil, fmt.Errorf("%s names no provider: each is a table [[provider]] with id, name, issuer, client-id and client-secret-file", file)
	}
	var list []*Provider
	for i, s := range is.Provider {
		p, err := New(s)
		if err != nil {
			return nil, fmt.Errorf("%s, provider %d: %w", file, i+1, err)
		}
		if slices.ContainsFunc(list, func(q *Provider) bool { return q.ID == p.ID || q.Issuer == p.Issuer && q.ClientID == p.ClientID }) {
			return nil, fmt.Errorf("%s: the provider %q stands there twice", file, p.ID)
		}
		list = append(list, p)
	}
	return list, nil
}

// Provider is one that people can sign in with. It is safe for use by many at once.
type Provider struct {
	Settings
	mu    sync.Mutex
	found *oidc.Provider
	until time.Time
	web   *http.Client
}

// New makes a provider; nothing is asked of it before somebody signs in.
func New(s Settings) (*Provider, error) {
	issuer, err := url.Parse(s.Issuer)
	here := err == nil && (issuer.Hostname() == "localhost" || net.ParseIP(issuer.Hostname()).IsLoopback())
	switch {
	case s.ID == "" || strings.Trim(s.ID, "abcdefghijklmnopqrstuvwxyz0123456789-") != "":
		return nil, errors.New("id must be small letters, digits and hyphens, as north-school")
	case s.Name == "":
		return nil, errors.New("name is missing: it stands on the button, as \"North School\"")
	case err != nil || issuer.Scheme != "https" && !here:
		return nil, errors.New("issuer must be an https address, as the provider says it of itself")
	case s.ClientID == "":
		return nil, errors.New("client-id is missing: the provider gives it when this application is registered there")
	case s.ClientSecret != "" && s.SecretFile != "":
		return nil, errors.New("client-secret and client-secret-file are both given: leave one out")
	case s.Role != "" && s.Role != "viewer" && s.Role != "reviewer" && s.Role != "designer":
		return nil, errors.New("role must be viewer, reviewer or designer")
	case s.Workspace != "" && len(s.Domains) == 0:
		return nil, errors.New("with a workspace, domains are needed: whoever has an account at the provider would come in")
	}
	if s.SecretFile != "" {
		text, err := os.ReadFile(s.SecretFile)
		if err != nil {
			return nil, err
		}
		s.ClientSecret = strings.TrimSpace(string(text))
	}
	if s.Role == "" {
		s.Role = "viewer"
	}
	for i, d := range s.Domains {
		s.Domains[i] = strings.ToLower(strings.TrimPrefix(d, "@"))
	}
	return &Provider{Settings: s, web: &http.Client{Timeout: 10 * time.Second}}, nil
}

// Trip is one sign-in on its way: what its answer must fit. It is kept where only the browser
// that began it can come back to it, and used once.
type Trip struct {
	Provider string
	State    string
	Nonce    string
	Verifier string // of PKCE
	Ends     time.Time
}

// tripTime is how long somebody may take at the provider.
const tripTime = 20 * time.Minute

// ErrAway says that the provider does not answer.
var ErrAway = errors.New("the provider of the sign-in does not answer")

// described is for how long what a provider says of itself is taken to hold. Its keys are
// asked for again whenever one is not known.
const described = time.Hour

func (p *Provider) discover(ctx context.Context) (*oidc.Provider, error) {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.found != nil && time.Now().Before(p.until) {
		return p.found, nil
	}
	// What is made here outlives the request, and keeps the client for its keys.
	found, err := oidc.NewProvider(oidc.ClientContext(context.WithoutCancel(ctx), p.web), p.Issuer)
	if err != nil {
		if p.found != nil {
			return p.found, nil
		}
		return nil, errors.Join(ErrAway, err)
	}
	p.found, p.until = found, time.Now().Add(described)
	return found, nil
}

func (p *Provider) config(found *oidc.Provider, back string) *oauth2.Config {
	return &oauth2.Config{ClientID: p.ClientID, ClientSecret: p.ClientSecret, Endpoint: found.Endpoint(), RedirectURL: back, Scopes: []string{oidc.ScopeOpenID, "email", "profile"}}
}

// Ask begins a sign-in, whose answer comes to the address back: it gives where to send the
// browser.
func (p *Provider) Ask(ctx context.Context, back string) (address string, t Trip, err error) {
	found, err := p.discover(ctx)
	if err != nil {
		return "", t, err
	}
	t = Trip{p.ID, rand.Text(), rand.Text(), oauth2.GenerateVerifier(), time.Now().Add(tripTime)}
	return p.config(found, back).AuthCodeURL(t.State, oidc.Nonce(t.Nonce), oauth2.S256ChallengeOption(t.Verifier)), t, nil
}

// Person is somebody as the provider knows them.
type Person struct {
	Issuer  string
	Subject string // names them at the issuer, for good
	Email   string // in small letters; "" where it is not said to be theirs
	Name    string // "" where it is not said
}

// Errors of an answer.
var (
	ErrStale   = errors.New("the answer belongs to no sign-in of this browser, or comes too late")
	ErrInvalid = errors.New("the provider's answer is not valid")
)

// Answer takes the answer to a sign-in. Whatever of it does not fit is [ErrStale] or
// [ErrInvalid]; both mean that nobody is signed in.
func (p *Provider) Answer(ctx context.Context, back string, t Trip, state, code string) (Person, error) {
	if t.State == "" || state != t.State || t.Provider != p.ID || time.Now().After(t.Ends) {
		return Person{}, ErrStale
	}
	found, err := p.discover(ctx)
	if err != nil {
		return Person{}, err
	}
	ctx = oidc.ClientContext(ctx, p.web)
	tokens, err := p.config(found, back).Exchange(ctx, code, oauth2.VerifierOption(t.Verifier))
	var refused *oauth2.RetrieveError
	if err != nil && !errors.As(err, &refused) {
		return Person{}, errors.Join(ErrAway, err)
	}
	if err != nil {
		return Person{}, errors.Join(ErrInvalid, err)
	}
	raw, _ := tokens.Extra("id_token").(string)
	token, err := found.Verifier(&oidc.Config{ClientID: p.ClientID}).Verify(ctx, raw)
	if err != nil {
		return Person{}, errors.Join(ErrInvalid, err)
	}
	if token.Nonce != t.Nonce {
		return Person{}, fmt.Errorf("%w: it answers another question", ErrInvalid)
	}
	var says struct {
		Email    string `json:"email"`
		Verified any    `json:"email_verified"` // some send it as a text
		Name     string `json:"name"`
	}
	if err := token.Claims(&says); err != nil {
		return Person{}, errors.Join(ErrInvalid, err)
	}
	who := Person{Issuer: token.Issuer, Subject: token.Subject, Name: strings.Join(strings.Fields(says.Name), " ")}
	if email := strings.ToLower(strings.TrimSpace(says.Email)); says.Verified == true || says.Verified == "true" {
		if a, err := mail.ParseAddress(email); err == nil && a.Address == email {
			who.Email = email
		}
	}
	return who, nil
}

// SpeaksFor says whether an address is of the provider's domains.
func (p *Provider) SpeaksFor(email string) bool {
	_, domain, is := strings.Cut(email, "@")
	return is && (len(p.Domains) == 0 || slices.Contains(p.Domains, domain))
}
