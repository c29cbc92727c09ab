package proof

import (
	"fmt"
	"math/rand/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

// SelfPlay plays a sitting by itself, up to its first check or its end: everything
// "right", one piece wrong ("oneWrong"), everything "wrong", or at "random" by the
// seed. Where that cannot be played, the error says why.
func SelfPlay(game *play.Game, how string, seed uint64) ([]play.Move, error) {
	w := worker{game: game, witness: game.Judge.Solutions[0].Witness(), seed: seed}
	var moves []play.Move
	switch how {
	case "right":
		moves = w.right(len(game.Parts.Pieces))
	case "oneWrong":
		wrong, ok := w.oneWrong()
		if !ok {
			return nil, fmt.Errorf("no target accepts a piece that is wrong there")
		}
		moves = append(wrong, play.Move{Do: activity.DoCheck})
	case "wrong":
		if moves = w.placingAll(allWrong(w.game.Parts, w.game.Judge.Solutions)); len(moves) == 0 {
			return nil, fmt.Errorf("no target accepts a piece that is wrong there")
		}
		moves = append(moves, play.Move{Do: activity.DoCheck})
	case "random":
		l := learner{game: game, rnd: rand.New(rand.NewPCG(seed, 1)), mind: w.witness, home: len(answer.Nowhere(game.Parts)) > 0,
			wrong: map[placement]bool{}, knows: make([]bool, len(game.Doc.Items)), state: game.Open(seed), given: map[int]bool{}, keep: true}
		l.place()
		if l.state.Phase == play.Placing {
			l.do(play.Move{Do: activity.DoCheck})
		}
		return l.moves, nil
	default:
		return nil, fmt.Errorf("a sitting cannot be played %q by itself", how)
	}
	return w.possible(moves), nil
}

// placingAll are the moves that lead to an arrangement.
func (w *worker) placingAll(a *placing.Arrangement) []play.Move {
	var out []play.Move
	for t, list := range a.In {
		for _, x := range list {
			out = append(out, play.Move{Do: activity.DoPlace, Piece: w.game.Parts.Pieces[x.Piece].ID, Target: w.game.Doc.Targets[t].ID})
		}
	}
	return out
}

// possible keeps the moves that are let through, numbered, until the sitting ends. A
// piece that has not appeared yet is placed once it has.
func (w *worker) possible(moves []play.Move) []play.Move {
	state := w.game.Open(w.seed)
	out, waiting := []play.Move{}, []play.Move{}
	do := func(m play.Move) bool {
		m.N = len(out) + 1
		after, a := w.game.Move(state, m)
		if a.Result == placing.EffectRejected {
			return false
		}
		state, out = after, append(out, m)
		return true
	}
	flush := func() {
		for some := true; some; {
			some = false
			var still []play.Move
			for _, m := range waiting {
				if do(m) {
					some = true
				} else {
					still = append(still, m)
				}
			}
			waiting = still
		}
		waiting = nil
	}
	for _, m := range moves {
		if m.Do == activity.DoPlace {
			waiting = append(waiting, m)
			continue
		}
		flush()
		do(m)
	}
	flush()
	return out
}
