package proof

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

// A condition is searched for as follows. It is written as alternatives, each a list
// of facts that must hold or must not (at most 64 alternatives). For each, some
// arrangement is taken, and again and again one fact that fails, picked at random, is
// put right as directly as it can be (the piece is placed there, the target is
// emptied), which may break another; in the manner of WalkSAT (Selman, Kautz and Cohen,
// Noise strategies for improving local search, 1994). What is found is then played,
// so that nothing is called an example which is none.

// fact is one condition without lists, wanted or unwanted.
type fact struct {
	*activity.Condition
	holds bool
}

// alternatives writes a condition as a list of lists of facts.
func alternatives(c *activity.Condition, holds bool) [][]fact {
	const most = 64
	if c == nil {
		return [][]fact{{}}
	}
	list, every := c.All, holds
	switch {
	case c.All != nil:
	case c.Any != nil:
		list, every = c.Any, !holds
	case c.None != nil:
		list, every, holds = c.None, holds, !holds
	default:
		return [][]fact{{{c, holds}}}
	}
	out := [][]fact{{}}
	if !every {
		out = nil
	}
	for i := range list {
		more := alternatives(&list[i], holds)
		if !every {
			out = append(out, more...)
			continue
		}
		var both [][]fact
		for _, a := range out {
			for _, b := range more {
				if len(both) < most {
					both = append(both, slices.Concat(a, b))
				}
			}
		}
		out = both
	}
	return out[:min(len(out), most)]
}

// search looks for a situation in which a reply is given.
func (c *coverer) search(reply int) {
	r := &c.doc.Replies[reply]
	for _, facts := range alternatives(r.When, true) {
		for range 6 {
			if c.found[r.ID] != nil || c.tired() {
				return
			}
			c.climb(r, facts)
		}
	}
}

// climb starts somewhere and puts right what fails.
func (c *coverer) climb(r *activity.Reply, facts []fact) {
	attempt := c.attemptFor(facts)
	start, ok := c.later(c.open(), attempt)
	if !ok {
		return
	}
	a := placing.New(c.parts)
	if c.rnd.IntN(2) == 0 {
		a = c.solutions[c.rnd.IntN(len(c.solutions))].Witness()
	}
	var j marks.Judgement
	for range 50 {
		c.tries++
		seen := c.game.Judge.Judge(a, marks.Now{Attempt: attempt}, &j)
		var failing []fact
		for _, f := range facts {
			if c.looks(f.Condition, a, seen) != f.holds {
				failing = append(failing, f)
			}
		}
		if len(failing) == 0 {
			c.played(r, facts, start, a)
			if c.found[r.ID] != nil {
				return
			}
			c.shuffle(a)
			continue
		}
		c.repair(failing[c.rnd.IntN(len(failing))], a, seen)
	}
}

// attemptFor is the attempt at which the facts are looked for.
func (c *coverer) attemptFor(facts []fact) int {
	n, limit := 1, c.doc.Play.Attempts
	for _, f := range facts {
		if f.Attempt != nil && f.holds && f.Attempt.Min != nil {
			n = max(n, int(*f.Attempt.Min)/100)
		}
		if f.Left != nil && f.holds && f.Left.Max != nil && limit > 0 {
			n = max(n, limit-int(*f.Left.Max)/100)
		}
		if f.Attempt != nil && !f.holds && f.Attempt.Min == nil && f.Attempt.Max != nil {
			n = max(n, int(*f.Attempt.Max)/100+1)
		}
	}
	return n
}

// looks is whether a fact about an arrangement holds; those about a placement and
// about attempts are left to the play.
func (c *coverer) looks(f *activity.Condition, a *placing.Arrangement, j *marks.Judgement) bool {
	switch {
	case f.Piece != nil, f.Onto != nil, f.Result != "", f.Attempt != nil, f.Left != nil:
		return true
	}
	return c.game.Holds(f, a, j)
}

// move puts a piece somewhere, or home.
func (c *coverer) move(a *placing.Arrangement, piece, target int) {
	if a.Where[piece] >= 0 {
		a.Home(piece)
	}
	if target >= 0 && c.parts.LetsIn(target, c.parts.Pieces[piece].Item) && a.Room(target) {
		at := len(a.In[target])
		if c.doc.Targets[target].Ordered {
			at = c.rnd.IntN(at + 1)
		}
		a.Insert(piece, target, at, len(a.Where)+at)
	}
}

func (c *coverer) shuffle(a *placing.Arrangement) {
	p := c.rnd.IntN(len(c.parts.Pieces))
	c.move(a, p, c.anywhere(a, p))
}

// repair changes the arrangement so that a fact is more likely to be as wanted.
func (c *coverer) repair(f fact, a *placing.Arrangement, j *marks.Judgement) {
	if len(c.parts.Pieces) == 0 {
		return
	}
	if !f.holds || c.rnd.IntN(8) == 0 {
		c.shuffle(a)
		return
	}
	piece := c.rnd.IntN(len(c.parts.Pieces))
	if f.Item != "" {
		item, _ := c.parts.Item(f.Item)
		piece = c.parts.First[item] + c.rnd.IntN(c.doc.Items[item].Copies)
	}
	solution := c.solutions[c.rnd.IntN(len(c.solutions))]
	if f.Solution != nil {
		solution = c.solutions[*f.Solution]
	}
	switch {
	case f.In != "":
		t, _ := c.parts.Target(f.In)
		if !a.Room(t) && len(a.In[t]) > 0 {
			a.Home(a.In[t][0].Piece)
		}
		c.move(a, piece, t)
	case f.Item != "" && f.Is == activity.IsHome:
		c.move(a, piece, activity.Home)
	case f.Item != "":
		c.move(a, piece, c.whereIt(f.Is == activity.IsRight, solution.RightCell, piece))
	case f.Target != "":
		t, _ := c.parts.Target(f.Target)
		for len(a.In[t]) > 0 {
			a.Home(a.In[t][0].Piece)
		}
		if f.Is == activity.IsEmpty {
			return
		}
		w := solution.Witness()
		for _, x := range w.In[t] {
			if f.Is == activity.IsRight || f.Is == activity.IsPart && len(a.In[t]) == 0 {
				c.move(a, x.Piece, t)
				if a.Where[x.Piece] == t && f.Is == activity.IsRight { // as the solution has it
					a.Home(x.Piece)
					a.Insert(x.Piece, t, len(a.In[t]), len(a.Where))
				}
			}
		}
		if f.Is == activity.IsWrong || f.Is == activity.IsPart && c.rnd.IntN(2) == 0 {
			for range len(c.parts.Pieces) {
				p := c.rnd.IntN(len(c.parts.Pieces))
				if !solution.RightCell(t, c.parts.Pieces[p].Item) && c.parts.LetsIn(t, c.parts.Pieces[p].Item) {
					c.move(a, p, t)
					return
				}
			}
		}
	case f.RightCount != nil, f.Percent != nil, f.Outcome == activity.OutcomeRight, f.Outcome == activity.OutcomePart, f.Solution != nil, f.MissingCount != nil:
		c.move(a, piece, solution.Witness().Where[piece])
	case f.WrongCount != nil, f.Outcome == activity.OutcomeWrong:
		c.move(a, piece, c.whereIt(c.rnd.IntN(2) == 0, solution.RightCell, piece))
	case f.HomeCount != nil && a.Where[piece] >= 0:
		c.move(a, piece, activity.Home)
	default:
		c.shuffle(a)
	}
}

// whereIt is some target where a piece is right, or is not, or home.
func (c *coverer) whereIt(right bool, cell func(target, item int) bool, piece int) int {
	var list []int
	for t := range c.doc.Targets {
		if item := c.parts.Pieces[piece].Item; cell(t, item) == right && c.parts.LetsIn(t, item) {
			list = append(list, t)
		}
	}
	if len(list) == 0 {
		return activity.Home
	}
	return list[c.rnd.IntN(len(list))]
}

// played makes the moment come at which a reply may be given.
func (c *coverer) played(r *activity.Reply, facts []fact, start sitting, a *placing.Arrangement) {
	switch r.Moment {
	case activity.MomentPlaced:
		// Each piece in turn is the last to be placed.
		for _, last := range c.lastPlaced(facts, a) {
			before := a.Clone()
			before.Home(last[0])
			s := c.arranged(start, before)
			m := play.Move{Do: activity.DoPlace, Piece: c.parts.Pieces[last[0]].ID, Target: c.doc.Targets[last[1]].ID}
			if a.Where[last[0]] == last[1] && c.doc.Targets[last[1]].Ordered {
				at := a.Index(last[0])
				m.Index = &at
			}
			s, _ = c.do(s, m)
			if c.found[r.ID] != nil || c.tired() {
				return
			}
			c.do(s, m)
		}
	case activity.MomentHinted:
		s := c.arranged(start, a)
		for range c.doc.Hints {
			s, _ = c.do(s, play.Move{Do: activity.DoHint})
		}
	default:
		c.ended(c.arranged(start, a))
	}
}

// lastPlaced lists pieces and targets that fit what is said of the placement.
func (c *coverer) lastPlaced(facts []fact, a *placing.Arrangement) (out [][2]int) {
	fits := func(p, t int) bool {
		for _, f := range facts {
			if f.Piece != nil && f.Piece.Selects(c.parts.ItemOf(p)) != f.holds || f.Onto != nil && slices.Contains(f.Onto, c.doc.Targets[t].ID) != f.holds {
				return false
			}
		}
		return true
	}
	refused := slices.ContainsFunc(facts, func(f fact) bool { return f.Result == activity.ResultRefused && f.holds })
	for p, where := range a.Where {
		for t := range c.doc.Targets {
			if (where == t || refused) && fits(p, t) && len(out) < 50 {
				out = append(out, [2]int{p, t})
			}
		}
	}
	return out
}

// shadow is the reply that is given in place of one that never is, though its own
// condition can hold; or nothing.
func (c *coverer) shadow(reply int) string {
	doc := c.doc.Clone()
	r := doc.Replies[reply]
	doc.Replies = slices.Insert(slices.Delete(doc.Replies, reply, reply+1), 0, r)
	p := New(c.ctx, doc)
	game, err := play.New(doc)
	if err != nil {
		return ""
	}
	first := newCoverer(p, game)
	first.everything()
	if first.found[r.ID] == nil {
		first.search(0)
	}
	e := first.found[r.ID]
	if e == nil {
		return ""
	}
	s := c.open()
	given := s.state.Opening
	for _, m := range e.Moves {
		var answer play.Answer
		s, answer = c.do(s, m)
		given = answer.Replies
	}
	for _, g := range given {
		if c.doc.Replies[g.Number].Moment == r.Moment {
			return g.ID
		}
	}
	return ""
}
