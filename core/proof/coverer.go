package proof

import (
	"math/rand/v2"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

const (
	coverMoves  = 60_000 // what playing through situations may cost
	coverTries  = 20_000 // what searching for one more may cost, in judgements
	triedPieces = 200    // variations of one arrangement
)

type silence struct {
	outcome activity.Outcome
	last    bool
}

// coverer plays sittings and notes what comes of them.
type coverer struct {
	*Proof
	game     *play.Game
	rnd      *rand.Rand
	moves    int
	tries    int
	found    map[string]*Example
	silent   map[silence]*Example
	answered map[silence]bool // those after which something was said
	speaking bool             // there are replies at checks at all
	placed   bool             // what is said may depend on a placement
	wanted   int              // replies that are switched on
	general  bool             // at every check something is said, whatever stands on the board
}

func newCoverer(p *Proof, game *play.Game) *coverer {
	c := &coverer{Proof: p, game: game, rnd: rand.New(rand.NewPCG(guessSeed, 1)), found: map[string]*Example{}, silent: map[silence]*Example{}, answered: map[silence]bool{}}
	c.general = c.alwaysSpeaks()
	for _, r := range p.doc.Replies {
		if !r.Off {
			c.wanted++
		}
		c.placed = c.placed || r.Moment == activity.MomentPlaced && !r.Off || p.doc.Play.Check == activity.CheckingEach
		c.speaking = c.speaking || r.Moment == activity.MomentChecked || r.Moment == activity.MomentDone || r.Moment == activity.MomentTimeUp
	}
	return c
}

// sitting is one being played; what is done to it leaves the one it came from as it
// was.
type sitting struct {
	state *play.State
	last  *made
}

// made is a move with those before it, which sittings share.
type made struct {
	play.Move
	before *made
}

func (c *coverer) open() sitting {
	s := sitting{state: c.game.Open(1)}
	for _, g := range s.state.Opening {
		c.note(g.ID, s)
	}
	return s
}

func (c *coverer) note(reply string, s sitting) {
	if c.found[reply] == nil {
		c.found[reply] = c.example(s)
	}
}

func (c *coverer) example(s sitting) *Example {
	moves := []play.Move{}
	for m := s.last; m != nil; m = m.before {
		moves = append(moves, m.Move)
	}
	slices.Reverse(moves)
	return &Example{moves, s.state.Now.Names(), s.state.Attempt}
}

// spent reports whether no more may be played.
func (c *coverer) spent() bool { return c.moves > coverMoves || c.ctx.Err() != nil }

// tired reports whether no more may be searched.
func (c *coverer) tired() bool { return c.tries > coverTries || c.ctx.Err() != nil }

// do plays one move and notes the replies that come.
func (c *coverer) do(s sitting, m play.Move) (sitting, play.Answer) {
	c.moves++
	m.N, m.T = s.state.N+1, s.state.T
	if m.Do == activity.DoTimeUp {
		m.T = int64(c.doc.Play.TimeLimit)
	}
	state, answer := c.game.Move(s.state, m)
	if answer.Result == placing.EffectRejected {
		return s, answer
	}
	s = sitting{state, &made{m, s.last}}
	for _, g := range answer.Replies {
		c.note(g.ID, s)
	}
	for _, g := range c.game.Review(state) {
		c.note(g.ID, s)
	}
	if c.speaking && answer.Verdict != nil && state.Phase != play.Placing {
		left, limited := c.game.Left(state)
		key := silence{answer.Verdict.Outcome, state.Phase == play.Done && limited && left == 0}
		if len(answer.Replies) > 0 {
			c.answered[key] = true
		} else if c.silent[key] == nil {
			c.silent[key] = c.example(s)
		}
	}
	return s, answer
}

// arranged plays an arrangement: its pieces go into their targets, in the order in
// which they stand, lanes from the front. Pieces that are dealt one by one are
// placed as they come; those that stay at home end it.
func (c *coverer) arranged(s sitting, a *placing.Arrangement) sitting {
	place := func(p int) {
		t := a.Where[p]
		if s.state.Phase != play.Placing || s.state.Now.Where[p] == t {
			return
		}
		id := c.parts.Pieces[p].ID
		if t < 0 {
			s, _ = c.do(s, play.Move{Do: activity.DoLift, Piece: id})
			return
		}
		m := play.Move{Do: activity.DoPlace, Piece: id, Target: c.doc.Targets[t].ID}
		if c.doc.Targets[t].Ordered {
			at := 0
			for _, x := range s.state.Now.In[t] {
				if a.Where[x.Piece] == t && a.Index(x.Piece) < a.Index(p) {
					at++
				}
			}
			m.Index = &at
		}
		s, _ = c.do(s, m)
	}
	for _, p := range slices.Clone(s.state.Order) {
		if a.Where[p] < 0 && s.state.Now.Where[p] >= 0 {
			place(p)
		}
	}
	for t := range c.doc.Targets {
		s = c.reordered(s, a, t)
	}
	for _, p := range slices.Clone(s.state.Order) {
		if a.Where[p] >= 0 {
			place(p)
		}
	}
	return s
}

// reordered takes the pieces out of a lane that stand there in another order than
// they are to.
func (c *coverer) reordered(s sitting, a *placing.Arrangement, target int) sitting {
	var stay []int
	for _, x := range s.state.Now.In[target] {
		if a.Where[x.Piece] == target {
			stay = append(stay, x.Piece)
		}
	}
	if !c.doc.Targets[target].Ordered || slices.IsSortedFunc(stay, func(p, q int) int { return a.Index(p) - a.Index(q) }) {
		return s
	}
	for _, p := range stay {
		s, _ = c.do(s, play.Move{Do: activity.DoLift, Piece: c.parts.Pieces[p].ID})
	}
	return s
}

// later is a sitting at its nth attempt, with the earlier ones failed, or ok false.
func (c *coverer) later(s sitting, n int) (out sitting, ok bool) {
	for range 3 * n {
		if s.state.Attempt >= n || s.state.Phase == play.Done {
			break
		}
		was := s.state.N
		if s.state.Phase == play.Paused {
			s, _ = c.do(s, play.Move{Do: activity.DoAgain})
			continue
		}
		if c.doc.Play.Check == activity.CheckingEach {
			s = c.oneWrong(s)
		} else {
			if !c.game.CanCheck(s.state) {
				s = c.arranged(s, allWrong(c.parts, c.solutions))
			}
			s, _ = c.do(s, play.Move{Do: activity.DoCheck})
		}
		if s.state.N == was {
			break
		}
	}
	return s, s.state.Attempt == n && s.state.Phase == play.Placing
}

// oneWrong places some piece where it is wrong.
func (c *coverer) oneWrong(s sitting) sitting {
	for p := range c.parts.Pieces {
		if s.state.Now.Where[p] >= 0 || !s.state.HasAppeared(p) {
			continue
		}
		for t := range c.doc.Targets {
			if item := c.parts.Pieces[p].Item; c.parts.LetsIn(t, item) && !rightSomewhere(c.solutions, t, item) && s.state.Now.Room(t) {
				s, _ = c.do(s, play.Move{Do: activity.DoPlace, Piece: c.parts.Pieces[p].ID, Target: c.doc.Targets[t].ID})
				return s
			}
		}
	}
	return s
}

// everything plays what learners may well come to.
func (c *coverer) everything() {
	attempts := []int{1}
	if n := c.doc.Play.Attempts; n == 0 {
		attempts = []int{1, 2, 3}
	} else if n > 1 {
		attempts = append(attempts, n)
		if n > 2 {
			attempts = append(attempts, 2)
		}
	}
	// Most situations differ by a piece or two from what is right: those boards are
	// gone on from, at each attempt.
	var begun [][]sitting
	for _, n := range attempts {
		s, ok := c.later(c.open(), n)
		if !ok {
			continue
		}
		if c.placed {
			c.placements(s)
		}
		boards := []sitting{s}
		for _, sol := range c.solutions {
			if board := c.arranged(s, sol.Witness()); board.state.Phase == play.Placing {
				boards = append(boards, board)
			}
		}
		begun = append(begun, boards)
	}
	for a := range c.situations {
		for _, boards := range begun {
			if c.spent() || c.satisfied() {
				return
			}
			c.ended(c.arranged(nearest(boards, a), a))
		}
	}
	s := c.open()
	for range c.doc.Hints {
		s, _ = c.do(s, play.Move{Do: activity.DoHint})
	}
}

// nearest is the sitting from which the fewest pieces must be moved.
func nearest(boards []sitting, a *placing.Arrangement) sitting {
	best, least := boards[0], len(a.Where)+1
	for _, b := range boards {
		n := 0
		for p, where := range b.state.Now.Where {
			if where != a.Where[p] {
				n++
			}
		}
		if n < least {
			best, least = b, n
		}
	}
	return best
}

// ended checks, or lets the time run out.
func (c *coverer) ended(s sitting) {
	if s.state.Phase == play.Placing {
		c.do(s, play.Move{Do: activity.DoCheck})
		if c.doc.Play.TimeLimit > 0 {
			c.do(s, play.Move{Do: activity.DoTimeUp})
		}
	}
}
