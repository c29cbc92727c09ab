package activity

import (
	"strconv"
	"strings"
)

// Home and Loose stand for a target where a piece is in none.
const (
	Home  = -1
	Loose = -2
)

// Parts numbers a document's items, targets and pieces, each in document order,
// and keeps ready who is let in where and what that weighs, so that packages that run the document
// look nothing up by name. It never changes.
type Parts struct {
	Doc    *Doc
	Pieces []Piece
	First  []int // each item's first piece; its copies follow
	item   map[string]int
	target map[string]int
	cells  []cell // target × item
}

type cell struct {
	lets            bool
	weight, penalty int32
}

// Piece is one draggable instance of an item.
type Piece struct {
	ID   string
	Item int
}

// NewParts numbers the parts. Cost: O(items × targets + pieces).
func NewParts(doc *Doc) *Parts {
	p := &Parts{Doc: doc, item: map[string]int{}, target: map[string]int{}, cells: make([]cell, len(doc.Targets)*len(doc.Items))}
	for i := range doc.Items {
		it := &doc.Items[i]
		p.item[it.ID] = i
		p.First = append(p.First, len(p.Pieces))
		p.Pieces = append(p.Pieces, Piece{it.ID, i})
		for k := 2; k <= it.Copies; k++ {
			p.Pieces = append(p.Pieces, Piece{it.ID + "~" + strconv.Itoa(k), i})
		}
	}
	for j := range doc.Targets {
		t := &doc.Targets[j]
		p.target[t.ID] = j
		pick := t.Lets.compile()
		for i := range doc.Items {
			it := &doc.Items[i]
			p.cells[j*len(doc.Items)+i] = cell{pick(it), int32(it.Weight), int32(it.Penalty)}
		}
	}
	for name, c := range doc.Marks.Cells {
		item, target, _ := strings.Cut(name, "/")
		i, ok1 := p.item[item]
		j, ok2 := p.target[target]
		if !ok1 || !ok2 {
			continue
		}
		at := &p.cells[j*len(doc.Items)+i]
		if c.Weight != nil {
			at.weight = int32(*c.Weight)
		}
		if c.Penalty != nil {
			at.penalty = int32(*c.Penalty)
		}
	}
	return p
}

// compile makes a selector quick to ask many times.
func (s Selector) compile() func(*Item) bool {
	if s.All && len(s.Except) == 0 {
		return func(*Item) bool { return true }
	}
	set := func(list []string) map[string]bool {
		m := make(map[string]bool, len(list))
		for _, x := range list {
			m[x] = true
		}
		return m
	}
	items, tags, except := set(s.Items), set(s.Tags), set(s.Except)
	return func(it *Item) bool {
		if except[it.ID] {
			return false
		}
		if s.All || items[it.ID] {
			return true
		}
		for _, tag := range it.Tags {
			if tags[tag] {
				return true
			}
		}
		return false
	}
}

// Picks is, for each item, whether the selector selects it.
func (p *Parts) Picks(s Selector) []bool {
	pick := s.compile()
	out := make([]bool, len(p.Doc.Items))
	for i := range out {
		out[i] = pick(&p.Doc.Items[i])
	}
	return out
}

// Item finds an item's number.
func (p *Parts) Item(id string) (int, bool) {
	i, ok := p.item[id]
	return i, ok
}

// Target finds a target's number.
func (p *Parts) Target(id string) (int, bool) {
	j, ok := p.target[id]
	return j, ok
}

// Piece finds a piece's number: the first of item bell is bell, then bell~2 up to
// its copies.
func (p *Parts) Piece(id string) (int, bool) {
	name, number, copied := strings.Cut(id, "~")
	i, ok := p.item[name]
	if !ok || !copied {
		if !ok {
			return 0, false
		}
		return p.First[i], true
	}
	k, err := strconv.Atoi(number)
	if err != nil || k < 2 || k > p.Doc.Items[i].Copies || strconv.Itoa(k) != number {
		return 0, false
	}
	return p.First[i] + k - 1, true
}

// ItemOf is the item of a piece.
func (p *Parts) ItemOf(piece int) *Item { return &p.Doc.Items[p.Pieces[piece].Item] }

func (p *Parts) cell(target, item int) *cell { return &p.cells[target*len(p.Doc.Items)+item] }

// LetsIn reports whether the target lets the item in, right or not.
func (p *Parts) LetsIn(target, item int) bool { return p.cell(target, item).lets }

// Weight is what a right piece of the item earns in the target: the cell's weight,
// else the item's.
func (p *Parts) Weight(target, item int) int { return int(p.cell(target, item).weight) }

// Penalty is [Parts.Weight]'s counterpart for a wrong piece.
func (p *Parts) Penalty(target, item int) int { return int(p.cell(target, item).penalty) }
