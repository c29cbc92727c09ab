package activity

import (
	"slices"

	"keenmagpie/core/geometry"
)

// Hint is one hint: words or a picture, or one missing piece put in its place.
type Hint struct {
	Text    string `json:"text" max:"4000"`
	Picture string `json:"picture" max:"64" media:"true"`
	Alt     string `json:"alt" max:"1000"`
	Place   bool   `json:"place"`
}

// Reply is what the learner is told, the moment at which, and the condition
// under which.
type Reply struct {
	ID     string `json:"id" required:"true" id:"true"`
	Moment string `json:"moment" required:"true" one:"opened|placed|checked|hinted|timeUp|done|review"`
	// When, left out, always holds.
	When *Condition `json:"when"`
	// Also lets the search go on after this one.
	Also bool   `json:"also"`
	Say  Say    `json:"say"`
	Tone string `json:"tone" default:"\"plain\"" one:"right|near|wrong|plain"`
	// Spot is where it stands; with frame, Frame says where.
	Spot  string         `json:"spot" default:"\"edge\"" one:"edge|piece|target|card|frame"`
	Frame *geometry.Rect `json:"frame"`
	// Until, left out, is closed for a card and check for everything else.
	Until   string   `json:"until" one:"move|check|closed|stays" optional:"true"`
	Dim     bool     `json:"dim"`
	Reopen  bool     `json:"reopen"`
	Point   []string `json:"point" max:"500"`
	ShowKey bool     `json:"showKey"`
	Finish  bool     `json:"finish"`
	// Off leaves it out without taking it away.
	Off   bool     `json:"off"`
	Offer []string `json:"offer" max:"20"`
}

// Stays is until when the reply stands.
func (r *Reply) Stays() string {
	switch {
	case r.Until != "":
		return r.Until
	case r.Spot == "card":
		return "closed"
	}
	return "check"
}

// Asks are the conditions of which all must hold for it to be given.
func (r *Reply) Asks() []Condition {
	switch {
	case r.When == nil:
		return nil
	case len(r.When.All) > 0:
		return r.When.All
	}
	return []Condition{*r.When}
}

// particular is how particular a reply is: among those of a moment the more particular
// are tried earlier, so that nothing general takes their place. First come those that
// let the search go on; last those that ask for no more than the outcome and the
// attempts. Between them it is the number of conditions, and what is said of one place
// comes before what is said of the same piece anywhere.
func (r *Reply) particular() int {
	facts := r.Asks()
	general := !slices.ContainsFunc(facts, func(c Condition) bool { return c.Outcome == "" && c.Left == nil && c.Attempt == nil })
	rank := 2 * len(facts)
	if s, ok := r.slot(); ok && s.Result == "" {
		rank++
	}
	switch {
	case r.Also && !general:
		return 1000 + rank
	case general:
		return 0
	}
	return rank
}

// AddReply puts a reply before those of its moment that are less particular, else at
// the end, with an id of its own. It changes the document itself.
func (d *Doc) AddReply(r Reply) (id string) {
	r.ID = FreshID(d.takenReplies(), r.ID)
	d.insertReply(r)
	return r.ID
}

func (d *Doc) insertReply(r Reply) {
	at := slices.IndexFunc(d.Replies, func(x Reply) bool { return x.Moment == r.Moment && x.particular() < r.particular() })
	if at < 0 {
		at = len(d.Replies)
	}
	d.Replies = slices.Insert(d.Replies, at, r)
}

// Situate changes when a reply is given. Where the others of its moment stand by how
// particular they are it takes its place among them; an order made by hand stays. It
// changes the document itself.
func (d *Doc) Situate(id string, when *Condition) {
	at := slices.IndexFunc(d.Replies, func(r Reply) bool { return r.ID == id })
	if at < 0 {
		return
	}
	d.Replies[at].When = when
	r := d.Replies[at]
	less := func(a, b Reply) int { return b.particular() - a.particular() }
	own := slices.DeleteFunc(slices.Clone(d.Replies), func(x Reply) bool { return x.Moment != r.Moment })
	others := slices.DeleteFunc(slices.Clone(own), func(x Reply) bool { return x.ID == id })
	if slices.IsSortedFunc(own, less) || !slices.IsSortedFunc(others, less) {
		return
	}
	d.Replies = slices.Delete(d.Replies, at, at+1)
	d.insertReply(r)
}

// Say is what a reply says.
type Say struct {
	Text       string `json:"text" max:"4000"`
	Picture    string `json:"picture" max:"64" media:"true"`
	Alt        string `json:"alt" max:"1000"`
	Sound      string `json:"sound" max:"64" media:"true"`
	Transcript string `json:"transcript" max:"4000"`
}

// Condition is one condition of a reply. Exactly one of its forms is there:
// a list of conditions under All, Any or None, or one fact.
type Condition struct {
	All  []Condition `json:"all" keep:"true" max:"100"`
	Any  []Condition `json:"any" keep:"true" max:"100"`
	None []Condition `json:"none" keep:"true" max:"100"`
	// These three are of the placement, and false at other moments.
	Piece  *Selector `json:"piece"`
	Onto   []string  `json:"onto" keep:"true" max:"200"`
	Result string    `json:"result" one:"right|wrong|refused|kept" optional:"true"`
	// Item goes with Is (home, right, wrong) or In (a target); Target with Is
	// (right, part, wrong, empty).
	Item         string `json:"item" max:"64" optional:"true"`
	Target       string `json:"target" max:"64" optional:"true"`
	Is           string `json:"is" one:"home|right|wrong|part|empty" optional:"true"`
	In           string `json:"in" max:"64" optional:"true"`
	Outcome      string `json:"outcome" one:"right|part|wrong" optional:"true"`
	RightCount   *Range `json:"rightCount"`
	WrongCount   *Range `json:"wrongCount"`
	MissingCount *Range `json:"missingCount"`
	HomeCount    *Range `json:"homeCount"`
	Percent      *Range `json:"percent"`
	Attempt      *Range `json:"attempt"`
	Left         *Range `json:"left"`
	Solution     *int   `json:"solution" range:"0..49"`
}

// Range is a span of numbers, its ends included; an end left out is open.
type Range struct {
	Min *U `json:"min" range:"-1000000..1000000"`
	Max *U `json:"max" range:"-1000000..1000000"`
}

// Holds reports whether the number is in the span.
func (r *Range) Holds(n U) bool {
	return (r.Min == nil || n >= *r.Min) && (r.Max == nil || n <= *r.Max)
}
