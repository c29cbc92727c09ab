package qti

import (
	"fmt"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
)

// asExported reads processing as this package writes it.
func (m *importing) asExported(p *node) bool {
	if !m.points() {
		return false
	}
	conditions := []*node{}
	p.all(func(n *node) {
		if n.name == "qti-response-condition" && n.child("qti-response-if") != nil {
			conditions = append(conditions, n.child("qti-response-if"))
		}
	})
	by := activity.ByTarget
	m.doc.Marks.Cells = map[string]activity.Cell{}
	earns, weights := false, map[string]int{}
	for k := 0; k < 50 && strings.Contains(names(m.root), fmt.Sprintf(" VALID_%d ", k+1)); k++ {
		s := m.solution(k)
		for _, c := range conditions {
			in := c.children()
			pair, ok := m.member(in[0])
			for _, set := range in[1:] {
				n, adds := increment(set)
				switch set.get("identifier") {
				case nth("COUNT", k):
					if ok {
						m.right(k, pair)
					}
				case nth("EARNED", k):
					switch {
					case !adds:
					case ok:
						earns = m.cell(pair, n) || earns
					case in[0].name == "qti-any-n": // of a need that can be exceeded
						pairs, _ := m.membersOf(in[0].children())
						for _, p := range pairs {
							earns = m.cell(p, n) || earns
						}
					case in[0].name == "qti-variable" && in[0].get("identifier") == nth("VALID", k):
						by = activity.ByWhole
					default:
						var t int
						if _, err := fmt.Sscanf(in[1].get("identifier"), "TARGET_%d_", &t); err == nil && t > 0 && t <= len(m.doc.Targets) {
							weights[m.doc.Targets[t-1].ID] = n
						}
					}
				case nth("VALID", k):
					list := []*node{in[0]}
					if in[0].name == "qti-and" {
						list = in[0].children()
					}
					for _, x := range list {
						if pair, ok := m.member(x); ok {
							if it := m.doc.Item(pair.item); it.Copies > 1 || m.cellsOf(s, pair.item) > 1 {
								s.Needs = append(s.Needs, activity.Need{Target: pair.target, Of: activity.Selector{Items: []string{pair.item}}, Min: 1})
							}
							continue
						}
						if x.name != "qti-any-n" {
							continue
						}
						pairs, ok := m.membersOf(x.children())
						if !ok {
							return false
						}
						for _, q := range pairs {
							m.right(k, q)
						}
						if !m.counted(s, pairs, int(decimal(x.get("min"))), int(decimal(x.get("max"))), x) {
							return false
						}
					}
				}
			}
		}
	}
	if d := m.declared(); d.child("qti-mapping") != nil {
		m.byMapping(d)
		return m.points()
	}
	if earns || by == activity.ByTarget && len(weights) == 0 {
		by = activity.ByItem
	}
	m.doc.Marks.By = by
	if by == activity.ByItem {
		for i := range m.doc.Items {
			m.doc.Items[i].Weight = 0
		}
		none := 0
		for _, s := range m.doc.Key.Solutions {
			for target, sel := range s.Right {
				for _, item := range sel.Items {
					if c := m.doc.Marks.Cells[item+"/"+target]; c.Weight == nil {
						m.doc.Marks.Cells[item+"/"+target] = merged(c, activity.Cell{Weight: &none})
					}
				}
			}
		}
		m.plainer()
	}
	if by == activity.ByTarget {
		for i := range m.doc.Targets {
			if w, ok := weights[m.doc.Targets[i].ID]; ok {
				m.doc.Targets[i].Weight = w
			}
		}
	}
	m.credits(p)
	return true
}

// cell gives an item a weight or a penalty at a target, and says whether it was a weight.
func (m *importing) cell(p answerPair, n int) bool {
	name, cell := p.item+"/"+p.target, activity.Cell{Weight: &n}
	if n < 0 {
		n = -n
		cell = activity.Cell{Penalty: &n}
	}
	m.doc.Marks.Cells[name] = merged(m.doc.Marks.Cells[name], cell)
	return cell.Weight != nil
}

func merged(a, b activity.Cell) activity.Cell {
	if b.Weight != nil {
		a.Weight = b.Weight
	}
	if b.Penalty != nil {
		a.Penalty = b.Penalty
	}
	return a
}

// names are those of all outcomes, each between spaces.
func names(root *node) string {
	var b strings.Builder
	for _, d := range root.children("qti-outcome-declaration") {
		b.WriteString(" " + d.get("identifier") + " ")
	}
	return b.String()
}

// increment is what a rule adds to its outcome.
func increment(set *node) (int, bool) {
	sum := set.child("qti-sum")
	if sum == nil || sum.child("qti-base-value") == nil || sum.child("qti-variable") == nil || sum.child("qti-variable").get("identifier") != set.get("identifier") {
		return 0, false
	}
	n, err := strconv.Atoi(sum.child("qti-base-value").plain())
	return n, err == nil
}

// credits takes back what each solution counts, and whether points can be lost.
func (m *importing) credits(p *node) {
	p.all(func(n *node) {
		if n.name != "qti-set-outcome-value" || !strings.HasPrefix(n.get("identifier"), "VALUE_") || n.child("qti-product") == nil {
			return
		}
		k := int(decimal(strings.TrimPrefix(n.get("identifier"), "VALUE_"))) - 1
		product := n.child("qti-product")
		factors := product.children("qti-base-value")
		if k < 0 || k >= len(m.doc.Key.Solutions) || len(factors) != 2 {
			return
		}
		m.doc.Key.Solutions[k].Credit = min(max(1, int(decimal(factors[0].plain()))), 100)
		if low := product.find("qti-max"); low != nil && low.child("qti-base-value") != nil && decimal(low.child("qti-base-value").plain()) < 0 {
			m.doc.Marks.Negative = true
		}
	})
}
