package layout

import (
	"math"

	"keenmagpie/core/geometry"
)

// Pixels are a picture's, row by row, four bytes each: red, green, blue and how opaque.
type Pixels struct {
	Width  int    `json:"width"`
	Height int    `json:"height"`
	RGBA   []byte `json:"rgba"`
}

// Bounds of a picture in which a spot is looked for, in pixels on a side.
const mostPixels = 2000

// tolerance is by how much a pixel may differ from the one that was pressed, in each
// colour: what a compressed picture blurs still belongs to its spot.
const tolerance = 40

// Spot finds the area of one colour around a pixel of a picture that lies in a frame on the
// board, and draws it as a target: a rectangle or an ellipse where it nearly is one, else a
// polygon of at most 40 corners. What lies within it, as a word on a button, belongs to it.
// Cost: linear in the pixels, and corners × outline.
func Spot(p Pixels, x, y int, frame geometry.Rect) (Drawing, error) {
	if p.Width <= 0 || p.Height <= 0 || p.Width > mostPixels || p.Height > mostPixels || len(p.RGBA) != 4*p.Width*p.Height ||
		x < 0 || y < 0 || x >= p.Width || y >= p.Height {
		return Drawing{}, refused("no-picture", nil)
	}
	m := flooded(p, x, y)
	box, area := m.box()
	scaleX, scaleY := float64(frame.W)/float64(p.Width), float64(frame.H)/float64(p.Height)
	if float64(box.w)*scaleX < float64(geometry.Smallest) || float64(box.h)*scaleY < float64(geometry.Smallest) {
		return Drawing{}, refused("spot-small", nil)
	}
	if area > p.Width*p.Height*9/10 {
		return Drawing{}, refused("spot-large", nil)
	}
	at := func(px, py float64) geometry.Vertex {
		return geometry.Vertex{whole(float64(frame.X) + px*scaleX), whole(float64(frame.Y) + py*scaleY)}
	}
	a, b := at(float64(box.x), float64(box.y)), at(float64(box.x+box.w), float64(box.y+box.h))
	r := geometry.Rect{X: a[0], Y: a[1], W: b[0] - a[0], H: b[1] - a[1]}
	switch share := float64(area) / float64(box.w*box.h); {
	case share > 0.96:
		return Drawing{What: "rect", Frame: &r}, nil
	case m.elliptic(box):
		return Drawing{What: "ellipse", Frame: &r}, nil
	}
	outline := m.outline()
	for allowed := 1.0; allowed < 64; allowed *= 1.4 {
		var points []geometry.Vertex
		for _, q := range simplified(outline, allowed) {
			points = append(points, at(q[0], q[1]))
		}
		if len(points) <= 40 && corners(points) == nil {
			return Drawing{What: "polygon", Points: points}, nil
		}
	}
	return Drawing{What: "rect", Frame: &r}, nil
}

// whole is the nearest whole unit, in hundredths.
func whole(v float64) u { return u(math.Round(v/100)) * 100 }

// mask says of each pixel whether it belongs to a spot.
type mask struct {
	w, h int
	in   []bool
}

type box struct{ x, y, w, h int }

// flooded is all that is connected to a pixel and of its colour, and what that encloses.
func flooded(p Pixels, x, y int) mask {
	m := mask{p.Width, p.Height, make([]bool, p.Width*p.Height)}
	seed := p.RGBA[4*(y*p.Width+x):][:4]
	alike := func(i int) bool {
		for c, v := range p.RGBA[4*i:][:4] {
			if d := int(v) - int(seed[c]); d > tolerance || d < -tolerance {
				return false
			}
		}
		return true
	}
	m.spread(y*m.w+x, alike, m.in)
	// What cannot be reached from the edge without crossing the spot is within it.
	outside := make([]bool, len(m.in))
	open := func(i int) bool { return !m.in[i] }
	for i := range m.in {
		if px, py := i%m.w, i/m.w; (px == 0 || py == 0 || px == m.w-1 || py == m.h-1) && open(i) && !outside[i] {
			m.spread(i, open, outside)
		}
	}
	for i := range m.in {
		m.in[i] = m.in[i] || !outside[i]
	}
	return m
}

// spread marks all pixels that can be reached from one over its four sides.
func (m mask) spread(from int, may func(int) bool, marked []bool) {
	queue := []int{from}
	marked[from] = true
	for len(queue) > 0 {
		i := queue[len(queue)-1]
		queue = queue[:len(queue)-1]
		x, y := i%m.w, i/m.w
		for _, n := range [4]struct {
			there bool
			at    int
		}{{x > 0, i - 1}, {x < m.w-1, i + 1}, {y > 0, i - m.w}, {y < m.h-1, i + m.w}} {
			if n.there && !marked[n.at] && may(n.at) {
				marked[n.at] = true
				queue = append(queue, n.at)
			}
		}
	}
}

// box is the smallest that holds all, and how many pixels are in it.
func (m mask) box() (b box, area int) {
	left, top, right, bottom := m.w, m.h, -1, -1
	for i, in := range m.in {
		if in {
			x, y := i%m.w, i/m.w
			left, top, right, bottom = min(left, x), min(top, y), max(right, x), max(bottom, y)
			area++
		}
	}
	return box{left, top, right - left + 1, bottom - top + 1}, area
}

// elliptic says whether it nearly is the ellipse that fills the box: of its pixels and those
// of the ellipse at most one in twenty is in one alone.
func (m mask) elliptic(b box) bool {
	differ, area := 0, 0
	for y := range b.h {
		for x := range b.w {
			dx, dy := (float64(x)+0.5)/float64(b.w)*2-1, (float64(y)+0.5)/float64(b.h)*2-1
			round := dx*dx+dy*dy <= 1
			in := m.in[(b.y+y)*m.w+b.x+x]
			if round != in {
				differ++
			}
			if in {
				area++
			}
		}
	}
	return differ*20 <= area
}

// outline goes once around, from corner to corner of pixels, with the spot on its right.
func (m mask) outline() (points [][2]float64) {
	start := 0
	for !m.in[start] {
		start++
	}
	// East, south, west, north: the step, and the pixels ahead on its right and its left.
	ways := [4]struct{ dx, dy, rx, ry, lx, ly int }{
		{1, 0, 0, 0, 0, -1}, {0, 1, -1, 0, 0, 0}, {-1, 0, -1, -1, -1, 0}, {0, -1, 0, -1, -1, -1},
	}
	in := func(x, y int) bool { return x >= 0 && y >= 0 && x < m.w && y < m.h && m.in[y*m.w+x] }
	x, y, way := start%m.w, start/m.w, 0 // its first pixel's upper left corner
	for {
		points = append(points, [2]float64{float64(x), float64(y)})
		x, y = x+ways[way].dx, y+ways[way].dy
		switch d := ways[way]; {
		case in(x+d.lx, y+d.ly):
			way = (way + 3) % 4
		case !in(x+d.rx, y+d.ry):
			way = (way + 1) % 4
		}
		if y*m.w+x == start && way == 0 {
			return points
		}
	}
}

// simplified leaves out the corners of a closed line that lie within a distance of what
// remains (Douglas and Peucker, 1973), from its two corners that are furthest apart.
func simplified(line [][2]float64, allowed float64) [][2]float64 {
	far := 0
	for i := range line {
		if distance(line[i], line[0]) > distance(line[far], line[0]) {
			far = i
		}
	}
	first := reduced(line[:far+1], allowed)
	second := reduced(append(append([][2]float64{}, line[far:]...), line[0]), allowed)
	return append(first[:len(first)-1], second[:len(second)-1]...)
}

func reduced(line [][2]float64, allowed float64) [][2]float64 {
	if len(line) < 3 {
		return append([][2]float64{}, line...)
	}
	a, b := line[0], line[len(line)-1]
	far, most := 0, 0.0
	for i := 1; i < len(line)-1; i++ {
		if d := fromLine(line[i], a, b); d > most {
			far, most = i, d
		}
	}
	if most <= allowed {
		return [][2]float64{a, b}
	}
	left := reduced(line[:far+1], allowed)
	return append(left[:len(left)-1], reduced(line[far:], allowed)...)
}

func distance(a, b [2]float64) float64 { return math.Hypot(a[0]-b[0], a[1]-b[1]) }

// fromLine is how far a point is from the line through two others.
func fromLine(p, a, b [2]float64) float64 {
	length := distance(a, b)
	if length == 0 {
		return distance(p, a)
	}
	return math.Abs((b[0]-a[0])*(a[1]-p[1])-(a[0]-p[0])*(b[1]-a[1])) / length
}
