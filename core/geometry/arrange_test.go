package geometry_test

import (
	"math/rand/v2"
	"slices"
	"testing"

	"keenmagpie/core/geometry"
)

type Size = geometry.Size

// Two pieces, 100 × 50 and 60 × 30 units, in a box of 400 × 200 at (10, 20).
func TestFormsByHand(t *testing.T) {
	box := Rect{X: 1000, Y: 2000, W: 40000, H: 20000}
	sizes := []Size{{W: 10000, H: 5000}, {W: 6000, H: 3000}}
	r := func(x, y, w, h U) Rect { return Rect{X: x * 100, Y: y * 100, W: w * 100, H: h * 100} }
	for name, c := range map[string]struct {
		how  geometry.Arrangement
		want []Rect
	}{
		// The row is 100 + 10 + 60 = 170 wide and starts (400 − 170)/2 = 115 in.
		"row": {geometry.Arrangement{As: "row", Anchor: "centre", Gap: 1000, Scale: 100}, []Rect{r(125, 95, 100, 50), r(235, 105, 60, 30)}},
		// At the corner, the gap away from both edges.
		"row, at a corner": {geometry.Arrangement{As: "row", Anchor: "bottomRight", Gap: 1000, Scale: 100}, []Rect{r(230, 160, 100, 50), r(340, 170, 60, 30)}},
		"column":           {geometry.Arrangement{As: "column", Anchor: "top", Gap: 1000, Scale: 100}, []Rect{r(160, 30, 100, 50), r(180, 90, 60, 30)}},
		"at half size":     {geometry.Arrangement{As: "row", Anchor: "centre", Gap: 1000, Scale: 50}, []Rect{r(165, 107, 50, 25), r(225, 112, 30, 15)}},
		// Two cells of 100 × 50 with 10 between: 210 wide.
		"grid":   {geometry.Arrangement{As: "grid", Anchor: "centre", Gap: 1000, Scale: 100}, []Rect{r(105, 95, 100, 50), r(235, 105, 60, 30)}},
		"centre": {geometry.Arrangement{As: "centre", Anchor: "centre", Gap: 1000, Scale: 100}, []Rect{r(160, 95, 100, 50), r(180, 105, 60, 30)}},
		// The second lies 10 right of and below the first: the block is 110 × 60.
		"pile": {geometry.Arrangement{As: "pile", Anchor: "left", Step: 1000, Scale: 100}, []Rect{r(10, 90, 100, 50), r(40, 110, 60, 30)}},
		// On the ellipse through the middles, 100 in and 50 in: top and bottom.
		"ring": {geometry.Arrangement{As: "ring", Anchor: "centre", Scale: 100}, []Rect{r(160, 20, 100, 50), r(180, 180, 60, 30)}},
	} {
		t.Run(name, func(t *testing.T) {
			got := geometry.Arrange(box, sizes, c.how, nil)
			for i := range got { // half a unit either way, where a middle falls between
				for _, d := range []U{got[i].X - c.want[i].X, got[i].Y - c.want[i].Y, got[i].W - c.want[i].W, got[i].H - c.want[i].H} {
					if d > 100 || d < -100 {
						t.Errorf("piece %d at %v, want %v", i, got[i], c.want[i])
						break
					}
				}
			}
		})
	}
	at := Vertex{1500, 2500} // near the corner: it is kept within the box
	got := geometry.Arrange(box, sizes, geometry.Arrangement{As: "asDropped", Scale: 100}, []*Vertex{&at, nil})
	if got[0] != r(10, 20, 100, 50) || got[1] != r(180, 105, 60, 30) {
		t.Errorf("as dropped: %v", got)
	}
}

// However many pieces, in whatever form and box: all stay inside it, and where the
// form keeps them apart they do not overlap while they are larger than the
// smallest size.
func TestPiecesStayInTheBox(t *testing.T) {
	rnd := rand.New(rand.NewPCG(2, 0))
	forms := []string{"row", "column", "grid", "centre", "pile", "ring", "asDropped"}
	anchors := []string{"topLeft", "top", "topRight", "left", "centre", "right", "bottomLeft", "bottom", "bottomRight"}
	for range 3000 {
		box := Rect{X: 1000, Y: 2000, W: 20000 + U(rnd.Int64N(30000)), H: 20000 + U(rnd.Int64N(30000))}
		sizes := make([]Size, 1+rnd.IntN(40))
		dropped := make([]*Vertex, len(sizes))
		for i := range sizes {
			sizes[i] = Size{W: 4000 + U(rnd.Int64N(8000)), H: 3000 + U(rnd.Int64N(5000))}
			dropped[i] = &Vertex{U(rnd.Int64N(60000)), U(rnd.Int64N(60000))}
		}
		how := geometry.Arrangement{As: forms[rnd.IntN(len(forms))], Anchor: anchors[rnd.IntN(len(anchors))], Gap: 600, Step: U(rnd.Int64N(2000) - 1000), Scale: 50 + rnd.IntN(60)}
		got := geometry.Arrange(box, sizes, how, dropped)
		short := got[0].W
		for _, r := range got {
			short = min(short, r.W, r.H)
		}
		apart := slices.Contains([]string{"row", "column", "grid"}, how.As)
		for i, r := range got {
			if !box.Covers(r) {
				t.Fatalf("%+v: piece %d of %d at %v leaves the box %v", how, i, len(sizes), r, box)
			}
			for _, other := range got[:i] {
				if clear := r.X >= other.X+other.W || other.X >= r.X+r.W || r.Y >= other.Y+other.H || other.Y >= r.Y+r.H; apart && !clear && short > geometry.Smallest+100 {
					t.Fatalf("%+v: pieces overlap though they could shrink", how)
				}
			}
		}
	}
}

func TestLiningUp(t *testing.T) {
	three := []Rect{{X: 0, Y: 0, W: 10, H: 10}, {X: 90, Y: 40, W: 10, H: 30}, {X: 20, Y: 5, W: 20, H: 10}}
	bounds := Rect{W: 100, H: 70}
	for edge, want := range map[string][3][2]U{
		"left": {{0, 0}, {0, 40}, {0, 5}}, "right": {{90, 0}, {90, 40}, {80, 5}}, "centre": {{45, 0}, {45, 40}, {40, 5}},
		"top": {{0, 0}, {90, 0}, {20, 0}}, "bottom": {{0, 60}, {90, 40}, {20, 60}}, "middle": {{0, 30}, {90, 20}, {20, 30}}, "nowhere": {{0, 0}, {90, 40}, {20, 5}},
	} {
		for i, r := range geometry.Align(three, bounds, edge) {
			if r.X != want[i][0] || r.Y != want[i][1] {
				t.Errorf("%s: %d at %v", edge, i, r)
			}
		}
	}
	// From 0 to 100 with 10, 20 and 10 wide: 60 left for two gaps, so the middle one starts at 40.
	if got := geometry.Distribute(three, false); got[2].X != 40 || got[0].X != 0 || got[1].X != 90 {
		t.Errorf("across: %v", got)
	}
	// Down: 0…10, then 10 high, then 40…70: 30 − 10 left, a gap of 10 each.
	if got := geometry.Distribute(three, true); got[2].Y != 20 {
		t.Errorf("down: %v", got)
	}
	if got := geometry.SameSize(three, Size{W: 20, H: 20}); got[0] != (Rect{X: -5, Y: -5, W: 20, H: 20}) || got[1] != (Rect{X: 85, Y: 45, W: 20, H: 20}) {
		t.Errorf("same size: %v", got)
	}
	// Columns 20 and 10 wide (the third is 20), rows 30 and 10 high, gap 5.
	if got := geometry.GridOf(three, 2, 5); got[0] != (Rect{X: 5, Y: 10, W: 10, H: 10}) || got[1] != (Rect{X: 25, Y: 0, W: 10, H: 30}) || got[2] != (Rect{X: 0, Y: 35, W: 20, H: 10}) {
		t.Errorf("grid: %v", got)
	}
	got := geometry.RingOf(three[:2], Rect{W: 100, H: 100})
	if x, y := got[0].Centre(); x != 50 || y != 0 {
		t.Errorf("ring: the first at %v", got[0])
	}
	if x, y := got[1].Centre(); x != 50 || y != 100 {
		t.Errorf("ring: the second at %v", got[1])
	}
	if geometry.GridOf(nil, 2, 5) != nil && len(geometry.GridOf(nil, 2, 5)) != 0 {
		t.Error("a grid of nothing")
	}
}
