package server_test

import (
	"net/http"
	"testing"

	"keenmagpie/server"
	"keenmagpie/store"
)

// What members say of a draft stays in its workspace, is seen to and comes back, and is
// deleted by whoever said it. A reviewer sees no learners' names, whatever members see.
func TestCommentsOnADraft(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	code, body := ana.ask(http.MethodPost, "/api/activities/new", map[string]string{"kind": "sort", "title": "Another"})
	if code != 201 {
		t.Fatal(code, body)
	}
	other := read[struct{ ID string }](t, body).ID
	tobi := s.signedIn("tobi@cobblelane.example", "second-spoke-left")
	at := "/api/activities/" + id + "/comments"
	list := func(code int, body string) []server.Comment {
		t.Helper()
		if code != 200 && code != 201 {
			t.Fatalf("%d %s", code, body)
		}
		return read[struct{ Comments []server.Comment }](t, body).Comments
	}
	said := list(ana.ask(http.MethodPost, at, map[string]string{"text": "  The brake pad is too dark.  ", "part": "pad"}))
	if len(said) != 1 || said[0].Text != "The brake pad is too dark." || said[0].Part != "pad" || said[0].SaidBy != "Ana Duarte" || !said[0].Mine || said[0].DoneBy != "" {
		t.Fatalf("%+v", said)
	}
	one := at + "/" + said[0].ID
	if seen := list(tobi.ask(http.MethodGet, at, nil)); len(seen) != 1 || seen[0].Mine {
		t.Errorf("Tobi sees %+v", seen)
	}
	if code, _ := tobi.ask(http.MethodDelete, one, nil); code != 404 {
		t.Errorf("Tobi deletes what Ana said: %d", code)
	}
	if code, _ := ana.ask(http.MethodPut, "/api/activities/"+other+"/comments/"+said[0].ID, map[string]bool{"done": true}); code != 404 {
		t.Errorf("by way of another activity: %d", code)
	}
	if done := list(tobi.ask(http.MethodPut, one, map[string]bool{"done": true})); done[0].DoneBy != "Tobi Lindqvist" || done[0].DoneAt == nil {
		t.Errorf("seen to: %+v", done)
	}
	if again := list(tobi.ask(http.MethodPut, one, map[string]bool{"done": false})); again[0].DoneBy != "" || again[0].DoneAt != nil {
		t.Errorf("again: %+v", again)
	}
	if code, _ := ana.ask(http.MethodPost, at, map[string]string{"text": "  "}); code != 422 {
		t.Errorf("nothing said: %d", code)
	}
	if left := list(ana.ask(http.MethodDelete, one, nil)); len(left) != 0 {
		t.Errorf("deleted: %+v", left)
	}
	list(ana.ask(http.MethodPost, at, map[string]string{"text": "Gone with it"}))
	if code, _ := ana.ask(http.MethodDelete, "/api/activities/"+id, nil); code != 204 {
		t.Fatal(code)
	}
	if code, _ := ana.ask(http.MethodGet, at, nil); code != 404 {
		t.Errorf("of what was deleted: %d", code)
	}
	if _, err := s.store.DB().ExecContext(t.Context(), `UPDATE activities SET deleted_at = '2020-01-01' WHERE id = ?`, id); err != nil {
		t.Fatal(err)
	}
	s.works()
	rows := 1
	if err := s.store.DB().QueryRowContext(t.Context(), `SELECT COUNT(*) FROM comments`).Scan(&rows); err != nil || rows != 0 {
		t.Errorf("dropped with its activity: %d, %v", rows, err)
	}
	for role, sees := range map[store.Role]bool{store.Viewer: true, store.Reviewer: false, store.Designer: true} {
		if m := (store.Member{Role: role, Privacy: store.Privacy{NamesFor: store.Members}}); m.SeesNames() != sees {
			t.Errorf("a %s sees names: %t", role, !sees)
		}
	}
}
