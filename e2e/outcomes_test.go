package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// Whoever only sees outcomes finds what looks keyed wrong first, with the reason; then
// scores, and where each item was put; for first attempts and final states, live.
func TestOutcomes(t *testing.T) {
	w := newWorld(t)
	if err := demo.LoadSittings(context.Background(), w.store); err != nil {
		t.Fatal(err)
	}
	mara := w.person(t)
	mara.everyPage(answersLate)
	mara.signIn(demo.Accounts()[2])
	mara.click("Parts drawers")
	mara.sees("Release 2")
	mara.click("Release 1")
	mara.sees("Jockey wheel may have a wrong answer key: of the 60 who did best,")
	mara.sees("180 of 180 sittings")
	mara.until("it comes first", `document.querySelector('section[aria-label="What learners did"] tbody th').innerText.includes('Jockey wheel')`)
	mara.until("the answer key is framed", `[...document.querySelectorAll('section[aria-label="What learners did"] td')].some((e) => e.style.boxShadow)`)
	mara.pictures()
	mara.shot("outcomes")
	mara.click("Final")
	mara.sees("those that are finished")
	mara.choose("Order of the items", "document")
	mara.until("as in the activity", `document.querySelector('section[aria-label="What learners did"] tbody th').innerText.startsWith('Chain')`)
	mara.click("as percentages")
	// Ana scores the first release again under the draft, where the key is right.
	ana := w.person(t)
	ana.signedIn(demo.Accounts()[0])
	ana.open(strings.TrimPrefix(eval[string](mara, "location.href"), w.url))
	ana.click("Release 1")
	ana.click("Re-mark…")
	ana.sees("would score more")
	ana.pictures()
	ana.accessible("re-mark")
	ana.shot("remark")
	ana.click("Re-mark 180 sittings")
	ana.sees("180 sittings re-marked")
	ana.click("View changes")
	ana.sees("126 scored more, 13 less, and 41 the same.")
	ana.accessible("what a re-mark changed")
	ana.sees("answer key: 2 cells")
	ana.click("Close")
	ana.until("nothing may have a wrong answer key", `!document.body.innerText.includes('may have a wrong answer key')`)
	ana.until("the jockey wheel is correct in Drivetrain", `[...document.querySelectorAll('section[aria-label="What learners did"] tr')].some((r) => r.innerText.startsWith('Jockey wheel') && r.cells[1].style.boxShadow)`)
	ana.shot("remarked")
	ana.click("Revert")
	ana.sees("reverted")
	ana.sees("may have a wrong answer key")
	// A sitting is found among them, and played again, with its trail.
	mara.click("Sittings")
	mara.until("a page of sittings", `document.querySelectorAll('tbody tr').length === 100`)
	mara.click("Next page")
	mara.until("the rest", `document.querySelectorAll('tbody tr').length === 80`)
	mara.choose("Band", "Ready with a mentor")
	mara.until("those of the band", `[...document.querySelectorAll('tbody tr')].every((r) => r.innerText.includes('Ready with a mentor')) && document.querySelectorAll('tbody tr').length > 0`)
	mara.choose("Band", "")
	mara.click("Score of 24")
	mara.pictures()
	mara.shot("sittings-found")
	mara.fill("Find a learner", "kovac")
	mara.until("those of the name", `[...document.querySelectorAll('tbody tr')].every((r) => r.innerText.includes('Kovac'))`)
	learner := eval[string](mara, `document.querySelector('tbody a').textContent`)
	mara.click(learner)
	mara.until("its trail", `document.querySelectorAll('[aria-label="Trail"] li').length > 20`)
	last := eval[int](mara, `Number(document.querySelector('[aria-label="Move"]').max)`)
	mara.sees(fmt.Sprintf("move %d of %d", last, last))
	eval[any](mara, `window.holds = true`)
	mara.click("Previous move")
	mara.sees(fmt.Sprintf("move %d of %d", last-1, last))
	// The board that comes late leaves the trail where it was scrolled to meanwhile.
	mara.until("the board is worked out", `window.held.length > 0`)
	top := `document.querySelector('[aria-label="Trail"]').scrollTop`
	eval[any](mara, top+` = 0; window.holds = false; window.held.splice(0).forEach((f) => f())`)
	if at := eval[float64](mara, `new Promise((r) => setTimeout(() => r(`+top+`), 500))`); at != 0 {
		t.Errorf("the trail went to %g", at)
	}
	mara.pictures()
	mara.shot("replay")
	mara.clickOn("a line of the trail", `document.querySelector('[aria-label="Trail"] button')`)
	mara.sees(fmt.Sprintf("move 1 of %d", last))
	mara.until("one piece is placed", `document.querySelectorAll('[data-piece][aria-label*=", in "]').length === 1`)
	mara.click("Releases and sittings /")
	mara.sees("40 of 40 sittings")
	mara.seesNot("may have a wrong answer key")
}

// In the workbench the ledger shows what learners did, and the board shows it as heat:
// of all items what was wrong, of one where it went.
func TestTheOutcomesLens(t *testing.T) {
	w := newWorld(t)
	if err := demo.LoadSittings(context.Background(), w.store); err != nil {
		t.Fatal(err)
	}
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Outcomes")
	ana.sees("40 of 40 sittings")
	ana.choose("Release", "Release 1")
	ana.sees("Jockey wheel may have a wrong answer key")
	ana.until("heat on the five drawers", `document.querySelectorAll('[data-heat]').length === 5 && /\d+% of \d+ wrong/.test(document.querySelector('[data-heat]').innerText)`)
	ana.pictures()
	ana.shot("outcomes-lens-all")
	ana.click("Jockey wheel")
	ana.sees("where learners put Jockey wheel")
	ana.until("where it counts as right, and where it does not", `(() => { const h = [...document.querySelectorAll('[data-heat]')].map((e) => e.innerText); return h.some((x) => x.endsWith('correct')) && h.some((x) => x.endsWith('wrong')) && h.every((x) => /^\d+ here, \d+%/.test(x)); })()`)
	ana.shot("outcomes-lens")
	ana.click("Final")
	ana.sees("180 of 180 sittings")
	// The suspect leads to its cell.
	ana.click("Open in answer key")
	ana.until("the cell of the Placing tab", `document.querySelector('[role=tab][aria-selected=true]').innerText === 'Placing' && document.body.innerText.includes('Jockey wheel')`)
	// Nothing is released: there is no such lens.
	ana.open("/")
	ana.click("Ready for night")
	ana.sees("Placing")
	ana.until("no Outcomes", `![...document.querySelectorAll('[role=tab]')].some((e) => e.innerText === 'Outcomes')`)
}

// The owner says who sees names, and how few sittings are too few; deletes what is kept
// of a learner; and finds all of it in the log.
func TestLearnersData(t *testing.T) {
	w := newWorld(t)
	if err := demo.LoadSittings(context.Background(), w.store); err != nil {
		t.Fatal(err)
	}
	ana, mara := w.person(t), w.person(t)
	ana.holdable()
	ana.signIn(demo.Accounts()[0])
	mara.signIn(demo.Accounts()[2])
	mara.click("Parts drawers")
	mara.click("Sittings")
	mara.until("a name", `/^[A-Z][a-z]+ [A-Z]/.test(document.querySelector('tbody a')?.innerText ?? '')`)
	learner := eval[string](mara, `document.querySelector('tbody a').innerText`)
	ana.click("Cobble Lane Cycle Workshop")
	ana.click("Learner data")
	ana.sees("Who can see learners’ names:")
	// What is said elsewhere in the meantime stays.
	elsewhere := w.person(t)
	elsewhere.signedIn(demo.Accounts()[0])
	elsewhere.open("/learners")
	elsewhere.fill("Show totals only below", "50")
	elsewhere.click("Save")
	elsewhere.sees("smallest group 50")
	ana.choose("Who can see learners’ names:", "owner")
	// Nothing is saved before it is known how many names it takes away.
	ana.held("GET /api/privacy", func() { ana.fill("Names are kept for", "10") }, func() {
		ana.until("Save that waits", `[...document.querySelectorAll('form button')].some((e) => e.innerText === 'Save' && e.disabled)`)
	})
	ana.sees("Save and delete ")
	ana.shot("learners-asked")
	ana.fill("Names are kept for", "")
	ana.click("Save")
	ana.sees("names are seen by the owner alone; names are kept; smallest group 50")
	// A group of 40 is smaller; of 180 there are sittings, without names.
	mara.open(strings.TrimPrefix(eval[string](mara, "location.href"), w.url))
	mara.sees("With fewer than 50 sittings only totals are shown")
	mara.seesNot("Facility")
	mara.click("Sittings")
	mara.sees("40 sittings.")
	mara.shot("totals-only")
	mara.click("Release 1")
	mara.click("Sittings")
	mara.until("no names", `document.querySelectorAll('tbody a').length === 100 && [...document.querySelectorAll('tbody a')].every((a) => /^Sitting \d+$/.test(a.innerText))`)
	// Deletion, by the name.
	ana.fill("The learner’s name", strings.ToUpper(learner))
	ana.click("Find")
	ana.sees("Sitting: Parts drawers, release 2")
	ana.click("Delete these 2…")
	ana.sees("This can’t be undone.")
	ana.shot("erasing")
	ana.click("Delete for good")
	ana.sees("No data for")
	ana.sees("deletion: 2 sittings")
	ana.shot("learners")
	mara.click("Release 2")
	mara.sees("39 sittings.")
	// And names after their time.
	ana.fill("Names are kept for", "10")
	ana.click("Save and delete ")
	ana.sees("older than 10 days")
	ana.seesNot(learner)
}

// Sittings are chosen in the list and deleted; only the owner can.
func TestDeletingSittings(t *testing.T) {
	w := newWorld(t)
	if err := demo.LoadSittings(context.Background(), w.store); err != nil {
		t.Fatal(err)
	}
	ana, tobi := w.person(t), w.person(t)
	ana.holdable()
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Releases and sittings")
	ana.click("Sittings")
	ana.until("the list", `document.querySelectorAll('tbody tr').length === 40`)
	names := eval[[]string](ana, `[...document.querySelectorAll('tbody a')].slice(0, 2).map((a) => a.innerText)`)
	ana.click("Choose " + names[0])
	ana.click("Choose " + names[1])
	ana.click("Delete 2 sittings…")
	ana.sees("This can’t be undone.")
	ana.accessible("delete sittings")
	ana.click("Cancel")
	ana.sees("40 sittings")
	ana.click("Delete 2 sittings…")
	// Once begun it is not left before it is done, and what is done is no longer chosen.
	ana.held("POST /api/learners/erase", func() { ana.click("Delete for good") }, func() {
		ana.press(kb.Escape)
		ana.sees("This can’t be undone.")
	})
	ana.seesNot("This can’t be undone.")
	ana.seesNot("Delete 2 sittings…")
	ana.sees("38 sittings")
	ana.until("both are gone", fmt.Sprintf(`!%s.some((n) => [...document.querySelectorAll('tbody a')].some((a) => a.innerText === n))`, js(names)))
	ana.click("Outcomes")
	ana.sees("38 of 38 sittings")
	tobi.signedIn(demo.Accounts()[1])
	tobi.open(strings.TrimPrefix(eval[string](ana, "location.href"), w.url))
	tobi.click("Sittings")
	tobi.until("a list without choices", `document.querySelectorAll('tbody tr').length === 38 && !document.querySelector('tbody input')`)
	tobi.open("/learners")
	tobi.sees("Only the owner of this workspace can do this.")
}

// With the keyboard alone: to what looks wrong and its cell, to an item's heat, through a
// sitting move by move.
func TestOutcomesByKeyboard(t *testing.T) {
	w := newWorld(t)
	if err := demo.LoadSittings(context.Background(), w.store); err != nil {
		t.Fatal(err)
	}
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	// tab goes on with Tab until what is named has the focus.
	tab := func(name string) {
		t.Helper()
		for range 120 {
			if eval[bool](ana, `document.activeElement === `+find(name)) {
				return
			}
			ana.press(kb.Tab)
		}
		t.Fatalf("Tab does not come to %s", name)
	}
	ana.sees("Demonstrate")
	eval[any](ana, find("Placing")+`.focus()`)
	ana.press(kb.End)
	ana.until("the last lens", `document.activeElement?.textContent === 'Outcomes'`)
	ana.press(kb.Enter)
	ana.sees("40 of 40 sittings")
	tab("Release")
	ana.press(kb.ArrowDown) // opens it
	ana.until("the list", `document.activeElement?.role === 'option'`)
	ana.press(kb.ArrowDown)
	ana.until("the older one", `document.activeElement?.textContent === 'Release 1'`)
	ana.press(kb.Enter)
	ana.sees("Jockey wheel may have a wrong answer key")
	tab("Jockey wheel")
	ana.press(kb.Enter)
	ana.sees("where learners put Jockey wheel")
	ana.until("its heat", `document.querySelectorAll('[data-heat]').length === 5`)
	ana.open(strings.TrimPrefix(eval[string](ana, "location.href"), w.url) + "/releases")
	ana.sees("40 of 40 sittings")
	tab("Sittings")
	ana.press(kb.Enter)
	ana.sees("Find a learner")
	tab("Find a learner")
	ana.fill("Find a learner", "dahl")
	ana.until("those of the name", `document.querySelectorAll('tbody tr').length < 40 && document.querySelectorAll('tbody a').length > 0`)
	first := eval[string](ana, `document.querySelector('tbody a').innerText`)
	tab(first)
	ana.press(kb.Enter)
	ana.until("its trail", `document.querySelectorAll('[aria-label="Trail"] li').length > 20`)
	tab("Move")
	ana.press(kb.Home)
	ana.sees("move 0 of")
	ana.press(kb.ArrowRight)
	ana.sees("move 1 of")
	// At its end a button that is pressed again and again keeps the focus, and does nothing.
	ana.press(kb.End)
	ana.press(kb.ArrowLeft)
	tab("Next move")
	for range 2 {
		ana.press(kb.Enter)
		ana.until("the last move", `document.activeElement?.ariaLabel === 'Next move' && document.activeElement.ariaDisabled === 'true' && /move (\d+) of \1,/.test(document.body.innerText)`)
	}
}
