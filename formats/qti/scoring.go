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
		template = cmpBase(cmp.Or(p.get("template"), p.get("template-location")))
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
			m.doc.Marks.Points = activity.U(math.Round(100 * m.most0()))
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

// cmpBase is the name at the end of a template's address.
func cmpBase(template string) string {
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

// pairsByMapping gives pairs that may lie either way what they are mapped to.
func (m *importing) pairsByMapping(d *node) {
	mapping := d.child("qti-mapping")
	if mapping == nil {
		m.exactly(0, m.pairs(m.correct()))
		return
	}
	rest := number0(mapping.get("default-value"))
	values, list := []float64{rest}, []answerPair{}
	worth := map[answerPair]float64{}
	for _, e := range mapping.children("qti-map-entry") {
		if p, ok := m.pair(e.get("map-key")); ok {
			worth[p] = number0(e.get("mapped-value"))
			values = append(values, worth[p])
			if worth[p] > 0 {
				list = append(list, p)
			}
		}
	}
	by := max(1, weighs(values))
	m.eitherWay(list)
	m.doc.Marks.By, m.doc.Marks.Cells = "item", map[string]activity.Cell{}
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
	m.doc.Marks.Negative = !mapping.has("lower-bound") || number0(mapping.get("lower-bound")) < 0
	m.worth(by, mapping)
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
		return m.most0(), true
	}
	if in[0].name != "qti-base-value" {
		return 0, false
	}
	v, err := strconv.ParseFloat(in[0].plain(), 64)
	return v, err == nil && !math.IsNaN(v) && !math.IsInf(v, 0)
}

// most0 is the most that is declared to be scored, or 1.
func (m *importing) most0() float64 {
	for _, d := range m.root.children("qti-outcome-declaration") {
		if v := d.find("qti-value"); d.get("identifier") == maximum && v != nil && number0(v.plain()) > 0 {
			return number0(v.plain())
		}
	}
	return 1
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
	rest := number0(mapping.get("default-value"))
	for _, e := range mapping.children("qti-map-entry") {
		p, ok := m.pair(e.get("map-key"))
		if !ok {
			m.note(e, m.root.get("identifier"), "unknown-pair", "“%s” names nothing that can be placed: it is left out.", clipped(e.get("map-key"), 60))
			continue
		}
		worth[p] = number0(e.get("mapped-value"))
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
	m.doc.Marks.By, m.doc.Marks.Cells = "item", map[string]activity.Cell{}
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
	m.doc.Marks.Negative = !mapping.has("lower-bound") || number0(mapping.get("lower-bound")) < 0
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

func number0(text string) float64 {
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
		values = append(values, number0(e.get("mapped-value")))
	}
	by := max(1, weighs(values))
	m.doc.Marks.By, m.doc.Marks.Cells = "item", map[string]activity.Cell{}
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
	if p == nil || strings.HasPrefix(cmpBase(p.get("template")), "match_correct") || strings.HasPrefix(cmpBase(p.get("template")), "CC2_match") || m.simple(p) {
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
		m.doc.Marks.By, m.doc.Marks.Measure = "order", "pairs"
	case steps == n && n > 1:
		m.doc.Marks.By, m.doc.Marks.Measure = "order", "position"
	case steps > 1:
		m.doc.Marks.By, m.doc.Marks.Measure = "order", "neighbours"
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

// points takes over the points from where they are declared.
func (m *importing) points() bool {
	for _, d := range m.root.children("qti-outcome-declaration") {
		if v := d.find("qti-value"); d.get("identifier") == maximum && v != nil {
			m.doc.Marks.Points = activity.U(math.Round(100 * number0(v.plain())))
			return true
		}
	}
	return false
}
