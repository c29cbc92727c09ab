// Package reply decides what a learner is told: at a moment, replies are tried in
// order, the first whose condition holds is given, and one with also lets the
// search go on.
//
//	given := book.Given(reply.Situation{Moment: "placed", …}, nil)
//
// A condition looks at the arrangement as it is judged, at the placement that has
// just been made, and at the attempt. Asked why, the package tells for every
// condition that was looked at what it found; it stops looking where an all, an
// any or a none is decided.
//
// Where the document leaves it open, this package decides: a piece that was put
// again where it stood is kept, and right or wrong as well; with no limit of
// attempts, left is larger than any number.
package reply

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/message"
	"keenmagpie/core/placing"
	"keenmagpie/core/say"
)

// Book is a document's replies, by moment.
type Book struct {
	parts  *activity.Parts
	judge  *marks.Judge
	at     map[activity.Moment][]int
	pieces map[*activity.Condition][]bool // a piece condition's selector, by item
}

// NewBook makes the replies ready. Cost: O(conditions × items).
func NewBook(judge *marks.Judge) *Book {
	b := &Book{judge.Parts, judge, map[activity.Moment][]int{}, map[*activity.Condition][]bool{}}
	for i := range b.parts.Doc.Replies {
		r := &b.parts.Doc.Replies[i]
		if r.Off {
			continue
		}
		b.at[r.Moment] = append(b.at[r.Moment], i)
		r.When.Each(func(c *activity.Condition) {
			if c.Piece != nil {
				b.pieces[c] = b.parts.Picks(*c.Piece)
			}
		})
	}
	return b
}

// Any reports whether there are replies for the moment at all.
func (b *Book) Any(moment activity.Moment) bool { return len(b.at[moment]) > 0 }

// Unlimited is Situation.Left where attempts have no limit.
const Unlimited = -1

// Placement is what has just been done with a piece.
type Placement struct {
	Piece, Target int
	Result        placing.Effect // placed, kept or refused
	Right         bool           // as it was judged there
}

// Situation is what conditions look at.
type Situation struct {
	Moment        activity.Moment
	Arrangement   *placing.Arrangement
	Judgement     *marks.Judgement // of the arrangement
	Placement     *Placement       // at the moment placed
	Dealt         func(piece int) bool
	Attempt, Left int
}

// Tried is a reply that was looked at, and why it was given or not.
type Tried struct {
	Reply string `json:"reply"`
	Given bool   `json:"given"`
	Facts []Fact `json:"facts"`
}

// Fact is one condition that was looked at: where it stands within when (a JSON
// pointer), whether it holds, and the value found.
type Fact struct {
	At    string `json:"at"`
	Holds bool   `json:"holds"`
	Form  string `json:"form"`
	Value string `json:"value"`
	// Decides says that this is a reason why the reply is given, or not: what all facts
	// that decide come to is not changed by any of the others.
	Decides bool `json:"decides"`
	// Said is what is so, in words: that the condition holds, or that it does not.
	Said message.Sentence `json:"said"`
}

// Given lists the numbers of the replies that are given. why is called with each
// that was tried, unless it is nil. Cost: O(conditions).
func (b *Book) Given(s Situation, why func(Tried)) []int {
	var given []int
	for _, i := range b.at[s.Moment] {
		r := &b.parts.Doc.Replies[i]
		look := looker{Book: b, s: &s}
		if why != nil {
			look.facts = []Fact{}
		}
		holds := r.When == nil || look.holds(r.When, "")
		if why != nil {
			for _, k := range look.decisive {
				look.facts[k].Decides = true
			}
			why(Tried{r.ID, holds, look.facts})
		}
		if holds {
			given = append(given, i)
			if !r.Also {
				break
			}
		}
	}
	return given
}

// looker evaluates conditions, and writes facts down where the list is not nil.
type looker struct {
	*Book
	s        *Situation
	facts    []Fact
	decisive []int // the facts that decided the condition looked at last
}

func (l *looker) holds(c *activity.Condition, at string) bool {
	// decided finds the first of a list that comes out as by says, which alone decides
	// it; where there is none, all of them do.
	decided := func(list []activity.Condition, name string, by bool) bool {
		var all []int
		for i := range list {
			if l.holds(&list[i], at+"/"+name+"/"+strconv.Itoa(i)) == by {
				return true
			}
			all = append(all, l.decisive...)
		}
		l.decisive = all
		return false
	}
	switch {
	case c.All != nil:
		return !decided(c.All, "all", false)
	case c.Any != nil:
		return decided(c.Any, "any", true)
	case c.None != nil:
		return !decided(c.None, "none", true)
	}
	form, value, holds := l.fact(c)
	if l.facts != nil {
		l.decisive = []int{len(l.facts)}
		l.facts = append(l.facts, Fact{At: at, Holds: holds, Form: form, Value: fmt.Sprint(value), Said: l.said(c, form, value, holds)})
	}
	return holds
}

// said tells that a condition holds, or that it does not and what was found instead.
func (l *looker) said(c *activity.Condition, form string, value any, holds bool) message.Sentence {
	switch {
	case holds:
		return say.Condition(l.parts.Doc, c)
	case (form == "piece" || form == "onto" || form == "result") && l.s.Placement == nil:
		return message.Say(english, "nothing-put-down", nil)
	case form == "outcome" || form == "result":
		return say.Not(l.parts.Doc, c)
	}
	found, ok := value.(message.Sentence)
	if !ok {
		found = message.Say(english, "found", message.P{"n": fmt.Sprint(value)})
	}
	return message.Say(english, "not-so", message.P{"not": say.Not(l.parts.Doc, c), "found": found})
}

// fact looks at a condition that is no list: its form, the value found, whether it
// holds.
func (l *looker) fact(c *activity.Condition) (form string, value any, holds bool) {
	seen := l.s.Judgement.Seen()
	span := func(form string, r *activity.Range, n activity.U) (string, any, bool) { return form, n, r.Holds(n) }
	whole := func(n int) activity.U { return activity.U(n) * 100 }
	switch {
	case c.Piece != nil, c.Onto != nil, c.Result != "":
		return l.placement(c)
	case c.Item != "":
		item, _ := l.parts.Item(c.Item)
		var value message.Sentence
		if l.facts != nil {
			value = l.whereabouts(item)
		}
		first := l.parts.First[item]
		pieces := l.s.Arrangement.Where[first : first+l.parts.Doc.Items[item].Copies]
		if c.In != "" {
			target, _ := l.parts.Target(c.In)
			return "item", value, slices.Contains(pieces, target)
		}
		for k := range pieces {
			if l.is(first+k) == c.Is {
				return "item", value, true
			}
		}
		return "item", value, false
	case c.Target != "":
		target, _ := l.parts.Target(c.Target)
		state := activity.Is(seen.Targets[target].String())
		return "target", l.found("state/" + string(state)), state == c.Is
	case c.Outcome != "":
		return "outcome", l.s.Judgement.Outcome, l.s.Judgement.Outcome == c.Outcome
	case c.RightCount != nil:
		return span("rightCount", c.RightCount, whole(seen.Rights))
	case c.WrongCount != nil:
		return span("wrongCount", c.WrongCount, whole(seen.Wrongs))
	case c.MissingCount != nil:
		return span("missingCount", c.MissingCount, whole(seen.Missings))
	case c.HomeCount != nil:
		home := 0
		for p := range l.parts.Pieces {
			if l.is(p) == activity.IsHome {
				home++
			}
		}
		return span("homeCount", c.HomeCount, whole(home))
	case c.Percent != nil:
		return span("percent", c.Percent, l.s.Judgement.Percent)
	case c.Attempt != nil:
		return span("attempt", c.Attempt, whole(l.s.Attempt))
	case c.Left != nil && l.s.Left == Unlimited:
		return "left", l.found("no-limit"), c.Left.Max == nil
	case c.Left != nil:
		return span("left", c.Left, whole(l.s.Left))
	case c.Solution != nil:
		n := l.s.Judgement.Solution
		var value message.Sentence
		if l.facts != nil {
			value = say.SolutionName(l.parts.Doc, n)
		}
		return "solution", value, n == *c.Solution
	}
	return "", "", false
}

// found says what was found, where somebody reads it: learners' moves are judged without.
func (l *looker) found(code string) message.Sentence {
	if l.facts == nil {
		return message.Sentence{}
	}
	return message.Say(english, code, nil)
}

func (l *looker) placement(c *activity.Condition) (form string, value any, holds bool) {
	p := l.s.Placement
	switch {
	case c.Piece != nil:
		form = "piece"
	case c.Onto != nil:
		form = "onto"
	case c.Result != "":
		form = "result"
	}
	if p == nil {
		return form, "no placement", false
	}
	switch form {
	case "piece":
		it := l.parts.ItemOf(p.Piece)
		return form, cmp.Or(it.Name, it.ID), l.pieces[c][l.parts.Pieces[p.Piece].Item]
	case "onto":
		t := &l.parts.Doc.Targets[p.Target]
		return form, cmp.Or(t.Name, t.ID), slices.Contains(c.Onto, t.ID)
	}
	judged := activity.ResultWrong
	if p.Right {
		judged = activity.ResultRight
	}
	switch p.Result {
	case placing.EffectRefused:
		return form, p.Result, c.Result == activity.ResultRefused
	case placing.EffectKept:
		return form, "kept, " + string(judged), c.Result == activity.ResultKept || c.Result == judged
	}
	return form, judged, c.Result == judged
}

// is says what a piece is: home (dealt, in no target and not loose), right, wrong,
// or nothing of these.
func (l *looker) is(piece int) activity.Is {
	switch where := l.s.Arrangement.Where[piece]; {
	case where == activity.Home && (l.s.Dealt == nil || l.s.Dealt(piece)):
		return activity.IsHome
	case where < 0:
		return ""
	case l.s.Judgement.Seen().Right[piece]:
		return activity.IsRight
	}
	return activity.IsWrong
}

// whereabouts tells of an item's pieces where they are and what they are.
func (l *looker) whereabouts(item int) message.Sentence {
	var each []message.Sentence
	for k := range l.parts.Doc.Items[item].Copies {
		p := l.parts.First[item] + k
		switch where := l.s.Arrangement.Where[p]; where {
		case activity.Home:
			each = append(each, message.Say(english, "where/home", nil))
		case activity.Loose:
			each = append(each, message.Say(english, "where/loose", nil))
		default:
			t := &l.parts.Doc.Targets[where]
			each = append(each, message.Say(english, "where/"+string(l.is(p)), message.P{"target": cmp.Or(t.Name, t.ID)}))
		}
	}
	return message.List(message.ListPlain, each)
}

// Holds reports whether one of the document's conditions holds.
func (b *Book) Holds(c *activity.Condition, s Situation) bool {
	look := looker{Book: b, s: &s}
	return look.holds(c, "")
}
