package play_test

import (
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
)

// masked are learners' ids as a release gives them.
type masked struct{}

func (masked) Piece(id string) string  { return "p-" + id }
func (masked) Target(id string) string { return "t-" + id }
func (masked) Media(id string) string  { return "m-" + id }

func small(t *testing.T, settings string) *play.Game {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"s",
		"items":[{"id":"a","name":"secret a","text":"A","tags":["secret"]},{"id":"b","name":"secret b","picture":"pic","alt":"a bell"},{"id":"c","name":"C by name"}],
		"targets":[{"id":"one","name":"secret one","label":{"text":"One"},"frame":{"x":0,"y":0,"w":300,"h":300},"holds":2,"lets":{"all":true,"except":["c"]}}],
		"key":{"solutions":[{"right":{"one":{"items":["a"]}}}]},` + settings + `}`))
	if faults != nil {
		t.Fatal(faults)
	}
	g, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	return g
}

// A learner hears a piece by its text, else its alternative text, else its name,
// and receives no other word of the author's.
func TestTheSceneIsAnAllowList(t *testing.T) {
	g := small(t, `"play":{}`)
	scene := g.Scene(1, masked{})
	var spoken []string
	for _, p := range scene.Pieces {
		spoken = append(spoken, p.ID+"="+p.Spoken+"/"+p.Picture)
	}
	if got := strings.Join(spoken, " "); got != "p-a=A/ p-b=a bell/m-pic p-c=C by name/" {
		t.Errorf("pieces: %s", got)
	}
	if all := text(t, scene); strings.Contains(all, "secret") || strings.Contains(all, "except") {
		t.Errorf("the scene says too much: %s", all)
	}
}

// play1 makes moves and gives what the learner sees after the last.
func play1(g *play.Game, moves ...play.Move) play.Standing {
	state, last := g.Open(1), play.Answer{}
	for i, m := range moves {
		m.N = i + 1
		state, last = g.Move(state, m)
	}
	return g.Standing(state, last, masked{})
}

func TestWhatALearnerSeesAfterAMove(t *testing.T) {
	a, b := play.Move{Do: "place", Piece: "a", Target: "one"}, play.Move{Do: "place", Piece: "b", Target: "one"}
	check, again := play.Move{Do: "check"}, play.Move{Do: "again"}

	s := play1(small(t, `"play":{}`), a)
	if s.Shown != nil || s.Final != nil || !s.CanCheck || !s.CanUndo || !slices.Equal(s.Targets["t-one"], []string{"p-a"}) || len(s.Stands) != 1 {
		t.Errorf("after placing: %s", text(t, s))
	}
	s = play1(small(t, `"play":{}`), a, b, check)
	if s.Phase != play.Done || s.Shown == nil || !slices.Equal(s.Shown.Right, []string{"p-a"}) || !slices.Equal(s.Shown.Wrong, []string{"p-b"}) || s.Final == nil || s.CanCheck || s.CanUndo {
		t.Errorf("after the only check: %s", text(t, s))
	}
	s = play1(small(t, `"play":{"show":"never"}`), a, b, check)
	if s.Shown != nil || s.Final == nil {
		t.Errorf("where nothing is shown: %s", text(t, s))
	}
	s = play1(small(t, `"play":{"attempts":2,"rightPieces":"hold","wrongPieces":"home"}`), a, b, check, again)
	if s.Phase != play.Placing || s.Shown != nil || *s.Left != 0 || !slices.Equal(s.Held, []string{"p-a"}) || len(s.Stands) != 1 {
		t.Errorf("at the second attempt: %s", text(t, s))
	}
	// Unlimited attempts have no number left.
	if s = play1(small(t, `"play":{"attempts":0}`), b, check); s.Left != nil || s.Phase != play.Paused {
		t.Errorf("without a limit: %s", text(t, s))
	}
	// Check waits while a piece could still be placed: c cannot, being turned away.
	waits := `"play":{"checkWhen":"allPlaced"}`
	if s = play1(small(t, waits), a, check); s.Result != "rejected" || s.CanCheck {
		t.Errorf("with a piece to place: %s", text(t, s))
	}
	if s = play1(small(t, waits), a, b, check); s.Result != "checked" {
		t.Errorf("with none to place: %s", text(t, s))
	}
}

func TestWhichAttemptCounts(t *testing.T) {
	a, b, lift := play.Move{Do: "place", Piece: "a", Target: "one"}, play.Move{Do: "place", Piece: "b", Target: "one"}, play.Move{Do: "lift", Piece: "a"}
	check, again := play.Move{Do: "check"}, play.Move{Do: "again"}
	// Of two attempts the first has a right beside b (10 points), the second b alone (0).
	for keep, want := range map[string]string{"best": "10.00", "first": "10.00", "last": "0.00"} {
		s := play1(small(t, `"play":{"attempts":2},"marks":{"keep":"`+keep+`"}`), a, b, check, again, lift, check)
		if s.Final == nil || s.Final.Score != want || s.Final.Attempts != 2 {
			t.Errorf("keeping the %s: %s", keep, text(t, s.Final))
		}
	}
}

// Where right and wrong never show, what is sent says so, and a held piece is only held.
func TestShowNever(t *testing.T) {
	for show, want := range map[string]bool{"never": false, "check": true, "placement": true} {
		g := small(t, `"play":{"show":"`+show+`","attempts":2,"rightPieces":"hold"}`)
		if got := g.Scene(1, masked{}).ShowsRight; got != want {
			t.Errorf("%s: shows right %v", show, got)
		}
		s := play1(g, place("a"), place("b"), play.Move{Do: "check"}, play.Move{Do: "again"})
		if len(s.Held) != 1 || s.Shown != nil && show == "never" {
			t.Errorf("%s: held %v, shown %v", show, s.Held, s.Shown)
		}
	}
}
