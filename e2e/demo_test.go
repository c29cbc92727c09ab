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
	ana.signIn(demo.Accounts()[0])
	ana.sees("Parts drawers")
	ana.pictures()
	ana.shot("shelf")
	ana.click("New sort from a table")
	ana.fill("Title", "Tools on the wall")
	ana.fill("Rows", "Item\tTarget\nPedal spanner\tSpanners\nCone spanner\tSpanners\n\tPliers\nCable cutter\tPliers\nChain tool\tSpanners\tPliers\nFloor pump")
	ana.sees("1 row cannot be read")
	ana.shot("table")
	ana.press("\x1b")
	ana.click("Parts drawers")
	ana.sees("2 ways to be right")
	ana.click(cell("Inner cable", "Brakes"))
	ana.sees("Inner cable in 2 Brakes: right by its tag brakes")
	ana.pictures()
	ana.shot("workbench")
	ana.click("Content")
	ana.sees("Inner cable, Tags: ")
	ana.pictures()
	ana.shot("content")
	ana.click("Replies")
	ana.click("Some of it is right and an attempt is left")
	ana.sees("others may follow")
	ana.pictures()
	ana.shot("replies")
	ana.click("Marks")
	ana.sees("All right at the second attempt")
	ana.pictures()
	ana.shot("marks")
	ana.click("Play settings")
	ana.sees("They can ask for 2 hints")
	ana.shot("play-settings")
	ana.click("Placing")

	ana.click("Rehearse")
	ana.place("Chain", "Drivetrain")
	ana.place("Bell", "Seat")
	ana.place("Rotor", "Brakes")
	ana.click("Check")
	// 22 pieces must be placed: two right are 2/22 of 24 points.
	ana.sees("2 of 22 earned is 1/11, × 100 % for this attempt, × 24 points: 2.18")
	ana.sees("The bell stays on its bicycle: there is no drawer for it.")
	ana.pictures()
	ana.shot("rehearsing")
	ana.click("Back to editing")
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
	lea.shot("checked")
	lea.click("Try again")
	lea.sees("One check left")
	lea.click("Check")
	// Seven right, at the second attempt's half share, is less than at the first.
	lea.sees("Score 7.64 of 24 (31.82 %)")
	lea.sees("Come back for another evening")

	ana.click("See its sittings")
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
	ana.sees("2 ways to be right")
	ana.shot("workbench-narrow")
	ana.click("Content")
	ana.sees("Inner cable, Tags: ")
	ana.pictures()
	ana.shot("content-narrow")
	ana.click("Placing")
	ana.do(chromedp.EmulateViewport(1280, 800))
	ana.click("Demonstrate")
	ana.click("Begin with what is right")
	ana.sees(piece("Chain") + "in Drivetrain")
	ana.pictures()
	ana.shot("demonstrating")
	ana.click("Back to editing")
	ana.click("What is known")
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

// pictures waits until all pictures are there.
func (p *person) pictures() {
	p.t.Helper()
	p.until("the pictures", `[...document.images].every((i) => i.complete && i.naturalWidth > 0) && document.fonts.status === 'loaded'`)
}
