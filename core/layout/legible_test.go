package layout_test

import (
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
)

func TestLegible(t *testing.T) {
	nine := activity.U(900)
	item := func(w, h activity.U, text string) activity.Item {
		return activity.Item{Text: text, Size: geometry.Size{W: w, H: h}}
	}
	for name, c := range map[string]struct {
		doc  activity.Doc
		want int
	}{
		"nothing to read or hit":              {activity.Doc{}, 0},
		"text of 15 units: 12 / 15":           {activity.Doc{Items: []activity.Item{item(12000, 6400, "Chain")}}, 80},
		"half as wide as 100: text of 7.5":    {activity.Doc{Items: []activity.Item{item(5000, 6400, "Chain")}}, 160},
		"a picture of 40 units: 24 / 40":      {activity.Doc{Items: []activity.Item{item(4000, 4000, "")}}, 60},
		"no more than twice, however small":   {activity.Doc{Items: []activity.Item{item(500, 500, "")}}, 200},
		"a target of 20 units: 24 / 20":       {activity.Doc{Targets: []activity.Target{{Frame: geometry.Rect{W: 2000, H: 9000}}}}, 120},
		"a label of 17 units: 12 / 17":        {activity.Doc{Targets: []activity.Target{{Label: activity.Label{Text: "A"}, Frame: geometry.Rect{W: 9000, H: 9000}}}}, 71},
		"text on the board, of 18: 12 / 18":   {activity.Doc{Scenery: []activity.Scenery{{Text: "A"}}}, 67},
		"text on the board, of 9 by its look": {activity.Doc{Scenery: []activity.Scenery{{Text: "A", Style: &activity.Style{Text: &activity.TextStyle{Size: &nine}}}}}, 134},
	} {
		t.Run(name, func(t *testing.T) {
			if got := layout.Legible(&c.doc); got != c.want {
				t.Errorf("legible from %d percent on, want %d", got, c.want)
			}
		})
	}
}

func TestFits(t *testing.T) {
	doc := &activity.Doc{Board: activity.Board{Width: 120000, Height: 72000}}
	it := &activity.Item{Text: "Rim brake", Size: geometry.Size{W: 12000, H: 6400}}
	for name, c := range map[string]struct {
		w, h  activity.U
		scale int
		want  bool
	}{
		"as it is":                       {12000, 6400, 100, true},
		"on a phone, at rest":            {12000, 6400, 80, true},
		"a third of it, on a phone":      {4000, 2100, 80, false},
		"a third of it, twice as large":  {4000, 2100, 240, true},
		"one line high, two words wide":  {12000, 2400, 100, true},
		"one line high, one word wide":   {4500, 2400, 100, false},
		"two lines high, one word wide":  {4500, 4000, 100, true},
		"narrower than its longest word": {2600, 4000, 100, false},
	} {
		t.Run(name, func(t *testing.T) {
			if got := layout.Fits(doc, it, c.w, c.h, c.scale); got != c.want {
				t.Errorf("fits: %v", got)
			}
		})
	}
	if got := (layout.Screen{Width: 1280, Height: 800}).Scale(doc); got != 86 {
		t.Errorf("a board of 1200 by 720 in a window of 1280 by 800: %d percent, want 86 (620 / 720)", got)
	}
}
