// Package placing keeps an arrangement, which says where each piece is, and
// does to it what one move does.
//
// A piece is at home, in a target, or loose on the board. A target takes a piece
// or refuses it; a refused piece goes back to where it was:
//
//	a := placing.New()
//	a.Place(doc, "chain", "bin-a", 1)  // placed
//	a.Place(doc, "bell", "bin-a", 2)   // refused, full, when bin-a holds one
//
// An Arrangement is plain data: it can be copied with Clone, written as JSON and
// read again. It does not know whether a place is right.
package placing

import (
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// Placed is one piece in a target, and the move since which it has been there.
type Placed struct {
	Piece string `json:"piece"`
	Since int    `json:"since"`
}

// Arrangement says where the pieces are that are not at home.
type Arrangement struct {
	Targets map[string][]Placed       `json:"targets"`
	Loose   map[string]activity.Point `json:"loose,omitempty"`
	Held    []string                  `json:"held,omitempty"`
}

// Result says what became of a move, and, when it was refused or rejected, why.
type Result struct {
	Result string // placed, kept, refused, lifted, loose, rejected
	Reason string // closed, full, unknown-piece, unknown-target, not-allowed
}

// New is the arrangement with everything at home.
func New() *Arrangement { return &Arrangement{Targets: map[string][]Placed{}} }

// Clone copies the arrangement. Cost: O(placed pieces).
func (a *Arrangement) Clone() *Arrangement {
	c := New()
	for t, list := range a.Targets {
		c.Targets[t] = slices.Clone(list)
	}
	if len(a.Loose) > 0 {
		c.Loose = map[string]activity.Point{}
		for p, at := range a.Loose {
			c.Loose[p] = at
		}
	}
	c.Held = slices.Clone(a.Held)
	return c
}

// Pieces lists every piece of the document in document order: the first piece of
// item bell is bell, then bell~2 up to its copies.
func Pieces(doc *activity.Doc) []string {
	var out []string
	for i := range doc.Items {
		it := &doc.Items[i]
		out = append(out, it.ID)
		for k := 2; k <= it.Copies; k++ {
			out = append(out, it.ID+"~"+strconv.Itoa(k))
		}
	}
	return out
}

// ItemOf finds the item of a piece, or nil where there is no such piece.
func ItemOf(doc *activity.Doc, piece string) *activity.Item {
	id, number, copied := strings.Cut(piece, "~")
	it := doc.Item(id)
	if it == nil || !copied {
		return it
	}
	k, err := strconv.Atoi(number)
	if err != nil || k < 2 || k > it.Copies || strconv.Itoa(k) != number {
		return nil
	}
	return it
}

// Where finds the piece's target and index there; ok is false when it is in no
// target. Cost: O(placed pieces).
func (a *Arrangement) Where(piece string) (target string, index int, ok bool) {
	for t, list := range a.Targets {
		for i, p := range list {
			if p.Piece == piece {
				return t, i, true
			}
		}
	}
	return "", 0, false
}

// IsHeld reports whether the piece is held in place.
func (a *Arrangement) IsHeld(piece string) bool { return slices.Contains(a.Held, piece) }

// Place puts a piece into a target, as move number n. A full target refuses it,
// sends the piece home that has been there longest (oust), or lets the two trade
// places (trade), as the document says. Cost: O(placed pieces).
func (a *Arrangement) Place(doc *activity.Doc, piece, target string, n int) Result {
	it := ItemOf(doc, piece)
	if it == nil {
		return Result{"rejected", "unknown-piece"}
	}
	t := doc.Target(target)
	switch {
	case t == nil:
		return Result{"rejected", "unknown-target"}
	case a.IsHeld(piece):
		return Result{"rejected", "not-allowed"}
	case !t.LetsIn(it):
		return Result{"refused", "closed"}
	}
	if in, _, ok := a.Where(piece); ok && in == target {
		return Result{Result: "kept"}
	}
	out := ""
	if !a.Room(t) {
		if t.WhenFull == "refuse" {
			return Result{"refused", "full"}
		}
		if out = a.earliestFree(target); out == "" {
			return Result{"refused", "full"}
		}
	}
	from, index, came := a.Where(piece)
	a.take(piece)
	if out != "" {
		a.take(out)
		// In a trade the one that gives way takes the newcomer's old place, where that
		// lets it in; otherwise it goes home.
		if t.WhenFull == "trade" && came && doc.Target(from).LetsIn(ItemOf(doc, out)) {
			a.Targets[from] = slices.Insert(a.Targets[from], index, Placed{out, n})
		}
	}
	a.Targets[target] = append(a.Targets[target], Placed{piece, n})
	return Result{Result: "placed"}
}

// earliestFree is the piece that has been in the target longest and is not held,
// or nothing.
func (a *Arrangement) earliestFree(target string) string {
	out := Placed{}
	for _, p := range a.Targets[target] {
		if !a.IsHeld(p.Piece) && (out.Piece == "" || p.Since < out.Since) {
			out = p
		}
	}
	return out.Piece
}

// Room reports whether one more piece goes in.
func (a *Arrangement) Room(t *activity.Target) bool {
	return t.Holds == 0 || len(a.Targets[t.ID]) < t.Holds
}

// Lift takes a free piece home.
func (a *Arrangement) Lift(doc *activity.Doc, piece string) Result {
	if ItemOf(doc, piece) == nil {
		return Result{"rejected", "unknown-piece"}
	}
	if a.IsHeld(piece) || !a.take(piece) {
		return Result{"rejected", "not-allowed"}
	}
	return Result{Result: "lifted"}
}

// Drop lets a piece go centred at (x, y): into the target it hits, or, beside
// all of them, home or loose as the document says.
func (a *Arrangement) Drop(doc *activity.Doc, piece string, x, y activity.U, n int) (Result, string) {
	it := ItemOf(doc, piece)
	if it == nil {
		return Result{"rejected", "unknown-piece"}, ""
	}
	if a.IsHeld(piece) {
		return Result{"rejected", "not-allowed"}, ""
	}
	hit := geometry.Hit(Shapes(doc), x, y, it.Size.W, it.Size.H, doc.Play.Reach)
	if hit >= 0 {
		target := doc.Targets[hit].ID
		return a.Place(doc, piece, target, n), target
	}
	a.take(piece)
	if doc.Play.OffTarget == "stay" {
		if a.Loose == nil {
			a.Loose = map[string]activity.Point{}
		}
		a.Loose[piece] = activity.Point{X: x, Y: y}
		return Result{Result: "loose"}, ""
	}
	return Result{Result: "lifted"}, ""
}

// Shapes are the targets' shapes in document order, for the hit rule.
func Shapes(doc *activity.Doc) []geometry.Shape {
	out := make([]geometry.Shape, len(doc.Targets))
	for i, t := range doc.Targets {
		out[i] = geometry.Shape{Box: t.Frame, Ellipse: t.Shape == "ellipse"}
	}
	return out
}

// take removes the piece from where it is and reports whether it was anywhere
// but at home.
func (a *Arrangement) take(piece string) bool {
	if t, i, ok := a.Where(piece); ok {
		a.Targets[t] = slices.Delete(a.Targets[t], i, i+1)
		return true
	}
	_, loose := a.Loose[piece]
	delete(a.Loose, piece)
	return loose
}

// Reset takes all free pieces home and reports whether there was any.
func (a *Arrangement) Reset() bool {
	any := len(a.Loose) > 0
	a.Loose = nil
	for t, list := range a.Targets {
		a.Targets[t] = slices.DeleteFunc(slices.Clone(list), func(p Placed) bool { return !a.IsHeld(p.Piece) })
		any = any || len(a.Targets[t]) < len(list)
	}
	return any
}

// Home lists the pieces that are in no target and not loose, in document order.
func (a *Arrangement) Home(doc *activity.Doc) []string {
	return slices.DeleteFunc(Pieces(doc), func(p string) bool {
		_, _, in := a.Where(p)
		_, loose := a.Loose[p]
		return in || loose
	})
}

// CouldPlace reports whether some piece, home or loose, could be placed in a
// target that lets it in and has room. Cost: O(pieces × targets).
func (a *Arrangement) CouldPlace(doc *activity.Doc) bool {
	for _, p := range Pieces(doc) {
		if _, _, in := a.Where(p); in {
			continue
		}
		it := ItemOf(doc, p)
		for i := range doc.Targets {
			if t := &doc.Targets[i]; t.LetsIn(it) && a.Room(t) {
				return true
			}
		}
	}
	return false
}

// Stands says where each placed and loose piece stands on the board.
func (a *Arrangement) Stands(doc *activity.Doc) map[string]geometry.Rect {
	out := map[string]geometry.Rect{}
	for i := range doc.Targets {
		t := &doc.Targets[i]
		list := a.Targets[t.ID]
		sizes := make([]geometry.Size, len(list))
		for j, p := range list {
			sizes[j] = ItemOf(doc, p.Piece).Size
		}
		for j, r := range geometry.Grid(within(t), sizes, t.Arrange.Gap, t.Arrange.Scale) {
			out[list[j].Piece] = r
		}
	}
	for p, at := range a.Loose {
		size := ItemOf(doc, p).Size
		out[p] = geometry.Centred(at.X, at.Y, size.W, size.H)
	}
	return out
}

// within is the part of a target's frame where pieces may stand: clear of a
// label that sits on its rim or inside it, and, in an ellipse, the rectangle
// inscribed in it (each side times 1/√2, here 707/1000).
func within(t *activity.Target) geometry.Rect {
	box := t.Frame
	if t.Shape == "ellipse" {
		w, h := box.W*707/1000, box.H*707/1000
		return geometry.Rect{X: box.X + (box.W-w)/2, Y: box.Y + (box.H-h)/2, W: w, H: h}
	}
	const labelHeight = 2000
	if t.Label.Text != "" && box.H > 3*labelHeight {
		switch t.Label.Side {
		case "above":
			box.Y, box.H = box.Y+labelHeight/2, box.H-labelHeight/2
		case "below":
			box.H -= labelHeight / 2
		case "inside":
			box.Y, box.H = box.Y+labelHeight, box.H-labelHeight
		}
	}
	return box
}
