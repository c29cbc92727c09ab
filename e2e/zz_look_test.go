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
	ana.shot("r1")
	ana.click("Usual replies")
	ana.sees("That was the last attempt")
	ana.shot("r2")
	ana.click("By item")
	ana.shot("r3")
	ana.click("Marks")
	ana.sees("All right at once")
	ana.shot("m1")
	ana.click("Play settings")
	ana.shot("p1")
	ana.click("Rehearse")
	ana.click("one wrong")
	ana.sees("Checked")
	ana.pictures()
	ana.shot("h1")
}
