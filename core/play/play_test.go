package play_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

func game(t testing.TB) *play.Game {
	t.Helper()
	body, err := os.ReadFile("../../demo/activities/parts-drawers.json")
	if err != nil {
		t.Fatal(err)
	}
	doc, faults := activity.Read(body)
	if faults != nil {
		t.Fatal(faults)
	}
	g, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	return g
}

func Example() {
	doc, _ := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"a","items":[{"id":"chain"}],
		"targets":[{"id":"box","frame":{"x":0,"y":0,"w":100,"h":100}}],"key":{"solutions":[{"right":{"box":{"all":true}}}]}}`))
	g, _ := play.New(doc)
	state := g.Open(1)
	for i, m := range []play.Move{{Do: "place", Piece: "chain", Target: "box"}, {Do: "check"}} {
		m.N = i + 1
		var a play.Answer
		state, a = g.Move(state, m)
		fmt.Println(a.Result, state.Phase)
	}
	fmt.Println(g.Final(state).Score)
	// Output:
	// placed placing
	// checked done
	// 10.00
}

func random(rnd *rand.Rand, g *play.Game, n int) play.Move {
	m := play.Move{N: n, T: int64(n), Piece: g.Parts.Pieces[rnd.IntN(len(g.Parts.Pieces))].ID}
	switch rnd.IntN(12) {
	case 0:
		m.Do = "lift"
	case 1, 2:
		m.Do, m.Piece = "undo", ""
	case 3:
		m.Do, m.Piece = []activity.Do{"check", "again", "reset", "hint", "restart", "timeUp"}[rnd.IntN(6)], ""
	case 4, 5:
		x, y := activity.U(rnd.IntN(120000)), activity.U(rnd.IntN(72000))
		m.Do, m.X, m.Y = "drop", &x, &y
	default:
		m.Do, m.Target = "place", g.Doc.Targets[rnd.IntN(len(g.Doc.Targets))].ID
	}
	return m
}

func text(t *testing.T, v any) string {
	t.Helper()
	b, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// shape writes down all that can be seen of a state.
func shape(t *testing.T, g *play.Game, s *play.State) string {
	t.Helper()
	return text(t, g.Line(s, s.N, play.Answer{})) + text(t, g.Standing(s, play.Answer{}, play.Plain{})) + text(t, g.Final(s))
}

// A move never touches the state it starts from; explained it does the same; a
// repeated move, the last or an earlier one, changes nothing.
func TestASittingIsAFold(t *testing.T) {
	rnd := rand.New(rand.NewPCG(7, 0))
	seen := map[placing.Effect]int{}
	for i := range 120 {
		g := game(t)
		p := &g.Doc.Play
		p.Check = []activity.Checking{"ask", "each", "full", "none"}[i%4]
		p.Restart, p.Attempts = true, rnd.IntN(4)
		p.WrongPieces = []activity.WrongPieces{"stay", "home"}[rnd.IntN(2)]
		p.RightPieces = []activity.RightPieces{"stay", "hold", "home"}[rnd.IntN(3)]
		p.Deal = []activity.Deal{"all", "one"}[rnd.IntN(2)]
		p.OffTarget = []activity.OffTarget{"home", "stay"}[rnd.IntN(2)]
		p.Refusals = []activity.Refusals{"free", "count"}[rnd.IntN(2)]
		if rnd.IntN(4) == 0 {
			p.TimeLimit = 60
		}
		g.Doc.Hints = []activity.Hint{{Place: true}, {Text: "Look at the chain."}, {Place: true}}
		state := g.Open(rnd.Uint64())
		var moves []play.Move
		for n := 1; n <= 80; n++ {
			m := random(rnd, g, n)
			before := shape(t, g, state)
			next, a := g.Move(state, m)
			seen[a.Result]++
			if shape(t, g, state) != before {
				t.Fatalf("%+v changed the state it started from", m)
			}
			if other, b, steps := g.Explain(state, m); shape(t, g, other) != shape(t, g, next) || b.Result != a.Result || len(steps) == 0 {
				t.Fatalf("%+v explained is %+v with %d steps, not %+v", m, b, len(steps), a)
			}
			moves = append(moves, m)
			for _, earlier := range []play.Move{m, moves[rnd.IntN(n)]} {
				if again, b := g.Move(next, earlier); b.Result != "repeated" || again != next {
					t.Fatalf("%+v repeated: %s", earlier, b.Result)
				}
			}
			state = next
		}
	}
	for _, r := range []placing.Effect{"placed", "kept", "lifted", "loose", "undone", "reset", "checked", "again", "rejected", "hinted", "restarted", "timeUp"} {
		if seen[r] == 0 {
			t.Errorf("no move came out as %s: the test tests too little", r)
		}
	}
}

// Undoing everything since the last check is the arrangement then.
func TestUndoGoesBackToTheLastCheckAndNoFurther(t *testing.T) {
	g := game(t)
	state := g.Open(1)
	n := 0
	do := func(m play.Move) string {
		n++
		m.N = n
		var a play.Answer
		state, a = g.Move(state, m)
		return string(a.Result)
	}
	do(play.Move{Do: "place", Piece: "chain", Target: "drivetrain"})
	do(play.Move{Do: "check"})
	do(play.Move{Do: "again"})
	held := text(t, state.Now.Names())
	do(play.Move{Do: "place", Piece: "rotor", Target: "seat"})
	do(play.Move{Do: "place", Piece: "rotor", Target: "brakes"})
	do(play.Move{Do: "reset"})
	for range 3 {
		if r := do(play.Move{Do: "undo"}); r != "undone" {
			t.Fatalf("undo: %s", r)
		}
	}
	if now := text(t, state.Now.Names()); now != held {
		t.Errorf("after undoing all: %s, want %s", now, held)
	}
	if r := do(play.Move{Do: "undo"}); r != "rejected" {
		t.Errorf("undo beyond the last check: %s", r)
	}
	if r := do(play.Move{Do: "lift", Piece: "chain"}); r != "rejected" {
		t.Errorf("lifting a held piece: %s", r)
	}
}

func TestTheSameSeedGivesTheSameOrder(t *testing.T) {
	g := game(t)
	a, b := g.Open(5).Order, g.Open(5).Order
	if !slices.Equal(a, b) {
		t.Error("one seed, two orders")
	}
	if slices.IsSorted(a) || slices.Equal(a, g.Open(6).Order) {
		t.Error("nothing was shuffled")
	}
	slices.Sort(a)
	for i, p := range a {
		if i != p {
			t.Fatal("shuffling lost a piece")
		}
	}
}

func BenchmarkMove(b *testing.B) {
	g := game(b)
	earlier := g.Open(1)
	for n := 1; n <= 100; n++ {
		earlier, _ = g.Move(earlier, play.Move{N: n, Do: "place", Piece: g.Parts.Pieces[n%24].ID, Target: g.Doc.Targets[n%5].ID})
	}
	b.Run("placing after 100 moves", func(b *testing.B) {
		for b.Loop() {
			g.Move(earlier, play.Move{N: 101, Do: "place", Piece: "chain", Target: g.Doc.Targets[0].ID})
		}
	})
	for _, n := range []int{1000, 10000, 100000} {
		b.Run(fmt.Sprintf("folding %d moves", n), func(b *testing.B) {
			for b.Loop() {
				state := g.Open(1)
				for i := 1; i <= n; i++ {
					state, _ = g.Move(state, play.Move{N: i, Do: "place", Piece: g.Parts.Pieces[i%24].ID, Target: g.Doc.Targets[i%5].ID})
				}
			}
			b.ReportMetric(float64(b.Elapsed().Nanoseconds())/float64(b.N)/float64(n), "ns/move")
		})
	}
}
