package qti

import (
	"cmp"
	"math"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
)

// answerPair is an item at a target, by their ids here.
type answerPair struct{ item, target string }

// pair reads a directed or an undirected pair, or, of a sequence, nothing.
func (m *importing) pair(text string) (p answerPair, ok bool) {
	words := strings.Fields(text)
	if len(words) != 2 {
		return p, false
	}
	p = answerPair{m.items[words[0]], m.targets[words[1]]}
	if p.item == "" || p.target == "" { // some write them the other way round
		p = answerPair{m.items[words[1]], m.targets[words[0]]}
	}
	return p, p.item != "" && p.target != ""
}

// declared is the response of the interaction.
func (m *importing) declared() *node {
	for _, d := range m.root.children("qti-response-declaration") {
		if d.get("identifier") == m.at.get("response-identifier") {
			return d
		}
	}
	return nil
}

// correct are the values of the correct response.
func (m *importing) correct() (list []*node) {
	if d := m.declared(); d != nil {
		if c := d.child("qti-correct-response"); c != nil {
			return c.children("qti-value")
		}
	}
	return nil
}

// score takes over what is right and what it earns.
func (m *importing) score() {
	d := m.declared()
	if d == nil {
		m.note(m.at, m.root.get("identifier"), "no-response", "No response is declared for “%s”, so nothing is right there yet.", m.title())
		return
	}
	p := m.root.child("qti-response-processing")
	template := ""
	if p != nil {
		template = templateName(cmp.Or(p.get("template"), p.get("template-location")))
	}
	points := d.child("qti-area-mapping") != nil && m.kind == positioning
	switch {
	case points:
		m.byAreas(d)
	case m.kind == ordering || m.kind == graphicOrder:
		m.byOrder(p)
	case p != nil && m.own() && m.asExported(p):
	case p != nil && m.kind == associating && (strings.HasPrefix(template, "map_response") || strings.HasPrefix(template, "CC2_map") || template == "" && mapsAlone(p)):
		m.pairsByMapping(d)
	case m.kind != associating && (strings.HasPrefix(template, "map_response") || strings.HasPrefix(template, "CC2_map") || template == "" && p != nil && mapsAlone(p)):
		m.byMapping(d)
	case strings.HasPrefix(template, "match_correct"), strings.HasPrefix(template, "CC2_match"), template == "" && p != nil && m.simple(p):
		m.exactly(0, m.pairs(m.correct()))
		if strings.HasPrefix(template, "CC2") {
			m.doc.Marks.Points = activity.U(math.Round(100 * m.declaredMost()))
		}
	case template == "" && p != nil && m.added(p, d):
	case template == "" && p != nil && m.written(p):
	default:
		m.exactly(0, m.pairs(m.correct()))
		switch {
		case p == nil:
			m.note(m.root, m.root.get("identifier"), "no-processing", "“%s” says what is right, but not what it earns: 1 point for all of it.", m.title())
		default:
			m.note(p, m.root.get("identifier"), "processing", "How “%s” is scored cannot be taken over: 1 point for the correct response.", m.title())
		}
	}
	if m.kind != ordering && len(m.doc.Key.Solutions[0].Right) == 0 {
		m.note(d, m.root.get("identifier"), "no-key", "Nothing says what is right in “%s”: the key is empty.", m.title())
	}
}

// templateName is the name at the end of a template's address.
func templateName(template string) string {
	template = strings.TrimSuffix(template, ".xml")
	return template[strings.LastIndexByte(template, '/')+1:]
}

// pairs reads values as items at targets.
func (m *importing) pairs(values []*node) (list []answerPair) {
	if m.kind == positioning {
		return nil
	}
	for _, v := range values {
		if p, ok := m.pair(v.plain()); ok {
			list = append(list, p)
		} else {
			m.note(v, m.root.get("identifier"), "unknown-pair", "“%s” names nothing that can be placed: it is left out.", clipped(v.plain(), 60))
		}
	}
	return list
}

// right lets an item be right in a target under a solution.
func (m *importing) right(k int, p answerPair) {
	s := &m.doc.Key.Solutions[k]
	sel := s.Right[p.target]
	if !slices.Contains(sel.Items, p.item) {
		sel.Items = append(sel.Items, p.item)
		s.Right[p.target] = sel
	}
}

// solution gives the key a solution of a number.
func (m *importing) solution(k int) *activity.Solution {
	for len(m.doc.Key.Solutions) <= k {
		m.doc.Key.Solutions = append(m.doc.Key.Solutions, activity.Solution{Credit: 100, Right: map[string]activity.Selector{}})
	}
	return &m.doc.Key.Solutions[k]
}

// exactly makes just these pairs right, all of them.
func (m *importing) exactly(k int, list []answerPair) {
	s := m.solution(k)
	if m.kind == associating {
		m.eitherWay(list)
		return
	}
	count := map[string]int{}
	for _, p := range list {
		count[p.item]++
		m.right(k, p)
	}
	for i := range m.doc.Items {
		it := &m.doc.Items[i]
		n := count[it.ID]
		switch {
		case n > it.Copies && len(m.doc.Key.Solutions) == 1:
			m.note(m.at, it.ID, "too-often", "“%s” is right more often than it may be used: it may be used %d times.", it.Name, n)
			it.Copies = min(n, 99)
		case n == 0 || n == 1 && it.Copies == 1:
			continue
		}
		// As often as there, at each place once.
		times := map[string]int{}
		for _, p := range list {
			if p.item == it.ID {
				times[p.target]++
			}
		}
		for _, t := range m.doc.Targets {
			if c := times[t.ID]; c > 0 {
				s.Needs = append(s.Needs, activity.Need{Target: t.ID, Of: activity.Selector{Items: []string{it.ID}}, Min: c, Max: &c})
			}
		}
	}
}

// mostEither is how many pairs can lie either way: each doubles the solutions.
const mostEither = 5

// eitherWay makes pairs right whichever lies upon the other.
func (m *importing) eitherWay(list []answerPair) {
	ways := 1 << min(len(list), mostEither)
	if len(list) > mostEither {
		m.note(m.at, m.root.get("identifier"), "either-way", "Of %d pairs only the first %d may lie either way.", len(list), mostEither)
	}
	for k := range ways {
		m.solution(k)
		for i, p := range list {
			if i < mostEither && k>>i&1 == 1 {
				p = m.turned(p)
			}
			m.right(k, p)
		}
	}
}

// turned is a pair with the one that lay upon the other under it.
func (m *importing) turned(p answerPair) (out answerPair) {
	for id, mine := range m.targets {
		if mine == p.target {
			out.item = m.items[id]
		}
	}
	for id, mine := range m.items {
		if mine == p.item {
			out.target = m.targets[id]
		}
	}
	return out
}

// simple says whether processing sets a score by the correct response alone.
func (m *importing) simple(p *node) bool {
	rules := p.children()
	if len(rules) != 1 || rules[0].name != "qti-response-condition" {
		return false
	}
	branch := rules[0].child("qti-response-if")
	if branch == nil || rules[0].child("qti-response-else-if") != nil || len(branch.children()) == 0 || !isCorrect(branch.children()[0]) {
		return false
	}
	for _, set := range branch.children("qti-set-outcome-value") {
		if set.get("identifier") == score {
			v, ok := m.constant(set)
			if !ok || v <= 0 {
				return false
			}
			m.doc.Marks.Points = activity.U(math.Round(100 * v))
		}
	}
	if e := rules[0].child("qti-response-else"); e != nil {
		for _, set := range e.children("qti-set-outcome-value") {
			if v, ok := m.constant(set); set.get("identifier") == score && (!ok || v != 0) {
				return false
			}
		}
	}
	return true
}

// isCorrect says whether an expression compares the response with the correct one.
func isCorrect(n *node) bool {
	return n.name == "qti-match" && n.child("qti-variable") != nil && n.child("qti-correct") != nil
}

// constant is the number that is set: as it stands there, or the most that is declared.
func (m *importing) constant(set *node) (float64, bool) {
	in := set.children()
	if len(in) != 1 {
		return 0, false
	}
	if in[0].name == "qti-variable" && in[0].get("identifier") == maximum {
		return m.declaredMost(), true
	}
	if in[0].name != "qti-base-value" {
		return 0, false
	}
	v, err := strconv.ParseFloat(in[0].plain(), 64)
	return v, err == nil && !math.IsNaN(v) && !math.IsInf(v, 0)
}

// declaredMost is the most that is declared to be scored, or 1.
func (m *importing) declaredMost() float64 {
	for _, d := range m.root.children("qti-outcome-declaration") {
		if v := d.find("qti-value"); d.get("identifier") == maximum && v != nil && decimal(v.plain()) > 0 {
			return decimal(v.plain())
		}
	}
	return 1
}

// points takes over the points from where they are declared.
func (m *importing) points() bool {
	for _, d := range m.root.children("qti-outcome-declaration") {
		if v := d.find("qti-value"); d.get("identifier") == maximum && v != nil {
			m.doc.Marks.Points = activity.U(math.Round(100 * decimal(v.plain())))
			return true
		}
	}
	return false
}
