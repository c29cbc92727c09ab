package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/demo"
)

// sorts drags one of a list onto another with the mouse, each by what its grip is called.
func (p *person) sorts(one, other string) {
	p.t.Helper()
	from, to := p.middle(one), p.middle(other)
	p.hold(from, to)
	p.until(one+", in hand", find(one)+`.ariaPressed === 'true'`)
	// It is where it is let go once the list has made room.
	p.do(chromedp.MouseEvent(input.DispatchMouseEventTypeMouseMoved, to.X, to.Y, chromedp.ButtonLeft))
	p.still(one)
	p.letGo(to)
	p.acts++
}

// fingers drags with a finger, and leaves it down.
func (p *person) fingers(from, to spot) {
	p.t.Helper()
	p.touch(input.DispatchTouchEventTypeTouchStart, from)
	for i := 1; i <= 5; i++ {
		f := float64(i) / 5
		p.touch(input.DispatchTouchEventTypeTouchMove, spot{from.X + (to.X-from.X)*f, from.Y + (to.Y-from.Y)*f})
	}
}

// The steps of a series are sorted by mouse, finger and key, and said as they move.
func TestStepsAreSorted(t *testing.T) {
	w := newWorld(t)
	for _, title := range []string{"First", "Second", "Third"} {
		doc := keyed()
		doc.Title = title
		w.shelved(t, doc)
	}
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("New series")
	ana.click("Add activities")
	for _, title := range []string{"First", "Second", "Third"} {
		ana.click(title)
	}
	ana.click("Add 3")
	ana.sees("Move step 3, Third")
	order := func(want ...string) {
		t.Helper()
		ana.until(strings.Join(want, ", "), `[...document.querySelectorAll('[aria-label^="Move step "]')].map((e) => e.ariaLabel).join() === `+
			js(strings.Join([]string{"Move step 1, " + want[0], "Move step 2, " + want[1], "Move step 3, " + want[2]}, ",")))
	}
	ana.sorts("Move step 3, Third", "Move step 1, First")
	order("Third", "First", "Second")
	ana.click("Undo")
	order("First", "Second", "Third")
	from, to := ana.middle("Move step 1, First"), ana.middle("Move step 3, Third")
	ana.fingers(from, to)
	ana.until("it is in hand", find("Move step 1, First")+`.ariaPressed === 'true'`)
	ana.still("Move step 1, First")
	ana.shot("sorting-finger")
	ana.touch(input.DispatchTouchEventTypeTouchEnd)
	order("Second", "Third", "First")
	eval[any](ana, "void "+find("Move step 3, First")+".focus()")
	ana.press(" ")
	ana.until("it is in hand", find("Move step 3, First")+`.ariaPressed === 'true'`)
	ana.still("Move step 3, First") // by then it listens to keys
	ana.press(kb.ArrowUp)
	ana.until("it is said", `[...document.querySelectorAll('[role=status]')].some((e) => e.textContent === 'step 3, First: 2 of 3')`)
	ana.press(" ")
	order("Second", "First", "Third")
}

// What an order has on its lines is dragged between them and onto them, by mouse and finger.
func TestAnOrderIsDragged(t *testing.T) {
	w := newWorld(t)
	doc := arranged("sequence", ": Lever, Patch, Pump", "Steps")
	doc.Targets[0].Ordered = true
	var order activity.Order
	for _, it := range doc.Items {
		edit.PutRight(doc, 0, []edit.Row{{Item: it.ID, Targets: []string{doc.Targets[0].ID}}})
		order.Tiers = append(order.Tiers, []string{it.ID})
	}
	doc, _ = edit.SetOrder(doc, 0, doc.Targets[0].ID, &order)
	ana := w.person(t)
	ana.openDocument(doc)
	tiers := func(want string) {
		t.Helper()
		ana.saved()
		if got := fmt.Sprint(ana.document().Key.Solutions[0].Orders[0].Tiers); got != want {
			t.Errorf("the order is %s, want %s", got, want)
		}
	}
	gap := func(line int) spot {
		return eval[spot](ana, fmt.Sprintf(`(() => { const r = document.querySelector('[data-gap-before="%d"]').getBoundingClientRect(); return {X: r.x + 60, Y: r.y + r.height / 2} })()`, line))
	}
	over := func(line int) {
		ana.until("the room before a line, shown", fmt.Sprintf(`document.querySelector('[data-gap-before="%d"]').classList.contains('bg-feather')`, line))
	}
	ana.sees("Pump, place 3")
	ana.hold(ana.middle("Pump, place 3"), gap(0))
	over(0)
	ana.letGo(gap(0))
	ana.sees("Pump, place 1")
	tiers("[[pump] [lever] [patch]]")
	onto := ana.middle("Lever, place 2")
	ana.fingers(ana.middle("Patch, place 3"), onto)
	ana.until("the line, shown", `[...document.querySelectorAll('li')].some((e) => e.classList.contains('bg-feather-soft') && e.innerText.includes('Lever'))`)
	ana.touch(input.DispatchTouchEventTypeTouchEnd)
	ana.sees("Patch, place 2")
	tiers("[[pump] [lever patch]]")
}
