package proof

import (
	"slices"

	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

// Worked is an example of what a sitting scores, with how that came about.
type Worked struct {
	// Code is right, oneWrong, second, half or nothing; kept ones have none.
	Code  string      `json:"code,omitempty"`
	Name  string      `json:"name"`
	Moves []play.Move `json:"moves"`
	// Impossible says why there is no such sitting; the rest is empty then.
	Impossible string      `json:"impossible,omitempty"`
	Final      *play.Final `json:"final,omitempty"`
	// Score is the last step of the trail that tells a score, where there is one.
	Score *play.Step `json:"score,omitempty"`
}

// Examples plays sittings whose scores an author wants to see: all right at once, one
// piece wrong, right at the second attempt, half of it, nothing at all; and those that
// the document keeps. Cost: some sittings.
func Examples(game *play.Game) []Worked {
	w := worker{game: game, witness: game.Judge.Solutions[0].Witness()}
	out := []Worked{
		w.play("right", "All correct at once", w.right(len(game.Parts.Pieces))),
	}
	wrong, ok := w.oneWrong()
	if ok {
		out = append(out, w.play("oneWrong", "One piece wrong", append(wrong, play.Move{Do: activity.DoCheck})))
	} else {
		out = append(out, Worked{Code: "oneWrong", Name: "One piece wrong", Impossible: "No target accepts a piece that is wrong there."})
	}
	out = append(out, w.second(wrong, ok))
	pieces := 0
	for p := range game.Parts.Pieces {
		if w.witness.Where[p] >= 0 {
			pieces++
		}
	}
	out = append(out, w.play("half", "Half of the pieces placed, rightly", append(w.right(pieces/2), play.Move{Do: activity.DoCheck})))
	out = append(out, w.play("nothing", "Nothing placed", []play.Move{{Do: activity.DoCheck}}))
	for _, k := range game.Doc.Marks.Examples {
		var moves []play.Move
		for _, m := range k.Moves {
			moves = append(moves, play.Move{Do: m.Do, Piece: m.Piece, Target: m.Target, Index: m.Index, X: m.X, Y: m.Y})
		}
		w.seed = uint64(k.Seed)
		out = append(out, w.play("", k.Name, moves))
	}
	for i := range out {
		if out[i].Moves == nil {
			out[i].Moves = []play.Move{} // readers find a list, also of what cannot be played
		}
	}
	return out
}

type worker struct {
	game    *play.Game
	witness *placing.Arrangement
	seed    uint64
}

// right places the first pieces where they are right, and checks where that has to be
// asked for and all of them are there.
func (w *worker) right(most int) []play.Move {
	out := w.placingAll(w.witness)
	out = out[:min(most, len(out))]
	if most >= len(w.game.Parts.Pieces) {
		out = append(out, play.Move{Do: activity.DoCheck})
	}
	return out
}

func (w *worker) placing(piece int) play.Move {
	t := w.witness.Where[piece]
	return play.Move{Do: activity.DoPlace, Piece: w.game.Parts.Pieces[piece].ID, Target: w.game.Doc.Targets[t].ID}
}

// oneWrong places everything right but for one piece, which is put where it is wrong
// first: a piece for which there is such a place with room, else one that takes the
// place of another, a distractor if there is one; else, in a lane, the last comes
// first.
func (w *worker) oneWrong() ([]play.Move, bool) {
	s := w.game.Judge.Solutions[0]
	parts := w.game.Parts
	// What is wrong whatever the solution comes first: the other may complete another way.
	// Of these, what is told as one piece wrong: another way may be nearer, under which
	// more of them are.
	var first []play.Move
	for _, wrong := range []func(t, item int) bool{
		func(t, item int) bool {
			return !slices.ContainsFunc(w.game.Judge.Solutions, func(s *answer.Solution) bool { return s.RightCell(t, item) })
		},
		func(t, item int) bool { return !s.RightCell(t, item) },
	} {
		for _, moves := range w.oneIn(wrong) {
			if w.wrongIn(moves) == 1 {
				return moves, true
			}
			if first == nil {
				first = moves
			}
		}
	}
	if first != nil {
		return first, true
	}
	for t := range w.game.Doc.Targets {
		if lane := w.witness.In[t]; s.Lane(t) != nil && len(lane) > 1 {
			moves := w.right(len(parts.Pieces))
			moves = moves[:len(moves)-1] // the check
			first := 0
			last := w.placing(lane[len(lane)-1].Piece)
			last.Index = &first
			kept := []play.Move{}
			for _, m := range moves {
				if m.Piece != last.Piece {
					kept = append(kept, m)
				}
			}
			return append(kept, last), true
		}
	}
	return nil, false
}

// oneIn lists sittings in which one piece is where it is wrong, and all others where
// they are right: those that leave nothing out first, then those with a distractor.
func (w *worker) oneIn(wrong func(t, item int) bool) [][]play.Move {
	var without, distractors, others [][]play.Move
	parts := w.game.Parts
	for p := range parts.Pieces {
		item := parts.Pieces[p].Item
		for t := range w.game.Doc.Targets {
			if !parts.LetsIn(t, item) || !wrong(t, item) {
				continue
			}
			here := w.witness.In[t]
			holds := w.game.Doc.Targets[t].Holds
			switch {
			case (holds == 0 || len(here) < holds) && w.witness.Where[p] >= 0:
				without = append(without, w.but(p, t, -1))
			case len(here) > 0 && w.witness.Where[p] < 0:
				distractors = append(distractors, w.but(p, t, here[0].Piece))
			case len(here) > 0:
				others = append(others, w.but(p, t, here[0].Piece))
			}
			if len(without) > 20 {
				return without
			}
		}
	}
	return slices.Concat(without, distractors, others)
}

// wrongIn is how many pieces are wrong when some moves are checked.
func (w *worker) wrongIn(moves []play.Move) int {
	state := w.game.Open(w.seed)
	most := 0
	for _, m := range w.possible(append(slices.Clone(moves), play.Move{Do: activity.DoCheck})) {
		var a play.Answer
		if state, a = w.game.Move(state, m); a.Verdict != nil {
			most = max(most, len(a.Verdict.Wrong))
		}
	}
	return most
}

// but places a piece in a target, and all others but one where they are right.
func (w *worker) but(piece, target, without int) []play.Move {
	out := []play.Move{{Do: activity.DoPlace, Piece: w.game.Parts.Pieces[piece].ID, Target: w.game.Doc.Targets[target].ID}}
	for _, m := range w.right(len(w.game.Parts.Pieces)) {
		if m.Do == activity.DoPlace && m.Piece != out[0].Piece && (without < 0 || m.Piece != w.game.Parts.Pieces[without].ID) {
			out = append(out, m)
		}
	}
	return out
}

// second is right at the second attempt, after a check with one piece wrong, or with
// one missing where none can be wrong.
func (w *worker) second(wrong []play.Move, ok bool) Worked {
	const code, name = "second", "All correct at the second attempt"
	doc := w.game.Doc
	if doc.Play.Attempts == 1 {
		return Worked{Code: code, Name: name, Impossible: "There is one attempt."}
	}
	if doc.Play.Check == activity.CheckingNone {
		return Worked{Code: code, Name: name, Impossible: "Nothing is checked."}
	}
	all := w.right(len(w.game.Parts.Pieces))
	if len(all) < 2 {
		return Worked{Code: code, Name: name, Impossible: "Nothing has to be placed."}
	}
	moves := wrong
	if !ok {
		if doc.Play.Check == activity.CheckingEach {
			return Worked{Code: code, Name: name, Impossible: "No placement can be wrong."}
		}
		moves = all[1 : len(all)-1]
	}
	if doc.Play.Check != activity.CheckingEach {
		moves = append(moves, play.Move{Do: activity.DoCheck}, play.Move{Do: activity.DoAgain}, play.Move{Do: activity.DoReset})
	}
	return w.play(code, name, append(moves, all...))
}

// play plays moves; what is not possible where they come to it is passed over.
func (w *worker) play(code, name string, moves []play.Move) Worked {
	if code != "" {
		moves = w.possible(moves)
	}
	state := w.game.Open(w.seed)
	out := Worked{Code: code, Name: name, Moves: []play.Move{}}
	for _, m := range moves {
		m.N = state.N + 1
		var trail []play.Step
		var answer play.Answer
		state, answer, trail = w.game.Explain(state, m)
		if answer.Result == placing.EffectRejected && state.Phase == play.Done {
			break
		}
		out.Moves = append(out.Moves, m)
		for i := range trail {
			if trail[i].Code == "score" {
				out.Score = &trail[i]
			}
		}
	}
	final := w.game.Final(state)
	out.Final = &final
	switch {
	case final.Outcome != "":
	case w.game.Doc.Play.Check == activity.CheckingNone:
		out.Impossible = "Nothing is checked, so nothing is scored."
	default:
		out.Impossible = "It cannot be checked like that."
	}
	return out
}

// Keep adds a sitting to the document's worked examples and returns the changed
// document.
func Keep(doc *activity.Doc, name string, seed uint64, moves []play.Move) *activity.Doc {
	out := doc.Clone()
	if name == "" {
		name = fmt.Sprintf("Rehearsal %d", len(out.Marks.Examples)+1)
	}
	kept := activity.Example{Name: name, Seed: int(seed)}
	for _, m := range moves {
		kept.Moves = append(kept.Moves, activity.Act{Do: m.Do, Piece: m.Piece, Target: m.Target, Index: m.Index, X: m.X, Y: m.Y})
	}
	out.Marks.Examples = append(out.Marks.Examples, kept)
	return out
}
