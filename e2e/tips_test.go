package e2e

import (
	"testing"
	"time"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// A tip comes where the pointer rests. It goes with Escape, and when the window changes:
// what it belongs to stands elsewhere then, and the next press is for what is beneath.
func TestTips(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(keyed())
	const (
		target = `document.querySelector('[aria-label="Draw a target"]')`
		shown  = `[...document.querySelectorAll('[data-radix-popper-content-wrapper]')].some((e) => e.textContent === ` + target + `.dataset.tip)`
	)
	point := func(x, y float64) {
		t.Helper()
		ana.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMouseMoved, x, y))
	}
	rest := func() {
		t.Helper()
		at := eval[spot](ana, `(() => { const r = `+target+`.getBoundingClientRect(); return { X: r.x + r.width / 2, Y: r.y + r.height / 2 } })()`)
		for i := 0; i < 20 && !eval[bool](ana, shown); i++ { // tips are loaded when the pointer first moves
			point(640, 300)
			point(at.X, at.Y)
			time.Sleep(time.Second)
		}
		ana.until("the tip", shown)
	}
	rest()
	ana.press(kb.Escape)
	ana.until("no tip after Escape", `!(`+shown+`)`)
	rest()
	ana.do(chromedp.EmulateViewport(1100, 760))
	ana.until("no tip in the changed window", `!(`+shown+`)`)
	ana.click("Draw a target")
	ana.until("the tool", target+`.getAttribute('aria-pressed') === 'true' || `+target+`.getAttribute('aria-checked') === 'true'`)
}
