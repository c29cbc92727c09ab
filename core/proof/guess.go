package proof

import (
	"context"
	"math/big"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// Chance is what a blind guesser comes to. The pieces come in a random order, every order
// as likely as any other. Each goes into one of the targets that let it in and have room,
// all as likely, and home is one choice more where some valid arrangement leaves a piece
// at home, or where nothing is open; in a lane every index is as likely.
type Chance struct {
	// Valid is the probability of a valid arrangement, as a fraction.
	Valid string `json:"valid"`
	// Mean is the mean percent that a first attempt scores, rounded once.
	Mean  exact.Hundredths `json:"-"`
	Exact bool             `json:"exact"`
	// Interval holds both with 95 % certainty, in percent, where they were drawn.
	Interval *Interval `json:"interval,omitempty"`

	MeanPercent string `json:"meanPercent"`
}

// Interval is between which percents a probability and a mean lie.
type Interval struct {
	Valid       [2]float64 `json:"valid"`
	MeanPercent [2]float64 `json:"meanPercent"`
}

const (
	// mostStates bounds what is worked out exactly: states (which pieces have come, and
	// where they are), or outcomes where their order makes no difference.
	mostStates = 200_000
	draws      = 20_000
	guessSeed  = 8
)

// guesser puts pieces down one after the other.
type guesser struct {
	ctx   context.Context
	parts *activity.Parts
	home  bool // home is a choice for every piece
	a     *placing.Arrangement
	open  [][]int // by piece: targets that let it in, and home where that is a choice
	lane  []bool  // by target
	// limited: some target may be full, so that choices depend on what came before.
	limited bool
	now     [][]int // by piece: scratch
	// tally is there where pieces only add up; then nothing else is kept of them but
	// how many there are in each target.
	tally  *tally
	firsts *marks.Firsts
	values map[exact.Ratio]int // value: its number
	list   []exact.Ratio
}

func newGuesser(ctx context.Context, judge *marks.Judge, home bool) *guesser {
	g := &guesser{ctx: ctx, parts: judge.Parts, home: home,
		a: placing.New(judge.Parts), firsts: marks.NewFirsts(judge), values: map[exact.Ratio]int{}}
	for t := range g.a.In {
		g.a.In[t] = make([]placing.Placed, 0, len(g.parts.Pieces))
	}
	ofItem := make([][]int, len(g.parts.Doc.Items))
	for t := range g.parts.Doc.Targets {
		g.lane = append(g.lane, g.parts.Doc.Targets[t].Ordered)
		letIn := 0
		for _, p := range g.parts.Pieces {
			if g.parts.LetsIn(t, p.Item) {
				letIn++
			}
		}
		holds := g.parts.Doc.Targets[t].Holds
		g.limited = g.limited || holds > 0 && holds < letIn
	}
	for i := range ofItem {
		for t := range g.parts.Doc.Targets {
			if g.parts.LetsIn(t, i) {
				ofItem[i] = append(ofItem[i], t)
			}
		}
		if g.home || len(ofItem[i]) == 0 {
			ofItem[i] = append(ofItem[i], activity.Home)
		}
	}
	if cells, needed, ok := g.firsts.Cells(); ok && !slices.Contains(g.lane, true) {
		g.tally = newTally(cells, needed, len(g.parts.Doc.Items))
	}
	for _, p := range g.parts.Pieces {
		g.open = append(g.open, ofItem[p.Item])
		g.now = append(g.now, make([]int, 0, len(ofItem[p.Item])+1))
	}
	return g
}

// choices adds to out the targets for a piece as things stand, and home.
func (g *guesser) choices(piece int, out []int) []int {
	if !g.limited {
		return g.open[piece]
	}
	for _, t := range g.open[piece] {
		if t >= 0 && g.a.Room(t) {
			out = append(out, t)
		}
	}
	if g.home || len(out) == 0 {
		out = append(out, activity.Home)
	}
	return out
}

// places is at how many indices a piece can be put into a target.
func (g *guesser) places(target int) int {
	if target < 0 || !g.lane[target] {
		return 1
	}
	return len(g.a.In[target]) + 1
}

func (g *guesser) put(piece, target, index int) {
	if target < 0 {
		return
	}
	if g.tally != nil {
		for i, add := range g.tally.of(target, g.parts.Pieces[piece].Item) {
			g.tally.now[i] += add
		}
		if !g.limited {
			return
		}
	}
	list := append(g.a.In[target], placing.Placed{})
	if !g.lane[target] { // it is read as if the pieces had come in document order
		for index = len(list) - 1; index > 0 && list[index-1].Piece > piece; {
			index--
		}
	}
	copy(list[index+1:], list[index:])
	list[index] = placing.Placed{Piece: piece, Since: piece + 1}
	g.a.In[target] = list
}

// takeBack undoes the put that came last.
func (g *guesser) takeBack(piece, target, index int) {
	if target < 0 {
		return
	}
	if g.tally != nil {
		for i, add := range g.tally.of(target, g.parts.Pieces[piece].Item) {
			g.tally.now[i] -= add
		}
		if !g.limited {
			return
		}
	}
	list := g.a.In[target]
	if g.lane[target] {
		copy(list[index:], list[index+1:])
	}
	g.a.In[target] = list[:len(list)-1]
}

// over reports whether there is no time left.
func (g *guesser) over() bool { return g.ctx.Err() != nil }

// look judges what stands as a first attempt: the number of its value, and whether
// it is valid.
func (g *guesser) look() (value int, valid bool) {
	if g.tally != nil {
		return g.sum()
	}
	worth, valid := g.firsts.Value(g.a)
	return g.number(worth), valid
}

// number gives a value its number.
func (g *guesser) number(worth exact.Ratio) int {
	n, ok := g.values[worth]
	if !ok {
		n = len(g.list)
		g.values[worth] = n
		g.list = append(g.list, worth)
	}
	return n
}

// guess works out the chance of a blind guesser, exactly where that takes no more than
// mostStates, else from 20,000 draws that are always the same. home says whether leaving
// a piece there is a choice. Cost: a judgement for each outcome, or for each sum where
// pieces only add up.
func guess(ctx context.Context, judge *marks.Judge, home bool) Chance {
	g := newGuesser(ctx, judge, home)
	exactly := g.all
	switch {
	case g.limited:
		exactly = g.byStates
	case g.tally != nil:
		exactly = g.bySums
	}
	if c, ok := exactly(); ok {
		return c
	}
	return g.drawn()
}

// ways counts the ways to put the pieces down in document order, and stops where there
// are more than mostStates; with absent, each piece may also not have come yet. How
// many there are from a piece on is decided by how many pieces each target has: what
// has as many goes on as one. Cost: choices for each of the different fillings.
func (g *guesser) ways(absent bool) int {
	layer := map[string]int{string(make([]byte, 2*len(g.a.In))): 1}
	fill := func(held string) {
		for t := range g.a.In {
			g.a.In[t] = g.a.In[t][:int(held[2*t])|int(held[2*t+1])<<8]
		}
	}
	defer fill(string(make([]byte, 2*len(g.a.In))))
	total := 0
	for p := range g.parts.Pieces {
		next := map[string]int{}
		total = 0
		add := func(key string, n int) {
			next[key] += n
			total += n
		}
		for held, n := range layer {
			fill(held)
			for _, t := range g.choices(p, g.now[p]) {
				key := held
				if t >= 0 {
					more := len(g.a.In[t]) + 1
					key = held[:2*t] + string([]byte{byte(more), byte(more >> 8)}) + held[2*t+2:]
				}
				add(key, n*g.places(t))
			}
			if absent {
				add(held, n)
			}
			if total > mostStates { // and each goes on in at least one way
				return total
			}
		}
		layer = next
	}
	return total
}

// all goes through every outcome where no target can be full: then the order in which
// pieces come makes no difference (in a lane, inserting at random gives every order as
// often, whichever came first). A weight is the product of the numbers of choices on the
// way; ok is false where there are too many outcomes.
func (g *guesser) all() (c Chance, ok bool) {
	if g.ways(false) > mostStates {
		return c, false
	}
	w := newWeights()
	var from func(piece, weight int)
	from = func(piece, weight int) {
		if g.over() {
			return
		}
		if piece == len(g.parts.Pieces) {
			value, valid := g.look()
			w.count(weight, value, valid, 1)
			return
		}
		choices := g.choices(piece, g.now[piece])
		for _, t := range choices {
			places := g.places(t)
			next := w.times(weight, len(choices)*places)
			for i := range places {
				g.put(piece, t, i)
				from(piece+1, next)
				g.takeBack(piece, t, i)
			}
		}
	}
	from(0, 0)
	return w.sum(g.list), true
}

func chance(valid, mean *big.Rat, sure bool) Chance {
	percent := exact.RoundRat(mean.Mul(mean, big.NewRat(100, 1)))
	return Chance{Valid: valid.RatString(), Mean: percent, MeanPercent: percent.Fixed(), Exact: sure}
}
