package visit

import (
	"cmp"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/marks"
	"keenmagpie/core/play"
	"keenmagpie/core/reply"
)

// Report is how it stands as a whole, for whoever keeps results. Numbers are decimals.
type Report struct {
	Begun bool `json:"begun"` // a move has been made
	Done  bool `json:"done"`
	// Scored says that there is a score: an activity has a verdict, a series something that
	// counts.
	Scored  bool   `json:"scored"`
	Score   string `json:"score"`
	Points  string `json:"points"`
	Percent string `json:"percent"`
	// PassMark is there where there is one, and Passed then says whether it is reached.
	PassMark string `json:"passMark,omitempty"`
	Passed   bool   `json:"passed"`
	Band     string `json:"band,omitempty"`
	// Progress is how far it has come, from 0 to 1.
	Progress string `json:"progress"`
}

// Report says how it stands.
func (v *Visit) Report() Report {
	if v.run == nil {
		g := v.stages[0].game
		r := Report{Points: g.Doc.Marks.Points.String(), Score: "0.00", Percent: "0.00", Progress: "0"}
		if g.Doc.Marks.PassMark > 0 {
			r.PassMark = g.Doc.Marks.PassMark.String()
		}
		if v.seats[0] == nil {
			return r
		}
		s := v.seats[0].state
		f := g.Final(s)
		r.Begun, r.Done, r.Scored = s.N > 0, s.Phase == play.Done, s.Verdict != nil
		r.Score, r.Percent, r.Band = f.Score, f.Percent, f.Band
		r.Passed = r.Scored && f.Passed
		r.Progress = s.Progress()
		return r
	}
	results := v.results()
	r := Report{Score: "0.00", Percent: "0.00", Done: v.place.Reached == v.run.End()}
	if v.doc.PassMark > 0 {
		r.PassMark = v.doc.PassMark.String()
	}
	for _, x := range results {
		r.Begun = r.Begun || x.Begun
	}
	r.Begun = r.Begun || v.place.Reached > 0
	if t := v.run.Sum(results); t != nil {
		r.Scored, r.Score, r.Points, r.Percent, r.Band = true, t.Score, t.Points, t.Percent, t.Band
		r.Passed = t.Passed
	}
	r.Progress = v.run.Progress(v.place, results)
	return r
}

// Interaction is what stood in one target at a check: one question and its answer, as
// platforms keep them. Parts go by the document's ids, which every platform takes.
type Interaction struct {
	Step int    `json:"step"`
	ID   string `json:"id"` // the target's
	// Kind is sequencing for a lane, else matching.
	Kind  string `json:"kind"`
	Title string `json:"title"`
	// Answer are the pieces' items in the target, in their order.
	Answer []string `json:"answer"`
	// Correct has what would be right, for each solution in which exactly one answer is.
	Correct [][]string `json:"correct"`
	// Result is right, part or wrong; what may stay empty and is, is right.
	Result  string `json:"result"`
	Weight  int    `json:"weight"`
	At      int64  `json:"at"`      // since the start, in milliseconds
	Latency int64  `json:"latency"` // since the check before, or the start
	Attempt int    `json:"attempt"`
	// Names are those of all items by id, as the learner knows them.
	Names map[string]string `json:"names"`
}

// Interactions are those of a check: one for each target. at is when it was made. Cost:
// that of the document's cells.
func Interactions(g *play.Game, s *play.State, v *marks.Verdict, at int64) []Interaction {
	names := map[string]string{}
	for i := range g.Doc.Items {
		names[g.Doc.Items[i].ID] = reply.Spoken(&g.Doc.Items[i])
	}
	before := g.CheckedBefore(s)
	out := []Interaction{}
	for t := range g.Doc.Targets {
		target := &g.Doc.Targets[t]
		x := Interaction{ID: target.ID, Kind: "matching", Title: cmp.Or(reply.Called(target), target.ID), Answer: []string{}, Correct: [][]string{},
			Weight: 1, At: at, Latency: max(0, at-before), Attempt: s.Judged, Names: names}
		if target.Ordered {
			x.Kind = "sequencing"
		}
		if g.Doc.Marks.By == activity.ByTarget {
			x.Weight = target.Weight
		}
		for _, p := range s.Now.In[t] {
			x.Answer = append(x.Answer, g.Parts.ItemOf(p.Piece).ID)
		}
		for k, sol := range g.Judge.Solutions {
			if right, ok := only(g, sol, k, t); ok {
				x.Correct = append(x.Correct, right)
			}
		}
		x.Result = v.Targets[target.ID]
		if x.Result == answer.Empty.String() {
			x.Result = "wrong"
			if slices.ContainsFunc(x.Correct, func(c []string) bool { return len(c) == 0 }) || !slices.ContainsFunc(v.Missing, func(id string) bool { i, _ := g.Parts.Item(id); return g.Judge.Solutions[v.Solution].RightCell(t, i) }) {
				x.Result = "right"
			}
		}
		out = append(out, x)
	}
	return out
}

// only is the one answer that is right in a target under a solution, where there is only
// one: every item that is right there has to be, and nowhere else.
func only(g *play.Game, sol *answer.Solution, number, t int) (right []string, ok bool) {
	right = []string{}
	for _, i := range sol.ItemsAt(t) {
		if !sol.Needed(i) || sol.CountedBy(t, i) >= 0 {
			return nil, false
		}
		for other := range g.Doc.Targets {
			if other != t && sol.RightCell(other, i) {
				return nil, false
			}
		}
		for range g.Doc.Items[i].Copies {
			right = append(right, g.Doc.Items[i].ID)
		}
	}
	if sol.Lane(t) == nil {
		return right, true
	}
	at := slices.IndexFunc(g.Doc.Key.Solutions[number].Orders, func(o activity.Order) bool { return o.Target == g.Doc.Targets[t].ID })
	var line []string
	for _, tier := range g.Doc.Key.Solutions[number].Orders[at].Tiers {
		if len(tier) != 1 {
			return nil, false
		}
		line = append(line, tier[0])
	}
	if len(line) != len(right) {
		return nil, false
	}
	return line, true
}
