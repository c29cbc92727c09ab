package activity

import (
	"maps"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/geometry"
	"keenmagpie/core/message"
	"keenmagpie/core/richtext"
)

// checker finds what is wrong between fields: ids that come twice, references to
// what is not there, needs that overlap, orders that go in a circle.
type checker struct {
	*reader
	doc      *Doc
	items    map[string]int // by id
	targets  map[string]int
	parts    map[string]bool // all ids on the board
	tags     map[string]bool
	complete bool // items and targets could be read, so that what they lack is told
	work     int  // see flow
}

// check looks at a document as far as it could be read. Where items or targets
// could not, references to them are not called dangling. Cost: linear, but for
// O(items × targets) a solution with needs or orders, and O(corners²) a polygon.
func check(d *Doc, r *reader) {
	c := checker{r, d, map[string]int{}, map[string]int{}, map[string]bool{}, map[string]bool{}, true, 0}
	for _, f := range r.faults {
		fields := strings.Split(f.Pointer, "/")
		whole := len(fields) <= 3 && len(fields) > 1 && (fields[1] == "items" || fields[1] == "targets")
		c.complete = c.complete && !whole && f.Pointer != ""
	}
	for _, it := range d.Items {
		c.complete = c.complete && it.ID != ""
	}
	for _, t := range d.Targets {
		c.complete = c.complete && t.ID != ""
	}
	if !c.limits() {
		return
	}
	sound := len(r.faults) == 0
	c.board()
	for i, s := range d.Key.Solutions {
		c.solution(i, &s, sound)
	}
	for _, cell := range slices.Sorted(maps.Keys(d.Marks.Cells)) {
		item, target, _ := strings.Cut(cell, "/")
		_, item1 := c.items[item]
		_, target1 := c.targets[target]
		if c.complete && (!item1 || !target1) {
			c.fault("/marks/cells/"+escape(cell), "not-a-cell", message.P{"cell": cell})
		}
	}
	for i := range d.Items {
		for point, look := range d.Items[i].Looks.Points() {
			if look != nil && look.Style != nil && look.Style.Shape == ShapePolygon && len(look.Style.Points) < 3 {
				c.fault(at("/items", i)+"/looks/"+point+"/style/points", "few-points", nil)
			}
		}
	}
	sortBands("/marks/bands", d.Marks.Bands, r)
	c.replies()
	for i, h := range d.Hints {
		if h.Place && (h.Text != "" || h.Picture != "") {
			c.fault(at("/hints", i), "hint-says-and-places", nil)
		} else if !h.Place && h.Text == "" && h.Picture == "" {
			c.fault(at("/hints", i), "hint-empty", nil)
		}
	}
}

func at(path string, index int) string { return path + "/" + strconv.Itoa(index) }

func (c *checker) unique(seen map[string]bool, at, id, what string) {
	if id != "" && seen[id] {
		c.fault(at+"/id", "id-twice", message.P{"what": what, "id": id})
	}
	seen[id] = true
	c.parts[id] = true
}

func (c *checker) board() {
	seen := map[string]bool{}
	for i, it := range c.doc.Items {
		c.unique(seen, at("/items", i), it.ID, "item")
		c.items[it.ID] = i
		for j, tag := range it.Tags {
			c.tags[tag] = true
			if strings.TrimSpace(tag) == "" {
				c.fault(at(at("/items", i)+"/tags", j), "tag-empty", nil)
			}
		}
	}
	seen = map[string]bool{}
	for i := range c.doc.Targets {
		t := &c.doc.Targets[i]
		c.unique(seen, at("/targets", i), t.ID, "target")
		c.targets[t.ID] = i
		c.selector(at("/targets", i)+"/lets", t.Lets)
		c.shape(at("/targets", i), t)
	}
	seen = map[string]bool{}
	for i, s := range c.doc.Scenery {
		c.unique(seen, at("/scenery", i), s.ID, "scenery")
		line := s.Type == SceneryTypeLine || s.Type == SceneryTypeArrow
		switch {
		case line && (s.From == nil || s.To == nil):
			c.fault(at("/scenery", i), "no-ends", message.P{"type": s.Type})
		case s.Tie != "" && !line:
			c.fault(at("/scenery", i)+"/tie", "tie-of-no-line", nil)
		case s.Tie != "":
			c.target(at("/scenery", i)+"/tie", s.Tie)
		case s.Type != "" && !line && s.Frame == nil:
			c.fault(at("/scenery", i)+"/frame", "missing", message.P{"field": "frame"})
		}
	}
	for i, s := range c.doc.Scenery {
		for _, id := range richtext.Gaps(s.Text) {
			if _, ok := c.targets[id]; !ok && c.complete && c.doc.Kind == KindGaps {
				c.fault(at("/scenery", i)+"/text", "no-gap", message.P{"id": id})
			}
		}
	}
	seen = map[string]bool{}
	for i, id := range c.doc.Order {
		if !c.parts[id] && c.complete {
			c.fault(at("/order", i), "no-part", message.P{"id": id})
		}
		if seen[id] {
			c.fault(at("/order", i), "order-twice", message.P{"id": id})
		}
		seen[id] = true
	}
}

// shape checks a target's outline. A polygon without a frame gets the smallest
// that holds it.
func (c *checker) shape(path string, t *Target) {
	switch {
	case t.Shape != ShapePolygon && len(t.Points) > 0:
		c.fault(path+"/points", "points-of-no-polygon", nil)
	case t.Shape == ShapePolygon && len(t.Points) < 3:
		c.fault(path+"/points", "few-points", nil)
	case t.Shape == ShapePolygon && geometry.Crosses(t.Points):
		c.fault(path+"/points", "edges-cross", nil)
	case t.Shape == ShapePolygon && t.Frame == (geometry.Rect{}):
		t.Frame = geometry.Bounds(t.Points)
		if t.Frame.W == 0 || t.Frame.H == 0 {
			c.fault(path+"/points", "no-area", nil)
		}
	case t.Frame == (geometry.Rect{}):
		c.fault(path+"/frame", "missing", message.P{"field": "frame"})
	}
}

func (c *checker) item(at, id string) bool {
	_, ok := c.items[id]
	if !ok && c.complete {
		c.fault(at, "no-item", message.P{"id": id})
	}
	return ok
}

func (c *checker) target(at, id string) bool {
	_, ok := c.targets[id]
	if !ok && c.complete {
		c.fault(at, "no-target", message.P{"id": id})
	}
	return ok
}

func (c *checker) selector(path string, s Selector) {
	for i, id := range s.Items {
		c.item(at(path+"/items", i), id)
	}
	for i, id := range s.Except {
		c.item(at(path+"/except", i), id)
	}
}
