package server_test

import (
	"net/http"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"keenmagpie/server"
	"keenmagpie/store"
)

type people struct {
	People      []server.Person
	Invitations []server.Invitation
}

// Somebody is invited, joins, is made more and less, and removed: at once, with all that they
// made still there.
func TestPeople(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	_, body := ana.ask("POST", "/api/people/invitations", map[string]any{"email": "Lio@cobblelane.example", "role": "designer"})
	made := read[server.Invitation](t, body)
	use := "/api/tickets/" + strings.TrimPrefix(made.Link, "/join/")
	if made.Email != "lio@cobblelane.example" || !strings.HasPrefix(made.Link, "/join/") || time.Until(made.Until) < 6*24*time.Hour {
		t.Fatalf("invited: %+v", made)
	}
	lio := s.browser(1)
	if _, body := lio.ask("GET", use, nil); !strings.Contains(body, `"workspace":"Cobble Lane Cycle Workshop"`) || !strings.Contains(body, `"known":false`) {
		t.Errorf("what it is for: %s", body)
	}
	for name, c := range map[string]struct {
		body map[string]string
		code string
	}{
		"no name":        {map[string]string{"password": "rattling-mudguard-song"}, "no-name"},
		"a short one":    {map[string]string{"name": "Lio", "password": "a1!b2?c"}, "short-password"},
		"a common one":   {map[string]string{"name": "Lio", "password": "password123"}, "easy-password"},
		"one's own name": {map[string]string{"name": "Lio Marsh", "password": "lio@cobblelane.example"}, "easy-password"},
		"a long one":     {map[string]string{"name": "Lio", "password": strings.Repeat("mudguard ", 30)}, "long-password"},
		"signed in not":  {map[string]string{"name": "Lio"}, "not-signed-in"},
	} {
		t.Run(name, func(t *testing.T) {
			if code, body := lio.ask("POST", use, c.body); code < 400 || !strings.Contains(body, `"`+c.code+`"`) {
				t.Errorf("%s: %d %s", name, code, body)
			}
		})
	}
	if code, body := lio.ask("POST", use, map[string]string{"name": " Lio  Marsh ", "password": "rattling-mudguard-song", "email": "else@where.example"}); code != 200 || !strings.Contains(body, `"name":"Lio Marsh","email":"lio@cobblelane.example"`) {
		t.Fatalf("joined: %d %s", code, body)
	}
	if code, body := s.browser(0).ask("GET", use, nil); code != 404 || !strings.Contains(body, "no-ticket") {
		t.Errorf("used twice: %d %s", code, body)
	}
	id, _ := lio.activity()
	s.signedIn("lio@cobblelane.example", "rattling-mudguard-song")

	list := func() people { _, body := ana.ask("GET", "/api/people", nil); return read[people](t, body) }
	find := func(name string) (p server.Person) {
		for _, p = range list().People {
			if strings.HasPrefix(p.Name, name) {
				return p
			}
		}
		t.Fatalf("%s is not there", name)
		return p
	}
	lioAt := "/api/people/" + find("Lio").ID
	if p := find("Lio"); p.Role != "designer" || p.Owner || p.SeenAt == nil {
		t.Errorf("a member: %+v", p)
	}
	if code, _ := lio.ask("GET", "/api/people", nil); code != 403 {
		t.Errorf("a designer sees the list: %d", code)
	}
	ana.ask("PUT", lioAt, map[string]any{"role": "viewer"})
	if code, _ := lio.ask("POST", "/api/activities/new", map[string]string{"kind": "sort", "title": "x"}); code != 403 {
		t.Errorf("made a viewer, it still makes: %d", code)
	}
	if code, body := ana.ask("PUT", lioAt, map[string]any{"role": "viewer", "owner": true}); code != 422 {
		t.Errorf("an owner who only looks: %d %s", code, body)
	}
	// The last owner cannot go, nor become less; with another one, it can.
	anaAt := "/api/people/" + find("Ana").ID
	for _, ask := range []func() (int, string){
		func() (int, string) { return ana.ask("DELETE", anaAt, nil) },
		func() (int, string) { return ana.ask("PUT", anaAt, map[string]any{"role": "designer"}) },
	} {
		if code, body := ask(); code != 409 || !strings.Contains(body, "last-owner") {
			t.Errorf("the last owner: %d %s", code, body)
		}
	}
	if code, body := ana.ask("PUT", lioAt, map[string]any{"role": "designer", "owner": true}); code != 200 {
		t.Errorf("handed over: %d %s", code, body)
	}
	if code, _ := ana.ask("PUT", anaAt, map[string]any{"role": "designer"}); code != 200 {
		t.Errorf("Ana is no owner any more: %d", code)
	}
	if code, _ := lio.ask("DELETE", anaAt, nil); code != 204 {
		t.Errorf("Ana is removed: %d", code)
	}
	if code, _ := ana.ask("GET", "/api/activities", nil); code != 401 {
		t.Errorf("and is still in: %d", code)
	}
	if code, _ := lio.ask("GET", "/api/activities/"+id, nil); code != 200 {
		t.Errorf("what was made: %d", code)
	}
	// Nobody of another workspace is reached.
	els, err := s.store.AccountByEmail(t.Context(), "else@where.example")
	if err != nil {
		t.Fatal(err)
	}
	for _, method := range []string{"DELETE", "PUT"} {
		if code, _ := lio.ask(method, "/api/people/"+els.ID, map[string]any{"role": "viewer"}); code != 404 {
			t.Errorf("%s of another workspace's: %d", method, code)
		}
	}
	if code, _ := lio.ask("POST", "/api/people/"+els.ID+"/password", nil); code != 404 {
		t.Errorf("a password of another workspace's: %d", code)
	}
}

// Whoever has an account joins with it: signed in, or by its password, and by no other's.
func TestJoiningWithAnAccount(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	invited := func(email string) string {
		_, body := ana.ask("POST", "/api/people/invitations", map[string]any{"email": email, "role": "viewer"})
		return "/api/tickets/" + strings.TrimPrefix(read[server.Invitation](t, body).Link, "/join/")
	}
	els := s.signedIn("else@where.example", "another-bell")
	if code, body := els.ask("POST", invited("tobi@cobblelane.example"), map[string]any{}); code != 403 || !strings.Contains(body, "for-another") {
		t.Errorf("another's invitation: %d %s", code, body)
	}
	if code, body := els.ask("POST", invited(""), map[string]any{}); code != 200 || !strings.Contains(body, `"workspace":"Cobble Lane Cycle Workshop"`) || !strings.Contains(body, "Elsewhere") {
		t.Errorf("joined, signed in: %d %s", code, body)
	}
	use := invited("else@where.example")
	if code, body := s.browser(0).ask("POST", use, map[string]string{"name": "Els", "password": "rattling-mudguard-song"}); code != 401 {
		t.Errorf("with another password: %d %s", code, body)
	}
	if code, body := s.browser(0).ask("POST", use, map[string]string{"password": "another-bell"}); code != 200 {
		t.Errorf("with its own: %d %s", code, body)
	}
	// Nobody gets into another workspace by a new password for somebody whom they invited.
	_, body := ana.ask("GET", "/api/people", nil)
	for _, p := range read[people](t, body).People {
		want := 201
		if p.Email == "else@where.example" {
			want = 403
		}
		if code, body := ana.ask("POST", "/api/people/"+p.ID+"/password", nil); code != want {
			t.Errorf("a new password for %s: %d %s", p.Email, code, body)
		}
	}
	// Withdrawn, it is gone; and an invitation makes nobody less.
	_, body = ana.ask("POST", "/api/people/invitations", map[string]any{"role": "viewer"})
	one := read[server.Invitation](t, body)
	if code, _ := ana.ask("DELETE", "/api/people/invitations/"+one.ID, nil); code != 204 {
		t.Errorf("withdrawn: %d", code)
	}
	if code, _ := s.browser(0).ask("GET", "/api/tickets/"+strings.TrimPrefix(one.Link, "/join/"), nil); code != 404 {
		t.Errorf("withdrawn, it is there: %d", code)
	}
	if _, body := ana.ask("POST", invited("ana@cobblelane.example"), map[string]any{}); !strings.Contains(body, `"role":"designer","owner":true`) {
		t.Errorf("Ana, who invited herself: %s", body)
	}
}

// A link is used once, whoever tries at the same moment.
func TestATicketIsUsedOnce(t *testing.T) {
	s := newSite(t)
	token, err := s.store.AddTicket(t.Context(), store.Ticket{Kind: store.ForFirstOwner}, time.Hour)
	if err != nil {
		t.Fatal(err)
	}
	var in atomic.Int32
	var group sync.WaitGroup
	for i := range 6 {
		group.Go(func() {
			code, _ := s.browser(i%2).ask("POST", "/api/tickets/"+token, map[string]string{"workspace": "School", "name": "Noa", "password": "rattling-mudguard-song",
				"email": string(rune('a'+i)) + "@school.example"})
			if code == http.StatusOK {
				in.Add(1)
			}
		})
	}
	group.Wait()
	if in.Load() != 1 {
		t.Errorf("%d came in", in.Load())
	}
	if _, err := s.store.DB().Exec(`UPDATE tickets SET until_at = '2020-01-01'`); err != nil {
		t.Fatal(err)
	}
	s.works()
}

// A new password ends all other sessions, as does a link for one; one's own goes on.
func TestPasswords(t *testing.T) {
	s := newSite(t)
	tobi, elsewhere := s.signedIn("tobi@cobblelane.example", "second-spoke-left"), s.signedIn("tobi@cobblelane.example", "second-spoke-left")
	if code, body := tobi.ask("PUT", "/api/me/password", map[string]string{"old": "wrong", "new": "rattling-mudguard-song"}); code != 403 || !strings.Contains(body, "wrong-password") {
		t.Errorf("with a wrong one: %d %s", code, body)
	}
	if code, body := tobi.ask("PUT", "/api/me/password", map[string]string{"old": "second-spoke-left", "new": "rattling-mudguard-song"}); code != 204 {
		t.Fatalf("changed: %d %s", code, body)
	}
	in := func(b *browser) int { code, _ := b.ask("GET", "/api/me", nil); return code }
	if in(tobi) != 200 || in(elsewhere) != 401 {
		t.Errorf("afterwards: %d here, %d elsewhere", in(tobi), in(elsewhere))
	}
	if code, _ := s.browser(0).ask("POST", "/api/session", map[string]string{"email": "tobi@cobblelane.example", "password": "second-spoke-left"}); code != 401 {
		t.Errorf("by the old one: %d", code)
	}
	again := s.signedIn("tobi@cobblelane.example", "rattling-mudguard-song")
	if code, _ := tobi.ask("DELETE", "/api/me/sessions", nil); code != 204 || in(tobi) != 200 || in(again) != 401 {
		t.Errorf("signed out everywhere else: %d, %d here, %d elsewhere", code, in(tobi), in(again))
	}
	ana := s.ana()
	_, body := ana.ask("GET", "/api/people", nil)
	for _, p := range read[people](t, body).People {
		if strings.HasPrefix(p.Name, "Tobi") {
			_, body = ana.ask("POST", "/api/people/"+p.ID+"/password", nil)
		}
	}
	use := "/api/tickets/" + strings.TrimPrefix(read[struct{ Link string }](t, body).Link, "/join/")
	if code, body := s.browser(1).ask("POST", use, map[string]string{"password": "cracked-lamp-over-noon"}); code != 200 || in(tobi) != 401 {
		t.Errorf("by a link: %d %s, and before: %d", code, body, in(tobi))
	}
	s.signedIn("tobi@cobblelane.example", "cracked-lamp-over-noon")
	if code, body := ana.ask("PUT", "/api/me", map[string]string{"name": "  Ana   D. "}); code != 200 || !strings.Contains(body, `"name":"Ana D."`) {
		t.Errorf("renamed: %d %s", code, body)
	}
}
