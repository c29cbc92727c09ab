package play

import (
	"reflect"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
)

// judgePlacement is for play where each placement is judged: a wrong one is
// counted and charged before its verdict is made.
func (t *moving) judgePlacement(r placing.Result) {
	refusal := r.Result == placing.EffectRefused
	if refusal && t.Doc.Play.Refusals != activity.RefusalsCount || r.Result == placing.EffectKept && !r.Changed {
		if !refusal {
			t.moved.Right = t.judge().Seen().Right[t.piece]
		}
		return
	}
	j := t.judge()
	t.moved.Right = !refusal && j.Seen().Right[t.piece]
	if !t.moved.Right {
		charge := t.Judge.Charge(j, t.piece, t.target)
		t.s.tries = t.s.tries.And(t.Parts.Pieces[t.piece].Item, t.target, charge)
		t.judged = nil
		t.step(Step{Code: "wrongPlacement", Piece: t.m.Piece, Target: t.a.Target, Charge: charge})
	}
	t.verdict()
}

// afterWrong is what a judged placement does to the board: a wrong piece may go
// home, a right one may be held; and a wrong one uses up an attempt.
func (t *moving) afterWrong() {
	if !t.each() || t.a.Verdict == nil {
		return
	}
	if t.moved.Right {
		if t.Doc.Play.RightPieces == activity.RightPiecesHold {
			t.hold(t.piece)
		}
		return
	}
	if t.goesHomeAgain() {
		t.s.Now = t.was.Now.Clone()
		t.s.Now.Home(t.piece)
		t.judged = nil
		t.step(Step{Code: "goesHome", Piece: t.m.Piece, Why: "wrong", Field: "/play/wrongPieces"})
	}
	if left, limited := t.Left(t.s); limited && left == 0 {
		t.ended = true
		t.step(Step{Code: "lastAttempt"})
	}
}

// goesHomeAgain reports whether the piece just placed was judged wrong and does not
// stay.
func (t *moving) goesHomeAgain() bool {
	return t.each() && t.a.Verdict != nil && !t.moved.Right && t.moved.Result != placing.EffectRefused && t.Doc.Play.WrongPieces == activity.WrongPiecesHome
}

func (t *moving) hold(piece int) {
	held := append([]bool{}, t.s.Now.Held...)
	held[piece] = true
	now := *t.s.Now
	now.Held = held
	t.s.Now, t.judged = &now, nil
	t.step(Step{Code: "heldInPlace", Piece: t.Parts.Pieces[piece].ID})
}

// verdict makes the arrangement's judgement the sitting's verdict.
func (t *moving) verdict() {
	j := t.judge()
	t.a.Verdict = t.Judge.Verdict(j)
	t.s.Verdict, t.s.Judged = t.a.Verdict, t.s.Attempt
	t.keep(t.s, j)
}

// endIfValid ends a sitting where each placement is judged when nothing is left to
// do, when attempts have run out, or when a reply ends it; what then stands has the
// last word. A wrong placement that does not end it has used up its attempt.
func (t *moving) endIfValid() {
	if t.judge().Seen().Valid {
		t.ended = true
	}
	if t.ended {
		told := t.a.Verdict
		t.verdict()
		if !reflect.DeepEqual(told, t.a.Verdict) {
			t.explainScore()
		}
		return
	}
	if t.a.Verdict != nil && t.moved != nil && !t.moved.Right {
		t.s.Attempt++
	}
}

// check is the learner's Check.
func (t *moving) check() {
	if !t.CanCheck(t.s) {
		t.reject(notAllowed, "notAllPlaced")
		return
	}
	t.a.Result = EffectChecked
	t.lastWord(activity.MomentChecked)
	t.settle()
}

// lastWord checks the board as it stands: at a check, and when the time is up.
func (t *moving) lastWord(moment activity.Moment) {
	if t.Doc.Play.Check == activity.CheckingNone {
		t.ended = true
	} else {
		t.verdict()
		t.s.before = nil
		left, limited := t.Left(t.s)
		t.ended = t.ended || t.a.Verdict.Valid || limited && left == 0 || t.each() || moment == activity.MomentTimeUp
		t.explainScore()
	}
	t.s.Phase = Paused
	if t.ended {
		t.s.Phase = Done
	}
	t.give(moment)
}

// settle ends the sitting if this move did.
func (t *moving) settle() {
	if !t.ended {
		return
	}
	t.s.Phase = Done
	t.step(Step{Code: "done"})
	t.give(activity.MomentDone)
}

func (t *moving) again() {
	if t.s.Phase != Paused {
		t.reject(notAllowed, "phase")
		return
	}
	t.a.Result = EffectAgain
	t.step(Step{Code: "again"})
	play := &t.Doc.Play
	right := map[string]bool{}
	for _, id := range t.s.Verdict.Right {
		right[id] = true
	}
	now := t.s.Now.Clone()
	for p, where := range t.s.Now.Where {
		id := t.Parts.Pieces[p].ID
		switch {
		case where < 0 || now.Held[p]:
		case right[id] && play.RightPieces == activity.RightPiecesHold:
			now.Held[p] = true
			t.step(Step{Code: "heldInPlace", Piece: id})
		case right[id] && play.RightPieces == activity.RightPiecesHome, !right[id] && play.WrongPieces == activity.WrongPiecesHome:
			now.Home(p)
			why, field := "wrong", "/play/wrongPieces"
			if right[id] {
				why, field = "right", "/play/rightPieces"
			}
			t.step(Step{Code: "goesHome", Piece: id, Why: why, Field: field})
		}
	}
	t.s.Now, t.s.before, t.s.Phase = now, nil, Placing
	t.s.Attempt++
}

func (t *moving) restart() {
	if !t.Doc.Play.Restart {
		t.reject(notAllowed, "restart")
		return
	}
	t.begin(t.s)
	t.a.Result = EffectRestarted
	t.step(Step{Code: "restarted"})
	t.give(activity.MomentOpened)
	t.settle()
}

func (t *moving) timeUp() {
	switch {
	case t.s.Limit == 0 || t.m.Time() < t.s.Limit:
		t.reject(notAllowed, "early")
		return
	case t.s.Phase == Done:
		t.reject(notAllowed, "phase")
		return
	}
	t.a.Result = EffectTimeUp
	t.step(Step{Code: "timeUp"})
	if t.s.Phase == Placing {
		t.lastWord(activity.MomentTimeUp)
	} else {
		t.ended = true
		t.s.Phase = Done
		t.give(activity.MomentTimeUp)
	}
	t.settle()
}
