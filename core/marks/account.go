package marks

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/exact"
	"keenmagpie/core/order"
	"keenmagpie/core/placing"
)

// Entry is one line of how a score is put together.
type Entry struct {
	// What counts: piece (right), penalty (a wrong piece), target, lane, whole, or
	// charged (the penalties of wrong placements).
	What   string `json:"what"`
	Piece  string `json:"piece,omitempty"`
	Target string `json:"target,omitempty"`
	Points string `json:"points"`
	Of     string `json:"of,omitempty" doc:"What a lane or a target could earn"`
	Share  int    `json:"share,omitempty" doc:"The percent of its own try, where every placement is judged"`
}

// Account lists how the judgement's score was put together, under the solution
// that it is scored by.
func (j *Judge) Account(g *Judgement, now Now) []Entry {
	out := []Entry{}
	var l line
	j.account(g.ScoredBy, g.arrangement, now, &l, func(e Entry, piece, target int) {
		if piece >= 0 {
			e.Piece = j.Parts.Pieces[piece].ID
		}
		if target >= 0 {
			e.Target = j.Parts.Doc.Targets[target].ID
		}
		out = append(out, e)
	})
	return out
}

// sum adds up what is earned, plain and with the shares of tries.
type sum struct {
	judge       *Judge
	now         Now
	whole       int         // plain, in whole points
	shared      int         // with shares, in hundredths
	lanes       exact.Ratio // what lanes earn by their order, plain
	lanesShared exact.Ratio
	note        func(e Entry, piece, target int)
}

// earn adds points that count with the share of the try after so many wrong ones.
func (s *sum) earn(what string, points, wrong, piece, target int) {
	s.whole += points
	share := 0
	if s.now.Tries != nil {
		share = s.judge.Share(1 + wrong)
		s.shared += points * share
	}
	if s.note != nil {
		s.note(Entry{What: what, Points: exact.Int(points).String(), Share: share}, piece, target)
	}
}

// lose takes a penalty for a piece that stands wrong; where placements are judged
// they were charged when they were made.
func (s *sum) lose(penalty, piece, target int) {
	if s.now.Tries != nil || penalty == 0 {
		return
	}
	s.whole -= penalty
	if s.note != nil {
		s.note(Entry{What: "penalty", Points: exact.Int(-penalty).String()}, piece, target)
	}
}

// account works out what the arrangement earns under solution i. Cost: that of
// [answer.Solution.Look] and O(pieces); lanes by order cost their measure.
func (j *Judge) account(i int, a *placing.Arrangement, now Now, l *line, note func(Entry, int, int)) {
	s := j.Solutions[i]
	s.Look(a, &l.seen)
	by := j.Parts.Doc.Marks.By
	total := sum{judge: j, now: now, note: note}
	tries := now.Tries
	if tries == nil {
		tries = &none
	}
	if by == activity.ByWhole {
		if l.seen.Valid {
			total.earn("whole", 1, tries.All, -1, -1)
		}
	} else {
		for t, list := range a.In {
			lane := j.byLane(s, t)
			if lane {
				j.lane(s, a, t, &l.seen, &total)
			}
			if by == activity.ByTarget && j.units[i][t] && l.seen.Targets[t] == answer.Right {
				total.earn("target", j.Parts.Doc.Targets[t].Weight, at(tries.Target, t), -1, t)
			}
			for _, p := range list {
				item := j.Parts.Pieces[p.Piece].Item
				switch {
				case !l.seen.Right[p.Piece]:
					if !lane || !s.RightCell(t, item) {
						total.lose(j.Parts.Penalty(t, item), p.Piece, t)
					}
				case by != activity.ByTarget && !lane:
					total.earn("piece", j.Parts.Weight(t, item), at(tries.Item, item), p.Piece, t)
				}
			}
		}
	}
	if by != activity.ByWhole && tries.Charged > 0 {
		total.whole -= tries.Charged
		total.shared -= 100 * tries.Charged
		if note != nil {
			note(Entry{What: "charged", Points: exact.Int(-tries.Charged).String()}, -1, -1)
		}
	}
	l.earned = exact.Int(total.whole).Add(total.lanes)
	j.finish(i, l, &total)
}

var none Tries

func at(list []int, i int) int {
	if list == nil {
		return 0
	}
	return list[i]
}

// finish makes the fractions from what is earned.
func (j *Judge) finish(i int, l *line, total *sum) {
	credit := exact.OfPercent(j.Solutions[i].Credit)
	available := j.available[i]
	if available.Sign() == 0 {
		l.fraction = exact.Ratio{}
		if l.seen.Valid {
			l.fraction = credit
		}
		l.value = l.fraction
		return
	}
	l.fraction = j.clamp(l.earned.Div(available)).Mul(credit)
	l.value = l.fraction
	if total.now.Tries != nil {
		shared := exact.Of(int64(total.shared), 100).Add(total.lanesShared)
		l.value = j.clamp(shared.Div(available)).Mul(credit)
	}
}

// lane adds what a lane earns by its order: its weight times the measure.
func (j *Judge) lane(s *answer.Solution, a *placing.Arrangement, t int, seen *answer.Seen, total *sum) {
	lane := s.Lane(t)
	got, of := j.measured(lane.Order, lane.Sequence(a, t, nil), func([]int) (right int) {
		for _, p := range a.In[t] {
			if seen.Right[p.Piece] {
				right++
			}
		}
		return right
	})
	weight := j.Parts.Doc.Targets[t].Weight
	earned := exact.Of(int64(weight)*int64(got), int64(of))
	total.lanes = total.lanes.Add(earned)
	share := 0
	if total.now.Tries != nil {
		share = j.Share(1 + total.now.Tries.Target[t])
		total.lanesShared = total.lanesShared.Add(earned.Mul(exact.OfPercent(share)))
	}
	if total.note != nil {
		total.note(Entry{What: "lane", Points: earned.String(), Of: exact.Int(weight).String(), Share: share}, -1, t)
	}
}

// measured is how near a lane's sequence comes to its order, by the document's
// measure. run tells how many of it are right.
func (j *Judge) measured(o *order.Order, seq []int, run func([]int) int) (got, of int) {
	switch j.Parts.Doc.Marks.Measure {
	case activity.MeasurePosition:
		return o.Position(seq)
	case activity.MeasurePairs:
		return o.Pairs(seq)
	case activity.MeasureNeighbours:
		return o.Neighbours(seq)
	}
	return run(seq), o.Len()
}

// Charge is what a wrong placement costs that has just been made: the penalty of
// the cell under the judgement's solution. Marks of the whole know no penalties,
// and in a lane by order only a piece that is not right there costs one.
func (j *Judge) Charge(g *Judgement, piece, target int) int {
	item := j.Parts.Pieces[piece].Item
	s := j.Solutions[g.Solution]
	if j.Parts.Doc.Marks.By == activity.ByWhole || j.byLane(s, target) && s.RightCell(target, item) && g.arrangement.Where[piece] == target {
		return 0
	}
	return j.Parts.Penalty(target, item)
}

// Verdict is what a check comes to, in words and names. Earned, Available and
// Fraction are exact, of the solution ScoredBy, and hold neither share nor hints;
// Score and Percent are rounded and do.
type Verdict struct {
	Outcome   activity.Outcome  `json:"outcome" enum:"right,part,wrong"`
	Valid     bool              `json:"valid"`
	Solution  int               `json:"solution"`
	Right     []string          `json:"right" nullable:"false"`
	Wrong     []string          `json:"wrong" nullable:"false"`
	Missing   []string          `json:"missing" nullable:"false"`
	Targets   map[string]string `json:"targets"`
	Earned    string            `json:"earned"`
	Available string            `json:"available"`
	Fraction  string            `json:"fraction"`
	ScoredBy  int               `json:"scoredBy"`
	Score     string            `json:"score"`
	Percent   string            `json:"percent"`
}

// Verdict writes the judgement with names, lists sorted as strings.
func (j *Judge) Verdict(g *Judgement) *Verdict {
	seen := g.Seen()
	v := &Verdict{
		Outcome: g.Outcome, Valid: seen.Valid, Solution: g.Solution, ScoredBy: g.ScoredBy,
		Right: make([]string, 0, seen.Rights), Wrong: make([]string, 0, seen.Wrongs), Missing: make([]string, 0, seen.Missings),
		Targets: make(map[string]string, len(seen.Targets)),
		Earned:  g.Earned.String(), Available: g.Available.String(), Fraction: g.Fraction.String(),
		Score: g.Score.Fixed(), Percent: g.Percent.Fixed(),
	}
	for piece, where := range g.arrangement.Where {
		switch {
		case where < 0:
		case seen.Right[piece]:
			v.Right = append(v.Right, j.Parts.Pieces[piece].ID)
		default:
			v.Wrong = append(v.Wrong, j.Parts.Pieces[piece].ID)
		}
	}
	for i, missing := range seen.Missing {
		if missing {
			v.Missing = append(v.Missing, j.Parts.Doc.Items[i].ID)
		}
	}
	for t, state := range seen.Targets {
		v.Targets[j.Parts.Doc.Targets[t].ID] = state.String()
	}
	slices.Sort(v.Right)
	slices.Sort(v.Wrong)
	slices.Sort(v.Missing)
	return v
}
