package qti

import (
	"cmp"
	"fmt"
	"slices"

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
		if s.Type != activity.SceneryTypePicture || s.Frame == nil || s.Picture == "" || len(x.doc.Targets) == 0 {
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
	if x.doc.Marks.By != activity.ByItem || len(x.judge.Solutions) != 1 || s.Credit != 100 || a == 0 {
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
		if t.WhenFull != activity.WhenFullRefuse && t.Holds > 0 {
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
	if p.Check == activity.CheckingEach {
		x.lose("play", "each", "It is judged when it is handed in, not at every placement.")
	}
	if p.Check == activity.CheckingNone {
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
	if p.Deal == activity.DealOne {
		x.lose("play", "deal", "All pieces are there from the beginning.")
	}
}
