package play_test

import (
	"strings"
	"testing"

	"keenmagpie/core/play"
)

// Where each placement is judged, what is said until the check is over with the next
// placement; a card that stays is not.
func TestRepliesWhereEachPlacementIsJudged(t *testing.T) {
	g := small(t, `"play":{"check":"each","attempts":0,"wrongPieces":"home"},"replies":[
		{"id":"stay","moment":"placed","when":{"result":"wrong"},"also":true,"say":{"text":"Remember."},"spot":"card","until":"stays"},
		{"id":"no","moment":"placed","when":{"result":"wrong"},"say":{"text":"Not {item}."},"spot":"target"},
		{"id":"refused","moment":"placed","when":{"result":"refused"},"say":{"text":"{item} is turned away."}},
		{"id":"over","moment":"done","say":{"text":"{attempt} tries, {score} of {points}."}}]`)
	for _, c := range []struct {
		want  string
		moves []play.Move
	}{
		{"Remember. | Not a bell.", []play.Move{place("b")}},
		{"Remember. | Not a bell. | C by name is turned away.", []play.Move{place("b"), place("c")}},
		{"Remember. | 2 tries, 10 of 10.", []play.Move{place("b"), place("a")}},
	} {
		s := play1(g, c.moves...)
		if got := standing(s); got != c.want {
			t.Errorf("%v: %s, want %s", c.moves, got, c.want)
		}
		if s.Phase == play.Done && s.Key != nil {
			t.Error("the answer is shown although nothing says so")
		}
	}
}

// A reply that finishes the sitting is said, and so is what follows.
func TestAReplyThatFinishes(t *testing.T) {
	g := small(t, `"play":{"attempts":9},"replies":[
		{"id":"enough","moment":"checked","when":{"attempt":{"min":2}},"say":{"text":"Enough."},"finish":true,"offer":["next","page:how"]},
		{"id":"off","moment":"checked","say":{"text":"Never."},"off":true},
		{"id":"end","moment":"done","say":{"text":"That was it."},"spot":"card"}]`)
	check, again := play.Move{Do: "check"}, play.Move{Do: "again"}
	s := play1(g, check, again, check)
	if got := standing(s); got != "Enough. | That was it." || s.Phase != play.Done {
		t.Errorf("%s, %s", got, s.Phase)
	}
	if offer := strings.Join(s.Replies[0].Offer, " "); offer != "next page:how" || s.Replies[1].Until != "closed" {
		t.Errorf("offers %s; the card stands until %s", offer, s.Replies[1].Until)
	}
	if s := play1(g, check); len(s.Replies) != 0 {
		t.Errorf("what is switched off is said: %s", standing(s))
	}
}

// Where the learner sees a time, hints and a place for Check, the scene has them.
func TestTheSceneHasWhatShows(t *testing.T) {
	g := small(t, `"play":{"timeLimit":90000,"restart":true,"beckon":"right","check":"full"},"hints":[{"text":"x"}],"marks":{"hintCost":7},"words":{"check":"Look"},"board":{"check":{"x":1,"y":2,"w":30,"h":40}}`)
	s := g.Scene(1, masked{})
	if s.TimeLimit != 90000 || !s.Restart || !s.Beckons || s.Check != "full" || s.HintCost != 7 || s.Words["check"] != "Look" || s.CheckAt == nil {
		t.Errorf("%+v", s)
	}
	if all := text(t, s); strings.Contains(all, `"right"`) {
		t.Errorf("what beckons is told before a piece is in hand: %s", all)
	}
}
