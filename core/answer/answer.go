// Package answer looks at an arrangement in the light of one solution: which
// pieces are right, what each target is, and whether all of it is valid; and it
// knows what valid arrangements there are: whether there is one, how many points
// one can earn, and which is nearest to what a learner has made.
//
// A cell (item, target) is right when the solution's right selects the item there
// and the target lets it in. An arrangement is valid when every piece in a target
// is at a right cell and not more than a need allows; every piece of every item
// with a right cell, and no need to govern it, is in a target; every need has its
// least number; and no two pieces of a lane stand against its order. How many
// pieces a target holds does not matter to that, but it does to what can be done:
//
//	s := answer.New(parts, 0)
//	var seen answer.Seen
//	s.Look(arrangement, &seen)
//	seen.Missing // by item: true for the seat
//
// Leaving one out of a lane makes that one missing and no other wrong; of too many
// pieces for a need the surplus is wrong and the others stay right.
//
// Where the document leaves it open, this package decides: a need counts the
// pieces at right cells, surplus or not; held pieces of a lane that stand against
// each other (a corrected key can bring that about) are right in order of age.
package answer

import (
	"cmp"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/order"
	"keenmagpie/core/placing"
)

// What a cell is: not right, right with no need to count it, or, from 0, the need
// that counts it.
const (
	notRight = -2
	uncount  = -1
)

// Solution is one solution made ready to look through. It never changes.
type Solution struct {
	Parts  *activity.Parts
	Index  int
	Credit int
	cells  []int16 // target × item
	needs  []Need
	needed []bool  // by item: all its pieces must be placed
	itemAt [][]int // by target: the items that are right there
	lanes  []*Lane // by target; nil where there is no order
}

// Need is how many pieces that it counts a target must have: at least and at most.
type Need struct{ Target, Least, Most int } // Most −1: no limit

// Lane is the order of a lane's items.
type Lane struct {
	Order  *order.Order
	Items  []int // by their number in the order
	number []int // by item; order.Foreign where it has no place
}

// New makes a solution of the document ready. Cost: O(items × targets), and for
// orders that of [order.New].
func New(parts *activity.Parts, index int) *Solution {
	doc := parts.Doc
	from := &doc.Key.Solutions[index]
	s := &Solution{
		Parts: parts, Index: index, Credit: from.Credit,
		cells: make([]int16, len(doc.Targets)*len(doc.Items)), needed: make([]bool, len(doc.Items)),
		itemAt: make([][]int, len(doc.Targets)), lanes: make([]*Lane, len(doc.Targets)),
	}
	for i := range s.cells {
		s.cells[i] = notRight
	}
	for t := range doc.Targets {
		sel, ok := from.Right[doc.Targets[t].ID]
		if !ok {
			continue
		}
		for i, picked := range parts.Picks(sel) {
			if picked && parts.LetsIn(t, i) {
				s.cells[t*len(doc.Items)+i] = uncount
				s.needed[i] = true
				s.itemAt[t] = append(s.itemAt[t], i)
			}
		}
	}
	for k, n := range from.Needs {
		t, _ := parts.Target(n.Target)
		most := -1
		if n.Max != nil {
			most = *n.Max
		}
		s.needs = append(s.needs, Need{t, n.Min, most})
		for i, picked := range parts.Picks(n.Of) {
			if picked && s.cell(t, i) != notRight {
				s.cells[t*len(doc.Items)+i] = int16(k)
				s.needed[i] = false
			}
		}
	}
	for i := range from.Orders {
		o := &from.Orders[i]
		t, _ := parts.Target(o.Target)
		names := o.Names()
		lane := &Lane{number: slices.Repeat([]int{order.Foreign}, len(doc.Items))}
		lane.Order, _ = o.Compile(names)
		for k, id := range names {
			item, _ := parts.Item(id)
			lane.Items = append(lane.Items, item)
			lane.number[item] = k
		}
		s.lanes[t] = lane
	}
	return s
}

func (s *Solution) cell(target, item int) int {
	return int(s.cells[target*len(s.Parts.Doc.Items)+item])
}

// RightCell reports whether the item is right in the target.
func (s *Solution) RightCell(target, item int) bool { return s.cell(target, item) != notRight }

// Needs lists the needs in document order.
func (s *Solution) Needs() []Need { return s.needs }

// CountedBy is the need that counts the item in the target, or −1.
func (s *Solution) CountedBy(target, item int) int { return max(uncount, s.cell(target, item)) }

// Needed reports whether all pieces of the item must be placed.
func (s *Solution) Needed(item int) bool { return s.needed[item] }

// Asked is how many pieces the solution asks for at least: all of the needed
// items, and the least of every need.
func (s *Solution) Asked() int {
	n := 0
	for i, needed := range s.needed {
		if needed {
			n += s.Parts.Doc.Items[i].Copies
		}
	}
	for _, k := range s.needs {
		n += k.Least
	}
	return n
}

// ItemsAt lists the items that are right in the target.
func (s *Solution) ItemsAt(target int) []int { return s.itemAt[target] }

// Lane is the order of a target, or nil.
func (s *Solution) Lane(target int) *Lane { return s.lanes[target] }

// Sequence adds to out what stands in a lane, by numbers in its order.
func (l *Lane) Sequence(a *placing.Arrangement, target int, out []int) []int {
	for _, p := range a.In[target] {
		out = append(out, l.number[a.Parts.Pieces[p.Piece].Item])
	}
	return out
}

// Comes reports whether the order has item a before item b.
func (l *Lane) Comes(a, b int) bool {
	x, y := l.number[a], l.number[b]
	return x != order.Foreign && y != order.Foreign && l.Order.Before(x, y)
}

// State is what a target is.
type State byte

// A target is empty without pieces, right, part with a right piece, or wrong.
const (
	Empty State = iota
	Right
	Part
	Wrong
)

func (s State) String() string { return [...]string{"empty", "right", "part", "wrong"}[s] }

// Seen is an arrangement in the light of one solution. It can be looked into
// again and again, and then allocates nothing.
type Seen struct {
	Valid                    bool
	Right                    []bool // by piece
	Missing                  []bool // by item: one of its needed pieces is not right where it is
	Targets                  []State
	Rights, Wrongs, Missings int // how many right pieces, wrong pieces, missing items
	Lacking                  int // how many pieces are still to come: needed ones, and those that needs ask for
	count, rightOf           []int
	group                    []placing.Placed
}

// cleared makes a list of n zeros, in the space of the old one where that does.
func cleared[T any](list []T, n int) []T {
	if cap(list) < n {
		return make([]T, n)
	}
	list = list[:n]
	clear(list)
	return list
}

// Look sees the arrangement under the solution. Cost: O(items × targets + pieces),
// and where lanes do not follow their order, that of [order.Order.Largest].
func (s *Solution) Look(a *placing.Arrangement, seen *Seen) {
	seen.Right = cleared(seen.Right, len(s.Parts.Pieces))
	seen.Missing = cleared(seen.Missing, len(s.needed))
	seen.Targets = cleared(seen.Targets, len(a.In))
	seen.count = cleared(seen.count, len(s.needs))
	seen.rightOf = cleared(seen.rightOf, len(s.needed))
	seen.Rights, seen.Wrongs, seen.Missings, seen.Lacking = 0, 0, 0, 0
	for t, list := range a.In {
		for _, p := range list {
			c := s.cell(t, s.Parts.Pieces[p.Piece].Item)
			seen.Right[p.Piece] = c != notRight
			if c >= 0 {
				seen.count[c]++
			}
		}
		if s.lanes[t] != nil {
			s.alongLane(a, t, seen)
		}
	}
	needsHold := true
	for k, n := range s.needs {
		if n.Most >= 0 && seen.count[k] > n.Most {
			s.surplus(a, k, seen)
		}
		if short := n.Least - seen.count[k]; short > 0 {
			needsHold = false
			seen.Lacking += short
		}
	}
	for _, list := range a.In {
		for _, p := range list {
			if seen.Right[p.Piece] {
				seen.rightOf[s.Parts.Pieces[p.Piece].Item]++
				seen.Rights++
			} else {
				seen.Wrongs++
			}
		}
	}
	for i, must := range s.needed {
		if must && seen.rightOf[i] < s.Parts.Doc.Items[i].Copies {
			seen.Missing[i] = true
			seen.Missings++
			seen.Lacking += s.Parts.Doc.Items[i].Copies - seen.rightOf[i]
		}
	}
	for t, list := range a.In {
		seen.Targets[t] = s.state(t, list, seen)
	}
	seen.Valid = needsHold && seen.Wrongs == 0 && seen.Missings == 0
}

// alongLane leaves right, of the pieces of a lane's order, a largest set no two of
// which stand against each other.
func (s *Solution) alongLane(a *placing.Arrangement, target int, seen *Seen) {
	lane := s.lanes[target]
	var seq, age, at []int
	var held []bool
	for _, p := range a.In[target] {
		if seen.Right[p.Piece] {
			seq = append(seq, lane.number[s.Parts.Pieces[p.Piece].Item])
			age = append(age, p.Since)
			held = append(held, a.Held[p.Piece])
			at = append(at, p.Piece)
		}
	}
	for i, in := range lane.Order.Largest(seq, age, held) {
		seen.Right[at[i]] = in
	}
}

// surplus leaves right, of the pieces that a need counts, as many as it allows:
// held ones first, then the heaviest, then the oldest, then by name.
func (s *Solution) surplus(a *placing.Arrangement, k int, seen *Seen) {
	n := s.needs[k]
	seen.group = seen.group[:0]
	for _, p := range a.In[n.Target] {
		if s.cell(n.Target, s.Parts.Pieces[p.Piece].Item) == k {
			seen.group = append(seen.group, p)
		}
	}
	slices.SortFunc(seen.group, func(x, y placing.Placed) int {
		if a.Held[x.Piece] != a.Held[y.Piece] {
			if a.Held[x.Piece] {
				return -1
			}
			return 1
		}
		px, py := s.Parts.Pieces[x.Piece], s.Parts.Pieces[y.Piece]
		return cmp.Or(
			s.Parts.Weight(n.Target, py.Item)-s.Parts.Weight(n.Target, px.Item),
			x.Since-y.Since, cmp.Compare(px.ID, py.ID))
	})
	for _, p := range seen.group[n.Most:] {
		seen.Right[p.Piece] = false
	}
}

func (s *Solution) state(t int, list []placing.Placed, seen *Seen) State {
	right := 0
	for _, p := range list {
		if seen.Right[p.Piece] {
			right++
		}
	}
	whole := len(s.itemAt[t]) > 0 && right == len(list)
	for _, i := range s.itemAt[t] {
		whole = whole && !seen.Missing[i]
	}
	for k, n := range s.needs {
		whole = whole && (n.Target != t || seen.count[k] >= n.Least)
	}
	switch {
	case whole:
		return Right
	case len(list) == 0:
		return Empty
	case right > 0:
		return Part
	}
	return Wrong
}
