package answer

import (
	"keenmagpie/core/order"
	"keenmagpie/core/placing"
)

// Plan is how many pieces of each item a valid arrangement has in each target.
type Plan struct {
	Points int
	count  map[[2]int]int // item, target
}

// wish is what a plan is made for.
type wish struct {
	worth func(item, target int) int
	// stay is how many of the pieces are there already, and are to stay where that
	// can be; fixed how many must stay.
	stay, fixed map[[2]int]int
	// optional lifts demands: needed items from 0, then needs.
	optional []bool
}

// must is what meeting one demand for one piece is worth: more than everything
// else together.
const must = 1 << 36

// plan finds the valid arrangement that is worth most, as a maximum-cost flow with
// lower bounds: items send their pieces through right cells, and through the needs
// that count them, to targets, which take as many as they hold. A lower bound
// (all pieces of a needed item; a need's least) is an edge of its own that is worth
// more than all weights. ok is false where not all of them can be met.
// Cost: O(pieces × cells × nodes) at most; O(cells) where the best cell of each
// item has room.
func (s *Solution) plan(w wish) (p Plan, ok bool) {
	if p, ok := s.simple(w); ok {
		return p, true
	}
	doc := s.Parts.Doc
	const source, sink = 0, 1
	item := func(i int) int { return 2 + i }
	target := func(t int) int { return 2 + len(doc.Items) + t }
	needNode := func(k int) int { return 2 + len(doc.Items) + len(doc.Targets) + k }
	f := newFlow(2 + len(doc.Items) + len(doc.Targets) + len(s.needs))
	demanded := 0
	lifted := func(demand int) bool { return w.optional != nil && w.optional[demand] }
	type cell struct {
		item, target int
		edges        []int
	}
	var cells []cell
	inUse := make([]bool, len(doc.Items))
	for t := range doc.Targets {
		for _, i := range s.itemAt[t] {
			inUse[i] = true
		}
	}
	for i := range doc.Items {
		copies := doc.Items[i].Copies
		switch {
		case !inUse[i]:
		case s.needed[i] && !lifted(i):
			demanded += copies
			f.edge(source, item(i), copies, must)
		default:
			f.edge(source, item(i), copies, 0)
		}
	}
	for t := range doc.Targets {
		for _, i := range s.itemAt[t] {
			to := target(t)
			if k := s.cell(t, i); k >= 0 {
				to = needNode(k)
			}
			c := cell{i, t, nil}
			at, copies := [2]int{i, t}, doc.Items[i].Copies
			worth := w.worth(i, t)
			fixed, stay := min(w.fixed[at], copies), min(w.stay[at], copies)
			demanded += fixed
			c.edges = append(c.edges, f.edge(item(i), to, fixed, worth+must))
			c.edges = append(c.edges, f.edge(item(i), to, max(0, stay-fixed), worth+1))
			c.edges = append(c.edges, f.edge(item(i), to, copies-max(stay, fixed), worth))
			cells = append(cells, c)
		}
	}
	for k, n := range s.needs {
		least := n.Least
		if lifted(len(doc.Items) + k) {
			least = 0
		}
		demanded += least
		f.edge(needNode(k), target(n.Target), least, must)
		most := n.Most
		if most < 0 {
			most = len(s.Parts.Pieces)
		}
		f.edge(needNode(k), target(n.Target), max(0, most-least), 0)
	}
	for t := range doc.Targets {
		holds := doc.Targets[t].Holds
		if holds == 0 {
			holds = len(s.Parts.Pieces)
		}
		f.edge(target(t), sink, holds, 0)
	}
	worth := f.richest(source, sink)
	if (worth+must/2)/must != demanded {
		return Plan{}, false
	}
	p = Plan{count: map[[2]int]int{}}
	for _, c := range cells {
		n := 0
		for _, e := range c.edges {
			n += f.sent(e)
		}
		if n > 0 {
			p.count[[2]int{c.item, c.target}] = n
			p.Points += n * w.worth(c.item, c.target)
		}
	}
	return p, true
}

// simple is the plan where nothing stands in the way: without needs, all pieces of
// each item in its best cell, if targets hold that.
func (s *Solution) simple(w wish) (p Plan, ok bool) {
	if len(s.needs) > 0 || len(w.fixed) > 0 || len(w.stay) > 0 || w.optional != nil {
		return p, false
	}
	doc := s.Parts.Doc
	best := make([]int, len(doc.Items))
	for i := range best {
		best[i] = -1
	}
	for t := range doc.Targets {
		for _, i := range s.itemAt[t] {
			if best[i] < 0 || w.worth(i, t) > w.worth(i, best[i]) {
				best[i] = t
			}
		}
	}
	p.count = map[[2]int]int{}
	load := make([]int, len(doc.Targets))
	for i, t := range best {
		if t >= 0 {
			copies := doc.Items[i].Copies
			p.count[[2]int{i, t}] = copies
			p.Points += copies * w.worth(i, t)
			load[t] += copies
		}
	}
	for t, n := range load {
		if holds := doc.Targets[t].Holds; holds > 0 && n > holds {
			return Plan{}, false
		}
	}
	return p, true
}

// Available is the largest sum of worth that any valid arrangement earns, worth
// being what one right piece of an item earns in a target. ok is false when there
// is no valid arrangement; then [Solution.Conflict] names the parts at fault.
func (s *Solution) Available(worth func(item, target int) int) (points int, ok bool) {
	p, ok := s.plan(wish{worth: worth})
	return p.Points, ok
}

func nothing(int, int) int { return 0 }

// Witness is a valid arrangement that earns most by the document's weights, or
// nil.
func (s *Solution) Witness() *placing.Arrangement {
	p, ok := s.plan(wish{worth: func(i, t int) int { return s.Parts.Weight(t, i) }})
	if !ok {
		return nil
	}
	return s.carryOut(p, placing.New(s.Parts))
}

// AllIn is an arrangement in which every piece is in some target that lets it in and has
// room, or nil where they do not all go in: the one whose right pieces weigh most less the
// penalties of the others; with valid, of those that are valid. Right pieces stand in the
// order of their lanes, the others behind them.
// Cost: that of a plan over all cells that let pieces in.
func (s *Solution) AllIn(valid bool) *placing.Arrangement {
	doc := s.Parts.Doc
	const source, sink = 0, 1
	item := func(i int) int { return 2 + i }
	target := func(t int) int { return 2 + len(doc.Items) + t }
	needNode := func(k int) int { return 2 + len(doc.Items) + len(doc.Targets) + k }
	f := newFlow(2 + len(doc.Items) + len(doc.Targets) + len(s.needs))
	demanded := 0
	type cell struct{ item, target, edge int }
	var cells []cell
	for i := range doc.Items {
		f.edge(source, item(i), doc.Items[i].Copies, must)
		demanded += doc.Items[i].Copies
		for t := range doc.Targets {
			if !s.Parts.LetsIn(t, i) {
				continue
			}
			to, worth := target(t), s.Parts.Weight(t, i)
			k := s.cell(t, i)
			if k >= 0 {
				to = needNode(k)
			}
			if k != notRight {
				cells = append(cells, cell{i, t, f.edge(item(i), to, doc.Items[i].Copies, worth)})
			}
			if !valid && (k == notRight || k >= 0) { // wrong there, or too many
				cells = append(cells, cell{i, t, f.edge(item(i), target(t), doc.Items[i].Copies, -s.Parts.Penalty(t, i))})
			}
		}
	}
	for k, n := range s.needs {
		most, least := n.Most, 0
		if most < 0 {
			most = len(s.Parts.Pieces)
		}
		if valid {
			least = n.Least
			demanded += least
		}
		f.edge(needNode(k), target(n.Target), least, must)
		f.edge(needNode(k), target(n.Target), max(0, most-least), 0)
	}
	for t := range doc.Targets {
		holds := doc.Targets[t].Holds
		if holds == 0 {
			holds = len(s.Parts.Pieces)
		}
		f.edge(target(t), sink, holds, 0)
	}
	if worth := f.richest(source, sink); (worth+must/2)/must != demanded {
		return nil
	}
	p := Plan{count: map[[2]int]int{}}
	for _, c := range cells {
		p.count[[2]int{c.item, c.target}] += f.sent(c.edge)
	}
	return s.carryOut(p, placing.New(s.Parts))
}

// Nearest is a valid arrangement in which as many pieces as possible are where
// they are in a, and all held ones that can be; or nil.
func (s *Solution) Nearest(a *placing.Arrangement) *placing.Arrangement {
	w := wish{worth: nothing, stay: map[[2]int]int{}, fixed: s.held(a)}
	for t, list := range a.In {
		for _, p := range list {
			w.stay[[2]int{s.Parts.Pieces[p.Piece].Item, t}]++
		}
	}
	p, ok := s.plan(w)
	if !ok {
		w.fixed = nil // they cannot all stay
		if p, ok = s.plan(w); !ok {
			return nil
		}
	}
	return s.carryOut(p, a)
}

func (s *Solution) held(a *placing.Arrangement) map[[2]int]int {
	out := map[[2]int]int{}
	for t, list := range a.In {
		for _, p := range list {
			if i := s.Parts.Pieces[p.Piece].Item; a.Held[p.Piece] && s.RightCell(t, i) {
				out[[2]int{i, t}]++
			}
		}
	}
	return out
}

// CanStill reports whether a valid arrangement is left that keeps the held pieces
// where they are and one more piece of the item in the target.
func (s *Solution) CanStill(a *placing.Arrangement, item, target int) bool {
	fixed := s.held(a)
	fixed[[2]int{item, target}]++
	_, ok := s.plan(wish{worth: nothing, fixed: fixed})
	return ok
}

// carryOut makes the arrangement of a plan, moving as few pieces of a as it can:
// right ones stay, held first; what the plan has besides is taken in document
// order.
func (s *Solution) carryOut(p Plan, a *placing.Arrangement) *placing.Arrangement {
	out := placing.New(s.Parts)
	copy(out.Held, a.Held)
	var seen Seen
	s.Look(a, &seen)
	left := map[[2]int]int{}
	for at, n := range p.count {
		left[at] = n
	}
	placed := make([]bool, len(s.Parts.Pieces))
	stay := func(want func(piece int) bool) {
		for t, list := range a.In {
			for _, x := range list {
				at := [2]int{s.Parts.Pieces[x.Piece].Item, t}
				if !placed[x.Piece] && left[at] > 0 && want(x.Piece) {
					placed[x.Piece] = true
					left[at]--
				}
			}
		}
	}
	stay(func(piece int) bool { return a.Held[piece] })
	stay(func(piece int) bool { return seen.Right[piece] })
	for t, list := range a.In {
		for _, x := range list {
			if placed[x.Piece] {
				out.Put(x.Piece, t, x.Since)
			}
		}
	}
	for piece := range s.Parts.Pieces {
		i := s.Parts.Pieces[piece].Item
		for t := 0; t < len(a.In) && !placed[piece]; t++ {
			if at := [2]int{i, t}; left[at] > 0 {
				left[at]--
				placed[piece] = true
				out.Insert(piece, t, s.IndexFor(out, i, t), 0)
			}
		}
	}
	return out
}

// IndexFor is the first place in a target at which a piece of the item stands in
// order with those that are right there: behind the last that must come before it;
// without an order, or for an item that has no place in it, the end.
func (s *Solution) IndexFor(a *placing.Arrangement, item, target int) int {
	lane := s.lanes[target]
	if lane == nil || lane.number[item] == order.Foreign {
		return len(a.In[target])
	}
	var seen Seen
	s.Look(a, &seen)
	index := 0
	for i, p := range a.In[target] {
		other := lane.number[s.Parts.Pieces[p.Piece].Item]
		if other != order.Foreign && seen.Right[p.Piece] && lane.Order.Before(other, lane.number[item]) {
			index = i + 1
		}
	}
	return index
}
