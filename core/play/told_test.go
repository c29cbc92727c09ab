package play_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/reply"
)

// standing is what stands before the learner: the texts of the replies.
func standing(s play.Standing) string {
	var out []string
	for _, r := range s.Replies {
		text := ""
		for _, n := range r.Rich {
			for _, c := range n.Children {
				text += c.Text
			}
		}
		out = append(out, text)
	}
	return strings.Join(out, " | ")
}

func place(piece string) play.Move { return play.Move{Do: "place", Piece: piece, Target: "one"} }

func TestHowLongRepliesStand(t *testing.T) {
	g := small(t, `"play":{"attempts":3,"restart":true},"replies":[
		{"id":"hello","moment":"opened","say":{"text":"Hello."},"until":"stays","spot":"card"},
		{"id":"put","moment":"placed","when":{"piece":{"items":["a"]}},"say":{"text":"An {item}."}},
		{"id":"brief","moment":"placed","when":{"piece":{"items":["b"]}},"say":{"text":"Briefly."},"spot":"piece","until":"move"},
		{"id":"no","moment":"checked","say":{"text":"{right} right."},"tone":"wrong","point":["wrong"]}]`)
	a, b, check := place("a"), place("b"), play.Move{Do: "check"}
	for _, c := range []struct {
		want  string
		moves []play.Move
	}{
		{"Hello.", nil},
		{"Hello. | An A.", []play.Move{a}},
		{"Hello. | An A. | Briefly.", []play.Move{a, b}},
		{"Hello. | An A.", []play.Move{a, b, {Do: "lift", Piece: "b"}}},
		{"Hello. | An A. | Briefly.", []play.Move{a, b, {Do: "lift", Piece: "c"}}}, // rejected: nothing happens
		{"Hello. | 1 right.", []play.Move{a, b, check}},
		{"Hello. | 1 right.", []play.Move{a, b, check, {Do: "again"}}},
		{"Hello. | An A.", []play.Move{a, b, check, {Do: "again"}, a}}, // at the same spot
		{"Hello.", []play.Move{a, b, check, {Do: "restart"}}},
	} {
		if got := standing(play1(g, c.moves...)); got != c.want {
			t.Errorf("%v: %s, want %s", c.moves, got, c.want)
		}
	}
	said := play1(g, a, b, check)
	if p := said.Replies[1].Points; p == nil || fmt.Sprint(p.Pieces) != "[p-b]" {
		t.Errorf("pointed out: %+v", p)
	}
	if said := play1(g, b); said.Replies[1].Piece != "p-b" || said.Replies[1].Target != "t-one" {
		t.Errorf("where it stands: %+v", said.Replies[1])
	}
	if all := text(t, said); strings.Contains(all, "secret") || strings.Contains(all, "brief\"") {
		t.Errorf("what is told says too much: %s", all)
	}
}

func TestACardCanBeOpenedAgain(t *testing.T) {
	g := small(t, `"replies":[{"id":"card","moment":"placed","say":{"text":"About {item}."},"spot":"card","reopen":true}],"play":{"restart":true}`)
	said := play1(g, place("a"), place("b"), place("a"))
	if len(said.Replies) != 2 || !said.Replies[0].Over || said.Replies[0].Piece != "p-b" || said.Replies[1].Over {
		t.Errorf("%+v", said.Replies)
	}
	if again := play1(g, place("a"), play.Move{Do: "restart"}); len(again.Replies) != 0 {
		t.Error("after starting over there is nothing to open again")
	}
}

// What is right is in the traffic only once it may be seen.
func TestTheAnswerIsShownWhenItIsDue(t *testing.T) {
	check := play.Move{Do: "check"}
	for _, c := range []struct {
		settings string
		moves    []play.Move
		want     string
	}{
		{`"play":{"review":"key","attempts":2}`, []play.Move{place("b"), check}, ""},
		{`"play":{"review":"key"}`, []play.Move{place("b"), check}, "map[t-one:[p-a]]"},
		{`"play":{"review":"own"}`, []play.Move{place("b"), check}, ""},
		{`"play":{"attempts":2},"replies":[{"id":"r","moment":"checked","showKey":true}]`, []play.Move{place("b")}, ""},
		{`"play":{"attempts":2},"replies":[{"id":"r","moment":"checked","showKey":true}]`, []play.Move{place("b"), check}, "map[t-one:[p-a]]"},
		{`"play":{"check":"none","review":"both"}`, []play.Move{check}, "map[t-one:[p-a]]"},
	} {
		s := play1(small(t, c.settings), c.moves...)
		got := ""
		if s.Key != nil {
			got = fmt.Sprint(s.Key.Targets)
		}
		if got != c.want {
			t.Errorf("%s: %q, want %q", c.settings, got, c.want)
		}
		if s.Key != nil && s.Key.Stands["p-a"].W == 0 {
			t.Error("where it stands is not told")
		}
	}
}

// A finished sitting that is looked at again says what there is to say then.
func TestAFinishedSittingIsLookedAt(t *testing.T) {
	g := small(t, `"replies":[{"id":"done","moment":"done","say":{"text":"Done."}},{"id":"again","moment":"review","when":{"outcome":"right"},"say":{"text":"You had it all."},"spot":"target"}]`)
	state := g.Open(1)
	var a play.Answer
	for i, m := range []play.Move{place("a"), {Do: "check"}} {
		m.N = i + 1
		state, a = g.Move(state, m)
	}
	if got := standing(g.Standing(state, a, masked{})); got != "Done." {
		t.Errorf("at the end: %s", got)
	}
	if got := standing(g.Standing(state, play.Answer{}, masked{})); got != "Done. | You had it all." {
		t.Errorf("later: %s", got)
	}
}

func TestHintsAreToldOneAfterTheOther(t *testing.T) {
	g := small(t, `"hints":[{"text":"Look up."},{"place":true},{"text":"Look down."}]`)
	hint := play.Move{Do: "hint"}
	if s := play1(g, hint, hint); len(s.Hints) != 1 || s.HintsLeft != 1 || fmt.Sprint(s.Held) != "[p-a]" {
		t.Errorf("%+v, %d left, held %v", s.Hints, s.HintsLeft, s.Held)
	}
}

func TestWhatBeckons(t *testing.T) {
	for _, c := range []struct{ how, piece, want string }{
		{"none", "a", "[]"}, {"open", "b", "[one]"}, {"open", "c", "[]"}, {"right", "a", "[one]"}, {"right", "b", "[]"}, {"right", "zzz", "[]"},
	} {
		if got := fmt.Sprint(small(t, `"play":{"beckon":"`+c.how+`"}`).Beckons(c.piece).Targets); got != c.want {
			t.Errorf("%s %s: %s, want %s", c.how, c.piece, got, c.want)
		}
	}
}

// Of every situation each fact holds, and those that tell it name it in words.
func TestFactsOfASituation(t *testing.T) {
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"f","play":{"attempts":2},
		"items":[{"id":"a","name":"Axle"},{"id":"b","name":"Bell"}],
		"targets":[{"id":"one","name":"One","frame":{"x":0,"y":0,"w":300,"h":300}},{"id":"two","name":"Two","frame":{"x":400,"y":0,"w":300,"h":300}}],
		"key":{"solutions":[{"right":{"one":{"items":["a"]},"two":{"items":["b"]}}}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	g, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	for _, c := range []struct {
		name    string
		moment  activity.Moment
		in      [2]int // where Axle and Bell are
		attempt int
		placed  *reply.Placement
		want    string
	}{
		{"all correct", "checked", [2]int{0, 1}, 1, nil, "everything is correct"},
		{"one target right", "checked", [2]int{0, activity.Home}, 1, nil, "One is correct, Two is not correct"},
		{"one piece wrong", "checked", [2]int{1, activity.Home}, 1, nil, "Axle is in Two"},
		{"nothing placed, at the last attempt", "checked", [2]int{activity.Home, activity.Home}, 2, nil, "nothing is correct, no attempt is left"},
		{"a placement", "placed", [2]int{1, activity.Home}, 1, &reply.Placement{Piece: 0, Target: 1, Result: "placed"}, "the piece is Axle, the target is Two"},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := placing.New(g.Parts)
			for p, at := range c.in {
				if at >= 0 {
					a.Put(p, at, p+1)
				}
			}
			var telling []string
			for _, f := range g.Facts(a, c.moment, c.attempt, c.placed) {
				if f.Telling {
					telling = append(telling, f.Said.Message)
				}
				if f.When.Piece == nil && f.When.Onto == nil && f.When.Result == "" && f.When.Attempt == nil && f.When.Left == nil &&
					!g.Holds(&f.When, a, g.Judge.Judge(a, marks.Now{Attempt: 1}, nil)) {
					t.Errorf("it does not hold that %s", f.Said)
				}
			}
			if got := strings.Join(telling, ", "); got != c.want {
				t.Errorf("%s, want %s", got, c.want)
			}
			if slices.Contains(telling, "") {
				t.Error(c.name, "has a fact without words")
			}
		})
	}
	a := placing.New(g.Parts)
	a.Put(0, 0, 1)
	a.Put(1, 0, 2)
	var pieces []string
	for _, f := range g.Facts(a, "checked", 1, nil) {
		if f.When.Item != "" {
			pieces = append(pieces, f.Said.Message)
		}
	}
	if got := strings.Join(pieces, ", "); got != "Bell is in One, Axle is in One" {
		t.Errorf("the misplaced piece does not come first: %s", got)
	}
}
