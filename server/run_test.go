package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/hosting"
	"keenmagpie/server"
)

func (b *browser) newSeries(title string, activities ...string) server.SeriesDraft {
	b.t.Helper()
	code, body := b.ask("POST", "/api/series", map[string]any{"title": title, "activities": activities})
	if code != 201 {
		b.t.Fatalf("a new series: %d %s", code, body)
	}
	return read[server.SeriesDraft](b.t, body)
}

type roster struct {
	ID       string
	Learners []server.RosterLearner
}

func (b *browser) roster(name string, learners ...string) roster {
	b.t.Helper()
	list := []map[string]any{}
	for _, l := range learners {
		list = append(list, map[string]any{"name": l, "timePercent": 100})
	}
	code, body := b.ask("POST", "/api/rosters", map[string]any{"name": name, "learners": list})
	if code != 201 {
		b.t.Fatalf("a new roster: %d %s", code, body)
	}
	return read[roster](b.t, body)
}

// small is an activity with one piece that is right in one of two targets, and one
// attempt; change makes it another.
func (b *browser) small(title string, change func(*activity.Doc)) (id string) {
	b.t.Helper()
	doc, _ := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"small",
		"items":[{"id":"bell","name":"Bell","text":"Bell"}],
		"targets":[{"id":"handlebar","name":"Handlebar","frame":{"x":0,"y":0,"w":200,"h":200}},{"id":"frame","name":"Frame","frame":{"x":300,"y":0,"w":200,"h":200}}],
		"key":{"solutions":[{"right":{"handlebar":{"all":true}}}]}}`))
	doc.Title = title
	if change != nil {
		change(doc)
	}
	code, body := b.ask("POST", "/api/activities", json.RawMessage(doc.Write()))
	if code != 201 {
		b.t.Fatalf("a small activity: %d %s", code, body)
	}
	return read[server.Draft](b.t, body).ID
}

// walker goes through a series at a browser.
type walker struct {
	*browser
	base string
	view hosting.View
	n    int
}

func (w *walker) to(body map[string]any) int {
	w.t.Helper()
	code, text := w.ask("POST", w.base+"/go", body)
	if code == 200 {
		w.view = read[hosting.View](w.t, text)
		w.n = 0
	}
	return code
}

// puts places the only piece into a target, and checks.
func (w *walker) puts(target int) play.Standing {
	w.t.Helper()
	seated := w.view.Sitting
	at := fmt.Sprintf("%s/moves?step=%d&turn=%d", w.base, w.view.Now.At, seated.Turn)
	var text string
	for _, m := range []play.Move{{Do: "place", Piece: seated.Scene.Pieces[0].ID, Target: seated.Scene.Targets[target].ID}, {Do: "check"}} {
		w.n++
		m.N, m.T = seated.Standing.N+w.n, seated.Standing.T
		var code int
		if code, text = w.ask("POST", at, m); code != 200 {
			w.t.Fatalf("%+v: %d %s", m, code, text)
		}
	}
	return read[play.Standing](w.t, text)
}

func (w *walker) next() int {
	w.t.Helper()
	_, text := w.ask("GET", w.base+"/now", nil)
	return read[struct{ Next int }](w.t, text).Next
}

// A series is gone through on two servers: what keeps a learner, what a page may be
// seen for, what it all comes to, and doing once more what was not right. What is
// changed after the release changes nothing.
func TestASeriesIsGoneThrough(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	one, two := ana.small("First", func(d *activity.Doc) {
		d.Replies = []activity.Reply{{ID: "look", Moment: "done", Tone: "plain", Spot: "edge", Say: activity.Say{Text: "Look again."}, Offer: []string{"page:why", "next"}}}
	}), ana.small("Second", nil)
	draft := ana.newSeries("Walk", one, two)
	doc, faults := activity.ReadSeries([]byte(draft.Document))
	if faults != nil {
		t.Fatal(faults)
	}
	doc.Steps = append([]activity.Leg{{Page: &activity.Page{ID: "hello", Title: "Hello", Text: "Read *this*."}, MoveOn: "done"}}, doc.Steps...)
	doc.Steps = append(doc.Steps, activity.Leg{Page: &activity.Page{ID: "why", Title: "Why", Text: "Because."}, MoveOn: "done"})
	doc.Again, doc.PassMark = "wrong", 6000
	doc.Bands = []activity.Band{{From: 0, Name: "Once more"}, {From: 10000, Name: "All of it"}}
	if code, body := ana.ask("PUT", "/api/series/"+draft.ID+"?revision=1", json.RawMessage(doc.Write())); code != 200 {
		t.Fatalf("saving: %d %s", code, body)
	}
	if code, body := ana.ask("PUT", "/api/series/"+draft.ID+"?revision=1", json.RawMessage(doc.Write())); code != 409 || !strings.Contains(body, "newer-revision") {
		t.Errorf("saving over it: %d %s", code, body)
	}
	// The pages that its replies can lead to are known by title; one that is in no step stops the release.
	if _, body := ana.ask("GET", "/api/activities/"+one+"/pages", nil); !strings.Contains(body, `{"id":"why","title":"Why","series":"Walk"}`) {
		t.Errorf("the pages: %s", body)
	}
	without := *doc
	without.Steps = doc.Steps[:len(doc.Steps)-1]
	ana.ask("PUT", "/api/series/"+draft.ID+"?revision=2", json.RawMessage(without.Write()))
	if code, body := ana.ask("POST", "/api/series/"+draft.ID+"/releases", map[string]int{"revision": 3}); code != 422 || !strings.Contains(body, "offer-nowhere") || !strings.Contains(body, "Look again.") {
		t.Errorf("releasing with an offer that leads nowhere: %d %s", code, body)
	}
	if code, body := ana.ask("PUT", "/api/series/"+draft.ID+"?revision=3", json.RawMessage(doc.Write())); code != 200 {
		t.Fatalf("saving again: %d %s", code, body)
	}
	code, body := ana.ask("POST", "/api/series/"+draft.ID+"/releases", map[string]int{"revision": 4})
	if code != 201 {
		t.Fatalf("releasing: %d %s", code, body)
	}
	r := read[server.Release](t, body)
	// The activities go on; the release stays.
	if code, body := ana.ask("DELETE", "/api/activities/"+one, nil); code != 204 {
		t.Fatalf("deleting: %d %s", code, body)
	}
	if code, body := ana.ask("POST", "/api/series/"+draft.ID+"/releases", map[string]int{"revision": 4}); code != 422 || !strings.Contains(body, "activity-missing") {
		t.Errorf("releasing without one of its activities: %d %s", code, body)
	}

	lea := &walker{browser: s.browser(0), base: "/api" + r.Link}
	_, text := lea.ask("GET", lea.base, nil)
	if o := read[server.Opening](t, text); o.Title != "Walk" || o.Series == nil || o.Series.Steps != 4 || o.Series.UnderWay || strings.Contains(text, "Because") {
		t.Errorf("the opening: %s", text)
	}
	if code := lea.to(map[string]any{}); code != 404 {
		t.Errorf("before it is begun: %d", code)
	}
	if code, body := lea.ask("POST", lea.base+"/sittings", map[string]string{"learner": "Lea"}); code != 201 || read[hosting.Begun](t, body).Sitting != nil {
		t.Fatalf("beginning: %d %s", code, body)
	}
	lea.to(map[string]any{})
	if p := lea.view.Page; p == nil || p.Title != "Hello" || lea.view.Now.Next != 1 || lea.view.Now.At != 0 {
		t.Errorf("the first step: %+v", lea.view)
	}
	if lea.to(map[string]any{"to": 2}) != 409 || lea.to(map[string]any{"page": "why"}) != 409 || lea.to(map[string]any{"page": "what"}) != 409 || lea.to(map[string]any{"again": true}) != 409 || lea.to(map[string]any{"retry": true}) != 409 {
		t.Error("a step, a page or another go was given before its time")
	}
	lea.to(map[string]any{"to": 1})
	if lea.view.Sitting == nil || lea.view.Now.Next != -1 || lea.next() != -1 {
		t.Fatalf("the first activity: %+v", lea.view.Now)
	}
	if code := lea.to(map[string]any{"to": 2}); code != 409 {
		t.Errorf("on before it is done: %d", code)
	}
	// On the other server it is the same sitting.
	lea.url = s.urls[1]
	lea.to(map[string]any{})
	if after := lea.puts(1); after.Phase != "done" || after.Final.Score != "0.00" {
		t.Errorf("wrong, and no attempt left: %+v", after.Final)
	}
	if lea.next() != 2 {
		t.Error("out of attempts, the learner is kept")
	}
	// A reply offers a page that was not reached yet; the step stays the same.
	if code := lea.to(map[string]any{"page": "why"}); code != 200 || lea.view.Page == nil || !lea.view.Page.Aside || lea.view.Now.At != 1 {
		t.Errorf("the page that was offered: %d %+v", code, lea.view)
	}
	lea.url = s.urls[0]
	lea.to(map[string]any{"to": 2})
	if after := lea.puts(0); after.Final.Score != "10.00" {
		t.Errorf("right: %+v", after.Final)
	}
	lea.to(map[string]any{"to": 3})
	lea.to(map[string]any{"to": 4})
	total := lea.view.Now.Total
	if total == nil || total.Score != "10.00" || total.Points != "20" || total.Percent != "50.00" || total.Passed || total.Band != "Once more" || lea.view.Now.Again != "wrong" {
		t.Fatalf("the result: %+v", lea.view.Now)
	}
	// What was right is looked at; what was not is done once more.
	lea.to(map[string]any{"to": 2})
	if lea.view.Sitting == nil || lea.view.Sitting.Standing.Phase != "done" || lea.view.Now.Next != 4 {
		t.Errorf("looking back: %+v", lea.view.Now)
	}
	lea.to(map[string]any{"to": 4})
	lea.to(map[string]any{"again": true})
	if lea.view.Now.At != 1 || lea.view.Sitting == nil || lea.view.Sitting.Turn != 1 || lea.view.Sitting.Standing.N != 0 {
		t.Fatalf("once more: %+v", lea.view.Now)
	}
	lea.puts(0)
	lea.to(map[string]any{"to": lea.next()})
	if total := lea.view.Now.Total; total == nil || total.Score != "20.00" || !total.Passed || total.Band != "All of it" || lea.view.Now.Again != "" {
		t.Errorf("all of it: %+v", lea.view.Now)
	}
	_, text = ana.ask("GET", "/api/releases/"+r.ID+"/runs", nil)
	if rows := read[struct{ Runs []server.RunRow }](t, text).Runs; len(rows) != 1 || rows[0].Learner != "Lea" || !rows[0].Done || rows[0].Score != "20.00" || rows[0].Band != "All of it" {
		t.Errorf("what the designer sees: %s", text)
	}
	// Each activity has outcomes of its own: what came of it the first time.
	for step, facility := range map[int]float64{1: 0, 2: 1} {
		code, text := ana.ask("GET", fmt.Sprintf("/api/releases/%s/outcomes?step=%d", r.ID, step), nil)
		f := read[server.Outcomes](t, text).Figures
		if code != 200 || f.Sittings != 1 || f.Finished != 1 || f.Final.Items[0].Facility != facility {
			t.Errorf("step %d: %d %+v", step, code, f)
		}
		if _, text := ana.ask("GET", fmt.Sprintf("/api/releases/%s/sittings.jsonl?step=%d", r.ID, step), nil); strings.Count(text, `"learner":"Lea"`) != 1 {
			t.Errorf("the sittings of step %d: %s", step, text)
		}
	}
	if code, _ := ana.ask("GET", "/api/releases/"+r.ID+"/outcomes?step=0", nil); code != 404 {
		t.Errorf("outcomes of a page: %d", code)
	}
	if code, text := ana.ask("GET", "/api/releases/"+r.ID+"/runs.csv", nil); code != 200 || !strings.Contains(text, `,"Lea",`) || !strings.Contains(text, `"finished",4,4,20.00,100.00,"All of it"`) {
		t.Errorf("the runs: %d %s", code, text)
	}
}

// Coming back to an activity goes on with it, or starts over, as it says; also where it
// is released by itself.
func TestComingBack(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	resume, restart := ana.small("Goes on", nil), ana.small("Starts over", func(d *activity.Doc) { d.Play.Reenter = "restart" })
	draft := ana.newSeries("Back and forth", resume, restart)
	doc, _ := activity.ReadSeries([]byte(draft.Document))
	doc.Steps[0].MoveOn, doc.Steps[1].MoveOn = "free", "free"
	ana.ask("PUT", "/api/series/"+draft.ID+"?revision=1", json.RawMessage(doc.Write()))
	_, body := ana.ask("POST", "/api/series/"+draft.ID+"/releases", map[string]int{"revision": 2})
	lea := &walker{browser: s.browser(0), base: "/api" + read[server.Release](t, body).Link}
	lea.ask("POST", lea.base+"/sittings", map[string]string{"learner": "Lea"})
	for step, want := range []string{"placed", "home"} {
		lea.to(map[string]any{"to": step})
		m := play.Move{N: 1, Do: "place", Piece: lea.view.Sitting.Scene.Pieces[0].ID, Target: lea.view.Sitting.Scene.Targets[0].ID}
		if code, body := lea.ask("POST", fmt.Sprintf("%s/moves?step=%d&turn=0", lea.base, step), m); code != 200 {
			t.Fatalf("%d %s", code, body)
		}
		lea.to(map[string]any{"to": 1 - step})
		lea.to(map[string]any{"to": step})
		got := map[bool]string{true: "placed", false: "home"}[len(lea.view.Sitting.Standing.Stands) == 1]
		if got != want {
			t.Errorf("%s: the piece is %s, want %s", lea.view.Sitting.Scene.Title, got, want)
		}
	}
	_, body = ana.ask("POST", "/api/activities/"+restart+"/releases", map[string]int{"revision": 1})
	tom := s.browser(0)
	base, seated := tom.seat(read[server.Release](t, body))
	if _, text := tom.ask("GET", base, nil); read[server.Opening](t, text).Sitting == nil {
		t.Errorf("nothing was done, and it is begun anew: %s", text)
	}
	tom.ask("POST", base+"/moves", play.Move{N: 1, Do: "place", Piece: seated.Scene.Pieces[0].ID, Target: seated.Scene.Targets[0].ID})
	if _, text := tom.ask("GET", base, nil); read[server.Opening](t, text).Sitting != nil || read[server.Opening](t, text).Learner != "Lea" {
		t.Errorf("coming back: %s", text)
	}
}

// A roster's learner enters by code, goes on at another device, has more time, and
// begins no oftener than may be; a window, and a limit in all, keep others out.
func TestWhoEnters(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id := ana.small("Timed", func(d *activity.Doc) { d.Play.TimeLimit, d.Play.Extension = 60000, 150 })
	_, body := ana.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": 1})
	r := read[server.Release](t, body)
	list := ana.roster("Tuesday evening", "Lea Brandt", "Tom Okafor")
	learners := list.Learners
	if len(learners) != 2 || len(learners[0].Code) != 8 || learners[0].Code == learners[1].Code {
		t.Fatalf("the roster: %+v", list)
	}
	learners[0].TimePercent = 200
	learners = append(learners, server.RosterLearner{Name: " Mia  Sund ", TimePercent: 100})
	code, body := ana.ask("PUT", "/api/rosters/"+list.ID, map[string]any{"name": "Tuesday", "learners": learners})
	saved := read[roster](t, body)
	if code != 200 || len(saved.Learners) != 3 || saved.Learners[0].Code != learners[0].Code || saved.Learners[1].Name != "Mia Sund" {
		t.Fatalf("saving the roster: %d %s", code, body)
	}
	set := func(e map[string]any) {
		t.Helper()
		if code, body := ana.ask("PUT", "/api/releases/"+r.ID+"/entry", e); code != 200 {
			t.Fatalf("%v: %d %s", e, code, body)
		}
	}
	begin := func(b *browser, body map[string]string) (int, string) {
		return b.ask("POST", "/api"+r.Link+"/sittings", body)
	}
	set(map[string]any{"roster": list.ID, "mostEach": 1})
	lea := s.browser(0)
	if _, text := lea.ask("GET", "/api"+r.Link, nil); !read[server.Opening](t, text).ByCode {
		t.Errorf("no code is asked for: %s", text)
	}
	if code, text := begin(lea, map[string]string{"learner": "Lea"}); code != 403 || !strings.Contains(text, "wrong-code") {
		t.Errorf("without a code: %d %s", code, text)
	}
	// As it is written on paper: large letters, a gap in the middle.
	written := strings.ToUpper(learners[0].Code[:4]) + " " + learners[0].Code[4:]
	code, text := begin(lea, map[string]string{"code": written})
	if code != 201 {
		t.Fatalf("by code: %d %s", code, text)
	}
	seated := read[hosting.Begun](t, text).Sitting
	// Twice the time is asked for, and one and a half is what the activity allows.
	if seated.Learner != "Lea Brandt" || seated.Scene.TimeLimit != 90000 {
		t.Errorf("%s has %d ms", seated.Learner, seated.Scene.TimeLimit)
	}
	s.later(80 * time.Second)
	for n, do := range []activity.Do{"place", "check"} {
		m := play.Move{N: n + 1, T: 80000, Do: do}
		if do == "place" {
			m.Piece, m.Target = seated.Scene.Pieces[0].ID, seated.Scene.Targets[0].ID
		}
		if code, text := lea.ask("POST", "/api"+r.Link+"/moves", m); code != 200 || strings.Contains(text, "rejected") {
			t.Errorf("within the longer time: %d %s", code, text)
		}
	}
	// At another device and another server the code leads to the same sitting.
	phone := s.browser(1)
	code, text = begin(phone, map[string]string{"code": learners[0].Code})
	if code != 201 || read[hosting.Begun](t, text).Sitting.Standing.Phase != "done" {
		t.Errorf("one sitting each, and it is over: %d %s", code, text)
	}
	set(map[string]any{"roster": list.ID})
	if code, text := begin(phone, map[string]string{"code": learners[0].Code}); code != 201 || read[hosting.Begun](t, text).Sitting.Standing.Phase != "placing" {
		t.Errorf("as often as one likes: %d %s", code, text)
	}
	if code, text := ana.ask("DELETE", "/api/rosters/"+list.ID, nil); code != 409 || !strings.Contains(text, "in-use") {
		t.Errorf("a roster in use: %d %s", code, text)
	}

	now := time.Now()
	for _, c := range []struct {
		set  map[string]any
		code int
		says string
	}{
		{map[string]any{"opensAt": now.Add(time.Hour)}, 403, "not-open-yet"},
		{map[string]any{"closesAt": now.Add(-time.Hour)}, 403, "closed"},
		{map[string]any{"most": 2}, 403, "full"},
		{map[string]any{"most": 3, "opensAt": now.Add(-time.Hour), "closesAt": now.Add(time.Hour)}, 201, ""},
	} {
		set(c.set)
		if code, text := begin(s.browser(0), map[string]string{"learner": "Kim"}); code != c.code || !strings.Contains(text, c.says) {
			t.Errorf("%v: %d %s", c.set, code, text)
		}
	}
	if code, text := ana.ask("PUT", "/api/releases/"+r.ID+"/entry", map[string]any{"opensAt": now, "closesAt": now.Add(-time.Hour)}); code != 422 {
		t.Errorf("a window that closes first: %d %s", code, text)
	}
	if code, text := ana.ask("PUT", "/api/releases/"+r.ID+"/entry", map[string]any{"roster": "elsewhere"}); code != 404 {
		t.Errorf("a roster that is not there: %d %s", code, text)
	}

	// Who may begin can be said before anyone can.
	release := func(entry map[string]any) (int, string) {
		return ana.ask("POST", "/api/activities/"+id+"/releases", map[string]any{"revision": 1, "entry": entry})
	}
	code, text = release(map[string]any{"opensAt": now.Add(time.Hour)})
	later := read[server.Release](t, text)
	if code != 201 || later.Entry.OpensAt == nil {
		t.Errorf("a release for later: %d %s", code, text)
	}
	if code, text := s.browser(0).ask("POST", "/api"+later.Link+"/sittings", map[string]string{"learner": "Kim"}); code != 403 || !strings.Contains(text, "not-open-yet") {
		t.Errorf("begun before it opens: %d %s", code, text)
	}
	if code, text := release(map[string]any{"opensAt": now, "closesAt": now.Add(-time.Hour)}); code != 422 {
		t.Errorf("released with a window that closes first: %d %s", code, text)
	}
	if code, text := release(map[string]any{"roster": "elsewhere"}); code != 404 {
		t.Errorf("released for a roster that is not there: %d %s", code, text)
	}

	// Wrong codes are slowed down; a link's good codes wait with them.
	set(map[string]any{"roster": list.ID})
	guesser := s.browser(0)
	for i := range 40 {
		code, _ = begin(guesser, map[string]string{"code": fmt.Sprintf("abcd%04d", i)})
	}
	if code != 429 {
		t.Errorf("after forty wrong codes: %d", code)
	}
}

// A series' time is for all of it: its activities get no more than is left.
func TestTheTimeOfASeries(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id := ana.small("Long", func(d *activity.Doc) { d.Play.TimeLimit = 60000 })
	draft := ana.newSeries("Short", id)
	doc, _ := activity.ReadSeries([]byte(draft.Document))
	doc.TimeLimit = 400
	ana.ask("PUT", "/api/series/"+draft.ID+"?revision=1", json.RawMessage(doc.Write()))
	_, body := ana.ask("POST", "/api/series/"+draft.ID+"/releases", map[string]int{"revision": 2})
	lea := &walker{browser: s.browser(0), base: "/api" + read[server.Release](t, body).Link}
	lea.ask("POST", lea.base+"/sittings", map[string]string{"learner": "Lea"})
	lea.to(map[string]any{})
	seated := lea.view.Sitting
	if seated == nil || seated.Scene.TimeLimit > 400 || seated.Scene.TimeLimit < 1 || lea.view.TimeLimit != 400 {
		t.Fatalf("what is left: %+v", lea.view)
	}
	m := play.Move{N: 1, Do: "place", Piece: seated.Scene.Pieces[0].ID, Target: seated.Scene.Targets[0].ID}
	lea.ask("POST", lea.base+"/moves?step=0&turn=0", m)
	// What stood when the time was up counts.
	s.later(500 * time.Millisecond)
	lea.to(map[string]any{})
	if now := lea.view.Now; now.At != 1 || now.Total == nil || now.Total.Score != "10.00" {
		t.Errorf("the result: %+v", now)
	}
}

// A draft is tried by a link until that is withdrawn; nothing is kept of it, nothing of
// the key is sent, and what is saved meanwhile does not reach into it.
func TestADraftIsTriedByALink(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	links := func(method, path string) []string {
		t.Helper()
		code, body := ana.ask(method, "/api/activities/"+id+"/draft-links"+path, nil)
		if code != 200 && code != 201 {
			t.Fatalf("%s: %d %s", method, code, body)
		}
		return read[struct{ Links []string }](t, body).Links
	}
	link := links("POST", "")[0]
	kim := s.browser(0)
	code, body := kim.ask("GET", "/api"+link, nil)
	if code != 200 {
		t.Fatalf("trying: %d %s", code, body)
	}
	trying := read[hosting.Trying](t, body)
	doc, _ := activity.Read([]byte(draft.Document))
	for _, own := range []string{`"chain"`, `"drivetrain"`, doc.Items[0].Picture, "solutions", `"lets"`} {
		if strings.Contains(body, own) {
			t.Errorf("the traffic holds %s", own)
		}
	}
	base := fmt.Sprintf("/api%s/%d", link, trying.Revision)
	scene := trying.Seated.Scene
	var chain string
	for _, p := range scene.Pieces {
		if p.Text == "Chain" {
			chain = p.ID
		}
	}
	doc.Targets[0].Lets = activity.Selector{Items: []string{"bell"}}
	if code, body := ana.ask("PUT", "/api/activities/"+id+"?revision=1", json.RawMessage(doc.Write())); code != 200 {
		t.Fatalf("saving: %d %s", code, body)
	}
	moves := []play.Move{{N: 1, Do: "place", Piece: chain, Target: scene.Targets[0].ID}, {N: 2, Do: "check"}}
	ask := map[string]any{"seed": trying.Seed, "moves": moves}
	for _, url := range s.urls {
		kim.url = url
		code, body = kim.ask("POST", base+"/moves", ask)
		if st := read[play.Standing](t, body); code != 200 || st.N != 2 || len(st.Targets[scene.Targets[0].ID]) != 1 {
			t.Errorf("playing it: %d %s", code, body)
		}
	}
	if code, _ := kim.ask("GET", base+"/media/"+scene.Pieces[0].Picture, nil); code != 200 {
		t.Errorf("its pictures: %d", code)
	}
	if _, text := ana.ask("GET", "/api/activities", nil); strings.Contains(text, `"sittings":1`) {
		t.Error("it was recorded")
	}
	if left := links("DELETE", strings.TrimPrefix(link, "/try")); len(left) != 0 {
		t.Errorf("still there: %v", left)
	}
	for _, path := range []string{"/api" + link, base + "/media/" + scene.Pieces[0].Picture} {
		if code, body := kim.ask("GET", path, nil); code != 404 {
			t.Errorf("withdrawn, %s: %d %s", path, code, body)
		}
	}
	if code, _ := kim.ask("POST", base+"/moves", ask); code != 404 {
		t.Errorf("withdrawn, playing on: %d", code)
	}
}
