package activity

import (
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
	Moment Moment `json:"moment" required:"true" one:"opened|placed|checked|hinted|timeUp|done|review"`
	// When, left out, always holds.
	When *Condition `json:"when"`
	// Also lets the search go on after this one.
	Also bool `json:"also"`
	Say  Say  `json:"say"`
	Tone Tone `json:"tone" default:"\"plain\"" one:"right|near|wrong|plain"`
	// Spot is where it stands; with frame, Frame says where; with board its picture is
	// shown in full over all of the board.
	Spot  Spot           `json:"spot" default:"\"edge\"" one:"edge|piece|target|card|frame|board"`
	Frame *geometry.Rect `json:"frame"`
	// Until, left out, is closed for a card and over all of the board, check for everything else.
	Until   Until    `json:"until" one:"move|check|closed|stays" optional:"true"`
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
func (r *Reply) Stays() Until {
	switch {
	case r.Until != "":
		return r.Until
	case r.Spot == SpotCard, r.Spot == SpotBoard:
		return UntilClosed
	}
	return UntilCheck
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

// Say is what a reply says.
type Say struct {
	Text       string `json:"text" max:"4000"`
	Picture    string `json:"picture" max:"64" media:"true"`
	Alt        string `json:"alt" max:"1000"`
	Sound      string `json:"sound" max:"64" media:"true"`
	Transcript string `json:"transcript" max:"4000"`
	// Layout is where the picture stands to the text; left out, above it.
	Layout SayLayout `json:"layout" one:"above|beside|below" optional:"true"`
}

// Empty says whether nothing is said.
func (s Say) Empty() bool { return s == Say{Layout: s.Layout} }

// Condition is one condition of a reply. Exactly one of its forms is there:
// a list of conditions under All, Any or None, or one fact.
type Condition struct {
	All  []Condition `json:"all" keep:"true" max:"100"`
	Any  []Condition `json:"any" keep:"true" max:"100"`
	None []Condition `json:"none" keep:"true" max:"100"`
	// These three are of the placement, and false at other moments.
	Piece  *Selector `json:"piece"`
	Onto   []string  `json:"onto" keep:"true" max:"200"`
	Result Result    `json:"result" one:"right|wrong|refused|kept" optional:"true"`
	// Item goes with Is (home, right, wrong) or In (a target); Target with Is
	// (right, part, wrong, empty).
	Item         string  `json:"item" max:"64" optional:"true"`
	Target       string  `json:"target" max:"64" optional:"true"`
	Is           Is      `json:"is" one:"home|right|wrong|part|empty" optional:"true"`
	In           string  `json:"in" max:"64" optional:"true"`
	Outcome      Outcome `json:"outcome" one:"right|part|wrong" optional:"true"`
	RightCount   *Range  `json:"rightCount"`
	WrongCount   *Range  `json:"wrongCount"`
	MissingCount *Range  `json:"missingCount"`
	HomeCount    *Range  `json:"homeCount"`
	Percent      *Range  `json:"percent"`
	Attempt      *Range  `json:"attempt"`
	Left         *Range  `json:"left"`
	Solution     *int    `json:"solution" range:"0..49"`
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

// Each calls f with the condition and with every one within it. On nil it does
// nothing.
func (c *Condition) Each(f func(*Condition)) {
	if c == nil {
		return
	}
	f(c)
	for _, list := range [][]Condition{c.All, c.Any, c.None} {
		for i := range list {
			list[i].Each(f)
		}
	}
}
