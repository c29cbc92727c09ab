package layout_test

import (
	"fmt"
	"reflect"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
)

// several is an activity of a kind with so many items and targets, an item right in each
// target in turn.
func several(kind string, items, targets int, name string) *activity.Doc {
	doc := layout.New(kind, "X")
	doc.Items, doc.Targets = nil, nil
	right := map[string]activity.Selector{}
	for i := range targets {
		t := activity.NewTarget(fmt.Sprint("t", i), fmt.Sprint("Target ", i))
		t.Ordered = kind == "sequence"
		if kind == "match" {
			t.Label.Side = "left"
		}
		doc.Targets = append(doc.Targets, t)
	}
	for i := range items {
		it := activity.NewItem(fmt.Sprint("i", i), fmt.Sprint(name, " ", i))
		doc.Items = append(doc.Items, it)
		id := doc.Targets[i%targets].ID
		right[id] = activity.Selector{Items: append(right[id].Items, it.ID)}
	}
	doc.Key.Solutions[0].Right, doc.Key.Solutions[0].Orders = right, nil
	return doc
}

// Of every kind and of 2 to 40 items, also with long names: parts lie on the board and
// clear of each other, type has 20 units, all that is right in a target stands in it at its
// full size, and filling again changes nothing.
func TestBoardsAreFilled(t *testing.T) {
	for _, kind := range layout.Kinds {
		for _, name := range []string{"Bell", "Brake lever with reach adjuster"} {
			for items := 2; items <= 40; items++ {
				targets := max(1, items/4)
				switch kind {
				case "match", "label", "build":
					targets = items
				case "sequence":
					targets = 1
				case "gaps":
					continue
				}
				doc := several(kind, items, targets, name)
				layout.Fill(doc)
				what := fmt.Sprintf("%s of %d %s", kind, items, name)
				again := doc.Clone()
				layout.Fill(again)
				if !reflect.DeepEqual(doc, again) {
					t.Fatalf("%s: filled again, it is another", what)
				}
				if !layout.Follows(doc) {
					t.Fatalf("%s: somebody is said to have moved something", what)
				}
				if _, faults := activity.Read(doc.Full()); faults != nil {
					t.Fatalf("%s: %v", what, faults)
				}
				board := geometry.Rect{W: doc.Board.Width, H: doc.Board.Height}
				for i, x := range doc.Targets {
					if !board.Covers(x.Frame) {
						t.Fatalf("%s: target %d stands at %v of %v", what, i, x.Frame, board)
					}
					for _, y := range doc.Targets[:i] {
						if overlap(x.Frame, y.Frame) {
							t.Fatalf("%s: %v over %v", what, x.Frame, y.Frame)
						}
					}
				}
				if s := *doc.Items[0].Looks.Rest.Style.Text.Size; s < 2000 {
					t.Errorf("%s: type of %d", what, s)
				}
			}
		}
	}
}

// A board is no longer laid out by itself once a part was moved, or given a size.
func TestABoardThatIsArrangedByHand(t *testing.T) {
	for _, kind := range layout.Kinds {
		doc := layout.New(kind, "X")
		if !layout.Follows(doc) {
			t.Errorf("a new %s is said to be arranged", kind)
		}
		moved := doc.Clone()
		if kind == "gaps" {
			moved.Scenery[0].Frame.X += 100
		} else {
			moved.Targets[0].Frame.X += 100
		}
		sized := doc.Clone()
		sized.Items[0].Size.W += 100
		home := doc.Clone()
		home.Items[0].Home = &activity.Point{}
		for what, x := range map[string]*activity.Doc{"moved": moved, "sized": sized, "put on the board": home} {
			if layout.Follows(x) {
				t.Errorf("a %s with a part that was %s is still laid out by itself", kind, what)
			}
		}
	}
}

// Pictures keep their proportion, and short texts are set larger than long ones.
func TestWhatIsFilledWith(t *testing.T) {
	doc := several("sort", 6, 2, "Bell")
	for i := range doc.Items {
		doc.Items[i].Text, doc.Items[i].Picture, doc.Items[i].Size = "", "p", geometry.Size{W: 10000, H: 5000}
	}
	layout.Fill(doc)
	if s := doc.Items[0].Size; s.W != 2*s.H || s.W < 20000 {
		t.Errorf("a picture twice as wide as high is %v", s)
	}
	short, long := layout.New("gaps", "X"), layout.New("gaps", "X")
	long.Scenery[0].Text = strings.Repeat("word ", 150) + long.Scenery[0].Text
	layout.Fill(long)
	if a, b := *short.Scenery[0].Style.Text.Size, *long.Scenery[0].Style.Text.Size; a != 2800 || b != 2000 {
		t.Errorf("a short text in %d, a long one in %d", a, b)
	}
	if short.Board.Height >= long.Board.Height {
		t.Errorf("boards of %d and %d", short.Board.Height, long.Board.Height)
	}
}
