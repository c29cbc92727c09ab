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
	return out
}

// possible keeps the moves that are let through, numbered, until the sitting ends.
func (w *worker) possible(moves []play.Move) []play.Move {
	state := w.game.Open(w.seed)
	out := []play.Move{}
	for _, m := range moves {
		m.N = len(out) + 1
		after, a := w.game.Move(state, m)
		if a.Result == "rejected" {
			continue
		}
		state, out = after, append(out, m)
		if state.Phase == play.Done {
			break
		}
	}
	return out
}
