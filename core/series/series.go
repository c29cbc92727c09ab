// Package series says where a learner stands in a series: what has been done, where
// to go from here, and what it all comes to. The sittings of its activities are
// played by package play; here only what they came to counts.
//
//	run := series.New(doc, legs)
//	now := run.Now(series.Place{At: 2, Reached: 2}, results)
//	now.Next // 3, when step 2 lets the learner move on
//
// Steps are numbered from 0; the result stands after the last one. Going on is by
// each step's moveOn. Once the result has been reached every step can be looked at
// again, and going on leads to what is still to be done, else to the result.
//
// Where the document leaves it open, this package decides:
//   - a step counts when neither it nor its activity says that it does not;
//   - a step without a sitting, or whose sitting has no verdict, has the score 0;
//   - where nothing counts there is no total: nothing is passed, and there is no band;
//   - a step that asks for right and is over without it may be begun again;
//   - only what was not right: pages and right steps are passed over.
package series

import (
	"math/big"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/play"
)

// Worth is what the series has to know of each step's activity.
type Worth struct {
	Title  string
	Points exact.Hundredths // what it is worth here
	Counts bool             // by itself; the series may say otherwise
}

// Result is what the present sitting of a step has come to.
type Result struct {
	Begun    bool             `json:"begun"`
	Phase    play.Phase       `json:"phase,omitempty"`
	Outcome  activity.Outcome `json:"outcome,omitempty"`
	Attempts int              `json:"attempts"`
	Score    exact.Hundredths `json:"score"`
	Percent  exact.Hundredths `json:"percent"`
	Passed   bool             `json:"passed"`
	Band     string           `json:"band,omitempty"`
}

// ResultOf sums a sitting up.
func ResultOf(g *play.Game, s *play.State) Result {
	f := g.Final(s)
	r := Result{Begun: true, Phase: f.Phase, Outcome: f.Outcome, Attempts: f.Attempts, Passed: f.Passed, Band: f.Band}
	if s.Kept != nil {
		r.Score, r.Percent = s.Kept.Score, s.Kept.Percent
	}
	return r
}

// Place is where a learner is: at a step, or at the result, having been as far as
// Reached.
type Place struct {
	At      int `json:"at"`
	Reached int `json:"reached"`
}

// Run is a series ready to be gone through. It never changes.
type Run struct {
	Doc   *activity.Series
	Steps []Worth // one for each step; that of a page has its title alone
}

// New makes a run of a series whose activities are given by id. An activity that is
// not there leaves the step with nothing to be gained.
func New(doc *activity.Series, activities map[string]*activity.Doc) *Run {
	r := &Run{doc, make([]Worth, len(doc.Steps))}
	for i, step := range doc.Steps {
		switch d := activities[step.Activity]; {
		case step.Page != nil:
			r.Steps[i].Title = step.Page.Title
		case d != nil:
			r.Steps[i] = Worth{d.Title, d.Marks.Points, d.Marks.Counts && step.Counts}
			if step.Points != nil {
				r.Steps[i].Points = *step.Points
			}
		}
	}
	return r
}

// Activity is the document that is played at a step: the activity with the points
// that it is worth here. The document given is not changed.
func Activity(doc *activity.Doc, step activity.Leg) *activity.Doc {
	if step.Points == nil {
		return doc
	}
	out := *doc
	out.Marks.Points = *step.Points
	return &out
}

// Now is where the learner stands, and where to go from there.
type Now struct {
	Place
	// Progress is how far it has come, from 0 to 1: what share of its activities is over.
	Progress string `json:"progress"`
	Steps    []Step `json:"steps" nullable:"false"`
	// Next is where going on leads; −1 while the step has to be done first.
	Next int `json:"next"`
	// Back is where going back leads; −1 where that is not possible.
	Back int `json:"back"`
	// Retry is there where the step may be begun again.
	Retry bool `json:"retry"`
	// Total is there at the result, where something counts.
	Total *Total `json:"total,omitempty"`
	// Again is what can be done once more from the result: all, wrong or nothing.
	Again activity.Again `json:"again,omitempty" enum:"all,wrong"`
}

// Step is one line of the running order.
type Step struct {
	Title  string `json:"title"`
	Page   bool   `json:"page"`
	Counts bool   `json:"counts"`
	Points string `json:"points"`
	// Open is whether it can be gone to now.
	Open bool `json:"open"`
	Result
}

// Total is what the counting steps come to.
type Total struct {
	Score   string `json:"score"`
	Points  string `json:"points"`
	Percent string `json:"percent"`
	// PassMark is there where there is one.
	PassMark string `json:"passMark,omitempty"`
	Passed   bool   `json:"passed"`
	Band     string `json:"band,omitempty"`
}

// End is the number of the result.
func (r *Run) End() int { return len(r.Doc.Steps) }

// Now works it out from the results of the steps' present sittings. Cost: O(steps).
func (r *Run) Now(at Place, results []Result) Now {
	end := r.End()
	at.At, at.Reached = min(max(at.At, 0), end), min(max(at.Reached, at.At), end)
	n := Now{Place: at, Steps: make([]Step, end), Next: -1, Back: -1}
	for i, leg := range r.Steps {
		n.Steps[i] = Step{Title: leg.Title, Page: r.Doc.Steps[i].Page != nil, Counts: leg.Counts, Points: leg.Points.String(),
			Open: r.mayGo(at, results, i), Result: told(results[i])}
	}
	n.Progress = r.Progress(at, results)
	if at.At < end {
		n.Next = r.next(at, results)
		n.Retry = r.Doc.Steps[at.At].Page == nil && r.Doc.Steps[at.At].MoveOn == activity.MoveOnRight && over(results[at.At]) && !r.ready(at.At, results)
	} else {
		n.Total = r.Sum(results)
		n.Again = r.again(results)
	}
	if at.At > 0 && r.mayGo(at, results, at.At-1) {
		n.Back = at.At - 1
	}
	return n
}

// Progress is how far a place is along the way, from 0 to 1.
func (r *Run) Progress(at Place, results []Result) string {
	done, of := 0, 0
	for i := range r.Steps {
		if r.Doc.Steps[i].Page == nil {
			of++
			if over(results[i]) {
				done++
			}
		}
	}
	return play.Progress(at.Reached >= r.End(), done, of)
}

// told is what a learner may know of a result: while a sitting is under way, not how it
// stands.
func told(r Result) Result {
	if over(r) {
		return r
	}
	return Result{Begun: r.Begun, Phase: r.Phase}
}

// over reports whether a step's sitting has ended.
func over(r Result) bool { return r.Begun && r.Phase == play.Done }

// ready reports whether a step lets the learner move on.
func (r *Run) ready(step int, results []Result) bool {
	leg := r.Doc.Steps[step]
	switch {
	case leg.Page != nil, leg.MoveOn == activity.MoveOnFree:
		return true
	case leg.MoveOn == activity.MoveOnRight:
		return over(results[step]) && results[step].Outcome == activity.OutcomeRight
	}
	return over(results[step])
}

// next is where going on leads from a step, or −1.
func (r *Run) next(at Place, results []Result) int {
	end := r.End()
	if at.Reached < end {
		if at.At < at.Reached || r.ready(at.At, results) {
			return at.At + 1
		}
		return -1
	}
	if !r.ready(at.At, results) {
		return -1
	}
	for i := at.At + 1; i < end; i++ {
		if r.Doc.Steps[i].Page == nil && !over(results[i]) {
			return i
		}
	}
	return end
}

// MayGo reports whether the learner may go from a place to a step, or to the result.
func (r *Run) MayGo(at Place, results []Result, to int) bool {
	return to == at.At || to >= 0 && to <= r.End() && (r.mayGo(at, results, to) || to == r.next(at, results))
}

// mayGo says so of what lies behind: where going back is possible, or all of it is over.
func (r *Run) mayGo(at Place, results []Result, to int) bool {
	if to > at.Reached {
		return false
	}
	return r.Doc.Back || at.Reached == r.End()
}

// again is what the result offers to do once more.
func (r *Run) again(results []Result) activity.Again {
	if r.Doc.Again == activity.AgainNone || len(r.Redo(r.Doc.Again, results)) == 0 {
		return ""
	}
	return r.Doc.Again
}

// Redo lists the steps that are begun anew by "all", or by "wrong": those that were
// not right. The learner goes to the first of them; by "all" to the very first step.
func (r *Run) Redo(what activity.Again, results []Result) (steps []int) {
	for i, leg := range r.Doc.Steps {
		if leg.Page == nil && (what == activity.AgainAll || results[i].Outcome != activity.OutcomeRight) {
			steps = append(steps, i)
		}
	}
	return steps
}

// Page finds a page's step by its id; −1 where there is none.
func (r *Run) Page(id string) int {
	for i, leg := range r.Doc.Steps {
		if leg.Page != nil && leg.Page.ID == id {
			return i
		}
	}
	return -1
}

// Sum sums the counting steps: percent = round(100 × total / sum of points), half
// away from zero, to two places. nil where nothing counts.
func (r *Run) Sum(results []Result) *Total {
	var score, points exact.Hundredths
	any := false
	for i, leg := range r.Steps {
		if r.Doc.Steps[i].Page == nil && leg.Counts {
			any = true
			score += results[i].Score
			points += leg.Points
		}
	}
	if !any || points == 0 {
		return nil
	}
	percent := exact.RoundRat(new(big.Rat).SetFrac64(100*int64(score), int64(points)))
	t := &Total{Score: score.Fixed(), Points: points.String(), Percent: percent.Fixed(), Passed: percent >= r.Doc.PassMark, Band: r.Band(percent)}
	if r.Doc.PassMark != 0 {
		t.PassMark = r.Doc.PassMark.String()
	}
	return t
}

// Band names a percent of the total.
func (r *Run) Band(percent exact.Hundredths) string { return activity.BandAt(r.Doc.Bands, percent) }
