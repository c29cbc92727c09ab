package activity

import "slices"

// With is the selector changed as little as possible so that it picks the item,
// or does not: a rule (all, a tag) is kept, and the item becomes an exception to
// it. Cost: the lengths of its lists.
func (s Selector) With(it *Item, on bool) Selector {
	out := Selector{All: s.All, Items: slices.Clone(s.Items), Tags: slices.Clone(s.Tags), Except: slices.Clone(s.Except)}
	same := func(id string) bool { return id == it.ID }
	if on {
		out.Except = slices.DeleteFunc(out.Except, same)
		if !out.Selects(it) {
			out.Items = append(out.Items, it.ID)
		}
		return out
	}
	out.Items = slices.DeleteFunc(out.Items, same)
	if out.Selects(it) {
		out.Except = append(out.Except, it.ID)
	}
	return out
}

// Cells is which items are right in each target under each solution, and which
// are let in: what the ledger shows.
type Cells struct {
	Right []map[string][]string `json:"right"` // by solution, then target
	Lets  map[string][]string   `json:"lets"`  // by target
}

// Cells works out all cells. Cost: O(solutions × items × targets).
func (d *Doc) Cells() Cells {
	c := Cells{Right: make([]map[string][]string, len(d.Key.Solutions)), Lets: map[string][]string{}}
	pick := func(f func(*Target, *Item) bool) map[string][]string {
		out := map[string][]string{}
		for i := range d.Targets {
			list := []string{}
			for j := range d.Items {
				if f(&d.Targets[i], &d.Items[j]) {
					list = append(list, d.Items[j].ID)
				}
			}
			out[d.Targets[i].ID] = list
		}
		return out
	}
	for i := range c.Right {
		c.Right[i] = pick(d.Key.Solutions[i].RightCell)
	}
	c.Lets = pick((*Target).LetsIn)
	return c
}

func (d *Doc) Governed(s *Solution, it *Item) bool {
	return slices.ContainsFunc(s.Needs, func(n Need) bool {
		t := d.Target(n.Target)
		return t != nil && n.Of.Selects(it) && s.RightCell(t, it)
	})
}
