package store_test

import (
	"fmt"
	"os"
	"testing"
	"time"

	"keenmagpie/localdb"
	"keenmagpie/store"
)

// db is the private server of these tests; each test has a database of its own.
var db *localdb.Server

func TestMain(m *testing.M) {
	os.Exit(localdb.During(func(started *localdb.Server) int {
		db = started
		return m.Run()
	}))
}

// house is a workspace with a release, in a database of its own.
type house struct {
	*testing.T
	*store.Store
	workspace, other string // two workspaces
	ana              store.Member
	activity         string
	release          store.Release
	elsewhere        store.Release // in the other workspace
}

func newHouse(t *testing.T) *house {
	t.Helper()
	t.Parallel()
	ctx := t.Context()
	name := "store_" + store.NewID()
	if err := db.Create(ctx, name); err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(ctx, db.DSN(name))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() })
	if err := st.Migrate(ctx, nil); err != nil {
		t.Fatal(err)
	}
	h := &house{T: t, Store: st}
	h.workspace = must(st.AddWorkspace(ctx, "Workshop"))(h)
	h.other = must(st.AddWorkspace(ctx, "Elsewhere"))(h)
	h.ana = must(st.In(h.workspace).AddMember(ctx, store.Account{Email: "ana@example.org", Name: "Ana"}, store.Designer))(h)
	els := must(st.In(h.other).AddMember(ctx, store.Account{Email: "els@example.org", Name: "Els"}, store.Designer))(h)
	a := must(st.In(h.workspace).AddActivity(ctx, h.ana.ID, "Drawers", "{}", nil))(h)
	h.activity = a.ID
	h.release = must(st.AddRelease(ctx, store.Release{Entry: store.Anyone(), ActivityID: a.ID, ReleasedBy: h.ana.ID, Form: store.AnActivity, Document: "{}", Names: "{}", Semantics: 1}, ""))(h)
	b := must(st.In(h.other).AddActivity(ctx, els.ID, "Drawers", "{}", nil))(h)
	h.elsewhere = must(st.AddRelease(ctx, store.Release{Entry: store.Anyone(), ActivityID: b.ID, ReleasedBy: els.ID, Form: store.AnActivity, Document: "{}", Names: "{}", Semantics: 1}, ""))(h)
	return h
}

// must gives the value, or ends the test.
func must[V any](v V, err error) func(*house) V {
	return func(h *house) V {
		h.Helper()
		if err != nil {
			h.Fatal(err)
		}
		return v
	}
}

func (h *house) ok(err error) {
	h.Helper()
	if err != nil {
		h.Fatal(err)
	}
}

// sat is a sitting of some moves, with what it came to.
func (h *house) sat(release, learner string, moves int, s store.Result) store.Sitting {
	h.Helper()
	if s.Score == "" {
		s.Score, s.Percent = "0.00", "0.00"
	}
	x := must(h.AddSitting(h.Context(), store.Sitting{ReleaseID: release, Learner: learner, Seed: 7, Result: s}, 0))(h)
	for n := range moves {
		h.ok(h.AppendMove(h.Context(), x.ID, store.Move{N: n + 1, Body: fmt.Sprintf(`{"n":%d}`, n+1), Result: "placed"}, nil, nil))
	}
	return x
}

func done(score, percent string) store.Result {
	return store.Result{Phase: "done", Attempts: 1, Score: score, Percent: percent, Outcome: "part"}
}

func (h *house) of() store.Played { return h.release.Played(nil) }

// begun moves a sitting's start into the past.
func (h *house) begun(x store.Sitting, ago time.Duration) {
	h.Helper()
	_, err := h.DB().Exec(`UPDATE sittings SET started_at = ? WHERE id = ?`, time.Now().UTC().Add(-ago), x.ID)
	h.ok(err)
}

func (h *house) count(query string, args ...any) (n int) {
	h.Helper()
	h.ok(h.DB().QueryRow(query, args...).Scan(&n))
	return n
}
