package layout_test

import (
	"fmt"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
)

// Three items of 40 × 20 at (10, 10), (200, 50) and (60, 300), one in the tray,
// and a triangle.
func parts(t *testing.T) *activity.Doc {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"t","board":{"width":800,"height":600},
		"items":[{"id":"a","size":{"w":40,"h":20},"home":{"x":10,"y":10}},{"id":"b","size":{"w":60,"h":20},"home":{"x":200,"y":50}},{"id":"c","size":{"w":40,"h":40},"home":{"x":60,"y":300}},{"id":"d"}],
		"targets":[{"id":"t","shape":"polygon","points":[[500,100],[600,100],[500,200]]}],"key":{"solutions":[{}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return doc
}

func TestTidyingByHand(t *testing.T) {
	all := activity.Selection{Items: []string{"a", "b", "c", "d"}}
	for _, c := range []struct{ act, to, want string }{
		{"left", "", "10,10 10,50 10,300"},
		{"right", "", "220,10 200,50 220,300"},
		{"left", "board", "0,10 0,50 0,300"},
		{"top", "first", "10,50 200,50 60,50"},  // to b
		{"middle", "", "10,165 200,165 60,155"}, // between 10 and 340
		// Between 10 and 260 stand 40 + 40 + 60: 110 left for two gaps.
		{"across", "", "10,10 200,50 105,300"},
		{"down", "", "10,10 200,155 60,300"},
		{"row", "", "10,20 66,20 142,10"},
		{"column", "", "20,10 10,46 20,82"},
		{"grid", "", "10,10 66,10 10,46"}, // rows of two; each as high as its highest
		{"nothing", "", "10,10 200,50 60,300"},
	} {
		out := layout.Tidy(parts(t), all, c.act, c.to, "item", "b")
		got := ""
		for _, it := range out.Items {
			if it.Home != nil {
				got += fmt.Sprintf(" %s,%s", it.Home.X, it.Home.Y)
			} else if it.ID != "d" {
				t.Errorf("%s: %s lost its place", c.act, it.ID)
			}
		}
		if got != " "+c.want {
			t.Errorf("%s to %s: %s, want %s", c.act, c.to, got, c.want)
		}
	}
	out := layout.Tidy(parts(t), all, "size", "", "item", "c")
	if got := fmt.Sprint(out.Items[0].Size, *out.Items[0].Home, out.Items[3].Size); got != "{40 40} {10 0} {40 40}" {
		t.Errorf("one size: %s", got)
	}
}

func TestTiedLinesBeginAtTheEdgeOfTheirTarget(t *testing.T) {
	for to, want := range map[activity.Point]activity.Point{
		{X: 80000, Y: 15000}: {X: 30000, Y: 15000}, // to the right of 100,100 to 300,200
		{X: 20000, Y: 90000}: {X: 20000, Y: 20000}, // below
		{X: 0, Y: 5000}:      {X: 10000, Y: 10000}, // through a corner
		{X: 20000, Y: 0}:     {X: 20000, Y: 10000},
		{X: 21050, Y: 15000}: {X: 21100, Y: 15000}, // within: there, halves up
		{X: 20000, Y: 15000}: {X: 20000, Y: 15000}, // the middle
		{X: 30100, Y: 20100}: {X: 29900, Y: 20000},
	} {
		doc := &activity.Doc{Targets: []activity.Target{{ID: "box", Frame: geometry.Rect{X: 10000, Y: 10000, W: 20000, H: 10000}}},
			Scenery: []activity.Scenery{{ID: "free", From: &activity.Point{}, To: &to}, {ID: "tied", Tie: "box", From: &activity.Point{X: 1}, To: &to}}}
		tied := layout.Tie(doc)
		if got := *tied.Scenery[1].From; got != want {
			t.Errorf("to %v: from %v, want %v", to, got, want)
		}
		if *tied.Scenery[0].From != (activity.Point{}) || *doc.Scenery[1].From != (activity.Point{X: 1}) {
			t.Error("a line that is not tied went along, or the document was changed")
		}
		if layout.Tie(tied) != tied {
			t.Error("what is tied was tied again")
		}
	}
}

func TestEveryActKeepsPartsOnTheBoard(t *testing.T) {
	for _, act := range layout.Acts {
		doc := parts(t)
		doc.Items[2].Home.X = 76000
		out := layout.Tidy(doc, activity.Selection{Items: []string{"a", "b", "c"}, Targets: []string{"t"}}, act, "", "target", "t")
		board := geometry.Rect{W: 80000, H: 60000}
		for _, it := range out.Items[:3] {
			if !board.Covers(geometry.Rect{X: it.Home.X, Y: it.Home.Y, W: it.Size.W, H: it.Size.H}) {
				t.Errorf("%s: %s leaves the board: %v", act, it.ID, it.Home)
			}
		}
		if f := out.Targets[0].Frame; geometry.Bounds(out.Targets[0].Points) != f {
			t.Errorf("%s: the triangle %v does not fill its frame %v", act, out.Targets[0].Points, f)
		}
		if _, faults := activity.Read(out.Full()); faults != nil {
			t.Errorf("%s: %v", act, faults)
		}
	}
}
