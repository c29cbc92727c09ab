package server_test

import (
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"strings"
	"testing"
	"time"

	"keenmagpie/identity"
	"keenmagpie/server"
	"keenmagpie/standin"
	"keenmagpie/store"
)

// school is an application with a provider beside it.
type school struct {
	t    *testing.T
	url  string
	st   *store.Store
	at   *standin.Provider
	idp  string
	here string // the workspace's id
}

func newSchool(t *testing.T, passwords bool, with func(*identity.Settings), people ...standin.Person) *school {
	t.Helper()
	t.Parallel()
	s := &school{t: t}
	idp := httptest.NewUnstartedServer(nil)
	s.idp = "http://" + idp.Listener.Addr().String()
	s.at = standin.NewProvider(s.idp, "North School", "magpie", "a secret", people...)
	idp.Config.Handler = s.at
	idp.Start()
	t.Cleanup(idp.Close)
	settings := identity.Settings{ID: "north", Name: "North School", Issuer: s.idp, ClientID: "magpie", ClientSecret: "a secret", Domains: []string{"school.example"}}
	if with != nil {
		with(&settings)
	}
	p, err := identity.New(settings)
	if err != nil {
		t.Fatal(err)
	}
	if err := db.Create(t.Context(), t.Name()); err != nil {
		t.Fatal(err)
	}
	if s.st, err = store.Open(t.Context(), db.DSN(t.Name())); err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = s.st.Close() })
	if err := s.st.Migrate(t.Context(), nil); err != nil {
		t.Fatal(err)
	}
	if s.here, err = s.st.AddWorkspace(t.Context(), "North School"); err != nil {
		t.Fatal(err)
	}
	web := httptest.NewUnstartedServer(nil)
	s.url = "http://" + web.Listener.Addr().String()
	web.Config.Handler = server.New(s.st, slog.New(slog.DiscardHandler), server.WithPublicURL(s.url), server.WithProviders([]*identity.Provider{p}, passwords))
	web.Start()
	t.Cleanup(web.Close)
	return s
}

// browser is somebody's, with cookies of its own.
func (s *school) browser() *http.Client {
	jar, _ := cookiejar.New(nil)
	return &http.Client{Jar: jar}
}

// signOn signs in as one of the provider's people (-1: nobody), and says where that ended.
func (s *school) signOn(b *http.Client, who int, query string) string {
	s.t.Helper()
	page, err := b.Get(s.url + "/api/session/with/north?" + query)
	if err != nil {
		s.t.Fatal(err)
	}
	_ = page.Body.Close()
	if !strings.HasPrefix(page.Request.URL.String(), s.idp+"/authorize") {
		return page.Request.URL.Path
	}
	chosen := ""
	if who >= 0 {
		chosen = string(rune('0' + who))
	}
	end, err := b.PostForm(page.Request.URL.String(), url.Values{"who": {chosen}})
	if err != nil {
		s.t.Fatal(err)
	}
	_ = end.Body.Close()
	return end.Request.URL.Path
}

func (s *school) get(b *http.Client, path string, into any) int {
	s.t.Helper()
	r, err := b.Get(s.url + path)
	if err != nil {
		s.t.Fatal(err)
	}
	defer r.Body.Close()
	body, err := io.ReadAll(r.Body)
	if err != nil {
		s.t.Fatal(err)
	}
	if r.StatusCode == 200 && into != nil {
		if err := json.Unmarshal(body, into); err != nil {
			s.t.Fatal(err)
		}
	}
	return r.StatusCode
}

// me is who a browser is, or the code of why it is nobody.
func (s *school) me(b *http.Client) string {
	s.t.Helper()
	var me server.Me
	if s.get(b, "/api/me", &me) == 200 {
		return me.Email + ", " + me.Role
	}
	var ways server.SignInWays
	s.get(b, "/api/session/ways", &ways)
	if ways.Problem == nil {
		return "nobody"
	}
	return ways.Problem.Code
}

var (
	lio = standin.Person{Subject: "1", Name: "Lio Sand", Email: "lio@school.example", Verified: true}
	kim = standin.Person{Subject: "2", Name: "Kim Reed", Email: "kim@school.example"}
	noa = standin.Person{Subject: "3", Name: "Noa Hill", Email: "noa@elsewhere.example", Verified: true}
)

// Whoever has an account comes in by a confirmed address that the provider speaks for, and
// stays the same person when that changes; whoever has none does not.
func TestSigningInWithAProvider(t *testing.T) {
	s := newSchool(t, true, nil, lio, kim, noa)
	for _, email := range []string{"lio@school.example", "kim@school.example", "noa@elsewhere.example"} {
		if _, err := s.st.In(s.here).AddMember(t.Context(), store.Account{Email: email, Name: "X", PasswordHash: "x"}, store.Designer); err != nil {
			t.Fatal(err)
		}
	}
	b := s.browser()
	if at := s.signOn(b, 0, "to=/activity/x%3Flens%3Dkey"); at != "/activity/x" || s.me(b) != "lio@school.example, designer" {
		t.Errorf("Lio is at %s, as %s", at, s.me(b))
	}
	for who, code := range map[int]string{1: "no-address", 2: "no-account", -1: "refused-there"} {
		b := s.browser()
		if at := s.signOn(b, who, "to=//evil.example/"); at != "/" {
			t.Errorf("%d ends at %s", who, at)
		}
		if got := s.me(b); got != code {
			t.Errorf("%d is %s, not %s", who, got, code)
		}
		if got := s.me(b); got != "nobody" {
			t.Errorf("%d is told twice: %s", who, got)
		}
	}
	s.at.People[0].Email, s.at.People[0].Verified = "married@school.example", false
	b = s.browser()
	s.signOn(b, 0, "")
	if got := s.me(b); got != "lio@school.example, designer" {
		t.Errorf("with another address Lio is %s", got)
	}
	// With new keys at the provider, too; with a key that it does not say is its own, not.
	s.at.Rotate()
	b = s.browser()
	s.signOn(b, 0, "")
	if got := s.me(b); got != "lio@school.example, designer" {
		t.Errorf("after new keys Lio is %s", got)
	}
	s.at.Foreign = true
	b = s.browser()
	s.signOn(b, 0, "")
	if got := s.me(b); got != "provider-invalid" {
		t.Errorf("with a foreign key Lio is %s", got)
	}
	s.at.Foreign = false
	for name, alter := range map[string]func(map[string]any){
		"for another application": func(c map[string]any) { c["aud"] = "other" },
		"of another provider":     func(c map[string]any) { c["iss"] = "https://evil.example" },
		"too old":                 func(c map[string]any) { c["exp"] = time.Now().Add(-time.Hour).Unix() },
		"to another question":     func(c map[string]any) { c["nonce"] = "n" },
	} {
		t.Run(name, func(t *testing.T) {
			s.at.Alter = alter
			b := s.browser()
			s.signOn(b, 0, "")
			if got := s.me(b); got != "provider-invalid" {
				t.Errorf("a token %s: %s", name, got)
			}
		})
	}
}

// The answer to a sign-in is good for the browser that began it, once.
func TestAnAnswerBelongsToOneBrowser(t *testing.T) {
	s := newSchool(t, true, nil, lio)
	if _, err := s.st.In(s.here).AddMember(t.Context(), store.Account{Email: "lio@school.example", Name: "Lio", PasswordHash: "x"}, store.Designer); err != nil {
		t.Fatal(err)
	}
	mine, victim := s.browser(), s.browser()
	var answer string
	mine.CheckRedirect = func(r *http.Request, _ []*http.Request) error {
		if r.URL.Path == "/api/session/back" {
			answer = r.URL.String()
			return http.ErrUseLastResponse
		}
		return nil
	}
	s.signOn(mine, 0, "")
	for name, b := range map[string]*http.Client{"another browser": victim} {
		if _, err := b.Get(answer); err != nil {
			t.Fatal(err)
		}
		if got := s.me(b); got != "stale" {
			t.Errorf("%s: %s", name, got)
		}
	}
	if _, err := mine.Get(answer); err != nil {
		t.Fatal(err)
	}
	if got := s.me(mine); got != "lio@school.example, designer" {
		t.Errorf("its own: %s", got)
	}
	again := s.browser()
	again.Jar = mine.Jar
	if _, err := again.Get(answer); err != nil {
		t.Fatal(err)
	}
	var ways server.SignInWays
	if s.get(again, "/api/session/ways", &ways); ways.Problem == nil || ways.Problem.Code != "stale" {
		t.Errorf("a second time: %+v", ways.Problem)
	}
}

// New people of a domain come in where the installation says so, as what it says; with an
// invitation, whoever it is for. Without passwords there is no other way.
func TestNewPeopleComeInThroughAProvider(t *testing.T) {
	s := newSchool(t, false, func(p *identity.Settings) { p.Workspace = "North School" }, lio, kim, noa)
	b := s.browser()
	s.signOn(b, 0, "")
	if got := s.me(b); got != "lio@school.example, viewer" {
		t.Errorf("Lio is %s", got)
	}
	for who, code := range map[int]string{1: "no-address", 2: "no-account"} {
		b := s.browser()
		s.signOn(b, who, "")
		if got := s.me(b); got != code {
			t.Errorf("%d is %s, not %s", who, got, code)
		}
	}
	invite := func(email string) string {
		t.Helper()
		token, err := s.st.AddTicket(t.Context(), store.Ticket{Kind: store.ForJoining, WorkspaceID: &s.here, Email: email, Role: store.Designer, MadeBy: "Ana"}, time.Hour)
		if err != nil {
			t.Fatal(err)
		}
		return token
	}
	token := invite("somebody@elsewhere.example")
	b = s.browser()
	if at := s.signOn(b, 2, "ticket="+token); at != "/join/"+token {
		t.Errorf("with an invitation for another, Noa is at %s", at)
	}
	if got := s.me(b); got != "for-another" {
		t.Errorf("with an invitation for another Noa is %s", got)
	}
	token = invite("noa@elsewhere.example")
	b = s.browser()
	if at := s.signOn(b, 2, "ticket="+token); at != "/" || s.me(b) != "noa@elsewhere.example, designer" {
		t.Errorf("invited, Noa is at %s, as %s", at, s.me(b))
	}
	b = s.browser()
	s.signOn(b, 2, "ticket="+token)
	if got := s.me(b); got != "no-ticket" {
		t.Errorf("an invitation used twice: %s", got)
	}
	b = s.browser()
	s.signOn(b, 2, "")
	if got := s.me(b); got != "noa@elsewhere.example, designer" {
		t.Errorf("Noa, who was invited, is %s", got)
	}
	r, err := b.Post(s.url+"/api/session", "application/json", strings.NewReader(`{"email":"lio@school.example","password":"x"}`))
	if err != nil {
		t.Fatal(err)
	}
	body, _ := io.ReadAll(r.Body)
	_ = r.Body.Close()
	if r.StatusCode != 403 || !strings.Contains(string(body), "no-passwords") {
		t.Errorf("a password: %d %s", r.StatusCode, body)
	}
}

// What a file of providers cannot mean is refused at the start.
func TestProvidersThatCannotBe(t *testing.T) {
	good := identity.Settings{ID: "north", Name: "North", Issuer: "https://id.example", ClientID: "magpie"}
	if _, err := identity.New(good); err != nil {
		t.Error(err)
	}
	for says, change := range map[string]func(*identity.Settings){
		"small letters":                func(s *identity.Settings) { s.ID = "North!" },
		"an https address":             func(s *identity.Settings) { s.Issuer = "http://id.example" },
		"client-id is":                 func(s *identity.Settings) { s.ClientID = "" },
		"domains are needed":           func(s *identity.Settings) { s.Workspace = "North School" },
		"viewer, reviewer or designer": func(s *identity.Settings) { s.Role = "owner" },
		"leave one out":                func(s *identity.Settings) { s.ClientSecret, s.SecretFile = "x", "y" },
		"on the button":                func(s *identity.Settings) { s.Name = "" },
		"no such file":                 func(s *identity.Settings) { s.SecretFile = "/nowhere" },
	} {
		t.Run(says, func(t *testing.T) {
			bad := good
			change(&bad)
			if _, err := identity.New(bad); err == nil || !strings.Contains(err.Error(), says) {
				t.Errorf("%s: %v", says, err)
			}
		})
	}
}

// One address cannot begin sign-ins without end: each is kept until it ends.
func TestSignInsThatAreBegun(t *testing.T) {
	s := newSchool(t, true, nil, lio)
	b := s.browser()
	for n := 1; ; n++ {
		status := s.get(b, "/api/session/with/north", nil)
		if status == 429 {
			return
		}
		if n > 1000 {
			t.Fatalf("the thousandth is answered %d", status)
		}
	}
}
