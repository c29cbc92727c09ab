package qti

import (
	"math"
	"slices"

	"keenmagpie/core/activity"
)

// member reads an expression that says that a pair is in the response.
func (m *importing) member(n *node) (p answerPair, ok bool) {
	if n.name != "qti-member" || n.child("qti-base-value") == nil || n.child("qti-variable") == nil {
		return p, false
	}
	return m.pair(n.child("qti-base-value").plain())
}

// membersOf reads several of them.
func (m *importing) membersOf(list []*node) (pairs []answerPair, ok bool) {
	for _, n := range list {
		p, is := m.member(n)
		if !is {
			return nil, false
		}
		pairs = append(pairs, p)
	}
	return pairs, true
}

// written reads processing in which conditions, one after the other, set scores: each is a
// solution, with what its score is of the best one.
func (m *importing) written(p *node) bool {
	type way struct {
		asks *node
		v    float64
	}
	var ways []way
	var chain func(list []*node) bool
	chain = func(list []*node) bool {
		for _, rule := range list {
			if rule.name == "qti-set-outcome-value" {
				if v, ok := m.constant(rule); rule.get("identifier") == score && (!ok || v != 0) {
					return false
				}
				continue
			}
			if rule.name != "qti-response-condition" {
				return false
			}
			for _, b := range rule.children() {
				if b.name == "qti-response-else" {
					if !chain(b.children()) {
						return false
					}
					continue
				}
				in := b.children()
				if len(in) == 0 {
					return false
				}
				v, sets := 0.0, false
				for _, set := range in[1:] {
					if set.name != "qti-set-outcome-value" {
						return false
					}
					if set.get("identifier") == score {
						x, ok := m.constant(set)
						if !ok {
							return false
						}
						v, sets = x, true
					}
				}
				if sets && v > 0 {
					ways = append(ways, way{in[0], v})
				} else if sets && v == 0 && in[0].name != "qti-is-null" && !isNot(in[0]) {
					return false
				}
			}
		}
		return true
	}
	if !chain(p.children()) || len(ways) == 0 {
		return false
	}
	best := 0.0
	for _, w := range ways {
		best = max(best, w.v)
	}
	k := 0
	before := m.doc.Key.Solutions
	for _, w := range ways {
		for _, asks := range alternatives(w.asks) {
			m.solution(k).Credit = max(1, int(math.Round(100*w.v/best)))
			if !m.asked(k, asks) {
				m.doc.Key.Solutions = before
				m.doc.Key.Solutions[0] = activity.Solution{Credit: 100, Right: map[string]activity.Selector{}}
				return false
			}
			k++
		}
	}
	m.doc.Marks.Points = activity.U(math.Round(100 * best))
	return k <= 50
}

func isNot(n *node) bool { return n.name == "qti-not" }

// alternatives are the ways of an expression that is one or another.
func alternatives(n *node) []*node {
	if n.name == "qti-or" {
		return n.children()
	}
	return []*node{n}
}

// asked takes what a condition asks for into a solution: pairs, how many of some, and nothing
// beyond.
func (m *importing) asked(k int, n *node) bool {
	list := []*node{n}
	if n.name == "qti-and" {
		list = n.children()
	}
	closed := false
	s := m.solution(k)
	var needed []answerPair
	for _, x := range list {
		in := x.children()
		switch {
		case isCorrect(x):
			m.exactly(k, m.pairs(m.correct()))
			return len(list) == 1
		case x.name == "qti-match" && x.child("qti-multiple") != nil && x.child("qti-variable") != nil:
			m.exactly(k, m.pairs(x.child("qti-multiple").children("qti-base-value")))
			return len(list) == 1
		case x.name == "qti-member":
			p, ok := m.member(x)
			if !ok {
				return false
			}
			needed = append(needed, p)
			m.right(k, p)
		case x.name == "qti-any-n":
			pairs, ok := m.membersOf(in)
			if !ok || len(pairs) == 0 {
				return false
			}
			for _, p := range pairs {
				m.right(k, p)
			}
			least, most := int(decimal(x.get("min"))), int(decimal(x.get("max")))
			if !m.counted(s, pairs, least, most, x) {
				return false
			}
		case x.name == "qti-or":
			pairs, ok := m.membersOf(in)
			if !ok || len(pairs) == 0 {
				return false
			}
			for _, p := range pairs {
				m.right(k, p)
			}
			if !m.counted(s, pairs, 1, len(pairs), x) {
				return false
			}
		case isNot(x) && len(in) == 1:
			inner := []*node{in[0]}
			if in[0].name == "qti-or" {
				inner = in[0].children()
			}
			if in[0].name == "qti-is-null" {
				continue
			}
			if _, ok := m.membersOf(inner); !ok {
				return false
			}
			closed = true
		case x.find("qti-container-size") != nil && (x.name == "qti-equal" || x.name == "qti-match" || x.name == "qti-lte" || x.name == "qti-lt"):
			closed = true
		default:
			return false
		}
	}
	// Members that stand alone are asked for whatever else is right of their item.
	for _, p := range needed {
		it := m.doc.Item(p.item)
		others := 0
		for _, sel := range s.Right {
			if slices.Contains(sel.Items, p.item) {
				others++
			}
		}
		if it.Copies > 1 || others > 1 {
			one := 1
			s.Needs = append(s.Needs, activity.Need{Target: p.target, Of: activity.Selector{Items: []string{p.item}}, Min: 1, Max: &one})
		}
	}
	if !closed {
		m.note(n, m.root.get("identifier"), "beyond", "What is placed beyond what is asked for is wrong here; there it does not matter.")
	}
	return true
}

// cellsOf is at how many targets an item is right under a solution.
func (m *importing) cellsOf(s *activity.Solution, item string) (n int) {
	for _, sel := range s.Right {
		if slices.Contains(sel.Items, item) {
			n++
		}
	}
	return n
}

// counted asks for so many of some pairs: at one target as a need; of one item with one piece,
// wherever that is right, by its having to be placed.
func (m *importing) counted(s *activity.Solution, pairs []answerPair, least, most int, n *node) bool {
	items, targets := []string{}, []string{}
	for _, p := range pairs {
		if !slices.Contains(items, p.item) {
			items = append(items, p.item)
		}
		if !slices.Contains(targets, p.target) {
			targets = append(targets, p.target)
		}
	}
	it := m.doc.Item(items[0])
	switch {
	case len(items) == 1 && least >= it.Copies && least > 0 && len(targets) == m.cellsOf(s, it.ID):
		return true // all of it has to be placed: it is, where nothing counts it
	case len(targets) == 1:
		need := activity.Need{Target: targets[0], Of: activity.Selector{Items: items}, Min: least}
		if most < len(pairs) || len(items) < len(pairs) {
			need.Max = &most
		}
		s.Needs = append(s.Needs, need)
		return true
	case least == 0:
		for _, t := range targets {
			s.Needs = append(s.Needs, activity.Need{Target: t, Of: activity.Selector{Items: items}})
		}
		return true
	}
	m.note(n, m.root.get("identifier"), "counted", "How many of some pairs at several places are asked for cannot be said here.")
	return false
}
