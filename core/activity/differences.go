package activity

import (
	"cmp"
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// Differences says in words what is different in the second document: parts added,
// taken away and changed by name, then the rest by what it is about. None where the
// two are alike. Cost: linear in both.
//
//	2 items added: Bell, Pump
//	Chain: text, size
//	what is right: 3 cells
func Differences(a, b *Doc) []string {
	var out []string
	say := func(format string, args ...any) { out = append(out, fmt.Sprintf(format, args...)) }
	if a.Title != b.Title {
		say("title: %s", b.Title)
	}
	if a.Instructions != b.Instructions {
		say("instructions")
	}
	parts := func(one, many string, a, b []named) {
		before := map[string]named{}
		for _, x := range a {
			before[x.id] = x
		}
		var added, changed []string
		for _, x := range b {
			was, there := before[x.id]
			delete(before, x.id)
			if !there {
				added = append(added, x.name)
			} else if fields := fieldsChanged(was.part, x.part); len(fields) > 0 {
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
			say("%s added: %s", count(len(added), one, many), list(added))
		}
		if len(gone) > 0 {
			say("%s taken away: %s", count(len(gone), one, many), list(gone))
		}
		if len(changed) > 4 {
			say("%s changed", count(len(changed), one, many))
		} else {
			out = append(out, changed...)
		}
	}
	parts("item", "items", names(a.Items), names(b.Items))
	parts("target", "targets", names(a.Targets), names(b.Targets))
	parts("part of the scenery", "parts of the scenery", names(a.Scenery), names(b.Scenery))
	order := func(list []named) (ids []string) {
		for _, x := range list {
			ids = append(ids, x.id)
		}
		slices.Sort(ids)
		return ids
	}
	for _, x := range []struct {
		what string
		a, b []named
	}{{"order of items", names(a.Items), names(b.Items)}, {"order of targets", names(a.Targets), names(b.Targets)}} {
		same := slices.Equal(order(x.a), order(x.b))
		if same && !slices.EqualFunc(x.a, x.b, func(p, q named) bool { return p.id == q.id }) {
			say("%s", x.what)
		}
	}
	if len(a.Key.Solutions) != len(b.Key.Solutions) {
		say("%s instead of %d", count(len(b.Key.Solutions), "solution", "solutions"), len(a.Key.Solutions))
	}
	cells := 0
	for i := range min(len(a.Key.Solutions), len(b.Key.Solutions)) {
		cells += cellsChanged(a, b, &a.Key.Solutions[i], &b.Key.Solutions[i])
	}
	if cells > 0 {
		say("what is right: %s", count(cells, "cell", "cells"))
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

type named struct {
	id, name string
	part     any
}

func names[T any](parts []T) []named {
	out := make([]named, len(parts))
	for i := range parts {
		switch x := any(parts[i]).(type) {
		case Item:
			out[i] = named{x.ID, cmp.Or(x.Name, x.ID), x}
		case Target:
			out[i] = named{x.ID, cmp.Or(x.Name, x.ID), x}
		case Scenery:
			out[i] = named{x.ID, cmp.Or(x.Alt, x.ID), x}
		}
	}
	return out
}

// fieldsChanged names the fields that differ, as the document calls them.
func fieldsChanged(a, b any) []string {
	known := shapes{}
	x, y := reflect.ValueOf(a), reflect.ValueOf(b)
	var out []string
	for _, f := range known.of(x.Type()) {
		if !reflect.DeepEqual(x.FieldByIndex(f.index).Interface(), y.FieldByIndex(f.index).Interface()) {
			out = append(out, f.name)
		}
	}
	return out
}

func cellsChanged(a, b *Doc, s, t *Solution) (n int) {
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
