package series

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
)

// Going is where a learner wants to go in a series: to a step, to a page and back, or
// on the way once more. Without any, to where they are.
type Going struct {
	To    *int   `json:"to,omitempty" minimum:"0" maximum:"200"`
	Page  string `json:"page,omitempty" maxLength:"64" doc:"A page that may be seen; the step stays the same"`
	Retry bool   `json:"retry,omitempty" doc:"Start the step again, where all must be correct and it is over"`
	Again bool   `json:"again,omitempty" doc:"From the result, do once more what it offers"`
}

// Went is where going has led.
type Went struct {
	Place
	// Aside is the step of the page that is seen beside the present step; −1 is none.
	Aside int `json:"aside"`
	// Redo lists the steps whose sittings count no more: they are begun anew.
	Redo []int `json:"redo" nullable:"false"`
}

// Go goes on from a place; ok is false where that is not possible, and nothing has
// changed then. offers reports whether a reply that stands in the present step offers
// something: back, or page:id.
func (r *Run) Go(at Place, results []Result, to Going, offers func(what string) bool) (went Went, ok bool) {
	went = Went{at, -1, []int{}}
	switch {
	case to.Page != "":
		went.Aside = r.Page(to.Page)
		return went, went.Aside >= 0 && (went.Aside <= at.Reached || offers("page:"+to.Page))
	case to.Retry:
		went.Redo = append(went.Redo, at.At)
		return went, r.Now(at, results).Retry
	case to.Again:
		what := r.again(results)
		if at.At != r.End() || what == "" {
			return went, false
		}
		went.Redo = r.Redo(what, results)
		went.At = went.Redo[0]
		if what == activity.AgainAll {
			went.Place = Place{}
		}
	case to.To != nil:
		back := *to.To == at.At-1 && *to.To >= 0
		if !r.MayGo(at, results, *to.To) && !(back && offers("back")) {
			return went, false
		}
		went.At = *to.To
		went.Reached = max(went.Reached, went.At)
	}
	return went, true
}

// Fresh reports whether a step that is come to begins with a new sitting: it was not
// begun, or its activity starts over when it is come back to. What is over is looked at
// once all of it is.
func (r *Run) Fresh(at Place, result Result, moves int, reenter activity.Reenter) bool {
	looking := at.Reached == r.End() && over(result)
	return !result.Begun || reenter == activity.ReenterRestart && moves > 0 && !looking
}

// Without takes results out that count no more.
func Without(results []Result, redo []int) []Result {
	out := slices.Clone(results)
	for _, step := range redo {
		out[step] = Result{}
	}
	return out
}

// Offers reports whether a reply that stands in a sitting offers something.
func Offers(g *play.Game, s *play.State, what string) bool {
	return slices.ContainsFunc(g.Standing(s, play.Answer{}, play.Plain{}).Replies, func(t play.Told) bool { return slices.Contains(t.Offer, what) })
}
