package visit_test

import (
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/series"
	"keenmagpie/core/visit"
)

// workshop is what a package of a demo series holds.
func workshop(t testing.TB) visit.Holds {
	t.Helper()
	read := func(path string) []byte {
		body, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		return body
	}
	list, err := filepath.Glob("../../demo/series/*.json")
	if err != nil || len(list) == 0 {
		t.Fatal("there is no demo series", err)
	}
	s, faults := activity.ReadSeries(read(list[0]))
	if faults != nil {
		t.Fatal(faults)
	}
	holds := visit.Holds{Series: s, Activities: map[string]*activity.Doc{}}
	for _, id := range s.Activities() {
		if holds.Activities[id], faults = activity.Read(read("../../demo/activities/" + id + ".json")); faults != nil {
			t.Fatal(faults)
		}
	}
	return holds
}

func text(t testing.TB, v any) string {
	t.Helper()
	b, err := json.Marshal(v)
	if err != nil {
		t.Fatal(err)
	}
	return string(b)
}

// act is something that a learner of a series does, at a time.
type act struct {
	going *series.Going
	step  int
	do    play.Move
	now   int64
}

func do(t testing.TB, v *visit.Visit, a act) string {
	if a.going != nil {
		view, err := v.Go(*a.going, a.now)
		return text(t, view) + fmt.Sprint(err)
	}
	moved, err := v.Move(a.step, a.do)
	for i := range moved.Interactions {
		moved.Interactions[i].Latency = 0 // after coming back it is not known when the check before was
	}
	return text(t, moved) + fmt.Sprint(err)
}

// random is something to do where a visit stands.
func random(rnd *rand.Rand, v *visit.Visit, holds visit.Holds, now int64) act {
	n := v.Now()
	if n.At == len(n.Steps) || n.Steps[n.At].Page || rnd.IntN(4) == 0 {
		to := []int{n.Next, n.Back, rnd.IntN(len(n.Steps) + 1)}[rnd.IntN(3)]
		switch {
		case rnd.IntN(6) == 0:
			return act{going: &series.Going{Retry: true}, now: now}
		case rnd.IntN(6) == 0:
			return act{going: &series.Going{Again: true}, now: now}
		}
		return act{going: &series.Going{To: &to}, now: now}
	}
	doc := holds.Activities[holds.Series.Steps[n.At].Activity]
	seated := v.Seated(n.At, now)
	m := play.Move{N: seated.Standing.N + 1, T: max(seated.Standing.T, seated.Elapsed)}
	item, target := doc.Items[rnd.IntN(len(doc.Items))].ID, doc.Targets[rnd.IntN(len(doc.Targets))].ID
	switch rnd.IntN(8) {
	case 0:
		m.Do = "check"
	case 1:
		m.Do = []activity.Do{"again", "undo", "hint", "restart", "timeUp"}[rnd.IntN(5)]
	default:
		m.Do, m.Piece, m.Target = "place", item, target
	}
	return act{step: n.At, do: m, now: now}
}

// Whoever leaves and comes back elsewhere with what a platform kept finds everything as if
// they had stayed.
func TestAVisitIsGoneOnWithFromWhatIsRemembered(t *testing.T) {
	holds := workshop(t)
	longest := 0
	for seed := range uint64(60) {
		rnd := rand.New(rand.NewPCG(seed, 3))
		stayed, err := visit.New(holds)
		if err != nil {
			t.Fatal(err)
		}
		now := int64(1_000_000)
		stayed.Begin(seed, now)
		came, err := visit.New(holds)
		if err != nil {
			t.Fatal(err)
		}
		came.Begin(seed, now)
		do(t, stayed, act{going: &series.Going{}, now: now})
		do(t, came, act{going: &series.Going{}, now: now})
		for n := range 120 {
			now += int64(rnd.IntN(3000))
			a := random(rnd, stayed, holds, now)
			if x, y := do(t, stayed, a), do(t, came, a); x != y {
				t.Fatalf("seed %d, act %d: it comes to\n%s\nnot\n%s", seed, n, y, x)
			}
			if x, y := text(t, stayed.Report()), text(t, came.Report()); x != y {
				t.Fatalf("seed %d, act %d: it is reported as %s, not %s", seed, n, y, x)
			}
			if rnd.IntN(6) == 0 { // leaves, and comes back
				memory, ok := came.Remember(64000)
				if !ok || strings.Trim(memory, "ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789-_.:!") != "" {
					t.Fatalf("seed %d: %d characters: %q", seed, len(memory), memory)
				}
				longest = max(longest, len(memory))
				if came, err = visit.New(holds); err != nil {
					t.Fatal(err)
				}
				if err := came.Recall(memory); err != nil {
					t.Fatalf("seed %d, act %d: %v", seed, n, err)
				}
			}
		}
	}
	t.Logf("the longest memory of a series of %d steps has %d characters", len(holds.Series.Steps), longest)
}

// What does not fit leaves out the moves since the last check; what is damaged, or of
// another release, is refused, and what is there stays.
func TestAMemoryThatDoesNotFit(t *testing.T) {
	holds := workshop(t)
	id := ""
	for _, x := range holds.Series.Activities() {
		if p := holds.Activities[x].Play; p.Check == "ask" && p.Undo {
			id = x
		}
	}
	one := visit.Holds{Activities: map[string]*activity.Doc{id: holds.Activities[id]}}
	v, err := visit.New(one)
	if err != nil {
		t.Fatal(err)
	}
	v.Begin(1, 5000)
	seated := v.Seated(0, 5000)
	doc := one.Activities[id]
	for i := range 6 {
		if _, err := v.Move(0, play.Move{N: i + 1, T: int64(i), Do: "place", Piece: seated.Scene.Pieces[i].ID, Target: doc.Targets[0].ID}); err != nil {
			t.Fatal(err)
		}
	}
	whole, _ := v.Remember(4096)
	short, ok := v.Remember(len(whole) - 1)
	if !ok || len(short) >= len(whole) {
		t.Fatalf("%d characters do not become fewer than %d", len(whole), len(short))
	}
	if _, ok := v.Remember(20); ok {
		t.Error("it fits into 20 characters")
	}
	before := text(t, v.Report())
	if err := v.Recall(short); err != nil || len(v.Seated(0, 5000).Standing.Targets[doc.Targets[0].ID]) != 0 {
		t.Errorf("without the moves: %v", err)
	}
	if err := v.Recall(whole); err != nil || text(t, v.Report()) != before {
		t.Errorf("with the moves: %v", err)
	}
	for _, bad := range []string{"", "1", "1:a:b:0:0!0:0:0:x:", whole[:len(whole)/2], whole + "!0", strings.Replace(whole, "1:", "1:z", 1) + "~"} {
		if err := v.Recall(bad); !errors.Is(err, play.ErrDamaged) {
			t.Errorf("%q: %v", bad, err)
		}
	}
	if err := v.Recall("2:what comes later"); !errors.Is(err, play.ErrOtherRelease) {
		t.Errorf("of a later version: %v", err)
	}
	other := doc.Clone()
	other.Items[0].Weight++
	w, err := visit.New(visit.Holds{Activities: map[string]*activity.Doc{id: other}})
	if err != nil {
		t.Fatal(err)
	}
	if err := w.Recall(whole); !errors.Is(err, play.ErrOtherRelease) {
		t.Errorf("of another release: %v", err)
	}
	if text(t, v.Report()) != before {
		t.Error("what was refused changed what is there")
	}
}

// What stands in each target at a check is told with what would be right, where one answer
// is; a lane in its order.
func TestInteractionsOfACheck(t *testing.T) {
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"a","title":"A",
		"items":[{"id":"one","text":"One"},{"id":"two","text":"Two"},{"id":"bell","text":"Bell"},{"id":"hub","text":"Hub"}],
		"targets":[{"id":"lane","name":"Lane","ordered":true,"frame":{"x":0,"y":0,"w":300,"h":90}},{"id":"box","name":"Box","frame":{"x":0,"y":200,"w":90,"h":90}},{"id":"bag","name":"Bag","frame":{"x":0,"y":400,"w":90,"h":90}}],
		"key":{"solutions":[{"right":{"lane":{"items":["one","two"]},"box":{"items":["bell","hub"]},"bag":{"items":["hub"]}},"orders":[{"target":"lane","tiers":[["one"],["two"]]}]}]},
		"play":{"attempts":2}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	v, err := visit.New(visit.Holds{Activities: map[string]*activity.Doc{"a": doc}})
	if err != nil {
		t.Fatal(err)
	}
	v.Begin(1, 0)
	v.Seated(0, 0)
	var last visit.Moved
	for i, m := range []play.Move{{Do: "place", Piece: "two", Target: "lane"}, {Do: "place", Piece: "one", Target: "lane"}, {Do: "place", Piece: "bell", Target: "box"}, {Do: "check"}} {
		m.N, m.T = i+1, int64(1000*(i+1))
		if last, err = v.Move(0, m); err != nil {
			t.Fatal(err)
		}
	}
	var got []string
	for _, x := range last.Interactions {
		got = append(got, fmt.Sprintf("%s %s %v of %v: %s after %d", x.Kind, x.Title, x.Answer, x.Correct, x.Result, x.Latency))
	}
	want := "sequencing Lane [two one] of [[one two]]: part after 4000\nmatching Box [bell] of []: part after 4000\nmatching Bag [] of []: wrong after 4000"
	if strings.Join(got, "\n") != want {
		t.Errorf("told\n%s\nnot\n%s", strings.Join(got, "\n"), want)
	}
	if r := last.Report; !r.Scored || r.Done || !r.Begun || r.Progress != "0.75" {
		t.Errorf("reported %+v", r)
	}
}
