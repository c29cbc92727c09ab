package play

import (
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/reply"
)

// turn is one move being done: the state before it, the one that comes of it, and
// the answer.
type turn struct {
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

func (t *turn) step(s Step) {
	if t.note != nil {
		t.note(s)
	}
}

// reject ends the move with nothing changed. why is for the trail.
func (t *turn) reject(reason, why string) {
	t.a.Result, t.a.Reason = "rejected", reason
	t.step(Step{Code: "rejected", Why: why, Piece: t.m.Piece, Target: t.m.Target})
}

func (t *turn) run() {
	play := &t.Doc.Play
	if t.m.T < t.s.T {
		t.reject(notAllowed, "early")
		return
	}
	t.s.T = t.m.T
	if !t.known() {
		return
	}
	if t.m.Do != "timeUp" && play.TimeLimit > 0 && t.m.T > int64(play.TimeLimit) {
		t.reject(notAllowed, "late")
		return
	}
	switch t.m.Do {
	case "restart":
		t.restart()
	case "again":
		t.again()
	case "timeUp":
		t.timeUp()
	case "place", "drop", "lift", "undo", "reset", "check", "hint":
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
func (t *turn) known() bool {
	if t.m.Do == "place" || t.m.Do == "drop" || t.m.Do == "lift" {
		p, ok := t.Parts.Piece(t.m.Piece)
		if !ok {
			t.reject("unknown-piece", "piece")
			return false
		}
		t.piece = p
	}
	if t.m.Do == "place" {
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
func (t *turn) placing() {
	could := t.Doc.Play.Check == "full" && t.couldPlace(t.was)
	switch t.m.Do {
	case "check":
		t.check()
		return
	case "undo":
		t.undo()
	case "reset":
		t.reset()
	case "hint":
		t.hint()
	default:
		t.movePiece()
	}
	if t.a.Result == "rejected" {
		return
	}
	t.deal()
	switch {
	case t.each():
		t.endIfValid()
	case could && t.putDown() && !t.couldPlace(t.s):
		t.step(Step{Code: "allPlaced"})
		t.lastWord("checked")
	}
	t.settle()
}

// putDown reports whether the move put a piece into a target.
func (t *turn) putDown() bool {
	return t.a.Result == "placed" || t.a.Result == "hinted" && t.piece >= 0
}

// movePiece does place, drop and lift.
func (t *turn) movePiece() {
	switch {
	case t.s.Now.Held[t.piece]:
		t.reject(notAllowed, "held")
		return
	case !t.s.HasAppeared(t.piece):
		t.reject(notAllowed, "notDealt")
		return
	case t.m.Do == "drop" && (t.m.X == nil || t.m.Y == nil):
		t.reject("no-place", "place")
		return
	}
	now := t.s.Now.Clone()
	var r placing.Result
	switch t.m.Do {
	case "place":
		r = now.Place(t.piece, t.target, t.m.Index, t.m.N)
	case "lift":
		r = now.Lift(t.piece)
	default:
		r, t.target = now.Drop(t.piece, *t.m.X, *t.m.Y, t.m.N)
	}
	if r.Result == "rejected" {
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
	if t.moved.Result != "refused" && !t.each() && (t.book.Any("placed") || t.note != nil) {
		t.moved.Right = t.judge().Seen().Right[t.piece]
	}
	t.explainJudged()
	if !t.goesHomeAgain() {
		t.deal() // before replies, which may ask what is left at home
	}
	t.give("placed")
	t.afterWrong()
}

// moveTo makes now the arrangement; what was can be undone to if it is another.
func (t *turn) moveTo(now *placing.Arrangement, changed bool) {
	if changed {
		t.s.before = &history{t.s.Now, t.s.before}
	}
	t.s.Now, t.judged = now, nil
}

// judge looks at the arrangement as it stands.
func (t *turn) judge() *marks.Judgement {
	if t.judged == nil {
		t.judged = t.Judge.Judge(t.s.Now, t.now(), nil)
	}
	return t.judged
}

func (t *turn) now() marks.Now {
	return marks.Now{Attempt: t.s.Attempt, Hints: t.s.Hints, Tries: t.s.tries}
}

// judgePlacement is for play where each placement is judged: a wrong one is
// counted and charged before its verdict is made.
func (t *turn) judgePlacement(r placing.Result) {
	refusal := r.Result == "refused"
	if refusal && t.Doc.Play.Refusals != "count" || r.Result == "kept" && !r.Changed {
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
func (t *turn) afterWrong() {
	if !t.each() || t.a.Verdict == nil {
		return
	}
	if t.moved.Right {
		if t.Doc.Play.RightPieces == "hold" {
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
func (t *turn) goesHomeAgain() bool {
	return t.each() && t.a.Verdict != nil && !t.moved.Right && t.moved.Result != "refused" && t.Doc.Play.WrongPieces == "home"
}

func (t *turn) hold(piece int) {
	held := append([]bool{}, t.s.Now.Held...)
	held[piece] = true
	now := *t.s.Now
	now.Held = held
	t.s.Now, t.judged = &now, nil
	t.step(Step{Code: "heldInPlace", Piece: t.Parts.Pieces[piece].ID})
}

// verdict makes the arrangement's judgement the sitting's verdict.
func (t *turn) verdict() {
	j := t.judge()
	t.a.Verdict = t.Judge.Verdict(j)
	t.s.Verdict, t.s.Judged = t.a.Verdict, t.s.Attempt
	t.keep(t.s, j)
}

// endIfValid ends a sitting where each placement is judged when nothing is left to
// do, when attempts have run out, or when a reply ends it; what then stands has the
// last word. A wrong placement that does not end it has used up its attempt.
func (t *turn) endIfValid() {
	if t.judge().Seen().Valid {
		t.ended = true
	}
	if t.ended {
		t.verdict()
		t.explainScore()
		return
	}
	if t.a.Verdict != nil && t.moved != nil && !t.moved.Right {
		t.s.Attempt++
	}
}

// deal lets the next piece appear when the last one is placed.
func (t *turn) deal() {
	if t.s.Dealt == 0 || t.s.Dealt >= len(t.s.Order) {
		return
	}
	if t.s.Now.Where[t.s.Order[t.s.Dealt-1]] >= 0 {
		next := t.s.Order[t.s.Dealt]
		t.s.Dealt++
		t.step(Step{Code: "dealt", Piece: t.Parts.Pieces[next].ID})
	}
}

func (t *turn) undo() {
	if !t.CanUndo(t.s) {
		t.reject(notAllowed, "nothingToUndo")
		return
	}
	back := t.s.before
	t.s.Now, t.s.before = back.now, back.before
	t.a.Result = "undone"
	t.step(Step{Code: "undone"})
}

func (t *turn) reset() {
	if !t.Doc.Play.Reset {
		t.reject(notAllowed, "reset")
		return
	}
	now := t.s.Now.Clone()
	t.moveTo(now, now.Reset())
	t.a.Result = "reset"
	t.step(Step{Code: "reset"})
}

// check is the learner's Check.
func (t *turn) check() {
	if !t.CanCheck(t.s) {
		t.reject(notAllowed, "notAllPlaced")
		return
	}
	t.a.Result = "checked"
	t.lastWord("checked")
	t.settle()
}

// lastWord checks the board as it stands: at a check, and when the time is up.
func (t *turn) lastWord(moment string) {
	if t.Doc.Play.Check == "none" {
		t.ended = true
	} else {
		t.verdict()
		t.s.before = nil
		left, limited := t.Left(t.s)
		t.ended = t.ended || t.a.Verdict.Valid || limited && left == 0 || t.each() || moment == "timeUp"
		t.explainScore()
	}
	t.s.Phase = Paused
	if t.ended {
		t.s.Phase = Done
	}
	t.give(moment)
}

// settle ends the sitting if this move did.
func (t *turn) settle() {
	if !t.ended {
		return
	}
	t.s.Phase = Done
	t.step(Step{Code: "done"})
	t.give("done")
}

func (t *turn) again() {
	if t.s.Phase != Paused {
		t.reject(notAllowed, "phase")
		return
	}
	t.a.Result = "again"
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
		case right[id] && play.RightPieces == "hold":
			now.Held[p] = true
			t.step(Step{Code: "heldInPlace", Piece: id})
		case right[id] && play.RightPieces == "home", !right[id] && play.WrongPieces == "home":
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

func (t *turn) restart() {
	if !t.Doc.Play.Restart {
		t.reject(notAllowed, "restart")
		return
	}
	t.begin(t.s)
	t.a.Result = "restarted"
	t.step(Step{Code: "restarted"})
	t.give("opened")
	t.settle()
}

func (t *turn) timeUp() {
	switch {
	case t.Doc.Play.TimeLimit == 0 || t.m.T < int64(t.Doc.Play.TimeLimit):
		t.reject(notAllowed, "early")
		return
	case t.s.Phase == Done:
		t.reject(notAllowed, "phase")
		return
	}
	t.a.Result = "timeUp"
	t.step(Step{Code: "timeUp"})
	if t.s.Phase == Placing {
		t.lastWord("timeUp")
	} else {
		t.ended = true
		t.s.Phase = Done
		t.give("timeUp")
	}
	t.settle()
}

// give lets replies of a moment be given.
func (t *turn) give(moment string) {
	if !t.book.Any(moment) {
		return
	}
	s := reply.Situation{
		Moment: moment, Arrangement: t.s.Now, Judgement: t.judge(), Dealt: t.s.HasAppeared,
		Attempt: t.s.Attempt, Left: reply.Unlimited,
	}
	if moment == "placed" {
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
		t.a.Replies = append(t.a.Replies, Given{r.ID, i, t.book.Fill(r.Say.Text, s)})
		if r.Finish && t.s.Phase != Done {
			t.ended = true
			t.step(Step{Code: "finished", Why: r.ID})
		}
	}
}
