// Package say has what is said of a document to its author: what a key means, when a reply
// is given, what differs between two revisions.
package say

import (
	"cmp"
	"fmt"
	"slices"
	"strings"

	"keenmagpie/core/activity"
)

// What the key says, in words for its author.

// names lists up to so many items by name.
func names(d *activity.Doc, ids []string) string {
	const most = 5
	var list []string
	for i, id := range ids {
		if i == most && len(ids) > most+1 {
			list = append(list, fmt.Sprintf("%d more", len(ids)-most))
			break
		}
		if it := d.Item(id); it != nil {
			id = cmp.Or(it.Name, id)
		}
		list = append(list, id)
	}
	return And(list, "and")
}

// selected says which items a selector picks: "everything tagged brakes but Lever".
func selected(d *activity.Doc, s activity.Selector) string {
	var parts []string
	if s.All {
		parts = append(parts, "everything")
	} else {
		if len(s.Tags) > 0 {
			parts = append(parts, "everything tagged "+And(s.Tags, "or"))
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
	text := And(parts, "and")
	switch {
	case text == "":
		return "nothing"
	case len(but) > 0:
		return text + " but " + names(d, but)
	}
	return text
}

// amount says how many a need asks for: "exactly 2".
func amount(n *activity.Need) string {
	switch {
	case n.Max == nil && n.Min == 0:
		return "any number"
	case n.Max == nil:
		return fmt.Sprintf("at least %d", n.Min)
	case *n.Max == n.Min:
		return fmt.Sprintf("exactly %d", n.Min)
	case n.Min == 0:
		return fmt.Sprintf("at most %d", *n.Max)
	}
	return fmt.Sprintf("%d to %d", n.Min, *n.Max)
}

// Target says in a sentence or two what a target lets in, what is right there
// under a solution, what it needs, and how much it holds.
func Target(d *activity.Doc, solution int, id string) string {
	t := d.Target(id)
	if t == nil {
		return ""
	}
	s := &d.Key.Solutions[solution]
	right, ok := s.Right[id]
	said := cmp.Or(t.Name, id) + " accepts " + selected(d, t.Lets)
	if ok {
		said += "; correct here: " + selected(d, right)
	} else {
		said += "; nothing is correct here"
	}
	var needs []string
	for i := range s.Needs {
		if n := &s.Needs[i]; n.Target == id {
			needs = append(needs, amount(n)+" of "+selected(d, n.Of))
		}
	}
	if len(needs) > 0 {
		said += "; required: " + And(needs, "and")
	}
	for i := range s.Orders {
		if s.Orders[i].Target == id {
			said += "; in order"
		}
	}
	if t.Holds > 0 {
		full := map[activity.WhenFull]string{activity.WhenFullRefuse: "rejects more", activity.WhenFullOust: "returns the earlier piece when full", activity.WhenFullTrade: "swaps pieces when full"}
		said += fmt.Sprintf("; holds %d, %s", t.Holds, full[t.WhenFull])
	}
	return said + "."
}

// Item says where an item is right under a solution, and why.
func Item(d *activity.Doc, solution int, id string) string {
	it := d.Item(id)
	if it == nil {
		return ""
	}
	s := &d.Key.Solutions[solution]
	var right, away []string
	for i := range d.Targets {
		t := &d.Targets[i]
		if s.RightCell(t, it) {
			right = append(right, fmt.Sprintf("%d %s", i+1, cmp.Or(t.Name, t.ID)))
		}
		if !t.LetsIn(it) {
			away = append(away, fmt.Sprintf("%d %s", i+1, cmp.Or(t.Name, t.ID)))
		}
	}
	name := cmp.Or(it.Name, id)
	said := name + " belongs nowhere"
	if len(right) > 0 {
		said = name + " is correct in " + And(right, "and") + "; " + Must(d, solution, it)
	}
	if len(away) > 0 && len(away) <= 4 {
		said += "; not accepted in " + And(away, "and")
	}
	return said + "."
}

// Cell says what an item is in a target under a solution, and why: by a tag, by
// itself, by default.
func Cell(d *activity.Doc, solution int, item, target string) string {
	it, t := d.Item(item), d.Target(target)
	if it == nil || t == nil {
		return ""
	}
	s := &d.Key.Solutions[solution]
	sel, ok := s.Right[target]
	let := "accepted" + why(t.Lets, it)
	if t.Lets.All && len(t.Lets.Except) == 0 {
		let = "accepted by default"
	}
	switch {
	case !t.LetsIn(it) && ok && sel.Selects(it):
		return "correct" + why(sel, it) + ", but not accepted" + why(t.Lets, it) + ", so it does not count"
	case !t.LetsIn(it):
		return "not accepted" + why(t.Lets, it)
	case !ok || !sel.Selects(it):
		if ok && slices.Contains(sel.Except, item) {
			return "not correct, as an exception; " + let
		}
		return "not correct; " + let
	}
	said := "correct" + why(sel, it)
	for i := range s.Needs {
		if n := &s.Needs[i]; n.Target == target && n.Of.Selects(it) {
			said += fmt.Sprintf(", counted by the need for %s of %s", amount(n), selected(d, n.Of))
		}
	}
	return said + "; " + let
}

// why says by what a selector picks an item, or does not.
func why(s activity.Selector, it *activity.Item) string {
	switch {
	case slices.Contains(s.Except, it.ID):
		return ", as an exception"
	case s.All:
		return " with everything"
	}
	for _, tag := range it.Tags {
		if slices.Contains(s.Tags, tag) {
			return " by its tag " + tag
		}
	}
	if slices.Contains(s.Items, it.ID) {
		return " (set for this item)"
	}
	return ""
}

// Must says whether an item must be placed under a solution: "all 3, in either",
// "1 of 3" (it is counted with others), "may stay", "belongs nowhere".
func Must(d *activity.Doc, solution int, it *activity.Item) string {
	s := &d.Key.Solutions[solution]
	places := 0
	var counted []string

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
		if by == nil {

			continue
		}
		of := 0
		for j := range d.Items {
			if x := &d.Items[j]; by.Of.Selects(x) && s.RightCell(t, x) {
				of += x.Copies
			}
		}
		if by.Min > 0 || by.Max != nil {
			counted = append(counted, fmt.Sprintf("%s of %d", strings.TrimPrefix(amount(by), "exactly "), of))
		}
	}
	switch {
	case places == 0:
		return "belongs nowhere"
	case len(counted) == 1:
		return counted[0]
	case len(counted) > 1:
		for _, c := range counted {
			if c != counted[0] {
				return fmt.Sprintf("counted in %d targets", len(counted))
			}
		}
		return fmt.Sprintf("%s, in each of %d", counted[0], len(counted))
	case d.Governed(s, it):
		return "may stay"
	}
	word := "yes"
	if it.Copies > 1 {
		word = fmt.Sprintf("all %d", it.Copies)
	}
	switch places {
	case 1:
		return word
	case 2:
		return word + ", in either"
	}
	return fmt.Sprintf("%s, in any of %d", word, places)
}

func containsAny(list, of []string) bool {
	for _, x := range of {
		if slices.Contains(list, x) {
			return true
		}
	}
	return false
}
