package qti

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/richtext"
)

// item makes an item of a choice.
func (m *importing) item(n *node, most int) {
	id := n.get("identifier")
	if id == "" || m.items[id] != "" {
		m.note(n, id, "bad-identifier", "A choice without an identifier of its own is left out.")
		return
	}
	it := activity.NewItem(activity.FreshID(m.taken, id), "")
	it.Text = m.short(n, n.plain(), 1000)
	if img := n.find("img"); img != nil || n.find("object") != nil {
		img = cmp.Or(img, n.find("object"))
		it.Alt = clipped(cmp.Or(img.get("alt"), n.get("object-label"), img.plain()), 1000)
		if img.name == "object" {
			it.Text = strings.TrimSpace(strings.Replace(it.Text, img.plain(), "", 1))
		}
		it.Picture = m.medium(img, cmp.Or(img.get("src"), img.get("data")))
		if w, h := m.most(img, "width", 0), m.most(img, "height", 0); w > 0 && h > 0 {
			it.Size = geometry.Size{W: activity.U(100 * min(w, 2000)), H: activity.U(100 * min(h, 2000))}
		}
	}
	for _, math := range n.children("math") {
		m.note(math, id, "formula", "The formula in “%s” is taken as its text.", id)
	}
	it.Name = clipped(cmp.Or(it.Text, it.Alt, id), 200)
	if it.Text == "" && it.Picture == "" {
		it.Text = it.Name
	}
	it.Copies = min(max(most, 1), 99)
	if most == 0 {
		m.unbound = append(m.unbound, it.ID)
	}
	m.items[id] = it.ID
	m.doc.Items = append(m.doc.Items, it)
}

// target makes a target of where something goes.
func (m *importing) target(n *node, name string, holds int) *activity.Target {
	id := n.get("identifier")
	if id == "" || m.targets[id] != "" {
		m.note(n, id, "bad-identifier", "A place without an identifier of its own is left out.")
		return nil
	}
	t := activity.NewTarget(activity.FreshID(m.spots, id), clipped(cmp.Or(name, id), 200))
	if name == "" {
		t.Label.Text = ""
	}
	t.Holds = min(holds, 999)
	t.WhenFull = activity.WhenFullOust
	m.targets[id] = t.ID
	m.doc.Targets = append(m.doc.Targets, t)
	return &m.doc.Targets[len(m.doc.Targets)-1]
}

// groups says which items a target lets in, by what both sides say of what goes together.
func (m *importing) groups(choices, places []*node) {
	for _, p := range places {
		t := m.doc.Target(m.targets[p.get("identifier")])
		if t == nil {
			continue
		}
		lets, all := []string{}, true
		for _, c := range choices {
			ofChoice, ofPlace := strings.Fields(c.get("match-group")), strings.Fields(p.get("match-group"))
			fits := (len(ofChoice) == 0 || slices.Contains(ofChoice, p.get("identifier"))) && (len(ofPlace) == 0 || slices.Contains(ofPlace, c.get("identifier")))
			if id := m.items[c.get("identifier")]; fits && id != "" {
				lets = append(lets, id)
			} else {
				all = false
			}
		}
		if !all {
			t.Lets = activity.Selector{Items: slices.Compact(lets)}
		}
	}
}

func (m *importing) gaps() bool {
	m.doc.Kind = activity.KindGaps
	choices := m.at.children("qti-gap-text", "qti-gap-img")
	for _, c := range choices {
		m.item(c, m.most(c, "match-max", 1))
	}
	var places []*node
	m.at.all(func(n *node) {
		if n.name == "qti-gap" && m.target(n, "", 1) != nil {
			places = append(places, n)
		}
	})
	m.groups(choices, places)
	var blocks []richtext.Node
	for _, n := range m.at.in {
		if n.name != "" && !slices.Contains([]string{"qti-gap-text", "qti-gap-img", "qti-prompt"}, n.name) {
			blocks = append(blocks, m.rich(n)...)
		}
	}
	text := activity.NewScenery("text", activity.SceneryTypeText)
	text.Frame, text.Pinned = &geometry.Rect{X: 2400, Y: 2400, W: m.doc.Board.Width - 4800, H: 30000}, true
	text.Text = m.short(m.at, richtext.Write(blocks), 4000)
	m.doc.Scenery = append(m.doc.Scenery, text)
	return m.enough()
}

// enough says whether there is something to be done.
func (m *importing) enough() bool {
	if len(m.doc.Items) == 0 || len(m.doc.Targets) == 0 {
		m.note(m.at, m.root.get("identifier"), "nothing-to-do", "“%s” has nothing to place, or nowhere to place it: it is left out.", m.title())
		return false
	}
	if len(m.doc.Items) > 500 || len(m.doc.Targets) > 200 {
		m.note(m.at, m.root.get("identifier"), "too-many", "“%s” has more than 500 choices or 200 places: it is left out.", m.title())
		return false
	}
	for i := range m.doc.Items {
		if it := &m.doc.Items[i]; slices.Contains(m.unbound, it.ID) {
			it.Copies = min(max(1, len(m.doc.Targets)), 99)
		}
	}
	return true
}

// ground shows the picture that places lie over.
func (m *importing) ground() {
	img := cmp.Or(m.at.child("img"), m.at.child("object"), m.at.find("img"), m.at.find("object"))
	if stage := m.root.find("qti-position-object-stage"); stage != nil && m.kind == positioning {
		img = cmp.Or(stage.child("img"), stage.child("object"))
	}
	if img == nil {
		return
	}
	w, h := m.most(img, "width", 0), m.most(img, "height", 0)
	s := activity.NewScenery("picture", activity.SceneryTypePicture)
	s.Picture, s.Pinned = m.medium(img, cmp.Or(img.get("src"), img.get("data"))), true
	s.Alt = clipped(cmp.Or(img.get("alt"), img.plain()), 1000)
	if w == 0 || h == 0 {
		w, h = 960, 600
		m.note(img, "picture", "size", "How large the picture is does not stand there: 960 by 600 is taken.")
	}
	m.doc.Board.Width, m.doc.Board.Height = activity.U(100*min(max(w, 100), 10000)), activity.U(100*min(max(h, 100), 10000))
	s.Frame = &geometry.Rect{W: m.doc.Board.Width, H: m.doc.Board.Height}
	if s.Picture != "" {
		m.doc.Scenery = append(m.doc.Scenery, s)
	}
}

// shaped gives a target the shape of an area over the picture.
func (m *importing) shaped(t *activity.Target, n *node) {
	var list []activity.U
	for _, part := range strings.FieldsFunc(n.get("coords"), func(r rune) bool { return r == ',' || r == ' ' }) {
		f, err := strconv.ParseFloat(strings.TrimSuffix(part, "%"), 64)
		if err != nil || math.Abs(f) > 100000 {
			f = 0
		}
		list = append(list, activity.U(math.Round(100*f)))
	}
	around := func(x, y, rx, ry activity.U) geometry.Rect {
		return geometry.Rect{X: x - rx, Y: y - ry, W: max(2*rx, 100), H: max(2*ry, 100)}
	}
	switch shape := n.get("shape"); {
	case shape == "circle" && len(list) >= 3:
		t.Shape, t.Frame = activity.ShapeEllipse, around(list[0], list[1], list[2], list[2])
	case shape == "ellipse" && len(list) >= 4:
		t.Shape, t.Frame = activity.ShapeEllipse, around(list[0], list[1], list[2], list[3])
	case shape == "poly" && len(list) >= 6:
		t.Shape = activity.ShapePolygon
		left, top, right, bottom := list[0], list[1], list[0], list[1]
		for i := 0; i+1 < len(list); i += 2 {
			t.Points = append(t.Points, geometry.Vertex{list[i], list[i+1]})
			left, right, top, bottom = min(left, list[i]), max(right, list[i]), min(top, list[i+1]), max(bottom, list[i+1])
		}
		if k := len(t.Points); k > 3 && t.Points[0] == t.Points[k-1] {
			t.Points = t.Points[:k-1]
		}
		t.Frame = geometry.Rect{X: left, Y: top, W: right - left, H: bottom - top}
	case len(list) >= 4 && (shape == "rect" || shape == ""):
		t.Frame = geometry.Rect{X: min(list[0], list[2]), Y: min(list[1], list[3]), W: max(100, max(list[0], list[2])-min(list[0], list[2])), H: max(100, max(list[1], list[3])-min(list[1], list[3]))}
	default: // the whole picture
		t.Frame = geometry.Rect{W: m.doc.Board.Width, H: m.doc.Board.Height}
		if shape != "default" {
			m.note(n, n.get("identifier"), "shape", "The shape “%s” with “%s” cannot be read: the whole picture is taken.", shape, clipped(n.get("coords"), 40))
		}
	}
	t.Label.Text = ""
}

func (m *importing) overPicture() bool {
	m.doc.Kind = activity.KindLabel
	m.ground()
	choices := m.at.children("qti-gap-img", "qti-gap-text")
	for _, c := range choices {
		m.item(c, m.most(c, "match-max", 1))
	}
	places := m.at.children("qti-associable-hotspot")
	for _, p := range places {
		if t := m.target(p, p.get("hotspot-label"), m.most(p, "match-max", 1)); t != nil {
			m.shaped(t, p)
		}
	}
	m.groups(choices, places)
	return m.enough()
}

func (m *importing) sets() bool {
	sets := m.at.children("qti-simple-match-set")
	if len(sets) != 2 {
		m.note(m.at, m.root.get("identifier"), "sets", "A match has two sets, and this one %d: it is left out.", len(sets))
		return false
	}
	choices, places := sets[0].children("qti-simple-associable-choice"), sets[1].children("qti-simple-associable-choice")
	ones := true
	m.pieces(choices)
	for _, c := range choices {
		if m.alike[c.get("identifier")] == "" {
			m.item(c, m.most(c, "match-max", 1))
		}
	}
	m.together()
	for _, p := range places {
		holds := m.most(p, "match-max", 1)
		ones = ones && holds == 1
		t := m.target(p, cmp.Or(p.plain(), imageName(p)), holds)
		if img := p.find("img"); img != nil && t != nil {
			if id := m.medium(img, img.get("src")); id != "" {
				t.Looks = &activity.TargetLooks{Rest: &activity.Look{Picture: &id}}
				t.Alt = clipped(img.get("alt"), 1000)
			}
		}
	}
	m.groups(choices, places)
	m.doc.Kind = activity.KindSort
	if ones {
		m.doc.Kind = activity.KindMatch
		for i := range m.doc.Targets {
			m.doc.Targets[i].Label.Side, m.doc.Targets[i].Arrange.As = activity.SideLeft, activity.AsCentre
		}
	}
	return m.enough()
}

func imageName(n *node) string {
	if img := n.find("img"); img != nil {
		return img.get("alt")
	}
	return ""
}

// pieces finds choices that are pieces of one item: as an export writes those that are alike,
// id, id_2, id_3, with the same content and each to be used once.
func (m *importing) pieces(choices []*node) {
	if !m.own() {
		return
	}
	first := map[string]*node{}
	for _, c := range choices {
		id := c.get("identifier")
		if k := strings.LastIndexByte(id, '_'); k > 0 {
			if f := first[id[:k]]; f != nil && f.plain() == c.plain() && imageName(f) == imageName(c) && f.get("match-max") == "1" {
				m.alike[id] = id[:k]
				continue
			}
		}
		first[id] = c
	}
}

// together counts the pieces of items, and lets each of their choices mean the item.
func (m *importing) together() {
	for id, first := range m.alike {
		m.items[id] = m.items[first]
		if it := m.doc.Item(m.items[first]); it != nil {
			it.Copies++
		}
	}
}

// associated takes pairs of the same set as a match, in which each may lie at the other.
func (m *importing) associated() bool {
	m.doc.Kind = activity.KindMatch
	choices := m.at.children("qti-simple-associable-choice")
	for _, c := range choices {
		m.item(c, m.most(c, "match-max", 1))
	}
	for _, c := range choices {
		if t := m.target(c, c.plain(), m.most(c, "match-max", 1)); t != nil {
			except := m.items[c.get("identifier")]
			t.Lets = activity.Selector{All: true, Except: []string{except}}
		}
	}
	return m.enough()
}

// ordered takes a sequence as a lane, or hotspots in order as numbers that go to them.
func (m *importing) ordered() bool {
	if m.kind == graphicOrder {
		m.doc.Kind = activity.KindLabel
		m.ground()
		spots := m.at.children("qti-hotspot-choice")
		for k := range spots {
			id := strconv.Itoa(k + 1)
			it := activity.NewItem(activity.FreshID(m.taken, "number-"+id), id)
			m.items["#"+id] = it.ID
			m.doc.Items = append(m.doc.Items, it)
		}
		for _, p := range spots {
			if t := m.target(p, p.get("hotspot-label"), 1); t != nil {
				m.shaped(t, p)
			}
		}
		return m.enough()
	}
	m.doc.Kind = activity.KindSequence
	for _, c := range m.at.children("qti-simple-choice") {
		m.item(c, 1)
	}
	lane := activity.NewTarget(activity.FreshID(m.spots, "order"), "Order")
	lane.Label.Text, lane.Ordered = "", true
	m.doc.Targets = append(m.doc.Targets, lane)
	return m.enough()
}

// positioned takes areas as targets, for an object that is put onto them.
func (m *importing) positioned() bool {
	m.doc.Kind = activity.KindLabel
	m.ground()
	img := cmp.Or(m.at.child("img"), m.at.child("object"))
	if img == nil {
		m.note(m.at, m.root.get("identifier"), "no-object", "“%s” has no object to be positioned: it is left out.", m.title())
		return false
	}
	piece := el("qti-object", at("identifier", "object"), img)
	piece.line = m.at.line
	m.item(piece, max(1, m.most(m.at, "max-choices", 1)))
	n := 0
	for _, d := range m.root.children("qti-response-declaration") {
		if areas := d.child("qti-area-mapping"); areas != nil {
			for _, a := range areas.children("qti-area-map-entry") {
				n++
				a.attr = append(a.attr, attr{"identifier", fmt.Sprintf("area_%d", n)})
				if t := m.target(a, "", 1); t != nil {
					m.shaped(t, a)
				}
			}
		}
	}
	if n == 0 {
		m.note(m.at, m.root.get("identifier"), "no-areas", "Where the object of “%s” belongs is a point, not an area: it is left out.", m.title())
		return false
	}
	return m.enough()
}
