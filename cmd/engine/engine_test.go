package main

import (
	"encoding/json"
	"os"
	"strings"
	"testing"
)

func drawers(t *testing.T) string {
	t.Helper()
	body, err := os.ReadFile("../../demo/activities/parts-drawers.json")
	if err != nil {
		t.Fatal(err)
	}
	return string(body)
}

func TestQuestionsAndAnswers(t *testing.T) {
	doc := drawers(t)
	for name, c := range map[string]struct{ question, in, says string }{
		"figures":     {"figures", doc, `"pieces":24,"targets":5,"nowhere":["bell","pump"]`},
		"a rehearsal": {"rehearse", `{"document":` + doc + `,"seed":1,"moves":[{"n":1,"t":5,"do":"place","piece":"chain","target":"seat"}]}`, `"code":"wrongHere","why":"noCell","piece":"chain","item":"chain","target":"seat"`},
		"a hit":       {"hit", `{"targets":[{"frame":{"x":0,"y":0,"w":10,"h":10},"shape":"rect"}],"size":{"w":4,"h":4},"hit":"centre","X":10,"Y":5.25}`, `{"answer":0}`},
		"beside":      {"hit", `{"targets":[{"frame":{"x":0,"y":0,"w":10,"h":10},"shape":"rect"}],"size":{"w":4,"h":4},"hit":"centre","x":10.01,"y":5}`, `{"answer":-1}`},
		"cells":       {"edit", `{"document":` + doc + `,"act":"cells","solution":0,"parts":{"items":["bell"],"targets":["seat"]},"on":true}`, `"seat":{"all":false,"items":["bell"],"tags":["seat"],"except":[]}`},
		"a removal":   {"edit", `{"document":` + doc + `,"act":"remove","parts":{"items":["chain"]}}`, `"lost":[{"message":"1 correct cell","line":{"code":"lost-cells","params":{"n":1}}}]`},
		"new items":   {"edit", `{"document":` + doc + `,"act":"addItems","names":["Bell"]}`, `"made":{"items":["bell-2"]`},
		"lining up":   {"edit", `{"document":` + doc + `,"act":"left","to":"board","parts":{"targets":["seat"]}}`, `"id":"seat","name":"Seat","label":{"text":"Seat","side":"above"},"frame":{"x":0`},
		// Each keeps what is not spoken of.
		"a reply of two":      {"edit", `{"document":` + strings.Replace(doc, `"replies": [`, `"replies": [{"id":"r","moment":"placed","when":{"all":[{"piece":{"items":["bell"]}},{"result":"wrong"}]},"say":{"sound":"ding"}},`, 1) + `,"act":"sayAt","slots":[{"item":"pump","result":"wrong","moment":"placed"},{"item":"bell","result":"wrong","moment":"placed"}],"say":{"text":"No."}}`, `"say":{"text":"No.","picture":"","alt":"","sound":"ding","transcript":""}`},
		"who is not accepted": {"edit", `{"document":` + doc + `,"act":"cells","solution":-1,"parts":{"items":["chain"],"targets":["drivetrain","seat"]}}`, `"told":[{"message":"One correct cell no longer counts, since its item is not accepted there.","line":{"code":"cells-count-no-more","params":{"n":1}}}]`},
		"a tag":               {"edit", `{"document":` + doc + `,"act":"tagRight","tag":"wheels","parts":{"targets":["seat"]},"on":true}`, `"tags":["seat","wheels"]`},
		"a need":              {"edit", `{"document":` + doc + `,"act":"ask","parts":{"items":["saddle","bell"],"targets":["seat"]},"asking":{"how":"exactly","n":1}}`, `"needs":[{"target":"seat","of":{"all":false,"items":["saddle","bell"],"tags":[],"except":[]},"min":1,"max":1}]`},
		"another solution":    {"edit", `{"document":` + doc + `,"act":"anotherSolution"}`, `"solution":1`},
		"what a cell is":      {"tell", `{"item":"inner-cable","target":"drivetrain"}`, `correct (set for this item); accepted by default`},
		"a proof":             {"prove", `{"what":"count"}`, `"count":"2"`},
		"ways":                {"ways", `{"most":5}`, `"done":true`},
		"a class":             {"prove", `{"what":"class","learners":{"number":20,"ability":100,"seed":1}}`, `"right":20`},
		"replies of cells":    {"edit", `{"document":` + doc + `,"act":"sayAt","slots":[{"item":"chain","target":"seat","moment":"placed"}],"say":{"text":"Not a seat."}}`, `"when":{"all":[{"piece":{"all":false,"items":["chain"],"tags":[],"except":[]}},{"onto":["seat"]}]},"also":false,"say":{"text":"Not a seat."`},
		"for each target":     {"edit", `{"document":` + doc + `,"act":"repliesForTargets","parts":{"targets":["seat","wheels"]}}`, `{"all":[{"target":"seat","is":"right"},{"target":"wheels","is":"right"}]}`},
		"a reply more":        {"edit", `{"document":` + doc + `,"act":"addReply","reply":{"id":"new","moment":"checked","when":{"target":"seat","is":"right"},"tone":"plain","spot":"edge"}}`, `"reply":"new"`},
		"situated":            {"edit", `{"document":` + doc + `,"act":"situate","reply":{"id":"wrong-bell","when":{"item":"bell","in":"seat"}}}`, `"when":{"item":"bell","in":"seat"}`},
		"the usual replies":   {"edit", `{"document":` + doc + `,"act":"startingReplies"}`, `"id":"checked-right"`},
		"an example kept":     {"edit", `{"document":` + doc + `,"act":"keepExample","seed":3,"moves":[{"n":1,"t":9,"do":"check"}]}`, `"examples":[{"name":"Rehearsal 1","seed":3,"moves":[{"do":"check"`},
		"lines that are tied": {"edit", `{"document":{"format":"keen-magpie/activity","version":1,"id":"a","targets":[{"id":"box","frame":{"x":300,"y":100,"w":200,"h":100}}],"scenery":[{"id":"line","type":"line","tie":"box","from":{"x":500,"y":150},"to":{"x":800,"y":150}}],"key":{"solutions":[{}]}},"act":"left","to":"board","parts":{"targets":["box"]}}`, `"from":{"x":200,"y":150}`},
		"examples":            {"examples", `{}`, `"code":"oneWrong","name":"One piece wrong"`},
		"a situation":         {"facts", `{"moment":"checked","targets":{"seat":["saddle","seat-post"]}}`, `{"when":{"target":"seat","is":"right"},"said":{"message":"Seat is correct",`},
		"a placement":         {"facts", `{"moment":"placed","targets":{"seat":["bell"]},"piece":"bell","target":"seat","result":"placed"}`, `{"when":{"onto":["seat"]},"said":{"message":"the target is Seat",`},
		"playing by itself":   {"selfPlay", `{"how":"wrong","seed":1}`, `"do":"check"`},
		"no such play":        {"selfPlay", `{"how":"well"}`, `cannot be played`},
		"nothing beckons":     {"beckons", `{"piece":"chain"}`, `{"targets":[],"opens":[]}`},
		"a reply tried":       {"prove", `{"what":"reply","reply":"wrong-bell"}`, `"piece":"bell"`},
		"no finding to mend":  {"mend", `{"document":` + doc + `,"code":"overlap","parts":[]}`, `nothing left to fix`},
		"an unknown act":      {"edit", `{"document":` + doc + `,"act":"fly"}`, `there is no act \"fly\"`},
		"a bad document":      {"figures", `{"format":1}`, `"code":"bad-document"`},
		"an impossible key":   {"rehearse", `{"document":` + strings.Replace(doc, `"name": "Seat",`, `"name": "Seat", "holds": 1,`, 1) + `}`, `"code":"key-impossible"`},
		"an unknown one":      {"sing", `{}`, `"code":"unknown-question"`},
		"not a question":      {"rehearse", `[`, `"code":"failed"`},
		"a solution too far":  {"edit", `{"document":` + doc + `,"act":"cells","solution":3}`, "no solution 4"},
	} {
		t.Run(name, func(t *testing.T) {
			got := new(engine).answer(c.question, c.in, doc)
			if !json.Valid([]byte(got)) || !strings.Contains(got, c.says) {
				t.Errorf("%.600s", got)
			}
		})
	}
}
