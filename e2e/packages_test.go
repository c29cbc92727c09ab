package e2e

import (
	"archive/zip"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"net/http/httptest"
	"os"
	"os/exec"
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
	"keenmagpie/standin"
)

// packed makes a package and unpacks it into a folder.
func packed(t testing.TB, as pack.As, b bundle.Bundle) (folder string) {
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

// playedEverywhere is played with the same moves wherever learners are, by playsFirst and,
// after they have left and come back, playsOn: it has to come to the same.
func playedEverywhere() *activity.Doc {
	doc := arranged("sort", "x: Bell, Hub; y: Rim", "A", "B")
	doc.Key.Solutions[0].Right = map[string]activity.Selector{"a": {Items: []string{"bell", "hub"}}, "b": {Items: []string{"rim"}}}
	doc.Play.Attempts, doc.Play.WrongPieces, doc.Play.RightPieces = 3, "home", "hold"
	doc.Marks.PassMark = 4000
	return doc
}

func (p *person) playsFirst() {
	p.t.Helper()
	p.place("Bell", "A")
	p.place("Hub", "B")
	p.click("Check")
	p.sees("1 of 3 are where they belong. Try again.")
	p.click("Try again")
	p.sees(piece("Hub") + "not placed")
	p.place("Hub", "A")
}

func (p *person) playsOn() {
	p.t.Helper()
	p.sees(piece("Hub") + "in A")
	p.sees("2 attempts left")
	p.place("Rim", "B")
	p.click("Check")
	p.sees("Everything is where it belongs.")
	p.sees("Score 5 of 10 (50%)")
}

// valid says whether statements are, by a package that knows the standard.
func valid(t *testing.T, statements []json.RawMessage) {
	t.Helper()
	body, err := json.Marshal(statements)
	if err != nil {
		t.Fatal(err)
	}
	cmd := exec.Command("node", "-e", `const check = require('xapi-validation').default;
		for (const s of JSON.parse(require('fs').readFileSync(0, 'utf8'))) { const faults = check(s); if (faults.length) console.log(JSON.stringify(s), JSON.stringify(faults)) }`)
	cmd.Dir, cmd.Stdin = "../ui", bytes.NewReader(body)
	if said, err := cmd.CombinedOutput(); err != nil || len(said) > 0 {
		t.Errorf("statements that are not valid: %v\n%s", err, said)
	}
}

// eachOnce says whether what a launch by cmi5 says once was said once.
func eachOnce(t *testing.T, statements []json.RawMessage) {
	t.Helper()
	verbs := map[string]int{}
	for _, s := range statements {
		var x struct{ Verb struct{ ID string } }
		if err := json.Unmarshal(s, &x); err != nil {
			t.Fatal(err)
		}
		verbs[x.Verb.ID[strings.LastIndex(x.Verb.ID, "/")+1:]]++
	}
	for verb, want := range map[string]int{"initialized": 3, "answered": 4, "completed": 1, "passed": 1, "failed": 0, "terminated": 3} {
		if verbs[verb] != want {
			t.Errorf("%d times %s, not %d: %v", verbs[verb], verb, want, verbs)
		}
	}
}

// asksOnly fails where the page has asked for anything elsewhere.
func (p *person) asksOnly(begin string) {
	p.t.Helper()
	asked := eval[[]string](p, `document.defaultView.performance.getEntriesByType('resource').map((e) => e.name)`)
	if len(asked) == 0 {
		p.t.Error("the page has asked for nothing at all")
	}
	for _, url := range asked {
		if !strings.HasPrefix(url, begin) && !strings.HasPrefix(url, "data:") && !strings.HasPrefix(url, "blob:") {
			p.t.Errorf("the page has asked for %s", url)
		}
	}
}

// aside lets the frame fill the window, so that what is in it stands where the window has it.
func (p *person) aside() {
	p.t.Helper()
	p.until("the frame", `document.querySelector('iframe')?.src.includes('/files/')`)
	eval[any](p, `Object.assign(document.querySelector('iframe').style, {position: 'fixed', inset: 0, width: '100vw', height: '100vh', zIndex: 9})`)
}

// content is a demo activity with its media.
func content(t testing.TB, name string) bundle.Bundle {
	t.Helper()
	body, err := os.ReadFile("../demo/activities/" + name + ".json")
	if err != nil {
		t.Fatal(err)
	}
	doc, faults := activity.Read(body)
	if faults != nil {
		t.Fatal(faults)
	}
	b := bundle.Bundle{Doc: doc}
	err = b.Take(func(name string) ([]byte, error) {
		if body, err := os.ReadFile("../demo/pictures/" + name); err == nil {
			return body, nil
		}
		return os.ReadFile("../demo/sounds/" + name)
	})
	if err != nil {
		t.Fatal(err)
	}
	return b
}

// The same moves come to the same in every package, and each platform gets to know them; who
// leaves in the middle goes on exactly there, and who looks again changes nothing.
func TestPackagesOnPlatforms(t *testing.T) {
	w := newWorld(t)
	b := bundle.Bundle{Doc: playedEverywhere()}
	college := standin.NewCollege()
	page := httptest.NewServer(college.Handler())
	t.Cleanup(page.Close)
	for n, x := range []struct {
		as   pack.As
		want standin.Grade
	}{
		{pack.Scorm12, standin.Grade{Status: "passed", Score: "50"}},
		{pack.Cmi5, standin.Grade{Status: "completed", Success: "passed", Score: "5"}},
		{pack.Scorm2004, standin.Grade{Status: "completed", Success: "passed", Score: "5.00"}},
	} {
		t.Run(string(x.as), func(t *testing.T) {
			var body bytes.Buffer
			if err := pack.Write(&body, x.as, b, pack.Options{}); err != nil {
				t.Fatal(err)
			}
			taken, err := http.Post(page.URL+"/packages", "application/zip", &body)
			if err != nil {
				t.Fatal(err)
			}
			taken.Body.Close()
			where := page.URL + taken.Header.Get("Location") + "?as=cleo"
			grade := func() (got standin.Grade) {
				for _, g := range college.Grades() {
					if g.Who == "Cleo Ward" {
						got = g // the last
					}
				}
				return got
			}
			kim := w.person(t)
			kim.open(where)
			kim.aside()
			kim.inFrame = true
			kim.click("Start")
			kim.playsFirst()
			hasLeft := func() { // what is told while a page goes may arrive after the next has come
				if x.as != pack.Cmi5 {
					kim.untilAnswered("the platform knows that she left", `fetch('/log').then((r) => r.text()).then((t) => t.split('launched')[0].includes('.exit, '))`)
				}
			}
			// She leaves, and comes back at another device with what the platform kept.
			kim.inFrame = false
			kim.open(page.URL + "/gradebook")
			hasLeft()
			kim.sees("Cleo Ward")
			kim.sees("incomplete")
			kim = w.person(t)
			kim.open(where)
			kim.aside()
			kim.inFrame = true
			kim.playsOn()
			kim.shot(string(x.as))
			kim.asksOnly(page.URL)
			if x.as == pack.Cmi5 { // which says where to go back to: as the page goes, it tells the rest
				kim.click("Back to the course")
				kim.inFrame = false
				kim.until("the college, in the frame", `document.querySelector('iframe').contentDocument?.body?.innerText.includes('Tarnbridge College')`)
			}
			kim.inFrame = false
			kim.open(page.URL + "/gradebook")
			hasLeft()
			got := grade()
			x.want.Object, x.want.Page, x.want.Who, x.want.Launches = "Arranged", "Arranged", "Cleo Ward", 2
			if total := got.Total; total == "" || strings.Trim(total, "0:.PTS") == "" {
				t.Errorf("the time is %q", total)
			}
			got.Total = ""
			if got != x.want {
				t.Errorf("the gradebook has %+v, not %+v", got, x.want)
			}
			// Looked at again, nothing is written.
			kim.open(where + "&mode=review")
			kim.aside()
			kim.inFrame = true
			kim.sees("5 of 10")
			kim.inFrame = false
			kim.open(page.URL + "/log")
			log := eval[string](kim, `document.body.innerText`)
			if strings.Contains(log, "→ false") {
				t.Errorf("the platform refused something:\n%s", log)
			}
			after := log[:strings.Index(log, "(review)")]
			if strings.Contains(after, "SetValue") || strings.Contains(after, "answered") || strings.Contains(after, "passed") {
				t.Errorf("looking again wrote:\n%s", after)
			}
			if x.as == pack.Cmi5 {
				valid(t, college.Statements())
				eachOnce(t, college.Statements())
			} else {
				for _, call := range []string{"interactions.0.", "interactions.3."} {
					if !strings.Contains(log, call) {
						t.Errorf("no answer %s was told", call)
					}
				}
			}
			if n == 2 {
				kim.open(page.URL)
				kim.shot("college")
				kim.open(page.URL + "/gradebook")
				kim.shot("gradebook")
			}
		})
	}

	// A platform that takes nothing holds nothing up, and that is told once.
	t.Run("commits are refused", func(t *testing.T) {
		kim := w.person(t)
		kim.open(page.URL)
		kim.click("refuse-commits")
		kim.click("Set")
		kim.until("the switch is on", `document.querySelector('[name=refuse-commits]')?.defaultChecked`)
		kim.open(page.URL + "/objects/1?as=dan")
		kim.aside()
		kim.inFrame = true
		kim.click("Start")
		kim.place("Bell", "A")
		kim.place("Hub", "A")
		kim.place("Rim", "B")
		kim.click("Check")
		kim.sees("10 of 10")
		kim.sees("The learning platform didn’t accept everything")
		kim.shot("refused")
	})

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

// intoFrame looks at the page in a frame of another site, where no cookie is kept.
func (p *person) intoFrame(url string) {
	p.t.Helper()
	for range 900 {
		var found target.ID
		p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
			list, err := cdp.Call(ctx, t, target.GetTargets, target.GetTargetsParams{})
			if err != nil {
				return err
			}
			// Others have frames of the same page: hers is in her own browser.
			hers := cdp.BrowserContextID("")
			for _, x := range list.TargetInfos {
				if x.TargetID == t.TargetID {
					hers = x.BrowserContextID
				}
			}
			for _, x := range list.TargetInfos {
				if x.Type == "iframe" && x.BrowserContextID == hers && strings.HasPrefix(x.URL, url) {
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
			if kept := eval[string](p, `(() => { document.cookie = 'probe=1; SameSite=None; Secure'; return document.cookie })()`); kept != "" {
				p.t.Errorf("a frame of another site keeps cookies: %s", kept)
			}
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
	ana.openDocument(playedEverywhere())
	link := ana.release()
	mo := w.person(t)
	mo.begin(link, "Mo") // by the link alone, for comparison
	mo.playsFirst()
	mo.reload()
	mo.playsOn()
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
	lea.playsFirst()
	lea.other = nil
	lea.open(origin) // reloaded: she goes on
	lea.intoFrame(w.url)
	lea.playsOn()
	lea.shot("framed")
	lea.other = nil
	heard := eval[[]map[string]any](lea, `heard`)
	kinds := map[any]map[string]any{}
	for _, x := range heard {
		kinds[x["type"]] = x
	}
	if kinds["magpie:resize"] == nil || kinds["magpie:progress"]["progress"] != 1.0 || kinds["magpie:finished"]["score"] != "5.00" {
		t.Errorf("the page around heard %v", heard)
	}
}

// BenchmarkOpeningAPackage prints how long it takes from opening a package to the first piece
// that can be moved, whoever opens it pressing Start at once.
func BenchmarkOpeningAPackage(b *testing.B) {
	w := newWorld(b)
	folder := packed(b, pack.Scorm2004, content(b, "parts-drawers"))
	server := httptest.NewServer(http.FileServer(http.Dir(folder)))
	b.Cleanup(server.Close)
	kim := w.person(b)
	sum := 0.0
	for b.Loop() {
		kim.open(server.URL)
		sum += eval[float64](kim, `(async () => {
			const seen = async (what) => { for (;;) { const e = document.querySelector(what); if (e) return e; await new Promise((r) => setTimeout(r, 4)) } };
			(await seen('form button[type=submit]')).click();
			await seen('[data-piece]');
			return performance.now() })()`)
	}
	b.ReportMetric(sum/float64(b.N), "ms/opening")
	b.ReportMetric(0, "ns/op")
}
