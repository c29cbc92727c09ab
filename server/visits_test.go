package server_test

import (
	"net/http"
	"strings"
	"testing"

	"keenmagpie/demo"
	"keenmagpie/server"
)

// Whoever has an account sees where they are signed in, and ends any of it; nobody else's.
func TestOneEndsOnesOwnSessions(t *testing.T) {
	s := newSite(t)
	ana := demo.Accounts()[0]
	here, phone, other := s.signedIn(ana.Email, ana.Password), s.signedIn(ana.Email, ana.Password), s.signedIn("else@where.example", "another-bell")
	list := func(b *browser) []server.Session {
		code, body := b.ask(http.MethodGet, "/api/me/sessions", nil)
		if code != 200 {
			t.Fatalf("%d %s", code, body)
		}
		return read[struct{ Sessions []server.Session }](t, body).Sessions
	}
	mine := list(here)
	if len(mine) != 2 || mine[0].Here == mine[1].Here || mine[0].Place != "127.0.0.1" || mine[0].Device == "" {
		t.Errorf("where Ana is: %+v", mine)
	}
	away := mine[0].ID
	if mine[0].Here {
		away = mine[1].ID
	}
	if code, _ := other.ask(http.MethodDelete, "/api/me/sessions/"+away, nil); code != 404 {
		t.Errorf("another's session is ended: %d", code)
	}
	if code, body := here.ask(http.MethodDelete, "/api/me/sessions/"+away, nil); code != 204 {
		t.Errorf("%d %s", code, body)
	}
	if code, _ := phone.ask(http.MethodGet, "/api/me", nil); code != 401 {
		t.Errorf("the session that was ended goes on: %d", code)
	}
	if code, _ := here.ask(http.MethodGet, "/api/me", nil); code != 200 || len(list(here)) != 1 {
		t.Errorf("the one here: %d", code)
	}
	third := s.signedIn(ana.Email, ana.Password)
	if code, _ := third.ask(http.MethodDelete, "/api/session", nil); code != 204 || len(list(here)) != 1 {
		t.Errorf("signed out, it is still there: %d, %d", code, len(list(here)))
	}
	if code, _ := here.ask(http.MethodDelete, "/api/me/sessions", nil); code != 204 || len(list(here)) != 1 || !list(here)[0].Here {
		t.Errorf("everywhere else: %d", code)
	}
	if strings.Contains(list(here)[0].Device, "@") {
		t.Error("a device is an address")
	}
}
