package layout_test

import (
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
)

func document(kind activity.Kind, targets, lanes int, scenery ...activity.Scenery) *activity.Doc {
	doc := &activity.Doc{Kind: kind, Board: activity.Board{Width: 120000, Height: 72000}, Scenery: scenery}
	for i := range targets {
		doc.Targets = append(doc.Targets, activity.Target{ID: fmt.Sprint("t", i), Ordered: i < lanes})
	}
	doc.Items = []activity.Item{{ID: "i", Size: geometry.Size{W: 12000, H: 6400}}}
	return doc
}

func Example() {
	doc := document("sort", 2, 0)
	layout.Start(doc)
	for _, t := range doc.Targets {
		fmt.Println(t.Frame.X, t.Frame.Y, t.Frame.W, t.Frame.H)
	}
	// Output:
	// 24 40 564 656
	// 612 40 564 656
}

// Of every kind and number: all targets lie on the board, clear of each other.
func TestEverythingHasAPlaceOfItsOwn(t *testing.T) {
	board := geometry.Rect{W: 120000, H: 72000}
	for _, kind := range layout.Kinds {
		for n := 1; n <= 40; n++ {
			for _, lanes := range []int{0, 1, min(n, 4)} {
				var words []string
				for i := range n {
					words = append(words, fmt.Sprintf("runs on [[t%d]]", i))
				}
				doc := document(activity.Kind(kind), n, lanes, activity.Scenery{ID: "p", Type: "picture"}, activity.Scenery{ID: "g", Type: "text", Text: strings.Join(words, " and ")})
				layout.Start(doc)
				for i, x := range doc.Targets {
					if !board.Covers(x.Frame) || x.Frame.W < 100 || x.Frame.H < 100 {
						t.Fatalf("%s of %d: %d at %v", kind, n, i, x.Frame)
					}
					for j, y := range doc.Targets[:i] {
						a, b := x.Frame, y.Frame
						if a.X < b.X+b.W && b.X < a.X+a.W && a.Y < b.Y+b.H && b.Y < a.Y+a.H {
							t.Fatalf("%s of %d (%d lanes): %d at %v over %d at %v", kind, n, lanes, i, a, j, b)
						}
					}
				}
			}
		}
	}
}

func TestKindsByHand(t *testing.T) {
	// A lane across the board, 24 from both edges, with a bin under it.
	doc := document("sequence", 2, 1)
	layout.Start(doc)
	if f, bin := doc.Targets[0].Frame, doc.Targets[1].Frame; f.X != 2400 || f.W != 115200 || f.H != 11200 || bin.Y < f.Y+f.H {
		t.Errorf("sequence: %v over %v", f, bin)
	}
	// Labels left and right of the picture.
	doc = document("label", 3, 0, activity.Scenery{ID: "p", Type: "picture"})
	layout.Start(doc)
	p := *doc.Scenery[0].Frame
	if a, b, c := doc.Targets[0].Frame, doc.Targets[1].Frame, doc.Targets[2].Frame; a.X != 2400 || b.Y <= a.Y || a.X+a.W > p.X || c.X < p.X+p.W {
		t.Errorf("label: %v %v %v around %v", a, b, c, p)
	}
	// Two words of four letters, then a gap: 2 × (4 + 1) letters of 11 units.
	doc = document("gaps", 2, 0, activity.Scenery{ID: "g", Type: "text", Text: "Four more [[t0]]\n[[t1]]"})
	layout.Start(doc)
	if a, b := doc.Targets[0].Frame, doc.Targets[1].Frame; a.X != 2400+11000 || b.X != 2400 || b.Y != a.Y+5600 {
		t.Errorf("gaps: %v %v", a, b)
	}
	// Side by side without a gap.
	doc = document("build", 2, 0)
	layout.Start(doc)
	if a, b := doc.Targets[0].Frame, doc.Targets[1].Frame; a.X+a.W != b.X || a.Y != b.Y {
		t.Errorf("build: %v %v", a, b)
	}
}
