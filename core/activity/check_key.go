package activity

import (
	"maps"
	"slices"
	"strings"

	"keenmagpie/core/message"
	"keenmagpie/core/order"
)

// solution checks one; what needs and orders mean is only looked at where the
// document is sound otherwise, so that no fault is told twice.
func (c *checker) solution(n int, s *Solution, sound bool) {
	path := at("/key/solutions", n)
	before := len(c.faults)
	for _, id := range slices.Sorted(maps.Keys(s.Right)) {
		where := path + "/right/" + escape(id)
		c.target(where, id)
		c.selector(where, s.Right[id])
	}
	for i, need := range s.Needs {
		where := at(path+"/needs", i)
		c.target(where+"/target", need.Target)
		c.selector(where+"/of", need.Of)
		if need.Max != nil && *need.Max < need.Min {
			c.fault(where+"/max", "need-max-below-min", message.P{"max": *need.Max, "min": need.Min})
		}
	}
	for i, o := range s.Orders {
		c.order(at(path+"/orders", i), s.Orders[:i], &o)
	}
	if !sound || len(c.faults) > before {
		return
	}
	right := map[string]func(*Item) bool{}
	for id, sel := range s.Right {
		picks, lets := sel.compile(), c.doc.Targets[c.targets[id]].Lets.compile()
		right[id] = func(it *Item) bool { return picks(it) && lets(it) }
	}
	c.flow(n, s, right)
	governed := c.needs(path, s, right)
	if len(s.Orders) == 0 {
		return
	}
	rightIn := make([][]string, len(c.doc.Items))
	for _, t := range c.doc.Targets {
		for i := range c.doc.Items {
			if is, ok := right[t.ID]; ok && is(&c.doc.Items[i]) {
				rightIn[i] = append(rightIn[i], t.ID)
			}
		}
	}
	for i, o := range s.Orders {
		c.lane(at(path+"/orders", i), &o, rightIn, governed)
	}
}

// needs finds those that overlap, and says which items are governed by one.
func (c *checker) needs(path string, s *Solution, right map[string]func(*Item) bool) map[string]bool {
	governed := map[string]bool{}
	first := map[string]map[string]int{} // target, item: the need that picks it
	for i, need := range s.Needs {
		is, ok := right[need.Target]
		if !ok {
			continue
		}
		if first[need.Target] == nil {
			first[need.Target] = map[string]int{}
		}
		picks := need.Of.compile()
		told := false
		for j := range c.doc.Items {
			it := &c.doc.Items[j]
			if !picks(it) || !is(it) {
				continue
			}
			governed[it.ID] = true
			if other, twice := first[need.Target][it.ID]; twice && !told {
				told = true
				c.fault(at(path+"/needs", i), "need-twice", message.P{"need": other + 1, "target": need.Target, "item": it.ID})
			}
			first[need.Target][it.ID] = i
		}
	}
	return governed
}

// order checks the names in an order, how many there are, and that they go in no
// circle.
func (c *checker) order(path string, earlier []Order, o *Order) {
	if c.target(path+"/target", o.Target) && !c.doc.Targets[c.targets[o.Target]].Ordered {
		c.fault(path+"/target", "no-lane", message.P{"target": o.Target})
	}
	if slices.ContainsFunc(earlier, func(e Order) bool { return e.Target == o.Target }) {
		c.fault(path+"/target", "lane-twice", message.P{"target": o.Target})
	}
	inTier, clear := map[string]bool{}, true
	for i, tier := range o.Tiers {
		if len(tier) == 0 {
			c.fault(at(path+"/tiers", i), "tier-empty", nil)
		}
		for j, id := range tier {
			where := at(at(path+"/tiers", i), j)
			c.item(where, id)
			if inTier[id] {
				c.fault(where, "tiers-twice", message.P{"item": id})
				clear = false
			}
			inTier[id] = true
		}
	}
	for i, pair := range o.Before {
		if len(pair) != 2 {
			c.fault(at(path+"/before", i), "no-pair", nil)
			clear = false
		}
		for j, id := range pair {
			c.item(at(at(path+"/before", i), j), id)
		}
	}
	names := o.Names()
	switch most := o.Most(); {
	case len(names) == 0:
		c.fault(path, "lane-empty", nil)
	case len(names) > most:
		c.fault(path, "lane-long", message.P{"n": len(names), "pairs": order.MostPairs, "tiers": order.Most})
	case clear:
		if _, circle := o.Compile(names); circle != nil {
			c.fault(path, "circle", message.P{"items": circleWords(names, circle)})
		}
	}
}

func circleWords(names []string, circle []int) string {
	words := make([]string, 0, len(circle)+1)
	for _, k := range append(circle, circle[0]) {
		words = append(words, names[k])
	}
	return strings.Join(words, " before ")
}

// lane checks that an order's items belong to its lane and to nothing else.
func (c *checker) lane(path string, o *Order, rightIn [][]string, governed map[string]bool) {
	named := map[string]bool{}
	for _, id := range o.Names() {
		named[id] = true
		it := &c.doc.Items[c.items[id]]
		switch {
		case it.Copies != 1:
			c.fault(path, "lane-copies", message.P{"item": id, "n": it.Copies})
		case governed[id]:
			c.fault(path, "lane-needed", message.P{"item": id})
		case !slices.Equal(rightIn[c.items[id]], []string{o.Target}):
			c.fault(path, "lane-elsewhere", message.P{"item": id, "target": o.Target})
		}
	}
	for i := range c.doc.Items {
		if id := c.doc.Items[i].ID; !named[id] && slices.Contains(rightIn[i], o.Target) {
			c.fault(path, "lane-lacks", message.P{"item": id, "target": o.Target})
		}
	}
}

// Names lists the order's items: those of the tiers, then further ones of the
// pairs.
func (o *Order) Names() []string {
	var out []string
	seen := map[string]bool{}
	for _, list := range slices.Concat(o.Tiers, o.Before) {
		for _, id := range list {
			if !seen[id] {
				out = append(out, id)
			}
			seen[id] = true
		}
	}
	return out
}

func (o *Order) Most() int {
	if len(o.Before) > 0 {
		return order.MostPairs
	}
	return order.Most
}

// Compile makes the order of the names, numbered as they stand in names; or the
// circle that they go in.
func (o *Order) Compile(names []string) (*order.Order, []int) {
	number := map[string]int{}
	for i, id := range names {
		number[id] = i
	}
	tiers := make([][]int, len(o.Tiers))
	for i, tier := range o.Tiers {
		for _, id := range tier {
			tiers[i] = append(tiers[i], number[id])
		}
	}
	var before [][2]int
	for _, pair := range o.Before {
		before = append(before, [2]int{number[pair[0]], number[pair[1]]})
	}
	return order.New(len(names), tiers, before)
}
