package proof_test

import (
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
)

// Two items, a point each, 10 points: one wrong is 5; right at the second attempt is
// what the share makes of 10.
func TestWorkedExamples(t *testing.T) {
	for _, c := range []struct{ name, fields, want string }{
		{"one attempt", ``, "right 10.00, oneWrong 5.00, second -, half 5.00, nothing 0.00"},
		{"a second at half the points", `play: {"attempts":2}` + "\n" + `marks: {"shares":[100,50]}`, "right 10.00, oneWrong 5.00, second 5.00, half 5.00, nothing 0.00"},
		{"the best counts", `play: {"attempts":2}` + "\n" + `marks: {"shares":[100,40],"keep":"best"}`, "right 10.00, oneWrong 5.00, second 5.00, half 5.00, nothing 0.00"},
		{"penalties below nothing", "items: [{\"id\":\"chain\",\"penalty\":3},{\"id\":\"pump\"}]\n" + `marks: {"negative":true}`, "right 10.00, oneWrong -10.00, second -, half 5.00, nothing 0.00"},
		{"the whole", `marks: {"by":"whole"}`, "right 10.00, oneWrong 0.00, second -, half 0.00, nothing 0.00"},
		{"each placement is judged", `play: {"check":"each","attempts":0,"wrongPieces":"home"}` + "\n" + `marks: {"shares":[100,50]}`,
			"right 10.00, oneWrong 5.00, second 7.50, half 5.00, nothing 0.00"},
		{"only when all is placed", `play: {"checkWhen":"allPlaced"}`, "right 10.00, oneWrong 5.00, second -, half -, nothing -"},
		{"each place holds one", "targets: [" + drawers + `,"holds":1,"whenFull":"oust"},{"id":"lower","holds":1,"whenFull":"oust","frame":{"x":310,"y":40,"w":260,"h":300}}]`,
			"right 10.00, oneWrong 0.00, second -, half 5.00, nothing 0.00"},
		{"a distractor takes a place", "targets: [" + drawers + `,"holds":1,"whenFull":"oust"},{"id":"lower","holds":1,"frame":{"x":310,"y":40,"w":260,"h":300}}]` + "\n" +
			`items: [{"id":"chain"},{"id":"pump"},{"id":"bell"}]`, "right 10.00, oneWrong 5.00, second -, half 5.00, nothing 0.00"},
		{"one lane", `items: [{"id":"chain"},{"id":"pump"},{"id":"bell"},{"id":"lamp"}]` + "\n" + "targets: [{\"id\":\"upper\",\"ordered\":true,\"frame\":{\"x\":20,\"y\":40,\"w\":260,\"h\":300}}]\n" +
			`key: {"solutions":[{"right":{"upper":{"all":true}},"orders":[{"target":"upper","tiers":[["chain"],["pump"],["bell"],["lamp"]]}]}]}` + "\n" + `marks: {"by":"order","shares":[100,50],"keep":"last"}` + "\n" + `play: {"attempts":2}`,
			"right 10.00, oneWrong 7.50, second 5.00, half 5.00, nothing 0.00"},
		{"nothing is checked", `play: {"check":"none"}`, "right -, oneWrong -, second -, half -, nothing -"},
		{"each has one way in", "targets: [" + drawers + `,"lets":{"items":["chain"]}},{"id":"lower","lets":{"items":["pump"]},"frame":{"x":310,"y":40,"w":260,"h":300}}]`,
			"right 10.00, oneWrong -, second -, half 5.00, nothing 0.00"},
	} {
		t.Run(c.name, func(t *testing.T) {
			game, err := play.New(base(t, c.fields))
			if err != nil {
				t.Fatal(err)
			}
			var got []string
			for _, w := range proof.Examples(game) {
				score := "-"
				if w.Impossible == "" {
					score = w.Final.Score
					if w.Score == nil {
						t.Errorf("%s: how it came about is not told", w.Code)
					}
				}
				got = append(got, w.Code+" "+score)
			}
			if got := strings.Join(got, ", "); got != c.want {
				t.Errorf("%s:\n got %s\nwant %s", c.name, got, c.want)
			}
		})
	}
}

func TestAKeptSittingIsAnExample(t *testing.T) {
	doc := proof.Keep(base(t, ``), "", 7, []play.Move{{N: 1, Do: "place", Piece: "pump", Target: "upper"}, {N: 2, Do: "place", Piece: "gone", Target: "upper"}, {N: 3, Do: "check"}})
	doc, faults := activity.Read(doc.Write())
	if faults != nil {
		t.Fatal(faults)
	}
	game, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	all := proof.Examples(game)
	if last := all[len(all)-1]; last.Name != "Rehearsal 1" || last.Final.Score != "0.00" || len(last.Moves) != 3 {
		t.Errorf("%+v", last)
	}
}

// Learners who know nothing are told that it is wrong, and guess; those who know
// everything are told that it is right.
func TestAClassTellsWhatItMet(t *testing.T) {
	game, err := play.New(base(t, `replies: [{"id":"well","moment":"checked","when":{"outcome":"right"}},{"id":"not","moment":"checked","also":true}]`))
	if err != nil {
		t.Fatal(err)
	}
	knowing := proof.Simulate(game, proof.Learners{Number: 50, Ability: 100, Seed: 1}, nil)
	if knowing.Replies["well"] != 50 || knowing.Replies["not"] != 0 || len(knowing.Guessed) != 0 {
		t.Errorf("who knows all: %+v", knowing)
	}
	guessing := proof.Simulate(game, proof.Learners{Number: 200, Ability: 0, Seed: 1}, nil)
	places := guessing.Guessed["chain"]
	if places["upper"]+places["lower"]+places[""] != 200 || places["upper"] < 70 || places["lower"] < 70 {
		t.Errorf("where guessers put the chain: %v", places)
	}
	if guessing.Replies["well"]+guessing.Replies["not"] != 200 || guessing.Replies["well"] > 80 {
		t.Errorf("what guessers are told: %v", guessing.Replies)
	}
}

func TestASittingPlaysItself(t *testing.T) {
	doc := base(t, `play: {"attempts":2,"deal":"one"}`)
	game, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	for how, want := range map[string]activity.Outcome{"right": "right", "oneWrong": "part", "wrong": "wrong", "random": ""} {
		moves, err := proof.SelfPlay(game, how, 3)
		if err != nil {
			t.Fatal(err)
		}
		state := game.Open(3)
		for _, m := range moves {
			var a play.Answer
			if state, a = game.Move(state, m); a.Result == "rejected" {
				t.Errorf("%s: %+v is rejected", how, m)
			}
		}
		if state.Verdict == nil || want != "" && state.Verdict.Outcome != want {
			t.Errorf("%s: %+v", how, state.Verdict)
		}
	}
	if _, err := proof.SelfPlay(game, "badly", 1); err == nil {
		t.Error("a way that is not there was played")
	}
}

// What is tried is no longer than it must be: one piece and the check.
func TestAReplyIsTriedInTheShortestWay(t *testing.T) {
	p := proof.New(t.Context(), base(t, `replies: [{"id":"swap","moment":"checked","when":{"item":"pump","in":"upper"}},{"id":"never","moment":"checked","when":{"all":[{"item":"pump","in":"upper"},{"outcome":"right"}]}},{"id":"late","moment":"checked","when":{"all":[{"item":"pump","in":"upper"},{"wrongCount":{"min":1}}]}}]`))
	moves, _ := p.Try("swap")
	if len(moves) != 2 || moves[0].Piece != "pump" || moves[1].Do != "check" {
		t.Errorf("%+v", moves)
	}
	if moves, shadowed := p.Try("late"); moves != nil || shadowed != "swap" {
		t.Errorf("%+v, shadowed by %q", moves, shadowed)
	}
	if moves, shadowed := p.Try("never"); moves != nil || shadowed != "" {
		t.Errorf("%+v, shadowed by %q", moves, shadowed)
	}
}

// What has nothing in it, or nothing right yet, has examples that a reader can go through.
func TestExamplesOfAnUnfinishedActivity(t *testing.T) {
	for name, items := range map[string]string{"empty": `[]`, "nothing correct": `[{"id":"pump"}]`} {
		t.Run(name, func(t *testing.T) {
			doc, err := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"new","items":` + items + `,
				"targets":[{"id":"one","frame":{"x":0,"y":0,"w":90,"h":90}}],"key":{"solutions":[{"right":{}}]}}`))
			if err != nil {
				t.Fatal(err)
			}
			game, impossible := play.New(doc)
			if impossible != nil {
				t.Fatal(impossible)
			}
			for _, e := range proof.Examples(game) {
				if e.Moves == nil {
					t.Errorf("%s has no list of moves", e.Name)
				}
			}
		})
	}
}
