package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/demo"
)

// uncovered measures each reply: the share of it that can be seen, and how much of the
// pieces that are shown wrong, of its own piece and of labels lies under it.
const uncovered = `(() => {
	const box = (e) => e.getBoundingClientRect();
	const over = (a, b) => Math.max(0, Math.min(a.right, b.right) - Math.max(a.left, b.left)) * Math.max(0, Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top));
	const bar = box(document.querySelector('footer'));
	const view = {left: 0, top: 0, right: innerWidth, bottom: Math.min(innerHeight, bar.top)};
	return [...document.querySelectorAll('[data-reply]')].map((e) => {
		const r = box(e);
		const hidden = [...document.querySelectorAll('[data-piece][aria-label*="not correct"], [data-label]')].reduce((sum, x) => sum + over(r, box(x)), 0);
		return {seen: Math.round(100 * over(r, view) / (r.width * r.height)), hides: Math.round(hidden), text: e.innerText.slice(0, 40)};
	});
})()`

type measured struct {
	Seen, Hides int
	Text        string
}

// At every width what is said can be seen whole, and hides no label and no wrong piece.
func TestRepliesAreSeenWhole(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Front desk")
	ana.sees("correct arrangement")
	link := ana.release()
	for _, size := range [][2]int{{1280, 800}, {768, 1024}, {390, 844}} {
		t.Run(fmt.Sprint(size[0]), func(t *testing.T) {
			lea := w.person(t)
			lea.t = t
			lea.do(chromedp.EmulateViewport(int64(size[0]), int64(size[1])))
			lea.open(link)
			lea.fill("Your name", "Lea")
			lea.click("Start")
			lea.sees("One visitor after the other")
			if eval[bool](lea, `!!document.querySelector('[data-list]')`) {
				lea.click("Board view")
			}
			// The first ticket goes where it is wrong.
			lea.until("the ticket", `document.querySelector('[data-piece]')`)
			wrong := "Send to the shop, "
			if strings.Contains(eval[string](lea, `document.querySelector('[data-piece]').ariaLabel`), "Looks") {
				wrong = "Fix while they wait, "
			}
			eval[any](lea, `document.querySelector('[data-piece]').focus()`)
			lea.press(kb.Enter)
			lea.click(wrong)
			lea.until("something is said", `document.querySelector('[data-reply]')`)
			lea.still(wrong)
			lea.shot(fmt.Sprintf("seen-%d", size[0]))
			for _, m := range eval[[]measured](lea, uncovered) {
				t.Logf("%d: %q: %d%% seen, %d pixels hidden", size[0], strings.ReplaceAll(m.Text, "\n", " "), m.Seen, m.Hides)
				if m.Seen < 100 || m.Hides > 0 {
					t.Errorf("%q: %d%% is seen, and it hides %d pixels", m.Text, m.Seen, m.Hides)
				}
			}
		})
	}
}

// Looks that depart from the theme over a target show where they are set: in the strip of
// samples, in a rehearsal, and for a learner, who is told no more than that.
func TestLooksOverATargetShow(t *testing.T) {
	w := newWorld(t)
	doc := arranged("sort", ": Bell, Chain", "Left", "Right")
	doc, _ = edit.RightIn(doc, 0, []edit.Row{{Item: "bell", Targets: []string{doc.Targets[0].ID}}, {Item: "chain", Targets: []string{doc.Targets[1].ID}}})
	doc.Targets[0].Lets = activity.Selector{Items: []string{"bell"}}
	tint := func(c string) *activity.Look {
		return &activity.Look{Style: &activity.Style{Card: true, Crop: "none", Fill: c}}
	}
	doc.Targets[0].Looks = &activity.TargetLooks{OverOpen: tint("#d0ffd0"), OverClosed: tint("#ffd0d0")}
	for i := range doc.Items {
		doc.Items[i].Looks = &activity.ItemLooks{InHand: &activity.Look{Scale: 120}, OverClosed: tint("#ffe0a0")}
	}
	doc.Instructions = "Put each where it goes."
	ana := w.person(t)
	ana.openDocument(doc)
	over := func(p *person, name, target string) (well, card, scale string) {
		p.t.Helper()
		to := p.middle(target + ", ")
		p.hold(p.middle(piece(name)), to)
		p.until("it is over it", `document.querySelector('[data-target][aria-label^=`+js(target)+`] [class*="outline-feather"]') && document.querySelector('body > .fixed .cut-corner')`)
		p.until("its looks", `document.body.innerText && !document.getAnimations().some((a) => a.playState === 'running')`)
		well = eval[string](p, `getComputedStyle(document.querySelector('[data-target][aria-label^=`+js(target)+`] [class*="outline-feather"]')).backgroundColor`)
		card = eval[string](p, `getComputedStyle(document.querySelector('body > .fixed .cut-corner .cut-corner')).backgroundColor`)
		scale = eval[string](p, `getComputedStyle(document.querySelector('body > .fixed [class*="container"]')).scale`)
		p.shot("over-" + name)
		p.press(kb.Escape)
		p.letGo(to)
		return
	}
	ana.click("Rehearse")
	ana.sees("Put each where it goes.") // the instructions, as learners have them
	looks := func(p *person, who string) {
		p.t.Helper()
		p.until("the pieces", find(piece("Chain")))
		if well, card, scale := over(p, "Chain", "Left"); well != "rgb(255, 208, 208)" || card != "rgb(255, 224, 160)" || scale != "1.2" {
			t.Errorf("%s, over one that does not accept it: %s, %s, %s", who, well, card, scale)
		}
		if well, card, scale := over(p, "Bell", "Left"); well != "rgb(208, 255, 208)" || card == "rgb(255, 224, 160)" || scale != "1.2" {
			t.Errorf("%s, over one that lets it in: %s, %s, %s", who, well, card, scale)
		}
	}
	looks(ana, "in a rehearsal")
	ana.click("Done")
	link := ana.release()
	lea := w.person(t)
	lea.begin(link, "Lea")
	looks(lea, "as a learner")
}

// What is heard: what is in hand, who made room, what undo undid, where everything is on
// request, the score at the end; and places that an author described, in the list as well.
func TestWhatIsHeard(t *testing.T) {
	w := newWorld(t)
	doc := arranged("label", ": Bell, Chain", "Left", "Right")
	doc, _ = edit.RightIn(doc, 0, []edit.Row{{Item: "bell", Targets: []string{doc.Targets[0].ID}}, {Item: "chain", Targets: []string{doc.Targets[1].ID}}})
	doc.Targets[0].Holds, doc.Targets[0].WhenFull, doc.Targets[0].Alt = 1, "oust", "The drawer under the window."
	doc.Replies, doc.Play.Shuffle, doc.Play.Undo, doc.Play.Attempts = nil, false, true, 2
	doc.Scenery = []activity.Scenery{{ID: "box", Type: "box", Frame: &geometry.Rect{X: 1000, Y: 1000, W: 20000, H: 10000}}}
	doc.Marks.Bands = []activity.Band{{From: 0, Name: "Come back"}, {From: 60, Name: "Well done"}}
	ana := w.person(t)
	ana.openDocument(doc)
	link := ana.release()
	lea := w.person(t)
	lea.begin(link, "Lea")
	heard := func(what string) {
		t.Helper()
		lea.until(what, `[...document.querySelectorAll('[aria-live], [role=status]')].some((e) => e.textContent.trim() === `+js(what)+`)`)
	}
	eval[any](lea, `document.querySelector('[data-piece]').focus()`)
	lea.press("b")
	lea.press(kb.Enter)
	heard("Bell is in hand. Choose where it goes; Escape puts it back.")
	lea.until("what is there", `document.activeElement.getAttribute('aria-description') === 'The drawer under the window.'`)
	lea.press(kb.Enter)
	heard("Bell is in Left.")
	lea.until("the piece again", `document.activeElement.ariaLabel?.startsWith('Bell')`)
	lea.press("c")
	lea.press(kb.Enter)
	lea.press(kb.Enter)
	heard("Chain is in Left. Bell made room, and is back in the tray.")
	lea.click("Undo")
	heard("The last move is undone. Bell is in Left. Chain is back in the tray.")
	eval[any](lea, `document.querySelector('[data-piece]').focus()`)
	lea.press("?")
	lea.sees("Left, holds Bell")
	lea.sees("Still to place: Chain")
	lea.shot("where-all")
	lea.press(kb.Escape)
	lea.place("Chain", "Right")
	lea.click("List view")
	lea.sees("The drawer under the window.")
	lea.until("the picture of the board", `document.querySelector('[data-list] [aria-label^="The board. Its places"]')`)
	lea.shot("list-picture")
	lea.click("Check")
	heard("All correct. Score 10 of 10 (100%) Well done.")
}

// One sitting in two windows: the older one is told, and catches up.
func TestTwoWindowsOfASitting(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(lane())
	link := ana.release()
	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.place("Pump", "Steps")
	other := lea.window()
	other.open(link)
	other.sees("Pump, in Steps")
	other.place("Lever", "Steps")
	lea.sees("Lever, in Steps")
	lea.sees("You continued in another window.")
	lea.place("Patch", "Steps")
	lea.seesNot("You continued in another")
	other.sees("Patch, in Steps")
}

// A language that is written from the right has its page so, while places stay where they
// are, also on a board that is larger than its room.
func TestRightToLeft(t *testing.T) {
	w := newWorld(t)
	doc := lane()
	doc.Lang = "ar"
	ana := w.person(t)
	ana.openDocument(doc)
	link := ana.release()
	lea := w.person(t)
	lea.do(chromedp.EmulateViewport(390, 844))
	lea.begin(link, "Lea")
	lea.until("its page from the right", `document.querySelector('[data-tray]').matches('[dir=rtl] *') && getComputedStyle(document.querySelector('[data-tray]')).direction === 'rtl'`)
	lea.drag(lea.middle(piece("Pump")), spot{200, 400})
	lea.sees("Pump, in Steps")
	if got := lea.order("Steps"); got != "Pump" {
		t.Errorf("in the lane: %s", got)
	}
	lea.shot("rtl")
}
