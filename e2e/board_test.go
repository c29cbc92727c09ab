package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/edit"
	"keenmagpie/demo"
)

// Targets and scenery are drawn on the board: by drag, by press, traced; they line up
// with what is there; lines stay tied to their target.
func TestDrawingOnTheBoard(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")

	ana.click("Draw a round target")
	ana.draw(100, 480, 300, 640)
	ana.sees("3 targets")
	ana.click("Draw a polygon target")
	for _, at := range [][2]float64{{420, 500}, {600, 480}, {640, 640}, {450, 660}} {
		s := ana.spotOn(at[0], at[1])
		ana.do(chromedp.MouseClickXY(s.X, s.Y))
	}
	ana.shot("tracing")
	ana.press(kb.Backspace)
	ana.press(kb.Enter)
	ana.sees("4 targets")
	// Edges that would cross are refused, and nothing is made.
	for _, at := range [][2]float64{{800, 500}, {900, 600}, {900, 500}, {800, 600}} {
		s := ana.spotOn(at[0], at[1])
		ana.do(chromedp.MouseClickXY(s.X, s.Y))
	}
	ana.press(kb.Enter)
	ana.sees("its edges would cross each other")
	ana.sees("4 targets")

	ana.click("Add a callout line from a target")
	ana.draw(200, 560, 820, 560)
	ana.click("Draw a box")
	ana.draw(760, 480, 1100, 660)
	ana.until("the box", `document.querySelectorAll('[data-part^="scenery-"]').length === 2`)
	ana.shot("drawn")
	ana.click("Select and move")
	doc := ana.document()
	if got := doc.Targets[3]; got.Shape != "polygon" || len(got.Points) != 3 {
		t.Errorf("traced %+v", got)
	}
	line := doc.Scenery[0]
	if line.Tie != doc.Targets[2].ID || line.From.X != doc.Targets[2].Frame.X+doc.Targets[2].Frame.W {
		t.Errorf("the line begins at %v, tied to %q", line.From, line.Tie)
	}

	// Moved near the line of another's edge, a target comes to rest on it, and so does its pointer.
	ana.click("Target 3 Target 3")
	ana.still("Target 3 Target 3") // what is shown of a selection may move the board
	from := ana.spotOn(150, 600)
	to := ana.spotOn(150+float64(doc.Targets[0].Frame.X-doc.Targets[2].Frame.X)/100+5, 590)
	ana.hold(from, to)
	ana.until("a line that shows it", `document.querySelector('[data-guide="line"]')`)
	ana.shot("snapping")
	ana.letGo(to)
	ana.until("it is put down", `!document.querySelector('[data-guide]')`)
	doc = ana.document()
	if doc.Targets[2].Frame.X != doc.Targets[0].Frame.X {
		t.Errorf("its edge is at %v, the other's at %v", doc.Targets[2].Frame.X, doc.Targets[0].Frame.X)
	}
	if doc.Scenery[0].From.X != doc.Targets[2].Frame.X+doc.Targets[2].Frame.W {
		t.Errorf("the pointer stayed behind: %v", doc.Scenery[0].From)
	}

	// Larger, smaller, as large as it fits.
	ana.click("Zoom in")
	ana.click("Zoom in")
	ana.until("the board is larger than its room", `(() => { const r = document.querySelector('[data-ground]').closest('.overflow-auto'); return r.scrollWidth > r.clientWidth + 20 })()`)
	ana.shot("zoomed")
	ana.press("k", chromedp.ModifierCtrl)
	ana.press("zoom to fit")
	ana.press(kb.Enter)
	ana.until("it fits", `(() => { const r = document.querySelector('[data-ground]').closest('.overflow-auto'); return r.scrollWidth <= r.clientWidth + 2 })()`)
}

// Prose becomes gap text: words in brackets and selected words are gaps with their
// pieces and right cells; where a gap stands in the text, its target stands.
func TestGapTextFromProse(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("New activity")
	ana.fill("Title", "Safety")
	ana.click("Gap text")
	ana.doubleClick("Scenery Write the text")
	ana.fill("Text", "Check the [[brake pads]] and the [[tyres]] before each ride, and never ride without a working bell. Tighten the stem first, then the headset, or it will come loose on the way.")
	eval[any](ana, `(() => { const f = document.querySelector('[role=textbox][aria-label="Text"]'); const words = document.createTreeWalker(f, NodeFilter.SHOW_TEXT);
		while (words.nextNode()) { const i = words.currentNode.data.indexOf('bell'); if (i >= 0) { getSelection().setBaseAndExtent(words.currentNode, i, words.currentNode, i + 4); break } } })()`)
	ana.click("Make a gap")
	ana.shot("writing")
	ana.click("Done")
	ana.sees("3 targets")
	ana.sees("Item brake pads")
	ana.until("gaps where the text leaves room", `[...document.querySelectorAll('[data-gap]')].length === 3 && [...document.querySelectorAll('[data-gap]')].every((g) => {
		const a = g.getBoundingClientRect(), t = document.querySelector('[data-part="target-' + g.dataset.gap + '"]').getBoundingClientRect();
		return Math.abs(a.x - t.x) < 3 && Math.abs(a.y - t.y) < 3 })`)
	ana.shot("gap-text")
	doc := ana.document()
	var right []string
	for _, x := range doc.Targets {
		for i := range doc.Items {
			if doc.Key.Solutions[0].RightCell(doc.Target(x.ID), &doc.Items[i]) {
				right = append(right, x.Name+"="+doc.Items[i].Text)
			}
		}
	}
	if got := strings.Join(right, " "); got != "Gap 1=brake pads Gap 2=tyres Gap 3=bell" {
		t.Errorf("right: %s", got)
	}
	// One undo takes all of it back.
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("1 target")
	ana.press("y", chromedp.ModifierCtrl)
	ana.sees("3 targets")
	// Moved, the text takes its gaps with it.
	before := doc.Targets[0].Frame
	beside := ana.spotOn(40, 42) // on its first word: elsewhere a gap may lie over it
	ana.do(chromedp.MouseClickXY(beside.X, beside.Y))
	for range 3 {
		ana.press(kb.ArrowDown, chromedp.ModifierShift)
	}
	ana.until("the gap goes with it", `Math.abs(document.querySelector('[data-part="target-brake-pads"]').getBoundingClientRect().top - document.querySelector('[data-gap]').getBoundingClientRect().top) < 3`)
	if after := ana.document().Targets[0].Frame; after.Y != before.Y+2400 /* as far as the board lets the text go */ {
		t.Errorf("the gap went from %v to %v", before.Y, after.Y)
	}
	// Escape keeps what was written; undo takes it away.
	beside = ana.spotOn(40, 62)
	ana.do(chromedp.MouseClickXY(beside.X, beside.Y, chromedp.ClickCount(2)))
	ana.until("the editor", `document.activeElement?.isContentEditable`)
	ana.press(kb.End, chromedp.ModifierCtrl)
	ana.types(" Oil the [[chain]].")
	ana.press(kb.Escape)
	ana.sees("4 targets")
	ana.sees("Item chain")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("3 targets")
}

// The sheet sets everything of one part or of many at once, each as one step.
func TestTheSheet(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Target 1 Drivetrain")
	ana.shift("Target 2 Brakes")
	ana.shift("Target 3 Wheels")
	ana.click("Details")
	ana.sees("3 targets")
	ana.until("sample pieces", `document.querySelectorAll('[data-sample]').length > 10`)
	ana.fill("Size of pieces, %", "60")
	ana.press(kb.Enter)
	ana.fill("height", "200")
	ana.press(kb.Enter)
	ana.choose("When full", "trade")
	ana.shot("sheet-targets")
	doc := ana.document()
	for _, x := range doc.Targets[:3] {
		if x.Arrange.Scale != 60 || x.Frame.H != 20000 || x.WhenFull != "trade" {
			t.Errorf("%s has %d%%, is %v high, %s", x.ID, x.Arrange.Scale, x.Frame.H, x.WhenFull)
		}
	}
	ana.press("z", chromedp.ModifierCtrl)
	ana.press("z", chromedp.ModifierCtrl)
	if got := ana.document().Targets[0]; got.Frame.H == 20000 || got.Arrange.Scale != 60 {
		t.Errorf("after two undos: %v, %d", got.Frame.H, got.Arrange.Scale)
	}

	ana.click("Item Chain")
	ana.shift("Item Cassette")
	ana.sees("2 items")
	ana.choose("Fill", "well")
	ana.click("right")
	ana.fill("Different text", "Yes")
	ana.press(kb.Enter)
	ana.shot("sheet-items")
	doc = ana.document()
	for _, it := range doc.Items[:2] {
		if it.Looks == nil || it.Looks.Rest.Style.Fill != "well" || *it.Looks.Right.Text != "Yes" {
			t.Errorf("%s looks %+v", it.ID, it.Looks)
		}
	}
}

// choose takes one of the choices of a field, by its value or by what it says.
func (p *person) choose(name, value string) {
	p.t.Helper()
	p.click(name)
	option := `[...document.querySelectorAll('[role=option]')].find((e) => [e.dataset.value, e.textContent.trim()].includes(` + js(value) + `))`
	p.until("the choice "+value, option)
	if p.keys {
		p.picks(option)
		p.until("the list, closed", `!document.querySelector('[role=listbox]')`)
		return
	}
	at := eval[spot](p, `(() => { const e = `+option+`; e.scrollIntoView({block: 'nearest'});
		const r = e.getBoundingClientRect(); return {X: r.x + r.width / 2, Y: r.y + r.height / 2} })()`)
	p.do(chromedp.MouseClickXY(at.X, at.Y))
	p.until("the list, closed", `!document.querySelector('[role=listbox]')`)
}

// Groups, drawing order, copies in another activity, reading order: with the keys.
func TestGroupsAndCopies(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	ana.click("Target 1 Drivetrain")
	ana.shift("Target 2 Brakes")
	ana.press("g", chromedp.ModifierCtrl)
	ana.until("it is grouped", `document.querySelector('[aria-label="Undo"]').dataset.tip.startsWith('Undo: group')`)
	ana.press(kb.Escape)
	ana.click("Target 2 Brakes")
	ana.sees("2 selected")
	ana.press("[", chromedp.ModifierCtrl)
	ana.press(kb.ArrowDown, chromedp.ModifierShift)
	doc := ana.document()
	if doc.Targets[0].Group == "" || doc.Targets[0].Group != doc.Targets[1].Group {
		t.Errorf("groups %q and %q", doc.Targets[0].Group, doc.Targets[1].Group)
	}
	ana.shift("Item Chain")
	clipboard.Lock() // what another copies meanwhile would be pasted
	defer clipboard.Unlock()
	ana.edits("c", "copy")
	ana.sees("Copied. Paste here or in another activity.")
	ana.openSort("More parts")
	ana.click("Target 1 Drivetrain")
	ana.edits("v", "paste")
	ana.sees("4 targets")
	other := ana.document()
	if got := other.Targets[2]; got.Name != "Drivetrain" || !other.Key.Solutions[0].RightCell(&other.Targets[2], &other.Items[len(other.Items)-1]) {
		t.Errorf("pasted %+v", got)
	}
	// By their names in the finder they do what they do by their keys.
	ana.mayUseClipboard()
	copied := func(by, text string) {
		t.Helper()
		eval[any](ana, `navigator.clipboard.writeText('nothing was copied')`)
		ana.command(by)
		ana.untilAnswered(text+" on the clipboard", `navigator.clipboard.readText().then((is) => is === `+js(text)+`)`)
	}
	ana.click("Item Bell")
	copied("Copy", "Bell")
	ana.click("Item Rotor")
	copied("Cut", "Rotor")
	ana.until("the rotor gone", `!`+find("Item Rotor"))
	ana.press("k", chromedp.ModifierCtrl)
	ana.press("reading order from positions")
	ana.press(kb.Enter)
	ana.until("numbers on the board", `document.querySelector('[data-part="target-brakes"]').textContent.includes('2')`)
	ana.shot("reading-order")
	if got := ana.document().Order; len(got) == 0 || got[0] != "drivetrain" {
		t.Errorf("the order is %v", got)
	}
}

// A sound is recorded with its level shown, listened to, kept or discarded; an item
// has one, and so has what is said to its placement.
func TestSoundsAreRecorded(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	ana.click("Item Bell")
	ana.click("Details")
	record := func(button string) {
		ana.click(button)
		ana.until("the level", `parseFloat(document.querySelector('[role=meter] span')?.style.width) > 2`)
		ana.shot("recording")
		ana.click("Stop")
		ana.until("what was recorded", `document.querySelector('audio[aria-label="What was recorded"]')`)
	}
	record("Record a sound")
	ana.click("Discard")
	record("Record a sound")
	ana.click("Use recording")
	ana.sees("Record again")
	ana.fill("Transcript", "Ding")
	ana.press(kb.Enter)
	ana.fill("Feedback if wrong", "A bell belongs on the handlebar.")
	ana.press(kb.Enter)
	record("Record a sound when wrong")
	ana.click("Use recording")
	ana.until("it is there", `[...document.querySelectorAll('button')].filter((b) => b.textContent.includes('Record again')).length === 2`)
	doc := ana.document()
	if it := doc.Item("bell"); it.Sound == "" || it.Transcript != "Ding" {
		t.Errorf("the bell: %+v", it)
	}
	if s := edit.SaidOf(doc, "bell", "wrong"); s.Sound == "" || s.Text != "A bell belongs on the handlebar." {
		t.Errorf("what is said: %+v", s)
	}
	ana.click("Rehearse")
	ana.click("Listen to Bell")
}

// A part dragged between two others comes to rest with equal gaps, and is shown why.
func TestEqualGaps(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("New activity")
	ana.fill("Title", "Three bins")
	ana.click("Build")
	ana.sees("3 targets")
	ana.click("Placing")
	// Three side by side; the outer ones are put at 20 and at 700.
	ana.click("Target 1 Part 1")
	ana.click("Details")
	ana.fill("x", "20")
	ana.press(kb.Enter)
	ana.click("Target 3 Part 3")
	ana.fill("x", "700")
	ana.press(kb.Enter)
	doc := ana.document()
	middle := doc.Targets[1].Frame
	y, half := float64(middle.Y)/100+60, float64(middle.W)/200
	from := ana.spotOn(float64(middle.X)/100+half, y)
	to := ana.spotOn(360+half+6, y) // half way from 20 to 700
	ana.hold(from, to)
	ana.until("two gaps that are alike", `document.querySelectorAll('[data-guide="gap"]').length === 2`)
	ana.shot("equal-gaps")
	ana.letGo(to)
	ana.until("it is put down", `!document.querySelector('[data-guide]')`)
	if got := ana.document().Targets[1].Frame.X; got != 36000 {
		t.Errorf("it came to rest at %v", got)
	}
}

// What the sheet says of how parts show is what a learner sees: a target only while a
// piece is in hand, a faint copy at home, a round picture without a card.
func TestHowPartsShow(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Target 1 Drivetrain")
	ana.click("Details")
	ana.choose("Visible to learners", "inHand")
	ana.click("Target 2 Brakes")
	ana.sees("Looks")
	ana.choose("Visible to learners", "never")
	ana.click("Item Chain")
	ana.click("Leave a ghost")
	ana.click("No card")
	ana.click("Round crop")
	ana.fill("width", "112")
	ana.press(kb.Enter)
	if look := ana.document().Item("chain").Looks.Rest; look.Style.Card || look.Style.Crop != "round" {
		t.Errorf("the chain looks %+v", look.Style)
	}
	ana.click("Rehearse")
	ana.sees("Rehearsing")
	well := func(n int) string {
		return `document.querySelectorAll('[data-target]')[` + js(n) + `]?.querySelector('.sunk, .bg-feather-soft')`
	}
	ana.until("only what always shows", "!"+well(0)+" && !"+well(1)+" && "+well(2))
	from, to := ana.middle(piece("Chain")), ana.middle("Drivetrain, ")
	ana.hold(from, to)
	ana.until("the one for pieces in hand", well(0)+" && !"+well(1))
	ana.shot("shows-in-hand")
	ana.letGo(to)
	ana.sees(piece("Chain") + "in Drivetrain")
	ana.until("a faint copy in the tray", `document.querySelector('[data-tray] .opacity-30 img')`)
	ana.until("round, without a card", `(() => { const i = document.querySelector('[data-piece="chain"] img'); return i.className.includes('rounded-[50%]') && !i.closest('.cut-corner') })()`)
	ana.shot("shows")
}

// Several targets at once get arrows to their neighbours, and callouts to the points that
// are pressed in turn.
func TestArrowsAndCalloutsOfSeveral(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("New activity")
	ana.click("Sort")
	ana.sees("3 targets")
	ana.click("Placing")
	all := func() {
		ana.click("Target 1 Group A")
		ana.shift("Target 2 Group B")
		ana.shift("Target 3 Group C")
		ana.sees("3 selected")
	}
	all()
	ana.click("Arrange")
	ana.click("Arrows between neighbours")
	ana.until("two arrows", `document.querySelectorAll('[data-part^="scenery-arrow"]').length === 2`)
	ana.press("z", chromedp.ModifierCtrl)
	ana.until("none", `document.querySelectorAll('[data-part^="scenery-arrow"]').length === 0`)
	all()
	ana.click("Add a callout line from a target")
	for i := range 3 {
		s := ana.spotOn(100+300*float64(i), 600)
		ana.do(chromedp.MouseClickXY(s.X, s.Y))
		ana.until("its callout", fmt.Sprintf(`document.querySelectorAll('[data-part^="scenery-line"]').length === %d`, i+1))
	}
	ties := ""
	for _, s := range ana.document().Scenery {
		ties += s.Tie + " "
	}
	if ties != "target-1 target-2 target-3 " {
		t.Errorf("callouts of %s", ties)
	}
}

// What somebody sets on a board that still lays itself out is kept, and ends that.
func TestWhatIsSetOnANewBoardStays(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("New activity")
	ana.fill("Title", "Large type")
	ana.click("Sort")
	ana.sees("3 targets")
	ana.click("Item Piece 1")
	ana.click("Details")
	ana.fill("Text size", "30")
	ana.press(kb.Enter)
	ana.saved()
	ana.reload()
	ana.sees("3 targets")
	if size := *ana.document().Items[0].Looks.Rest.Style.Text.Size; size != 3000 {
		t.Errorf("the type that was set to 30 is %v", size)
	}
	size := func(i int) float64 {
		rest := ana.document().Items[i].Looks.Rest
		if rest == nil || rest.Style == nil || rest.Style.Text == nil || rest.Style.Text.Size == nil {
			return 0
		}
		return float64(*rest.Style.Text.Size)
	}
	// What is typed is that of the piece it was typed for, whatever is pressed next.
	second := size(1)
	ana.click("Item Piece 1")
	ana.fill("Text size", "28")
	ana.click("Item Piece 2")
	ana.sees("Piece 2")
	if size(0) != 2800 || size(1) != second {
		t.Errorf("typed for the first piece: %v, and the second has %v instead of %v", size(0), size(1), second)
	}
}

// A designer at a tablet draws, moves and sizes with a finger; with no tool in hand a finger
// on the bare board scrolls the page.
func TestABoardIsArrangedByFinger(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.do(chromedp.EmulateViewport(820, 700, chromedp.EmulateTouch))
	ana.click("New activity")
	ana.fill("Title", "Spots")
	ana.click("Blank board")
	ana.until("the board", `document.querySelector('[data-ground]')`)
	drag := func(from, to spot) {
		t.Helper()
		ana.fingers(from, to)
		ana.touch(input.DispatchTouchEventTypeTouchEnd)
	}
	frame := func() string {
		t.Helper()
		list := ana.document().Targets
		if len(list) != 1 {
			t.Fatalf("%d targets", len(list))
		}
		f := list[0].Frame
		return fmt.Sprintf("%s,%s %s×%s", f.X, f.Y, f.W, f.H)
	}
	ana.click("Draw a target")
	drag(ana.spotOn(100, 100), ana.spotOn(400, 300))
	ana.until("the target", `document.querySelector('[data-ground] [data-part^="target-"]')`)
	if got := frame(); got != "100,100 300×200" {
		t.Errorf("drawn: %s", got)
	}
	ana.click("Select")
	drag(ana.spotOn(250, 200), ana.spotOn(350, 300))
	if got := frame(); got != "200,200 300×200" {
		t.Errorf("moved: %s", got)
	}
	// A finger finds the corner beside what is drawn of it.
	corner := ana.findsRest("the corner", `document.querySelector("[data-handle=se]")`, 1)
	drag(spot{corner.X + 12, corner.Y + 12}, spot{corner.X + 52, corner.Y + 12})
	if got := frame(); !strings.HasPrefix(got, "200,200 3") || got == "200,200 300×200" || !strings.HasSuffix(got, "×200") {
		t.Errorf("sized: %s", got)
	}
}
