package answer

import "keenmagpie/core/activity"

// Available is the largest sum of weights that any valid arrangement of the
// solution earns. ok is false when there is none, because the targets hold fewer
// pieces than must be placed; then Conflict names items and targets at fault.
//
// It is a maximum-cost flow: every needed item sends its copies through its right
// cells, each worth the cell's weight, into targets that hold so many. All must
// arrive. Cost: O(pieces × cells × (items + targets)), by successive longest
// augmenting paths (Bellman–Ford; Ahuja, Magnanti and Orlin, Network Flows, §9.7).
func Available(doc *activity.Doc, s *activity.Solution) (points int, ok bool) {
	f := newFlow(2 + len(doc.Items) + len(doc.Targets))
	source, sink := 0, 1
	needed := 0
	for i := range doc.Items {
		it := &doc.Items[i]
		if !Needed(doc, s, it) {
			continue
		}
		needed += it.Copies
		f.edge(source, 2+i, it.Copies, 0)
		for j := range doc.Targets {
			if t := &doc.Targets[j]; s.RightCell(t, it) {
				f.edge(2+i, 2+len(doc.Items)+j, it.Copies, doc.Marks.Weight(it, t.ID))
			}
		}
	}
	for j := range doc.Targets {
		holds := doc.Targets[j].Holds
		if holds == 0 {
			holds = needed
		}
		f.edge(2+len(doc.Items)+j, sink, holds, 0)
	}
	sent, worth := f.longest(source, sink)
	return worth, sent == needed
}

// Conflict names the items and targets at fault when [Available] finds that a
// solution cannot be satisfied: a set of items whose pieces have fewer places
// than they need, with the targets that are all they have. It starts from all
// items and leaves out one after the other as long as the rest is impossible, so
// none can be left out of what remains. Cost: that of Available, times the items.
func Conflict(doc *activity.Doc, s *activity.Solution) (items, targets []string) {
	rest := *doc
	rest.Items = append([]activity.Item(nil), doc.Items...)
	for i := 0; i < len(rest.Items); {
		without := rest
		without.Items = append(append([]activity.Item(nil), rest.Items[:i]...), rest.Items[i+1:]...)
		if _, ok := Available(&without, s); ok {
			i++ // without this one the others fit: it is part of the conflict
		} else {
			rest = without
		}
	}
	for i := range rest.Items {
		items = append(items, rest.Items[i].ID)
	}
	for j := range doc.Targets {
		for i := range rest.Items {
			if s.RightCell(&doc.Targets[j], &rest.Items[i]) {
				targets = append(targets, doc.Targets[j].ID)
				break
			}
		}
	}
	return items, targets
}

// flow is a network with integer capacities and worths.
type flow struct {
	edges []edge
	from  [][]int // node: indices into edges; an edge's partner is index ^ 1
}

type edge struct{ to, room, worth int }

func newFlow(nodes int) *flow { return &flow{from: make([][]int, nodes)} }

func (f *flow) edge(from, to, room, worth int) {
	f.from[from] = append(f.from[from], len(f.edges))
	f.edges = append(f.edges, edge{to, room, worth})
	f.from[to] = append(f.from[to], len(f.edges))
	f.edges = append(f.edges, edge{from, 0, -worth})
}

// longest sends as much as possible from source to sink, and of all ways to do
// so one that is worth most.
func (f *flow) longest(source, sink int) (sent, worth int) {
	const none = -1 << 60
	for {
		best := make([]int, len(f.from))
		via := make([]int, len(f.from))
		for i := range best {
			best[i], via[i] = none, -1
		}
		best[source] = 0
		for changed := true; changed; {
			changed = false
			for node, list := range f.from {
				if best[node] == none {
					continue
				}
				for _, e := range list {
					x := f.edges[e]
					if x.room > 0 && best[node]+x.worth > best[x.to] {
						best[x.to], via[x.to], changed = best[node]+x.worth, e, true
					}
				}
			}
		}
		if best[sink] == none {
			return sent, worth
		}
		room := 1 << 60
		for node := sink; node != source; node = f.edges[via[node]^1].to {
			room = min(room, f.edges[via[node]].room)
		}
		for node := sink; node != source; node = f.edges[via[node]^1].to {
			f.edges[via[node]].room -= room
			f.edges[via[node]^1].room += room
		}
		sent += room
		worth += room * best[sink]
	}
}
