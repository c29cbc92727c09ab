package say

import (
	"cmp"
	"fmt"
	"reflect"
	"slices"
	"strings"

	"keenmagpie/core/activity"
)

// Differences says in words what is different in the second document: parts added,
// taken away and changed by name, then the rest by what it is about. None where the
// two are alike. Cost: linear in both.
//
//	2 items added: Bell, Pump
//	Chain: text, size
//	what is right: 3 cells
func Differences(a, b *activity.Doc) []string {
	var out []string
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	if a.Title != b.Title {
		say("title: %s", b.Title)
	}
	if a.Instructions != b.Instructions {
		say("instructions")
	}
	parts := func(one, many string, a, b []part) {
		before := map[string]part{}
		for _, x := range a {
			before[x.id] = x
		}
		var added, changed []string
		for _, x := range b {
			was, there := before[x.id]
			delete(before, x.id)
			if !there {
				added = append(added, x.name)
			} else if fields := activity.FieldsChanged(was.part, x.part); len(fields) > 0 {
				changed = append(changed, x.name+": "+strings.Join(fields, ", "))
			}
		}
		var gone []string
		for _, x := range a {
			if _, left := before[x.id]; left {
				gone = append(gone, x.name)
			}
		}
		if len(added) > 0 {
			say("%s added: %s", Count(len(added), one, many), list(added))
		}
		if len(gone) > 0 {
			say("%s removed: %s", Count(len(gone), one, many), list(gone))
		}
		if len(changed) > 4 {
			say("%s changed", Count(len(changed), one, many))
		} else {
			out = append(out, changed...)
		}
	}
	parts("item", "items", partsOf(a.Items), partsOf(b.Items))
	parts("target", "targets", partsOf(a.Targets), partsOf(b.Targets))
	parts("part of the scenery", "parts of the scenery", partsOf(a.Scenery), partsOf(b.Scenery))
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
	}{{"order of items", partsOf(a.Items), partsOf(b.Items)}, {"order of targets", partsOf(a.Targets), partsOf(b.Targets)}} {
		same := slices.Equal(order(x.a), order(x.b))
		if same && !slices.EqualFunc(x.a, x.b, func(p, q part) bool { return p.id == q.id }) {
			say("%s", x.what)
		}
	}
	if len(a.Key.Solutions) != len(b.Key.Solutions) {
		say("%s instead of %d", Count(len(b.Key.Solutions), "solution", "solutions"), len(a.Key.Solutions))
	}
	cells := 0
	for i := range min(len(a.Key.Solutions), len(b.Key.Solutions)) {
		cells += cellsChanged(a, b, &a.Key.Solutions[i], &b.Key.Solutions[i])
	}
	if cells > 0 {
		say("answer key: %s", Count(cells, "cell", "cells"))
	}
	for i := range min(len(a.Key.Solutions), len(b.Key.Solutions)) {
		s, t := a.Key.Solutions[i], b.Key.Solutions[i]
		if !reflect.DeepEqual(s.Needs, t.Needs) || !reflect.DeepEqual(s.Orders, t.Orders) {
			say("needs and orders")
			break
		}
	}
	for _, x := range []struct {
		what string
		a, b any
	}{{"board", a.Board, b.Board}, {"replies", a.Replies, b.Replies}, {"hints", a.Hints, b.Hints},
		{"play settings", a.Play, b.Play}, {"marks", a.Marks, b.Marks}, {"reading order", a.Order, b.Order}, {"language", a.Lang, b.Lang}, {"kind", a.Kind, b.Kind}} {
		if !reflect.DeepEqual(x.a, x.b) {
			say("%s", x.what)
		}
	}
	return out
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

func list(names []string) string {
	if len(names) > 4 {
		return strings.Join(names[:3], ", ") + fmt.Sprintf(" and %d more", len(names)-3)
	}
	return strings.Join(names, ", ")
}
