// Package start makes new activities from what somebody has at hand: a text, rows of a
// table, pictures and sounds.
//
//	start.From("sequence", "Fit a chain", start.Have{Text: "Open the link\nThread it\nClose it"}, files)
//
// makes three steps that are right in the order of their lines. What there is of samples
// goes; what is made is laid out as the kind asks.
package start

import (
	"fmt"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/formats/table"
)

// Have is what somebody has at hand.
type Have struct {
	Text  string      // rows, lines, or for gap text a text with [[gaps]]
	Files []edit.File // that were uploaded
}

// From makes an activity of one of [layout.Starts] from it. files finds media that rows
// name. Rows that cannot be read are left out.
func From(kind, title string, have Have, files table.Files) *activity.Doc {
	doc := layout.New(kind, title)
	text := strings.TrimSpace(have.Text)
	if ground := leftOver(string(doc.Kind), text, have.Files); ground >= 0 {
		Ground(doc, have.Files[ground])
		have.Files = slices.Delete(slices.Clone(have.Files), ground, ground+1)
	}
	doc = withFiles(doc, kind, have.Files)
	switch {
	case text == "":
	case doc.Kind == activity.KindGaps:
		if made, _, _, err := edit.Prose(doc, "text", text); err == nil {
			doc = made
		}
	case kind == "question":
		doc = question(doc, lines(text))
	case strings.ContainsAny(text, "\t;") || doc.Kind != activity.KindSequence && doc.Kind != activity.KindLabel:
		doc, _ = table.Merge(doc, text, nil, files)
	case doc.Kind == activity.KindSequence:
		doc = steps(doc, lines(text))
	case doc.Board.Background.Picture != "": // their spots are still to come
		doc, _ = edit.AddItems(doc, lines(text))
	default:
		doc = labels(doc, lines(text))
	}
	layout.Fill(doc)
	return doc
}

func lines(text string) (list []string) {
	for line := range strings.SplitSeq(text, "\n") {
		if line = strings.Join(strings.Fields(line), " "); line != "" && len(list) < table.MaxRows {
			if letters := []rune(line); len(letters) > 200 {
				line = string(letters[:200])
			}
			list = append(list, line)
		}
	}
	return list
}

// question makes the first line the question, the second its answer, and the others what
// else there is to choose from.
func question(doc *activity.Doc, list []string) *activity.Doc {
	for i := range doc.Scenery {
		if s := &doc.Scenery[i]; s.ID == "question" {
			s.Text = list[0]
		}
	}
	if list = list[1:]; len(list) == 0 {
		return doc
	}
	field := doc.Targets[0].ID
	doc, made := edit.AddItems(layout.DropSamples(doc, true), list)
	doc, _ = edit.RightIn(doc, 0, []edit.Row{{Item: made.Items[0], Targets: []string{field}}})
	return doc
}

// steps makes lines the steps of a sequence, in their order.
func steps(doc *activity.Doc, list []string) *activity.Doc {
	doc = layout.DropSamples(doc, true)
	doc, made := edit.AddItems(doc, list)
	lane := ""
	for i := range doc.Targets {
		if doc.Targets[i].Ordered {
			lane = doc.Targets[i].ID
			break
		}
	}
	doc, _ = edit.SetCells(doc, 0, made.Items, []string{lane}, true)
	order := activity.Order{Target: lane}
	for _, id := range made.Items {
		order.Tiers = append(order.Tiers, []string{id})
	}
	if in, err := edit.SetOrder(doc, 0, lane, &order); err == nil {
		doc = in
	}
	return doc
}

// labels makes lines the labels of a picture, each with a spot of its own.
func labels(doc *activity.Doc, list []string) *activity.Doc {
	var spots []string
	for i := range list {
		spots = append(spots, fmt.Sprintf("Spot %d", i+1))
	}
	samples := layout.Samples(doc)
	doc, targets := edit.AddTargets(doc, spots)
	for i := range doc.Targets {
		doc.Targets[i].Label.Text = "" // it would give the answer away
	}
	doc, items := edit.AddItems(doc, list)
	var rows []edit.Row
	for i, id := range items.Items {
		rows = append(rows, edit.Row{Item: id, Targets: []string{targets.Targets[i]}})
	}
	doc, _ = edit.RightIn(doc, 0, rows)
	doc, _ = edit.Remove(doc, samples)
	for i := range doc.Targets {
		doc.Targets[i].Name = fmt.Sprintf("Spot %d", i+1)
	}
	return doc
}

// leftOver finds, where rows name the other files, the one picture that none names: it is
// the board's. -1 without such a picture.
func leftOver(kind, text string, files []edit.File) int {
	if kind == "gaps" || kind == "label" {
		return -1
	}
	named := map[string]bool{}
	for _, apart := range []string{"\n\r", "\n\r\t", "\n\r;", "\n\r;,\t"} { // a name can have a comma in it
		for _, cell := range strings.FieldsFunc(text, func(r rune) bool { return strings.ContainsRune(apart, r) }) {
			named[strings.ToLower(strings.TrimSpace(cell))] = true
		}
	}
	found, others := -1, 0
	for i, f := range files {
		switch {
		case named[strings.ToLower(f.Name)]:
			others++
		case f.Sound || found >= 0:
			return -1
		default:
			found = i
		}
	}
	if others == 0 {
		return -1
	}
	return found
}

// withFiles gives a picture to what has one place for it, and makes items of the others.
func withFiles(doc *activity.Doc, kind string, files []edit.File) *activity.Doc {
	if len(files) == 0 {
		return doc
	}
	first := files[0]
	switch {
	case first.Sound:
	case doc.Kind == activity.KindLabel: // its spots are traced, or drawn, over it
		doc, _ = edit.Remove(layout.DropSamples(doc, false), activity.Selection{Scenery: []string{doc.Scenery[0].ID}})
		Ground(doc, first)
		files = files[1:]
	case len(files) == 1 && kind != "sort" && kind != "match" && kind != "sequence" && kind != "gaps":
		Ground(doc, first)
		return doc
	}
	if len(files) > 0 {
		doc, _ = edit.TakeFiles(layout.DropSamples(doc, true), files, nil, false)
	}
	return doc
}

// Ground makes a picture the ground of a board of its proportion, at its size as far as that
// is neither very small nor larger than a screen.
func Ground(doc *activity.Doc, f edit.File) {
	doc.Board.Background.Picture = f.ID
	if f.Width <= 0 || f.Height <= 0 {
		return
	}
	box := geometry.Size{W: 120000, H: 72000}
	w, h := f.Width, f.Height
	if w < 60000 || w > box.W || h > box.H {
		w, h = box.W, f.Height*box.W/f.Width
		if h > box.H {
			w, h = f.Width*box.H/f.Height, box.H
		}
	}
	doc.Board.Width, doc.Board.Height = max(10000, w/100*100), max(10000, h/100*100)
}
