package proof

import (
	"fmt"
	"math/rand/v2"

	"keenmagpie/core/answer"
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
			return nil, fmt.Errorf("no target lets in a piece that is wrong there")
		}
		moves = append(wrong, play.Move{Do: "check"})
	case "wrong":
		if moves = w.allWrong(); len(moves) == 0 {
			return nil, fmt.Errorf("no target lets in a piece that is wrong there")
		}
		moves = append(moves, play.Move{Do: "check"})
	case "random":
		l := learner{game: game, rnd: rand.New(rand.NewPCG(seed, 1)), mind: w.witness, home: len(answer.Nowhere(game.Parts)) > 0,
			wrong: map[placement]bool{}, knows: make([]bool, len(game.Doc.Items)), state: game.Open(seed), given: map[int]bool{}, keep: true}
		l.place()
		if l.state.Phase == play.Placing {
			l.do(play.Move{Do: "check"})
		}
		return l.moves, nil
	default:
		return nil, fmt.Errorf("a sitting cannot be played %q by itself", how)
	}
	return w.possible(moves), nil
}

// allWrong puts every piece where it is right under no solution, as far as there is
// room.
func (w *worker) allWrong() []play.Move {
	var out []play.Move
	load := make([]int, len(w.game.Doc.Targets))
	for p := range w.game.Parts.Pieces {
		item := w.game.Parts.Pieces[p].Item
		for t := range w.game.Doc.Targets {
			wrong := w.game.Parts.LetsIn(t, item)
			for _, s := range w.game.Judge.Solutions {
				wrong = wrong && !s.RightCell(t, item)
			}
			if holds := w.game.Doc.Targets[t].Holds; wrong && (holds == 0 || load[t] < holds) {
				load[t]++
				out = append(out, play.Move{Do: "place", Piece: w.game.Parts.Pieces[p].ID, Target: w.game.Doc.Targets[t].ID})
				break
			}
		}
	}
	if len(out) > 0 {
		return out
	}
	for t, lane := range w.witness.In { // what can only stand in a lane stands there the other way round
		for k := len(lane) - 1; k >= 0 && len(lane) > 1 && w.game.Doc.Targets[t].Ordered; k-- {
			out = append(out, w.placing(lane[k].Piece))
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
		if a.Result == "rejected" {
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
		if m.Do == "place" {
			waiting = append(waiting, m)
			continue
		}
		flush()
		do(m)
	}
	flush()
	return out
}
