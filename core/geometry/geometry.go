// Package geometry says what a dropped piece hits, where placed pieces stand,
// and how parts are lined up. It knows shapes and rectangles, not activities.
//
// Lengths are hundredths of a board unit, as integers: a hit decides marks, and
// floating point differs between processors. Areas are rationals where they are
// not whole. Edges count as inside.
//
//	bin := geometry.Shape{Box: geometry.Rect{X: 0, Y: 0, W: 10000, H: 10000}}
//	bin.Contains(10000, 5000) // true: on the edge
//
// A target is a rectangle, the ellipse that fills one, or a polygon. [Hit] finds
// the one under a piece by one of four rules; [Arrange] lays out what is in it;
// [Align], [Distribute], [SameSize], [GridOf] and [RingOf] serve the editor.
//
// Where the document leaves it open, this package decides: reach moves a
// rectangle's and an ellipse's box out on all sides, and every edge of a polygon
// outwards along its normal; the area that decides between several hits is that
// shared with the grown target; an ellipse's area is that of a polygon of 256
// corners on it.
package geometry

import (
	"math/big"

	"keenmagpie/core/exact"
)

// U is a length or a coordinate, in hundredths of a board unit.
type U = exact.Hundredths

// Rect is an upright rectangle; X and Y are its left upper corner.
type Rect struct {
	X U `json:"x" required:"true" range:"-100000..100000"`
	Y U `json:"y" required:"true" range:"-100000..100000"`
	W U `json:"w" required:"true" range:"0.01..100000"`
	H U `json:"h" required:"true" range:"0.01..100000"`
}

// Size is a width and a height.
type Size struct {
	W U `json:"w" required:"true" range:"0.01..100000"`
	H U `json:"h" required:"true" range:"0.01..100000"`
}

// Vertex is a corner of a polygon: x and y.
type Vertex [2]U

// Centred is the rectangle of size w × h around (x, y), its corner rounded down
// to a hundredth.
func Centred(x, y, w, h U) Rect { return Rect{x - w/2, y - h/2, w, h} }

// Centre is the middle of the rectangle, rounded towards its corner.
func (r Rect) Centre() (x, y U) { return r.X + r.W/2, r.Y + r.H/2 }

// Grow moves every edge out by d.
func (r Rect) Grow(d U) Rect { return Rect{r.X - d, r.Y - d, r.W + 2*d, r.H + 2*d} }

// Contains reports whether (x, y) is in the rectangle or on its edge.
func (r Rect) Contains(x, y U) bool {
	return x >= r.X && x <= r.X+r.W && y >= r.Y && y <= r.Y+r.H
}

// Touches reports whether two rectangles share a point, if only of their edges.
func (r Rect) Touches(o Rect) bool {
	return r.X <= o.X+o.W && o.X <= r.X+r.W && r.Y <= o.Y+o.H && o.Y <= r.Y+r.H
}

// Covers reports whether o lies wholly in r.
func (r Rect) Covers(o Rect) bool {
	return o.X >= r.X && o.Y >= r.Y && o.X+o.W <= r.X+r.W && o.Y+o.H <= r.Y+r.H
}

// Bounds is the smallest rectangle around the corners.
func Bounds(points []Vertex) Rect {
	if len(points) == 0 {
		return Rect{}
	}
	low, high := points[0], points[0]
	for _, p := range points[1:] {
		low = Vertex{min(low[0], p[0]), min(low[1], p[1])}
		high = Vertex{max(high[0], p[0]), max(high[1], p[1])}
	}
	return Rect{low[0], low[1], high[0] - low[0], high[1] - low[1]}
}

// overlapArea is the area that two rectangles share, in hundredths squared.
func overlapArea(a, b Rect) int64 {
	w := min(a.X+a.W, b.X+b.W) - max(a.X, b.X)
	h := min(a.Y+a.H, b.Y+b.H) - max(a.Y, b.Y)
	if w <= 0 || h <= 0 {
		return 0
	}
	return int64(w) * int64(h)
}

// Shape is a rectangle; or the ellipse that fills it; or, with points, a polygon.
type Shape struct {
	Box     Rect
	Ellipse bool
	Points  []Vertex
}

// Contains reports whether (x, y) is in the shape or on its edge.
func (s Shape) Contains(x, y U) bool {
	switch {
	case len(s.Points) > 0:
		return inPolygon(s.Points, x, y)
	case !s.Box.Contains(x, y):
		return false
	case s.Ellipse:
		return s.inEllipse(2*x-2*s.Box.X-s.Box.W, 2*y-2*s.Box.Y-s.Box.H)
	}
	return true
}

// inEllipse reports whether the point that is dx/2 and dy/2 from the middle is in
// the ellipse: (dx/w)² + (dy/h)² ≤ 1, multiplied out; the products pass 64 bits.
func (s Shape) inEllipse(dx, dy U) bool {
	w, h := int64(s.Box.W), int64(s.Box.H)
	left := product(int64(dx), int64(dx), h, h)
	left.Add(left, product(int64(dy), int64(dy), w, w))
	return left.Cmp(product(w, w, h, h)) <= 0
}

func product(factors ...int64) *big.Int {
	p := big.NewInt(1)
	for _, f := range factors {
		p.Mul(p, big.NewInt(f))
	}
	return p
}

// Touches reports whether the shape and the rectangle share a point.
func (s Shape) Touches(r Rect) bool {
	switch {
	case len(s.Points) > 0:
		return polygonTouches(s.Points, r)
	case s.Ellipse:
		// The rectangle's point nearest to the middle decides, as the rectangle stays
		// upright when the ellipse is squeezed into a circle. Doubled coordinates.
		mx, my := 2*s.Box.X+s.Box.W, 2*s.Box.Y+s.Box.H
		nx := min(max(mx, 2*r.X), 2*(r.X+r.W))
		ny := min(max(my, 2*r.Y), 2*(r.Y+r.H))
		return s.inEllipse(nx-mx, ny-my)
	}
	return s.Box.Touches(r)
}

// Covers reports whether the rectangle lies wholly in the shape.
func (s Shape) Covers(r Rect) bool {
	switch {
	case len(s.Points) > 0:
		return s.Area(r).Cmp(new(big.Rat).SetInt64(int64(r.W)*int64(r.H))) == 0
	case s.Ellipse: // convex, so the corners decide
		return s.Contains(r.X, r.Y) && s.Contains(r.X+r.W, r.Y) && s.Contains(r.X, r.Y+r.H) && s.Contains(r.X+r.W, r.Y+r.H)
	}
	return s.Box.Covers(r)
}

// Area is the area that the shape shares with the rectangle, in hundredths
// squared; exact but for ellipses. Cost: O(corners).
func (s Shape) Area(r Rect) *big.Rat {
	switch {
	case len(s.Points) > 0:
		return clippedArea(s.Points, r)
	case s.Ellipse:
		return clippedArea(ellipse(s.Box), r)
	}
	return new(big.Rat).SetInt64(overlapArea(s.Box, r))
}

// Grow makes the shape larger by d on all sides.
func (s Shape) Grow(d U) Shape {
	if d == 0 {
		return s
	}
	if len(s.Points) > 0 {
		points := outset(s.Points, d)
		return Shape{Box: Bounds(points), Points: points}
	}
	return Shape{Box: s.Box.Grow(d), Ellipse: s.Ellipse}
}

func (s Shape) doubled() Shape {
	out := Shape{Box: Rect{2 * s.Box.X, 2 * s.Box.Y, 2 * s.Box.W, 2 * s.Box.H}, Ellipse: s.Ellipse}
	for _, p := range s.Points {
		out.Points = append(out.Points, Vertex{2 * p[0], 2 * p[1]})
	}
	return out
}
