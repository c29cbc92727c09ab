package server_test

import (
	"bufio"
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"strings"
	"testing"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/demo"
	"keenmagpie/hosting"
	"keenmagpie/server"
)

// The demo's first release tells that the jockey wheel looks keyed wrong, and nothing
// else; the second suspects nothing. Whoever only sees outcomes sees them.
func TestOutcomesOfTheDemo(t *testing.T) {
	s := newSite(t)
	for range 2 { // twice is as once
		if err := demo.LoadSittings(t.Context(), s.store); err != nil {
			t.Fatal(err)
		}
	}
	mara := s.signedIn(demo.Accounts()[2].Email, demo.Accounts()[2].Password)
	id, _ := mara.activity()
	_, body := mara.ask("GET", "/api/activities/"+id+"/releases", nil)
	list := read[struct{ Releases []server.Release }](t, body).Releases
	if len(list) != 2 || list[1].Sittings != 180 || list[1].Finished != 180 || list[0].Sittings != 40 || list[0].Finished != 40 {
		t.Fatalf("the releases: %s", body)
	}
	for i, want := range []string{"", demo.Misplaced} {
		code, body := mara.ask("GET", "/api/releases/"+list[i].ID+"/outcomes", nil)
		if code != 200 {
			t.Fatalf("outcomes: %d %s", code, body)
		}
		f := read[server.Outcomes](t, body).Figures
		suspects := ""
		for _, it := range f.First.Items {
			if it.Suspect != nil {
				suspects += it.Item
			}
		}
		if suspects != want || f.Finished != list[i].Finished || f.First.Alpha == nil || *f.First.Alpha < 0.3 || f.First.Scores.Mean < 30 || f.First.Scores.Mean > 90 {
			t.Errorf("release %d: suspects %q, %+v", list[i].Number, suspects, f.First.Scores)
		}
	}
	// What is played since is there the next time.
	lea := s.browser(0)
	base, seated := lea.seat(list[0])
	lea.ask("POST", base+"/moves", play.Move{N: 1, Do: "place", Piece: seated.Scene.Pieces[0].ID, Target: seated.Scene.Targets[0].ID})
	_, body = mara.ask("GET", "/api/releases/"+list[0].ID+"/outcomes", nil)
	if f := read[server.Outcomes](t, body).Figures; f.Sittings != 41 || f.Finished != 40 {
		t.Errorf("after another: %d sittings, %d finished", f.Sittings, f.Finished)
	}
}

// The key is corrected, and finished sittings are scored again: looked at first, then
// applied, seen by the learner and in the outcomes, and taken back.
func TestRemark(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id := ana.small("Keyed wrong", nil)
	_, body := ana.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": 1})
	r := read[server.Release](t, body)
	play1 := func(name string, target int, check bool) *browser {
		b := s.browser(0)
		base, seated := b.seat(r)
		b.ask("POST", base+"/moves", play.Move{N: 1, Do: "place", Piece: seated.Scene.Pieces[0].ID, Target: seated.Scene.Targets[target].ID})
		if check {
			b.ask("POST", base+"/moves", play.Move{N: 2, Do: "check"})
		}
		return b
	}
	lea := play1("Lea", 1, true) // in the frame, which will turn out to be right
	play1("Tom", 0, true)
	play1("Kim", 1, false) // not finished
	score := func() string {
		_, text := lea.ask("GET", "/api"+r.Link, nil)
		return read[server.Opening](t, text).Sitting.Standing.Final.Score
	}
	look := func() server.RemarkLook {
		t.Helper()
		code, text := ana.ask("POST", "/api/releases/"+r.ID+"/remarks", nil)
		lines := strings.Split(strings.TrimSpace(text), "\n")
		last := read[server.RemarkStep](t, lines[len(lines)-1])
		if code != 200 || len(lines) < 2 || last.Done != last.Of || last.Remark == "" {
			t.Fatalf("working it out: %d %s", code, text)
		}
		code, text = ana.ask("GET", "/api/releases/"+r.ID+"/remarks/"+last.Remark, nil)
		if code != 200 {
			t.Fatalf("looking: %d %s", code, text)
		}
		return read[server.RemarkLook](t, text)
	}
	if l := look(); l.Sittings != 2 || len(l.Rows) != 0 || l.AppliedAt != nil || l.RevertedAt != nil {
		t.Errorf("before the key is corrected: %+v", l)
	}
	save := func(revision int, change func(*activity.Doc)) {
		t.Helper()
		_, text := ana.ask("GET", "/api/activities/"+id, nil)
		doc, faults := activity.Read([]byte(read[server.Draft](t, text).Document))
		if faults != nil {
			t.Fatal(faults)
		}
		change(doc)
		if code, text := ana.ask("PUT", fmt.Sprintf("/api/activities/%s?revision=%d", id, revision), json.RawMessage(doc.Write())); code != 200 {
			t.Fatalf("saving: %d %s", code, text)
		}
	}
	save(1, func(d *activity.Doc) {
		d.Key.Solutions[0].Right = map[string]activity.Selector{"frame": {All: true}}
	})
	l := look()
	if l.Better != 1 || l.Worse != 1 || len(l.Rows) != 2 || l.Rows[0].Was.Score == l.Rows[0].Is.Score || len(l.Changes) == 0 {
		t.Fatalf("what would change: %+v", l)
	}
	if score() != "0.00" {
		t.Error("looking has changed a score")
	}
	if _, text := ana.ask("GET", "/api/releases/"+r.ID+"/remarks", nil); strings.Contains(text, l.ID) {
		t.Error("what was looked at is listed as made")
	}
	save(2, func(d *activity.Doc) { d.Title = "Keyed right" })
	if code, text := ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+l.ID+"/apply", nil); code != 409 {
		t.Errorf("an older draft: %d %s", code, text)
	}
	l = look()
	play1("Zoe", 1, true) // finished after it was looked at
	code, text := ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+l.ID+"/apply", nil)
	list := read[struct{ Remarks []server.Remark }](t, text).Remarks
	if code != 200 || len(list) != 1 || list[0].Sittings != 3 || list[0].Better != 2 || list[0].Worse != 1 || list[0].AppliedAt == nil || list[0].MadeBy != "Ana Duarte" {
		t.Fatalf("re-marking: %d %s", code, text)
	}
	if score() != "10.00" {
		t.Errorf("the learner sees %s", score())
	}
	_, text = ana.ask("GET", "/api/releases/"+r.ID+"/outcomes", nil)
	if f := read[server.Outcomes](t, text).Figures; f.Final.N != 3 || f.Final.Items[0].Facility != 0.6667 || f.Final.Scores.Mean != 66.6667 {
		t.Errorf("outcomes: %+v", f.Final)
	}
	_, text = ana.ask("GET", "/api/releases/"+r.ID+"/sittings", nil)
	if strings.Count(text, `"score":"10.00"`) != 2 || strings.Count(text, `"score":"0.00"`) != 2 {
		t.Errorf("the list: %s", text)
	}
	// Other parts: nothing can be scored again.
	save(3, func(d *activity.Doc) { d.Items[0].Copies = 2 })
	if code, text := ana.ask("POST", "/api/releases/"+r.ID+"/remarks", nil); code != 422 || !strings.Contains(text, "Bell") {
		t.Errorf("other parts: %d %s", code, text)
	}
	if code, text := ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+list[0].ID+"/revert", nil); code != 200 || !strings.Contains(text, "revertedAt") {
		t.Errorf("taking it back: %d %s", code, text)
	}
	if score() != "0.00" {
		t.Errorf("taken back, the learner sees %s", score())
	}
	if code, _ := ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+list[0].ID+"/revert", nil); code != 404 {
		t.Errorf("twice: %d", code)
	}
}

// What was kept of sittings gives the figures that their logs give, also when nothing is
// kept, when it is of another format, or when a sitting has gone on since.
func TestWhatIsKeptIsWhatWasPlayed(t *testing.T) {
	s := newSite(t)
	ana, r := s.playedByFive()
	figures := func() string {
		t.Helper()
		code, text := ana.ask("GET", "/api/releases/"+r.ID+"/outcomes", nil)
		o := read[server.Outcomes](t, text)
		if code != 200 || o.Behind != 0 {
			t.Fatalf("%d %s", code, text)
		}
		body, _ := json.Marshal(o.Figures)
		return string(body)
	}
	kept := figures()
	db := s.store.DB()
	tallies := 0
	if err := db.QueryRow(`SELECT COUNT(*) FROM tallies`).Scan(&tallies); err != nil || tallies != 5 {
		t.Errorf("%d of 5 sittings are kept (%v)", tallies, err)
	}
	for _, q := range []string{`DELETE FROM tallies`, `UPDATE tallies SET body = 'of another time'`, `UPDATE tallies SET moves = 0, body = ''`} {
		if _, err := db.Exec(q); err != nil {
			t.Fatal(err)
		}
		if now := figures(); now != kept {
			t.Errorf("after %s\n%s\n%s", q, now, kept)
		}
	}
}

// playedByFive is a release of which four sittings are finished, one is under way.
func (s *site) playedByFive() (*browser, server.Release) {
	s.t.Helper()
	ana := s.ana()
	id := ana.small("Five", nil)
	_, body := ana.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": 1})
	r := read[server.Release](s.t, body)
	for i := range 5 {
		b := s.browser(0)
		base := "/api" + r.Link
		_, body := b.ask("POST", base+"/sittings", map[string]string{"learner": fmt.Sprintf("=Lea %d", i)})
		scene := read[hosting.Begun](s.t, body).Sitting.Scene
		s.later(5 * time.Second)
		b.ask("POST", base+"/moves", play.Move{N: 1, T: 1500, Do: "place", Piece: scene.Pieces[0].ID, Target: scene.Targets[i%2].ID})
		if i < 4 {
			b.ask("POST", base+"/moves", play.Move{N: 2, T: 4000, Do: "check"})
		}
	}
	return ana, r
}

func TestDownloads(t *testing.T) {
	s := newSite(t)
	ana, r := s.playedByFive()
	lines := func(b *browser, what string) []string {
		t.Helper()
		code, text := b.ask("GET", "/api/releases/"+r.ID+"/"+what, nil)
		if code != 200 {
			t.Fatalf("%s: %d %s", what, code, text)
		}
		return strings.Split(strings.TrimSpace(text), "\n")
	}
	for what, want := range map[string][]string{
		"sittings.csv":     {"\ufeffsitting,learner,started", ",\"'=Lea 0\",", ",\"done\",1,10.00,100.00,\"right\",", ",4000"},
		"sittings.jsonl":   {`"learner":"=Lea 0"`, `"state":"done"`, `"score":10.00`, `"milliseconds":4000`},
		"moves.csv":        {"sitting,learner,n,at,t,do,", ",1,", `,1500,"place","Bell",,"Handlebar",,,,"placed",false`},
		"moves.jsonl":      {`"n":1`, `"t":1500,"do":"place","item":"Bell","target":"Handlebar"`, `"result":"placed"`},
		"placements.csv":   {"sitting,learner,item,first places", `,"Bell","Handlebar",true,"Handlebar",true,1500`},
		"placements.jsonl": {`"item":"Bell","firstPlaces":["Handlebar"],"firstRight":true,"finalPlaces":["Handlebar"],"finalRight":true,"rightAfterMilliseconds":1500`},
	} {
		t.Run(what, func(t *testing.T) {
			list := lines(ana, what)
			text := strings.Join(list, "\n")
			for _, w := range want {
				if !strings.Contains(text, w) {
					t.Errorf("%s lacks %q:\n%s", what, w, text)
				}
			}
			n := map[string]int{"sittings": 5, "moves": 9, "placements": 5}[strings.Split(what, ".")[0]]
			if strings.HasSuffix(what, "csv") {
				n++
			} else {
				for _, line := range list {
					if !json.Valid([]byte(line)) {
						t.Errorf("%s: %s", what, line)
					}
				}
			}
			if len(list) != n {
				t.Errorf("%s has %d lines, not %d:\n%s", what, len(list), n, text)
			}
		})
	}
	_, log := ana.ask("GET", "/api/records", nil)
	if strings.Count(log, `"what":"download"`) != 6 || !strings.Contains(log, `"about":"Five, release 1"`) || !strings.Contains(log, `"detail":"moves as jsonl"`) {
		t.Errorf("the log: %s", log)
	}
}

// Who may not see names gets them nowhere: not in lists, files, replays, or by looking
// for them. Of too few sittings there are totals only.
func TestWhoSeesNames(t *testing.T) {
	s := newSite(t)
	ana, r := s.playedByFive()
	mara := s.signedIn(demo.Accounts()[2].Email, demo.Accounts()[2].Password)
	base := "/api/releases/" + r.ID
	set := func(p server.Privacy) {
		t.Helper()
		if code, text := ana.ask("PUT", "/api/privacy", p); code != 200 {
			t.Fatalf("%d %s", code, text)
		}
	}
	var sittings struct {
		Found, All int
		Names      bool
		Sittings   []server.SittingRow
	}
	get := func(b *browser, query string) {
		t.Helper()
		code, text := b.ask("GET", base+"/sittings"+query, nil)
		if code != 200 {
			t.Fatalf("%d %s", code, text)
		}
		sittings = read[struct {
			Found, All int
			Names      bool
			Sittings   []server.SittingRow
		}](t, text)
	}
	search := func(b *browser, text string) {
		t.Helper()
		code, body := b.ask("POST", base+"/sittings/search", map[string]string{"text": text})
		if code != 200 {
			t.Fatalf("%d %s", code, body)
		}
		sittings.Sittings = nil
		if err := json.Unmarshal([]byte(body), &sittings); err != nil {
			t.Fatal(err)
		}
	}
	search(mara, "LEA 3")
	if sittings.Found != 1 || sittings.All != 5 || !sittings.Names || sittings.Sittings[0].Learner != "=Lea 3" {
		t.Errorf("found by name: %+v", sittings)
	}
	get(mara, "?phase=done&sort=score&down=true")
	if sittings.Found != 4 || sittings.Sittings[0].Score != "10.00" || sittings.Sittings[3].Score != "0.00" {
		t.Errorf("the finished ones by score: %+v", sittings)
	}
	one := fmt.Sprintf("%s/sittings/%d", base, sittings.Sittings[0].ID)
	set(server.Privacy{NamesFor: "designers"})
	for _, path := range []string{"/sittings", "/sittings.csv", "/moves.jsonl", "/placements.csv"} {
		if code, text := mara.ask("GET", base+path, nil); code != 200 || strings.Contains(text, "Lea") {
			t.Errorf("%s: %d %s", path, code, text)
		}
		if _, text := ana.ask("GET", base+path, nil); !strings.Contains(text, "Lea") {
			t.Errorf("%s for the owner: %s", path, text)
		}
	}
	if code, text := mara.ask("GET", one, nil); code != 200 || strings.Contains(text, "Lea") {
		t.Errorf("the replay: %d %s", code, text)
	}
	search(mara, "Lea")
	if sittings.Found != 0 || sittings.Names {
		t.Errorf("looked for by a name: %+v", sittings)
	}
	for _, path := range []string{"/api/privacy", "/api/records"} {
		if code, _ := mara.ask("GET", path, nil); code != 403 {
			t.Errorf("%s: %d", path, code)
		}
	}
	set(server.Privacy{NamesFor: "members", LeastGroup: 6})
	for _, path := range []string{"/sittings.csv", "/moves.csv", "/placements.jsonl", strings.TrimPrefix(one, base)} {
		if code, text := ana.ask("GET", base+path, nil); code != 403 || !strings.Contains(text, "fewer than 6") {
			t.Errorf("%s of too few: %d %s", path, code, text)
		}
	}
	get(ana, "")
	if sittings.All != 5 || len(sittings.Sittings) != 0 {
		t.Errorf("listed of too few: %+v", sittings)
	}
	_, text := ana.ask("GET", base+"/outcomes", nil)
	if o := read[server.Outcomes](t, text); o.Least != 6 || o.Figures.Sittings != 5 || o.Figures.Finished != 4 || len(o.Figures.First.Items) != 0 || o.Figures.First.Scores.Mean != 0 {
		t.Errorf("figures of too few: %+v", o.Figures)
	}
}

// A learner is found wherever there is something of them, and deleted whole; names go
// when their time is over, and what was done stays.
func TestDeletingAndForgetting(t *testing.T) {
	s := newSite(t)
	ana, r := s.playedByFive()
	ana.ask("POST", "/api/rosters", map[string]any{"name": "Tuesday", "learners": []any{map[string]any{"name": "=lea 0", "timePercent": 100}}})
	_, text := ana.ask("POST", "/api/learners/find", map[string]string{"name": "=LEA 0"})
	traces := read[struct{ Traces []server.Trace }](t, text).Traces
	if len(traces) != 2 || traces[0].Kind != "sitting" || traces[0].Where != "Five" || traces[1].Kind != "roster" || traces[1].Where != "Tuesday" {
		t.Fatalf("found: %s", text)
	}
	some := append([]server.Trace{{Kind: "run", ID: 4711}}, traces...)
	if code, text := ana.ask("POST", "/api/learners/erase", map[string]any{"traces": some}); code != 404 {
		t.Errorf("with one that is not there: %d %s", code, text)
	}
	els := s.signedIn("else@where.example", "another-bell")
	if code, text := els.ask("POST", "/api/learners/erase", map[string]any{"traces": traces}); code != 404 {
		t.Errorf("from another workspace: %d %s", code, text)
	}
	if code, text := ana.ask("POST", "/api/learners/erase", map[string]any{"traces": traces}); code != 200 {
		t.Fatalf("deleting: %d %s", code, text)
	}
	if _, text := ana.ask("POST", "/api/learners/find", map[string]string{"name": "=LEA 0"}); !strings.Contains(text, `"traces":[]`) {
		t.Errorf("after it: %s", text)
	}
	_, text = ana.ask("GET", "/api/releases/"+r.ID+"/outcomes", nil)
	if f := read[server.Outcomes](t, text).Figures; f.Sittings != 4 || f.Finished != 3 {
		t.Errorf("figures: %+v", f)
	}
	for _, table := range []string{"moves", "tallies", "sittings"} {
		n := 0
		key := map[bool]string{true: "id", false: "sitting_id"}[table == "sittings"]
		if err := s.store.DB().QueryRow(`SELECT COUNT(*) FROM `+table+` WHERE `+key+` = ?`, traces[0].ID).Scan(&n); err != nil || n != 0 {
			t.Errorf("%d lines of %s are left (%v)", n, table, err)
		}
	}
	// Four names are left; two of them from long ago.
	if _, err := s.store.DB().Exec(`UPDATE sittings SET started_at = started_at - INTERVAL 40 DAY WHERE learner IN ('=Lea 1', '=Lea 2')`); err != nil {
		t.Fatal(err)
	}
	if _, text := ana.ask("GET", "/api/privacy?days=30", nil); !strings.Contains(text, `"forgets":2`) {
		t.Errorf("what it would take: %s", text)
	}
	if code, text := ana.ask("PUT", "/api/privacy", server.Privacy{NamesFor: "members", NamesDays: 30}); code != 200 {
		t.Fatalf("%d %s", code, text)
	}
	_, text = ana.ask("GET", "/api/releases/"+r.ID+"/sittings", nil)
	if strings.Count(text, `"learner":""`) != 2 || strings.Count(text, "=Lea") != 2 {
		t.Errorf("names left: %s", text)
	}
	// And those whose time comes later.
	if _, err := s.store.DB().Exec(`UPDATE sittings SET started_at = started_at - INTERVAL 40 DAY WHERE learner = '=Lea 3'`); err != nil {
		t.Fatal(err)
	}
	s.works()
	_, text = ana.ask("GET", "/api/records", nil)
	if strings.Contains(text, "Lea") || strings.Count(text, "names taken away") != 2 || !strings.Contains(text, "deletion") || !strings.Contains(text, "1 sitting, 1 line of a roster") || !strings.Contains(text, "kept for 30 days") {
		t.Errorf("the log: %s", text)
	}
}

// Whoever stops a re-mark while it is worked out leaves nothing behind.
func TestARemarkIsCancelled(t *testing.T) {
	s := newSite(t)
	if err := demo.LoadSittings(t.Context(), s.store); err != nil {
		t.Fatal(err)
	}
	db := s.store.DB()
	var release string
	if err := db.QueryRow(`SELECT release_id FROM sittings GROUP BY release_id HAVING COUNT(*) = 180`).Scan(&release); err != nil {
		t.Fatal(err)
	}
	// Enough of them that it takes a while.
	for _, q := range []string{
		`INSERT INTO moves (sitting_id, n, body, result, at) SELECT m.sitting_id + 1000 * q.seq, m.n, m.body, m.result, m.at
			FROM seq_1_to_30 q JOIN moves m JOIN sittings s ON s.id = m.sitting_id WHERE s.release_id = ?`,
		`INSERT INTO sittings (id, release_id, token, learner, semantics, started_at, seed, phase, attempts, score, percent, outcome)
			SELECT s.id + 1000 * q.seq, s.release_id, CONCAT('copy', s.id + 1000 * q.seq), s.learner, s.semantics, s.started_at, s.seed, s.phase, s.attempts, s.score, s.percent, s.outcome
			FROM seq_1_to_30 q JOIN sittings s WHERE s.release_id = ?`} {
		if _, err := db.Exec(`SET STATEMENT foreign_key_checks = 0 FOR `+q, release); err != nil {
			t.Fatal(err)
		}
	}
	ana := s.ana()
	ctx, cancel := context.WithCancel(t.Context())
	req, err := http.NewRequestWithContext(ctx, "POST", ana.url+"/api/releases/"+release+"/remarks", http.NoBody)
	if err != nil {
		t.Fatal(err)
	}
	answer, err := ana.Do(req)
	if err != nil {
		t.Fatal(err)
	}
	defer answer.Body.Close()
	lines := bufio.NewScanner(answer.Body)
	for lines.Scan() {
		if step := read[server.RemarkStep](t, lines.Text()); step.Of != 31*180 || step.Remark != "" {
			t.Fatalf("before it is stopped: %+v", step)
		} else if step.Done > 0 {
			break
		}
	}
	kept := 0
	if err := db.QueryRow(`SELECT COUNT(*) FROM remarked`).Scan(&kept); err != nil || kept == 0 {
		t.Fatalf("nothing was worked out yet (%v)", err)
	}
	cancel()
	for deadline := time.Now().Add(20 * time.Second); kept > 0; {
		if err := db.QueryRow(`SELECT (SELECT COUNT(*) FROM remarked) + (SELECT COUNT(*) FROM remarks) + (SELECT COUNT(*) FROM tallies)`).Scan(&kept); err != nil || time.Now().After(deadline) {
			t.Fatalf("%d lines are left (%v)", kept, err)
		}
	}
}
