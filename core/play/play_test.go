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
	body, err := os.ReadFile("../../demo/parts-drawers.json")
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
	pieces := placing.Pieces(g.Doc)
	m := play.Move{N: n, T: int64(n), Piece: pieces[rnd.IntN(len(pieces))]}
	switch rnd.IntN(12) {
	case 0:
		m.Do = "lift"
	case 1, 2:
		m.Do, m.Piece = "undo", ""
	case 3:
		m.Do, m.Piece = []string{"check", "again", "reset"}[rnd.IntN(3)], ""
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

// A move never touches the state it starts from; a state that was written and
// read goes on alike; a repeated move changes nothing.
func TestASittingIsAFold(t *testing.T) {
	g := game(t)
	rnd := rand.New(rand.NewPCG(7, 0))
	seen := map[string]int{}
	for range 60 {
		state := g.Open(rnd.Uint64())
		for n := 1; n <= 80; n++ {
			m := random(rnd, g, n)
			before := text(t, state)
			next, a := g.Move(state, m)
			seen[a.Result]++
			if text(t, state) != before {
				t.Fatalf("%+v changed the state it started from", m)
			}
			var read play.State
			if err := json.Unmarshal([]byte(before), &read); err != nil {
				t.Fatal(err)
			}
			if other, b := g.Move(&read, m); text(t, other) != text(t, next) || b.Result != a.Result {
				t.Fatalf("%+v goes on otherwise from the state as it was kept:\n%s\n%s", m, text(t, other), text(t, next))
			}
			if again, b := g.Move(next, m); b.Result != "repeated" || text(t, again) != text(t, next) {
				t.Fatalf("%+v repeated: %s", m, b.Result)
			}
			state = next
		}
	}
	for _, r := range []string{"placed", "kept", "lifted", "undone", "reset", "checked", "again", "rejected"} {
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
		return a.Result
	}
	do(play.Move{Do: "place", Piece: "chain", Target: "drivetrain"})
	do(play.Move{Do: "check"})
	do(play.Move{Do: "again"})
	held := text(t, state.Now)
	do(play.Move{Do: "place", Piece: "rotor", Target: "seat"})
	do(play.Move{Do: "place", Piece: "rotor", Target: "brakes"})
	do(play.Move{Do: "reset"})
	for range 3 {
		if r := do(play.Move{Do: "undo"}); r != "undone" {
			t.Fatalf("undo: %s", r)
		}
	}
	if text(t, state.Now) != held {
		t.Errorf("after undoing all: %s, want %s", text(t, state.Now), held)
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
	pieces := placing.Pieces(g.Doc)
	a, b := g.Order(5), g.Order(5)
	if !slices.Equal(a, b) {
		t.Error("one seed, two orders")
	}
	if slices.Equal(a, pieces) || slices.Equal(a, g.Order(6)) {
		t.Error("nothing was shuffled")
	}
	slices.Sort(a)
	slices.Sort(pieces)
	if !slices.Equal(a, pieces) {
		t.Error("shuffling lost a piece")
	}
}

// The trail says what decided each move, in order.
func TestTheTrailNamesTheRule(t *testing.T) {
	g := game(t)
	g.Doc.Targets[4].Holds = 1 // seat
	g.Doc.Targets[3].Holds, g.Doc.Targets[3].WhenFull = 1, "oust"
	g.Doc.Targets[1].Lets = activity.Selector{Tags: []string{"brakes"}}
	state := g.Open(1)
	x, y := activity.U(100000), activity.U(50000)
	for i, c := range []struct {
		m    play.Move
		want []string
	}{
		{play.Move{Do: "drop", Piece: "saddle", X: &x, Y: &y}, []string{"hit", "letIn", "rightHere", "rightCount"}},
		{play.Move{Do: "place", Piece: "seat-post", Target: "seat"}, []string{"full"}},
		{play.Move{Do: "place", Piece: "stem", Target: "steering"}, []string{"letIn", "rightHere", "rightCount"}},
		{play.Move{Do: "place", Piece: "fork", Target: "steering"}, []string{"letIn", "ousted", "rightHere", "rightCount"}},
		{play.Move{Do: "place", Piece: "bell", Target: "brakes"}, []string{"turnedAway"}},
		{play.Move{Do: "place", Piece: "bell", Target: "wheels"}, []string{"letIn", "wrongHere", "rightCount"}},
		{play.Move{Do: "place", Piece: "bell", Target: "wheels"}, []string{"already"}},
		{play.Move{Do: "check"}, []string{"score"}},
		{play.Move{Do: "again"}, []string{"goesHome", "heldInPlace", "heldInPlace"}},
	} {
		c.m.N = i + 1
		before := state
		var a play.Answer
		state, a = g.Move(before, c.m)
		var codes []string
		for _, s := range g.Trail(before, state, c.m, a) {
			codes = append(codes, s.Code)
		}
		if !slices.Equal(codes, c.want) {
			t.Errorf("%+v: the trail says %v, want %v", c.m, codes, c.want)
		}
	}
}

func BenchmarkMove(b *testing.B) {
	g := game(b)
	state := g.Open(1)
	n := 0
	for b.Loop() {
		n++
		state, _ = g.Move(state, play.Move{N: n, Do: "place", Piece: "chain", Target: g.Doc.Targets[n%5].ID})
		if n%50 == 0 {
			state, n = g.Open(1), 0
		}
	}
}
