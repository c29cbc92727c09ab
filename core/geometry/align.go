package geometry

import "slices"

// Align moves rectangles so that they line up on one edge of the reference:
// left, centre, right, top, middle or bottom. Unknown edges move nothing.
func Align(rects []Rect, to Rect, edge string) []Rect {
	out := slices.Clone(rects)
	for i := range out {
		r := &out[i]
		switch edge {
		case "left":
			r.X = to.X
		case "centre":
			r.X = to.X + (to.W-r.W)/2
		case "right":
			r.X = to.X + to.W - r.W
		case "top":
			r.Y = to.Y
		case "middle":
			r.Y = to.Y + (to.H-r.H)/2
		case "bottom":
			r.Y = to.Y + to.H - r.H
		}
	}
	return out
}

// Distribute makes the gaps between rectangles equal, along x or (down) y, the
// outermost two staying where they are. Cost: O(n log n).
func Distribute(rects []Rect, down bool) []Rect {
	out := slices.Clone(rects)
	if len(out) < 3 {
		return out
	}
	order := make([]*Rect, len(out))
	for i := range out {
		order[i] = &out[i]
	}
	start := func(r *Rect) *U {
		if down {
			return &r.Y
		}
		return &r.X
	}
	size := func(r *Rect) U {
		if down {
			return r.H
		}
		return r.W
	}
	slices.SortStableFunc(order, func(a, b *Rect) int { return int(*start(a) - *start(b)) })
	last := order[len(order)-1]
	free := *start(last) - *start(order[0]) - size(order[0])
	for _, r := range order[1 : len(order)-1] {
		free -= size(r)
	}
	gaps, used := U(len(order)-1), size(order[0])
	begin := *start(order[0])
	for i, r := range order[1 : len(order)-1] {
		*start(r) = begin + used + free*U(i+1)/gaps
		used += size(r)
	}
	return out
}

// SameSize gives all the size, each keeping its middle.
func SameSize(rects []Rect, size Size) []Rect {
	out := slices.Clone(rects)
	for i, r := range out {
		out[i] = Rect{r.X + (r.W-size.W)/2, r.Y + (r.H-size.H)/2, size.W, size.H}
	}
	return out
}

// GridOf tidies rectangles into rows of so many columns with a gap between them,
// in the order given, from the left upper corner of all of them; each column is
// as wide, and each row as high, as its largest.
func GridOf(rects []Rect, columns int, gap U) []Rect {
	out := slices.Clone(rects)
	if len(out) == 0 {
		return out
	}
	columns = max(1, min(columns, len(out)))
	widths, heights := make([]U, columns), make([]U, (len(out)+columns-1)/columns)
	around := out[0]
	for i, r := range out {
		widths[i%columns] = max(widths[i%columns], r.W)
		heights[i/columns] = max(heights[i/columns], r.H)
		around.X, around.Y = min(around.X, r.X), min(around.Y, r.Y)
	}
	y := around.Y
	for row := range heights {
		x := around.X
		for column := range columns {
			if i := row*columns + column; i < len(out) {
				out[i].X, out[i].Y = x+(widths[column]-out[i].W)/2, y+(heights[row]-out[i].H)/2
			}
			x += widths[column] + gap
		}
		y += heights[row] + gap
	}
	return out
}

// RingOf sets the middles of rectangles evenly on the ellipse that fills box,
// clockwise from its top, in the order given.
func RingOf(rects []Rect, box Rect) []Rect {
	out := slices.Clone(rects)
	for i, r := range out {
		at := towards(box, i, len(out))
		out[i] = Centred(at[0], at[1], r.W, r.H)
	}
	return out
}
