// Package layout gives the parts of a new activity their first places, by its
// kind:
//
//	sort      bins that share the board evenly, at most four in a row
//	match     places of the items' size, in columns; prompts at their left, if any
//	sequence  lanes over the whole width, one under the other; bins below them
//	label     small places down both sides of what is labelled, which fills the middle
//	gaps      the text over the whole board, each gap where its words leave it
//	build     places side by side without a gap, in the middle
//
//	layout.Start(doc)
//
// Everything lies within the board, and targets do not overlap while there is room
// for them at 24 units. What a designer has placed already is placed anew: a first
// layout is for parts that have no place yet.
package layout

import (
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/richtext"
)

type (
	u    = activity.U
	rect = geometry.Rect
)

const (
	margin = 2400 // around the board and between targets
	rim    = 1600 // above each target, for its label
)

// Start places targets and, where the kind has it, scenery. Cost: linear.
func Start(doc *activity.Doc) {
	board := rect{X: margin, Y: margin, W: doc.Board.Width - 2*margin, H: doc.Board.Height - 2*margin}
	all := make([]int, len(doc.Targets))
	for i := range all {
		all[i] = i
	}
	switch doc.Kind {
	case activity.KindMatch:
		match(doc, all, board)
	case activity.KindBuild:
		if below := heading(doc); below > board.Y {
			board.Y, board.H = below, board.H-(below-board.Y)
		}
		cells(doc, all, board, mostSize(doc, geometry.Size{W: 12000, H: 12000}), 0)
	case activity.KindSequence:
		sequence(doc, board)
	case activity.KindLabel:
		label(doc, board)
	case activity.KindGaps:
		gaps(doc, board)
	default:
		bins(doc, all, board)
	}
}

// heading is where a text ends that stands over the whole board at its upper edge, as a
// question does; 0 where there is none.
func heading(doc *activity.Doc) u {
	for i := range doc.Scenery {
		if s := &doc.Scenery[i]; s.Type == activity.SceneryTypeText && s.Frame != nil && s.Frame.Y <= 2*margin && s.Frame.W > doc.Board.Width/2 {
			return s.Frame.Y + s.Frame.H
		}
	}
	return 0
}

// bins spreads targets over the area, row by row. With five the rows hold three
// and two; a shorter last row is as wide as the others.
func bins(doc *activity.Doc, targets []int, area rect) {
	n := len(targets)
	if n == 0 {
		return
	}
	rows := 1
	for perRow(n, rows) > 4 && rows < 12 || rows == 1 && n > 3 {
		rows++
	}
	columns := perRow(n, rows)
	height := (area.H+margin)/u(rows) - margin - rim
	for i, t := range targets {
		row, column := i/columns, i%columns
		inRow := min(columns, n-row*columns)
		width := (area.W+margin)/u(inRow) - margin
		doc.Targets[t].Frame = rect{
			X: area.X + u(column)*(width+margin),
			Y: area.Y + rim + u(row)*(height+margin+rim),
			W: max(width, 100), H: max(height, 100),
		}
	}
}

func perRow(n, rows int) int { return (n + rows - 1) / rows }

// match sets targets in columns; prompts that stand at the left of their targets
// have half of the column.
func match(doc *activity.Doc, targets []int, board rect) {
	size := mostSize(doc, geometry.Size{W: 16000, H: 9000})
	beside := false
	for _, t := range doc.Targets {
		beside = beside || t.Label.Text != "" && t.Label.Side == activity.SideLeft
	}
	if !beside {
		cells(doc, targets, board, size, margin)
		return
	}
	columns, rows := pairs(doc, len(targets))
	width := (board.W + margin) / columns
	each := board.H / rows
	half := width/2 - margin/2
	if pictured(inTray(doc)) { // what their prompts do not need would stand empty
		half = 0
	}
	for i, t := range targets {
		w, h := max(half, min(size.W+1600, width/2)), min(size.H+1600, each-800)
		x := board.X + u(i)/rows*width + width - margin - w
		y := board.Y + u(i)%rows*each + (each-h)/2
		doc.Targets[t].Frame = rect{X: x, Y: y, W: max(w, 100), H: max(h, 100)}
	}
}

// pairs says in how many columns and rows so many targets with their prompts stand: for
// pictures in those that leave them largest.
func pairs(doc *activity.Doc, n int) (columns, rows u) {
	most := u(6)
	switch {
	case n > 24:
		most = 10
	case n > 12:
		most = 8
	}
	all := u(max(1, n))
	columns = (all + most - 1) / most
	if pictured(inTray(doc)) {
		for c := columns + 1; c <= min(4, all); c++ {
			if heightBeside(doc, c, all) > heightBeside(doc, columns, all) {
				columns = c
			}
		}
	}
	return columns, (all + columns - 1) / columns
}

// heightBeside is how high a picture of 4 : 3 can be beside its prompt.
func heightBeside(doc *activity.Doc, columns, all u) u {
	box := besideIn(doc, columns, (all+columns-1)/columns)
	return min(box.H, box.W*3/4)
}

// besideIn is what a piece can take up beside its prompt.
func besideIn(doc *activity.Doc, columns, rows u) geometry.Size {
	return geometry.Size{W: (doc.Board.Width-margin)/columns/2 - margin - 1600, H: (leastHeight-2*margin)/rows - margin}
}

// mostSize is the size of the largest item, or that for none.
func mostSize(doc *activity.Doc, none geometry.Size) geometry.Size {
	var most geometry.Size
	for _, it := range doc.Items {
		most = geometry.Size{W: max(most.W, it.Size.W), H: max(most.H, it.Size.H)}
	}
	if most.W == 0 {
		return none
	}
	return most
}

// cells sets targets of one size in a block in the middle, smaller where there is
// no room for that.
func cells(doc *activity.Doc, targets []int, area rect, size geometry.Size, gap u) {
	sizes := make([]geometry.Size, len(targets))
	for i := range sizes {
		sizes[i] = size
	}
	if gap > 0 { // labels above
		area.Y, area.H = area.Y+rim, area.H-rim
	}
	for i, r := range geometry.Arrange(area, sizes, geometry.Arrangement{As: "grid", Anchor: "centre", Gap: gap, Scale: 100}, nil) {
		doc.Targets[targets[i]].Frame = r
	}
}

// sequence gives lanes the upper part of the board, all of it where there is
// nothing else.
func sequence(doc *activity.Doc, board rect) {
	var lanes, others []int
	for i, t := range doc.Targets {
		if t.Ordered {
			lanes = append(lanes, i)
		} else {
			others = append(others, i)
		}
	}
	if len(lanes) == 0 {
		bins(doc, others, board)
		return
	}
	upper := board
	if len(others) > 0 {
		upper.H = board.H * 3 / 5
		bins(doc, others, rect{X: board.X, Y: board.Y + upper.H, W: board.W, H: board.H - upper.H})
	}
	each := upper.H / u(len(lanes))
	size := mostSize(doc, geometry.Size{W: 12000, H: 6400})
	for i, t := range lanes {
		height := min(each-rim-margin/2, laneHeight(doc, &doc.Targets[t], size))
		doc.Targets[t].Frame = rect{X: board.X, Y: upper.Y + u(i)*each + rim + max(0, each-rim-margin/2-height)/2, W: board.W, H: max(height, 100)}
	}
}

// laneHeight is how high a lane is that holds what is right in it.
func laneHeight(doc *activity.Doc, t *activity.Target, size geometry.Size) u {
	rows := u(1)
	if t.Arrange.As == activity.AsGrid {
		rows = u(laneRows(rightIn(doc, t)))
	}
	return rows*(size.H+t.Arrange.Gap) - t.Arrange.Gap + 2*margin
}

// label leaves the middle half of the board to what is labelled, the first picture
// or else nothing, and sets targets down both sides.
func label(doc *activity.Doc, board rect) {
	middle := rect{X: board.X + board.W/4 + margin, Y: board.Y, W: board.W/2 - 2*margin, H: board.H}
	for i := range doc.Scenery {
		if s := &doc.Scenery[i]; s.Type == activity.SceneryTypePicture {
			s.Frame = &middle
			break
		}
	}
	size := mostSize(doc, geometry.Size{W: 16000, H: 5000})
	size.W = min(size.W, board.W/4)
	left := (len(doc.Targets) + 1) / 2
	side := func(targets []activity.Target, x u) {
		for i := range targets {
			each := board.H / u(len(targets))
			h := max(100, min(size.H, each-800))
			targets[i].Frame = rect{X: x, Y: board.Y + u(i)*each + (each-h)/2, W: size.W, H: h}
		}
	}
	side(doc.Targets[:left], board.X)
	side(doc.Targets[left:], board.X+board.W-size.W)
}

// Gap text of the usual size is set in lines of this height, in letters of about this
// width, larger text in proportion: what the interface draws is measured there, and this is
// where it begins.
const (
	usualText = 2400
	line      = 5600
	letter    = 1100
	gap       = 14000
)

// gaps breaks the first text with gaps into lines, and sets each gap where it
// falls; gaps that no text names stand below.
func gaps(doc *activity.Doc, board rect) {
	at := map[string]rect{}
	x, y := u(0), u(0)
	line, letter := u(line), u(letter)
	wide := func(id string) u {
		if t := doc.Target(id); t != nil && t.Frame.W > 0 {
			return t.Frame.W
		}
		return gap
	}
	advance := func(w u) {
		if x > 0 && x+w > board.W {
			x, y = 0, y+line
		}
	}
	var walk func([]richtext.Node)
	walk = func(nodes []richtext.Node) {
		for _, n := range nodes {
			switch n.Kind {
			case richtext.Break:
				x, y = 0, y+line
			case richtext.Gap:
				w := min(board.W, wide(n.Text))
				advance(w)
				at[n.Text] = rect{X: board.X + x, Y: board.Y + y + 400, W: w, H: line - 800}
				x += w + letter
			case richtext.Text:
				for word := range strings.FieldsSeq(n.Text) {
					w := u(len([]rune(word))) * letter
					advance(w)
					x += w + letter
				}
			default:
				walk(n.Children)
			}
			if n.Kind == richtext.Paragraph || n.Kind == richtext.Entry {
				x, y = 0, y+line
			}
		}
	}
	for i := range doc.Scenery {
		if s := &doc.Scenery[i]; len(richtext.Gaps(s.Text)) > 0 {
			size := textSize(s.Style, usualText)
			line, letter = 5600*size/usualText, 1100*size/usualText
			begin := y
			walk(richtext.Read(s.Text))
			s.Frame = &rect{X: board.X, Y: board.Y + begin, W: board.W, H: max(line, min(y-begin, board.H-begin))}
		}
	}
	var rest []int
	for i := range doc.Targets {
		t := &doc.Targets[i]
		if r, ok := at[t.ID]; ok && r.Y+r.H <= board.Y+board.H {
			t.Frame, t.Label.Text = r, ""
		} else {
			rest = append(rest, i)
		}
	}
	if len(rest) > 0 {
		top := min(y, board.H*2/3)
		cells(doc, rest, rect{X: board.X, Y: board.Y + top, W: board.W, H: board.H - top}, geometry.Size{W: gap, H: line - 800}, margin/4)
	}
}
