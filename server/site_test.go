package server_test

import (
	"bytes"
	"encoding/binary"
	"encoding/json"
	"io"
	"log/slog"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"os"
	"strings"
	"sync/atomic"
	"testing"
	"time"

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
	os.Exit(localdb.During(func(started *localdb.Server) int {
		db = started
		return m.Run()
	}))
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
