package play

import (
	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/reply"
)

// moving is one move being done: the state before it, the one that comes of it, and
// the answer.
type moving struct {
	*Game
	was  *State
	s    *State
	m    Move
	a    Answer
	note func(Step) // nil: nobody asks why

	piece, target int              // of the move, or −1
	moved         *reply.Placement // a placement, as the moment placed sees it
	judged        *marks.Judgement // of s.Now as it stands, where it is known
	ended         bool             // the sitting ends with this move
}

func (t *moving) step(s Step) {
	if t.note != nil {
		t.note(s)
	}
}

// reject ends the move with nothing changed. why is for the trail.
func (t *moving) reject(reason, why string) {
	t.a.Result, t.a.Reason = placing.EffectRejected, reason
	t.step(Step{Code: "rejected", Why: why, Piece: t.m.Piece, Target: t.m.Target})
}

func (t *moving) run() {
	at := t.m.Time()
	if at < t.s.T {
		t.reject(notAllowed, "early")
		return
	}
	t.s.T = at
	if !t.known() {
		return
	}
	if t.m.Do != activity.DoTimeUp && t.s.Limit > 0 && at > t.s.Limit {
		if t.m.T <= t.s.Limit { // made in time, and received when that counts no more
			t.reject("too-late", "tooLate")
			return
		}
		t.reject(notAllowed, "late")
		return
	}
	switch t.m.Do {
	case activity.DoRestart:
		t.restart()
	case activity.DoAgain:
		t.again()
	case activity.DoTimeUp:
		t.timeUp()
	case activity.DoPlace, activity.DoDrop, activity.DoLift, activity.DoUndo, activity.DoReset, activity.DoCheck, activity.DoHint:
		if t.s.Phase != Placing {
			t.reject(notAllowed, "phase")
			return
		}
		t.placing()
	default:
		t.reject("unknown-move", "move")
	}
}

const notAllowed = "not-allowed"

// known finds the piece and the target that a move names, before anything else is
// asked, so that the reason is the same in every phase.
func (t *moving) known() bool {
	if t.m.Do == activity.DoPlace || t.m.Do == activity.DoDrop || t.m.Do == activity.DoLift {
		p, ok := t.Parts.Piece(t.m.Piece)
		if !ok {
			t.reject("unknown-piece", "piece")
			return false
		}
		t.piece = p
	}
	if t.m.Do == activity.DoPlace {
		target, ok := t.Parts.Target(t.m.Target)
		if !ok {
			t.reject("unknown-target", "target")
			return false
		}
		t.target = target
	}
	return true
}

// placing does the moves of the phase placing, and what follows from them: a
// placement is judged where each is, a full board is checked, a sitting where
// nothing is left to do ends.
func (t *moving) placing() {
	could := t.Doc.Play.Check == activity.CheckingFull && t.couldPlace(t.was)
	switch t.m.Do {
	case activity.DoCheck:
		t.check()
		return
	case activity.DoUndo:
		t.undo()
	case activity.DoReset:
		t.reset()
	case activity.DoHint:
		t.hint()
	default:
		t.movePiece()
	}
	if t.a.Result == placing.EffectRejected {
		return
	}
	t.deal()
	switch {
	case t.each():
		t.endIfValid()
	case could && t.putDown() && !t.couldPlace(t.s):
		t.step(Step{Code: "allPlaced"})
		t.lastWord(activity.MomentChecked)
	}
	t.settle()
}

// putDown reports whether the move put a piece into a target.
func (t *moving) putDown() bool {
	return t.a.Result == placing.EffectPlaced || t.a.Result == EffectHinted && t.piece >= 0
}

// movePiece does place, drop and lift.
func (t *moving) movePiece() {
	switch {
	case t.s.Now.Held[t.piece]:
		t.reject(notAllowed, "held")
		return
	case !t.s.HasAppeared(t.piece):
		t.reject(notAllowed, "notDealt")
		return
	case t.m.Do == activity.DoDrop && (t.m.X == nil || t.m.Y == nil):
		t.reject("no-place", "place")
		return
	}
	now := t.s.Now.Clone()
	var r placing.Result
	switch t.m.Do {
	case activity.DoPlace:
		r = now.Place(t.piece, t.target, t.m.Index, t.m.N)
	case activity.DoLift:
		r = now.Lift(t.piece)
	default:
		r, t.target = now.Drop(t.piece, *t.m.X, *t.m.Y, t.m.N)
	}
	if r.Result == placing.EffectRejected {
		t.reject(r.Reason, "home")
		return
	}
	t.a.Result, t.a.Reason = r.Result, r.Reason
	if t.target >= 0 {
		t.a.Target = t.Doc.Targets[t.target].ID
	}
	t.moveTo(now, r.Changed)
	t.explainMove(r)
	if t.target < 0 {
		return
	}
	t.moved = &reply.Placement{Piece: t.piece, Target: t.target, Result: r.Result}
	if t.each() {
		t.judgePlacement(r)
	}
	if t.moved.Result != placing.EffectRefused && !t.each() && (t.book.Any(activity.MomentPlaced) || t.note != nil) {
		t.moved.Right = t.judge().Seen().Right[t.piece]
	}
	t.explainJudged()
	if !t.goesHomeAgain() {
		t.deal() // before replies, which may ask what is left at home
	}
	t.give(activity.MomentPlaced)
	t.afterWrong()
}

// moveTo makes now the arrangement; what was can be undone to if it is another.
func (t *moving) moveTo(now *placing.Arrangement, changed bool) {
	if changed {
		t.s.before = &history{t.s.Now, t.s.before}
	}
	t.s.Now, t.judged = now, nil
}

// judge looks at the arrangement as it stands.
func (t *moving) judge() *marks.Judgement {
	if t.judged == nil {
		t.judged = t.Judge.Judge(t.s.Now, t.now(), nil)
	}
	return t.judged
}

func (t *moving) now() marks.Now {
	return marks.Now{Attempt: t.s.Attempt, Hints: t.s.Hints, Tries: t.s.tries}
}

// deal lets the next piece appear when the last one is placed.
func (t *moving) deal() {
	if t.s.Dealt == 0 || t.s.Dealt >= len(t.s.Order) {
		return
	}
	if t.s.Now.Where[t.s.Order[t.s.Dealt-1]] >= 0 {
		next := t.s.Order[t.s.Dealt]
		t.s.Dealt++
		t.step(Step{Code: "dealt", Piece: t.Parts.Pieces[next].ID})
	}
}

func (t *moving) undo() {
	if !t.CanUndo(t.s) {
		t.reject(notAllowed, "nothingToUndo")
		return
	}
	back := t.s.before
	t.s.Now, t.s.before = back.now, back.before
	t.a.Result = EffectUndone
	t.step(Step{Code: "undone"})
}

func (t *moving) reset() {
	if !t.Doc.Play.Reset {
		t.reject(notAllowed, "reset")
		return
	}
	now := t.s.Now.Clone()
	t.moveTo(now, now.Reset())
	t.a.Result = EffectReset
	t.step(Step{Code: "reset"})
}

// give lets replies of a moment be given.
func (t *moving) give(moment activity.Moment) {
	if !t.book.Any(moment) {
		return
	}
	s := reply.Situation{
		Moment: moment, Arrangement: t.s.Now, Judgement: t.judge(), Dealt: t.s.HasAppeared,
		Attempt: t.s.Attempt, Left: reply.Unlimited,
	}
	if moment == activity.MomentPlaced {
		s.Placement = t.moved
	}
	if left, limited := t.Left(t.s); limited {
		s.Left = left
	}
	var why func(reply.Tried)
	if t.note != nil {
		why = func(tried reply.Tried) { t.note(Step{Code: "reply", Moment: moment, Reply: &tried}) }
	}
	for _, i := range t.book.Given(s, why) {
		r := &t.Doc.Replies[i]
		values := t.book.Values(r.Say.Text, s)
		given := Given{ID: r.ID, Number: i, Text: reply.Filled(r.Say.Text, values), values: values, N: t.s.N, At: len(t.a.Replies), Points: t.points(r)}
		if s.Placement != nil {
			given.Piece, given.Target = t.Parts.Pieces[s.Placement.Piece].ID, t.Doc.Targets[s.Placement.Target].ID
		}
		t.a.Replies = append(t.a.Replies, given)
		if r.Finish && t.s.Phase != Done {
			t.ended = true
			t.step(Step{Code: "finished", Why: r.ID})
		}
	}
}
