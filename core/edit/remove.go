package edit

import (
	"maps"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// selectors calls f with every selector of the key and of the targets.
func selectors(d *activity.Doc, f func(*activity.Selector)) {
	for i := range d.Targets {
		f(&d.Targets[i].Lets)
	}
	for i := range d.Key.Solutions {
		s := &d.Key.Solutions[i]
		for id, sel := range s.Right {
			f(&sel)
			s.Right[id] = sel
		}
		for k := range s.Needs {
			f(&s.Needs[k].Of)
		}
	}
}

// Remove takes parts away, with all that names them: cells, needs and orders that
// are left without anything, replies whose condition speaks of them. lost says in
// words what goes with them.
func Remove(d *activity.Doc, s activity.Selection) (out *activity.Doc, lost []message.Sentence) {
	out = d.Clone()
	gone := func(list []string) func(string) bool {
		return func(id string) bool { return slices.Contains(list, id) }
	}
	item, target, scenery := gone(s.Items), gone(s.Targets), gone(s.Scenery)
	fillGaps(out, target)
	for i := range out.Scenery {
		if target(out.Scenery[i].Tie) {
			out.Scenery[i].Tie = ""
		}
	}
	out.Items = slices.DeleteFunc(out.Items, func(x activity.Item) bool { return item(x.ID) })
	out.Targets = slices.DeleteFunc(out.Targets, func(x activity.Target) bool { return target(x.ID) })
	out.Scenery = slices.DeleteFunc(out.Scenery, func(x activity.Scenery) bool { return scenery(x.ID) })
	selectors(out, func(sel *activity.Selector) {
		sel.Items = slices.DeleteFunc(sel.Items, item)
		sel.Except = slices.DeleteFunc(sel.Except, item)
	})
	cells := 0
	for i := range out.Key.Solutions {
		sol := &out.Key.Solutions[i]
		for t := range d.Targets {
			for k := range d.Items {
				if (item(d.Items[k].ID) || target(d.Targets[t].ID)) && d.Key.Solutions[i].RightCell(&d.Targets[t], &d.Items[k]) {
					cells++
				}
			}
		}
		for id := range sol.Right {
			if target(id) {
				delete(sol.Right, id)
			}
		}
		before := len(sol.Needs) + len(sol.Orders)
		sol.Needs = slices.DeleteFunc(sol.Needs, func(n activity.Need) bool {
			return target(n.Target) || !n.Of.All && len(n.Of.Items) == 0 && len(n.Of.Tags) == 0
		})
		for k := range sol.Orders {
			o := &sol.Orders[k]
			for j := range o.Tiers {
				o.Tiers[j] = slices.DeleteFunc(o.Tiers[j], item)
			}
			o.Tiers = slices.DeleteFunc(o.Tiers, func(tier []string) bool { return len(tier) == 0 })
			o.Before = slices.DeleteFunc(o.Before, func(pair []string) bool { return slices.ContainsFunc(pair, item) })
		}
		sol.Orders = slices.DeleteFunc(sol.Orders, func(o activity.Order) bool { return target(o.Target) || len(o.Names()) == 0 })
		if n := before - len(sol.Needs) - len(sol.Orders); n > 0 {
			lost = append(lost, Say("lost-needs", message.P{"n": n}))
		}
	}
	if cells > 0 {
		lost = append([]message.Sentence{Say("lost-cells", message.P{"n": cells})}, lost...)
	}
	for _, name := range slices.Sorted(maps.Keys(out.Marks.Cells)) {
		it, t, _ := strings.Cut(name, "/")
		if item(it) || target(t) {
			delete(out.Marks.Cells, name)
			lost = append(lost, Say("lost-marks", message.P{"item": itemName(d.Item(it)), "target": targetName(d.Target(t))}))
		}
	}
	before := len(out.Replies)
	out.Replies = slices.DeleteFunc(out.Replies, func(r activity.Reply) bool { return names(r.When, item, target) })
	if n := before - len(out.Replies); n > 0 {
		lost = append(lost, Say("lost-replies", message.P{"n": n}))
	}
	items, targets, parts := takenIDs(out)
	missing := func(id string) bool { return !items[id] && !targets[id] && !parts[id] }
	out.Order = slices.DeleteFunc(out.Order, missing)
	for i := range out.Replies {
		out.Replies[i].Point = slices.DeleteFunc(out.Replies[i].Point, func(id string) bool {
			return missing(id) && !slices.Contains([]string{"right", "wrong", "missing"}, id)
		})
	}
	return out, lost
}

// names reports whether a condition speaks of one of the parts by name.
func names(c *activity.Condition, item, target func(string) bool) (found bool) {
	c.Each(func(c *activity.Condition) {
		found = found || slices.ContainsFunc(c.Onto, target) || item(c.Item) || target(c.Target) || target(c.In) ||
			c.Piece != nil && (slices.ContainsFunc(c.Piece.Items, item) || slices.ContainsFunc(c.Piece.Except, item))
	})
	return found
}

// RenameTag renames a tag wherever it stands: in items, in selectors, in replies.
func RenameTag(d *activity.Doc, from, to string) *activity.Doc {
	out := d.Clone()
	// A list that has both names afterwards keeps the first.
	swap := func(tags []string) []string {
		var list []string
		for _, tag := range tags {
			if tag == from {
				tag = to
			}
			if !slices.Contains(list, tag) {
				list = append(list, tag)
			}
		}
		return list
	}
	for i := range out.Items {
		out.Items[i].Tags = swap(out.Items[i].Tags)
	}
	selectors(out, func(s *activity.Selector) { s.Tags = swap(s.Tags) })
	for i := range out.Replies {
		out.Replies[i].When.Each(func(c *activity.Condition) {
			if c.Piece != nil {
				c.Piece.Tags = swap(c.Piece.Tags)
			}
		})
	}
	return out
}

// DropTag takes a tag out of every selector that goes by it. A selector of right
// that then picks nothing goes as well.
func DropTag(d *activity.Doc, tag string) {
	drop := func(s *activity.Selector) {
		s.Tags = slices.DeleteFunc(slices.Clone(s.Tags), func(t string) bool { return t == tag })
	}
	selectors(d, drop)
	for i := range d.Key.Solutions {
		for id, s := range d.Key.Solutions[i].Right {
			if !s.All && len(s.Items) == 0 && len(s.Tags) == 0 {
				delete(d.Key.Solutions[i].Right, id)
			}
		}
	}
	for i := range d.Replies {
		d.Replies[i].When.Each(func(c *activity.Condition) {
			if c.Piece != nil {
				drop(c.Piece)
			}
		})
	}
}
