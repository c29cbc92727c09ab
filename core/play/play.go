// Package play runs a sitting: a fold over its moves.
//
// A [Game] is a document made ready to be played; it never changes and many
// sittings share it. A [State] is where one sitting stands; [Game.Move] takes a
// state and a move to the next state and an [Answer], and touches nothing else.
// So a sitting is its list of moves, and can be replayed from it at any time:
//
//	game, _ := play.New(doc)
//	state := game.Open(seed)
//	for _, m := range moves {
//		state, answer = game.Move(state, m)
//	}
//
// Phases: placing → check → done, when it is right or the attempt was the last,
// else paused → again → placing. A move is numbered 1, 2, …; a number that comes
// again with the same body answers as before, so that a request can be repeated
// without harm.
package play

import (
	"encoding/json"
	"math/big"
	"math/rand/v2"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// Move is what a learner does.
type Move struct {
	N      int         `json:"n" doc:"1, 2, …; a repeated number with the same body changes nothing"`
	T      int64       `json:"t" doc:"Milliseconds since the start"`
	Do     string      `json:"do" enum:"place,drop,lift,undo,reset,check,again"`
	Piece  string      `json:"piece,omitempty"`
	Target string      `json:"target,omitempty"`
	Index  *int        `json:"index,omitempty"`
	X      *activity.U `json:"x,omitempty"`
	Y      *activity.U `json:"y,omitempty"`
}

// same reports whether two moves have the same body.
func (m Move) same(o Move) bool {
	a, _ := json.Marshal(m)
	b, _ := json.Marshal(o)
	return string(a) == string(b)
}

// Phases of a sitting.
const (
	Placing = "placing"
	Paused  = "paused"
	Done    = "done"
)

// State is where a sitting stands. It is plain data, written and read as JSON.
type State struct {
	Seed    uint64                 `json:"seed"`
	N       int                    `json:"n"` // the last number used up
	Last    Move                   `json:"last"`
	Phase   string                 `json:"phase"`
	Attempt int                    `json:"attempt"` // under way, or the last judged
	Now     *placing.Arrangement   `json:"now"`
	Before  []*placing.Arrangement `json:"before,omitempty"` // to undo to, oldest first
	Verdict *marks.Verdict         `json:"verdict,omitempty"`
	Judged  int                    `json:"judged"` // the last verdict's attempt
	Kept    *Kept                  `json:"kept,omitempty"`
}

// Kept is the score that counts so far, with its unrounded value.
type Kept struct {
	Value   string `json:"value"`
	Score   string `json:"score"`
	Percent string `json:"percent"`
}

// Answer is what a move came to.
type Answer struct {
	Result  string
	Reason  string
	Target  string         // the target that was meant, where there was one
	Verdict *marks.Verdict // when this move reached one
}

// Game is a document ready to be played.
type Game struct {
	Doc   *activity.Doc
	Judge *marks.Judge
}

// New makes a document ready. The error is a [*marks.Impossible].
func New(doc *activity.Doc) (*Game, error) {
	judge, err := marks.NewJudge(doc)
	if err != nil {
		return nil, err
	}
	return &Game{doc, judge}, nil
}

// Open is the state before the first move.
func (g *Game) Open(seed uint64) *State {
	return &State{Seed: seed, Phase: Placing, Attempt: 1, Now: placing.New()}
}

// Order is the order in which the pieces are laid out: that of the document, or
// shuffled by the seed (PCG with the pair (seed, 0), Fisher–Yates from the end).
func (g *Game) Order(seed uint64) []string {
	pieces := placing.Pieces(g.Doc)
	if g.Doc.Play.Shuffle {
		rnd := rand.New(rand.NewPCG(seed, 0))
		for i := len(pieces) - 1; i > 0; i-- {
			j := int(rnd.Uint64N(uint64(i + 1)))
			pieces[i], pieces[j] = pieces[j], pieces[i]
		}
	}
	return pieces
}

// Left is how many attempts are left after the one under way or judged; ok is
// false when there is no limit.
func (g *Game) Left(s *State) (left int, ok bool) {
	if g.Doc.Play.Attempts == 0 {
		return 0, false
	}
	return max(0, g.Doc.Play.Attempts-s.Attempt), true
}

// Move does one move. The state that it is given stays as it was.
func (g *Game) Move(before *State, m Move) (*State, Answer) {
	if before.N > 0 && m.N == before.N && m.same(before.Last) {
		return before, Answer{Result: "repeated"}
	}
	if m.N != before.N+1 {
		return before, Answer{Result: "rejected"}
	}
	s := *before
	s.N, s.Last = m.N, m
	s.Now = before.Now.Clone()
	s.Before = slices.Clip(before.Before) // so that appending never writes into the state before
	if m.T < before.Last.T {
		return &s, Answer{Result: "rejected", Reason: "too-early"}
	}
	return &s, g.do(&s, before.Now, m)
}

func (g *Game) do(s *State, was *placing.Arrangement, m Move) Answer {
	var r placing.Result
	target := m.Target
	not := Answer{Result: "rejected", Reason: "not-allowed"}
	switch m.Do {
	case "place", "drop", "lift":
		if a, ok := g.known(m); !ok {
			return a
		}
		if s.Phase != Placing {
			return not
		}
		switch {
		case m.Do == "place":
			r = s.Now.Place(g.Doc, m.Piece, m.Target, m.N)
		case m.Do == "lift":
			r = s.Now.Lift(g.Doc, m.Piece)
		case m.X == nil || m.Y == nil:
			return Answer{Result: "rejected", Reason: "no-place"}
		default:
			r, target = s.Now.Drop(g.Doc, m.Piece, *m.X, *m.Y, m.N)
		}
		if r.Result == "placed" || r.Result == "loose" || r.Result == "lifted" && !same(was, s.Now) {
			s.Before = append(s.Before, was)
		}
		return Answer{Result: r.Result, Reason: r.Reason, Target: target}
	case "undo":
		if s.Phase != Placing || !g.Doc.Play.Undo || len(s.Before) == 0 {
			return not
		}
		s.Now = s.Before[len(s.Before)-1]
		s.Before = s.Before[:len(s.Before)-1]
		return Answer{Result: "undone"}
	case "reset":
		if s.Phase != Placing || !g.Doc.Play.Reset {
			return not
		}
		if s.Now.Reset() {
			s.Before = append(s.Before, was)
		}
		return Answer{Result: "reset"}
	case "check":
		if s.Phase != Placing || g.Doc.Play.CheckWhen == "allPlaced" && s.Now.CouldPlace(g.Doc) {
			return not
		}
		return g.check(s)
	case "again":
		if s.Phase != Paused {
			return not
		}
		g.again(s)
		return Answer{Result: "again"}
	}
	return Answer{Result: "rejected", Reason: "unknown-move"}
}

// known rejects pieces and targets that do not exist before anything else, so
// that the reason is the same in every phase.
func (g *Game) known(m Move) (Answer, bool) {
	if placing.ItemOf(g.Doc, m.Piece) == nil {
		return Answer{Result: "rejected", Reason: "unknown-piece"}, false
	}
	if m.Do == "place" && g.Doc.Target(m.Target) == nil {
		return Answer{Result: "rejected", Reason: "unknown-target"}, false
	}
	return Answer{}, true
}

func same(a, b *placing.Arrangement) bool {
	x, _ := json.Marshal(a)
	y, _ := json.Marshal(b)
	return string(x) == string(y)
}

func (g *Game) check(s *State) Answer {
	v, value := g.Judge.Verdict(s.Now, s.Attempt)
	s.Verdict, s.Judged, s.Before = &v, s.Attempt, nil
	s.keep(g.Doc.Marks.Keep, value, v)
	left, limited := g.Left(s)
	if v.Valid || limited && left == 0 {
		s.Phase = Done
	} else {
		s.Phase = Paused
	}
	return Answer{Result: "checked", Verdict: &v}
}

func (s *State) keep(rule string, value *big.Rat, v marks.Verdict) {
	if s.Kept != nil {
		kept, _ := new(big.Rat).SetString(s.Kept.Value)
		if rule == "first" || rule == "best" && kept.Cmp(value) >= 0 {
			return
		}
	}
	s.Kept = &Kept{value.RatString(), v.Score, v.Percent}
}

// again begins the next attempt: wrong pieces and right pieces stay, go home or
// are held, as the document says; a held piece never goes home.
func (g *Game) again(s *State) {
	s.Phase = Placing
	s.Attempt++
	s.Before = nil
	home := func(pieces []string) {
		for _, p := range pieces {
			s.Now.Lift(g.Doc, p)
		}
	}
	if g.Doc.Play.WrongPieces == "home" {
		home(s.Verdict.Wrong)
	}
	switch g.Doc.Play.RightPieces {
	case "home":
		home(s.Verdict.Right)
	case "hold":
		for _, p := range s.Verdict.Right {
			if !s.Now.IsHeld(p) {
				s.Now.Held = append(s.Now.Held, p)
			}
		}
		slices.Sort(s.Now.Held)
	}
}

// Final is what a sitting comes to, so far.
type Final struct {
	Phase    string `json:"phase"`
	Outcome  string `json:"outcome,omitempty"`
	Attempts int    `json:"attempts"`
	Score    string `json:"score"`
	Percent  string `json:"percent"`
	Passed   *bool  `json:"passed,omitempty"`
	Band     string `json:"band,omitempty"`
}

// Final works out the final figures; without a verdict there is nothing passed.
func (g *Game) Final(s *State) Final {
	f := Final{Phase: s.Phase, Attempts: s.Judged, Score: "0.00", Percent: "0.00"}
	if s.Verdict == nil {
		return f
	}
	f.Outcome, f.Score, f.Percent = s.Verdict.Outcome, s.Kept.Score, s.Kept.Percent
	value, _ := new(big.Rat).SetString(s.Kept.Value)
	percent := exact.RoundHundredths(value.Mul(value, big.NewRat(100, 1)))
	passed := percent >= g.Doc.Marks.PassMark
	f.Passed, f.Band = &passed, g.Judge.Band(percent)
	return f
}
