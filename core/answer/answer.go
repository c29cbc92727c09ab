// Package answer looks at an arrangement in the light of one solution: which
// pieces are right, what each target is, whether all of it is valid, and how many
// points any valid arrangement could earn.
//
// A cell (item, target) is right when the solution's right selects the item there
// and the target lets it in. An arrangement is valid when every piece in a target
// is at a right cell, and every piece of every item with a right cell is in a
// target. What the target holds does not matter to validity, but it does to
// what can be earned:
//
//	at := answer.Look(doc, &doc.Key.Solutions[0], arrangement)
//	at.Right  // ["chain"]
//	at.Missing // ["seat"]
package answer

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
)

// Seen is an arrangement in the light of one solution. Lists are sorted as
// strings.
type Seen struct {
	Right   []string          // pieces
	Wrong   []string          // pieces
	Missing []string          // items with a needed piece that is not right where it is
	Targets map[string]string // right, part, wrong or empty, by target
	Valid   bool
}

// Needed reports whether all pieces of the item must be placed: it has a right
// cell somewhere.
func Needed(doc *activity.Doc, s *activity.Solution, it *activity.Item) bool {
	return slices.ContainsFunc(doc.Targets, func(t activity.Target) bool { return s.RightCell(&t, it) })
}

// Look sees the arrangement under the solution.
// Cost: O(items × targets + pieces log pieces).
func Look(doc *activity.Doc, s *activity.Solution, a *placing.Arrangement) Seen {
	seen := Seen{Right: []string{}, Wrong: []string{}, Missing: []string{}, Targets: map[string]string{}}
	rightOf := map[string]int{} // item: how many of its pieces are right
	for i := range doc.Targets {
		t := &doc.Targets[i]
		for _, p := range a.Targets[t.ID] {
			it := placing.ItemOf(doc, p.Piece)
			if s.RightCell(t, it) {
				seen.Right = append(seen.Right, p.Piece)
				rightOf[it.ID]++
			} else {
				seen.Wrong = append(seen.Wrong, p.Piece)
			}
		}
	}
	missing := map[string]bool{}
	for i := range doc.Items {
		it := &doc.Items[i]
		if Needed(doc, s, it) && rightOf[it.ID] < it.Copies {
			missing[it.ID] = true
			seen.Missing = append(seen.Missing, it.ID)
		}
	}
	for i := range doc.Targets {
		t := &doc.Targets[i]
		seen.Targets[t.ID] = state(doc, s, t, a.Targets[t.ID], missing)
	}
	seen.Valid = len(seen.Wrong) == 0 && len(seen.Missing) == 0
	slices.Sort(seen.Right)
	slices.Sort(seen.Wrong)
	slices.Sort(seen.Missing)
	return seen
}

func state(doc *activity.Doc, s *activity.Solution, t *activity.Target, list []placing.Placed, missing map[string]bool) string {
	right := 0
	for _, p := range list {
		if s.RightCell(t, placing.ItemOf(doc, p.Piece)) {
			right++
		}
	}
	cells, lacks := false, false
	for i := range doc.Items {
		if it := &doc.Items[i]; s.RightCell(t, it) {
			cells = true
			lacks = lacks || missing[it.ID]
		}
	}
	switch {
	case cells && right == len(list) && !lacks:
		return "right"
	case len(list) == 0:
		return "empty"
	case right > 0:
		return "part"
	default:
		return "wrong"
	}
}
