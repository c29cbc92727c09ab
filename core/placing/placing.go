// Package placing keeps an arrangement, which says where each piece is, and
// does to it what one move does.
//
// A piece is at home, in a target, or loose on the board. A target takes a piece
// or refuses it; a refused piece goes back to where it was:
//
//	a := placing.New(parts)
//	a.Place(chain, binA, nil, 1)  // placed
//	a.Place(bell, binA, nil, 2)   // refused, full, when bin-a holds one
//
// Pieces and targets go by their numbers in [activity.Parts]. An arrangement is
// changed in place, but never what another shares with it: a Clone costs a few
// words for each piece and target, so that a sitting can keep what to undo to. It
// does not know whether a place is right.
//
// Where the document leaves it open, this package decides: the index of a drop
// into a lane counts the other pieces as they stand before the move; in a lane
// laid out as a grid it goes by rows, in a ring clockwise from the top, and in
// any other form than a column along the longer side.
package placing

import (
	"maps"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// Placed is one piece in a target, and the move since which it has been there.
type Placed struct {
	Piece, Since int
	At           *geometry.Vertex // where it was dropped; nil when it was placed
}

// Arrangement says where the pieces are.
type Arrangement struct {
	Parts *activity.Parts
	In    [][]Placed             // by target, in order
	Where []int                  // by piece: a target, or activity.Home or Loose
	Held  []bool                 // by piece
	Loose map[int]activity.Point // by piece
}

// Effect is what a move came to: of placing, these; what a learner does besides has more,
// see package play.
type Effect string

const (
	EffectPlaced   Effect = "placed"
	EffectKept     Effect = "kept" // put where it stood
	EffectRefused  Effect = "refused"
	EffectLifted   Effect = "lifted"
	EffectLoose    Effect = "loose"    // outside, and stays there
	EffectRejected Effect = "rejected" // cannot be done
)

// Result says what became of a move, and, when it was refused or rejected, why.
type Result struct {
	Result  Effect
	Reason  string // closed, full, not-allowed
	Changed bool   // the arrangement is another
	Out     int    // the piece that had to leave, or −1
}

func no(result Effect, reason string) Result { return Result{Result: result, Reason: reason, Out: -1} }

// New is the arrangement with everything at home.
func New(parts *activity.Parts) *Arrangement {
	a := &Arrangement{
		Parts: parts, In: make([][]Placed, len(parts.Doc.Targets)),
		Where: make([]int, len(parts.Pieces)), Held: make([]bool, len(parts.Pieces)),
	}
	for i := range a.Where {
		a.Where[i] = activity.Home
	}
	return a
}

// Clone copies the arrangement. Cost: O(pieces + targets).
func (a *Arrangement) Clone() *Arrangement {
	c := *a
	c.In = slices.Clone(a.In)
	c.Where = slices.Clone(a.Where)
	c.Held = slices.Clone(a.Held)
	c.Loose = maps.Clone(a.Loose)
	return &c
}

// Index is the piece's place in its target.
func (a *Arrangement) Index(piece int) int {
	return slices.IndexFunc(a.In[a.Where[piece]], func(p Placed) bool { return p.Piece == piece })
}

// Put sets a piece into a target as it is given, last, whether or not it would be
// let in or there is room; it must be home.
func (a *Arrangement) Put(piece, target, since int) {
	a.insert(piece, target, len(a.In[target]), Placed{piece, since, nil})
}

// Insert is Put at an index.
func (a *Arrangement) Insert(piece, target, index, since int) {
	a.insert(piece, target, index, Placed{piece, since, nil})
}

func (a *Arrangement) insert(piece, target, index int, p Placed) {
	list := make([]Placed, 0, len(a.In[target])+1)
	list = append(append(append(list, a.In[target][:index]...), p), a.In[target][index:]...)
	a.In[target] = list
	a.Where[piece] = target
}

// take removes a piece from where it is.
func (a *Arrangement) take(piece int) {
	if t := a.Where[piece]; t >= 0 {
		i := a.Index(piece)
		list := make([]Placed, 0, len(a.In[t]))
		a.In[t] = append(append(list, a.In[t][:i]...), a.In[t][i+1:]...)
	} else if t == activity.Loose {
		delete(a.Loose, piece)
	}
	a.Where[piece] = activity.Home
}

// Home takes a piece home, held or not.
func (a *Arrangement) Home(piece int) { a.take(piece) }

// Place puts a piece into a target, in a lane at an index (nil: last), as move
// number n. Whoever held it may decide whether it may move: held is not asked
// here. A full target refuses the piece, sends the free one home that has been
// there longest (oust), or lets the two trade places (trade). Cost: O(pieces in
// the two targets).
func (a *Arrangement) Place(piece, target int, index *int, n int) Result {
	return a.place(piece, target, index, Placed{piece, n, nil})
}

func (a *Arrangement) place(piece, target int, index *int, p Placed) Result {
	t := &a.Parts.Doc.Targets[target]
	if !a.Parts.LetsIn(target, a.Parts.Pieces[piece].Item) {
		return no(EffectRefused, "closed")
	}
	if a.Where[piece] == target {
		return a.keep(piece, target, index, p)
	}
	out := -1
	if !a.Room(target) {
		if t.WhenFull != activity.WhenFullRefuse {
			out = a.leaves(target, index)
		}
		if out < 0 {
			return no(EffectRefused, "full")
		}
	}
	from := a.Where[piece]
	old := 0
	if from >= 0 {
		old = a.Index(piece)
	}
	a.take(piece)
	if out >= 0 {
		a.take(out)
		// In a trade the one that gives way takes the newcomer's old place, where that
		// lets it in; otherwise it goes home.
		if t.WhenFull == activity.WhenFullTrade && from >= 0 && a.Parts.LetsIn(from, a.Parts.Pieces[out].Item) {
			a.insert(out, from, old, Placed{out, p.Since, nil})
		}
	}
	a.insert(piece, target, a.slot(target, index), p)
	return Result{EffectPlaced, "", true, out}
}

// keep is place for a piece that is in the target already: in a lane, with an
// index, it moves there.
func (a *Arrangement) keep(piece, target int, index *int, p Placed) Result {
	r := no(EffectKept, "")
	i := a.Index(piece)
	p.Since = a.In[target][i].Since
	if p.At == nil {
		p.At = a.In[target][i].At
	}
	to := i
	if a.Parts.Doc.Targets[target].Ordered && index != nil {
		to = min(max(*index, 0), len(a.In[target])-1)
	}
	if to == i && p.At == a.In[target][i].At {
		return r
	}
	a.take(piece)
	a.insert(piece, target, to, p)
	r.Changed = to != i
	return r
}

// slot is the place at which a newcomer is put in.
func (a *Arrangement) slot(target int, index *int) int {
	last := len(a.In[target])
	if !a.Parts.Doc.Targets[target].Ordered || index == nil {
		return last
	}
	return min(max(*index, 0), last)
}

// leaves is the piece that makes room in a full target, or −1: with trade, in a
// lane, the free one at the index; else the free one that has been there longest.
func (a *Arrangement) leaves(target int, index *int) int {
	t, list := &a.Parts.Doc.Targets[target], a.In[target]
	if t.WhenFull == activity.WhenFullTrade && t.Ordered && index != nil && *index >= 0 && *index < len(list) && !a.Held[list[*index].Piece] {
		return list[*index].Piece
	}
	out := Placed{Piece: -1}
	for _, p := range list {
		if !a.Held[p.Piece] && (out.Piece < 0 || p.Since < out.Since) {
			out = p
		}
	}
	return out.Piece
}

// Room reports whether one more piece goes in.
func (a *Arrangement) Room(target int) bool {
	holds := a.Parts.Doc.Targets[target].Holds
	return holds == 0 || len(a.In[target]) < holds
}

// Lift takes a piece home that is not there.
func (a *Arrangement) Lift(piece int) Result {
	if a.Where[piece] == activity.Home {
		return no(EffectRejected, "not-allowed")
	}
	a.take(piece)
	return Result{EffectLifted, "", true, -1}
}

// Drop lets a piece go centred at (x, y): into the target it hits, or, beside
// all of them, home or loose as the document says. target is −1 where none was
// hit.
func (a *Arrangement) Drop(piece int, x, y activity.U, n int) (r Result, target int) {
	doc, it := a.Parts.Doc, a.Parts.ItemOf(piece)
	target = geometry.Hit(Shapes(doc), doc.Play.Hit, x, y, it.Size.W, it.Size.H, doc.Play.Reach)
	if target >= 0 {
		index := a.indexAt(piece, target, x, y)
		return a.place(piece, target, index, Placed{piece, n, &geometry.Vertex{x, y}}), target
	}
	where, at := a.Where[piece], activity.Point{X: x, Y: y}
	rule := it.OffTarget
	if rule == "" {
		rule = doc.Play.OffTarget
	}
	if rule == activity.OffTargetStay {
		changed := where != activity.Loose || a.Loose[piece] != at
		a.take(piece)
		if a.Loose == nil {
			a.Loose = map[int]activity.Point{}
		}
		a.Loose[piece], a.Where[piece] = at, activity.Loose
		return Result{EffectLoose, "", changed, -1}, -1
	}
	a.take(piece)
	return Result{EffectLifted, "", where != activity.Home, -1}, -1
}

// Shapes are the targets' shapes in document order, for the hit rule.
func Shapes(doc *activity.Doc) []geometry.Shape {
	out := make([]geometry.Shape, len(doc.Targets))
	for i := range doc.Targets {
		out[i] = Shape(&doc.Targets[i])
	}
	return out
}

// Shape is a target's shape.
func Shape(t *activity.Target) geometry.Shape {
	if t.Shape == activity.ShapePolygon {
		return geometry.Shape{Box: geometry.Bounds(t.Points), Points: t.Points}
	}
	return geometry.Shape{Box: t.Frame, Ellipse: t.Shape == activity.ShapeEllipse}
}

// Reset takes all free pieces home and reports whether there was any.
func (a *Arrangement) Reset() (changed bool) {
	for p, where := range a.Where {
		if where != activity.Home && !a.Held[p] {
			a.take(p)
			changed = true
		}
	}
	return changed
}

// CouldPlace reports whether some piece that is home or loose could be placed in
// a target that lets it in and has room. dealt says which pieces there are yet;
// nil is all. Cost: O(pieces × targets).
func (a *Arrangement) CouldPlace(dealt func(piece int) bool) bool {
	for p, where := range a.Where {
		if where >= 0 || dealt != nil && !dealt(p) {
			continue
		}
		for t := range a.In {
			if a.Parts.LetsIn(t, a.Parts.Pieces[p].Item) && a.Room(t) {
				return true
			}
		}
	}
	return false
}

// Same reports whether two arrangements of the same parts have every piece in the
// same place.
func (a *Arrangement) Same(b *Arrangement) bool {
	for t := range a.In {
		if !slices.EqualFunc(a.In[t], b.In[t], func(x, y Placed) bool { return x.Piece == y.Piece }) {
			return false
		}
	}
	for p, at := range a.Loose {
		if b.Where[p] != activity.Loose || b.Loose[p] != at {
			return false
		}
	}
	return len(a.Loose) == len(b.Loose) && slices.Equal(a.Held, b.Held)
}

// Names lists the pieces in each target by their ids, for all targets.
func (a *Arrangement) Names() map[string][]string {
	out := make(map[string][]string, len(a.In))
	for t, list := range a.In {
		names := make([]string, len(list))
		for i, p := range list {
			names[i] = a.Parts.Pieces[p.Piece].ID
		}
		out[a.Parts.Doc.Targets[t].ID] = names
	}
	return out
}
