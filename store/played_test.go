package store_test

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"testing"

	"keenmagpie/store"
)

// Sittings are looked for by name, number, state and percent, and come in any order,
// forwards and backwards, a page at a time.
func TestFindSittings(t *testing.T) {
	h := newHouse(t)
	x := map[string]store.Sitting{
		"ada":  h.sat(h.release.ID, "Ada Dahl", 3, done("10.00", "100.00")),
		"bako": h.sat(h.release.ID, "bako 100%", 2, done("6.00", "60.00")),
		"cel":  h.sat(h.release.ID, "Celia_Dahl", 1, store.Result{Phase: "placing"}),
		"dar":  h.sat(h.release.ID, "Dario", 4, store.Result{Phase: "paused", Attempts: 2, Score: "2.00", Percent: "20.00", Outcome: "part"}),
	}
	h.sat(h.elsewhere.ID, "Ada Dahl", 1, done("1.00", "10.00"))
	called := map[int64]string{}
	for name, s := range x {
		called[s.ID] = name
	}
	for what, c := range map[string]struct {
		q    store.Search
		want string
	}{
		"all, as they began":      {store.Search{}, "ada bako cel dar"},
		"the latest first":        {store.Search{Sort: "started", Down: true}, "dar cel bako ada"},
		"by name, in any case":    {store.Search{Sort: "learner"}, "ada bako cel dar"},
		"by score":                {store.Search{Sort: "score", Down: true}, "ada bako dar cel"},
		"by attempts":             {store.Search{Sort: "attempts"}, "cel ada bako dar"},
		"by what cannot be":       {store.Search{Sort: "id; DROP TABLE sittings"}, "ada bako cel dar"},
		"part of a name":          {store.Search{Text: "dAHL", Names: true}, "ada cel"},
		"a sign that is a letter": {store.Search{Text: "a_d", Names: true}, "cel"},
		"another one":             {store.Search{Text: "0%", Names: true}, "bako"},
		"without names":           {store.Search{Text: "dahl"}, ""},
		"a number":                {store.Search{Text: fmt.Sprint(x["dar"].ID)}, "dar"},
		"finished":                {store.Search{Phase: "done"}, "ada bako"},
		"from 60":                 {store.Search{From: "60"}, "ada bako"},
		"to 60, with a score":     {store.Search{From: "0", To: "60"}, "dar"},
		"finished, and a name":    {store.Search{Phase: "done", Text: "dahl", Names: true}, "ada"},
	} {
		t.Run(what, func(t *testing.T) {
			if c.q.Limit == 0 {
				c.q.Limit = 10
			}
			list, found, err := h.FindSittings(h.Context(), h.of(), c.q)
			h.ok(err)
			var got []string
			for _, s := range list {
				got = append(got, called[s.ID])
			}
			if strings.Join(got, " ") != c.want || found != len(got) {
				t.Errorf("%s: %v of %d, not %s", what, got, found, c.want)
			}
		})
	}
	list, found, err := h.FindSittings(h.Context(), h.of(), store.Search{Limit: 3, Offset: 3})
	h.ok(err)
	if found != 4 || len(list) != 1 || called[list[0].ID] != "dar" || !list[0].MovedAt.After(list[0].StartedAt.Add(-1)) {
		t.Errorf("the second page: %d, %+v", found, list)
	}
	if n := must(h.CountSittings(h.Context(), h.of()))(h); n != 4 {
		t.Errorf("%d are counted", n)
	}
}

// Batches go through all sittings once, in order, with their moves.
func TestBatches(t *testing.T) {
	h := newHouse(t)
	var want []int64
	for n := range 45 {
		want = append(want, h.sat(h.release.ID, "Lea", n%4, store.Result{Phase: "placing"}).ID)
		if n%9 == 0 {
			h.sat(h.elsewhere.ID, "Lea", 1, store.Result{Phase: "placing"})
		}
	}
	var got []int64
	batches := 0
	h.ok(h.EachBatch(h.Context(), h.of(), true, func(list []store.Logged) error {
		batches++
		for _, x := range list {
			if len(x.Moves) != len(got)%4 || len(x.At) != len(x.Moves) {
				t.Errorf("sitting %d has %d moves", len(got), len(x.Moves))
			}
			got = append(got, x.ID)
		}
		return nil
	}))
	if !slices.Equal(got, want) || batches != 2 {
		t.Errorf("%d batches: %v", batches, got)
	}
	some := []int64{want[44], want[3], want[7]}
	got = nil
	h.ok(h.EachLog(h.Context(), some, func(list []store.Logged) error {
		for _, x := range list {
			got = append(got, x.ID)
		}
		return nil
	}))
	if slices.Sort(some); !slices.Equal(got, some) {
		t.Errorf("some of them: %v", got)
	}
	broken := fmt.Errorf("enough")
	if err := h.EachBatch(h.Context(), h.of(), false, func([]store.Logged) error { return broken }); err != broken {
		t.Errorf("stopped: %v", err)
	}
}

// A tally is fresh when its sitting is done, or has made no move since; that of another re-mark
// and another release's do not count.
func TestTallies(t *testing.T) {
	h := newHouse(t)
	var ids []int64
	tally := func(id int64, remark string, moves int, body string) store.Tally {
		return store.Tally{ReleaseID: h.release.ID, Remark: remark, SittingID: id, Moves: moves, Body: []byte(body)}
	}
	for _, phase := range []string{"done", "placing", "done", "placing", "placing", "done"} {
		ids = append(ids, h.sat(h.release.ID, "Lea", 3, store.Result{Phase: phase}).ID)
	}
	h.ok(h.KeepTallies(h.Context(), nil))
	h.ok(h.KeepTallies(h.Context(), []store.Tally{tally(ids[0], "", 3, "a"), tally(ids[1], "", 3, "b"), tally(ids[3], "", 2, "c"), tally(ids[5], "mark", 3, "d")}))
	seen := func(remark string) string {
		t.Helper()
		list := map[int64]string{}
		h.ok(h.EachTally(h.Context(), h.of(), remark, func(id int64, kept []byte, fresh bool) error {
			if _, twice := list[id]; twice {
				t.Errorf("sitting %d comes twice", id)
			}
			list[id] = fmt.Sprintf("%s%v", kept, map[bool]string{true: "!", false: "?"}[fresh])
			return nil
		}))
		out := []string{}
		for _, id := range ids {
			out = append(out, list[id])
		}
		return strings.Join(out, " ")
	}
	if got := seen(""); got != "a! b! ? c? ? ?" {
		t.Errorf("kept: %s", got)
	}
	if got := seen("mark"); got != "? ? ? ? ? d!" {
		t.Errorf("kept by the re-mark: %s", got)
	}
	// The one that knows more stays.
	h.ok(h.KeepTallies(h.Context(), []store.Tally{tally(ids[0], "", 2, "older"), tally(ids[3], "", 3, "newer")}))
	if got := seen(""); got != "a! b! ? newer! ? ?" {
		t.Errorf("after an older and a newer one: %s", got)
	}
	// Of one that was deleted meanwhile nothing is kept, and that is no mistake.
	h.ok(h.KeepTallies(h.Context(), []store.Tally{tally(4711, "", 1, "gone")}))
	if list := must(h.TalliesOf(h.Context(), h.release.ID, "", ids))(h); len(list) != 3 || string(list[2].Body) != "newer" {
		t.Errorf("of some: %+v", list)
	}
	// Who finishes has a tally by the same transaction; those by other documents go.
	change := &store.Change{Result: done("1.00", "10.00"), TookMS: 4000, Tally: &store.Tally{ReleaseID: h.release.ID, Remark: "mark", SittingID: ids[3], Moves: 4, Body: []byte("e")}}
	h.ok(h.AppendMove(h.Context(), ids[3], store.Move{N: 4, Body: "{}", Result: "checked"}, nil, change))
	if a, b := seen(""), seen("mark"); a != "a! b! ? ? ? ?" || b != "? ? ? e! ? d!" {
		t.Errorf("finished: %s / %s", a, b)
	}
	if x := must(h.Sitting(h.Context(), h.of(), ids[3]))(h); x.TookMS != 4000 || x.Phase != "done" || x.Score != "1.00" {
		t.Errorf("%+v", x)
	}
	// A number that is taken keeps nothing of it.
	change.Tally.Body, change.TookMS = []byte("f"), 1
	if err := h.AppendMove(h.Context(), ids[3], store.Move{N: 4, Body: "{}", Result: "checked"}, nil, change); !errors.Is(err, store.ErrRaced) {
		t.Errorf("the same number: %v", err)
	}
	if got := seen("mark"); got != "? ? ? e! ? d!" {
		t.Errorf("after it: %s", got)
	}
}

// The steps of a series are kept apart, and of each learner the first time there counts.
func TestPlayedBySteps(t *testing.T) {
	h := newHouse(t)
	var want [2][]int64
	for range 2 {
		run := must(h.BeginRun(h.Context(), h.release, store.Run{Learner: "Lea", End: 3}, ""))(h)
		for _, x := range [][2]int{{0, 0}, {1, 0}, {1, 1}} {
			s := must(h.AddSitting(h.Context(), store.Sitting{ReleaseID: h.release.ID, Learner: "Lea", RunID: &run.ID, Step: x[0], Turn: x[1],
				Result: store.Result{Phase: "done", Score: "0.00", Percent: "0.00"}}, 0))(h)
			if x[1] == 0 {
				want[x[0]] = append(want[x[0]], s.ID)
			}
		}
	}
	single := h.sat(h.release.ID, "Tom", 0, store.Result{Phase: "placing"})
	for step := range want {
		if got := must(h.SittingIDs(h.Context(), h.release.Played(&step)))(h); !slices.Equal(got, want[step]) {
			t.Errorf("step %d: %v, not %v", step, got, want[step])
		}
	}
	if got := must(h.SittingIDs(h.Context(), h.of()))(h); !slices.Equal(got, []int64{single.ID}) {
		t.Errorf("without a step: %v", got)
	}
	if _, err := h.Sitting(h.Context(), h.of(), want[0][0]); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a step's sitting among the others: %v", err)
	}
}
