package main

import (
	"fmt"
	"math/big"
	"slices"
	"sort"
	"strings"
)

// This file judges activities a second time, slowly and by other means: sets are
// tried one by one, valid arrangements are found by trying all, names are strings
// and numbers big rationals. The core must agree with it.

type twinDoc struct {
	Format  string       `json:"format"`
	Version int          `json:"version"`
	ID      string       `json:"id"`
	Items   []twinItem   `json:"items"`
	Targets []twinTarget `json:"targets"`
	Key     struct {
		Solutions []twinSolution `json:"solutions"`
	} `json:"key"`
	Replies []twinReply `json:"replies,omitempty"`
	Hints   []twinHint  `json:"hints,omitempty"`
	Play    twinPlay    `json:"play"`
	Marks   twinMarks   `json:"marks"`
	avails  []*big.Rat  // what each solution makes available, once it is known
}

type twinItem struct {
	ID        string `json:"id"`
	Copies    int    `json:"copies"`
	Weight    int    `json:"weight"`
	Penalty   int    `json:"penalty"`
	OffTarget string `json:"offTarget,omitempty"`
}

type twinSelector struct {
	All   bool     `json:"all,omitempty"`
	Items []string `json:"items,omitempty"`
}

func (s twinSelector) picks(item string) bool { return s.All || slices.Contains(s.Items, item) }

type twinTarget struct {
	ID       string       `json:"id"`
	Frame    twinFrame    `json:"frame"`
	Holds    int          `json:"holds,omitempty"`
	Lets     twinSelector `json:"lets"`
	WhenFull string       `json:"whenFull"`
	Ordered  bool         `json:"ordered"`
	Weight   int          `json:"weight"`
}

type twinFrame struct{ X, Y, W, H int }

func (f twinFrame) MarshalJSON() ([]byte, error) {
	return fmt.Appendf(nil, `{"x":%d,"y":%d,"w":%d,"h":%d}`, f.X, f.Y, f.W, f.H), nil
}

type twinSolution struct {
	Credit int                     `json:"credit"`
	Right  map[string]twinSelector `json:"right"`
	Needs  []twinNeed              `json:"needs,omitempty"`
	Orders []twinOrder             `json:"orders,omitempty"`
}

type twinNeed struct {
	Target string       `json:"target"`
	Of     twinSelector `json:"of"`
	Min    int          `json:"min"`
	Max    *int         `json:"max,omitempty"`
}

type twinOrder struct {
	Target string      `json:"target"`
	Tiers  [][]string  `json:"tiers,omitempty"`
	Before [][2]string `json:"before,omitempty"`
}

type twinHint struct {
	Text  string `json:"text,omitempty"`
	Place bool   `json:"place,omitempty"`
}

type twinPlay struct {
	Check       string `json:"check"`
	Attempts    int    `json:"attempts"`
	WrongPieces string `json:"wrongPieces"`
	RightPieces string `json:"rightPieces"`
	CheckWhen   string `json:"checkWhen"`
	OffTarget   string `json:"offTarget"`
	Refusals    string `json:"refusals"`
	Deal        string `json:"deal"`
	TimeLimit   int    `json:"timeLimit"`
	Undo        bool   `json:"undo"`
	Reset       bool   `json:"reset"`
	Restart     bool   `json:"restart"`
}

type twinMarks struct {
	By       string              `json:"by"`
	Points   float64             `json:"points"`
	Shares   []int               `json:"shares"`
	HintCost int                 `json:"hintCost"`
	Negative bool                `json:"negative"`
	Keep     string              `json:"keep"`
	Measure  string              `json:"measure"`
	Cells    map[string]twinCell `json:"cells,omitempty"`
}

type twinCell struct {
	Weight  *int `json:"weight,omitempty"`
	Penalty *int `json:"penalty,omitempty"`
}

type twinReply struct {
	ID     string         `json:"id"`
	Moment string         `json:"moment"`
	When   map[string]any `json:"when,omitempty"`
	Also   bool           `json:"also,omitempty"`
	Finish bool           `json:"finish,omitempty"`
}

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
