package e2e

import (
	"bytes"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
	"keenmagpie/formats/table"
	"keenmagpie/store"
)

// A new activity of each kind opens with a layout that can be rehearsed at once.
func TestNewActivitiesOfEveryKind(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	for _, kind := range []string{"Match", "Sequence", "Label", "Gap text", "Build"} {
		ana.click("New activity")
		ana.fill("Title", "Try "+strings.ToLower(kind))
		if kind == "Match" {
			ana.shot("new-activity")
		}
		ana.click(kind)
		ana.sees("correct arrangement")
		ana.shot("new-" + strings.ToLower(kind[:3]))
		ana.click("Rehearse")
		ana.sees("Rehearsing")
		ana.until("pieces", `document.querySelector('[data-piece]')`)
		ana.click("Shelf /")
	}
}

// The shelf: a copy, another workspace, what is deleted comes back; found by a word.
func TestTheShelfKeepsWhatIsDeleted(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("More actions for Parts drawers")
	ana.click("Duplicate")
	ana.sees("Copy of Parts drawers")
	ana.click("More actions for Copy of Parts drawers")
	ana.click("Delete")
	ana.seesNot("Copy of Parts drawers")
	ana.click("Recently deleted")
	ana.sees("30 days left")
	ana.accessible("deleted")
	ana.shot("deleted")
	ana.click("Restore")
	ana.click("Close")
	ana.sees("Copy of Parts drawers")
	ana.fill("Find on the shelf", "copy of")
	ana.until("one card", `document.querySelectorAll('main li h2').length === 1`)
	ana.click("Cobble Lane Cycle Workshop")
	ana.click("New workspace…")
	ana.fill("Name of the workspace", "Saturday class")
	ana.accessible("new workspace")
	ana.click("Create")
	ana.sees("No activities yet")
	ana.click("Saturday class")
	ana.click("Cobble Lane Cycle Workshop")
	ana.sees("Copy of Parts drawers")
	ana.click("More actions for Copy of Parts drawers")
	ana.click("Move to Saturday class")
	ana.seesNot("Copy of Parts drawers")
}

// Revisions say what was changed; one is looked at and brought back, and undone.
func TestRevisionsAreBroughtBack(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Target 5 Seat")
	ana.press(kb.Delete)
	ana.sees("4 targets")
	ana.click("Activity")
	ana.click("Version history")
	ana.sees("1 target removed: Seat")
	ana.clickOn("the oldest version", `[...document.querySelectorAll('ol[aria-label="Version history"] button')].at(-1)`)
	ana.until("the board as it was", `document.querySelector('section[aria-label="As it was"] [data-form], section[aria-label="As it was"] [inert]')`)
	ana.fill("Name of this version", "As the demo has it")
	ana.press(kb.Enter)
	ana.sees("As the demo has it")
	ana.until("it stands in the list", `document.querySelector('ol[aria-label="Version history"]').innerText.includes("As the demo has it")`)
	ana.shot("revisions")
	ana.click("Restore")
	ana.sees("5 targets")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("4 targets")
}

// A table is looked at before it is taken in; a row with a fault is told and left out.
func TestATableIsTakenIn(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Content")
	ana.click("Import table…")
	ana.fill("Rows of the table", "Item\tPoints\tPicture\tRight in\nChain\t2\trotor\tDrivetrain\nLamp\t1\t\tLights\nHorn\tloud\t\tLights")
	ana.sees("1 made, 1 changed, 0 unchanged, 1 with a fault left out")
	ana.sees(`points: "loud" should be a whole number from 0 to 1000`)
	ana.sees("New targets: Lights")
	ana.shot("table-merge")
	ana.click("Import the other 2")
	ana.sees("6 targets")
	ana.sees(contentCell("Lamp", "text") + "Lamp")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("5 targets")

	ana.click("Import table…")
	dir := t.TempDir()
	file := filepath.Join(dir, "parts.csv")
	if err := os.WriteFile(file, []byte("Item,Tags\nBell,sound\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	ana.files("File of the table", file)
	ana.sees("0 made, 1 changed, 0 unchanged")
	ana.click("Cancel")

	// The same files make a sorting activity; what is none is refused, and nothing else is lost.
	var sheet bytes.Buffer
	if err := table.Write(&sheet, "xlsx", [][]string{{"Bell", "Handlebar"}, {"Müsli bar"}}); err != nil {
		t.Fatal(err)
	}
	for name, body := range map[string][]byte{"sorted.xlsx": sheet.Bytes(), "old.xls": []byte("\xd0\xcf\x11\xe0")} {
		if err := os.WriteFile(filepath.Join(dir, name), body, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	ana.open("/")
	ana.click("New sorting activity from a table")
	ana.files("File of rows", filepath.Join(dir, "sorted.xlsx"))
	ana.sees("2 items, 1 target")
	ana.files("File of rows", filepath.Join(dir, "old.xls"))
	ana.sees("This file was refused")
	ana.click("Create activity")
	ana.sees("Müsli bar")
	ana.sees("sorted")
}

// Other words in the same board: what is right and where it stands stay.
func TestContentIsSwapped(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.holdable()
	ana.openSort("Small parts")
	ana.click("Activity")
	ana.click("Replace content")
	ana.fill("Rows of the new content", "Flour\nSugar\tchain.svg\nButter\nMilk\nSpoon\nDry\nFrom the fridge")
	ana.shot("swap")
	// Nothing is replaced before its pictures are there.
	ana.held("POST /api/media$", func() { ana.files("Pictures of the new content", drawings(t, "Flour")...) }, func() {
		ana.sees("0 of 1 uploaded")
		ana.until("Replace waits", find("Replace 7")+`.disabled`)
		ana.shot("swap-uploading")
	})
	ana.click("Replace 7")
	ana.sees("Flour in 1 Dry: correct")
	doc := ana.document()
	if doc.Items[0].Picture == "" {
		t.Error("Flour has no picture")
	}
	if doc.Items[1].Name != "Sugar" || doc.Items[1].Picture == "" || doc.Targets[1].Label.Text != "From the fridge" || doc.Targets[1].ID != "from-the-fridge" {
		t.Errorf("swapped: %+v", doc.Items[1])
	}
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("Chain in 1 Drivetrain: correct")
}

// A tag renamed once is renamed in what is right, too.
func TestATagIsRenamedEverywhere(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Activity")
	ana.click("Rename tags")
	ana.fill("Tag brakes", "stopping")
	ana.press(kb.Enter)
	ana.until("the keys stay with what was taken", `document.activeElement.value === 'stopping'`)
	ana.press(kb.Tab)
	ana.until("and go on from there", `document.activeElement === `+find("Tag wheels"))
	ana.fill("Tag wheels", " ")
	ana.press(kb.Tab)
	ana.sees("this cannot be empty")
	ana.click("Done")
	ana.sees("stopping · 5")
	doc := ana.document()
	if sel := doc.Key.Solutions[0].Right["brakes"]; strings.Join(sel.Tags, " ") != "stopping" || !doc.Key.Solutions[0].RightCell(doc.Target("brakes"), doc.Item("rotor")) {
		t.Errorf("correct in Brakes: %+v", sel)
	}
}

// A library of many media is drawn a page at a time, as it is scrolled, and all of it is found.
func TestManyMedia(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	for i := range 150 {
		m := store.Medium{ID: fmt.Sprintf("disc%d", i), Type: "image/svg+xml", About: store.About{Name: fmt.Sprintf("disc %d.svg", i), Width: 9, Height: 9},
			Body: fmt.Appendf(nil, `<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><circle r="%d"/></svg>`, i)}
		if err := w.store.In(ana.workspace()).AddMedium(context.Background(), m); err != nil {
			t.Fatal(err)
		}
	}
	ana.makeSort("Small parts")
	ana.click("Activity")
	ana.click("Media")
	const drawn = `document.querySelectorAll('ul[aria-label=Media] button[aria-pressed]').length`
	ana.until("the first of them", drawn+" === 60")
	ana.wheel("the list", `document.querySelector('ul[aria-label=Media]')`, 900)
	ana.until("more of them", drawn+" > 100")
	ana.fill("Find in Media", "disc 149")
	ana.until("one", drawn+" === 1")
}

// Media are found, described and used again; a theme is chosen, changed and kept, and
// says where its colours cannot be told apart.
func TestMediaAndThemes(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.holdable()
	ana.openSort("Small parts")
	ana.click("Item Bell")
	ana.click("Activity")
	ana.click("Media")
	ana.fill("Find in Media", "bell")
	ana.until("one picture", `document.querySelectorAll('ul[aria-label=Media] button').length === 1`)
	ana.clickOn("a medium", `document.querySelector('ul[aria-label=Media] button')`)
	ana.sees("Used in Parts drawers")
	// Of two quick changes none undoes the other.
	ana.held("PUT /api/media/", func() {
		ana.fill("Source", "drawn at the stand")
		ana.press(kb.Enter)
	}, func() {
		ana.fill("Licence", "free to use here")
		ana.press(kb.Enter)
	})
	ana.untilAnswered("both changes", `fetch('/api/media').then((r) => r.json()).then((l) => Object.values(l).flat().some((m) => m?.source === 'drawn at the stand' && m.licence === 'free to use here'))`)
	ana.shot("media")
	ana.click("Use for the selected item")
	if doc := ana.document(); doc.Item("bell").Picture == "" {
		t.Error("the bell has no picture")
	}
	ana.click("Activity")
	ana.click("Media")
	ana.fill("Find in Media", "pump")
	ana.until("one picture", `document.querySelectorAll('ul[aria-label=Media] button').length === 1`)
	ana.clickOn("a medium", `document.querySelector('ul[aria-label=Media] button')`)
	ana.click("Place on board")
	ana.sees("Scenery Pump")
	ana.click("Activity")
	ana.click("Board theme")
	ana.click("Evening")
	ana.sees("All contrasts are sufficient.")
	ana.shot("theme")
	ana.fill("Text", "444") // as a style guide gives it
	ana.press(kb.Enter)
	ana.sees("text on the board: ")
	ana.click("Save as workspace theme")
	ana.until("four themes and none", `document.querySelectorAll('[aria-label=Themes] [type=radio]').length === 5`)
	ana.click("Done")
	if doc := ana.document(); doc.Board.Theme == nil || doc.Board.Theme.Colors.Ink != "#444444" {
		t.Errorf("the theme is %+v", doc.Board.Theme)
	}
	ana.click("Rehearse")
	ana.sees("Rehearsing")
	ana.shot("themed")
}
