package stats

import (
	"encoding/binary"
	"errors"
	"math"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

// Tally is what one sitting gives to the figures: it can be kept, so that a sitting is
// played once and not each time somebody looks.
type Tally struct {
	Moves int // how many it was made of
	Done  bool
	// First is what stood at the first check, Final what stood when the sitting was done.
	First, Final State
	Times        []int64 // by item: milliseconds to its first right placement, or −1
}

// State is one state of a sitting. Without Reached the rest is empty.
type State struct {
	Reached bool
	Percent exact.Hundredths
	Right   []bool  // by item
	Pieces  []uint8 // by item: how many places it has in Places, one after the other
	Places  []int16 // the targets, or −1 for home
}

// ErrTally says that a kept tally cannot be read, and the sitting is to be played again.
var ErrTally = errors.New("this tally is of another document or another format")

// Tally plays a sitting. It changes nothing of the table, so that several may do it at
// once. limit is as in [Table.Add].
func (t *Table) Tally(seed uint64, limit int64, moves []play.Move) *Tally {
	g := t.game
	state := g.Open(seed)
	if limit >= 0 {
		state = g.OpenWithin(seed, limit)
	}
	items := len(g.Doc.Items)
	x := &Tally{Moves: len(moves), Times: make([]int64, items)}
	for i := range x.Times {
		x.Times[i] = -1
	}
	each := g.Doc.Play.Check == activity.CheckingEach
	var tried State // where every placement is judged: of each item, its first
	if each {
		tried = State{Reached: true, Right: slices.Clone(t.nowhere), Pieces: slices.Repeat([]uint8{1}, items), Places: slices.Repeat([]int16{-1}, items)}
	}
	for _, m := range moves {
		after, a := g.Move(state, m)
		state = after
		p, known := g.Parts.Piece(m.Piece)
		target, onto := g.Parts.Target(a.Target)
		if known && onto && (a.Result == placing.EffectPlaced || a.Result == placing.EffectKept || a.Result == placing.EffectRefused) {
			item := g.Parts.Pieces[p].Item
			if a.Result != placing.EffectRefused && t.rights[target][item] && x.Times[item] < 0 {
				x.Times[item] = m.Time()
			}
			if each && tried.Places[item] < 0 && (a.Result == placing.EffectPlaced || a.Verdict != nil) {
				tried.Places[item] = int16(target)
				tried.Right[item] = a.Verdict != nil && slices.Contains(a.Verdict.Right, m.Piece)
			}
		}
		if a.Verdict != nil && !each && !x.First.Reached {
			x.First = t.standing(state, a.Verdict)
		}
	}
	x.Done = state.Phase == play.Done
	if x.Done && state.Verdict != nil {
		x.Final = t.standing(state, state.Verdict)
		x.Final.Percent, _ = exact.Parse(g.Final(state).Percent) // as a verdict wrote it
		if each {
			x.First, x.First.Percent = tried, x.Final.Percent
		}
	}
	return x
}

// standing is the state of each item by a verdict.
func (t *Table) standing(s *play.State, v *marks.Verdict) State {
	g := t.game
	items := len(g.Doc.Items)
	x := State{Reached: true, Right: make([]bool, items), Pieces: make([]uint8, items), Places: make([]int16, 0, len(g.Parts.Pieces))}
	x.Percent, _ = exact.Parse(v.Percent)
	for i := range x.Right {
		x.Right[i] = !slices.Contains(v.Missing, g.Doc.Items[i].ID)
	}
	// The pieces of an item follow one another.
	for p, piece := range g.Parts.Pieces {
		x.Pieces[piece.Item]++
		x.Places = append(x.Places, int16(max(-1, s.Now.Where[p])))
		if slices.Contains(v.Wrong, piece.ID) {
			x.Right[piece.Item] = false
		}
	}
	return x
}

// The format of a kept tally: this byte, what is there, and then numbers as varints.
const (
	tallyFormat = 1

	isDone, hasFirst, hasFinal, finalIsFirst = 1, 2, 4, 8
)

// Append writes a tally to be kept: some 100 to 200 bytes for 24 items.
func (x *Tally) Append(b []byte) []byte {
	what := byte(0)
	same := x.First.Reached && x.Final.Reached && x.First.equal(&x.Final)
	for flag, on := range map[byte]bool{isDone: x.Done, hasFirst: x.First.Reached, hasFinal: x.Final.Reached, finalIsFirst: same} {
		if on {
			what |= flag
		}
	}
	b = binary.AppendUvarint(append(b, tallyFormat, what), uint64(x.Moves))
	for _, at := range x.Times {
		b = binary.AppendUvarint(b, uint64(at+1))
	}
	if x.First.Reached {
		b = x.First.append(b)
	}
	if x.Final.Reached && !same {
		b = x.Final.append(b)
	}
	return b
}

func (s *State) equal(o *State) bool {
	return s.Percent == o.Percent && slices.Equal(s.Right, o.Right) && slices.Equal(s.Pieces, o.Pieces) && slices.Equal(s.Places, o.Places)
}

func (s *State) append(b []byte) []byte {
	b = binary.AppendVarint(b, int64(s.Percent))
	next := 0
	for item, pieces := range s.Pieces {
		head := uint64(pieces) << 1
		if s.Right[item] {
			head |= 1
		}
		b = binary.AppendUvarint(b, head)
		for _, at := range s.Places[next : next+int(pieces)] {
			b = binary.AppendUvarint(b, uint64(at+1))
		}
		next += int(pieces)
	}
	return b
}

// Read reads a kept tally into x, whose memory is used again. ErrTally.
func (t *Table) Read(kept []byte, x *Tally) error {
	r := reader{b: kept}
	if r.byte() != tallyFormat {
		return ErrTally
	}
	what := r.byte()
	const both = hasFirst | hasFinal
	if what&^(isDone|both|finalIsFirst) != 0 || what&finalIsFirst != 0 && what&both != both {
		return ErrTally
	}
	items := len(t.game.Doc.Items)
	x.Moves, x.Done = int(r.unsigned()), what&isDone != 0
	x.Times = x.Times[:0]
	for range items {
		x.Times = append(x.Times, int64(r.unsigned())-1)
	}
	x.First.Reached, x.Final.Reached = what&hasFirst != 0, what&hasFinal != 0
	if x.First.Reached {
		t.state(&r, &x.First)
	}
	switch {
	case what&finalIsFirst != 0:
		f := &x.Final
		f.Percent = x.First.Percent
		f.Right, f.Pieces, f.Places = append(f.Right[:0], x.First.Right...), append(f.Pieces[:0], x.First.Pieces...), append(f.Places[:0], x.First.Places...)
	case x.Final.Reached:
		t.state(&r, &x.Final)
	}
	if r.bad || len(r.b) > 0 {
		return ErrTally
	}
	return nil
}

func (t *Table) state(r *reader, s *State) {
	s.Percent = exact.Hundredths(r.signed())
	s.Right, s.Pieces, s.Places = s.Right[:0], s.Pieces[:0], s.Places[:0]
	for range t.game.Doc.Items {
		head := r.unsigned()
		pieces := head >> 1
		if pieces > math.MaxUint8 {
			r.bad, pieces = true, 0
		}
		s.Right, s.Pieces = append(s.Right, head&1 != 0), append(s.Pieces, uint8(pieces))
		for range pieces {
			at := int(r.unsigned()) - 1
			if at >= len(t.game.Doc.Targets) {
				r.bad, at = true, -1
			}
			s.Places = append(s.Places, int16(at))
		}
	}
}

// reader reads numbers until there are none; bad says that there were too few.
type reader struct {
	b   []byte
	bad bool
}

func (r *reader) byte() byte {
	if len(r.b) == 0 {
		r.bad = true
		return 0
	}
	x := r.b[0]
	r.b = r.b[1:]
	return x
}

func (r *reader) unsigned() uint64 {
	if len(r.b) > 0 && r.b[0] < 0x80 { // nearly all of them
		x := r.b[0]
		r.b = r.b[1:]
		return uint64(x)
	}
	x, n := binary.Uvarint(r.b)
	r.took(n)
	return x
}

func (r *reader) signed() int64 {
	x, n := binary.Varint(r.b)
	r.took(n)
	return x
}

func (r *reader) took(n int) {
	if n <= 0 {
		r.bad, r.b = true, nil
		return
	}
	r.b = r.b[n:]
}
