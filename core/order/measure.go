package order

import (
	"math/big"
	"math/bits"
	"slices"
)

// Foreign stands in a sequence for something that the order does not know.
const Foreign = -1

func holdsNone(seq []int) bool {
	for _, a := range seq {
		if a != Foreign {
			return false
		}
	}
	return true
}

// Pairs measures the sequence by the pairs (a before b) of the order that stand
// in it that way, of all pairs of the order; 1 of 1 where the order has none, but
// nothing while the sequence holds none of its things.
func (o *Order) Pairs(seq []int) (got, of int) {
	if holdsNone(seq) {
		return 0, 1
	}
	if o.pairs == 0 {
		return 1, 1
	}
	for i, b := range seq {
		for _, a := range seq[:i] {
			if a != Foreign && b != Foreign && o.Before(a, b) {
				got++
			}
		}
	}
	return got, o.pairs
}

// Neighbours measures the sequence by its adjacent things that could be adjacent
// in a sequence that follows the order, of n−1.
func (o *Order) Neighbours(seq []int) (got, of int) {
	if holdsNone(seq) {
		return 0, 1
	}
	if o.n == 1 {
		return 1, 1
	}
	for i := 1; i < len(seq); i++ {
		if a, b := seq[i-1], seq[i]; a != Foreign && b != Foreign && !o.Before(b, a) && !o.anyBetween(a, b) {
			got++
		}
	}
	return got, o.n - 1
}

func (o *Order) anyBetween(a, b int) bool {
	for c := range o.n {
		if o.Before(a, c) && o.Before(c, b) {
			return true
		}
	}
	return false
}

// Position measures the sequence by the places at which it agrees with a sequence
// of all n things that follows the order, with the one that agrees most. With
// tiers each place belongs to a tier; with pairs it is dynamic programming over
// the sets that such a sequence can begin with. Cost: O(n), or O(n 2ⁿ).
func (o *Order) Position(seq []int) (got, of int) {
	if holdsNone(seq) {
		return 0, 1
	}
	if o.tier != nil {
		for k, a := range seq {
			if a != Foreign && o.starts[o.tier[a]] <= k && k < o.starts[o.tier[a]+1] {
				got++
			}
		}
		return got, o.n
	}
	before := o.before()
	all := uint32(1)<<o.n - 1
	best := make([]int8, all+1) // one more than the agreements of the best beginning with this set; 0: none
	best[0] = 1
	for set := uint32(0); set < all; set++ {
		if best[set] == 0 {
			continue
		}
		k := bits.OnesCount32(set)
		for rest := all &^ set; rest != 0; rest &= rest - 1 {
			b := bits.TrailingZeros32(rest)
			if before[b]&^set != 0 {
				continue
			}
			gain := best[set]
			if k < len(seq) && seq[k] == b {
				gain++
			}
			best[set|1<<b] = max(best[set|1<<b], gain)
		}
	}
	return int(best[all]) - 1, o.n
}

// Longest is how many things a largest set of the sequence has without two that
// stand against each other. Things that the order does not know are in none.
// Cost: O(n log n) with tiers; with pairs O(n³) for n up to [MostPairs].
func (o *Order) Longest(seq []int) int {
	known := make([]int, 0, len(seq))
	for _, a := range seq {
		if a != Foreign {
			known = append(known, a)
		}
	}
	if o.tier != nil {
		return slices.Max(append(runs(len(known), func(i int) int { return o.tier[known[i]] }), 0))
	}
	against := make([]uint32, len(known))
	for i := range known {
		for j := i + 1; j < len(known); j++ {
			if o.Before(known[j], known[i]) {
				against[i] |= 1 << j
			}
		}
	}
	return widest(against, 1<<len(known)-1)
}

// before is, for each of up to 32 things, the set of those that must come earlier.
func (o *Order) before() []uint32 {
	out := make([]uint32, o.n)
	for a := range o.n {
		for b := range o.n {
			if o.Before(a, b) {
				out[b] |= 1 << a
			}
		}
	}
	return out
}

// Extensions is how many sequences of all n things follow the order, or nil where
// that would take too long. With tiers, also such as come about by joining two
// orders by tiers, it is the product of their factorials; otherwise it is dynamic
// programming over the sets that a sequence can begin with.
// Cost: O(n²/64), or O(n 2ⁿ) for n up to [MostPairs].
func (o *Order) Extensions() *big.Int {
	if count := o.byTiers(); count != nil {
		return count
	}
	if o.n > MostPairs {
		return nil
	}
	before := o.before()
	all := uint32(1)<<o.n - 1
	ways := make([]uint64, all+1)
	ways[0] = 1
	for set := uint32(0); set < all; set++ {
		for rest := all &^ set; rest != 0 && ways[set] > 0; rest &= rest - 1 {
			b := bits.TrailingZeros32(rest)
			if before[b]&^set == 0 {
				ways[set|1<<b] += ways[set]
			}
		}
	}
	return new(big.Int).SetUint64(ways[all])
}

// byTiers counts the sequences where the things fall into tiers: those that have
// the same things after them, of which each tier has all that are in later ones.
func (o *Order) byTiers() *big.Int {
	size := map[row]int{}
	for _, r := range o.after {
		size[r]++
	}
	tiers := make([]row, 0, len(size))
	for r := range size {
		tiers = append(tiers, r)
	}
	slices.SortFunc(tiers, func(a, b row) int { return a.len() - b.len() })
	count, later := big.NewInt(1), 0
	for _, r := range tiers {
		if r.len() != later {
			return nil
		}
		later += size[r]
		count.Mul(count, new(big.Int).MulRange(1, int64(size[r])))
	}
	return count
}

// Join is the order in which both hold, of the same n things, or nil where they
// contradict each other. Cost: that of [New].
func (o *Order) Join(p *Order) *Order {
	var before [][2]int
	for a := range o.n {
		for b := range o.n {
			if o.Before(a, b) || p.Before(a, b) {
				before = append(before, [2]int{a, b})
			}
		}
	}
	joined, _ := New(o.n, nil, before)
	return joined
}

// Renumbered is the order with its things numbered in another way: thing i is
// number[i].
func (o *Order) Renumbered(number []int) *Order {
	var before [][2]int
	for a := range o.n {
		for b := range o.n {
			if o.Before(a, b) {
				before = append(before, [2]int{number[a], number[b]})
			}
		}
	}
	out, _ := New(o.n, nil, before)
	return out
}
