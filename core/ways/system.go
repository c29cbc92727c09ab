package ways

import (
	"encoding/binary"
	"math/big"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/order"
)

// system is what an arrangement satisfies that is valid under each of some
// solutions. It never changes.
type system struct {
	parts  *activity.Parts
	cells  []bool  // target × item: pieces may be there
	must   []bool  // by item: all its pieces are in targets
	sums   []sum   // sorted
	orders []*lane // by target; nil where there is none
	called string
}

// sum says of the cells in a target that they hold so many pieces together.
type sum struct {
	cells       []int // sorted
	least, most int   // most −1: no limit
}

// lane is an order of the items in a target, numbered as they are sorted.
type lane struct {
	items []int
	order *order.Order
}

// newSystem is what one solution asks for, or nil where it is plain that nothing
// satisfies it.
func newSystem(from *answer.Solution) *system {
	doc := from.Parts.Doc
	items := len(doc.Items)
	s := &system{
		parts: from.Parts, cells: make([]bool, len(doc.Targets)*items), must: make([]bool, items),
		orders: make([]*lane, len(doc.Targets)),
	}
	for i := range s.must {
		s.must[i] = from.Needed(i)
	}
	needs := make([]sum, len(from.Needs()))
	for k, n := range from.Needs() {
		needs[k] = sum{nil, n.Least, n.Most}
	}
	for t := range doc.Targets {
		holds := sum{nil, 0, doc.Targets[t].Holds}
		for _, i := range from.ItemsAt(t) {
			at := t*items + i
			s.cells[at] = true
			holds.cells = append(holds.cells, at)
			if k := from.CountedBy(t, i); k >= 0 {
				needs[k].cells = append(needs[k].cells, at)
			}
		}
		if holds.most > 0 {
			s.sums = append(s.sums, holds)
		}
		if l := from.Lane(t); l != nil {
			sorted := slices.Sorted(slices.Values(l.Items))
			number := make([]int, len(l.Items))
			for k, item := range l.Items {
				number[k], _ = slices.BinarySearch(sorted, item)
			}
			s.orders[t] = &lane{sorted, l.Order.Renumbered(number)}
		}
	}
	s.sums = append(s.sums, needs...)
	return s.tidied()
}

// and is what both ask for, or nil where it is plain that nothing satisfies it.
func (s *system) and(o *system) *system {
	out := &system{
		parts: s.parts, cells: make([]bool, len(s.cells)), must: make([]bool, len(s.must)),
		sums: slices.Concat(s.sums, o.sums), orders: make([]*lane, len(s.orders)),
	}
	for i := range out.cells {
		out.cells[i] = s.cells[i] && o.cells[i]
	}
	for i := range out.must {
		out.must[i] = s.must[i] || o.must[i]
	}
	for t, a := range s.orders {
		b := o.orders[t]
		switch {
		case a == nil:
			out.orders[t] = b
		case b == nil:
			out.orders[t] = a
		case !slices.Equal(a.items, b.items):
			return nil // each wants exactly its own items there
		default:
			both := a.order.Join(b.order)
			if both == nil {
				return nil
			}
			out.orders[t] = &lane{a.items, both}
		}
	}
	return out.tidied()
}

// tidied leaves out what says nothing, so that systems that are the same look the
// same; nil where something asked for has no cells.
func (s *system) tidied() *system {
	items := len(s.must)
	somewhere := make([]bool, items)
	for at, in := range s.cells {
		somewhere[at%items] = somewhere[at%items] || in
	}
	for i, must := range s.must {
		if must && !somewhere[i] {
			return nil
		}
	}
	var sums []sum
	for _, x := range s.sums {
		cells := make([]int, 0, len(x.cells))
		possible := 0
		for _, at := range x.cells {
			if s.cells[at] {
				cells = append(cells, at)
				possible += s.parts.Doc.Items[at%items].Copies
			}
		}
		if x.most >= possible {
			x.most = -1
		}
		switch {
		case x.least > possible || x.most >= 0 && x.least > x.most:
			return nil
		case x.least > 0 || x.most >= 0:
			sums = append(sums, sum{cells, x.least, x.most})
		}
	}
	slices.SortFunc(sums, func(a, b sum) int { return slices.Compare(a.cells, b.cells) })
	s.sums = sums[:0]
	for _, x := range sums {
		last := len(s.sums) - 1
		if last < 0 || !slices.Equal(s.sums[last].cells, x.cells) {
			s.sums = append(s.sums, x)
			continue
		}
		was := &s.sums[last]
		was.least = max(was.least, x.least)
		if was.most < 0 || x.most >= 0 && x.most < was.most {
			was.most = x.most
		}
		if was.most >= 0 && was.least > was.most {
			return nil
		}
	}
	return s
}

// name is the same for systems that are the same.
func (s *system) name() string {
	if s.called != "" {
		return s.called
	}
	var b []byte
	bits := func(list []bool) {
		for i, in := range list {
			if in {
				b = binary.AppendUvarint(b, uint64(i+1))
			}
		}
		b = append(b, 0)
	}
	bits(s.cells)
	bits(s.must)
	for _, x := range s.sums {
		for _, at := range x.cells {
			b = binary.AppendUvarint(b, uint64(at+1))
		}
		b = append(b, 0)
		b = binary.AppendVarint(binary.AppendVarint(b, int64(x.least)), int64(x.most))
	}
	for t, l := range s.orders {
		if l == nil {
			continue
		}
		b = binary.AppendUvarint(append(b, 0, 0), uint64(t))
		for x := range l.items {
			for y := range l.items {
				if l.order.Before(x, y) {
					b = binary.AppendUvarint(b, uint64(x*len(l.items)+y+1))
				}
			}
		}
	}
	s.called = string(b) + "."
	return s.called
}

// lanes is in how many ways the lanes with an order can follow it: all their items
// are there, and nowhere else. Nil where that takes too long to find out.
func (s *system) lanes() *big.Int {
	n := big.NewInt(1)
	for _, l := range s.orders {
		if l == nil {
			continue
		}
		m := l.order.Extensions()
		if m == nil {
			return nil
		}
		n.Mul(n, m)
	}
	return n
}
