package layout

import (
	"reflect"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/core/richtext"
)

// Fill gives a board that nobody has arranged yet its proportions: pieces as large as the
// tray and the targets allow, type of 20 to 28 units, a board as high as its targets need
// beside the tray, and everything placed by [Start]. Filling again changes nothing.
//
//	layout.Fill(doc) // four steps: pieces of 280 × 96, type of 24, a lane that holds them
//
// Pieces that have a home on the board, parts whose type a theme decides, and a board with
// a picture for its ground keep what they have. Cost: linear, but for sorts, where each of
// some twenty sizes is tried in each target.
func Fill(doc *activity.Doc) {
	if doc.Kind == activity.KindGaps {
		fillText(doc)
		return
	}
	tray := inTray(doc)
	own := doc.Board.Background.Picture == "" // the board's size is free
	if own {
		doc.Board.Width = boardWidth
		if len(tray) > manyPieces {
			doc.Board.Width = wideBoard
		}
	}
	size := pieceSize(doc, tray)
	for i := range doc.Targets {
		t := &doc.Targets[i]
		if doc.Board.Theme == nil && t.Label.Text != "" {
			size := u(labelSize)
			if t.Label.Side == activity.SideLeft { // a prompt is read as its answers are
				size = typeFor(doc.Board.Width / 4)
			}
			setType(&t.Looks, size)
		}
		if t.Ordered && (t.Arrange.As == "" || t.Arrange.As == activity.AsGrid) {
			t.Arrange.As = ""
			if laneRows(rightIn(doc, t)) > 1 {
				t.Arrange.As = activity.AsGrid
			}
		}
	}
	if own {
		doc.Board.Height = boardHeight(doc, tray, size)
	}
	switch doc.Kind {
	case activity.KindMatch, activity.KindLabel, activity.KindSequence, activity.KindBuild:
		setPieces(doc, tray, size)
		Start(doc)
	default: // bins share the board, whatever goes into them
		Start(doc)
		setPieces(doc, tray, inBins(doc, tray, size))
	}
}

// Follows says whether a board is as [Fill] leaves it: nobody has moved anything.
// A board of more than a hundred items is not looked at.
func Follows(doc *activity.Doc) bool {
	if len(doc.Items) > 100 {
		return false
	}
	again := doc.Clone()
	Fill(again)
	if again.Board.Height != doc.Board.Height || again.Board.Width != doc.Board.Width {
		return false
	}
	for i := range doc.Items {
		a, b := &doc.Items[i], &again.Items[i]
		if a.Home != nil || a.Size != b.Size || !reflect.DeepEqual(activity.RestStyle(a.Looks.Points()), activity.RestStyle(b.Looks.Points())) {
			return false
		}
	}
	measured := map[string]bool{} // where the words leave them is measured where they are drawn
	for i := range doc.Scenery {
		for _, id := range richtext.Gaps(doc.Scenery[i].Text) {
			measured[id] = true
		}
	}
	for i := range doc.Targets {
		a, b := &doc.Targets[i], &again.Targets[i]
		if a.Shape != activity.ShapeRect || a.Frame != b.Frame && !measured[a.ID] {
			return false
		}
	}
	for i := range doc.Scenery {
		a, b := doc.Scenery[i].Frame, again.Scenery[i].Frame
		if (a == nil) != (b == nil) || a != nil && *a != *b {
			return false
		}
	}
	return true
}

// Heights of a board that leaves room for a tray on a screen of usual proportions.
const (
	leastHeight = 48000
	mostHeight  = 72000
	withTray    = 88000
	boardWidth  = 96000
	// Of more than manyPieces, the board is larger.
	manyPieces = 12
	wideBoard  = 120000
	wideLeast  = 60000
)

func boardHeight(doc *activity.Doc, tray []*activity.Item, size geometry.Size) u {
	rows, _ := trayRows(tray)
	least, h := u(leastHeight), withTray-rows*(size.H+between)-1600
	n := u(len(doc.Targets))
	if len(tray) > manyPieces {
		least = wideLeast
	}
	switch doc.Kind {
	case activity.KindLabel:
		least = max(least, 52000)
	case activity.KindBuild:
		perRow := max(1, (doc.Board.Width-2*margin)/max(1, size.W))
		least, h = 20000, heading(doc)+(n+perRow-1)/perRow*size.H+rim+3*margin
		if n == 0 {
			h = mostHeight
		}
	case activity.KindSequence:
		lanes, others := u(0), false
		h = 2 * margin
		for i := range doc.Targets {
			if t := &doc.Targets[i]; t.Ordered {
				lanes++
				h += laneHeight(doc, t, size) + rim + margin
			} else {
				others = true
			}
		}
		if others {
			h = h * 5 / 3
		}
		if least = 20000; lanes == 0 {
			h = leastHeight
		}
	}
	return max(least, min(mostHeight, h)) / step * step
}

// fillText gives a text with gaps, and the words for them, large type: the shorter it is,
// the larger. The board is as high as the text.
func fillText(doc *activity.Doc) {
	letters := 0
	for i := range doc.Scenery {
		if s := &doc.Scenery[i]; len(richtext.Gaps(s.Text)) > 0 {
			letters += len([]rune(s.Text))
		}
	}
	size := u(smallType)
	switch {
	case letters <= 240:
		size = 2800
	case letters <= 600:
		size = largeType
	}
	for i := range doc.Scenery {
		if s := &doc.Scenery[i]; len(richtext.Gaps(s.Text)) > 0 {
			s.Style = withType(s.Style, size)
		}
	}
	for _, it := range inTray(doc) {
		it.Size = edit.WordSize(it.Text, size)
		if doc.Board.Theme == nil {
			setType(&it.Looks, size)
		}
	}
	edit.EqualGaps(doc, true)
	if doc.Board.Background.Picture == "" {
		doc.Board.Height = mostHeight
	}
	Start(doc)
	if doc.Board.Background.Picture == "" {
		doc.Board.Height = 20000
		for i := range doc.Scenery {
			if f := doc.Scenery[i].Frame; f != nil {
				doc.Board.Height = max(doc.Board.Height, min(mostHeight, f.Y+f.H+margin))
			}
		}
		for _, t := range doc.Targets {
			doc.Board.Height = max(doc.Board.Height, min(mostHeight, t.Frame.Y+t.Frame.H+margin))
		}
	}
}
