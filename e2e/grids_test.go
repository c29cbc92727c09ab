package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
)

// After a click, wherever the caret then is, every grid copies, cuts, pastes and fills
// what is chosen in it.
func TestGridsAfterAClick(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	down := func(times int) {
		for range times {
			ana.press(kb.ArrowDown, chromedp.ModifierShift)
		}
	}
	copied := func(key, want string) {
		t.Helper()
		if got := ana.copies(key); got != want {
			t.Errorf("%q was copied, and not %q", got, want)
		}
	}

	ana.click("Content")
	ana.click(contentCell("Chain", "Tags"))
	ana.paste("drive")
	ana.sees(contentCell("Chain", "Tags") + "drive")
	copied("c", "drive")
	copied("x", "drive")
	ana.sees(contentCell("Chain", "Tags") + "empty")
	// What is typed on a range goes to all of it, and the range stays.
	down(2)
	ana.press("o")
	ana.press("k")
	ana.press(kb.Enter)
	ana.sees(contentCell("Inner cable", "Tags") + "ok")
	copied("c", "ok\nok\nok")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees(contentCell("Chain", "Tags") + "empty")
	// A press elsewhere keeps what was typed, and goes there.
	ana.click(contentCell("Rotor", "Tags"))
	ana.press("h")
	ana.click(contentCell("Bell", "Tags"))
	ana.sees(contentCell("Rotor", "Tags") + "h")
	ana.press("b")
	ana.press(kb.Enter)
	ana.sees(contentCell("Bell", "Tags") + "b")

	// Two rows go up together, twice.
	ana.click("Inner cable, Name: ")
	down(1)
	ana.press(kb.ArrowUp, chromedp.ModifierAlt)
	ana.press(kb.ArrowUp, chromedp.ModifierAlt)
	ana.until("both are first", `[...document.querySelectorAll('[role=rowheader]')].slice(0, 4).map(e => e.textContent).join() === 'Inner cable,Rotor,Chain,Cassette'`)
	ana.press("z", chromedp.ModifierCtrl)

	ana.click("Placing")
	ana.click(cell("Chain", "Drivetrain"))
	down(2)
	copied("c", "1\n1\n1")
	ana.click(cell("Chain", "Brakes"))
	ana.paste("1\n1\n0")
	ana.sees(cell("Chain", "Brakes") + "correct")
	ana.sees(cell("Cassette", "Brakes") + "correct")
	ana.seesNot(cell("Inner cable", "Brakes") + "correct")
	// A number typed on a range is kept where one presses elsewhere.
	ana.click(cell("Cassette", "Drivetrain"))
	ana.press(kb.ArrowUp, chromedp.ModifierShift)
	ana.press("1")
	ana.click(cell("Bell", "Drivetrain"))
	ana.until("one of them is needed", `document.body.innerText.includes('1 of 2')`)

	ana.click("Marks")
	ana.click("Chain, points: 1")
	down(1)
	ana.press("3")
	ana.press(kb.Enter)
	ana.sees("Cassette, points: 3")
	copied("c", "3\n3")
	ana.click("Inner cable, points: 1")
	ana.paste("4\n5")
	ana.sees("Inner cable, points: 4")
	ana.sees("Rotor, points: 5")

	// What is not possible is said, and nothing else is put there.
	ana.click("Rotor, points: 5")
	ana.press("-")
	ana.press("9")
	ana.press(kb.Enter)
	ana.sees("“-9” could not be read")
	ana.sees("Rotor, points: 5")

	// The field beside the table shows what the document says: pasted, and undone.
	ana.click("Feedback")
	ana.click("By item")
	ana.click("Chain, when correct: ")
	said := `document.querySelector('[role=textbox][aria-label="What is said"]')?.innerText.trim()`
	ana.paste("It drives.")
	ana.until("it is in the field", said+` === 'It drives.'`)
	ana.paste("It turns.")
	ana.until("the later one is in the field", said+` === 'It turns.'`)
	ana.press("z", chromedp.ModifierCtrl)
	ana.until("the earlier one is back", said+` === 'It drives.'`)
	ana.press("z", chromedp.ModifierCtrl)
	ana.until("nothing is said", said+` === ''`)
	ana.click("Chain, when wrong: ")
	ana.click("Chain, when correct: ")
	ana.sees("Chain, when correct: nothing is said")
}
