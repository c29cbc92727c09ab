package order_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"keenmagpie/core/order"
)

func Example() {
	o, _ := order.New(4, [][]int{{0}, {1, 2}, {3}}, nil)
	fmt.Println(o.Before(0, 3), o.Before(1, 2))
	fmt.Println(o.Largest([]int{0, 3, 2, 1}, nil, nil))
	_, circle := order.New(3, [][]int{{0}, {1}}, [][2]int{{1, 2}, {2, 0}})
	fmt.Println(circle)
	// Output:
	// true false
	// [true false true true]
	// [0 1 2]
}

func TestLargestByHand(t *testing.T) {
	chain, _ := order.New(4, [][]int{{0}, {1}, {2}, {3}}, nil)
	pairs, _ := order.New(4, nil, [][2]int{{0, 1}, {2, 3}})
	yes, no := true, false
	for name, c := range map[string]struct {
		o        *order.Order
		seq, age []int
		held     []bool
		want     []bool
	}{
		// 1 0: either could stay; the older does.
		"the older stays":         {chain, []int{1, 0}, []int{5, 4}, nil, []bool{no, yes}},
		"same age: the first":     {chain, []int{1, 0}, []int{4, 4}, nil, []bool{yes, no}},
		"held against age":        {chain, []int{1, 0}, []int{5, 4}, []bool{yes, no}, []bool{yes, no}},
		"held makes the set less": {chain, []int{3, 0, 1, 2}, nil, []bool{yes, no, no, no}, []bool{yes, no, no, no}},
		"two held that conflict":  {chain, []int{1, 0}, []int{5, 4}, []bool{yes, yes}, []bool{no, yes}},
		// 1 3 0 2: 1 and 3, 1 and 2, or 0 and 2. By age 3 is first, then 1.
		"greedy by age": {chain, []int{1, 3, 0, 2}, []int{2, 1, 3, 4}, nil, []bool{yes, yes, no, no}},
		// Of 0<1 and 2<3, in 1 2 0 3 only 1 and 0 stand against each other.
		"pairs": {pairs, []int{1, 2, 0, 3}, []int{2, 3, 1, 4}, nil, []bool{no, yes, yes, yes}},
	} {
		t.Run(name, func(t *testing.T) {
			if got := c.o.Largest(c.seq, c.age, c.held); !slices.Equal(got, c.want) {
				t.Errorf("%v, want %v", got, c.want)
			}
		})
	}
}

func TestMeasuresByHand(t *testing.T) {
	chain, _ := order.New(4, [][]int{{0}, {1}, {2}, {3}}, nil)
	fork, _ := order.New(4, nil, [][2]int{{0, 1}, {0, 2}, {1, 3}, {2, 3}}) // 0, then 1 and 2, then 3
	free, _ := order.New(2, [][]int{{0, 1}}, nil)
	one, _ := order.New(1, [][]int{{0}}, nil)
	f := order.Foreign
	for name, c := range map[string]struct {
		o                           *order.Order
		seq                         []int
		position, pairs, neighbours string
	}{
		"all in order":              {chain, []int{0, 1, 2, 3}, "4/4", "6/6", "3/3"},
		"first two swapped":         {chain, []int{1, 0, 2, 3}, "2/4", "5/6", "1/3"},
		"second left out":           {chain, []int{0, 2, 3}, "1/4", "3/6", "1/3"},
		"a stranger in front":       {chain, []int{f, 0, 1, 2, 3}, "0/4", "6/6", "3/3"},
		"a stranger between":        {chain, []int{0, f, 1, 2, 3}, "1/4", "6/6", "2/3"},
		"empty":                     {chain, nil, "0/1", "0/1", "0/1"},
		"strangers alone":           {chain, []int{f, f}, "0/1", "0/1", "0/1"},
		"either way is in order":    {fork, []int{0, 2, 1, 3}, "4/4", "5/5", "3/3"},
		"3 before 1":                {fork, []int{0, 2, 3, 1}, "2/4", "4/5", "2/3"}, // 0 2 _ _ agree; all pairs but 1 before 3; 0-2, 2-3
		"no pairs":                  {free, []int{1}, "1/2", "1/1", "0/1"},
		"no pairs and none of them": {free, []int{f}, "0/1", "0/1", "0/1"},
		"one thing":                 {one, []int{0}, "1/1", "1/1", "1/1"},
	} {
		t.Run(name, func(t *testing.T) {
			show := func(got, of int) string { return fmt.Sprintf("%d/%d", got, of) }
			if got := show(c.o.Position(c.seq)); got != c.position {
				t.Errorf("position %s, want %s", got, c.position)
			}
			if got := show(c.o.Pairs(c.seq)); got != c.pairs {
				t.Errorf("pairs %s, want %s", got, c.pairs)
			}
			if got := show(c.o.Neighbours(c.seq)); got != c.neighbours {
				t.Errorf("neighbours %s, want %s", got, c.neighbours)
			}
		})
	}
}

// random makes an order of n things by tiers alone, by pairs alone or by both.
func random(rnd *rand.Rand, n int) *order.Order {
	hidden := rnd.Perm(n) // everything follows this sequence, so there is no circle
	var tiers [][]int
	var before [][2]int
	kind := rnd.IntN(3)
	if kind < 2 {
		for i := 0; i < n; {
			size := 1 + rnd.IntN(min(3, n-i))
			tiers = append(tiers, hidden[i:i+size])
			i += size
		}
	}
	if kind > 0 {
		for range n {
			i, j := rnd.IntN(n), rnd.IntN(n)
			if i < j {
				before = append(before, [2]int{hidden[i], hidden[j]})
			}
		}
	}
	if kind == 2 && len(before) == 0 {
		before = append(before, [2]int{hidden[0], hidden[n-1]})
	}
	o, circle := order.New(n, tiers, before)
	if circle != nil {
		panic("a circle where there is none")
	}
	return o
}

// The twin tries every subset: it must hold what is held, have no two against
// each other, be largest, and come first when the members are compared by age.
func TestLargestAgreesWithTryingAllSubsets(t *testing.T) {
	rnd := rand.New(rand.NewPCG(4, 0))
	for range 4000 {
		n := 2 + rnd.IntN(7)
		o := random(rnd, n)
		seq := rnd.Perm(n)[:1+rnd.IntN(n)]
		age, held := make([]int, len(seq)), make([]bool, len(seq))
		for i := range age {
			age[i] = rnd.IntN(4)
		}
		// Hold some that follow the order.
		for i := range held {
			held[i] = rnd.IntN(4) == 0
		}
		if !o.Follows(pick(seq, held)) {
			clear(held)
		}
		byAge := make([]int, len(seq))
		for i := range byAge {
			byAge[i] = i
		}
		slices.SortStableFunc(byAge, func(a, b int) int { return age[a] - age[b] })
		var best []bool
		for set := range 1 << len(seq) {
			in := make([]bool, len(seq))
			ok := true
			for i := range in {
				in[i] = set>>i&1 != 0
				ok = ok && (in[i] || !held[i])
			}
			if !ok || !o.Follows(pick(seq, in)) {
				continue
			}
			if best == nil || count(in) > count(best) || count(in) == count(best) && earlier(in, best, byAge) {
				best = in
			}
		}
		if got := o.Largest(seq, age, held); !slices.Equal(got, best) {
			t.Fatalf("%v of age %v, held %v: %v, want %v", seq, age, held, got, best)
		}
	}
}

func pick(seq []int, in []bool) []int {
	var out []int
	for i, a := range seq {
		if in[i] {
			out = append(out, a)
		}
	}
	return out
}

func count(in []bool) int { return len(pick(make([]int, len(in)), in)) }

func earlier(a, b []bool, byAge []int) bool {
	for _, i := range byAge {
		if a[i] != b[i] {
			return a[i]
		}
	}
	return false
}

// The twin goes through all permutations that follow the order.
func TestPositionAgreesWithTryingAllExtensions(t *testing.T) {
	rnd := rand.New(rand.NewPCG(5, 0))
	for range 400 {
		n := 2 + rnd.IntN(5)
		o := random(rnd, n)
		if !o.Follows(o.Extension()) {
			t.Fatalf("%v does not follow its order", o.Extension())
		}
		seq := rnd.Perm(n)
		for i := range seq {
			if rnd.IntN(6) == 0 {
				seq[i] = order.Foreign
			}
		}
		seq = seq[:1+rnd.IntN(n)]
		best := 0
		permutations(n, func(l []int) {
			if o.Follows(l) {
				agree := 0
				for k := range seq {
					if seq[k] == l[k] {
						agree++
					}
				}
				best = max(best, agree)
			}
		})
		if got, _ := o.Position(seq); got != best {
			t.Fatalf("%v: %d, want %d", seq, got, best)
		}
	}
}

func permutations(n int, f func([]int)) {
	list := make([]int, n)
	for i := range list {
		list[i] = i
	}
	var from func(int)
	from = func(k int) {
		if k == n {
			f(list)
			return
		}
		for i := k; i < n; i++ {
			list[k], list[i] = list[i], list[k]
			from(k + 1)
			list[k], list[i] = list[i], list[k]
		}
	}
	from(0)
}

func BenchmarkLane16(b *testing.B) {
	o, _ := order.New(16, nil, [][2]int{{0, 8}, {1, 9}, {2, 10}, {3, 11}, {12, 4}, {13, 5}, {14, 6}, {15, 7}})
	seq := rand.New(rand.NewPCG(1, 1)).Perm(16)
	b.Run("largest", func(b *testing.B) {
		for b.Loop() {
			o.Largest(seq, nil, nil)
		}
	})
	b.Run("position", func(b *testing.B) {
		for b.Loop() {
			o.Position(seq)
		}
	})
}

func BenchmarkTiers200(b *testing.B) {
	tiers := make([][]int, 100)
	for i := range tiers {
		tiers[i] = []int{2 * i, 2*i + 1}
	}
	o, _ := order.New(200, tiers, nil)
	for name, seq := range map[string][]int{
		"shuffled":   rand.New(rand.NewPCG(1, 1)).Perm(200),
		"reversed":   func() []int { s := o.Extension(); slices.Reverse(s); return s }(),
		"last first": append([]int{199}, o.Extension()[:199]...),
	} {
		b.Run(name, func(b *testing.B) {
			for b.Loop() {
				o.Largest(seq, nil, nil)
				o.Pairs(seq)
			}
		})
	}
}
