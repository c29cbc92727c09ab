package geometry_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"keenmagpie/core/geometry"
)

func Example() {
	bin := geometry.Shape{Box: geometry.Rect{W: 10000, H: 10000}}
	fmt.Println(bin.Contains(10000, 5000), bin.Contains(10001, 5000))
	round := geometry.Shape{Box: bin.Box, Ellipse: true}
	fmt.Println(round.Contains(10000, 5000), round.Contains(9000, 9000))
	// Output:
	// true false
	// true false
}

func TestHitPrefersLargerOverlapThenLater(t *testing.T) {
	box := func(x, y, w, h geometry.U) geometry.Shape {
		return geometry.Shape{Box: geometry.Rect{X: x, Y: y, W: w, H: h}}
	}
	for name, c := range map[string]struct {
		targets  []geometry.Shape
		x, reach geometry.U
		want     int
	}{
		"beside all":                      {[]geometry.Shape{box(0, 0, 100, 100)}, 201, 0, -1},
		"within reach":                    {[]geometry.Shape{box(0, 0, 100, 100)}, 201, 101, 0},
		"on a shared edge the later wins": {[]geometry.Shape{box(0, 0, 100, 100), box(100, 0, 100, 100)}, 100, 0, 1},
		"the larger overlap wins":         {[]geometry.Shape{box(0, 0, 200, 200), box(0, 40, 200, 20)}, 50, 0, 0},
		"same overlap: the later, on top": {[]geometry.Shape{box(0, 0, 200, 200), box(0, 0, 200, 200)}, 50, 0, 1},
	} {
		// The piece is 40 × 40 and its centre stands at y = 50.
		if got := geometry.Hit(c.targets, c.x, 50, 40, 40, c.reach); got != c.want {
			t.Errorf("%s: hit %d, want %d", name, got, c.want)
		}
	}
}

// However many pieces and whatever the box: all stay inside it, in reading
// order, and while they can be at least the smallest size they do not overlap.
func TestGridKeepsPiecesInTheBox(t *testing.T) {
	rnd := rand.New(rand.NewPCG(2, 0))
	for range 500 {
		box := geometry.Rect{X: 1000, Y: 2000, W: 20000 + geometry.U(rnd.Int64N(30000)), H: 20000 + geometry.U(rnd.Int64N(30000))}
		sizes := make([]geometry.Size, 1+rnd.IntN(40))
		for i := range sizes {
			sizes[i] = geometry.Size{W: 4000 + geometry.U(rnd.Int64N(8000)), H: 3000 + geometry.U(rnd.Int64N(5000))}
		}
		got := geometry.Grid(box, sizes, 600, 100)
		short := got[0].W
		for _, r := range got {
			short = min(short, r.W, r.H)
		}
		for i, r := range got {
			if r.X < box.X || r.Y < box.Y || r.X+r.W > box.X+box.W || r.Y+r.H > box.Y+box.H {
				t.Fatalf("piece %d of %d at %v leaves the box %v", i, len(sizes), r, box)
			}
			for j := range got[:i] {
				if geometry.OverlapArea(r, got[j]) > 0 && short > geometry.Smallest+100 {
					t.Fatalf("pieces %d and %d overlap though they could shrink", i, j)
				}
			}
		}
	}
}

func TestGridByHand(t *testing.T) {
	// Two pieces of 100 × 50 units in a box of 230 × 70 with gap 10: both fit in
	// one row at full size, 10 from each edge.
	got := geometry.Grid(geometry.Rect{W: 23000, H: 7000}, []geometry.Size{{W: 10000, H: 5000}, {W: 10000, H: 5000}}, 1000, 100)
	want := []geometry.Rect{{X: 1000, Y: 1000, W: 10000, H: 5000}, {X: 12000, Y: 1000, W: 10000, H: 5000}}
	for i := range want {
		if got[i] != want[i] {
			t.Errorf("piece %d at %v, want %v", i, got[i], want[i])
		}
	}
}
