package geometry

// Smallest is what a piece keeps on its short side however many share a target:
// 24 units, so that it can still be hit.
const Smallest U = 2400

// Arrangement says how pieces stand in a box; the fields are those of the
// document's arrange. Lengths in hundredths of a unit, Scale in percent.
type Arrangement struct {
	As, Anchor string
	Gap, Step  U
	Scale      int
}

// Arrange says where pieces of the given sizes stand in the box:
//
//	centre     all on one spot
//	row        side by side, each as wide as it is
//	column     one under the other
//	grid       in reading order, in equal cells of the largest size
//	pile       each a step to the right of and below the one under it
//	ring       evenly on the largest ellipse that keeps them in the box
//	asDropped  where they were let go, kept within the box
//
// The whole block stands at the anchor, the gap away from the edges where there
// is room for it. Pieces that do not fit shrink evenly until they do, down to
// [Smallest] on the short side of the smallest; past that they overlap rather
// than leave the box. dropped holds where each was let go, relative to the board;
// nil, or a nil in it, is the middle.
//
// Cost: O(n) for one scale, times at most [Arrangement.Scale] scales.
func Arrange(box Rect, sizes []Size, how Arrangement, dropped []*Vertex) []Rect {
	if len(sizes) == 0 {
		return nil
	}
	short := sizes[0].W
	for _, s := range sizes {
		short = min(short, s.W, s.H)
	}
	scaled := make([]Size, len(sizes))
	for percent := how.Scale; ; percent-- {
		for i, s := range sizes {
			scaled[i] = Size{s.W * U(percent) / 100, s.H * U(percent) / 100}
		}
		out, block, free := how.block(box, scaled, dropped)
		pad := how.Gap
		if len(sizes) == 1 {
			pad = 0 // one piece may fill the target
		}
		fits := free && block.W+2*pad <= box.W && block.H+2*pad <= box.H
		if last := percent <= 1 || short*U(percent-1)/100 < Smallest; fits || last {
			how.anchor(box, out, block)
			return out
		}
	}
}

// block lays the pieces out from (0, 0), and says how large that is, and whether
// they are clear of each other as far as the form asks for that.
func (how Arrangement) block(box Rect, sizes []Size, dropped []*Vertex) (out []Rect, block Size, free bool) {
	out = make([]Rect, len(sizes))
	var most, all Size
	for _, s := range sizes {
		most = Size{max(most.W, s.W), max(most.H, s.H)}
		all = Size{all.W + s.W + how.Gap, all.H + s.H + how.Gap}
	}
	switch how.As {
	case "row":
		x := U(0)
		for i, s := range sizes {
			out[i] = Rect{x, (most.H - s.H) / 2, s.W, s.H}
			x += s.W + how.Gap
		}
		return out, Size{all.W - how.Gap, most.H}, true
	case "column":
		y := U(0)
		for i, s := range sizes {
			out[i] = Rect{(most.W - s.W) / 2, y, s.W, s.H}
			y += s.H + how.Gap
		}
		return out, Size{most.W, all.H - how.Gap}, true
	case "pile":
		step, extent := how.Step, how.Step*U(len(sizes)-1)
		start := max(0, -extent)
		for i, s := range sizes {
			at := start + step*U(i)
			out[i] = Rect{at + (most.W-s.W)/2, at + (most.H-s.H)/2, s.W, s.H}
		}
		return out, Size{most.W + max(extent, -extent), most.H + max(extent, -extent)}, true
	case "ring":
		room := Size{max(most.W, box.W-2*how.Gap), max(most.H, box.H-2*how.Gap)}
		path := Rect{most.W / 2, most.H / 2, room.W - most.W, room.H - most.H}
		for i, s := range sizes {
			at := towards(path, i, len(sizes))
			out[i] = Centred(at[0], at[1], s.W, s.H)
		}
		free = true
		for i := range out {
			next := (i + 1) % len(out)
			free = free && (i == next || overlapArea(out[i], out[next]) == 0)
		}
		return out, room, free
	case "grid":
		columns := max(1, int((box.W-how.Gap)/(most.W+how.Gap)))
		columns = min(columns, len(sizes))
		rows := (len(sizes) + columns - 1) / columns
		for i, s := range sizes {
			x, y := U(i%columns)*(most.W+how.Gap), U(i/columns)*(most.H+how.Gap)
			out[i] = Rect{x + (most.W-s.W)/2, y + (most.H-s.H)/2, s.W, s.H}
		}
		return out, Size{U(columns)*(most.W+how.Gap) - how.Gap, U(rows)*(most.H+how.Gap) - how.Gap}, true
	case "asDropped":
		for i, s := range sizes {
			x, y := box.W/2, box.H/2
			if i < len(dropped) && dropped[i] != nil {
				x, y = dropped[i][0]-box.X, dropped[i][1]-box.Y
			}
			out[i] = Centred(x, y, s.W, s.H)
			out[i].X = max(0, min(out[i].X, box.W-s.W))
			out[i].Y = max(0, min(out[i].Y, box.H-s.H))
		}
		return out, Size{}, most.W <= box.W && most.H <= box.H
	}
	for i, s := range sizes { // centre
		out[i] = Rect{(most.W - s.W) / 2, (most.H - s.H) / 2, s.W, s.H}
	}
	return out, most, true
}

// anchor moves the block to its place in the box, and closes it up where it is
// larger than that.
func (how Arrangement) anchor(box Rect, out []Rect, block Size) {
	if how.As == "asDropped" {
		for i := range out {
			out[i].X, out[i].Y = out[i].X+box.X, out[i].Y+box.Y
		}
		return
	}
	left := place(box.W, block.W, how.Gap, how.Anchor, "Left", "Right")
	top := place(box.H, block.H, how.Gap, how.Anchor, "top", "bottom")
	for i := range out {
		out[i].X = box.X + left + closeUp(out[i].X, out[i].W, block.W, box.W)
		out[i].Y = box.Y + top + closeUp(out[i].Y, out[i].H, block.H, box.H)
	}
}

// place is where a block of a size begins in a room: at its low or high end by
// the anchor's name, else in the middle.
func place(room, size, gap U, anchor, low, high string) U {
	free := max(0, room-size)
	switch {
	case names(anchor, low):
		return min(gap, free/2)
	case names(anchor, high):
		return free - min(gap, free/2)
	}
	return free / 2
}

// names reports whether an anchor such as topLeft or left names the side.
func names(anchor, side string) bool {
	lower := string(side[0]|0x20) + side[1:]
	return anchor == lower || len(anchor) > len(side) &&
		(anchor[:len(side)] == side || anchor[len(anchor)-len(side):] == side)
}

// closeUp squeezes a position in a block that is larger than its room.
func closeUp(at, size, block, room U) U {
	if block <= room || block <= size {
		return at
	}
	return at * max(0, room-size) / (block - size)
}
