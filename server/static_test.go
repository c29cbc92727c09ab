package server

import (
	"net/http"
	"net/http/httptest"
	"regexp"
	"strings"
	"testing"
)

func get(t *testing.T, h http.Handler, path string, header ...string) *httptest.ResponseRecorder {
	t.Helper()
	r := httptest.NewRequest(http.MethodGet, path, nil)
	for i := 0; i < len(header); i += 2 {
		r.Header.Set(header[i], header[i+1])
	}
	w := httptest.NewRecorder()
	h.ServeHTTP(w, r)
	return w
}

// What the build makes is sent compressed, and what is named by its content is
// kept for good; the pages themselves are asked for anew each time.
func TestTheBuiltInterfaceIsSent(t *testing.T) {
	s := New(nil, nil)
	page := get(t, s, "/activity/anything")
	if page.Code == http.StatusServiceUnavailable {
		t.Fatal("the interface has not been built: run make build first")
	}
	if page.Code != 200 || page.Header().Get("Cache-Control") != "no-cache" || !strings.Contains(page.Body.String(), `id="root"`) {
		t.Fatalf("the page: %d %v", page.Code, page.Header())
	}
	script := regexp.MustCompile(`/assets/[^"]+\.js`).FindString(page.Body.String())
	for accepts, want := range map[string]string{"gzip, deflate, br": "br", "gzip": "gzip", "identity": ""} {
		w := get(t, s, script, "Accept-Encoding", accepts)
		if w.Code != 200 || w.Header().Get("Content-Encoding") != want || !strings.Contains(w.Header().Get("Cache-Control"), "immutable") ||
			!strings.HasPrefix(w.Header().Get("Content-Type"), "text/javascript") {
			t.Errorf("%s to one who accepts %q: %d %v", script, accepts, w.Code, w.Header())
		}
	}
	for _, path := range []string{"/assets/../index.html", "/assets/nothing.js", "/assets/"} {
		if w := get(t, s, path); w.Code == 200 && strings.Contains(w.Header().Get("Cache-Control"), "immutable") {
			t.Errorf("%s: %d %v", path, w.Code, w.Header())
		}
	}
	// The engine comes as what a browser compiles while it loads.
	files, err := webui.ReadDir("webui/dist/built/assets")
	if err != nil {
		t.Fatal(err)
	}
	for _, f := range files {
		if strings.HasSuffix(f.Name(), ".wasm") {
			if w := get(t, s, "/assets/"+f.Name(), "Accept-Encoding", "br"); w.Header().Get("Content-Type") != "application/wasm" || w.Header().Get("Content-Encoding") != "br" {
				t.Errorf("the engine: %d %v", w.Code, w.Header())
			}
			return
		}
	}
	t.Error("no engine was built")
}
