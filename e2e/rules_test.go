package e2e

import (
	"os"
	"path/filepath"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/demo"
	"keenmagpie/formats/bundle"
)

// A document whose rules have no fields of their own in the workbench yet is played
// by them all the same: a lane with an order, placements judged one by one, pieces
// that appear one after the other, replies, and a bin with slanting sides.
func TestARehearsalKeepsEveryRule(t *testing.T) {
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"puncture","kind":"sequence","title":"Mend a puncture",
		"scenery":[{"id":"way","type":"arrow","from":{"x":60,"y":60},"to":{"x":1140,"y":60}}],
		"items":[{"id":"wheel-out","name":"Wheel out","text":"Wheel out"},{"id":"tyre-off","name":"Tyre off","text":"Tyre off"},{"id":"patch","name":"Patch","text":"Patch"},{"id":"cup-of-tea","name":"Cup of tea","text":"Cup of tea","penalty":1}],
		"targets":[{"id":"steps","name":"Steps","label":{"text":"Steps"},"frame":{"x":60,"y":120,"w":1080,"h":160},"ordered":true},
			{"id":"later","name":"Later","label":{"text":"Later"},"shape":"polygon","points":[[420,380],[780,380],[720,640],[480,640]],"weight":2}],
		"key":{"solutions":[{"right":{"steps":{"items":["wheel-out","tyre-off","patch"]}},"orders":[{"target":"steps","tiers":[["wheel-out"],["tyre-off"],["patch"]]}]}]},
		"play":{"check":"each","attempts":0,"deal":"one","wrongPieces":"home"},
		"replies":[{"id":"well","moment":"placed","when":{"result":"right"},"say":{"text":"Good."}},{"id":"not-yet","moment":"placed","when":{"all":[{"result":"wrong"},{"onto":["later"]}]},"say":{"text":"{item} is needed."}},{"id":"end","moment":"done"}]}`))
	if faults != nil {
		t.Fatal(faults)
	}
	file := filepath.Join(t.TempDir(), "puncture.zip")
	out, err := os.Create(file)
	if err != nil {
		t.Fatal(err)
	}
	if err := (bundle.Bundle{Doc: doc}).Write(out); err != nil {
		t.Fatal(err)
	}
	if err := out.Close(); err != nil {
		t.Fatal(err)
	}

	ana := newWorld(t).person(t)
	ana.signIn(demo.Accounts()[0])
	ana.upload("File to import", file)
	ana.sees("correct arrangement")
	ana.shot("rules-workbench")
	ana.click("Rehearse")
	ana.sees("Wheel out")
	ana.until("one piece alone", `document.querySelectorAll('[data-piece]').length === 1`)
	ana.drag(ana.middle(piece("Wheel out")), ana.middle("Later, ")) // from where it goes home again
	ana.sees("Wheel out is not correct in Later: no answer has it there")
	ana.sees("“{item} is needed.” is given: it is wrong there, the target is Later")
	ana.sees("Wheel out returns to the tray: incorrect pieces do")
	// Dropped at the left end of the lane, or at the right.
	into := func(name string, right bool) {
		ana.drag(ana.middle(piece(name)), eval[spot](ana, `(() => { const r = document.querySelector('[aria-label^="Steps, "]').getBoundingClientRect();
			return {X: `+js(right)+` ? r.right - 10 : r.left + 10, Y: r.y + r.height / 2} })()`))
	}
	into("Wheel out", true)
	ana.sees("Wheel out is number 1 in Steps")
	ana.sees("Tyre off appears")
	into("Tyre off", true)
	ana.sees("Tyre off is correct in Steps")
	ana.shot("rules-rehearsal")
	into("Patch", false)
	ana.sees("Patch is not correct in Steps: wrong position in the order")
	into("Patch", true)
	ana.sees("The sitting is done")
	ana.sees("“When it is over” is given")
	ana.shot("rules-done")
}
