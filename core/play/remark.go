package play

import "keenmagpie/core/placing"

// Remarked is a sitting played again under another document.
type Remarked struct {
	Is Final
	// Gone lists the moves that came out differently.
	Gone []Differs
}

// Differs is a move that no longer does what it did.
type Differs struct {
	N      int            `json:"n"`
	Was    placing.Effect `json:"was"`
	Is     placing.Effect `json:"is"`
	Reason string         `json:"reason,omitempty"`
}

// Remark plays a sitting's moves under another document than it was played with, and
// says what its result becomes and which moves no longer apply: results are what each
// move came to. limit is the time limit that its learner had, in milliseconds; below 0
// it is the document's own. Cost: that of the sitting.
func Remark(is *Game, seed uint64, limit int64, moves []Move, results []placing.Effect) Remarked {
	state := is.Open(seed)
	if limit >= 0 {
		state = is.OpenWithin(seed, limit)
	}
	r := Remarked{Gone: []Differs{}}
	for i, m := range moves {
		var a Answer
		if state, a = is.Move(state, m); a.Result != results[i] {
			r.Gone = append(r.Gone, Differs{m.N, results[i], a.Result, a.Reason})
		}
	}
	r.Is = is.Final(state)
	return r
}
