package server_test

import (
	"io"
	"net/http"
	"strings"
	"testing"

	"keenmagpie/formats/bundle"
	"keenmagpie/server"
)

// A release is fetched as a package, which is taken in again as it was released.
func TestAReleaseAsAPackage(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	release := ana.release(id)
	_, body := ana.ask("GET", "/api/releases/"+release.ID+"/packages", nil)
	list := read[struct{ Packages []server.Package }](t, body).Packages
	if len(list) != 6 {
		t.Fatalf("%d packages: %s", len(list), body)
	}
	for _, p := range list {
		path := "/packages/" + string(p.As)
		if p.As == "qti" {
			path = "/qti"
		}
		code, body := ana.ask("GET", "/api/releases/"+release.ID+path, nil)
		if code != 200 {
			t.Fatalf("%s: %d %.300s", p.As, code, body)
		}
		b, err := bundle.Read([]byte(body))
		if err != nil || b.Doc == nil || len(b.Doc.Items) == 0 || len(b.Media) == 0 {
			t.Errorf("%s is read as %+v: %v", p.As, b.Doc, err)
		}
	}
	series := ana.newSeries("Walk", id)
	_, body = ana.ask("GET", "/api/series/"+series.ID, nil)
	code, body := ana.ask("POST", "/api/series/"+series.ID+"/releases", map[string]int{"revision": read[server.SeriesDraft](t, body).Revision})
	if code != 201 {
		t.Fatalf("releasing the series: %d %s", code, body)
	}
	code, body = ana.ask("GET", "/api/releases/"+read[server.Release](t, body).ID+"/packages/scorm2004?eachStep=true", nil)
	b, err := bundle.Read([]byte(body))
	if code != 200 || err != nil || b.Series == nil || len(b.Activities) == 0 {
		t.Errorf("the series as a package: %d %v", code, err)
	}

	// Another workspace takes it in: the series, with activities of its own.
	els := s.signedIn("else@where.example", "another-bell")
	code, answer := els.ask("POST", "/api/bundles", []byte(body))
	made := read[server.Imported](t, answer)
	if code != 201 || !made.Series || made.ID == series.ID {
		t.Fatalf("taking it in: %d %s", code, answer)
	}
	_, answer = els.ask("GET", "/api/series/"+made.ID, nil)
	if code, answer := els.ask("POST", "/api/series/"+made.ID+"/releases", map[string]int{"revision": read[server.SeriesDraft](t, answer).Revision}); code != 201 {
		t.Errorf("what was taken in is released: %d %s", code, answer)
	}
}

// Where a browser keeps no cookies, as in a frame of another site, a learner's token goes
// with each request; and only the sites that a workspace names may show its releases.
func TestASittingInAFrameOfAnotherSite(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	link := ana.release(id).Link
	policy := func(path string) string {
		r, err := http.Get(s.urls[0] + path)
		if err != nil {
			t.Fatal(err)
		}
		r.Body.Close()
		return r.Header.Get("Content-Security-Policy")
	}
	if got := policy(link); !strings.Contains(got, "frame-ancestors 'none'") {
		t.Errorf("before any site is named: %s", got)
	}
	if code, body := ana.ask("PUT", "/api/frames", map[string]any{"origins": []string{"https://pages.tarnbridge.example/some/page", "nonsense"}}); code != 422 {
		t.Errorf("nonsense is taken for a site: %d %s", code, body)
	}
	if code, body := ana.ask("PUT", "/api/frames", map[string]any{"origins": []string{"https://Pages.Tarnbridge.example/some/page"}}); code != 200 {
		t.Fatalf("%d %s", code, body)
	}
	if got := policy(link); !strings.Contains(got, "frame-ancestors https://pages.tarnbridge.example") {
		t.Errorf("the page that learners open: %s", got)
	}
	for _, path := range []string{"/", "/activity/" + id, "/play/nowhere"} {
		if got := policy(path); !strings.Contains(got, "frame-ancestors 'none'") {
			t.Errorf("%s: %s", path, got)
		}
	}

	do := func(method, path, token, body string) (*http.Response, error) {
		r, err := http.NewRequest(method, s.urls[0]+path, strings.NewReader(body))
		if err != nil {
			return nil, err
		}
		r.Header.Set("Content-Type", "application/json")
		r.Header.Set("Magpie-Framed", "1")
		if token != "" {
			r.Header.Set("Magpie-Sitting", token)
		}
		return http.DefaultClient.Do(r)
	}
	r, err := do("POST", "/api"+link+"/sittings", "", `{"learner":"Lea","request":"drawnatrandomoneofakind"}`)
	if err != nil {
		t.Fatal(err)
	}
	said, _ := io.ReadAll(r.Body)
	r.Body.Close()
	token := r.Header.Get("Magpie-Sitting")
	if r.StatusCode != 201 || token == "" || len(r.Cookies()) > 0 {
		t.Fatalf("begun with %d, token %q, cookies %v: %s", r.StatusCode, token, r.Cookies(), said)
	}
	move := `{"n":1,"t":1,"do":"check"}`
	for name, x := range map[string]struct {
		token string
		want  int
	}{"with the token": {token, 200}, "without": {"", 404}, "with another": {strings.ToUpper(token), 404}} {
		t.Run(name, func(t *testing.T) {
			r, err := do("POST", "/api"+link+"/moves?step=0&turn=0", x.token, move)
			if err != nil {
				t.Fatal(err)
			}
			r.Body.Close()
			if (r.StatusCode == 200) != (x.want == 200) {
				t.Errorf("a move %s: %d", name, r.StatusCode)
			}
		})
	}
}
