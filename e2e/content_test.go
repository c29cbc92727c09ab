package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

func contentCell(name, column string) string { return name + ", " + column + ": " }

// The Content lens is a grid like any other: typed, filled down, copied and pasted,
// searched, put in order, and undone in one step each.
func TestContentAsATable(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.makeSort("Small parts")
	ana.click("Content")
	ana.sees(contentCell("Chain", "text") + "Chain")
	ana.shot("content")

	// Type over a cell, go on with Enter.
	ana.click(contentCell("Chain", "Tags"))
	ana.press("drive")
	ana.press(kb.Enter)
	ana.sees(contentCell("Chain", "Tags") + "drive")
	// Fill it down over four rows.
	ana.click(contentCell("Chain", "Tags"))
	for range 3 {
		ana.press(kb.ArrowDown, chromedp.ModifierShift)
	}
	ana.press("d", chromedp.ModifierCtrl)
	ana.sees(contentCell("Rotor", "Tags") + "drive")
	ana.shot("content-filled")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees(contentCell("Rotor", "Tags") + "empty")

	// What is not possible is told, and nothing is changed.
	ana.click(contentCell("Chain", "copies"))
	ana.press("100")
	ana.press(kb.Enter)
	ana.sees("Chain, Copies, holds: 100 is not possible: 1 to 99 is. It is left as it was.")
	ana.sees(contentCell("Chain", "copies") + "1")

	// A block from a spreadsheet: names that go on past the last row become items.
	ana.click("Bell, Name: ")
	ana.paste("Horn\tHorn!\tsound\nFloor pump\tPump\ttools, air\nTyre lever\tLever\ttools")
	ana.sees(contentCell("Floor pump", "Tags") + "tools, air")
	ana.sees(contentCell("Tyre lever", "text") + "Lever")
	ana.seesNot("Bell, Name: ")
	ana.sees("7 items")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("5 items")
	ana.sees("Bell, Name: ")

	// A row taken away takes its cells with it, and comes back with them.
	ana.click("Chain, Name: ")
	ana.press(kb.Delete)
	ana.sees("With it went 1 right cell. Undo brings all of it back.")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("Chain, Name: ")
	ana.click("Placing")
	ana.sees(cell("Chain", "Drivetrain") + "right")
	ana.click("Content")

	// Found by a word; targets have their own rows.
	ana.fill("Find in the content", "brakes")
	ana.seesNot("Chain, Name: ")
	ana.sees("Brakes, holds: empty")
	ana.click("Brakes, holds: ")
	ana.press("2")
	ana.press(kb.Enter)
	ana.sees("Brakes, holds: 2")
}

// paste gives the focused element a text from the clipboard, as another program
// put it there.
func (p *person) paste(text string) {
	p.t.Helper()
	eval[bool](p, `(() => { const data = new DataTransfer(); data.setData('text/plain', `+js(text)+`);
		return document.activeElement.dispatchEvent(new ClipboardEvent('paste', {clipboardData: data, bubbles: true, cancelable: true})) })()`)
}
