package ways_test

import (
	"context"
	"fmt"
	"math/big"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/ways"
)

func number(n int) *int { return &n }

func doc(items []activity.Item, targets []activity.Target, solutions ...activity.Solution) *activity.Parts {
	return activity.NewParts(&activity.Doc{Items: items, Targets: targets, Key: activity.Key{Solutions: solutions}})
}

func item(id string, copies int, tags ...string) activity.Item {
	return activity.Item{ID: id, Copies: copies, Tags: tags, Weight: 1}
}

func target(id string, holds int) activity.Target {
	return activity.Target{ID: id, Holds: holds, Lets: activity.Selector{All: true}, Weight: 1}
}

func lane(id string) activity.Target {
	t := target(id, 0)
	t.Ordered = true
	return t
}

func of(items ...string) activity.Selector { return activity.Selector{Items: items} }
func tagged(t ...string) activity.Selector { return activity.Selector{Tags: t} }
func right(more ...any) activity.Solution {
	s := activity.Solution{Credit: 100, Right: map[string]activity.Selector{}}
	for i := 0; i < len(more); i += 2 {
		s.Right[more[i].(string)] = more[i+1].(activity.Selector)
	}
	return s
}

func letters(n int) (items []activity.Item) {
	for i := range n {
		items = append(items, item(string(rune('a'+i)), 1, "letter"))
	}
	return items
}

func Example() {
	// One of two white lamps and one of two red ones.
	items := []activity.Item{item("clip", 1, "white"), item("bar", 1, "white"), item("post", 1, "red"), item("rack", 1, "red")}
	s := right("bike", tagged("white", "red"))
	s.Needs = []activity.Need{{Target: "bike", Of: tagged("white"), Min: 1, Max: number(1)}, {Target: "bike", Of: tagged("red"), Min: 1, Max: number(1)}}
	n := ways.Count(context.Background(), doc(items, []activity.Target{target("bike", 0)}, s))
	fmt.Println(n.Value, n.Exact)
	// Output: 4 true
}

func TestCountsByHand(t *testing.T) {
	all := activity.Selector{All: true}
	need := func(s activity.Solution, needs ...activity.Need) activity.Solution {
		s.Needs = needs
		return s
	}
	order := func(s activity.Solution, orders ...activity.Order) activity.Solution {
		s.Orders = orders
		return s
	}
	for _, c := range []struct {
		name  string
		parts *activity.Parts
		want  string
	}{
		{"each in its place", doc(letters(3), []activity.Target{target("x", 0), target("y", 0)}, right("x", of("a", "b"), "y", of("c"))), "1"},
		{"nothing asked for", doc(letters(3), []activity.Target{target("x", 0)}, right()), "1"},
		{"either of two places", doc(letters(1), []activity.Target{target("x", 0), target("y", 0)}, right("x", all, "y", all)), "2"},
		{"four in four places that hold one", doc(letters(4), []activity.Target{target("w", 1), target("x", 1), target("y", 1), target("z", 1)},
			right("w", all, "x", all, "y", all, "z", all)), "24"},
		{"two of five", doc(letters(5), []activity.Target{target("x", 0)}, need(right("x", all), activity.Need{Target: "x", Of: all, Min: 2, Max: number(2)})), "10"},
		{"at least two of five", doc(letters(5), []activity.Target{target("x", 0)}, need(right("x", all), activity.Need{Target: "x", Of: all, Min: 2})), "26"},
		{"at least two of five, where three go in", doc(letters(5), []activity.Target{target("x", 3)}, need(right("x", all), activity.Need{Target: "x", Of: all, Min: 2})), "20"},
		{"three alike in two places", doc([]activity.Item{item("a", 3)}, []activity.Target{target("x", 0), target("y", 0)}, right("x", all, "y", all)), "4"},
		{"a lane without an order", doc(letters(4), []activity.Target{lane("l")}, right("l", all)), "24"},
		{"a lane with alike ones", doc([]activity.Item{item("a", 2), item("b", 2)}, []activity.Target{lane("l")}, right("l", all)), "6"},
		{"two lanes without an order", doc(letters(3), []activity.Target{lane("l"), lane("m")}, right("l", all, "m", all)), "24"},
		{"tiers", doc(letters(5), []activity.Target{lane("l")}, order(right("l", all), activity.Order{Target: "l", Tiers: [][]string{{"a"}, {"b", "c", "d"}, {"e"}}})), "6"},
		{"pairs", doc(letters(4), []activity.Target{lane("l")}, order(right("l", all), activity.Order{Target: "l", Before: [][]string{{"a", "b"}, {"c", "d"}}})), "6"},
		{"an order with too little room", doc(letters(2), []activity.Target{func() activity.Target { l := lane("l"); l.Holds = 1; return l }()},
			order(right("l", all), activity.Order{Target: "l", Tiers: [][]string{{"a"}, {"b"}}})), "0"},
		{"two solutions that are the same", doc(letters(2), []activity.Target{target("x", 0), target("y", 0)}, right("x", all, "y", all), right("x", all, "y", all)), "4"},
		{"two that share one", doc(letters(2), []activity.Target{target("x", 0), target("y", 0)}, right("x", all, "y", of("a")), right("x", all, "y", of("b"))), "3"},
		{"tiers and an order across them", doc(letters(4), []activity.Target{lane("l")},
			order(right("l", all), activity.Order{Target: "l", Tiers: [][]string{{"a", "b"}, {"c", "d"}}}),
			order(right("l", all), activity.Order{Target: "l", Tiers: [][]string{{"a"}, {"b", "c"}, {"d"}}})), "5"},
		{"an order and none", doc(letters(3), []activity.Target{lane("l")}, right("l", all),
			order(right("l", all), activity.Order{Target: "l", Tiers: [][]string{{"a"}, {"b"}, {"c"}}})), "6"},
		{"orders that contradict each other", doc(letters(2), []activity.Target{lane("l")},
			order(right("l", all), activity.Order{Target: "l", Tiers: [][]string{{"a"}, {"b"}}}),
			order(right("l", all), activity.Order{Target: "l", Tiers: [][]string{{"b"}, {"a"}}})), "2"},
		{"impossible beside possible", doc(letters(2), []activity.Target{target("x", 1)}, right("x", all), right("x", of("b"))), "1"},
	} {
		t.Run(c.name, func(t *testing.T) {
			n := ways.Count(t.Context(), c.parts)
			if n.Value.String() != c.want || !n.Exact {
				t.Errorf("%s (exact %v), want %s", n.Value, n.Exact, c.want)
			}
			met := map[string]bool{}
			done := ways.Each(t.Context(), c.parts, func(a *placing.Arrangement, _ int) bool {
				met[fmt.Sprint(a.Names())] = true
				return true
			})
			if fmt.Sprint(len(met)) != c.want || !done {
				t.Errorf("went through %d (done %v), want %s", len(met), done, c.want)
			}
		})
	}
}

// TestCountsLargeOnes are those that have a formula.
func TestCountsLargeOnes(t *testing.T) {
	all := activity.Selector{All: true}
	fact := func(n int64) *big.Int { return new(big.Int).MulRange(1, n) }
	// 60 pieces, five into each of twelve targets: 60! / 5!^12.
	var items []activity.Item
	for i := range 60 {
		items = append(items, item(fmt.Sprint("i", i), 1))
	}
	var targets []activity.Target
	s := right()
	for j := range 12 {
		id := fmt.Sprint("t", j)
		targets = append(targets, target(id, 5))
		s.Right[id] = all
	}
	want := fact(60)
	for range 12 {
		want.Quo(want, fact(5))
	}
	if n := ways.Count(t.Context(), doc(items, targets, s)); !n.Exact || n.Value.Cmp(want) != 0 {
		t.Errorf("60 into 12: %s, want %s", n.Value, want)
	}
	// Each of 40 items in either of two targets of its own pair.
	s = right()
	for i := range 40 {
		for _, j := range []int{i % 12, (i + 1) % 12} {
			sel := s.Right[targets[j].ID]
			sel.Items = append(sel.Items, items[i].ID)
			s.Right[targets[j].ID] = sel
		}
	}
	for j := range targets {
		targets[j].Holds = 0
	}
	if n := ways.Count(t.Context(), doc(items, targets, s)); !n.Exact || n.Value.Cmp(new(big.Int).Lsh(big.NewInt(1), 40)) != 0 {
		t.Errorf("40 in either of two: %s, want 2^40", n.Value)
	}
	// Fifty solutions, of which every two share what is in the first place.
	var solutions []activity.Solution
	for i := range 50 {
		solutions = append(solutions, right("t0", of("i0"), "t1", of(fmt.Sprint("i", 1+i%25))))
	}
	if n := ways.Count(t.Context(), doc(items, targets, solutions...)); !n.Exact || n.Value.String() != "25" {
		t.Errorf("fifty solutions: %s, want 25", n.Value)
	}
}

// TestEachStops when it is told to.
func TestEachStops(t *testing.T) {
	all := activity.Selector{All: true}
	n := 0
	ways.Each(t.Context(), doc(letters(8), []activity.Target{target("x", 0), target("y", 0)}, right("x", all, "y", all)), func(*placing.Arrangement, int) bool {
		n++
		return n < 5
	})
	if n != 5 {
		t.Errorf("it went on to %d", n)
	}
}

// TestPastItsEffort gives a lower bound, the same each time.
func TestPastItsEffort(t *testing.T) {
	var items []activity.Item
	var targets []activity.Target
	s := right()
	for j := range 40 {
		targets = append(targets, target(fmt.Sprint("t", j), 1))
	}
	for i := range 40 { // each with places that no other has all of
		items = append(items, item(fmt.Sprint("i", i), 1))
		for j := range 40 {
			if (i*31+j*17+i*i*j)%13 < 6 || i == j {
				sel := s.Right[targets[j].ID]
				sel.Items = append(sel.Items, items[i].ID)
				s.Right[targets[j].ID] = sel
			}
		}
	}
	n := ways.Count(t.Context(), doc(items, targets, s))
	if n.Exact {
		t.Errorf("40 tangled items: %s, exact", n.Value)
	}
	if m := ways.Count(t.Context(), doc(items, targets, s)); m.Value.Cmp(n.Value) != 0 {
		t.Errorf("%s the first time and %s the second", n.Value, m.Value)
	}
}

// Sixty items in twelve targets: ten tags, each right in three targets, with needs
// in every second target and room for a few more than there are.
func BenchmarkCountSixtyByTwelve(b *testing.B) {
	var items []activity.Item
	for i := range 60 {
		items = append(items, item(fmt.Sprint("i", i), 1+i%7/6, fmt.Sprint("tag", i%10)))
	}
	var targets []activity.Target
	s := right()
	for j := range 12 {
		id := fmt.Sprint("t", j)
		targets = append(targets, target(id, 9))
		tags := []string{fmt.Sprint("tag", j%10), fmt.Sprint("tag", (j+1)%10), fmt.Sprint("tag", (j+2)%10)}
		s.Right[id] = tagged(tags...)
		if j%2 == 0 {
			s.Needs = append(s.Needs, activity.Need{Target: id, Of: tagged(tags[0]), Min: 1, Max: number(3)})
		}
	}
	parts := doc(items, targets, s)
	for b.Loop() {
		n := ways.Count(b.Context(), parts)
		if !n.Exact {
			b.Fatal("not exact")
		}
		b.ReportMetric(float64(len(n.Value.String())), "digits")
	}
}
