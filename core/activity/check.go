package activity

import (
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/geometry"
	"keenmagpie/core/order"
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
}

// check looks at a document as far as it could be read. Where items or targets
// could not, references to them are not called dangling. Cost: linear, but for
// O(items × targets) a solution with needs or orders, and O(corners²) a polygon.
func check(d *Doc, r *reader) {
	c := checker{r, d, map[string]int{}, map[string]int{}, map[string]bool{}, map[string]bool{}, true}
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
	sound := len(r.faults) == 0
	c.board()
	for i, s := range d.Key.Solutions {
		c.solution(i, &s, sound)
	}
	for _, cell := range sortedNames(d.Marks.Cells) {
		item, target, _ := strings.Cut(cell, "/")
		_, item1 := c.items[item]
		_, target1 := c.targets[target]
		if c.complete && (!item1 || !target1) {
			c.fault("/marks/cells/"+escape(cell), "%q should be an item's id, a stroke and a target's id", cell)
		}
	}
	c.replies()
	for i, h := range d.Hints {
		if h.Place && (h.Text != "" || h.Picture != "") {
			c.fault(at("/hints", i), "a hint that places a piece has no text and no picture")
		} else if !h.Place && h.Text == "" && h.Picture == "" {
			c.fault(at("/hints", i), "a hint needs a text or a picture, or places a piece")
		}
	}
}

func at(path string, index int) string { return path + "/" + strconv.Itoa(index) }

func (c *checker) unique(seen map[string]bool, at, id, what string) {
	if id != "" && seen[id] {
		c.fault(at+"/id", "there is another %s with the id %q", what, id)
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
				c.fault(at(at("/items", i)+"/tags", j), "a tag must not be empty")
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
		c.unique(seen, at("/scenery", i), s.ID, "part of the scenery")
		line := s.Type == "line" || s.Type == "arrow"
		switch {
		case line && (s.From == nil || s.To == nil):
			c.fault(at("/scenery", i), "a %s needs its two ends, from and to", s.Type)
		case s.Type != "" && !line && s.Frame == nil:
			c.fault(at("/scenery", i)+"/frame", "\"frame\" is missing")
		}
	}
	for i, s := range c.doc.Scenery {
		for _, id := range richtext.Gaps(s.Text) {
			if _, ok := c.targets[id]; !ok && c.complete && c.doc.Kind == "gaps" {
				c.fault(at("/scenery", i)+"/text", "there is no target %q for the gap [[%s]]", id, id)
			}
		}
	}
	seen = map[string]bool{}
	for i, id := range c.doc.Order {
		if !c.parts[id] && c.complete {
			c.fault(at("/order", i), "there is no part %q", id)
		}
		if seen[id] {
			c.fault(at("/order", i), "%q stands in the reading order twice", id)
		}
		seen[id] = true
	}
}

// shape checks a target's outline. A polygon without a frame gets the smallest
// that holds it.
func (c *checker) shape(path string, t *Target) {
	switch {
	case t.Shape != "polygon" && len(t.Points) > 0:
		c.fault(path+"/points", "only a polygon has points")
	case t.Shape == "polygon" && len(t.Points) < 3:
		c.fault(path+"/points", "a polygon needs at least 3 points")
	case t.Shape == "polygon" && geometry.Crosses(t.Points):
		c.fault(path+"/points", "the polygon's edges cross each other")
	case t.Shape == "polygon" && t.Frame == (geometry.Rect{}):
		t.Frame = geometry.Bounds(t.Points)
		if t.Frame.W == 0 || t.Frame.H == 0 {
			c.fault(path+"/points", "the polygon has no area")
		}
	case t.Frame == (geometry.Rect{}):
		c.fault(path+"/frame", "\"frame\" is missing")
	}
}

func (c *checker) item(at, id string) bool {
	_, ok := c.items[id]
	if !ok && c.complete {
		c.fault(at, "there is no item %q", id)
	}
	return ok
}

func (c *checker) target(at, id string) bool {
	_, ok := c.targets[id]
	if !ok && c.complete {
		c.fault(at, "there is no target %q", id)
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

// solution checks one; what needs and orders mean is only looked at where the
// document is sound otherwise, so that no fault is told twice.
func (c *checker) solution(n int, s *Solution, sound bool) {
	path := at("/key/solutions", n)
	before := len(c.faults)
	for _, id := range sortedNames(s.Right) {
		where := path + "/right/" + escape(id)
		c.target(where, id)
		c.selector(where, s.Right[id])
	}
	for i, need := range s.Needs {
		where := at(path+"/needs", i)
		c.target(where+"/target", need.Target)
		c.selector(where+"/of", need.Of)
		if need.Max != nil && *need.Max < need.Min {
			c.fault(where+"/max", "at most %d is less than at least %d", *need.Max, need.Min)
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
				c.fault(at(path+"/needs", i), "this need and need %d of %q both count %q; each item can be counted by one", other+1, need.Target, it.ID)
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
		c.fault(path+"/target", "%q does not keep its pieces in order: only a lane (\"ordered\": true) can have one", o.Target)
	}
	if slices.ContainsFunc(earlier, func(e Order) bool { return e.Target == o.Target }) {
		c.fault(path+"/target", "%q has an order already", o.Target)
	}
	inTier, clear := map[string]bool{}, true
	for i, tier := range o.Tiers {
		if len(tier) == 0 {
			c.fault(at(path+"/tiers", i), "a tier must not be empty")
		}
		for j, id := range tier {
			where := at(at(path+"/tiers", i), j)
			c.item(where, id)
			if inTier[id] {
				c.fault(where, "%q stands in the tiers twice", id)
				clear = false
			}
			inTier[id] = true
		}
	}
	for i, pair := range o.Before {
		if len(pair) != 2 {
			c.fault(at(path+"/before", i), "a pair has two items, the earlier one first")
			clear = false
		}
		for j, id := range pair {
			c.item(at(at(path+"/before", i), j), id)
		}
	}
	names := o.Names()
	switch most := o.most(); {
	case len(names) == 0:
		c.fault(path, "an order needs at least one item")
	case len(names) > most:
		c.fault(path, "the order has %d items; with pairs of before %d are possible, with tiers alone %d", len(names), order.MostPairs, order.Most)
	case clear:
		if _, circle := o.Compile(names); circle != nil {
			c.fault(path, "the order goes in a circle: %s", circleWords(names, circle))
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
			c.fault(path, "%q has %d copies; in an order every item has one", id, it.Copies)
		case governed[id]:
			c.fault(path, "%q is counted by a need and cannot have a place in an order as well", id)
		case !slices.Equal(rightIn[c.items[id]], []string{o.Target}):
			c.fault(path, "%q must be right in %q and nowhere else, as it has a place in its order", id, o.Target)
		}
	}
	for i := range c.doc.Items {
		if id := c.doc.Items[i].ID; !named[id] && slices.Contains(rightIn[i], o.Target) {
			c.fault(path, "%q is right in %q and must have a place in its order", id, o.Target)
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

func (o *Order) most() int {
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

func (c *checker) replies() {
	seen := map[string]bool{}
	for i := range c.doc.Replies {
		r := &c.doc.Replies[i]
		path := at("/replies", i)
		if r.ID != "" && seen[r.ID] {
			c.fault(path+"/id", "there is another reply with the id %q", r.ID)
		}
		seen[r.ID] = true
		if r.When != nil {
			c.condition(path+"/when", r.When)
		}
		if (r.Spot == "frame") != (r.Frame != nil) {
			c.fault(path+"/frame", "a reply has a frame of its own where its spot is frame, and only there")
		}
		for j, id := range r.Point {
			if !c.parts[id] && c.complete && !slices.Contains([]string{"right", "wrong", "missing"}, id) {
				c.fault(at(path+"/point", j), "there is no part %q; right, wrong and missing are possible, too", id)
			}
		}
		for j, offer := range r.Offer {
			page, ok := strings.CutPrefix(offer, "page:")
			if !slices.Contains([]string{"next", "again", "restart", "back"}, offer) && !(ok && idPattern.MatchString(page)) {
				c.fault(at(path+"/offer", j), "%q cannot be offered; possible: next, again, restart, back, page:<id>", offer)
			}
		}
	}
}

// condition checks that there is exactly one form, that what it names is there,
// and the conditions within.
func (c *checker) condition(path string, w *Condition) {
	if forms := w.forms(); len(forms) != 1 {
		if len(forms) == 0 {
			c.fault(path, "the condition is empty; leave out \"when\" for always")
		} else {
			c.fault(path, "one condition says one thing, and here are %s; put them under \"all\" or \"any\"", strings.Join(forms, ", "))
		}
	}
	for i := range w.All {
		c.condition(at(path+"/all", i), &w.All[i])
	}
	for i := range w.Any {
		c.condition(at(path+"/any", i), &w.Any[i])
	}
	for i := range w.None {
		c.condition(at(path+"/none", i), &w.None[i])
	}
	if w.Piece != nil {
		c.selector(path+"/piece", *w.Piece)
	}
	for i, id := range w.Onto {
		c.target(at(path+"/onto", i), id)
	}
	switch {
	case w.Item != "":
		c.item(path+"/item", w.Item)
		if (w.Is == "") == (w.In == "") {
			c.fault(path, "with an item goes \"is\" (home, right, wrong) or \"in\" (a target)")
		}
		if w.Is == "part" || w.Is == "empty" {
			c.fault(path+"/is", "%q is not possible here; possible: home, right, wrong", w.Is)
		}
	case w.Target != "":
		c.target(path+"/target", w.Target)
		if w.Is == "" || w.Is == "home" {
			c.fault(path+"/is", "with a target goes \"is\": right, part, wrong or empty")
		}
		fallthrough
	default:
		if w.In != "" || w.Is != "" && w.Target == "" {
			c.fault(path, "\"is\" and \"in\" say something of an item or a target, and none is named")
		}
	}
	if w.In != "" {
		c.target(path+"/in", w.In)
	}
	ranges := w.ranges()
	for _, name := range sortedNames(ranges) {
		r := ranges[name]
		if r.Min != nil && r.Max != nil && *r.Min > *r.Max {
			c.fault(path+"/"+name, "at least %s is more than at most %s", *r.Min, *r.Max)
		}
	}
	if w.Solution != nil && *w.Solution >= len(c.doc.Key.Solutions) && len(c.doc.Key.Solutions) > 0 {
		c.fault(path+"/solution", "there are %d solutions, numbered from 0", len(c.doc.Key.Solutions))
	}
}

// forms names the forms that a condition has; one is right.
func (w *Condition) forms() []string {
	var out []string
	for _, f := range []struct {
		name string
		is   bool
	}{
		{"all", w.All != nil}, {"any", w.Any != nil}, {"none", w.None != nil},
		{"piece", w.Piece != nil}, {"onto", w.Onto != nil}, {"result", w.Result != ""},
		{"item", w.Item != ""}, {"target", w.Target != ""}, {"outcome", w.Outcome != ""},
		{"solution", w.Solution != nil},
	} {
		if f.is {
			out = append(out, f.name)
		}
	}
	return append(out, sortedNames(w.ranges())...)
}

// ranges lists the spans that a condition has, by field.
func (w *Condition) ranges() map[string]*Range {
	out := map[string]*Range{}
	for name, r := range map[string]*Range{
		"rightCount": w.RightCount, "wrongCount": w.WrongCount, "missingCount": w.MissingCount,
		"homeCount": w.HomeCount, "percent": w.Percent, "attempt": w.Attempt, "left": w.Left,
	} {
		if r != nil {
			out[name] = r
		}
	}
	return out
}

func sortedNames[V any](m map[string]V) []string {
	names := make([]string, 0, len(m))
	for name := range m {
		names = append(names, name)
	}
	slices.Sort(names)
	return names
}
