package e2e

import (
	"context"
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
	mara.click("Release 2")
	mara.sees("40 of 40 sittings")
	mara.seesNot("looks keyed wrong")
}
