// Package marks makes a verdict of an arrangement, and a score of a verdict.
//
// Each solution sees the arrangement in its own light; the verdict is that of the
// solution that fits best: a valid one first, then the highest credited fraction,
// then the most right pieces, then the earliest. The fraction that counts is the
// highest of all, so that completing one way never scores less than falling short
// of another.
//
//	earned    = weights of right pieces − penalties of wrong pieces
//	available = the most that a valid arrangement could earn
//	fraction  = earned / available, within 0 (or −1) and 1, × credit
//	score     = points × fraction × share of the attempt, rounded once
//
// Seven of nine right, with 10 points, is 7/9 and scores 7.78.
package marks

import (
	"fmt"
	"math/big"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/exact"
	"keenmagpie/core/placing"
)

// Semantics is the version of the rules. A sitting keeps the version that judged
// it.
const Semantics = 1

// Verdict is what a check comes to. Earned, Available and Fraction are exact, of
// the solution ScoredBy, and hold neither share nor hints; Score and Percent are
// rounded and do.
type Verdict struct {
	Outcome   string            `json:"outcome" enum:"right,part,wrong"`
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

// Judge holds a document and what each of its solutions makes available. It can
// be used by several at once.
type Judge struct {
	Doc       *activity.Doc
	available []int
}

// Impossible is the error for a key that no arrangement satisfies.
type Impossible struct {
	Solution       int
	Items, Targets []string
}

func (e *Impossible) Error() string {
	return fmt.Sprintf("solution %d cannot be satisfied: %s must all be placed, and %s cannot hold them all",
		e.Solution+1, strings.Join(e.Items, ", "), strings.Join(e.Targets, ", "))
}

// NewJudge works out what each solution makes available. The error is an
// [*Impossible].
func NewJudge(doc *activity.Doc) (*Judge, error) {
	j := &Judge{Doc: doc}
	for i := range doc.Key.Solutions {
		s := &doc.Key.Solutions[i]
		points, ok := answer.Available(doc, s)
		if !ok {
			items, targets := answer.Conflict(doc, s)
			return nil, &Impossible{i, items, targets}
		}
		j.available = append(j.available, points)
	}
	return j, nil
}

// line is one solution's account of an arrangement.
type line struct {
	seen     answer.Seen
	earned   int
	fraction *big.Rat // clamped and credited
}

// Verdict judges an arrangement at an attempt (1, 2, …). The value is the
// unrounded score as a part of the whole, share included.
// Cost: O(solutions × items × targets).
func (j *Judge) Verdict(a *placing.Arrangement, attempt int) (v Verdict, value *big.Rat) {
	lines := make([]line, len(j.Doc.Key.Solutions))
	for i := range lines {
		lines[i] = j.account(i, a)
	}
	considered := j.consistent(lines, a.Held)
	best := considered[0]
	for _, i := range considered[1:] {
		if better(lines[i], lines[best]) {
			best = i
		}
	}
	scored := best
	for _, i := range considered {
		if c := lines[i].fraction.Cmp(lines[scored].fraction); c > 0 {
			scored = i
		}
	}
	value = j.shared(lines[scored].fraction, attempt)
	seen := lines[best].seen
	v = Verdict{
		Valid: seen.Valid, Solution: best, Right: seen.Right, Wrong: seen.Wrong, Missing: seen.Missing,
		Targets: seen.Targets, ScoredBy: scored,
		Earned:    fmt.Sprint(lines[scored].earned),
		Available: fmt.Sprint(j.available[scored]),
		Fraction:  exact.Fraction(lines[scored].fraction),
		Score:     exact.Round2(new(big.Rat).Mul(j.Doc.Marks.Points.Rat(), value)),
		Percent:   exact.Round2(new(big.Rat).Mul(big.NewRat(100, 1), value)),
	}
	switch {
	case v.Valid:
		v.Outcome = "right"
	case len(v.Right) > 0:
		v.Outcome = "part"
	default:
		v.Outcome = "wrong"
	}
	return v, value
}

func (j *Judge) account(i int, a *placing.Arrangement) line {
	s := &j.Doc.Key.Solutions[i]
	l := line{seen: answer.Look(j.Doc, s, a)}
	for t := range j.Doc.Targets {
		target := &j.Doc.Targets[t]
		for _, p := range a.Targets[target.ID] {
			it := placing.ItemOf(j.Doc, p.Piece)
			if s.RightCell(target, it) {
				l.earned += j.Doc.Marks.Weight(it, target.ID)
			} else {
				l.earned -= j.Doc.Marks.Penalty(it, target.ID)
			}
		}
	}
	switch available := j.available[i]; {
	case available > 0:
		l.fraction = big.NewRat(int64(l.earned), int64(available))
	case l.seen.Valid:
		l.fraction = big.NewRat(1, 1)
	default:
		l.fraction = new(big.Rat)
	}
	l.fraction = j.clamp(l.fraction)
	l.fraction.Mul(l.fraction, exact.Percent(s.Credit))
	return l
}

// clamp keeps a fraction within 0 (−1 where negative marks are allowed) and 1.
func (j *Judge) clamp(f *big.Rat) *big.Rat {
	floor := new(big.Rat)
	if j.Doc.Marks.Negative {
		floor.SetInt64(-1)
	}
	if f.Cmp(floor) < 0 {
		return floor
	}
	if one := big.NewRat(1, 1); f.Cmp(one) > 0 {
		return one
	}
	return f
}

// shared takes the share of the attempt; what is below zero is not softened.
func (j *Judge) shared(f *big.Rat, attempt int) *big.Rat {
	if f.Sign() <= 0 {
		return f
	}
	shares := j.Doc.Marks.Shares
	share := shares[min(max(attempt, 1), len(shares))-1]
	return new(big.Rat).Mul(f, exact.Percent(share))
}

// consistent lists the solutions under which every held piece is right where it
// is; all of them where there is none.
func (j *Judge) consistent(lines []line, held []string) []int {
	var some, all []int
	for i, l := range lines {
		all = append(all, i)
		right := map[string]bool{}
		for _, p := range l.seen.Right {
			right[p] = true
		}
		ok := true
		for _, p := range held {
			ok = ok && right[p]
		}
		if ok {
			some = append(some, i)
		}
	}
	if len(some) == 0 {
		return all
	}
	return some
}

func better(a, b line) bool {
	if a.seen.Valid != b.seen.Valid {
		return a.seen.Valid
	}
	if c := a.fraction.Cmp(b.fraction); c != 0 {
		return c > 0
	}
	return len(a.seen.Right) > len(b.seen.Right)
}

// Band names the band of a rounded percent, or nothing.
func (j *Judge) Band(percent exact.Hundredths) string {
	name := ""
	for _, b := range j.Doc.Marks.Bands {
		if b.From <= percent {
			name = b.Name
		}
	}
	return name
}
