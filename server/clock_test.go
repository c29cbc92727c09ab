package server_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"sync"
	"testing"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/hosting"
	"keenmagpie/server"
	"keenmagpie/store"
)

// released releases a small activity, and says who may begin.
func (b *browser) released(title string, change func(*activity.Doc), entry map[string]any) server.Release {
	b.t.Helper()
	id := b.small(title, change)
	code, body := b.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": 1})
	if code != 201 {
		b.t.Fatalf("releasing: %d %s", code, body)
	}
	r := read[server.Release](b.t, body)
	if entry != nil {
		if code, body := b.ask("PUT", "/api/releases/"+r.ID+"/entry", entry); code != 200 {
			b.t.Fatalf("%v: %d %s", entry, code, body)
		}
	}
	return r
}

// learner begins with a release.
type learner struct {
	*browser
	base  string
	scene play.Scene
}

func (s *site) learner(r server.Release) *learner {
	s.t.Helper()
	l := &learner{browser: s.browser(0), base: "/api" + r.Link}
	code, body := l.ask("POST", l.base+"/sittings", map[string]string{"learner": "Lea"})
	if code != 201 {
		s.t.Fatalf("beginning: %d %s", code, body)
	}
	l.scene = read[hosting.Begun](s.t, body).Sitting.Scene
	return l
}

// does makes a move at a time of its own clock.
func (l *learner) does(n int, at int64, do activity.Do) play.Standing {
	l.t.Helper()
	m := play.Move{N: n, T: at, Do: do}
	if do == "place" || do == "lift" {
		m.Piece = l.scene.Pieces[0].ID
	}
	if do == "place" {
		m.Target = l.scene.Targets[0].ID
	}
	code, body := l.ask("POST", l.base+"/moves", m)
	if code != 200 {
		l.t.Fatalf("%+v: %d %s", m, code, body)
	}
	return read[play.Standing](l.t, body)
}

func timed(limit int) func(*activity.Doc) {
	return func(d *activity.Doc) { d.Play.TimeLimit, d.Play.Attempts = limit, 0 }
}

// A move counts at the time that its learner says, but never later than it arrived; after
// the limit it counts within the allowance, and is marked.
func TestTheServersClockDecides(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	for _, c := range []struct {
		name      string
		allowance any
		arrives   time.Duration
		t         int64
		result    placing.Effect
		reason    string
		late      string
	}{
		{"in time", nil, time.Second, 500, "placed", "", "0"},
		{"received within the allowance", nil, 5 * time.Second, 100, "placed", "", "1"},
		{"received after it", nil, 3*time.Second + 121*time.Second, 100, "rejected", "too-late", "0"},
		{"no allowance", 0, 5 * time.Second, 100, "rejected", "too-late", "0"},
		{"a longer one", 600, 3*time.Second + 500*time.Second, 100, "placed", "", "1"},
		{"made after the limit", nil, 5 * time.Second, 3500, "rejected", "not-allowed", "0"},
	} {
		t.Run(c.name, func(t *testing.T) {
			entry := map[string]any{}
			if c.allowance != nil {
				entry["allowance"] = c.allowance
			}
			r := ana.released(c.name, timed(3000), entry)
			lea := s.learner(r)
			s.later(c.arrives)
			defer s.later(-c.arrives)
			if got := lea.does(1, c.t, "place"); got.Result != c.result || got.Reason != c.reason {
				t.Errorf("%s %s, want %s %s", got.Result, got.Reason, c.result, c.reason)
			}
			_, rows := ana.ask("GET", "/api/releases/"+r.ID+"/sittings.jsonl", nil)
			if !strings.Contains(rows, `"receivedLate":`+c.late) {
				t.Errorf("received late, want %s: %s", c.late, rows)
			}
			_, moves := ana.ask("GET", "/api/releases/"+r.ID+"/moves.jsonl", nil)
			if want := `"receivedLate":` + map[string]string{"0": "false", "1": "true"}[c.late]; !strings.Contains(moves, want) {
				t.Errorf("of the move, want %s: %s", want, moves)
			}
		})
	}
}

// What nobody can have taken is not stored as time taken; a move that is sent again in
// vain answers as before.
func TestTimesThatCannotBe(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	r := ana.released("Long", timed(0), nil)
	lea := s.learner(r)
	lea.does(1, math.MaxInt64, "place")
	if again := lea.does(1, math.MaxInt64, "place"); again.Result != "repeated" {
		t.Errorf("the same move again: %s", again.Result)
	}
	// Its clock put right, the learner goes on.
	if after := lea.does(2, math.MaxInt64, "check"); after.Phase != "done" || after.T > 60_000 {
		t.Errorf("%s at %d", after.Phase, after.T)
	}
	_, rows := ana.ask("GET", "/api/releases/"+r.ID+"/sittings", nil)
	took := read[struct{ Sittings []server.SittingRow }](t, rows).Sittings[0].Took
	if took < 0 || took > 60_000 {
		t.Errorf("it took %d ms", took)
	}
}

// A server's clock that jumps back refuses nobody's moves; one that jumps forward ends
// what has a limit, and nothing else.
func TestAClockThatJumps(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	lea := s.learner(ana.released("Jumps", timed(600_000), nil))
	s.later(20 * time.Second)
	lea.does(1, 15_000, "place")
	s.later(-40 * time.Second) // before it began
	if got := lea.does(2, 16_000, "lift"); got.Result != "lifted" || got.T != 15_000 {
		t.Errorf("set back: %s at %d", got.Result, got.T)
	}
	if got := lea.does(3, 17_000, "place"); got.Result != "placed" {
		t.Errorf("set back, once more: %s", got.Result)
	}
	s.later(20 * time.Second)
	if got := lea.does(4, 18_000, "check"); got.Result != "checked" || got.Final.Score != "10.00" {
		t.Errorf("right again: %+v", got)
	}
	s.later(24 * time.Hour)
	free := s.learner(ana.released("Free", timed(0), nil))
	if got := free.does(1, 100, "place"); got.Result != "placed" {
		t.Errorf("a day ahead, without a limit: %s", got.Result)
	}
}

// Whoever does not come back is finished when time and allowance are over: in the list, in
// the outcomes and in a series at once, with what stood then.
func TestWhatIsDueIsFinished(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	r := ana.released("Left alone", timed(3000), map[string]any{"allowance": 10})
	lea := s.learner(r)
	lea.does(1, 10, "place")
	rows := func() []server.SittingRow {
		_, body := ana.ask("GET", "/api/releases/"+r.ID+"/sittings", nil)
		return read[struct{ Sittings []server.SittingRow }](t, body).Sittings
	}
	s.later(12 * time.Second)
	s.works()
	if x := rows()[0]; x.Phase == "done" {
		t.Errorf("before the allowance is over: %+v", x)
	}
	s.later(2 * time.Second)
	s.works()
	if x := rows()[0]; x.Phase != "done" || x.Score != "10.00" || x.Took != 3000 {
		t.Errorf("afterwards: %+v", x)
	}
	if got := lea.does(2, 20, "lift"); got.Result != "rejected" || got.Reason != "too-late" || got.Phase != "done" {
		t.Errorf("its learner comes back: %+v", got)
	}
	if _, body := ana.ask("GET", "/api/releases/"+r.ID+"/outcomes", nil); !strings.Contains(body, `"finished":1`) {
		t.Errorf("the outcomes: %s", body)
	}
	// Two servers at once, and nobody asks for one release.
	other := ana.released("Another", timed(3000), map[string]any{"allowance": 0})
	for range 5 {
		s.learner(other).does(1, 10, "place")
	}
	s.later(time.Minute)
	var group sync.WaitGroup
	for range 4 {
		group.Go(func() {
			if err := s.first.Hosting().FinishDue(t.Context()); err != nil {
				t.Error(err)
			}
		})
	}
	group.Wait()
	n := 0
	if err := s.store.DB().QueryRowContext(t.Context(), `SELECT COUNT(*) FROM moves m JOIN sittings s ON s.id = m.sitting_id WHERE s.release_id = ? AND m.n = 2 AND s.phase = 'done'`, other.ID).Scan(&n); err != nil || n != 5 {
		t.Errorf("%d of 5 are finished, once each (%v)", n, err)
	}
}

func (b *browser) series(title string, change func(*activity.Series), activities ...string) server.Release {
	b.t.Helper()
	draft := b.newSeries(title, activities...)
	doc, _ := activity.ReadSeries([]byte(draft.Document))
	change(doc)
	b.ask("PUT", "/api/series/"+draft.ID+"?revision=1", json.RawMessage(doc.Write()))
	code, body := b.ask("POST", "/api/series/"+draft.ID+"/releases", map[string]int{"revision": 2})
	if code != 201 {
		b.t.Fatalf("releasing a series: %d %s", code, body)
	}
	return read[server.Release](b.t, body)
}

// When the time of a series is over its result stands: asking for it all again takes
// nothing away, and eight who ask at once get the same.
func TestASeriesWhoseTimeIsOver(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	r := ana.series("Ends", func(d *activity.Series) { d.TimeLimit, d.Again = 60_000, "all" }, ana.small("One", nil), ana.small("Two", nil))
	lea := &walker{browser: s.browser(0), base: "/api" + r.Link}
	lea.ask("POST", lea.base+"/sittings", map[string]string{"learner": "Lea"})
	lea.to(map[string]any{})
	lea.puts(0)
	s.later(time.Hour)
	var group sync.WaitGroup
	for range 8 {
		group.Go(func() {
			if code, body := lea.ask("GET", lea.base+"/now", nil); code != 200 || !strings.Contains(body, `"score":"10.00"`) {
				t.Errorf("at the end: %d %s", code, body)
			}
		})
	}
	group.Wait()
	if code := lea.to(map[string]any{"again": true}); code != 409 {
		t.Errorf("again after the time: %d", code)
	}
	lea.to(map[string]any{})
	if total := lea.view.Now.Total; total == nil || total.Score != "10.00" {
		t.Errorf("the score: %+v", total)
	}
	_, body := ana.ask("GET", "/api/releases/"+r.ID+"/runs", nil)
	if !strings.Contains(body, `"done":true,"score":"10.00"`) {
		t.Errorf("the list: %s", body)
	}
}

// A run that its learner has left is finished in the list, and so is a step whose own time
// is over.
func TestARunThatIsLeftAlone(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	r := ana.series("Left", func(d *activity.Series) { d.TimeLimit = 60_000 }, ana.small("One", timed(5000)), ana.small("Two", nil))
	lea := &walker{browser: s.browser(0), base: "/api" + r.Link}
	lea.ask("POST", lea.base+"/sittings", map[string]string{"learner": "Lea"})
	lea.to(map[string]any{})
	seated := lea.view.Sitting
	lea.ask("POST", lea.base+"/moves?step=0&turn=0", play.Move{N: 1, Do: "place", Piece: seated.Scene.Pieces[0].ID, Target: seated.Scene.Targets[0].ID})
	s.later(130 * time.Second) // five seconds and the allowance
	s.works()
	_, body := ana.ask("GET", "/api/releases/"+r.ID+"/sittings?step=0", nil)
	if x := read[struct{ Sittings []server.SittingRow }](t, body).Sittings[0]; x.Phase != "done" || x.Score != "10.00" {
		t.Errorf("the step: %+v", x)
	}
	s.later(time.Hour)
	s.works()
	if _, body := ana.ask("GET", "/api/releases/"+r.ID+"/runs", nil); !strings.Contains(body, `"done":true,"score":"10.00"`) {
		t.Errorf("the run: %s", body)
	}
}

// However many begin at once, at two servers, no more begin than may; the same request is
// the same sitting.
func TestLimitsHoldForThoseWhoBeginAtOnce(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	names := make([]string, 12)
	for i := range names {
		names[i] = fmt.Sprintf("Learner %d", i)
	}
	list := ana.roster("All at once", names...)
	at := func(r server.Release, body func(i int) map[string]string, n int) map[int]int {
		codes := map[int]int{}
		var lock sync.Mutex
		var group sync.WaitGroup
		for i := range n {
			b := s.browser(i % 2)
			group.Go(func() {
				code, _ := b.ask("POST", "/api"+r.Link+"/sittings", body(i))
				lock.Lock()
				defer lock.Unlock()
				codes[code]++
			})
		}
		group.Wait()
		return codes
	}
	count := func(r server.Release) (n int) {
		t.Helper()
		if err := s.store.DB().QueryRowContext(t.Context(), `SELECT (SELECT COUNT(*) FROM sittings WHERE release_id = ? AND run_id IS NULL) + (SELECT COUNT(*) FROM runs WHERE release_id = ?)`, r.ID, r.ID).Scan(&n); err != nil {
			t.Fatal(err)
		}
		return n
	}
	byCode := func(i int) map[string]string { return map[string]string{"code": list.Learners[i/4].Code} }
	byName := func(int) map[string]string { return map[string]string{"learner": "Lea"} }
	same := func(i int) map[string]string {
		return map[string]string{"learner": "Lea", "request": fmt.Sprintf("one-request-of-each-%d", i/6)}
	}
	series := func(title string) server.Release {
		return ana.series(title, func(*activity.Series) {}, ana.small(title+" 1", nil))
	}
	for _, c := range []struct {
		name  string
		r     server.Release
		entry map[string]any
		body  func(int) map[string]string
		n     int
		want  int
	}{
		{"one each", ana.released("Each", nil, nil), map[string]any{"roster": list.ID, "mostEach": 1}, byCode, 48, 12},
		{"one run each", series("Runs"), map[string]any{"roster": list.ID, "mostEach": 1}, byCode, 48, 12},
		{"three in all", ana.released("Three", nil, nil), map[string]any{"most": 3}, byName, 24, 3},
		{"three runs in all", series("Three runs"), map[string]any{"most": 3}, byName, 24, 3},
		{"repeated requests", ana.released("Again", nil, nil), map[string]any{}, same, 24, 4},
		{"repeated requests of a series", series("Again runs"), map[string]any{"most": 4}, same, 24, 4},
	} {
		t.Run(c.name, func(t *testing.T) {
			if code, body := ana.ask("PUT", "/api/releases/"+c.r.ID+"/entry", c.entry); code != 200 {
				t.Fatalf("%d %s", code, body)
			}
			codes := at(c.r, c.body, c.n)
			if got := count(c.r); got != c.want || codes[201]+codes[403] != c.n {
				t.Errorf("%d were begun, want %d; answers %v", got, c.want, codes)
			}
		})
	}
	id := ana.small("Released twice", nil)
	var releases [2]server.Release
	for i := range releases {
		_, body := ana.ask("POST", "/api/activities/"+id+"/releases", map[string]any{"revision": 1, "request": "the-very-same-request-id"})
		releases[i] = read[server.Release](t, body)
	}
	if releases[0].ID == "" || releases[0].ID != releases[1].ID {
		t.Errorf("the same request made two releases: %+v", releases)
	}
	if code, body := s.browser(0).ask("POST", "/api"+releases[0].Link+"/sittings", map[string]string{"learner": "Lea", "request": "1"}); code != 422 {
		t.Errorf("a request id that can be guessed: %d %s", code, body)
	}
}

// Forgetting names lets nobody begin again who may not; deleting a sitting does.
func TestForgottenNamesAreStillCounted(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	list := ana.roster("Evening", "Lea Brandt")
	r := ana.released("Once", nil, map[string]any{"roster": list.ID, "mostEach": 1})
	begin := func() (int, string) {
		return s.browser(0).ask("POST", "/api"+r.Link+"/sittings", map[string]string{"code": list.Learners[0].Code})
	}
	if code, body := begin(); code != 201 {
		t.Fatalf("%d %s", code, body)
	}
	me := must(s.store.MemberByEmail(t.Context(), "ana@cobblelane.example"))(t)
	me.NamesDays = 1
	if _, err := s.store.DB().Exec(`UPDATE sittings SET started_at = started_at - INTERVAL 2 DAY WHERE learner = 'Lea Brandt'`); err != nil {
		t.Fatal(err)
	}
	must(s.store.ForgetNames(t.Context(), me))(t)
	if code, body := begin(); code != 403 || !strings.Contains(body, "begun-before") {
		t.Errorf("with the name forgotten: %d %s", code, body)
	}
	r2 := ana.released("Once more", nil, map[string]any{"roster": list.ID, "mostEach": 1})
	r = r2
	begin()
	var id int64
	if err := s.store.DB().QueryRowContext(t.Context(), `SELECT id FROM sittings WHERE release_id = ?`, r2.ID).Scan(&id); err != nil {
		t.Fatal(err)
	}
	if err := s.store.In(me.WorkspaceID).Erase(t.Context(), []store.Trace{{Kind: "sitting", ID: id}}); err != nil {
		t.Fatal(err)
	}
	if code, body := begin(); code != 201 {
		t.Errorf("with the sitting deleted: %d %s", code, body)
	}
}

func must[T any](v T, err error) func(*testing.T) T {
	return func(t *testing.T) T {
		t.Helper()
		if err != nil {
			t.Fatal(err)
		}
		return v
	}
}

// Who may have more time than an activity allows is told, and can be allowed it at once.
func TestExtraTimeIsTold(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	list := ana.roster("More time", "Lea Brandt")
	list.Learners[0].TimePercent = 150
	ana.ask("PUT", "/api/rosters/"+list.ID, map[string]any{"name": "More time", "learners": list.Learners})
	if _, body := ana.ask("GET", "/api/rosters", nil); !strings.Contains(body, `"mostTime":150`) {
		t.Errorf("the rosters: %s", body)
	}
	r := ana.released("Timed", timed(60_000), map[string]any{"roster": list.ID})
	begin := func() int {
		_, body := s.browser(0).ask("POST", "/api"+r.Link+"/sittings", map[string]string{"code": list.Learners[0].Code})
		return read[hosting.Begun](t, body).Sitting.Scene.TimeLimit
	}
	if r.AllowsTime != 100 {
		t.Errorf("the release allows %d%%", r.AllowsTime)
	}
	if got := begin(); got != 60_000 {
		t.Errorf("before it is allowed: %d ms", got)
	}
	ana.ask("PUT", "/api/releases/"+r.ID+"/entry", map[string]any{"roster": list.ID, "extension": 150, "mostEach": 0})
	_, body := ana.ask("GET", "/api/activities/"+must(s.store.In(must(s.store.MemberByEmail(t.Context(), "ana@cobblelane.example"))(t).WorkspaceID).Release(t.Context(), r.ID))(t).ActivityID+"/releases", nil)
	if !strings.Contains(body, `"allowsTime":150`) {
		t.Errorf("afterwards: %s", body)
	}
	if _, err := s.store.DB().ExecContext(t.Context(), `UPDATE sittings SET phase = 'done' WHERE release_id = ?`, r.ID); err != nil {
		t.Fatal(err)
	}
	if got := begin(); got != 90_000 {
		t.Errorf("once it is allowed: %d ms", got)
	}
	if doc := read[server.Draft](t, second(ana.ask("POST", "/api/activities/new", map[string]string{"kind": "sort", "title": "New"}))); !strings.Contains(string(doc.Document), `"extension":200`) {
		t.Error("a new activity does not allow 200%")
	}
}

func second(_ int, body string) string { return body }
