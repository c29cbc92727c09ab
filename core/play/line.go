package play

import (
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// Line is one line of a replay: what a move came to, and what stands after it.
type Line struct {
	N       int                 `json:"n"`
	Result  placing.Effect      `json:"result,omitempty"`
	Reason  string              `json:"reason,omitempty"`
	Phase   Phase               `json:"phase"`
	Attempt int                 `json:"attempt"`
	Left    *int                `json:"left,omitempty"`
	Targets map[string][]string `json:"targets"`
	Held    []string            `json:"held" nullable:"false"`
	Replies []string            `json:"replies" nullable:"false"`
	Verdict *marks.Verdict      `json:"verdict,omitempty"`
	Score   string              `json:"score,omitempty"`
}

// Line tells a move's answer with the state after it. With the zero Answer it tells
// the state before the first move, with what was said then.
func (g *Game) Line(s *State, n int, a Answer) Line {
	l := Line{
		N: n, Result: a.Result, Reason: a.Reason, Phase: s.Phase, Attempt: s.Attempt,
		Targets: s.Now.Names(), Held: g.names(func(p int) bool { return s.Now.Held[p] }), Replies: []string{}, Verdict: a.Verdict,
	}
	for _, r := range a.Replies {
		l.Replies = append(l.Replies, r.ID)
	}
	if left, ok := g.Left(s); ok {
		l.Left = &left
	}
	if s.Kept != nil {
		l.Score = s.Kept.Score.Fixed()
	}
	return l
}
