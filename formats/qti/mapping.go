package qti

import (
	"math"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
)

// pairsByMapping gives pairs that may lie either way what they are mapped to.
func (m *importing) pairsByMapping(d *node) {
	mapping := d.child("qti-mapping")
	if mapping == nil {
		m.exactly(0, m.pairs(m.correct()))
		return
	}
	rest := decimal(mapping.get("default-value"))
	values, list := []float64{rest}, []answerPair{}
	worth := map[answerPair]float64{}
	for _, e := range mapping.children("qti-map-entry") {
		if p, ok := m.pair(e.get("map-key")); ok {
			worth[p] = decimal(e.get("mapped-value"))
			values = append(values, worth[p])
			if worth[p] > 0 {
				list = append(list, p)
			}
		}
	}
	by := max(1, weighs(values))
	m.eitherWay(list)
	m.doc.Marks.By, m.doc.Marks.Cells = activity.ByItem, map[string]activity.Cell{}
	for i := range m.doc.Items {
		m.doc.Items[i].Weight, m.doc.Items[i].Penalty = 0, max(0, int(math.Round(-rest*float64(by))))
	}
	for p, v := range worth {
		whole, none := int(math.Round(math.Abs(v)*float64(by))), 0
		cell := activity.Cell{Weight: &whole}
		if v <= 0 {
			cell = activity.Cell{Weight: &none, Penalty: &whole}
		}
		for _, q := range []answerPair{p, m.turned(p)} {
			m.doc.Marks.Cells[q.item+"/"+q.target] = cell
		}
	}
	m.doc.Marks.Negative = !mapping.has("lower-bound") || decimal(mapping.get("lower-bound")) < 0
	m.worth(by, mapping)
}

// mapsAlone says whether processing sets the score by the mapping, and nothing else of it.
func mapsAlone(p *node) bool {
	found := false
	only := true
	p.all(func(n *node) {
		switch n.name {
		case "qti-map-response":
			found = true
		case "qti-base-value":
			only = only && n.plain() == "0" || n.plain() == "0.0" || n.get("base-type") == "identifier"
		case "qti-product", "qti-divide", "qti-subtract", "qti-member", "qti-any-n":
			only = false
		}
	})
	return found && only
}

// added reads processing that adds to the score for each of some pairs: it is a mapping, written
// out.
func (m *importing) added(p, d *node) bool {
	mapping := el("qti-mapping", at("default-value", "0"))
	mapping.line = p.line
	seen := map[string]bool{}
	for _, rule := range p.children() {
		if rule.name == "qti-set-outcome-value" && rule.get("identifier") == score {
			if v, ok := m.constant(rule); ok && v == 0 {
				continue
			}
			return false
		}
		branches := rule.children()
		if rule.name != "qti-response-condition" || len(branches) != 1 || len(branches[0].children()) != 2 {
			return false
		}
		in := branches[0].children()
		if (in[0].name == "qti-lt" || in[0].name == "qti-lte") && in[0].child("qti-variable") != nil && in[0].child("qti-variable").get("identifier") == score {
			if v, ok := m.constant(in[1]); !ok || v != 0 {
				return false
			}
			mapping.addAttr("lower-bound", "0") // what has fallen below is set back
			continue
		}
		sum := in[1].child("qti-sum")
		if _, ok := m.member(in[0]); !ok || in[1].get("identifier") != score || sum == nil || sum.child("qti-base-value") == nil || sum.child("qti-variable") == nil {
			return false
		}
		key := in[0].child("qti-base-value").plain()
		if seen[key] {
			return false
		}
		seen[key] = true
		entry := el("qti-map-entry", at("map-key", key, "mapped-value", sum.child("qti-base-value").plain()))
		entry.line = rule.line
		mapping.add(entry)
	}
	if len(seen) == 0 {
		return false
	}
	d.add(mapping)
	m.byMapping(d)
	return true
}

// weighs finds by what values become whole numbers of weight, up to 1000; 0 where none does.
func weighs(values []float64) int {
	for _, by := range []int{1, 2, 4, 5, 10, 20, 25, 50, 100, 3, 6, 8, 12, 1000} {
		all := true
		for _, v := range values {
			x := math.Abs(v) * float64(by)
			all = all && math.Abs(x-math.Round(x)) < 1e-6 && x <= 1000
		}
		if all {
			return by
		}
	}
	return 0
}

// byMapping gives each pair what it is mapped to.
func (m *importing) byMapping(d *node) {
	mapping := d.child("qti-mapping")
	if mapping == nil {
		m.exactly(0, m.pairs(m.correct()))
		m.note(d, m.root.get("identifier"), "no-mapping", "“%s” is scored by a mapping that is not there: 1 point for the correct response.", m.title())
		return
	}
	worth := map[answerPair]float64{}
	var values []float64
	rest := decimal(mapping.get("default-value"))
	for _, e := range mapping.children("qti-map-entry") {
		p, ok := m.pair(e.get("map-key"))
		if !ok {
			m.note(e, m.root.get("identifier"), "unknown-pair", "“%s” names nothing that can be placed: it is left out.", clipped(e.get("map-key"), 60))
			continue
		}
		worth[p] = decimal(e.get("mapped-value"))
		values = append(values, worth[p])
	}
	by := weighs(append(values, rest))
	if by == 0 {
		by = 100
		m.note(mapping, m.root.get("identifier"), "fractions", "Values of the mapping that have no whole number in common are taken to two places.")
	}
	s := m.solution(0)
	correct := m.pairs(m.correct())
	for p, v := range worth {
		if v > 0 {
			m.right(0, p)
		}
	}
	for _, p := range correct {
		m.right(0, p)
	}
	m.doc.Marks.By, m.doc.Marks.Cells = activity.ByItem, map[string]activity.Cell{}
	for i := range m.doc.Items {
		it := &m.doc.Items[i]
		it.Weight, it.Penalty = 0, max(0, int(math.Round(-rest*float64(by))))
		for _, t := range m.doc.Targets {
			p := answerPair{it.ID, t.ID}
			v, mapped := worth[p]
			right := slices.Contains(s.Right[t.ID].Items, it.ID)
			whole := int(math.Round(math.Abs(v) * float64(by)))
			switch {
			case right:
				w := whole
				if v < 0 {
					w = 0
				}
				m.doc.Marks.Cells[it.ID+"/"+t.ID] = activity.Cell{Weight: &w}
			case mapped && !right:
				pen := whole
				if v > 0 {
					pen = 0
				}
				m.doc.Marks.Cells[it.ID+"/"+t.ID] = activity.Cell{Penalty: &pen}
			}
		}
	}
	if !m.own() { // else its needs say so
		m.onceEach(s)
	}
	if rest > 0 {
		m.note(mapping, m.root.get("identifier"), "default", "What is not in the mapping earns %g there, and nothing here.", rest)
	}
	m.doc.Marks.Negative = !mapping.has("lower-bound") || decimal(mapping.get("lower-bound")) < 0
	m.worth(by, mapping)
	// Same weights of an item everywhere are its own.
	m.plainer()
}

// onceEach has an item be right in a target once, where it has several pieces: a pair stands in a
// response once.
func (m *importing) onceEach(s *activity.Solution) {
	for i := range m.doc.Items {
		it := &m.doc.Items[i]
		if it.Copies == 1 {
			continue
		}
		for _, t := range m.doc.Targets {
			if t.Holds != 1 && slices.Contains(s.Right[t.ID].Items, it.ID) {
				one := 1
				s.Needs = append(s.Needs, activity.Need{Target: t.ID, Of: activity.Selector{Items: []string{it.ID}}, Min: 1, Max: &one})
			}
		}
	}
}

// plainer gives items the weight that all their cells have, in place of those.
func (m *importing) plainer() {
	for i := range m.doc.Items {
		it := &m.doc.Items[i]
		weight, same := -1, true
		for _, t := range m.doc.Targets {
			if c := m.doc.Marks.Cells[it.ID+"/"+t.ID]; c.Weight != nil {
				same = same && (weight < 0 || weight == *c.Weight)
				weight = *c.Weight
			}
		}
		if weight >= 0 && same {
			it.Weight = weight
		}
		for _, t := range m.doc.Targets {
			name := it.ID + "/" + t.ID
			c, ok := m.doc.Marks.Cells[name]
			if !ok {
				continue
			}
			if c.Weight != nil && *c.Weight == it.Weight {
				c.Weight = nil
			}
			if c.Penalty != nil && *c.Penalty == it.Penalty {
				c.Penalty = nil
			}
			if c.Weight == nil && c.Penalty == nil {
				delete(m.doc.Marks.Cells, name)
			} else {
				m.doc.Marks.Cells[name] = c
			}
		}
	}
}

// decimal is a number as it stands in an item; what is none, or far too large, is 0.
func decimal(text string) float64 {
	v, err := strconv.ParseFloat(strings.TrimSpace(text), 64)
	if err != nil || math.IsNaN(v) || math.Abs(v) > 1e6 {
		return 0
	}
	return v
}

// byAreas gives each area what it is worth.
func (m *importing) byAreas(d *node) {
	mapping := d.child("qti-area-mapping")
	var values []float64
	entries := mapping.children("qti-area-map-entry")
	for _, e := range entries {
		values = append(values, decimal(e.get("mapped-value")))
	}
	by := max(1, weighs(values))
	m.doc.Marks.By, m.doc.Marks.Cells = activity.ByItem, map[string]activity.Cell{}
	it := &m.doc.Items[0]
	s := m.solution(0)
	for i, e := range entries {
		t := m.targets["area_"+strconv.Itoa(i+1)]
		if v := values[i]; v > 0 && t != "" {
			m.right(0, answerPair{it.ID, t})
			w := int(math.Round(v * float64(by)))
			m.doc.Marks.Cells[it.ID+"/"+t] = activity.Cell{Weight: &w}
		} else if e != nil && v <= 0 {
			m.note(e, t, "area", "An area that earns nothing is a place all the same.")
		}
	}
	// Anything from one to all of them is right.
	for t := range s.Right {
		s.Needs = append(s.Needs, activity.Need{Target: t, Of: activity.Selector{All: true}, Min: 0})
	}
	slices.SortFunc(s.Needs, func(a, b activity.Need) int { return strings.Compare(a.Target, b.Target) })
	m.worth(by, mapping)
	m.plainer()
	if p := m.root.child("qti-response-processing"); p != nil && (strings.Contains(p.get("template"), "map_response_point") || p.find("qti-map-response-point") != nil) {
		return
	}
	m.note(mapping, m.root.get("identifier"), "areas", "The object of “%s” is put onto areas; how near it is to a point does not count.", m.title())
}

// worth sets the points so that a whole number of weight is worth what it is in the mapping: its
// share of what can be earned in all.
func (m *importing) worth(by int, mapping *node) {
	doc, faults := m.laid()
	if faults != nil {
		return // said when it is finished
	}
	j, err := marks.NewJudge(doc)
	if err != nil {
		m.note(mapping, m.root.get("identifier"), "impossible", "What is right in “%s” cannot all be placed: %s.", m.title(), err)
		return
	}
	most := float64(available(j, 0)) / float64(by)
	m.doc.Marks.Points = activity.U(math.Round(100 * most))
	if bound := mapping.get("upper-bound"); bound != "" && decimal(bound) < most-0.005 {
		m.note(mapping, m.root.get("identifier"), "upper-bound", "More than %s points can be earned here: %g.", bound, most)
	}
	if bound := decimal(mapping.get("lower-bound")); mapping.has("lower-bound") && bound < -most-0.005 || !mapping.has("lower-bound") && m.doc.Marks.Negative && slices.ContainsFunc(m.doc.Items, func(it activity.Item) bool { return it.Penalty > 0 }) {
		m.note(mapping, m.root.get("identifier"), "lower-bound", "No more than %g points can be lost here.", most)
	}
}
