package layout_test

import (
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
)

// However many targets: none leaves the board, and no two touch, label and all.
func TestSortFillsTheBoardWithoutOverlap(t *testing.T) {
	for n := 1; n <= 12; n++ {
		doc := &activity.Doc{Board: activity.Board{Width: 120000, Height: 72000}, Targets: make([]activity.Target, n)}
		layout.Sort(doc)
		for i, a := range doc.Targets {
			f := a.Frame
			if f.X < 0 || f.Y < 1600 || f.X+f.W > 120000 || f.Y+f.H > 72000 || f.W < 20000 || f.H < 10000 {
				t.Errorf("%d targets: number %d stands at %v", n, i+1, f)
			}
			for j, b := range doc.Targets[:i] {
				if geometry.OverlapArea(f.Grow(800), b.Frame.Grow(800)) > 0 {
					t.Errorf("%d targets: %d and %d are too close", n, i+1, j+1)
				}
			}
		}
	}
}
