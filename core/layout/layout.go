// Package layout gives parts of a new activity their first places.
//
// A sort's targets share the board evenly, at most four in a row, with room for
// the label on the rim:
//
//	layout.Sort(doc)
package layout

import (
	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

const (
	margin = 2400 // around the board and between targets
	rim    = 1600 // above each target, for its label
)

// Sort spreads the targets over the board, row by row. With five targets the
// rows hold three and two; a shorter last row is as wide as the others.
// Cost: O(targets).
func Sort(doc *activity.Doc) {
	n := len(doc.Targets)
	if n == 0 {
		return
	}
	rows := 1
	for perRow(n, rows) > 4 || rows == 1 && n > 3 {
		rows++
	}
	columns := perRow(n, rows)
	height := (doc.Board.Height-margin)/activity.U(rows) - margin - rim
	for i := range doc.Targets {
		row, column := i/columns, i%columns
		inRow := min(columns, n-row*columns)
		width := (doc.Board.Width-margin)/activity.U(inRow) - margin
		doc.Targets[i].Frame = geometry.Rect{
			X: margin + activity.U(column)*(width+margin),
			Y: margin + rim + activity.U(row)*(height+margin+rim),
			W: max(width, 100), H: max(height, 100),
		}
	}
}

func perRow(n, rows int) int { return (n + rows - 1) / rows }
