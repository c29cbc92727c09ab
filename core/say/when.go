package say

import (
	"cmp"
	"fmt"
	"strings"

	"keenmagpie/core/activity"
)

// Replies in words for their author: "When it is checked, Brakes is right and no
// attempt is left".

var moments = map[activity.Moment]string{
	activity.MomentOpened: "When it opens", activity.MomentPlaced: "When a piece is put down", activity.MomentChecked: "When it is checked",
	activity.MomentHinted: "When a hint is given", activity.MomentTimeUp: "When the time is up", activity.MomentDone: "When it is over",
	activity.MomentReview: "When it is looked at afterwards",
}

// When says in a sentence, without a full stop, when a reply is given.
func When(d *activity.Doc, r *activity.Reply) string {
	only := Only(d, r)
	switch {
	case only == "":
		return moments[r.Moment]
	case r.Moment == activity.MomentPlaced:
		return only
	}
	return moments[r.Moment] + " and " + only
}

// Only says what must hold at its moment for a reply to be given; of a placement
// it is the whole sentence, and where it is always given nothing.
func Only(d *activity.Doc, r *activity.Reply) string {
	if r.When == nil {
		return ""
	}
	facts, said := r.Asks(), ""
	if r.Moment == activity.MomentPlaced {
		said, facts = placed(d, facts)
	}
	var rest []string
	for i := range facts {
		rest = append(rest, Condition(d, &facts[i]))
	}
	switch {
	case len(rest) == 0:
		return said
	case said != "":
		return said + " and " + And(rest, "and")
	}
	return And(rest, "and")
}

// placed tells what is said of the placement itself, and leaves the rest.
func placed(d *activity.Doc, facts []activity.Condition) (said string, rest []activity.Condition) {
	piece, onto, result := "a piece", "", activity.Result("")
	for i := range facts {
		c := &facts[i]
		switch {
		case c.Piece != nil && piece == "a piece":
			piece = onePiece(d, *c.Piece)
		case c.Onto != nil && onto == "":
			onto = And(Targets(d, c.Onto), "or")
		case c.Result != "" && result == "":
			result = c.Result
		default:
			rest = append(rest, *c)
		}
	}
	to := " is put down"
	if onto != "" {
		to = " is put into " + onto
	}
	switch result {
	case activity.ResultRight:
		to += " and is correct there"
	case activity.ResultWrong:
		to += " and is wrong there"
	case activity.ResultKept:
		to += " where it stood before"
	case activity.ResultRefused:
		if to = " is not accepted"; onto != "" {
			to += " by " + onto
		}
	}
	return "When " + piece + to, rest
}

// onePiece says which piece a selector means: "Bell or a piece tagged brakes".
func onePiece(d *activity.Doc, s activity.Selector) string {
	if s.All {
		s.Items, s.Tags = nil, nil
	}
	var parts []string
	for _, id := range s.Items {
		parts = append(parts, names(d, []string{id}))
	}
	if len(s.Tags) > 0 {
		parts = append(parts, "a piece tagged "+And(s.Tags, "or"))
	}
	said := And(parts, "or")
	if s.All {
		said = "any piece"
	} else if said == "" {
		said = "no piece"
	}
	if len(s.Except) > 0 {
		said += " but " + names(d, s.Except)
	}
	return said
}

// Targets are targets by name.
func Targets(d *activity.Doc, ids []string) []string {
	var out []string
	for _, id := range ids {
		if t := d.Target(id); t != nil {
			id = cmp.Or(t.Name, id)
		}
		out = append(out, id)
	}
	return out
}

// Condition says a condition as a clause: "Chain is in Brakes".
func Condition(d *activity.Doc, c *activity.Condition) string { return clause(d, c, false) }

// Not says that a condition does not hold.
func Not(d *activity.Doc, c *activity.Condition) string { return clause(d, c, true) }

// SolutionName is what a solution is called: by its name, else by its number from 1.
func SolutionName(d *activity.Doc, n int) string {
	if n < len(d.Key.Solutions) && d.Key.Solutions[n].Name != "" {
		return d.Key.Solutions[n].Name
	}
	return fmt.Sprintf("solution %d", n+1)
}

// clause says a condition, or that it does not hold.
func clause(d *activity.Doc, c *activity.Condition, not bool) string {
	is := func(yes, no string) string {
		if not {
			return no
		}
		return yes
	}
	target := func(id string) string { return Targets(d, []string{id})[0] }
	list := func(conditions []activity.Condition, not bool, word string) string {
		var out []string
		for i := range conditions {
			said := clause(d, &conditions[i], not)
			if len(conditions) > 1 && isList(&conditions[i]) > 1 {
				said = "(" + said + ")"
			}
			out = append(out, said)
		}
		return And(out, word)
	}
	switch {
	case c.All != nil:
		if len(c.All) == 0 {
			return is("always", "never")
		}
		return list(c.All, not, is("and", "or"))
	case c.Any != nil:
		if len(c.Any) == 0 {
			return is("never", "always")
		}
		return list(c.Any, not, is("or", "and"))
	case c.None != nil:
		if len(c.None) == 0 {
			return is("always", "never")
		}
		return list(c.None, !not, is("and", "or"))
	case c.Piece != nil:
		return is("the piece is ", "the piece is not ") + onePiece(d, *c.Piece)
	case c.Onto != nil:
		return is("the target is ", "the target is not ") + And(Targets(d, c.Onto), "or")
	case c.Result != "":
		words := map[activity.Result][2]string{activity.ResultRight: {"it is correct there", "it is not correct there"}, activity.ResultWrong: {"it is wrong there", "it is not wrong there"},
			activity.ResultRefused: {"it is not accepted", "it is accepted"}, activity.ResultKept: {"it stood there before", "it did not stand there before"}}[c.Result]
		return is(words[0], words[1])
	case c.Item != "" && c.In != "":
		if it := d.Item(c.Item); it != nil && it.Copies > 1 {
			return is("a piece of ", "no piece of ") + names(d, []string{c.Item}) + " is in " + target(c.In)
		}
		return names(d, []string{c.Item}) + is(" is in ", " is not in ") + target(c.In)
	case c.Item != "":
		state := map[activity.Is]string{activity.IsHome: "at its start", activity.IsRight: "correct", activity.IsWrong: "wrong"}[c.Is]
		if it := d.Item(c.Item); it != nil && it.Copies > 1 {
			return is("a piece of ", "no piece of ") + names(d, []string{c.Item}) + " is " + state
		}
		return names(d, []string{c.Item}) + is(" is ", " is not ") + state
	case c.Target != "":
		words := map[activity.Is][2]string{activity.IsRight: {" is correct", " is not correct"}, activity.IsPart: {" is partly correct", " is not partly correct"},
			activity.IsWrong: {" has nothing correct in it", " is not all wrong"}, activity.IsEmpty: {" is empty", " is not empty"}}[c.Is]
		return target(c.Target) + is(words[0], words[1])
	case c.Outcome != "":
		words := map[activity.Outcome][2]string{activity.OutcomeRight: {"everything is correct", "not everything is correct"}, activity.OutcomePart: {"some of it is correct", "it is not partly correct"},
			activity.OutcomeWrong: {"nothing is correct", "something is correct"}}[c.Outcome]
		return is(words[0], words[1])
	case c.Solution != nil:
		return is("it is closest to ", "it is not closest to ") + SolutionName(d, *c.Solution)
	case c.Attempt != nil:
		return attempt(c.Attempt, not)
	case c.Left != nil:
		return left(c.Left, not)
	}
	for _, x := range []struct {
		r         *activity.Range
		one, many string
		is        [2]string
	}{
		{c.RightCount, "piece", "pieces", [2]string{"correct", "correct"}}, {c.WrongCount, "piece", "pieces", [2]string{"wrong", "wrong"}},
		{c.MissingCount, "item", "items", [2]string{"missing", "missing"}}, {c.HomeCount, "piece", "pieces", [2]string{"at its start", "at their start"}},
	} {
		if x.r == nil {
			continue
		}
		if one := only(x.r); one != nil && *one == 100 {
			return fmt.Sprintf("%s %s is %s", is("1", "not exactly 1"), x.one, x.is[0])
		} else if one != nil && *one == 0 && !not {
			return fmt.Sprintf("no %s is %s", x.one, x.is[0])
		}
		return fmt.Sprintf("%s %s are %s", span(x.r, not), x.many, x.is[1])
	}
	if c.Percent != nil {
		return "the score is " + span(c.Percent, not) + "%"
	}
	return ""
}

// isList is how many conditions a list of them has.
func isList(c *activity.Condition) int { return max(len(c.All), len(c.Any), len(c.None)) }

// only is the one number of a span, where there is one alone.
func only(r *activity.Range) *activity.U {
	if r.Min != nil && r.Max != nil && *r.Min == *r.Max {
		return r.Min
	}
	return nil
}

// span says a span of numbers: "2 to 3".
func span(r *activity.Range, not bool) string {
	said := "any number of"
	switch {
	case only(r) != nil:
		said = r.Min.String()
	case r.Min != nil && r.Max != nil:
		said = r.Min.String() + " to " + r.Max.String()
	case r.Min != nil:
		said = "at least " + r.Min.String()
	case r.Max != nil:
		said = "at most " + r.Max.String()
	}
	if not {
		return "not " + said
	}
	return said
}

func attempt(r *activity.Range, not bool) string {
	is := "it is "
	if not {
		is = "it is not "
	}
	switch one := only(r); {
	case one != nil:
		if name, ok := map[activity.U]string{100: "first", 200: "second", 300: "third"}[*one]; ok {
			return is + "the " + name + " attempt"
		}
		return is + "attempt " + one.String()
	case r.Min != nil && r.Max != nil:
		return is + "attempt " + r.Min.String() + " to " + r.Max.String()
	case r.Min != nil:
		return is + "attempt " + r.Min.String() + " or a later one"
	case r.Max != nil:
		return is + "attempt " + r.Max.String() + " or an earlier one"
	}
	return is + "any attempt"
}

func left(r *activity.Range, not bool) string {
	none := r.Max != nil && *r.Max == 0
	some := r.Min != nil && *r.Min == 100 && r.Max == nil
	switch {
	case none && !not, some && not:
		return "no attempt is left"
	case some, none:
		return "an attempt is left"
	}
	if one := only(r); one != nil && *one == 100 && !not {
		return "1 attempt is left"
	}
	return strings.TrimSpace(span(r, not) + " attempts are left")
}

// Called names a reply as its author knows it: by its first words, else by when it
// is given.
func Reply(d *activity.Doc, r *activity.Reply) string {
	words := strings.Fields(r.Say.Text)
	if len(words) == 0 {
		return "“" + When(d, r) + "”"
	}
	said := strings.Join(words[:min(len(words), 6)], " ")
	if len(words) > 6 {
		said += " …"
	}
	return "“" + said + "”"
}
