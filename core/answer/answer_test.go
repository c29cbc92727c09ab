package answer_test

import (
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/placing"
)

// read makes a document of items, targets and one solution, each as JSON without
// what does not matter here.
func read(t testing.TB, items, targets, solution string) *activity.Parts {
	t.Helper()
	targets = strings.ReplaceAll(targets, `"id"`, `"frame":{"x":0,"y":0,"w":9,"h":9},"id"`)
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"a","items":[` + items + `],"targets":[` + targets + `],"key":{"solutions":[{` + solution + `}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return activity.NewParts(doc)
}

// put makes an arrangement from "target: piece piece; target: …"; a piece with a
// star is held.
func put(t testing.TB, p *activity.Parts, text string) *placing.Arrangement {
	t.Helper()
	a := placing.New(p)
	since := 0
	for part := range strings.SplitSeq(text, ";") {
		id, pieces, _ := strings.Cut(strings.TrimSpace(part), ":")
		for name := range strings.FieldsSeq(pieces) {
			since++
			target, ok := p.Target(id)
			piece, ok2 := p.Piece(strings.TrimSuffix(name, "*"))
			if !ok || !ok2 {
				t.Fatal(part)
			}
			a.Put(piece, target, since)
			a.Held[piece] = strings.HasSuffix(name, "*")
		}
	}
	return a
}

// tell writes what is seen: right / wrong / missing, then each target's state.
func tell(p *activity.Parts, a *placing.Arrangement, seen *answer.Seen) string {
	var right, wrong, missing, states []string
	for i, piece := range p.Pieces {
		switch {
		case a.Where[i] < 0:
		case seen.Right[i]:
			right = append(right, piece.ID)
		default:
			wrong = append(wrong, piece.ID)
		}
	}
	for i, m := range seen.Missing {
		if m {
			missing = append(missing, p.Doc.Items[i].ID)
		}
	}
	for _, s := range seen.Targets {
		states = append(states, s.String())
	}
	out := strings.Join(right, " ") + " / " + strings.Join(wrong, " ") + " / " + strings.Join(missing, " ") + " / " + strings.Join(states, " ")
	if seen.Valid {
		return out + " / valid"
	}
	return out
}

func Example() {
	t := &testing.T{}
	p := read(t, `{"id":"chain"},{"id":"seat"},{"id":"bell"}`, `{"id":"drive"},{"id":"sit"}`, `"right":{"drive":{"items":["chain"]},"sit":{"items":["seat"]}}`)
	s := answer.New(p, 0)
	a := placing.New(p)
	a.Place(0, 0, nil, 1) // chain into drive
	a.Place(2, 0, nil, 2) // bell, too
	var seen answer.Seen
	s.Look(a, &seen)
	fmt.Println(seen.Right, seen.Missing, seen.Targets, seen.Valid)
	fmt.Println(s.Witness().Names())
	// Output:
	// [true false false] [false true false] [part empty] false
	// map[drive:[chain] sit:[seat]]
}

func TestWhatIsRightByHand(t *testing.T) {
	bulbs := `{"id":"bulb","copies":3},{"id":"oil","weight":3},{"id":"rag"}`
	two := `{"id":"a"},{"id":"b"}`
	steps := `{"id":"one"},{"id":"two"},{"id":"three"},{"id":"rag"}`
	lane := `{"id":"l","ordered":true},{"id":"b"}`
	first3 := `"right":{"l":{"items":["one","two","three"]}},"orders":[{"target":"l","tiers":[["one"],["two"],["three"]]}]`
	for name, c := range map[string]struct{ items, targets, solution, put, want string }{
		"alike pieces":              {bulbs, two, `"right":{"a":{"items":["bulb"]}}`, "a: bulb~2 bulb~3 bulb", "bulb bulb~2 bulb~3 /  /  / right empty / valid"},
		"one of three is missing":   {bulbs, two, `"right":{"a":{"items":["bulb"]}}`, "a: bulb~2 bulb~3", "bulb~2 bulb~3 /  / bulb / part empty"},
		"a right target and a rag":  {bulbs, two, `"right":{"a":{"items":["oil"]}}`, "a: oil; b: rag", "oil / rag /  / right wrong"},
		"two of the bulbs, or more": {bulbs, two, `"right":{"a":{"items":["bulb"]}},"needs":[{"target":"a","min":2}]`, "a: bulb bulb~2", "bulb bulb~2 /  /  / right empty / valid"},
		"one too few for a need":    {bulbs, two, `"right":{"a":{"items":["bulb"]}},"needs":[{"target":"a","min":2}]`, "a: bulb", "bulb /  /  / part empty"},
		// Of three that a need counts two may be right: the oil, being heaviest, and then
		// the oldest.
		"a surplus":               {bulbs, two, `"right":{"a":{"items":["bulb","oil"]}},"needs":[{"target":"a","max":2}]`, "a: bulb~2 bulb oil", "bulb~2 oil / bulb /  / part empty"},
		"held before heavy":       {bulbs, two, `"right":{"a":{"items":["bulb","oil"]}},"needs":[{"target":"a","max":2}]`, "a: bulb~2 bulb* bulb~3* oil", "bulb bulb~3 / bulb~2 oil /  / part empty"},
		"none of them":            {bulbs, two, `"right":{"a":{"items":["bulb"]}},"needs":[{"target":"a","max":0}]`, "a: bulb", " / bulb /  / wrong empty"},
		"a need of nothing there": {bulbs, two, `"right":{"a":{"items":["oil"]}},"needs":[{"target":"b","min":1}]`, "a: oil", "oil /  /  / right empty"},
		// The bulb is governed in a; in b it is right without being needed there.
		"governed elsewhere, too":  {bulbs, two, `"right":{"a":{"items":["bulb"]},"b":{"items":["bulb"]}},"needs":[{"target":"a","min":1}]`, "a: bulb; b: bulb~2", "bulb bulb~2 /  /  / right right / valid"},
		"not accepted is no cell":  {bulbs, `{"id":"a","lets":{"items":["oil"]}},{"id":"b"}`, `"right":{"a":{"items":["bulb","oil"]}}`, "a: oil bulb", "oil / bulb /  / part empty"},
		"in order":                 {steps, lane, first3, "l: one two three", "one two three /  /  / right empty / valid"},
		"one left out":             {steps, lane, first3, "l: one three", "one three /  / two / part empty"},
		"a rag between":            {steps, lane, first3, "l: one rag two three", "one two three / rag /  / part empty"},
		"the last first":           {steps, lane, first3, "l: three one two", "one two / three / three / part empty"},
		"of two swapped the older": {steps, lane, first3, "l: two one", "two / one / one three / part empty"},
		"the held one stays":       {steps, lane, first3, "l: two one*", "one / two / two three / part empty"},
		"a lane without an order":  {steps, lane, `"right":{"l":{"items":["one","two"]}}`, "l: two one", "one two /  /  / right empty / valid"},
	} {
		t.Run(name, func(t *testing.T) {
			p := read(t, c.items, c.targets, c.solution)
			a := put(t, p, c.put)
			var seen answer.Seen
			answer.New(p, 0).Look(a, &seen)
			if got := tell(p, a, &seen); got != c.want {
				t.Errorf("%s, want %s", got, c.want)
			}
		})
	}
}

// random makes a small document: items with copies, targets that may not suffice,
// needs that do not overlap.
func random(t testing.TB, rnd *rand.Rand) *activity.Parts {
	var items, targets, rights, needs []string
	n, m := 1+rnd.IntN(3), 1+rnd.IntN(3)
	for i := range n {
		items = append(items, fmt.Sprintf(`{"id":"i%d","copies":%d,"weight":%d}`, i, 1+rnd.IntN(2), rnd.IntN(4)))
	}
	for j := range m {
		targets = append(targets, fmt.Sprintf(`{"id":"t%d","holds":%d}`, j, 1+rnd.IntN(4)))
		var right, counted []string
		for i := range n {
			if rnd.IntN(2) == 0 {
				right = append(right, fmt.Sprintf(`"i%d"`, i))
				if rnd.IntN(3) == 0 {
					counted = append(counted, fmt.Sprintf(`"i%d"`, i))
				}
			}
		}
		rights = append(rights, fmt.Sprintf(`"t%d":{"items":[%s]}`, j, strings.Join(right, ",")))
		if len(counted) > 0 {
			least := rnd.IntN(3)
			needs = append(needs, fmt.Sprintf(`{"target":"t%d","of":{"items":[%s]},"min":%d,"max":%d}`, j, strings.Join(counted, ","), least, least+rnd.IntN(2)))
		}
	}
	p := read(t, strings.Join(items, ","), strings.Join(targets, ","), `"right":{`+strings.Join(rights, ",")+`},"needs":[`+strings.Join(needs, ",")+`]`)
	for i := range p.Doc.Targets {
		if rnd.IntN(3) == 0 {
			p.Doc.Targets[i].Holds = 0
		}
	}
	return p
}

// everywhere puts every piece home or into every target with room, in every way.
func everywhere(p *activity.Parts, f func(*placing.Arrangement)) {
	a := placing.New(p)
	var try func(piece int)
	try = func(piece int) {
		if piece == len(p.Pieces) {
			f(a)
			return
		}
		try(piece + 1)
		for target := range p.Doc.Targets {
			if p.LetsIn(target, p.Pieces[piece].Item) && a.Room(target) {
				a.Put(piece, target, 1)
				try(piece + 1)
				a.Home(piece)
			}
		}
	}
	try(0)
}

// valid by its definition (V1 to V3), from the document itself.
func valid(p *activity.Parts, a *placing.Arrangement) bool {
	doc, s := p.Doc, &p.Doc.Key.Solutions[0]
	cell := func(item, target int) bool { return s.RightCell(&doc.Targets[target], &doc.Items[item]) }
	governed := make([]bool, len(doc.Items))
	for _, n := range s.Needs {
		target, _ := p.Target(n.Target)
		count := 0
		for i := range doc.Items {
			if n.Of.Selects(&doc.Items[i]) && cell(i, target) {
				governed[i] = true
			}
		}
		for _, x := range a.In[target] {
			if i := p.Pieces[x.Piece].Item; n.Of.Selects(&doc.Items[i]) && cell(i, target) {
				count++
			}
		}
		if count < n.Min || n.Max != nil && count > *n.Max {
			return false
		}
	}
	for piece, where := range a.Where {
		i := p.Pieces[piece].Item
		anywhere := slices.ContainsFunc(doc.Targets, func(t activity.Target) bool { return s.RightCell(&t, &doc.Items[i]) })
		if where >= 0 && !cell(i, where) || where < 0 && anywhere && !governed[i] {
			return false
		}
	}
	return true
}

func TestWhatCanBeDoneAgreesWithTryingEverything(t *testing.T) {
	rnd := rand.New(rand.NewPCG(4, 0))
	impossible, possible := 0, 0
	for range 1500 {
		p := random(t, rnd)
		s := answer.New(p, 0)
		weight := func(item, target int) int { return p.Weight(target, item) }
		best, some := -1, false
		// One arrangement to be near to, and how many of its pieces can stay.
		near, stay := placing.New(p), -1
		for piece := range p.Pieces {
			if target := rnd.IntN(len(p.Doc.Targets)); rnd.IntN(2) == 0 {
				near.Put(piece, target, 1)
			}
		}
		everywhere(p, func(a *placing.Arrangement) {
			want := valid(p, a)
			var seen answer.Seen
			s.Look(a, &seen)
			if seen.Valid != want {
				t.Fatalf("%s: %v is valid: %v, want %v", p.Doc.Write(), a.Names(), seen.Valid, want)
			}
			if !want {
				return
			}
			some = true
			sum, same := 0, 0
			for piece, where := range a.Where {
				if where >= 0 {
					sum += weight(p.Pieces[piece].Item, where)
					if near.Where[piece] == where {
						same++
					}
				}
			}
			best, stay = max(best, sum), max(stay, same)
		})
		got, ok := s.Available(weight)
		if ok != some || ok && got != best {
			t.Fatalf("%s: available %d %v, want %d %v", p.Doc.Write(), got, ok, best, some)
		}
		if !ok {
			impossible++
			conflict(t, p, s)
			continue
		}
		possible++
		if w := s.Witness(); !valid(p, w) {
			t.Fatalf("%s: the witness %v is not valid", p.Doc.Write(), w.Names())
		}
		n := s.Nearest(near)
		same := 0
		for piece, where := range n.Where {
			if where >= 0 && near.Where[piece] == where {
				same++
			}
		}
		if !valid(p, n) || same != stay {
			t.Fatalf("%s: of %v %d stay in %v; %d could", p.Doc.Write(), near.Names(), same, n.Names(), stay)
		}
	}
	if impossible < 50 || possible < 50 {
		t.Errorf("%d impossible, %d possible: the test tests too little", impossible, possible)
	}
}

// conflict checks what is named as at fault: with the other items gone it is still
// impossible.
func conflict(t *testing.T, p *activity.Parts, s *answer.Solution) {
	t.Helper()
	items, targets := s.Conflict()
	if len(targets) == 0 {
		t.Fatalf("%s: no conflict is named", p.Doc.Write())
	}
	part := *p.Doc
	part.Items = nil
	for _, it := range p.Doc.Items {
		if slices.Contains(items, it.ID) {
			part.Items = append(part.Items, it)
		}
	}
	if _, ok := answer.New(activity.NewParts(&part), 0).Available(func(int, int) int { return 0 }); ok {
		t.Fatalf("%s: %v alone are possible", p.Doc.Write(), items)
	}
}

func TestTheConflictIsSmall(t *testing.T) {
	// Three kits of two pieces; only the second's target is too small for them.
	p := read(t, `{"id":"a","copies":2},{"id":"b","copies":2},{"id":"c","copies":2}`, `{"id":"x"},{"id":"y","holds":1},{"id":"z"}`,
		`"right":{"x":{"items":["a"]},"y":{"items":["b"]},"z":{"items":["c"]}}`)
	if items, targets := answer.New(p, 0).Conflict(); fmt.Sprint(items, targets) != "[b] [y]" {
		t.Errorf("%v %v", items, targets)
	}
	// A need for more than there is.
	p = read(t, `{"id":"a"},{"id":"b"}`, `{"id":"x"},{"id":"y"}`, `"right":{"x":{"items":["a"]},"y":{"items":["b"]}},"needs":[{"target":"x","min":2}]`)
	if items, targets := answer.New(p, 0).Conflict(); fmt.Sprint(items, targets) != "[a] [x]" {
		t.Errorf("%v %v", items, targets)
	}
}

func TestAPlaceForOneMore(t *testing.T) {
	p := read(t, `{"id":"one"},{"id":"two"},{"id":"three"},{"id":"chain"},{"id":"bell"}`, `{"id":"l","ordered":true},{"id":"a","holds":1},{"id":"b","holds":1}`,
		`"right":{"l":{"items":["one","two","three"]},"a":{"items":["chain","bell"]},"b":{"items":["bell"]}},"orders":[{"target":"l","tiers":[["one"],["two"],["three"]]}]`)
	s := answer.New(p, 0)
	a := put(t, p, "l: one three")
	if got := s.IndexFor(a, 1, 0); got != 1 {
		t.Errorf("two belongs at %d", got)
	}
	// The bell could be in a, but the chain has no other place.
	if s.CanStill(a, 4, 1) || !s.CanStill(a, 4, 2) || !s.CanStill(a, 3, 1) {
		t.Error("which places leave a way")
	}
}

func TestLookingAgainAllocatesNothing(t *testing.T) {
	p := read(t, `{"id":"bulb","copies":3},{"id":"oil"}`, `{"id":"a"},{"id":"b"}`, `"right":{"a":{"all":true}},"needs":[{"target":"a","of":{"items":["bulb"]},"min":1,"max":1}]`)
	s, a := answer.New(p, 0), put(t, p, "a: bulb bulb~2; b: oil")
	var seen answer.Seen
	s.Look(a, &seen)
	if n := testing.AllocsPerRun(100, func() { s.Look(a, &seen) }); n > 0 {
		t.Errorf("%v allocations", n)
	}
}

func BenchmarkAvailable(b *testing.B) {
	var items, targets []string
	rights := map[string][]string{}
	for i := range 60 {
		items = append(items, fmt.Sprintf(`{"id":"i%d"}`, i))
		for _, j := range []int{i % 8, (i + 3) % 8} {
			rights[fmt.Sprint("t", j)] = append(rights[fmt.Sprint("t", j)], fmt.Sprint("i", i))
		}
	}
	right := map[string]any{}
	for j := range 8 {
		id := fmt.Sprint("t", j)
		targets = append(targets, fmt.Sprintf(`{"id":"%s","holds":8}`, id))
		right[id] = map[string]any{"items": rights[id]}
	}
	body, err := json.Marshal(right)
	if err != nil {
		b.Fatal(err)
	}
	p := read(b, strings.Join(items, ","), strings.Join(targets, ","), `"right":`+string(body))
	s := answer.New(p, 0)
	for b.Loop() {
		if _, ok := s.Available(func(int, int) int { return 1 }); !ok {
			b.Fatal("impossible")
		}
	}
}
