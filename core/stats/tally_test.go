package stats_test

import (
	"errors"
	"fmt"
	"reflect"
	"slices"
	"testing"

	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/core/stats"
)

const judgedEach = `{"format":"keen-magpie/activity","version":1,"id":"each",
	"items":[{"id":"a","copies":3},{"id":"b"},{"id":"c"}],
	"targets":[{"id":"in","frame":{"x":0,"y":0,"w":200,"h":200}},{"id":"out","frame":{"x":300,"y":0,"w":200,"h":200}}],
	"key":{"solutions":[{"right":{"in":{"items":["a"]},"out":{"items":["b"]}}}]},"play":{"check":"each"}}`

// What is kept of a sitting comes back as it was, and figures made of it are those of
// the sittings themselves.
func TestTalliesAreKeptWhole(t *testing.T) {
	for name, body := range map[string]string{"check": three, "each": judgedEach} {
		g := game(t, body)
		played, counted := stats.New(g), stats.New(g)
		var room stats.Tally
		for seed := range uint64(60) {
			moves := proof.Sitting(g, g, int(seed*7%100), seed)
			moves = moves[:max(0, len(moves)-int(seed%3))] // some under way
			tally := played.Tally(seed, -1, moves)
			kept := tally.Append(nil)
			played.Add(seed, -1, moves)
			if err := counted.Count(int64(seed), kept); err != nil {
				t.Fatal(name, seed, err)
			}
			if err := counted.Read(kept, &room); err != nil || fmt.Sprintf("%+v", room) != fmt.Sprintf("%+v", *tally) && (room.First.Reached && room.Final.Reached) {
				t.Fatalf("%s, %d: %v\n%+v\n%+v", name, seed, err, room, *tally)
			}
		}
		if a, b := played.Figures(), counted.Figures(); !reflect.DeepEqual(a, b) || a.Finished == 0 || a.Finished == a.Sittings {
			t.Errorf("%s\n%+v\n%+v", name, a, b)
		}
	}
}

func TestATallyOfAnotherDocument(t *testing.T) {
	kept := stats.New(game(t, three)).Tally(1, -1, placed("in", "out", "")).Append(nil)
	other := stats.New(game(t, judgedEach))
	bad := [][]byte{nil, {9}, slices.Concat(kept, []byte{0}), slices.Repeat([]byte{255}, 40)}
	for n := range kept {
		bad = append(bad, kept[:n])
	}
	for _, b := range bad {
		if err := other.Count(1, b); !errors.Is(err, stats.ErrTally) {
			t.Errorf("%v: %v", b, err)
		}
	}
	if f := other.Figures(); f.Sittings != 0 {
		t.Errorf("%+v", f)
	}
}

// A hundred thousand sittings of 24 items from what was kept of them.
func BenchmarkFigures(b *testing.B) {
	body := `{"format":"keen-magpie/activity","version":1,"id":"many","items":[`
	for i := range 24 {
		if i > 0 {
			body += ","
		}
		body += fmt.Sprintf(`{"id":"i%d","tags":["t%d"]}`, i, i%6)
	}
	body += `],"targets":[`
	key := ""
	for i := range 6 {
		if i > 0 {
			body, key = body+",", key+","
		}
		body += fmt.Sprintf(`{"id":"t%d","frame":{"x":%d,"y":0,"w":90,"h":200}}`, i, 100*i)
		key += fmt.Sprintf(`"t%d":{"tags":["t%d"]}`, i, i)
	}
	g := game(b, body+`],"key":{"solutions":[{"right":{`+key+`}}]}}`)
	table := stats.New(g)
	var kept [][]byte
	var logs [][]play.Move
	for seed := range uint64(1000) {
		logs = append(logs, proof.Sitting(g, g, int(seed*7%100), seed))
		kept = append(kept, table.Tally(seed, -1, logs[seed]).Append(nil))
	}
	b.Run("play", func(b *testing.B) {
		moves := 0
		for i := 0; b.Loop(); i++ {
			table.Tally(uint64(i%1000), -1, logs[i%1000])
			moves += len(logs[i%1000])
		}
		b.ReportMetric(float64(b.Elapsed().Microseconds())/float64(moves), "µs/move")
	})
	b.Run("kept", func(b *testing.B) {
		for b.Loop() {
			t := stats.New(g)
			for i := range 100_000 {
				if err := t.Count(int64(i), kept[i%1000]); err != nil {
					b.Fatal(err)
				}
			}
			t.Figures()
		}
		b.ReportMetric(float64(len(kept[0])), "bytes/tally")
	})
}

// Whatever stands where a tally was kept, it is read or refused, and what is read is
// written again as it was.
func FuzzTally(f *testing.F) {
	for _, body := range []string{three, judgedEach} {
		g := game(f, body)
		for seed := range uint64(4) {
			moves := proof.Sitting(g, g, int(seed*30), seed)
			f.Add(stats.New(g).Tally(seed, -1, moves).Append(nil))
		}
	}
	tables := []*stats.Table{stats.New(game(f, three)), stats.New(game(f, judgedEach))}
	f.Fuzz(func(t *testing.T, kept []byte) {
		for _, table := range tables {
			var x, again stats.Tally
			if table.Read(kept, &x) != nil {
				continue
			}
			written := x.Append(nil)
			if err := table.Read(written, &again); err != nil {
				t.Fatalf("%v of %v: %v", written, kept, err)
			}
			if second := again.Append(nil); !slices.Equal(written, second) {
				t.Fatalf("%v became %v", written, second)
			}
		}
	})
}
