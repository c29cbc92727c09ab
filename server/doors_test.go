package server_test

import (
	"cmp"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"net/netip"
	"slices"
	"strings"
	"sync/atomic"
	"testing"
	"time"

	"keenmagpie/demo"
	"keenmagpie/server"
	"keenmagpie/store"
)

// Every operation of the API, as its own description lists them, answers 401
// without a session, but for those that are meant to be open; to a member of
// another workspace no id of this one exists; a viewer changes nothing.
func TestWhoMayAskWhat(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	release := ana.release(id)
	walk, roster := ana.newSeries("Walk", id), ana.roster("Tuesday", "Lea")
	nobody, els := s.browser(0), s.signedIn("else@where.example", "another-bell")
	viewer := s.signedIn(demo.Accounts()[2].Email, demo.Accounts()[2].Password)

	doc := read[struct {
		Items []struct{ Picture string }
	}](t, string(draft.Document))
	api, err := server.OpenAPI()
	if err != nil {
		t.Fatal(err)
	}
	paths := read[struct {
		Paths map[string]map[string]struct {
			OperationID string
			Who         string `json:"x-who"`
		}
	}](t, string(api)).Paths
	bodies := map[string]any{
		"save": json.RawMessage(draft.Document), "keepCopy": json.RawMessage(draft.Document), "release": map[string]int{"revision": 1},
		"lookAtTable": map[string]string{"text": "a"}, "makeSort": map[string]string{"text": "a", "title": "b"}, "importBundle": []byte("x"), "lookAtQTI": []byte("x"), "importQTI": []byte("x"), "upload": []byte("x"),
		"newActivity": map[string]string{"kind": "sort", "title": "x"}, "moveActivity": map[string]string{"workspace": "x"}, "describeMedium": map[string]string{"name": "x", "licence": "", "source": ""},
		"tableText": []byte("x"), "mergeTable": map[string]any{"text": "a", "document": json.RawMessage(draft.Document)},
		"keepTheme": json.RawMessage(`{}`), "keepFrames": map[string]any{"origins": []string{}}, "keepWords": json.RawMessage(`{"words":{}}`), "checkTheme": json.RawMessage(`{}`), "goToWorkspace": map[string]string{"id": "x"}, "foundWorkspace": map[string]string{"name": "x"},
		"newSeries": map[string]string{"title": "x"}, "saveSeries": json.RawMessage(walk.Document), "releaseSeries": map[string]int{"revision": 1},
		"setPrivacy": map[string]any{"namesFor": "members", "namesDays": 0, "leastGroup": 0}, "erase": map[string]any{"traces": []any{map[string]any{"kind": "sitting", "id": 1}}}, "setEntry": map[string]int{"most": 1},
		"invite": map[string]string{"role": "viewer"}, "setRole": map[string]string{"role": "viewer"}, "rename": map[string]string{"name": "Vi"}, "nameRevision": map[string]string{"name": "x"}, "addPasskey": map[string]any{"credential": map[string]any{}}, "comment": map[string]string{"text": "x"}, "seeToComment": map[string]bool{"done": true}, "setPassword": map[string]string{"old": "x", "new": "y"},
		"addPlatform": map[string]any{"name": "x", "issuer": "x", "clientId": "x", "deployments": []string{}, "auth": "x", "token": "x", "keys": "x"}, "keepRecords": map[string]string{"endpoint": "x", "user": "x", "password": "x"}, "keepPlatform": map[string]any{"name": "x", "deployments": []string{}, "confirmed": true},
		"findSittings": map[string]string{"text": "x"}, "traces": map[string]string{"name": "x"}, "newRoster": map[string]any{"name": "x", "learners": []any{}}, "saveRoster": map[string]any{"name": "x", "learners": []any{}},
	}
	asked, open := 0, []string{}
	hash, err := server.HashPassword("looking-only-at-drafts")
	if err != nil {
		t.Fatal(err)
	}
	owner, err := s.store.MemberByEmail(t.Context(), demo.Accounts()[0].Email)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := s.store.In(owner.WorkspaceID).AddMember(t.Context(), store.Account{Email: "kim@cobblelane.example", Name: "Kim", PasswordHash: hash}, store.Reviewer); err != nil {
		t.Fatal(err)
	}
	kim := s.signedIn("kim@cobblelane.example", "looking-only-at-drafts")
	tobi := s.signedIn(demo.Accounts()[1].Email, demo.Accounts()[1].Password) // a designer, and no owner
	// Ways are asked in two rounds: first by those who may change nothing of
	// the activity, then by a designer, who changes and deletes what is asked for.
	each := func(do func(path, method, url, operation, who string)) {
		for path, methods := range paths {
			object := id
			switch {
			case strings.HasPrefix(path, "/api/releases/"):
				object = release.ID
			case strings.HasPrefix(path, "/api/series/"):
				object = walk.ID
			case strings.HasPrefix(path, "/api/rosters/"):
				object = roster.ID
			case strings.HasPrefix(path, "/api/media/"):
				object = doc.Items[0].Picture
			}
			url := strings.NewReplacer("{id}", object, "{revision}", "1", "{lang}", "en", "{link}", "x", "{remark}", "x", "{sitting}", "1", "{as}", "web").Replace(path) + "?revision=1&name=Lea"
			for method, op := range methods {
				do(path, strings.ToUpper(method), url, op.OperationID, op.Who)
			}
		}
	}
	// By one's own password; oneself goes; one owns what one founds.
	ownAffairs := []string{"setPassword", "signOutEverywhere", "foundWorkspace", "addPasskey"}
	refused := func(b *browser, method, url, operation string) bool {
		code, _ := b.ask(method, url, bodies[operation])
		return code == 403
	}
	each(func(path, method, url, operation, who string) {
		if who == server.Anybody {
			open = append(open, operation)
			return
		}
		asked++
		if code, body := nobody.ask(method, url, bodies[operation]); code != 401 {
			t.Errorf("%s %s without a session: %d %s", method, path, code, body)
		}
		if strings.Contains(path, "{id}") {
			if code, body := els.ask(method, url, bodies[operation]); code != 404 {
				t.Errorf("%s %s from another workspace: %d %s", method, path, code, body)
			}
		}
		// Who may is what the description says, for each of those who are members.
		if slices.Contains(ownAffairs, operation) {
			return
		}
		if want := who != server.AnyMember; refused(viewer, method, url, operation) != want {
			t.Errorf("%s %s is for %s: a viewer is refused: %t", method, path, who, !want)
		}
		if want := who == server.DesignersAlone || who == server.OwnersAlone; refused(kim, method, url, operation) != want {
			t.Errorf("%s %s is for %s: a reviewer is refused: %t", method, path, who, !want)
		}
	})
	if code, body := ana.ask("GET", "/api/activities/"+id, nil); code != 200 || read[server.Draft](t, body).Revision != draft.Revision {
		t.Errorf("one of those who may not has changed the activity: %d %s", code, body)
	}
	each(func(path, method, url, operation, who string) {
		if who == server.Anybody || slices.Contains(ownAffairs, operation) {
			return
		}
		if want := who == server.OwnersAlone; refused(tobi, method, url, operation) != want {
			t.Errorf("%s %s is for %s: a designer is refused: %t", method, path, who, !want)
		}
	})
	slices.Sort(open)
	if got := strings.Join(open, " "); got != "arrive beckoning begin choosable choose enterLaunch forgotPassword go leave left linkResults move now opening passkeyQuestion playMedium signIn signInByPasskey signInWays signOn signOut signedOn ticket try tryBeckoning tryMedium tryMoves useTicket" {
		t.Errorf("open to anybody: %s", got)
	}
	if asked < 12 {
		t.Errorf("only %d operations were asked", asked)
	}
}

func TestAForeignOriginIsRefused(t *testing.T) {
	s := newSite(t)
	req, err := http.NewRequest("POST", s.urls[0]+"/api/session", strings.NewReader(`{}`))
	if err != nil {
		t.Fatal(err)
	}
	req.Header.Set("Origin", "https://elsewhere.example")
	req.Header.Set("Sec-Fetch-Site", "cross-site")
	resp, err := http.DefaultClient.Do(req)
	if err != nil {
		t.Fatal(err)
	}
	resp.Body.Close()
	if resp.StatusCode != 403 {
		t.Errorf("a request from another origin: %d", resp.StatusCode)
	}
}

func TestSigningOutEndsTheSession(t *testing.T) {
	s := newSite(t)
	b := s.ana()
	if code, _ := b.ask("GET", "/api/me", nil); code != 200 {
		t.Fatalf("signed in: %d", code)
	}
	if code, body := b.ask("DELETE", "/api/session", nil); code != 204 {
		t.Fatalf("signing out: %d %s", code, body)
	}
	if code, _ := b.ask("GET", "/api/me", nil); code != 401 {
		t.Errorf("after signing out: %d", code)
	}
}

func TestTryingPasswordsIsSlowedDown(t *testing.T) {
	s := newSite(t)
	// All at once: comparing passwords is slow by design, and on a busy machine 24 of
	// them one after the other would outlast the minute.
	answers := make(chan int)
	for range 24 {
		go func() {
			code, _ := s.browser(0).ask("POST", "/api/session", map[string]string{"email": "nobody@cobblelane.example", "password": "x"})
			answers <- code
		}()
	}
	codes := map[int]int{}
	for range 24 {
		codes[<-answers]++
	}
	if codes[401] == 0 || codes[429] == 0 || codes[401]+codes[429] != 24 {
		t.Errorf("24 wrong tries were answered %v", codes)
	}
	// Counted for both servers, and told when to come back. One more of them, with a wait that
	// is longer than any machine takes.
	if err := s.store.TriedInVain(t.Context(), "password", "from 127.0.0.1", time.Hour, func(int) time.Duration { return time.Hour }); err != nil {
		t.Fatal(err)
	}
	ana := demo.Accounts()[0]
	right := map[string]string{"email": ana.Email, "password": ana.Password}
	other := s.browser(1)
	if code, body := other.ask("POST", "/api/session", right); code != 429 || !strings.Contains(body, `"retryAfter":`) {
		t.Errorf("from the same address at the other server: %d %s", code, body)
	}
	// Whoever has the right password gets in from another address, however many try.
	for i := range 12 {
		s.from(fmt.Sprintf("127.0.1.%d", 1+i)).ask("POST", "/api/session", map[string]string{"email": ana.Email, "password": "x"})
	}
	if code, body := s.from("127.0.0.2").ask("POST", "/api/session", right); code != 200 {
		t.Errorf("the right password from elsewhere: %d %s", code, body)
	}
}

// Behind a proxy each is counted at the address that the proxy tells; what a stranger tells
// of theirs counts for nothing.
func TestAddressesBehindAProxy(t *testing.T) {
	s := newSite(t)
	h := server.New(s.store, slog.New(slog.NewTextHandler(io.Discard, nil)), server.WithProxies(netip.MustParsePrefix("10.0.0.0/8")))
	try := func(peer, told, password string) int {
		w := httptest.NewRecorder()
		ana := demo.Accounts()[0]
		req := httptest.NewRequest("POST", "/api/session", strings.NewReader(fmt.Sprintf(`{"email":%q,"password":%q}`, ana.Email, cmp.Or(password, ana.Password))))
		req.RemoteAddr = peer + ":4000"
		req.Header.Set("Content-Type", "application/json")
		req.Header.Set("X-Forwarded-For", told)
		h.ServeHTTP(w, req)
		return w.Code
	}
	ctx := t.Context()
	for i := range 3 {
		try("10.0.0.1", "192.0.2.7", "x")
		try("198.51.100.4", fmt.Sprintf("192.0.2.%d", 100+i), "x")
	}
	for _, who := range []string{"from 192.0.2.7", "from 198.51.100.4"} {
		if of, err := s.store.Tries(ctx, "password", who); err != nil || of.N != 3 {
			t.Errorf("%d tries %s: %v", of.N, who, err)
		}
		// So many more that the wait is longer than any machine takes.
		if err := s.store.TriedInVain(ctx, "password", who, time.Hour, func(int) time.Duration { return time.Hour }); err != nil {
			t.Fatal(err)
		}
	}
	if code := try("10.0.0.1", "192.0.2.7", ""); code != 429 {
		t.Errorf("after many wrong tries behind the proxy: %d", code)
	}
	if code := try("10.0.0.1", "192.0.2.7, 192.0.2.8", ""); code != 200 {
		t.Errorf("another behind the same proxy, who tells of one more: %d", code)
	}
	if code := try("198.51.100.4", "192.0.2.9", ""); code != 429 {
		t.Errorf("a stranger who tells another address each time: %d", code)
	}
}

// Whoever asks for nothing of theirs is refused before the body is read; each problem has
// the same shape, at whatever address and by whatever method, and repeats nothing of what
// was sent.
func TestProblemsHaveOneShape(t *testing.T) {
	s := newSite(t)
	kim, ana := s.browser(0), s.ana()
	for _, c := range []struct {
		who          *browser
		method, path string
		body         any
		status       int
		code         string
	}{
		{kim, "POST", "/api/activities", json.RawMessage(`{`), 401, "not-signed-in"},
		{kim, "PUT", "/api/rosters/x", json.RawMessage(`{"nothing":1}`), 401, "not-signed-in"},
		{kim, "GET", "/api/nowhere", nil, 404, "not-found"},
		{kim, "POST", "/api/nowhere/at/all", json.RawMessage(`{}`), 404, "not-found"},
		{kim, "PATCH", "/api/session", json.RawMessage(`{}`), 405, "bad-method"},
		{kim, "DELETE", "/api/me", nil, 405, "bad-method"},
		{kim, "POST", "/anything", nil, 404, "not-found"},
		{kim, "POST", "/api/session", json.RawMessage(`{"email":7,"password":"swordfish"}`), 422, "bad-form"},
		{kim, "POST", "/api/session", json.RawMessage(`{"email":"a@b.example","password":"swordfish` + strings.Repeat("x", 300) + `"}`), 422, "bad-form"},
		{kim, "POST", "/api/session", json.RawMessage(`{"email":"swordfish`), 400, "bad-request"},
		{ana, "POST", "/api/workspaces", json.RawMessage(`{"name":"` + strings.Repeat("x", 2<<20) + `"}`), 413, "too-large"},
		{ana, "GET", "/api/releases/x/sittings?page=minus", nil, 422, "bad-form"},
		{ana, "GET", "/api/activities/nothing", nil, 404, "not-found"},
		{ana, "PUT", "/api/frames", json.RawMessage(`{"origins":["pages"]}`), 422, "bad-origin"},
	} {
		t.Run(c.method+" "+c.path, func(t *testing.T) {
			status, body := c.who.ask(c.method, c.path, c.body)
			p := read[server.Problem](t, body)
			if status != c.status || p.Code != c.code || p.Detail == "" || p.Status != status {
				t.Errorf("%s %s: %d %s, want %d %s", c.method, c.path, status, body, c.status, c.code)
			}
			for name, value := range p.Params {
				if !strings.Contains(p.Detail, fmt.Sprint(value)) {
					t.Errorf("%s %s: %s is %v, which %q does not say", c.method, c.path, name, value, p.Detail)
				}
			}
			if strings.ContainsAny(p.Detail, "{}") {
				t.Errorf("%s %s: %q is not filled in", c.method, c.path, p.Detail)
			}
			if strings.Contains(body, "swordfish") {
				t.Errorf("%s %s repeats what was sent: %s", c.method, c.path, body)
			}
		})
	}
}

// A large body of somebody unknown is not taken in.
func TestABodyIsNotReadForStrangers(t *testing.T) {
	s := newSite(t)
	sent := &counted{left: 60 << 20}
	req, err := http.NewRequest("POST", s.urls[0]+"/api/bundles", sent)
	if err != nil {
		t.Fatal(err)
	}
	req.Header.Set("Content-Type", "application/zip")
	req.ContentLength = int64(sent.left)
	resp, err := http.DefaultClient.Do(req)
	if err == nil {
		_ = resp.Body.Close()
		if resp.StatusCode != 401 {
			t.Errorf("answered %d", resp.StatusCode)
		}
	}
	if n := sent.read.Load(); n > 8<<20 {
		t.Errorf("%d bytes were taken", n)
	}
}

// counted is a body that says how much of it was read.
type counted struct {
	left int
	read atomic.Int64
}

func (c *counted) Read(p []byte) (int, error) {
	if c.left == 0 {
		return 0, io.EOF
	}
	n := min(len(p), c.left)
	c.left -= n
	c.read.Add(int64(n))
	return n, nil
}
