package answer_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/placing"
)

func box(id string, holds int) activity.Target {
	return activity.Target{ID: id, Holds: holds, Lets: activity.Selector{All: true}}
}

func item(id string, copies, weight int) activity.Item {
	return activity.Item{ID: id, Copies: copies, Weight: weight}
}

func right(cells ...string) activity.Solution {
	s := activity.Solution{Credit: 100, Right: map[string]activity.Selector{}}
	for _, c := range cells {
		it, target, _ := strings.Cut(c, "/")
		sel := s.Right[target]
		sel.Items = append(sel.Items, it)
		s.Right[target] = sel
	}
	return s
}

func ExampleLook() {
	doc := &activity.Doc{
		Items:   []activity.Item{item("chain", 1, 1), item("seat", 1, 1), item("bell", 1, 1)},
		Targets: []activity.Target{box("drive", 0), box("sit", 0)},
	}
	doc.Key.Solutions = []activity.Solution{right("chain/drive", "seat/sit")}
	a := placing.New()
	a.Place(doc, "chain", "drive", 1)
	a.Place(doc, "bell", "drive", 2)
	at := answer.Look(doc, &doc.Key.Solutions[0], a)
	fmt.Println(at.Right, at.Wrong, at.Missing, at.Targets, at.Valid)
	// Output:
	// [chain] [bell] [seat] map[drive:part sit:empty] false
}

// random makes a small document with places that may not suffice.
func random(rnd *rand.Rand) *activity.Doc {
	doc := &activity.Doc{Marks: activity.Marks{Cells: map[string]activity.Cell{}}}
	for i := range 1 + rnd.IntN(3) {
		doc.Items = append(doc.Items, item(fmt.Sprint("i", i), 1+rnd.IntN(2), rnd.IntN(4)))
	}
	var cells []string
	for j := range 1 + rnd.IntN(3) {
		doc.Targets = append(doc.Targets, box(fmt.Sprint("t", j), rnd.IntN(4)))
		for _, it := range doc.Items {
			if rnd.IntN(2) == 0 {
				cell := it.ID + "/" + doc.Targets[j].ID
				cells = append(cells, cell)
				if rnd.IntN(3) == 0 {
					w := rnd.IntN(6)
					doc.Marks.Cells[cell] = activity.Cell{Weight: &w}
				}
			}
		}
	}
	doc.Key.Solutions = []activity.Solution{right(cells...)}
	return doc
}

// brute tries every way to put every needed piece at a right cell with room.
func brute(doc *activity.Doc, s *activity.Solution) (best int, ok bool) {
	var pieces []*activity.Item
	for i := range doc.Items {
		if answer.Needed(doc, s, &doc.Items[i]) {
			for range doc.Items[i].Copies {
				pieces = append(pieces, &doc.Items[i])
			}
		}
	}
	used := map[string]int{}
	var try func(i, sum int)
	try = func(i, sum int) {
		if i == len(pieces) {
			best, ok = max(best, sum), true
			return
		}
		for j := range doc.Targets {
			t := &doc.Targets[j]
			if !s.RightCell(t, pieces[i]) || t.Holds > 0 && used[t.ID] == t.Holds {
				continue
			}
			used[t.ID]++
			try(i+1, sum+doc.Marks.Weight(pieces[i], t.ID))
			used[t.ID]--
		}
	}
	try(0, 0)
	return best, ok
}

func TestAvailableAgreesWithTryingEverything(t *testing.T) {
	rnd := rand.New(rand.NewPCG(4, 0))
	impossible := 0
	for range 4000 {
		doc := random(rnd)
		s := &doc.Key.Solutions[0]
		want, wantOK := brute(doc, s)
		got, ok := answer.Available(doc, s)
		if ok != wantOK || ok && got != want {
			t.Fatalf("%+v: %d %v, want %d %v", doc, got, ok, want, wantOK)
		}
		if ok {
			continue
		}
		// What is named is impossible by itself, and nothing of it can be left out.
		impossible++
		items, targets := answer.Conflict(doc, s)
		if len(items) == 0 || len(targets) == 0 {
			t.Fatalf("%+v: no conflict is named", doc)
		}
		for leave := -1; leave < len(items); leave++ {
			part := *doc
			part.Items = nil
			for _, it := range doc.Items {
				if slices.Contains(items, it.ID) && (leave < 0 || it.ID != items[leave]) {
					part.Items = append(part.Items, it)
				}
			}
			if _, ok := answer.Available(&part, s); ok != (leave >= 0) {
				t.Fatalf("%+v: the conflict %v is not a smallest one", doc, items)
			}
		}
	}
	if impossible < 100 {
		t.Errorf("only %d documents were impossible: the test tests too little", impossible)
	}
}

// Validity by its definition, against what Look says.
func TestValidityAgreesWithItsDefinition(t *testing.T) {
	rnd := rand.New(rand.NewPCG(5, 0))
	valid := 0
	for range 4000 {
		doc := random(rnd)
		s := &doc.Key.Solutions[0]
		a := placing.New()
		for n, p := range placing.Pieces(doc) {
			if rnd.IntN(5) > 0 {
				a.Place(doc, p, doc.Targets[rnd.IntN(len(doc.Targets))].ID, n)
			}
		}
		want := true
		for _, p := range placing.Pieces(doc) {
			it := placing.ItemOf(doc, p)
			in, _, placed := a.Where(p)
			if placed && !s.RightCell(doc.Target(in), it) || !placed && answer.Needed(doc, s, it) {
				want = false
			}
		}
		seen := answer.Look(doc, s, a)
		if seen.Valid != want {
			t.Fatalf("%+v %+v: valid %v, want %v", doc, a, seen.Valid, want)
		}
		if want {
			valid++
		}
	}
	if valid < 50 {
		t.Errorf("only %d arrangements were valid", valid)
	}
}

func BenchmarkAvailable(b *testing.B) {
	doc := &activity.Doc{}
	var cells []string
	for i := range 60 {
		doc.Items = append(doc.Items, item(fmt.Sprint("i", i), 1, 1))
		cells = append(cells, fmt.Sprintf("i%d/t%d", i, i%8), fmt.Sprintf("i%d/t%d", i, (i+3)%8))
	}
	for j := range 8 {
		doc.Targets = append(doc.Targets, box(fmt.Sprint("t", j), 8))
	}
	doc.Key.Solutions = []activity.Solution{right(cells...)}
	for b.Loop() {
		answer.Available(doc, &doc.Key.Solutions[0])
	}
}
