package main

import (
	"fmt"
	"math/big"
	"slices"
)

func rat(n int64) *big.Rat { return big.NewRat(n, 1) }

// measure of a lane by trying all sequences where that is asked.
func (d *twinDoc) measure(o twinOrder, a table, l look) *big.Rat {
	names := o.names()
	var q []string
	some := false
	for _, x := range a.in[o.Target] {
		q = append(q, itemOf(x.piece))
		some = some || slices.Contains(names, itemOf(x.piece))
	}
	if !some {
		return rat(0)
	}
	n := int64(len(names))
	known := func(x string) bool { return slices.Contains(names, x) }
	switch d.Marks.Measure {
	case "run":
		right := int64(0)
		for _, x := range a.in[o.Target] {
			if slices.Contains(l.right, x.piece) {
				right++
			}
		}
		return big.NewRat(right, n)
	case "pairs":
		all, got := int64(0), int64(0)
		for _, x := range names {
			for _, y := range names {
				if o.before(x, y) {
					all++
					if i, j := slices.Index(q, x), slices.Index(q, y); i >= 0 && j > i {
						got++
					}
				}
			}
		}
		if all == 0 {
			return rat(1)
		}
		return big.NewRat(got, all)
	case "neighbours":
		if n == 1 {
			return rat(1)
		}
		got := int64(0)
		for i := 1; i < len(q); i++ {
			x, y := q[i-1], q[i]
			between := slices.ContainsFunc(names, func(c string) bool { return o.before(x, c) && o.before(c, y) })
			if known(x) && known(y) && !o.before(y, x) && !between {
				got++
			}
		}
		return big.NewRat(got, n-1)
	}
	best := int64(0)
	var try func(left, done []string)
	try = func(left, done []string) {
		if len(left) == 0 {
			agree := int64(0)
			for k := range min(len(q), len(done)) {
				if q[k] == done[k] {
					agree++
				}
			}
			best = max(best, agree)
			return
		}
		for i, x := range left {
			rest := slices.Delete(slices.Clone(left), i, i+1)
			if !slices.ContainsFunc(rest, func(y string) bool { return o.before(y, x) }) {
				try(rest, append(slices.Clone(done), x))
			}
		}
	}
	try(names, nil)
	return big.NewRat(best, n)
}

func (d *twinDoc) orderOf(s twinSolution, target string) (twinOrder, bool) {
	for _, o := range s.Orders {
		if o.Target == target && d.Marks.By == "order" {
			return o, true
		}
	}
	return twinOrder{}, false
}

// units are the targets that count when marks are by target.
func (d *twinDoc) units(s twinSolution) []string {
	empty := d.look(s, newTable())
	var out []string
	for _, t := range d.Targets {
		has := slices.ContainsFunc(d.Items, func(it twinItem) bool { return d.cell(s, it.ID, t.ID) })
		if has && empty.states[t.ID] != "right" {
			out = append(out, t.ID)
		}
	}
	return out
}

// tries is the history where each placement is judged; nil elsewhere.
type tries struct {
	item, target map[string]int
	all          int
	charged      int64
}

// earned is what an arrangement earns under a solution, plain and with shares.
func (d *twinDoc) earned(s twinSolution, a table, h *tries) (plain, shared *big.Rat) {
	l := d.look(s, a)
	plain, shared = rat(0), rat(0)
	share := func(wrong int) *big.Rat {
		return big.NewRat(int64(d.Marks.Shares[min(wrong, len(d.Marks.Shares)-1)]), 100)
	}
	count := tries{item: map[string]int{}, target: map[string]int{}}
	if h != nil {
		count = *h
	}
	add := func(v *big.Rat, wrong int) {
		plain.Add(plain, v)
		shared.Add(shared, new(big.Rat).Mul(v, share(wrong)))
	}
	if d.Marks.By == "whole" {
		if l.valid {
			add(rat(1), count.all)
		}
		return plain, shared
	}
	if d.Marks.By == "target" {
		for _, id := range d.units(s) {
			if l.states[id] == "right" {
				add(rat(int64(d.target(id).Weight)), count.target[id])
			}
		}
	}
	for _, t := range d.Targets {
		o, lane := d.orderOf(s, t.ID)
		if lane {
			add(new(big.Rat).Mul(rat(int64(t.Weight)), d.measure(o, a, l)), count.target[t.ID])
		}
		for _, x := range a.in[t.ID] {
			it := itemOf(x.piece)
			if slices.Contains(l.right, x.piece) {
				if d.Marks.By != "target" && !lane {
					add(rat(d.weight(it, t.ID)), count.item[it])
				}
			} else if h == nil && !(lane && d.cell(s, it, t.ID)) {
				plain.Sub(plain, rat(d.penalty(it, t.ID)))
			}
		}
	}
	if h != nil {
		plain.Sub(plain, rat(h.charged))
		shared.Sub(shared, rat(h.charged))
	}
	return plain, shared
}

// available tries every arrangement that the targets would take; nil where none is
// valid.
func (d *twinDoc) available(s twinSolution) *big.Rat {
	var best *big.Rat
	pieces := d.pieces()
	a := newTable()
	var try func(int)
	try = func(i int) {
		if i == len(pieces) {
			inOrder := a.copy()
			for _, o := range s.Orders { // the order of a lane can always be kept
				slices.SortStableFunc(inOrder.in[o.Target], func(x, y spot) int {
					switch {
					case o.before(itemOf(x.piece), itemOf(y.piece)):
						return -1
					case o.before(itemOf(y.piece), itemOf(x.piece)):
						return 1
					}
					return 0
				})
				inOrder.in[o.Target] = topological(o, inOrder.in[o.Target])
			}
			if d.look(s, inOrder).valid {
				if v, _ := d.earned(s, inOrder, nil); best == nil || v.Cmp(best) > 0 {
					best = v
				}
			}
			return
		}
		try(i + 1)
		for _, t := range d.Targets {
			if t.Lets.picks(itemOf(pieces[i])) && (t.Holds == 0 || len(a.in[t.ID]) < t.Holds) {
				a.in[t.ID] = append(a.in[t.ID], spot{pieces[i], 1})
				try(i + 1)
				a.in[t.ID] = a.in[t.ID][:len(a.in[t.ID])-1]
			}
		}
	}
	try(0)
	if best == nil {
		return nil
	}
	if d.Marks.By == "target" {
		best = rat(0)
		for _, id := range d.units(s) {
			best.Add(best, rat(int64(d.target(id).Weight)))
		}
	}
	if d.Marks.By == "whole" {
		best = rat(1)
	}
	return best
}

func topological(o twinOrder, list []spot) []spot {
	var out []spot
	for len(list) > 0 {
		for i, x := range list {
			if !slices.ContainsFunc(list, func(y spot) bool { return o.before(itemOf(y.piece), itemOf(x.piece)) }) {
				out = append(out, x)
				list = slices.Delete(slices.Clone(list), i, i+1)
				break
			}
		}
	}
	return out
}

// twinVerdict is a verdict with its unrounded value.
type twinVerdict struct {
	look
	outcome                     string
	solution, scoredBy          int
	earned, available, fraction *big.Rat
	value                       *big.Rat
	score, percent              string
}

func (d *twinDoc) judge(a table, attempt, hints int, h *tries) twinVerdict {
	floor := rat(0)
	if d.Marks.Negative {
		floor = rat(-1)
	}
	clamp := func(v *big.Rat) *big.Rat {
		if v.Cmp(floor) < 0 {
			return floor
		}
		if v.Cmp(rat(1)) > 0 {
			return rat(1)
		}
		return v
	}
	type account struct {
		look                    look
		plain, fraction, shared *big.Rat
	}
	var all []account
	var considered []int
	for i, s := range d.Key.Solutions {
		x := account{look: d.look(s, a)}
		var shared *big.Rat
		x.plain, shared = d.earned(s, a, h)
		credit := big.NewRat(int64(s.Credit), 100)
		if av := d.avail(i); av.Sign() == 0 {
			x.fraction = rat(0)
			if x.look.valid {
				x.fraction = credit
			}
			x.shared = x.fraction
		} else {
			x.fraction = new(big.Rat).Mul(clamp(new(big.Rat).Quo(x.plain, av)), credit)
			x.shared = new(big.Rat).Mul(clamp(new(big.Rat).Quo(shared, av)), credit)
		}
		if h == nil {
			x.shared = x.fraction
		}
		all = append(all, x)
		fits := true
		for piece, held := range a.held {
			fits = fits && (!held || slices.Contains(x.look.right, piece))
		}
		if fits {
			considered = append(considered, i)
		}
	}
	if len(considered) == 0 {
		for i := range all {
			considered = append(considered, i)
		}
	}
	best := considered[0]
	for _, i := range considered {
		x, y := all[i], all[best]
		switch {
		case x.look.valid != y.look.valid:
			if x.look.valid {
				best = i
			}
		case x.fraction.Cmp(y.fraction) != 0:
			if x.fraction.Cmp(y.fraction) > 0 {
				best = i
			}
		case len(x.look.right) > len(y.look.right):
			best = i
		}
	}
	scored := best
	for _, i := range considered {
		if all[i].shared.Cmp(all[scored].shared) > 0 {
			scored = i
		}
	}
	v := twinVerdict{look: all[best].look, solution: best, scoredBy: scored,
		earned: all[scored].plain, available: d.avail(scored), fraction: all[scored].fraction}
	v.value = all[scored].shared
	if h == nil && v.value.Sign() > 0 {
		v.value = new(big.Rat).Mul(v.value, big.NewRat(int64(d.Marks.Shares[min(attempt, len(d.Marks.Shares))-1]), 100))
	}
	v.value = clamp(new(big.Rat).Sub(v.value, big.NewRat(int64(hints*d.Marks.HintCost), 100)))
	points, _ := new(big.Rat).SetString(fmt.Sprint(d.Marks.Points))
	v.score = round(points.Mul(points, v.value))
	v.percent = round(new(big.Rat).Mul(rat(100), v.value))
	switch {
	case v.valid:
		v.outcome = "right"
	case len(v.right) > 0:
		v.outcome = "part"
	default:
		v.outcome = "wrong"
	}
	return v
}

// round by trying: to the nearer of two hundredths, away from zero when both are.
func round(r *big.Rat) string {
	sign := ""
	x := new(big.Rat).Set(r)
	if x.Sign() < 0 {
		sign = "-"
		x.Neg(x)
	}
	h := int64(0)
	for big.NewRat(2*h+1, 200).Cmp(x) <= 0 { // (h + 1/2) / 100
		h++
	}
	if h == 0 {
		sign = ""
	}
	return fmt.Sprintf("%s%d.%02d", sign, h/100, h%100)
}

func (v twinVerdict) line() map[string]any {
	states := map[string]any{}
	for id, s := range v.states {
		states[id] = s
	}
	return map[string]any{
		"outcome": v.outcome, "valid": v.valid, "solution": v.solution, "scoredBy": v.scoredBy,
		"right": orEmpty(v.right), "wrong": orEmpty(v.wrong), "missing": orEmpty(v.missing), "targets": states,
		"earned": v.earned.RatString(), "available": v.available.RatString(), "fraction": v.fraction.RatString(),
		"score": v.score, "percent": v.percent,
	}
}

func orEmpty(list []string) []string {
	if list == nil {
		return []string{}
	}
	return list
}

func (d *twinDoc) avail(i int) *big.Rat {
	if d.avails == nil {
		for _, s := range d.Key.Solutions {
			d.avails = append(d.avails, d.available(s))
		}
	}
	return d.avails[i]
}
