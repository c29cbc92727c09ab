package layout

import (
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// What can be read and hit on a screen, in CSS pixels: text of 12, and parts of 24 on
// their short side (WCAG 2.2, 2.5.8).
const (
	leastText = 1200
	leastPart = geometry.Smallest
	// most is where enlarging ends, in percent: what is smaller still is for its author to mend.
	most = 200
)

// Sizes of text on a board where nothing else is said, in hundredths of a unit.
const (
	pieceText = 1500
	labelText = 1700
	plainText = 1800
	// fullWidth is the width from which a piece has its text at full size; on a narrower
	// one text is smaller in proportion.
	fullWidth = 10000
)

// Legible is the least scale at which everything on the board can be read and hit, in
// percent of its own size: at it no text is under 12 CSS pixels, and no piece or target
// under 24. Where that is over 200, it is 200. A board that would have to be smaller than
// this to be seen whole is scrolled instead. Cost: linear.
//
// A board whose smallest text has 15 units is legible from 80 percent on.
func Legible(doc *activity.Doc) int {
	least := 0
	needs := func(size, pixels u) {
		if size > 0 {
			least = max(least, int((100*pixels+size-1)/size))
		}
	}
	for i := range doc.Items {
		it := &doc.Items[i]
		if it.Text != "" {
			needs(PieceText(doc, it, it.Size.W), leastText)
		}
		needs(min(it.Size.W, it.Size.H), leastPart)
	}
	for i := range doc.Targets {
		t := &doc.Targets[i]
		if t.Label.Text != "" {
			needs(textSize(activity.RestStyle(t.Looks.Points()), labelText), leastText)
		}
		needs(min(t.Frame.W, t.Frame.H), leastPart)
	}
	for i := range doc.Scenery {
		if s := &doc.Scenery[i]; s.Text != "" {
			needs(textSize(s.Style, plainText), leastText)
		}
	}
	return min(least, most)
}

// PieceText is the size of the text on a piece of an item where it is drawn at a width;
// both in hundredths of a unit.
func PieceText(doc *activity.Doc, it *activity.Item, width u) u {
	size := u(pieceText)
	if doc.Board.Theme != nil {
		size = doc.Board.Theme.Size
	}
	if width < fullWidth {
		size = size * width / fullWidth
	}
	return textSize(activity.RestStyle(it.Looks.Points()), size)
}

func textSize(style *activity.Style, usual u) u {
	if style != nil && style.Text != nil && style.Text.Size != nil {
		return *style.Text.Size
	}
	return usual
}

// Screen is a window in which a learner has the board, in CSS pixels.
type Screen struct{ Width, Height int }

// Screens are those for which a board is looked at before anyone plays: a desk, a
// tablet, a phone.
func Screens() []Screen { return []Screen{{1280, 800}, {768, 1024}, {390, 844}} }

// around is what stands above and below the board, and the margins at its sides.
const around, sides = 180, 32

// Scale is about the scale at which a player draws the board in a window, in percent:
// as large as finds room, and no smaller than is legible.
func (s Screen) Scale(doc *activity.Doc) int {
	whole := min(140, 100*100*(s.Width-sides)/int(doc.Board.Width), 100*100*(s.Height-around)/int(doc.Board.Height))
	return max(whole, Legible(doc))
}

// Fits says whether the text of a piece finds room on it where it is drawn of a size, at a
// scale in percent: in letters of 12 CSS pixels at least, about 0.55 as wide as they are
// high, in lines of 1.25. Beside a picture, text has half of the piece.
func Fits(doc *activity.Doc, it *activity.Item, width, height u, scale int) bool {
	size := max(leastText, PieceText(doc, it, width)*u(scale)/100)
	width, height = width*u(scale)/100*92/100, height*u(scale)/100*92/100
	if it.Picture != "" {
		if width < 5200 {
			return true // there the text stands aside
		}
		height = height * 52 / 100
	}
	return u(linesOf(it.Text, width, size))*size*125/100 <= height+size/4
}

// linesOf is how many lines a text takes in a width, in letters of a size.
func linesOf(text string, width, size u) int {
	perLine := max(1, int(width/(size*55/100)))
	lines, at := 1, 0
	for word := range strings.FieldsSeq(text) {
		n := len([]rune(word))
		if at > 0 && at+1+n > perLine {
			lines, at = lines+1, 0
		}
		for ; n > perLine; n -= perLine {
			lines++
		}
		at += n + 1
	}
	return lines
}
