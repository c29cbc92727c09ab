// Package marks says what an arrangement scores: it looks at it in the light of
// every solution, chooses the one that it is closest to, and comes to a verdict.
//
//	judge, err := marks.NewJudge(doc)
//	j := judge.Judge(arrangement, marks.Now{Attempt: 1}, nil)
//	judge.Verdict(&j).Score // "7.78"
//
// What a solution earns is a fraction of what it makes available: right pieces
// by weight (by item), targets that are right as a whole (by target), lanes by how
// near they come to their order (by order), or all or nothing (by whole). Of the
// solutions under which every held piece is right, the verdict's is: valid first,
// then the highest fraction, then the most right pieces, then the earliest. The
// score is that of the solution which earns most. All numbers are exact and
// rounded once, at the end.
//
// Where the document leaves it open, this package decides: where every placement
// is judged, a wrong placement counts for its item's later tries also when another
// piece of that item is right already.
package marks

import (
	"fmt"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/exact"
	"keenmagpie/core/placing"
)

// Semantics is the version of the rules. A sitting keeps the version that judged
// it.
const Semantics = 1

// Judge holds a document and what each of its solutions makes available. It
// never changes and can be used by several at once.
type Judge struct {
	Parts     *activity.Parts
	Solutions []*answer.Solution
	available []exact.Ratio
	units     [][]bool // by solution and target: counts when marks are by target
}

// Impossible is the error for a key that no arrangement satisfies.
type Impossible struct {
	Solution       int
	Items, Targets []string
}

func (e *Impossible) Error() string {
	return fmt.Sprintf("solution %d cannot be satisfied: what it asks for %s does not go together with what %s can hold or needs",
		e.Solution+1, list(e.Items, "nothing"), list(e.Targets, "no target"))
}

func list(names []string, none string) string {
	if len(names) == 0 {
		return none
	}
	return strings.Join(names, ", ")
}

// NewJudge works out what each solution makes available. The error is an
// [*Impossible].
func NewJudge(doc *activity.Doc) (*Judge, error) {
	j := &Judge{Parts: activity.NewParts(doc)}
	for i := range doc.Key.Solutions {
		s := answer.New(j.Parts, i)
		points, ok := s.Available(func(item, target int) int {
			if j.byLane(s, target) {
				return 0 // its lane earns for it
			}
			return j.Parts.Weight(target, item)
		})
		if !ok {
			items, targets := s.Conflict()
			return nil, &Impossible{i, items, targets}
		}
		var empty answer.Seen
		s.Look(placing.New(j.Parts), &empty)
		units := make([]bool, len(doc.Targets))
		for t := range doc.Targets {
			units[t] = len(s.ItemsAt(t)) > 0 && empty.Targets[t] != answer.Right
		}
		switch doc.Marks.By {
		case activity.ByOrder:
			for t := range doc.Targets {
				if j.byLane(s, t) {
					points += doc.Targets[t].Weight
				}
			}
		case activity.ByTarget:
			points = 0
			for t, unit := range units {
				if unit {
					points += doc.Targets[t].Weight
				}
			}
		case activity.ByWhole:
			points = 1
		}
		j.Solutions = append(j.Solutions, s)
		j.available = append(j.available, exact.Int(points))
		j.units = append(j.units, units)
	}
	return j, nil
}

// byLane reports whether the target earns by its order.
func (j *Judge) byLane(s *answer.Solution, target int) bool {
	return j.Parts.Doc.Marks.By == activity.ByOrder && s.Lane(target) != nil
}

// Now is what a score depends on besides the arrangement.
type Now struct {
	Attempt int // 1, 2, …
	Hints   int // taken so far
	// Tries is there where every placement is judged.
	Tries *Tries
}

// Tries is what wrong placements there have been in a sitting.
type Tries struct {
	Charged int // penalties
	Item    []int
	Target  []int
	All     int
}

// NewTries is none at all.
func NewTries(parts *activity.Parts) *Tries {
	return &Tries{Item: make([]int, len(parts.Doc.Items)), Target: make([]int, len(parts.Doc.Targets))}
}

// And is the tries with one more, which costs a penalty; t stays as it was.
func (t *Tries) And(item, target, penalty int) *Tries {
	out := &Tries{t.Charged + penalty, slices.Clone(t.Item), slices.Clone(t.Target), t.All + 1}
	out.Item[item]++
	out.Target[target]++
	return out
}

// Judgement is a verdict in numbers. It can be used again for another
// arrangement, and then allocates nothing.
type Judgement struct {
	Solution, ScoredBy int
	Outcome            activity.Outcome
	Earned, Available  exact.Ratio // of ScoredBy
	Fraction           exact.Ratio // of ScoredBy, credited; without shares and hints
	Value              exact.Ratio // with both
	Score, Percent     exact.Hundredths
	arrangement        *placing.Arrangement
	lines              []line
}

// line is one solution's account of an arrangement.
type line struct {
	seen     answer.Seen
	earned   exact.Ratio
	fraction exact.Ratio // clamped and credited
	value    exact.Ratio // the same with the shares of tries
	in       bool        // considered
}

// Seen is the arrangement as the verdict's solution sees it.
func (j *Judgement) Seen() *answer.Seen { return &j.lines[j.Solution].seen }

// Under is the arrangement as a solution sees it.
func (j *Judgement) Under(solution int) *answer.Seen { return &j.lines[solution].seen }

// Judge comes to a judgement on an arrangement, in the space of into where that is
// given. The arrangement must not change while the judgement is used.
// Cost: that of [answer.Solution.Look] for every solution.
func (j *Judge) Judge(a *placing.Arrangement, now Now, into *Judgement) *Judgement {
	if into == nil {
		into = &Judgement{}
	}
	if len(into.lines) != len(j.Solutions) {
		into.lines = make([]line, len(j.Solutions))
	}
	into.arrangement = a
	some := false
	for i := range into.lines {
		l := &into.lines[i]
		j.account(i, a, now, l, nil)
		l.in = true
		for _, list := range a.In {
			for _, p := range list {
				l.in = l.in && (!a.Held[p.Piece] || l.seen.Right[p.Piece])
			}
		}
		some = some || l.in
	}
	best := -1
	for i := range into.lines {
		l := &into.lines[i]
		l.in = l.in || !some
		if l.in && (best < 0 || better(l, &into.lines[best])) {
			best = i
		}
	}
	scored := best
	for i := range into.lines {
		if l := &into.lines[i]; l.in && l.value.Cmp(into.lines[scored].value) > 0 {
			scored = i
		}
	}
	seen := &into.lines[best].seen
	into.Solution, into.ScoredBy = best, scored
	into.Earned, into.Available, into.Fraction = into.lines[scored].earned, j.available[scored], into.lines[scored].fraction
	into.Value = j.valueOf(into.lines[scored].value, now)
	into.Score = j.Parts.Doc.Marks.Points.Ratio().Mul(into.Value).Round()
	into.Percent = exact.Int(100).Mul(into.Value).Round()
	switch {
	case seen.Valid:
		into.Outcome = activity.OutcomeRight
	case seen.Rights > 0:
		into.Outcome = activity.OutcomePart
	default:
		into.Outcome = activity.OutcomeWrong
	}
	return into
}

func better(a, b *line) bool {
	if a.seen.Valid != b.seen.Valid {
		return a.seen.Valid
	}
	if c := a.fraction.Cmp(b.fraction); c != 0 {
		return c > 0
	}
	return a.seen.Rights > b.seen.Rights
}

// valueOf takes the attempt's share (that of tries is in already), which does not
// soften what is below zero, and the price of hints.
func (j *Judge) valueOf(value exact.Ratio, now Now) exact.Ratio {
	m := &j.Parts.Doc.Marks
	if now.Tries == nil && value.Sign() > 0 {
		value = value.Mul(exact.OfPercent(j.Share(now.Attempt)))
	}
	return j.clamp(value.Sub(exact.OfPercent(now.Hints * m.HintCost)))
}

// Share is the percent that try number n (1, 2, …) counts.
func (j *Judge) Share(n int) int {
	shares := j.Parts.Doc.Marks.Shares
	return shares[min(max(n, 1), len(shares))-1]
}

// clamp keeps a value within 0 (−1 where negative marks are allowed) and 1.
func (j *Judge) clamp(v exact.Ratio) exact.Ratio {
	floor := exact.Int(0)
	if j.Parts.Doc.Marks.Negative {
		floor = exact.Int(-1)
	}
	return v.Clamp(floor, exact.Int(1))
}

// Band names the band of a rounded percent, or nothing.
func (j *Judge) Band(percent exact.Hundredths) string {
	return activity.BandAt(j.Parts.Doc.Marks.Bands, percent)
}

// Available is what a solution makes available, in points of weight: the whole of which
// what is earned is a fraction.
func (j *Judge) Available(solution int) exact.Ratio { return j.available[solution] }

// Unit says whether a target counts under a solution, where marks are by target.
func (j *Judge) Unit(solution, target int) bool { return j.units[solution][target] }
