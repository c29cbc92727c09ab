package bench

import (
	"encoding/json"
	"os"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
)

// BenchmarkOpeningALongSitting reads and folds 10,000 moves with 250 checks, as opening an
// old sitting does: the whole log, so that a move that is sent again is known again.
func BenchmarkOpeningALongSitting(b *testing.B) {
	body, err := os.ReadFile("../demo/activities/parts-drawers.json")
	if err != nil {
		b.Fatal(err)
	}
	doc, faults := activity.Read(body)
	if len(faults) > 0 {
		b.Fatal(faults)
	}
	doc.Play.Attempts = 0
	g, err := play.New(doc)
	if err != nil {
		b.Fatal(err)
	}
	var log [][]byte
	state := g.Open(1)
	for n := 1; n <= 10_000; n++ {
		m := play.Move{N: n, T: int64(n * 100), Do: activity.DoPlace, Piece: doc.Items[n%20].ID, Target: doc.Targets[n%5].ID}
		switch n % 40 {
		case 0:
			m = play.Move{N: n, T: m.T, Do: activity.DoCheck}
		case 1:
			m = play.Move{N: n, T: m.T, Do: activity.DoAgain}
		}
		line, err := json.Marshal(m)
		if err != nil {
			b.Fatal(err)
		}
		log = append(log, line)
		state, _ = g.Move(state, m)
	}
	if state.N != 10_000 {
		b.Fatalf("it has come to move %d", state.N)
	}
	for b.Loop() {
		s := g.Open(1)
		for _, line := range log {
			var m play.Move
			if err := json.Unmarshal(line, &m); err != nil {
				b.Fatal(err)
			}
			s, _ = g.Move(s, m)
		}
	}
}
