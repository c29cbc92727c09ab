package qti

import (
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
)

// byOrder takes a sequence.
func (m *importing) byOrder(p *node) {
	values := m.correct()
	s := m.solution(0)
	if m.kind == graphicOrder {
		for k, v := range values {
			item, target := m.items["#"+strconv.Itoa(k+1)], m.targets[v.plain()]
			if item != "" && target != "" {
				m.right(0, answerPair{item, target})
			}
		}
	} else {
		lane := m.doc.Targets[0].ID
		o := activity.Order{Target: lane}
		for _, v := range values {
			if id := m.items[v.plain()]; id != "" && !slices.ContainsFunc(o.Tiers, func(t []string) bool { return t[0] == id }) {
				o.Tiers = append(o.Tiers, []string{id})
				m.right(0, answerPair{id, lane})
			}
		}
		if len(o.Tiers) > 0 {
			s.Orders = []activity.Order{o}
		}
	}
	if len(values) == 0 {
		m.note(m.at, m.root.get("identifier"), "no-key", "Nothing says what is right in “%s”: the key is empty.", m.title())
	}
	if p == nil || strings.HasPrefix(templateName(p.get("template")), "match_correct") || strings.HasPrefix(templateName(p.get("template")), "CC2_match") || m.simple(p) {
		return
	}
	if m.own() {
		m.ownOrder(p)
		return
	}
	m.note(p, m.root.get("identifier"), "processing", "How “%s” is scored cannot be taken over: 1 point for the correct order.", m.title())
}

// ownOrder takes back the measure of an order that was exported.
func (m *importing) ownOrder(p *node) {
	m.points()
	steps, pairs := 0, false
	p.all(func(n *node) {
		if n.name != "qti-response-condition" {
			return
		}
		if b := n.child("qti-response-if"); b != nil && len(b.children("qti-set-outcome-value")) == 1 && b.child("qti-set-outcome-value").get("identifier") == "EARNED_1" {
			steps++
			first := b.children()[0]
			pairs = pairs || first.name == "qti-and" && first.child("qti-gt") != nil
		}
	})
	switch n := len(m.doc.Items); {
	case pairs:
		m.doc.Marks.By, m.doc.Marks.Measure = activity.ByOrder, activity.MeasurePairs
	case steps == n && n > 1:
		m.doc.Marks.By, m.doc.Marks.Measure = activity.ByOrder, activity.MeasurePosition
	case steps > 1:
		m.doc.Marks.By, m.doc.Marks.Measure = activity.ByOrder, activity.MeasureNeighbours
	}
	if !m.tiers(p) {
		m.note(p, m.root.get("identifier"), "tiers", "Steps that may come in any order among themselves come in that of the correct response.")
	}
}

// tiers takes back what comes before what, from the condition under which an order is valid;
// where that is the correct response alone, the order is that.
func (m *importing) tiers(p *node) bool {
	item := map[string]string{} // by the outcome that has its place
	before := map[[2]string]bool{}
	p.all(func(n *node) {
		if n.name != "qti-response-if" || len(n.children()) < 2 {
			return
		}
		in := n.children()
		switch id := in[1].get("identifier"); {
		case strings.HasPrefix(id, "PLACE_") && in[0].child("qti-base-value") != nil:
			item[id] = m.items[in[0].child("qti-base-value").plain()]
		case id == "VALID_1":
			in[0].all(func(x *node) {
				if v := x.children("qti-variable"); x.name == "qti-lt" && len(v) == 2 {
					before[[2]string{item[v[0].get("identifier")], item[v[1].get("identifier")]}] = true
				}
			})
		}
	})
	s := &m.doc.Key.Solutions[0]
	if len(s.Orders) == 0 || len(before) == 0 {
		return true
	}
	ahead := map[string]int{}
	for pair := range before {
		ahead[pair[1]]++
	}
	o := activity.Order{Target: s.Orders[0].Target}
	ids := []string{}
	for _, t := range s.Orders[0].Tiers {
		ids = append(ids, t...)
	}
	slices.SortStableFunc(ids, func(a, b string) int { return ahead[a] - ahead[b] })
	tier := map[string]int{}
	for _, id := range ids {
		if n := len(o.Tiers); n > 0 && ahead[o.Tiers[n-1][0]] == ahead[id] {
			o.Tiers[n-1] = append(o.Tiers[n-1], id)
		} else {
			o.Tiers = append(o.Tiers, []string{id})
		}
		tier[id] = len(o.Tiers)
	}
	for _, a := range ids {
		for _, b := range ids {
			if before[[2]string{a, b}] != (tier[a] < tier[b]) { // no order by tiers: pair by pair
				o.Tiers, o.Before = [][]string{ids}, nil
				for _, x := range ids {
					for _, y := range ids {
						if before[[2]string{x, y}] {
							o.Before = append(o.Before, []string{x, y})
						}
					}
				}
				if len(ids) > 16 {
					return false
				}
			}
		}
	}
	s.Orders[0] = o
	return true
}
