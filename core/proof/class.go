package proof

import (
	"cmp"
	"math/rand/v2"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/exact"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

// Learners is a class that is made up: how many, how likely each is to know the
// place of an item (percent), and the seed that they follow from.
type Learners struct {
	Number  int    `json:"number"`
	Ability int    `json:"ability"`
	Seed    uint64 `json:"seed"`
}

// Class is how they did. Percents are rounded as scores are.
type Class struct {
	Number      int         `json:"number"`
	Scores      [11]int     `json:"scores"`   // by tens of percent, those below 0 with the first; 100 by itself
	Attempts    map[int]int `json:"attempts"` // learners, by attempts used
	Right       int         `json:"right"`    // ended with everything right
	Passed      int         `json:"passed"`
	MeanPercent string      `json:"meanPercent"`
	// Moves are the quartiles of how many moves a learner made: least, lower, median,
	// upper, most.
	Moves [5]int `json:"moves"`
	// Replies counts, by reply, the learners to whom it was given at least once.
	Replies map[string]int `json:"replies"`
	// Guessed counts where the pieces ended up of which the learner did not know the
	// place: by item, then target, or "" for home.
	Guessed map[string]map[string]int `json:"guessed"`
}

// mostChecks ends the sitting of a learner who would try for ever.
const mostChecks = 50

// Simulate lets a class play to the end. Each learner has one solution in mind and
// knows of each item, with the given probability, where it goes by that; other
// pieces go to any target that is open, or stay at home where the document has
// distractors, but never where the learner saw them judged wrong. watch, unless it
// is nil, is told how many are done and stops the class by false.
// Cost: the moves of all learners, some microseconds each.
func Simulate(game *play.Game, who Learners, watch func(done int) bool) Class {
	c := Class{Number: who.Number, Attempts: map[int]int{}, Replies: map[string]int{}, Guessed: map[string]map[string]int{}}
	total := exact.Hundredths(0)
	moves := make([]int, 0, who.Number)
	witnesses := make([]*placing.Arrangement, len(game.Judge.Solutions))
	for i, s := range game.Judge.Solutions {
		witnesses[i] = s.Witness()
	}
	home := len(answer.Nowhere(game.Parts)) > 0
	for n := range who.Number {
		if watch != nil && !watch(n) {
			c.Number = n
			break
		}
		rnd := rand.New(rand.NewPCG(who.Seed, uint64(n)))
		l := learner{game: game, rnd: rnd, mind: witnesses[rnd.IntN(len(witnesses))], home: home, wrong: map[placement]bool{},
			state: game.Open(rnd.Uint64()), given: map[int]bool{}}
		l.hear(l.state.Opening)
		for range game.Doc.Items {
			l.knows = append(l.knows, rnd.IntN(100) < who.Ability)
		}
		l.play()
		final := game.Final(l.state)
		percent, _ := exact.Parse(final.Percent)
		total += percent
		c.Scores[min(10, max(0, int(percent)/1000))]++
		c.Attempts[final.Attempts]++
		if final.Outcome == activity.OutcomeRight {
			c.Right++
		}
		if final.Passed {
			c.Passed++
		}
		moves = append(moves, l.state.N)
		for i := range l.given {
			c.Replies[game.Doc.Replies[i].ID]++
		}
		l.tellGuesses(c.Guessed)
	}
	c.MeanPercent = exact.Of(int64(total), int64(100*max(1, c.Number))).Round().Fixed()
	slices.Sort(moves)
	for k := range c.Moves {
		if len(moves) > 0 {
			c.Moves[k] = moves[k*(len(moves)-1)/4]
		}
	}
	return c
}

// Sitting is one made-up learner's sitting of a game, from its opening to its end: the
// moves, with times such as a person takes. The learner knows items with the given
// probability (percent), by what is right in another game of the same parts, which may
// be the same: whoever knows better than the key is told that they are wrong.
func Sitting(game, knows *play.Game, ability int, seed uint64) []play.Move {
	rnd := rand.New(rand.NewPCG(seed, 2))
	solutions := knows.Judge.Solutions
	l := learner{game: game, rnd: rnd, mind: solutions[rnd.IntN(len(solutions))].Witness(), home: len(answer.Nowhere(game.Parts)) > 0,
		wrong: map[placement]bool{}, state: game.Open(seed), given: map[int]bool{}, keep: true}
	for range game.Doc.Items {
		l.knows = append(l.knows, rnd.IntN(100) < ability)
	}
	l.play()
	at := int64(0)
	for i := range l.moves {
		at += 1500 + rnd.Int64N(6500)
		l.moves[i].N, l.moves[i].T = i+1, at
	}
	return l.moves
}

// placement is an item in a target, in a lane at an index; −1 elsewhere.
type placement struct{ item, target, index int }

// learner is one of them.
type learner struct {
	game  *play.Game
	rnd   *rand.Rand
	mind  *placing.Arrangement
	knows []bool             // by item
	home  bool               // leaving a piece at home may be right
	wrong map[placement]bool // seen judged wrong
	state *play.State
	given map[int]bool // replies
	moves []play.Move  // kept where keep is set
	keep  bool
}

func (l *learner) do(m play.Move) play.Answer {
	m.N, m.T = l.state.N+1, l.state.T
	var a play.Answer
	l.state, a = l.game.Move(l.state, m)
	l.hear(a.Replies)
	if l.keep && a.Result != placing.EffectRejected {
		l.moves = append(l.moves, m)
	}
	return a
}

func (l *learner) hear(replies []play.Given) {
	for _, r := range replies {
		l.given[r.Number] = true
	}
}

// tellGuesses counts where the pieces are that the learner did not know.
func (l *learner) tellGuesses(into map[string]map[string]int) {
	for p := range l.game.Parts.Pieces {
		item := l.game.Parts.Pieces[p].Item
		if l.knows[item] {
			continue
		}
		id, target := l.game.Doc.Items[item].ID, ""
		if t := l.state.Now.Where[p]; t >= 0 {
			target = l.game.Doc.Targets[t].ID
		}
		if into[id] == nil {
			into[id] = map[string]int{}
		}
		into[id][target]++
	}
}

func (l *learner) play() {
	for range mostChecks {
		l.place()
		if l.state.Phase == play.Placing {
			if a := l.do(play.Move{Do: activity.DoCheck}); a.Result == placing.EffectRejected {
				l.crowd()
				l.do(play.Move{Do: activity.DoCheck})
			}
		}
		if l.state.Phase != play.Paused {
			return
		}
		l.learn(l.state.Verdict.Wrong)
		l.do(play.Move{Do: activity.DoAgain})
	}
}

// learn remembers what was judged wrong, where it shows.
func (l *learner) learn(wrong []string) {
	if l.game.Doc.Play.Show == activity.ShowNever {
		return
	}
	for _, id := range wrong {
		p, _ := l.game.Parts.Piece(id)
		if l.state.Now.Where[p] >= 0 {
			l.wrong[l.at(p)] = true
		}
	}
}

// at is where a piece is that is in a target.
func (l *learner) at(piece int) placement {
	t := l.state.Now.Where[piece]
	index := -1
	if l.game.Doc.Targets[t].Ordered {
		index = l.state.Now.Index(piece)
	}
	return placement{l.game.Parts.Pieces[piece].Item, t, index}
}

// place puts down every piece that is at home or known to be wrong, as the pieces
// come.
func (l *learner) place() {
	for k := 0; k < len(l.state.Order) && l.state.Phase == play.Placing; k++ {
		p := l.state.Order[k]
		item := l.game.Parts.Pieces[p].Item
		at := l.state.Now.Where[p]
		if l.state.Now.Held[p] || !l.state.HasAppeared(p) || at >= 0 && !l.wrong[l.at(p)] {
			continue
		}
		for range len(l.game.Doc.Targets) + 1 {
			t := l.choose(p, item)
			if t < 0 {
				if at >= 0 {
					l.do(play.Move{Do: activity.DoLift, Piece: l.game.Parts.Pieces[p].ID})
				}
				break
			}
			m := play.Move{Do: activity.DoPlace, Piece: l.game.Parts.Pieces[p].ID, Target: l.game.Doc.Targets[t].ID}
			put := placement{item, t, -1}
			if l.game.Doc.Targets[t].Ordered {
				put.index = l.index(p, item, t)
				m.Index = &put.index
			}
			a := l.do(m)
			if a.Verdict != nil && slices.Contains(a.Verdict.Wrong, m.Piece) || a.Result == placing.EffectRefused && a.Reason == "closed" ||
				l.game.Doc.Play.Check == activity.CheckingEach && l.state.Now.Where[p] != t {
				l.wrong[put] = true
			}
			if l.state.Phase != play.Placing || l.state.Now.Where[p] == t && !l.wrong[put] {
				break
			}
		}
	}
}

// choose is where a learner would put a piece, or home.
func (l *learner) choose(piece, item int) int {
	if t := l.mind.Where[piece]; l.knows[item] && (t < 0 || !l.wrong[placement{item, t, -1}]) {
		return t
	}
	var open []int
	for t := range l.game.Doc.Targets {
		if l.game.Parts.LetsIn(t, item) && !l.wrong[placement{item, t, -1}] && (l.state.Now.Where[piece] == t || l.state.Now.Room(t)) {
			open = append(open, t)
		}
	}
	if l.home || len(open) == 0 {
		open = append(open, activity.Home)
	}
	return open[l.rnd.IntN(len(open))]
}

// index is where in a lane: after those that the learner knows to come before it,
// else anywhere.
func (l *learner) index(piece, item, target int) int {
	list := slices.DeleteFunc(slices.Clone(l.state.Now.In[target]), func(x placing.Placed) bool { return x.Piece == piece })
	if !l.knows[item] {
		at := l.rnd.IntN(len(list) + 1)
		for range list { // not where it was seen to be wrong, unless it was so everywhere
			if l.wrong[placement{item, target, at}] {
				at = (at + 1) % (len(list) + 1)
			}
		}
		return at
	}
	at := 0
	for i, x := range list {
		if l.mind.Where[x.Piece] == target && l.mind.Where[piece] == target && l.mind.Index(x.Piece) < l.mind.Index(piece) {
			at = i + 1
		}
	}
	return at
}

// crowd places whatever can be placed, where a check asks for that.
func (l *learner) crowd() {
	order := slices.Clone(l.state.Order)
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(l.state.Now.Where[a], l.state.Now.Where[b]) })
	for _, p := range order {
		for t := range l.game.Doc.Targets {
			if l.state.Now.Where[p] < 0 && l.state.HasAppeared(p) && l.game.Parts.LetsIn(t, l.game.Parts.Pieces[p].Item) && l.state.Now.Room(t) {
				l.do(play.Move{Do: activity.DoPlace, Piece: l.game.Parts.Pieces[p].ID, Target: l.game.Doc.Targets[t].ID})
			}
		}
	}
}
