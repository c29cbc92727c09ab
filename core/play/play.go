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
// else paused → again → placing. What is a check depends on the document: the
// learner asks, everything is placed, or every placement is one. A move is numbered
// 1, 2, …; a number that comes again with the same body answers as before, so that
// a request can be repeated without harm. [Game.Explain] does a move and tells, step
// by step, why it came out as it did.
//
// Where the document leaves it open, this package decides:
//   - a move's time is compared with the latest so far; a move that is rejected for
//     it does not set the clock back;
//   - a hint that places a piece is a placement: it can fill the board, and it is
//     judged where placements are; it can be undone, but not given back. It takes the
//     first missing piece, in document order, for which a right place leaves a way
//     to a valid arrangement; where that place is full, a wrong piece makes room;
//     where nothing is missing, a need that has too few is served; where there is
//     nothing to place it is rejected and costs nothing;
//   - a refusal that counts brings a verdict, since it changes the score;
//   - dealing only goes forward: undoing a placement does not take back the piece
//     that appeared with it;
//   - a restart does not end a sitting, even of a board that is valid while empty;
//   - a reply that finishes the sitting brings no verdict of its own, unless every
//     placement is judged.
package play

import (
	"encoding/json"
	"math/rand/v2"
	"slices"
	"sync"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/reply"
)

// Move is what a learner does.
type Move struct {
	N      int         `json:"n" doc:"1, 2, …; a repeated number with the same body changes nothing"`
	T      int64       `json:"t" doc:"Milliseconds since the start"`
	Do     activity.Do `json:"do" enum:"place,drop,lift,undo,reset,check,again,restart,hint,timeUp"`
	Piece  string      `json:"piece,omitempty"`
	Target string      `json:"target,omitempty"`
	Index  *int        `json:"index,omitempty"`
	X      *activity.U `json:"x,omitempty"`
	Y      *activity.U `json:"y,omitempty"`
	// At is the time that counts where whoever keeps the sitting knows better than T; Late
	// says that the move was made in time and received afterwards. Learners set neither.
	At   *int64 `json:"at,omitempty" doc:"Set by the server: the time that counts, where that is not t"`
	Late bool   `json:"late,omitempty" doc:"Set by the server: made in time, received afterwards"`
}

// Time is when the move was made, as far as that counts: milliseconds since the start.
func (m Move) Time() int64 {
	if m.At != nil {
		return *m.At
	}
	return m.T
}

// same reports whether two moves have the same body, as it was sent.
func (m Move) same(o Move) bool {
	m.At, m.Late, o.At, o.Late = nil, false, nil, false
	a, _ := json.Marshal(m)
	b, _ := json.Marshal(o)
	return string(a) == string(b)
}

// MostMoves is how many moves a sitting has at most; further ones are rejected.
const MostMoves = 20_000

// Phase is where a sitting is between its start and its end.
type Phase string

const (
	Placing Phase = "placing"
	Paused  Phase = "paused" // checked, until the next attempt begins
	Done    Phase = "done"
)

// What moves come to that place nothing; those that do, see [placing.Effect].
const (
	EffectChecked   placing.Effect = "checked"
	EffectAgain     placing.Effect = "again"
	EffectRestarted placing.Effect = "restarted"
	EffectTimeUp    placing.Effect = "timeUp"
	EffectHinted    placing.Effect = "hinted"
	EffectUndone    placing.Effect = "undone"
	EffectReset     placing.Effect = "reset"
	EffectRepeated  placing.Effect = "repeated" // sent once more, and answered as before
)

// State is where a sitting stands. It shares what did not change with the state
// before it, and is never changed itself.
type State struct {
	Seed    uint64
	Limit   int64 // milliseconds; 0 is none
	N       int   // the last number used up
	T       int64 // the latest time
	Phase   Phase
	Attempt int // under way, or the last judged
	Now     *placing.Arrangement
	Verdict *marks.Verdict // the last
	Judged  int            // its attempt
	Kept    *Kept
	Hints   int // taken
	Dealt   int // pieces that have appeared, in the order of Order
	Order   []int
	Opening []Given // what was said before the first move
	// Standing are the replies that stand before the learner.
	Standing []Given
	tries    *marks.Tries // where every placement is judged
	before   *history
	log      *entry
	cut      *State // the last from which it can be gone on with, where that is another
	placeOf  []int  // each piece's place in Order
}

// history is what can be undone to, the latest first.
type history struct {
	now    *placing.Arrangement
	before *history
}

// entry is a move with its answer, the latest first.
type entry struct {
	move   Move
	answer Answer
	before *entry
}

// Kept is the score that counts so far, with its unrounded value.
type Kept struct {
	Value   exact.Ratio
	Score   exact.Hundredths
	Percent exact.Hundredths
}

// Answer is what a move came to.
type Answer struct {
	Result  placing.Effect
	Reason  string
	Target  string         // the target that was meant, where there was one
	Verdict *marks.Verdict // when this move reached one
	Replies []Given
}

// Given is a reply that was given, its text filled in.
type Given struct {
	ID     string
	Number int // in the document
	Text   string
	N, At  int // the move, and which of its replies
	// Piece and Target are those of the placement, at the moment placed.
	Piece, Target string
	Points        []string // pieces, targets and scenery that are pointed out
	Over          bool     // kept to be opened again
	values        []string // what its text is filled with
}

// Game is a document ready to be played.
type Game struct {
	Doc   *activity.Doc
	Parts *activity.Parts
	Judge *marks.Judge
	book  *reply.Book
	print func() uint64 // of the document, by which checkpoints know it
}

// New makes a document ready. The error is a [*marks.Impossible].
func New(doc *activity.Doc) (*Game, error) {
	judge, err := marks.NewJudge(doc)
	if err != nil {
		return nil, err
	}
	return &Game{doc, judge.Parts, judge, reply.NewBook(judge), sync.OnceValue(func() uint64 { return fingerprint(doc) })}, nil
}

// Open is the state before the first move.
func (g *Game) Open(seed uint64) *State { return g.OpenWithin(seed, int64(g.Doc.Play.TimeLimit)) }

// OpenWithin opens a sitting whose learner has another time limit, in milliseconds,
// than the document says: more of it, or what a series has left. 0 is none.
func (g *Game) OpenWithin(seed uint64, limit int64) *State {
	s := &State{Seed: seed, Limit: limit, Order: g.shuffled(seed)}
	s.placeOf = make([]int, len(s.Order))
	for i, p := range s.Order {
		s.placeOf[p] = i
	}
	g.begin(s)
	t := moving{Game: g, was: s, s: s, piece: -1, target: -1}
	t.give(activity.MomentOpened)
	t.settle()
	s.Opening, s.Standing = t.a.Replies, t.a.Replies
	return s
}

// begin puts everything back to the start but numbers and time.
func (g *Game) begin(s *State) {
	s.Phase, s.Attempt, s.Now = Placing, 1, placing.New(g.Parts)
	s.Verdict, s.Judged, s.Kept, s.Hints, s.before = nil, 0, nil, 0, nil
	s.Dealt = len(s.Order)
	if g.Doc.Play.Deal == activity.DealOne {
		s.Dealt = min(1, len(s.Order))
	}
	if g.each() {
		s.tries = marks.NewTries(g.Parts)
	}
}

func (g *Game) each() bool { return g.Doc.Play.Check == activity.CheckingEach }

// shuffled is the order in which the pieces are laid out and dealt: that of the
// document, or shuffled by the seed (PCG with the pair (seed, 0), Fisher–Yates
// from the end).
func (g *Game) shuffled(seed uint64) []int {
	pieces := make([]int, len(g.Parts.Pieces))
	for i := range pieces {
		pieces[i] = i
	}
	if g.Doc.Play.Shuffle {
		rnd := rand.New(rand.NewPCG(seed, 0))
		for i := len(pieces) - 1; i > 0; i-- {
			j := int(rnd.Uint64N(uint64(i + 1)))
			pieces[i], pieces[j] = pieces[j], pieces[i]
		}
	}
	return pieces
}

// HasAppeared reports whether the piece is dealt.
func (s *State) HasAppeared(piece int) bool { return s.placeOf[piece] < s.Dealt }

// Left is how many attempts are left after the one under way or judged; ok is
// false when there is no limit.
func (g *Game) Left(s *State) (left int, ok bool) {
	if g.Doc.Play.Attempts == 0 {
		return 0, false
	}
	return max(0, g.Doc.Play.Attempts-s.Attempt), true
}

// CanUndo reports whether there is something to undo.
func (g *Game) CanUndo(s *State) bool {
	return s.Phase == Placing && g.Doc.Play.Undo && !g.each() && s.before != nil
}

// CanCheck reports whether a check would be let through.
func (g *Game) CanCheck(s *State) bool {
	return s.Phase == Placing && (g.Doc.Play.Check != activity.CheckingAsk || g.Doc.Play.CheckWhen == activity.CheckWhenAny || !g.couldPlace(s))
}

// couldPlace reports whether something at home or loose could still be placed, or
// is still to be dealt.
func (g *Game) couldPlace(s *State) bool {
	return s.Dealt < len(s.Order) || s.Now.CouldPlace(nil)
}

// Move does one move. The state that it is given stays as it was. Cost: O(pieces +
// targets), and a judgement where one is called for.
func (g *Game) Move(before *State, m Move) (*State, Answer) { return g.move(before, m, nil) }

func (g *Game) move(before *State, m Move, note func(Step)) (*State, Answer) {
	if m.N >= 1 && m.N <= before.N {
		for e := before.log; e != nil; e = e.before {
			if e.move.N != m.N {
				continue
			}
			if !e.move.same(m) {
				break
			}
			a := e.answer
			a.Result = EffectRepeated
			return before, a
		}
	}
	if m.N != before.N+1 {
		return before, Answer{Result: placing.EffectRejected}
	}
	if m.N > MostMoves {
		return before, Answer{Result: placing.EffectRejected, Reason: "too-many-moves"}
	}
	after := *before
	after.N = m.N
	t := moving{Game: g, was: before, s: &after, m: m, note: note, piece: -1, target: -1}
	t.run()
	t.stand()
	after.log = &entry{m, t.a, before.log}
	switch {
	case after.before == nil || !g.Doc.Play.Undo:
		after.cut = nil
	case before.cut == nil:
		after.cut = before
	}
	return &after, t.a
}

// Closed is a state in which nothing more can be done but to restart, where that may be: of
// a sitting that was over before it was judged by another key.
func (g *Game) Closed(s *State) *State {
	if s.Phase == Done {
		return s
	}
	closed := *s
	closed.Phase = Done
	return &closed
}

// Final is where a sitting stands, as a whole.
type Final struct {
	Phase    Phase            `json:"phase"`
	Outcome  activity.Outcome `json:"outcome,omitempty" doc:"Of the last verdict"`
	Attempts int              `json:"attempts"`
	Score    string           `json:"score"`
	Percent  string           `json:"percent"`
	Passed   bool             `json:"passed"`
	Band     string           `json:"band,omitempty"`
}

// Final sums the sitting up; without a verdict nothing is passed.
func (g *Game) Final(s *State) Final {
	f := Final{Phase: s.Phase, Attempts: s.Judged, Score: "0.00", Percent: "0.00"}
	if s.Verdict == nil {
		return f
	}
	f.Outcome, f.Score, f.Percent = s.Verdict.Outcome, s.Kept.Score.Fixed(), s.Kept.Percent.Fixed()
	f.Passed = s.Kept.Percent >= g.Doc.Marks.PassMark
	f.Band = g.Judge.Band(s.Kept.Percent)
	return f
}

// keep lets a verdict's score count, as the document says.
func (g *Game) keep(s *State, j *marks.Judgement) {
	rule := g.Doc.Marks.Keep
	if s.Kept != nil && !g.each() && (rule == activity.KeepFirst || rule == activity.KeepBest && s.Kept.Value.Cmp(j.Value) >= 0) {
		return
	}
	s.Kept = &Kept{j.Value, j.Score, j.Percent}
}

// names lists pieces by id, sorted.
func (g *Game) names(has func(piece int) bool) []string {
	out := []string{}
	for p := range g.Parts.Pieces {
		if has(p) {
			out = append(out, g.Parts.Pieces[p].ID)
		}
	}
	slices.Sort(out)
	return out
}

// Holds reports whether a condition about an arrangement holds; judged is what the
// arrangement comes to. What it says of a placement does not, and attempts count as
// the first with any number left.
func (g *Game) Holds(c *activity.Condition, a *placing.Arrangement, judged *marks.Judgement) bool {
	return g.book.Holds(c, reply.Situation{Arrangement: a, Judgement: judged, Attempt: 1, Left: reply.Unlimited})
}

// CheckedBefore is when the check before the last one was made, in milliseconds since the
// start; 0 where there was none since the sitting was opened or gone on with.
func (g *Game) CheckedBefore(s *State) int64 {
	n := 0
	for e := s.log; e != nil; e = e.before {
		if e.answer.Verdict != nil {
			if n++; n == 2 {
				return e.move.Time()
			}
		}
	}
	return 0
}
