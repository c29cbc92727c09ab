package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/play"
	"keenmagpie/core/series"
	"keenmagpie/hosting"
	"keenmagpie/server"
)

// corrects saves the draft with another key.
func (b *browser) corrects(id string, revision int, change func(*activity.Doc)) {
	b.t.Helper()
	_, text := b.ask("GET", "/api/activities/"+id, nil)
	doc, faults := activity.Read([]byte(read[server.Draft](b.t, text).Document))
	if faults != nil {
		b.t.Fatal(faults)
	}
	change(doc)
	if code, text := b.ask("PUT", fmt.Sprintf("/api/activities/%s?revision=%d", id, revision), json.RawMessage(doc.Write())); code != 200 {
		b.t.Fatalf("saving: %d %s", code, text)
	}
}

// looks works a re-mark out.
func (b *browser) looks(r server.Release) string {
	b.t.Helper()
	_, text := b.ask("POST", "/api/releases/"+r.ID+"/remarks", nil)
	lines := strings.Split(strings.TrimSpace(text), "\n")
	return read[server.RemarkStep](b.t, lines[len(lines)-1]).Remark
}

// A re-mark that is looked at at one server and applied at another reaches learners at
// both, who may have their sitting remembered there: a restart is judged by the new key.
func TestARemarkAcrossServers(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id := ana.small("Across", func(d *activity.Doc) { d.Play.Restart, d.Play.Attempts = true, 1 })
	_, body := ana.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": 1})
	r := read[server.Release](t, body)
	var learners [2]*learner
	for i := range learners {
		l := &learner{browser: s.browser(i), base: "/api" + r.Link}
		_, body := l.ask("POST", l.base+"/sittings", map[string]string{"learner": "Lea"})
		l.scene = read[hosting.Begun](t, body).Sitting.Scene
		l.does(1, 0, "place") // on the handlebar, which will turn out to be wrong
		l.does(2, 0, "check")
		learners[i] = l
	}
	ana.corrects(id, 1, func(d *activity.Doc) {
		d.Key.Solutions[0].Right = map[string]activity.Selector{"frame": {All: true}}
	})
	remark := ana.looks(r)
	if code, body := ana.ask("GET", "/api/releases/"+r.ID+"/remarks/"+remark, nil); code != 200 {
		t.Fatalf("looking: %d %s", code, body)
	}
	ana.url = s.urls[1]
	if code, body := ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+remark+"/apply", nil); code != 200 {
		t.Fatalf("applying at the other server: %d %s", code, body)
	}
	for i, l := range learners {
		code, body := l.ask("GET", l.base, nil)
		if code != 200 || read[server.Opening](t, body).Sitting.Standing.Final.Score != "0.00" {
			t.Errorf("learner %d sees %d %s", i, code, body)
		}
		l.does(3, 0, "restart")
		l.does(4, 0, "place")
		if got := l.does(5, 0, "check"); got.Final == nil || got.Final.Score != "0.00" {
			t.Errorf("learner %d begins anew, and is judged by the old key: %+v", i, got.Final)
		}
	}
}

// With "never lower", those who would score less keep what they have; and whoever had
// finished has finished, though the corrected key would let them go on.
func TestARemarkThatNeverLowers(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id := ana.small("Never lower", func(d *activity.Doc) { d.Play.Attempts = 3 })
	_, body := ana.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": 1})
	r := read[server.Release](t, body)
	lea := s.learner(r)
	lea.does(1, 0, "place")
	lea.does(2, 0, "check") // right, by the key of then
	tom := s.learner(r)
	m := play.Move{N: 1, Do: "place", Piece: tom.scene.Pieces[0].ID, Target: tom.scene.Targets[1].ID}
	for n, do := range []activity.Do{"place", "check", "again", "check", "again", "check"} {
		m.N, m.Do = n+1, do
		if do != "place" {
			m = play.Move{N: n + 1, Do: do}
		}
		tom.ask("POST", tom.base+"/moves", m)
	}
	ana.corrects(id, 1, func(d *activity.Doc) {
		d.Key.Solutions[0].Right = map[string]activity.Selector{"frame": {All: true}}
	})
	finals := func() (out []string) {
		for _, l := range []*learner{lea, tom} {
			_, body := l.ask("GET", l.base, nil)
			st := read[server.Opening](t, body).Sitting.Standing
			if st.Phase != "done" {
				t.Errorf("a learner who had finished is %s", st.Phase)
				continue
			}
			out = append(out, st.Final.Score)
		}
		return out
	}
	remark := ana.looks(r)
	if code, body := ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+remark+"/apply", map[string]bool{"neverLower": true}); code != 200 || !strings.Contains(body, `"neverLower":true`) {
		t.Fatalf("applying: %d %s", code, body)
	}
	if got := fmt.Sprint(finals()); got != "[10.00 10.00]" {
		t.Errorf("never lower: %s", got)
	}
	if log := ana.records(); !strings.Contains(log, "1 kept what they had") {
		t.Errorf("the log: %s", log)
	}
	ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+remark+"/revert", nil)
	if got := fmt.Sprint(finals()); got != "[10.00 0.00]" {
		t.Errorf("taken back: %s", got)
	}
	remark = ana.looks(r)
	ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+remark+"/apply", map[string]bool{})
	if got := fmt.Sprint(finals()); got != "[0.00 10.00]" {
		t.Errorf("lowered: %s", got)
	}
	if got := lea.does(3, 0, "lift"); got.Result != "rejected" {
		t.Errorf("going on, though finished: %s", got.Result)
	}
}

// A step of a series is scored again, at what it is worth there; the runs come to what their
// sittings come to now, at each server, and get back what they had.
func TestAStepIsRemarked(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	one, two := ana.small("First", nil), ana.small("Second", nil)
	draft := ana.newSeries("Two steps", one, two)
	doc, faults := activity.ReadSeries([]byte(draft.Document))
	if faults != nil {
		t.Fatal(faults)
	}
	points := exact.Hundredths(3000)
	doc.Steps[1].Points = &points
	ana.ask("PUT", "/api/series/"+draft.ID+"?revision=1", json.RawMessage(doc.Write()))
	code, body := ana.ask("POST", "/api/series/"+draft.ID+"/releases", map[string]int{"revision": 2})
	if code != 201 {
		t.Fatalf("releasing: %d %s", code, body)
	}
	r := read[server.Release](t, body)
	begun := func(n int) *walker {
		w := &walker{browser: s.browser(n), base: "/api" + r.Link}
		code, body := w.ask("POST", w.base+"/sittings", map[string]string{"learner": "Lea"})
		if code != 200 && code != 201 {
			t.Fatalf("beginning: %d %s", code, body)
		}
		w.to(map[string]any{})
		return w
	}
	lea, tom := begun(0), begun(1)
	for _, w := range []*walker{lea, tom} {
		w.puts(0) // right
		w.to(map[string]any{"to": 1})
	}
	lea.puts(1) // wrong, by the key of now
	lea.to(map[string]any{"to": 2})
	if got := lea.view.Now.Total; got == nil || got.Score != "10.00" {
		t.Fatalf("the total at first: %+v", got)
	}
	ana.corrects(two, 1, func(d *activity.Doc) {
		d.Key.Solutions[0].Right = map[string]activity.Selector{"frame": {All: true}}
		d.Marks.Points = 500 // what the step is worth is said by the series
	})
	look := func() string {
		_, text := ana.ask("POST", "/api/releases/"+r.ID+"/remarks?step=1", nil)
		lines := strings.Split(strings.TrimSpace(text), "\n")
		return read[server.RemarkStep](t, lines[len(lines)-1]).Remark
	}
	remark := look()
	_, body = ana.ask("GET", "/api/releases/"+r.ID+"/remarks/"+remark, nil)
	if got := read[server.RemarkLook](t, body); got.Sittings != 1 || len(got.Rows) != 1 || got.Rows[0].Is.Score != "30.00" {
		t.Errorf("looking: %s", body)
	}
	total := func(w *walker) string {
		_, text := w.ask("GET", w.base+"/now", nil)
		now := read[series.Now](t, text)
		_, text = ana.ask("GET", "/api/releases/"+r.ID+"/runs", nil)
		for _, x := range read[struct{ Runs []server.RunRow }](t, text).Runs {
			if x.Done && now.Total != nil {
				return now.Total.Score + ", listed as " + x.Score
			}
		}
		return "none"
	}
	ana.url = s.urls[1]
	if code, body := ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+remark+"/apply", nil); code != 200 {
		t.Fatalf("applying: %d %s", code, body)
	}
	if got := total(lea); got != "40.00, listed as 40.00" {
		t.Errorf("scored again: %s", got)
	}
	for step, want := range []int{0, 1} {
		_, text := ana.ask("GET", fmt.Sprintf("/api/releases/%s/remarks?step=%d", r.ID, step), nil)
		if n := len(read[struct{ Remarks []server.Remark }](t, text).Remarks); n != want {
			t.Errorf("step %d has %d re-marks", step, n)
		}
	}
	// Figures are those of the corrected key.
	_, text := ana.ask("GET", "/api/releases/"+r.ID+"/outcomes?step=1", nil)
	if got := read[server.Outcomes](t, text); got.Remark != remark || got.Figures.Final.Scores.Mean != 100 {
		t.Errorf("the step's outcomes: %s", text)
	}
	// Who was under way goes on, by the key of the release.
	tom.puts(0)
	tom.to(map[string]any{"to": 2})
	if got := tom.view.Now.Total; got == nil || got.Score != "40.00" {
		t.Errorf("the other learner's total: %+v", got)
	}
	if code, body := ana.ask("POST", "/api/releases/"+r.ID+"/remarks/"+remark+"/revert", nil); code != 200 {
		t.Fatalf("taking back: %d %s", code, body)
	}
	if _, text := lea.ask("GET", lea.base+"/now", nil); read[series.Now](t, text).Total.Score != "10.00" {
		t.Errorf("taken back: %s", text)
	}
	if code, _ := ana.ask("POST", "/api/releases/"+r.ID+"/remarks?step=2", nil); code != 404 {
		t.Errorf("a step that there is not: %d", code)
	}
}
