package e2e

import (
	"context"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"

	"keenmagpie/demo"
)

// The demo's parts drawers as a visitor meets them: on the shelf, in the
// workbench, rehearsed, released and played. With MAGPIE_SHOTS=docs/screenshots it
// also takes the pictures of the README.
func TestTheDemo(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signInByHand(demo.Accounts()[0])
	ana.sees("Parts drawers")
	ana.pictures()
	ana.shot("shelf")
	ana.click("New sorting activity from a table")
	ana.fill("Title", "Tools on the wall")
	ana.fill("Rows", "Item\tTarget\nPedal spanner\tSpanners\nCone spanner\tSpanners\n\tPliers\nCable cutter\tPliers\nChain tool\tSpanners\tPliers\nFloor pump")
	ana.sees("1 row can’t be read")
	ana.shot("table")
	ana.press("\x1b")
	ana.click("Parts drawers")
	ana.sees("2 correct arrangements")
	ana.click(cell("Inner cable", "Brakes"))
	ana.sees("Inner cable in 2 Brakes: correct by its tag brakes")
	ana.pictures()
	ana.shot("workbench")
	ana.click("Content")
	ana.sees("Inner cable, Tags: ")
	ana.pictures()
	ana.shot("content")
	ana.click("Feedback")
	ana.click("Some of it is correct and an attempt is left")
	ana.sees("also show later matches")
	ana.pictures()
	ana.shot("replies")
	ana.click("Marks")
	ana.sees("All correct at the second attempt")
	ana.pictures()
	ana.shot("marks")
	ana.click("Settings for learners")
	ana.sees("They can ask for 2 hints")
	ana.shot("play-settings")
	ana.click("Placing")

	ana.click("Rehearse")
	ana.place("Chain", "Drivetrain")
	ana.place("Bell", "Seat")
	ana.place("Rotor", "Brakes")
	ana.click("Check")
	// 22 pieces must be placed: two right are 2/22 of 24 points.
	ana.sees("2 of 22 earned, × 100% for this attempt, of 24 points: 2.18")
	ana.sees("The bell stays on its bicycle: there is no drawer for it.")
	ana.pictures()
	ana.shot("rehearsing")
	ana.click("Done")
	link := ana.release()

	lea := w.person(t)
	lea.begin(link, "Lea Brandt")
	lea.place("Chain", "Drivetrain")
	lea.place("Cassette", "Drivetrain")
	lea.place("Brake lever", "Brakes")
	lea.place("Rotor", "Wheels")
	lea.place("Tyre", "Wheels")
	lea.place("Fork", "Steering")
	lea.place("Saddle", "Seat")
	from, to := lea.middle(piece("Hub")), lea.middle("Wheels, ")
	lea.hold(from, to)
	lea.pictures()
	lea.until("the target under the piece shown by the engine's hit rule", find("Wheels, ")+`.innerHTML.includes('bg-feather-soft')`)
	lea.shot("playing")
	lea.letGo(to)
	lea.sees("Hub, in Wheels")
	lea.click("Check")
	lea.sees("7 of 22 are where they belong. Try again.")
	lea.click("Try again")
	lea.sees("One attempt left")
	lea.click("Check")
	// Seven right, at the second attempt's half share, is less than at the first.
	lea.sees("Score 7.64 of 24 (31.82%)")
	lea.sees("Come back for another evening")

	ana.click("View sittings")
	ana.click("Sittings")
	ana.sees("Lea Brandt")
	ana.sees("finished")
	ana.shot("sittings")

	// On a telephone.
	kim := w.person(t)
	kim.do(chromedp.EmulateViewport(390, 800, chromedp.EmulateTouch))
	kim.begin(link, "Kim Osei")
	kim.click(piece("Chain"))
	kim.sees("Chain, not placed, in hand")
	kim.click("Drivetrain, ")
	kim.sees("Chain, in Drivetrain")
	kim.pictures()
	kim.shot("playing-phone")

	// The workbench in the dark, and in a narrow window.
	ana.do(chromedp.EmulateViewport(800, 900))
	ana.click("Parts drawers /")
	ana.sees("2 correct arrangements")
	ana.shot("workbench-narrow")
	ana.click("Content")
	ana.sees("Inner cable, Tags: ")
	ana.pictures()
	ana.shot("content-narrow")
	ana.click("Placing")
	ana.do(chromedp.EmulateViewport(1280, 800))
	ana.click("Demonstrate")
	ana.click("Start from the current answer key")
	ana.sees(piece("Chain") + "in Drivetrain")
	ana.pictures()
	ana.shot("demonstrating")
	ana.click("Done")
	ana.click("Proof: what is known")
	ana.click("Show me one")
	ana.sees("1 of 2")
	ana.pictures()
	ana.shot("proof")
	ana.click("Close the proof")
	ana.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{
			Features: []*emulation.MediaFeature{{Name: "prefers-color-scheme", Value: "dark"}},
		})
		return err
	}))
	ana.until("the dark ground", `getComputedStyle(document.body).backgroundColor === 'rgb(16, 21, 30)'`)
	ana.pictures()
	ana.shot("workbench-dark")
}

// The demo's series as a visitor meets it: in its editor, and gone through by a learner
// who labels the bicycle, reads its cards, and is sent back to the page.
func TestTheSeriesOfTheDemo(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("Volunteer induction")
	ana.sees("It is worth")
	ana.click("4")
	ana.sees("Open it in the workbench")
	ana.pictures()
	ana.shot("series")
	ana.click("Release…")
	ana.click("Release")
	ana.sees("published")
	link := eval[string](ana, find("Link for learners")+".value")

	lea := w.person(t)
	lea.open(link)
	lea.sees("8 steps")
	lea.until("the name has the focus", `document.activeElement?.id === 'learner'`)
	lea.fill("Your name", "Lea Brandt")
	lea.click("Start")
	lea.sees("Welcome to Cobble Lane")
	lea.pictures()
	lea.shot("page")
	lea.click("Next")
	lea.sees("Step 2 of 8") // the titles of all steps stand above it
	// Three checks of nothing, and it is over.
	for range 2 {
		lea.click("Check")
		lea.click("Try again")
	}
	lea.click("Check")
	lea.click("Next")
	lea.sees("Step 3 of 8")
	lea.click("Next")
	lea.sees("Step 4 of 8")
	lea.place("Rim brake", "2")
	lea.sees("It presses two pads against the rim.")
	lea.pictures()
	lea.shot("labelling")
	lea.click("Close")
	lea.place("Brake calliper", "7")
	lea.click("Close")
	lea.click("Reopen the message about Rim brake")
	lea.sees("It presses two pads against the rim.")
	lea.click("Close")
	// An unseen place is found on the drawing itself.
	lea.drag(lea.middle(piece("Saddle")), eval[spot](lea, `(() => { const r = document.querySelector('[data-target][aria-label^="Spot 9,"]').getBoundingClientRect(); return {X: r.x + r.width / 2, Y: r.y + r.height / 2} })()`))
	lea.sees("Its height decides how well somebody pedals")
	lea.click("Close")
	lea.drag(lea.middle(piece("Fork")), lea.middle("5, "))
	lea.sees("Not there: Fork goes home.")
	lea.click("Hand in")
	lea.sees("9 pieces are not placed. Hand in anyway?")
	lea.shot("hand-in")
	lea.click("Hand in now")
	lea.sees("3 of 12 parts have their name.")
	lea.click("Reread the page")
	lea.sees("What to know beforehand")
	lea.click("Back to Know your bicycle")
	lea.click("Next")
	for _, step := range []struct {
		stands string
		checks int
	}{{"Step 5 of 8", 2}, {"Step 6 of 8", 4}} { // parts drawers, signs of wear
		lea.sees(step.stands)
		for i := range step.checks {
			lea.click("Check")
			if i < step.checks-1 {
				lea.click("Try again")
			}
		}
		lea.click("Next")
	}
	lea.sees("Step 7 of 8")
	for _, step := range []string{"Take the wheel out", "Lever the tyre off one side", "Pull out the tube", "Find the hole in the tube", "Feel the tyre for what did it", "Patch the tube", "Put tube and tyre back", "Pump it up", "Put the wheel in"} {
		lea.still(piece(step))
		lea.click(piece(step))
		lea.click("From first to last, ")
		lea.sees(piece(step) + "in From first to last")
	}
	lea.click("Check")
	lea.click("Next")
	lea.sees("Step 8 of 8")
	lea.place("White light, battery", "In front")
	lea.click("Check")
	lea.sees("a red light is missing")
	lea.click("Try again")
	lea.place("Red light, battery", "At the back")
	lea.place("Pedal reflectors", "To the side")
	lea.click("Check")
	lea.sees("ready for night.")
	lea.click("See results")
	lea.sees("Come back for another evening")
	lea.pictures()
	// 3 + 9, and all of 10 at the second attempt's share of 80 %, of 75 points.
	lea.sees("20 of 75")
	lea.shot("result")
}

// pictures waits until all pictures are there.
func (p *person) pictures() {
	p.t.Helper()
	p.until("the pictures", `[...document.images].every((i) => i.complete && i.naturalWidth > 0) && document.fonts.status === 'loaded'`)
}
