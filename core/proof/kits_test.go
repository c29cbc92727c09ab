package proof_test

import (
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// One of three kits will do: each is shown on the board and counted as another way.
// Two of the six pieces make a kit; pieces of
// two kits are right one by one, and no kit together.
func TestOneOfThreeKits(t *testing.T) {
	doc := base(t, `items: [{"id":"lamp"},{"id":"battery"},{"id":"dynamo"},{"id":"wire"},{"id":"torch"},{"id":"strap"}]`+
		"\n"+`targets: [{"id":"bag","frame":{"x":20,"y":40,"w":260,"h":300}}]`+"\n"+`key: {"solutions":[{}]}`)
	kits := [][]string{{"lamp", "battery"}, {"dynamo", "wire"}, {"torch", "strap"}}
	for i, kit := range kits {
		how := "another"
		if i == 0 {
			how = "instead"
		}
		counted, err := edit.CountRight(doc, 0, edit.Shown{"bag": kit}, how)
		if err != nil {
			t.Fatal(err)
		}
		doc = counted.Doc
	}
	if r := prove(t, doc); !r.Solvable || r.Count != "3" || len(doc.Key.Solutions) != 3 {
		t.Errorf("solvable %v, %s ways in %d solutions; three are meant", r.Solvable, r.Count, len(doc.Key.Solutions))
	}
	judge, err := marks.NewJudge(doc)
	if err != nil {
		t.Fatal(err)
	}
	parts := judge.Parts
	for _, c := range []struct {
		name     string
		in       []string
		outcome  activity.Outcome
		solution int
	}{
		{"the second kit", kits[1], "right", 1},
		{"halves of two kits", []string{"lamp", "wire"}, "part", 0},
		{"a kit and a piece more", []string{"torch", "strap", "wire"}, "part", 2},
		{"nothing", nil, "wrong", 0},
	} {
		t.Run(c.name, func(t *testing.T) {
			a := placing.New(parts)
			for i, item := range c.in {
				piece, _ := parts.Piece(item)
				a.Put(piece, 0, i+1)
			}
			v := judge.Judge(a, marks.Now{Attempt: 1}, nil)
			if v.Outcome != c.outcome || v.Solution != c.solution {
				t.Errorf("%s under solution %d; want %s under %d", v.Outcome, v.Solution, c.outcome, c.solution)
			}
		})
	}
}
