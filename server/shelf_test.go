package server_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/demo"
	"keenmagpie/server"
)

func (b *browser) shelf() []server.Card {
	b.t.Helper()
	_, body := b.ask("GET", "/api/activities", nil)
	return read[struct{ Activities []server.Card }](b.t, body).Activities
}

// A deleted activity is off the shelf and cannot be saved; it comes back whole. Its
// release goes on all the while.
func TestDeletedHasAWayBack(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	link := ana.release(id).Link
	if code, body := ana.ask("DELETE", "/api/activities/"+id, nil); code != 204 {
		t.Fatalf("deleting: %d %s", code, body)
	}
	if n := len(ana.shelf()); n != len(demo.Activities)-1 {
		t.Errorf("%d on the shelf", n)
	}
	if code, _ := ana.ask("GET", "/api/activities/"+id, nil); code != 404 {
		t.Errorf("opening what is deleted: %d", code)
	}
	if code, _ := ana.ask("PUT", fmt.Sprintf("/api/activities/%s?revision=%d", id, draft.Revision), json.RawMessage(draft.Document)); code != 404 {
		t.Errorf("saving what is deleted: %d", code)
	}
	lea := s.browser(0)
	if code, body := lea.ask("GET", "/api"+link, nil); code != 410 || !strings.Contains(body, `"code":"ended"`) {
		t.Errorf("its release: %d %s", code, body)
	}
	if code, _ := lea.ask("POST", "/api"+link+"/sittings", map[string]string{"learner": "Lea"}); code != 410 {
		t.Errorf("beginning all the same: %d", code)
	}
	_, body := ana.ask("GET", "/api/deleted", nil)
	if list := read[struct{ Activities []server.Card }](t, body).Activities; len(list) != 1 || list[0].DeletedAt == nil {
		t.Errorf("what can be brought back: %s", body)
	}
	if code, _ := ana.ask("POST", "/api/activities/"+id+"/restore", nil); code != 204 {
		t.Errorf("bringing back: %d", code)
	}
	if code, _ := lea.ask("GET", "/api"+link, nil); code != 200 {
		t.Errorf("its release, once it is back: %d", code)
	}
	if list := ana.shelf(); len(list) != len(demo.Activities) || list[0].Releases != 1 {
		t.Errorf("back on the shelf: %d", len(list))
	}
	if code, _ := ana.ask("POST", "/api/activities/"+id+"/restore", nil); code != 404 {
		t.Errorf("bringing back what is there: %d", code)
	}
}

// A copy is an activity of its own; moved to another workspace of the same person
// it takes its pictures with it, and to one that is not theirs it does not go.
func TestCopiesAndOtherWorkspaces(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	_, body := ana.ask("POST", "/api/activities/"+id+"/copy", nil)
	kept := read[server.Draft](t, body)
	if kept.ID == id || !strings.Contains(string(kept.Document), `"title":"Copy of Parts drawers"`) {
		t.Errorf("the copy: %.200s", body)
	}
	_, body = ana.ask("POST", "/api/workspaces", map[string]string{"name": "Saturday class"})
	me := read[server.Me](t, body)
	if me.Workspace != "Saturday class" || len(me.Workspaces) != 2 || len(ana.shelf()) != 0 {
		t.Fatalf("the new workspace: %s", body)
	}
	var home, class string
	for _, w := range me.Workspaces {
		if w.Here {
			class = w.ID
		} else {
			home = w.ID
		}
	}
	if code, _ := ana.ask("PUT", "/api/session/workspace", map[string]string{"id": home}); code != 200 {
		t.Fatalf("going back: %d", code)
	}
	if code, _ := ana.ask("POST", "/api/activities/"+kept.ID+"/move", map[string]string{"workspace": "nowhere"}); code != 404 {
		t.Errorf("moving to nowhere: %d", code)
	}
	if code, body := ana.ask("POST", "/api/activities/"+kept.ID+"/move", map[string]string{"workspace": class}); code != 204 {
		t.Fatalf("moving: %d %s", code, body)
	}
	if n := len(ana.shelf()); n != len(demo.Activities) {
		t.Errorf("%d left here", n)
	}
	picture := read[struct{ Items []struct{ Picture string } }](t, string(draft.Document)).Items[0].Picture
	ana.ask("PUT", "/api/session/workspace", map[string]string{"id": class})
	if code, _ := ana.ask("GET", "/api/media/"+picture, nil); code != 200 || len(ana.shelf()) != 1 {
		t.Errorf("there: picture %d, %d on the shelf", code, len(ana.shelf()))
	}
	els := s.signedIn("else@where.example", "another-bell")
	if code, _ := els.ask("PUT", "/api/session/workspace", map[string]string{"id": home}); code != 404 {
		t.Errorf("going into another's workspace: %d", code)
	}
}

// What was saved in one go is one entry, with what it changed in words.
func TestRevisionsInWords(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	doc := string(draft.Document)
	for i, title := range []string{"Spares", "Spares drawers"} {
		doc = strings.Replace(doc, `"title":"`+read[struct{ Title string }](t, doc).Title, `"title":"`+title, 1)
		if code, body := ana.ask("PUT", fmt.Sprintf("/api/activities/%s?revision=%d", id, draft.Revision+i), json.RawMessage(doc)); code != 200 {
			t.Fatalf("saving: %d %s", code, body)
		}
	}
	_, body := ana.ask("GET", "/api/activities/"+id+"/revisions", nil)
	list := read[struct{ Revisions []server.RevisionEntry }](t, body).Revisions
	if len(list) != 2 || list[0].Revision != 3 || fmt.Sprint(list[0].Changes) != "[title: Spares drawers]" || list[0].SavedBy != "Ana Duarte" {
		t.Errorf("the list: %s", body)
	}
	_, body = ana.ask("GET", "/api/activities/"+id+"/revisions/1", nil)
	if old := read[struct{ Scene struct{ Title string } }](t, body).Scene.Title; old != "Parts drawers" {
		t.Errorf("as it was: %s", old)
	}
	if code, _ := ana.ask("GET", "/api/activities/"+id+"/revisions/9", nil); code != 404 {
		t.Errorf("one that is not there: %d", code)
	}
}

// Themes that ship can be read at every point; a workspace's own are checked, kept,
// changed and forgotten.
func TestThemes(t *testing.T) {
	for _, x := range activity.Themes() {
		for _, p := range x.Pairs() {
			if !p.Enough {
				t.Errorf("%s: %s on %s has %.2f and needs %.1f", x.Name, p.Over, p.Under, p.Ratio, p.Needed)
			}
		}
	}
	s := newSite(t)
	ana := s.ana()
	themes := func() []server.ThemeEntry {
		_, body := ana.ask("GET", "/api/themes", nil)
		return read[struct{ Themes []server.ThemeEntry }](t, body).Themes
	}
	if n := len(themes()); n != 3 {
		t.Errorf("%d ship", n)
	}
	pale := json.RawMessage(`{"name":"Pale","colors":{"ink":"#aaaaaa"}}`)
	code, body := ana.ask("PUT", "/api/themes", pale)
	kept := read[server.ThemeEntry](t, body)
	if code != 200 || kept.ID == "" || kept.Pairs[0].Enough || kept.Pairs[0].Ratio < 2.3 || kept.Pairs[0].Ratio > 2.4 {
		t.Errorf("pale ink on white: %d %s", code, body)
	}
	if code, _ := ana.ask("PUT", "/api/themes?id="+kept.ID, json.RawMessage(`{"name":"Less pale"}`)); code != 200 {
		t.Errorf("changing: %d", code)
	}
	if list := themes(); len(list) != 4 || list[3].Theme.Name != "Less pale" {
		t.Errorf("kept: %+v", list)
	}
	if code, body := ana.ask("PUT", "/api/themes", json.RawMessage(`{"colors":{"ink":"red"}}`)); code != 422 || !strings.Contains(body, "/colors/ink") {
		t.Errorf("a colour that is none: %d %s", code, body)
	}
	els := s.signedIn("else@where.example", "another-bell")
	if code, _ := els.ask("DELETE", "/api/themes/"+kept.ID, nil); code != 404 {
		t.Errorf("another's theme: %d", code)
	}
	if code, _ := ana.ask("DELETE", "/api/themes/"+kept.ID, nil); code != 204 || len(themes()) != 3 {
		t.Errorf("forgetting: %d", code)
	}
}

// Everything uploaded is listed with where it is used; sounds are taken as pictures
// are, each told by its bytes.
func TestMediaAreListedAndDescribed(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	list := func() []server.Medium {
		_, body := ana.ask("GET", "/api/media", nil)
		return read[struct{ Media []server.Medium }](t, body).Media
	}
	if first := list(); len(first) != 46+2 || // drawings, and sounds
		first[0].Name == "" || !slices.ContainsFunc(first, func(m server.Medium) bool { return len(m.UsedIn) > 0 }) {
		t.Errorf("%d media, the first %+v", len(first), first[0])
	}
	code, body := ana.ask("POST", "/api/media?name=bell.wav", []byte("RIFF\x24\x00\x00\x00WAVEfmt "))
	kept := read[struct{ ID, Type string }](t, body)
	if code != 201 || kept.Type != "audio/wav" {
		t.Fatalf("a sound: %d %s", code, body)
	}
	if code, body := ana.ask("POST", "/api/media?name=bell.mp3", []byte("Dear Ana,")); code != 422 || !strings.Contains(body, "not a sound of a known kind") {
		t.Errorf("not a sound: %d %s", code, body)
	}
	if code, _ := ana.ask("PUT", "/api/media/"+kept.ID, map[string]string{"name": "Bell", "licence": "our own", "source": "recorded at the stand"}); code != 204 {
		t.Errorf("describing: %d", code)
	}
	for _, m := range list() {
		if m.ID == kept.ID && (m.Licence != "our own" || len(m.UsedIn) != 0) {
			t.Errorf("described as %+v", m)
		}
	}
	if code, _ := ana.ask("PUT", "/api/media/nothing", map[string]string{"name": "", "licence": "", "source": ""}); code != 404 {
		t.Errorf("describing what is not there: %d", code)
	}
}

// A table is taken into a draft without saving it; exported, it is a file.
func TestTablesThereAndBack(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	code, csv := ana.ask("GET", "/api/activities/"+id+"/table?as=csv", nil)
	if code != 200 || !strings.HasPrefix(csv, "\ufeff\"Item\",\"Text\",\"Tags\",\"Picture\",\"Right in\"\n\"Chain\",\"Chain\",\"drivetrain\",\"chain.svg\",\"Drivetrain\"\n") {
		t.Fatalf("exported: %d %.200s", code, csv)
	}
	merge := func(text string) (story struct{ Made, Changed, Same, Faults int }, body string) {
		code, body := ana.ask("POST", "/api/tables/merge", map[string]any{"text": text, "document": json.RawMessage(draft.Document)})
		if code != 200 {
			t.Fatalf("merging: %d %s", code, body)
		}
		return read[struct{ Made, Changed, Same, Faults int }](t, body), body
	}
	if story, body := merge(csv); story.Same != 24 || story.Faults+story.Changed+story.Made != 0 {
		t.Errorf("the same table: %+v %.300s", story, body)
	}
	if story, body := merge("Item,Picture\nChain,rotor\nLamp,\n"); story.Changed != 1 || story.Made != 1 || !strings.Contains(body, `"what":["picture"]`) {
		t.Errorf("another: %+v", story)
	}
	_, xlsx := ana.ask("GET", "/api/activities/"+id+"/table?as=xlsx", nil)
	code, body := ana.ask("POST", "/api/tables/text", []byte(xlsx))
	if code != 200 || !strings.Contains(body, `Chain\tChain\tdrivetrain\tchain.svg\tDrivetrain`) {
		t.Errorf("a spreadsheet: %d %.200s", code, body)
	}
	if code, body := ana.ask("POST", "/api/tables/text", []byte("\x89PNG\x00")); code != 422 || !strings.Contains(body, "not a table of text") {
		t.Errorf("not a table: %d %s", code, body)
	}
	if _, d := ana.activity(); d.Revision != draft.Revision {
		t.Error("looking at a table has saved something")
	}
}
