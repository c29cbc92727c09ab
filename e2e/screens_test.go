package e2e

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/proof"
	"keenmagpie/core/reply"
	"keenmagpie/demo"
)

// screens are the sizes at which everything is looked at.
var screens = [][2]int64{{1280, 800}, {768, 1024}, {390, 844}}

// boards are those of the demo.
var boards = []string{"Parts drawers", "Signs of wear", "Fix the puncture", "Know your bicycle", "Ready for night", "Safety note", "Front desk", "On the stand"}

// opens opens an activity of the demo for a learner, as its draft is, before it starts.
func (p *person) opens(title string) {
	p.t.Helper()
	m, id := p.w.designer(p.t), p.w.titled(p.t, title)
	if err := p.w.store.In(m.WorkspaceID).AddDraftLink(p.ctx, id, m.ID); err != nil {
		p.t.Fatal(err)
	}
	links, err := p.w.store.In(m.WorkspaceID).DraftLinks(p.ctx, id)
	if err != nil {
		p.t.Fatal(err)
	}
	p.open("/try/" + links[len(links)-1].Link)
	p.sees("Start")
}

// tries goes on from there to its board.
func (p *person) tries(title string) {
	p.t.Helper()
	p.opens(title)
	p.click("Start")
	p.until("it is drawn", `document.querySelector('[data-list], [data-piece]')`)
	if eval[bool](p, `!!document.querySelector('[data-list]')`) {
		p.click("Board view")
	}
	p.until("the board", `document.querySelector('[data-window] [data-target], [data-window] [data-gap]')`)
}

// small is the smallest text and the smallest thing to hit of what is drawn on the board
// and in its tray, in pixels.
const small = `(() => {
	const shown = (e) => e.getClientRects().length > 0 && !e.closest('.sr-only');
	const root = document.querySelector('[data-tray]').parentElement;
	const texts = [...root.querySelectorAll('*')].filter((e) => shown(e) && [...e.childNodes].some((n) => n.nodeType === 3 && n.data.trim()));
	const scaled = (e) => { const size = parseFloat(getComputedStyle(e).fontSize); const t = e.closest('[data-text]'); if (!t) return size;
		const m = new DOMMatrix(getComputedStyle(t).transform); return size * (m.a || 1) };
	const text = texts.map((e) => ({px: scaled(e), of: e.textContent})).sort((a, b) => a.px - b.px)[0] ?? {px: 99, of: ''};
	const part = [...root.querySelectorAll('[data-piece], [data-target]')].filter(shown)
		.map((e) => { const r = e.getBoundingClientRect(); return {px: Math.min(r.width, r.height), of: e.ariaLabel} }).sort((a, b) => a.px - b.px)[0] ?? {px: 99, of: ''};
	const box = (e) => e.getBoundingClientRect();
	const r = box(document.querySelector('[data-window]')), tray = box(document.querySelector('[data-tray]'));
	return {text: text.px, textOf: text.of, part: part.px, partOf: part.of,
		share: Math.min(1, r.width / box(document.querySelector('[data-window] [data-form], [data-window] > *')).width),
		tray: Math.min(tray.bottom, innerHeight, box(document.querySelector('footer')).top) - tray.top, wide: document.documentElement.scrollWidth - innerWidth}
})()`

type smallest struct {
	Text, Part, Share, Tray, Wide float64
	TextOf, PartOf                string
}

// A small screen gets a larger view, not a smaller board: at every width all that stands
// on the boards of the demo can be read and hit, and the tray is in view.
func TestNothingIsTooSmall(t *testing.T) {
	w := newWorld(t)
	for _, title := range boards {
		lea := w.person(t)
		for _, size := range screens {
			t.Run(fmt.Sprint(title, " ", size[0]), func(t *testing.T) {
				lea.t = t
				lea.do(chromedp.EmulateViewport(size[0], size[1]))
				lea.tries(title)
				lea.shot(fmt.Sprint("screen-", title, "-", size[0]))
				s := eval[smallest](lea, small)
				t.Logf("%s at %d: text %.1f (%.30s), part %.1f (%.30s), %.0f %% of the width in view", title, size[0], s.Text, s.TextOf, s.Part, s.PartOf, 100*s.Share)
				if s.Text < 11.95 || s.Part < 23.9 {
					t.Errorf("%.1f px text in %q, %.1f px for %q", s.Text, s.TextOf, s.Part, s.PartOf)
				}
				if s.Tray < 44 || s.Wide > 0 {
					t.Errorf("%.0f px of the tray are in view; the page is %.0f px too wide", s.Tray, s.Wide)
				}
			})
		}
	}
}

// On a phone a piece is taken from the tray by finger to a target that is out of view: the
// board moves on under it while it is held at the edge.
func TestTheBoardMovesUnderAFinger(t *testing.T) {
	w := newWorld(t)
	lea := w.person(t)
	lea.do(chromedp.EmulateViewport(390, 844, chromedp.EmulateTouch))
	lea.tries("Parts drawers")
	const brakes = `document.querySelector('[data-target][aria-label^="Brakes"]').getBoundingClientRect()`
	if left := eval[float64](lea, brakes+".left"); left < 390 {
		t.Fatalf("Brakes is in view already, at %v", left)
	}
	name := eval[string](lea, `document.querySelector('[data-tray] [data-piece]').ariaLabel`)
	from := lea.middle(name)
	edge := spot{360, 260}
	lea.touch(input.DispatchTouchEventTypeTouchStart, from)
	for i := 1; i <= 8; i++ {
		f := float64(i) / 8
		lea.touch(input.DispatchTouchEventTypeTouchMove, spot{from.X + (edge.X-from.X)*f*f, from.Y + (edge.Y-from.Y)*f})
	}
	lea.until("the next target under the finger", brakes+`.left < 300`)
	lea.touch(input.DispatchTouchEventTypeTouchMove, spot{320, 262})
	lea.shot("finger")
	lea.touch(input.DispatchTouchEventTypeTouchEnd)
	lea.until("it is in", `[...document.querySelectorAll('[data-target]')].some((e) => e.ariaLabel.startsWith('Brakes, holds'))`)
}

// Zoom: the board grows around what is in the middle, its text with it; it is moved by
// dragging bare board, by wheel and by keys, and the tray stays where it is.
func TestALargerView(t *testing.T) {
	w := newWorld(t)
	lea := w.person(t)
	lea.tries("Ready for night")
	const wide = `document.querySelector('[data-window] [data-form], [data-window] > *').getBoundingClientRect().width`
	const at = `[document.querySelector('[data-window]').scrollLeft, document.querySelector('[data-window]').scrollTop]`
	before := eval[float64](lea, wide)
	for range 3 {
		lea.click("Zoom in")
	}
	if now := eval[float64](lea, wide); now < 1.95*before {
		t.Errorf("the board is %v wide, and was %v", now, before)
	}
	lea.shot("zoomed")
	if s := eval[smallest](lea, small); s.Tray < 60 || s.Wide > 0 {
		t.Errorf("after zooming: %+v", s)
	}
	was := eval[[]float64](lea, at)
	if was[0] < 10 {
		t.Errorf("what was in the middle did not stay there: %v", was)
	}
	lea.drag(spot{400, 300}, spot{300, 250})
	if now := eval[[]float64](lea, at); now[0] < was[0]+90 || now[1] < was[1]+40 {
		t.Errorf("dragging bare board moved it from %v to %v", was, now)
	}
	eval[any](lea, `document.querySelector('[data-window]').focus()`)
	was = eval[[]float64](lea, at)
	lea.press(kb.ArrowLeft)
	lea.until("an arrow moves it", at+`[0] < `+js(was[0]-10))
	// Smaller again, by key, until all of it is seen.
	for range 3 {
		lea.press("-")
	}
	lea.until("as before", `Math.abs(`+wide+` - `+js(before)+`) < 2 && document.querySelector('[data-window]').dataset.window === 'whole'`)
}

// With more space between letters and words (WCAG 2.2, 1.4.12) gaps stay with their words,
// and take what is let go over them; a screen reader hears the text with them.
func TestGapsGoWithTheirWords(t *testing.T) {
	w := newWorld(t)
	lea := w.person(t)
	lea.tries("Safety note")
	const apart = `Math.max(...[...document.querySelectorAll('[data-gap]')].map((e) => {
		const a = e.getBoundingClientRect(), b = document.querySelector('[data-target="' + CSS.escape(e.dataset.gap) + '"]').getBoundingClientRect();
		return Math.hypot(a.x - b.x, a.y - b.y) }))`
	lea.until("the gaps in their places", apart+` < 5`)
	const third = `document.querySelectorAll('[data-gap]')[2].getBoundingClientRect().x`
	before := eval[float64](lea, third)
	eval[any](lea, `document.head.insertAdjacentHTML('beforeend', '<style>* { letter-spacing: 0.12em !important; word-spacing: 0.16em !important }</style>')`)
	lea.until("the words moved", `Math.abs(`+third+` - `+js(before)+`) > 20`)
	lea.until("the gaps with them", apart+` < 5`)
	lea.shot("spacing")
	to := eval[spot](lea, `(() => { const r = document.querySelectorAll('[data-gap]')[2].getBoundingClientRect(); return {X: r.x + r.width / 2, Y: r.y + r.height / 2} })()`)
	name := eval[string](lea, `document.querySelector('[data-tray] [data-piece]').ariaLabel`)
	lea.drag(lea.middle(name), to)
	lea.until("it is in the third gap", `[...document.querySelectorAll('[data-target]')].some((e) => e.ariaLabel.startsWith('Gap 3, holds'))`)
	lea.until("heard in the text", `document.querySelectorAll('[data-gap]')[2].textContent.startsWith('[Gap 3, holds')`)
}

// The boards of the demo are put right by the keyboard alone, with first letters and
// numbers; how many keys that takes is counted.
func TestKeysToSolve(t *testing.T) {
	w := newWorld(t)
	const focused = `(document.activeElement?.ariaLabel ?? '')`
	for _, title := range boards {
		t.Run(title, func(t *testing.T) {
			lea := w.person(t)
			lea.t = t
			lea.tries(title)
			doc, _, err := demo.Activity(strings.ToLower(strings.ReplaceAll(title, " ", "-")))
			if err != nil {
				t.Fatal(err)
			}
			report, err := proof.Prove(t.Context(), doc)
			if err != nil {
				t.Fatal(err)
			}
			keys := 0
			press := func(key string) {
				lea.press(key)
				keys++
			}
			// to presses the first letter of a name until that has the focus, or the number at its end.
			to := func(name, rest string) {
				t.Helper()
				there := func() bool { return strings.HasPrefix(eval[string](lea, focused), name+", "+rest) }
				for range 30 {
					if there() {
						return
					}
					if number := strings.TrimLeft(name, "SpotGa "); number != "" && strings.Trim(number, "0123456789") == "" {
						for _, digit := range number {
							press(string(digit))
						}
						continue
					}
					press(strings.ToLower(name[:1]))
				}
				t.Fatalf("letters do not lead to %s, but to %s", name, eval[string](lea, focused))
			}
			eval[any](lea, `document.querySelector('[data-piece][tabindex="0"]').focus()`)
			type step struct{ piece, target string }
			var steps []step
			for target, pieces := range report.Witness {
				for _, p := range pieces {
					name, _, _ := strings.Cut(p, "~")
					steps = append(steps, step{reply.Spoken(doc.Item(name)), reply.Called(doc.Target(target))})
				}
			}
			n := len(steps)
			for len(steps) > 0 {
				// Dealt one by one, only some are there.
				waiting := eval[[]string](lea, `[...document.querySelectorAll('[data-piece]')].map((e) => e.ariaLabel.split(', not placed')).filter((n) => n.length > 1).map((n) => n[0])`)
				i := slices.IndexFunc(steps, func(s step) bool { return slices.Contains(waiting, s.piece) })
				if i < 0 {
					t.Fatalf("of %v none is there: %v", steps, waiting)
				}
				now := steps[i]
				steps = slices.Delete(steps, i, i+1)
				to(now.piece, "not placed")
				press(kb.Enter)
				lea.until("the places in reach", `document.activeElement?.matches('[data-target]')`)
				to(now.target, "")
				press(kb.Enter)
				back := focused + `.startsWith(` + js(now.piece+", in "+now.target) + `)`
				lea.until("it is placed, or a card says so", back+` || document.querySelector('[role=dialog]')`)
				if eval[bool](lea, `!!document.querySelector('[role=dialog]')`) {
					press(kb.Escape)
				}
				lea.until("the focus on the piece", back)
			}
			t.Logf("keys: %s: %d keys for %d pieces", title, keys, n)
			if keys > 120 {
				t.Errorf("%d keys", keys)
			}
		})
	}
}
