package placing_test

import (
	"fmt"
	"math/rand/v2"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/placing"
)

func sample() *activity.Doc {
	u := func(v int) activity.U { return activity.U(v * 100) }
	frame := func(x, y, w, h int) geometry.Rect { return geometry.Rect{X: u(x), Y: u(y), W: u(w), H: u(h)} }
	size := geometry.Size{W: u(40), H: u(20)}
	return &activity.Doc{
		Items: []activity.Item{
			{ID: "chain", Copies: 1, Size: size}, {ID: "bell", Copies: 3, Size: size}, {ID: "lever", Copies: 1, Size: size, Tags: []string{"brakes"}},
		},
		Targets: []activity.Target{
			{ID: "one", Holds: 1, WhenFull: "refuse", Frame: frame(0, 0, 100, 100), Lets: activity.Selector{All: true}, Arrange: activity.Arrange{Scale: 100}},
			{ID: "many", Frame: frame(200, 0, 100, 100), Lets: activity.Selector{All: true, Except: []string{"lever"}}, Arrange: activity.Arrange{Scale: 100}},
		},
		Play: activity.Play{OffTarget: "home"},
	}
}

func Example() {
	doc := sample()
	a := placing.New()
	fmt.Println(a.Place(doc, "chain", "one", 1))
	fmt.Println(a.Place(doc, "bell~2", "one", 2))
	fmt.Println(a.Home(doc))
	// Output:
	// {placed }
	// {refused full}
	// [bell bell~2 bell~3 lever]
}

func TestWhatBecomesOfAMove(t *testing.T) {
	doc := sample()
	a := placing.New()
	at := func(x, y int) (activity.U, activity.U) { return activity.U(x * 100), activity.U(y * 100) }
	drop := func(piece string, x, y int) placing.Result {
		ux, uy := at(x, y)
		r, _ := a.Drop(doc, piece, ux, uy, 9)
		return r
	}
	for i, step := range []struct {
		got  placing.Result
		want placing.Result
	}{
		{a.Place(doc, "nobody", "one", 1), placing.Result{Result: "rejected", Reason: "unknown-piece"}},
		{a.Place(doc, "bell~4", "one", 1), placing.Result{Result: "rejected", Reason: "unknown-piece"}},
		{a.Place(doc, "bell~1", "one", 1), placing.Result{Result: "rejected", Reason: "unknown-piece"}},
		{a.Place(doc, "bell", "nowhere", 1), placing.Result{Result: "rejected", Reason: "unknown-target"}},
		{a.Place(doc, "lever", "many", 1), placing.Result{Result: "refused", Reason: "closed"}},
		{a.Place(doc, "bell", "one", 1), placing.Result{Result: "placed"}},
		{a.Place(doc, "bell", "one", 2), placing.Result{Result: "kept"}},
		{a.Place(doc, "chain", "one", 3), placing.Result{Result: "refused", Reason: "full"}},
		{a.Place(doc, "bell", "many", 4), placing.Result{Result: "placed"}},
		{drop("chain", 100, 50), placing.Result{Result: "placed"}}, // its middle on the edge of one
		{drop("chain", 150, 50), placing.Result{Result: "lifted"}}, // between the targets: home
		{drop("lever", 250, 50), placing.Result{Result: "refused", Reason: "closed"}},
		{a.Lift(doc, "chain"), placing.Result{Result: "rejected", Reason: "not-allowed"}}, // it is home
		{a.Lift(doc, "bell"), placing.Result{Result: "lifted"}},
	} {
		if step.got != step.want {
			t.Errorf("step %d: %+v, want %+v", i+1, step.got, step.want)
		}
	}
	doc.Play.OffTarget = "stay"
	if r := drop("chain", 150, 50); r.Result != "loose" || a.Loose["chain"] != (activity.Point{X: 15000, Y: 5000}) {
		t.Errorf("beside all targets: %+v, %v", r, a.Loose)
	}
	if !a.CouldPlace(doc) {
		t.Error("a loose piece could still be placed")
	}
}

func TestWhoGivesWayInAFullTarget(t *testing.T) {
	where := func(a *placing.Arrangement, target string) string {
		out := ""
		for _, p := range a.Targets[target] {
			out += fmt.Sprintf("%s@%d ", p.Piece, p.Since)
		}
		return out
	}
	doc := sample()
	one, many := &doc.Targets[0], &doc.Targets[1]
	one.Holds, one.WhenFull = 2, "oust"
	a := placing.New()
	a.Place(doc, "chain", "one", 1)
	a.Place(doc, "lever", "one", 2)
	a.Place(doc, "bell", "one", 3) // the chain has been there longest
	if where(a, "one") != "lever@2 bell@3 " {
		t.Errorf("ousted: %s", where(a, "one"))
	}
	a.Held = []string{"lever"}
	a.Place(doc, "chain", "one", 4) // the lever is held, so the bell gives way
	if where(a, "one") != "lever@2 chain@4 " {
		t.Errorf("past a held piece: %s", where(a, "one"))
	}
	a.Held = []string{"lever", "chain"}
	if r := a.Place(doc, "bell", "one", 5); r.Reason != "full" {
		t.Errorf("all held: %+v", r)
	}
	a.Held = nil

	one.WhenFull = "trade"
	a.Place(doc, "bell", "many", 6)
	a.Place(doc, "bell~2", "many", 7)
	a.Place(doc, "bell", "one", 8) // the lever would take its place, but many turns it away
	if where(a, "one") != "chain@4 bell@8 " || where(a, "many") != "bell~2@7 " {
		t.Errorf("a trade that is turned away: %s/ %s", where(a, "one"), where(a, "many"))
	}
	a.Place(doc, "bell~3", "many", 9)
	a.Place(doc, "bell~2", "one", 10) // the chain takes exactly its place, before bell~3
	if where(a, "one") != "bell@8 bell~2@10 " || where(a, "many") != "chain@10 bell~3@9 " {
		t.Errorf("a trade: %s/ %s", where(a, "one"), where(a, "many"))
	}
	many.Holds, many.WhenFull = 2, "trade"
	a.Place(doc, "lever", "one", 11) // from home: whom it displaces goes home
	if where(a, "one") != "bell~2@10 lever@11 " {
		t.Errorf("a trade from home: %s", where(a, "one"))
	}
}

// Whatever is done: every piece is in one place, no target holds more than it may
// or what it turns away, and a held piece stays.
func TestArrangementsStayWhole(t *testing.T) {
	rnd := rand.New(rand.NewPCG(6, 0))
	for range 200 {
		doc := sample()
		if rnd.IntN(2) == 0 {
			doc.Play.OffTarget = "stay"
		}
		doc.Targets[1].Holds = rnd.IntN(4)
		for i := range doc.Targets {
			doc.Targets[i].WhenFull = []string{"refuse", "oust", "trade"}[rnd.IntN(3)]
		}
		a := placing.New()
		pieces := placing.Pieces(doc)
		for n := range 60 {
			p := pieces[rnd.IntN(len(pieces))]
			before := a.Clone()
			var r placing.Result
			switch rnd.IntN(6) {
			case 0:
				r = a.Lift(doc, p)
			case 1:
				r, _ = a.Drop(doc, p, activity.U(rnd.IntN(32000)), activity.U(rnd.IntN(12000)), n)
			case 2:
				if in, _, ok := a.Where(p); ok && !a.IsHeld(p) && in == "many" && len(a.Held) < 2 {
					a.Held = append(a.Held, p)
				}
			case 3:
				a.Reset()
			default:
				r = a.Place(doc, p, doc.Targets[rnd.IntN(2)].ID, n)
			}
			if r.Result == "refused" || r.Result == "rejected" {
				if fmt.Sprint(a) != fmt.Sprint(before) {
					t.Fatalf("a move that was %s changed %v to %v", r.Result, before, a)
				}
			}
			for _, held := range a.Held {
				if in, _, ok := a.Where(held); !ok || in != "many" {
					t.Fatalf("the held piece %s moved: %v", held, a)
				}
			}
			count := len(a.Home(doc)) + len(a.Loose)
			for _, target := range doc.Targets {
				here := a.Targets[target.ID]
				count += len(here)
				if target.Holds > 0 && len(here) > target.Holds {
					t.Fatalf("%s holds %d", target.ID, len(here))
				}
				for _, x := range here {
					if !target.LetsIn(placing.ItemOf(doc, x.Piece)) {
						t.Fatalf("%s let %s in", target.ID, x.Piece)
					}
				}
			}
			if count != len(pieces) || len(a.Stands(doc)) != len(pieces)-len(a.Home(doc)) {
				t.Fatalf("%d of %d pieces are somewhere: %v", count, len(pieces), a)
			}
		}
	}
}
