package geometry

import (
	"encoding/json"
	"errors"
	"math/big"
)

// HitRule says when a piece hits a target: Rule is centre (the piece's centre is
// in the shape), touch (any overlap), inside (wholly inside) or overlap (at least
// Overlap percent of the piece's area is over it). As JSON it is the rule's name,
// or {"overlap": 60}.
type HitRule struct {
	Rule    string
	Overlap int
}

// MarshalJSON writes the rule.
func (h HitRule) MarshalJSON() ([]byte, error) {
	if h.Rule == "overlap" {
		return json.Marshal(map[string]int{"overlap": h.Overlap})
	}
	return json.Marshal(h.Rule)
}

// UnmarshalJSON reads what MarshalJSON writes.
func (h *HitRule) UnmarshalJSON(body []byte) error {
	var o struct{ Overlap int }
	if json.Unmarshal(body, &h.Rule) == nil {
		return nil
	}
	if err := json.Unmarshal(body, &o); err != nil || o.Overlap < 1 || o.Overlap > 100 {
		return errors.New(`the hit rule should be "centre", "touch", "inside" or {"overlap": 1 to 100}`)
	}
	*h = HitRule{"overlap", o.Overlap}
	return nil
}

// Hit finds the target that a piece of size w × h centred at (x, y) falls on by
// the rule, each target grown by reach; of several, the one with which the
// piece's rectangle shares the largest area, then the later one, which is drawn
// on top. It returns -1 when there is none. Cost: O(corners of all targets).
func Hit(targets []Shape, rule HitRule, x, y, w, h, reach U) int {
	// Doubled, so that half a hundredth of an odd width is whole.
	piece := Rect{2*x - w, 2*y - h, 2 * w, 2 * h}
	best := -1
	var bestArea *big.Rat
	for i, t := range targets {
		t = t.Grow(reach)
		if near := t.Box.Grow(1); !near.Contains(x, y) && !near.Touches(Rect{x - w, y - h, 2 * w, 2 * h}) {
			continue
		}
		t = t.doubled()
		if !rule.hits(t, piece, 2*x, 2*y) {
			continue
		}
		if best < 0 {
			best = i
			continue
		}
		if bestArea == nil {
			bestArea = targets[best].Grow(reach).doubled().Area(piece)
		}
		if area := t.Area(piece); area.Cmp(bestArea) >= 0 {
			best, bestArea = i, area
		}
	}
	return best
}

func (h HitRule) hits(t Shape, piece Rect, x, y U) bool {
	switch h.Rule {
	case "touch":
		return t.Touches(piece)
	case "inside":
		return t.Covers(piece)
	case "overlap":
		if h.Overlap == 100 {
			return t.Covers(piece)
		}
		least := big.NewRat(int64(piece.W)*int64(piece.H), 100)
		return t.Area(piece).Cmp(least.Mul(least, big.NewRat(int64(h.Overlap), 1))) >= 0
	}
	return t.Contains(x, y)
}
