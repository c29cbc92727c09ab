package server_test

import (
	"context"
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"keenmagpie/demo"
	"keenmagpie/server"
	"keenmagpie/store"
)

func TestWhatCannotBeSavedOrReleasedSaysWhy(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	save := func(doc string, revision int) (int, server.Problem) {
		code, body := ana.ask("PUT", fmt.Sprintf("/api/activities/%s?revision=%d", id, revision), json.RawMessage(doc))
		return code, read[server.Problem](t, body)
	}
	doc := string(draft.Document)
	code, p := save(strings.Replace(doc, `"copies":1`, `"copies":100`, 1), draft.Revision)
	if code != 422 || len(p.Faults) != 1 || p.Faults[0].Pointer != "/items/0/copies" {
		t.Errorf("a document with a fault: %d %+v", code, p)
	}
	if code, _ := save(doc, draft.Revision); code != 200 {
		t.Fatalf("saving: %d", code)
	}
	code, p = save(doc, draft.Revision)
	if code != 409 || p.Code != "newer-revision" || p.Current == nil || p.Current.Revision != draft.Revision+1 {
		t.Errorf("saving over a newer revision: %d %+v", code, p)
	}
	// Drivetrain holds two, and more must be placed there: it cannot be released.
	code, _ = save(strings.Replace(doc, `"shape":"rect"`, `"shape":"rect","holds":2`, 1), draft.Revision+1)
	if code != 200 {
		t.Fatalf("saving: %d", code)
	}
	code, body := ana.ask("POST", "/api/activities/"+id+"/releases", map[string]int{"revision": draft.Revision + 2})
	if code != 422 || !strings.Contains(body, "key-impossible") || !strings.Contains(body, "drivetrain") {
		t.Errorf("releasing what cannot be solved: %d %s", code, body)
	}
}

// A bundle that is refused leaves nothing behind: no activity and no picture.
func TestARefusedBundleLeavesNothing(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	_, bundle := ana.ask("GET", "/api/activities/"+id+"/bundle", nil)
	els := s.signedIn("else@where.example", "another-bell")
	for name, body := range map[string]string{"cut off": bundle[:len(bundle)-100], "foreign": "PK\x03\x04", "empty": ""} {
		if code, answer := els.ask("POST", "/api/bundles", []byte(body)); code != 422 && code != 400 {
			t.Errorf("%s: %d %s", name, code, answer)
		}
	}
	if code, answer := els.ask("POST", "/api/bundles", make([]byte, 65<<20)); code != 413 && code != 422 {
		t.Errorf("oversized: %d %s", code, answer)
	}
	count := func(table string) (n int) {
		row := s.store.DB().QueryRowContext(context.Background(), `SELECT COUNT(*) FROM `+table+
			` WHERE workspace_id = (SELECT id FROM workspaces WHERE name = 'Elsewhere')`)
		if err := row.Scan(&n); err != nil {
			t.Fatal(err)
		}
		return n
	}
	if a, m := count("activities"), count("media"); a != 0 || m != 0 {
		t.Errorf("%d activities and %d pictures were left behind", a, m)
	}
	if code, answer := els.ask("POST", "/api/bundles", []byte(bundle)); code != 201 {
		t.Fatalf("the whole bundle: %d %s", code, answer)
	}
	if a, m := count("activities"), count("media"); a != 1 || m != 24 {
		t.Errorf("%d activities and %d pictures were imported, want 1 and 24", a, m)
	}
}

// Loading the demo again changes nothing; what an interrupted start left out is
// made up.
func TestTheDemoIsLoadedOnceAndCompleted(t *testing.T) {
	s := newSite(t)
	for _, gone := range []string{"", demo.Accounts()[1].Email} {
		for _, statement := range []string{
			`DELETE FROM settings WHERE name = 'demo' OR name = ?`, `DELETE m FROM members m JOIN accounts a ON a.id = m.account_id WHERE a.email = ?`, `DELETE FROM accounts WHERE email = ?`,
		} {
			if _, err := s.store.DB().ExecContext(t.Context(), statement, gone); err != nil {
				t.Fatal(err)
			}
		}
		if err := demo.Load(t.Context(), s.store); err != nil {
			t.Fatal(err)
		}
		first, err := s.store.MemberByEmail(t.Context(), demo.Accounts()[0].Email)
		if err != nil {
			t.Fatal(err)
		}
		for _, a := range demo.Accounts() {
			if m, err := s.store.MemberByEmail(t.Context(), a.Email); err != nil || m.WorkspaceID != first.WorkspaceID || m.Role != a.Role {
				t.Errorf("%s: %+v, %v", a.Email, m, err)
			}
		}
		if list, err := s.store.In(first.WorkspaceID).Activities(t.Context(), store.AnActivity); err != nil || len(list) != len(demo.Activities) {
			t.Errorf("%d activities on the shelf (%v)", len(list), err)
		}
	}
}
