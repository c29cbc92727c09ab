package edit

import (
	"slices"
	"strings"

	"keenmagpie/core/activity"
)

// RenameIDs gives items and targets other ids, by their old ones, wherever the document
// speaks of them: the key, who is let in, replies, marks, examples, the reading order, ties
// and gaps. It changes the document itself.
func RenameIDs(d *activity.Doc, items, targets map[string]string) {
	if len(items)+len(targets) == 0 {
		return
	}
	one := func(by map[string]string, id *string) {
		if to, ok := by[*id]; ok {
			*id = to
		}
	}
	all := func(by map[string]string, ids []string) {
		for i := range ids {
			one(by, &ids[i])
		}
	}
	selector := func(s *activity.Selector) {
		if s != nil {
			all(items, s.Items)
			all(items, s.Except)
		}
	}
	// A piece is its item, with a number where there are several.
	piece := func(id *string) {
		item, number, copied := strings.Cut(*id, "~")
		one(items, &item)
		if *id = item; copied {
			*id += "~" + number
		}
	}
	for i := range d.Items {
		one(items, &d.Items[i].ID)
	}
	for i := range d.Targets {
		one(targets, &d.Targets[i].ID)
		selector(&d.Targets[i].Lets)
	}
	for i := range d.Scenery {
		one(targets, &d.Scenery[i].Tie)
		d.Scenery[i].Text = bracketed.ReplaceAllStringFunc(d.Scenery[i].Text, func(gap string) string {
			id := gap[2 : len(gap)-2]
			one(targets, &id)
			return "[[" + id + "]]"
		})
	}
	for i := range d.Key.Solutions {
		s := &d.Key.Solutions[i]
		right := map[string]activity.Selector{}
		for id, sel := range s.Right {
			selector(&sel)
			one(targets, &id)
			right[id] = sel
		}
		if s.Right != nil {
			s.Right = right
		}
		for k := range s.Needs {
			one(targets, &s.Needs[k].Target)
			selector(&s.Needs[k].Of)
		}
		for k := range s.Orders {
			one(targets, &s.Orders[k].Target)
			for _, list := range slices.Concat(s.Orders[k].Tiers, s.Orders[k].Before) {
				all(items, list)
			}
		}
	}
	var condition func(c *activity.Condition)
	condition = func(c *activity.Condition) {
		for _, list := range [][]activity.Condition{c.All, c.Any, c.None} {
			for i := range list {
				condition(&list[i])
			}
		}
		selector(c.Piece)
		all(targets, c.Onto)
		one(items, &c.Item)
		one(targets, &c.Target)
		one(targets, &c.In)
	}
	for i := range d.Replies {
		r := &d.Replies[i]
		if r.When != nil {
			condition(r.When)
		}
		for k := range r.Point {
			partID(&r.Point[k], items, targets)
		}
	}
	for i := range d.Order {
		partID(&d.Order[i], items, targets)
	}
	cells := map[string]activity.Cell{}
	for at, cell := range d.Marks.Cells {
		item, target, _ := strings.Cut(at, "/")
		one(items, &item)
		one(targets, &target)
		cells[item+"/"+target] = cell
	}
	if d.Marks.Cells != nil {
		d.Marks.Cells = cells
	}
	for i := range d.Marks.Examples {
		for k := range d.Marks.Examples[i].Moves {
			piece(&d.Marks.Examples[i].Moves[k].Piece)
			one(targets, &d.Marks.Examples[i].Moves[k].Target)
		}
	}
}

// partID renames what is an item, else a target.
func partID(id *string, items, targets map[string]string) {
	if to, ok := items[*id]; ok {
		*id = to
	} else if to, ok := targets[*id]; ok {
		*id = to
	}
}

// likeNames gives parts that got other names ids that are made of those, where theirs were
// made of the old ones; replies that were called by them as well.
func likeNames(d *activity.Doc, was *activity.Doc) {
	fresh := func(old, now []string, ids []string) map[string]string {
		out, taken := map[string]string{}, map[string]bool{}
		for i, id := range ids {
			if old[i] == now[i] || !madeOf(id, old[i]) {
				taken[id] = true
			}
		}
		for i, id := range ids {
			if !taken[id] || old[i] != now[i] && madeOf(id, old[i]) {
				out[id] = activity.FreshID(taken, now[i])
			}
		}
		return out
	}
	var old, now, ids []string
	for i := range d.Items {
		old, now, ids = append(old, was.Items[i].Name), append(now, d.Items[i].Name), append(ids, d.Items[i].ID)
	}
	items := fresh(old, now, ids)
	old, now, ids = nil, nil, nil
	for i := range d.Targets {
		old, now, ids = append(old, was.Targets[i].Name), append(now, d.Targets[i].Name), append(ids, d.Targets[i].ID)
	}
	targets := fresh(old, now, ids)
	RenameIDs(d, items, targets)
	renameReplies(d, was, items, targets)
}

// renameReplies gives replies that were called by parts ids with the parts' new ones.
func renameReplies(d, was *activity.Doc, items, targets map[string]string) {
	taken := takenReplies(d)
	for i := range d.Replies {
		r := &d.Replies[i]
		called := func(from, to string) {
			id := "-" + r.ID + "-"
			if to == "" || from == to || !strings.Contains(id, "-"+from+"-") {
				return
			}
			delete(taken, r.ID)
			r.ID = activity.FreshID(taken, strings.Trim(strings.Replace(id, "-"+from+"-", "-"+to+"-", 1), "-"))
		}
		// In the order of the document, so that it always comes to the same.
		for k := range was.Items {
			called(was.Items[k].ID, items[was.Items[k].ID])
		}
		for k := range was.Targets {
			called(was.Targets[k].ID, targets[was.Targets[k].ID])
		}
	}
}

// madeOf reports whether an id was made of a name: that, or with a number behind it.
func madeOf(id, name string) bool {
	base := activity.FreshID(map[string]bool{}, name)
	rest, ok := strings.CutPrefix(id, base)
	return ok && (rest == "" || rest[0] == '-' && strings.Trim(rest[1:], "0123456789") == "")
}
