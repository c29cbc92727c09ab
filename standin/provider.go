// Package standin stands in, for tests and the demo, for what an installation has around it:
// a provider of identities, and a server that takes mail. It knows the standards alone and
// imports nothing of the application, so that it is a second reading of them.
package standin

import (
	"crypto/rand"
	"crypto/rsa"
	"crypto/sha256"
	"encoding/base64"
	"encoding/json"
	"html/template"
	"net/http"
	"net/url"
	"strings"
	"sync"
	"time"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
)

// Person is somebody whom the provider knows.
type Person struct {
	Subject  string
	Name     string
	Email    string
	Verified bool
}

// Provider is an OpenID provider that asks nobody for a password: one says who one is.
type Provider struct {
	Issuer string // its own address, without a slash at its end
	Name   string
	Client string // the one application that may ask
	Secret string
	People []Person

	mu    sync.Mutex
	key   *rsa.PrivateKey
	kid   string
	codes map[string]grant

	// Faults, for tests.
	Alter   func(claims map[string]any) // of the next token
	Foreign bool                        // it signs with a key that it does not publish
}

type grant struct {
	person           Person
	nonce, challenge string
	back             string
	ends             time.Time
}

// NewProvider makes a provider with a key of its own.
func NewProvider(issuer, name, client, secret string, people ...Person) *Provider {
	p := &Provider{Issuer: issuer, Name: name, Client: client, Secret: secret, People: people, codes: map[string]grant{}}
	p.Rotate()
	return p
}

// Rotate gives it a new key; tokens signed with the one before are good no more.
func (p *Provider) Rotate() {
	key, err := rsa.GenerateKey(rand.Reader, 2048)
	if err != nil {
		panic(err) // the machine has no randomness
	}
	p.mu.Lock()
	defer p.mu.Unlock()
	p.key, p.kid = key, rand.Text()
}

// ServeHTTP answers as a provider does.
func (p *Provider) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /.well-known/openid-configuration", p.describe)
	mux.HandleFunc("GET /keys", p.keys)
	mux.HandleFunc("GET /authorize", p.choose)
	mux.HandleFunc("POST /authorize", p.grant)
	mux.HandleFunc("POST /token", p.token)
	mux.ServeHTTP(w, r)
}

func answer(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(v)
}

func (p *Provider) describe(w http.ResponseWriter, _ *http.Request) {
	answer(w, 200, map[string]any{
		"issuer": p.Issuer, "authorization_endpoint": p.Issuer + "/authorize", "token_endpoint": p.Issuer + "/token", "jwks_uri": p.Issuer + "/keys",
		"response_types_supported": []string{"code"}, "subject_types_supported": []string{"public"}, "id_token_signing_alg_values_supported": []string{"RS256"},
		"code_challenge_methods_supported": []string{"S256"}, "scopes_supported": []string{"openid", "email", "profile"},
	})
}

func (p *Provider) keys(w http.ResponseWriter, _ *http.Request) {
	p.mu.Lock()
	defer p.mu.Unlock()
	answer(w, 200, jose.JSONWebKeySet{Keys: []jose.JSONWebKey{{Key: p.key.Public(), KeyID: p.kid, Algorithm: "RS256", Use: "sig"}}})
}

var choice = template.Must(template.New("").Parse(`<!doctype html><html lang="en"><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>{{.Name}}</title><style>body{font:16px/1.5 sans-serif;max-width:32rem;margin:3rem auto;padding:0 1rem;background:#fbf7ef;color:#2c2416}button{font:inherit;display:block;width:100%;text-align:left;
margin:.5rem 0;padding:.75rem 1rem;border:1px solid #a8926a;border-radius:4px;background:#fff;cursor:pointer}small{display:block;color:#6b5a3a}</style>
<h1>{{.Name}}</h1><p>This stands in for the sign-in of a school. Nobody is asked for a password: say who you are.</p>
<form method="post">{{range $i, $p := .People}}<button name="who" value="{{$i}}">{{.Name}}<small>{{.Email}}{{if not .Verified}} (not confirmed){{end}}</small></button>{{end}}
<button name="who" value="">Nobody: go back</button></form>`))

// asked reads and checks what the application asks for.
func (p *Provider) asked(r *http.Request) (q url.Values, fault string) {
	q = r.URL.Query()
	switch {
	case q.Get("client_id") != p.Client:
		return q, "this application is not registered here"
	case q.Get("response_type") != "code" || !strings.Contains(" "+q.Get("scope")+" ", " openid "):
		return q, "it must ask for a code, with the scope openid"
	case q.Get("code_challenge_method") != "S256" || q.Get("code_challenge") == "":
		return q, "it must send a code challenge of S256"
	case q.Get("state") == "" || q.Get("nonce") == "":
		return q, "it must send a state and a nonce"
	}
	return q, ""
}

func (p *Provider) choose(w http.ResponseWriter, r *http.Request) {
	if _, fault := p.asked(r); fault != "" {
		http.Error(w, fault, http.StatusBadRequest)
		return
	}
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	_ = choice.Execute(w, p)
}

func (p *Provider) grant(w http.ResponseWriter, r *http.Request) {
	q, fault := p.asked(r)
	back, err := url.Parse(q.Get("redirect_uri"))
	if fault != "" || err != nil {
		http.Error(w, fault, http.StatusBadRequest)
		return
	}
	says := url.Values{"state": {q.Get("state")}, "iss": {p.Issuer}}
	who := -1
	for i := range p.People {
		if r.FormValue("who") == string(rune('0'+i)) {
			who = i
		}
	}
	if who < 0 {
		says.Set("error", "access_denied")
	} else {
		code := rand.Text()
		p.mu.Lock()
		p.codes[code] = grant{p.People[who], q.Get("nonce"), q.Get("code_challenge"), back.String(), time.Now().Add(time.Minute)}
		p.mu.Unlock()
		says.Set("code", code)
	}
	back.RawQuery = says.Encode()
	http.Redirect(w, r, back.String(), http.StatusSeeOther)
}

func (p *Provider) token(w http.ResponseWriter, r *http.Request) {
	p.mu.Lock()
	defer p.mu.Unlock()
	id, secret, basic := r.BasicAuth()
	if !basic {
		id, secret = r.FormValue("client_id"), r.FormValue("client_secret")
	}
	if id != p.Client || secret != p.Secret {
		answer(w, 401, map[string]string{"error": "invalid_client"})
		return
	}
	g, is := p.codes[r.FormValue("code")]
	delete(p.codes, r.FormValue("code"))
	sum := sha256.Sum256([]byte(r.FormValue("code_verifier")))
	if !is || time.Now().After(g.ends) || r.FormValue("grant_type") != "authorization_code" || r.FormValue("redirect_uri") != g.back ||
		base64.RawURLEncoding.EncodeToString(sum[:]) != g.challenge {
		answer(w, 400, map[string]string{"error": "invalid_grant"})
		return
	}
	now := time.Now()
	claims := map[string]any{"iss": p.Issuer, "aud": p.Client, "sub": g.person.Subject, "nonce": g.nonce, "iat": now.Unix(), "exp": now.Add(5 * time.Minute).Unix(),
		"name": g.person.Name, "email": g.person.Email, "email_verified": g.person.Verified}
	if p.Alter != nil {
		p.Alter(claims)
		p.Alter = nil
	}
	key := p.key
	if p.Foreign {
		key, _ = rsa.GenerateKey(rand.Reader, 2048)
	}
	signer, err := jose.NewSigner(jose.SigningKey{Algorithm: jose.RS256, Key: jose.JSONWebKey{Key: key, KeyID: p.kid}}, (&jose.SignerOptions{}).WithType("JWT"))
	if err == nil {
		var raw string
		if raw, err = jwt.Signed(signer).Claims(claims).Serialize(); err == nil {
			answer(w, 200, map[string]any{"access_token": rand.Text(), "token_type": "Bearer", "expires_in": 300, "id_token": raw})
			return
		}
	}
	http.Error(w, err.Error(), http.StatusInternalServerError)
}
