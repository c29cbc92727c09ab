package layout

import (
	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// How large pieces and their type are on a board that is filled.

// Sizes of type that a start has, in hundredths of a unit.
const (
	labelSize  = 2000
	smallType  = 2000
	mediumType = 2200
	largeType  = 2400
)

// Bounds of pieces in the tray.
const (
	widest    = 28800
	narrowest = 8400
	between   = 2000 // two of them, where a board is drawn at half its size
	step      = 400  // pieces are whole steps wide
)

// inTray lists the items that start in the tray.
func inTray(doc *activity.Doc) (list []*activity.Item) {
	for i := range doc.Items {
		if doc.Items[i].Home == nil {
			list = append(list, &doc.Items[i])
		}
	}
	return list
}

// pictured says whether all pieces are pictures alone.
func pictured(items []*activity.Item) bool {
	for _, it := range items {
		if it.Picture == "" || it.Text != "" {
			return false
		}
	}
	return len(items) > 0
}

// trayRows is in how many rows the pieces of items lie under the board.
func trayRows(items []*activity.Item) (rows, perRow u) {
	n := 0
	for _, it := range items {
		n += max(1, it.Copies)
	}
	n = max(1, n)
	switch {
	case n <= 5:
		rows = 1
	case n <= 14:
		rows = 2
	case n <= 27:
		rows = 3
	default:
		rows = 4 + u(max(0, n-40)/16)
	}
	return rows, (u(n) + rows - 1) / rows
}

// pieceSize is the largest size at which the pieces lie in the rows that their number has,
// and find room in their targets: wide enough for the longest word, high enough for the
// longest text. For pictures it is the box that they stand in.
func pieceSize(doc *activity.Doc, items []*activity.Item) geometry.Size {
	_, perRow := trayRows(items)
	most := geometry.Size{W: widest, H: doc.Board.Height}
	room := doc.Board.Width - 2*margin
	switch doc.Kind {
	case activity.KindLabel:
		most.W = doc.Board.Width / 4
	case activity.KindSequence:
		for i := range doc.Targets {
			if t := &doc.Targets[i]; t.Ordered {
				n := rightIn(doc, t)
				inRow := u((n + laneRows(n) - 1) / laneRows(n))
				most.W = min(most.W, (room-1600)/max(1, inRow)-t.Arrange.Gap)
			}
		}
	case activity.KindMatch:
		columns, rows := pairs(doc, len(doc.Targets))
		beside := besideIn(doc, columns, rows)
		most.W, most.H = min(most.W, beside.W), beside.H
	}
	most.W = max(narrowest, most.W) / step * step
	w := max(narrowest, min(most.W, (doc.Board.Width-3200)/perRow-between)) / step * step
	for w < most.W && lines(items, w) > 2 {
		w += step
	}
	return geometry.Size{W: w, H: max(4800, min(most.H, pieceHeight(doc, items, w)))}
}

// laneRows is in how many rows so many pieces stand in a lane.
func laneRows(pieces int) int { return 1 + max(0, pieces-1)/7 }

// rightIn is how many pieces are right in a target under the first solution; at least one.
func rightIn(doc *activity.Doc, t *activity.Target) (n int) {
	if len(doc.Key.Solutions) > 0 {
		s := &doc.Key.Solutions[0]
		for i := range doc.Items {
			if s.RightCell(t, &doc.Items[i]) {
				n += max(1, doc.Items[i].Copies)
			}
		}
	}
	return max(1, n)
}

// typeFor is the size of type on a piece so wide.
func typeFor(w u) u {
	switch {
	case w >= 20000:
		return largeType
	case w >= 14000:
		return mediumType
	}
	return smallType
}

// lines is how many the longest text takes on pieces so wide.
func lines(items []*activity.Item, w u) (most int) {
	for _, it := range items {
		if it.Text != "" {
			most = max(most, linesOf(it.Text, w*92/100, typeFor(w)))
		}
	}
	return most
}

func pieceHeight(doc *activity.Doc, items []*activity.Item, w u) u {
	h := u(5600)
	if n := lines(items, w); n > 0 {
		h = max(h, u(n)*typeFor(w)*125/100+2400)
	}
	for _, it := range items {
		if it.Picture != "" {
			h = max(h, w*3/4)
		}
	}
	switch doc.Kind {
	case activity.KindBuild:
		if len(doc.Targets) > 1 { // parts of a whole, rather than answers
			h = max(h, w)
		}
	case activity.KindSequence:
		h = max(h, w*2/3)
	}
	return h / step * step
}

// inBins is the largest size, up to one, at which what is right in each bin, or an even
// share, stands in it as it is.
func inBins(doc *activity.Doc, items []*activity.Item, size geometry.Size) geometry.Size {
	share := 1
	if n := len(doc.Targets); n > 0 {
		share = (len(items) + n - 1) / n
	}
	for w := size.W; w >= narrowest && (lines(items, w) <= 3 || w == size.W); w -= step {
		h := pieceHeight(doc, items, w)
		fits := true
		for i := range doc.Targets {
			t := &doc.Targets[i]
			columns, rows := (t.Frame.W-t.Arrange.Gap)/(w+t.Arrange.Gap), (t.Frame.H-rim-t.Arrange.Gap)/(h+t.Arrange.Gap)
			fits = fits && int(columns*rows) >= max(share, rightIn(doc, t))
		}
		if fits {
			return geometry.Size{W: w, H: h}
		}
	}
	// There are too many: they stand smaller in their bins.
	w := min(size.W, 12000)
	for w < size.W && lines(items, w) > 3 {
		w += step
	}
	return geometry.Size{W: w, H: pieceHeight(doc, items, w)}
}

// setPieces gives pieces a size and type: of pictures the proportion stays.
func setPieces(doc *activity.Doc, items []*activity.Item, size geometry.Size) {
	for _, it := range items {
		if was := it.Size; it.Picture != "" && it.Text == "" && was.W > 0 && was.H > 0 {
			if it.Size = (geometry.Size{W: size.W, H: was.H * size.W / was.W}); it.Size.H > size.H {
				it.Size = geometry.Size{W: was.W * size.H / was.H, H: size.H}
			}
			it.Size = geometry.Size{W: max(geometry.Smallest, it.Size.W), H: max(geometry.Smallest, it.Size.H)}
			continue
		}
		it.Size = size
		if doc.Board.Theme == nil && it.Text != "" {
			setType(&it.Looks, typeFor(size.W))
		}
	}
}

// styled is what looks have in common.
type styled interface {
	activity.ItemLooks | activity.TargetLooks
}

// setType sets the size of type of a part at rest.
func setType[L styled](looks **L, size u) {
	if *looks == nil {
		*looks = new(L)
	}
	var rest **activity.Look
	switch l := any(*looks).(type) {
	case *activity.ItemLooks:
		rest = &l.Rest
	case *activity.TargetLooks:
		rest = &l.Rest
	}
	look := activity.Look{}
	if *rest != nil {
		look = **rest
	}
	look.Style = withType(look.Style, size)
	*rest = &look
}

// withType is a style, or a new one, with another size of type.
func withType(was *activity.Style, size u) *activity.Style {
	style := activity.Style{Crop: activity.CropNone, Card: true}
	if was != nil {
		style = *was
	}
	text := activity.TextStyle{}
	if style.Text != nil {
		text = *style.Text
	}
	text.Size, style.Text = &size, &text
	return &style
}
