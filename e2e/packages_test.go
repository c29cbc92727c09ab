package e2e

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/formats/bundle"
	"keenmagpie/formats/pack"
)

// packed makes a package and unpacks it into a folder.
func packed(t *testing.T, as pack.As, b bundle.Bundle) (folder string) {
	t.Helper()
	var body bytes.Buffer
	if err := pack.Write(&body, as, b, pack.Options{}); err != nil {
		t.Fatal(err)
	}
	z, err := zip.NewReader(bytes.NewReader(body.Bytes()), int64(body.Len()))
	if err != nil {
		t.Fatal(err)
	}
	folder = t.TempDir()
	if err := os.CopyFS(folder, z); err != nil {
		t.Fatal(err)
	}
	return folder
}

// platform is a page with the functions of SCORM around a package in a frame that fills the
// window. What the package says is kept in the browser, and the calls in the page.
func platform(t *testing.T, folder, class, name string) string {
	t.Helper()
	mux := http.NewServeMux()
	mux.HandleFunc("GET /{$}", func(w http.ResponseWriter, _ *http.Request) {
		w.Header().Set("Content-Type", "text/html; charset=utf-8")
		fmt.Fprintf(w, `<!doctype html><title>Platform</title><style>html, body { margin: 0; height: 100%% } iframe { border: 0; width: 100%%; height: 100%%; display: block }</style>
			<script src="/run-time.js"></script><script>
				const said = [];
				const run = window[%[2]q] = new %[1]s({ autocommit: false, logLevel: 5 });
				const kept = localStorage.getItem('kept');
				if (kept) run.loadFromJSON(JSON.parse(kept), 'cmi');
				for (const call of ['SetValue', 'LMSSetValue']) if (run[call]) {
					const inner = run[call];
					window.set = inner;
					run[call] = run[call.toLowerCase()] = function (...args) { const ok = String(inner.apply(run, args)); said.push([...args, ok].join('|')); return ok };
				}
				addEventListener('pagehide', () => {});
				const keep = () => localStorage.setItem('kept', JSON.stringify(JSON.parse(JSON.stringify(run.cmi))));
				for (const call of ['Commit', 'LMSCommit', 'Terminate', 'LMSFinish']) if (run[call]) {
					const inner = run[call];
					run[call] = function (...args) { const ok = inner.apply(run, args); keep(); return ok };
				}
			</script><iframe src="/package/index.html"></iframe>`, class, name)
	})
	mux.HandleFunc("GET /run-time.js", func(w http.ResponseWriter, r *http.Request) {
		http.ServeFile(w, r, "../ui/node_modules/scorm-again/dist/scorm-again.min.js")
	})
	mux.Handle("GET /package/", http.StripPrefix("/package/", http.FileServer(http.Dir(folder))))
	server := httptest.NewServer(mux)
	t.Cleanup(server.Close)
	return server.URL
}

// content is a demo activity with its media.
func content(t *testing.T, name string) bundle.Bundle {
	t.Helper()
	body, err := os.ReadFile("../demo/activities/" + name + ".json")
	if err != nil {
		t.Fatal(err)
	}
	doc, faults := activity.Read(body)
	if faults != nil {
		t.Fatal(faults)
	}
	b, named := bundle.Bundle{Doc: doc}, map[string]string{}
	for _, id := range doc.Media() {
		body, err := os.ReadFile("../demo/pictures/" + id)
		if os.IsNotExist(err) {
			body, err = os.ReadFile("../demo/sounds/" + id)
		}
		if err != nil {
			t.Fatal(err)
		}
		m, err := bundle.NewMedium(body)
		if err != nil {
			t.Fatal(err)
		}
		named[id] = m.ID
		b.Media = append(b.Media, m)
	}
	doc.RenameMedia(named)
	return b
}

// placeAll plays a board by the keyboard's list: each piece into its target.
func (p *person) placeAll(pairs [][2]string) {
	p.t.Helper()
	for _, x := range pairs {
		p.place(x[0], x[1])
	}
}

// The same moves come to the same in every package, and each platform gets to know them; who
// leaves in the middle goes on exactly there.
func TestPackagesOnPlatforms(t *testing.T) {
	w := newWorld(t)
	b := bundle.Bundle{Doc: arranged("sort", "x: Bell, Hub; y: Rim", "A", "B")}
	b.Doc.Key.Solutions[0].Right = map[string]activity.Selector{"a": {Items: []string{"bell", "hub"}}, "b": {Items: []string{"rim"}}}
	b.Doc.Play.Attempts, b.Doc.Play.WrongPieces, b.Doc.Play.RightPieces = 3, "home", "hold"
	b.Doc.Marks.PassMark = 4000
	game, err := play.New(b.Doc)
	if err != nil {
		t.Fatal(err)
	}
	_ = game
	for _, x := range []struct {
		as          pack.As
		class, name string
		wants       []string // values that the platform has at the end
	}{
		{pack.Scorm12, "Scorm12API", "API", []string{"core.lesson_status=passed", "core.score.raw=50", "core.score.max=100"}},
		{pack.Scorm2004, "Scorm2004API", "API_1484_11", []string{"completion_status=completed", "success_status=passed", "score.scaled=0.5", "progress_measure=1"}},
	} {
		t.Run(string(x.as), func(t *testing.T) {
			kim := w.person(t)
			url := platform(t, packed(t, x.as, b), x.class, x.name)
			kim.open(url)
			kim.inFrame = true
			kim.click("Start")
			kim.place("Bell", "A")
			kim.place("Hub", "B")
			kim.click("Check")
			kim.sees("Try again")
			kim.click("Try again")
			kim.place("Hub", "A")
			// She leaves, and comes back with what the platform kept.
			kim.inFrame = false
			kim.open(url)
			kim.inFrame = true
			kim.sees(piece("Hub") + "in A")
			kim.shot(string(x.as))
			kim.place("Rim", "B")
			kim.click("Check")
			kim.sees("5 of 10")
			kim.inFrame = false
			said := eval[[]string](kim, `said`)
			for _, line := range said {
				if strings.HasSuffix(line, "|false") {
					t.Errorf("the platform refused %s", line)
				}
			}
			for _, want := range x.wants {
				element, value, _ := strings.Cut(want, "=")
				if got := eval[string](kim, `String(window[`+js(x.name)+`].`+map[bool]string{true: "LMSGetValue", false: "GetValue"}[x.as == pack.Scorm12]+`(`+js("cmi."+element)+`))`); got != value {
					t.Errorf("%s is %s, not %s", element, got, value)
				}
			}
			t.Log(strings.Join(said, "\n"))
		})
	}

	// With no platform around it says so, and plays all the same; also from a folder.
	t.Run("from a folder", func(t *testing.T) {
		kim := w.person(t)
		folder := packed(t, pack.Scorm12, content(t, "parts-drawers"))
		kim.open("file://" + filepath.Join(folder, "index.html"))
		kim.sees("This isn’t open inside a learning platform.")
		kim.click("Start")
		kim.until("a board", `document.querySelector('[data-piece] img')?.naturalWidth > 0`)
		kim.shot("folder")
	})
	_ = context.Background
	_ = io.EOF
	_ = json.Valid
}
