// Package ways counts the valid arrangements of an activity, and goes through them
// one by one.
//
//	n := ways.Count(parts)
//	n.Value.String() // "4": this lamp or that, with one reflector or the other
//
// Pieces of one item are alike, unordered targets are sets, lanes are sequences,
// nothing is loose, targets hold no more than they can, and what is valid under
// two solutions counts once.
//
// A solution is a [system]: which cells pieces may be in, which items must be
// placed with all their pieces, and sums of cells that have a least and a most. Being
// valid under two solutions is a system too, with the cells of both and the
// demands of either, so that solutions are put together by inclusion and exclusion;
// systems that come out the same, or that nothing satisfies, are dropped on the way.
//
// A system is counted cell by cell, items that are alike in it together (network.go).
// That is quick where items come in kinds (by tag) or targets have little to do
// with each other, as they do in what people make; the problem as such is as hard
// as the permanent of a matrix (Valiant, The complexity of computing the permanent,
// 1979), so past a fixed amount of work the count is a lower bound.
package ways

import (
	"context"
	"math/big"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
)

// Number is a count: exact, or at least so many.
type Number struct {
	Value *big.Int
	Exact bool
}

// most is how many systems are kept while solutions are put together.
const most = 2000

// Count is how many valid arrangements there are. Cost: see the package; at most
// some millions of steps, the same on every machine. Once ctx is over, it ends: what
// comes out then is a lower bound that says little.
func Count(ctx context.Context, parts *activity.Parts) Number {
	c := counter{ctx: ctx, parts: parts, left: effort, cached: map[string]Number{}}
	// The number wanted is the sum of the systems' counts, times their factors.
	factors := map[string]int{}
	systems := map[string]*system{}
	var names []string // in the order in which they came: the sum is the same each time
	add := func(s *system, factor int) {
		name := s.name()
		if systems[name] == nil {
			systems[name] = s
			names = append(names, name)
		}
		factors[name] += factor
	}
	best := Number{new(big.Int), true} // of a single solution
	whole := true
	for i := range parts.Doc.Key.Solutions {
		s := newSystem(answer.New(parts, i))
		if s == nil {
			continue
		}
		n := c.count(s)
		if n.Value.Cmp(best.Value) > 0 {
			best.Value = n.Value
		}
		whole = whole && n.Exact
		if n.Value.Sign() == 0 && n.Exact || !whole {
			continue
		}
		type term struct {
			system *system
			factor int
		}
		more := []term{{s, 1}}
		for _, name := range names {
			if factors[name] == 0 {
				continue
			}
			both := systems[name].and(s)
			if both == nil {
				continue
			}
			if n := c.count(both); n.Value.Sign() > 0 || !n.Exact {
				more = append(more, term{both, -factors[name]})
			}
		}
		for _, t := range more {
			add(t.system, t.factor)
		}
		whole = whole && len(names) <= most
	}
	sum := new(big.Int)
	for _, name := range names {
		n := c.count(systems[name])
		whole = whole && (n.Exact || factors[name] == 0)
		sum.Add(sum, n.Value.Mul(n.Value, big.NewInt(int64(factors[name]))))
	}
	if !whole {
		return Number{best.Value, false}
	}
	return Number{sum, true}
}

// effort is how many steps a count may take.
const effort = 10_000_000

// counter counts systems, each once, as long as its effort lasts.
type counter struct {
	ctx    context.Context
	parts  *activity.Parts
	left   int
	cached map[string]Number
}

func (c *counter) count(s *system) Number {
	name := s.name()
	if n, ok := c.cached[name]; ok {
		return Number{new(big.Int).Set(n.Value), n.Exact}
	}
	n := Number{s.lanes(), true}
	if n.Value == nil {
		n = Number{big.NewInt(1), false}
	}
	for _, part := range s.networks(c.parts) {
		if n.Value.Sign() == 0 {
			break
		}
		m := part.count(c.ctx, &c.left)
		n.Value.Mul(n.Value, m.Value)
		n.Exact = n.Exact && m.Exact
	}
	c.cached[name] = Number{new(big.Int).Set(n.Value), n.Exact}
	return n
}
