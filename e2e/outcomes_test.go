package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"

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
	mara.signIn(demo.Accounts()[2])
	mara.click("Parts drawers")
	mara.sees("Release 2")
	mara.click("Release 1")
	mara.click("Outcomes")
	mara.sees("Jockey wheel looks keyed wrong: of the 60 who did best,")
	mara.sees("180 of 180 sittings")
	mara.until("it comes first", `document.querySelector('section[aria-label="What learners did"] tbody th').innerText.includes('Jockey wheel')`)
	mara.until("what is right is framed", `[...document.querySelectorAll('section[aria-label="What learners did"] td')].some((e) => e.style.boxShadow)`)
	mara.pictures()
	mara.shot("outcomes")
	mara.click("Final")
	mara.sees("those that are finished")
	mara.choose("Order of the items", "document")
	mara.until("as in the activity", `document.querySelector('section[aria-label="What learners did"] tbody th').innerText.startsWith('Chain')`)
	mara.click("as shares")
	// Ana scores the first release again under the draft, where the key is right.
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.open(strings.TrimPrefix(eval[string](mara, "location.href"), w.url))
	ana.click("Release 1")
	ana.click("Outcomes")
	ana.click("Re-mark…")
	ana.sees("would score more")
	ana.pictures()
	ana.shot("remark")
	ana.click("Re-mark 180 sittings")
	ana.sees("180 sittings scored again")
	ana.until("nothing looks keyed wrong", `!document.body.innerText.includes('looks keyed wrong')`)
	ana.until("the jockey wheel is right in Drivetrain", `[...document.querySelectorAll('section[aria-label="What learners did"] tr')].some((r) => r.innerText.startsWith('Jockey wheel') && r.cells[1].style.boxShadow)`)
	ana.shot("remarked")
	ana.click("Take it back")
	ana.sees("taken back")
	ana.sees("looks keyed wrong")
	// A sitting is played again, with its trail.
	mara.click("Sittings")
	mara.until("the sittings", `document.querySelectorAll('tbody tr').length === 180`)
	learner := eval[string](mara, `document.querySelector('tbody a').textContent`)
	mara.click(learner)
	mara.until("its trail", `document.querySelectorAll('[aria-label="Trail"] li').length > 20`)
	last := eval[int](mara, `Number(document.querySelector('[aria-label="Move"]').max)`)
	mara.sees(fmt.Sprintf("move %d of %d", last, last))
	mara.click("Move before")
	mara.sees(fmt.Sprintf("move %d of %d", last-1, last))
	mara.pictures()
	mara.shot("replay")
	eval[any](mara, `document.querySelector('[aria-label="Trail"] button').click()`)
	mara.sees(fmt.Sprintf("move 1 of %d", last))
	mara.until("one piece is placed", `document.querySelectorAll('[data-piece][aria-label*=", in "]').length === 1`)
	mara.click("Releases and sittings /")
	mara.click("Outcomes")
	mara.sees("40 of 40 sittings")
	mara.seesNot("looks keyed wrong")
}
