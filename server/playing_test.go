package server_test

import (
	"net/http"
	"regexp"
	"strings"
	"sync"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/server"
)

// What learners receive holds nothing of the key, and none of the author's ids,
// tags or names of pictures.
func TestLearnersNeverReceiveTheKey(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	r := ana.release(id)
	doc, faults := activity.Read([]byte(draft.Document))
	if faults != nil {
		t.Fatal(faults)
	}
	lea := s.browser(0)
	base, seated := lea.seat(r)
	var traffic strings.Builder
	listen := func(code int, body string) { traffic.WriteString(body) }
	listen(lea.ask("GET", base, nil))
	n := 0
	for _, p := range seated.Scene.Pieces[:4] {
		for _, target := range seated.Scene.Targets {
			n++
			listen(lea.ask("POST", base+"/moves", play.Move{N: n, T: int64(n), Do: "place", Piece: p.ID, Target: target.ID}))
		}
	}
	text := traffic.String()
	if !strings.Contains(text, `"placed"`) {
		t.Fatalf("no move was judged: %s", text)
	}
	// Whole words: a learner's ids are random letters, and may spell any short one.
	for _, word := range []string{"solutions?", "lets", "tags", "weight", "penalty", "jockey-wheel", "except", "bands?", "verdicts?", "missing"} {
		if found := regexp.MustCompile(`\b` + word + `\b`).FindString(text); found != "" {
			t.Errorf("the traffic has %q in it", found)
		}
	}
	if strings.Contains(text, `right":{`) {
		t.Error("the traffic says what is right")
	}
	for _, it := range doc.Items {
		if it.Picture != "" && strings.Contains(text, it.Picture) || strings.Contains(text, `"`+it.ID+`"`) {
			t.Errorf("the traffic names %s as its author does", it.ID)
		}
	}
	for _, target := range doc.Targets {
		if strings.Contains(text, `"`+target.ID+`"`) {
			t.Errorf("the traffic names %s as its author does", target.ID)
		}
	}
	// Before a check nothing says what is right; the page has the scene alone.
	if strings.Contains(text, `"shown"`) {
		t.Error("before a check the traffic says the answer key")
	}
}

// Two servers on one database, and one sitting played through both at once: each
// number is judged once, and every answer agrees with the log.
func TestMovesThatRaceAreKeptOnce(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	r := ana.release(id)
	lea := s.browser(0)
	base, seated := lea.seat(r)
	const moves = 12
	for n := 1; n <= moves; n++ {
		m := play.Move{N: n, T: int64(n), Do: "place", Piece: seated.Scene.Pieces[n].ID, Target: seated.Scene.Targets[n%5].ID}
		var together sync.WaitGroup
		answers := make([]string, 4)
		for i := range answers {
			together.Go(func() {
				twin := &browser{t, s.urls[i%2], http.Client{Jar: sameCookies{lea, s.urls[0]}}}
				_, answers[i] = twin.ask("POST", base+"/moves", m)
			})
		}
		together.Wait()
		placed := 0
		for _, a := range answers {
			st := read[play.Standing](t, a)
			if st.N != n || st.Result != "placed" && st.Result != "repeated" {
				t.Fatalf("move %d was answered %s", n, a)
			}
			if st.Result == "placed" {
				placed++
			}
		}
		if placed != 1 {
			t.Fatalf("move %d was judged %d times", n, placed)
		}
	}
	list, err := s.store.SittingIDs(t.Context(), s.played(r))
	if err != nil || len(list) != 1 {
		t.Fatal(list, err)
	}
	kept, err := s.store.Moves(t.Context(), list[0])
	if err != nil || len(kept) != moves {
		t.Errorf("%d moves are kept, want %d (%v)", len(kept), moves, err)
	}
}

// The state that is kept with each move is what replaying the log comes to.
func TestTheStateIsAFoldOfTheLog(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, draft := ana.activity()
	r := ana.release(id)
	lea := s.browser(0)
	base, seated := lea.seat(r)
	n := 0
	move := func(m play.Move) {
		n++
		m.N, m.T = n, int64(n*100)
		if code, body := lea.ask("POST", base+"/moves", m); code != 200 {
			t.Fatalf("move %d: %d %s", n, code, body)
		}
	}
	for i, p := range seated.Scene.Pieces {
		move(play.Move{Do: "place", Piece: p.ID, Target: seated.Scene.Targets[i%5].ID})
	}
	for _, do := range []activity.Do{"undo", "reset", "undo", "check", "again", "undo"} {
		move(play.Move{Do: do})
	}
	doc, faults := activity.Read([]byte(draft.Document))
	if faults != nil {
		t.Fatal(faults)
	}
	game, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	list, err := s.store.SittingIDs(t.Context(), s.played(r))
	if err != nil {
		t.Fatal(err)
	}
	kept, err := s.store.Moves(t.Context(), list[0])
	if err != nil {
		t.Fatal(err)
	}
	state := game.Open(0)
	for _, line := range kept {
		state, _ = game.Move(state, read[play.Move](t, line.Body))
	}
	f := game.Final(state)
	if got, err := s.store.Sitting(t.Context(), s.played(r), list[0]); err != nil || len(kept) != n || state.N != n || got.Score != f.Score || got.Percent != f.Percent || got.Attempts != f.Attempts || got.Phase != string(f.Phase) {
		t.Errorf("kept %+v, replayed %+v", got, f)
	}
}

// Another learner in the same browser starts from the beginning, and leaves the first alone.
func TestTheNextLearnerBeginsAfresh(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	id, _ := ana.activity()
	r := ana.release(id)
	b := s.browser(0)
	base, seated := b.seat(r)
	b.ask("POST", base+"/moves", play.Move{N: 1, Do: "place", Piece: seated.Scene.Pieces[0].ID, Target: seated.Scene.Targets[0].ID})
	opening := func() server.Opening {
		_, body := b.ask("GET", base, nil)
		return read[server.Opening](t, body)
	}
	if o := opening(); o.Sitting == nil || o.Sitting.Standing.N != 1 || o.Sitting.Learner != "Lea" {
		t.Fatalf("coming back: %+v", o.Sitting)
	}
	if code, body := b.ask("DELETE", base+"/sitting", nil); code != 204 {
		t.Fatalf("leaving: %d %s", code, body)
	}
	if o := opening(); o.Sitting != nil {
		t.Errorf("after leaving the sitting is still there: %+v", o.Sitting)
	}
	if code, body := b.ask("POST", base+"/moves", play.Move{N: 2, Do: "check"}); code != 404 {
		t.Errorf("a move without a sitting: %d %s", code, body)
	}
	if code, body := b.ask("POST", base+"/sittings", map[string]string{"learner": "  "}); code != 422 || !strings.Contains(body, "no-name") {
		t.Errorf("a learner without a name: %d %s", code, body)
	}
	if _, next := b.seat(r); next.Standing.N != 0 || len(next.Standing.Stands) != 0 {
		t.Errorf("the next learner begins with %+v", next.Standing)
	}
	if list, err := s.store.SittingIDs(t.Context(), s.played(r)); err != nil || len(list) != 2 {
		t.Errorf("%d sittings are kept (%v)", len(list), err)
	}
}
