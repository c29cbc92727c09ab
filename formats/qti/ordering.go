package qti

import (
	"fmt"
	"strconv"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
)

// orderSolution judges an order of everything.
func (x *exporting) orderSolution(k int, s *answer.Solution) (do []*node) {
	lane := s.Lane(x.lane)
	o, n := lane.Order, len(lane.Items)
	id := func(a int) *node { return base("identifier", x.item[lane.Items[a]]) }
	stands := func(a, at int) *node {
		return el("qti-match", nil, el("qti-index", []string{"n", strconv.Itoa(at + 1)}, variable(response)), id(a))
	}
	place := func(a int) string { return fmt.Sprintf("PLACE_%d", a+1) }
	// before says that both are there, and one before the other.
	before := func(a, b int) *node {
		return and(el("qti-gt", nil, variable(place(a)), whole(0)), el("qti-lt", nil, variable(place(a)), variable(place(b))))
	}
	for a := range n {
		for i := range n {
			do = append(do, when(stands(a, i), set(place(a), whole(i+1))))
		}
	}
	total := len(o.Extension()) == n && o.Extensions().IsInt64() && o.Extensions().Int64() == 1
	asks := []*node{exactly(el("qti-container-size", nil, variable(response)), whole(n))}
	pairs := 0
	for a := range n {
		for b := range n {
			if a != b && o.Before(a, b) {
				pairs++
				if !total {
					asks = append(asks, before(a, b))
				}
			}
		}
	}
	if total {
		asks = []*node{el("qti-match", nil, variable(response), el("qti-correct", at("identifier", response)))}
	}
	do = append(do, when(and(asks...), set(nth("VALID", k), base("boolean", "true"))), plus(nth("COUNT", k), 1))
	earned, weight := nth("EARNED", k), available(x.judge, k)
	measure := x.doc.Marks.Measure
	if x.doc.Marks.By != activity.ByOrder {
		measure = ""
	}
	// With a measure, EARNED is counted in its steps, and VALUE made of those.
	switch {
	case x.doc.Marks.By == activity.ByWhole, x.doc.Marks.By == activity.ByTarget:
		do = append(do, when(variable(nth("VALID", k)), plus(earned, weight)))
	case measure == activity.MeasurePosition && total:
		for at, a := range o.Extension() {
			do = append(do, when(stands(a, at), plus(earned, 1)))
		}
	case measure == activity.MeasurePairs && pairs > 0:
		for a := range n {
			for b := range n {
				if a != b && o.Before(a, b) {
					do = append(do, when(before(a, b), plus(earned, 1)))
				}
			}
		}
	case measure == activity.MeasureNeighbours && n > 1:
		for a := range n {
			for b := range n {
				if a == b || o.Before(b, a) || between(n, a, b, o.Before) {
					continue
				}
				var ways []*node
				for at := range n - 1 {
					ways = append(ways, and(stands(a, at), stands(b, at+1)))
				}
				do = append(do, when(or(ways...), plus(earned, 1)))
			}
		}
	default:
		x.lose("marks", "order-marks", "An order that is partly right earns nothing there: it is all or nothing.")
		do = append(do, when(variable(nth("VALID", k)), plus(earned, weight)))
	}
	return do
}

// between says whether something comes strictly between two.
func between(n, a, b int, before func(a, b int) bool) bool {
	for c := range n {
		if before(a, c) && before(c, b) {
			return true
		}
	}
	return false
}

// steps is of how many an order's EARNED counts: its measure's, or the points of weight.
func (x *exporting) steps(k int) int {
	a := available(x.judge, k)
	if x.kind != ordering || x.doc.Marks.By != activity.ByOrder {
		return a
	}
	o := x.judge.Solutions[k].Lane(x.lane).Order
	n := o.Len()
	total := o.Extensions().IsInt64() && o.Extensions().Int64() == 1
	switch x.doc.Marks.Measure {
	case activity.MeasurePosition:
		if total {
			return n
		}
	case activity.MeasurePairs:
		pairs := 0
		for i := range n {
			for j := range n {
				if i != j && o.Before(i, j) {
					pairs++
				}
			}
		}
		if pairs > 0 {
			return pairs
		}
	case activity.MeasureNeighbours:
		if n > 1 {
			return n - 1
		}
	}
	return a
}
