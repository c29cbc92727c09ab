// Package say has what is said of a document to its author: what a key means, when a reply
// is given, what differs between two revisions. Each is a sentence that is made of others,
// each with its code, so that it can be said in another language clause by clause.
package say

import (
	"cmp"
	"fmt"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// What the key says, in words for its author.

func itemName(d *activity.Doc, id string) string {
	if it := d.Item(id); it != nil {
		return cmp.Or(it.Name, id)
	}
	return id
}

// selected says which items a selector picks: "everything tagged brakes but Lever".
func selected(d *activity.Doc, s activity.Selector) message.Sentence {
	var parts []message.Sentence
	if s.All {
		parts = append(parts, said("everything", nil))
	} else {
		if len(s.Tags) > 0 {
			parts = append(parts, said("everything-tagged", message.P{"tags": message.List(message.ListOr, s.Tags)}))
		}
		var extra []string
		for _, id := range s.Items {
			if it := d.Item(id); it != nil && !containsAny(it.Tags, s.Tags) {
				extra = append(extra, id)
			}
		}
		if len(extra) > 0 {
			parts = append(parts, names(d, extra))
		}
	}
	var but []string
	for _, id := range s.Except {
		if it := d.Item(id); it != nil && (s.All || containsAny(it.Tags, s.Tags)) {
			but = append(but, id)
		}
	}
	these := message.List(message.ListAnd, parts)
	switch {
	case these.Message == "":
		return said("nothing", nil)
	case len(but) > 0:
		return said("but", message.P{"these": these, "those": names(d, but)})
	}
	return these
}

// amount says how many a need asks for: "exactly 2".
func amount(n *activity.Need) message.Sentence {
	switch {
	case n.Max == nil && n.Min == 0:
		return said("need/any", nil)
	case n.Max == nil:
		return said("need/at-least", message.P{"n": n.Min})
	case *n.Max == n.Min:
		return said("need/exactly", message.P{"n": n.Min})
	case n.Min == 0:
		return said("need/at-most", message.P{"n": *n.Max})
	}
	return said("need/span", message.P{"from": n.Min, "to": *n.Max})
}

// need says a need: "exactly 2 of everything tagged brakes".
func need(d *activity.Doc, n *activity.Need) message.Sentence {
	return said("need", message.P{"amount": amount(n), "these": selected(d, n.Of)})
}

// Target says in a sentence or two what a target lets in, what is right there
// under a solution, what it needs, and how much it holds.
func Target(d *activity.Doc, solution int, id string) message.Sentence {
	t := d.Target(id)
	if t == nil {
		return message.Sentence{}
	}
	s := &d.Key.Solutions[solution]
	clauses := []message.Sentence{said("tell/accepts", message.P{"target": cmp.Or(t.Name, id), "these": selected(d, t.Lets)})}
	add := func(code string, params message.P) { clauses = append(clauses, said(code, params)) }
	if right, ok := s.Right[id]; ok {
		add("tell/correct", message.P{"these": selected(d, right)})
	} else {
		add("tell/nothing", nil)
	}
	var needs []message.Sentence
	for i := range s.Needs {
		if n := &s.Needs[i]; n.Target == id {
			needs = append(needs, need(d, n))
		}
	}
	if len(needs) > 0 {
		add("tell/required", message.P{"needs": message.List(message.ListAnd, needs)})
	}
	for i := range s.Orders {
		if s.Orders[i].Target == id {
			add("tell/in-order", nil)
		}
	}
	if t.Holds > 0 {
		full := map[activity.WhenFull]string{activity.WhenFullRefuse: "tell/holds", activity.WhenFullOust: "tell/holds-oust", activity.WhenFullTrade: "tell/holds-trade"}
		add(full[t.WhenFull], message.P{"n": t.Holds})
	}
	return told(clauses)
}

// told makes one sentence of clauses.
func told(clauses []message.Sentence) message.Sentence {
	return said("tell", message.P{"clauses": message.List(message.ListClauses, clauses)})
}

// Item says where an item is right under a solution, and why.
func Item(d *activity.Doc, solution int, id string) message.Sentence {
	it := d.Item(id)
	if it == nil {
		return message.Sentence{}
	}
	s := &d.Key.Solutions[solution]
	var right, away []string
	for i := range d.Targets {
		t := &d.Targets[i]
		numbered := fmt.Sprintf("%d %s", i+1, cmp.Or(t.Name, t.ID))
		if s.RightCell(t, it) {
			right = append(right, numbered)
		}
		if !t.LetsIn(it) {
			away = append(away, numbered)
		}
	}
	name := cmp.Or(it.Name, id)
	clauses := []message.Sentence{said("tell/nowhere", message.P{"item": name})}
	if len(right) > 0 {
		clauses = []message.Sentence{
			said("tell/belongs", message.P{"item": name, "targets": message.List(message.ListAnd, right)}),
			Must(d, solution, it)}
	}
	if len(away) > 0 && len(away) <= 4 {
		clauses = append(clauses, said("tell/not-accepted", message.P{"targets": message.List(message.ListAnd, away)}))
	}
	return told(clauses)
}

// Cell says what an item is in a target under a solution, and why: by a tag, by
// itself, by default.
func Cell(d *activity.Doc, solution int, item, target string) message.Sentence {
	it, t := d.Item(item), d.Target(target)
	if it == nil || t == nil {
		return message.Sentence{}
	}
	s := &d.Key.Solutions[solution]
	sel, ok := s.Right[target]
	accepted := said("cell/accepted", message.P{"why": why(t.Lets, it)})
	if t.Lets.All && len(t.Lets.Except) == 0 {
		accepted = said("cell/default", nil)
	}
	if !t.LetsIn(it) {
		accepted = said("cell/not-accepted", message.P{"why": why(t.Lets, it)})
		if ok && sel.Selects(it) {
			return said("cell/not-counted", message.P{"why": why(sel, it), "accepted": accepted})
		}
		return accepted
	}
	if !ok || !sel.Selects(it) {
		code := "cell/not"
		if ok && slices.Contains(sel.Except, item) {
			code = "cell/excepted"
		}
		return said(code, message.P{"accepted": accepted})
	}
	var needs []message.Sentence
	for i := range s.Needs {
		if n := &s.Needs[i]; n.Target == target && n.Of.Selects(it) {
			needs = append(needs, said("cell/need", message.P{"need": need(d, n)}))
		}
	}
	if len(needs) > 0 {
		return said("cell/needed", message.P{"why": why(sel, it), "needs": message.List(message.ListPlain, needs), "accepted": accepted})
	}
	return said("cell", message.P{"why": why(sel, it), "accepted": accepted})
}

// why says by what a selector picks an item, or does not.
func why(s activity.Selector, it *activity.Item) message.Sentence {
	switch {
	case slices.Contains(s.Except, it.ID):
		return said("why/exception", nil)
	case s.All:
		return said("why/all", nil)
	}
	for _, tag := range it.Tags {
		if slices.Contains(s.Tags, tag) {
			return said("why/tag", message.P{"tag": tag})
		}
	}
	if slices.Contains(s.Items, it.ID) {
		return said("why/item", nil)
	}
	return said("why", nil)
}

// Must says whether an item must be placed under a solution: "all 3, in either",
// "1 of 3" (it is counted with others), "may stay", "belongs nowhere".
func Must(d *activity.Doc, solution int, it *activity.Item) message.Sentence {
	s := &d.Key.Solutions[solution]
	places := 0
	var counted []message.Sentence
	for i := range d.Targets {
		t := &d.Targets[i]
		if !s.RightCell(t, it) {
			continue
		}
		places++
		by := (*activity.Need)(nil)
		for k := range s.Needs {
			if n := &s.Needs[k]; n.Target == t.ID && n.Of.Selects(it) {
				by = n
			}
		}
		if by == nil || by.Min == 0 && by.Max == nil {
			continue
		}
		of := 0
		for j := range d.Items {
			if x := &d.Items[j]; by.Of.Selects(x) && s.RightCell(t, x) {
				of += x.Copies
			}
		}
		many := amount(by)
		if by.Max != nil && *by.Max == by.Min {
			many = said("amount", message.P{"n": by.Min})
		}
		counted = append(counted, said("must/counted", message.P{"amount": many, "pieces": of}))
	}
	switch {
	case places == 0:
		return said("must/nowhere", nil)
	case len(counted) == 1:
		return counted[0]
	case len(counted) > 1:
		if slices.ContainsFunc(counted, func(c message.Sentence) bool { return c.Message != counted[0].Message }) {
			return said("must/counted-places", message.P{"places": len(counted)})
		}
		return said("must/counted-each", message.P{"counted": counted[0], "places": len(counted)})
	case d.Governed(s, it):
		return said("must/stay", nil)
	}
	switch places {
	case 1:
		return said("must", message.P{"n": it.Copies})
	case 2:
		return said("must/either", message.P{"n": it.Copies})
	}
	return said("must/any", message.P{"n": it.Copies, "places": places})
}

func containsAny(list, of []string) bool {
	for _, x := range of {
		if slices.Contains(list, x) {
			return true
		}
	}
	return false
}
