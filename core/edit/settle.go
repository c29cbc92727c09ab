package edit

import (
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// orderable lists the items that are right in a lane, or says why they cannot have
// an order.
func orderable(d *activity.Doc, s *activity.Solution, lane *activity.Target) (names []string, why *message.Sentence) {
	for i := range d.Items {
		it := &d.Items[i]
		if !s.RightCell(lane, it) {
			continue
		}
		names = append(names, it.ID)
		for j := range d.Targets {
			if t := &d.Targets[j]; t.ID != lane.ID && s.RightCell(t, it) {
				return names, refused("lane-elsewhere", message.P{"item": itemName(it), "target": targetName(t)})
			}
		}
		switch {
		case it.Copies != 1:
			return names, refused("lane-copies", message.P{"item": itemName(it), "n": it.Copies})
		case d.Governed(s, it):
			return names, refused("lane-needed", message.P{"item": itemName(it)})
		}
	}
	return names, nil
}

// settle keeps orders sound after a change of anything that they rest on: items
// that are new in a lane come last in its order, those that are no longer right there
// leave it, and an order that cannot hold any more goes. Needs that count the same
// item twice keep it in the first.
func settle(d *activity.Doc) (lost []message.Sentence) {
	for i := range d.Key.Solutions {
		s := &d.Key.Solutions[i]
		settleNeeds(d, s)
		s.Orders = slices.DeleteFunc(s.Orders, func(o activity.Order) bool {
			t := d.Target(o.Target)
			if t == nil {
				lost = append(lost, Say("lost-order", message.P{"target": o.Target}))
				return true
			}
			names, why := orderable(d, s, t)
			if !t.Ordered || why != nil || len(names) == 0 || len(names) > 200 {
				lost = append(lost, Say("lost-order", message.P{"target": targetName(t)}))
				return true
			}
			return false
		})
		for k := range s.Orders {
			o := &s.Orders[k]
			names, _ := orderable(d, s, d.Target(o.Target))
			gone := func(id string) bool { return !slices.Contains(names, id) }
			tiers := make([][]string, 0, len(o.Tiers))
			for _, tier := range o.Tiers {
				if tier = slices.DeleteFunc(slices.Clone(tier), gone); len(tier) > 0 {
					tiers = append(tiers, tier)
				}
			}
			o.Tiers = tiers
			o.Before = slices.DeleteFunc(slices.Clone(o.Before), func(pair []string) bool { return slices.ContainsFunc(pair, gone) })
			has := o.Names()
			for _, id := range names {
				if !slices.Contains(has, id) {
					o.Tiers = append(o.Tiers, []string{id})
				}
			}
			if len(o.Before) > 0 && len(names) > o.Most() {
				o.Before = nil
				lost = append(lost, Say("lost-pairs", nil))
				for _, id := range names {
					if !slices.ContainsFunc(o.Tiers, func(tier []string) bool { return slices.Contains(tier, id) }) {
						o.Tiers = append(o.Tiers, []string{id})
					}
				}
			}
		}
	}
	return lost
}

func settleNeeds(d *activity.Doc, s *activity.Solution) {
	for i := range d.Targets {
		t := &d.Targets[i]
		taken := map[string]bool{}
		for k := range s.Needs {
			n := &s.Needs[k]
			if n.Target != t.ID {
				continue
			}
			for j := range d.Items {
				it := &d.Items[j]
				if !n.Of.Selects(it) || !s.RightCell(t, it) {
					continue
				}
				if taken[it.ID] {
					n.Of = n.Of.With(it, false)
				}
				taken[it.ID] = true
			}
		}
	}
}

// Settle mends a document that is faulty only because orders and needs no longer fit
// what they rest on, as when an item's tags or copies have changed; ok is false
// where there is more, or nothing, to mend.
func Settle(body []byte) (doc *activity.Doc, lost []message.Sentence, ok bool) {
	doc, faults := activity.ReadFaulty(body)
	if doc == nil || len(faults) == 0 {
		return nil, nil, false
	}
	for _, f := range faults {
		if !strings.HasPrefix(f.Pointer, "/key/solutions/") || !strings.Contains(f.Pointer, "/orders/") && !strings.Contains(f.Pointer, "/needs/") {
			return nil, nil, false
		}
	}
	lost = settle(doc)
	if _, faults := activity.Read(doc.Write()); len(faults) > 0 {
		return nil, nil, false
	}
	return doc, lost, true
}
