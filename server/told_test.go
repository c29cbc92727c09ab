package server_test

import (
	"encoding/json"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/play"
)

// saved changes the demo's activity and saves it.
func (b *browser) saved(change func(*activity.Doc)) (id string) {
	b.t.Helper()
	id, draft := b.activity()
	doc, faults := activity.Read([]byte(draft.Document))
	if faults != nil {
		b.t.Fatal(faults)
	}
	change(doc)
	code, body := b.ask("PUT", "/api/activities/"+id+"?revision=1", json.RawMessage(doc.Write()))
	if code != 200 {
		b.t.Fatalf("saving: %d %s", code, body)
	}
	return id
}

// A reply reaches the learner when it is given and not before, with its parts by
// the names that the learner knows; and nothing of when it is given.
func TestRepliesReachTheLearnerWhenTheyAreGiven(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id := ana.saved(func(d *activity.Doc) {
		edit.SayAt(d, edit.Slot{Item: "bell", Result: "wrong", Moment: "placed"}, activity.Say{Text: "A {item} is no part."})
		edit.SayAt(d, edit.Slot{Item: "pump", Result: "wrong", Moment: "placed"}, activity.Say{Text: "Unseen words."})
		d.Play.Beckon = "open"
		d.Targets[0].Lets = activity.Selector{All: true, Except: []string{"bell"}}
		d.Play.Review = "key"
		d.Play.Attempts = 1
	})
	r := ana.release(id)
	lea := s.browser(0)
	base, seated := lea.seat(r)
	piece := func(name string) string {
		i := slices.IndexFunc(seated.Scene.Pieces, func(p play.ScenePiece) bool { return p.Text == name })
		return seated.Scene.Pieces[i].ID
	}
	move := func(m play.Move) play.Standing {
		code, body := lea.ask("POST", base+"/moves", m)
		if code != 200 {
			t.Fatalf("%+v: %d %s", m, code, body)
		}
		if strings.Contains(body, "Unseen") || strings.Contains(body, "wrong-bell") || strings.Contains(body, `"bell"`) {
			t.Errorf("the traffic says too much: %s", body)
		}
		return read[play.Standing](t, body)
	}
	after := move(play.Move{N: 1, Do: "place", Piece: piece("Bell"), Target: seated.Scene.Targets[1].ID})
	if len(after.Replies) != 1 || after.Replies[0].Piece != piece("Bell") || after.Replies[0].Tone != "wrong" || after.Key != nil {
		t.Errorf("%+v", after.Replies)
	}
	code, body := lea.ask("GET", base+"/beckoning/"+piece("Bell"), nil)
	open := read[play.Beckoning](t, body).Targets
	if code != 200 || len(open) != 4 || slices.Contains(open, seated.Scene.Targets[0].ID) {
		t.Errorf("what beckons to the bell: %d %s", code, body)
	}
	if code, _ := s.browser(0).ask("GET", base+"/beckoning/"+piece("Bell"), nil); code != 404 {
		t.Errorf("without a sitting: %d", code)
	}
	if done := move(play.Move{N: 2, Do: "check"}); done.Key == nil || len(done.Key.Stands) < 20 {
		t.Error("afterwards the answer is not shown")
	}
}

// The workspace's words lie under the activity's own, and a release keeps those that
// there were.
func TestAWorkspaceHasWordsOfItsOwn(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	keep := func(words map[string]string) (int, string) {
		return ana.ask("PUT", "/api/words/en-GB", map[string]any{"words": words})
	}
	if code, body := keep(map[string]string{"check": "Look it over", "again": "Once more", "undo": " "}); code != 200 || strings.Contains(body, "undo") {
		t.Fatalf("%d %s", code, body)
	}
	id := ana.saved(func(d *activity.Doc) { d.Words = map[string]string{"again": "Another go"} })
	r := ana.release(id)
	keep(map[string]string{"check": "Changed since"})
	_, seated := s.browser(0).seat(r)
	if w := seated.Scene.Words; w["check"] != "Look it over" || w["again"] != "Another go" || len(w) != 2 {
		t.Errorf("what the learner reads: %v", w)
	}
	if code, _ := keep(map[string]string{"check": strings.Repeat("x", 400)}); code != 422 {
		t.Errorf("a word that is too long: %d", code)
	}
	_, body := s.signedIn("else@where.example", "another-bell").ask("GET", "/api/words/en", nil)
	if strings.Contains(body, "Changed") {
		t.Errorf("another workspace reads %s", body)
	}
}
