package say_test

import (
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/say"
)

func drawers(t *testing.T, more string) *activity.Doc {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"x",
		"items":[{"id":"chain","name":"Chain","tags":["drive"]},{"id":"bell","name":"Bell"}],
		"targets":[{"id":"upper","name":"Upper","frame":{"x":0,"y":0,"w":100,"h":100}},{"id":"lower","name":"Lower","frame":{"x":0,"y":200,"w":100,"h":100}}],
		"key":{"solutions":[{"name":"As built","right":{"upper":{"items":["chain"]},"lower":{"items":["bell"]}}}]}` + more + `}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return doc
}

func TestWhenAReplyIsGivenIsSaidInWords(t *testing.T) {
	for _, c := range []struct{ moment, when, want string }{
		{"opened", ``, "On opening"},
		{"checked", `{"outcome":"right"}`, "When it is checked and everything is correct"},
		{"checked", `{"all":[{"target":"upper","is":"right"},{"none":[{"target":"lower","is":"right"}]}]}`, "When it is checked and Upper is correct and Lower is not correct"},
		{"checked", `{"all":[{"outcome":"part"},{"left":{"max":0}},{"percent":{"min":40,"max":60}}]}`,
			"When it is checked and some of it is correct, no attempt is left and the score is 40 to 60%"},
		{"placed", `{"all":[{"piece":{"items":["bell"]}},{"onto":["upper","lower"]},{"result":"wrong"}]}`, "When Bell is put into Upper or Lower and is wrong there"},
		{"placed", `{"all":[{"piece":{"tags":["drive"]}},{"result":"refused"},{"onto":["lower"]},{"attempt":{"min":2}}]}`,
			"When a piece tagged drive is not accepted by Lower and it is attempt 2 or a later one"},
		{"placed", `{"result":"kept"}`, "When a piece is put down where it stood before"},
		{"done", `{"any":[{"item":"bell","in":"upper"},{"all":[{"item":"chain","is":"home"},{"wrongCount":{"min":1,"max":1}}]}]}`,
			"When it is over and Bell is in Upper or (Chain is at its start and 1 piece is wrong)"},
		{"checked", `{"none":[{"any":[{"missingCount":{"max":2}},{"solution":0}]}]}`,
			"When it is checked and not at most 2 items are missing and it is not closest to As built"},
		{"checked", `{"rightCount":{"min":0,"max":0}}`, "When it is checked and no piece is correct"},
		{"checked", `{"all":[{"attempt":{"min":1,"max":1}},{"left":{"min":1}},{"homeCount":{"min":2}}]}`,
			"When it is checked and it is the first attempt, an attempt is left and at least 2 pieces are at their start"},
	} {
		when := ""
		if c.when != "" {
			when = `,"when":` + c.when
		}
		doc := drawers(t, `,"replies":[{"id":"r","moment":"`+c.moment+`"`+when+`}]`)
		if got := say.When(doc, &doc.Replies[0]).Message; got != c.want {
			t.Errorf("%s\n got %s\nwant %s", c.when, got, c.want)
		}
	}
}

// What is said of one item in one place comes before what is said of the item, and
// that before what is said of all.
func TestMoreParticularRepliesComeFirst(t *testing.T) {
	doc := drawers(t, `,"play":{"attempts":2},"replies":[{"id":"any","moment":"placed","say":{"text":"Hm."}},{"id":"end","moment":"done"}]`)
	edit.SayAt(doc, edit.Slot{Item: "bell", Result: "wrong", Moment: "placed"}, activity.Say{Text: "A bell is loud."})
	edit.SayAt(doc, edit.Slot{Item: "bell", Target: "upper", Moment: "placed"}, activity.Say{Text: "Not among chains."})
	edit.SayAt(doc, edit.Slot{Item: "bell", Result: "wrong", Moment: "checked"}, activity.Say{Text: "Look at the bell again."})
	var order []string
	for _, r := range doc.Replies {
		order = append(order, r.ID)
	}
	if got := strings.Join(order, " "); got != "upper-bell wrong-bell any end wrong-bell-2" {
		t.Errorf("in this order: %s", got)
	}
	if again, faults := activity.Read(doc.Write()); faults != nil || len(edit.Slots(again)) != 3 {
		t.Fatal(faults, edit.Slots(again))
	}
	if r := edit.SaidAt(doc, edit.Slot{Item: "bell", Result: "wrong", Moment: "checked"}); r == nil || !r.Also {
		t.Error("at a check more than one item may be spoken of", r)
	}
	edit.SayAt(doc, edit.Slot{Item: "bell", Target: "upper", Moment: "placed"}, activity.Say{})
	if len(doc.Replies) != 4 {
		t.Error("with nothing to say the reply goes")
	}
}

func TestStartingReplies(t *testing.T) {
	for _, c := range []struct {
		play string
		want int
		says string
	}{
		{`{"attempts":1}`, 3, "When it is checked and some of it is correct"},
		{`{"attempts":0}`, 3, "When it is checked and nothing is correct"},
		{`{"attempts":3}`, 6, "When it is checked and nothing is correct and no attempt is left"},
		{`{"check":"each","attempts":0}`, 5, "When it is over and some of it is correct"},
		{`{"check":"each","attempts":3}`, 7, "When a piece is put down and is wrong there"},
		{`{"check":"none"}`, 1, "When it is checked"},
	} {
		doc := drawers(t, `,"play":`+c.play)
		if n := edit.AddStartingReplies(doc); n != c.want {
			t.Errorf("%s: %d replies, want %d", c.play, n, c.want)
		}
		if !slices.ContainsFunc(doc.Replies, func(r activity.Reply) bool { return say.When(doc, &r).Message == c.says }) {
			t.Errorf("%s: none %s", c.play, c.says)
		}
		if n := edit.AddStartingReplies(doc); n != 0 {
			t.Errorf("%s: %d more the second time", c.play, n)
		}
		if _, faults := activity.Read(doc.Write()); faults != nil {
			t.Error(faults)
		}
	}
}
