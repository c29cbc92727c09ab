package layout

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// Acts on what is selected: they line up (left, centre, right, top, middle,
// bottom), give equal gaps (across, down), make one size (size), or tidy into a
// grid, a row, a column or a ring.
var Acts = []string{"left", "centre", "right", "top", "middle", "bottom", "across", "down", "size", "grid", "row", "column", "ring"}

// part is something with a rectangle on the board, or, in the tray, a size alone.
type part struct {
	rect   rect
	inTray bool
	set    func(rect)
}

// Tidy does an act to the selected parts. to says to what parts are lined up:
// board, first (the one named first, by kind and id) or, for anything else, the
// bounds of all. Items in the tray only take a size. Nothing leaves the board that
// fits on it. The document stays as it was. Cost: linear, n log n for gaps.
func Tidy(doc *activity.Doc, s activity.Selection, act, to, firstKind, firstID string) *activity.Doc {
	out := doc.Clone()
	parts, first := selected(out, s, firstKind, firstID)
	if act == "size" {
		if first == nil && len(parts) > 0 {
			first = &parts[0]
		}
		for _, p := range parts {
			r := geometry.SameSize([]rect{p.rect}, geometry.Size{W: first.rect.W, H: first.rect.H})[0]
			r.X, r.Y = r.X+back(r.X, r.W, out.Board.Width), r.Y+back(r.Y, r.H, out.Board.Height)
			p.set(r)
		}
		return out
	}
	var rects []rect
	var moved []part
	for _, p := range parts {
		if !p.inTray {
			rects, moved = append(rects, p.rect), append(moved, p)
		}
	}
	if len(rects) == 0 {
		return out
	}
	around := bounds(rects)
	reference := around
	switch {
	case to == "board":
		reference = rect{W: out.Board.Width, H: out.Board.Height}
	case to == "first" && first != nil && !first.inTray:
		reference = first.rect
	}
	const gap = 1600
	switch act {
	case "across", "down":
		rects = geometry.Distribute(rects, act == "down")
	case "grid":
		columns := 1
		for columns*columns < len(rects) {
			columns++
		}
		rects = geometry.GridOf(rects, columns, gap)
	case "row":
		rects = geometry.GridOf(rects, len(rects), gap)
	case "column":
		rects = geometry.GridOf(rects, 1, gap)
	case "ring":
		rects = geometry.RingOf(rects, ringRoom(rects, around, out.Board))
	default:
		rects = geometry.Align(rects, reference, act)
	}
	// A block that would leave the board comes back as a whole.
	b := bounds(rects)
	dx, dy := back(b.X, b.W, out.Board.Width), back(b.Y, b.H, out.Board.Height)
	for i, p := range moved {
		r := rects[i]
		r.X, r.Y = r.X+dx, r.Y+dy
		p.set(r)
	}
	return out
}

func back(at, size, room u) u {
	if at < 0 || size > room {
		return -at
	}
	return min(0, room-at-size)
}

// ringRoom is a circle around the middle of all, large enough that neighbours
// stand clear of each other.
func ringRoom(rects []rect, around rect, board activity.Board) rect {
	var length, most u
	for _, r := range rects {
		length += max(r.W, r.H) + 1600
		most = max(most, r.W, r.H)
	}
	d := max(length/3, around.W, around.H) // a circle is a little more than three times as long as it is wide
	d = max(0, min(d, board.Width-most, board.Height-most))
	cx, cy := around.Centre()
	return geometry.Centred(cx, cy, d, d)
}

func bounds(rects []rect) rect {
	var corners []geometry.Vertex
	for _, r := range rects {
		corners = append(corners, geometry.Vertex{r.X, r.Y}, geometry.Vertex{r.X + r.W, r.Y + r.H})
	}
	return geometry.Bounds(corners)
}

func selected(doc *activity.Doc, s activity.Selection, firstKind, firstID string) (parts []part, first *part) {
	add := func(kind, id string, p part) {
		parts = append(parts, p)
		if kind == firstKind && id == firstID {
			first = &p
		}
	}
	for _, id := range s.Items {
		it := doc.Item(id)
		if it == nil {
			continue
		}
		r := rect{W: it.Size.W, H: it.Size.H}
		if it.Home != nil {
			r.X, r.Y = it.Home.X, it.Home.Y
		}
		add("item", id, part{r, it.Home == nil, func(r rect) {
			it.Size = geometry.Size{W: r.W, H: r.H}
			if it.Home != nil {
				it.Home = &activity.Point{X: r.X, Y: r.Y}
			}
		}})
	}
	for _, id := range s.Targets {
		if t := doc.Target(id); t != nil {
			add("target", id, part{t.Frame, false, func(r rect) { SetFrame(t, r) }})
		}
	}
	for i := range doc.Scenery {
		x := &doc.Scenery[i]
		for _, id := range s.Scenery {
			if x.ID == id && x.Frame != nil {
				add("scenery", id, part{*x.Frame, false, func(r rect) { x.Frame = &r }})
			}
		}
	}
	return parts, first
}

// SetFrame gives a target a new frame; a polygon's corners go with it, each to the nearest
// hundredth. The interface does the same while something is dragged, and a test of it holds
// it to this.
func SetFrame(t *activity.Target, r rect) {
	for i, p := range t.Points {
		t.Points[i] = geometry.Vertex{
			r.X + scaled(p[0]-t.Frame.X, r.W, t.Frame.W),
			r.Y + scaled(p[1]-t.Frame.Y, r.H, t.Frame.H),
		}
	}
	t.Frame = r
}

// scaled is v × to / from, rounded to the nearest, halves up.
func scaled(v, to, from u) u {
	n, d := 2*v*to+max(1, from), 2*max(1, from)
	if n < 0 {
		n -= d - 1
	}
	return n / d
}

// Tie has the first ends of lines that are tied to a target stand at the edge of its frame,
// on the way to where they point, on whole units. A document in which they do is given back
// as it is. The interface does the same while something is dragged, and a test of it holds it
// to this. Cost: linear in the scenery, and in the targets for each line that is tied.
func Tie(doc *activity.Doc) *activity.Doc {
	out := doc
	for i := range doc.Scenery {
		x := &doc.Scenery[i]
		if x.Tie == "" || x.From == nil || x.To == nil {
			continue
		}
		t := doc.Target(x.Tie)
		if t == nil {
			continue
		}
		at := edgeTowards(t.Frame, *x.To)
		if at == *x.From {
			continue
		}
		if out == doc {
			shared := *doc
			out, shared.Scenery = &shared, slices.Clone(doc.Scenery)
		}
		out.Scenery[i].From = &at
	}
	return out
}

// edgeTowards is where the way from the middle of a frame to a point leaves the frame, or
// that point if it is within, to the nearest whole unit, halves up.
func edgeTowards(f rect, to activity.Point) activity.Point {
	// In halves of hundredths, so that the middle is a whole number; the way as far as the
	// edge is num/den of it all.
	cx, cy := 2*f.X+f.W, 2*f.Y+f.H
	dx, dy := 2*to.X-cx, 2*to.Y-cy
	num, den := u(1), u(1)
	if w := max(dx, -dx); f.W < w {
		num, den = f.W, w
	}
	if h := max(dy, -dy); f.H*den < num*h {
		num, den = f.H, h
	}
	unit := func(c, d u) u {
		n, whole := 2*(c*den+d*num)+200*den, 400*den
		if n < 0 {
			n -= whole - 1
		}
		return n / whole * 100
	}
	return activity.Point{X: unit(cx, dx), Y: unit(cy, dy)}
}
