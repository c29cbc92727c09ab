package activity

import (
	"keenmagpie/core/order"

	"keenmagpie/core/message"
)

// What one document may ask for, so that every one that is read can be judged in bounded
// time: a move in some milliseconds, opening it in a tenth of a second. Each bound is far
// above what boards that people can survey have; what is beyond one is a fault that says so.
const (
	MostPieces     = 2_000     // copies counted
	MostConditions = 800       // of all replies
	MostDepth      = 8         // of one condition within another
	MostCells      = 500_000   // items × targets × solutions
	MostMarked     = 5_000     // cells with points of their own
	MostNames      = 20_000    // that stand in selectors and orders, all together
	mostSelections = 1_500_000 // items × selectors, those by tag counted for each tag
	mostLaneWork   = 300_000   // see laneWork
	mostFlowWork   = 2_000_000 // pieces × right cells of solutions with needs or full targets
)

// limits finds what a document has too much of. It is asked before anything that costs
// more than reading; ok is false where the rest is not to be looked at.
// Cost: linear in the document.
func (c *checker) limits() (ok bool) {
	before := len(c.faults)
	d := c.doc
	pieces, tags := 0, 0
	for i := range d.Items {
		pieces += d.Items[i].Copies
		tags += len(d.Items[i].Tags)
	}
	if pieces > MostPieces {
		c.fault("/items", "many-pieces", message.P{"n": pieces, "most": MostPieces})
	}
	if n := len(d.Items) * len(d.Targets) * len(d.Key.Solutions); n > MostCells {
		c.fault("/key/solutions", "many-cells", message.P{"items": len(d.Items), "targets": len(d.Targets), "solutions": len(d.Key.Solutions), "n": n, "most": MostCells})
	}
	if n := len(d.Marks.Cells); n > MostMarked {
		c.fault("/marks/cells", "many-marked", message.P{"n": n, "most": MostMarked})
	}
	names, selections := 0, 0
	asked := func(s Selector) {
		names += len(s.Items) + len(s.Tags) + len(s.Except)
		selections += len(d.Items)
		if len(s.Tags) > 0 {
			selections += tags
		}
	}
	for i := range d.Targets {
		asked(d.Targets[i].Lets)
	}
	lanes := 0
	for i := range d.Key.Solutions {
		s := &d.Key.Solutions[i]
		for _, sel := range s.Right {
			asked(sel)
		}
		for k := range s.Needs {
			asked(s.Needs[k].Of)
		}
		for k := range s.Orders {
			o := &s.Orders[k]
			names += 2 * len(o.Before)
			for _, tier := range o.Tiers {
				names += len(tier)
			}
			lanes += laneWork(len(o.Names()), len(o.Before) > 0, d.Marks.By == ByOrder && d.Marks.Measure == MeasurePosition)
		}
	}
	conditions, deepest := 0, 0
	for i := range d.Replies {
		if d.Replies[i].When != nil {
			d.Replies[i].When.survey(1, &conditions, &deepest, asked)
		}
	}
	if conditions > MostConditions {
		c.fault("/replies", "many-conditions", message.P{"n": conditions, "most": MostConditions})
	}
	if deepest > MostDepth {
		c.fault("/replies", "deep-conditions", message.P{"n": deepest, "most": MostDepth})
	}
	if names > MostNames {
		c.fault("/key", "many-names", message.P{"n": names, "most": MostNames})
	}
	if selections > mostSelections {
		c.fault("/key", "many-selections", message.P{"n": selections, "most": mostSelections})
	}
	if lanes > mostLaneWork {
		c.fault("/key", "long-lanes", nil)
	}
	return len(c.faults) == before
}

// laneWork is what judging a lane costs, in steps: a chain is looked at pair by pair; with
// pairs of before, the places in all orders that keep them are looked at set by set.
func laneWork(n int, pairs, position bool) int {
	switch {
	case pairs && position:
		return 4 << min(n, order.MostPairs)
	case pairs:
		return 8 * n * n
	}
	return n * n
}

// survey counts a condition with those within it, and how deep they go.
func (w *Condition) survey(depth int, n, deepest *int, asked func(Selector)) {
	*n++
	*deepest = max(*deepest, depth)
	if w.Piece != nil {
		asked(*w.Piece)
	}
	for _, list := range [][]Condition{w.All, w.Any, w.None} {
		for i := range list {
			list[i].survey(depth+1, n, deepest, asked)
		}
	}
}

// flow adds up what solving a solution costs where pieces stand in each other's way.
func (c *checker) flow(n int, s *Solution, right map[string]func(*Item) bool) {
	cells, full := 0, len(s.Needs) > 0
	for id, is := range right {
		t := &c.doc.Targets[c.targets[id]]
		full = full || t.Holds > 0
		for i := range c.doc.Items {
			if is(&c.doc.Items[i]) {
				cells++
			}
		}
	}
	if !full {
		return
	}
	pieces := 0
	for i := range c.doc.Items {
		pieces += c.doc.Items[i].Copies
	}
	if c.work += pieces * cells; c.work > mostFlowWork && c.work-pieces*cells <= mostFlowWork {
		c.fault(at("/key/solutions", n), "many-needs", message.P{"pieces": pieces, "cells": cells})
	}
}
