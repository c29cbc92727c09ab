package main

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
)

// TestTheTrailSaysWhatIsSo plays random documents beside their twin: each reason for which
// a reply is said to be given, or not, holds or fails as the trail says, and those reasons
// alone decide it. So do the lines on what became of a piece.
func TestTheTrailSaysWhatIsSo(t *testing.T) {
	seen := map[string]int{}
	for seed := range 150 {
		c := chooser{rand.New(rand.NewPCG(uint64(seed), 11))}
		d := c.document()
		body, err := json.Marshal(d)
		if err != nil {
			t.Fatal(err)
		}
		doc, faults := activity.Read(body)
		if faults != nil {
			continue
		}
		game, err := play.New(doc)
		if err != nil {
			continue
		}
		twin, state := d.open(), game.Open(1)
		twin.facts = map[string]bool{}
		for range 25 {
			if twin.phase == "done" {
				break
			}
			m := c.move(d, twin.n+1, 0)
			if twin.phase == "paused" {
				m = twinMove{N: twin.n + 1, Do: "again"}
			}
			clear(twin.facts)
			said := twin.line(m)
			var move play.Move
			if err := json.Unmarshal([]byte(m.body()), &move); err != nil {
				t.Fatal(err)
			}
			next, answer, steps := game.Explain(state, move)
			if string(answer.Result) != said["result"] {
				t.Fatalf("seed %d: %s, the twin says %v", seed, answer.Result, said["result"])
			}
			state = next
			for _, step := range steps {
				wrong := ""
				switch {
				case step.Code == "reply":
					wrong = untrue(doc, twin, step, seen)
				case (step.Code == "rightHere" || step.Code == "wrongHere") && twin.placement != nil:
					seen[step.Code]++
					if (step.Code == "rightHere") != twin.placement.right {
						wrong = "it is the other way round"
					}
				}
				if wrong != "" {
					line, _ := json.Marshal(step)
					t.Fatalf("seed %d, %s: %s\n%s\n%s", seed, m.body(), wrong, line, body)
				}
			}
		}
	}
	t.Log(seen)
	for _, what := range []string{"given", "not given", "holds", "fails", "rightHere", "wrongHere"} {
		if seen[what] < 50 {
			t.Errorf("%s came %d times: the test tests too little", what, seen[what])
		}
	}
}

// untrue says what is wrong with the reasons for a reply.
func untrue(doc *activity.Doc, twin *twinSitting, step play.Step, seen map[string]int) string {
	tried := step.Reply
	r := &doc.Replies[slices.IndexFunc(doc.Replies, func(r activity.Reply) bool { return r.ID == tried.Reply })]
	seen[map[bool]string{true: "given", false: "not given"}[tried.Given]]++
	decisive := map[string]bool{}
	for _, f := range tried.Facts {
		holds, known := twin.facts[string(step.Moment)+" "+r.ID+" "+f.At]
		if !known || holds != f.Holds {
			return fmt.Sprintf("%s at %s: the twin says %v (known %v)", f.Said, f.At, holds, known)
		}
		if f.Decides {
			seen[map[bool]string{true: "holds", false: "fails"}[f.Holds]]++
			decisive[f.At] = f.Holds
		}
	}
	if r.When == nil {
		return ""
	}
	if known, holds := concluded(r.When, "", decisive); !known || holds != tried.Given {
		return fmt.Sprintf("the reasons do not decide it: %v, %v", known, holds)
	}
	return ""
}

// concluded is what a condition comes to where only some of those within it are known.
func concluded(c *activity.Condition, at string, leaves map[string]bool) (known, holds bool) {
	list, form, by, whole := c.All, "all", false, true
	switch {
	case c.Any != nil:
		list, form, by, whole = c.Any, "any", true, false
	case c.None != nil:
		list, form, by, whole = c.None, "none", true, true
	case c.All == nil:
		holds, known = leaves[at]
		return known, holds
	}
	known = true
	for i := range list {
		k, h := concluded(&list[i], fmt.Sprintf("%s/%s/%d", at, form, i), leaves)
		if k && h == by {
			return true, !whole
		}
		known = known && k
	}
	return known, whole
}
