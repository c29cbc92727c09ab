package geometry

import (
	"math/big"
	"slices"
)

// cross is the turn from a→b to a→c: positive to one side, negative to the other,
// 0 on the line.
func cross(a, b, c Vertex) int64 {
	return int64(b[0]-a[0])*int64(c[1]-a[1]) - int64(b[1]-a[1])*int64(c[0]-a[0])
}

func between(a, b, v U) bool { return min(a, b) <= v && v <= max(a, b) }

// inPolygon counts the edges that a ray to the right crosses; a point on an edge
// is in.
func inPolygon(points []Vertex, x, y U) bool {
	in := false
	p := Vertex{x, y}
	for i, b := range points {
		a := points[(i+len(points)-1)%len(points)]
		turn := cross(a, b, p)
		if turn == 0 && between(a[0], b[0], x) && between(a[1], b[1], y) {
			return true
		}
		if (a[1] > y) != (b[1] > y) && (turn > 0) == (b[1] > a[1]) {
			in = !in
		}
	}
	return in
}

func polygonTouches(points []Vertex, r Rect) bool {
	for i, b := range points {
		if edgeTouches(points[(i+len(points)-1)%len(points)], b, r) {
			return true
		}
	}
	return inPolygon(points, r.X, r.Y) // no edge meets it: all of it is in, or none
}

// edgeTouches reports whether the segment and the rectangle share a point: their
// bounds do, and the rectangle's corners are not all on one side of the line.
func edgeTouches(a, b Vertex, r Rect) bool {
	if !Bounds([]Vertex{a, b}).Touches(r) {
		return false
	}
	left, right := false, false
	for _, c := range r.corners() {
		turn := cross(a, b, c)
		left, right = left || turn >= 0, right || turn <= 0
	}
	return left && right
}

func (r Rect) corners() [4]Vertex {
	return [4]Vertex{{r.X, r.Y}, {r.X + r.W, r.Y}, {r.X + r.W, r.Y + r.H}, {r.X, r.Y + r.H}}
}

// Crosses reports whether two edges of the polygon that are not neighbours meet;
// such a polygon has no clear inside. Cost: O(corners²).
func Crosses(points []Vertex) bool {
	n := len(points)
	for i := range n {
		a, b := points[i], points[(i+1)%n]
		for j := i + 2; j < n; j++ {
			if (j+1)%n == i {
				continue
			}
			c, d := points[j], points[(j+1)%n]
			if !Bounds([]Vertex{a, b}).Touches(Bounds([]Vertex{c, d})) {
				continue
			}
			if side(cross(a, b, c))*side(cross(a, b, d)) <= 0 && side(cross(c, d, a))*side(cross(c, d, b)) <= 0 {
				return true
			}
		}
	}
	return false
}

func side(turn int64) int {
	switch {
	case turn > 0:
		return 1
	case turn < 0:
		return -1
	}
	return 0
}

// clippedArea is the area of the polygon within the rectangle, exact: the sum
// over its edges, each with its direction's sign, of the area between the
// rectangle's top and the edge held within the rectangle (the trapezoid formula
// for a polygon's area, cut off at the rectangle).
func clippedArea(points []Vertex, r Rect) *big.Rat {
	sum := new(big.Rat)
	for i, b := range points {
		a := points[(i+len(points)-1)%len(points)]
		if a[0] == b[0] {
			continue
		}
		if a[0] < b[0] {
			sum.Add(sum, under(a, b, r))
		} else {
			sum.Sub(sum, under(b, a, r))
		}
	}
	return sum.Abs(sum)
}

// under integrates the edge's height below the rectangle's top, held between 0 and
// the rectangle's height, over the x that both share; a is left of b.
func under(a, b Vertex, r Rect) *big.Rat {
	from, to := max(a[0], r.X), min(b[0], r.X+r.W)
	if from >= to {
		return new(big.Rat)
	}
	dx, dy := int64(b[0]-a[0]), int64(b[1]-a[1])
	cuts := []*big.Rat{whole(from), whole(to)}
	if dy != 0 {
		for _, level := range []U{r.Y, r.Y + r.H} {
			cut := big.NewRat(int64(level-a[1])*dx, dy)
			cut.Add(cut, whole(a[0]))
			if cut.Cmp(cuts[0]) > 0 && cut.Cmp(cuts[1]) < 0 {
				cuts = append(cuts, cut)
			}
		}
		slices.SortFunc(cuts, func(x, y *big.Rat) int { return x.Cmp(y) })
	}
	height := func(x *big.Rat) *big.Rat {
		y := new(big.Rat).Sub(x, whole(a[0]))
		y.Mul(y, big.NewRat(dy, dx)).Add(y, whole(a[1]-r.Y))
		if y.Sign() < 0 {
			return new(big.Rat)
		}
		if top := whole(r.H); y.Cmp(top) > 0 {
			return top
		}
		return y
	}
	sum := new(big.Rat)
	for i := 1; i < len(cuts); i++ {
		mean := height(cuts[i-1])
		mean.Add(mean, height(cuts[i])).Mul(mean, big.NewRat(1, 2))
		sum.Add(sum, mean.Mul(mean, new(big.Rat).Sub(cuts[i], cuts[i-1])))
	}
	return sum
}

func whole(v U) *big.Rat { return new(big.Rat).SetInt64(int64(v)) }

// outset moves every edge of a polygon outwards by d along its normal; corners
// are where neighbouring edges then meet, rounded to a hundredth. A corner so
// sharp that it would move by more than three times d is cut off instead.
func outset(points []Vertex, d U) []Vertex {
	n := len(points)
	turn := int64(0)
	for i := range n {
		turn += int64(points[i][0])*int64(points[(i+1)%n][1]) - int64(points[i][1])*int64(points[(i+1)%n][0])
	}
	out := make([]Vertex, 0, n)
	for i, p := range points {
		a := moved(points[(i+n-1)%n], p, d, turn > 0)
		b := moved(p, points[(i+1)%n], d, turn > 0)
		at, ok := meet(a, b)
		dx, dy := at[0]-p[0], at[1]-p[1]
		if ok && max(dx, -dx, dy, -dy) <= 3*d {
			out = append(out, at)
		} else {
			out = append(out, a[1], b[0])
		}
	}
	return out
}

// moved is the edge a→b moved outwards.
func moved(a, b Vertex, d U, clockwise bool) [2]Vertex {
	ex, ey := b[0]-a[0], b[1]-a[1]
	if !clockwise {
		ex, ey = -ex, -ey
	}
	length := U(root(int64(ex)*int64(ex) + int64(ey)*int64(ey)))
	if length == 0 {
		return [2]Vertex{a, b}
	}
	mx, my := ey*d/length, -ex*d/length
	return [2]Vertex{{a[0] + mx, a[1] + my}, {b[0] + mx, b[1] + my}}
}

// meet is where the lines of two edges cross.
func meet(a, b [2]Vertex) (Vertex, bool) {
	ax, ay := int64(a[1][0]-a[0][0]), int64(a[1][1]-a[0][1])
	bx, by := int64(b[1][0]-b[0][0]), int64(b[1][1]-b[0][1])
	den := ax*by - ay*bx
	if den == 0 {
		return Vertex{}, false
	}
	cx, cy := int64(b[0][0]-a[0][0]), int64(b[0][1]-a[0][1])
	t := big.NewRat(cx*by-cy*bx, den)
	at := func(from U, step int64) U {
		v := new(big.Rat).Mul(t, big.NewRat(step, 1))
		v.Add(v, whole(from))
		return U(new(big.Int).Div(v.Num(), v.Denom()).Int64())
	}
	return Vertex{at(a[0][0], ax), at(a[0][1], ay)}, true
}

// root is the largest whole number whose square is at most v.
func root(v int64) int64 { return new(big.Int).Sqrt(big.NewInt(v)).Int64() }

// directions are 256 unit vectors around the circle, clockwise from the top, with
// millionths as unit. Each new one halves the angle between two: their sum, made
// one long; so no sine is taken, and all processors agree.
var directions = func() []Vertex {
	const unit = 1_000_000
	ring := []Vertex{{0, -unit}, {unit, 0}, {0, unit}, {-unit, 0}}
	for len(ring) < 256 {
		var finer []Vertex
		for i, a := range ring {
			b := ring[(i+1)%len(ring)]
			x, y := int64(a[0]+b[0]), int64(a[1]+b[1])
			length := root(x*x + y*y)
			finer = append(finer, a, Vertex{U(x * unit / length), U(y * unit / length)})
		}
		ring = finer
	}
	return ring
}()

// towards is the point on the ellipse that fills the box, at a share i/n of the
// full turn from its top, clockwise.
func towards(box Rect, i, n int) Vertex {
	v := directions[i*len(directions)/n]
	const unit = 1_000_000
	return Vertex{box.X + ((unit+v[0])*box.W+unit)/(2*unit), box.Y + ((unit+v[1])*box.H+unit)/(2*unit)}
}

func ellipse(box Rect) []Vertex {
	out := make([]Vertex, len(directions))
	for i := range out {
		out[i] = towards(box, i, len(directions))
	}
	return out
}
