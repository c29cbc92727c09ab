package bench

import (
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"keenmagpie/demo"
	"keenmagpie/hosting"
	"keenmagpie/localdb"
	"keenmagpie/server"
	"keenmagpie/store"
)

// BenchmarkShelf times a page of 60 of a shelf of 5,000 activities, the first, one from the
// middle, and one that is searched for, at the median, in milliseconds. The aim is 20.
func BenchmarkShelf(b *testing.B) {
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
	me, err := st.MemberByEmail(ctx, demo.Accounts()[0].Email)
	if err != nil {
		b.Fatal(err)
	}
	doc, _, err := demo.PartsDrawers()
	if err != nil {
		b.Fatal(err)
	}
	for i := range 5000 {
		doc.Title = fmt.Sprintf("Parts drawers %d", i)
		a, err := st.In(me.WorkspaceID).AddActivity(ctx, me.ID, doc.Title, string(doc.Write()), nil)
		if err != nil {
			b.Fatal(err)
		}
		x, err := hosting.Summary(doc)
		if err == nil {
			err = st.KeepSummary(ctx, a.ID, a.Revision, x)
		}
		if err != nil {
			b.Fatal(err)
		}
	}
	_, after, err := st.In(me.WorkspaceID).Cards(ctx, store.AnActivity, store.Page{Most: 2500, Bare: true})
	if err != nil {
		b.Fatal(err)
	}
	handler := server.New(st, slog.New(slog.NewTextHandler(io.Discard, nil)))
	cookie := signedIn(b, handler)
	times := map[string][]time.Duration{}
	pages := map[string]string{"first": "", "middle": "?after=" + after, "found": "?find=drawers%204711"}
	for b.Loop() {
		for name, query := range pages {
			r := httptest.NewRequest(http.MethodGet, "/api/activities"+query, nil)
			r.AddCookie(cookie)
			w := httptest.NewRecorder()
			begun := time.Now()
			handler.ServeHTTP(w, r)
			times[name] = append(times[name], time.Since(begun))
			if w.Code != 200 {
				b.Fatalf("%d %s", w.Code, w.Body)
			}
			b.SetBytes(int64(w.Body.Len()))
		}
	}
	b.ReportMetric(0, "ns/op")
	for name, list := range times {
		b.ReportMetric(float64(quantile(list, 0.5).Microseconds())/1000, name+"-ms")
	}
}

// signedIn is the session of the demo's owner.
func signedIn(b *testing.B, h http.Handler) *http.Cookie {
	b.Helper()
	a := demo.Accounts()[0]
	r := httptest.NewRequest(http.MethodPost, "/api/session", strings.NewReader(fmt.Sprintf(`{"email":%q,"password":%q}`, a.Email, a.Password)))
	r.Header.Set("Content-Type", "application/json")
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	for _, c := range w.Result().Cookies() {
		return c
	}
	b.Fatalf("not signed in: %d %s", w.Code, w.Body)
	return nil
}
