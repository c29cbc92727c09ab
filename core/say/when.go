package say

import (
	"cmp"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// Replies in words for their author: "When it is checked, Brakes is right and no
// attempt is left".

// When says in a sentence, without a full stop, when a reply is given.
func When(d *activity.Doc, r *activity.Reply) message.Sentence {
	only := Only(d, r)
	switch {
	case only.Message == "":
		return said("moment/"+string(r.Moment), nil)
	case r.Moment == activity.MomentPlaced:
		return only
	}
	return said("when", message.P{"moment": said("moment/"+string(r.Moment), nil), "only": only})
}

// Only says what must hold at its moment for a reply to be given; of a placement
// it is the whole sentence, and where it is always given nothing.
func Only(d *activity.Doc, r *activity.Reply) message.Sentence {
	if r.When == nil {
		return message.Sentence{}
	}
	facts := r.Asks()
	var put message.Sentence
	if r.Moment == activity.MomentPlaced {
		put, facts = placed(d, facts)
	}
	var rest []message.Sentence
	for i := range facts {
		rest = append(rest, Condition(d, &facts[i]))
	}
	switch {
	case len(rest) == 0:
		return put
	case put.Message != "":
		return said("when", message.P{"moment": put, "only": message.List(message.ListAnd, rest)})
	}
	return message.List(message.ListAnd, rest)
}

// placed tells what is said of the placement itself, and leaves the rest.
func placed(d *activity.Doc, facts []activity.Condition) (put message.Sentence, rest []activity.Condition) {
	piece, onto, result := (*activity.Selector)(nil), []string(nil), activity.Result("")
	for i := range facts {
		c := &facts[i]
		switch {
		case c.Piece != nil && piece == nil:
			piece = c.Piece
		case c.Onto != nil && onto == nil:
			onto = c.Onto
		case c.Result != "" && result == "":
			result = c.Result
		default:
			rest = append(rest, *c)
		}
	}
	code, params := "placed", message.P{"piece": said("a-piece", nil)}
	if piece != nil {
		params["piece"] = onePiece(d, *piece)
	}
	if len(onto) > 0 {
		code, params["targets"] = "placed-into", message.List(message.ListOr, Targets(d, onto))
	}
	if result != "" {
		code += "/" + string(result)
	}
	return said(code, params), rest
}

// onePiece says which piece a selector means: "Bell or a piece tagged brakes".
func onePiece(d *activity.Doc, s activity.Selector) message.Sentence {
	if s.All {
		s.Items, s.Tags = nil, nil
	}
	var parts []any
	for _, id := range s.Items {
		parts = append(parts, itemName(d, id))
	}
	if len(s.Tags) > 0 {
		parts = append(parts, said("tagged", message.P{"tags": message.List(message.ListOr, s.Tags)}))
	}
	these := message.List(message.ListOr, parts)
	if s.All {
		these = said("any-piece", nil)
	} else if len(parts) == 0 {
		these = said("no-piece", nil)
	}
	if len(s.Except) > 0 {
		return said("but", message.P{"these": these, "those": names(d, s.Except)})
	}
	return these
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
func Condition(d *activity.Doc, c *activity.Condition) message.Sentence { return clause(d, c, false) }

// Not says that a condition does not hold.
func Not(d *activity.Doc, c *activity.Condition) message.Sentence { return clause(d, c, true) }

// SolutionName is what a solution is called: by its name, else by its number from 1.
func SolutionName(d *activity.Doc, n int) message.Sentence {
	if n < len(d.Key.Solutions) && d.Key.Solutions[n].Name != "" {
		return said("solution-name/own", message.P{"name": d.Key.Solutions[n].Name})
	}
	return said("solution-name", message.P{"n": n + 1})
}

// clause says a condition, or that it does not hold.
func clause(d *activity.Doc, c *activity.Condition, not bool) message.Sentence {
	is := func(code string, params message.P) message.Sentence {
		if not {
			code = "not-" + code
		}
		return said(code, params)
	}
	switch {
	case c.All != nil:
		return clauses(d, c.All, not, !not, not)
	case c.Any != nil:
		return clauses(d, c.Any, not, not, !not)
	case c.None != nil:
		return clauses(d, c.None, !not, !not, not)
	case c.Piece != nil:
		return is("piece", message.P{"piece": onePiece(d, *c.Piece)})
	case c.Onto != nil:
		return is("target", message.P{"targets": message.List(message.ListOr, Targets(d, c.Onto))})
	case c.Result != "":
		return is("result/"+string(c.Result), nil)
	case c.Item != "":
		code, state := "item/", string(c.Is)
		if it := d.Item(c.Item); it != nil && it.Copies > 1 {
			code = "pieces/"
		}
		params := message.P{"item": itemName(d, c.Item)}
		if c.In != "" {
			state, params["target"] = "in", Targets(d, []string{c.In})[0]
		}
		return is(code+state, params)
	case c.Target != "":
		return is("target-is/"+string(c.Is), message.P{"target": Targets(d, []string{c.Target})[0]})
	case c.Outcome != "":
		return is("outcome/"+string(c.Outcome), nil)
	case c.Solution != nil:
		return is("closest", message.P{"solution": SolutionName(d, *c.Solution)})
	case c.Attempt != nil:
		code, params := attempt(c.Attempt)
		return is(code, params)
	case c.Left != nil:
		return left(c.Left, not)
	case c.RightCount != nil:
		return counted("rightCount", c.RightCount, not)
	case c.WrongCount != nil:
		return counted("wrongCount", c.WrongCount, not)
	case c.MissingCount != nil:
		return counted("missingCount", c.MissingCount, not)
	case c.HomeCount != nil:
		return counted("homeCount", c.HomeCount, not)
	case c.Percent != nil:
		return is("score", message.P{"amount": span(c.Percent)})
	}
	return message.Sentence{}
}

// clauses says a list of conditions, each of them or that it does not hold, joined by and or
// by or; an empty one holds always or never.
func clauses(d *activity.Doc, list []activity.Condition, not, and, never bool) message.Sentence {
	if len(list) == 0 && never {
		return said("never", nil)
	} else if len(list) == 0 {
		return said("always", nil)
	}
	var out []message.Sentence
	for i := range list {
		one := clause(d, &list[i], not)
		if len(list) > 1 && isList(&list[i]) > 1 {
			one = said("brackets", message.P{"said": one})
		}
		out = append(out, one)
	}
	if and {
		return message.List(message.ListAnd, out)
	}
	return message.List(message.ListOr, out)
}

// isList is how many conditions a list of them has.
func isList(c *activity.Condition) int { return max(len(c.All), len(c.Any), len(c.None)) }

// counted says how many there are of a kind.
func counted(kind string, r *activity.Range, not bool) message.Sentence {
	one := only(r)
	switch {
	case one != nil && *one == 0 && !not:
		return said(kind+"/no", nil)
	case one != nil && *one == 100:
		kind += "/one"
	}
	if not {
		kind = "not-" + kind
	}
	return said(kind, message.P{"amount": span(r)})
}

// only is the one number of a span, where there is one alone.
func only(r *activity.Range) *activity.U {
	if r.Min != nil && r.Max != nil && *r.Min == *r.Max {
		return r.Min
	}
	return nil
}

// span says a span of numbers: "2 to 3".
func span(r *activity.Range) message.Sentence {
	switch {
	case only(r) != nil:
		return said("amount", message.P{"n": r.Min.String()})
	case r.Min != nil && r.Max != nil:
		return said("amount/span", message.P{"from": r.Min.String(), "to": r.Max.String()})
	case r.Min != nil:
		return said("amount/at-least", message.P{"n": r.Min.String()})
	case r.Max != nil:
		return said("amount/at-most", message.P{"n": r.Max.String()})
	}
	return said("amount/any", nil)
}

func attempt(r *activity.Range) (code string, params message.P) {
	switch one := only(r); {
	case one != nil:
		if name, ok := map[activity.U]string{100: "first", 200: "second", 300: "third"}[*one]; ok {
			return "attempt/" + name, nil
		}
		return "attempt", message.P{"n": one.String()}
	case r.Min != nil && r.Max != nil:
		return "attempt/span", message.P{"from": r.Min.String(), "to": r.Max.String()}
	case r.Min != nil:
		return "attempt/from", message.P{"n": r.Min.String()}
	case r.Max != nil:
		return "attempt/to", message.P{"n": r.Max.String()}
	}
	return "attempt/any", nil
}

func left(r *activity.Range, not bool) message.Sentence {
	none := r.Max != nil && *r.Max == 0
	some := r.Min != nil && *r.Min == 100 && r.Max == nil
	one := only(r)
	switch {
	case none && !not, some && not:
		return said("left/no", nil)
	case some, none:
		return said("left/some", nil)
	case one != nil && *one == 100 && !not:
		return said("left/one", nil)
	case not:
		return said("not-left", message.P{"amount": span(r)})
	}
	return said("left", message.P{"amount": span(r)})
}

// Reply names a reply as its author knows it: by its first words, else by when it is given.
func Reply(d *activity.Doc, r *activity.Reply) message.Sentence {
	words := strings.Fields(r.Say.Text)
	if len(words) == 0 {
		return said("called/when", message.P{"when": When(d, r)})
	}
	first := strings.Join(words[:min(len(words), 6)], " ")
	if len(words) > 6 {
		first += " …"
	}
	return said("called", message.P{"words": first})
}
