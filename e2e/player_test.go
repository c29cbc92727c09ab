package e2e

import (
	"context"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/demo"
)

// order is what stands in a target of the player, from its first piece on.
func (p *person) order(target string) string {
	p.t.Helper()
	return eval[string](p, `document.querySelector('[data-target][aria-label^=`+js(target+",")+`]').getAttribute('aria-label').replace(/^.*holds /, '')`)
}

// lane is a lane of three steps and one piece that belongs nowhere.
func lane() *activity.Doc {
	doc := arranged("sequence", ": Lever, Patch, Pump, Bell", "Steps")
	doc.Targets[0].Ordered = true
	doc, _ = edit.RightIn(doc, 0, []edit.Row{{Item: "lever", Targets: []string{"steps"}}, {Item: "patch", Targets: []string{"steps"}}, {Item: "pump", Targets: []string{"steps"}}})
	doc.Key.Solutions[0].Orders = []activity.Order{{Target: "steps", Tiers: [][]string{{"lever"}, {"patch"}, {"pump"}}}}
	doc.Replies = nil
	doc.Play.Attempts, doc.Play.Shuffle = 2, false
	return doc
}

// Whoever goes on before Try again is answered loses no press: what is done next is judged after it.
func TestGoingOnBeforeAnAnswer(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	doc.Play.Attempts = 2
	ana.openDocument(doc)
	link := ana.release()
	lea := w.person(t)
	lea.holdable()
	lea.begin(link, "Lea")
	lea.place("Bell", "Brakes")
	lea.click("Check")
	lea.held("POST .*/moves$", func() { lea.click("Try again") }, func() {
		lea.click("Chain, ")
		lea.click("Drivetrain, ")
	})
	lea.sees(piece("Chain") + "in Drivetrain")
	lea.sees("One attempt left")
}

// A lane opens a gap where the piece will go, and it goes there: by drag, by press and
// press, and by keyboard alone.
func TestALaneOpensWhereThePieceGoes(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(lane())
	link := ana.release()
	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.place("Pump", "Steps")
	lea.place("Lever", "Steps") // dropped on the same spot, it comes before
	// Held between the two, the lane opens between them.
	a, b := lea.middle(piece("Lever")), lea.middle(piece("Pump"))
	between := spot{(a.X + b.X) / 2, (a.Y + b.Y) / 2}
	lea.hold(lea.middle(piece("Patch")), between)
	lea.until("the gap", `document.querySelector('[data-opening="1"]')`)
	lea.until("room on both sides", `(() => { const at = (n) => document.querySelector('[data-piece][aria-label^="' + n + ',"]').getBoundingClientRect();
		const gap = document.querySelector('[data-opening]').getBoundingClientRect();
		return at('Lever').right <= gap.left + 1 && at('Pump').left >= gap.right - 1 || at('Lever').bottom <= gap.top + 1 && at('Pump').top >= gap.bottom - 1 })()`)
	lea.shot("lane-opening")
	lea.letGo(between)
	lea.sees("Patch, in Steps")
	if got := lea.order("Steps"); got != "Lever, Patch, Pump" {
		t.Errorf("after the drag: %s", got)
	}
	// By press and press: before the first.
	lea.click("Bell, ")
	lea.click("Steps, before Lever")
	lea.sees("Bell, in Steps")
	if got := lea.order("Steps"); got != "Bell, Lever, Patch, Pump" {
		t.Errorf("after press and press: %s", got)
	}
	// By keyboard alone: Bell to before Pump.
	eval[any](lea, find(piece("Bell"))+".focus()")
	lea.press(kb.Enter)
	lea.until("the lane in focus", `document.activeElement?.matches('[data-target]')`)
	for range 3 {
		lea.press(kb.ArrowRight)
	}
	lea.until("the place before Pump", `document.activeElement.getAttribute('aria-label') === 'Steps, before Pump'`)
	lea.shot("lane-keys")
	lea.press(kb.Enter)
	lea.until("it went there", `document.querySelector('[data-target][aria-label^="Steps, holds Lever, Patch, Bell, Pump"]')`)
	lea.until("the focus is on the piece", `document.activeElement.getAttribute('aria-label').startsWith('Bell')`)
}

// The list is the same sitting in another form: moved by choice, in order in lanes,
// checked and marked; switched at any time; the first form where the board is too small.
func TestTheListView(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(lane())
	link := ana.release()
	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.place("Pump", "Steps")
	lea.click("List view")
	lea.sees("Choose where each piece goes, then press Move.")
	// Going through the choices moves nothing; Enter or the button does.
	eval[any](lea, find("Move Lever to")+`.focus()`)
	lea.press(kb.ArrowDown)
	lea.until("Steps is chosen", find("Move Lever to")+`.selectedOptions[0].textContent === 'Steps'`)
	if eval[bool](lea, `document.querySelector('section[aria-label="Steps"]').innerText.includes('Lever')`) {
		t.Error("an arrow key moved a piece")
	}
	lea.press(kb.Enter)
	lea.until("Lever is in Steps", `document.querySelector('section[aria-label="Steps"]').innerText.includes('Lever')`)
	lea.until("the focus stays on its choice", `document.activeElement?.ariaLabel === 'Move Lever to'`)
	lea.click("Move Lever earlier")
	lea.until("Lever before Pump", `(() => { const t = document.querySelector('section[aria-label="Steps"]').innerText; return t.indexOf('Lever') < t.indexOf('Pump') })()`)
	eval[any](lea, find("Move Bell to")+`.focus()`)
	lea.press(kb.ArrowDown)
	lea.click("Move Bell")
	lea.shot("list")
	lea.click("Check")
	lea.sees("2 pieces are correct, one is not.")
	lea.until("marked", `document.querySelectorAll('[data-list] [aria-label="not correct"]').length === 1`)
	lea.shot("list-checked")
	lea.click("Try again")
	lea.click("Board view")
	if got := lea.order("Steps"); !strings.HasPrefix(got, "Lever, Pump") {
		t.Errorf("on the board: %s", got)
	}
	// On the narrowest screen the list comes first, and nothing is cut off.
	lea.do(chromedp.EmulateViewport(320, 568))
	lea.open(link)
	lea.sees("Choose where each piece goes, then press Move.")
	lea.until("it fits", `document.documentElement.scrollWidth <= 320`)
	lea.shot("list-narrow")
	lea.click("Board view")
	lea.sees("Lever, in Steps")
	lea.shot("board-narrow")
}

// Every control that a learner meets is at least 24 by 24, on a wide page, at twice the
// zoom, and on the narrowest; nothing scrolls sideways.
func TestControlsAreLargeEnough(t *testing.T) {
	w := newWorld(t)
	doc := lane()
	doc.Play.Restart = true
	doc.Hints = []activity.Hint{{Text: "The lever first."}}
	ana := w.person(t)
	ana.openDocument(doc)
	link := ana.release()
	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.place("Pump", "Steps")
	for _, size := range [][2]int64{{1280, 800}, {640, 400}, {320, 568}} {
		lea.do(chromedp.EmulateViewport(size[0], size[1]))
		for _, form := range []string{"List view", "Board view"} {
			lea.open(link)
			lea.sees("Pump")
			if toggle := `[...document.querySelectorAll('button')].find((b) => b.textContent.trim() === ` + js(form) + `)`; eval[bool](lea, "!!"+toggle) {
				lea.clickOn(form, toggle)
			}
			lea.until("it is drawn", `document.querySelector('[data-list], [data-piece]')`)
			small := eval[string](lea, `[...document.querySelectorAll('button, select, input, a')].filter((e) => e.getClientRects().length > 0 && !e.closest('.sr-only'))
				.map((e) => [e.getAttribute('aria-label') ?? e.textContent, e.getBoundingClientRect()])
				.filter(([, r]) => r.width < 23.9 || r.height < 23.9).map(([n, r]) => n + ' ' + r.width.toFixed(1) + '×' + r.height.toFixed(1)).join('; ')`)
			if small != "" {
				t.Errorf("%v, %q: too small: %s", size, form, small)
			}
			if wide := eval[float64](lea, `document.documentElement.scrollWidth`); wide > float64(size[0]) {
				t.Errorf("%v: the page is %v wide", size, wide)
			}
		}
	}
}

// A learner hears how much time is left, and sees it stand out.
func TestTimeIsWarnedOf(t *testing.T) {
	w := newWorld(t)
	doc := keyed()
	doc.Play.TimeLimit = 22000
	ana := w.person(t)
	ana.openDocument(doc)
	link := ana.release()
	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.sees("left")
	lea.until("ten seconds are said", `[...document.querySelectorAll('[aria-live]')].some((e) => e.textContent.includes('10 seconds are left'))`)
	lea.shot("time-warning")
}

// With the system's own colours, and without motion, the board can still be read.
func TestForcedColoursAndNoMotion(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(lane())
	link := ana.release()
	forced := func(p *person) {
		p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
			_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{
				Features: []*emulation.MediaFeature{{Name: "forced-colors", Value: "active"}, {Name: "prefers-reduced-motion", Value: "reduce"}},
			})
			return err
		}))
	}
	lea := w.person(t)
	forced(lea)
	lea.begin(link, "Lea")
	lea.place("Pump", "Steps")
	lea.click(piece("Patch"))
	lea.sees("in hand")
	lea.until("outlines", `['Lever', 'Pump', 'Patch'].every((n) => parseFloat(getComputedStyle(document.querySelector('[data-piece][aria-label^="' + n + '"]')).outlineWidth) >= 2)`)
	lea.until("no motion", `[...document.querySelectorAll('*')].every((e) => getComputedStyle(e).animationName === 'none' && ['none', 'all'].includes(getComputedStyle(e).transitionProperty))`)
	lea.shot("forced-colours")

	// What shows by its ground alone elsewhere has lines here, on the workbench too.
	forced(ana)
	all := func(of, is string) {
		t.Helper()
		ana.until(of+" in lines", `(([...list]) => list.length > 0 && list.every((e) => { const its = getComputedStyle(e); return `+is+` }))(document.querySelectorAll(`+js(of)+`))`)
	}
	all(`[data-part^="item-"]`, `parseFloat(its.outlineWidth) >= 2`)
	all(`[data-part^="target-"] .sunk`, `its.outlineStyle !== 'none'`)
	ana.press(kb.Escape) // what the release said
	ana.click("Placing")
	all(`[role=switch] > span`, `parseFloat(its.borderTopWidth) >= 8`)
	ana.shot("forced-colours-workbench")
}

// What opens above the bar finds its place once, and covers no button of it.
func TestHintsOpenAboveTheBar(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Rehearse")
	ana.click("Hint")
	ana.until("the hint", `document.querySelector('[role=dialog]')`)
	if n := eval[float64](ana, `new Promise((done) => { let n = 0; new MutationObserver((l) => { n += l.length }).observe(document.querySelector('[role=dialog]'), {attributes: true, attributeFilter: ['style']}); setTimeout(() => done(n), 500) })`); n > 0 {
		t.Errorf("it was placed %v times more in half a second", n)
	}
	ana.until("its place", `(() => { const r = document.querySelector('[role=dialog]').getBoundingClientRect(), bar = document.querySelector('[data-rehearsing] footer').getBoundingClientRect(); return r.height > 0 && r.bottom <= bar.top && r.left >= bar.left - 1 })()`)
}
