package edit_test

import (
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/say"
)

// shed is six items by tag, two boxes and a lane.
func shed(t *testing.T) *activity.Doc {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"shed","title":"Shed",
		"items":[{"id":"pad","name":"Pad","tags":["brakes"]},{"id":"lever","name":"Lever","tags":["brakes"]},{"id":"rim","name":"Rim","tags":["wheels"]},
			{"id":"bolt","name":"Bolt","copies":3},{"id":"first","name":"First"},{"id":"second","name":"Second"}],
		"targets":[{"id":"brakes","name":"Brakes","frame":{"x":0,"y":0,"w":200,"h":100},"lets":{"items":["rim"]}},
			{"id":"wheels","name":"Wheels","frame":{"x":300,"y":0,"w":200,"h":100},"holds":2},
			{"id":"steps","name":"Steps","ordered":true,"frame":{"x":0,"y":300,"w":500,"h":100}}],
		"key":{"solutions":[{}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return doc
}

// right lists what is right in each target under a solution.
func right(d *activity.Doc, solution int) string {
	var out []string
	for _, t := range d.Targets {
		if list := d.Cells().Right[solution][t.ID]; len(list) > 0 {
			out = append(out, t.ID+": "+strings.Join(list, " "))
		}
	}
	return strings.Join(out, "; ")
}

// sound fails where a document would be refused.
func sound(t *testing.T, d *activity.Doc) {
	t.Helper()
	if _, faults := activity.Read(d.Write()); faults != nil {
		t.Fatal(faults)
	}
}

func TestATagIsRightSomewhere(t *testing.T) {
	d := shed(t)
	d, _ = edit.SetCells(d, 0, []string{"pad"}, []string{"brakes"}, true)
	d, _ = edit.TagRight(d, 0, "brakes", "brakes", true)
	if got := right(d, 0); got != "brakes: pad lever" {
		t.Error(got)
	}
	if s := d.Key.Solutions[0].Right["brakes"]; fmt.Sprint(s) != "{false [] [brakes] []}" {
		t.Errorf("kept as %v: what the tag covers is not named besides", s)
	}
	// A later item with the tag follows; an exception is an exception.
	d, made := edit.AddItems(d, []string{"Disc"})
	d.Item(made.Items[0]).Tags = []string{"brakes"}
	d, _ = edit.SetCells(d, 0, []string{"lever"}, []string{"brakes"}, false)
	if got := right(d, 0); got != "brakes: pad disc" {
		t.Error(got)
	}
	if got := say.Target(d, 0, "brakes").Message; got != "Brakes accepts everything tagged brakes and Rim; correct here: everything tagged brakes but Lever." {
		t.Error(got)
	}
	if got := say.Cell(d, 0, "lever", "brakes").Message; got != "not correct, as an exception; accepted by its tag brakes" {
		t.Error(got)
	}
	if d, _ = edit.TagRight(d, 0, "brakes", "brakes", false); right(d, 0) != "" {
		t.Error(right(d, 0))
	}
	if got := fmt.Sprint(edit.TagsFor(shed(t))); got != "[{brakes brakes} {wheels wheels} { steps}]" {
		t.Errorf("proposed %s", got)
	}
	sound(t, d)
}

func TestHowManyAreAsked(t *testing.T) {
	both := []string{"brakes", "wheels"}
	for _, c := range []struct {
		name           string
		items, targets []string
		asking         edit.Asking
		must, right    string
	}{
		{"exactly", []string{"pad", "lever"}, []string{"brakes"}, edit.Asking{How: "exactly", N: 1}, "1 of 2", "brakes: pad lever"},
		{"in each of two", []string{"pad", "lever"}, both, edit.Asking{How: "exactly", N: 1}, "1 of 2, in each of 2", "brakes: pad lever; wheels: pad lever"},
		{"at least", []string{"pad", "lever", "rim"}, []string{"wheels"}, edit.Asking{How: "atLeast", N: 2}, "at least 2 of 3", "wheels: pad lever rim"},
		{"at most", []string{"pad"}, []string{"wheels"}, edit.Asking{How: "atMost", N: 1}, "at most 1 of 1", "wheels: pad"},
	} {
		t.Run(c.name, func(t *testing.T) {
			d, _, err := edit.Ask(shed(t), 0, c.items, c.targets, c.asking)
			if err != nil {
				t.Fatal(err)
			}
			if got := say.Must(d, 0, d.Item("pad")).Message; got != c.must || right(d, 0) != c.right {
				t.Errorf("%q with %q", got, right(d, 0))
			}
			sound(t, d)
			// Once more, with another number, does not add a second need.
			d, _, err = edit.Ask(d, 0, c.items, c.targets, edit.Asking{How: "atLeast", N: 1})
			if err != nil || len(d.Key.Solutions[0].Needs) != len(c.targets) {
				t.Errorf("%d needs, %v", len(d.Key.Solutions[0].Needs), err)
			}
			sound(t, d)
			d, _, _ = edit.Ask(d, 0, c.items, nil, edit.Asking{How: "may"})
			if got := say.Must(d, 0, d.Item("pad")).Message; got != "may stay" {
				t.Errorf("then may: %q", got)
			}
			sound(t, d)
			d, _, _ = edit.Ask(d, 0, c.items, nil, edit.Asking{How: "all"})
			if len(d.Key.Solutions[0].Needs) != 0 {
				t.Errorf("then all: %v", d.Key.Solutions[0].Needs)
			}
		})
	}
	d := shed(t)
	d, _ = edit.RightIn(d, 0, []edit.Row{{Item: "bolt", Targets: both}})
	if got := say.Must(d, 0, d.Item("bolt")).Message + ", " + say.Must(d, 0, d.Item("rim")).Message; got != "all 3, in either, belongs nowhere" {
		t.Error(got)
	}
	// One taken out of a need leaves the others in it.
	d, _, _ = edit.Ask(shed(t), 0, []string{"pad", "lever", "rim"}, []string{"brakes"}, edit.Asking{How: "exactly", N: 1})
	d, _, _ = edit.Ask(d, 0, []string{"rim"}, nil, edit.Asking{How: "all"})
	if got := say.Target(d, 0, "brakes").Message; !strings.Contains(got, "required: exactly 1 of Pad and Lever") {
		t.Error(got)
	}
}

func TestNeedsOfATarget(t *testing.T) {
	d, _ := edit.RightIn(shed(t), 0, []edit.Row{{"pad", []string{"brakes"}}, {"lever", []string{"brakes"}}, {"rim", []string{"brakes"}}})
	one := 1
	d = edit.SetNeeds(d, 0, "brakes", []activity.Need{{Of: activity.Selector{Items: []string{"pad"}}, Max: &one}, {Of: activity.Selector{All: true}, Min: 1}})
	sound(t, d)
	if got := say.Target(d, 0, "brakes").Message; !strings.Contains(got, "required: at most 1 of Pad and at least 1 of everything but Pad") {
		t.Error(got)
	}
	if d = edit.SetNeeds(d, 0, "brakes", nil); len(d.Key.Solutions[0].Needs) != 0 {
		t.Error("they are still there")
	}
}

func TestOrdersStaySound(t *testing.T) {
	d, _ := edit.RightIn(shed(t), 0, []edit.Row{{"pad", []string{"steps"}}, {"first", []string{"steps"}}, {"second", []string{"steps"}}})
	if _, err := edit.SetOrder(d, 0, "brakes", &activity.Order{}); err == nil {
		t.Error("an order where nothing is correct")
	}
	d, err := edit.SetOrder(d, 0, "steps", &activity.Order{Tiers: [][]string{{"first"}, {"second"}}})
	if err != nil {
		t.Fatal(err)
	}
	tiers := func(d *activity.Doc) string {
		if len(d.Key.Solutions[0].Orders) == 0 {
			return "none"
		}
		return fmt.Sprint(d.Key.Solutions[0].Orders[0].Tiers, d.Key.Solutions[0].Orders[0].Before)
	}
	if got := tiers(d); got != "[[first] [second] [pad]] []" {
		t.Errorf("what was left out comes last: %s", got)
	}
	if _, err := edit.SetOrder(d, 0, "steps", &activity.Order{Tiers: [][]string{{"first"}, {"second"}, {"pad"}}, Before: [][]string{{"pad", "first"}}}); err == nil ||
		!strings.Contains(err.Error(), "circular order: First before") {
		t.Errorf("a circle: %v", err)
	}
	if _, _, err := edit.Ask(d, 0, []string{"first"}, nil, edit.Asking{How: "may"}); err == nil || !strings.Contains(err.Error(), "Steps keeps an order") {
		t.Errorf("a need in an order: %v", err)
	}
	more, _ := edit.SetCells(d, 0, []string{"rim"}, []string{"steps"}, true)
	if got := tiers(more); got != "[[first] [second] [pad] [rim]] []" {
		t.Errorf("one more: %s", got)
	}
	sound(t, more)
	less, lost := edit.SetCells(d, 0, []string{"second"}, []string{"steps"}, false)
	if got := tiers(less); got != "[[first] [pad]] []" || len(lost) > 0 {
		t.Errorf("one less: %s, %v", got, lost)
	}
	gone, lost := edit.SetCells(d, 0, []string{"pad"}, []string{"brakes"}, true)
	if got := tiers(gone); got != "none" || inWords(lost) != "the order in Steps" {
		t.Errorf("right elsewhere too: %s, %v", got, lost)
	}
	sound(t, gone)
	// A change of copies or tags that spoils an order is mended as a whole.
	spoiled := d.Clone()
	spoiled.Item("pad").Copies = 2
	mended, lost, ok := edit.Settle(spoiled.Write())
	if !ok || tiers(mended) != "none" || len(lost) != 1 {
		t.Errorf("settled %v: %v", ok, lost)
	}
	if _, _, ok := edit.Settle(d.Write()); ok {
		t.Error("a sound document was settled")
	}
	if _, _, ok := edit.Settle([]byte(`{"format":1}`)); ok {
		t.Error("a document that is no document was settled")
	}
	if free, err := edit.SetOrder(d, 0, "steps", nil); err != nil || tiers(free) != "none" {
		t.Errorf("taken away: %v", err)
	}
}

func TestDemonstrations(t *testing.T) {
	shown := edit.Shown{"brakes": {"pad", "lever"}, "wheels": {"rim", "bolt", "bolt~2", "bolt~3"}, "steps": {"second", "first"}}
	counted := func(d *activity.Doc, shown edit.Shown, how string) *edit.Counted {
		c, err := edit.CountRight(d, 0, shown, how)
		if err != nil {
			t.Fatal(err)
		}
		return c
	}
	first := counted(shed(t), shown, "instead")
	d := first.Doc
	if got := right(d, 0); got != "brakes: pad lever; wheels: rim bolt; steps: first second" {
		t.Error(got)
	}
	if fmt.Sprint(d.Key.Solutions[0].Orders[0].Tiers) != "[[second] [first]]" || first.Solution != 0 || d.Target("wheels").Holds != 4 ||
		len(first.Lost) > 0 || inWords(first.Told) != "Wheels held 2, and now holds 4." {
		t.Errorf("order %v, holds %d, %v, %v", d.Key.Solutions[0].Orders, d.Target("wheels").Holds, first.Lost, first.Told)
	}
	if !d.Target("brakes").LetsIn(d.Item("pad")) {
		t.Error("it is correct, and not accepted")
	}
	sound(t, d)
	if x := edit.FindExchange(d, 0, shown); x != nil || edit.Against(d, 0, shown) {
		t.Errorf("the same is no exchange: %v", x)
	}
	if edit.Against(d, 0, edit.Shown{"wheels": {"rim", "bolt~2"}}) || !edit.Against(d, 0, edit.Shown{"wheels": {"pad"}}) {
		t.Error("only the answer key elsewhere speaks against it")
	}
	free := edit.Demonstrable(d)
	if w := free.Target("wheels"); w.Holds != 0 || !w.LetsIn(free.Item("pad")) || free.Play.OffTarget != "stay" || free.Play.Check != "none" {
		t.Errorf("not free to demonstrate on: %+v %+v", w, free.Play)
	}
	sound(t, free)
	// Pad and rim in each other's place: either of these will do.
	other := edit.Shown{"brakes": {"rim", "lever"}, "wheels": {"pad", "bolt", "bolt~2", "bolt~3"}, "steps": {"second", "first"}}
	x := edit.FindExchange(d, 0, other)
	if x == nil || fmt.Sprint(x.Items, x.Targets, x.Each) != "[pad rim] [brakes wheels] map[brakes:1 wheels:1]" {
		t.Fatalf("exchange: %v", x)
	}
	either := counted(d, other, "either").Doc
	if got := right(either, 0); got != "brakes: pad lever rim; wheels: pad rim bolt; steps: first second" {
		t.Error(got)
	}
	if got := say.Must(either, 0, either.Item("pad")).Message; got != "1 of 2, in each of 2" {
		t.Error(got)
	}
	sound(t, either)
	// One that takes the place of another, which stays at home.
	if x := edit.FindExchange(d, 0, edit.Shown{"brakes": {"lever"}, "wheels": {"pad", "bolt", "bolt~2", "bolt~3"}, "steps": {"second", "first"}}); x != nil {
		t.Errorf("the places are not the same: %v", x)
	}
	another := counted(d, edit.Shown{"brakes": {"pad", "bolt"}, "wheels": {"bolt~2"}}, "another")
	way := another.Doc
	if another.Solution != 1 || right(way, 0) != right(d, 0) {
		t.Fatalf("another: at %d", another.Solution)
	}
	if got := right(way, 1) + "; " + say.Must(way, 1, way.Item("bolt")).Message; got != "brakes: pad bolt; wheels: bolt; 1 of 3, in each of 2" {
		t.Error(got)
	}
	sound(t, way)
	less, _ := edit.DropSolution(way, 0)
	if len(less.Key.Solutions) != 1 || right(less, 0) != right(way, 1) {
		t.Error("the wrong solution went")
	}
	made, sel := edit.TargetsHere(d, 0, []edit.Spot{{Item: "first", Frame: d.Targets[0].Frame}, {Item: "rim", Frame: d.Targets[1].Frame}}, "never")
	if len(sel.Targets) != 2 || made.Target(sel.Targets[0]).Shows != "never" || made.Target(sel.Targets[1]).Frame != d.Targets[1].Frame {
		t.Fatal(sel)
	}
	if got := right(made, 0); !strings.Contains(got, sel.Targets[1]+": rim") || !strings.Contains(got, "wheels: rim bolt") {
		t.Errorf("the answer key elsewhere stays so: %s", got)
	}
	sound(t, made)
}

func TestSettingCellsKeepsTheRuleAndMakesExceptions(t *testing.T) {
	doc, faults := activity.Read([]byte(head + `"items":[{"id":"x","tags":["t"]},{"id":"y","tags":["t"]},{"id":"z"}],
		"targets":[{"id":"box","frame":{"x":0,"y":0,"w":10,"h":10},"lets":{"all":true,"except":["z"]}}],
		"key":{"solutions":[{"right":{"box":{"tags":["t"]}}}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	off, _ := edit.SetCells(doc, 0, []string{"y"}, []string{"box"}, false)
	if got := fmt.Sprintf("%+v", off.Key.Solutions[0].Right["box"]); got != "{All:false Items:[] Tags:[t] Except:[y]}" {
		t.Errorf("taking one tagged item out: %s", got)
	}
	// z is turned away; made right, it is let in as well, or it would not count.
	on, _ := edit.SetCells(doc, 0, []string{"z"}, []string{"box"}, true)
	if c := on.Cells(); strings.Join(c.Right[0]["box"], " ") != "x y z" || strings.Join(c.Lets["box"], " ") != "x y z" {
		t.Errorf("making z right: %+v", c)
	}
	if c := doc.Cells(); strings.Join(c.Right[0]["box"], " ") != "x y" {
		t.Errorf("the document before was changed: %+v", c)
	}
	away, _ := edit.SetCells(doc, -1, []string{"x"}, []string{"box"}, false)
	if c := away.Cells(); strings.Join(c.Right[0]["box"], " ") != "y" {
		t.Errorf("not accepted, x is still right: %+v", c)
	}
}
