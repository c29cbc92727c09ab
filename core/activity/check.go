package activity

import (
	"fmt"
	"slices"
	"strings"
)

// check finds what is wrong between fields: ids that come twice, references to
// what is not there. Cost: O(n log n) in the parts and references.
func check(d *Doc, r *reader) {
	items := map[string]bool{}
	targets := map[string]bool{}
	for i, it := range d.Items {
		unique(r, items, fmt.Sprintf("/items/%d/id", i), it.ID, "item")
		for j, tag := range it.Tags {
			if strings.TrimSpace(tag) == "" {
				r.fault(fmt.Sprintf("/items/%d/tags/%d", i, j), "a tag must not be empty")
			}
		}
	}
	for i, t := range d.Targets {
		unique(r, targets, fmt.Sprintf("/targets/%d/id", i), t.ID, "target")
		selector(r, items, fmt.Sprintf("/targets/%d/lets", i), t.Lets)
	}
	scenery := map[string]bool{}
	for i, s := range d.Scenery {
		unique(r, scenery, fmt.Sprintf("/scenery/%d/id", i), s.ID, "part of the scenery")
	}
	for i, s := range d.Key.Solutions {
		for _, id := range sortedNames(s.Right) {
			at := fmt.Sprintf("/key/solutions/%d/right/%s", i, escape(id))
			if !targets[id] {
				r.fault(at, "there is no target %q", id)
			}
			selector(r, items, at, s.Right[id])
		}
	}
	for _, cell := range sortedNames(d.Marks.Cells) {
		item, target, _ := strings.Cut(cell, "/")
		if !items[item] || !targets[target] {
			r.fault("/marks/cells/"+escape(cell), "%q should be an item's id, a stroke and a target's id", cell)
		}
	}
	for i := 1; i < len(d.Marks.Bands); i++ {
		if d.Marks.Bands[i].From <= d.Marks.Bands[i-1].From {
			r.fault(fmt.Sprintf("/marks/bands/%d/from", i), "a band must begin above the one before it")
		}
	}
}

func unique(r *reader, seen map[string]bool, at, id, what string) {
	if seen[id] {
		r.fault(at, "there is another %s with the id %q", what, id)
	}
	seen[id] = true
}

func selector(r *reader, items map[string]bool, at string, s Selector) {
	for name, list := range map[string][]string{"items": s.Items, "except": s.Except} {
		for i, id := range list {
			if !items[id] {
				r.fault(fmt.Sprintf("%s/%s/%d", at, name, i), "there is no item %q", id)
			}
		}
	}
}

func sortedNames[V any](m map[string]V) []string {
	names := make([]string, 0, len(m))
	for name := range m {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}
