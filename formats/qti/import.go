package qti

import (
	"cmp"
	"fmt"
	"math"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/core/richtext"
	"keenmagpie/formats/bundle"
)

// Source is where an item comes from: its name, for notes, and what reads a file that it refers
// to, by its path from the item; nil where there are none.
type Source struct {
	Name string
	File func(path string) ([]byte, error)
}

// Imported is an activity that was made of an item.
type Imported struct {
	bundle.Bundle
	Version string
	// Source is the file that it was made of, as notes name it.
	Source string
}

// importing is an item on its way to an activity.
type importing struct {
	from  Source
	root  *node
	kind  string
	at    *node // the interaction
	doc   *activity.Doc
	media map[string]bundle.Medium
	notes []Note
	taken map[string]bool // ids of items and replies
	spots map[string]bool // of targets
	// ids of items and targets by their identifiers there; what is dragged as often as it likes.
	items, targets map[string]string
	unbound        []string
	// alike has, of choices that are pieces of one item, the first's identifier.
	alike map[string]string
}

func (m *importing) note(n *node, part, code, message string, args ...any) {
	line := 0
	if n != nil {
		line = n.line
	}
	m.notes = append(m.notes, Note{m.from.Name, line, part, code, fmt.Sprintf(message, args...)})
}

// Import makes an activity of an item's XML. Where none can be made the result is nil and a note
// says why; the error is that of a file which cannot be read at all, a [*Bad].
func Import(body []byte, from Source) (*Imported, []Note, error) {
	root, version, err := parse(body)
	if err != nil {
		return nil, nil, err
	}
	if root.name != "qti-assessment-item" {
		return nil, []Note{{from.Name, root.line, root.name, "not-an-item", "This is no assessment item."}}, nil
	}
	m := &importing{from: from, root: root, media: map[string]bundle.Medium{}, taken: map[string]bool{}, spots: map[string]bool{}, items: map[string]string{}, targets: map[string]string{}, alike: map[string]string{}}
	if version == "" {
		m.note(root, root.get("identifier"), "unknown-version", "Its version of QTI is not one that is read: 2.1, 2.2 and 3.0 are. It is read as 3.0 or 2.2 by its names.")
	}
	if !m.choose() {
		return nil, m.notes, nil
	}
	m.begin()
	made := false
	switch m.kind {
	case gapMatch:
		made = m.gaps()
	case graphicGaps:
		made = m.overPicture()
	case matching:
		made = m.sets()
	case associating:
		made = m.associated()
	case ordering, graphicOrder:
		made = m.ordered()
	case positioning:
		made = m.positioned()
	}
	if !made {
		return nil, m.notes, nil
	}
	m.surroundings()
	m.score()
	m.feedback()
	return m.finish(version)
}

// choose finds the one interaction that an activity can be made of.
func (m *importing) choose() bool {
	var list []*node
	if body := m.root.child("qti-item-body"); body != nil {
		body.all(func(n *node) {
			if strings.HasSuffix(n.name, "-interaction") {
				list = append(list, n)
			}
		})
	}
	id := m.root.get("identifier")
	switch {
	case len(list) == 0:
		m.note(m.root, id, "no-interaction", "“%s” asks nothing: it is left out.", m.title())
		return false
	case len(list) > 1:
		m.note(list[1], id, "several-interactions", "“%s” has %d interactions, of which one activity cannot be made: it is left out.", m.title(), len(list))
		return false
	}
	m.at, m.kind = list[0], list[0].name
	if !slices.Contains([]string{gapMatch, graphicGaps, matching, ordering, graphicOrder, associating, positioning}, m.kind) {
		m.note(m.at, id, "other-interaction", "“%s” is a %s, of which no activity can be made: it is left out.", m.title(), strings.TrimPrefix(m.kind, "qti-"))
		return false
	}
	for _, t := range m.root.children("qti-template-processing", "qti-template-declaration") {
		m.note(t, id, "template", "“%s” draws its content anew each time, which cannot be taken over: it is left out.", m.title())
		return false
	}
	if m.root.get("adaptive") == "true" {
		m.note(m.root, id, "adaptive", "“%s” is adaptive: it is taken as it begins.", m.title())
	}
	return true
}

func (m *importing) title() string {
	return cmp.Or(strings.Join(strings.Fields(m.root.get("title")), " "), m.root.get("identifier"), "Untitled")
}

// begin makes an empty activity.
func (m *importing) begin() {
	m.doc, _ = activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"new","key":{"solutions":[{}]},"marks":{"by":"whole","points":1}}`))
	m.doc.ID = activity.FreshID(map[string]bool{}, cmp.Or(m.root.get("identifier"), m.title()))
	m.doc.Title = clipped(m.title(), 200)
	if lang := m.root.get("xml:lang"); language.MatchString(lang) {
		m.doc.Lang = lang
	} else if lang != "" {
		m.note(m.root, m.root.get("identifier"), "language", "“%s” is no language: English is taken.", clipped(lang, 40))
	}
	m.doc.Key.Solutions[0].Right = map[string]activity.Selector{}
	m.doc.Play.Shuffle = m.at.get("shuffle") == "true"
}

// language is what names one: en, de-CH.
var language = regexp.MustCompile(`^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$`)

func clipped(text string, most int) string {
	if r := []rune(text); len(r) > most {
		return string(r[:most-1]) + "…"
	}
	return text
}

// short is a text as long as one may be, and notes where the rest is left out.
func (m *importing) short(n *node, text string, most int) string {
	if len([]rune(text)) > most {
		m.note(n, n.get("identifier"), "too-long", "A text of more than %d letters is cut off: “%s”.", most, clipped(text, 40))
	}
	return clipped(text, most)
}

// most is a match-max, or a number beside it; 0 is no limit.
func (m *importing) most(n *node, name string, without int) int {
	text := n.get(name)
	if text == "" {
		return without
	}
	k, err := strconv.Atoi(text)
	if err != nil || k < 0 {
		m.note(n, n.get("identifier"), "bad-number", "%s is “%s”, which is no number: %d is taken.", name, clipped(text, 30), without)
		return without
	}
	return k
}

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
	t.WhenFull = "oust"
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
	m.doc.Kind = "gaps"
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
	text := activity.NewScenery("text", "text")
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
	s := activity.NewScenery("picture", "picture")
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
		t.Shape, t.Frame = "ellipse", around(list[0], list[1], list[2], list[2])
	case shape == "ellipse" && len(list) >= 4:
		t.Shape, t.Frame = "ellipse", around(list[0], list[1], list[2], list[3])
	case shape == "poly" && len(list) >= 6:
		t.Shape = "polygon"
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
	m.doc.Kind = "label"
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
	m.doc.Kind = "sort"
	if ones {
		m.doc.Kind = "match"
		for i := range m.doc.Targets {
			m.doc.Targets[i].Label.Side, m.doc.Targets[i].Arrange.As = "left", "centre"
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

// own says whether an item was written by an export of this package, or in the same form.
func (m *importing) own() bool {
	for _, d := range m.root.children("qti-outcome-declaration") {
		if d.get("identifier") == "VALID_1" {
			return true
		}
	}
	return false
}

// associated takes pairs of the same set as a match, in which each may lie at the other.
func (m *importing) associated() bool {
	m.doc.Kind = "match"
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
		m.doc.Kind = "label"
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
	m.doc.Kind = "sequence"
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
	m.doc.Kind = "label"
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

// medium takes a picture that an item shows, or notes that it is not there.
func (m *importing) medium(n *node, from string) string {
	clean := path.Clean("/" + from)
	switch {
	case from == "":
		return ""
	case strings.HasPrefix(from, "data:"), strings.Contains(from, "://"), strings.HasPrefix(from, "//"), strings.HasPrefix(from, "/"), strings.Contains(from, `\`), strings.Contains(from, ".."):
		m.note(n, clipped(from, 60), "elsewhere", "“%s” is not a file beside the item, and nothing is fetched: the picture is left out.", clipped(from, 60))
		return ""
	case m.from.File == nil:
		m.note(n, from, "missing", "The file “%s” is not there: the picture is left out.", clipped(from, 60))
		return ""
	}
	body, err := m.from.File(strings.TrimPrefix(clean, "/"))
	if err != nil {
		m.note(n, from, "missing", "The file “%s” is not there: the picture is left out.", clipped(from, 60))
		return ""
	}
	medium, err := bundle.NewMedium(body)
	if err != nil {
		m.note(n, from, "not-a-picture", "“%s” is no picture that can be shown: %s.", clipped(from, 60), err)
		return ""
	}
	m.media[medium.ID] = medium
	return medium.ID
}

// surroundings are what stands before the interaction: instructions and pictures.
func (m *importing) surroundings() {
	var blocks []richtext.Node
	if p := m.at.child("qti-prompt"); p != nil {
		blocks = append(blocks, richtext.Node{Kind: richtext.Paragraph, Children: m.inline(p)})
	}
	var around []richtext.Node
	var walk func(*node)
	walk = func(n *node) {
		for _, c := range n.in {
			switch {
			case c == m.at || c.name == "":
				if c.name == "" && strings.TrimSpace(c.text) != "" && n.name == "qti-item-body" {
					around = append(around, richtext.Node{Kind: richtext.Paragraph, Children: []richtext.Node{{Kind: richtext.Text, Text: strings.TrimSpace(c.text)}}})
				}
			case holds(c, m.at):
				walk(c)
			case c.name == "qti-rubric-block" || c.name == "qti-feedback-block" || c.name == "qti-stylesheet":
				m.note(c, m.root.get("identifier"), "beside", "A %s beside the task is left out.", strings.TrimPrefix(c.name, "qti-"))
			default:
				around = append(around, m.rich(c)...)
			}
		}
	}
	walk(m.root.child("qti-item-body"))
	m.doc.Instructions = m.short(m.root, richtext.Write(append(around, blocks...)), 4000)
	for _, n := range m.root.children("qti-assessment-stimulus-ref", "qti-companion-materials-info") {
		m.note(n, m.root.get("identifier"), "stimulus", "What is shown beside “%s” stands in another file and is left out.", m.title())
	}
}

func holds(n, inner *node) (yes bool) {
	n.all(func(c *node) { yes = yes || c == inner })
	return yes
}

// rich reads blocks of HTML.
func (m *importing) rich(n *node) []richtext.Node {
	switch n.name {
	case "ul", "ol":
		list := richtext.Node{Kind: map[string]string{"ul": richtext.List, "ol": richtext.Numbered}[n.name]}
		for _, li := range n.children("li") {
			list.Children = append(list.Children, richtext.Node{Kind: richtext.Entry, Children: m.inline(li)})
		}
		return []richtext.Node{list}
	case "table":
		m.note(n, m.root.get("identifier"), "table", "A table is taken as its rows, one a line.")
		var out []richtext.Node
		n.all(func(c *node) {
			if c.name == "tr" {
				line := richtext.Node{Kind: richtext.Paragraph}
				for i, cell := range c.children("td", "th") {
					if i > 0 {
						line.Children = append(line.Children, richtext.Node{Kind: richtext.Text, Text: " · "})
					}
					line.Children = append(line.Children, m.inline(cell)...)
				}
				out = append(out, line)
			}
		})
		return out
	}
	blocks := false
	for _, c := range n.children() {
		blocks = blocks || slices.Contains([]string{"p", "div", "ul", "ol", "table", "blockquote", "section", "h1", "h2", "h3", "h4", "h5", "h6"}, c.name)
	}
	if !blocks {
		in := m.inline(n)
		if len(in) == 0 {
			return nil
		}
		return []richtext.Node{{Kind: richtext.Paragraph, Children: in}}
	}
	var out []richtext.Node
	for _, c := range n.in {
		if c.name != "" {
			out = append(out, m.rich(c)...)
		} else if strings.TrimSpace(c.text) != "" {
			out = append(out, richtext.Node{Kind: richtext.Paragraph, Children: []richtext.Node{{Kind: richtext.Text, Text: strings.TrimSpace(c.text)}}})
		}
	}
	return out
}

// inline reads what stands in a line.
func (m *importing) inline(n *node) (out []richtext.Node) {
	for _, c := range n.in {
		switch c.name {
		case "":
			text := c.text
			lead, trail := strings.TrimLeft(text, " \t\r\n") != text, strings.TrimRight(text, " \t\r\n") != text
			text = strings.Join(strings.Fields(text), " ")
			if lead && len(out) > 0 {
				text = " " + text
			}
			if trail && strings.TrimSpace(text) != "" {
				text += " "
			}
			if text != "" {
				out = append(out, richtext.Node{Kind: richtext.Text, Text: text})
			}
		case "em", "i":
			out = append(out, richtext.Node{Kind: richtext.Emphasis, Children: m.inline(c)})
		case "strong", "b":
			out = append(out, richtext.Node{Kind: richtext.Strong, Children: m.inline(c)})
		case "br":
			out = append(out, richtext.Node{Kind: richtext.Break})
		case "a":
			if href := c.get("href"); strings.HasPrefix(href, "https:") || strings.HasPrefix(href, "mailto:") {
				out = append(out, richtext.Node{Kind: richtext.Link, Text: href, Children: m.inline(c)})
			} else {
				out = append(out, m.inline(c)...)
			}
		case "qti-gap":
			if id := m.targets[c.get("identifier")]; id != "" {
				out = append(out, richtext.Node{Kind: richtext.Gap, Text: id})
			}
		case "img", "object", "video", "audio":
			m.note(c, m.root.get("identifier"), "inline-medium", "A %s in the text is left out: “%s”.", c.name, clipped(cmp.Or(c.get("alt"), c.get("src"), c.get("data")), 60))
		case "qti-feedback-inline", "qti-feedback-block", "qti-template-inline", "qti-template-block", "qti-rubric-block", "qti-info-control", "script", "style":
			m.note(c, m.root.get("identifier"), "beside", "A %s in the text is left out.", strings.TrimPrefix(c.name, "qti-"))
		case "math":
			m.note(c, m.root.get("identifier"), "formula", "A formula in the text is taken as its text.")
			out = append(out, richtext.Node{Kind: richtext.Text, Text: c.plain()})
		case "qti-printed-variable":
			out = append(out, richtext.Node{Kind: richtext.Text, Text: map[string]string{score: "{score}", maximum: "{points}"}[c.get("identifier")]})
		default:
			out = append(out, m.inline(c)...)
		}
	}
	return out
}

// laid is the activity as it is laid out, and what is wrong with it.
func (m *importing) laid() (*activity.Doc, activity.Faults) {
	doc := m.doc.Clone()
	if m.kind != graphicGaps && m.kind != graphicOrder && m.kind != positioning {
		layout.Fill(doc)
	}
	return activity.Read(doc.Write())
}

// finish lays the activity out and checks it.
func (m *importing) finish(version string) (*Imported, []Note, error) {
	doc, faults := m.laid()
	if faults != nil {
		for _, f := range faults {
			m.note(m.root, m.root.get("identifier"), "cannot-be-made", "“%s” cannot be made: %s (%s).", m.title(), f.Message, f.Pointer)
		}
		return nil, m.notes, nil
	}
	out := &Imported{Version: version, Source: m.from.Name}
	out.Doc = doc
	for _, id := range doc.Media() {
		if x, ok := m.media[id]; ok {
			out.Media = append(out.Media, x)
		}
	}
	return out, m.notes, nil
}
