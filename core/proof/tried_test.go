package proof_test

import (
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/core/reply"
)

// demos reads the demo's activities.
func demos(t *testing.T) map[string]*activity.Doc {
	t.Helper()
	paths, err := filepath.Glob("../../demo/activities/*.json")
	if err != nil || len(paths) < 5 {
		t.Fatal(paths, err)
	}
	out := map[string]*activity.Doc{}
	for _, path := range paths {
		body, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		doc, faults := activity.Read(body)
		if faults != nil {
			t.Fatal(path, faults)
		}
		out[doc.ID] = doc
	}
	return out
}

// given reports whether a reply comes with the last of some moves, each of which is
// let through.
func given(game *play.Game, id string, moves []play.Move) bool {
	state := game.Open(1)
	replies := state.Opening
	for i, m := range moves {
		m.N = i + 1
		var a play.Answer
		if state, a = game.Move(state, m); a.Result == "rejected" {
			return false
		}
		replies = a.Replies
	}
	replies = append(slices.Clone(replies), game.Review(state)...)
	return slices.ContainsFunc(replies, func(g play.Given) bool { return g.ID == id })
}

// Every reply of the demo can be tried, and no move of what is tried could be left out.
func TestEveryReplyOfTheDemoCanBeTried(t *testing.T) {
	for id, doc := range demos(t) {
		game, err := play.New(doc)
		if err != nil {
			t.Fatal(err)
		}
		p := proof.New(t.Context(), doc)
		for _, r := range doc.Replies {
			moves, shadowed := p.Try(r.ID)
			if moves == nil || !given(game, r.ID, moves) {
				t.Errorf("%s: %s is not given (%q stands before it)", id, r.ID, shadowed)
				continue
			}
			for k := range len(moves) - 1 {
				if given(game, r.ID, slices.Delete(slices.Clone(moves), k, k+1)) {
					t.Errorf("%s: %s needs no move %d of %d", id, r.ID, k+1, len(moves))
					break
				}
			}
		}
	}
}

// Whatever stands on the board, what is said of it is so, has words, and can be the
// condition of a reply.
func TestFactsAreSoWhateverStands(t *testing.T) {
	rnd := rand.New(rand.NewPCG(1, 2))
	for id, doc := range demos(t) {
		game, err := play.New(doc)
		if err != nil {
			t.Fatal(err)
		}
		for range 40 {
			a := placing.New(game.Parts)
			var last *reply.Placement
			for p := range game.Parts.Pieces {
				target := rnd.IntN(len(doc.Targets)+1) - 1
				if target >= 0 && a.Room(target) {
					a.Put(p, target, p+1)
					last = &reply.Placement{Piece: p, Target: target, Result: "placed"}
				}
			}
			judged := game.Judge.Judge(a, marks.Now{Attempt: 1}, nil)
			facts := game.Facts(a, "checked", 1, nil)
			if last != nil && rnd.IntN(2) == 0 {
				facts = game.Facts(a, "placed", 1, last)
			}
			telling := 0
			made := doc.Clone()
			made.Replies = nil
			for i, f := range facts {
				if f.Said.Message == "" {
					t.Errorf("%s: a fact without words: %+v", id, f.When)
				}
				if f.Telling {
					telling++
				}
				ofPlacement := f.When.Piece != nil || f.When.Onto != nil || f.When.Result != ""
				if !ofPlacement && f.When.Attempt == nil && f.When.Left == nil && !game.Holds(&f.When, a, judged) {
					t.Errorf("%s: it is not so that %s", id, f.Said)
				}
				r := activity.NewReply(activity.FreshID(map[string]bool{}, "fact")+string(rune('a'+i%26))+string(rune('a'+i/26)), "checked")
				r.When = &f.When
				made.Replies = append(made.Replies, r)
			}
			if telling == 0 {
				t.Errorf("%s: nothing stands out", id)
			}
			if _, faults := activity.Read(made.Write()); faults != nil {
				t.Fatalf("%s: %v", id, faults)
			}
		}
	}
}

// A sitting that plays itself does so on every activity of the demo, in each way that
// there is, and its moves are let through.
func TestTheDemoPlaysItself(t *testing.T) {
	for id, doc := range demos(t) {
		game, err := play.New(doc)
		if err != nil {
			t.Fatal(err)
		}
		for _, how := range []string{"right", "oneWrong", "wrong", "random"} {
			moves, err := proof.SelfPlay(game, how, 4)
			if err != nil {
				t.Errorf("%s, %s: %v", id, how, err)
				continue
			}
			state := game.Open(4)
			wrong := 0
			for _, m := range moves {
				var a play.Answer
				if state, a = game.Move(state, m); a.Result == "rejected" {
					t.Errorf("%s, %s: %+v is rejected", id, how, m)
				}
				if a.Verdict != nil {
					wrong = max(wrong, len(a.Verdict.Wrong))
				}
			}
			switch {
			case state.Verdict == nil:
				t.Errorf("%s, %s: nothing was judged in %d moves", id, how, len(moves))
			case how == "right" && state.Verdict.Outcome != "right", how == "oneWrong" && wrong != 1, how == "wrong" && wrong == 0:
				t.Errorf("%s, %s: %s with %d wrong", id, how, state.Verdict.Outcome, wrong)
			}
		}
		for _, w := range proof.Examples(game) {
			if w.Impossible == "" && (w.Final == nil || w.Final.Outcome == "" || w.Score == nil) {
				t.Errorf("%s: %s has no score", id, w.Name)
			}
		}
	}
}
