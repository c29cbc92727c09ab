package e2e

import (
	"context"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"math"
	"os"
	"path/filepath"
	"slices"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/cdproto/page"
	"github.com/chromedp/chromedp"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/demo"
)

// These measure; bench/workbench.sh runs them. They stand here for the browser and
// the person that the tests have.

// many is an activity of so many items and targets.
func many(items, targets int, onBoard bool) *activity.Doc {
	doc := layout.New("sort", fmt.Sprintf("%d items, %d targets", items, targets))
	names := func(word string, n int) (out []string) {
		for i := range n {
			out = append(out, fmt.Sprintf("%s %d", word, i+1))
		}
		return out
	}
	doc.Board.Width, doc.Board.Height = 120000, 72000
	doc.Items, doc.Targets, doc.Key.Solutions[0].Right = nil, nil, nil
	doc, _ = edit.AddItems(doc, names("Piece", items))
	doc, _ = edit.AddTargets(doc, names("Place", targets))
	layout.Start(doc)
	var rows []edit.Row
	for i := range doc.Items {
		it := &doc.Items[i]
		it.Size = geometry.Size{W: 5000, H: 3000}
		if onBoard {
			it.Home = &activity.Point{X: geometry.U(i%20) * 5800, Y: geometry.U(i/20) * 5000}
		}
		rows = append(rows, edit.Row{Item: it.ID, Targets: []string{doc.Targets[i%len(doc.Targets)].ID}})
	}
	edit.PutRight(doc, 0, rows)
	return doc
}

func (p *person) openDocument(doc *activity.Doc) {
	p.t.Helper()
	p.signedIn(demo.Accounts()[0])
	p.open("/activity/" + p.w.shelved(p.t, doc).ID)
	p.sees(doc.Title)
}

// timing is what frames took: the milliseconds from each to the next, which has the
// rate at which frames are drawn at all for its floor, and those that the page worked
// for each, its handlers, style, layout and painting together.
type timing struct{ Apart, Work []float64 }

// framesOf times n frames while the mouse, with its button down, goes along a way.
func (p *person) framesOf(n int, way func(i int) spot) timing {
	p.t.Helper()
	p.startFrames(n, "", "")
	for i := 0; !eval[bool](p, "!!window.timing"); i++ {
		at := way(i)
		p.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMouseMoved, at.X, at.Y, chromedp.ButtonLeft))
	}
	return eval[timing](p, "window.timing")
}

// frames runs a script in each of n frames, after another once.
func (p *person) frames(n int, once, each string) timing {
	p.t.Helper()
	p.startFrames(n, once, each)
	p.until("all frames", "window.timing")
	return eval[timing](p, "window.timing")
}

func (p *person) startFrames(n int, once, each string) {
	p.t.Helper()
	eval[any](p, fmt.Sprintf(`void (async () => { const apart = [], work = []; let before, began; window.timing = undefined; %s;
		const each = (i) => {%s};
		// What is posted in a frame comes after that frame is painted.
		const done = new MessageChannel(); done.port1.onmessage = () => work.push(performance.now() - began);
		for (let i = 0; i < %d; i++) {
			await new Promise(requestAnimationFrame);
			began = performance.now(); if (before !== undefined) apart.push(began - before); before = began;
			each(i); done.port2.postMessage(0); }
		setTimeout(() => window.timing = {Apart: apart.slice(5), Work: work.slice(5)}, 200) })()`, once, each, n))
}

func report(b *testing.B, t timing) {
	for name, times := range map[string][]float64{"apart": t.Apart, "work": t.Work} {
		slices.Sort(times)
		b.ReportMetric(times[len(times)/2], "ms-"+name+"-median")
		b.ReportMetric(times[len(times)*95/100], "ms-"+name+"-p95")
	}
	b.ReportMetric(0, "ns/op")
}

// What a page that does nothing takes: the floor of the others.
func BenchmarkNothing(b *testing.B) {
	ana := newWorld(b).person(b)
	ana.openDocument(many(200, 4, true))
	for b.Loop() {
		report(b, ana.frames(300, "", ""))
	}
}

func BenchmarkMoving200Pieces(b *testing.B) {
	ana := newWorld(b).person(b)
	ana.openDocument(many(200, 4, true))
	ana.click("Item Piece 1")
	ana.press("a", chromedp.ModifierCtrl)
	ana.press("a", chromedp.ModifierCtrl)
	ana.sees("204 selected")
	at := ana.middle("Item Piece 90")
	for b.Loop() {
		ana.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMousePressed, at.X, at.Y, chromedp.ButtonLeft, chromedp.ClickCount(1)))
		times := ana.framesOf(300, func(i int) spot {
			return spot{at.X + 40*math.Sin(float64(i)/9), at.Y + 30*math.Cos(float64(i)/7)}
		})
		ana.letGo(at)
		report(b, times)
	}
}

func BenchmarkScrollingALedgerOf300By40(b *testing.B) {
	ana := newWorld(b).person(b)
	ana.openDocument(many(300, 40, false))
	ana.sees("300 items")
	for b.Loop() {
		report(b, ana.frames(300, `const s = [...document.querySelectorAll('[role=grid] *')].find((e) => e.scrollHeight > e.clientHeight + 100 && getComputedStyle(e).overflowY !== 'visible')`,
			`s.scrollTop = (i * 20) % 8000`))
	}
}

// Thirty pictures of 1600 × 1200, from dropping them to all of them placed and saved.
func BenchmarkThirtyPictures(b *testing.B) {
	dir := b.TempDir()
	var files []string
	for i := range 30 {
		files = append(files, filepath.Join(dir, fmt.Sprintf("part-%d.png", i+1)))
		if err := os.WriteFile(files[i], photograph(i), 0o600); err != nil {
			b.Fatal(err)
		}
	}
	for b.Loop() {
		ana := newWorld(b).person(b)
		ana.openSort("Pictures")
		ana.click("Content")
		start := time.Now()
		ana.files("Picture and sound files", files...)
		for range 3 {
			if eval[bool](ana, `document.body.innerText.includes("30 new items in the tray")`) {
				break
			}
			ana.until("the files", `document.body.innerText.includes("30 new items in the tray") || performance.now() % 15000 > 14000`)
		}
		ana.until("all drawn and saved", `[...document.querySelectorAll('[role=status]')].some((e) => e.textContent === 'Saved') && document.querySelectorAll('[data-part^="item-part"] img').length === 30 && [...document.images].every((i) => i.complete)`)
		b.ReportMetric(time.Since(start).Seconds(), "s/30-pictures")
		b.ReportMetric(0, "ns/op")
	}
}

// photograph is a picture with grain, so that it does not pack to nothing.
func photograph(seed int) []byte {
	img := image.NewNRGBA(image.Rect(0, 0, 1600, 1200))
	n := uint32(seed + 1)
	for y := range 1200 {
		for x := range 1600 {
			n = n*1664525 + 1013904223
			img.SetNRGBA(x, y, color.NRGBA{uint8(x >> 3), uint8(y>>3) + uint8(n>>30), uint8(seed * 8), 255})
		}
	}
	var out buffer
	_ = png.Encode(&out, img)
	return out
}

type buffer []byte

func (b *buffer) Write(p []byte) (int, error) { *b = append(*b, p...); return len(p), nil }

// BenchmarkProofOfTheDemo is what each part of the proof takes in the browser, for
// the activities of the demo and for boards like those that it has room for.
func BenchmarkProofOfTheDemo(b *testing.B) {
	w := newWorld(b)
	for name, doc := range provedBoards() {
		b.Run(name, func(b *testing.B) {
			p := w.person(b)
			p.openDocument(doc)
			done := `performance.getEntriesByName('proof replies').length > 0`
			p.until("the proof", done)
			// More, with the engine warm; what is reported are medians.
			again := 0
			taken := map[string][]float64{}
			for b.Loop() {
				eval[any](p, `performance.clearMeasures()`)
				p.click("Instructions")
				p.fill("Instructions", fmt.Sprintf("Again %d", again))
				again++
				eval[any](p, "document.activeElement.blur()")
				p.until("the proof", done)
				all := 0.0
				for _, part := range []string{"solved", "count", "chance", "replies"} {
					ms := eval[float64](p, `performance.getEntriesByName('proof `+part+`').at(-1).duration`)
					taken[part] = append(taken[part], ms)
					all += ms
				}
				taken["all"] = append(taken["all"], all)
			}
			for part, list := range taken {
				slices.Sort(list)
				b.ReportMetric(list[len(list)/2], part+"-ms")
			}
		})
	}
}

// BenchmarkClassInTheBrowser lets 10,000 made-up learners play Parts drawers.
func BenchmarkClassInTheBrowser(b *testing.B) {
	w := newWorld(b)
	p := w.person(b)
	p.openDocument(provedBoards()["Parts drawers"])
	p.click("Proof: what is known")
	p.fill("Learners", "10000")
	took := 0.0
	for b.Loop() {
		eval[any](p, `performance.clearMeasures()`)
		p.click("Run simulation")
		done := `performance.getEntriesByName('class').length > 0`
		for !eval[bool](p, done) {
			p.do(chromedp.Sleep(100 * time.Millisecond))
		}
		took += eval[float64](p, `performance.getEntriesByName('class')[0].duration`)
	}
	b.ReportMetric(took/1000/float64(b.N), "s/class")
}

// provedBoards are the demo's activity and a few of other kinds.
func provedBoards() map[string]*activity.Doc {
	match := arranged("match", ": A, B, C, D, E, F, G, H", "P", "Q", "R", "S", "T", "U")
	for i := range match.Targets {
		match.Targets[i].Holds = 1
		edit.PutRight(match, 0, []edit.Row{{Item: match.Items[i].ID, Targets: []string{match.Targets[i].ID}}})
	}
	lane := arranged("sequence", ": A, B, C, D, E, F, G, H, I", "Steps")
	lane.Targets[0].Ordered, lane.Marks.By, lane.Marks.Measure = true, "order", "pairs"
	var order activity.Order
	for _, it := range lane.Items {
		edit.PutRight(lane, 0, []edit.Row{{Item: it.ID, Targets: []string{lane.Targets[0].ID}}})
		order.Tiers = append(order.Tiers, []string{it.ID})
	}
	lane, _ = edit.SetOrder(lane, 0, lane.Targets[0].ID, &order)
	out := map[string]*activity.Doc{"eight into six": match, "nine in order": lane}
	drawers, _, err := demo.PartsDrawers()
	if err != nil {
		panic(err)
	}
	out[drawers.Title] = drawers
	return out
}

// slowed makes the processor of a page slower by a factor.
func (p *person) slowed(by float64) {
	p.t.Helper()
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, emulation.SetCPUThrottlingRate, emulation.SetCPUThrottlingRateParams{Rate: by})
		return err
	}))
}

// A learner drags one piece among sixty, on a processor four times slower.
func BenchmarkDraggingAmong60Pieces(b *testing.B) {
	w := newWorld(b)
	ana := w.person(b)
	ana.openDocument(many(60, 4, true))
	ana.sees("60 pieces")
	link := ana.release()
	for b.Loop() {
		lea := w.person(b)
		lea.begin(link, "Lea")
		lea.slowed(4)
		at := lea.middle(piece("Piece 30"))
		lea.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMousePressed, at.X, at.Y, chromedp.ButtonLeft, chromedp.ClickCount(1)))
		times := lea.framesOf(300, func(i int) spot {
			return spot{at.X + 240*math.Sin(float64(i)/19), at.Y + 160*math.Cos(float64(i)/17)}
		})
		lea.letGo(at)
		report(b, times)
	}
}

// From opening the link, by a learner who has begun already, to the first piece that can
// be taken up; nothing is in the browser's cache.
func BenchmarkFirstPiece(b *testing.B) {
	w := newWorld(b)
	ana := w.person(b)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.sees("2 correct arrangements")
	link := ana.release()
	var times []float64
	for b.Loop() {
		for range 7 {
			lea := w.person(b)
			lea.begin(link, "Lea")
			lea.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
				if _, err := cdp.Call(ctx, t, network.SetCacheDisabled, network.SetCacheDisabledParams{CacheDisabled: true}); err != nil {
					return err
				}
				_, err := cdp.Call(ctx, t, page.AddScriptToEvaluateOnNewDocument, page.AddScriptToEvaluateOnNewDocumentParams{
					Source: `new MutationObserver(() => { if (document.querySelector('[data-piece]')) window.first ??= performance.now() }).observe(document, {childList: true, subtree: true})`})
				return err
			}))
			lea.open(link)
			lea.until("a piece", `window.first`)
			times = append(times, eval[float64](lea, `window.first`))
		}
	}
	slices.Sort(times)
	b.ReportMetric(times[len(times)/2], "ms-to-first-piece")
	b.ReportMetric(0, "ns/op")
}
