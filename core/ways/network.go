package ways

import (
	"context"
	"math"
	"math/big"
	"math/bits"

	"keenmagpie/core/activity"
)

// network is a part of a system that shares nothing with the rest of it: rows of
// items and the cells in which they can be.
type network struct {
	cells []cell
	vars  []variable
}

// cell is a row of items in a target, with the variables that a piece there
// changes: the row itself, then sums and lengths.
type cell struct {
	vars []int
	lane int // the length of a lane that keeps any order, or −1
}

// variable is what has to be remembered between the first and the last of some
// cells: how much of a row is left to be placed, or how many pieces a sum has so far.
type variable struct {
	row         bool
	size        int  // of a row: how many pieces; else how many there can be
	alike       bool // a row of one item with copies; else one piece each of several items
	must        bool // nothing of the row is left in the end
	least, most int  // of a sum; most −1: no limit
	exact       bool // a length, of which every number matters
}

// states is how many values the variable can have while it is remembered.
func (v *variable) states() int {
	switch {
	case v.row || v.exact:
		return v.size + 1
	case v.most >= 0:
		return min(v.size, v.most) + 1
	}
	return v.least + 1
}

// networks takes a system apart. Items that are in the same cells and sums, one
// piece each, are one row.
func (s *system) networks(parts *activity.Parts) []*network {
	items, targets := len(s.must), len(s.orders)
	sumsOf := make([][]int, len(s.cells))
	for k, x := range s.sums {
		for _, at := range x.cells {
			sumsOf[at] = append(sumsOf[at], k)
		}
	}
	type kind struct{ items []int }
	var kinds []*kind
	alike := map[string]*kind{}
	for i := range items {
		var sign []byte
		for t := range targets {
			if at := t*items + i; s.cells[at] {
				sign = append(sign, byte(t), byte(t>>8))
				for _, k := range sumsOf[at] {
					sign = append(sign, byte(k), byte(k>>8))
				}
				sign = append(sign, 255, 255)
			}
		}
		if len(sign) == 0 {
			continue
		}
		if s.must[i] {
			sign = append(sign, 1)
		}
		k := alike[string(sign)]
		if k == nil || parts.Doc.Items[i].Copies > 1 {
			k = &kind{}
			kinds = append(kinds, k)
			if parts.Doc.Items[i].Copies == 1 {
				alike[string(sign)] = k
			}
		}
		k.items = append(k.items, i)
	}
	whole := network{}
	for _, k := range kinds {
		it := &parts.Doc.Items[k.items[0]]
		whole.vars = append(whole.vars, variable{row: true, size: len(k.items) * it.Copies, alike: it.Copies > 1, must: s.must[k.items[0]]})
	}
	first := len(whole.vars)
	for _, x := range s.sums {
		whole.vars = append(whole.vars, variable{least: x.least, most: x.most})
	}
	for t := range targets {
		length := -1
		if parts.Doc.Targets[t].Ordered && s.orders[t] == nil {
			length = len(whole.vars)
			whole.vars = append(whole.vars, variable{most: -1, exact: true})
		}
		for r, k := range kinds {
			at := t*items + k.items[0]
			if !s.cells[at] {
				continue
			}
			c := cell{vars: []int{r}, lane: length}
			for _, x := range sumsOf[at] {
				c.vars = append(c.vars, first+x)
			}
			if length >= 0 {
				c.vars = append(c.vars, length)
			}
			for _, v := range c.vars[1:] {
				whole.vars[v].size += whole.vars[r].size
			}
			whole.cells = append(whole.cells, c)
		}
	}
	return whole.split()
}

// split takes apart what shares no variable.
func (n *network) split() []*network {
	root := make([]int, len(n.vars))
	for i := range root {
		root[i] = i
	}
	find := func(v int) int {
		for root[v] != v {
			root[v] = root[root[v]]
			v = root[v]
		}
		return v
	}
	for _, c := range n.cells {
		for _, v := range c.vars[1:] {
			root[find(v)] = find(c.vars[0])
		}
	}
	var out []*network
	part := map[int]*network{}
	for _, c := range n.cells {
		r := find(c.vars[0])
		if part[r] == nil {
			part[r] = &network{vars: n.vars}
			out = append(out, part[r])
		}
		part[r].cells = append(part[r].cells, c)
	}
	return out
}

// narrow is how many states are kept once the effort is used up: then what comes
// out is a lower bound.
const (
	narrow = 500
	widest = 200_000 // more states than that are not carried on
)

// count goes through the cells and keeps, for each state of the variables that are
// still needed, in how many ways it comes about. left is the effort that may be
// spent, and what is spent is taken from it. Once ctx is over nothing is left, and the
// count is that there are at least none.
func (n *network) count(ctx context.Context, left *int) Number {
	n.sorted()
	plans := n.plans()
	words := n.words()
	now, next := newStates(words), newStates(words)
	one := make([]big.Word, words)
	one[0] = 1
	now.add(0, one, nil)
	exact := true
	for i := range plans {
		p := &plans[i]
		if p.overflow {
			return Number{new(big.Int), false}
		}
		next.clear()
		for k, state := range now.names {
			ways := now.ways(k)
			row := p.row.get(state)
			low, high := 0, row
			if p.row.closes && p.must {
				low = row
			} else if p.must {
				low = max(0, row-p.rest)
			}
			for _, s := range p.sums {
				have := s.get(state)
				low = max(low, s.least-have-s.later)
				if s.most >= 0 {
					high = min(high, s.most-have)
				}
			}
			length := 0
			if p.lane != nil {
				length = p.lane.get(state)
			}
			for y := low; y <= high; y++ {
				to := p.row.set(state, row-y)
				for _, s := range p.sums {
					have := s.get(state) + y
					if s.most < 0 && !s.exact {
						have = min(have, s.least)
					}
					to = s.set(to, have)
				}
				next.add(to, ways, p.times(row, y, length))
			}
			*left -= max(0, high-low+1)
		}
		if ctx.Err() != nil {
			*left = -1
			return Number{new(big.Int), false}
		}
		if len(next.names) > widest {
			*left = -1
		}
		if *left < 0 && len(next.names) > narrow {
			exact = false
			next = next.richest(narrow)
		}
		now, next = next, now
	}
	sum := new(big.Int)
	for k := range now.names {
		sum.Add(sum, new(big.Int).SetBits(now.ways(k)))
	}
	return Number{sum, exact}
}

// words is how long a number of ways can be: each piece in any of its row's cells
// or in none, and at any place of a lane.
func (n *network) words() int {
	cells := map[int]int{}
	for _, c := range n.cells {
		cells[c.vars[0]]++
	}
	length := 0.0
	for v, k := range cells {
		length += float64(n.vars[v].size) * math.Log2(float64(k+1))
	}
	for _, c := range n.cells {
		if c.lane >= 0 {
			length += float64(n.vars[c.vars[0]].size) * math.Log2(float64(n.vars[c.lane].size+1))
		}
	}
	return int(length)/bits.UintSize + 2
}

// plan is one cell's step: where in a state its variables stand.
type plan struct {
	row      slot
	must     bool
	alike    bool
	rest     int // how much of the row its later cells can take
	sums     []slot
	lane     *slot
	overflow bool
	known    map[[3]int][]big.Word // times
}

// slot is a field of bits in a state.
type slot struct {
	shift, width uint
	opens        bool // this is the first cell: the value is fresh
	closes       bool // this is the last: the value is not kept
	fresh        int
	least, most  int
	later        int // how many pieces later cells can add
	exact        bool
}

func (s *slot) get(state uint64) int {
	if s.opens {
		return s.fresh
	}
	return int(state >> s.shift & (1<<s.width - 1))
}

func (s *slot) set(state uint64, value int) uint64 {
	state &^= (1<<s.width - 1) << s.shift
	if s.closes {
		return state
	}
	return state | uint64(value)<<s.shift
}

// plans gives every variable a field in the state from its first cell to its last.
func (n *network) plans() []plan {
	first, last := map[int]int{}, map[int]int{}
	for i, c := range n.cells {
		for _, v := range c.vars {
			if _, ok := first[v]; !ok {
				first[v] = i
			}
			last[v] = i
		}
	}
	takes := func(c cell) int { // how much of its row a cell can take
		most := n.vars[c.vars[0]].size
		for _, v := range c.vars[1:] {
			if m := n.vars[v].most; m >= 0 {
				most = min(most, m)
			}
		}
		return most
	}
	later := map[int]int{}
	for _, c := range n.cells {
		later[c.vars[0]] += takes(c)
		for _, v := range c.vars[1:] {
			later[v] += n.vars[c.vars[0]].size
		}
	}
	var used uint64
	at := map[int]slot{}
	out := make([]plan, len(n.cells))
	for i, c := range n.cells {
		p := &out[i]
		for k, v := range c.vars {
			x := &n.vars[v]
			s, open := at[v]
			if !open && first[v] == last[v] {
				s = slot{} // never kept
			} else if !open {
				s.width = uint(bits.Len(uint(x.states() - 1)))
				for s.shift = 0; s.shift+s.width <= 64 && used>>s.shift&(1<<s.width-1) != 0; s.shift++ {
				}
				if s.shift+s.width > 64 {
					p.overflow = true
					return out
				}
				used |= (1<<s.width - 1) << s.shift
				at[v] = s
			}
			s.opens, s.closes = first[v] == i, last[v] == i
			s.least, s.most, s.exact = x.least, x.most, x.exact
			if k == 0 {
				s.fresh = x.size
				later[v] -= takes(c)
				p.row, p.must, p.alike, p.rest = s, x.must, x.alike, later[v]
				continue
			}
			later[v] -= n.vars[c.vars[0]].size
			s.later = later[v]
			p.sums = append(p.sums, s)
			if v == c.lane {
				length := s
				p.lane = &length
			}
		}
		for _, v := range c.vars {
			if s, open := at[v]; open && last[v] == i {
				used &^= (1<<s.width - 1) << s.shift
			}
		}
	}
	return out
}

// times is in how many ways y pieces of a row that has so many left go into the
// cell, where its lane has so many already; nil for one.
func (p *plan) times(row, y, length int) []big.Word {
	if y == 0 || p.lane == nil && (p.alike || y == row) {
		return nil
	}
	if n, ok := p.known[[3]int{row, y, length}]; ok {
		return n
	}
	var n *big.Int
	if !p.alike && y < row {
		n = new(big.Int).Binomial(int64(row), int64(y))
	}
	if p.lane != nil && length+y > 1 {
		var m *big.Int
		if p.alike { // the places that they take among all
			m = new(big.Int).Binomial(int64(length+y), int64(y))
		} else { // each is put in somewhere
			m = new(big.Int).MulRange(int64(length+1), int64(length+y))
		}
		if n == nil {
			n = m
		} else {
			n.Mul(n, m)
		}
	}
	if p.known == nil {
		p.known = map[[3]int][]big.Word{}
	}
	var words []big.Word
	if n != nil {
		words = n.Bits()
	}
	p.known[[3]int{row, y, length}] = words
	return words
}
