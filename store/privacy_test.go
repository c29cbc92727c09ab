package store_test

import (
	"errors"
	"testing"
	"time"

	"keenmagpie/store"
)

func TestWhoSeesNames(t *testing.T) {
	owner, designer, viewer := store.Member{Role: store.Designer, Owner: true}, store.Member{Role: store.Designer}, store.Member{Role: store.Viewer}
	for who, want := range map[string][3]bool{store.Members: {true, true, true}, store.Designers: {true, true, false}, store.Owners: {true, false, false}} {
		for i, m := range []store.Member{owner, designer, viewer} {
			if m.NamesFor = who; m.SeesNames() != want[i] {
				t.Errorf("%s, member %d: %v", who, i, m.SeesNames())
			}
		}
	}
}

// Names go from what began before a time, in one workspace; what was done stays.
func TestForgetNames(t *testing.T) {
	h := newHouse(t)
	ctx := t.Context()
	old, young, foreign := h.sat(h.release.ID, "Ada", 2, done("1.00", "10.00")), h.sat(h.release.ID, "Bako", 1, done("1.00", "10.00")), h.sat(h.elsewhere.ID, "Celia", 1, done("1.00", "10.00"))
	run := must(h.BeginRun(ctx, h.release, store.Run{Learner: "Ada", End: 1}, ""))(h)
	h.begun(old, 40*24*time.Hour)
	h.begun(foreign, 40*24*time.Hour)
	_, err := h.DB().Exec(`UPDATE runs SET started_at = started_at - INTERVAL 40 DAY WHERE id = ?`, run.ID)
	h.ok(err)
	before := time.Now().UTC().Add(-30 * 24 * time.Hour)
	if n := must(h.In(h.workspace).Named(ctx, before))(h); n != 2 {
		t.Errorf("%d would go", n)
	}
	keeps := store.Member{WorkspaceID: h.workspace, Privacy: store.Privacy{NamesDays: 30}}
	if n := must(h.ForgetNames(ctx, keeps))(h); n != 2 {
		t.Errorf("%d went", n)
	}
	if n := must(h.ForgetNames(ctx, keeps))(h); n != 0 {
		t.Errorf("%d went twice", n)
	}
	for _, x := range []struct {
		id   int64
		want string
	}{{old.ID, ""}, {young.ID, "Bako"}} {
		if s := must(h.Sitting(ctx, h.of(), x.id))(h); s.Learner != x.want || s.Score != "1.00" {
			t.Errorf("%+v", s)
		}
	}
	if n := h.count(`SELECT COUNT(*) FROM sittings WHERE learner = 'Celia'`); n != 1 {
		t.Error("a name of another workspace went")
	}
	if n := h.count(`SELECT COUNT(*) FROM moves WHERE sitting_id = ?`, old.ID); n != 2 {
		t.Errorf("%d moves are left", n)
	}
	h.ok(h.In(h.workspace).SetPrivacy(ctx, store.Privacy{NamesFor: store.Owners, NamesDays: 30, LeastGroup: 5}))
	if list := must(h.Forgetting(ctx))(h); len(list) != 1 || list[0].WorkspaceID != h.workspace || list[0].NamesDays != 30 {
		t.Errorf("which forget: %+v", list)
	}
	if m := must(h.MemberByID(ctx, h.ana.ID, h.workspace))(h); m.Privacy != (store.Privacy{NamesFor: store.Owners, NamesDays: 30, LeastGroup: 5}) {
		t.Errorf("what a member is told: %+v", m.Privacy)
	}
}

// What is kept of a learner is found by the name in one workspace, and deleted with all
// that hangs on it; where one thing is not there, nothing is deleted.
func TestErase(t *testing.T) {
	h := newHouse(t)
	ctx := t.Context()
	single := h.sat(h.release.ID, "Ada Dahl", 3, done("1.00", "10.00"))
	other := h.sat(h.release.ID, "Ada Dahlberg", 1, done("1.00", "10.00"))
	foreign := h.sat(h.elsewhere.ID, "Ada Dahl", 1, done("1.00", "10.00"))
	run := must(h.BeginRun(ctx, h.release, store.Run{Learner: "ada dahl", End: 1}, ""))(h)
	step := must(h.AddSitting(ctx, store.Sitting{ReleaseID: h.release.ID, Learner: "ada dahl", RunID: &run.ID, Result: done("0.00", "0.00")}, 0))(h)
	h.ok(h.AppendMove(ctx, step.ID, store.Move{N: 1, Body: "{}", Result: "placed"}, nil, nil))
	roster := must(h.In(h.workspace).AddRoster(ctx, "Tuesday", []store.Learner{{Name: "Ada Dahl", TimePercent: 100}, {Name: "Bako", TimePercent: 100}}))(h)
	k := h.newRemark(h.ana.ID)
	h.remarked(k, "2.00")
	h.ok(h.ApplyRemark(ctx, k, false, nil))

	traces := must(h.In(h.workspace).Traces(ctx, "ADA DAHL"))(h)
	kinds := map[string]store.Trace{}
	for _, x := range traces {
		kinds[x.Kind] = x
	}
	if len(traces) != 3 || kinds["sitting"].ID != single.ID || kinds["sitting"].Number != 1 || kinds["run"].ID != run.ID || kinds["roster"].Where != roster.Name {
		t.Fatalf("found: %+v", traces)
	}
	for what, list := range map[string][]store.Trace{
		"one that is not there":      append([]store.Trace{{Kind: "sitting", ID: 4711}}, traces...),
		"one of another workspace":   append([]store.Trace{{Kind: "sitting", ID: foreign.ID}}, traces...),
		"a run that is a sitting":    append([]store.Trace{{Kind: "run", ID: 4711}}, traces...),
		"a roster's that is nowhere": append([]store.Trace{{Kind: "roster", ID: 4711}}, traces...),
	} {
		t.Run(what, func(t *testing.T) {
			if err := h.In(h.workspace).Erase(ctx, list); !errors.Is(err, store.ErrNotFound) {
				t.Errorf("%s: %v", what, err)
			}
		})
	}
	if list := must(h.In(h.workspace).Traces(ctx, "Ada Dahl"))(h); len(list) != 3 {
		t.Fatalf("something went: %+v", list)
	}
	h.ok(h.In(h.workspace).Erase(ctx, traces))
	if n := h.count(`SELECT COUNT(*) FROM sittings`); n != 2 {
		t.Errorf("%d sittings are left", n)
	}
	for _, table := range []string{"moves", "remarked", "tallies"} {
		if n := h.count(`SELECT COUNT(*) FROM `+table+` WHERE sitting_id IN (?, ?)`, single.ID, step.ID); n != 0 {
			t.Errorf("%d lines of %s are left", n, table)
		}
	}
	if n := h.count(`SELECT COUNT(*) FROM runs`) + h.count(`SELECT COUNT(*) FROM learners WHERE name LIKE 'Ada%'`); n != 0 {
		t.Errorf("%d runs and lines of rosters are left", n)
	}
	if score, _ := h.scores(other.ID); score != "2.00" {
		t.Errorf("the one with a name like it: %s", score)
	}
	// A learner who was deleted while playing makes no move any more.
	if err := h.AppendMove(ctx, single.ID, store.Move{N: 9, Body: "{}", Result: "placed"}, nil, nil); !errors.Is(err, store.ErrNotFound) {
		t.Errorf("a move after it: %v", err)
	}
}

// The log has the latest first, and goes on where it was left.
func TestRecords(t *testing.T) {
	h := newHouse(t)
	for _, what := range []string{"one", "two", "three"} {
		h.ok(h.AddRecord(t.Context(), store.Record{WorkspaceID: h.workspace, AccountName: "Ana", What: what}))
	}
	h.ok(h.AddRecord(t.Context(), store.Record{WorkspaceID: h.other, AccountName: "Els", What: "elsewhere"}))
	first := must(h.In(h.workspace).Records(t.Context(), 0, 2))(h)
	if len(first) != 2 || first[0].What != "three" || first[1].What != "two" {
		t.Fatalf("%+v", first)
	}
	if rest := must(h.In(h.workspace).Records(t.Context(), first[1].ID, 2))(h); len(rest) != 1 || rest[0].What != "one" {
		t.Errorf("%+v", rest)
	}
}
