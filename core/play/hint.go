package play

import (
	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
)

// hint gives the next hint. One that places a piece holds it there.
func (t *moving) hint() {
	if t.s.Hints >= len(t.Doc.Hints) {
		t.reject(notAllowed, "noHints")
		return
	}
	h := t.Doc.Hints[t.s.Hints]
	if h.Place && !t.placeOne() {
		t.reject(notAllowed, "nothingToPlace")
		return
	}
	t.s.Hints++
	t.judged = nil
	t.a.Result = EffectHinted
	t.step(Step{Code: "hinted", Text: h.Text, Share: t.s.Hints * t.Doc.Marks.HintCost})
	if t.piece >= 0 {
		t.explainPlaced()
		if t.each() {
			t.verdict()
		}
		t.deal()
	}
	t.give(activity.MomentHinted)
}

// placeOne puts a missing piece in a right place of the verdict's solution and
// holds it; it reports whether there was one to put.
func (t *moving) placeOne() bool {
	j := t.judge()
	s, seen := t.Judge.Solutions[j.Solution], j.Seen()
	unmet := s.Unmet(t.s.Now)
	for _, missing := range []bool{true, false} {
		for p := range t.Parts.Pieces {
			item := t.Parts.Pieces[p].Item
			if t.s.Now.Held[p] || !t.s.HasAppeared(p) || t.s.Now.Where[p] >= 0 && seen.Right[p] {
				continue
			}
			var targets []int
			if missing && seen.Missing[item] {
				for target := range t.Doc.Targets {
					if s.RightCell(target, item) {
						targets = append(targets, target)
					}
				}
			} else if !missing {
				targets = unmet[item]
			}
			for _, room := range []bool{true, false} {
				for _, target := range targets {
					if t.Parts.LetsIn(target, item) && s.CanStill(t.s.Now, item, target) && t.putRight(p, target, room) {
						return true
					}
				}
			}
		}
	}
	return false
}

// putRight puts the piece where it is right in the target, and holds it: only
// where there is room, or with a free piece sent home, a wrong one first.
func (t *moving) putRight(piece, target int, room bool) bool {
	now := t.s.Now.Clone()
	if now.Where[piece] != activity.Home {
		now.Home(piece)
	}
	if now.Room(target) != room {
		return false
	}
	j := t.judge()
	if !room {
		out := placing.Placed{Piece: -1}
		for _, p := range now.In[target] {
			wrong := !j.Seen().Right[p.Piece]
			if now.Held[p.Piece] {
				continue
			}
			if out.Piece < 0 || wrong && j.Seen().Right[out.Piece] {
				out = p
			}
		}
		if out.Piece < 0 {
			return false
		}
		now.Home(out.Piece)
		t.step(Step{Code: "ousted", Piece: t.Parts.Pieces[out.Piece].ID, Target: t.Doc.Targets[target].ID})
	}
	index := t.Judge.Solutions[j.Solution].IndexFor(now, t.Parts.Pieces[piece].Item, target)
	now.Insert(piece, target, index, t.m.N)
	now.Held[piece] = true
	t.piece, t.target = piece, target
	t.a.Target = t.Doc.Targets[target].ID
	t.moveTo(now, true)
	return true
}
