package e2e

import (
	"net/http"
	"net/http/httptest"
	"os/exec"
	"testing"
)

// The modules of the interface that know no page have tests beside them; they run in the
// browser, on a page of their own.
func TestModulesOfTheInterface(t *testing.T) {
	dir := t.TempDir()
	build := exec.Command("npx", "--no-install", "vite", "build", "--config", "vite.unit.config.ts", "--outDir", dir, "--logLevel", "error")
	build.Dir = "../ui"
	if out, err := build.CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	web := httptest.NewServer(http.FileServer(http.Dir(dir)))
	t.Cleanup(web.Close)
	p := newWorld(t).person(t)
	p.open(web.URL)
	p.until("all of them", "window.results")
	results := eval[[]struct{ Name, Failure string }](p, "window.results.map((r) => ({Name: r.name, Failure: r.failure}))")
	if len(results) < 25 {
		t.Errorf("only %d tests were found", len(results))
	}
	for _, r := range results {
		t.Run(r.Name, func(t *testing.T) {
			if r.Failure != "" {
				t.Error(r.Failure)
			}
		})
	}
}
