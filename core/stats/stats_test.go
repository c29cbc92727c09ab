package stats_test

import (
	"encoding/json"
	"fmt"
	"math"
	"slices"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/core/stats"
)

func game(t testing.TB, body string) *play.Game {
	t.Helper()
	doc, faults := activity.Read([]byte(body))
	if faults != nil {
		t.Fatal(faults)
	}
	g, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	return g
}

const three = `{"format":"keen-magpie/activity","version":1,"id":"three",
	"items":[{"id":"a"},{"id":"b"},{"id":"c"}],
	"targets":[{"id":"in","frame":{"x":0,"y":0,"w":200,"h":200}},{"id":"out","frame":{"x":300,"y":0,"w":200,"h":200}}],
	"key":{"solutions":[{"right":{"in":{"all":true}}}]},"marks":{"bands":[{"from":0,"name":"low"},{"from":50,"name":"high"}]}}`

// placed are moves that put each item into a target, and check; "" leaves it at home.
func placed(targets ...string) []play.Move {
	var moves []play.Move
	for i, target := range targets {
		if target != "" {
			moves = append(moves, play.Move{N: len(moves) + 1, T: int64(1000 * (i + 1)), Do: "place", Piece: string(rune('a' + i)), Target: target})
		}
	}
	return append(moves, play.Move{N: len(moves) + 1, T: 9000, Do: "check"})
}

// Four learners have three, two, one and none right, each what the one before had less
// one: right are a in 3, b in 2, c in 1 of 4. The number right varies by 1.25, the items
// by 3/16, 4/16, 3/16, so that alpha is 3/2 × (1 − 0.625/1.25) = 0.75, and its error
// √1.25 × √0.25 = 0.559. a and b + c: covariance 3/16, variances 3/16 and 11/16, so
// √(3/11) = 0.5222; b and a + c: 1/4 over √(1/4 × 1/2) = 0.7071.
func TestAHandWorkedTable(t *testing.T) {
	table := stats.New(game(t, three))
	for _, s := range [][]string{{"in", "in", "in"}, {"in", "in", "out"}, {"in", "out", ""}, {"out", "", ""}} {
		table.Add(1, -1, placed(s...))
	}
	table.Add(1, -1, placed("in")[:1]) // under way: no check yet
	f := table.Figures()
	if f.Sittings != 5 || f.Finished != 4 || f.First.N != 4 || f.Final.N != 4 {
		t.Fatalf("%+v", f)
	}
	a := f.First
	if *a.Alpha != 0.75 || *a.SEM != 0.559 {
		t.Errorf("alpha %v, its error %v", *a.Alpha, *a.SEM)
	}
	got := ""
	for _, it := range a.Items {
		got += fmt.Sprintf("%s %v %v %v; ", it.Item, it.Facility, *it.Discrimination, it.Placed)
	}
	if got != "a 0.75 0.5222 map[in:3 out:1]; b 0.5 0.7071 map[:1 in:2 out:1]; c 0.25 0.5222 map[:2 in:1 out:1]; " {
		t.Error(got)
	}
	// 0, 33.33, 66.67, 100: a quarter of the way from the first to the last is three
	// quarters of the way from the first to the second.
	s := a.Scores
	if s.Mean != 50 || s.Q1 != 24.9975 || s.Median != 50 || s.Q3 != 75.0025 || s.Min != 0 || s.Max != 100 {
		t.Errorf("%+v", s)
	}
	if fmt.Sprint(a.Bands) != "[{low 2} {high 2}]" || s.Histogram[0].N != 1 || s.Histogram[3].N != 1 || s.Histogram[6].N != 1 || s.Histogram[10].N != 1 {
		t.Errorf("%v %v", a.Bands, s.Histogram)
	}
	// a was put in at 1 s by four, also by the one who is under way.
	if fmt.Sprint(f.Times) != "[{a 4 1000} {b 2 2000} {c 1 3000}]" {
		t.Errorf("%v", f.Times)
	}
}

// Where nothing varies there is nothing to correlate.
func TestNothingVaries(t *testing.T) {
	table := stats.New(game(t, three))
	empty := table.Figures()
	if empty.First.N != 0 || empty.First.Alpha != nil || empty.First.Items[0].Discrimination != nil {
		t.Errorf("%+v", empty)
	}
	for range 3 {
		table.Add(1, -1, placed("in", "in", "in"))
	}
	f := table.Figures().First
	if f.Alpha != nil || f.Items[0].Discrimination != nil || f.Items[0].Facility != 1 {
		t.Errorf("%+v", f)
	}
	if _, err := json.Marshal(table.Figures()); err != nil {
		t.Error(err)
	}
}

// first and final are not the same: after a first check with one wrong, all right.
func TestFirstAndFinal(t *testing.T) {
	doc := three[:len(three)-1] + `,"play":{"attempts":2,"wrongPieces":"home"}}`
	table := stats.New(game(t, doc))
	moves := placed("in", "in", "out")
	moves = append(moves, play.Move{N: 5, T: 10000, Do: "again"}, play.Move{N: 6, T: 11000, Do: "place", Piece: "c", Target: "in"}, play.Move{N: 7, T: 12000, Do: "check"})
	table.Add(1, -1, moves)
	f := table.Figures()
	if f.First.Items[2].Facility != 0 || f.Final.Items[2].Facility != 1 || f.First.Scores.Mean != 66.67 || f.Final.Scores.Mean != 100 {
		t.Errorf("%+v\n%+v", f.First, f.Final)
	}
	// Judged at each placement, the first attempt is the first placement.
	each := stats.New(game(t, three[:len(three)-1]+`,"play":{"check":"each","attempts":0,"wrongPieces":"home"}}`))
	each.Add(1, -1, []play.Move{{N: 1, Do: "place", Piece: "a", Target: "out"}, {N: 2, T: 500, Do: "place", Piece: "a", Target: "in"},
		{N: 3, T: 600, Do: "place", Piece: "b", Target: "in"}, {N: 4, T: 700, Do: "place", Piece: "c", Target: "in"}})
	e := each.Figures()
	if e.First.Items[0].Facility != 0 || e.First.Items[1].Facility != 1 || e.Final.Items[0].Facility != 1 || e.First.Items[0].Placed["out"] != 1 || e.Times[0].Median != 500 {
		t.Errorf("%+v\n%+v", e.First, e.Final)
	}
}

// keyed is two drawers with ten items each; wrongly, the first item of the first is
// keyed to the second.
func keyed(t testing.TB, wrongly bool) *play.Game {
	items, left, right := "", `"i0"`, `"i10"`
	for i := range 20 {
		items += fmt.Sprintf(`{"id":"i%d"},`, i)
		if i > 0 && i < 10 {
			left += fmt.Sprintf(`,"i%d"`, i)
		}
		if i > 10 {
			right += fmt.Sprintf(`,"i%d"`, i)
		}
	}
	if wrongly {
		left, right = left[len(`"i0",`):], right+`,"i0"`
	}
	return game(t, fmt.Sprintf(`{"format":"keen-magpie/activity","version":1,"id":"drawers","items":[%s],
		"targets":[{"id":"left","frame":{"x":0,"y":0,"w":200,"h":200}},{"id":"right","frame":{"x":300,"y":0,"w":200,"h":200}}],
		"key":{"solutions":[{"right":{"left":{"items":[%s]},"right":{"items":[%s]}}}]}}`, items[:len(items)-1], left, right))
}

// Those who know put the item where it belongs, and are told that they are wrong: it is
// suspected, and no other; with the right key nothing is.
func TestAWronglyKeyedItemIsSuspected(t *testing.T) {
	truth := keyed(t, false)
	for _, wrongly := range []bool{true, false} {
		g := keyed(t, wrongly)
		table := stats.New(g)
		for n := range uint64(120) {
			table.Add(n, -1, proof.Sitting(g, truth, 30+int(n*7%70), n))
		}
		var suspects []string
		for _, it := range table.Figures().First.Items {
			if it.Suspect != nil {
				suspects = append(suspects, it.Item)
				if it.Suspect.Place != "left" || it.Suspect.There <= it.Suspect.Right || it.Suspect.Of != 40 {
					t.Errorf("%+v", it.Suspect)
				}
			}
		}
		if want := map[bool]string{true: "[i0]", false: "[]"}[wrongly]; fmt.Sprint(suspects) != want {
			t.Errorf("keyed wrongly %v: suspects %v", wrongly, suspects)
		}
	}
}

// A second way of working it out, by the definitions, agrees on made-up sittings.
func TestFiguresAgreeWithTheirDefinitions(t *testing.T) {
	g := keyed(t, false)
	table := stats.New(g)
	var rights [][]float64
	var percents []float64
	for n := range uint64(75) {
		moves := proof.Sitting(g, g, int(20+n%60), n)
		table.Add(n, -1, moves)
		state := g.Open(n)
		for _, m := range moves {
			var a play.Answer
			if state, a = g.Move(state, m); a.Verdict == nil {
				continue
			}
			row := make([]float64, len(g.Doc.Items))
			for i := range row {
				if slices.Contains(a.Verdict.Right, g.Doc.Items[i].ID) {
					row[i] = 1
				}
			}
			rights = append(rights, row)
			h, _ := exact.Parse(a.Verdict.Percent)
			percents = append(percents, float64(h)/100)
			break
		}
	}
	mean := func(x []float64) (m float64) {
		for _, v := range x {
			m += v / float64(len(x))
		}
		return m
	}
	covariance := func(x, y []float64) (c float64) {
		mx, my := mean(x), mean(y)
		for i := range x {
			c += (x[i] - mx) * (y[i] - my) / float64(len(x))
		}
		return c
	}
	column := func(i int) (x, rest []float64) {
		for _, row := range rights {
			total := 0.0
			for k, v := range row {
				if k != i {
					total += v
				}
			}
			x, rest = append(x, row[i]), append(rest, total)
		}
		return x, rest
	}
	near := func(what string, got, want float64) {
		if math.Abs(got-want) > 1e-4 {
			t.Errorf("%s: %v, by definition %v", what, got, want)
		}
	}
	f := table.Figures().First
	sum := 0.0
	var totals []float64
	for i, it := range f.Items {
		x, rest := column(i)
		near(it.Item+" facility", it.Facility, mean(x))
		near(it.Item+" discrimination", *it.Discrimination, covariance(x, rest)/math.Sqrt(covariance(x, x)*covariance(rest, rest)))
		sum += covariance(x, x)
		if i == 0 {
			for k := range x {
				totals = append(totals, x[k]+rest[k])
			}
		}
	}
	k := float64(len(f.Items))
	alpha := k / (k - 1) * (1 - sum/covariance(totals, totals))
	near("alpha", *f.Alpha, alpha)
	near("its error", *f.SEM, math.Sqrt(covariance(totals, totals))*math.Sqrt(1-alpha))
	near("mean", f.Scores.Mean, mean(percents))
	near("deviation", f.Scores.SD, math.Sqrt(covariance(percents, percents)))
	slices.Sort(percents)
	near("median", f.Scores.Median, percents[37])
	near("lower quartile", f.Scores.Q1, (percents[18]+percents[19])/2)
}

func BenchmarkSittings(b *testing.B) {
	g := keyed(b, false)
	moves := proof.Sitting(g, g, 60, 1)
	table := stats.New(g)
	for b.Loop() {
		table.Add(1, -1, moves)
	}
}

func ExampleTable() {
	doc, _ := activity.Read([]byte(three))
	g, _ := play.New(doc)
	table := stats.New(g)
	table.Add(1, -1, placed("in", "in", "out"))
	table.Add(1, -1, placed("in", "out", "out"))
	fmt.Println(table.Figures().First.Items[1].Facility)
	// Output: 0.5
}
