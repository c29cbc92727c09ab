// Package geometry says what a dropped piece hits and where placed pieces
// stand. It knows shapes and rectangles, not activities.
//
// Lengths are hundredths of a board unit, as integers: a hit decides marks, and
// floating point differs between processors. Edges count as inside.
//
//	bin := geometry.Shape{Box: geometry.Rect{X: 0, Y: 0, W: 10000, H: 10000}}
//	bin.Contains(10000, 5000) // true: on the edge
package geometry

import (
	"math/big"

	"keenmagpie/core/exact"
)

// U is a length or a coordinate, in hundredths of a board unit.
type U = exact.Hundredths

// Rect is an upright rectangle; X and Y are its left upper corner.
type Rect struct {
	X U `json:"x"`
	Y U `json:"y"`
	W U `json:"w" range:"1.."`
	H U `json:"h" range:"1.."`
}

// Centred is the rectangle of size w × h around (x, y).
func Centred(x, y, w, h U) Rect { return Rect{x - w/2, y - h/2, w, h} }

// Centre is the middle of the rectangle, rounded towards its corner.
func (r Rect) Centre() (x, y U) { return r.X + r.W/2, r.Y + r.H/2 }

// Grow moves every edge out by d.
func (r Rect) Grow(d U) Rect { return Rect{r.X - d, r.Y - d, r.W + 2*d, r.H + 2*d} }

// Contains reports whether (x, y) is in the rectangle or on its edge.
func (r Rect) Contains(x, y U) bool {
	return x >= r.X && x <= r.X+r.W && y >= r.Y && y <= r.Y+r.H
}

// OverlapArea is the area that two rectangles share, in hundredths squared.
func OverlapArea(a, b Rect) int64 {
	w := min(a.X+a.W, b.X+b.W) - max(a.X, b.X)
	h := min(a.Y+a.H, b.Y+b.H) - max(a.Y, b.Y)
	if w <= 0 || h <= 0 {
		return 0
	}
	return int64(w) * int64(h)
}

// Shape is a rectangle, or the ellipse that fills it.
type Shape struct {
	Box     Rect
	Ellipse bool
}

// Contains reports whether (x, y) is in the shape or on its edge.
func (s Shape) Contains(x, y U) bool {
	if !s.Box.Contains(x, y) {
		return false
	}
	if !s.Ellipse {
		return true
	}
	// (2dx/w)² + (2dy/h)² ≤ 1, multiplied out; the products pass 64 bits.
	dx, dy := int64(2*x-2*s.Box.X-s.Box.W), int64(2*y-2*s.Box.Y-s.Box.H)
	w, h := int64(s.Box.W), int64(s.Box.H)
	left := product(dx, dx, h, h)
	left.Add(left, product(dy, dy, w, w))
	return left.Cmp(product(w, w, h, h)) <= 0
}

func product(factors ...int64) *big.Int {
	p := big.NewInt(1)
	for _, f := range factors {
		p.Mul(p, big.NewInt(f))
	}
	return p
}

// Hit finds the target that a piece centred at (x, y) falls on: the shapes that
// hold its centre when grown by reach; of several, the one with which the
// piece's rectangle shares the largest area, then the later one, which is drawn
// on top. It returns -1 when there is none. Cost: O(len(targets)).
func Hit(targets []Shape, x, y, w, h, reach U) int {
	best, bestArea := -1, int64(-1)
	piece := Centred(x, y, w, h)
	for i, t := range targets {
		grown := Shape{t.Box.Grow(reach), t.Ellipse}
		if !grown.Contains(x, y) {
			continue
		}
		if area := OverlapArea(grown.Box, piece); area >= bestArea {
			best, bestArea = i, area
		}
	}
	return best
}
