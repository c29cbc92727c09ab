package server_test

import (
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/httptest"
	"strings"
	"testing"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/server"
)

func (b *browser) records() string {
	b.t.Helper()
	code, body := b.ask("GET", "/api/records", nil)
	if code != 200 {
		b.t.Fatalf("the log: %d %s", code, body)
	}
	return body
}

// What has sittings is moved by an owner of both workspaces alone, and both logs say so.
func TestSittingsMoveWithAnOwnerOfBoth(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	tobi := s.signedIn("tobi@cobblelane.example", "second-spoke-left")
	r := ana.released("Played", nil, nil)
	s.learner(r)
	id := must(s.store.In(must(s.store.MemberByEmail(t.Context(), "ana@cobblelane.example"))(t).WorkspaceID).Release(t.Context(), r.ID))(t).ActivityID
	here := func(b *browser) string {
		_, body := b.ask("GET", "/api/me", nil)
		for _, w := range read[server.Me](t, body).Workspaces {
			if w.Here {
				return w.ID
			}
		}
		return ""
	}
	own := func(b *browser, name string) string {
		from := here(b)
		_, body := b.ask("POST", "/api/workspaces", map[string]string{"name": name})
		var to string
		for _, w := range read[server.Me](t, body).Workspaces {
			if w.Name == name {
				to = w.ID
			}
		}
		b.ask("PUT", "/api/session/workspace", map[string]string{"id": from})
		return to
	}
	his := own(tobi, "Tobi's own")
	if code, body := tobi.ask("POST", "/api/activities/"+id+"/move", map[string]string{"workspace": his}); code != 403 {
		t.Errorf("by a designer who is not the owner: %d %s", code, body)
	}
	fresh := ana.small("Not played", nil)
	if code, body := tobi.ask("POST", "/api/activities/"+fresh+"/move", map[string]string{"workspace": his}); code != 204 {
		t.Errorf("one that nobody played: %d %s", code, body)
	}
	hers := own(ana, "Ana's own")
	if code, body := ana.ask("POST", "/api/activities/"+id+"/move", map[string]string{"workspace": hers}); code != 204 {
		t.Errorf("by an owner of both: %d %s", code, body)
	}
	if log := ana.records(); !strings.Contains(log, "activity moved away") || !strings.Contains(log, "to Ana's own, with 1 sitting") {
		t.Errorf("the log here: %s", log)
	}
	ana.ask("PUT", "/api/session/workspace", map[string]string{"id": hers})
	if log := ana.records(); !strings.Contains(log, "activity moved here") {
		t.Errorf("the log there: %s", log)
	}
}

// Names and codes of rosters are seen by those who may see names; looking at them,
// replaying, and changing who may begin is written down.
func TestRostersObeyWhoSeesNames(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	tobi := s.signedIn("tobi@cobblelane.example", "second-spoke-left")
	list := ana.roster("Tuesday", "Lea Brandt")
	ana.ask("PUT", "/api/privacy", map[string]any{"namesFor": "owner", "namesDays": 0, "leastGroup": 0})
	for _, c := range []struct {
		method, path string
		body         any
	}{
		{"GET", "/api/rosters/" + list.ID, nil},
		{"PUT", "/api/rosters/" + list.ID, map[string]any{"name": "Mine", "learners": []any{}}},
		{"POST", "/api/rosters", map[string]any{"name": "Mine", "learners": []any{}}},
	} {
		t.Run(c.method+" "+c.path, func(t *testing.T) {
			if code, body := tobi.ask(c.method, c.path, c.body); code != 403 || strings.Contains(body, "Brandt") {
				t.Errorf("%s %s: %d %s", c.method, c.path, code, body)
			}
		})
	}
	if code, body := ana.ask("GET", "/api/rosters/"+list.ID, nil); code != 200 || !strings.Contains(body, "Lea Brandt") {
		t.Errorf("for the owner: %d %s", code, body)
	}
	r := ana.released("Watched", nil, map[string]any{"roster": list.ID, "mostEach": 2})
	lea := s.browser(0)
	lea.ask("POST", "/api"+r.Link+"/sittings", map[string]string{"code": list.Learners[0].Code})
	_, body := ana.ask("GET", "/api/releases/"+r.ID+"/sittings", nil)
	sitting := read[struct{ Sittings []server.SittingRow }](t, body).Sittings[0].ID
	ana.ask("GET", fmt.Sprintf("/api/releases/%s/sittings/%d", r.ID, sitting), nil)
	log := ana.records()
	for _, what := range []string{`"what":"roster seen","about":"Tuesday"`, `"what":"entry changed","about":"Watched, release 1","detail":"by a roster, each at most 2 times"`, `"what":"replay"`} {
		if !strings.Contains(log, what) {
			t.Errorf("the log lacks %s: %s", what, log)
		}
	}
	if strings.Contains(log, "Brandt") {
		t.Errorf("the log names a learner: %s", log)
	}
}

// What nobody uses is deleted, and gone after thirty days; what a draft, a revision or a
// release uses stays.
func TestMediaAreDeletedAndPurged(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	me := must(s.store.MemberByEmail(t.Context(), "ana@cobblelane.example"))(t)
	upload := func(d string) string {
		t.Helper()
		code, body := ana.ask("POST", "/api/media?name=x.svg", []byte(`<svg xmlns="http://www.w3.org/2000/svg"><path d="`+d+`"/></svg>`))
		if code != 201 {
			t.Fatalf("%d %s", code, body)
		}
		return read[struct{ ID string }](t, body).ID
	}
	loose, deleted, drafted, released := upload("M0 1"), upload("M0 2"), upload("M0 3"), upload("M0 4")
	ana.small("Uses it", func(d *activity.Doc) { d.Items[0].Picture = drafted })
	id := ana.small("Used it", func(d *activity.Doc) { d.Items[0].Picture = released })
	ana.release(id)
	if code, body := ana.ask("DELETE", "/api/media/"+drafted, nil); code != 409 || !strings.Contains(body, "Uses it") {
		t.Errorf("what a draft uses: %d %s", code, body)
	}
	if code, body := ana.ask("DELETE", "/api/media/"+deleted, nil); code != 204 {
		t.Errorf("deleting: %d %s", code, body)
	}
	if code, _ := ana.ask("DELETE", "/api/media/"+deleted, nil); code != 404 {
		t.Errorf("deleting it again: %d", code)
	}
	has := func(id string) bool {
		_, err := s.store.In(me.WorkspaceID).Medium(t.Context(), id)
		return err == nil
	}
	if n := must(s.store.PurgeMedia(t.Context(), 100))(t); n != 0 || !has(deleted) {
		t.Errorf("%d were purged at once", n)
	}
	if _, err := s.store.DB().ExecContext(t.Context(), `UPDATE media SET added_at = added_at - INTERVAL 31 DAY, deleted_at = deleted_at - INTERVAL 31 DAY`); err != nil {
		t.Fatal(err)
	}
	again := upload("M0 2") // the very same once more is there again
	if n := must(s.store.PurgeMedia(t.Context(), 100))(t); n != 1 || has(loose) || !has(drafted) || !has(released) || again != deleted {
		t.Errorf("%d were purged; loose %v, drafted %v, released %v", n, has(loose), has(drafted), has(released))
	}
	rows := 0
	if err := s.store.DB().QueryRowContext(t.Context(), `SELECT COUNT(*) FROM media_chunks WHERE id = ?`, loose).Scan(&rows); err != nil || rows != 0 {
		t.Errorf("its bytes are kept: %d, %v", rows, err)
	}
}

// Learners' data is kept by no cache, and cookies go over https alone where people reach
// the server by https.
func TestNothingIsKeptOnTheWay(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	r := ana.released("Cached", nil, nil)
	for _, path := range []string{"/api/me", "/api/releases/" + r.ID + "/sittings", "/api/releases/" + r.ID + "/sittings.csv", "/api" + r.Link, "/api/nowhere"} {
		resp, err := ana.Get(s.urls[0] + path)
		if err != nil {
			t.Fatal(err)
		}
		_ = resp.Body.Close()
		if got := resp.Header.Get("Cache-Control"); got != "no-store" {
			t.Errorf("%s: %q", path, got)
		}
	}
	for url, want := range map[string]bool{"https://magpie.example": true, "http://magpie.example": false} {
		h := server.New(s.store, slog.New(slog.NewTextHandler(io.Discard, nil)), server.WithPublicURL(url))
		for path, body := range map[string]string{"/api" + r.Link + "/sittings": `{"learner":"Lea"}`, "/api/session": `{"email":"ana@cobblelane.example","password":"tailwind-and-chain"}`} {
			w := httptest.NewRecorder()
			req := httptest.NewRequest("POST", path, strings.NewReader(body))
			req.Header.Set("Content-Type", "application/json")
			h.ServeHTTP(w, req)
			if cookies := (&http.Response{Header: w.Header()}).Cookies(); len(cookies) != 1 || cookies[0].Secure != want {
				t.Errorf("%s at %s: %d %v", path, url, w.Code, cookies)
			}
		}
	}
}

// A picture's id is a name, not a way somewhere else.
func TestPictureIDsAreChecked(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	_, body := ana.ask("POST", "/api/activities/new", map[string]string{"kind": "sort", "title": "x"})
	draft := read[server.Draft](t, body)
	for _, id := range []string{"../../api/me", "a b", "x?y", "javascript:1", "%2e%2e"} {
		bad := strings.Replace(string(draft.Document), `"picture":""`, `"picture":"`+id+`"`, 1)
		if code, body := ana.ask("PUT", "/api/activities/"+draft.ID+"?revision=1", json.RawMessage(bad)); code != 422 || !strings.Contains(body, "is not the name of a picture") {
			t.Errorf("%s: %d %s", id, code, body)
		}
	}
}

// A session ends when it was idle for a day.
func TestAnIdleSessionEnds(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	var expiry time.Time
	if err := s.store.DB().QueryRowContext(t.Context(), `SELECT expiry FROM sessions`).Scan(&expiry); err != nil {
		t.Fatal(err)
	}
	if left := time.Until(expiry); left > 25*time.Hour || left < 23*time.Hour {
		t.Errorf("it ends in %s", left)
	}
	if _, err := s.store.DB().ExecContext(t.Context(), `UPDATE sessions SET expiry = UTC_TIMESTAMP(6) - INTERVAL 1 SECOND`); err != nil {
		t.Fatal(err)
	}
	if code, _ := ana.ask("GET", "/api/me", nil); code != 401 {
		t.Errorf("after a day: %d", code)
	}
}
