// Package order knows partial orders of a few things: which of a sequence of
// them stand in order, and how near to the order a sequence comes.
//
// Things are numbered from 0. An order is made of tiers, one after the other,
// each in any order within itself, and of further pairs, of which one comes
// before the other; what follows from them follows too (a before b, b before c:
// a before c).
//
//	o, _ := order.New(4, [][]int{{0}, {1, 2}, {3}}, nil)
//	o.Before(0, 3)                                   // true
//	o.Largest([]int{0, 3, 2, 1}, nil, nil)           // 0, 2 and 1: the 3 came too early
//
// In a sequence, two things stand against each other when the later one should
// come before the earlier. That relation is itself a partial order, so a largest
// set without such a pair is a maximum antichain, whose size is the number of
// things less a maximum matching (Dilworth, A decomposition theorem for partially
// ordered sets, 1950; Fulkerson's reduction to matching, 1956). With tiers alone
// it is a longest run that never goes down, found by binary search (Fredman, On
// computing the length of longest increasing subsequences, 1975).
//
// Where several sets are largest, things are taken greedily in order of age.
// Things that must be in (held) are; should two of those stand against each
// other, which only a changed order can bring about, the older stays.
package order

import (
	"math/bits"
	"slices"
)

// Most is how many things an order can have; MostPairs how many when it has
// pairs besides tiers.
const (
	Most      = 200
	MostPairs = 16
)

type row [4]uint64 // a set of up to 256 things

func (r *row) add(i int)     { r[i>>6] |= 1 << (i & 63) }
func (r row) has(i int) bool { return r[i>>6]>>(i&63)&1 != 0 }
func (r row) len() (n int) {
	for _, w := range r {
		n += bits.OnesCount64(w)
	}
	return n
}

// Order is a partial order of n things.
type Order struct {
	n      int
	after  []row // those that come after each
	tier   []int // of each thing, where there are tiers alone; else nil
	starts []int // where in the sequence each tier starts, and the end
	pairs  int
}

// New makes the order of n things, at most [Most]. Where they contradict each
// other it returns the things on one circle, in order, and no order.
// Cost: O(n³/64).
func New(n int, tiers [][]int, before [][2]int) (o *Order, circle []int) {
	o = &Order{n: n, after: make([]row, n)}
	direct := make([]row, n)
	for i, tier := range tiers {
		for _, a := range tier {
			for _, later := range tiers[i+1:] {
				for _, b := range later {
					direct[a].add(b)
				}
			}
		}
	}
	for _, p := range before {
		direct[p[0]].add(p[1])
	}
	copy(o.after, direct)
	for k := range n {
		for i := range n {
			if o.after[i].has(k) {
				for w := range o.after[i] {
					o.after[i][w] |= o.after[k][w]
				}
			}
		}
	}
	for i := range n {
		if o.after[i].has(i) {
			return nil, o.circle(direct, i)
		}
		o.pairs += o.after[i].len()
	}
	if len(before) == 0 {
		o.tier = make([]int, n)
		at := 0
		for i, tier := range tiers {
			o.starts = append(o.starts, at)
			at += len(tier)
			for _, a := range tier {
				o.tier[a] = i
			}
		}
		o.starts = append(o.starts, at)
	}
	return o, nil
}

// circle walks from a thing that comes before itself, each time on to the lowest
// that still leads back, by the shortest way.
func (o *Order) circle(direct []row, from int) []int {
	via := make([]int, o.n)
	for i := range via {
		via[i] = -1
	}
	queue := []int{from}
	for {
		a := queue[0]
		queue = queue[1:]
		for b := range o.n {
			if !direct[a].has(b) {
				continue
			}
			if b == from {
				out := []int{a}
				for ; a != from; a = via[a] {
					out = append(out, via[a])
				}
				slices.Reverse(out)
				return out
			}
			if via[b] < 0 {
				via[b] = a
				queue = append(queue, b)
			}
		}
	}
}

// Len is how many things there are.
func (o *Order) Len() int { return o.n }

// Before reports whether a comes before b.
func (o *Order) Before(a, b int) bool { return o.after[a].has(b) }

// Extension is one sequence of all things that follows the order: of those that
// may come next always the lowest. Cost: O(n²).
func (o *Order) Extension() []int {
	out, taken := make([]int, 0, o.n), make([]bool, o.n)
	for len(out) < o.n {
		for b := range o.n {
			ready := !taken[b]
			for a := range o.n {
				ready = ready && (taken[a] || !o.Before(a, b))
			}
			if ready {
				taken[b] = true
				out = append(out, b)
				break
			}
		}
	}
	return out
}

// Follows reports whether no two of the sequence stand against each other. Things
// that the order does not know are passed over.
func (o *Order) Follows(seq []int) bool {
	if o.tier != nil {
		high := 0
		for _, a := range seq {
			if a == Foreign {
				continue
			}
			if o.tier[a] < high {
				return false
			}
			high = o.tier[a]
		}
		return true
	}
	for i, b := range seq {
		for _, a := range seq[:i] {
			if a != Foreign && b != Foreign && o.Before(b, a) {
				return false
			}
		}
	}
	return true
}

// Largest marks a largest set of the sequence without two that stand against
// each other: all that are held, then by age (nil: by place), the lower number
// first. The things of the sequence are different. Cost: nothing to speak of when
// the sequence follows the order; with tiers O(n log n) for each thing that has to
// be chosen; with pairs O(n⁴) for n up to [MostPairs].
func (o *Order) Largest(seq, age []int, held []bool) []bool {
	in := make([]bool, len(seq))
	if o.Follows(seq) {
		for i := range in {
			in[i] = true
		}
		return in
	}
	byAge := make([]int, len(seq))
	for i := range byAge {
		byAge[i] = i
	}
	if age != nil {
		slices.SortStableFunc(byAge, func(a, b int) int { return age[a] - age[b] })
	}
	out := make([]bool, len(seq)) // stands against one that is held
	for _, i := range byAge {
		if held == nil || !held[i] || out[i] {
			continue
		}
		in[i] = true
		for j := range seq {
			if j < i && o.Before(seq[i], seq[j]) || j > i && o.Before(seq[j], seq[i]) {
				out[j] = true
			}
		}
	}
	if o.tier != nil {
		o.longestRun(seq, byAge, in, out)
	} else {
		o.antichain(seq, byAge, in, out)
	}
	return in
}

// longestRun fills in the gaps between those that are in already, each gap by
// itself: a thing of a gap must not go below the one on its left, nor above the
// one on its right.
func (o *Order) longestRun(seq, byAge []int, in, out []bool) {
	rank := make([]int, len(seq))
	for r, i := range byAge {
		rank[i] = r
	}
	low, from := -1, 0
	for to := 0; to <= len(seq); to++ {
		if to < len(seq) && !in[to] {
			continue
		}
		high := o.n
		if to < len(seq) {
			high = o.tier[seq[to]]
		}
		var gap []int
		for i := from; i < to; i++ {
			if v := o.tier[seq[i]]; !out[i] && low <= v && v <= high {
				gap = append(gap, i)
			}
		}
		o.fill(seq, rank, gap, in)
		low, from = high, to+1
	}
}

// fill takes the oldest of the gap that is on a longest run, and goes on with
// what is left of it and right of it.
func (o *Order) fill(seq, rank, gap []int, in []bool) {
	for len(gap) > 0 {
		value := func(k int) int { return o.tier[seq[gap[k]]] }
		upTo := runs(len(gap), value)
		from := runs(len(gap), func(k int) int { return -value(len(gap) - 1 - k) })
		most, best := slices.Max(upTo), -1
		if most == len(gap) {
			for _, i := range gap {
				in[i] = true
			}
			return
		}
		for k := range gap {
			if upTo[k]+from[len(gap)-1-k]-1 == most && (best < 0 || rank[gap[k]] < rank[gap[best]]) {
				best = k
			}
		}
		v := value(best)
		in[gap[best]] = true
		var left, right []int
		for k, i := range gap {
			if k < best && value(k) <= v {
				left = append(left, i)
			} else if k > best && value(k) >= v {
				right = append(right, i)
			}
		}
		o.fill(seq, rank, left, in)
		gap = right
	}
}

// runs tells for each of n values how long the longest run that never goes down
// is that ends with it. Cost: O(n log n).
func runs(n int, value func(int) int) []int {
	out := make([]int, n)
	var ends []int // ends[l]: the lowest value that a run of l+1 ends with
	for i := range n {
		v := value(i)
		l, _ := slices.BinarySearchFunc(ends, v, func(end, v int) int {
			if end <= v {
				return -1
			}
			return 1
		})
		if l == len(ends) {
			ends = append(ends, v)
		} else {
			ends[l] = v
		}
		out[i] = l + 1
	}
	return out
}

// antichain is longestRun's counterpart for up to [MostPairs] things and any order.
func (o *Order) antichain(seq, byAge []int, in, out []bool) {
	against := make([]uint32, len(seq)) // later ones that should come before
	both := make([]uint32, len(seq))
	open := uint32(0)
	for i := range seq {
		for j := i + 1; j < len(seq); j++ {
			if o.Before(seq[j], seq[i]) {
				against[i] |= 1 << j
				both[i] |= 1 << j
				both[j] |= 1 << i
			}
		}
		if !in[i] && !out[i] {
			open |= 1 << i
		}
	}
	size := widest(against, open)
	for _, i := range byAge {
		if open>>i&1 == 0 {
			continue
		}
		without := open &^ (1 << i)
		if rest := without &^ both[i]; widest(against, rest) == size-1 {
			in[i] = true
			open, size = rest, size-1
		} else {
			open = without
		}
	}
}

// widest is the size of a maximum antichain within the set: its size less a
// maximum matching between things and those they stand against.
func widest(against []uint32, set uint32) int {
	var partner [32]int
	for i := range partner {
		partner[i] = -1
	}
	var tried uint32
	var match func(i int) bool
	match = func(i int) bool {
		for rest := against[i] & set &^ tried; rest != 0; rest &= rest - 1 {
			j := bits.TrailingZeros32(rest)
			if tried>>j&1 != 0 {
				continue
			}
			tried |= 1 << j
			if partner[j] < 0 || match(partner[j]) {
				partner[j] = i
				return true
			}
		}
		return false
	}
	matched := 0
	for rest := set; rest != 0; rest &= rest - 1 {
		tried = 0
		if match(bits.TrailingZeros32(rest)) {
			matched++
		}
	}
	return bits.OnesCount32(set) - matched
}
