package play_test

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
)

// board makes a game of the items a, b, c (c right nowhere), the box (a and b are
// right there) and the bin; more is further fields of the document.
func board(t testing.TB, more string) *play.Game {
	t.Helper()
	return fromJSON(t, `"items":[{"id":"a"},{"id":"b"},{"id":"c","penalty":1}],
		"targets":[{"id":"box","frame":{"x":0,"y":0,"w":300,"h":300}},{"id":"bin","frame":{"x":400,"y":0,"w":300,"h":300},"lets":{"all":true,"except":["b"]}}],
		"key":{"solutions":[{"right":{"box":{"items":["a","b"]}}}]}`+more)
}

func fromJSON(t testing.TB, body string) *play.Game {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"r",` + body + `}`))
	if faults != nil {
		t.Fatal(faults)
	}
	g, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	return g
}

// run does moves such as "place a box", "check", "hint" or "@5000 timeUp" and
// writes for each what it came to: result, phase, the arrangement, and, where there
// is one, the verdict's outcome with the score kept.
func run(t testing.TB, g *play.Game, moves ...string) []string {
	t.Helper()
	state := g.Open(1)
	var out []string
	for i, text := range moves {
		m := play.Move{N: i + 1, T: state.T + 1}
		words := strings.Fields(text)
		if strings.HasPrefix(words[0], "@") {
			fmt.Sscan(words[0][1:], &m.T)
			words = words[1:]
		}
		m.Do = activity.Do(words[0])
		if len(words) > 1 {
			m.Piece = words[1]
		}
		if len(words) > 2 {
			m.Target = words[2]
		}
		if len(words) > 3 {
			var index int
			fmt.Sscan(words[3], &index)
			m.Index = &index
		}
		var a play.Answer
		state, a = g.Move(state, m)
		line := string(a.Result)
		if a.Reason != "" {
			line += " " + a.Reason
		}
		line += fmt.Sprintf(" %s#%d", state.Phase, state.Attempt)
		for _, target := range g.Doc.Targets {
			line += " [" + strings.Join(state.Now.Names()[target.ID], " ") + "]"
		}
		if a.Verdict != nil {
			line += " " + string(a.Verdict.Outcome) + " " + state.Kept.Score.Fixed()
		}
		for _, r := range a.Replies {
			line += " +" + r.ID
		}
		out = append(out, line)
	}
	return out
}

// The expected lines stand behind the moves; what they say follows from section 6
// of the contract.
func TestPhasesByHand(t *testing.T) {
	for name, c := range map[string]struct {
		game  *play.Game
		moves []string // a move, then what it comes to
	}{
		"each, wrong pieces go home": {board(t, `,"play":{"check":"each","attempts":0,"wrongPieces":"home","rightPieces":"hold"},"marks":{"shares":[100,50],"negative":true}`), []string{
			"place a bin", "placed placing#2 [] [] wrong 0.00",
			"place a box", "placed placing#2 [a] [] part 2.50", // (1 × 50 %) of 2
			"place a bin", "rejected not-allowed placing#2 [a] []", // held
			"undo", "rejected not-allowed placing#2 [a] []",
			"place c box", "placed placing#3 [a] [] part -2.50", // 1/2 − 1 of 2
			"place b box", "placed done#3 [a b] [] right 2.50", // 1/2 + 1 − 1 of 2
		}},
		"each, a wrong piece stays and is lifted": {board(t, `,"play":{"check":"each","attempts":3}`), []string{
			"place c bin", "placed placing#2 [] [c] wrong 0.00",
			"place a box", "placed placing#2 [a] [c] part 0.00", // 1 − 1
			"place b box", "placed placing#2 [a b] [c] part 5.00", // 2 − 1 of 2
			"place b box", "kept placing#2 [a b] [c]", // not judged again
			"lift c", "lifted done#2 [a b] [] right 5.00", // the charge stays
		}},
		"each, handed in": {board(t, `,"play":{"check":"each"}`), []string{
			"place a box", "placed placing#1 [a] [] part 5.00",
			"check", "checked done#1 [a] [] part 5.00",
		}},
		"each, refusals count": {board(t, `,"play":{"check":"each","attempts":2,"refusals":"count"},"marks":{"cells":{"b/bin":{"penalty":2}},"negative":true}`), []string{
			"place b bin", "refused closed placing#2 [] [] wrong -10.00",
			"place a box", "placed placing#2 [a] [] part -5.00", // 1 − 2 of 2
			"place b bin", "refused closed done#2 [a] [] part -10.00", // 1 − 4, cut at minus all
		}},
		"full": {board(t, `,"play":{"check":"full","attempts":2,"wrongPieces":"home","rightPieces":"hold"}`), []string{
			"place a box", "placed placing#1 [a] []",
			"place c bin", "placed placing#1 [a] [c]",
			"place b box", "placed paused#1 [a b] [c] part 5.00", // 2 − 1 of 2
			"lift c", "rejected not-allowed paused#1 [a b] [c]",
			"again", "again placing#2 [a b] []",
			"lift a", "rejected not-allowed placing#2 [a b] []",
			"check", "checked done#2 [a b] [] right 10.00",
		}},
		"full, checked before": {board(t, `,"play":{"check":"full"}`), []string{
			"check", "checked done#1 [] [] wrong 0.00",
		}},
		"none": {board(t, `,"play":{"check":"none"},"replies":[{"id":"thanks","moment":"checked"},{"id":"good","moment":"done","when":{"outcome":"right"}}]`), []string{
			"place a box", "placed placing#1 [a] []",
			"place b box", "placed placing#1 [a b] []",
			"check", "checked done#1 [a b] [] +thanks +good",
			"undo", "rejected not-allowed done#1 [a b] []",
		}},
		"correct pieces go home, wrong ones stay": {board(t, `,"play":{"attempts":3,"rightPieces":"home"}`), []string{
			"place a box", "placed placing#1 [a] []",
			"place c box", "placed placing#1 [a c] []",
			"check", "checked paused#1 [a c] [] part 0.00",
			"again", "again placing#2 [c] []",
			"undo", "rejected not-allowed placing#2 [c] []",
		}},
		"time": {board(t, `,"play":{"timeLimit":1000,"restart":true,"attempts":2},"replies":[{"id":"late","moment":"timeUp"},{"id":"end","moment":"done"}]`), []string{
			"@10 timeUp", "rejected not-allowed placing#1 [] []",
			"@5 place a box", "rejected not-allowed placing#1 [] []", // earlier than the one before
			"@1000 place a box", "placed placing#1 [a] []", // at the limit is in time
			"@1001 place b box", "rejected not-allowed placing#1 [a] []",
			"@1002 restart", "rejected not-allowed placing#1 [a] []",
			"@1003 timeUp", "timeUp done#1 [a] [] part 5.00 +late +end",
			"@1004 timeUp", "rejected not-allowed done#1 [a] []",
		}},
		"time runs out in a pause": {board(t, `,"play":{"timeLimit":1000,"attempts":2},"replies":[{"id":"late","moment":"timeUp"}]`), []string{
			"place a box", "placed placing#1 [a] []",
			"check", "checked paused#1 [a] [] part 5.00",
			"@1000 timeUp", "timeUp done#1 [a] [] +late", // the last verdict stands
		}},
		"dealt one by one": {board(t, `,"play":{"deal":"one","checkWhen":"allPlaced"},"replies":[{"id":"last","moment":"placed","when":{"homeCount":{"max":0}}}]`), []string{
			"place b box", "rejected not-allowed placing#1 [] []",
			"place a box", "placed placing#1 [a] []",
			"undo", "undone placing#1 [] []",
			"place b box", "placed placing#1 [b] []", // it has appeared, and stays
			"place c bin", "placed placing#1 [b] [c]",
			"check", "rejected not-allowed placing#1 [b] [c]", // a could still be placed
			"place a box", "placed placing#1 [b a] [c] +last",
			"check", "checked done#1 [b a] [c] part 5.00",
		}},
		"hints": {board(t, `,"hints":[{"text":"Look."},{"place":true},{"place":true},{"place":true}],"play":{"attempts":2},"marks":{"hintCost":10}`), []string{
			"hint", "hinted placing#1 [] []",
			"place a bin", "placed placing#1 [] [a]",
			"hint", "hinted placing#1 [a] []", // a is missing, though it stands in the bin
			"lift a", "rejected not-allowed placing#1 [a] []",
			"undo", "undone placing#1 [] [a]", // back in the bin, and the hint is spent
			"hint", "hinted placing#1 [a] []",
			"place b box", "placed placing#1 [a b] []",
			"hint", "rejected not-allowed placing#1 [a b] []", // nothing is missing
			"check", "checked done#1 [a b] [] right 7.00",
		}},
		"a hint fills the board": {board(t, `,"hints":[{"place":true}],"play":{"check":"full"},"replies":[{"id":"h","moment":"hinted"},{"id":"c","moment":"checked"}]`), []string{
			"place a box", "placed placing#1 [a] []",
			"place c bin", "placed placing#1 [a] [c]",
			"hint", "hinted done#1 [a b] [c] part 5.00 +h +c",
		}},
		"a reply ends it": {board(t, `,"play":{"attempts":3},"replies":[{"id":"stop","moment":"placed","when":{"all":[{"piece":{"items":["c"]}},{"onto":["bin"]}]},"finish":true},{"id":"end","moment":"done"}]`), []string{
			"place c box", "placed placing#1 [c] []",
			"place c bin", "placed done#1 [] [c] +stop +end",
		}},
		"a reply ends it where each is judged": {board(t, `,"play":{"check":"each","attempts":3,"wrongPieces":"home"},"replies":[{"id":"stop","moment":"placed","when":{"result":"wrong"},"finish":true},{"id":"end","moment":"done","when":{"target":"bin","is":"empty"}}]`), []string{
			"place c bin", "placed done#1 [] [] wrong 0.00 +stop +end",
		}},
		"restart": {board(t, `,"hints":[{"text":"Look."}],"play":{"restart":true},"marks":{"hintCost":50},"replies":[{"id":"hello","moment":"opened"}]`), []string{
			"hint", "hinted placing#1 [] []",
			"place a box", "placed placing#1 [a] []",
			"check", "checked done#1 [a] [] part 0.00",
			"restart", "restarted placing#1 [] [] +hello",
			"hint", "hinted placing#1 [] []",
		}},
	} {
		t.Run(name, func(t *testing.T) {
			var moves, want []string
			for i, text := range c.moves {
				if i%2 == 0 {
					moves = append(moves, text)
				} else {
					want = append(want, text)
				}
			}
			got := run(t, c.game, moves...)
			for i := range want {
				if got[i] != want[i] {
					t.Errorf("%s\n got %s\nwant %s", moves[i], got[i], want[i])
				}
			}
		})
	}
}

func TestABoardThatIsValidWhileEmpty(t *testing.T) {
	g := fromJSON(t, `"items":[{"id":"a"}],"targets":[{"id":"box","frame":{"x":0,"y":0,"w":300,"h":300},"holds":1}],"key":{"solutions":[{}]},"play":{"check":"each","restart":true,"attempts":0}`)
	if got := run(t, g, "lift a", "reset", "restart", "place a box", "lift a"); !slices.Equal(got, []string{
		"rejected not-allowed placing#1 []", "reset done#1 [] right 10.00", "restarted placing#1 []",
		"placed placing#2 [a] wrong 0.00", "lifted done#2 [] right 10.00",
	}) {
		t.Errorf("%q", got)
	}
}

// A hint leaves a way to be right: the bell could hang in a, but a is all that the
// chain has.
func TestAHintLeavesAWay(t *testing.T) {
	g := fromJSON(t, `"items":[{"id":"bell"},{"id":"chain"},{"id":"rag"}],"hints":[{"place":true},{"place":true}],
		"targets":[{"id":"a","frame":{"x":0,"y":0,"w":9,"h":9},"holds":1},{"id":"b","frame":{"x":0,"y":0,"w":9,"h":9},"holds":1}],
		"key":{"solutions":[{"right":{"a":{"items":["bell","chain"]},"b":{"items":["bell"]}}}]}`)
	if got := run(t, g, "place rag b", "hint", "hint"); got[1] != "hinted placing#1 [] [bell]" || got[2] != "hinted placing#1 [chain] [bell]" {
		t.Errorf("%q", got)
	}
	// Where all are governed, a need that has too few is served, in its lane's order.
	g = fromJSON(t, `"items":[{"id":"bulb","copies":3}],"hints":[{"place":true},{"place":true},{"place":true}],
		"targets":[{"id":"a","frame":{"x":0,"y":0,"w":9,"h":9}}],"key":{"solutions":[{"right":{"a":{"all":true}},"needs":[{"target":"a","min":2}]}]}`)
	if got := run(t, g, "hint", "hint", "hint"); got[1] != "hinted placing#1 [bulb bulb~2]" || got[2] != "rejected not-allowed placing#1 [bulb bulb~2]" {
		t.Errorf("%q", got)
	}
	g = fromJSON(t, `"items":[{"id":"x"},{"id":"y"},{"id":"z"}],"hints":[{"place":true}],"targets":[{"id":"l","ordered":true,"frame":{"x":0,"y":0,"w":9,"h":9}}],
		"key":{"solutions":[{"right":{"l":{"all":true}},"orders":[{"target":"l","tiers":[["x"],["y"],["z"]]}]}]}`)
	if got := run(t, g, "place x l", "place z l", "hint"); got[2] != "hinted placing#1 [x y z]" {
		t.Errorf("%q", got)
	}
}

func TestConditionsByHand(t *testing.T) {
	reply := func(when string) *play.Game {
		return board(t, `,"play":{"attempts":2},"replies":[{"id":"r","moment":"placed","when":`+when+`},{"id":"c","moment":"checked","when":`+when+`}]`)
	}
	// After a and c in the box and b lifted: right a, wrong c, missing b.
	moves := []string{"place c box", "place a box"}
	for when, want := range map[string]string{
		`{"piece":{"items":["a"]}}`:                           "r ",
		`{"onto":["bin","box"]}`:                              "r ",
		`{"result":"right"}`:                                  "r ",
		`{"result":"wrong"}`:                                  "",
		`{"item":"b","is":"home"}`:                            "r c",
		`{"item":"c","is":"wrong"}`:                           "r c",
		`{"item":"a","is":"wrong"}`:                           "",
		`{"item":"a","in":"box"}`:                             "r c",
		`{"target":"box","is":"part"}`:                        "r c",
		`{"target":"bin","is":"empty"}`:                       "r c",
		`{"outcome":"part"}`:                                  "r c",
		`{"rightCount":{"min":1,"max":1}}`:                    "r c",
		`{"wrongCount":{"min":2}}`:                            "",
		`{"missingCount":{"max":1}}`:                          "r c",
		`{"homeCount":{"min":1,"max":1}}`:                     "r c",
		`{"percent":{"max":0}}`:                               "r c", // 1 − 1 of 2
		`{"attempt":{"min":1,"max":1}}`:                       "r c",
		`{"left":{"min":1}}`:                                  "r c",
		`{"solution":0}`:                                      "r c",
		`{"all":[]}`:                                          "r c",
		`{"any":[]}`:                                          "",
		`{"none":[{"outcome":"right"},{"result":"refused"}]}`: "r c",
		`{"any":[{"outcome":"right"},{"all":[{"left":{}}]}]}`: "r c",
		`{"all":[{"outcome":"part"},{"result":"refused"}]}`:   "",
	} {
		var got string
		lines := run(t, reply(when), append(moves, "check")...)
		if strings.Contains(lines[1], "+r") {
			got = "r "
		}
		if strings.Contains(lines[2], "+c") {
			got += "c"
		}
		if got != want {
			t.Errorf("%s: %q, want %q", when, got, want)
		}
	}
	// Without a limit what is left is more than any number.
	g := board(t, `,"play":{"attempts":0},"replies":[{"id":"many","moment":"placed","when":{"left":{"min":999999}}},{"id":"few","moment":"placed","when":{"left":{"max":999999}}}]`)
	if got := run(t, g, "place a box"); got[0] != "placed placing#1 [a] [] +many" {
		t.Errorf("%q", got)
	}
	// A piece put again where it stands is kept, and judged there as well.
	g = board(t, `,"replies":[{"id":"kept","moment":"placed","when":{"result":"kept"},"also":true},{"id":"right","moment":"placed","when":{"result":"right"},"also":true},{"id":"no","moment":"placed","when":{"result":"refused"}}]`)
	if got := run(t, g, "place a box", "place a box", "place b bin", "lift a"); !slices.Equal(got, []string{
		"placed placing#1 [a] [] +right", "kept placing#1 [a] [] +kept +right", "refused closed placing#1 [a] [] +no", "lifted placing#1 [] []",
	}) {
		t.Errorf("%q", got)
	}
}

func TestWhatIsSaid(t *testing.T) {
	g := fromJSON(t, `"items":[{"id":"a","name":"secret","text":"The *bell*"},{"id":"b","name":"Chain","copies":2}],"targets":[{"id":"box","label":{"text":"Box"},"frame":{"x":0,"y":0,"w":300,"h":300}}],
		"key":{"solutions":[{"right":{"box":{"all":true}}}]},"play":{"attempts":3},"marks":{"points":5,"shares":[50]},
		"replies":[{"id":"p","moment":"placed","say":{"text":"{item} into {target}: {right} of {total}, {score} of {points} ({percent} %), {left} left at {attempt}. {this} stays"}},
			{"id":"d","moment":"checked","say":{"text":"{item}{score}"}}]`)
	state, a := g.Move(g.Open(1), play.Move{N: 1, Do: "place", Piece: "a", Target: "box"})
	// 1/3 of 5 points at 50 %: 0.83.
	if want := `The \*bell\* into Box: 1 of 3, 0.83 of 5 (16.67 %), 2 left at 1. {this} stays`; a.Replies[0].Text != want {
		t.Errorf("%s, want %s", a.Replies[0].Text, want)
	}
	if _, a = g.Move(state, play.Move{N: 2, Do: "check"}); a.Replies[0].Text != "0.83" {
		t.Errorf("at a check: %q", a.Replies[0].Text)
	}
}

// The trail says what decided each move, in order.
func TestTheTrailNamesTheRule(t *testing.T) {
	doc := game(t).Doc
	doc.Targets[1].Lets = activity.Selector{Tags: []string{"brakes"}}
	doc.Replies = []activity.Reply{{ID: "well", Moment: "checked", When: &activity.Condition{Outcome: "right"}}, {ID: "end", Moment: "checked"}}
	g, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	doc.Targets[4].Holds, doc.Targets[4].WhenFull = 1, "oust" // from here on one alone fits
	doc.Targets[3].Holds = 1
	x, y := activity.U(100000), activity.U(50000)
	state := g.Open(1)
	for i, c := range []struct {
		m    play.Move
		want string
	}{
		{play.Move{Do: "drop", Piece: "saddle", X: &x, Y: &y}, "hit letIn rightHere count"},
		{play.Move{Do: "place", Piece: "stem", Target: "steering"}, "letIn rightHere count"},
		{play.Move{Do: "place", Piece: "fork", Target: "steering"}, "full"},
		{play.Move{Do: "place", Piece: "seat-post", Target: "seat"}, "letIn ousted rightHere count"},
		{play.Move{Do: "place", Piece: "bell", Target: "brakes"}, "turnedAway"},
		{play.Move{Do: "place", Piece: "bell", Target: "wheels"}, "letIn wrongHere count"},
		{play.Move{Do: "place", Piece: "bell", Target: "wheels"}, "already wrongHere count"},
		{play.Move{Do: "again"}, "rejected"},
		{play.Move{Do: "check"}, "score reply reply"},
		{play.Move{Do: "again"}, "again goesHome heldInPlace heldInPlace"},
	} {
		c.m.N = i + 1
		var steps []play.Step
		state, _, steps = g.Explain(state, c.m)
		var codes []string
		for _, s := range steps {
			codes = append(codes, s.Code)
		}
		got := strings.Join(codes, " ")
		// Pieces go home and are held in document order.
		parts := strings.Fields(got)
		if c.m.Do == "again" && len(parts) > 1 {
			slices.Sort(parts[1:])
			got = strings.Join(parts, " ")
		}
		if got != c.want {
			t.Errorf("%+v: the trail says %s, want %s", c.m, got, c.want)
		}
		for _, s := range steps {
			switch {
			case s.Code == "turnedAway" && s.Field != "/targets/1/lets", s.Code == "full" && (s.Holds != 1 || s.Field != "/targets/3/holds"),
				s.Code == "wrongHere" && s.Why != "noCell", s.Code == "score" && len(s.Entries) == 0:
				t.Errorf("%+v: %+v", c.m, s)
			case s.Code == "reply" && s.Reply.Reply == "well":
				if s.Reply.Given || len(s.Reply.Facts) != 1 || s.Reply.Facts[0].Value != "part" {
					t.Errorf("why the reply was not given: %+v", s.Reply)
				}
			}
		}
	}
}

func TestARemarkSaysWhatNoLongerApplies(t *testing.T) {
	now := fromJSON(t, `"items":[{"id":"a"},{"id":"b"},{"id":"c"}],
		"targets":[{"id":"box","frame":{"x":0,"y":0,"w":300,"h":300},"lets":{"items":["b","c"]}},{"id":"bin","frame":{"x":400,"y":0,"w":300,"h":300}}],
		"key":{"solutions":[{"right":{"box":{"items":["b"]}}}]}`)
	var moves []play.Move
	if err := json.Unmarshal([]byte(`[{"n":1,"t":1,"do":"place","piece":"a","target":"box"},{"n":2,"t":2,"do":"place","piece":"b","target":"box"},
		{"n":3,"t":3,"do":"place","piece":"c","target":"box"},{"n":4,"t":4,"do":"check"},{"n":5,"t":5,"do":"again"}]`), &moves); err != nil {
		t.Fatal(err)
	}
	r := play.Remark(now, 1, -1, moves, []placing.Effect{"placed", "placed", "placed", "checked", "again"})
	if r.Is.Score != "10.00" || text(t, r.Gone) != `[{"n":1,"was":"placed","is":"refused","reason":"closed"},{"n":5,"was":"again","is":"rejected","reason":"not-allowed"}]` {
		t.Errorf("%+v", r)
	}
}

// Who had more time than the document gives is scored again within that time.
func TestARemarkKeepsTheLearnersTime(t *testing.T) {
	was := board(t, `,"play":{"timeLimit":1000}`)
	moves := []play.Move{{N: 1, T: 500, Do: "place", Piece: "a", Target: "box"}, {N: 2, T: 1400, Do: "check"}}
	for limit, gone := range map[int64]placing.Effect{1500: "checked", -1: "rejected"} {
		r := play.Remark(was, 1, limit, moves, []placing.Effect{"placed", gone})
		if ended := r.Is.Phase == play.Done; ended != (gone == "checked") || len(r.Gone) > 0 {
			t.Errorf("within %d ms the check is %s: %+v", limit, gone, r)
		}
	}
}
