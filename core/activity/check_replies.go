package activity

import (
	"maps"
	"slices"
	"strings"

	"keenmagpie/core/message"
)

// replies checks what replies name, and the form of their conditions.
func (c *checker) replies() {
	seen := map[string]bool{}
	for i := range c.doc.Replies {
		r := &c.doc.Replies[i]
		path := at("/replies", i)
		if r.ID != "" && seen[r.ID] {
			c.fault(path+"/id", "id-twice", message.P{"what": "reply", "id": r.ID})
		}
		seen[r.ID] = true
		if r.When != nil {
			c.condition(path+"/when", r.When)
		}
		if (r.Spot == SpotFrame) != (r.Frame != nil) {
			c.fault(path+"/frame", "reply-frame", nil)
		}
		for j, id := range r.Point {
			if !c.parts[id] && c.complete && !slices.Contains([]string{"right", "wrong", "missing"}, id) {
				c.fault(at(path+"/point", j), "no-point", message.P{"id": id})
			}
		}
		for j, offer := range r.Offer {
			page, ok := strings.CutPrefix(offer, "page:")
			if !slices.Contains([]string{"next", "again", "restart", "back"}, offer) && !(ok && idPattern.MatchString(page)) {
				c.fault(at(path+"/offer", j), "no-offer", message.P{"offer": offer})
			}
		}
	}
}

// condition checks that there is exactly one form, that what it names is there,
// and the conditions within.
func (c *checker) condition(path string, w *Condition) {
	if forms := w.forms(); len(forms) != 1 {
		if len(forms) == 0 {
			c.fault(path, "condition-empty", nil)
		} else {
			c.fault(path, "condition-twice", message.P{"fields": strings.Join(forms, ", ")})
		}
	}
	for i := range w.All {
		c.condition(at(path+"/all", i), &w.All[i])
	}
	for i := range w.Any {
		c.condition(at(path+"/any", i), &w.Any[i])
	}
	for i := range w.None {
		c.condition(at(path+"/none", i), &w.None[i])
	}
	if w.Piece != nil {
		c.selector(path+"/piece", *w.Piece)
	}
	for i, id := range w.Onto {
		c.target(at(path+"/onto", i), id)
	}
	switch {
	case w.Item != "":
		c.item(path+"/item", w.Item)
		if (w.Is == "") == (w.In == "") {
			c.fault(path, "item-is", nil)
		}
		if w.Is == IsPart || w.Is == IsEmpty {
			c.fault(path+"/is", "impossible", message.P{"possible": "home, right, wrong", "value": w.Is})
		}
	case w.Target != "":
		c.target(path+"/target", w.Target)
		if w.Is == "" || w.Is == IsHome {
			c.fault(path+"/is", "target-is", nil)
		}
		fallthrough
	default:
		if w.In != "" || w.Is != "" && w.Target == "" {
			c.fault(path, "is-of-nothing", nil)
		}
	}
	if w.In != "" {
		c.target(path+"/in", w.In)
	}
	ranges := w.ranges()
	for _, name := range slices.Sorted(maps.Keys(ranges)) {
		r := ranges[name]
		if r.Min != nil && r.Max != nil && *r.Min > *r.Max {
			c.fault(path+"/"+name, "min-above-max", message.P{"min": *r.Min, "max": *r.Max})
		}
	}
	if w.Solution != nil && *w.Solution >= len(c.doc.Key.Solutions) && len(c.doc.Key.Solutions) > 0 {
		c.fault(path+"/solution", "no-solution", message.P{"n": len(c.doc.Key.Solutions)})
	}
}

// forms names the forms that a condition has; one is right.
func (w *Condition) forms() []string {
	var out []string
	for _, f := range []struct {
		name string
		is   bool
	}{
		{"all", w.All != nil}, {"any", w.Any != nil}, {"none", w.None != nil},
		{"piece", w.Piece != nil}, {"onto", w.Onto != nil}, {"result", w.Result != ""},
		{"item", w.Item != ""}, {"target", w.Target != ""}, {"outcome", w.Outcome != ""},
		{"solution", w.Solution != nil},
	} {
		if f.is {
			out = append(out, f.name)
		}
	}
	return append(out, slices.Sorted(maps.Keys(w.ranges()))...)
}

// ranges lists the spans that a condition has, by field.
func (w *Condition) ranges() map[string]*Range {
	out := map[string]*Range{}
	for name, r := range map[string]*Range{
		"rightCount": w.RightCount, "wrongCount": w.WrongCount, "missingCount": w.MissingCount,
		"homeCount": w.HomeCount, "percent": w.Percent, "attempt": w.Attempt, "left": w.Left,
	} {
		if r != nil {
			out[name] = r
		}
	}
	return out
}
