package layout_test

import (
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/core/marks"
)

// A new activity of each kind is a sound document whose key can be satisfied, its
// parts on the board and clear of each other.
func TestNewActivitiesCanBePlayed(t *testing.T) {
	for _, kind := range layout.Kinds {
		doc := layout.New(kind, "First try")
		if string(doc.Kind) != kind || doc.ID != "first-try" {
			t.Errorf("%s is %s, %s", kind, doc.Kind, doc.ID)
		}
		again, faults := activity.Read(doc.Full())
		if faults != nil {
			t.Errorf("%s: %v", kind, faults)
			continue
		}
		if _, err := marks.NewJudge(again); err != nil {
			t.Errorf("%s: %v", kind, err)
		}
		board := geometry.Rect{W: doc.Board.Width, H: doc.Board.Height}
		for i, a := range doc.Targets {
			if f := a.Frame; f.X < 0 || f.Y < 0 || f.X+f.W > board.W || f.Y+f.H > board.H {
				t.Errorf("%s: %s stands at %v", kind, a.ID, f)
			}
			for _, b := range doc.Targets[:i] {
				if overlap(a.Frame, b.Frame) {
					t.Errorf("%s: %s and %s overlap", kind, a.ID, b.ID)
				}
			}
		}
	}
	if got := layout.New("what", "X").Kind; got != "sort" {
		t.Errorf("an unknown kind is %s", got)
	}
}

func overlap(a, b geometry.Rect) bool {
	return a.X < b.X+b.W && b.X < a.X+a.W && a.Y < b.Y+b.H && b.Y < a.Y+a.H
}

// Laid out again, selected targets share the room that they had, and the others stay.
func TestLayingOutWhatIsSelected(t *testing.T) {
	doc := layout.New("sort", "X")
	doc.Items = nil
	doc.Targets[0].Frame = geometry.Rect{X: 10000, Y: 10000, W: 5000, H: 5000}
	doc.Targets[1].Frame = geometry.Rect{X: 40000, Y: 12000, W: 10000, H: 13000}
	third := doc.Targets[2].Frame
	out := layout.Again(doc, activity.Selection{Targets: []string{"target-1", "target-2"}})
	a, b := out.Targets[0].Frame, out.Targets[1].Frame
	// From 100 to 500 across, 100 to 250 down: 40000 less one gap of 2400, halved.
	if a != (geometry.Rect{X: 10000, Y: 10000, W: 18800, H: 15000}) || b != (geometry.Rect{X: 31200, Y: 10000, W: 18800, H: 15000}) {
		t.Errorf("they stand at %v and %v", a, b)
	}
	if out.Targets[2].Frame != third {
		t.Errorf("the third has moved")
	}
}

func TestDrawing(t *testing.T) {
	doc := layout.New("sort", "X")
	frame := &geometry.Rect{X: 100, Y: 200, W: 3000, H: 4000}
	for what, c := range map[string]struct {
		d    layout.Drawing
		want string
	}{
		"an ellipse":       {layout.Drawing{What: "ellipse", Frame: frame}, "target target-4 ellipse {1 2 30 40}"},
		"a polygon":        {layout.Drawing{What: "polygon", Name: "Hub", Points: []geometry.Vertex{{0, 0}, {1000, 0}, {0, 2000}}}, "target hub polygon {0 0 10 20}"},
		"too few corners":  {layout.Drawing{What: "polygon", Points: []geometry.Vertex{{0, 0}, {1000, 0}}}, "a polygon has 3 to 64 corners, and this has 2"},
		"crossing edges":   {layout.Drawing{What: "polygon", Points: []geometry.Vertex{{0, 0}, {1000, 1000}, {1000, 0}, {0, 1000}}}, "its edges would cross each other"},
		"a box":            {layout.Drawing{What: "box", Frame: frame}, "scenery box box pinned"},
		"an arrow":         {layout.Drawing{What: "arrow", Points: []geometry.Vertex{{0, 0}, {5, 5}}}, "scenery arrow arrow pinned"},
		"a pointer":        {layout.Drawing{What: "pointer", Tie: "target-1", Points: []geometry.Vertex{{0, 0}, {5, 5}}}, "scenery line line pinned target-1"},
		"a picture":        {layout.Drawing{What: "picture", Frame: frame, Picture: "medium", Name: "A bell"}, "scenery picture picture pinned"},
		"no frame":         {layout.Drawing{What: "text"}, "a text needs a frame"},
		"a line of one":    {layout.Drawing{What: "line", Points: []geometry.Vertex{{0, 0}}}, "a line has two ends"},
		"what is not":      {layout.Drawing{What: "cloud"}, `there is no way to draw "cloud"`},
		"without a frame":  {layout.Drawing{What: "rect"}, "a target needs a frame"},
		"a text, movable":  {layout.Drawing{What: "text", Frame: frame}, "scenery text text"},
		"a disc, and name": {layout.Drawing{What: "disc", Frame: frame}, "scenery ellipse ellipse pinned"},
	} {
		t.Run(what, func(t *testing.T) {
			out, made, err := layout.Draw(doc, c.d)
			got := ""
			switch {
			case err != nil:
				got = err.Error()
			case len(made.Targets) == 1:
				x := out.Target(made.Targets[0])
				got = fmt.Sprintf("target %s %s %v", x.ID, x.Shape, x.Frame)
			default:
				x := out.Scenery[len(out.Scenery)-1]
				got = strings.TrimSpace(fmt.Sprintf("scenery %s %s %s %s", made.Scenery[0], x.Type, map[bool]string{true: "pinned"}[x.Pinned], x.Tie))
			}
			if got != c.want {
				t.Errorf("%s, want %s", got, c.want)
			}
			if err == nil {
				if _, faults := activity.Read(out.Full()); faults != nil {
					t.Errorf("%v", faults)
				}
			}
		})
	}
}

// Scenery s, targets a and b, an item i are drawn in this order while no z says
// otherwise.
func TestStacking(t *testing.T) {
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"t",
		"scenery":[{"id":"s","type":"box","frame":{"x":0,"y":0,"w":9,"h":9}}],"items":[{"id":"i","home":{"x":0,"y":0}}],
		"targets":[{"id":"a","frame":{"x":0,"y":0,"w":9,"h":9}},{"id":"b","frame":{"x":0,"y":0,"w":9,"h":9}}],"key":{"solutions":[{}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	zs := func(d *activity.Doc) string {
		return fmt.Sprintf("s%d a%d b%d i%d", d.Scenery[0].Z, d.Targets[0].Z, d.Targets[1].Z, d.Items[0].Z)
	}
	for _, c := range []struct {
		act  string
		what activity.Selection
		want string
	}{
		{"front", activity.Selection{Scenery: []string{"s"}}, "s1 a0 b0 i0"},
		{"forward", activity.Selection{Scenery: []string{"s"}}, "s1 a0 b1 i1"}, // a, s, b, i
		{"back", activity.Selection{Items: []string{"i"}}, "s1 a1 b1 i0"},
		{"backward", activity.Selection{Targets: []string{"b"}}, "s0 a1 b0 i1"}, // s, b, a, i
		{"back", activity.Selection{Scenery: []string{"s"}}, "s0 a0 b0 i0"},
		{"front", activity.Selection{Scenery: []string{"s"}, Targets: []string{"a"}}, "s1 a1 b0 i0"},
	} {
		if got := zs(layout.Stack(doc, c.what, c.act)); got != c.want {
			t.Errorf("%s %v: %s, want %s", c.act, c.what, got, c.want)
		}
	}
	up := layout.Stack(doc, activity.Selection{Scenery: []string{"s"}}, "front")
	if got := zs(layout.Stack(up, activity.Selection{Scenery: []string{"s"}}, "back")); got != "s0 a0 b0 i0" {
		t.Errorf("to the front and back again: %s", got)
	}
}

// Laid out again, targets do not become slivers: those of a match keep their size.
func TestLaidOutAgain(t *testing.T) {
	for _, kind := range []string{"sort", "match", "label", "build", "sequence"} {
		for n := 3; n <= 24; n += 3 {
			doc := document(activity.Kind(kind), n, 0)
			layout.Start(doc)
			some := activity.Selection{}
			for _, x := range doc.Targets[1:] {
				some.Targets = append(some.Targets, x.ID)
			}
			before := doc.Targets[1].Frame
			for _, x := range layout.Again(doc, some).Targets {
				if short := min(x.Frame.W, x.Frame.H); short < min(2400, before.H, before.W) || short*10 < min(before.W, before.H)*5 {
					t.Errorf("%s of %d: %v, was %v", kind, n, x.Frame, before)
				}
			}
		}
	}
}
