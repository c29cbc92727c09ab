package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/layout"
	"keenmagpie/demo"
)

// focusedName is what has the focus, as a person would call it.
const focusedName = `(() => { const e = document.activeElement;
	const text = (e) => !e ? '' : e.nodeType === 3 ? e.data : e.getAttribute?.('aria-hidden') ? '' : [...e.childNodes].map(text).join('');
	return (e?.getAttribute('aria-label') ?? text(e?.labels?.[0] ?? e)).trim() })()`

// tabTo goes on with Tab until something has the focus.
func (p *person) tabTo(name string) {
	p.t.Helper()
	for range 90 {
		if eval[bool](p, `(() => { const e = document.activeElement; return e?.matches('button, input, select, textarea, a, summary, [role=grid]') && `+focusedName+`.startsWith(`+js(name)+`) })()`) {
			return
		}
		p.press(kb.Tab)
	}
	p.shot("failed")
	p.t.Fatalf("Tab does not come to %s, but to %s", name, eval[string](p, focusedName))
}

// command finds one by words, and does the first that is found.
func (p *person) command(words string) {
	p.t.Helper()
	p.press("k", chromedp.ModifierCtrl)
	p.until("the finder", `document.activeElement?.matches('[role=dialog] input[role=combobox]')`)
	p.types(words)
	p.press(kb.Enter)
	p.until("it is closed", `!document.querySelector('[role=dialog] input[role=combobox], [cmdk-input]')`)
}

// A match of four, with its key, a reply, marks and the release, by keyboard alone.
func TestAMatchByKeyboardAlone(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	on := ana.tabTo
	focused := focusedName
	command := ana.command
	inGrid := func(name string) {
		t.Helper()
		for range 6 {
			if eval[bool](ana, `document.activeElement?.matches('[role=grid]') && `+focused+`.startsWith(`+js(name)+`)`) {
				return
			}
			ana.press(kb.F6)
		}
		on(name)
	}

	on("New activity")
	ana.press(kb.Enter)
	ana.until("the title in focus", `document.activeElement?.labels?.[0]?.textContent === 'Title'`)
	ana.types("Signs and causes")
	for range 8 {
		if eval[bool](ana, `document.activeElement.textContent.startsWith('Match')`) {
			break
		}
		ana.press(kb.Tab)
	}
	ana.press(kb.Enter)
	ana.sees("Signs and causes")
	ana.sees("4 targets")

	command("content tab")
	inGrid("Content")
	ana.press(kb.Home, chromedp.ModifierCtrl)
	ana.press(kb.Home)
	for _, name := range []string{"Slack chain", "Worn pads", "Dry hub", "Bent rim", "It skips", "It squeals", "It grinds", "It wobbles"} {
		ana.types(name)
		ana.press(kb.Enter)
	}
	ana.saved()

	// The first two are the other way round.
	command("placing tab")
	for range 6 {
		if eval[bool](ana, `!!document.activeElement?.closest('[data-zone=ledger] [role=grid]')`) {
			break
		}
		ana.press(kb.F6)
	}
	on("Slack chain is correct in")
	ana.press(kb.Backspace)
	ana.types("2")
	ana.press(kb.Enter)
	on("Worn pads is correct in")
	ana.press(kb.Backspace)
	ana.types("It skips")
	ana.press(kb.Enter)
	ana.sees("1 correct arrangement")
	ana.saved()

	command("feedback tab")
	on("By item")
	ana.press(kb.Enter)
	on("Replies by item")
	ana.press(kb.ArrowRight)
	ana.types("Listen again.")
	ana.press(kb.Enter)
	ana.saved()

	command("marks tab")
	on("Points")
	ana.press("a", chromedp.ModifierCtrl)
	ana.types("8")
	ana.press(kb.Enter)
	ana.saved()

	command("release")
	ana.sees("A release is a frozen copy")
	on("Release")
	ana.press(kb.Enter)
	ana.sees("published")

	doc := ana.document()
	t.Logf("keys and texts: %d", ana.acts)
	if doc.Items[0].Text != "Slack chain" || doc.Targets[3].Name != "It wobbles" || doc.Targets[3].Label.Text != "It wobbles" {
		t.Errorf("names: %q, %q with the label %q", doc.Items[0].Text, doc.Targets[3].Name, doc.Targets[3].Label.Text)
	}
	if got := rightIn(doc, 0); got != "target-1: item-2; target-2: item-1; target-3: item-3; target-4: item-4" {
		t.Errorf("right: %s", got)
	}
	if doc.Marks.Points != 800 {
		t.Errorf("points: %v", doc.Marks.Points)
	}
	said := false
	for _, r := range doc.Replies {
		said = said || r.Say.Text == "Listen again."
	}
	if !said {
		t.Error("no reply was written")
	}

	ana.press(kb.Escape)
	ana.seesNot("published")
	on("Signs and causes")
	ana.press(kb.Enter)
	ana.types("Signs of wear")
	ana.press(kb.Enter)
	ana.until("the new title in focus", `document.activeElement.textContent === 'Signs of wear'`)

	// What is known opens where the keys go on, and leaves them where they were.
	on("Proof: what is known")
	ana.press(kb.Enter)
	ana.sees("Show me one")
	ana.press(kb.Tab)
	ana.until("the first of it in focus", `document.activeElement.ariaLabel === 'Close the proof'`)
	ana.press(kb.Enter)
	ana.until("the strip in focus", `document.activeElement.ariaLabel === 'Proof: what is known'`)
	command("show the proof")
	ana.until("the proof in focus", `document.activeElement.ariaLabel === 'Findings'`)
	ana.press(kb.Escape)
	ana.until("the strip in focus again", `document.activeElement.ariaLabel === 'Proof: what is known'`)
	command("releases and sittings")
	ana.sees("Release 1")
	on("Access settings…")
	ana.press(kb.Enter)
	ana.until("who may begin in focus", `document.activeElement.ariaLabel === 'Who may begin'`)
	on("Hide")
	ana.press(kb.Enter)
	ana.until("what opened it in focus", `document.activeElement.textContent === 'Access settings…'`)
}

// People are let in, and look after their account, by keyboard alone.
func TestPeopleByKeyboardAlone(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	owner := demo.Accounts()[0]
	press := func(p *person, name string) {
		t.Helper()
		p.tabTo(name)
		p.press(kb.Enter)
	}
	write := func(p *person, name, text string) {
		t.Helper()
		p.tabTo(name)
		p.press("a", chromedp.ModifierCtrl)
		p.types(text)
	}
	ana.open("/")
	ana.sees("Sign in")
	write(ana, "Email", owner.Email)
	write(ana, "Password", owner.Password)
	ana.press(kb.Enter)
	ana.sees("Parts drawers")
	press(ana, "Cobble Lane Cycle Workshop")
	ana.until("the menu", `document.activeElement?.matches('[role^=menu]')`)
	for range 8 {
		at := eval[string](ana, `document.activeElement.textContent`)
		if strings.HasPrefix(at, "People") {
			break
		}
		ana.press(kb.ArrowDown)
		ana.until("the next entry", `document.activeElement.textContent !== `+js(at)) // a busy page is late
	}
	ana.press(kb.Enter)
	ana.sees("Tobi")
	press(ana, "Invite")
	ana.sees("Email (optional)")
	press(ana, "Create link")
	ana.sees("Invitation created")
	link := eval[string](ana, `document.querySelector('input[aria-label="Invitation link"]').value`)
	press(ana, "Done")

	lio := w.person(t)
	lio.open(link)
	lio.sees("Join Cobble Lane Cycle Workshop")
	write(lio, "Email", "lio@cobblelane.example")
	write(lio, "Your name", "Lio Marsh")
	write(lio, "Password", "rattling-mudguard-song")
	lio.press(kb.Enter)
	lio.sees("Parts drawers")
	press(lio, "Lio Marsh")
	lio.sees("Your account")
	write(lio, "Your name", "Lio M. Marsh")
	press(lio, "Save name")
	lio.sees("Name saved.")

	ana.reload()
	ana.sees("More actions for Lio M. Marsh")
	press(ana, "More actions for Lio M. Marsh")
	ana.until("the menu", `document.activeElement?.matches('[role^=menu]')`)
	ana.press(kb.End)
	ana.until("its last entry", `document.activeElement?.textContent.startsWith('Remove')`)
	ana.press(kb.Enter)
	ana.sees("Remove Lio M. Marsh?")
	press(ana, "Remove")
	ana.seesNot("More actions for Lio M. Marsh")
	lio.reload()
	lio.sees("Sign in")
}

// What was drawn with the mouse has the keys: Delete takes it away, and Escape puts the tool
// away wherever the focus is.
func TestKeysAfterDrawing(t *testing.T) {
	ana := newWorld(t).person(t)
	ana.openDocument(arranged("sort", "x: Bell, Hub", "A", "B"))
	boxes := func(n int) {
		ana.until(fmt.Sprint(n, " boxes"), fmt.Sprintf(`document.querySelectorAll('[data-part^="scenery-box"]').length === %d`, n))
	}
	ana.click("Draw a box")
	ana.draw(20, 500, 120, 560)
	boxes(1)
	ana.press(kb.Delete)
	boxes(0)
	ana.draw(20, 500, 120, 560)
	boxes(1)
	ana.click("Details") // the focus is elsewhere
	ana.press(kb.Escape)
	ana.until("no tool", `document.querySelector('[aria-label="Select and move"]').getAttribute('aria-pressed') === 'true'`)
	// All of the kind that is selected, then everything.
	ana.click("Item Bell")
	ana.press("a", chromedp.ModifierCtrl)
	ana.sees("2 selected")
	ana.press("a", chromedp.ModifierCtrl)
	ana.sees("4 selected")
}

// Several replies are chosen with Shift and the arrow keys, changed in one step, and deleted
// together.
func TestSeveralRepliesByKeyboard(t *testing.T) {
	ana := newWorld(t).person(t)
	ana.openDocument(match("Two brakes"))
	ana.click("Feedback")
	ana.click("Everything is correct and an attempt is left")
	ana.until("the caret in its text", `document.activeElement?.isContentEditable`)
	eval[any](ana, find("Everything is correct and an attempt is left")+`.focus()`)
	ana.press(kb.ArrowDown, chromedp.ModifierShift)
	ana.press(kb.ArrowDown, chromedp.ModifierShift)
	ana.sees("3 selected")
	ana.choose("Position", "board")
	over := 0
	for _, r := range ana.document().Replies {
		if r.Spot == "board" {
			over++
		}
	}
	if over != 3 {
		t.Errorf("%d of 3 stand over the board", over)
	}
	// One of them alone again, and the three once more.
	ana.click("Everything is correct and an attempt is left")
	ana.seesNot("3 selected")
	ana.shift("Some of it is correct and an attempt is left")
	ana.sees("3 selected")
	ana.press("z", chromedp.ModifierCtrl)
	ana.until("undone in one step", `document.querySelector('[aria-label="Undo"]').ariaDisabled`)
	eval[any](ana, find("Everything is correct and no attempt is left")+`.focus()`)
	ana.press(kb.Delete)
	if left := len(ana.document().Replies); left != 3 {
		t.Errorf("%d replies are left of 6", left)
	}
}

// A tool that a key chose is led over the board: corners are set one by one, callouts go to the
// selected targets in turn, and Escape takes back what was begun, then the tool.
func TestToolsLedByKeys(t *testing.T) {
	ana := newWorld(t).person(t)
	ana.openDocument(arranged("sort", "x: Bell, Hub", "A", "B"))
	ana.keys = true
	ana.click("Draw a polygon target")
	for _, at := range [][2]float64{{300, 300}, {400, 300}, {350, 380}} {
		ana.leads(at[0], at[1])
	}
	ana.press(kb.Enter)
	ana.sees("3 targets")
	ana.press(kb.Escape)
	ana.seesNot("Arrow keys")
	drawn := ana.document().Targets[2]
	if drawn.Shape != "polygon" || len(drawn.Points) != 3 || drawn.Frame.X != 30000 || drawn.Frame.W != 10000 || drawn.Frame.H != 8000 {
		t.Errorf("%s of %d corners at %+v", drawn.Shape, len(drawn.Points), drawn.Frame)
	}

	ana.click("Target 1 A")
	ana.shift("Target 2 B")
	ana.click("Add a callout line from a target")
	ana.leads(900, 300)
	ana.until("the first callout", `document.querySelectorAll('[data-part^="scenery-line"]').length === 1`)
	ana.leads(200, 300)
	ana.until("the second", `document.querySelectorAll('[data-part^="scenery-line"]').length === 2`)
	for i, s := range ana.document().Scenery {
		if s.Tie != []string{"a", "b"}[i] || s.To.Y != 30000 {
			t.Errorf("the callout of %s goes to %+v", s.Tie, s.To)
		}
	}

	ana.click("Draw a box")
	ana.leads(100, 100)
	ana.sees("then Space to end")
	ana.press(kb.Escape)
	ana.sees("then Space to begin")
	ana.press(kb.Escape)
	ana.until("the tool, put away", `!document.querySelector('[data-crosshair]') && document.querySelector('[aria-label="Select and move"]').getAttribute('aria-pressed') === 'true'`)
	if n := len(ana.document().Scenery); n != 2 {
		t.Errorf("%d drawings", n)
	}
}

// Three discs are drawn, moved apart and made the answer, with a hidden target under each, by
// keyboard alone.
func TestADrawnAnswerByKeyboardAlone(t *testing.T) {
	ana := newWorld(t).person(t)
	ana.openDocument(layout.New("blank", "Discs"))
	onBoard := `document.activeElement?.matches('[data-part^="scenery-ellipse"][aria-pressed="true"]')`
	for i := range 3 {
		ana.command("add an ellipse")
		ana.until("the ellipse, chosen", fmt.Sprintf(`document.querySelectorAll('[data-part^="scenery-ellipse"]').length === %d && document.querySelectorAll('[data-part^="scenery-ellipse"][aria-pressed="true"]').length === 1`, i+1))
		for range 6 {
			if eval[bool](ana, onBoard) {
				break
			}
			ana.press(kb.F6)
		}
		ana.until("the focus on it", onBoard)
		for range 14 * i {
			ana.press(kb.ArrowRight, chromedp.ModifierShift)
		}
	}
	ana.press("a", chromedp.ModifierCtrl)
	ana.until("all three", `document.querySelectorAll('[data-part^="scenery-ellipse"][aria-pressed="true"]').length === 3`)
	ana.command("hidden target")
	ana.sees("1 correct arrangement")
	d := ana.document()
	if len(d.Targets) != 3 || len(d.Items) != 3 || len(d.Scenery) != 0 || d.Targets[2].Frame.X-d.Targets[0].Frame.X != 28000 {
		t.Errorf("%+v", d.Targets)
	}
}
