package ways

import (
	"cmp"
	"math/big"
	"math/bits"
	"slices"
)

// states are numbers of ways by state, in a fixed number of words each, found by a
// table of open addresses that is at most half full.
type states struct {
	words int
	names []uint64
	slab  []big.Word
	table []int32 // one more than the number of a state; 0 is free
	shift int
}

func newStates(words int) *states { return &states{words: words, table: make([]int32, 64), shift: 58} }

func (s *states) clear() {
	clear(s.table)
	s.names, s.slab = s.names[:0], s.slab[:0]
}

// ways is the number of state k, which must not be changed.
func (s *states) ways(k int) []big.Word { return s.slab[k*s.words : (k+1)*s.words] }

// slot is where a state is in the table, or would be (multiplicative hashing:
// Knuth, The Art of Computer Programming 3, section 6.4).
func (s *states) slot(name uint64) int {
	at := int(name * 0x9E3779B97F4A7C15 >> s.shift)
	for s.table[at] != 0 && s.names[s.table[at]-1] != name {
		at = (at + 1) & (len(s.table) - 1)
	}
	return at
}

// add adds ways × times to a state; times nil is 1.
func (s *states) add(name uint64, ways, times []big.Word) {
	at := s.slot(name)
	k := int(s.table[at]) - 1
	if k < 0 {
		k = len(s.names)
		s.names = append(s.names, name)
		for range s.words {
			s.slab = append(s.slab, 0)
		}
		if s.table[at] = int32(k + 1); 2*len(s.names) > len(s.table) {
			s.table = make([]int32, 4*len(s.table))
			s.shift -= 2
			for i, name := range s.names {
				s.table[s.slot(name)] = int32(i + 1)
			}
		}
	}
	sum := s.ways(k)
	if times == nil {
		addTimes(sum, ways, 1)
	}
	for i, w := range times {
		addTimes(sum[i:], ways, uint(w))
	}
}

// addTimes adds ways × w to sum, which has room for what comes out.
func addTimes(sum, ways []big.Word, w uint) {
	carry := uint(0)
	for i := range sum {
		high, low := bits.Mul(uint(ways[i]), w)
		low, c := bits.Add(low, carry, 0)
		high += c
		low, c = bits.Add(low, uint(sum[i]), 0)
		sum[i], carry = big.Word(low), high+c
	}
}

// richest keeps the states that come about in the most ways.
func (s *states) richest(keep int) *states {
	order := make([]int, len(s.names))
	for k := range order {
		order[k] = k
	}
	slices.SortFunc(order, func(a, b int) int {
		x, y := s.ways(a), s.ways(b)
		for i := s.words - 1; i >= 0; i-- {
			if x[i] != y[i] {
				return cmp.Compare(y[i], x[i])
			}
		}
		return cmp.Compare(s.names[a], s.names[b])
	})
	out := newStates(s.words)
	for _, k := range order[:keep] {
		out.add(s.names[k], s.ways(k), nil)
	}
	return out
}
