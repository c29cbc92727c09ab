package layout

import (
	"slices"

	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
)

// Kinds are the kinds of activities, in the order in which they are offered.
var Kinds = []string{"sort", "match", "sequence", "label", "gaps", "build"}

// Starts are what a new activity can begin as: a kind, or one of two that are builds.
var Starts = append(slices.Clone(Kinds), "question", "blank")

// New is a new activity of a kind with its starting layout: enough to be played at
// once, and to see what is to be replaced. An unknown kind is a sort.
func New(kind, title string) *activity.Doc {
	doc, _ := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"new","board":{"width":960,"height":720},"key":{"solutions":[{}]},
		"play":{"attempts":2,"wrongPieces":"home","rightPieces":"hold","extension":200},"marks":{"shares":[100,50]}}`))
	doc.ID, doc.Title, doc.Kind = activity.FreshID(map[string]bool{}, title), title, activity.Kind(kind)
	right := map[string]activity.Selector{}
	item := func(name string, w, h u) string {
		it := activity.NewItem(fmt.Sprintf("item-%d", len(doc.Items)+1), name)
		it.Size = geometry.Size{W: w, H: h}
		doc.Items = append(doc.Items, it)
		return it.ID
	}
	target := func(name string, holds int, items ...string) *activity.Target {
		t := activity.NewTarget(fmt.Sprintf("target-%d", len(doc.Targets)+1), name)
		t.Holds = holds
		doc.Targets = append(doc.Targets, t)
		if len(items) > 0 {
			right[t.ID] = activity.Selector{Items: items}
		}
		return &doc.Targets[len(doc.Targets)-1]
	}
	const w, h = 12000, 6400
	switch kind {
	case "match":
		doc.Instructions = "Put each piece beside what it goes with."
		for i := range 4 {
			t := target(fmt.Sprintf("Prompt %d", i+1), 1, item(fmt.Sprintf("Answer %d", i+1), 16000, h))
			t.Label.Side, t.WhenFull, t.Arrange.As = activity.SideLeft, activity.WhenFullOust, activity.AsCentre
		}
		doc.Play.Shuffle = true
	case "sequence":
		doc.Instructions = "Put the steps into their order."
		var tiers [][]string
		var all []string
		for i := range 5 {
			id := item(fmt.Sprintf("Step %d", i+1), 16000, h)
			tiers, all = append(tiers, []string{id}), append(all, id)
		}
		t := target("From first to last", 0, all...)
		t.Ordered = true
		doc.Key.Solutions[0].Orders = []activity.Order{{Target: t.ID, Tiers: tiers}}
		doc.Play.Shuffle, doc.Marks.By, doc.Marks.Measure = true, activity.ByOrder, activity.MeasurePairs
	case "label":
		doc.Instructions = "Put each label where it belongs."
		picture := activity.NewScenery("picture", activity.SceneryTypePicture)
		picture.Frame, picture.Pinned = &geometry.Rect{}, true
		doc.Scenery = append(doc.Scenery, picture)
		for i := range 4 {
			t := target(fmt.Sprintf("Spot %d", i+1), 1, item(fmt.Sprintf("Label %d", i+1), 16000, 5000))
			t.Label.Text, t.WhenFull, t.Arrange.As = "", activity.WhenFullOust, activity.AsCentre
		}
		doc.Play.Shuffle = true
	case "gaps":
		doc.Instructions = "Fill the gaps."
		text := activity.NewScenery("text", activity.SceneryTypeText)
		text.Frame = &geometry.Rect{X: margin, Y: margin, W: doc.Board.Width - 2*margin, H: 30000}
		text.Pinned = true
		doc.Scenery = append(doc.Scenery, text)
		doc.Play.Shuffle = true
		made, _, _, err := edit.Prose(doc, "text", "Write the text here, and put double brackets around each word that becomes a [[gap]].")
		if err == nil {
			doc = made
		}
		Fill(doc)
		edit.AddStartingReplies(doc)
		return doc
	case "build":
		doc.Instructions = "Put together what is asked for."
		for i := range 3 {
			target(fmt.Sprintf("Part %d", i+1), 1, item(fmt.Sprintf("Piece %d", i+1), w, w)).WhenFull = activity.WhenFullOust
		}
		item("Piece 4", w, w)
	case "question":
		doc.Kind, doc.Instructions = activity.KindBuild, "Put the right card into the field."
		text := activity.NewScenery("question", activity.SceneryTypeText)
		text.Text, text.Pinned = "Write the question here.", true
		size := u(2800)
		text.Style = &activity.Style{Fill: "card", Crop: activity.CropNone, Card: true, Text: &activity.TextStyle{Size: &size, Align: activity.AlignCentre}}
		text.Frame = &geometry.Rect{X: margin, Y: margin, W: boardWidth - 2*margin, H: 6400}
		doc.Scenery = append(doc.Scenery, text)
		t := target("Answer", 1, item("Answer 1", w, h))
		t.WhenFull, t.Arrange.As, t.Label.Text = activity.WhenFullOust, activity.AsCentre, ""
		item("Answer 2", w, h)
		item("Answer 3", w, h)
		doc.Play.Shuffle = true
	case "blank":
		doc.Kind = activity.KindBuild
	default:
		doc.Kind, doc.Instructions = activity.KindSort, "Put each piece where it belongs."
		for i := range 3 {
			target("Group "+string(rune('A'+i)), 0, item(fmt.Sprintf("Piece %d", 2*i+1), w, h), item(fmt.Sprintf("Piece %d", 2*i+2), w, h))
		}
		doc.Play.Shuffle = true
	}
	doc.Key.Solutions[0].Right = right
	Fill(doc)
	edit.AddStartingReplies(doc)
	return doc
}

// Again lays out anew: all targets and the text by the kind's starting layout or,
// where some targets are selected, those alone. Bins share the room that they have; of
// other kinds, and where bins would be too small for a piece, each keeps its size in a
// grid: in the room that they have, else on the whole board.
func Again(doc *activity.Doc, s activity.Selection) *activity.Doc {
	out := doc.Clone()
	if len(s.Targets) < 2 || len(s.Targets) == len(doc.Targets) {
		Start(out)
		return out
	}
	var chosen []int
	var frames []rect
	var most geometry.Size
	for i := range out.Targets {
		if slices.Contains(s.Targets, out.Targets[i].ID) {
			f := out.Targets[i].Frame
			chosen, frames = append(chosen, i), append(frames, f)
			most = geometry.Size{W: max(most.W, f.W), H: max(most.H, f.H)}
		}
	}
	room := bounds(frames)
	room.Y, room.H = room.Y-rim, room.H+rim
	bins(out, chosen, room)
	piece := mostSize(doc, geometry.Size{W: 12000, H: 6400})
	roomy := doc.Kind == activity.KindSort || doc.Kind == activity.KindSequence
	for _, t := range chosen {
		f := out.Targets[t].Frame
		roomy = roomy && f.W >= piece.W && f.H >= piece.H
	}
	if !roomy {
		board := rect{X: margin, Y: margin, W: doc.Board.Width - 2*margin, H: doc.Board.Height - 2*margin}
		if cells(out, chosen, room, most, margin); out.Targets[chosen[0]].Frame.W < most.W {
			cells(out, chosen, board, most, margin)
		}
	}
	for i, t := range chosen {
		// The corners of a polygon go with its frame.
		to := out.Targets[t].Frame
		out.Targets[t].Frame = frames[i]
		SetFrame(&out.Targets[t], to)
	}
	return out
}
