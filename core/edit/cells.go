// Package edit has every act of the workbench on a document: a function of it that
// returns another and leaves the one given as it was, save where a comment says that it
// changes the document itself. What had to go with what was removed is said in words.
package edit

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// SetCells changes a block of cells: items × targets, of what is right under a
// solution or, with solution −1, of who is let in. Making an item right also lets
// it in, since it would not count otherwise; turning it away leaves what is right
// as it stands. It returns the changed document, and what went with it (see
// [settle]).
func SetCells(d *activity.Doc, solution int, items, targets []string, on bool) (changed *activity.Doc, lost []message.Sentence) {
	out := d.Clone()
	for i := range out.Targets {
		t := &out.Targets[i]
		if !slices.Contains(targets, t.ID) {
			continue
		}
		for j := range out.Items {
			it := &out.Items[j]
			if !slices.Contains(items, it.ID) {
				continue
			}
			if solution < 0 {
				t.Lets = t.Lets.With(it, on)
				continue
			}
			s := &out.Key.Solutions[solution]
			right(s, t.ID, s.Right[t.ID].With(it, on))
			if on {
				t.Lets = t.Lets.With(it, true)
			}
		}
	}
	return out, settle(out)
}
