package e2e

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
	"keenmagpie/formats/table"
)

const rows = "Chain\tDrivetrain\nCassette\tDrivetrain\n\tBrakes\nInner cable\tDrivetrain\tBrakes\nRotor\tBrakes\nBell"

// makeSort makes a small sort of pasted rows, of which one cannot be read.
func (p *person) makeSort(title string) {
	p.t.Helper()
	p.click("New sorting activity from a table")
	p.fill("Title", title)
	p.fill("Rows", rows)
	p.sees("1 row can’t be read")
	p.sees("the first cell, for the item, is empty")
	p.shot("table")
	p.click("Skip")
	p.sees("All rows read or skipped")
	p.sees("5 items, 2 targets")
	p.click("Create activity")
	p.sees("correct arrangement")
}

// openSort opens the sort that makeSort makes by hand.
func (p *person) openSort(title string) {
	p.t.Helper()
	p.openDocument(table.Read(rows, []table.Edit{{Row: 3, LeaveOut: true}}).Sort(title))
	p.sees("correct arrangement")
}

// releases the open draft and gives its link.
func (p *person) release() string {
	p.t.Helper()
	p.click("Release…")
	p.sees("A release is a frozen copy")
	p.click("Release")
	p.sees("published")
	return eval[string](p, find("Link for learners")+".value")
}

func (p *person) begin(link, name string) {
	p.t.Helper()
	p.open(link)
	p.fill("Your name", name)
	p.click("Start")
	p.sees("Check")
}

// The whole path in the real interface: a table becomes a sort, the sort is
// rehearsed and released, a learner plays it twice over, and the score is listed.
func TestFromATableToAScore(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.open("/")
	ana.fill("Email", demo.Accounts()[0].Email)
	ana.fill("Password", "wrong")
	ana.click("Sign in")
	ana.sees("No account has this address with this password")
	ana.signIn(demo.Accounts()[0])
	ana.sees("Parts drawers")
	ana.until("the miniature's pictures", `document.images.length > 20 && [...document.images].every((i) => i.complete && i.naturalWidth > 0)`)
	ana.shot("shelf")

	ana.makeSort("Small parts")
	ana.sees("Inner cable in Brakes: correct")

	// Rehearse: the trail says what was decided.
	ana.click("Rehearse")
	ana.sees("Rehearsing")
	ana.place("Chain", "Drivetrain")
	ana.sees("Chain is correct in Drivetrain")
	ana.place("Rotor", "Drivetrain")
	ana.sees("Rotor is not correct in Drivetrain")
	ana.click("Check")
	ana.sees("1 of 4 earned, × 100% for this attempt, of 10 points: 2.5")
	ana.shot("rehearsing")
	ana.click("Try again")
	ana.sees("Rotor returns to the tray: incorrect pieces do after a failed check")
	ana.sees("Chain is held in place: it is correct")
	ana.click("Done")

	link := ana.release()
	ana.shot("released")

	// A learner who is not signed in.
	lea := w.person(t)
	lea.begin(link, "Lea Brandt")
	lea.sees("2 attempts left")
	lea.place("Chain", "Drivetrain")
	lea.place("Cassette", "Drivetrain")
	lea.place("Inner cable", "Brakes")
	lea.place("Bell", "Brakes")
	lea.click("Check")
	lea.sees("3 pieces are correct, one is not.")
	lea.shot("checked")
	lea.click("Try again")
	lea.sees("Bell, not placed")
	lea.sees("Chain, in Drivetrain, held in place")
	// A held piece cannot be dragged away.
	lea.drag(lea.middle(piece("Chain")), lea.middle("Brakes, "))
	lea.place("Rotor", "Brakes")
	lea.sees("Chain, in Drivetrain, held in place")
	lea.click("Check")
	lea.sees("All correct.")
	// The first attempt, three of four right, is 7.5; the second, all right at its
	// share of 50 %, is 5: the better counts.
	lea.sees("Score 7.5 of 10 (75%)")
	lea.shot("score")
	lea.open(link)
	lea.sees("Score 7.5 of 10 (75%)")

	ana.click("View sittings")
	ana.click("Sittings")
	ana.sees("Lea Brandt")
	ana.until("the row", `[...document.querySelectorAll('tr')].some((r) => ['Lea Brandt', 'finished', '2', '7.5 (75%)'].every((x) => [...r.cells].some((c) => c.textContent === x)))`)
	ana.shot("sittings")
	dir := ana.downloads()
	ana.click("Download")
	ana.click("Sittings, CSV")
	csv := waitForFile(t, dir, ".csv")
	if !strings.Contains(csv, "Lea Brandt") || !strings.Contains(csv, `,"done",2,7.50,75.00,"right"`) {
		t.Errorf("the CSV says:\n%s", csv)
	}
}

func waitForFile(t *testing.T, dir, ending string) string {
	t.Helper()
	deadline := time.Now().Add(10 * time.Second)
	for time.Now().Before(deadline) {
		files, _ := filepath.Glob(filepath.Join(dir, "*"+ending))
		if len(files) > 0 {
			body, err := os.ReadFile(files[0])
			if err == nil && len(body) > 0 {
				return string(body)
			}
		}
		select {
		case <-time.After(30 * time.Millisecond):
		case <-t.Context().Done():
		}
	}
	t.Fatalf("no file %s came", ending)
	return ""
}

// Learners who play by touch, by press and press, and by the keyboard alone all
// come to the same board.
func TestEveryWayToPlay(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	link := ana.release()

	t.Run("touch", func(t *testing.T) {
		p := w.person(t)
		p.do(chromedp.EmulateViewport(820, 1100, chromedp.EmulateTouch))
		p.begin(link, "Touch")
		p.swipe(p.middle(piece("Chain")), p.middle("Drivetrain, "))
		p.sees("Chain, in Drivetrain")
		p.swipe(p.middle(piece("Chain")), p.middle("Tray"))
		p.sees("Chain, not placed")
	})
	t.Run("press and press", func(t *testing.T) {
		p := w.person(t)
		p.begin(link, "Press")
		p.click(piece("Rotor"))
		p.sees("Rotor, not placed, in hand")
		p.shot("in-hand")
		p.click("Brakes, ")
		p.sees("Rotor, in Brakes")
		p.click(piece("Rotor"))
		p.click("Tray: put it back here")
		p.sees("Rotor, not placed")
	})
	t.Run("keyboard alone, announced", func(t *testing.T) {
		p := w.person(t)
		p.begin(link, "Keys")
		heard := `document.querySelector('[aria-live]').textContent`
		focused := `document.activeElement.getAttribute('aria-label') ?? document.activeElement.textContent`
		goTo := func(key, begins string) {
			t.Helper()
			for range 12 {
				if strings.HasPrefix(eval[string](p, focused), begins) {
					return
				}
				p.press(key)
			}
			t.Fatalf("that key does not come to %s, but to %s", begins, eval[string](p, focused))
		}
		place := func(name, target string) {
			t.Helper()
			goTo(kb.ArrowRight, piece(name))
			p.press(kb.Enter)
			p.until("the places in reach", focused+`.startsWith('Drivetrain')`)
			goTo(kb.ArrowRight, target)
			p.press(kb.Enter)
			p.until("the announcement", heard+` === `+js(name+" is in "+target+"."))
			p.until("the focus back on the piece", focused+`.startsWith(`+js(piece(name)+"in "+target)+`)`)
		}
		first := eval[string](p, `document.querySelector('[data-piece]').getAttribute('aria-label').split(',')[0]`)
		goTo(kb.Tab, first)
		place("Chain", "Drivetrain")
		place("Cassette", "Drivetrain")
		place("Inner cable", "Drivetrain")
		// A piece taken up can be put back by Escape.
		goTo(kb.ArrowRight, piece("Rotor"))
		p.press(kb.Enter)
		p.press(kb.Escape)
		p.until("the focus back on the piece", focused+`.startsWith('Rotor, not placed')`)
		place("Rotor", "Brakes")
		goTo(kb.Tab, "Check")
		p.press(kb.Enter)
		p.until("the announcement", heard+` === 'All correct. Score 10 of 10 (100%)'`)
	})
}

// swipe drags with a finger.
func (p *person) swipe(from, to spot) {
	p.t.Helper()
	p.fingers(from, to)
	p.touch(input.DispatchTouchEventTypeTouchEnd)
}

// touch sets a finger down, moves it, or, without a place, lifts it.
func (p *person) touch(kind input.DispatchTouchEventType, at ...spot) {
	p.t.Helper()
	points := []*input.TouchPoint{}
	for _, s := range at {
		points = append(points, &input.TouchPoint{X: s.X, Y: s.Y})
	}
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, input.DispatchTouchEvent, input.DispatchTouchEventParams{Type: kind, TouchPoints: points})
		return err
	}))
}

// The connection breaks, the learner goes on, reloads, and nothing is lost.
func TestALostConnectionAndAReloadLoseNothing(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	link := ana.release()

	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.place("Chain", "Drivetrain")
	lea.offline(true)
	lea.drag(lea.middle(piece("Cassette")), lea.middle("Drivetrain, "))
	lea.sees("You’re offline. One move is saved here")
	lea.drag(lea.middle(piece("Rotor")), lea.middle("Brakes, "))
	lea.sees("You’re offline. 2 moves are saved here")
	lea.shot("offline")
	lea.offline(false)
	lea.open(link) // a reload with moves that were never sent
	lea.sees("Chain, in Drivetrain")
	lea.sees("Cassette, in Drivetrain")
	lea.sees("Rotor, in Brakes")
	lea.offline(true)
	lea.drag(lea.middle(piece("Inner cable")), lea.middle("Brakes, "))
	lea.sees("You’re offline. One move is saved here")
	lea.offline(false)
	lea.sees("Inner cable, in Brakes")
	lea.seesNot("No connection")
	lea.click("Check")
	lea.sees("Score 10 of 10 (100%)")
}
