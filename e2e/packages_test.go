package e2e

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/target"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
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

// The same moves come to the same in every package, and each platform gets to know them; who
// leaves in the middle goes on exactly there.
func TestPackagesOnPlatforms(t *testing.T) {
	w := newWorld(t)
	b := bundle.Bundle{Doc: arranged("sort", "x: Bell, Hub; y: Rim", "A", "B")}
	b.Doc.Key.Solutions[0].Right = map[string]activity.Selector{"a": {Items: []string{"bell", "hub"}}, "b": {Items: []string{"rim"}}}
	b.Doc.Play.Attempts, b.Doc.Play.WrongPieces, b.Doc.Play.RightPieces = 3, "home", "hold"
	b.Doc.Marks.PassMark = 4000
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
}

// intoFrame looks at the page in a frame of another site.
func (p *person) intoFrame(url string) {
	p.t.Helper()
	for range 200 {
		var found target.ID
		p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
			list, err := cdp.Call(ctx, t, target.GetTargets, target.GetTargetsParams{})
			if err != nil {
				return err
			}
			for _, x := range list.TargetInfos {
				if x.Type == "iframe" && strings.HasPrefix(x.URL, url) {
					found = x.TargetID
				}
			}
			return nil
		}))
		if found != "" {
			ctx, leave := chromedp.NewContext(p.ctx, chromedp.WithTargetID(found))
			p.t.Cleanup(leave)
			if err := chromedp.Do(ctx); err != nil { // it belongs to no deadline of a later one
				p.t.Fatal(err)
			}
			p.other = ctx
			return
		}
		time.Sleep(50 * time.Millisecond)
	}
	p.t.Fatalf("no frame shows %s", url)
}

// A release in a frame of another site, where browsers keep no cookies of ours, is played as
// anywhere, also after a reload, and the page around it hears how it goes.
func TestAReleaseInAFrame(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := arranged("sort", "x: Bell; y: Rim", "A", "B")
	doc.Key.Solutions[0].Right = map[string]activity.Selector{"a": {Items: []string{"bell"}}, "b": {Items: []string{"rim"}}}
	ana.openDocument(doc)
	link := ana.release()
	page := httptest.NewServer(http.HandlerFunc(func(rw http.ResponseWriter, _ *http.Request) {
		rw.Header().Set("Content-Type", "text/html; charset=utf-8")
		fmt.Fprintf(rw, `<!doctype html><title>A page</title><style>html, body { margin: 0 } iframe { border: 0; display: block }</style>
			<script>const heard = []; addEventListener('message', (e) => { if (e.origin === %q) heard.push(e.data) })</script>
			<iframe src="%s" width="1280" height="760" title="Arranged"></iframe>`, w.url, link)
	}))
	t.Cleanup(page.Close)
	origin := strings.Replace(page.URL, "127.0.0.1", "localhost", 1) // another site than ours

	ana.press(kb.Escape)
	ana.click("Releases and sittings")
	ana.click("Get it out…")
	ana.sees("SCORM 2004, 4th edition")
	ana.shot("get-it-out")
	ana.accessible("get it out")
	ana.fill("Sites that may show", origin)
	ana.click("Allow")
	ana.sees("Remove " + origin)
	ana.shot("allowed")

	lea := w.person(t)
	lea.open(origin)
	lea.intoFrame(w.url)
	lea.fill("Your name", "Lea")
	lea.click("Start")
	lea.place("Bell", "A")
	lea.other = nil
	lea.open(origin) // reloaded: she goes on
	lea.intoFrame(w.url)
	lea.sees(piece("Bell") + "in A")
	lea.place("Rim", "B")
	lea.click("Check")
	lea.sees("10 of 10")
	lea.shot("framed")
	lea.other = nil
	heard := eval[[]map[string]any](lea, `heard`)
	kinds := map[any]map[string]any{}
	for _, x := range heard {
		kinds[x["type"]] = x
	}
	if kinds["magpie:resize"] == nil || kinds["magpie:progress"]["progress"] != 1.0 || kinds["magpie:finished"]["score"] != "10.00" {
		t.Errorf("the page around heard %v", heard)
	}
}
