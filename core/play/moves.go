package play

import (
	"encoding/base64"

	"keenmagpie/core/activity"
)

var doings = []activity.Do{activity.DoPlace, activity.DoDrop, activity.DoLift, activity.DoUndo, activity.DoReset, activity.DoCheck, activity.DoAgain, activity.DoRestart, activity.DoHint, activity.DoTimeUp}

// PackMoves writes the moves since a checkpoint short: base64url of a few bytes each. What
// a host adds to moves, and a piece or a target that there is not, is left out.
func (g *Game) PackMoves(moves []Move) string {
	p, last := &packer{}, int64(0)
	for _, m := range moves {
		do := 0
		for i, d := range doings {
			if d == m.Do {
				do = i + 1
			}
		}
		flags := p.yes(m.Index != nil) | p.yes(m.X != nil && m.Y != nil)<<1
		p.whole(do<<2 | flags)
		p.signed(m.T - last)
		last = m.T
		piece, ok := g.Parts.Piece(m.Piece)
		p.whole((piece + 1) * p.yes(ok))
		target, ok := g.Parts.Target(m.Target)
		p.whole((target + 1) * p.yes(ok))
		if m.Index != nil {
			p.signed(int64(*m.Index))
		}
		if m.X != nil && m.Y != nil {
			p.signed(int64(*m.X))
			p.signed(int64(*m.Y))
		}
	}
	return base64.RawURLEncoding.EncodeToString(p.b)
}

// UnpackMoves reads what [Game.PackMoves] wrote; the first move has the number after n. The
// error is [ErrDamaged].
func (g *Game) UnpackMoves(packed string, n int) ([]Move, error) {
	b, err := base64.RawURLEncoding.DecodeString(packed)
	if err != nil || len(packed) > MostCheckpoint {
		return nil, ErrDamaged
	}
	u, last := &unpacker{b: b}, int64(0)
	var moves []Move
	for len(u.b) > 0 {
		n++
		head := u.whole(len(doings)<<2 | 3)
		m := Move{N: n}
		if do := head >> 2; do > 0 {
			m.Do = doings[do-1]
		}
		last += u.signed()
		m.T = last
		if piece := u.whole(len(g.Parts.Pieces)); piece > 0 {
			m.Piece = g.Parts.Pieces[piece-1].ID
		}
		if target := u.whole(len(g.Doc.Targets)); target > 0 {
			m.Target = g.Doc.Targets[target-1].ID
		}
		if head&1 != 0 {
			index := int(u.signed())
			m.Index = &index
		}
		if head&2 != 0 {
			x, y := activity.U(u.signed()), activity.U(u.signed())
			m.X, m.Y = &x, &y
		}
		if u.bad {
			return nil, ErrDamaged
		}
		moves = append(moves, m)
	}
	return moves, nil
}
