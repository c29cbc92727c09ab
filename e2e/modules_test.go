package e2e

import (
	"encoding/json"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os/exec"
	"slices"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
)

// answersOfTheCore is what the core says where the interface has to do the same by itself.
func answersOfTheCore() any {
	type reframed struct {
		Target any               `json:"target"`
		To     geometry.Rect     `json:"to"`
		Points []geometry.Vertex `json:"points"`
	}
	rnd := rand.New(rand.NewPCG(7, 7))
	upTo := func(n int64) exact.Hundredths { return exact.Hundredths(rnd.Int64N(n)) }
	var frames []reframed
	for range 500 {
		t := activity.Target{Frame: geometry.Rect{X: upTo(90_000), Y: upTo(90_000), W: 1 + upTo(50_000), H: 1 + upTo(50_000)}}
		for range 3 + rnd.IntN(5) {
			t.Points = append(t.Points, geometry.Vertex{upTo(150_000) - 10_000, upTo(150_000) - 10_000})
		}
		before := map[string]any{"frame": t.Frame, "points": slices.Clone(t.Points)}
		to := geometry.Rect{X: upTo(90_000), Y: upTo(90_000), W: 2400 + upTo(50_000), H: 2400 + upTo(50_000)}
		layout.SetFrame(&t, to)
		frames = append(frames, reframed{before, to, t.Points})
	}
	type line struct {
		Frame geometry.Rect   `json:"frame"`
		From  *activity.Point `json:"from"`
		To    *activity.Point `json:"to"`
	}
	var lines []line
	for range 500 {
		frame := geometry.Rect{X: upTo(90_000), Y: upTo(90_000), W: 1 + upTo(50_000), H: 1 + upTo(50_000)}
		to := &activity.Point{X: upTo(150_000) - 10_000, Y: upTo(150_000) - 10_000}
		doc := &activity.Doc{Targets: []activity.Target{{ID: "box", Frame: frame}}, Scenery: []activity.Scenery{{Tie: "box", From: &activity.Point{X: -1}, To: to}}}
		lines = append(lines, line{frame, layout.Tie(doc).Scenery[0].From, to})
	}
	return map[string]any{"frames": frames, "lines": lines}
}

// The modules of the interface that know no page have tests beside them; they run in the
// browser, on a page of their own.
func TestModulesOfTheInterface(t *testing.T) {
	dir := t.TempDir()
	build := exec.Command("npx", "--no-install", "vite", "build", "--config", "vite.unit.config.ts", "--outDir", dir, "--logLevel", "error")
	build.Dir = "../ui"
	if out, err := build.CombinedOutput(); err != nil {
		t.Fatalf("%v\n%s", err, out)
	}
	pages := http.NewServeMux()
	pages.Handle("/", http.FileServer(http.Dir(dir)))
	pages.HandleFunc("/core.json", func(w http.ResponseWriter, _ *http.Request) {
		if err := json.NewEncoder(w).Encode(answersOfTheCore()); err != nil {
			t.Error(err)
		}
	})
	web := httptest.NewServer(pages)
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
