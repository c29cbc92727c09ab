package layout_test

import (
	"fmt"
	"math"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
)

// painted is a picture in which a function says what is dark.
func painted(w, h int, dark func(x, y float64) bool) layout.Pixels {
	p := layout.Pixels{Width: w, Height: h, RGBA: make([]byte, 4*w*h)}
	for i := range w * h {
		c := byte(240)
		if dark(float64(i%w)+0.5, float64(i/w)+0.5) {
			c = 40
		}
		copy(p.RGBA[4*i:], []byte{c, c, c, 255})
	}
	return p
}

func between(v, a, b float64) bool { return v >= a && v < b }

// One press finds what it is in: rectangles and discs as such, anything else as a polygon
// that keeps to its outline; on the board it lies where it lies in the picture.
func TestSpots(t *testing.T) {
	frame := geometry.Rect{X: 10000, Y: 5000, W: 80000, H: 60000} // four units a pixel
	box := painted(200, 150, func(x, y float64) bool { return between(x, 50, 90) && between(y, 20, 50) })
	disc := painted(200, 150, func(x, y float64) bool { return math.Hypot(x-100, y-75) < 30 })
	letter := painted(200, 150, func(x, y float64) bool {
		return between(x, 40, 60) && between(y, 20, 120) || between(x, 40, 120) && between(y, 100, 120)
	})
	labelled := painted(200, 150, func(x, y float64) bool {
		return between(x, 50, 90) && between(y, 20, 50) && !(between(x, 60, 80) && between(y, 30, 33))
	})
	speck := painted(200, 150, func(x, y float64) bool { return between(x, 50, 54) && between(y, 20, 50) })
	for name, x := range map[string]struct {
		p      layout.Pixels
		px, py int
		want   string
	}{
		"a box":                     {box, 60, 30, "rect {300 130 160 120}"},
		"a disc":                    {disc, 100, 75, "ellipse {380 230 240 240}"},
		"an L":                      {letter, 50, 30, "polygon with 6 corners"},
		"a box with a word":         {labelled, 52, 22, "rect {300 130 160 120}"},
		"a speck":                   {speck, 52, 30, "this spot is too small to be a target: press on a larger area of one colour"},
		"the ground around":         {speck, 150, 100, "this spot runs into what is around it: press on an area with an outline, or draw the target"},
		"outside of the picture":    {box, 200, 30, "there is no picture at this place"},
		"fewer pixels than it says": {layout.Pixels{Width: 9, Height: 9}, 1, 1, "there is no picture at this place"},
	} {
		t.Run(name, func(t *testing.T) {
			d, err := layout.Spot(x.p, x.px, x.py, frame)
			got := d.What
			switch {
			case err != nil:
				got = err.Error()
			case d.Frame != nil:
				got += fmt.Sprint(" ", *d.Frame)
			default:
				got += fmt.Sprintf(" with %d corners", len(d.Points))
			}
			if got != x.want {
				t.Errorf("%s, want %s", got, x.want)
			}
		})
	}
	// A star has more corners than fit: the polygon keeps to it within a few pixels.
	star := painted(400, 400, func(x, y float64) bool {
		return math.Hypot(x-200, y-200) < 120+40*math.Cos(7*math.Atan2(y-200, x-200))
	})
	d, err := layout.Spot(star, 200, 200, geometry.Rect{W: 40000, H: 40000})
	if err != nil || d.What != "polygon" || len(d.Points) > 40 || geometry.Crosses(d.Points) {
		t.Fatalf("a star: %s of %d corners (%v)", d.What, len(d.Points), err)
	}
	for _, p := range d.Points {
		x, y := float64(p[0])/100-200, float64(p[1])/100-200
		if off := math.Hypot(x, y) - (120 + 40*math.Cos(7*math.Atan2(y, x))); math.Abs(off) > 6 {
			t.Errorf("a corner lies %.1f pixels off", off)
		}
	}
}

func BenchmarkSpot(b *testing.B) {
	p := painted(800, 600, func(x, y float64) bool {
		return math.Hypot(x-400, y-300) < 200+40*math.Cos(7*math.Atan2(y-300, x-400))
	})
	for b.Loop() {
		if _, err := layout.Spot(p, 400, 300, geometry.Rect{W: 80000, H: 60000}); err != nil {
			b.Fatal(err)
		}
	}
}

// Arrows lead along a line of targets and around a ring, from edge to edge.
func TestArrowsBetweenTargets(t *testing.T) {
	doc := layout.New("sort", "X")
	doc.Items, doc.Targets, doc.Key.Solutions[0].Right = nil, nil, nil
	var ids []string
	for i, f := range []geometry.Rect{{X: 40000, Y: 10000, W: 10000, H: 10000}, {X: 10000, Y: 10000, W: 10000, H: 10000}, {X: 70000, Y: 10000, W: 10000, H: 10000}} {
		x := activity.NewTarget(fmt.Sprint("t", i), fmt.Sprint("T", i))
		x.Frame = f
		doc.Targets = append(doc.Targets, x)
		ids = append(ids, x.ID)
	}
	story := func(doc *activity.Doc) (out []string) {
		for _, s := range doc.Scenery {
			out = append(out, fmt.Sprint(s.From.X, " ", s.From.Y, ">", s.To.X, " ", s.To.Y))
		}
		return out
	}
	row, made, err := layout.Arrows(doc, ids, false)
	if got := fmt.Sprint(story(row)); err != nil || got != "[206 150>394 150 506 150>694 150]" || len(made.Scenery) != 2 {
		t.Errorf("in a row: %s (%v)", got, err)
	}
	doc.Targets[0].Frame.Y = 40000 // below the other two: a ring, clockwise from the top right
	ring, made, err := layout.Arrows(doc, ids, true)
	if err != nil || len(made.Scenery) != 3 {
		t.Fatalf("in a ring: %v (%v)", story(ring), err)
	}
	for i := range ring.Scenery {
		s, next := ring.Scenery[i], ring.Scenery[(i+1)%3]
		if math.Hypot(float64(s.To.X-next.From.X), float64(s.To.Y-next.From.Y)) > 15000 {
			t.Errorf("arrow %d ends at %v, the next begins at %v", i, *s.To, *next.From)
		}
	}
	doc.Targets[0].Frame.Y = 10000
	doc.Targets[2].Label = activity.Label{Text: "Front wheel", Side: "left"}
	if clear, _, err := layout.Arrows(doc, ids, false); err != nil || clear.Scenery[1].To.X > 61000 {
		t.Errorf("into a label at the side: %s (%v)", story(clear), err)
	}
	doc.Targets[2].Label.Text, doc.Targets[0].Frame.Y = "", 40000
	doc.Targets[1].Frame = geometry.Rect{X: 30000, Y: 40000, W: 10000, H: 10000}
	if _, _, err := layout.Arrows(doc, ids[:2], false); err == nil {
		t.Error("two that touch have an arrow between them")
	}
	if _, _, err := layout.Arrows(doc, ids[:1], false); err == nil {
		t.Error("one target has an arrow")
	}
}
