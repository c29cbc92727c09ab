package geometry

// Size is a width and a height.
type Size struct {
	W U `json:"w" range:"1.."`
	H U `json:"h" range:"1.."`
}

// Smallest is what a piece keeps on its short side however many share a target:
// 24 units, so that it can still be hit.
const Smallest U = 2400

// Grid lays pieces of the given sizes into box, in reading order, in equal cells
// of the largest size with gap between them, each centred in its cell, the block
// centred in the box. Where they do not fit, they shrink evenly until they do,
// down to [Smallest] on the short side of the smallest piece; past that they
// overlap, row upon row, rather than leave the box. scale is the percent to
// start from.
//
// Cost: O(n) for one scale, times at most 100 scales.
func Grid(box Rect, sizes []Size, gap U, scale int) []Rect {
	if len(sizes) == 0 {
		return nil
	}
	var cell Size
	short := sizes[0].W
	for _, s := range sizes {
		cell.W, cell.H = max(cell.W, s.W), max(cell.H, s.H)
		short = min(short, s.W, s.H)
	}
	for percent := scale; ; percent-- {
		w, h := cell.W*U(percent)/100, cell.H*U(percent)/100
		columns := max(1, int((box.W-gap)/(w+gap)))
		columns = min(columns, len(sizes))
		rows := (len(sizes) + columns - 1) / columns
		fits := U(rows)*(h+gap)+gap <= box.H && U(columns)*(w+gap)+gap <= box.W
		last := percent <= 1 || short*U(percent-1)/100 < Smallest
		if fits || last {
			return grid(box, sizes, gap, percent, columns, rows, Size{w, h})
		}
	}
}

func grid(box Rect, sizes []Size, gap U, percent, columns, rows int, cell Size) []Rect {
	stepX, stepY := cell.W+gap, cell.H+gap
	// Too many to fit: rows (or columns) close up, so that all stay in the box.
	stepX = closeUp(stepX, columns, cell.W, box.W-2*gap)
	stepY = closeUp(stepY, rows, cell.H, box.H-2*gap)
	blockW := stepX*U(columns-1) + cell.W
	blockH := stepY*U(rows-1) + cell.H
	left, top := box.X+(box.W-blockW)/2, box.Y+(box.H-blockH)/2
	out := make([]Rect, len(sizes))
	for i, s := range sizes {
		cx := left + stepX*U(i%columns) + cell.W/2
		cy := top + stepY*U(i/columns) + cell.H/2
		out[i] = Centred(cx, cy, s.W*U(percent)/100, s.H*U(percent)/100)
	}
	return out
}

func closeUp(step U, n int, size, room U) U {
	if n > 1 && step*U(n-1)+size > room {
		return max(0, (room-size)/U(n-1))
	}
	return step
}
