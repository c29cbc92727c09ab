package server_test

import (
	"bytes"
	"cmp"
	"context"
	"encoding/binary"
	"encoding/json"
	"fmt"
	"io"
	"log"
	"log/slog"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/netip"
	"net/url"
	"os"
	"regexp"
	"slices"
	"strings"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/demo"
	"keenmagpie/hosting"
	"keenmagpie/jobs"
	"keenmagpie/localdb"
	"keenmagpie/server"
	"keenmagpie/store"
)

// site is the demo with a second workspace beside it, behind two servers on one
// database.
type site struct {
	t     testing.TB
	store *store.Store
	urls  [2]string
	first *server.Server // behind the first address
	ahead atomic.Int64   // nanoseconds by which the servers' clocks are ahead of the store's
}

// later sets the servers' clocks forward, or back.
func (s *site) later(by time.Duration) { s.ahead.Add(int64(by)) }

// played is what was played of a release.
func (s *site) played(r server.Release) store.Played {
	s.t.Helper()
	of, err := s.store.ReleaseByLink(s.t.Context(), strings.TrimPrefix(r.Link, "/play/"))
	if err != nil {
		s.t.Fatal(err)
	}
	return of.Played(nil)
}

// works does all that goes by itself, as if it were due.
func (s *site) works() {
	s.t.Helper()
	for _, j := range jobs.Of(s.store, s.first.Hosting(), slog.New(slog.DiscardHandler)) {
		if err := j.Do(s.t.Context()); err != nil {
			s.t.Errorf("%s: %v", j.Name, err)
		}
	}
}

// db is the private server of these tests; each test has a database of its own.
var db *localdb.Server

func TestMain(m *testing.M) {
	os.Exit(func() int {
		dir, err := localdb.Scratch()
		if err != nil {
			log.Fatal(err)
		}
		defer os.RemoveAll(dir)
		if db, err = localdb.Start(context.Background(), dir); err != nil {
			log.Print(err)
			return 1
		}
		defer db.Stop()
		return m.Run()
	}())
}

func newSite(t testing.TB, options ...server.Option) *site {
	t.Helper()
	if one, ok := t.(*testing.T); ok {
		one.Parallel() // each has a database of its own
	}
	ctx := t.Context()
	st, err := demo.Open(ctx, db, t.Name())
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() })
	other, err := st.AddWorkspace(ctx, "Elsewhere")
	if err != nil {
		t.Fatal(err)
	}
	hash, err := server.HashPassword("another-bell")
	if err != nil {
		t.Fatal(err)
	}
	if _, err := st.In(other).AddMember(ctx, store.Account{Email: "else@where.example", Name: "Els", PasswordHash: hash}, store.Designer); err != nil {
		t.Fatal(err)
	}
	s := &site{t: t, store: st}
	for i := range s.urls {
		clock := server.WithClock(func() time.Time { return time.Now().Add(time.Duration(s.ahead.Load())) })
		h := server.New(st, slog.New(slog.NewTextHandler(io.Discard, nil)), append(options, clock)...)
		if i == 0 {
			s.first = h
		}
		web := httptest.NewServer(h)
		t.Cleanup(web.Close)
		s.urls[i] = web.URL
	}
	return s
}

// browser keeps cookies.
type browser struct {
	t   testing.TB
	url string
	http.Client
}

func (s *site) browser(i int) *browser {
	jar, err := cookiejar.New(nil)
	if err != nil {
		s.t.Fatal(err)
	}
	return &browser{s.t, s.urls[i], http.Client{Jar: jar}}
}

// from is a browser at another address of this machine.
func (s *site) from(address string) *browser {
	b := s.browser(0)
	dialer := &net.Dialer{LocalAddr: &net.TCPAddr{IP: net.ParseIP(address)}}
	b.Transport = &http.Transport{DialContext: dialer.DialContext}
	return b
}

func (s *site) signedIn(email, password string) *browser {
	s.t.Helper()
	b := s.browser(0)
	if code, body := b.ask("POST", "/api/session", map[string]string{"email": email, "password": password}); code != 200 {
		s.t.Fatalf("signing in: %d %s", code, body)
	}
	return b
}

func (s *site) ana() *browser {
	a := demo.Accounts()[0]
	return s.signedIn(a.Email, a.Password)
}

func (b *browser) ask(method, path string, body any) (int, string) {
	b.t.Helper()
	var in io.Reader = http.NoBody
	kind := "application/json"
	switch x := body.(type) {
	case nil:
	case []byte:
		in, kind = bytes.NewReader(x), "application/zip"
	case json.RawMessage:
		in = bytes.NewReader(x)
	default:
		j, err := json.Marshal(x)
		if err != nil {
			b.t.Fatal(err)
		}
		in = bytes.NewReader(j)
	}
	req, err := http.NewRequest(method, b.url+path, in)
	if err != nil {
		b.t.Fatal(err)
	}
	req.Header.Set("Content-Type", kind)
	resp, err := b.Do(req)
	if err != nil {
		b.t.Fatal(err)
	}
	defer resp.Body.Close()
	out, err := io.ReadAll(resp.Body)
	if err != nil {
		b.t.Fatal(err)
	}
	return resp.StatusCode, string(out)
}

func read[T any](t testing.TB, body string) T {
	t.Helper()
	var v T
	if err := json.Unmarshal([]byte(body), &v); err != nil {
		t.Fatalf("%v in %s", err, body)
	}
	return v
}

func (b *browser) activity() (id string, draft server.Draft) {
	b.t.Helper()
	_, body := b.ask("GET", "/api/activities", nil)
	list := read[struct{ Activities []server.Card }](b.t, body).Activities
	if len(list) == 0 {
		b.t.Fatal("the shelf is empty")
	}
	_, body = b.ask("GET", "/api/activities/"+list[0].ID, nil)
	return list[0].ID, read[server.Draft](b.t, body)
}

func (b *browser) release(id string) server.Release {
	b.t.Helper()
	_, d := b.activity()
	code, body := b.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": d.Revision})
	if code != 201 {
		b.t.Fatalf("releasing: %d %s", code, body)
	}
	return read[server.Release](b.t, body)
}

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

// seat begins a sitting and gives the base of its addresses.
func (b *browser) seat(r server.Release) (base string, seated hosting.Seated) {
	b.t.Helper()
	base = "/api" + r.Link
	code, body := b.ask("POST", base+"/sittings", map[string]string{"learner": "Lea"})
	if code != 201 {
		b.t.Fatalf("beginning: %d %s", code, body)
	}
	return base, *read[hosting.Begun](b.t, body).Sitting
}

// What learners receive holds nothing of the key, and none of the author's ids,
// tags or names of pictures.
func TestLearnersNeverReceiveTheKey(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	r := ana.release(id)
	doc, faults := activity.Read([]byte(draft.Document))
	if faults != nil {
		t.Fatal(faults)
	}
	lea := s.browser(0)
	base, seated := lea.seat(r)
	var traffic strings.Builder
	listen := func(code int, body string) { traffic.WriteString(body) }
	listen(lea.ask("GET", base, nil))
	n := 0
	for _, p := range seated.Scene.Pieces[:4] {
		for _, target := range seated.Scene.Targets {
			n++
			listen(lea.ask("POST", base+"/moves", play.Move{N: n, T: int64(n), Do: "place", Piece: p.ID, Target: target.ID}))
		}
	}
	text := traffic.String()
	if !strings.Contains(text, `"placed"`) {
		t.Fatalf("no move was judged: %s", text)
	}
	// Whole words: a learner's ids are random letters, and may spell any short one.
	for _, word := range []string{"solutions?", "lets", "tags", "weight", "penalty", "jockey-wheel", "except", "bands?", "verdicts?", "missing"} {
		if found := regexp.MustCompile(`\b` + word + `\b`).FindString(text); found != "" {
			t.Errorf("the traffic has %q in it", found)
		}
	}
	if strings.Contains(text, `right":{`) {
		t.Error("the traffic says what is right")
	}
	for _, it := range doc.Items {
		if it.Picture != "" && strings.Contains(text, it.Picture) || strings.Contains(text, `"`+it.ID+`"`) {
			t.Errorf("the traffic names %s as its author does", it.ID)
		}
	}
	for _, target := range doc.Targets {
		if strings.Contains(text, `"`+target.ID+`"`) {
			t.Errorf("the traffic names %s as its author does", target.ID)
		}
	}
	// Before a check nothing says what is right; the page has the scene alone.
	if strings.Contains(text, `"shown"`) {
		t.Error("before a check the traffic says the answer key")
	}
}

// Two servers on one database, and one sitting played through both at once: each
// number is judged once, and every answer agrees with the log.
func TestMovesThatRaceAreKeptOnce(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	r := ana.release(id)
	lea := s.browser(0)
	base, seated := lea.seat(r)
	const moves = 12
	for n := 1; n <= moves; n++ {
		m := play.Move{N: n, T: int64(n), Do: "place", Piece: seated.Scene.Pieces[n].ID, Target: seated.Scene.Targets[n%5].ID}
		var together sync.WaitGroup
		answers := make([]string, 4)
		for i := range answers {
			together.Go(func() {
				twin := &browser{t, s.urls[i%2], http.Client{Jar: sameCookies{lea, s.urls[0]}}}
				_, answers[i] = twin.ask("POST", base+"/moves", m)
			})
		}
		together.Wait()
		placed := 0
		for _, a := range answers {
			st := read[play.Standing](t, a)
			if st.N != n || st.Result != "placed" && st.Result != "repeated" {
				t.Fatalf("move %d was answered %s", n, a)
			}
			if st.Result == "placed" {
				placed++
			}
		}
		if placed != 1 {
			t.Fatalf("move %d was judged %d times", n, placed)
		}
	}
	list, err := s.store.SittingIDs(t.Context(), s.played(r))
	if err != nil || len(list) != 1 {
		t.Fatal(list, err)
	}
	kept, err := s.store.Moves(t.Context(), list[0])
	if err != nil || len(kept) != moves {
		t.Errorf("%d moves are kept, want %d (%v)", len(kept), moves, err)
	}
}

// sameCookies lends a browser's cookies to another server of the same site.
type sameCookies struct {
	of  *browser
	url string
}

func (c sameCookies) SetCookies(u *url.URL, cookies []*http.Cookie) {}

func (c sameCookies) Cookies(u *url.URL) []*http.Cookie {
	home, err := u.Parse(c.url + u.Path)
	if err != nil {
		return nil
	}
	return c.of.Jar.Cookies(home)
}

// The state that is kept with each move is what replaying the log comes to.
func TestTheStateIsAFoldOfTheLog(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	r := ana.release(id)
	lea := s.browser(0)
	base, seated := lea.seat(r)
	n := 0
	move := func(m play.Move) {
		n++
		m.N, m.T = n, int64(n*100)
		if code, body := lea.ask("POST", base+"/moves", m); code != 200 {
			t.Fatalf("move %d: %d %s", n, code, body)
		}
	}
	for i, p := range seated.Scene.Pieces {
		move(play.Move{Do: "place", Piece: p.ID, Target: seated.Scene.Targets[i%5].ID})
	}
	for _, do := range []activity.Do{"undo", "reset", "undo", "check", "again", "undo"} {
		move(play.Move{Do: do})
	}
	doc, faults := activity.Read([]byte(draft.Document))
	if faults != nil {
		t.Fatal(faults)
	}
	game, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	list, err := s.store.SittingIDs(t.Context(), s.played(r))
	if err != nil {
		t.Fatal(err)
	}
	kept, err := s.store.Moves(t.Context(), list[0])
	if err != nil {
		t.Fatal(err)
	}
	state := game.Open(0)
	for _, line := range kept {
		state, _ = game.Move(state, read[play.Move](t, line.Body))
	}
	f := game.Final(state)
	if got, err := s.store.Sitting(t.Context(), s.played(r), list[0]); err != nil || len(kept) != n || state.N != n || got.Score != f.Score || got.Percent != f.Percent || got.Attempts != f.Attempts || got.Phase != string(f.Phase) {
		t.Errorf("kept %+v, replayed %+v", got, f)
	}
}

func TestWhatCannotBeSavedOrReleasedSaysWhy(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	save := func(doc string, revision int) (int, server.Problem) {
		code, body := ana.ask("PUT", fmt.Sprintf("/api/activities/%s?revision=%d", id, revision), json.RawMessage(doc))
		return code, read[server.Problem](t, body)
	}
	doc := string(draft.Document)
	code, p := save(strings.Replace(doc, `"copies":1`, `"copies":100`, 1), draft.Revision)
	if code != 422 || len(p.Faults) != 1 || p.Faults[0].Pointer != "/items/0/copies" {
		t.Errorf("a document with a fault: %d %+v", code, p)
	}
	if code, _ := save(doc, draft.Revision); code != 200 {
		t.Fatalf("saving: %d", code)
	}
	code, p = save(doc, draft.Revision)
	if code != 409 || p.Code != "newer-revision" || p.Current == nil || p.Current.Revision != draft.Revision+1 {
		t.Errorf("saving over a newer revision: %d %+v", code, p)
	}
	// Drivetrain holds two, and more must be placed there: it cannot be released.
	code, _ = save(strings.Replace(doc, `"shape":"rect"`, `"shape":"rect","holds":2`, 1), draft.Revision+1)
	if code != 200 {
		t.Fatalf("saving: %d", code)
	}
	code, body := ana.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": draft.Revision + 2})
	if code != 422 || !strings.Contains(body, "key-impossible") || !strings.Contains(body, "drivetrain") {
		t.Errorf("releasing what cannot be solved: %d %s", code, body)
	}
}

// A bundle that is refused leaves nothing behind: no activity and no picture.
func TestARefusedBundleLeavesNothing(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	_, bundle := ana.ask("GET", "/api/activities/"+id+"/bundle", nil)
	els := s.signedIn("else@where.example", "another-bell")
	for name, body := range map[string]string{"cut off": bundle[:len(bundle)-100], "foreign": "PK\x03\x04", "empty": ""} {
		if code, answer := els.ask("POST", "/api/bundles", []byte(body)); code != 422 && code != 400 {
			t.Errorf("%s: %d %s", name, code, answer)
		}
	}
	if code, answer := els.ask("POST", "/api/bundles", make([]byte, 65<<20)); code != 413 && code != 422 {
		t.Errorf("oversized: %d %s", code, answer)
	}
	count := func(table string) (n int) {
		row := s.store.DB().QueryRowContext(context.Background(), `SELECT COUNT(*) FROM `+table+
			` WHERE workspace_id = (SELECT id FROM workspaces WHERE name = 'Elsewhere')`)
		if err := row.Scan(&n); err != nil {
			t.Fatal(err)
		}
		return n
	}
	if a, m := count("activities"), count("media"); a != 0 || m != 0 {
		t.Errorf("%d activities and %d pictures were left behind", a, m)
	}
	if code, answer := els.ask("POST", "/api/bundles", []byte(bundle)); code != 201 {
		t.Fatalf("the whole bundle: %d %s", code, answer)
	}
	if a, m := count("activities"), count("media"); a != 1 || m != 24 {
		t.Errorf("%d activities and %d pictures were imported, want 1 and 24", a, m)
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

// wav is a sound of so many bytes.
func wav(n int) []byte {
	body := make([]byte, 44+n)
	copy(body, "RIFF\x00\x00\x00\x00WAVEfmt \x10\x00\x00\x00\x01\x00\x01\x00\x44\xac\x00\x00\x88\x58\x01\x00\x02\x00\x10\x00data")
	binary.LittleEndian.PutUint32(body[4:], uint32(len(body)-8))
	binary.LittleEndian.PutUint32(body[40:], uint32(n))
	for i := 44; i < len(body); i++ {
		body[i] = byte(i / 1000)
	}
	return body
}

// A sound is sent from where it is asked for, and not sent again to whoever has it.
func TestMediaInParts(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	body := wav(3 << 20)
	code, text := ana.ask("POST", "/api/media?name=long.wav", body)
	if code != 201 {
		t.Fatalf("%d %s", code, text)
	}
	id := read[struct{ ID string }](t, text).ID
	get := func(header, value string) (*http.Response, []byte) {
		req, _ := http.NewRequest("GET", s.urls[0]+"/api/media/"+id, nil)
		req.Header.Set(header, value)
		resp, err := ana.Do(req)
		if err != nil {
			t.Fatal(err)
		}
		defer resp.Body.Close()
		all, _ := io.ReadAll(resp.Body)
		return resp, all
	}
	resp, whole := get("Accept", "*/*")
	if resp.StatusCode != 200 || resp.Header.Get("ETag") == "" || resp.Header.Get("Accept-Ranges") != "bytes" || !strings.HasPrefix(resp.Header.Get("Content-Type"), "audio/") {
		t.Errorf("the whole: %d %v", resp.StatusCode, resp.Header)
	}
	from := 1<<20 - 10 // over the end of the first piece in the store
	if resp, part := get("Range", fmt.Sprintf("bytes=%d-%d", from, from+99)); resp.StatusCode != 206 || !bytes.Equal(part, whole[from:from+100]) {
		t.Errorf("a part: %d, %d bytes", resp.StatusCode, len(part))
	}
	if resp, part := get("Range", "bytes=-5"); resp.StatusCode != 206 || !bytes.Equal(part, whole[len(whole)-5:]) {
		t.Errorf("the end: %d", resp.StatusCode)
	}
	if resp, part := get("If-None-Match", resp.Header.Get("ETag")); resp.StatusCode != 304 || len(part) > 0 {
		t.Errorf("had already: %d", resp.StatusCode)
	}
}

// Another learner in the same browser begins afresh, and leaves the first alone.
func TestTheNextLearnerBeginsAfresh(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	r := ana.release(id)
	b := s.browser(0)
	base, seated := b.seat(r)
	b.ask("POST", base+"/moves", play.Move{N: 1, Do: "place", Piece: seated.Scene.Pieces[0].ID, Target: seated.Scene.Targets[0].ID})
	opening := func() server.Opening {
		_, body := b.ask("GET", base, nil)
		return read[server.Opening](t, body)
	}
	if o := opening(); o.Sitting == nil || o.Sitting.Standing.N != 1 || o.Sitting.Learner != "Lea" {
		t.Fatalf("coming back: %+v", o.Sitting)
	}
	if code, body := b.ask("DELETE", base+"/sitting", nil); code != 204 {
		t.Fatalf("leaving: %d %s", code, body)
	}
	if o := opening(); o.Sitting != nil {
		t.Errorf("after leaving the sitting is still there: %+v", o.Sitting)
	}
	if code, body := b.ask("POST", base+"/moves", play.Move{N: 2, Do: "check"}); code != 404 {
		t.Errorf("a move without a sitting: %d %s", code, body)
	}
	if code, body := b.ask("POST", base+"/sittings", map[string]string{"learner": "  "}); code != 422 || !strings.Contains(body, "no-name") {
		t.Errorf("a learner without a name: %d %s", code, body)
	}
	if _, next := b.seat(r); next.Standing.N != 0 || len(next.Standing.Stands) != 0 {
		t.Errorf("the next learner begins with %+v", next.Standing)
	}
	if list, err := s.store.SittingIDs(t.Context(), s.played(r)); err != nil || len(list) != 2 {
		t.Errorf("%d sittings are kept (%v)", len(list), err)
	}
}

// Loading the demo again changes nothing; what an interrupted start left out is
// made up.
func TestTheDemoIsLoadedOnceAndCompleted(t *testing.T) {
	s := newSite(t)
	for _, gone := range []string{"", demo.Accounts()[1].Email} {
		for _, statement := range []string{
			`DELETE FROM settings WHERE name = 'demo' OR name = ?`, `DELETE m FROM members m JOIN accounts a ON a.id = m.account_id WHERE a.email = ?`, `DELETE FROM accounts WHERE email = ?`,
		} {
			if _, err := s.store.DB().ExecContext(t.Context(), statement, gone); err != nil {
				t.Fatal(err)
			}
		}
		if err := demo.Load(t.Context(), s.store); err != nil {
			t.Fatal(err)
		}
		first, err := s.store.MemberByEmail(t.Context(), demo.Accounts()[0].Email)
		if err != nil {
			t.Fatal(err)
		}
		for _, a := range demo.Accounts() {
			if m, err := s.store.MemberByEmail(t.Context(), a.Email); err != nil || m.WorkspaceID != first.WorkspaceID || m.Role != a.Role {
				t.Errorf("%s: %+v, %v", a.Email, m, err)
			}
		}
		if list, err := s.store.In(first.WorkspaceID).Activities(t.Context(), store.AnActivity); err != nil || len(list) != len(demo.Activities) {
			t.Errorf("%d activities on the shelf (%v)", len(list), err)
		}
	}
}
