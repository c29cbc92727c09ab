package placing

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// Stands says where each placed and loose piece stands on the board, by piece.
func (a *Arrangement) Stands() map[int]geometry.Rect {
	out := map[int]geometry.Rect{}
	for t := range a.In {
		for i, r := range a.standsIn(t) {
			out[a.In[t][i].Piece] = r
		}
	}
	for p, at := range a.Loose {
		size := a.Parts.ItemOf(p).Size
		out[p] = geometry.Centred(at.X, at.Y, size.W, size.H)
	}
	return out
}

// standsIn says where a target's pieces stand, in their order.
func (a *Arrangement) standsIn(target int) []geometry.Rect {
	t, list := &a.Parts.Doc.Targets[target], a.In[target]
	sizes := make([]geometry.Size, len(list))
	dropped := make([]*geometry.Vertex, len(list))
	for i, p := range list {
		sizes[i], dropped[i] = a.Parts.ItemOf(p.Piece).Size, p.At
	}
	return Stand(t, sizes, dropped)
}

// Stand says where pieces of the given sizes stand in a target, by its arrange.
func Stand(t *activity.Target, sizes []geometry.Size, dropped []*geometry.Vertex) []geometry.Rect {
	how := geometry.Arrangement{As: string(form(t)), Anchor: string(t.Arrange.Anchor), Gap: t.Arrange.Gap, Step: t.Arrange.Step, Scale: t.Arrange.Scale}
	box := Inside(t)
	if t.Shape == activity.ShapeEllipse && len(sizes) == 1 && sizes[0].W <= t.Frame.W && sizes[0].H <= t.Frame.H {
		box = t.Frame // a disc fills a circle of its own size
	}
	return geometry.Arrange(box, sizes, how, dropped)
}

// form is how a target's pieces stand: what it says, else a grid, and in a lane a
// row or a column along its longer side.
func form(t *activity.Target) activity.As {
	switch {
	case t.Arrange.As != "":
		return t.Arrange.As
	case !t.Ordered:
		return activity.AsGrid
	case t.Frame.W >= t.Frame.H:
		return activity.AsRow
	}
	return activity.AsColumn
}

// indexAt is the place in a lane that a piece dropped at (x, y) takes: the number
// of other pieces whose centre lies before that along the lane; nil for a target
// that keeps no order.
func (a *Arrangement) indexAt(piece, target int, x, y activity.U) *int {
	t := &a.Parts.Doc.Targets[target]
	if !t.Ordered {
		return nil
	}
	own := slices.IndexFunc(a.In[target], func(p Placed) bool { return p.Piece == piece })
	index := laneIndex(t, a.standsIn(target), own, x, y)
	return &index
}

// laneIndex counts the pieces of a lane that stand before a place in it, but for one.
func laneIndex(t *activity.Target, stands []geometry.Rect, own int, x, y activity.U) (index int) {
	as := form(t)
	for i, r := range stands {
		if i == own {
			continue
		}
		cx, cy := r.Centre()
		var before bool
		switch {
		case as == activity.AsGrid:
			sameRow := y >= r.Y && y <= r.Y+r.H
			before = cy < y && !sameRow || sameRow && cx < x
		case as == activity.AsRing:
			before = clockwise(t.Frame, cx, cy, x, y)
		case as == activity.AsColumn || as != activity.AsRow && t.Frame.H > t.Frame.W:
			before = cy < y
		default:
			before = cx < x
		}
		if before {
			index++
		}
	}
	return index
}

// Opening is how a lane makes room for a piece that is held over it: its place among
// the others, where those stand then, in their order, and where the piece would.
type Opening struct {
	Index  int             `json:"index"`
	Stands []geometry.Rect `json:"stands"`
	Gap    geometry.Rect   `json:"gap"`
}

// Opens says how a lane makes room for a piece of the given size held at (x, y), by the
// same rule by which it is put in there. stands are where its pieces stand now, sizes
// what they measure; own is the piece's own number among them, −1 from elsewhere.
// Cost: that of the layout.
func Opens(t *activity.Target, stands []geometry.Rect, sizes []geometry.Size, own int, size geometry.Size, x, y activity.U) Opening {
	o := Opening{Index: laneIndex(t, stands, own, x, y), Stands: []geometry.Rect{}}
	if own >= 0 {
		sizes = slices.Delete(slices.Clone(sizes), own, own+1)
	}
	sizes = slices.Insert(slices.Clone(sizes), o.Index, size)
	for i, r := range Stand(t, sizes, make([]*geometry.Vertex, len(sizes))) {
		if i == o.Index {
			o.Gap = r
		} else {
			o.Stands = append(o.Stands, r)
		}
	}
	return o
}

// clockwise reports whether (ax, ay) comes before (bx, by) on the way around the
// box's middle, clockwise from its top.
func clockwise(box geometry.Rect, ax, ay, bx, by activity.U) bool {
	mx, my := box.Centre()
	ax, ay, bx, by = ax-mx, ay-my, bx-mx, by-my
	leftA, leftB := ax < 0 || ax == 0 && ay > 0, bx < 0 || bx == 0 && by > 0
	if leftA != leftB {
		return leftB
	}
	return ax*by-ay*bx > 0
}

// Inside is the part of a target's frame where pieces may stand: clear of a label that
// is seen on its rim or inside it (labels to the left and right stand outside),
// and, in an ellipse, the rectangle inscribed in it (each side times 1/√2, here
// 707/1000).
func Inside(t *activity.Target) geometry.Rect {
	box := t.Frame
	if t.Shape == activity.ShapeEllipse {
		w, h := box.W*707/1000, box.H*707/1000
		return geometry.Rect{X: box.X + (box.W-w)/2, Y: box.Y + (box.H-h)/2, W: w, H: h}
	}
	const labelHeight = 2000
	if t.Label.Text != "" && t.Shows != activity.ShowsNever && box.H > 3*labelHeight {
		switch t.Label.Side {
		case activity.SideAbove:
			box.Y, box.H = box.Y+labelHeight/2, box.H-labelHeight/2
		case activity.SideBelow:
			box.H -= labelHeight / 2
		case activity.SideInside:
			box.Y, box.H = box.Y+labelHeight, box.H-labelHeight
		}
	}
	return box
}
