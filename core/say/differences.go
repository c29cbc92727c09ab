package say

import (
	"cmp"
	"reflect"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// Differences says in words what is different in the second document: parts added,
// taken away and changed by name, then the rest by what it is about. None where the
// two are alike. Cost: linear in both.
//
//	2 items added: Bell and Pump
//	Chain: text, size
//	what is right: 3 cells
func Differences(a, b *activity.Doc) []message.Sentence {
	var out []message.Sentence
	say := func(code string, params message.P) { out = append(out, said("changed/"+code, params)) }
	if a.Title != b.Title && b.Title == "" {
		say("titleless", nil)
	} else if a.Title != b.Title {
		say("title", message.P{"title": b.Title})
	}
	if a.Instructions != b.Instructions {
		say("intro", nil)
	}
	parts := func(kind string, a, b []part) {
		before := map[string]part{}
		for _, x := range a {
			before[x.id] = x
		}
		var added, gone []string
		var changed []message.P
		for _, x := range b {
			was, there := before[x.id]
			delete(before, x.id)
			if !there {
				added = append(added, x.name)
			} else if fields := activity.FieldsChanged(was.part, x.part); len(fields) > 0 {
				changed = append(changed, message.P{"name": x.name, "fields": fieldNames(fields)})
			}
		}
		for _, x := range a {
			if _, left := before[x.id]; left {
				gone = append(gone, x.name)
			}
		}
		many := func(n int) message.Sentence { return said("parts/"+kind, message.P{"n": n}) }
		if len(added) > 0 {
			say("added", message.P{"parts": many(len(added)), "names": message.Some(added, 3)})
		}
		if len(gone) > 0 {
			say("removed", message.P{"parts": many(len(gone)), "names": message.Some(gone, 3)})
		}
		if len(changed) > 4 {
			say("many", message.P{"parts": many(len(changed))})
			return
		}
		for _, params := range changed {
			say("part", params)
		}
	}
	parts("item", partsOf(a.Items), partsOf(b.Items))
	parts("target", partsOf(a.Targets), partsOf(b.Targets))
	parts("scenery", partsOf(a.Scenery), partsOf(b.Scenery))
	order := func(list []part) (ids []string) {
		for _, x := range list {
			ids = append(ids, x.id)
		}
		slices.Sort(ids)
		return ids
	}
	for _, x := range []struct {
		what string
		a, b []part
	}{{"items", partsOf(a.Items), partsOf(b.Items)}, {"targets", partsOf(a.Targets), partsOf(b.Targets)}} {
		same := slices.Equal(order(x.a), order(x.b))
		if same && !slices.EqualFunc(x.a, x.b, func(p, q part) bool { return p.id == q.id }) {
			say(x.what, nil)
		}
	}
	if len(a.Key.Solutions) != len(b.Key.Solutions) {
		say("solutions", message.P{"n": len(b.Key.Solutions), "was": len(a.Key.Solutions)})
	}
	cells := 0
	for i := range min(len(a.Key.Solutions), len(b.Key.Solutions)) {
		cells += cellsChanged(a, b, &a.Key.Solutions[i], &b.Key.Solutions[i])
	}
	if cells > 0 {
		say("cells", message.P{"n": cells})
	}
	for i := range min(len(a.Key.Solutions), len(b.Key.Solutions)) {
		s, t := a.Key.Solutions[i], b.Key.Solutions[i]
		if !reflect.DeepEqual(s.Needs, t.Needs) || !reflect.DeepEqual(s.Orders, t.Orders) {
			say("needs", nil)
			break
		}
	}
	for _, x := range []struct {
		what string
		a, b any
	}{{"board", a.Board, b.Board}, {"replies", a.Replies, b.Replies}, {"hints", a.Hints, b.Hints},
		{"play", a.Play, b.Play}, {"marks", a.Marks, b.Marks}, {"reading", a.Order, b.Order}, {"language", a.Lang, b.Lang}, {"kind", a.Kind, b.Kind}} {
		if !reflect.DeepEqual(x.a, x.b) {
			say(x.what, nil)
		}
	}
	return out
}

// fieldNames are fields of a part as the workbench calls them.
func fieldNames(fields []string) message.Sentence {
	var called []message.Sentence
	for _, f := range fields {
		called = append(called, said("field/"+f, nil))
	}
	return message.List(message.ListPlain, called)
}

type part struct {
	id, name string
	part     any
}

func partsOf[T any](parts []T) []part {
	out := make([]part, len(parts))
	for i := range parts {
		switch x := any(parts[i]).(type) {
		case activity.Item:
			out[i] = part{x.ID, cmp.Or(x.Name, x.ID), x}
		case activity.Target:
			out[i] = part{x.ID, cmp.Or(x.Name, x.ID), x}
		case activity.Scenery:
			out[i] = part{x.ID, cmp.Or(x.Alt, x.ID), x}
		}
	}
	return out
}

func cellsChanged(a, b *activity.Doc, s, t *activity.Solution) (n int) {
	for i := range b.Targets {
		x := a.Target(b.Targets[i].ID)
		for k := range b.Items {
			y := a.Item(b.Items[k].ID)
			was := x != nil && y != nil && s.RightCell(x, y)
			if was != t.RightCell(&b.Targets[i], &b.Items[k]) {
				n++
			}
		}
	}
	return n
}
