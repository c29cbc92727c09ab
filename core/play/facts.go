package play

import (
	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/marks"
	"keenmagpie/core/message"
	"keenmagpie/core/placing"
	"keenmagpie/core/reply"
	"keenmagpie/core/say"
)

// Fact is a condition that holds of an arrangement, in words; Telling are those by
// which an author most likely means to know it again.
type Fact struct {
	When    activity.Condition `json:"when"`
	Said    message.Sentence   `json:"said"`
	Telling bool               `json:"telling"`
}

// Facts lists what could be said of an arrangement at a moment: of the placement (a
// piece and its target, where there is one), the outcome, every target, every piece,
// counts and attempts.
func (g *Game) Facts(a *placing.Arrangement, moment activity.Moment, attempt int, placed *reply.Placement) []Fact {
	out := []Fact{}
	add := func(telling bool, c activity.Condition) {
		out = append(out, Fact{c, say.Condition(g.Doc, &c), telling})
	}
	j := g.Judge.Judge(a, marks.Now{Attempt: attempt}, nil)
	seen := j.Seen()
	atPlaced := moment == activity.MomentPlaced && placed != nil
	if atPlaced {
		result := map[bool]activity.Result{true: activity.ResultRight, false: activity.ResultWrong}[seen.Right[placed.Piece]]
		if placed.Result == placing.EffectRefused {
			result = activity.ResultRefused
		}
		add(true, activity.Condition{Piece: &activity.Selector{Items: []string{g.Parts.ItemOf(placed.Piece).ID}}})
		add(true, activity.Condition{Onto: []string{g.Doc.Targets[placed.Target].ID}})
		add(false, activity.Condition{Result: result})
	}
	var keyed []int // targets in which something is right
	some := false
	for t := range g.Doc.Targets {
		for i := range g.Doc.Items {
			if g.Judge.Solutions[j.Solution].RightCell(t, i) {
				keyed = append(keyed, t)
				some = some || seen.Targets[t] == answer.Right
				break
			}
		}
	}
	all := j.Outcome == activity.OutcomeRight
	byTarget := !atPlaced && !all && some && len(keyed) <= 6
	wrongs := 0
	for p := range g.Parts.Pieces {
		if a.Where[p] >= 0 && !seen.Right[p] {
			wrongs++
		}
	}
	byPiece := !atPlaced && !all && !byTarget && wrongs > 0 && wrongs <= 2
	add(!atPlaced && !byTarget && !byPiece, activity.Condition{Outcome: j.Outcome})
	for _, t := range keyed {
		id, state := g.Doc.Targets[t].ID, activity.Is(seen.Targets[t].String())
		if state == activity.IsRight {
			add(byTarget, activity.Condition{Target: id, Is: activity.IsRight})
			continue
		}
		add(byTarget, activity.Condition{None: []activity.Condition{{Target: id, Is: activity.IsRight}}})
		add(false, activity.Condition{Target: id, Is: state})
	}
	// Of the pieces those come first that are where they do not belong: they are meant more often.
	told := map[string]bool{}
	for _, misplaced := range []bool{true, false} {
		for p := range g.Parts.Pieces {
			c := activity.Condition{Item: g.Parts.ItemOf(p).ID, Is: activity.IsHome}
			wrong := false
			if t := a.Where[p]; t >= 0 {
				c.Is, c.In = "", g.Doc.Targets[t].ID
				wrong = !seen.Right[p]
			} else if !seen.Missing[g.Parts.Pieces[p].Item] {
				continue // it may stay
			}
			if key := c.Item + "/" + c.In; wrong == misplaced && !told[key] {
				told[key] = true
				add(byPiece && wrong, c)
			}
		}
	}
	whole := func(n int) *activity.Range { u := activity.U(n) * 100; return &activity.Range{Min: &u, Max: &u} }
	add(false, activity.Condition{RightCount: whole(seen.Rights)})
	add(false, activity.Condition{WrongCount: whole(seen.Wrongs)})
	if g.Doc.Play.Attempts != 1 {
		add(false, activity.Condition{Attempt: whole(attempt)})
	}
	if n := g.Doc.Play.Attempts; n > 1 {
		zero, one := activity.U(0), activity.U(100)
		if attempt >= n {
			add(true, activity.Condition{Left: &activity.Range{Max: &zero}})
		} else {
			add(false, activity.Condition{Left: &activity.Range{Min: &one}})
		}
	}
	if len(g.Judge.Solutions) > 1 {
		k := j.Solution
		add(false, activity.Condition{Solution: &k})
	}
	return out
}
