package server_test

import (
	"log/slog"
	"net"
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"

	"github.com/emersion/go-smtp"

	"keenmagpie/demo"
	"keenmagpie/mailing"
	"keenmagpie/server"
	"keenmagpie/standin"
)

// Whoever forgot a password gets a link by mail, and nobody learns who has an account; what
// cannot go waits, and is tried again; what is refused for good is not.
func TestMailGoesOut(t *testing.T) {
	t.Parallel()
	st, err := demo.Open(t.Context(), db, t.Name())
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	const public = "https://magpie.example"
	web := httptest.NewServer(server.New(st, slog.New(slog.DiscardHandler), server.WithPublicURL(public), server.WithMail(true)))
	defer web.Close()
	ask := func(path, body string) int {
		t.Helper()
		r, err := http.Post(web.URL+path, "application/json", strings.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		_ = r.Body.Close()
		return r.StatusCode
	}
	ana, tobi := demo.Accounts()[0], demo.Accounts()[1]
	for _, email := range []string{ana.Email, "nobody@cobblelane.example"} {
		if code := ask("/api/session/forgotten", `{"email":"`+email+`"}`); code != 204 {
			t.Errorf("%s: %d", email, code)
		}
	}
	box := new(standin.Mailbox)
	post, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		t.Fatal(err)
	}
	away := post.Addr().String()
	_ = post.Close()
	mailer := func(addr string) *mailing.Mailer {
		m, err := mailing.New(mailing.Settings{Server: addr, From: "Keen Magpie <magpie@school.example>", TLS: "none"})
		if err != nil {
			t.Fatal(err)
		}
		return m
	}
	waits := func(n int, says string) {
		t.Helper()
		if is, why, err := st.Unsent(t.Context()); err != nil || is != n || !strings.Contains(why, says) || strings.Contains(why, "@cobble") {
			t.Errorf("%d wait (%q, %v), not %d (%q)", is, why, err, n, says)
		}
	}
	soon := func() {
		t.Helper()
		if _, err := st.DB().ExecContext(t.Context(), `UPDATE letters SET next_at = made_at WHERE next_at < until_at`); err != nil {
			t.Fatal(err)
		}
	}
	if err := mailer(away).SendDue(t.Context(), st); err == nil {
		t.Error("nobody takes mail, and nobody is told")
	}
	waits(1, "connection refused")
	if post, err = net.Listen("tcp", "127.0.0.1:0"); err != nil {
		t.Fatal(err)
	}
	takes := box.Server()
	go func() { _ = takes.Serve(post) }()
	defer takes.Close()
	m := mailer(post.Addr().String())
	if err := m.SendDue(t.Context(), st); err != nil || len(box.Letters()) != 0 {
		t.Errorf("tried again at once: %v, %d", err, len(box.Letters()))
	}
	soon()
	if err := m.SendDue(t.Context(), st); err != nil {
		t.Error(err)
	}
	waits(0, "")
	list := box.Letters()
	if len(list) != 1 || list[0].To != ana.Email || !strings.Contains(list[0].From, "magpie@school.example") || !strings.Contains(list[0].Text, "Hello Ana Duarte") {
		t.Fatalf("what came: %+v", list)
	}
	path := regexp.MustCompile(regexp.QuoteMeta(public) + `(/join/\w+)`).FindStringSubmatch(list[0].Text)
	if path == nil {
		t.Fatalf("no link in %q", list[0].Text)
	}
	if code := ask("/api/tickets/"+strings.TrimPrefix(path[1], "/join/"), `{"password":"four-wheels-good-two-better"}`); code != 200 {
		t.Errorf("the link: %d", code)
	}
	if code := ask("/api/session", `{"email":"`+ana.Email+`","password":"four-wheels-good-two-better"}`); code != 200 {
		t.Errorf("the new password: %d", code)
	}

	box.Refuse = func(to string) error {
		return &smtp.SMTPError{Code: 550, EnhancedCode: smtp.EnhancedCode{5, 1, 1}, Message: "there is no " + to}
	}
	ask("/api/session/forgotten", `{"email":"`+tobi.Email+`"}`)
	if err := m.SendDue(t.Context(), st); err == nil || strings.Contains(err.Error(), tobi.Email) {
		t.Errorf("refused: %v", err)
	}
	box.Refuse = nil
	soon()
	if err := m.SendDue(t.Context(), st); err != nil || len(box.Letters()) != 1 {
		t.Errorf("what was refused for good is tried again: %v, %d", err, len(box.Letters()))
	}
	// At a limit, wherever the address exists or not.
	codes := map[int]int{}
	for range 12 {
		codes[ask("/api/session/forgotten", `{"email":"nobody@cobblelane.example"}`)]++
	}
	if codes[429] == 0 || codes[204] == 0 {
		t.Errorf("asked again and again: %v", codes)
	}
	if _, err := mailing.New(mailing.Settings{Server: "mail.example:25", From: "m@x.example", TLS: "none"}); err == nil {
		t.Error("mail goes over a network for everybody to read")
	}
}

// An invitation for an address is sent there.
func TestInvitationsAreSent(t *testing.T) {
	s := newSite(t, server.WithMail(true), server.WithPublicURL("http://magpie.example"))
	ana := s.ana()
	code, body := ana.ask("POST", "/api/people/invitations", map[string]any{"role": "viewer", "email": "Lio@School.example"})
	if code != 201 || !strings.Contains(body, `"sent":true`) {
		t.Errorf("%d %s", code, body)
	}
	if code, body := ana.ask("POST", "/api/people/invitations", map[string]any{"role": "viewer"}); code != 201 || strings.Contains(body, `"sent":true`) {
		t.Errorf("without an address: %d %s", code, body)
	}
	list, err := s.store.DueLetters(t.Context(), 10)
	if err != nil || len(list) != 1 || list[0].To != "lio@school.example" || !strings.Contains(list[0].Body, "http://magpie.example/join/") {
		t.Errorf("%+v, %v", list, err)
	}
}
