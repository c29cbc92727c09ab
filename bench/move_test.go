// Package bench measures what the issues name, and prints figures and ratios.
// Run it with: make bench
package bench

import (
	"bytes"
	"encoding/json"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"slices"
	"testing"
	"time"

	"github.com/go-chi/chi/v5"

	"keenmagpie/core/play"
	"keenmagpie/demo"
	"keenmagpie/hosting"
	"keenmagpie/localdb"
	"keenmagpie/server"
)

// BenchmarkHostedMove times the handler of one hosted move against a bare chi
// handler that makes one committed INSERT in the same database, turn and turn
// about, and reports both at the median and the 99th percentile, in
// microseconds, and the ratios. The aim is a ratio under 2.
func BenchmarkHostedMove(b *testing.B) {
	ctx := b.Context()
	db, err := localdb.Start(ctx, b.TempDir())
	if err != nil {
		b.Fatal(err)
	}
	defer db.Stop()
	st, err := demo.Open(ctx, db, "bench")
	if err != nil {
		b.Fatal(err)
	}
	defer st.Close()
	handler := server.New(st, slog.New(slog.NewTextHandler(io.Discard, nil)))
	link := release(b, handler)

	if _, err := st.DB().ExecContext(ctx, `CREATE TABLE bare (id BIGINT AUTO_INCREMENT PRIMARY KEY, body TEXT NOT NULL)`); err != nil {
		b.Fatal(err)
	}
	bare := chi.NewRouter()
	bare.Post("/", func(w http.ResponseWriter, r *http.Request) {
		body, err := io.ReadAll(r.Body)
		if err == nil {
			_, err = st.DB().ExecContext(r.Context(), `INSERT INTO bare (body) VALUES (?)`, body)
		}
		if err != nil {
			http.Error(w, err.Error(), 500)
			return
		}
		_, _ = w.Write([]byte("{}"))
	})

	sitting := &learner{b: b, handler: handler, base: "/api" + link}
	sitting.begin()
	var hosted, plain []time.Duration
	for b.Loop() {
		path, body := sitting.next()
		hosted = append(hosted, timed(b, handler, path, body, sitting.cookie))
		plain = append(plain, timed(b, bare, "/", body, nil))
	}
	b.ReportMetric(0, "ns/op")
	report := func(name string, at float64) {
		h, p := quantile(hosted, at), quantile(plain, at)
		b.ReportMetric(float64(h.Microseconds()), name+"-hosted-µs")
		b.ReportMetric(float64(p.Microseconds()), name+"-insert-µs")
		b.ReportMetric(float64(h)/float64(p), name+"-ratio")
	}
	report("p50", 0.5)
	report("p99", 0.99)
}

func quantile(list []time.Duration, at float64) time.Duration {
	sorted := slices.Sorted(slices.Values(list))
	return sorted[min(len(sorted)-1, int(float64(len(sorted))*at))]
}

func timed(b *testing.B, h http.Handler, path string, body []byte, cookie *http.Cookie) time.Duration {
	r := httptest.NewRequest(http.MethodPost, path, bytes.NewReader(body))
	r.Header.Set("Content-Type", "application/json")
	if cookie != nil {
		r.AddCookie(cookie)
	}
	w := httptest.NewRecorder()
	start := time.Now()
	h.ServeHTTP(w, r)
	took := time.Since(start)
	if w.Code != 200 {
		b.Fatalf("%s: %d %s", path, w.Code, w.Body)
	}
	return took
}

func release(b *testing.B, h http.Handler) (link string) {
	var cookies []*http.Cookie
	ask := func(method, path string, body any, into any) {
		in, err := json.Marshal(body)
		if err != nil {
			b.Fatal(err)
		}
		r := httptest.NewRequest(method, path, bytes.NewReader(in))
		r.Header.Set("Content-Type", "application/json")
		for _, c := range cookies {
			r.AddCookie(c)
		}
		w := httptest.NewRecorder()
		h.ServeHTTP(w, r)
		if w.Code > 299 {
			b.Fatalf("%s: %d %s", path, w.Code, w.Body)
		}
		cookies = append(cookies, w.Result().Cookies()...)
		if err := json.Unmarshal(w.Body.Bytes(), into); err != nil {
			b.Fatal(err)
		}
	}
	a := demo.Accounts()[0]
	var shelf struct{ Activities []server.Draft }
	var made server.Release
	ask("POST", "/api/session", map[string]string{"email": a.Email, "password": a.Password}, &struct{}{})
	ask("GET", "/api/activities", nil, &shelf)
	ask("POST", "/api/activities/"+shelf.Activities[0].ID+"/releases", map[string]int{"revision": 1}, &made)
	return made.Link
}

// learner places all pieces of the demo's parts drawers, one after the other, and
// then begins again.
type learner struct {
	b       *testing.B
	handler http.Handler
	base    string
	cookie  *http.Cookie
	seated  hosting.Seated
	n       int
}

func (l *learner) begin() {
	r := httptest.NewRequest(http.MethodPost, l.base+"/sittings", bytes.NewReader([]byte(`{"learner":"Bench"}`)))
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	l.handler.ServeHTTP(w, r)
	if w.Code != 201 {
		l.b.Fatal(w.Body)
	}
	var begun hosting.Begun
	if err := json.Unmarshal(w.Body.Bytes(), &begun); err != nil {
		l.b.Fatal(err)
	}
	l.seated = *begun.Sitting
	l.cookie, l.n = w.Result().Cookies()[0], 0
}

func (l *learner) next() (path string, body []byte) {
	if l.n == len(l.seated.Scene.Pieces) {
		l.begin()
	}
	p := l.seated.Scene.Pieces[l.n]
	l.n++
	body, err := json.Marshal(play.Move{N: l.n, T: int64(l.n), Do: "place", Piece: p.ID, Target: l.seated.Scene.Targets[l.n%5].ID})
	if err != nil {
		l.b.Fatal(err)
	}
	return l.base + "/moves", body
}
