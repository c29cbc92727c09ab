// Package proof says what can be known of an activity before anyone plays it: that
// it can be solved, in how many ways, how a blind guesser would do, in which
// situation each reply is given, and what should be looked at.
//
//	report, err := proof.Prove(ctx, doc)
//	report.Count          // "12"
//	report.Findings[0]    // key-impossible, with the parts at fault and a sentence
//
// A finding may have a mend: [Mend] gives the document with it done. The quick
// questions (what can be solved, findings of the document itself), the count, the
// guesser and the replies can be asked each by itself, so that an editor shows one
// while the next is worked out.
//
// Where the document leaves it open, this package decides: pieces of one item make
// states of the guesser of their own; the intervals of drawn figures are Wilson's for the
// probability and the normal one for the mean; the witness is that of the first
// solution that has one; for the guesser, solutions that are impossible count for
// nothing.
package proof

import (
	"context"
	"math/big"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/message"
	"keenmagpie/core/play"
	"keenmagpie/core/ways"
)

// Report is everything that is known.
type Report struct {
	Solution
	Count string `json:"count"`
	// Exact is false where Count is a lower bound.
	Exact    bool      `json:"exact"`
	Chance   Chance    `json:"chance"`
	Findings []Finding `json:"findings"`
	Cover
}

// Solution says whether the activity can be solved.
type Solution struct {
	// State is "not done yet" while nothing is right anywhere, then "keyed".
	State    string `json:"state"`
	Solvable bool   `json:"solvable"`
	// Witness is a valid arrangement, Witnesses one of each solution that has one.
	Witness   map[string][]string   `json:"witness,omitempty"`
	Witnesses []map[string][]string `json:"witnesses"`
	Conflict  *Conflict             `json:"conflict,omitempty"`
	// EverythingIn is what putting every piece into some target comes to at best; nil where
	// they do not all go in.
	EverythingIn *EverythingIn `json:"everythingIn,omitempty"`
}

// EverythingIn is an arrangement in which every piece is in a target, as a first attempt.
type EverythingIn struct {
	Percent string `json:"percent"`
	Valid   bool   `json:"valid"`
	// Full is whether it earns all there is to earn.
	Full bool `json:"full"`
}

// Conflict is the smallest set of parts found that do not go together.
type Conflict struct {
	Solution int      `json:"solution"`
	Items    []string `json:"items"`
	Targets  []string `json:"targets"`
}

// States of a document.
const (
	NotDone = "not done yet"
	Keyed   = "keyed"
)

// Proof is a document about to be proved.
type Proof struct {
	ctx       context.Context
	doc       *activity.Doc
	parts     *activity.Parts
	solutions []*answer.Solution
	solved    *Solution
	covered   *Cover
	game      *play.Game
}

// ready is the document ready to be played, made once; nil where its key is
// impossible.
func (p *Proof) ready() *play.Game {
	if p.game == nil {
		p.game, _ = play.New(p.doc)
	}
	return p.game
}

// New makes a document ready. Every question has a bound of its own (states, draws,
// moves), and ends early once ctx is over: then ctx.Err says so, and what was answered
// means nothing. Cost: O(solutions × items × targets).
func New(ctx context.Context, doc *activity.Doc) *Proof {
	p := &Proof{ctx: ctx, doc: doc, parts: activity.NewParts(doc)}
	for i := range doc.Key.Solutions {
		p.solutions = append(p.solutions, answer.New(p.parts, i))
	}
	return p
}

// Prove answers everything, or says that ctx was over first. Cost: see [Proof.Solve], [ways.Count], [Proof.Chance] and
// [Proof.Cover].
func Prove(ctx context.Context, doc *activity.Doc) (*Report, error) {
	p := New(ctx, doc)
	r := &Report{Solution: p.Solve()}
	r.Count, r.Exact = p.Count()
	r.Chance = p.Chance()
	r.Cover = p.Cover()
	r.Findings = append(p.Findings(), p.CoverFindings()...)
	return r, ctx.Err()
}

// Solve says whether the activity can be solved. Cost: a plan for each solution
// (package answer), and for each demand of an impossible one.
func (p *Proof) Solve() Solution {
	if p.solved != nil {
		return *p.solved
	}
	out := Solution{State: NotDone, Solvable: true, Witnesses: make([]map[string][]string, len(p.solutions))}
	for i, s := range p.solutions {
		for t := range p.doc.Targets {
			if len(s.ItemsAt(t)) > 0 {
				out.State = Keyed
			}
		}
		if w := s.Witness(); w != nil {
			out.Witnesses[i] = w.Names()
			if out.Witness == nil {
				out.Witness = out.Witnesses[i]
			}
			continue
		}
		out.Solvable = false
		if items, targets := s.Conflict(); out.Conflict == nil || len(items)+len(targets) < len(out.Conflict.Items)+len(out.Conflict.Targets) {
			out.Conflict = &Conflict{i, items, targets}
		}
	}
	out.EverythingIn = p.everythingIn()
	p.solved = &out
	return out
}

// everythingIn judges, for each solution, the arrangement in which every piece is in and
// that is worth most by its cells, and the valid one of that kind if there is one.
// Cost: two plans for each solution, and a judgement for each.
func (p *Proof) everythingIn() *EverythingIn {
	game := p.ready()
	if game == nil {
		return nil
	}
	var best *marks.Judgement
	for _, s := range p.solutions {
		for _, valid := range []bool{false, true} {
			a := s.AllIn(valid)
			if a == nil {
				continue
			}
			j := game.Judge.Judge(a, marks.Now{Attempt: 1}, nil)
			if best == nil || j.Value.Cmp(best.Value) > 0 || j.Value == best.Value && j.Outcome == activity.OutcomeRight {
				best = j
			}
		}
	}
	if best == nil {
		return nil
	}
	return &EverythingIn{best.Percent.Fixed(), best.Outcome == activity.OutcomeRight, best.Fraction.Cmp(exact.Int(1)) >= 0}
}

// Count is how many valid arrangements there are, or at least are.
func (p *Proof) Count() (count string, exact bool) {
	n := ways.Count(p.ctx, p.parts)
	if !n.Exact && n.Value.Sign() == 0 && p.Solve().Witness != nil {
		return "1", false
	}
	return n.Value.String(), n.Exact
}

// Chance is that of a blind guesser. Solutions that are impossible count for
// nothing.
func (p *Proof) Chance() Chance {
	doc := *p.doc
	doc.Key.Solutions = nil
	for i, w := range p.Solve().Witnesses {
		if w != nil {
			doc.Key.Solutions = append(doc.Key.Solutions, p.doc.Key.Solutions[i])
		}
	}
	if g := p.game; g != nil { // every solution is possible: the judge is there already
		return guess(p.ctx, g.Judge, p.leavesSome())
	}
	judge, err := marks.NewJudge(&doc)
	if err != nil || len(doc.Key.Solutions) == 0 {
		return chance(new(big.Rat), new(big.Rat), true)
	}
	return guess(p.ctx, judge, p.leavesSome())
}

// leavesSome reports whether some valid arrangement leaves some piece at home.
// Cost: a plan for each solution (package answer).
func (p *Proof) leavesSome() bool {
	for _, s := range p.solutions {
		fewest, ok := s.Available(func(int, int) int { return -1 })
		if ok && -fewest < len(p.parts.Pieces) {
			return true
		}
	}
	return false
}

func (p *Proof) itemName(id string) string {
	if it := p.doc.Item(id); it != nil && it.Name != "" {
		return it.Name
	}
	return id
}

func (p *Proof) targetName(id string) string {
	if t := p.doc.Target(id); t != nil && t.Name != "" {
		return t.Name
	}
	return id
}

func (p *Proof) itemNames(ids []string) message.Sentence { return some(ids, p.itemName) }

func (p *Proof) targetNames(ids []string) message.Sentence { return some(ids, p.targetName) }

// some names the first few of a list.
func some(ids []string, name func(string) string) message.Sentence {
	names := make([]string, len(ids))
	for i, id := range ids {
		names[i] = name(id)
	}
	return message.Some(names, 4)
}
