package play

import (
	"keenmagpie/core/marks"
)

// Line is one line of a replay: what a move came to, and what stands after it.
type Line struct {
	N       int                 `json:"n"`
	Result  string              `json:"result"`
	Reason  string              `json:"reason,omitempty"`
	Phase   string              `json:"phase"`
	Attempt int                 `json:"attempt"`
	Left    *int                `json:"left,omitempty"`
	Targets map[string][]string `json:"targets"`
	Held    []string            `json:"held" nullable:"false"`
	Replies []string            `json:"replies" nullable:"false"`
	Verdict *marks.Verdict      `json:"verdict,omitempty"`
	Score   string              `json:"score,omitempty"`
}

// Line tells a move's answer with the state after it.
func (g *Game) Line(s *State, m Move, a Answer) Line {
	l := Line{
		N: m.N, Result: a.Result, Reason: a.Reason, Phase: s.Phase, Attempt: s.Attempt,
		Targets: g.targets(s), Held: append([]string{}, s.Now.Held...), Replies: []string{}, Verdict: a.Verdict,
	}
	if left, ok := g.Left(s); ok {
		l.Left = &left
	}
	if s.Kept != nil {
		l.Score = s.Kept.Score
	}
	return l
}

func (g *Game) targets(s *State) map[string][]string {
	out := map[string][]string{}
	for _, t := range g.Doc.Targets {
		list := []string{}
		for _, p := range s.Now.Targets[t.ID] {
			list = append(list, p.Piece)
		}
		out[t.ID] = list
	}
	return out
}
