package layout

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/core/message"
)

// Drawing is something new on the board: a target (rect, ellipse, polygon) or
// scenery (text, picture, box, disc for an ellipse, line, arrow, pointer). Lines have
// two Points, a polygon its corners, everything else a Frame; a picture its medium,
// and Name as its alternative text.
type Drawing struct {
	What   string            `json:"what"`
	Frame  *geometry.Rect    `json:"frame"`
	Points []geometry.Vertex `json:"points"`
	Name   string            `json:"name"`
	// Picture is the medium of a picture.
	Picture string `json:"picture"`
	// Tie is the target that a pointer's first end follows.
	Tie string `json:"tie"`
}

// Draw adds what was drawn, last, and says which part it is. What could not be a
// part (a polygon that crosses itself) is an error, and the document stays as it was. A spot
// of a labelled picture is right for the first label that has none.
func Draw(doc *activity.Doc, d Drawing) (*activity.Doc, activity.Selection, error) {
	out := doc.Clone()
	taken := map[string]bool{}
	if slices.Contains([]string{"rect", "ellipse", "polygon"}, d.What) {
		if doc.Kind == activity.KindLabel {
			out = DropSamples(out, false) // somebody's own spots begin
		}
		for _, t := range out.Targets {
			taken[t.ID] = true
		}
		name := d.Name
		if name == "" {
			word := "Target"
			if doc.Kind == activity.KindLabel {
				word = "Spot"
			}
			name = fmt.Sprintf("%s %d", word, len(out.Targets)+1)
		}
		t := activity.NewTarget(activity.FreshID(taken, name), name)
		t.Shape = activity.Shape(d.What)
		edit.LikeOthers(out, &t)
		if len(out.Targets) == 0 && slices.Contains([]activity.Kind{activity.KindMatch, activity.KindLabel, activity.KindBuild}, doc.Kind) {
			t.Holds, t.WhenFull, t.Arrange.As = 1, activity.WhenFullOust, activity.AsCentre
		}
		switch {
		case d.What == "polygon":
			if err := corners(d.Points); err != nil {
				return nil, activity.Selection{}, err
			}
			t.Points, t.Frame = d.Points, geometry.Bounds(d.Points)
		case d.Frame == nil:
			return nil, activity.Selection{}, fmt.Errorf("a target needs a frame")
		default:
			t.Frame = *d.Frame
		}
		if d.What == "polygon" || overPicture(doc, t.Frame) {
			t.Label.Text = "" // the picture shows what it is
		}
		out.Targets = append(out.Targets, t)
		edit.FillSpot(out, t.ID) // labels find their spots in their order
		return out, activity.Selection{Targets: []string{t.ID}}, nil
	}
	for _, x := range out.Scenery {
		taken[x.ID] = true
	}
	kind := map[string]activity.SceneryType{"text": activity.SceneryTypeText, "picture": activity.SceneryTypePicture, "box": activity.SceneryTypeBox, "disc": activity.SceneryTypeEllipse, "line": activity.SceneryTypeLine, "arrow": activity.SceneryTypeArrow, "pointer": activity.SceneryTypeLine}[d.What]
	if kind == "" {
		return nil, activity.Selection{}, fmt.Errorf("there is no way to draw %q", d.What)
	}
	x := activity.NewScenery(activity.FreshID(taken, string(kind)), kind)
	x.Frame = d.Frame
	line := kind == activity.SceneryTypeLine || kind == activity.SceneryTypeArrow
	if !line && d.Frame == nil {
		return nil, activity.Selection{}, fmt.Errorf("a %s needs a frame", kind)
	}
	if line {
		if len(d.Points) != 2 {
			return nil, activity.Selection{}, fmt.Errorf("a line has two ends")
		}
		x.Frame = nil
		x.From = &activity.Point{X: d.Points[0][0], Y: d.Points[0][1]}
		x.To = &activity.Point{X: d.Points[1][0], Y: d.Points[1][1]}
		x.Tie = d.Tie
		x.Z = 1 // it leads over targets, not under them
	}
	switch {
	case kind == activity.SceneryTypeText:
		x.Text = "Text"
	case kind == activity.SceneryTypePicture:
		x.Picture, x.Alt = d.Picture, d.Name
	}
	x.Pinned = kind != activity.SceneryTypeText // so that nothing is dragged by accident
	out.Scenery = append(out.Scenery, x)
	return out, activity.Selection{Scenery: []string{x.ID}}, nil
}

// overPicture says whether a frame lies over a picture: the board's, or one that stands on it.
func overPicture(doc *activity.Doc, f geometry.Rect) bool {
	return doc.Board.Background.Picture != "" || slices.ContainsFunc(doc.Scenery, func(s activity.Scenery) bool {
		return s.Type == activity.SceneryTypePicture && s.Picture != "" && s.Frame != nil && s.Frame.Covers(f)
	})
}

// Reshape gives targets the outline of a polygon. What could not be one is an error.
func Reshape(doc *activity.Doc, targets []string, points []geometry.Vertex) (*activity.Doc, error) {
	if err := corners(points); err != nil {
		return nil, err
	}
	out := doc.Clone()
	for i := range out.Targets {
		if t := &out.Targets[i]; slices.Contains(targets, t.ID) {
			t.Shape, t.Points, t.Frame = activity.ShapePolygon, slices.Clone(points), geometry.Bounds(points)
		}
	}
	return out, nil
}

func corners(points []geometry.Vertex) error {
	switch b := geometry.Bounds(points); {
	case len(points) < 3 || len(points) > 64:
		return refused("corners", message.P{"n": len(points)})
	case geometry.Crosses(points):
		return refused("edges-cross", nil)
	case b.W == 0 || b.H == 0:
		return refused("no-area", nil)
	}
	return nil
}

// Stack changes the drawing order of the selected parts: to the front or the back
// of all, or one step forward or backward. The order is kept in z, as small as it
// can be; parts that nobody has moved keep 0. Cost: O(n log n).
func Stack(doc *activity.Doc, s activity.Selection, act string) *activity.Doc {
	out := doc.Clone()
	type entry struct {
		z        *int
		selected bool
		rank     int // by kind and place: what decides where z is equal
	}
	var list []entry
	for i := range out.Scenery {
		list = append(list, entry{&out.Scenery[i].Z, slices.Contains(s.Scenery, out.Scenery[i].ID), len(list)})
	}
	for i := range out.Targets {
		list = append(list, entry{&out.Targets[i].Z, slices.Contains(s.Targets, out.Targets[i].ID), len(list)})
	}
	for i := range out.Items {
		list = append(list, entry{&out.Items[i].Z, slices.Contains(s.Items, out.Items[i].ID), len(list)})
	}
	slices.SortStableFunc(list, func(a, b entry) int { return *a.z - *b.z })
	switch act {
	case "front", "back":
		slices.SortStableFunc(list, func(a, b entry) int {
			if a.selected == b.selected {
				return 0
			}
			if a.selected == (act == "front") {
				return 1
			}
			return -1
		})
	case "forward":
		for i := len(list) - 2; i >= 0; i-- {
			if list[i].selected && !list[i+1].selected {
				list[i], list[i+1] = list[i+1], list[i]
			}
		}
	case "backward":
		for i := 1; i < len(list); i++ {
			if list[i].selected && !list[i-1].selected {
				list[i], list[i-1] = list[i-1], list[i]
			}
		}
	}
	z := 0
	for i, e := range list {
		if i > 0 && e.rank < list[i-1].rank {
			z++
		}
		*e.z = min(z, 1000)
	}
	return out
}

// Arrows draws an arrow from each of some targets to its neighbour: along the line that they
// stand in, from left to right or from above, or around the ring that they make, clockwise
// from the top. Of two that touch there is none.
func Arrows(doc *activity.Doc, targets []string, ring bool) (*activity.Doc, activity.Selection, error) {
	var list []labelled
	var frames []geometry.Rect
	for i := range doc.Targets {
		if t := &doc.Targets[i]; slices.Contains(targets, t.ID) {
			list, frames = append(list, labelled{t.Frame, withLabel(t)}), append(frames, t.Frame)
		}
	}
	if len(list) < 2 {
		return nil, activity.Selection{}, refused("few-targets", nil)
	}
	all := bounds(frames)
	middle := centreOf(all)
	slices.SortStableFunc(list, func(a, b labelled) int {
		p, q := centreOf(a.frame), centreOf(b.frame)
		switch {
		case ring:
			return cmp.Compare(clock(p, middle), clock(q, middle))
		case all.W >= all.H:
			return cmp.Compare(p[0], q[0])
		}
		return cmp.Compare(p[1], q[1])
	})
	if ring && len(list) > 2 {
		list = append(list, list[0])
	}
	out, made := doc, activity.Selection{}
	for i := range list[1:] {
		from, to, ok := across(list[i], list[i+1])
		if !ok {
			continue
		}
		next, one, err := Draw(out, Drawing{What: "arrow", Points: []geometry.Vertex{from, to}})
		if err != nil {
			return nil, activity.Selection{}, err
		}
		out, made.Scenery = next, append(made.Scenery, one.Scenery...)
	}
	if len(made.Scenery) == 0 {
		return nil, activity.Selection{}, refused("no-room", nil)
	}
	return out, made, nil
}

func centreOf(r geometry.Rect) geometry.Vertex { return geometry.Vertex{r.X + r.W/2, r.Y + r.H/2} }

// clock is the angle of a point around a middle, from the top and clockwise, from 0 to 2π.
func clock(p, middle geometry.Vertex) float64 {
	a := math.Atan2(float64(p[0]-middle[0]), float64(middle[1]-p[1]))
	if a < 0 {
		a += 2 * math.Pi
	}
	return a
}

// labelled is a target's frame, and what it takes up with its label.
type labelled struct{ frame, all geometry.Rect }

// withLabel is a target's frame with about the room that its label takes up beside it.
func withLabel(t *activity.Target) geometry.Rect {
	r := t.Frame
	if t.Label.Text == "" || t.Label.Side != activity.SideLeft && t.Label.Side != activity.SideRight {
		return r
	}
	size := textSize(activity.RestStyle(t.Looks.Points()), labelSize)
	width := u(len([]rune(t.Label.Text)))*size*60/100 + 2400
	if t.Label.Side == activity.SideLeft {
		r.X -= width
	}
	r.W += width
	return r
}

// across is where the line between the middles of two frames leaves the one with its label
// and meets the other, a little apart from both; ok is false where they are too near for that.
func across(a, b labelled) (from, to geometry.Vertex, ok bool) {
	const apart = 600
	p, q := centreOf(a.frame), centreOf(b.frame)
	dx, dy := float64(q[0]-p[0]), float64(q[1]-p[1])
	length := math.Hypot(dx, dy)
	if length == 0 {
		return from, to, false
	}
	// How far from a point in it a frame's edge lies in a direction, as a share of its length.
	edge := func(r geometry.Rect, at geometry.Vertex, dx, dy float64) float64 {
		share := math.Inf(1)
		for _, side := range []struct{ d, before, after float64 }{
			{dx, float64(at[0] - r.X), float64(r.X + r.W - at[0])},
			{dy, float64(at[1] - r.Y), float64(r.Y + r.H - at[1])},
		} {
			switch {
			case side.d > 0:
				share = min(share, side.after/side.d)
			case side.d < 0:
				share = min(share, -side.before/side.d)
			}
		}
		return share + apart/length
	}
	s, t := edge(a.all, p, dx, dy), 1-edge(b.all, q, -dx, -dy)
	if t <= s || (t-s)*length < apart {
		return from, to, false
	}
	at := func(share float64) geometry.Vertex {
		return geometry.Vertex{whole(float64(p[0]) + share*dx), whole(float64(p[1]) + share*dy)}
	}
	return at(s), at(t), true
}
