package order

import "math/bits"

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
	before := make([]uint32, o.n) // those that must come earlier
	for a := range o.n {
		for b := range o.n {
			if o.Before(a, b) {
				before[b] |= 1 << a
			}
		}
	}
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
