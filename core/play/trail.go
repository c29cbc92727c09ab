package play

import (
	"strconv"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/reply"
)

// Step is one structured step of the trail: what happened in a move, or which
// field of the document decided it. The interface shows steps as sentences.
type Step struct {
	// Code says what happened:
	//
	//	rejected         Why: early, late, tooLate, phase, held, notDealt, home, nothingToUndo, reset,
	//	                 restart, notAllPlaced, noHints, nothingToPlace, piece, target, place, move
	//	hit, beside      a drop found the target by the hit rule, or none
	//	letIn, turnedAway, full   by Field: lets, or holds and whenFull
	//	already, movedInLane      it was in the target; Index is its place now
	//	ousted, traded   the piece made room, and went home or into Target
	//	home, loose      where a piece went that hit nothing, or was lifted
	//	rightHere, wrongHere      Why: noCell, surplus, order
	//	becameRight, becameWrong  other Pieces that changed with it, under Solution
	//	count            the verdict so far, which counts for nothing; Lacking pieces are to come
	//	wrongPlacement   counted, at a Charge
	//	goesHome         Why: wrong, right
	//	heldInPlace, dealt
	//	lastAttempt, allPlaced, timeUp, done, again, undone, reset, restarted
	//	hinted           Text, and what hints cost so far as Share
	//	score            Verdict, Lacking, how it was put together (Entries), Share, Hints
	//	reply            one that was looked at, and why it was given or not
	//	finished         by the reply named in Why
	Code     string          `json:"code"`
	Why      string          `json:"why,omitempty"`
	Piece    string          `json:"piece,omitempty"`
	Item     string          `json:"item,omitempty"`
	Target   string          `json:"target,omitempty"`
	Field    string          `json:"field,omitempty" doc:"JSON pointer into the document"`
	Pieces   []string        `json:"pieces,omitempty"`
	Index    *int            `json:"index,omitempty"`
	Solution *int            `json:"solution,omitempty"`
	Holds    int             `json:"holds,omitempty"`
	Charge   int             `json:"charge,omitempty"`
	Lacking  int             `json:"lacking,omitempty" doc:"Pieces that are still to come for everything to be right"`
	Verdict  *marks.Verdict  `json:"verdict,omitempty"`
	Entries  []marks.Entry   `json:"entries,omitempty"`
	Share    int             `json:"share,omitempty"`
	Hints    int             `json:"hints,omitempty"`
	Text     string          `json:"text,omitempty"`
	Moment   activity.Moment `json:"moment,omitempty"`
	Reply    *reply.Tried    `json:"reply,omitempty"`
}

// Explain does a move as [Game.Move] does, and tells why it came out so.
func (g *Game) Explain(before *State, m Move) (*State, Answer, []Step) {
	steps := []Step{}
	after, a := g.move(before, m, func(s Step) {
		if p, ok := g.Parts.Piece(s.Piece); ok {
			s.Item = g.Parts.ItemOf(p).ID
		}
		steps = append(steps, s)
	})
	return after, a, steps
}

// targetField is where a field of the move's target stands in the document.
func (t *moving) targetField(name string) string {
	return "/targets/" + strconv.Itoa(t.target) + "/" + name
}

// explainMove tells what a place, drop or lift met.
func (t *moving) explainMove(r placing.Result) {
	if t.note == nil {
		return
	}
	s := Step{Piece: t.m.Piece, Target: t.a.Target}
	say := func(code string) {
		s.Code = code
		t.note(s)
	}
	if t.m.Do == activity.DoDrop {
		if t.target >= 0 {
			s.Field, s.Why = "/play/hit", t.Doc.Play.Hit.Rule
			say("hit")
		} else {
			say("beside")
		}
		s.Why, s.Field = "", ""
	}
	switch r.Result {
	case placing.EffectRefused:
		if r.Reason == "closed" {
			s.Field = t.targetField("lets")
			say("turnedAway")
			return
		}
		s.Field, s.Holds = t.targetField("holds"), t.Doc.Targets[t.target].Holds
		say("full")
	case placing.EffectKept:
		if r.Changed {
			index := t.s.Now.Index(t.piece)
			s.Index = &index
			say("movedInLane")
		} else {
			say("already")
		}
	case placing.EffectLifted:
		say("home")
	case placing.EffectLoose:
		say("loose")
	case placing.EffectPlaced:
		s.Field = t.targetField("lets")
		say("letIn")
		t.explainPlaced()
		if r.Out < 0 {
			return
		}
		out := Step{Code: "ousted", Piece: t.Parts.Pieces[r.Out].ID, Target: t.a.Target, Field: t.targetField("whenFull")}
		if to := t.s.Now.Where[r.Out]; to >= 0 {
			out.Code, out.Target = "traded", t.Doc.Targets[to].ID
		}
		t.note(out)
	}
}

// explainPlaced tells at which place of a lane a piece was put.
func (t *moving) explainPlaced() {
	if t.note == nil || !t.Doc.Targets[t.target].Ordered {
		return
	}
	index := t.s.Now.Index(t.piece)
	t.note(Step{Code: "movedInLane", Piece: t.Parts.Pieces[t.piece].ID, Target: t.a.Target, Index: &index})
}

// explainJudged tells what a placement is worth as the board stands: the piece
// itself, others that became right or wrong with it, and the count.
func (t *moving) explainJudged() {
	if t.note == nil || t.moved.Result == placing.EffectRefused {
		return
	}
	j := t.judge()
	solution := j.Solution
	s := Step{Code: "rightHere", Piece: t.m.Piece, Target: t.a.Target, Solution: &solution}
	if !j.Seen().Right[t.piece] {
		s.Code, s.Why = "wrongHere", "noCell"
		if sol := t.Judge.Solutions[solution]; sol.RightCell(t.target, t.Parts.Pieces[t.piece].Item) {
			s.Why = "surplus"
			if sol.Lane(t.target) != nil {
				s.Why = "order"
			}
		}
	}
	t.note(s)
	before := t.Judge.Judge(t.was.Now, t.now(), nil)
	changed := func(code string, now bool) {
		pieces := t.names(func(p int) bool {
			return p != t.piece && t.s.Now.Where[p] >= 0 && t.was.Now.Where[p] >= 0 &&
				j.Seen().Right[p] == now && before.Seen().Right[p] != now
		})
		if len(pieces) > 0 {
			t.note(Step{Code: code, Pieces: pieces, Solution: &solution})
		}
	}
	changed("becameRight", true)
	changed("becameWrong", false)
	if t.a.Verdict != nil {
		t.explainScore()
		return
	}
	t.note(Step{Code: "count", Verdict: t.Judge.Verdict(j), Lacking: j.Seen().Lacking})
}

// explainScore tells how the last verdict's score was put together.
func (t *moving) explainScore() {
	if t.note == nil {
		return
	}
	share := 0 // each entry has its own
	if t.s.tries == nil {
		share = t.Judge.Share(t.s.Judged)
	}
	t.note(Step{Code: "score", Verdict: t.a.Verdict, Lacking: t.judge().Seen().Lacking, Entries: t.Judge.Account(t.judge(), t.now()), Share: share, Hints: t.s.Hints})
}
