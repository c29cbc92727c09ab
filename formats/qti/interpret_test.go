package qti

import (
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"
)

// An interpreter of the part of response processing that is written and read here, after the
// standard alone: it knows nothing of activities.

// value is nil for NULL, a bool, a float64, an int, a string, or a container of strings.
type value any

type machine struct {
	decl  map[string]*node // of responses
	vars  map[string]value
	kinds map[string]string
}

// judged runs an item's processing on a response, and gives its outcomes.
func judged(item *node, answers []string) (vars map[string]value, err error) {
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("%v", p)
		}
	}()
	m := &machine{decl: map[string]*node{}, vars: map[string]value{}, kinds: map[string]string{}}
	for _, d := range item.children("qti-response-declaration") {
		m.decl[d.get("identifier")] = d
		if len(answers) > 0 {
			m.vars[d.get("identifier")] = slices.Clone(answers)
		} else {
			m.vars[d.get("identifier")] = nil
		}
	}
	for _, d := range item.children("qti-outcome-declaration") {
		id := d.get("identifier")
		m.kinds[id] = d.get("base-type")
		m.vars[id] = nil
		if v := d.find("qti-value"); v != nil {
			m.vars[id] = scalar(d.get("base-type"), v.plain())
		} else if d.get("cardinality") == "single" && (m.kinds[id] == "float" || m.kinds[id] == "integer") {
			m.vars[id] = scalar(m.kinds[id], "0")
		}
	}
	p := item.child("qti-response-processing")
	switch t := p.get("template"); {
	case strings.HasSuffix(t, "match_correct") || strings.HasSuffix(t, "match_correct.xml"):
		m.vars["SCORE"] = 0.0
		if ok, _ := m.match(m.vars["RESPONSE"], m.correct("RESPONSE")).(bool); ok {
			m.vars["SCORE"] = 1.0
		}
	case strings.HasSuffix(t, "map_response") || strings.HasSuffix(t, "map_response.xml"):
		m.vars["SCORE"] = m.mapped("RESPONSE")
	default:
		m.rules(p.children())
	}
	return m.vars, nil
}

func scalar(kind, text string) value {
	switch kind {
	case "float":
		f, err := strconv.ParseFloat(text, 64)
		if err != nil {
			panic(err)
		}
		return f
	case "integer":
		n, err := strconv.Atoi(text)
		if err != nil {
			panic(err)
		}
		return n
	case "boolean":
		return text == "true"
	}
	return text
}

func (m *machine) correct(id string) value {
	list := []string{}
	if c := m.decl[id].child("qti-correct-response"); c != nil {
		for _, v := range c.children("qti-value") {
			list = append(list, v.plain())
		}
	}
	if len(list) == 0 {
		return nil
	}
	return list
}

func (m *machine) mapped(id string) value {
	mapping := m.decl[id].child("qti-mapping")
	sum := 0.0
	list, _ := m.vars[id].([]string)
	for _, answer := range list {
		worth := number(mapping.get("default-value"))
		for _, e := range mapping.children("qti-map-entry") {
			if strings.Join(strings.Fields(e.get("map-key")), " ") == answer {
				worth = number(e.get("mapped-value"))
			}
		}
		sum += worth
	}
	if mapping.has("lower-bound") {
		sum = math.Max(sum, number(mapping.get("lower-bound")))
	}
	if mapping.has("upper-bound") {
		sum = math.Min(sum, number(mapping.get("upper-bound")))
	}
	return sum
}

func number(text string) float64 {
	if text == "" {
		return 0
	}
	return scalar("float", text).(float64)
}

func (m *machine) rules(list []*node) {
	for _, r := range list {
		switch r.name {
		case "qti-response-condition":
			for _, branch := range r.children() {
				if branch.name == "qti-response-else" {
					m.rules(branch.children())
					break
				}
				parts := branch.children()
				if ok, _ := m.eval(parts[0]).(bool); ok {
					m.rules(parts[1:])
					break
				}
			}
		case "qti-set-outcome-value":
			id := r.get("identifier")
			v := m.eval(r.children()[0])
			if n, ok := v.(int); ok && m.kinds[id] == "float" {
				v = float64(n)
			}
			if _, ok := v.(float64); ok && m.kinds[id] == "integer" {
				panic("a float was set in the integer " + id)
			}
			m.vars[id] = v
		default:
			panic("the rule " + r.name + " is not known")
		}
	}
}

func (m *machine) match(a, b value) value {
	x, okx := a.([]string)
	y, oky := b.([]string)
	if a == nil || b == nil {
		return nil
	}
	if okx && oky {
		for _, d := range m.decl {
			if d.get("cardinality") == "ordered" {
				return slices.Equal(x, y)
			}
		}
		x, y = slices.Sorted(slices.Values(x)), slices.Sorted(slices.Values(y))
		return slices.Equal(x, y)
	}
	return a == b
}

func (m *machine) eval(n *node) value {
	in := n.children()
	each := func() (list []value) {
		for _, c := range in {
			list = append(list, m.eval(c))
		}
		return list
	}
	numbers := func() (list []float64, ints bool, null bool) {
		ints = true
		for _, v := range each() {
			switch x := v.(type) {
			case int:
				list = append(list, float64(x))
			case float64:
				list, ints = append(list, x), false
			default:
				return nil, false, true
			}
		}
		return list, ints, false
	}
	typed := func(f float64, ints bool) value {
		if ints {
			return int(f)
		}
		return f
	}
	switch n.name {
	case "qti-base-value":
		return scalar(n.get("base-type"), n.plain())
	case "qti-variable":
		v, ok := m.vars[n.get("identifier")]
		if !ok {
			panic("nothing declares " + n.get("identifier"))
		}
		return v
	case "qti-correct":
		return m.correct(n.get("identifier"))
	case "qti-map-response":
		return m.mapped(n.get("identifier"))
	case "qti-is-null":
		return m.eval(in[0]) == nil
	case "qti-multiple":
		list := []string{}
		for _, v := range each() {
			switch x := v.(type) {
			case string:
				list = append(list, x)
			case []string:
				list = append(list, x...)
			}
		}
		if len(list) == 0 {
			return nil
		}
		return list
	case "qti-member":
		list := each()
		if list[0] == nil || list[1] == nil {
			return nil
		}
		return slices.Contains(list[1].([]string), list[0].(string))
	case "qti-container-size":
		list, _ := m.eval(in[0]).([]string)
		return len(list)
	case "qti-index":
		list, _ := m.eval(in[0]).([]string)
		k, err := strconv.Atoi(n.get("n"))
		if err != nil {
			panic(err)
		}
		if k > len(list) {
			return nil
		}
		return list[k-1]
	case "qti-match":
		list := each()
		return m.match(list[0], list[1])
	case "qti-equal":
		list, _, null := numbers()
		if null {
			return nil
		}
		return list[0] == list[1]
	case "qti-and", "qti-or":
		null := false
		for _, v := range each() {
			if b, ok := v.(bool); !ok {
				null = true
			} else if b == (n.name == "qti-or") {
				return b
			}
		}
		if null {
			return nil
		}
		return n.name == "qti-and"
	case "qti-not":
		if b, ok := m.eval(in[0]).(bool); ok {
			return !b
		}
		return nil
	case "qti-any-n":
		least, most := int(number(n.get("min"))), int(number(n.get("max")))
		yes, null := 0, 0
		for _, v := range each() {
			if b, ok := v.(bool); !ok {
				null++
			} else if b {
				yes++
			}
		}
		switch {
		case yes > most || yes+null < least:
			return false
		case yes >= least && yes+null <= most:
			return true
		}
		return nil
	}
	list, ints, null := numbers()
	if null {
		return nil
	}
	switch n.name {
	case "qti-sum":
		sum := 0.0
		for _, x := range list {
			sum += x
		}
		return typed(sum, ints)
	case "qti-product":
		p := 1.0
		for _, x := range list {
			p *= x
		}
		return typed(p, ints)
	case "qti-subtract":
		return typed(list[0]-list[1], ints)
	case "qti-divide":
		return list[0] / list[1]
	case "qti-integer-divide":
		return int(math.Floor(list[0] / list[1]))
	case "qti-max":
		return typed(slices.Max(list), ints)
	case "qti-min":
		return typed(slices.Min(list), ints)
	case "qti-lt":
		return list[0] < list[1]
	case "qti-gt":
		return list[0] > list[1]
	case "qti-gte":
		return list[0] >= list[1]
	case "qti-lte":
		return list[0] <= list[1]
	}
	panic("the expression " + n.name + " is not known")
}
