package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
	"keenmagpie/server"
	"keenmagpie/store"
)

// A colleague says something of a part of a draft; its designer sees that there is something,
// goes to the part, and says that it is done.
func TestCommentsOnADraft(t *testing.T) {
	w := newWorld(t)
	tobi := w.person(t)
	tobi.openShelved(demo.Accounts()[1], "Parts drawers")
	tobi.sees("correct arrangement")
	tobi.click("Target 5 Seat")
	tobi.click("Activity")
	tobi.click("Comments")
	tobi.sees("No comments yet")
	tobi.sees("Comment on Seat")
	tobi.until("the field", `document.activeElement?.tagName === 'TEXTAREA'`)
	tobi.types("Too narrow for a saddle?")
	tobi.shot("comments-writing")
	tobi.press(kb.Tab)
	tobi.click("Comment")
	tobi.sees("Tobi Lindqvist")
	tobi.until("the keys go on with the next", `document.activeElement?.tagName === 'TEXTAREA' && document.activeElement.value === ''`)

	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("1 comment")
	ana.sees("Too narrow for a saddle?")
	ana.shot("comments")
	ana.accessible("comments")
	ana.click("Seat")
	ana.click("1 comment")
	ana.sees("Comment on Seat") // which is what is selected now
	ana.click("Mark as done")
	ana.sees("Done, Ana Duarte")
	ana.press(kb.Escape)
	ana.until("nothing is left to do", `![...document.querySelectorAll('button')].some((b) => b.innerText.includes('1 comment'))`)
}

// Whoever may not change a draft looks at it, and nothing of it changes under their hands.
func TestADraftThatIsLookedAt(t *testing.T) {
	w := newWorld(t)
	kim := demo.Account{Email: "kim@cobblelane.example", Password: "only-looking-at-drafts", Name: "Kim Reed", Role: store.Reviewer}
	hash, err := server.HashPassword(kim.Password)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := w.store.In(w.designer(t).WorkspaceID).AddMember(t.Context(), store.Account{Email: kim.Email, Name: kim.Name, PasswordHash: hash}, kim.Role); err != nil {
		t.Fatal(err)
	}
	reviewer := w.person(t)
	reviewer.signIn(kim)
	reviewer.click("Parts drawers")
	reviewer.sees("View only")
	reviewer.sees("5 targets")
	reviewer.click("Target 5 Seat")
	reviewer.press(kb.Delete)
	reviewer.sees("A designer of the workspace can change it")
	reviewer.sees("5 targets")
	reviewer.sees("2 correct arrangements")
	reviewer.shot("view-only")
	reviewer.click("Close")
	reviewer.seesNot("A designer of the workspace can change it")
	reviewer.paste("Paring knife\tPeel fruit\nBread knife\tCut loaves")
	reviewer.sees("A designer of the workspace can change it")
	reviewer.seesNot("Nothing has been copied")
	reviewer.press("k", chromedp.ModifierCtrl)
	reviewer.types("re")
	reviewer.sees("Rehearse")
	reviewer.seesNot("Replace content")
	reviewer.seesNot("Release…")
	reviewer.press(kb.Escape)
	reviewer.click("Rehearse")
	reviewer.sees("Check")
}
