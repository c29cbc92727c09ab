package e2e

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
	"keenmagpie/store"
)

// cell is the accessible name of a cell of the ledger.
func cell(item, target string) string { return item + " in " + target + ": " }

func (p *person) saved() {
	p.t.Helper()
	p.until("the saving", `document.querySelector('header [role=status]')?.textContent === 'Saved' && !document.querySelector('[data-writing]')`)
}

// frame is where a part stands on the screen.
func (p *person) frame(label string) (x, y, w, h float64) {
	p.t.Helper()
	p.until(label, find(label))
	f := eval[[]float64](p, `(() => { const r = `+find(label)+`.getBoundingClientRect(); return [r.x, r.y, r.width, r.height] })()`)
	return f[0], f[1], f[2], f[3]
}

func TestTheLedger(t *testing.T) {
	w := newWorld(t)
	p := w.person(t)
	p.openSort("Small parts")

	// Arrow keys and ranges: Bell and Rotor are made right in Drivetrain in one act.
	p.click(cell("Rotor", "Drivetrain"))
	p.sees("Rotor in 1 Drivetrain: not correct; accepted by default")
	p.press(kb.ArrowDown, chromedp.ModifierShift)
	p.sees("2 cells: 2 items × 1 target.")
	p.press(" ")
	p.sees(cell("Bell", "Drivetrain") + "correct")
	p.sees(cell("Rotor", "Drivetrain") + "correct")
	p.press(kb.ArrowUp)
	p.sees("Rotor in 1 Drivetrain: correct (set for this item)")
	p.press("z", chromedp.ModifierCtrl)
	p.sees(cell("Bell", "Drivetrain") + "accepted")
	p.sees(cell("Rotor", "Drivetrain") + "accepted")
	p.press("y", chromedp.ModifierCtrl)
	p.sees(cell("Bell", "Drivetrain") + "correct")
	p.press("z", chromedp.ModifierCtrl)
	p.sees(cell("Bell", "Drivetrain") + "accepted")

	// Accepted items has a switch of its own.
	p.click("Accepted items")
	p.click(cell("Bell", "Brakes"))
	p.press(kb.Delete)
	p.sees(cell("Bell", "Brakes") + "not accepted")
	p.click("Accepted items")
	p.sees("Bell in 2 Brakes: not accepted, as an exception")

	// Selecting on one side selects on the other.
	p.until("the item on the board selected", find("Item Bell")+`.getAttribute('aria-pressed') === 'true'`)
	p.until("the target on the board selected", find("Target 2 Brakes")+`.getAttribute('aria-pressed') === 'true'`)
	p.click("Item Chain")
	p.until("the row selected", `[...document.querySelectorAll('[role=row]')].some((r) => r.textContent.startsWith('Chain') && r.className.includes('bg-feather-soft'))`)

	// Rename in place, in the ledger and on the board; the face follows.
	p.click(cell("Bell", "Brakes"))
	p.press(kb.F2)
	p.fill("Name of item Bell", "Brass bell")
	p.press(kb.Enter)
	p.sees("Item Brass bell")
	p.doubleClick("Target 2 Brakes")
	p.fill("Name of target Brakes", "Stopping")
	p.press(kb.Enter)
	p.sees("Target 2 Stopping")

	// Who leaves at once and comes straight back finds it saved, and no conflict.
	p.click("Shelf /")
	p.sees("New sorting activity from a table")
	p.click("Small parts")
	p.sees("Target 2 Stopping")
	p.saved()

	// Who goes to another page before it is saved is asked, and finds it kept.
	p.doubleClick("Target 2 Stopping")
	p.fill("Name of target Stopping", "To stop")
	p.press(kb.Enter)
	p.open(eval[string](p, "location.href"))
	p.sees("Target 2 To stop")
	p.saved()
	p.doubleClick("Target 2 To stop")
	p.fill("Name of target To stop", "Stopping")
	p.press(kb.Enter)
	p.saved()

	// It was saved: a reload shows it.
	p.reload()
	p.sees("Target 2 Stopping")
	p.sees(cell("Brass bell", "Stopping") + "not accepted")
	p.shot("ledger")
}

func TestTheBoard(t *testing.T) {
	w := newWorld(t)
	p := w.person(t)
	p.openSort("Small parts")

	x, y, width, height := p.frame("Target 1 Drivetrain")
	target := find("Target 1 Drivetrain") + ".getBoundingClientRect()"

	// Resize by a corner; move with the mouse; undo.
	p.click("Target 1 Drivetrain")
	p.until("the handles", `document.querySelector('[data-handle=se]')`)
	h := eval[spot](p, `(() => { const r = document.querySelector('[data-handle=se]').getBoundingClientRect(); return {X: r.x + 6, Y: r.y + 6} })()`)
	p.drag(h, spot{h.X - 60, h.Y - 100})
	p.until("the smaller target", target+".width < "+num(width-50)+" && "+target+".height < "+num(height-90))
	p.drag(spot{x + 50, y + 100}, spot{x + 50, y + 140})
	p.until("the move", "Math.abs("+target+".y - "+num(y+40)+") < 8") // it may line up with something
	p.press("z", chromedp.ModifierCtrl)
	p.until("the move undone", "Math.abs("+target+".y - "+num(y)+") < 1")

	// Keys: arrows with Alt resize, with Shift move by ten.
	_, _, narrow, _ := p.frame("Target 1 Drivetrain")
	eval[any](p, find("Target 1 Drivetrain")+".focus()")
	for range 8 {
		p.press(kb.ArrowRight, chromedp.ModifierAlt)
	}
	p.until("the wider target", find("Target 1 Drivetrain")+".getBoundingClientRect().width > "+num(narrow+3))
	x1, _, _, _ := p.frame("Target 1 Drivetrain")
	p.press(kb.ArrowRight, chromedp.ModifierShift)
	p.until("the nudge", find("Target 1 Drivetrain")+".getBoundingClientRect().x > "+num(x1+4))

	// An item dragged out of the tray has a place on the board, and can go back.
	ix, iy, iw, ih := p.frame("Item Chain")
	p.drag(spot{ix + iw/2, iy + ih/2}, spot{x + width/2, y + height/2})
	p.until("the item on the board", find("Item Chain")+".getBoundingClientRect().y < "+num(iy-100))
	bx, by, bw, bh := p.frame("Item Chain")
	p.drag(spot{bx + bw/2, by + bh/2}, p.middle("Tray"))
	p.until("the item back in the tray", find("Item Chain")+".getBoundingClientRect().y > "+num(iy-20))

	// Several at once, by a marquee around the tray: out and back, in one step each.
	tx, ty, tw, th := p.frame("Tray")
	p.drag(spot{tx + tw - 3, ty + th - 3}, spot{tx + 3, ty + 3})
	p.sees("5 selected")
	p.drag(spot{ix + iw/2, iy + ih/2}, spot{x + 60, y + height/2})
	p.until("all five on the board", `document.querySelector('[aria-label=Tray]').querySelectorAll('[data-part]').length === 0`)
	p.press("z", chromedp.ModifierCtrl)
	p.until("all five back in the tray", `document.querySelector('[aria-label=Tray]').querySelectorAll('[data-part]').length === 5`)
	p.saved()
	p.shot("board")
}

func num(v float64) string { return strconv.FormatFloat(v, 'f', 2, 64) }

// Two work on one activity: the later is asked, and neither loses anything.
func TestAnotherHasSavedInBetween(t *testing.T) {
	w := newWorld(t)
	ana, tobi := w.person(t), w.person(t)
	ana.openSort("Small parts")
	url := eval[string](ana, "location.href")
	tobi.signedIn(demo.Accounts()[1])
	tobi.open(url)
	tobi.click(cell("Bell", "Brakes"))
	tobi.press(" ")
	tobi.sees(cell("Bell", "Brakes") + "correct")
	tobi.saved()

	ana.click(cell("Rotor", "Drivetrain"))
	ana.press(" ")
	ana.sees("Tobi Lindqvist has saved this activity in between")
	ana.shot("conflict")
	ana.click("Continue with mine")
	ana.seesNot("saved this activity in between")
	ana.saved()
	ana.open(url)
	ana.sees(cell("Rotor", "Drivetrain") + "correct")
	ana.sees(cell("Bell", "Brakes") + "accepted")

	// Tobi's page is now the older one; he goes on with hers, and his is kept too.
	tobi.click(cell("Bell", "Drivetrain"))
	tobi.press(" ")
	tobi.sees("Ana Duarte has saved this activity in between")
	tobi.click("Continue with Ana Duarte")
	tobi.seesNot("saved this activity in between")
	tobi.sees(cell("Rotor", "Drivetrain") + "correct")
	tobi.sees(cell("Bell", "Drivetrain") + "accepted")
	tobi.saved()
	tobi.open("/")
	tobi.click("Small parts (my changes)")
	tobi.sees(cell("Bell", "Drivetrain") + "correct")

	ana.open("/")
	ana.click("Small parts (Tobi Lindqvist’s version)")
	ana.sees(cell("Bell", "Brakes") + "correct")
	ana.sees(cell("Rotor", "Drivetrain") + "accepted")
}

// What is exported comes back equal; what is broken is refused with the reason.
func TestBundles(t *testing.T) {
	w := newWorld(t)
	p := w.person(t)
	p.signIn(demo.Accounts()[0])
	dir := p.downloads()
	p.click("More actions for Parts drawers")
	p.click("Export (.zip)")
	body := waitForFile(t, dir, ".zip")

	broken := filepath.Join(t.TempDir(), "broken.zip")
	if err := os.WriteFile(broken, []byte(body[:len(body)/2]), 0o600); err != nil {
		t.Fatal(err)
	}
	p.upload("File to import", broken)
	p.sees("This bundle was refused: this is not a zip file, or a part of it is missing. Nothing was imported.")
	p.shot("refused")

	files, _ := filepath.Glob(filepath.Join(dir, "*.zip"))
	p.upload("File to import", files[0])
	p.sees("correct arrangement")
	p.open("/")
	p.until("one card more", fmt.Sprintf(`document.querySelectorAll('li h2').length === %d`, len(demo.Activities)+1))
	list, err := w.store.In(w.designer(t).WorkspaceID).Activities(context.Background(), store.AnActivity)
	if err != nil || len(list) != len(demo.Activities)+1 || list[0].Document != list[1].Document {
		t.Errorf("the activity did not come back equal (%v, %d on the shelf)", err, len(list))
	}
	if !strings.Contains(list[0].Document, "jockey-wheel") {
		t.Error("the wrong activity was compared")
	}
}

func (p *person) upload(field, file string) {
	p.t.Helper()
	p.do(chromedp.SetUploadFiles(chromedp.CSS("input[aria-label="+js(field)+"]"), []string{file}))
}
