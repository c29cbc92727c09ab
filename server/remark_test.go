package server_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
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
		l.scene = read[server.Begun](t, body).Sitting.Scene
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
	for n, do := range []string{"place", "check", "again", "check", "again", "check"} {
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
