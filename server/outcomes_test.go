package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/demo"
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
