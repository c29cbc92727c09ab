package qti

import (
	"cmp"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/marks"
	"keenmagpie/core/reply"
	"keenmagpie/core/richtext"
	"keenmagpie/formats/bundle"
)

// Options are how an item refers to its media: by the names of files that stand there, else by
// those that they have in a bundle.
type Options struct {
	Media map[string]bundle.Medium
	Names map[string]string
}

// exporting is an activity on its way to an item.
type exporting struct {
	doc    *activity.Doc
	parts  *activity.Parts
	judge  *marks.Judge
	media  map[string]bundle.Medium
	files  map[string]string
	losses []Loss
	kind   string // the interaction's element
	// choices are what is dragged: an item, or, where several of its pieces can stand in one
	// target, one of its pieces each.
	choices []choice
	of      [][]int // choices by item
	item    []string
	target  []string
	lane    int   // of an order interaction
	mapped  *node // what pairs are worth, where that says it all
}

// choice is something that can be dragged, as often as it may be.
type choice struct {
	item int
	id   string
	most int
}

func (x *exporting) lose(part, code, message string, args ...any) {
	x.losses = append(x.losses, Loss{Part: part, Code: code, Message: fmt.Sprintf(message, args...)})
}

// Export writes an activity as an item of QTI 3.0, and tells what an item cannot say. The
// error is that of a key which nothing satisfies.
func Export(doc *activity.Doc, o Options) ([]byte, []Loss, error) {
	x, root, err := export(doc, o)
	if err != nil {
		return nil, nil, err
	}
	return root.file(), x.losses, nil
}

func export(doc *activity.Doc, o Options) (*exporting, *node, error) {
	judge, err := marks.NewJudge(doc)
	if err != nil {
		return nil, nil, err
	}
	x := &exporting{doc: doc, parts: judge.Parts, judge: judge, media: o.Media, files: o.Names, lane: -1, losses: []Loss{}}
	x.kind = x.interaction()
	x.name()
	root := el("qti-assessment-item", at("xmlns", Namespace, "identifier", cmp.Or(safe(doc.ID), "item"), "title", cmp.Or(doc.Title, "Untitled"), "adaptive", "false", "time-dependent", "false", "xml:lang", doc.Lang))
	root.add(x.responseDeclaration())
	processing, outcomes := x.processing()
	root.add(outcomes...)
	root.add(el("qti-item-body", nil, x.body()...))
	root.add(processing)
	root.add(x.feedback()...)
	x.tellLosses()
	return x, root, nil
}

// interaction chooses what the activity becomes.
func (x *exporting) interaction() string {
	d := x.doc
	if len(d.Targets) == 1 && d.Targets[0].Ordered && x.wholeOrder(0) {
		x.lane = 0
		return ordering
	}
	for _, s := range d.Scenery {
		if len(richtext.Gaps(s.Text)) > 0 {
			return gapMatch
		}
	}
	if x.picture() != nil {
		return graphicGaps
	}
	return matching
}

// wholeOrder says whether a lane has, in the one solution, an order of every item, each of
// which has to be there.
func (x *exporting) wholeOrder(t int) bool {
	if len(x.judge.Solutions) != 1 {
		return false
	}
	lane := x.judge.Solutions[0].Lane(t)
	return lane != nil && len(lane.Items) == len(x.doc.Items) && lane.Order.Len() <= mostOrdered
}

// mostOrdered is how long an order is that can be written out.
const mostOrdered = 20

// picture is the picture over which all targets lie, the board's own or one on it, or nil.
func (x *exporting) picture() *activity.Scenery {
	if b := x.doc.Board; b.Background.Picture != "" && len(x.doc.Targets) > 0 {
		return &activity.Scenery{Picture: b.Background.Picture, Frame: &geometry.Rect{W: b.Width, H: b.Height}}
	}
	for i := range x.doc.Scenery {
		s := &x.doc.Scenery[i]
		if s.Type != "picture" || s.Frame == nil || s.Picture == "" || len(x.doc.Targets) == 0 {
			continue
		}
		all := true
		for _, t := range x.doc.Targets {
			f := t.Frame
			all = all && f.X >= s.Frame.X && f.Y >= s.Frame.Y && f.X+f.W <= s.Frame.X+s.Frame.W && f.Y+f.H <= s.Frame.Y+s.Frame.H
		}
		if all {
			return s
		}
	}
	return nil
}

// name gives what is dragged and where it goes their identifiers: ours, which are valid but
// for a figure at the beginning, and unlike each other.
func (x *exporting) name() {
	taken := map[string]bool{}
	unique := func(id string) string {
		id = safe(id)
		for n := 2; taken[id]; n++ {
			id = fmt.Sprintf("%s_%d", id, n)
		}
		taken[id] = true
		return id
	}
	for _, it := range x.doc.Items {
		x.item = append(x.item, unique(it.ID))
	}
	for _, t := range x.doc.Targets {
		x.target = append(x.target, unique(t.ID))
	}
	x.of = make([][]int, len(x.doc.Items))
	for i, it := range x.doc.Items {
		if it.Copies == 1 || !x.together(i) {
			x.of[i] = append(x.of[i], len(x.choices))
			x.choices = append(x.choices, choice{i, x.item[i], it.Copies})
			continue
		}
		for n := range it.Copies {
			id := x.item[i]
			if n > 0 {
				id = unique(fmt.Sprintf("%s_%d", x.item[i], n+1))
			}
			x.of[i] = append(x.of[i], len(x.choices))
			x.choices = append(x.choices, choice{i, id, 1})
		}
	}
}

// together says whether two pieces of an item can stand in one target.
func (x *exporting) together(i int) bool {
	for t := range x.doc.Targets {
		if x.parts.LetsIn(t, i) && x.holds(t) != 1 {
			return true
		}
	}
	return false
}

// holds is how many pieces a target takes there; 0 is any number. A gap takes one.
func (x *exporting) holds(t int) int {
	if x.kind == gapMatch {
		return 1
	}
	return x.doc.Targets[t].Holds
}

// safe is an identifier that QTI takes.
func safe(id string) string {
	if id == "" || id[0] >= '0' && id[0] <= '9' {
		return "_" + id
	}
	return id
}

func (x *exporting) responseDeclaration() *node {
	if x.kind == ordering {
		lane := x.judge.Solutions[0].Lane(x.lane)
		values := []*node{}
		for _, n := range lane.Order.Extension() {
			values = append(values, el("qti-value", nil, txt(x.item[lane.Items[n]])))
		}
		return el("qti-response-declaration", at("identifier", response, "cardinality", "ordered", "base-type", "identifier"), el("qti-correct-response", nil, values...))
	}
	d := el("qti-response-declaration", at("identifier", response, "cardinality", "multiple", "base-type", "directedPair"))
	a := x.judge.Solutions[0].Witness()
	used, values := make([]int, len(x.doc.Items)), []*node{}
	for t := range x.doc.Targets {
		seen := map[string]bool{}
		for _, p := range a.In[t] {
			i := x.parts.Pieces[p.Piece].Item
			c := x.choices[x.of[i][min(used[i], len(x.of[i])-1)]]
			used[i]++
			if pair := c.id + " " + x.target[t]; !seen[pair] {
				seen[pair] = true
				values = append(values, el("qti-value", nil, txt(pair)))
			}
		}
	}
	if len(values) > 0 {
		d.add(el("qti-correct-response", nil, values...))
	}
	if x.mapped = x.mapping(); x.mapped != nil {
		d.add(x.mapped)
	}
	return d
}

// mapping is what each pair is worth, where a sum of those says the same as the core: marks by
// item, one solution, nothing that can be exceeded, and values that need no rounding; else nil.
func (x *exporting) mapping() *node {
	s := x.judge.Solutions[0]
	a, points := available(x.judge, 0), int(x.doc.Marks.Points)
	if x.doc.Marks.By != "item" || len(x.judge.Solutions) != 1 || s.Credit != 100 || a == 0 {
		return nil
	}
	m := el("qti-mapping", at("lower-bound", "0", "upper-bound", x.doc.Marks.Points.String(), "default-value", "0"))
	if x.doc.Marks.Negative {
		m.attr[0].value = (-x.doc.Marks.Points).String()
	}
	for t := range x.doc.Targets {
		for i := range x.doc.Items {
			w := -x.parts.Penalty(t, i)
			if s.RightCell(t, i) {
				if x.capped(s, t, i) {
					return nil
				}
				w = x.parts.Weight(t, i)
			}
			switch {
			case !x.parts.LetsIn(t, i) || w == 0:
				continue
			case w*points%a != 0:
				return nil
			}
			for _, c := range x.of[i] {
				m.add(el("qti-map-entry", at("map-key", x.choices[c].id+" "+x.target[t], "mapped-value", activity.U(w*points/a).String())))
			}
		}
	}
	return m
}

// body is what the learner sees.
func (x *exporting) body() []*node {
	var list []*node
	if x.doc.Instructions != "" {
		list = append(list, el("div", nil, x.blocks(richtext.Read(x.doc.Instructions), nil)...))
	}
	if x.kind != gapMatch {
		list = append(list, x.sceneryBesides()...)
	}
	shuffle := strconv.FormatBool(x.doc.Play.Shuffle)
	switch x.kind {
	case ordering:
		n := el(ordering, at("response-identifier", response, "shuffle", shuffle))
		for _, c := range x.choices {
			n.add(el("qti-simple-choice", at("identifier", c.id), x.face(c.item)...))
		}
		return append(list, n)
	case gapMatch:
		n := el(gapMatch, at("response-identifier", response, "shuffle", shuffle, "min-associations", "0", "max-associations", "0"))
		n.add(x.dragged("qti-gap-text", "qti-gap-img")...)
		return append(list, n.add(x.gapText()...))
	case graphicGaps:
		n := el(graphicGaps, at("response-identifier", response, "min-associations", "0", "max-associations", "0"))
		p := x.picture()
		n.add(x.image(p.Picture, p.Alt, pixels(p.Frame.W), pixels(p.Frame.H)))
		n.add(x.dragged("qti-gap-text", "qti-gap-img")...)
		for t := range x.doc.Targets {
			target := &x.doc.Targets[t]
			shape, coords := x.shape(target, p)
			n.add(el("qti-associable-hotspot", at("identifier", x.target[t], "match-max", strconv.Itoa(target.Holds), "match-group", x.group(t), "shape", shape, "coords", coords, "hotspot-label", cmp.Or(reply.Called(target), target.Alt))))
		}
		return append(list, n)
	}
	n := el(matching, at("response-identifier", response, "shuffle", shuffle, "min-associations", "0", "max-associations", "0"))
	first, second := el("qti-simple-match-set", nil), el("qti-simple-match-set", nil)
	for _, c := range x.choices {
		first.add(el("qti-simple-associable-choice", at("identifier", c.id, "match-max", strconv.Itoa(c.most)), x.face(c.item)...))
	}
	for t := range x.doc.Targets {
		target := &x.doc.Targets[t]
		second.add(el("qti-simple-associable-choice", at("identifier", x.target[t], "match-max", strconv.Itoa(target.Holds), "match-group", x.group(t)), txt(cmp.Or(reply.Called(target), target.Alt, target.ID))))
	}
	return append(list, n.add(first, second))
}

// group lists what a target lets in, where that is not everything.
func (x *exporting) group(t int) string {
	ids := []string{}
	for _, c := range x.choices {
		if x.parts.LetsIn(t, c.item) {
			ids = append(ids, c.id)
		}
	}
	if len(ids) == len(x.choices) {
		return ""
	}
	if len(ids) == 0 {
		return "nothing"
	}
	return strings.Join(ids, " ")
}

// dragged are the choices of gap match and graphic gap match.
func (x *exporting) dragged(text, picture string) (list []*node) {
	for _, c := range x.choices {
		it := &x.doc.Items[c.item]
		most := strconv.Itoa(c.most)
		if it.Picture != "" {
			n := el(picture, at("identifier", c.id, "match-max", most, "object-label", reply.Spoken(it)), x.image(it.Picture, cmp.Or(it.Alt, reply.Spoken(it)), pixels(it.Size.W), pixels(it.Size.H)))
			list = append(list, n)
			if it.Text != "" {
				x.lose(it.ID, "text-beside-picture", "“%s” has a text and a picture: the text is there as the picture’s label.", reply.Spoken(it))
			}
			continue
		}
		list = append(list, el(text, at("identifier", c.id, "match-max", most), txt(reply.Spoken(it))))
	}
	return list
}

// face is what an item shows, in places that take anything.
func (x *exporting) face(i int) (list []*node) {
	it := &x.doc.Items[i]
	if it.Picture != "" {
		list = append(list, x.image(it.Picture, it.Alt, pixels(it.Size.W), pixels(it.Size.H)))
	}
	if it.Text != "" {
		list = append(list, txt(it.Text))
	}
	if len(list) == 0 {
		list = append(list, txt(reply.Spoken(it)))
	}
	return list
}

// image shows a medium.
func (x *exporting) image(id, alt, width, height string) *node {
	src := "media/" + id
	if m, ok := x.media[id]; ok {
		src = "media/" + m.Name()
	}
	return el("img", at("src", cmp.Or(x.files[id], src), "width", width, "height", height)).addAttr("alt", alt)
}

func (n *node) addAttr(name, value string) *node {
	n.attr = append(n.attr, attr{name, value})
	return n
}

// pixels are board units as whole pixels.
func pixels(u activity.U) string { return strconv.Itoa(int((u + 50) / 100)) }

// shape is a target over a picture, in the picture's pixels.
func (x *exporting) shape(t *activity.Target, over *activity.Scenery) (shape, coords string) {
	left, top := over.Frame.X, over.Frame.Y
	f := t.Frame
	join := func(list ...activity.U) string {
		out := []string{}
		for _, u := range list {
			out = append(out, pixels(u))
		}
		return strings.Join(out, ",")
	}
	switch {
	case t.Shape == "polygon":
		list := []activity.U{}
		for _, p := range t.Points {
			list = append(list, p[0]-left, p[1]-top)
		}
		return "poly", join(list...)
	case t.Shape == "ellipse" && f.W == f.H:
		return "circle", join(f.X-left+f.W/2, f.Y-top+f.H/2, f.W/2)
	case t.Shape == "ellipse":
		return "ellipse", join(f.X-left+f.W/2, f.Y-top+f.H/2, f.W/2, f.H/2)
	}
	return "rect", join(f.X-left, f.Y-top, f.X-left+f.W, f.Y-top+f.H)
}

// sceneryBesides is what stands on the board besides the picture that the targets lie over.
func (x *exporting) sceneryBesides() (list []*node) {
	over := (*activity.Scenery)(nil)
	if x.kind == graphicGaps {
		over = x.picture()
	}
	for i := range x.doc.Scenery {
		s := &x.doc.Scenery[i]
		switch {
		case over != nil && s.Picture == over.Picture:
		case s.Type == "picture" && s.Picture != "" && s.Frame != nil:
			list = append(list, el("p", nil, x.image(s.Picture, s.Alt, pixels(s.Frame.W), pixels(s.Frame.H))))
		case s.Text != "":
			list = append(list, el("div", nil, x.blocks(richtext.Read(s.Text), nil)...))
		default:
			x.lose(s.ID, "drawing", "The %s “%s” on the board is not there.", s.Type, s.ID)
		}
	}
	return list
}

// gapText are the texts with their gaps, as paragraphs.
func (x *exporting) gapText() (list []*node) {
	placed := map[string]bool{}
	gap := func(id string) *node {
		t, ok := x.parts.Target(id)
		if !ok || placed[id] {
			return nil
		}
		placed[id] = true
		return el("qti-gap", at("identifier", x.target[t], "match-group", x.group(t)))
	}
	for i := range x.doc.Scenery {
		s := &x.doc.Scenery[i]
		if s.Text != "" {
			list = append(list, el("div", nil, x.blocks(richtext.Read(s.Text), gap)...))
		} else if s.Picture != "" && s.Frame != nil {
			list = append(list, el("p", nil, x.image(s.Picture, s.Alt, pixels(s.Frame.W), pixels(s.Frame.H))))
		}
	}
	for _, t := range x.doc.Targets {
		if !placed[t.ID] {
			list = append(list, el("p", nil, txt(cmp.Or(reply.Called(&t), t.ID)+": "), gap(t.ID)))
		}
	}
	return list
}

// blocks and inline write rich text as HTML.
func (x *exporting) blocks(list []richtext.Node, gap func(string) *node) (out []*node) {
	for _, b := range list {
		switch b.Kind {
		case richtext.List, richtext.Numbered:
			n := el(map[string]string{richtext.List: "ul", richtext.Numbered: "ol"}[b.Kind], nil)
			for _, e := range b.Children {
				n.add(el("li", nil, x.inline(e.Children, gap)...))
			}
			out = append(out, n)
		default:
			out = append(out, el("p", nil, x.inline(b.Children, gap)...))
		}
	}
	return out
}

func (x *exporting) inline(list []richtext.Node, gap func(string) *node) (out []*node) {
	for _, n := range list {
		switch n.Kind {
		case richtext.Text:
			out = append(out, txt(n.Text))
		case richtext.Break:
			out = append(out, el("br", nil))
		case richtext.Emphasis:
			out = append(out, el("em", nil, x.inline(n.Children, gap)...))
		case richtext.Strong:
			out = append(out, el("strong", nil, x.inline(n.Children, gap)...))
		case richtext.Link:
			out = append(out, el("a", at("href", n.Text), x.inline(n.Children, gap)...))
		case richtext.Gap:
			if gap != nil {
				if g := gap(n.Text); g != nil {
					out = append(out, g)
				}
			}
		}
	}
	return out
}

// tellLosses says what the item does not say, part by part.
func (x *exporting) tellLosses() {
	d := x.doc
	for i := range d.Items {
		it := &d.Items[i]
		if it.Sound != "" {
			x.lose(it.ID, "sound", "The sound of “%s” is not there.", reply.Spoken(it))
		}
		if it.Looks != nil {
			x.lose(it.ID, "looks", "How “%s” looks, and in which state, is not there.", reply.Spoken(it))
		}
		if it.Home != nil {
			x.lose(it.ID, "home", "“%s” does not start at its place on the board.", reply.Spoken(it))
		}
	}
	for i := range d.Targets {
		t := &d.Targets[i]
		called := cmp.Or(reply.Called(t), t.ID)
		if t.Looks != nil {
			x.lose(t.ID, "looks", "How “%s” looks, and in which state, is not there.", called)
		}
		if t.WhenFull != "refuse" && t.Holds > 0 {
			x.lose(t.ID, "when-full", "What happens when “%s” is full is up to the platform.", called)
		}
		if t.Ordered && x.kind != ordering {
			ordered := false
			for _, s := range x.judge.Solutions {
				ordered = ordered || s.Lane(i) != nil
			}
			if ordered {
				x.lose(t.ID, "order", "The order of the pieces in “%s” does not count: only a single lane with an order of everything can be said.", called)
			}
		}
		if x.kind == gapMatch && t.Holds != 1 {
			x.lose(t.ID, "one-in-gap", "The gap “%s” takes one piece, not several.", called)
		}
	}
	if x.kind == matching {
		x.lose("board", "layout", "Where items and targets stand is up to the platform.")
	}
	p, m := d.Play, d.Marks
	if p.Check == "each" {
		x.lose("play", "each", "It is judged when it is handed in, not at every placement.")
	}
	if p.Check == "none" {
		x.lose("play", "unjudged", "It is judged: what is only recorded cannot be said.")
	}
	if p.TimeLimit > 0 {
		x.lose("play", "time-limit", "The time limit stands in the test, not in the item.")
	}
	if p.Attempts != 1 {
		x.lose("play", "attempts", "How often it may be tried stands in the test, not in the item; what becomes of pieces between attempts is up to the platform.")
	}
	if len(d.Hints) > 0 {
		x.lose("hints", "hints", "The hints are not there.")
	}
	if slices.ContainsFunc(m.Shares, func(n int) bool { return n != 100 }) {
		x.lose("marks", "shares", "Each attempt is worth the same.")
	}
	if len(m.Bands) > 0 {
		x.lose("marks", "bands", "The names of bands are not there.")
	}
	if p.Deal == "one" {
		x.lose("play", "deal", "All pieces are there from the beginning.")
	}
}
