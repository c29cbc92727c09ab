package play_test

import (
	"encoding/base64"
	"encoding/binary"
	"errors"
	"fmt"
	"hash/crc32"
	"math/rand/v2"
	"reflect"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
)

// anything makes a small document with rules of every sort.
func anything(rnd *rand.Rand) (*play.Game, error) {
	of := func(list ...string) string { return list[rnd.IntN(len(list))] }
	yes := func() bool { return rnd.IntN(2) == 0 }
	var items, targets, right []string
	n, m := 2+rnd.IntN(5), 1+rnd.IntN(4)
	for i := range n {
		home := ""
		if rnd.IntN(4) == 0 {
			home = fmt.Sprintf(`,"home":{"x":%d,"y":%d}`, rnd.IntN(800), 500)
		}
		items = append(items, fmt.Sprintf(`{"id":"i%d","text":"Item %d","copies":%d,"weight":%d,"penalty":%d%s}`, i, i, 1+rnd.IntN(2), rnd.IntN(4), rnd.IntN(3), home))
	}
	for j := range m {
		holds := ""
		if yes() {
			holds = fmt.Sprintf(`,"holds":%d`, 1+rnd.IntN(3))
		}
		targets = append(targets, fmt.Sprintf(`{"id":"t%d","name":"Target %d","frame":{"x":%d,"y":20,"w":180,"h":300},"ordered":%t,"whenFull":%q%s}`, j, j, 20+j*200, rnd.IntN(4) == 0, of("refuse", "oust", "trade"), holds))
		var list []string
		for i := range n {
			if rnd.IntN(m+1) == 0 {
				list = append(list, fmt.Sprintf(`"i%d"`, i))
			}
		}
		right = append(right, fmt.Sprintf(`"t%d":{"items":[%s]}`, j, strings.Join(list, ",")))
	}
	solutions := `{"right":{` + strings.Join(right, ",") + `}}`
	if rnd.IntN(3) == 0 {
		solutions += `,{"credit":70,"right":{"t0":{"all":true}}}`
	}
	var replies []string
	for k := range rnd.IntN(7) {
		moment := of("opened", "placed", "checked", "hinted", "timeUp", "done", "review")
		when := ""
		if rnd.IntN(3) == 0 {
			when = fmt.Sprintf(`,"when":{"outcome":%q}`, of("right", "part", "wrong"))
		} else if moment == "placed" && yes() {
			when = fmt.Sprintf(`,"when":{"result":%q}`, of("right", "wrong", "refused"))
		}
		spot := of("edge", "piece", "target", "card", "board")
		replies = append(replies, fmt.Sprintf(`{"id":"r%d","moment":%q,"also":%t,"say":{"text":%q},"spot":%q,"until":%q,"reopen":%t,"point":[%s],"showKey":%t,"finish":%t%s}`,
			k, moment, yes(), of("Well.", "{right} of {total}, {left} left: {score}", "{item} in {target} at {attempt}"), spot, of("move", "check", "closed", "stays"), yes(),
			of("", `"right","wrong"`, `"missing","i0","t0"`), rnd.IntN(4) == 0, rnd.IntN(12) == 0, when))
	}
	limit := 0
	if rnd.IntN(4) == 0 {
		limit = 20 + rnd.IntN(30)
	}
	body := fmt.Sprintf(`{"format":"keen-magpie/activity","version":1,"id":"a","items":[%s],"targets":[%s],"key":{"solutions":[%s]},"replies":[%s],
		"hints":[{"place":true},{"text":"Look."},{"place":true}],
		"play":{"check":%q,"checkWhen":%q,"attempts":%d,"show":%q,"wrongPieces":%q,"rightPieces":%q,"refusals":%q,"undo":%t,"reset":true,"restart":%t,"deal":%q,"shuffle":%t,"review":"both","timeLimit":%d,"offTarget":%q},
		"marks":{"by":%q,"keep":%q,"hintCost":%d}}`,
		strings.Join(items, ","), strings.Join(targets, ","), solutions, strings.Join(replies, ","),
		of("ask", "full", "each", "none"), of("any", "allPlaced"), rnd.IntN(4), of("check", "placement", "never"), of("home", "stay"), of("hold", "stay", "home"), of("free", "count"), rnd.IntN(4) > 0, yes(), of("all", "one"), yes(), limit, of("home", "stay"),
		of("item", "target", "whole"), of("best", "last", "first"), rnd.IntN(20))
	doc, faults := activity.Read([]byte(body))
	if faults != nil {
		return nil, fmt.Errorf("%v in %s", faults, body)
	}
	return play.New(doc)
}

// A sitting that is cut anywhere and gone on with answers as if it had never been cut.
func TestASittingGoesOnFromItsCheckpoint(t *testing.T) {
	cuts, longest := 0, 0
	for seed := uint64(0); cuts < 10_000; seed++ {
		rnd := rand.New(rand.NewPCG(seed, 7))
		g, err := anything(rnd)
		if err != nil {
			var impossible interface{ Error() string }
			if errors.As(err, &impossible) && strings.Contains(err.Error(), "in {") {
				t.Fatal(err)
			}
			continue // a key that nobody can meet
		}
		state := g.OpenWithin(seed, int64(g.Doc.Play.TimeLimit))
		states, moves, want := []*play.State{state}, []play.Move{}, []string{shape(t, g, state)}
		for n := 1; n <= 40; n++ {
			m := random(rnd, g, state.N+1)
			var a play.Answer
			state, a = g.Move(state, m)
			states, moves, want = append(states, state), append(moves, m), append(want, told(t, g, state, a))
		}
		for range 10 {
			cuts++
			at := rnd.IntN(len(states))
			checkpoint, since := g.Checkpoint(states[at])
			longest = max(longest, len(checkpoint))
			s, err := g.Resume(checkpoint, since)
			if err != nil {
				t.Fatalf("seed %d, cut after move %d: %v", seed, at, err)
			}
			if a, b := shape(t, g, states[at]), shape(t, g, s); a != b {
				t.Fatalf("seed %d, cut after move %d: it is gone on with from\n%s\nnot from\n%s", seed, at, b, a)
			}
			for k, m := range moves[at:] {
				var a play.Answer
				s, a = g.Move(s, m)
				if got := told(t, g, s, a); got != want[at+k+1] {
					t.Fatalf("seed %d, cut after move %d: move %d comes to\n%s\nnot\n%s", seed, at, m.N, got, want[at+k+1])
				}
			}
			if !reflect.DeepEqual(state.Verdict, s.Verdict) || text(t, g.Final(state)) != text(t, g.Final(s)) {
				t.Fatalf("seed %d, cut after move %d: the last verdict is another", seed, at)
			}
		}
	}
	t.Logf("%d cuts, the longest checkpoint has %d characters", cuts, longest)
}

func told(t *testing.T, g *play.Game, s *play.State, a play.Answer) string {
	return text(t, g.Line(s, s.N, a)) + text(t, g.Standing(s, a, play.Plain{}))
}

// A large sitting fits into what the tightest platform remembers.
func TestACheckpointOfALargeSittingIsShort(t *testing.T) {
	var items, targets, right []string
	for i := range 60 {
		items = append(items, fmt.Sprintf(`{"id":"item-number-%d","text":"Item %d"}`, i, i))
	}
	for j := range 12 {
		targets = append(targets, fmt.Sprintf(`{"id":"target-number-%d","frame":{"x":%d,"y":20,"w":90,"h":300},"arrange":{"as":"asDropped"}}`, j, 5+j*98))
		right = append(right, fmt.Sprintf(`"target-number-%d":{"items":["item-number-%d","item-number-%d"]}`, j, j, j+12))
	}
	for _, check := range []string{"ask", "each"} {
		doc, faults := activity.Read([]byte(fmt.Sprintf(`{"format":"keen-magpie/activity","version":1,"id":"a","items":[%s],"targets":[%s],"key":{"solutions":[{"right":{%s}}]},
			"play":{"check":%q,"wrongPieces":"stay","rightPieces":"stay","attempts":0},"replies":[{"id":"r","moment":"checked","say":{"text":"{right} of {total}, {left} left."},"point":["wrong","missing"]},{"id":"s","moment":"placed","spot":"piece","until":"check","say":{"text":"{item} is in {target}."}}]}`,
			strings.Join(items, ","), strings.Join(targets, ","), strings.Join(right, ","), check)))
		if faults != nil {
			t.Fatal(faults)
		}
		g, err := play.New(doc)
		if err != nil {
			t.Fatal(err)
		}
		rnd, state := rand.New(rand.NewPCG(1, 2)), g.Open(1)
		do := func(m play.Move) {
			m.N, m.T = state.N+1, int64(state.N)*4000
			state, _ = g.Move(state, m)
		}
		for range 20 {
			for i := range 60 {
				x, y := activity.U(100*rnd.IntN(1200)), activity.U(100*rnd.IntN(320))
				do(play.Move{Do: "drop", Piece: fmt.Sprintf("item-number-%d", i), X: &x, Y: &y})
			}
			do(play.Move{Do: "check"})
			if state.Phase == play.Paused {
				checkpoint, since := g.Checkpoint(state)
				if len(since) > 0 || len(checkpoint) > 4000 {
					t.Fatalf("%s: a checkpoint of %d characters, and %d moves", check, len(checkpoint), len(since))
				}
				do(play.Move{Do: "again"})
			}
		}
		checkpoint, _ := g.Checkpoint(state)
		t.Logf("%s: %d characters after %d moves", check, len(checkpoint), state.N)
		if len(checkpoint) > 4000 {
			t.Errorf("%s: a checkpoint of %d characters", check, len(checkpoint))
		}
	}
}

// What was not written of this document, or not as it is, is refused, and never guessed.
func TestACheckpointThatDoesNotFitIsRefused(t *testing.T) {
	g := game(t)
	state := g.Open(3)
	state, _ = g.Move(state, play.Move{N: 1, Do: "place", Piece: g.Parts.Pieces[0].ID, Target: g.Doc.Targets[0].ID})
	state, _ = g.Move(state, play.Move{N: 2, T: 5, Do: "check"})
	good, _ := g.Checkpoint(state)
	if _, err := g.Resume(good, nil); err != nil {
		t.Fatal(err)
	}
	other := g.Doc.Clone()
	other.Items[0].Weight++
	changed, err := play.New(other)
	if err != nil {
		t.Fatal(err)
	}
	if _, err := changed.Resume(good, nil); !errors.Is(err, play.ErrOtherRelease) {
		t.Errorf("of another release: %v", err)
	}
	for i := range good {
		bad := good[:i] + string(good[i]^1) + good[i+1:]
		if _, err := g.Resume(bad, nil); err == nil {
			t.Fatalf("with character %d changed it is taken", i)
		}
	}
	for _, bad := range []string{"", "AAAA", good[:len(good)-4], good + "AAAA", "not a checkpoint"} {
		if _, err := g.Resume(bad, nil); !errors.Is(err, play.ErrDamaged) {
			t.Errorf("%q: %v", bad, err)
		}
	}

	// With the sum put right, whatever else is wrong still breaks nothing.
	body, err := base64.RawURLEncoding.DecodeString(good)
	if err != nil {
		t.Fatal(err)
	}
	rnd := rand.New(rand.NewPCG(4, 4))
	for range 20_000 {
		b := append([]byte{}, body[:len(body)-4]...)
		for range 1 + rnd.IntN(3) {
			b[10+rnd.IntN(len(b)-10)] = byte(rnd.IntN(256))
		}
		b = binary.BigEndian.AppendUint32(b, crc32.ChecksumIEEE(b))
		s, err := g.Resume(base64.RawURLEncoding.EncodeToString(b), nil)
		if err != nil {
			continue
		}
		for range 5 {
			s, _ = g.Move(s, random(rnd, g, s.N+1))
			shape(t, g, s)
		}
	}
}

// BenchmarkCheckpoint prints how long it takes to write and to go on from the checkpoint of
// the demo board after a check, and how many characters it has.
func BenchmarkCheckpoint(b *testing.B) {
	g := game(b)
	state := g.Open(3)
	for i := range g.Parts.Pieces {
		state, _ = g.Move(state, play.Move{N: state.N + 1, Do: "place", Piece: g.Parts.Pieces[i].ID, Target: g.Doc.Targets[i%len(g.Doc.Targets)].ID})
	}
	state, _ = g.Move(state, play.Move{N: state.N + 1, Do: "check"})
	var checkpoint string
	for b.Loop() {
		checkpoint, _ = g.Checkpoint(state)
		if _, err := g.Resume(checkpoint, nil); err != nil {
			b.Fatal(err)
		}
	}
	b.ReportMetric(float64(len(checkpoint)), "characters")
}
