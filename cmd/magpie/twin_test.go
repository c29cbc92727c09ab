package main

import (
	"fmt"
	"slices"
	"sort"
	"strings"
)

// This file judges activities a second time, slowly and by other means: sets are
// tried one by one, valid arrangements are found by trying all, names are strings
// and numbers big rationals. The core must agree with it.

// spot is a piece in a target.
type spot struct {
	piece string
	since int
}

// table is an arrangement: what is in each target, what is loose, what is held.
type table struct {
	in    map[string][]spot
	loose map[string][2]int
	held  map[string]bool
}

func newTable() table {
	return table{map[string][]spot{}, map[string][2]int{}, map[string]bool{}}
}

func (t table) copy() table {
	c := newTable()
	for k, v := range t.in {
		c.in[k] = slices.Clone(v)
	}
	for k, v := range t.loose {
		c.loose[k] = v
	}
	for k, v := range t.held {
		c.held[k] = v
	}
	return c
}

func (t table) where(piece string) (target string, index int) {
	for id, list := range t.in {
		for i, s := range list {
			if s.piece == piece {
				return id, i
			}
		}
	}
	return "", -1
}

func (t table) atHome(piece string) bool {
	_, loose := t.loose[piece]
	target, _ := t.where(piece)
	return target == "" && !loose
}

func (t table) take(piece string) {
	if id, i := t.where(piece); id != "" {
		t.in[id] = slices.Delete(slices.Clone(t.in[id]), i, i+1)
	}
	delete(t.loose, piece)
}

func itemOf(piece string) string {
	id, _, _ := strings.Cut(piece, "~")
	return id
}

func (d *twinDoc) pieces() []string {
	var out []string
	for _, it := range d.Items {
		out = append(out, it.ID)
		for k := 2; k <= it.Copies; k++ {
			out = append(out, fmt.Sprintf("%s~%d", it.ID, k))
		}
	}
	return out
}

func (d *twinDoc) item(id string) twinItem {
	return d.Items[slices.IndexFunc(d.Items, func(it twinItem) bool { return it.ID == id })]
}

func (d *twinDoc) target(id string) twinTarget {
	return d.Targets[slices.IndexFunc(d.Targets, func(t twinTarget) bool { return t.ID == id })]
}

func (d *twinDoc) weight(item, target string) int64 {
	if c, ok := d.Marks.Cells[item+"/"+target]; ok && c.Weight != nil {
		return int64(*c.Weight)
	}
	return int64(d.item(item).Weight)
}

func (d *twinDoc) penalty(item, target string) int64 {
	if c, ok := d.Marks.Cells[item+"/"+target]; ok && c.Penalty != nil {
		return int64(*c.Penalty)
	}
	return int64(d.item(item).Penalty)
}

func (d *twinDoc) cell(s twinSolution, item, target string) bool {
	right, ok := s.Right[target]
	return ok && right.picks(item) && d.target(target).Lets.picks(item)
}

func (d *twinDoc) governed(s twinSolution, item string) bool {
	return slices.ContainsFunc(s.Needs, func(n twinNeed) bool { return n.Of.picks(item) && d.cell(s, item, n.Target) })
}

func (d *twinDoc) needed(s twinSolution, item string) bool {
	return !d.governed(s, item) && slices.ContainsFunc(d.Targets, func(t twinTarget) bool { return d.cell(s, item, t.ID) })
}

func (o twinOrder) names() []string {
	var out []string
	for _, list := range o.Tiers {
		out = append(out, list...)
	}
	for _, p := range o.Before {
		for _, id := range p {
			if !slices.Contains(out, id) {
				out = append(out, id)
			}
		}
	}
	return out
}

// before by walking: some way leads from a to b.
func (o twinOrder) before(a, b string) bool {
	next := func(x string) []string {
		var out []string
		for i, tier := range o.Tiers {
			if slices.Contains(tier, x) {
				for _, later := range o.Tiers[i+1:] {
					out = append(out, later...)
				}
			}
		}
		for _, p := range o.Before {
			if p[0] == x {
				out = append(out, p[1])
			}
		}
		return out
	}
	seen, todo := map[string]bool{}, next(a)
	for len(todo) > 0 {
		x := todo[0]
		todo = todo[1:]
		if x == b {
			return true
		}
		if !seen[x] {
			seen[x] = true
			todo = append(todo, next(x)...)
		}
	}
	return false
}

// look is an arrangement under a solution.
type look struct {
	right, wrong, missing []string
	states                map[string]string
	valid                 bool
}

func (d *twinDoc) look(s twinSolution, a table) look {
	l := look{states: map[string]string{}}
	isRight := map[string]bool{}
	needsHold := true
	badTarget := map[string]bool{}
	for _, t := range d.Targets {
		for _, x := range a.in[t.ID] {
			isRight[x.piece] = d.cell(s, itemOf(x.piece), t.ID)
		}
	}
	for _, n := range s.Needs {
		var counted []spot
		for _, x := range a.in[n.Target] {
			if n.Of.picks(itemOf(x.piece)) && d.cell(s, itemOf(x.piece), n.Target) {
				counted = append(counted, x)
			}
		}
		if len(counted) < n.Min || n.Max != nil && len(counted) > *n.Max {
			needsHold, badTarget[n.Target] = false, true
		}
		if n.Max != nil && len(counted) > *n.Max {
			sort.Slice(counted, func(i, j int) bool {
				x, y := counted[i], counted[j]
				if a.held[x.piece] != a.held[y.piece] {
					return a.held[x.piece]
				}
				if wx, wy := d.weight(itemOf(x.piece), n.Target), d.weight(itemOf(y.piece), n.Target); wx != wy {
					return wx > wy
				}
				if x.since != y.since {
					return x.since < y.since
				}
				return x.piece < y.piece
			})
			for _, x := range counted[*n.Max:] {
				isRight[x.piece] = false
			}
		}
	}
	for _, o := range s.Orders {
		var list []spot
		for _, x := range a.in[o.Target] {
			if isRight[x.piece] {
				list = append(list, x)
			}
		}
		keep := d.largest(o, list, a.held)
		for i, x := range list {
			isRight[x.piece] = keep>>i&1 == 1
		}
	}
	count := map[string]int{}
	for _, t := range d.Targets {
		for _, x := range a.in[t.ID] {
			if isRight[x.piece] {
				l.right = append(l.right, x.piece)
				count[itemOf(x.piece)]++
			} else {
				l.wrong = append(l.wrong, x.piece)
			}
		}
	}
	for _, it := range d.Items {
		if d.needed(s, it.ID) && count[it.ID] < it.Copies {
			l.missing = append(l.missing, it.ID)
		}
	}
	for _, t := range d.Targets {
		good, cells, lacks := 0, false, false
		for _, x := range a.in[t.ID] {
			if isRight[x.piece] {
				good++
			}
		}
		for _, it := range d.Items {
			if d.cell(s, it.ID, t.ID) {
				cells = true
				lacks = lacks || slices.Contains(l.missing, it.ID)
			}
		}
		switch {
		case cells && good == len(a.in[t.ID]) && !badTarget[t.ID] && !lacks:
			l.states[t.ID] = "right"
		case len(a.in[t.ID]) == 0:
			l.states[t.ID] = "empty"
		case good > 0:
			l.states[t.ID] = "part"
		default:
			l.states[t.ID] = "wrong"
		}
	}
	l.valid = needsHold && len(l.wrong) == 0 && len(l.missing) == 0
	slices.Sort(l.right)
	slices.Sort(l.wrong)
	slices.Sort(l.missing)
	return l
}

// largest tries all subsets of what stands in a lane.
func (d *twinDoc) largest(o twinOrder, list []spot, held map[string]bool) int {
	byAge := make([]int, len(list))
	for i := range byAge {
		byAge[i] = i
	}
	sort.SliceStable(byAge, func(i, j int) bool { return list[byAge[i]].since < list[byAge[j]].since })
	best, bestRank := 0, ""
	for _, mustHold := range []bool{true, false} { // held pieces may contradict each other
		for set := range 1 << len(list) {
			ok := true
			for i, x := range list {
				ok = ok && (!mustHold || !held[x.piece] || set>>i&1 == 1)
				for j := range i {
					if set>>i&1 == 1 && set>>j&1 == 1 && o.before(itemOf(x.piece), itemOf(list[j].piece)) {
						ok = false
					}
				}
			}
			if !ok {
				continue
			}
			rank, size := "", 0
			for _, i := range byAge {
				rank += string('0' + rune(set>>i&1))
				size += set >> i & 1
			}
			if rank = fmt.Sprintf("%03d", size) + rank; rank > bestRank {
				best, bestRank = set, rank
			}
		}
		if bestRank != "" {
			break
		}
	}
	return best
}
