package activity

import (
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strings"

	"keenmagpie/core/geometry"
)

// Selection names parts of the board, by kind.
type Selection struct {
	Items   []string `json:"items"`
	Targets []string `json:"targets"`
	Scenery []string `json:"scenery"`
}

// Clone is a document that shares nothing with d. Cost: that of reading it.
func (d *Doc) Clone() *Doc {
	out := new(Doc)
	r := reader{shapes: shapes{}}
	tree, _ := parse(d.Full())
	r.value("", tree, reflect.ValueOf(out).Elem(), "")
	return out
}

// Media lists the ids of all pictures and sounds that the document uses, each once,
// sorted. Cost: linear.
func (d *Doc) Media() []string {
	known, ids := shapes{}, map[string]bool{}
	var walk func(v reflect.Value)
	walk = func(v reflect.Value) {
		switch v.Kind() {
		case reflect.Pointer:
			if !v.IsNil() {
				walk(v.Elem())
			}
		case reflect.Slice:
			for i := range v.Len() {
				walk(v.Index(i))
			}
		case reflect.Struct:
			for _, f := range known.of(v.Type()) {
				x := v.FieldByIndex(f.index)
				if f.name == "picture" || f.name == "sound" {
					if x = reflect.Indirect(x); x.IsValid() && x.String() != "" {
						ids[x.String()] = true
					}
					continue
				}
				walk(x)
			}
		}
	}
	walk(reflect.ValueOf(d))
	return sortedNames(ids)
}

var notID = regexp.MustCompile(`[^a-z0-9]+`)

// FreshID makes an id of a name that is not among those taken, and takes it.
func FreshID(taken map[string]bool, name string) string {
	base := strings.Trim(notID.ReplaceAllString(strings.ToLower(name), "-"), "-")
	if len(base) > 56 {
		base = strings.Trim(base[:56], "-")
	}
	if base == "" {
		base = "part"
	}
	id := base
	for n := 2; taken[id]; n++ {
		id = fmt.Sprintf("%s-%d", base, n)
	}
	taken[id] = true
	return id
}

func (d *Doc) takenIDs() (items, targets, scenery map[string]bool) {
	items, targets, scenery = map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, x := range d.Items {
		items[x.ID] = true
	}
	for _, x := range d.Targets {
		targets[x.ID] = true
	}
	for _, x := range d.Scenery {
		scenery[x.ID] = true
	}
	return items, targets, scenery
}

// AddItems adds an item for each name, last, and says which they are.
func (d *Doc) AddItems(names []string) (*Doc, Selection) {
	out := d.Clone()
	items, _, _ := out.takenIDs()
	var made Selection
	for _, name := range names {
		id := FreshID(items, name)
		out.Items = append(out.Items, NewItem(id, name))
		made.Items = append(made.Items, id)
	}
	return out, made
}

// AddTargets adds a target for each name, beside each other from the left upper
// corner, and says which they are.
func (d *Doc) AddTargets(names []string) (*Doc, Selection) {
	out := d.Clone()
	_, targets, _ := out.takenIDs()
	var made Selection
	for i, name := range names {
		t := NewTarget(FreshID(targets, name), name)
		t.Frame.W, t.Frame.H = 20000, 14000
		t.Frame.X, t.Frame.Y = 4000+U(i%4)*24000, 4000+U(i/4)*18000
		t.Frame.X = max(0, min(t.Frame.X, out.Board.Width-t.Frame.W))
		t.Frame.Y = max(0, min(t.Frame.Y, out.Board.Height-t.Frame.H))
		out.Targets = append(out.Targets, t)
		made.Targets = append(made.Targets, t.ID)
	}
	return out, made
}

// Duplicate copies parts, a little aside, each behind its original. A copy counts
// as its original does: where that is named in a selector, so is the copy; a copied
// target lets in and counts as right what its original does.
func (d *Doc) Duplicate(s Selection) (*Doc, Selection) {
	out := d.Clone()
	items, targets, scenery := out.takenIDs()
	var made Selection
	copies := map[string]string{}
	const aside = 2400
	for i := 0; i < len(out.Items); i++ {
		if it := out.Items[i]; slices.Contains(s.Items, it.ID) {
			id := FreshID(items, it.ID)
			copies[it.ID] = id
			it.ID = id
			if it.Home != nil {
				it.Home = &Point{min(it.Home.X+aside, out.Board.Width-it.Size.W), min(it.Home.Y+aside, out.Board.Height-it.Size.H)}
			}
			i++
			out.Items = slices.Insert(out.Items, i, it)
			made.Items = append(made.Items, id)
		}
	}
	for i := 0; i < len(out.Targets); i++ {
		if t := out.Targets[i]; slices.Contains(s.Targets, t.ID) {
			was := t.ID
			t.ID = FreshID(targets, was)
			dx, dy := min(aside, out.Board.Width-t.Frame.X-t.Frame.W), min(aside, out.Board.Height-t.Frame.Y-t.Frame.H)
			t.Frame.X, t.Frame.Y = t.Frame.X+dx, t.Frame.Y+dy
			t.Points = slices.Clone(t.Points)
			for k := range t.Points {
				t.Points[k][0], t.Points[k][1] = t.Points[k][0]+dx, t.Points[k][1]+dy
			}
			i++
			out.Targets = slices.Insert(out.Targets, i, t)
			made.Targets = append(made.Targets, t.ID)
			for k := range out.Key.Solutions {
				if sel, ok := out.Key.Solutions[k].Right[was]; ok {
					out.Key.Solutions[k].Right[t.ID] = sel
				}
			}
		}
	}
	for i := 0; i < len(out.Scenery); i++ {
		if x := out.Scenery[i]; slices.Contains(s.Scenery, x.ID) {
			x.ID = FreshID(scenery, x.ID)
			x.shift(aside, aside)
			i++
			out.Scenery = slices.Insert(out.Scenery, i, x)
			made.Scenery = append(made.Scenery, x.ID)
		}
	}
	out.selectors(func(sel *Selector) {
		for _, list := range []*[]string{&sel.Items, &sel.Except} {
			for _, id := range slices.Clone(*list) {
				if c, ok := copies[id]; ok {
					*list = append(*list, c)
				}
			}
		}
	})
	return out, made
}

func (x *Scenery) shift(dx, dy U) {
	if x.Frame != nil {
		f := *x.Frame
		f.X, f.Y = f.X+dx, f.Y+dy
		x.Frame = &f
	}
	if x.From != nil && x.To != nil {
		x.From, x.To = &Point{x.From.X + dx, x.From.Y + dy}, &Point{x.To.X + dx, x.To.Y + dy}
	}
}

// selectors calls f with every selector of the key and of the targets.
func (d *Doc) selectors(f func(*Selector)) {
	for i := range d.Targets {
		f(&d.Targets[i].Lets)
	}
	for i := range d.Key.Solutions {
		s := &d.Key.Solutions[i]
		for id, sel := range s.Right {
			f(&sel)
			s.Right[id] = sel
		}
		for k := range s.Needs {
			f(&s.Needs[k].Of)
		}
	}
}

// Remove takes parts away, with all that names them: cells, needs and orders that
// are left without anything, replies whose condition speaks of them. lost says in
// words what goes with them.
func (d *Doc) Remove(s Selection) (out *Doc, lost []string) {
	out = d.Clone()
	gone := func(list []string) func(string) bool {
		return func(id string) bool { return slices.Contains(list, id) }
	}
	item, target, scenery := gone(s.Items), gone(s.Targets), gone(s.Scenery)
	out.Items = slices.DeleteFunc(out.Items, func(x Item) bool { return item(x.ID) })
	out.Targets = slices.DeleteFunc(out.Targets, func(x Target) bool { return target(x.ID) })
	out.Scenery = slices.DeleteFunc(out.Scenery, func(x Scenery) bool { return scenery(x.ID) })
	out.selectors(func(sel *Selector) {
		sel.Items = slices.DeleteFunc(sel.Items, item)
		sel.Except = slices.DeleteFunc(sel.Except, item)
	})
	cells := 0
	for i := range out.Key.Solutions {
		sol := &out.Key.Solutions[i]
		for t := range d.Targets {
			for k := range d.Items {
				if (item(d.Items[k].ID) || target(d.Targets[t].ID)) && d.Key.Solutions[i].RightCell(&d.Targets[t], &d.Items[k]) {
					cells++
				}
			}
		}
		for id := range sol.Right {
			if target(id) {
				delete(sol.Right, id)
			}
		}
		before := len(sol.Needs) + len(sol.Orders)
		sol.Needs = slices.DeleteFunc(sol.Needs, func(n Need) bool {
			return target(n.Target) || !n.Of.All && len(n.Of.Items) == 0 && len(n.Of.Tags) == 0
		})
		for k := range sol.Orders {
			o := &sol.Orders[k]
			for j := range o.Tiers {
				o.Tiers[j] = slices.DeleteFunc(o.Tiers[j], item)
			}
			o.Tiers = slices.DeleteFunc(o.Tiers, func(tier []string) bool { return len(tier) == 0 })
			o.Before = slices.DeleteFunc(o.Before, func(pair []string) bool { return slices.ContainsFunc(pair, item) })
		}
		sol.Orders = slices.DeleteFunc(sol.Orders, func(o Order) bool { return target(o.Target) || len(o.Names()) == 0 })
		if n := before - len(sol.Needs) - len(sol.Orders); n > 0 {
			lost = append(lost, count(n, "need or order", "needs and orders"))
		}
	}
	if cells > 0 {
		lost = append([]string{count(cells, "right cell", "right cells")}, lost...)
	}
	for _, name := range sortedNames(out.Marks.Cells) {
		it, t, _ := strings.Cut(name, "/")
		if item(it) || target(t) {
			delete(out.Marks.Cells, name)
			lost = append(lost, "the marks of "+name)
		}
	}
	before := len(out.Replies)
	out.Replies = slices.DeleteFunc(out.Replies, func(r Reply) bool { return r.When.names(item, target) })
	if n := before - len(out.Replies); n > 0 {
		lost = append(lost, count(n, "reply", "replies"))
	}
	left := map[string]bool{}
	for _, x := range out.Items {
		left[x.ID] = true
	}
	for _, x := range out.Targets {
		left[x.ID] = true
	}
	for _, x := range out.Scenery {
		left[x.ID] = true
	}
	missing := func(id string) bool { return !left[id] }
	out.Order = slices.DeleteFunc(out.Order, missing)
	for i := range out.Replies {
		out.Replies[i].Point = slices.DeleteFunc(out.Replies[i].Point, func(id string) bool {
			return missing(id) && !slices.Contains([]string{"right", "wrong", "missing"}, id)
		})
	}
	return out, lost
}

func count(n int, one, many string) string {
	if n == 1 {
		return "1 " + one
	}
	return fmt.Sprintf("%d %s", n, many)
}

// names reports whether a condition speaks of one of the parts by name.
func (c *Condition) names(item, target func(string) bool) bool {
	if c == nil {
		return false
	}
	for _, list := range [][]Condition{c.All, c.Any, c.None} {
		for i := range list {
			if list[i].names(item, target) {
				return true
			}
		}
	}
	piece := c.Piece != nil && (slices.ContainsFunc(c.Piece.Items, item) || slices.ContainsFunc(c.Piece.Except, item))
	return piece || slices.ContainsFunc(c.Onto, target) || c.Item != "" && item(c.Item) || target(c.Target) || target(c.In)
}

// RenameTag renames a tag wherever it stands: in items, in selectors, in replies.
func (d *Doc) RenameTag(from, to string) *Doc {
	out := d.Clone()
	swap := func(tags []string) {
		for i, tag := range tags {
			if tag == from {
				tags[i] = to
			}
		}
	}
	for i := range out.Items {
		swap(out.Items[i].Tags)
		out.Items[i].Tags = slices.Compact(out.Items[i].Tags)
	}
	out.selectors(func(s *Selector) { swap(s.Tags) })
	var walk func(*Condition)
	walk = func(c *Condition) {
		if c == nil {
			return
		}
		if c.Piece != nil {
			swap(c.Piece.Tags)
		}
		for _, list := range [][]Condition{c.All, c.Any, c.None} {
			for i := range list {
				walk(&list[i])
			}
		}
	}
	for i := range out.Replies {
		walk(out.Replies[i].When)
	}
	return out
}

// Recast makes parts into items, targets or scenery and back, keeping place, size,
// picture and name. What only the old role had goes with it; lost says so in words.
func (d *Doc) Recast(s Selection, to string) (out *Doc, made Selection, lost []string) {
	type face struct {
		name, text, picture, alt string
		frame                    geometry.Rect
	}
	var faces []face
	take := Selection{}
	for _, it := range d.Items {
		if slices.Contains(s.Items, it.ID) && to != "item" {
			at := geometry.Centred(d.Board.Width/2, d.Board.Height/2, it.Size.W, it.Size.H)
			if it.Home != nil {
				at.X, at.Y = it.Home.X, it.Home.Y
			}
			faces = append(faces, face{it.Name, it.Text, it.Picture, it.Alt, at})
			take.Items = append(take.Items, it.ID)
		}
	}
	for _, t := range d.Targets {
		if slices.Contains(s.Targets, t.ID) && to != "target" {
			faces = append(faces, face{t.Name, t.Label.Text, "", "", t.Frame})
			take.Targets = append(take.Targets, t.ID)
		}
	}
	for _, x := range d.Scenery {
		if slices.Contains(s.Scenery, x.ID) && to != "scenery" && x.Frame != nil {
			faces = append(faces, face{first(x.Alt, x.Text, x.ID), x.Text, x.Picture, x.Alt, *x.Frame})
			take.Scenery = append(take.Scenery, x.ID)
		}
	}
	out, lost = d.Remove(take)
	items, targets, scenery := out.takenIDs()
	for _, f := range faces {
		name := first(f.name, f.text)
		switch to {
		case "item":
			it := NewItem(FreshID(items, name), name)
			it.Text, it.Picture, it.Alt = f.text, f.picture, f.alt
			it.Size = geometry.Size{W: f.frame.W, H: f.frame.H}
			it.Home = &Point{f.frame.X, f.frame.Y}
			out.Items = append(out.Items, it)
			made.Items = append(made.Items, it.ID)
		case "target":
			t := NewTarget(FreshID(targets, name), name)
			t.Frame = f.frame
			out.Targets = append(out.Targets, t)
			made.Targets = append(made.Targets, t.ID)
		default:
			x := fresh[Scenery]()
			x.ID, x.Type, x.Text, x.Picture, x.Alt = FreshID(scenery, name), "text", first(f.text, f.name), f.picture, first(f.alt, f.name)
			if f.picture != "" {
				x.Type, x.Text = "picture", ""
			} else {
				x.Alt = ""
			}
			x.Frame, x.Pinned = &f.frame, true
			out.Scenery = append(out.Scenery, x)
			made.Scenery = append(made.Scenery, x.ID)
		}
	}
	return out, made, lost
}

func first(texts ...string) string {
	for _, t := range texts {
		if t != "" {
			return t
		}
	}
	return ""
}
