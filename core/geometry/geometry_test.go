package geometry_test

import (
	"encoding/json"
	"fmt"
	"math/big"
	"math/rand/v2"
	"testing"

	"keenmagpie/core/geometry"
)

type (
	U      = geometry.U
	Rect   = geometry.Rect
	Shape  = geometry.Shape
	Vertex = geometry.Vertex
)

func Example() {
	bin := Shape{Box: Rect{W: 10000, H: 10000}}
	fmt.Println(bin.Contains(10000, 5000), bin.Contains(10001, 5000))
	round := Shape{Box: bin.Box, Ellipse: true}
	fmt.Println(round.Contains(10000, 5000), round.Contains(9000, 9000))
	half := Shape{Points: []Vertex{{0, 0}, {10000, 0}, {0, 10000}}}
	fmt.Println(half.Contains(5000, 5000), half.Area(Rect{W: 10000, H: 10000}))
	// Output:
	// true false
	// true false
	// true 50000000/1
}

func box(x, y, w, h U) Shape { return Shape{Box: Rect{X: x, Y: y, W: w, H: h}} }

func TestHitPrefersLargerOverlapThenLater(t *testing.T) {
	for name, c := range map[string]struct {
		targets  []Shape
		x, reach U
		want     int
	}{
		"beside all":                      {[]Shape{box(0, 0, 100, 100)}, 201, 0, -1},
		"within reach":                    {[]Shape{box(0, 0, 100, 100)}, 201, 101, 0},
		"on a shared edge the later wins": {[]Shape{box(0, 0, 100, 100), box(100, 0, 100, 100)}, 100, 0, 1},
		"the larger overlap wins":         {[]Shape{box(0, 0, 200, 200), box(0, 40, 200, 20)}, 50, 0, 0},
		"same overlap: the later, on top": {[]Shape{box(0, 0, 200, 200), box(0, 0, 200, 200)}, 50, 0, 1},
	} {
		t.Run(name, func(t *testing.T) {
			// The piece is 40 × 40 and its centre stands at y = 50.
			if got := geometry.Hit(c.targets, geometry.HitRule{Rule: "centre"}, c.x, 50, 40, 40, c.reach); got != c.want {
				t.Errorf("hit %d, want %d", got, c.want)
			}
		})
	}
}

// The piece is 40 × 20 hundredths, its centre at (x, 50).
func TestTheFourHitRules(t *testing.T) {
	square := box(0, 0, 100, 100)
	round := Shape{Box: Rect{W: 100, H: 100}, Ellipse: true}
	// A triangle with its right angle at (0, 0): x + y ≤ 100.
	corner := []Vertex{{0, 0}, {100, 0}, {0, 100}}
	triangle := Shape{Box: geometry.Bounds(corner), Points: corner}
	for _, c := range []struct {
		shape                               Shape
		x, reach                            U
		centre, touch, inside, half, anyOne bool // half: overlap 50, anyOne: overlap 1
	}{
		{square, 50, 0, true, true, true, true, true},
		{square, 80, 0, true, true, true, true, true},   // its right edge on the square's
		{square, 81, 0, true, true, false, true, true},  //
		{square, 100, 0, true, true, false, true, true}, // exactly half
		{square, 101, 0, false, true, false, false, true},
		{square, 120, 0, false, true, false, false, false}, // edges touch, no area
		{square, 121, 0, false, false, false, false, false},
		{square, 121, 1, false, true, false, false, false},
		{round, 80, 0, true, true, false, true, true},     // its corners stick out
		{round, 79, 0, true, true, true, true, true},      // (49, 10) from the middle: 2401 + 100 > 2500 at 80, at 79 it is in
		{round, 120, 0, false, true, false, false, false}, // the ellipse's rightmost point meets its edge
		{triangle, 30, 0, true, true, false, true, true},  // its lower right corner at (50, 60): 110
		{triangle, 20, 0, true, true, true, true, true},   // (40, 60) is on the slope
		{triangle, 50, 0, true, true, false, true, true},  // the slope goes through its centre: exactly half
		{triangle, 51, 0, false, true, false, false, true},
		{triangle, 80, 0, false, true, false, false, false}, // its upper left corner (60, 40) on the slope
		{triangle, 81, 0, false, false, false, false, false},
	} {
		for rule, want := range map[geometry.HitRule]bool{
			{Rule: "centre"}: c.centre, {Rule: "touch"}: c.touch, {Rule: "inside"}: c.inside,
			{Rule: "overlap", Overlap: 50}: c.half, {Rule: "overlap", Overlap: 1}: c.anyOne, {Rule: "overlap", Overlap: 100}: c.inside,
		} {
			if c.shape.Ellipse && c.x == 79 && rule.Rule == "inside" || c.shape.Ellipse && c.x == 79 && rule.Overlap == 100 {
				want = false // 49² + 10² = 2501, just outside
			}
			if got := geometry.Hit([]Shape{c.shape}, rule, c.x, 50, 40, 20, c.reach) == 0; got != want {
				t.Errorf("%+v at %d, %+v: %v", c.shape, c.x, rule, got)
			}
		}
	}
	// An odd width has its edges at half a hundredth: 41 wide at 80 ends at 100.5.
	if geometry.Hit([]Shape{square}, geometry.HitRule{Rule: "inside"}, 80, 50, 41, 20, 0) != -1 {
		t.Error("half a hundredth outside is outside")
	}
}

func TestReachGrowsAPolygonEdgeByEdge(t *testing.T) {
	diamond := []Vertex{{5000, 0}, {10000, 5000}, {5000, 10000}, {0, 5000}}
	for _, points := range [][]Vertex{diamond, {diamond[3], diamond[2], diamond[1], diamond[0]}} { // either way round
		grown := Shape{Points: points}.Grow(1000)
		// An edge at 45° moves by 1000 along its normal: by 707 in x and in y.
		for _, c := range []struct {
			x, y U
			in   bool
		}{{8200, 8200, true}, {8215, 8215, false}, {5000, -1400, true}, {5000, -1420, false}} {
			if got := grown.Contains(c.x, c.y); got != c.in {
				t.Errorf("%v at (%d, %d): %v", grown.Points, c.x, c.y, got)
			}
		}
	}
	square := Shape{Points: []Vertex{{0, 0}, {100, 0}, {100, 100}, {0, 100}}}.Grow(10)
	if got := geometry.Bounds(square.Points); got != (Rect{X: -10, Y: -10, W: 120, H: 120}) {
		t.Errorf("a square as polygon grows to %v", got)
	}
	needle := Shape{Points: []Vertex{{0, 0}, {10000, 10}, {0, 20}}}.Grow(100)
	if got := geometry.Bounds(needle.Points); got.X+got.W > 10000+300 {
		t.Errorf("a sharp corner grows to %v", got)
	}
}

// The area of a shape within a rectangle against a twin that counts the hundredths
// whose middles are in both; and the rules against each other.
func TestAreasAgreeWithCounting(t *testing.T) {
	rnd := rand.New(rand.NewPCG(8, 0))
	for range 300 {
		var s Shape
		switch rnd.IntN(3) {
		case 0:
			s = box(U(rnd.IntN(20)), U(rnd.IntN(20)), U(1+rnd.IntN(40)), U(1+rnd.IntN(40)))
		case 1:
			s = box(U(rnd.IntN(20)), U(rnd.IntN(20)), U(10+rnd.IntN(40)), U(10+rnd.IntN(40)))
			s.Ellipse = true
		default:
			for { // a random polygon that does not cross itself
				s = Shape{}
				for range 3 + rnd.IntN(4) {
					s.Points = append(s.Points, Vertex{U(rnd.IntN(50)), U(rnd.IntN(50))})
				}
				if !geometry.Crosses(s.Points) {
					break
				}
			}
			s.Box = geometry.Bounds(s.Points)
		}
		r := Rect{X: U(rnd.IntN(30)), Y: U(rnd.IntN(30)), W: U(1 + rnd.IntN(30)), H: U(1 + rnd.IntN(30))}
		const fine = 4 // quarters of a hundredth
		count := 0
		big4 := Shape{Box: Rect{X: 2 * fine * s.Box.X, Y: 2 * fine * s.Box.Y, W: 2 * fine * s.Box.W, H: 2 * fine * s.Box.H}, Ellipse: s.Ellipse}
		for _, p := range s.Points {
			big4.Points = append(big4.Points, Vertex{2 * fine * p[0], 2 * fine * p[1]})
		}
		for x := range r.W * fine {
			for y := range r.H * fine {
				if big4.Contains(2*(r.X*fine+x)+1, 2*(r.Y*fine+y)+1) {
					count++
				}
			}
		}
		const scale = 100 // so that an ellipse's corners do not show
		large := Shape{Box: Rect{X: scale * s.Box.X, Y: scale * s.Box.Y, W: scale * s.Box.W, H: scale * s.Box.H}, Ellipse: s.Ellipse}
		for _, p := range s.Points {
			large.Points = append(large.Points, Vertex{scale * p[0], scale * p[1]})
		}
		got, _ := large.Area(Rect{X: scale * r.X, Y: scale * r.Y, W: scale * r.W, H: scale * r.H}).Float64()
		got /= scale * scale
		want := float64(count) / (fine * fine)
		if diff := got - want; diff > 2+0.02*want || diff < -2-0.02*want {
			t.Fatalf("%+v in %v: %v, counted %v", s, r, got, want)
		}
		if got > 0 && !s.Touches(r) {
			t.Fatalf("%+v shares %v with %v, and does not touch it", s, got, r)
		}
		if covers := s.Covers(r); covers && (!s.Touches(r) || got < 0.99*float64(r.W*r.H)) || !s.Ellipse && covers != (got == float64(r.W*r.H)) {
			t.Fatalf("%+v covers %v: %v, with area %v", s, r, covers, got)
		}
	}
}

func TestHitRulesAsJSON(t *testing.T) {
	for _, text := range []string{`"touch"`, `{"overlap":60}`} {
		var h geometry.HitRule
		if err := json.Unmarshal([]byte(text), &h); err != nil {
			t.Fatal(err)
		}
		if out, _ := json.Marshal(h); string(out) != text {
			t.Errorf("%s becomes %s", text, out)
		}
	}
	var h geometry.HitRule
	if json.Unmarshal([]byte(`{"overlap":0}`), &h) == nil {
		t.Error("an overlap of nothing was read")
	}
}

func TestSharedAreaIsExactForPolygons(t *testing.T) {
	// A triangle (0,0) (30,0) (0,10) in the unit row y 0…1: the slope runs from x = 30
	// to 27, so the area is (30 + 27)/2.
	s := Shape{Points: []Vertex{{0, 0}, {30, 0}, {0, 10}}}
	if got := s.Area(Rect{W: 100, H: 1}); got.Cmp(big.NewRat(57, 2)) != 0 {
		t.Errorf("%v, want 57/2", got)
	}
}
