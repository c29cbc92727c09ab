package e2e

import (
	"testing"

	"keenmagpie/demo"
)

func TestZZLook(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("Parts drawers")
	ana.sees("2 ways to be right")
	ana.click("Replies")
	ana.click("Usual replies")
	ana.sees("That was the last attempt")
	ana.click("Set up a situation…")
	ana.sees("Use this situation")
	ana.place("Chain", "Drivetrain")
	ana.place("Bell", "Seat")
	ana.click("Use this situation")
	ana.sees("Bell is in Seat")
	ana.shot("r6")
	ana.click("Write the reply")
	ana.fill("What is said", "The bell rings anywhere but here.")
	ana.shot("r7")
	ana.click("Try: The bell rings anywhere but here.")
	ana.sees("Trail")
	ana.pictures()
	ana.shot("r8")
	ana.click("all right")
	ana.sees("Score 24 of 24")
	ana.pictures()
	ana.shot("h2")
	ana.click("one wrong")
	ana.sees("Checked: 21 right")
	ana.pictures()
	ana.shot("h3")
}
