package play

import (
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// Step is one structured step of the trail: why a move came out as it did. The
// interface shows steps as sentences; each names the cell that decided it.
type Step struct {
	// Code says what happened: hit, beside, letIn, turnedAway, full, already, ousted,
	// traded, home, rightHere, wrongHere, rightCount, score, goesHome, heldInPlace.
	Code     string         `json:"code"`
	Piece    string         `json:"piece,omitempty"`
	Item     string         `json:"item,omitempty"`
	Target   string         `json:"target,omitempty"`
	Solution *int           `json:"solution,omitempty"`
	Holds    int            `json:"holds,omitempty"`
	Verdict  *marks.Verdict `json:"verdict,omitempty"`
	Share    int            `json:"share,omitempty"`
}

// Trail explains a move between the state before and the state after it.
func (g *Game) Trail(before, after *State, m Move, a Answer) []Step {
	steps := []Step{}
	add := func(s Step) {
		if it := placing.ItemOf(g.Doc, s.Piece); it != nil {
			s.Item = it.ID
		}
		steps = append(steps, s)
	}
	if m.Do == "drop" {
		if a.Target == "" {
			add(Step{Code: "beside", Piece: m.Piece})
		} else {
			add(Step{Code: "hit", Piece: m.Piece, Target: a.Target})
		}
	}
	switch {
	case a.Result == "placed":
		add(Step{Code: "letIn", Piece: m.Piece, Target: a.Target})
		for _, p := range before.Now.Targets[a.Target] {
			if now, _, in := after.Now.Where(p.Piece); !in {
				add(Step{Code: "ousted", Piece: p.Piece, Target: a.Target})
			} else if now != a.Target {
				add(Step{Code: "traded", Piece: p.Piece, Target: now})
			}
		}
		v, _ := g.Judge.Verdict(after.Now, after.Attempt)
		code := "wrongHere"
		for _, p := range v.Right {
			if p == m.Piece {
				code = "rightHere"
			}
		}
		add(Step{Code: code, Piece: m.Piece, Target: a.Target, Solution: &v.Solution})
		add(Step{Code: "rightCount", Verdict: &v})
	case a.Result == "refused" && a.Reason == "closed":
		add(Step{Code: "turnedAway", Piece: m.Piece, Target: a.Target})
	case a.Result == "refused":
		add(Step{Code: "full", Piece: m.Piece, Target: a.Target, Holds: g.Doc.Target(a.Target).Holds})
	case a.Result == "kept":
		add(Step{Code: "already", Piece: m.Piece, Target: a.Target})
	case a.Result == "lifted":
		add(Step{Code: "home", Piece: m.Piece})
	case a.Result == "checked":
		shares := g.Doc.Marks.Shares
		add(Step{Code: "score", Verdict: a.Verdict, Share: shares[min(after.Judged, len(shares))-1]})
	case a.Result == "again":
		for _, p := range before.Verdict.Wrong {
			if _, _, in := after.Now.Where(p); !in {
				add(Step{Code: "goesHome", Piece: p})
			}
		}
		for _, p := range after.Now.Held {
			if !before.Now.IsHeld(p) {
				add(Step{Code: "heldInPlace", Piece: p})
			}
		}
	}
	return steps
}
