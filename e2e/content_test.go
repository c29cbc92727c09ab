package e2e

import (
	"os"
	"path/filepath"
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
	ana.openSort("Small parts")
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
	ana.sees("Chain, Copies / capacity: 100 is not possible. Enter a number from 1 to 99.")
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
	ana.sees("Also removed: 1 correct cell. Undo restores everything.")
	ana.press("z", chromedp.ModifierCtrl)
	ana.seesNot("Also removed")
	ana.sees("Chain, Name: ")
	ana.click("Placing")
	ana.sees(cell("Chain", "Drivetrain") + "correct")
	ana.click("Content")

	// The last row taken away: the focus is on the one that is last now.
	ana.click("Brakes, Name: ")
	ana.press(kb.Delete)
	ana.sees("1 target")
	ana.press(kb.ArrowLeft)
	ana.sees("Target “Drivetrain”. Press Delete to remove it.")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("Brakes, Name: ")

	// Rows are moved with Alt; one that cannot go further stays.
	ana.click("Cassette, Name: ")
	ana.press(kb.ArrowUp, chromedp.ModifierAlt)
	ana.press(kb.ArrowUp, chromedp.ModifierAlt)
	ana.until("it is first", `[...document.querySelectorAll('[role=rowheader]')][0].textContent === 'Cassette'`)
	ana.sees("Item “Cassette”. Press Delete to remove it.")

	// Found by a word; targets have their own rows.
	ana.fill("Find in the content", "brakes")
	ana.seesNot("Chain, Name: ")
	ana.sees("Brakes, holds: empty")
	ana.click("Brakes, holds: ")
	ana.press("2")
	ana.press(kb.Enter)
	ana.sees("Brakes, holds: 2")
}

// Picture files become items all at once, one size, in order, in the tray; one that
// is called like an item becomes its picture; a broken one is refused and the rest
// go on. It is one step of undo.
func TestPicturesAllAtOnce(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	ana.click("Content")
	dir := t.TempDir()
	files := []string{}
	for _, name := range []string{"chain", "brake-lever", "tyre-lever-10", "tyre-lever-2", "pump"} {
		body := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 60"><rect width="120" height="60" fill="#2346a0"/></svg>`
		if name == "pump" {
			body = "Dear Ana,"
		}
		files = append(files, filepath.Join(dir, name+".svg"))
		if err := os.WriteFile(files[len(files)-1], []byte(body), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	files = append(files, filepath.Join(dir, "rotor.wav"))
	if err := os.WriteFile(files[len(files)-1], []byte("RIFF\x24\x00\x00\x00WAVEfmt "), 0o600); err != nil {
		t.Fatal(err)
	}
	ana.files("Picture and sound files", files...)
	ana.sees("3 new items in the tray. 2 items have their files. 1 refused: pump.svg: This file was refused: this is not a picture of a known kind")
	ana.sees("8 items")
	ana.sees(contentCell("Tyre lever 10", "Alternative text") + "Tyre lever 10")
	ana.sees(contentCell("Rotor", "Sound") + "yes")
	ana.until("the new ones in the order of their names", `(() => { const names = [...document.querySelectorAll('[role=rowheader]')].map((e) => e.textContent);
		return names.indexOf('Brake lever') < names.indexOf('Tyre lever 2') && names.indexOf('Tyre lever 2') < names.indexOf('Tyre lever 10') })()`)
	ana.until("their pictures", `document.images.length >= 4 && [...document.images].every((i) => i.complete && i.naturalWidth > 0)`)
	ana.shot("pictures")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("5 items")
}

// What is selected on the board is lined up, tidied, copied, made into something
// else and taken away, each as one step.
func TestActsOnTheSelection(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	ana.click("Target 1 Drivetrain")
	ana.shift("Target 2 Brakes")
	ana.sees("2 selected")
	ana.click("Align")
	ana.sees("Left edges")
	ana.shot("line-up")
	ana.click("Left edges")
	ana.until("both at one edge", `(() => { const l = [...document.querySelectorAll('[data-part^="target-"]')].map((e) => Math.round(e.getBoundingClientRect().left)); return l.length === 2 && l[0] === l[1] })()`)
	ana.press("z", chromedp.ModifierCtrl)
	ana.until("apart again", `(() => { const l = [...document.querySelectorAll('[data-part^="target-"]')].map((e) => Math.round(e.getBoundingClientRect().left)); return l[0] !== l[1] })()`)

	ana.click("Target 1 Drivetrain")
	ana.click("Duplicate")
	ana.sees("3 targets")
	ana.sees("accepts everything; correct here: Chain")
	ana.click("Delete")
	ana.sees("Also removed: 3 correct cells. Undo restores everything.")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("3 targets")

	ana.click("Item Bell")
	ana.click("Convert to")
	ana.click("Scenery")
	ana.sees("4 pieces")
	// Scenery is pinned: it is selected by pressing it, and made an item again.
	ana.sees("Scenery Bell")
	ana.shot("recast")
	ana.click("Convert to")
	ana.click("Items")
	ana.sees("5 pieces")
	ana.sees("Item Bell")
}

// Everything is found by name and done without a mouse; F6 goes round the zones.
func TestWithoutAMouse(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	ana.press("k", chromedp.ModifierCtrl)
	ana.press("brakes")
	ana.sees("Brakes")
	ana.shot("find")
	ana.press(kb.Enter)
	ana.until("the target has the focus", `document.activeElement?.dataset.part === 'target-brakes' && document.activeElement.getAttribute('aria-pressed') === 'true'`)
	ana.press("k", chromedp.ModifierCtrl)
	ana.press("duplicate")
	ana.press(kb.Enter)
	ana.sees("3 targets")
	ana.press("k", chromedp.ModifierCtrl)
	ana.press("content tab")
	ana.press(kb.Enter)
	ana.sees(contentCell("Chain", "text") + "Chain")

	zone := func() string { return `document.activeElement?.closest('[data-zone]')?.dataset.zone` }
	eval[any](ana, `document.querySelector('[data-part]').focus()`)
	ana.press(kb.F6)
	ana.until("the ledger", zone()+" === 'ledger' && document.activeElement.role === 'grid'")
	ana.press(kb.F6)
	ana.until("the proof strip", zone()+" === 'proof'")
	ana.press(kb.F6)
	ana.until("the top", zone()+" === 'header'")
	ana.press(kb.F6)
	ana.until("the board", zone()+" === 'board'")
	ana.press(kb.F1)
	ana.sees("find a command, an item or a target")
	ana.shot("keys")
}

// Rows that are pasted into a new activity take the place of its samples: more of them than
// there are samples, pairs, and with the focus on what has no use for them.
func TestRowsPastedIntoANewActivity(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	const names = "Paring knife\nBread knife\nCleaver\nBoning knife\nSteel\nMandoline"
	const pairs = "Paring knife\tPeel fruit\nBread knife\tCut loaves\nCleaver\tSplit bones\nBoning knife\tBone fish\nSteel\tHone edges"
	begin := func(kind string) {
		t.Helper()
		ana.open("/")
		ana.click("New activity")
		ana.click(kind)
		ana.sees("Start here: paste rows")
	}

	begin("Match")
	ana.click(contentCell("Answer 1", "text"))
	ana.paste(names)
	ana.sees(contentCell("Mandoline", "text") + "Mandoline")
	if doc := ana.document(); len(doc.Items) != 6 || doc.Items[0].Text != "Paring knife" || doc.Items[3].Text != "Boning knife" {
		t.Errorf("%d items, the first %q", len(doc.Items), doc.Items[0].Text)
	}
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("4 items")
	ana.sees(contentCell("Answer 1", "text") + "Answer 1")

	// Pairs are answers and what they belong to, and are seen before they are taken.
	ana.click(contentCell("Answer 1", "text"))
	ana.paste(pairs)
	ana.sees("5 made, 0 changed, 0 unchanged")
	ana.sees("New targets: Peel fruit, Cut loaves, Split bones, Bone fish, Hone edges")
	ana.shot("pasted-pairs")
	ana.click("Import")
	ana.sees(contentCell("Steel", "text") + "Steel")
	if doc := ana.document(); len(doc.Items) != 5 || len(doc.Targets) != 5 || !doc.Key.Solutions[0].RightCell(&doc.Targets[4], &doc.Items[4]) {
		t.Errorf("%d items, %d targets", len(doc.Items), len(doc.Targets))
	}
	ana.shot("pasted-pairs-taken")

	// With the focus on a tab as well.
	begin("Sort")
	ana.click("Content")
	ana.paste(names)
	ana.sees("6 made")
	ana.press(kb.Escape)
	ana.until("the dialog is closed", `!document.querySelector('[role=dialog]')`)
}
