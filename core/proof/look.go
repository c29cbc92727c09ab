package proof

import (
	"cmp"
	"fmt"
	"math"
	"regexp"
	"slices"
	"strings"
	"unicode"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/core/message"
	"keenmagpie/core/placing"
	"keenmagpie/core/richtext"
	"keenmagpie/core/say"
)

// What learners see and hear of the parts.

// words finds pictures that say nothing to those who cannot see them, and names
// and texts that say too much.
func (f *finder) words() {
	var silent []string
	for i := range f.doc.Items {
		it := &f.doc.Items[i]
		if it.Picture != "" && it.Alt == "" && it.Text == "" && (it.Name == "" || it.Name == it.ID) {
			silent = append(silent, it.ID)
		}
	}
	if len(silent) > 0 {
		f.add("alt-missing", warn, about{items: silent}, message.P{"items": f.itemNames(silent)})
	}
	for i := range f.doc.Hints {
		if h := &f.doc.Hints[i]; h.Picture != "" && h.Alt == "" && h.Text == "" {
			f.add("alt-missing/hint", warn, about{}, message.P{"n": i + 1})
		}
	}
	for i := range f.doc.Replies {
		if r := &f.doc.Replies[i]; r.Say.Picture != "" && r.Say.Alt == "" && r.Say.Text == "" {
			f.add("alt-missing/reply", warn, about{replies: []string{r.ID}}, message.P{"reply": say.Reply(f.doc, r)})
		}
	}
	f.undescribed()
	told := make([]bool, len(f.doc.Targets))
	for item := range f.doc.Items {
		it := &f.doc.Items[item]
		for t := range f.doc.Targets {
			target := &f.doc.Targets[t]
			right := false
			for _, s := range f.solutions {
				right = right || s.RightCell(t, item)
			}
			name := target.Label.Text
			if name == "" {
				name = target.Name
			}
			// What everyone reads on the piece gives nothing away that is not given already.
			if right && says(it.Alt, name) && !says(it.Text, name) {
				f.add("alt-tells", warn, about{items: []string{it.ID}, targets: []string{target.ID}},
					message.P{"item": f.itemName(it.ID), "says": name})
			}
			if right && !told[t] && target.Alt != "" && (says(target.Alt, cmp.Or(it.Text, it.Name)) || says(target.Alt, it.Name)) {
				told[t] = true
				f.add("name-tells/description", warn, about{items: []string{it.ID}, targets: []string{target.ID}},
					message.P{"target": f.targetName(target.ID), "item": f.itemName(it.ID)})
			}
			if right && target.Label.Text == "" && !told[t] && (says(target.Name, cmp.Or(it.Text, it.Name)) || says(target.Name, it.Name)) {
				told[t] = true
				f.add("name-tells", warn, about{items: []string{it.ID}, targets: []string{target.ID}},
					message.P{"says": target.Name},
					mend{"number", nil, func(d *activity.Doc) { d.Targets[t].Name = fmt.Sprintf("Spot %d", t+1) }})
			}
		}
	}
}

// undescribed finds spots on pictures of which whoever cannot see them hears a number alone.
func (f *finder) undescribed() {
	pictured := f.doc.Board.Background.Picture != ""
	inText := map[string]bool{}
	for i := range f.doc.Scenery {
		s := &f.doc.Scenery[i]
		pictured = pictured || s.Picture != ""
		for _, id := range richtext.Gaps(s.Text) {
			inText[id] = true
		}
	}
	if !pictured {
		return
	}
	var silent []string
	for i := range f.doc.Targets {
		t := &f.doc.Targets[i]
		if called := cmp.Or(t.Label.Text, t.Name); t.Alt == "" && !inText[t.ID] && numbered.MatchString(called) {
			silent = append(silent, t.ID)
		}
	}
	if len(silent) > 0 {
		f.add("target-undescribed", info, about{targets: silent}, message.P{"targets": f.targetNames(silent)})
	}
}

// numbered is what says nothing of a place: “3”, “Spot 3”, “Target 3”.
var numbered = regexp.MustCompile(`^(\pL+ )?\d*$`)

// says reports whether a text has all words of a name, one after the other.
func says(text, name string) bool {
	split := func(s string) []string {
		return strings.FieldsFunc(strings.ToLower(s), func(r rune) bool { return !unicode.IsLetter(r) && !unicode.IsDigit(r) })
	}
	words, part := split(text), split(name)
	for i := 0; len(part) > 0 && i+len(part) <= len(words); i++ {
		same := true
		for k, w := range part {
			same = same && words[i+k] == w
		}
		if same {
			return true
		}
	}
	return false
}

const smallest = 24 * 100 // hundredths of a unit (WCAG 2.2, 2.5.8)

// places finds parts that are too small, off the board, or over each other.
func (f *finder) places() {
	board := geometry.Rect{W: f.doc.Board.Width, H: f.doc.Board.Height}
	var small, off []string
	for i := range f.doc.Items {
		it := &f.doc.Items[i]
		if it.Size.W < smallest || it.Size.H < smallest {
			small = append(small, it.ID)
		}
		if it.Home != nil && !board.Covers(geometry.Rect{X: it.Home.X, Y: it.Home.Y, W: it.Size.W, H: it.Size.H}) {
			off = append(off, it.ID)
		}
	}
	if len(small) > 0 {
		f.add("small", warn, about{items: small}, message.P{"items": f.itemNames(small)}, mend{"larger", nil, func(d *activity.Doc) {
			for _, id := range small {
				it := d.Item(id)
				it.Size.W, it.Size.H = max(it.Size.W, smallest), max(it.Size.H, smallest)
			}
		}})
	}
	if len(off) > 0 {
		f.add("off-board", warn, about{items: off}, message.P{"parts": f.itemNames(off)}, mend{"onto-board", nil, func(d *activity.Doc) {
			for _, id := range off {
				it := d.Item(id)
				it.Home.X, it.Home.Y = inward(it.Home.X, it.Size.W, board.W), inward(it.Home.Y, it.Size.H, board.H)
			}
		}})
	}
	for i := range f.doc.Targets {
		t := &f.doc.Targets[i]
		at := about{targets: []string{t.ID}}
		box := placing.Shape(t).Box
		polygon := t.Shape == activity.ShapePolygon
		if box.W < smallest || box.H < smallest {
			f.add("small/target", warn, at, message.P{"target": f.targetName(t.ID)}, unless(polygon, "larger", func(d *activity.Doc) {
				r := &d.Target(t.ID).Frame
				r.W, r.H = max(r.W, smallest), max(r.H, smallest)
			})...)
		}
		if !board.Covers(box) {
			f.add("off-board", warn, at, message.P{"parts": f.targetName(t.ID)}, unless(polygon, "onto-board", func(d *activity.Doc) {
				r := &d.Target(t.ID).Frame
				r.X, r.Y = inward(r.X, r.W, board.W), inward(r.Y, r.H, board.H)
			})...)
		}
		for j := range f.doc.Targets {
			o := &f.doc.Targets[j]
			shape := placing.Shape(t)
			if j > i && shape.Area(placing.Shape(o).Box).Sign() > 0 && placing.Shape(o).Area(box).Sign() > 0 {
				f.add("overlap", warn, about{targets: []string{t.ID, o.ID}},
					message.P{"target": f.targetName(t.ID), "other": f.targetName(o.ID)})
			}
			if label, ok := labelBox(t); ok && j != i && len(f.doc.Targets) <= 60 {
				f.covered(t, o, label)
			}
		}
	}
}

// unless is what puts a target right by its frame; the corners of a polygon say where it is.
func unless(polygon bool, code string, do func(*activity.Doc)) []mend {
	if polygon {
		return nil
	}
	return []mend{{code, nil, do}}
}

func inward(at, size, room activity.U) activity.U { return max(0, min(at, room-size)) }

// labelBox is about where a label stands: on the rim, as wide as its text may be.
// Labels at a side and inside are left out: pieces keep clear of those.
func labelBox(t *activity.Target) (geometry.Rect, bool) {
	const height = 2600
	width := activity.U(len([]rune(t.Label.Text))*850 + 1700)
	switch {
	case t.Label.Text == "" || t.Shows == activity.ShowsNever:
		return geometry.Rect{}, false
	case t.Label.Side == activity.SideAbove:
		return geometry.Rect{X: t.Frame.X + 800, Y: t.Frame.Y - height/2, W: width, H: height}, true
	case t.Label.Side == activity.SideBelow:
		return geometry.Rect{X: t.Frame.X + 800, Y: t.Frame.Y + t.Frame.H - height/2, W: width, H: height}, true
	}
	return geometry.Rect{}, false
}

// covered finds a label that pieces in another target would stand on.
func (f *finder) covered(t, o *activity.Target, label geometry.Rect) {
	if o.Arrange.Opacity == 0 && o.Arrange.As == "" {
		return
	}
	for _, sample := range placing.Samples(f.doc, []string{o.ID}, 60)[o.ID] {
		if r := sample.Frame; r.X < label.X+label.W && label.X < r.X+r.W && r.Y < label.Y+label.H && label.Y < r.Y+r.H {
			f.add("label-covered", warn, about{targets: []string{o.ID, t.ID}},
				message.P{"target": f.targetName(o.ID), "other": f.targetName(t.ID)})
			return
		}
	}
}

// illegible finds pieces whose text would be cut off, at rest or where they stand once all
// is right, in the windows that learners have.
func (f *finder) illegible() {
	type cut struct{ item, target string }
	var order []cut
	widths := map[cut][]string{}
	look := func(c cut, it *activity.Item, w, h activity.U) {
		if it.Text == "" {
			return
		}
		for _, s := range layout.Screens() {
			if layout.Fits(f.doc, it, w, h, s.Scale(f.doc)) {
				continue
			}
			if widths[c] == nil {
				order = append(order, c)
			}
			if n := fmt.Sprint(s.Width); !slices.Contains(widths[c], n) {
				widths[c] = append(widths[c], n)
			}
		}
	}
	for i := range f.doc.Items {
		it := &f.doc.Items[i]
		look(cut{item: it.ID}, it, it.Size.W, it.Size.H)
	}
	for i := range f.doc.Targets {
		t := &f.doc.Targets[i]
		for _, valid := range f.Solve().Witnesses {
			var sizes []geometry.Size
			var items []*activity.Item
			for _, piece := range valid[t.ID] {
				id, _, _ := strings.Cut(piece, "~")
				it := f.doc.Item(id)
				items, sizes = append(items, it), append(sizes, it.Size)
			}
			for k, r := range placing.Stand(t, sizes, make([]*geometry.Vertex, len(sizes))) {
				if widths[cut{item: items[k].ID}] == nil {
					look(cut{target: t.ID}, items[k], r.W, r.H)
				}
			}
		}
	}
	for _, c := range order {
		at := strings.Join(widths[c], ", ")
		if c.item != "" {
			f.add("illegible", warn, about{items: []string{c.item}}, message.P{"item": f.itemName(c.item), "widths": at})
		} else {
			f.add("illegible/placed", warn, about{targets: []string{c.target}}, message.P{"target": f.targetName(c.target), "widths": at})
		}
	}
}

// contrast finds texts that are hard to read on what is behind them.
func (f *finder) contrast() {
	theme := activity.Themes()[0]
	if f.doc.Board.Theme != nil {
		theme = *f.doc.Board.Theme
	}
	named := map[string]string{
		"board": theme.Colors.Board, "ink": theme.Colors.Ink, "well": theme.Colors.Well, "rim": theme.Colors.Rim,
		"card": theme.Colors.Card, "edge": theme.Colors.Edge, "accent": theme.Colors.Accent,
		"right": theme.Colors.Right, "near": theme.Colors.Near, "wrong": theme.Colors.Wrong,
	}
	colour := func(name, otherwise string) string {
		if c, ok := named[name]; ok {
			return c
		}
		if strings.HasPrefix(name, "#") {
			return name
		}
		return named[otherwise]
	}
	weak := func(s *activity.Style, behind string) (float64, bool) {
		if s == nil || s.Fill == "" && (s.Text == nil || s.Text.Color == "") {
			return 0, false
		}
		ink := "ink"
		if s.Text != nil && s.Text.Color != "" {
			ink = s.Text.Color
		}
		ratio := activity.Contrast(colour(ink, "ink"), colour(s.Fill, behind))
		return math.Floor(ratio*10) / 10, ratio < 4.5
	}
	plain := func(s *activity.Style) {
		if s.Text != nil {
			s.Text.Color = ""
		}
		s.Fill = ""
	}
	for i := range f.doc.Items {
		it := &f.doc.Items[i]
		if it.Text == "" || it.Looks == nil || it.Looks.Rest == nil {
			continue
		}
		if ratio, is := weak(it.Looks.Rest.Style, "card"); is {
			f.add("contrast", warn, about{items: []string{it.ID}}, message.P{"item": f.itemName(it.ID), "ratio": fmt.Sprintf("%.1f", ratio)},
				mend{"colours", nil, func(d *activity.Doc) { plain(d.Items[i].Looks.Rest.Style) }})
		}
	}
	for i := range f.doc.Scenery {
		x := &f.doc.Scenery[i]
		if x.Text == "" {
			continue
		}
		if ratio, is := weak(x.Style, "board"); is {
			f.add("contrast/scenery", warn, about{scenery: []string{x.ID}}, message.P{"text": short(x.Text), "ratio": fmt.Sprintf("%.1f", ratio)},
				mend{"colours", nil, func(d *activity.Doc) { plain(d.Scenery[i].Style) }})
		}
	}
}

func short(s string) string {
	if r := []rune(s); len(r) > 30 {
		return string(r[:30]) + "…"
	}
	return s
}
