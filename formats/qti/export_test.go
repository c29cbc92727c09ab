package qti

import (
	"fmt"
	"math"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// same compares what an exported item comes to with what the core says, for every arrangement
// that the item can hold, or some at random; it answers for how many.
func same(t *testing.T, doc *activity.Doc, rnd *rand.Rand) int {
	t.Helper()
	x, root, err := export(doc, Options{})
	if err != nil {
		return 0 // a key that nothing satisfies
	}
	item, version, err := parse(root.file())
	if err != nil || version != "3.0" {
		t.Fatalf("what was written cannot be read: %v\n%s", err, root.file())
	}
	var into marks.Judgement
	n := 0
	check := func(a *placing.Arrangement) bool {
		n++
		answers := []string{}
		used := make([]int, len(doc.Items))
		if x.kind == ordering {
			for _, p := range a.In[0] {
				answers = append(answers, x.item[x.parts.Pieces[p.Piece].Item])
			}
		}
		for target := range doc.Targets {
			for _, p := range a.In[target] {
				i := x.parts.Pieces[p.Piece].Item
				c := x.choices[x.of[i][min(used[i], len(x.of[i])-1)]]
				used[i]++
				if x.kind != ordering {
					answers = append(answers, c.id+" "+x.target[target])
				}
			}
		}
		vars, err := judged(item, answers)
		if err != nil {
			t.Fatalf("%v\n%s", err, root.file())
		}
		want := x.judge.Judge(a, marks.Now{Attempt: 1}, &into)
		got := exact.Hundredths(math.Round(vars[score].(float64) * 100))
		if vars[outcome] != string(want.Outcome) || got != want.Score {
			t.Errorf("%v: the item says %v and %s, the core %s and %s\nlosses %v\n%s\n%s", answers, vars[outcome], got, want.Outcome, want.Score, x.losses, doc.Write(), root.file())
			return false
		}
		return true
	}
	room := func(a *placing.Arrangement, target int) bool {
		holds := x.holds(target)
		return holds == 0 || len(a.In[target]) < holds
	}
	once := func(a *placing.Arrangement, piece, target int) bool { // a pair stands in a response once
		i := x.parts.Pieces[piece].Item
		return len(x.of[i]) > 1 || !slices.ContainsFunc(a.In[target], func(p placing.Placed) bool { return x.parts.Pieces[p.Piece].Item == i })
	}
	a := placing.New(x.parts)
	if x.kind == ordering {
		for range 200 {
			b := placing.New(x.parts)
			for k, p := range rnd.Perm(len(x.parts.Pieces)) {
				b.Put(p, 0, k+1)
			}
			if !check(b) {
				return n
			}
		}
		return n
	}
	ways := 1.0
	for range x.parts.Pieces {
		ways *= float64(len(doc.Targets) + 1)
	}
	if ways > 4000 {
		for range 500 {
			b := placing.New(x.parts)
			for k, p := range rnd.Perm(len(x.parts.Pieces)) {
				target := rnd.IntN(len(doc.Targets)+1) - 1
				if rnd.IntN(2) == 0 { // so that right ones come up
					i := x.parts.Pieces[p].Item
					for _, s := range x.judge.Solutions {
						for u := range doc.Targets {
							if s.RightCell(u, i) {
								target = u
							}
						}
					}
				}
				if target >= 0 && x.parts.LetsIn(target, x.parts.Pieces[p].Item) && room(b, target) && once(b, p, target) {
					b.Put(p, target, k+1)
				}
			}
			if !check(b) {
				return n
			}
		}
		for _, s := range x.judge.Solutions {
			if w := s.Witness(); !slices.ContainsFunc(doc.Targets, func(tg activity.Target) bool {
				k, _ := x.parts.Target(tg.ID)
				return x.holds(k) > 0 && len(w.In[k]) > x.holds(k)
			}) {
				check(w)
			}
		}
		return n
	}
	goesOn := true
	var try func(piece int)
	try = func(piece int) {
		if !goesOn {
			return
		}
		if piece == len(x.parts.Pieces) {
			goesOn = check(a)
			return
		}
		try(piece + 1)
		for target := range doc.Targets {
			if x.parts.LetsIn(target, x.parts.Pieces[piece].Item) && room(a, target) && once(a, piece, target) {
				a.Put(piece, target, piece+1)
				try(piece + 1)
				a.Home(piece)
			}
		}
	}
	try(0)
	return n
}

// made is a random document without lanes: several solutions with credits and needs, copies,
// penalties, cells of their own, every way of marking that an item can say in full.
func made(t *testing.T, rnd *rand.Rand) *activity.Doc {
	t.Helper()
	d, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"made","title":"Made","items":[{"id":"x","text":"X"}],
		"targets":[{"id":"t","frame":{"x":0,"y":0,"w":200,"h":200}}],"key":{"solutions":[{}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	item, bin := d.Items[0], d.Targets[0]
	d.Items, d.Targets, d.Key.Solutions = nil, nil, nil
	n, m := 1+rnd.IntN(4), 1+rnd.IntN(3)
	for i := range n {
		item.ID, item.Text, item.Copies, item.Weight, item.Penalty = fmt.Sprintf("i%d", i), fmt.Sprintf("Item %d", i), 1+rnd.IntN(2), rnd.IntN(4), rnd.IntN(3)
		d.Items = append(d.Items, item)
	}
	for j := range m {
		target := bin
		target.ID, target.Name, target.Holds, target.Weight = fmt.Sprintf("t%d", j), fmt.Sprintf("Target %d", j), rnd.IntN(4), 1+rnd.IntN(3)
		if rnd.IntN(4) == 0 {
			target.Lets = activity.Selector{Items: []string{"i0"}}
		}
		d.Targets = append(d.Targets, target)
	}
	d.Marks.By, d.Marks.Points, d.Marks.Negative, d.Marks.Cells = []activity.By{"item", "target", "whole"}[rnd.IntN(3)], activity.U(100*(1+rnd.IntN(12))), rnd.IntN(3) == 0, map[string]activity.Cell{}
	if rnd.IntN(3) == 0 {
		w := rnd.IntN(4)
		d.Marks.Cells["i0/t0"] = activity.Cell{Weight: &w}
	}
	for range 1 + rnd.IntN(2) {
		s := activity.Solution{Credit: []int{100, 50, 33}[rnd.IntN(3)], Right: map[string]activity.Selector{}}
		for j := range m {
			right, counted := []string{}, []string{}
			for i := range n {
				if rnd.IntN(2) == 0 {
					right = append(right, fmt.Sprintf("i%d", i))
					if rnd.IntN(3) == 0 {
						counted = append(counted, fmt.Sprintf("i%d", i))
					}
				}
			}
			s.Right[fmt.Sprintf("t%d", j)] = activity.Selector{Items: right}
			if len(counted) > 0 {
				least := rnd.IntN(2)
				need := activity.Need{Target: fmt.Sprintf("t%d", j), Of: activity.Selector{Items: counted}, Min: least}
				if rnd.IntN(2) == 0 {
					most := least + rnd.IntN(2)
					need.Max = &most
				}
				s.Needs = append(s.Needs, need)
			}
		}
		d.Key.Solutions = append(d.Key.Solutions, s)
	}
	doc, faults := activity.Read(d.Write())
	if faults != nil {
		t.Fatalf("%v\n%s", faults, d.Write())
	}
	return doc
}

// An item comes to the same as the core, for whatever can be answered, save where a loss was told.
func TestItemsMeanTheSame(t *testing.T) {
	documents := 2000
	if testing.Short() {
		documents = 200
	}
	rnd := rand.New(rand.NewPCG(7, 3))
	n, told := 0, 0
	for range documents {
		doc := made(t, rnd)
		x, _, err := export(doc, Options{})
		if err != nil {
			continue
		}
		if slices.ContainsFunc(x.losses, func(l Loss) bool { return l.Code == "surplus" }) {
			told++
			continue
		}
		n += same(t, doc, rnd)
		if t.Failed() {
			return
		}
	}
	t.Logf("%d arrangements; %d documents were left out, whose loss was told", n, told)
	if n < 20*documents || told > documents/4 {
		t.Errorf("too little was tried: %d arrangements, %d left out", n, told)
	}
}

// An order of everything comes to the same by each measure that can be said.
func TestOrdersMeanTheSame(t *testing.T) {
	rnd := rand.New(rand.NewPCG(5, 5))
	for _, measure := range []string{"position", "pairs", "neighbours", "whole"} {
		for _, tiers := range []string{`[["a"],["b"],["c"],["d"],["e"]]`, `[["a","b"],["c"],["d","e"]]`} {
			if measure == "position" && strings.Contains(tiers, `","`) {
				continue // told
			}
			by, measure := "order", measure
			if measure == "whole" {
				by, measure = "whole", "run"
			}
			doc, faults := activity.Read([]byte(fmt.Sprintf(`{"format":"keen-magpie/activity","version":1,"id":"line","kind":"sequence","title":"Line",
				"items":[{"id":"a","text":"A"},{"id":"b","text":"B"},{"id":"c","text":"C"},{"id":"d","text":"D"},{"id":"e","text":"E"}],
				"targets":[{"id":"lane","frame":{"x":0,"y":0,"w":600,"h":100},"ordered":true}],
				"key":{"solutions":[{"right":{"lane":{"all":true}},"orders":[{"target":"lane","tiers":%s}]}]},"marks":{"by":%q,"measure":%q}}`, tiers, by, measure)))
			if faults != nil {
				t.Fatal(faults)
			}
			same(t, doc, rnd)
		}
	}
}

// The demo's activities come to the same, save for those parts of which a loss is told.
func TestTheDemoAsItems(t *testing.T) {
	files, err := filepath.Glob("../../demo/activities/*.json")
	if err != nil || len(files) == 0 {
		t.Fatal("there is no demo", err)
	}
	rnd := rand.New(rand.NewPCG(1, 9))
	for _, file := range files {
		t.Run(strings.TrimSuffix(filepath.Base(file), ".json"), func(t *testing.T) {
			body, err := os.ReadFile(file)
			if err != nil {
				t.Fatal(err)
			}
			doc, faults := activity.Read(body)
			if faults != nil {
				t.Fatal(faults)
			}
			x, root, err := export(doc, Options{})
			if err != nil {
				t.Fatal(err)
			}
			for _, l := range x.losses {
				if l.Code == "order" || l.Code == "order-marks" || l.Code == "surplus" || l.Code == "one-in-gap" || l.Code == "unjudged" {
					t.Logf("%s, %d bytes, not compared: %s", x.kind, len(root.file()), l.Message)
					return
				}
			}
			t.Logf("%s, %d bytes, %d arrangements", x.kind, len(root.file()), same(t, doc, rnd))
		})
	}
}
