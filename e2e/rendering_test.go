package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/geometry"
)

// counting says to each page how many components it has drawn, by name: React tells
// whoever stands where its developers' tools would.
const counting = `
	window.drawn = {};
	const seen = (fiber) => {
		for (; fiber; fiber = fiber.sibling) {
			const before = fiber.alternate;
			// Functions and classes, plain and memoised, that did work in this commit.
			if ([0, 1, 11, 14, 15].includes(fiber.tag) && fiber.flags & 1) {
				const type = fiber.type?.type ?? fiber.type?.render ?? fiber.type;
				const name = type?.displayName || type?.name || 'a component';
				window.drawn[name] = (window.drawn[name] ?? 0) + 1;
			}
			if (!before || before.child !== fiber.child) seen(fiber.child);
		}
	};
	window.__REACT_DEVTOOLS_GLOBAL_HOOK__ = {
		supportsFiber: true, renderers: new Map(), checkDCE() {}, inject() { return 1 },
		onCommitFiberRoot(id, root) { seen(root.current) }, onCommitFiberUnmount() {}, onPostCommitFiberRoot() {}, onScheduleFiberRoot() {},
	};`

type drawn map[string]int

func (d drawn) all() (n int) {
	for _, k := range d {
		n += k
	}
	return n
}

// drawnBy is what is drawn in the page while something is done, until it rests.
func (p *person) drawnBy(act func()) drawn {
	p.t.Helper()
	p.rests()
	eval[any](p, "void (window.drawn = {})")
	act()
	p.rests()
	return eval[drawn](p, "window.drawn")
}

// rests waits until nothing has been drawn for a while.
func (p *person) rests() {
	p.t.Helper()
	p.until("rest", `(() => { const now = JSON.stringify(window.drawn); const s = window.restless ??= {times: 0};
		s.times = s.now === now ? s.times + 1 : 0; s.now = now;
		if (s.times < 12) return false;
		window.restless = undefined;
		return true })()`)
}

// What a step of the pointer or a key concerns is drawn again, and nothing else: the
// counts do not grow with the activity.
func TestAStepDrawsWhatItConcerns(t *testing.T) {
	p := newWorld(t).person(t)
	p.everyPage(counting)
	doc := many(300, 6, true)
	for i := range doc.Items {
		doc.Items[i].Home.Y = geometry.U(i/20) * 3400
	}
	p.openDocument(doc)
	p.sees("300 items")
	p.until("the proof", `performance.getEntriesByName('proof replies').length > 0`)
	hover := func(s spot) {
		p.do(chromedp.MouseEvent("mouseMoved", s.X, s.Y))
	}
	cell := func(item, place string) spot { return p.middle("Piece " + item + " in Place " + place) }
	atMost := func(what string, most int, d drawn) {
		t.Helper()
		t.Logf("%s: %d components drawn: %v", what, d.all(), d)
		if d.all() == 0 {
			t.Errorf("%s: nothing was drawn", what)
		}
		if d.all() > most {
			t.Errorf("%s: %d components are drawn, at most %d should be", what, d.all(), most)
		}
	}
	a, b, c := cell("3", "2"), cell("4", "2"), cell("4", "3")
	hover(a)
	atMost("pointing from cell to cell", 20, p.drawnBy(func() { hover(b) }))
	atMost("pointing at another column", 20, p.drawnBy(func() { hover(c) }))

	nudge := func(where string) {
		t.Helper()
		p.click("Item Piece 150")
		p.sees("1 selected")
		atMost("a nudge beside "+where, 60, p.drawnBy(func() { p.press(kb.ArrowRight) }))
	}
	nudge("Placing")

	p.hold(p.middle("Item Piece 150"), p.spotOn(500, 300))
	at := p.spotOn(520, 310)
	atMost("a step of a drag", 20, p.drawnBy(func() {
		p.do(chromedp.MouseEvent("mouseMoved", at.X, at.Y, chromedp.ButtonLeft))
	}))
	p.letGo(at)

	p.click("Content")
	p.sees("Piece 3, Tags: ")
	a, b = p.middle("Piece 3, Tags: "), p.middle("Piece 4, Tags: ")
	hover(a)
	atMost("pointing from row to row", 20, p.drawnBy(func() { hover(b) }))
	nudge("Content")

	lea := p.w.person(t)
	lea.everyPage(counting)
	lea.begin(p.release(), "Lea")
	lea.hold(lea.middle(piece("Piece 30")), spot{500, 300})
	atMost("a step of a learner's drag", 20, lea.drawnBy(func() {
		lea.do(chromedp.MouseEvent("mouseMoved", 520, 310, chromedp.ButtonLeft))
	}))
	lea.letGo(spot{520, 310})
}
