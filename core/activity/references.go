package activity

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// selectors calls f with every selector of the key and of the targets.
func (d *Doc) selectors(f func(*Selector)) {
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
func (d *Doc) Remove(s Selection) (out *Doc, lost []string) {
	out = d.Clone()
	gone := func(list []string) func(string) bool {
		return func(id string) bool { return slices.Contains(list, id) }
	}
	item, target, scenery := gone(s.Items), gone(s.Targets), gone(s.Scenery)
	out.fillGaps(target)
	for i := range out.Scenery {
		if target(out.Scenery[i].Tie) {
			out.Scenery[i].Tie = ""
		}
	}
	out.Items = slices.DeleteFunc(out.Items, func(x Item) bool { return item(x.ID) })
	out.Targets = slices.DeleteFunc(out.Targets, func(x Target) bool { return target(x.ID) })
	out.Scenery = slices.DeleteFunc(out.Scenery, func(x Scenery) bool { return scenery(x.ID) })
	out.selectors(func(sel *Selector) {
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
		sol.Needs = slices.DeleteFunc(sol.Needs, func(n Need) bool {
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
		sol.Orders = slices.DeleteFunc(sol.Orders, func(o Order) bool { return target(o.Target) || len(o.Names()) == 0 })
		if n := before - len(sol.Needs) - len(sol.Orders); n > 0 {
			lost = append(lost, count(n, "need or order", "needs and orders"))
		}
	}
	if cells > 0 {
		lost = append([]string{count(cells, "right cell", "right cells")}, lost...)
	}
	for _, name := range sortedNames(out.Marks.Cells) {
		it, t, _ := strings.Cut(name, "/")
		if item(it) || target(t) {
			delete(out.Marks.Cells, name)
			lost = append(lost, "the marks of "+name)
		}
	}
	before := len(out.Replies)
	out.Replies = slices.DeleteFunc(out.Replies, func(r Reply) bool { return r.When.names(item, target) })
	if n := before - len(out.Replies); n > 0 {
		lost = append(lost, count(n, "reply", "replies"))
	}
	items, targets, parts := out.takenIDs()
	missing := func(id string) bool { return !items[id] && !targets[id] && !parts[id] }
	out.Order = slices.DeleteFunc(out.Order, missing)
	for i := range out.Replies {
		out.Replies[i].Point = slices.DeleteFunc(out.Replies[i].Point, func(id string) bool {
			return missing(id) && !slices.Contains([]string{"right", "wrong", "missing"}, id)
		})
	}
	return out, lost
}

func count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
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

// names reports whether a condition speaks of one of the parts by name.
func (c *Condition) names(item, target func(string) bool) (found bool) {
	c.Each(func(c *Condition) {
		found = found || slices.ContainsFunc(c.Onto, target) || item(c.Item) || target(c.Target) || target(c.In) ||
			c.Piece != nil && (slices.ContainsFunc(c.Piece.Items, item) || slices.ContainsFunc(c.Piece.Except, item))
	})
	return found
}

// RenameTag renames a tag wherever it stands: in items, in selectors, in replies.
func (d *Doc) RenameTag(from, to string) *Doc {
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
	out.selectors(func(s *Selector) { s.Tags = swap(s.Tags) })
	for i := range out.Replies {
		out.Replies[i].When.Each(func(c *Condition) {
			if c.Piece != nil {
				c.Piece.Tags = swap(c.Piece.Tags)
			}
		})
	}
	return out
}

// Media lists the ids of all pictures and sounds that the document uses, each once,
// sorted. Cost: linear.
func (d *Doc) Media() []string { return mediaOf(reflect.ValueOf(d)) }

// RenameMedia puts other ids in place of those of pictures and sounds that are named,
// in the document itself.
func (d *Doc) RenameMedia(named map[string]string) { renameMedia(reflect.ValueOf(d), named) }

// Media is that of [Doc.Media], of the pages.
func (s *Series) Media() []string { return mediaOf(reflect.ValueOf(s)) }

// RenameMedia is that of [Doc.RenameMedia], of the pages.
func (s *Series) RenameMedia(named map[string]string) { renameMedia(reflect.ValueOf(s), named) }

func mediaOf(v reflect.Value) []string {
	ids := map[string]bool{}
	eachMedium(v, shapes{}, func(x reflect.Value) { ids[x.String()] = true })
	return sortedNames(ids)
}

func renameMedia(v reflect.Value, named map[string]string) {
	eachMedium(v, shapes{}, func(x reflect.Value) {
		if id, ok := named[x.String()]; ok {
			x.SetString(id)
		}
	})
}

// eachMedium calls f with every field that names a picture or a sound, and does.
func eachMedium(v reflect.Value, known shapes, f func(reflect.Value)) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			eachMedium(v.Elem(), known, f)
		}
	case reflect.Slice:
		for i := range v.Len() {
			eachMedium(v.Index(i), known, f)
		}
	case reflect.Struct:
		for _, field := range known.of(v.Type()) {
			x := v.FieldByIndex(field.index)
			if field.name != "picture" && field.name != "sound" {
				eachMedium(x, known, f)
			} else if x = reflect.Indirect(x); x.IsValid() && x.String() != "" {
				f(x)
			}
		}
	}
}

// DropTag takes a tag out of every selector that goes by it. A selector of right
// that then picks nothing goes as well.
func (d *Doc) DropTag(tag string) {
	drop := func(s *Selector) {
		s.Tags = slices.DeleteFunc(slices.Clone(s.Tags), func(t string) bool { return t == tag })
	}
	d.selectors(drop)
	for i := range d.Key.Solutions {
		for id, s := range d.Key.Solutions[i].Right {
			if !s.All && len(s.Items) == 0 && len(s.Tags) == 0 {
				delete(d.Key.Solutions[i].Right, id)
			}
		}
	}
	for i := range d.Replies {
		d.Replies[i].When.Each(func(c *Condition) {
			if c.Piece != nil {
				drop(c.Piece)
			}
		})
	}
}
