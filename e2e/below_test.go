package e2e

import (
	"strings"
	"testing"

	"keenmagpie/demo"
)

// Below a path of a host that has other things as well, everything is found: pages, their
// parts, the engine, pictures, links, and the way back to the shelf.
func TestBelowAPath(t *testing.T) {
	const path = "/learning/magpie"
	w := newWorldBelow(t, path)
	ana := w.person(t)
	ana.signInByHand(demo.Accounts()[0])
	ana.until("the address below the path", `location.pathname === "`+path+`/"`)
	ana.click("Front desk")
	ana.sees("correct arrangement") // the engine was there
	if at := eval[string](ana, `location.pathname`); !strings.HasPrefix(at, path+"/activity/") {
		t.Errorf("the activity is at %s", at)
	}
	ana.reload()
	ana.sees("correct arrangement")
	ana.until("every picture", `[...document.images].every((i) => i.complete && i.naturalWidth > 0)`)
	link := ana.release()
	if !strings.HasPrefix(link, w.url+"/play/") {
		t.Errorf("the link is %s", link)
	}
	lea := w.person(t)
	lea.open(link)
	lea.fill("Your name", "Lea Stone")
	lea.click("Start")
	lea.sees("One visitor after the other")
	lea.until("a piece", `document.querySelector('[data-piece]')`)
	lea.click(eval[string](lea, `document.querySelector('[data-piece]').ariaLabel`))
	lea.press("ArrowRight")
	lea.reload()
	lea.sees("One visitor after the other") // the learner's cookie is for this path
	if !eval[bool](ana, `performance.getEntriesByType('resource').every((e) => new URL(e.name).pathname.startsWith("`+path+`/") || e.name.startsWith('blob:') || e.name.startsWith('data:'))`) {
		t.Error("something was asked for beside the path")
	}
}
