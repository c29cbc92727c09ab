package placing

import (
	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// Samples says where pieces would stand in targets: those that are right there
// under the first solution, else those let in, at most so many in each.
func Samples(doc *activity.Doc, targets []string, most int) map[string][]Sample {
	out := map[string][]Sample{}
	for _, id := range targets {
		t := doc.Target(id)
		if t == nil {
			continue
		}
		var right, let []*activity.Item
		for i := range doc.Items {
			it := &doc.Items[i]
			for range it.Copies {
				if doc.Key.Solutions[0].RightCell(t, it) {
					right = append(right, it)
				} else if t.LetsIn(it) {
					let = append(let, it)
				}
			}
		}
		if len(right) == 0 {
			right = let[:min(len(let), 3)]
		}
		n := min(len(right), most)
		if t.Holds > 0 {
			n = min(n, t.Holds)
		}
		sizes := make([]geometry.Size, n)
		for i := range sizes {
			sizes[i] = right[i].Size
		}
		for i, r := range Stand(t, sizes, nil) {
			out[id] = append(out[id], Sample{right[i].ID, r})
		}
	}
	return out
}

// Sample is a piece of an item in a target.
type Sample struct {
	Item  string        `json:"item"`
	Frame geometry.Rect `json:"frame"`
}
