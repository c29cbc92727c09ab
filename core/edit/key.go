package edit

import (
	"fmt"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// Acts on the key. Each gives the changed document and leaves d as it is; what had to
// go with it is said in words. All of them keep orders sound: an order names the
// items that are right in its lane, and goes where it can no longer hold.

// TagRight makes everything that bears a tag right in a target under a solution, by
// the tag itself, so that a later item with it follows; or takes that back. Items
// that were named one by one, or excepted, follow the tag from then on.
func TagRight(d *activity.Doc, solution int, tag, target string, on bool) (out *activity.Doc, lost []message.Sentence) {
	out = d.Clone()
	s := &out.Key.Solutions[solution]
	t := out.Target(target)
	if t == nil {
		return out, nil
	}
	tagged := func(id string) bool { it := out.Item(id); return it != nil && slices.Contains(it.Tags, tag) }
	change := func(sel activity.Selector) activity.Selector {
		sel.Tags = slices.DeleteFunc(slices.Clone(sel.Tags), func(x string) bool { return x == tag })
		if !on {
			return sel
		}
		sel.Items = slices.DeleteFunc(slices.Clone(sel.Items), tagged)
		sel.Except = slices.DeleteFunc(slices.Clone(sel.Except), tagged)
		if !sel.All {
			sel.Tags = append(sel.Tags, tag)
		}
		return sel
	}
	right(s, target, change(s.Right[target]))
	if on {
		t.Lets = change(t.Lets)
	}
	return out, settle(out)
}

// right sets what is right in a target.
func right(s *activity.Solution, target string, sel activity.Selector) {
	if !sel.All && len(sel.Items) == 0 && len(sel.Tags) == 0 {
		delete(s.Right, target)
		return
	}
	if s.Right == nil {
		s.Right = map[string]activity.Selector{}
	}
	s.Right[target] = sel
}

// Row is the targets in which an item is right.
type Row struct {
	Item    string   `json:"item"`
	Targets []string `json:"targets"`
}

// RightIn makes each item right in exactly the targets of its row under a
// solution.
func RightIn(d *activity.Doc, solution int, rows []Row) (out *activity.Doc, lost []message.Sentence) {
	out = d.Clone()
	return out, PutRight(out, solution, rows)
}

// PutRight is RightIn for a document that may be changed. Cost: O(rows × targets),
// and O(needs × items).
func PutRight(d *activity.Doc, solution int, rows []Row) (lost []message.Sentence) {
	s := &d.Key.Solutions[solution]
	for _, r := range rows {
		it := d.Item(r.Item)
		if it == nil {
			continue
		}
		for i := range d.Targets {
			t := &d.Targets[i]
			on := slices.Contains(r.Targets, t.ID)
			if s.RightCell(t, it) == on {
				continue
			}
			right(s, t.ID, s.Right[t.ID].With(it, on))
			if on {
				t.Lets = t.Lets.With(it, true)
			}
		}
	}
	return settle(d)
}

// How says how many are asked for: by number, or all of them, or any.
type How string

const (
	HowAll     How = "all"
	HowMay     How = "may" // any number, none included
	HowExactly How = "exactly"
	HowAtLeast How = "atLeast"
	HowAtMost  How = "atMost"
)

// Asking is how many of some pieces a target must have.
type Asking struct {
	How How `json:"how" one:"all|may|exactly|atLeast|atMost"`
	N   int `json:"n"`
}

// Ask says of items together how many of them each target must have: all of their
// pieces somewhere (no need), any number (may), or a number in each of the targets.
// Without targets, those where each item is right are meant. A number makes them right
// there as well.
func Ask(d *activity.Doc, solution int, items, targets []string, a Asking) (out *activity.Doc, lost []message.Sentence, err error) {
	out = d.Clone()
	s := &out.Key.Solutions[solution]
	given := len(targets) > 0
	for i := range out.Targets {
		t := &out.Targets[i]
		if given && !slices.Contains(targets, t.ID) {
			continue
		}
		var here []string
		for _, id := range items {
			it := out.Item(id)
			if it == nil {
				continue
			}
			if given && a.How != HowAll && a.How != HowMay && !s.RightCell(t, it) {
				right(s, t.ID, s.Right[t.ID].With(it, true))
				t.Lets = t.Lets.With(it, true)
			}
			if s.RightCell(t, it) {
				here = append(here, id)
			}
		}
		if len(here) == 0 {
			continue
		}
		if i := slices.IndexFunc(s.Orders, func(o activity.Order) bool { return o.Target == t.ID }); i >= 0 && a.How != HowAll {
			return nil, nil, Say("lane-needs-all", message.P{"target": targetName(t)})
		}
		uncounted(out, s, t, here)
		n := activity.Need{Target: t.ID, Of: activity.Selector{Items: here}, Min: a.N}
		switch a.How {
		case HowAll:
			continue
		case HowMay:
			n.Min = 0
		case HowExactly:
			n.Max = &a.N
		case HowAtMost:
			n.Min, n.Max = 0, &a.N
		case HowAtLeast:
		default:
			return nil, nil, fmt.Errorf("a need cannot be %q", a.How)
		}
		s.Needs = append(s.Needs, n)
	}
	return out, settle(out), nil
}

// uncounted takes items out of the needs of a target; needs that count nothing then
// go.
func uncounted(d *activity.Doc, s *activity.Solution, t *activity.Target, items []string) {
	s.Needs = slices.DeleteFunc(s.Needs, func(n activity.Need) bool { return n.Target == t.ID && !counts(d, s, t, n, items) })
	for k := range s.Needs {
		n := &s.Needs[k]
		for _, id := range items {
			if it := d.Item(id); n.Target == t.ID && n.Of.Selects(it) {
				n.Of = n.Of.With(it, false)
			}
		}
	}
}

// counts reports whether a need counts any item but these.
func counts(d *activity.Doc, s *activity.Solution, t *activity.Target, n activity.Need, but []string) bool {
	for i := range d.Items {
		if it := &d.Items[i]; n.Of.Selects(it) && s.RightCell(t, it) && !slices.Contains(but, it.ID) {
			return true
		}
	}
	return false
}

// SetNeeds sets all needs of a target. What two of them would count, the first
// does; one that counts nothing there and asks for nothing is left out.
func SetNeeds(d *activity.Doc, solution int, target string, needs []activity.Need) *activity.Doc {
	out := d.Clone()
	s := &out.Key.Solutions[solution]
	s.Needs = slices.DeleteFunc(s.Needs, func(n activity.Need) bool { return n.Target == target })
	t := out.Target(target)
	for _, n := range needs {
		n.Target = target
		if t != nil && (n.Min > 0 || counts(out, s, t, n, nil)) {
			s.Needs = append(s.Needs, n)
		}
	}
	settle(out)
	return out
}

// SetOrder sets the order of a lane, or with nil takes it away. With no tiers at
// all, the items that are right there are lined up as they stand in the document.
func SetOrder(d *activity.Doc, solution int, target string, order *activity.Order) (*activity.Doc, error) {
	out := d.Clone()
	s := &out.Key.Solutions[solution]
	s.Orders = slices.DeleteFunc(s.Orders, func(o activity.Order) bool { return o.Target == target })
	if order == nil {
		return out, nil
	}
	t := out.Target(target)
	if t == nil {
		return nil, fmt.Errorf("there is no target %q", target)
	}
	o := *order
	o.Target, t.Ordered = target, true
	names, why := orderable(out, s, t)
	if why != nil {
		return nil, *why
	}
	if len(names) == 0 {
		return nil, Say("nothing-correct", message.P{"target": targetName(t)})
	}
	s.Orders = append(s.Orders, o)
	settle(out)
	k := slices.IndexFunc(s.Orders, func(o activity.Order) bool { return o.Target == target })
	if k < 0 {
		return nil, Say("order-impossible", nil)
	}
	set := &s.Orders[k]
	if _, circle := set.Compile(set.Names()); circle != nil {
		words := make([]string, 0, len(circle)+1)
		for _, i := range append(circle, circle[0]) {
			words = append(words, itemName(out.Item(set.Names()[i])))
		}
		return nil, Say("circle", message.P{"items": strings.Join(words, " before ")})
	}
	if most := set.Most(); len(set.Names()) > most {
		return nil, Say("many-pairs", message.P{"most": most, "n": len(set.Names())})
	}
	return out, nil
}

// AnotherSolution adds one that starts from another: the same, to be changed.
func AnotherSolution(d *activity.Doc, from int, name string) *activity.Doc {
	out := d.Clone()
	more := d.Clone().Key.Solutions[from]
	more.Name = name
	out.Key.Solutions = append(out.Key.Solutions, more)
	return out
}

// DropSolution takes one away; the last stays. Replies that speak of it go, and
// those that speak of later ones follow.
func DropSolution(d *activity.Doc, k int) (out *activity.Doc, lost []message.Sentence) {
	out = d.Clone()
	if len(out.Key.Solutions) == 1 {
		return out, nil
	}
	out.Key.Solutions = slices.Delete(out.Key.Solutions, k, k+1)
	before := len(out.Replies)
	out.Replies = slices.DeleteFunc(out.Replies, func(r activity.Reply) bool {
		found := false
		r.When.Each(func(c *activity.Condition) { found = found || c.Solution != nil && *c.Solution == k })
		return found
	})
	for i := range out.Replies {
		out.Replies[i].When.Each(func(c *activity.Condition) {
			if c.Solution != nil && *c.Solution > k {
				n := *c.Solution - 1
				c.Solution = &n
			}
		})
	}
	if n := before - len(out.Replies); n > 0 {
		lost = append(lost, Say("lost-replies", message.P{"n": n}))
	}
	return out, lost
}

// TagFor is a tag that is right in a target.
type TagFor struct {
	Tag    string `json:"tag"`
	Target string `json:"target"`
}

// TagsFor proposes a tag for each target: one that is called as it is, else the tag
// that stands at its place where there are as many tags as targets; or none.
func TagsFor(d *activity.Doc) []TagFor {
	var tags []string
	for i := range d.Items {
		for _, tag := range d.Items[i].Tags {
			if !slices.Contains(tags, tag) {
				tags = append(tags, tag)
			}
		}
	}
	taken := map[string]bool{}
	out := make([]TagFor, len(d.Targets))
	for i := range d.Targets {
		t := &d.Targets[i]
		out[i].Target = t.ID
		for _, tag := range tags {
			for _, name := range []string{t.Name, t.Label.Text, t.ID} {
				if strings.EqualFold(tag, name) && !taken[tag] && out[i].Tag == "" {
					out[i].Tag = tag
					taken[tag] = true
				}
			}
		}
	}
	if len(tags) == len(d.Targets) && len(taken) == 0 {
		for i := range out {
			out[i].Tag = tags[i]
		}
	}
	return out
}
