package ways

import (
	"context"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/placing"
)

// Each goes through the valid arrangements of an activity, solution by solution and
// each once, until visit says false. The arrangement is changed afterwards. It gives
// up after so many steps that nothing is found, which only happens where solutions
// are tangled, or when ctx is over; done is false then. Cost: O(pieces) for each arrangement, as a rule.
func Each(ctx context.Context, parts *activity.Parts, visit func(a *placing.Arrangement, solution int) bool) (done bool) {
	var solutions []*answer.Solution
	for i := range parts.Doc.Key.Solutions {
		s := answer.New(parts, i)
		w := walk{ctx: ctx, parts: parts, solution: s, earlier: solutions, a: placing.New(parts), left: idle, visit: func(a *placing.Arrangement) bool { return visit(a, i) }}
		w.prepare()
		if !w.from(0, -1) {
			return !w.tired()
		}
		solutions = append(solutions, s)
	}
	return true
}

// idle is how many steps may pass without anything found.
const idle = 300_000

type walk struct {
	ctx      context.Context
	parts    *activity.Parts
	solution *answer.Solution
	earlier  []*answer.Solution
	a        *placing.Arrangement
	cells    [][]int // by item: where it is right
	later    [][]int // by need, then piece: how many from there on could count
	counts   []int
	left     int
	seen     answer.Seen
	visit    func(*placing.Arrangement) bool
}

func (w *walk) tired() bool { return w.left <= 0 }

func (w *walk) prepare() {
	w.cells = make([][]int, len(w.parts.Doc.Items))
	for t := range w.parts.Doc.Targets {
		for _, i := range w.solution.ItemsAt(t) {
			w.cells[i] = append(w.cells[i], t)
		}
	}
	w.counts = make([]int, len(w.solution.Needs()))
	for k, n := range w.solution.Needs() {
		list := make([]int, len(w.parts.Pieces)+1)
		for p := len(w.parts.Pieces) - 1; p >= 0; p-- {
			list[p] = list[p+1]
			if w.solution.CountedBy(n.Target, w.parts.Pieces[p].Item) == k {
				list[p]++
			}
		}
		w.later = append(w.later, list)
	}
}

// from places the pieces from one on; the piece before it, of the same item, went to
// the target last (−1: none, the number of targets: home). False ends the walk.
func (w *walk) from(piece, last int) bool {
	if w.left%1024 == 0 && w.ctx.Err() != nil {
		w.left = 0
	}
	if w.left--; w.left <= 0 {
		return false
	}
	for k, n := range w.solution.Needs() {
		if w.counts[k]+w.later[k][piece] < n.Least {
			return true
		}
	}
	if piece == len(w.parts.Pieces) {
		return w.found()
	}
	item := w.parts.Pieces[piece].Item
	next := func(at int) bool {
		if piece+1 < len(w.parts.Pieces) && w.parts.Pieces[piece+1].Item != item {
			at = -1
		}
		return w.from(piece+1, at)
	}
	for _, t := range w.cells[item] {
		if t < last || !w.a.Room(t) {
			continue
		}
		k := w.solution.CountedBy(t, item)
		if k >= 0 {
			if most := w.solution.Needs()[k].Most; most >= 0 && w.counts[k] >= most {
				continue
			}
			w.counts[k]++
		}
		low, high := w.indices(piece, t)
		for at := low; at <= high; at++ {
			w.a.Insert(piece, t, at, piece+1)
			on := next(t)
			w.a.Home(piece)
			if !on {
				return false
			}
		}
		if k >= 0 {
			w.counts[k]--
		}
	}
	if w.solution.Needed(item) {
		return true
	}
	return next(len(w.parts.Doc.Targets))
}

// indices are the places in a target that a piece may take: the end; in a lane all
// that follow its order, behind the piece before it that is alike.
func (w *walk) indices(piece, target int) (low, high int) {
	list := w.a.In[target]
	high = len(list)
	if !w.parts.Doc.Targets[target].Ordered {
		return high, high
	}
	lane := w.solution.Lane(target)
	item := w.parts.Pieces[piece].Item
	for i, p := range list {
		other := w.parts.Pieces[p.Piece].Item
		switch {
		case other == item, lane != nil && lane.Comes(other, item):
			low = i + 1
		case lane != nil && lane.Comes(item, other):
			high = min(high, i)
		}
	}
	return low, high
}

func (w *walk) found() bool {
	w.solution.Look(w.a, &w.seen)
	if !w.seen.Valid {
		return true
	}
	for _, s := range w.earlier {
		if s.Look(w.a, &w.seen); w.seen.Valid {
			return true
		}
	}
	w.left = idle
	return w.visit(w.a)
}
