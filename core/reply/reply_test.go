package reply_test

import (
	"fmt"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/reply"
)

// book is a document of bell and chain and one box, with these replies.
func book(t testing.TB, replies string) (*reply.Book, *marks.Judge) {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"r","items":[{"id":"bell","name":"bell"},{"id":"chain"}],
		"targets":[{"id":"box","name":"box","frame":{"x":0,"y":0,"w":9,"h":9}}],"key":{"solutions":[{"right":{"box":{"items":["chain"]}}}]},"replies":[` + replies + `]}`))
	if faults != nil {
		t.Fatal(faults)
	}
	judge, err := marks.NewJudge(doc)
	if err != nil {
		t.Fatal(err)
	}
	return reply.NewBook(judge), judge
}

// bellInBox is the situation after the bell was put into the box.
func bellInBox(judge *marks.Judge) reply.Situation {
	a := placing.New(judge.Parts)
	a.Put(0, 0, 1)
	return reply.Situation{
		Moment: "placed", Arrangement: a, Judgement: judge.Judge(a, marks.Now{Attempt: 1}, nil),
		Placement: &reply.Placement{Piece: 0, Target: 0, Result: "placed"}, Attempt: 1, Left: 2,
	}
}

func Example() {
	b, judge := book(&testing.T{}, `
		{"id":"well","moment":"placed","when":{"result":"right"},"say":{"text":"Right."}},
		{"id":"no","moment":"placed","when":{"all":[{"result":"wrong"},{"left":{"min":1}}]},"say":{"text":"Not in {target}; {left} left."}},
		{"id":"last","moment":"placed"}`)
	s := bellInBox(judge)
	given := b.Given(s, func(t reply.Tried) { fmt.Println(t.Reply, t.Given, t.Facts) })
	fmt.Println(given, b.Fill("Not in {target}; {left} left.", s))
	// Output:
	// well false [{ false result wrong true it is not correct there}]
	// no true [{/all/0 true result wrong true it is wrong there} {/all/1 true left 2 true an attempt is left}]
	// [1] Not in box; 2 left.
}

func TestLookingStopsWhereItIsDecided(t *testing.T) {
	for when, want := range map[string]string{
		`{"all":[{"outcome":"right"},{"solution":0}]}`:                     `false [{/all/0 false outcome wrong true not everything is correct}]`,
		`{"any":[{"none":[{"solution":0}]},{"item":"bell","is":"wrong"}]}`: `true [{/any/0/none/0 true solution solution 1 false it is closest to solution 1} {/any/1 true item wrong in box true bell is wrong}]`,
		`{"item":"chain","in":"box"}`:                                      `false [{ false item at its start true chain is not in box (at its start)}]`,
		`{"percent":{"min":0.01}}`:                                         `false [{ false percent 0 true the score is not at least 0.01% (0)}]`,
		`{"any":[]}`:                                                       `false []`,
	} {
		b, judge := book(t, `{"id":"r","moment":"placed","when":`+when+`}`)
		b.Given(bellInBox(judge), func(tried reply.Tried) {
			if got := fmt.Sprint(tried.Given, " ", tried.Facts); got != want {
				t.Errorf("%s: %s, want %s", when, got, want)
			}
		})
	}
}

func TestAlsoLetsTheSearchGoOn(t *testing.T) {
	b, judge := book(t, `{"id":"a","moment":"placed","also":true},{"id":"b","moment":"done"},{"id":"c","moment":"placed"},{"id":"d","moment":"placed"}`)
	if got := fmt.Sprint(b.Given(bellInBox(judge), nil)); got != "[0 2]" {
		t.Error(got)
	}
	if b.Any("checked") || !b.Any("done") {
		t.Error("for which moments there are replies")
	}
}

func TestEverythingCanBeSaid(t *testing.T) {
	b, judge := book(t, ``)
	s := bellInBox(judge)
	s.Left = reply.Unlimited
	if got := b.Fill("{item} {target} {right}/{total} {left} {attempt} {score}/{points} {percent} {other}", s); got != "bell box 0/1 ∞ 1 0/10 0 {other}" {
		t.Error(got)
	}
	s.Placement = nil
	if got := b.Fill("{item}|{target}", s); got != "|" {
		t.Error(got)
	}
}
