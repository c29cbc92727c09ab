package qti

import (
	"fmt"
	"strconv"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// Parts of response processing.

func variable(id string) *node { return el("qti-variable", at("identifier", id)) }

func base(kind, value string) *node {
	return el("qti-base-value", at("base-type", kind), txt(value))
}

func whole(n int) *node { return base("integer", strconv.Itoa(n)) }

func set(id string, value *node) *node {
	return el("qti-set-outcome-value", at("identifier", id), value)
}

func when(condition *node, do ...*node) *node {
	return el("qti-response-condition", nil, el("qti-response-if", nil, append([]*node{condition}, do...)...))
}

func and(list ...*node) *node {
	if len(list) == 0 {
		return base("boolean", "true")
	}
	return el("qti-and", nil, list...)
}

func not(x *node) *node { return el("qti-not", nil, x) }

func or(list ...*node) *node {
	if len(list) == 0 {
		return base("boolean", "false")
	}
	return el("qti-or", nil, list...)
}

func plus(id string, n int) *node { return set(id, el("qti-sum", nil, variable(id), whole(n))) }

func exactly(a, b *node) *node {
	return el("qti-equal", at("tolerance-mode", "exact"), a, b)
}

func some(least, most int, list []*node) *node {
	switch {
	case len(list) == 0:
		return base("boolean", strconv.FormatBool(least <= 0))
	case len(list) == 1 && least == 1:
		return list[0]
	}
	return el("qti-any-n", at("min", strconv.Itoa(least), "max", strconv.Itoa(min(most, len(list)))), list...)
}

// member says that a choice is in a target.
func (x *exporting) member(c, t int) *node {
	return el("qti-member", nil, base("directedPair", x.choices[c].id+" "+x.target[t]), variable(response))
}

// members are those of an item's choices in a target.
func (x *exporting) members(i, t int) (list []*node) {
	for _, c := range x.of[i] {
		list = append(list, x.member(c, t))
	}
	return list
}

// cells are the cells of a solution that are right and satisfy a condition.
func (x *exporting) cells(s *answer.Solution, is func(t, i int) bool) (list []*node) {
	for t := range x.doc.Targets {
		for _, i := range s.ItemsAt(t) {
			if is(t, i) {
				list = append(list, x.members(i, t)...)
			}
		}
	}
	return list
}

// targetOutcome says of a target whether it is right under a solution, where marks are by target.
func targetOutcome(t, k int) string { return fmt.Sprintf("TARGET_%d_%d", t+1, k+1) }

func nth(name string, k int) string { return fmt.Sprintf("%s_%d", name, k+1) }

// processing is how a response is judged, with the outcomes that it sets.
func (x *exporting) processing() (*node, []*node) {
	declare := func(id, kind, value string) *node {
		n := el("qti-outcome-declaration", at("identifier", id, "cardinality", "single", "base-type", kind))
		if value != "" {
			n.add(el("qti-default-value", nil, el("qti-value", nil, txt(value))))
		}
		return n
	}
	points := x.doc.Marks.Points
	outcomes := []*node{declare(score, "float", "0").addAttr("normal-maximum", points.String()), declare(maximum, "float", points.String()), declare(outcome, "identifier", "wrong")}
	if len(x.doc.Replies) > 0 {
		outcomes = append(outcomes, el("qti-outcome-declaration", at("identifier", "FEEDBACK", "cardinality", "multiple", "base-type", "identifier")))
	}
	var do []*node
	for k, s := range x.judge.Solutions {
		counts := []string{"COUNT", "EARNED", "VALUE"}
		if x.mapped != nil {
			counts = counts[:1]
		}
		for _, name := range counts {
			outcomes = append(outcomes, declare(nth(name, k), "integer", "0"))
		}
		outcomes = append(outcomes, declare(nth("VALID", k), "boolean", "false"))
		for t := range x.doc.Targets {
			if x.doc.Marks.By == activity.ByTarget && x.judge.Unit(k, t) && x.kind != ordering {
				outcomes = append(outcomes, declare(targetOutcome(t, k), "boolean", "false"))
			}
		}
		if x.kind == ordering {
			for a := range s.Lane(x.lane).Items {
				outcomes = append(outcomes, declare(fmt.Sprintf("PLACE_%d", a+1), "integer", "0"))
			}
			do = append(do, x.orderSolution(k, s)...)
		} else {
			do = append(do, x.solution(k, s)...)
		}
		if x.mapped == nil {
			do = append(do, x.value(k)...)
		}
	}
	if x.mapped != nil {
		do = append(do, set(score, el("qti-map-response", at("identifier", response))))
		do = append(do, outcomeRules([]*node{variable("VALID_1")}, []*node{x.someRight(x.judge.Solutions[0])}))
	} else {
		do = append(do, x.result()...)
		outcomes = append(outcomes, declare("BEST", "integer", "0"))
	}
	empty := x.judge.Judge(placing.New(x.parts), marks.Now{Attempt: 1}, nil)
	p := el("qti-response-processing", nil, el("qti-response-condition", nil,
		el("qti-response-if", nil, el("qti-is-null", nil, variable(response)), set(score, base("float", empty.Score.String())), set(outcome, base("identifier", string(empty.Outcome)))),
		el("qti-response-else", nil, do...)))
	return p.add(x.feedbackRules()...), outcomes
}

// available is what a solution makes available, as a whole number: weights are.
func available(j *marks.Judge, k int) int {
	return int(j.Available(k).Round()) / 100
}

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// solution counts what is right and earned under one solution, and says whether the response is
// valid: all that it asks for, and nothing beyond.
func (x *exporting) solution(k int, s *answer.Solution) (do []*node) {
	d := x.doc
	count, earned := nth("COUNT", k), nth("EARNED", k)
	byItem := (d.Marks.By == activity.ByItem || d.Marks.By == activity.ByOrder) && x.mapped == nil
	for t := range d.Targets {
		byLane := d.Marks.By == activity.ByOrder && s.Lane(t) != nil
		for i := range d.Items {
			if !x.parts.LetsIn(t, i) {
				continue
			}
			for _, m := range x.members(i, t) {
				switch {
				case s.RightCell(t, i):
					then := []*node{plus(count, 1)}
					if w := x.parts.Weight(t, i); byItem && !byLane && w > 0 && !x.capped(s, t, i) {
						then = append(then, plus(earned, w))
					}
					do = append(do, when(m, then...))
				case d.Marks.By != activity.ByWhole && x.parts.Penalty(t, i) > 0 && x.mapped == nil:
					do = append(do, when(m, plus(earned, -x.parts.Penalty(t, i))))
				}
			}
		}
		if byLane {
			do = append(do, when(and(x.cells(s, func(u, _ int) bool { return u == t })...), plus(earned, d.Targets[t].Weight)))
		}
	}
	for n, need := range s.Needs() {
		do = append(do, x.surplus(s, n, need, earned, byItem)...)
	}
	// All that is asked for.
	var asks []*node
	for i := range d.Items {
		if s.Needed(i) {
			asks = append(asks, x.allOf(s, i))
		}
	}
	for n := range s.Needs() {
		asks = append(asks, x.met(s, n))
	}
	asks = append(asks, exactly(el("qti-container-size", nil, variable(response)), variable(count)))
	do = append(do, when(and(asks...), set(nth("VALID", k), base("boolean", "true"))))
	switch d.Marks.By {
	case activity.ByWhole:
		do = append(do, when(variable(nth("VALID", k)), plus(earned, 1)))
	case activity.ByTarget:
		for t := range d.Targets {
			if x.judge.Unit(k, t) {
				do = append(do, when(x.targetRight(s, t), set(targetOutcome(t, k), base("boolean", "true")), plus(earned, d.Targets[t].Weight)))
			}
		}
	}
	return do
}

// allOf says that all pieces of an item are where they are right.
func (x *exporting) allOf(s *answer.Solution, i int) *node {
	n := x.doc.Items[i].Copies
	return some(n, n, x.cells(s, func(_, j int) bool { return j == i }))
}

// counted are the cells that a need counts.
func (x *exporting) counted(s *answer.Solution, n int) []*node {
	return x.cells(s, func(t, i int) bool { return s.CountedBy(t, i) == n })
}

// met says that there is as much of what a need counts as it asks for.
func (x *exporting) met(s *answer.Solution, n int) *node {
	list, need := x.counted(s, n), s.Needs()[n]
	if need.Most < 0 {
		return some(need.Least, len(list), list)
	}
	return some(need.Least, need.Most, list)
}

// capped says whether a right cell is one of a need that may be exceeded: then what is beyond
// its most is wrong.
func (x *exporting) capped(s *answer.Solution, t, i int) bool {
	n := s.CountedBy(t, i)
	if n < 0 {
		return false
	}
	most := s.Needs()[n].Most
	return most >= 0 && most < len(x.counted(s, n))
}

// surplus counts what pieces of a need earn, of which those beyond its most are wrong.
func (x *exporting) surplus(s *answer.Solution, n int, need answer.Need, earned string, byItem bool) (do []*node) {
	list := x.counted(s, n)
	if need.Most < 0 || need.Most >= len(list) || x.doc.Marks.By == activity.ByWhole {
		return nil
	}
	weight, penalty, even := -1, -1, true
	for i := range x.doc.Items {
		if s.RightCell(need.Target, i) && s.CountedBy(need.Target, i) == n {
			w, p := x.parts.Weight(need.Target, i), x.parts.Penalty(need.Target, i)
			even = even && (weight < 0 || w == weight) && (penalty < 0 || p == penalty)
			weight, penalty = w, p
		}
	}
	if !even {
		x.lose(x.doc.Targets[need.Target].ID, "surplus", "Pieces beyond what “%s” needs count alike there, whatever each is worth.", x.doc.Targets[need.Target].ID)
	}
	for k := 1; k <= len(list); k++ {
		n := -penalty
		if k <= need.Most {
			if n = weight; !byItem {
				n = 0
			}
		}
		if n != 0 {
			do = append(do, when(some(k, len(list), list), plus(earned, n)))
		}
	}
	return do
}

// targetRight says that everything in a target is right, and nothing is missing there.
func (x *exporting) targetRight(s *answer.Solution, t int) *node {
	var asks, wrong []*node
	for i := range x.doc.Items {
		switch {
		case !s.RightCell(t, i):
			if x.parts.LetsIn(t, i) {
				wrong = append(wrong, x.members(i, t)...)
			}
		case s.Needed(i):
			asks = append(asks, x.allOf(s, i))
		}
	}
	for n, need := range s.Needs() {
		if need.Target == t {
			asks = append(asks, x.met(s, n))
		}
	}
	if len(wrong) > 0 {
		asks = append(asks, not(or(wrong...)))
	}
	return and(asks...)
}

// value makes the credited share of a solution, in parts of a hundred times what is common to
// all: whole numbers, so that nothing is rounded before the end.
func (x *exporting) value(k int) []*node {
	s := x.judge.Solutions[k]
	valid, earned, value := nth("VALID", k), nth("EARNED", k), nth("VALUE", k)
	a := available(x.judge, k)
	if a == 0 {
		return []*node{when(variable(valid), set(value, el("qti-product", nil, whole(s.Credit), whole(x.scale()))))}
	}
	steps := x.steps(k)
	least := 0
	if x.doc.Marks.Negative {
		least = -steps
	}
	clamped := el("qti-min", nil, el("qti-max", nil, variable(earned), whole(least)), whole(steps))
	return []*node{set(value, el("qti-product", nil, clamped, whole(s.Credit), whole(x.scale()/steps)))}
}

// scale is what the shares of all solutions have in common.
func (x *exporting) scale() int {
	common := 1
	for k := range x.judge.Solutions {
		if steps := x.steps(k); steps > 0 {
			common = common / gcd(common, steps) * steps
		}
	}
	return common
}

// result takes the best solution, and rounds once, half away from zero.
func (x *exporting) result() (do []*node) {
	var values, valids, parts []*node
	for k, s := range x.judge.Solutions {
		values = append(values, variable(nth("VALUE", k)))
		valids = append(valids, variable(nth("VALID", k)))
		any := x.someRight(s)
		if x.kind == ordering {
			any = base("boolean", "true") // whatever is there is partly in order
		}
		parts = append(parts, and(exactly(variable(nth("VALUE", k)), variable("BEST")), any))
	}
	do = append(do, set("BEST", el("qti-max", nil, values...)))
	hundredths, of := int(x.doc.Marks.Points), 100*x.scale()
	g := gcd(hundredths, of)
	if g > 0 {
		hundredths, of = hundredths/g, of/g
	}
	rounded := func(best *node) *node {
		return el("qti-divide", nil, el("qti-integer-divide", nil, el("qti-sum", nil, el("qti-product", nil, best, whole(2*hundredths)), whole(of)), whole(2*of)), base("float", "100"))
	}
	below := rounded(el("qti-subtract", nil, whole(0), variable("BEST")))
	do = append(do, el("qti-response-condition", nil,
		el("qti-response-if", nil, el("qti-lt", nil, variable("BEST"), whole(0)), set(score, el("qti-subtract", nil, base("float", "0"), below))),
		el("qti-response-else", nil, set(score, rounded(variable("BEST"))))))
	return append(do, outcomeRules(valids, parts))
}

// outcomeRules say what the outcome is: right where one of the first holds, else part where one of
// the others does, else wrong.
func outcomeRules(valids, parts []*node) *node {
	return el("qti-response-condition", nil,
		el("qti-response-if", nil, or(valids...), set(outcome, base("identifier", "right"))),
		el("qti-response-else-if", nil, or(parts...), set(outcome, base("identifier", "part"))),
		el("qti-response-else", nil, set(outcome, base("identifier", "wrong"))))
}

// someRight says that at least one piece is right.
func (x *exporting) someRight(s *answer.Solution) *node {
	return or(x.cells(s, func(t, i int) bool { n := s.CountedBy(t, i); return n < 0 || s.Needs()[n].Most != 0 })...)
}
