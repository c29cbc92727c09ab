package e2e

import (
	"testing"

	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// A colleague says something of a part of a draft; its designer sees that there is something,
// goes to the part, and says that it is done.
func TestCommentsOnADraft(t *testing.T) {
	w := newWorld(t)
	tobi := w.person(t)
	tobi.signIn(demo.Accounts()[1])
	tobi.click("Parts drawers")
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

	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("Parts drawers")
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
