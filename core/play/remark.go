package play

// Remarked is a sitting played again under another document.
type Remarked struct {
	Was, Is Final
	// Gone lists the moves that came out differently.
	Gone []Gone
}

// Gone is a move that no longer does what it did.
type Gone struct {
	N      int    `json:"n"`
	Was    string `json:"was"`
	Is     string `json:"is"`
	Reason string `json:"reason,omitempty"`
}

// Remark replays a sitting's moves under the document it was played with and under
// another, and says what its result becomes and which moves no longer apply. limit is
// the time limit that its learner had, in milliseconds; below 0 it is each document's
// own. Cost: that of both sittings.
func Remark(was, is *Game, seed uint64, limit int64, moves []Move) Remarked {
	a, b := was.Open(seed), is.Open(seed)
	if limit >= 0 {
		a, b = was.OpenWithin(seed, limit), is.OpenWithin(seed, limit)
	}
	r := Remarked{Gone: []Gone{}}
	for _, m := range moves {
		var x, y Answer
		a, x = was.Move(a, m)
		b, y = is.Move(b, m)
		if x.Result != y.Result {
			r.Gone = append(r.Gone, Gone{m.N, x.Result, y.Result, y.Reason})
		}
	}
	r.Was, r.Is = was.Final(a), is.Final(b)
	return r
}
