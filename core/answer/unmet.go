package answer

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
)

// Unmet lists the items of which a piece, placed in the target, would help a need
// that has too few.
func (s *Solution) Unmet(a *placing.Arrangement) map[int][]int {
	var seen Seen
	s.Look(a, &seen)
	out := map[int][]int{}
	for k, n := range s.needs {
		if seen.count[k] >= n.Least {
			continue
		}
		for _, i := range s.itemAt[n.Target] {
			if s.cell(n.Target, i) == k {
				out[i] = append(out[i], n.Target)
			}
		}
	}
	return out
}

// Conflict names the items and targets at fault where no arrangement is valid. It
// lifts one demand after the other (in ever smaller lots) as long as the rest
// still cannot be met, so none can be left out of what remains; it need not be the
// smallest there is. Cost: O(demands) plans at worst, O(log) for each that remains
// as a rule.
func (s *Solution) Conflict() (items, targets []string) {
	doc := s.Parts.Doc
	optional := make([]bool, len(doc.Items)+len(s.needs))
	var rest []int
	for d := range optional {
		if d >= len(doc.Items) && s.needs[d-len(doc.Items)].Least > 0 || d < len(doc.Items) && s.needed[d] {
			rest = append(rest, d)
		}
	}
	for lot := (len(rest) + 1) / 2; lot > 0; lot /= 2 {
		for i := 0; i < len(rest); {
			some := rest[i:min(i+lot, len(rest))]
			for _, d := range some {
				optional[d] = true
			}
			if _, ok := s.plan(wish{worth: nothing, optional: optional}); ok {
				for _, d := range some {
					optional[d] = false
				}
				i += lot // without these the others fit: one of them is at fault
			} else {
				rest = slices.Delete(rest, i, i+len(some))
			}
		}
	}
	atFault, in := make([]bool, len(doc.Items)), make([]bool, len(doc.Targets))
	for _, d := range rest {
		if d < len(doc.Items) {
			atFault[d] = true
			for t := range doc.Targets {
				in[t] = in[t] || s.RightCell(t, d)
			}
			continue
		}
		n := s.needs[d-len(doc.Items)]
		in[n.Target] = true
		for _, i := range s.itemAt[n.Target] {
			atFault[i] = atFault[i] || s.cell(n.Target, i) == d-len(doc.Items)
		}
	}
	return named(atFault, func(i int) string { return doc.Items[i].ID }), named(in, func(t int) string { return doc.Targets[t].ID })
}

func named(in []bool, id func(int) string) []string {
	out := []string{}
	for i, yes := range in {
		if yes {
			out = append(out, id(i))
		}
	}
	return out
}

// Nowhere lists the items that are right nowhere, in no solution of the document:
// its distractors.
func Nowhere(parts *activity.Parts) []string {
	right := make([]bool, len(parts.Doc.Items))
	for i := range parts.Doc.Key.Solutions {
		s := New(parts, i)
		for t := range s.itemAt {
			for _, item := range s.itemAt[t] {
				right[item] = true
			}
		}
	}
	out := []string{}
	for i, yes := range right {
		if !yes {
			out = append(out, parts.Doc.Items[i].ID)
		}
	}
	return out
}
