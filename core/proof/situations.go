package proof

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

// What the reply cover plays, and when it has played enough.

// alwaysSpeaks reports whether the replies that ask for no more than the outcome and
// the attempts left have something to say at every check.
func (c *coverer) alwaysSpeaks() bool {
	says := func(r *activity.Reply, outcome activity.Outcome, last bool) bool {
		if r.Off || r.Moment != activity.MomentChecked {
			return false
		}
		for _, f := range r.Asks() {
			most := f.Left != nil && f.Left.Max == nil && f.Left.Min != nil && *f.Left.Min <= 100 // one or more
			none := f.Left != nil && f.Left.Holds(0)
			if !(f.Outcome == outcome || last && none || !last && most) {
				return false
			}
		}
		return true
	}
	for _, outcome := range []activity.Outcome{activity.OutcomeRight, activity.OutcomePart, activity.OutcomeWrong} {
		for _, last := range []bool{false, true} {
			if c.doc.Play.Attempts == 0 && last || c.doc.Play.Attempts == 1 && !last {
				continue
			}
			if !slices.ContainsFunc(c.doc.Replies, func(r activity.Reply) bool { return says(&r, outcome, last) }) {
				return false
			}
		}
	}
	return true
}

// satisfied reports whether there is nothing more to be found.
func (c *coverer) satisfied() bool { return c.general && len(c.found) >= c.wanted }

// placements tries one piece of every item in every target, on the board as it is
// and on boards that are otherwise right.
func (c *coverer) placements(s sitting) {
	for i := range c.doc.Items {
		p := c.parts.First[i]
		boards := []sitting{s}
		for _, sol := range c.solutions {
			w := sol.Witness()
			if w.Where[p] >= 0 {
				w.Home(p)
			}
			if board := c.arranged(s, w); board.state.Phase == play.Placing {
				boards = append(boards, board)
			}
			if c.spent() {
				return
			}
		}
		for _, board := range boards {
			for t := range c.doc.Targets {
				m := play.Move{Do: activity.DoPlace, Piece: c.parts.Pieces[p].ID, Target: c.doc.Targets[t].ID}
				after, _ := c.do(board, m)
				if after.state.Phase == play.Placing {
					c.do(after, m) // once more: kept
				}
			}
		}
	}
}

// situations goes through arrangements: nothing, all wrong, everything right by each
// solution, one target alone, all but one target, all but one piece, one elsewhere,
// guesses.
func (c *coverer) situations(yield func(*placing.Arrangement) bool) {
	if !yield(placing.New(c.parts)) || !yield(allWrong(c.parts, c.solutions)) {
		return
	}
	for _, s := range c.solutions {
		if !c.near(s.Witness(), yield) {
			return
		}
	}
	for range 40 {
		a := placing.New(c.parts)
		for p := range c.parts.Pieces {
			if t := c.anywhere(a, p); t >= 0 && c.rnd.IntN(5) > 0 {
				a.Put(p, t, p+1)
			}
		}
		if !yield(a) {
			return
		}
	}
}

// near goes through arrangements that differ little from one that is right.
func (c *coverer) near(w *placing.Arrangement, yield func(*placing.Arrangement) bool) bool {
	if !yield(w) {
		return false
	}
	for t := range c.doc.Targets {
		if len(w.In[t]) == 0 {
			continue
		}
		alone, others := placing.New(c.parts), w.Clone()
		for k, x := range w.In[t] {
			alone.Put(x.Piece, t, k+1)
			others.Home(x.Piece)
		}
		if !yield(alone) || !yield(others) {
			return false
		}
	}
	for t := range c.doc.Targets {
		if c.doc.Targets[t].Ordered && !c.shuffled(w, t, yield) {
			return false
		}
	}
	left := triedPieces
	for p, where := range w.Where {
		if where < 0 || left <= 0 {
			continue
		}
		without := w.Clone()
		without.Home(p)
		if !yield(without) {
			return false
		}
		for t := range c.doc.Targets {
			if t != where && c.parts.LetsIn(t, c.parts.Pieces[p].Item) && without.Room(t) {
				moved := without.Clone()
				moved.Put(p, t, len(w.Where)+1)
				if left--; !yield(moved) {
					return false
				}
			}
		}
	}
	return true
}

// shuffled goes through other orders of a lane: the other way round, each two
// neighbours in each other's place, each piece first.
func (c *coverer) shuffled(w *placing.Arrangement, target int, yield func(*placing.Arrangement) bool) bool {
	with := func(list []placing.Placed) bool {
		a := w.Clone()
		for _, x := range list {
			a.Home(x.Piece)
		}
		for k, x := range list {
			a.Put(x.Piece, target, k+1)
		}
		return yield(a)
	}
	lane := w.In[target]
	if len(lane) < 2 {
		return true
	}
	if !with(backwards(w, target)) {
		return false
	}
	for k := 1; k < len(lane) && k < triedPieces; k++ {
		swapped, first := slices.Clone(lane), slices.Clone(lane)
		swapped[k-1], swapped[k] = swapped[k], swapped[k-1]
		x := first[k]
		first = slices.Insert(slices.Delete(first, k, k+1), 0, x)
		if !with(swapped) || !with(first) {
			return false
		}
	}
	return true
}

// anywhere is some target that lets a piece in and has room, or home.
func (c *coverer) anywhere(a *placing.Arrangement, piece int) int {
	var open []int
	for t := range c.doc.Targets {
		if c.parts.LetsIn(t, c.parts.Pieces[piece].Item) && a.Room(t) {
			open = append(open, t)
		}
	}
	if len(open) == 0 {
		return activity.Home
	}
	return open[c.rnd.IntN(len(open))]
}

// allWrong has every piece where it is right under no solution, as far as there is
// room; what can only stand in a lane stands there the other way round.
func allWrong(parts *activity.Parts, solutions []*answer.Solution) *placing.Arrangement {
	a := placing.New(parts)
	for p := range parts.Pieces {
		item := parts.Pieces[p].Item
		for t := range parts.Doc.Targets {
			if parts.LetsIn(t, item) && !rightSomewhere(solutions, t, item) && a.Room(t) {
				a.Put(p, t, p+1)
				break
			}
		}
	}
	w := solutions[0].Witness()
	if w == nil {
		return a
	}
	for t := range parts.Doc.Targets {
		for _, x := range backwards(w, t) {
			if parts.Doc.Targets[t].Ordered && a.Where[x.Piece] < 0 && a.Room(t) {
				a.Put(x.Piece, t, len(a.In[t])+1)
			}
		}
	}
	return a
}

func rightSomewhere(solutions []*answer.Solution, target, item int) bool {
	return slices.ContainsFunc(solutions, func(s *answer.Solution) bool { return s.RightCell(target, item) })
}

// backwards lists what stands in a target, the last first.
func backwards(a *placing.Arrangement, target int) []placing.Placed {
	out := slices.Clone(a.In[target])
	slices.Reverse(out)
	return out
}
