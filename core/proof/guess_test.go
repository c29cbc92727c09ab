package proof

import (
	"fmt"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
)

func BenchmarkGuess(b *testing.B) {
	var items []activity.Item
	for i := range 24 {
		items = append(items, activity.Item{ID: fmt.Sprint("i", i), Copies: 1, Weight: 1, Tags: []string{fmt.Sprint(i % 6)}})
	}
	var targets []activity.Target
	s := activity.Solution{Credit: 100, Right: map[string]activity.Selector{}}
	for j := range 5 {
		id := fmt.Sprint("t", j)
		targets = append(targets, activity.Target{ID: id, Lets: activity.Selector{All: true}, Weight: 1})
		s.Right[id] = activity.Selector{Tags: []string{fmt.Sprint(j)}}
	}
	sort := &activity.Doc{Items: items, Targets: targets, Key: activity.Key{Solutions: []activity.Solution{s}}, Marks: activity.Marks{By: "item", Points: 1000, Shares: []int{100}}}
	var match []activity.Target
	m := activity.Solution{Credit: 100, Right: map[string]activity.Selector{}}
	for j := range 8 {
		id := fmt.Sprint("t", j)
		match = append(match, activity.Target{ID: id, Lets: activity.Selector{All: true}, Weight: 1, Holds: 1})
		m.Right[id] = activity.Selector{Items: []string{items[j].ID}}
	}
	eight := &activity.Doc{Items: items[:8], Targets: match, Key: activity.Key{Solutions: []activity.Solution{m}}, Marks: sort.Marks}
	lane := &activity.Doc{Items: items[:9], Targets: []activity.Target{{ID: "l", Lets: activity.Selector{All: true}, Weight: 1, Ordered: true}},
		Key: activity.Key{Solutions: []activity.Solution{{Credit: 100, Right: map[string]activity.Selector{"l": {All: true}},
			Orders: []activity.Order{{Target: "l", Tiers: [][]string{{"i0"}, {"i1", "i2"}, {"i3"}, {"i4"}, {"i5"}, {"i6", "i7"}, {"i8"}}}}}}},
		Marks: activity.Marks{By: "order", Points: 1000, Shares: []int{100, 50}, Measure: "pairs"}}
	for _, c := range []struct {
		name string
		doc  *activity.Doc
	}{{"sort 24 drawn", sort}, {"match 8 all", eight}, {"lane 9 drawn", lane}} {
		judge, err := marks.NewJudge(c.doc)
		if err != nil {
			b.Fatal(err)
		}
		b.Run(c.name, func(b *testing.B) {
			for b.Loop() {
				guess(b.Context(), judge, false)
			}
		})
	}
}

// Whatever the order of the document, the guesser's chance is the same.
func TestChanceDoesNotHangOnTheOrderOfRows(t *testing.T) {
	item := func(id string) activity.Item { return activity.Item{ID: id, Copies: 1, Weight: 1} }
	doc := &activity.Doc{
		Items: []activity.Item{item("a"), item("b"), item("c"), item("d")},
		Targets: []activity.Target{
			{ID: "one", Lets: activity.Selector{All: true}, Weight: 1, Holds: 1},
			{ID: "two", Lets: activity.Selector{Items: []string{"a", "b", "c"}}, Weight: 1, Holds: 2},
			{ID: "lane", Lets: activity.Selector{Items: []string{"c", "d"}}, Weight: 1, Ordered: true},
		},
		Key: activity.Key{Solutions: []activity.Solution{{Credit: 100, Right: map[string]activity.Selector{
			"one": {Items: []string{"a"}}, "two": {Items: []string{"b"}}, "lane": {Items: []string{"c", "d"}}},
			Orders: []activity.Order{{Target: "lane", Tiers: [][]string{{"d"}, {"c"}}}}}}},
		Marks: activity.Marks{By: "item", Points: 1000, Shares: []int{100}, Measure: "run"},
	}
	first := New(t.Context(), doc).Chance()
	for range len(doc.Items) {
		doc.Items = append(doc.Items[1:], doc.Items[0])
		if c := New(t.Context(), doc).Chance(); c != first || !c.Exact {
			t.Errorf("%s first: %+v, before it was %+v", doc.Items[0].ID, c, first)
		}
	}
}
