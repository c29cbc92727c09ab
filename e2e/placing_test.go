package e2e

import (
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/layout"
	"keenmagpie/core/proof"
)

// arranged is an activity whose board is arranged and whose key is empty: items
// with their tags ("brakes: Pad, Lever; : Bell"), and targets.
func arranged(kind, items string, targets ...string) *activity.Doc {
	doc := layout.New(kind, "Arranged")
	doc.Board.Width, doc.Board.Height = 120000, 72000 // however a start is filled
	doc.Items, doc.Targets, doc.Scenery, doc.Key = nil, nil, nil, activity.Key{Solutions: []activity.Solution{{Credit: 100}}}
	for _, group := range strings.Split(items, ";") {
		tag, names, _ := strings.Cut(group, ":")
		for _, name := range strings.Split(names, ",") {
			made, sel := edit.AddItems(doc, []string{strings.TrimSpace(name)})
			doc = made
			if tag = strings.TrimSpace(tag); tag != "" {
				doc.Item(sel.Items[0]).Tags = []string{tag}
			}
		}
	}
	doc, _ = edit.AddTargets(doc, targets)
	layout.Start(doc)
	return doc
}

// rightIn lists what is right in each target of a solution.
func rightIn(d *activity.Doc, solution int) string {
	var out []string
	for _, t := range d.Targets {
		if list := d.Cells().Right[solution][t.ID]; len(list) > 0 {
			out = append(out, t.ID+": "+strings.Join(list, " "))
		}
	}
	return strings.Join(out, "; ")
}

// over drags over cells, from one to another.
func (p *person) over(from, to string) {
	p.t.Helper()
	p.drag(p.middle(from), p.middle(to))
}

// ways waits until the proof strip says how many ways there are.
func (p *person) ways(n string) {
	p.t.Helper()
	word := " correct arrangements"
	if n == "1" {
		word = " correct arrangement"
	}
	p.until(n+word, `document.querySelector('[data-figure=ways]:not(.opacity-45)')?.textContent.startsWith(`+js(n+word)+`)`)
}

// TestActsToSetTheKey counts what it takes, from an arranged board, to say what is
// right.
func TestActsToSetTheKey(t *testing.T) { actsToSetTheKey(t, false) }

func TestActsToSetTheKeyByKeyboard(t *testing.T) { actsToSetTheKey(t, true) }

func actsToSetTheKey(t *testing.T, keys bool) {
	w := newWorld(t)
	count := func(name string, most int, doc *activity.Doc, ways string, set func(ana *person)) *activity.Doc {
		ana := w.person(t)
		ana.openDocument(doc)
		ana.click("Placing")
		if doc.Kind != "sort" && doc.Kind != "build" {
			ana.click("As list")
		}
		ana.sees(cell(doc.Items[0].Name, doc.Targets[0].Name))
		ana.keys = keys
		ana.acts = 0
		set(ana)
		acts := ana.acts
		ana.ways(ways)
		ana.shot("key-" + strings.ReplaceAll(name, " ", "-"))
		t.Logf("acts: %s: %d (aim: at most %d)", name, acts, most)
		if acts > most {
			t.Errorf("%s takes %d acts, more than %d", name, acts, most)
		}
		return ana.document()
	}
	six := arranged("sort", "brakes: Pad, Lever, Cable; wheels: Rim, Tyre, Hub; drive: Chain, Crank; seat: Saddle, Post; steering: Stem, Bar; light: Lamp, Dynamo",
		"Drawer A", "Drawer B", "Drawer C", "Drawer D", "Drawer E", "Drawer F")
	tag := func(tag, target string) string { return "Everything tagged " + tag + " in " + target + ": " }
	tags := []string{"brakes", "wheels", "drive", "seat", "steering", "light"}
	done := count("six targets by tag", 8, six, "1", func(ana *person) {
		for i, name := range tags {
			ana.doubleClick(tag(name, six.Targets[i].Name))
			ana.sees(tag(name, six.Targets[i].Name) + "correct")
		}
	})
	for i, name := range tags {
		if got := done.Key.Solutions[0].Right[done.Targets[i].ID]; fmt.Sprint(got) != fmt.Sprintf("{false [] [%s] []}", name) {
			t.Errorf("%s: %v", done.Targets[i].Name, got)
		}
	}
	named := arranged("sort", "brakes: Pad, Lever; wheels: Rim, Tyre; drive: Chain; seat: Saddle; steering: Stem; light: Lamp",
		"Brakes", "Wheels", "Drive", "Seat", "Steering", "Light")
	count("six targets called as their tags", 8, named, "1", func(ana *person) {
		ana.click("By tag…")
		ana.click("Apply")
	})
	two := arranged("sort", ": Front lamp, Rear lamp, Bell", "Left hook", "Right hook", "Shelf")
	done = count("two pieces interchangeable between two targets", 4, two, "2", func(ana *person) {
		ana.over(cell("Front lamp", "Left hook"), cell("Rear lamp", "Right hook"))
		ana.press("1")
		ana.press(kb.Enter)
	})
	if got := rightIn(done, 0); got != "left-hook: front-lamp rear-lamp; right-hook: front-lamp rear-lamp" {
		t.Error(got)
	}
	kit := arranged("build", ": White one, White two, White three, Red one, Red two", "Bicycle")
	done = count("two of these and one of either of those", 6, kit, "6", func(ana *person) {
		ana.over(cell("White one", "Bicycle"), cell("White three", "Bicycle"))
		ana.press("2")
		ana.press(kb.Enter)
		ana.sees("Required: 2 of 3")
		ana.over(cell("Red one", "Bicycle"), cell("Red two", "Bicycle"))
		ana.press("1")
		ana.press(kb.Enter)
	})
	if count, _ := proof.New(t.Context(), done).Count(); count != "6" {
		t.Errorf("%s ways", count)
	}
	second := arranged("sort", ": Lamp, Dynamo, Reflector", "Front", "Back")
	second, _ = edit.RightIn(second, 0, []edit.Row{{Item: "lamp", Targets: []string{"front"}}, {Item: "reflector", Targets: []string{"back"}}})
	done = count("a second whole solution of two pieces", 5+2, second, "2", func(ana *person) {
		ana.click("Demonstrate")
		ana.place("Dynamo", "Front")
		ana.place("Reflector", "Back")
		ana.click("Save as another solution")
		ana.sees("2 pieces count as correct in Way 2")
		ana.click("Done")
	})
	if got := rightIn(done, 1); got != "front: dynamo; back: reflector" || rightIn(done, 0) != "front: lamp; back: reflector" {
		t.Errorf("%s, then %s", rightIn(done, 0), got)
	}
}

// TestThePlacingLens goes through what the cells, their heads and their feet say and
// change.
func TestThePlacingLens(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := arranged("sort", "brakes: Pad, Lever, Cable; wheels: Rim, Tyre; : Bell", "Brakes", "Wheels", "Steps")
	doc.Targets[2].Ordered = true
	ana.openDocument(doc)
	ana.click("Placing")
	ana.sees("No answer key yet.")
	ana.doubleClick("Everything tagged brakes in Brakes: ")
	ana.sees(cell("Lever", "Brakes") + "correct, solution 1")
	ana.click(cell("Lever", "Brakes"))
	ana.sees("Lever in 1 Brakes: correct by its tag brakes; accepted by default")
	ana.press(kb.Delete)
	ana.sees(cell("Lever", "Brakes") + "accepted, an exception")
	ana.sees("not correct, as an exception")
	ana.click("Target 1 Brakes")
	ana.sees("Brakes accepts everything; correct here: everything tagged brakes but Lever.")
	ana.click("Tray")
	ana.click("Item Lever")
	ana.sees("Lever belongs nowhere.")
	ana.shot("placing-tags")

	// What must be placed, from its own column.
	ana.doubleClick("Everything tagged wheels in Wheels: ")
	ana.sees("Required: yes")
	ana.click(cell("Rim", "Wheels"))
	ana.do(chromedp.Click(chromedp.CSS(`[data-must="rim"]`)))
	ana.sees("Required, of 1 piece")
	ana.choose("How many", "may")
	ana.click("Set")
	ana.sees("Required: may stay")

	// Heads and feet, of several targets together.
	ana.click("Target 1 Brakes")
	ana.shift("Target 2 Wheels")
	ana.sees("2 targets selected: edit their requirements and capacity")
	ana.click("Wheels holds any number")
	ana.fill("how many it holds", "3")
	ana.press(kb.Enter)
	ana.choose("when full", "trade")
	ana.press(kb.Escape)
	ana.sees("Brakes holds 3")
	ana.sees("Wheels holds 3")
	ana.click("Needs of Wheels")
	ana.click("Add a requirement")
	ana.sees("Remove requirement")
	ana.shot("placing-needs")
	ana.press(kb.Escape)
	ana.sees("Needs of Brakes: 1")

	// A lane and its order.
	ana.over(cell("Bell", "Steps"), cell("Bell", "Steps"))
	ana.press(" ")
	ana.click(cell("Tyre", "Steps"))
	ana.press(" ")
	ana.sees(cell("Tyre", "Steps") + "correct")
	ana.sees("Order in 3 Steps")
	ana.click("Set an order")
	ana.sees("Tyre is correct in Wheels as well, and with an order it can be correct in its lane alone")
	ana.click(cell("Tyre", "Wheels"))
	ana.press(kb.Delete)
	ana.sees(cell("Tyre", "Wheels") + "accepted, an exception")
	ana.click(cell("Rim", "Steps"))
	ana.press(" ")
	ana.click(cell("Rim", "Wheels"))
	ana.press(kb.Delete)
	ana.sees(cell("Rim", "Wheels") + "accepted, an exception")
	ana.click(cell("Rim", "Steps"))
	ana.click("Set an order")
	ana.sees("Rim, place 1")
	eval[any](ana, "void "+find("Bell, place 3")+".focus()")
	ana.press(kb.ArrowUp, chromedp.ModifierAlt)
	ana.sees("Bell, place 2")
	ana.sees("Tyre, place 3")
	ana.press(kb.ArrowRight, chromedp.ModifierAlt)
	ana.sees("Bell, place 2")
	ana.sees("Tyre, place 2")
	ana.choose("The earlier one", "tyre")
	ana.choose("The later one", "rim")
	ana.click("Add")
	ana.sees("Couldn’t do that: circular order: Rim before Tyre before Rim")
	ana.choose("The later one", "bell")
	ana.click("Add")
	ana.sees("Tyre must come before Bell")
	ana.shot("placing-lane")
	d := ana.document()
	if o := d.Key.Solutions[0].Orders; fmt.Sprint(o[0].Tiers, o[0].Before) != "[[rim] [tyre bell]] [[tyre bell]]" {
		t.Errorf("the order is %v", o)
	}

	// Another solution, compared with the first.
	ana.click("Solution 1")
	ana.click("Duplicate solution")
	ana.sees("Name of solution 2")
	ana.choose("compare with", "0")
	ana.fill("Credit of solution 2", "60")
	ana.press(kb.Enter)
	ana.press(kb.Escape)
	ana.click(cell("Lever", "Brakes"))
	ana.press(" ")
	ana.sees(cell("Lever", "Brakes") + "correct, solution 2")
	ana.until("one cell that differs", `document.querySelectorAll('[data-differs]').length === 1`)
	ana.shot("placing-compared")
	d = ana.document()
	if len(d.Key.Solutions) != 2 || d.Key.Solutions[1].Credit != 60 || rightIn(d, 0) == rightIn(d, 1) {
		t.Errorf("%v", d.Key.Solutions)
	}
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("Undone: mark as correct")
}

// TestPlacingByItem is for activities in which every item has a place of its own.
func TestPlacingByItem(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(arranged("match", ": Squeak, Rattle, Skip, Wobble", "Dry chain", "Loose bolt", "Worn teeth", "Bent rim"))
	ana.click("Placing")
	ana.click("Match in order")
	ana.sees("Wobble is not correct in Bent rim")
	ana.ways("1")
	ana.shot("by-item")
	if got := rightIn(ana.document(), 0); got != "dry-chain: squeak; loose-bolt: rattle; worn-teeth: skip; bent-rim: wobble" {
		t.Error(got)
	}
	// How many of those selected, from here too.
	ana.click("Squeak")
	ana.click("Required number…")
	ana.choose("How many", "may")
	ana.click("Set")
	ana.sees("may stay")
	ana.press("z", chromedp.ModifierCtrl)
	ana.seesNot("may stay")
	// Typed: a name begun, or a number; Enter goes on.
	ana.click("Squeak is not correct in Dry chain")
	ana.fill("Squeak is correct in", "loo")
	ana.press(kb.Enter)
	ana.sees("Squeak is not correct in Loose bolt")
	ana.fill("Rattle is correct in", "1")
	ana.press(kb.Enter)
	ana.sees("Rattle is not correct in Dry chain")
	// Filled down, and pasted in two columns.
	ana.click("Skip")
	ana.shift("Wobble")
	eval[any](ana, "void "+find("Skip is correct in")+".focus()")
	ana.click("Skip")
	ana.shift("Wobble")
	ana.press("d", chromedp.ModifierCtrl)
	ana.sees("Wobble is not correct in Worn teeth")
	eval[any](ana, "void "+find("Skip is correct in")+".focus()")
	ana.paste("Squeak\tBent rim\nNobody\tBent rim\nWobble\tdry chain; 2")
	ana.sees("Line 2 skipped")
	ana.sees("Wobble is not correct in Loose bolt")
	if got := rightIn(ana.document(), 0); got != "dry-chain: rattle wobble; loose-bolt: rattle wobble; worn-teeth: skip; bent-rim: squeak" {
		t.Error(got)
	}
}

// TestDemonstrating shows on the board what is right.
func TestDemonstrating(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(arranged("sort", ": Front lamp, Rear lamp, Bell", "Left hook", "Right hook"))
	ana.click("Demonstrate")
	ana.place("Front lamp", "Left hook")
	ana.place("Rear lamp", "Right hook")
	ana.shot("demonstrating-two")
	ana.click("Save as correct answer")
	ana.sees("2 pieces count as correct in Solution 1")
	ana.ways("1")
	// In each other's place: either of these will do.
	ana.click("Reset pieces")
	ana.sees(piece("Rear lamp") + "not placed")
	ana.place("Front lamp", "Right hook")
	ana.place("Rear lamp", "Left hook")
	ana.click("Save as correct answer")
	ana.sees("Front lamp and Rear lamp are in each other’s place")
	ana.shot("demonstrating-either")
	ana.click("Accept both")
	ana.ways("2")
	// A piece on the bare board becomes a target.
	bell := ana.middle(piece("Bell"))
	left, right := ana.middle("Left hook, "), ana.middle("Right hook, ")
	ana.drag(bell, spot{(left.X + right.X) / 2, left.Y})
	ana.sees("Make a target here")
	ana.shot("demonstrating-loose")
	ana.click("Hidden target")
	ana.sees(piece("Bell") + "in Spot 3")
	ana.ways("2")
	ana.click("Done")
	d := ana.document()
	spot := d.Target("spot-3")
	if spot == nil || spot.Shows != "never" || spot.Frame.W != d.Item("bell").Size.W {
		t.Fatalf("the target that was made: %+v", spot)
	}
	if got := rightIn(d, 0); got != "left-hook: front-lamp rear-lamp; right-hook: front-lamp rear-lamp; spot-3: bell" {
		t.Error(got)
	}
}

// TestProof is what is known before anyone plays.
func TestProof(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := arranged("sort", ": Pad, Lever, Cable", "Brakes", "Wheels")
	edit.PutRight(doc, 0, []edit.Row{{Item: "pad", Targets: []string{"brakes"}}, {Item: "lever", Targets: []string{"brakes", "wheels"}}, {Item: "cable", Targets: []string{"brakes"}}})
	doc.Targets[0].Holds = 1
	ana.openDocument(doc)
	ana.sees("Can’t be solved")
	ana.click("Proof: what is known")
	ana.sees("Brakes holds 1, but 2 pieces belong there")
	ana.click("Show what conflicts")
	ana.until("the conflict on the board", `document.querySelector('[data-part=target-brakes]').getAttribute('aria-pressed') === 'true'`)
	ana.shot("proof-impossible")
	ana.click("Set capacity to 2")
	ana.ways("1")
	ana.seesNot("cannot be solved")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("Can’t be solved")
	ana.press("y", chromedp.ModifierCtrl)
	ana.ways("1")
	ana.click("Close the proof")
	ana.click("Brakes holds 2")
	ana.fill("how many it holds", "3")
	ana.press(kb.Enter)
	ana.press(kb.Escape)
	ana.ways("2")
	ana.click("Proof: what is known")
	ana.click("Show me one")
	ana.sees("1 of 2")
	ana.until("three pieces on the board", `document.querySelectorAll('[data-arranged]').length === 3`)
	ana.shot("proof-way")
	ana.click("The next one")
	ana.sees("2 of 2")
	ana.sees("By guessing, everything comes out right with a chance of")
	ana.click("Run simulation")
	ana.sees("% on average")
	ana.sees("Where guessed pieces went")
	if title := eval[string](ana, `document.querySelector('[data-class] figure').ariaLabel`); !strings.Contains(title, "scores: ") || !strings.Contains(title, "100%: ") {
		t.Errorf("the chart of scores: %s", title)
	}
	ana.shot("proof-class")
	// A large class says how far it is, and can be stopped.
	ana.fill("Learners", "100000")
	ana.click("Run simulation")
	ana.until("progress", `document.querySelector('[data-class] progress')?.value > 200`)
	ana.click("Stop")
	ana.until("stopped", `!document.querySelector('[data-class] progress')`)
	ana.click("Close the proof")
	ana.until("the board as it was", `document.querySelectorAll('[data-arranged]').length === 0`)
}

// TestAHeavyCountCanBeLeft: the page goes on meanwhile, and the figure is left.
func TestAHeavyCountCanBeLeft(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	const n = 40
	var names, targets []string
	for i := range n {
		names, targets = append(names, fmt.Sprintf("P%d", i)), append(targets, fmt.Sprintf("T%d", i))
	}
	doc := arranged("sort", ": "+strings.Join(names, ", "), targets...)
	var rows []edit.Row
	for i := range n { // each right in places that no other has all of
		r := edit.Row{Item: doc.Items[i].ID}
		for j := range n {
			if (i*31+j*17+i*i*j)%13 < 6 || i == j {
				r.Targets = append(r.Targets, doc.Targets[j].ID)
			}
		}
		doc.Targets[i].Holds = 1
		rows = append(rows, r)
	}
	edit.PutRight(doc, 0, rows)
	ana.openDocument(doc)
	ana.sees("counting")
	ana.click(cell("P0", "T0"))
	ana.press(kb.ArrowRight)
	ana.sees("P0 in 2 T1: ") // the ledger answers all the while
	ana.click("Stop")
	ana.sees("not counted")
	ana.shot("proof-left")
}

// TestDemonstratingByKeyboard: a piece is put where it belongs, and counted; a reload
// has it, and it can be seen on narrow screens.
func TestDemonstratingByKeyboard(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(arranged("sort", ": Lamp, Bell", "Hook", "Shelf"))
	eval[any](ana, "void "+find("Demonstrate")+".focus()")
	ana.press(kb.Enter)
	ana.sees(piece("Lamp") + "not placed")
	eval[any](ana, "void "+find(piece("Lamp"))+".focus()")
	ana.press(kb.Enter)
	ana.until("a place in focus", `document.activeElement?.matches('[data-target]')`)
	ana.press(kb.Enter)
	ana.sees(piece("Lamp") + "in Hook")
	eval[any](ana, "void "+find("Save as correct answer")+".focus()")
	ana.press(kb.Enter)
	ana.sees("1 piece counts as correct in Solution 1")
	ana.press(kb.Escape)
	ana.sees("Drag parts to move them")
	ana.document()
	ana.open(eval[string](ana, "location.href"))
	ana.sees(cell("Lamp", "Hook") + "correct")
	for _, width := range []int64{800, 360} {
		ana.do(chromedp.EmulateViewport(width, 800))
		ana.sees("correct arrangement")
		ana.click("Proof: what is known")
		ana.sees("Proof")
		ana.shot(fmt.Sprintf("placing-%d", width))
		ana.click("Close the proof")
	}
}

// What is right nowhere is turned away at one press; turning away what is right says so.
func TestTurningAwayWhatIsNotRight(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	ana.click("Accepted items")
	ana.click("Reject what is not correct")
	ana.until("it is done", `document.querySelector('header [aria-label="Undo"]:not([aria-disabled])')`)
	ana.saved()
	doc := ana.document()
	for i := range doc.Items {
		for j := range doc.Targets {
			it, target := &doc.Items[i], &doc.Targets[j]
			if right := doc.Key.Solutions[0].Right[target.ID].Selects(it); target.LetsIn(it) != right {
				t.Errorf("%s in %s: right %t, accepted %t", it.Name, target.Name, right, target.LetsIn(it))
			}
		}
	}
	ana.click(cell("Chain", "Drivetrain"))
	ana.press(kb.Delete)
	ana.sees("One correct cell no longer counts, since its item is not accepted there.")
	ana.shot("turned-away")
	ana.press("z", chromedp.ModifierCtrl)
	ana.press("z", chromedp.ModifierCtrl)
	ana.saved()
	if doc := ana.document(); !doc.Targets[0].LetsIn(doc.Item("bell")) {
		t.Error("undo did not let everything in again")
	}
}
