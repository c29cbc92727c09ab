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
