package placing_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/placing"
)

// parts is a document of four items, bell with three pieces, and the targets one
// (holds one), many (turns lever away) and lane; more is further settings.
func parts(t testing.TB, more string) *activity.Parts {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"p",
		"items":[{"id":"chain","size":{"w":40,"h":20}},{"id":"bell","copies":3,"size":{"w":40,"h":20}},{"id":"lever","size":{"w":40,"h":20}},{"id":"pump","size":{"w":40,"h":20},"offTarget":"stay"}],
		"targets":[{"id":"one","frame":{"x":0,"y":0,"w":100,"h":100},"holds":1},
			{"id":"many","frame":{"x":200,"y":0,"w":100,"h":100},"lets":{"all":true,"except":["lever"]}},
			{"id":"lane","frame":{"x":0,"y":200,"w":300,"h":60},"ordered":true}],
		"key":{"solutions":[{}]}` + more + `}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return activity.NewParts(doc)
}

// hand does moves by name, on one arrangement.
type hand struct {
	*placing.Arrangement
	n int
}

func (h *hand) piece(id string) int {
	p, ok := h.Parts.Piece(id)
	if !ok {
		panic("no piece " + id)
	}
	return p
}

// do reads "chain one", "chain lane 0", "chain home" or "chain @ 15 30".
func (h *hand) do(move string) string {
	h.n++
	var at int
	var x, y int
	words := strings.Fields(move)
	p := h.piece(words[0])
	var r placing.Result
	switch {
	case words[1] == "home":
		r = h.Lift(p)
	case words[1] == "@":
		fmt.Sscan(words[2], &x)
		fmt.Sscan(words[3], &y)
		r, _ = h.Drop(p, activity.U(100*x), activity.U(100*y), h.n)
	default:
		target, _ := h.Parts.Target(words[1])
		var index *int
		if len(words) > 2 {
			fmt.Sscan(words[2], &at)
			index = &at
		}
		r = h.Place(p, target, index, h.n)
	}
	return strings.TrimSpace(string(r.Result) + " " + r.Reason)
}

// in shows a target's pieces with the moves since which they are there.
func (h *hand) in(target string) string {
	t, _ := h.Parts.Target(target)
	var out []string
	for _, p := range h.In[t] {
		out = append(out, fmt.Sprintf("%s@%d", h.Parts.Pieces[p.Piece].ID, p.Since))
	}
	return strings.Join(out, " ")
}

func Example() {
	p := parts(&testing.T{}, "")
	a := placing.New(p)
	fmt.Println(a.Place(0, 0, nil, 1).Result)
	fmt.Println(a.Place(1, 0, nil, 2).Reason)
	fmt.Println(a.Names())
	// Output:
	// placed
	// full
	// map[lane:[] many:[] one:[chain]]
}

func TestWhatBecomesOfAMove(t *testing.T) {
	h := &hand{Arrangement: placing.New(parts(t, ""))}
	for i, step := range []struct{ move, want string }{
		{"lever many", "refused closed"},
		{"bell one", "placed"},
		{"bell one", "kept"},
		{"chain one", "refused full"},
		{"bell many", "placed"},
		{"chain @ 100 50", "placed"}, // its middle on the edge of one
		{"chain @ 150 50", "lifted"}, // between the targets: home
		{"chain @ 150 50", "lifted"}, // also when it was home
		{"lever @ 250 50", "refused closed"},
		{"pump @ 150 50", "loose"}, // its own rule
		{"pump home", "lifted"},
		{"pump home", "rejected not-allowed"}, // it is home
		{"bell home", "lifted"},
	} {
		if got := h.do(step.move); got != step.want {
			t.Errorf("%d, %s: %s, want %s", i+1, step.move, got, step.want)
		}
	}
	if _, ok := h.Parts.Piece("bell~1"); ok {
		t.Error("the first piece of bell is called bell")
	}
}

func TestWhoGivesWayInAFullTarget(t *testing.T) {
	h := &hand{Arrangement: placing.New(parts(t, ""))}
	one, many := &h.Parts.Doc.Targets[0], &h.Parts.Doc.Targets[1]
	expect := func(what, where, want string) {
		t.Helper()
		if got := h.in(where); got != want {
			t.Errorf("%s: %s has %s, want %s", what, where, got, want)
		}
	}
	one.Holds, one.WhenFull = 2, "oust"
	h.do("chain one")
	h.do("lever one")
	h.do("bell one")
	expect("the chain has been there longest", "one", "lever@2 bell@3")
	h.Held[h.piece("lever")] = true
	h.do("chain one")
	expect("past a held piece", "one", "lever@2 chain@4")
	h.Held[h.piece("chain")] = true
	if r := h.do("bell one"); r != "refused full" {
		t.Errorf("all held: %s", r)
	}
	clear(h.Held)

	one.WhenFull = "trade"
	h.do("bell many")   // 6
	h.do("bell~2 many") // 7
	h.do("bell one")    // the lever would take its place, but many turns it away
	expect("a trade that is not accepted", "one", "chain@4 bell@8")
	expect("a trade that is not accepted", "many", "bell~2@7")
	h.do("bell~3 many")
	h.do("bell~2 one") // the chain takes exactly its place, before bell~3
	expect("a trade", "one", "bell@8 bell~2@10")
	expect("a trade", "many", "chain@10 bell~3@9")
	many.Holds, many.WhenFull = 2, "trade"
	h.do("lever one") // from home: whom it displaces goes home
	expect("a trade from home", "one", "bell~2@10 lever@11")
}

func TestALaneKeepsTheOrderGiven(t *testing.T) {
	h := &hand{Arrangement: placing.New(parts(t, ""))}
	lane := &h.Parts.Doc.Targets[2]
	for _, step := range []struct{ move, want string }{
		{"chain lane", "chain@1"},
		{"bell lane 0", "bell@2 chain@1"},
		{"lever lane 9", "bell@2 chain@1 lever@3"}, // clamped
		{"bell~2 lane -1", "bell~2@4 bell@2 chain@1 lever@3"},
		{"bell~2 lane 2", "bell@2 chain@1 bell~2@4 lever@3"}, // counted without itself
		{"bell~2 lane", "bell@2 chain@1 bell~2@4 lever@3"},   // no index: it stays
		// They stand at 63, 111, 159 … of 300, in a row of four: the middle is at 150.
		{"bell~3 @ 150 230", "bell@2 chain@1 bell~3@7 bell~2@4 lever@3"},
		{"bell~3 @ 10 230", "bell~3@7 bell@2 chain@1 bell~2@4 lever@3"},
		{"bell~3 @ 290 230", "bell@2 chain@1 bell~2@4 lever@3 bell~3@7"},
	} {
		h.do(step.move)
		if got := h.in("lane"); got != step.want {
			t.Errorf("%s: %s, want %s", step.move, got, step.want)
		}
	}
	lane.Holds, lane.WhenFull = 5, "trade"
	h.do("pump one")
	h.do("pump lane 1") // the chain at 1 takes its place in one
	if h.in("lane") != "bell@2 pump@11 bell~2@4 lever@3 bell~3@7" || h.in("one") != "chain@11" {
		t.Errorf("a trade at an index: %s / %s", h.in("lane"), h.in("one"))
	}
	h.Held[h.piece("pump")] = true
	h.do("chain lane 1") // the pump is held, so bell, the oldest, leaves before the index counts
	if h.in("lane") != "pump@11 chain@12 bell~2@4 lever@3 bell~3@7" || h.in("one") != "bell@12" {
		t.Errorf("a trade past a held piece: %s / %s", h.in("lane"), h.in("one"))
	}
}

func TestTheIndexFollowsTheFormOfTheLane(t *testing.T) {
	for as, drops := range map[activity.As]map[string]int{
		// Four pieces of 40 × 20 and gap 8; where they stand follows from the form.
		"row":    {"@ 5 230": 0, "@ 150 205": 2, "@ 295 255": 4},
		"grid":   {"@ 5 230": 0, "@ 150 230": 2, "@ 150 201": 0, "@ 150 259": 4}, // one row: above it is before all
		"column": {"@ 5 202": 0, "@ 295 230": 2, "@ 5 258": 4},
		"ring":   {"@ 180 205": 1, "@ 150 258": 2, "@ 20 230": 3, "@ 130 205": 4}, // clockwise from the top
	} {
		for drop, want := range drops {
			h := &hand{Arrangement: placing.New(parts(t, ""))}
			h.Parts.Doc.Targets[2].Arrange.As = as
			for _, p := range []string{"chain", "bell", "bell~2", "bell~3"} {
				h.do(p + " lane")
			}
			h.do("lever " + drop)
			if got := h.Index(h.piece("lever")); got != want {
				t.Errorf("%s, %s: index %d, want %d", as, drop, got, want)
			}
		}
	}
}

// Whatever is done: every piece is in one place, no target holds more than it may
// or what it turns away, a held piece stays, a move that is refused changes
// nothing, and a copy made before never changes.
func TestArrangementsStayWhole(t *testing.T) {
	rnd := rand.New(rand.NewPCG(6, 0))
	for range 200 {
		p := parts(t, "")
		doc := p.Doc
		doc.Targets[1].Holds = rnd.IntN(4)
		doc.Targets[2].Holds = rnd.IntN(4)
		for i := range doc.Targets {
			doc.Targets[i].WhenFull = []activity.WhenFull{"refuse", "oust", "trade"}[rnd.IntN(3)]
		}
		a := placing.New(p)
		for n := range 60 {
			piece := rnd.IntN(len(p.Pieces))
			if a.Held[piece] {
				continue
			}
			before := a.Clone()
			was := fmt.Sprint(before)
			var r placing.Result
			index := rnd.IntN(5)
			switch rnd.IntN(6) {
			case 0:
				r = a.Lift(piece)
			case 1:
				r, _ = a.Drop(piece, activity.U(rnd.IntN(32000)), activity.U(rnd.IntN(30000)), n)
			case 2:
				if count := slices.IndexFunc(a.Held, func(h bool) bool { return h }); a.Where[piece] >= 0 && count < 0 {
					a.Held[piece] = true
				}
				continue
			case 3:
				a.Reset()
			default:
				r = a.Place(piece, rnd.IntN(3), []*int{nil, &index}[rnd.IntN(2)], n)
			}
			if fmt.Sprint(before) != was {
				t.Fatalf("the copy changed: %s to %v", was, before)
			}
			if (r.Result == "refused" || r.Result == "rejected") && !a.Same(before) {
				t.Fatalf("a move that was %s changed %v to %v", r.Result, before, a)
			}
			if r.Result != "" && r.Changed == a.Same(before) {
				t.Fatalf("%+v, but from %v to %v", r, before, a)
			}
			count := len(a.Loose)
			for x, held := range a.Held {
				if held && a.Where[x] != before.Where[x] {
					t.Fatalf("the held piece %d moved: %v", x, a)
				}
				if a.Where[x] == activity.Home {
					count++
				}
			}
			for i, here := range a.In {
				count += len(here)
				if holds := doc.Targets[i].Holds; holds > 0 && len(here) > holds {
					t.Fatalf("%d holds %d", i, len(here))
				}
				for _, x := range here {
					if a.Where[x.Piece] != i || !p.LetsIn(i, p.Pieces[x.Piece].Item) {
						t.Fatalf("%d in %d: %v", x.Piece, i, a)
					}
				}
			}
			if count != len(p.Pieces) {
				t.Fatalf("%d of %d pieces are somewhere: %v", count, len(p.Pieces), a)
			}
		}
	}
}

// A disc fills a circle of its own size; two share what is inside it. A label that nobody
// sees takes no room.
func TestRoomInATarget(t *testing.T) {
	circle := &activity.Target{Shape: "ellipse", Frame: geometry.Rect{X: 1000, Y: 1000, W: 9000, H: 9000}, Arrange: activity.Arrange{Anchor: "centre", Scale: 100}}
	disc := geometry.Size{W: 9000, H: 9000}
	if got := placing.Stand(circle, []geometry.Size{disc}, make([]*geometry.Vertex, 1))[0]; got != circle.Frame {
		t.Errorf("a disc stands at %v", got)
	}
	if got := placing.Stand(circle, []geometry.Size{disc, disc}, make([]*geometry.Vertex, 2))[0]; got.W >= 4600 {
		t.Errorf("one of two is %v wide", got.W)
	}
	box := &activity.Target{Shape: "rect", Frame: geometry.Rect{W: 20000, H: 10000}, Label: activity.Label{Text: "Drawer", Side: "above"}}
	seen := placing.Inside(box)
	if box.Shows = "never"; placing.Inside(box) != box.Frame || seen == box.Frame {
		t.Errorf("with a label %v, unseen %v", seen, placing.Inside(box))
	}
}
