package edit

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/message"
	"keenmagpie/core/richtext"
)

// bracketed is a gap as it is written in prose: the id of one that is there, or the
// word that a new one is for.
var bracketed = regexp.MustCompile(`\[\[([^\[\]\n]{1,200})\]\]`)

// Prose gives a piece of scenery a new text. A word in double brackets becomes a
// gap: a target in its place, a piece with the word, and a right cell; the same word
// twice is a piece with two copies. A gap whose brackets are taken out of the text
// goes, and its piece with it where that is right nowhere else. Gaps have one width,
// so that they do not tell how long their word is.
func Prose(d *activity.Doc, scenery, text string) (out *activity.Doc, made activity.Selection, lost []message.Sentence, err error) {
	out = d.Clone()
	i := slices.IndexFunc(out.Scenery, func(x activity.Scenery) bool { return x.ID == scenery })
	if i < 0 {
		return nil, made, nil, fmt.Errorf("there is no scenery %q", scenery)
	}
	was := richtext.Gaps(out.Scenery[i].Text)
	items, targets, _ := takenIDs(out)
	place := activity.U(0)
	if f := out.Scenery[i].Frame; f != nil {
		place = f.Y + f.H
	}
	used := map[string]bool{}
	text = bracketed.ReplaceAllStringFunc(text, func(s string) string {
		word := strings.TrimSpace(s[2 : len(s)-2])
		if word == "" || d.Target(word) != nil && !used[word] {
			used[word] = true
			return s
		}
		if d.Target(word) != nil {
			word = wordOf(d, word) // the same gap once more is another one for its word
		}
		t := activity.NewTarget(activity.FreshID(targets, word), "Gap 0") // its name must not tell the word
		t.Label.Text = ""
		t.Frame = geometry.Rect{X: 0, Y: min(place, out.Board.Height-3600), W: 8000, H: 3600}
		t.Holds, t.Arrange.As, t.Arrange.Gap = 1, activity.AsCentre, 0
		t.WhenFull = activity.WhenFullOust
		out.Targets = append(out.Targets, t)
		made.Targets = append(made.Targets, t.ID)
		k := slices.IndexFunc(out.Items, func(x activity.Item) bool { return strings.EqualFold(x.Text, word) })
		if k < 0 {
			it := activity.NewItem(activity.FreshID(items, word), word)
			it.Size = geometry.Size{W: wordWidth(word), H: 3600}
			out.Items = append(out.Items, it)
			made.Items = append(made.Items, it.ID)
			k = len(out.Items) - 1
		} else if n := placesOf(out, out.Items[k].ID); n >= out.Items[k].Copies {
			out.Items[k].Copies = min(99, n+1)
		}
		for s := range out.Key.Solutions {
			sol := &out.Key.Solutions[s]
			right := map[string]activity.Selector{t.ID: {Items: []string{out.Items[k].ID}}}
			for id, sel := range sol.Right {
				right[id] = sel
			}
			sol.Right = right
		}
		return "[[" + t.ID + "]]"
	})
	out.Scenery[i].Text = text
	gone := activity.Selection{}
	for _, id := range was {
		if !slices.ContainsFunc(out.Scenery, func(x activity.Scenery) bool { return slices.Contains(richtext.Gaps(x.Text), id) }) {
			gone.Targets = append(gone.Targets, id)
		}
	}
	if len(gone.Targets) > 0 {
		for _, it := range out.Items {
			if only := placesOnly(out, it.ID, gone.Targets); only {
				gone.Items = append(gone.Items, it.ID)
			}
		}
		out, lost = Remove(out, gone)
	}
	EqualGaps(out, true)
	numberGaps(out)
	return out, made, lost, nil
}

// numberGaps names the gaps of all texts by their number, in the order of reading;
// one that has got another name keeps it.
func numberGaps(d *activity.Doc) {
	n := 0
	for _, x := range d.Scenery {
		for _, id := range richtext.Gaps(x.Text) {
			n++
			if t := d.Target(id); t != nil && gapName.MatchString(t.Name) {
				t.Name = fmt.Sprintf("Gap %d", n)
			}
		}
	}
}

var gapName = regexp.MustCompile(`^Gap \d+$`)

// WordSize is that of a piece for a word in type of a size.
func WordSize(word string, size activity.U) geometry.Size {
	return geometry.Size{W: max(5600, 2400+activity.U(len([]rune(word)))*size*60/100), H: size * 3 / 2}
}

// wordWidth is about as wide as a word is set on a piece; the interface measures
// nothing of it, it only has to be enough.
func wordWidth(word string) activity.U { return max(5600, 2400+activity.U(len([]rune(word)))*950) }

// placesOf counts the targets in which an item is right by its name in the first
// solution: the copies that gap text needs of it.
func placesOf(d *activity.Doc, item string) (n int) {
	for _, sel := range d.Key.Solutions[0].Right {
		if slices.Contains(sel.Items, item) {
			n++
		}
	}
	return n
}

// placesOnly reports whether an item is right in some of the targets and in no
// other, in any solution.
func placesOnly(d *activity.Doc, item string, targets []string) (some bool) {
	it := d.Item(item)
	for _, s := range d.Key.Solutions {
		for t, sel := range s.Right {
			if sel.Selects(it) {
				if !slices.Contains(targets, t) {
					return false
				}
				some = true
			}
		}
	}
	return some
}

// EqualGaps gives all gaps of all texts the width of the widest word that is right
// in one, or each that of its own widest. It changes the document itself.
func EqualGaps(d *activity.Doc, equal bool) {
	width := map[string]activity.U{}
	most := activity.U(8000)
	for _, x := range d.Scenery {
		for _, id := range richtext.Gaps(x.Text) {
			width[id] = 5600
			for _, s := range d.Key.Solutions {
				for k := range d.Items {
					if sel, ok := s.Right[id]; ok && sel.Selects(&d.Items[k]) {
						width[id] = max(width[id], d.Items[k].Size.W)
					}
				}
			}
			most = max(most, width[id])
		}
	}
	for i := range d.Targets {
		if w, ok := width[d.Targets[i].ID]; ok {
			d.Targets[i].Frame.W = w + 800
			if equal {
				d.Targets[i].Frame.W = most + 800
			}
		}
	}
}

// fillGaps writes into texts, for gaps that go, the word that is right there.
func fillGaps(d *activity.Doc, gone func(target string) bool) {
	for i := range d.Scenery {
		d.Scenery[i].Text = bracketed.ReplaceAllStringFunc(d.Scenery[i].Text, func(s string) string {
			id := s[2 : len(s)-2]
			if !gone(id) {
				return s
			}
			return wordOf(d, id)
		})
	}
}

// wordOf is what is right in a gap first, as text.
func wordOf(d *activity.Doc, gap string) string {
	for k := range d.Items {
		if sel, ok := d.Key.Solutions[0].Right[gap]; ok && sel.Selects(&d.Items[k]) {
			return cmp.Or(d.Items[k].Text, d.Items[k].Name)
		}
	}
	return "…"
}
