package marks_test

import (
	"errors"
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// document has two bins, the pieces a, b, c right in the first and d in the
// second, and r, a distractor that costs 2.
func document(t testing.TB, more string) *activity.Doc {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"m",
		"items":[{"id":"a"},{"id":"b"},{"id":"c","weight":2},{"id":"d"},{"id":"r","penalty":2}],
		"targets":[{"id":"one","frame":{"x":0,"y":0,"w":9,"h":9}},{"id":"two","frame":{"x":9,"y":0,"w":9,"h":9}}],` + more + `}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return doc
}

const key = `"key":{"solutions":[{"right":{"one":{"items":["a","b","c"]},"two":{"items":["d"]}}}]}`

// put makes an arrangement of pieces such as "1 a": a in the first target; a star
// behind it holds it there.
func put(t testing.TB, judge *marks.Judge, pieces ...string) *placing.Arrangement {
	t.Helper()
	a := placing.New(judge.Parts)
	for i, p := range pieces {
		piece, ok := judge.Parts.Piece(strings.TrimSuffix(p[2:], "*"))
		if !ok {
			t.Fatal(p)
		}
		a.Put(piece, int(p[0]-'1'), i+1)
		a.Held[piece] = strings.HasSuffix(p, "*")
	}
	return a
}

func judge(t testing.TB, more string) *marks.Judge {
	t.Helper()
	j, err := marks.NewJudge(document(t, more))
	if err != nil {
		t.Fatal(err)
	}
	return j
}

type list = []string

func Example() {
	t := &testing.T{}
	j := judge(t, key)
	v := j.Verdict(j.Judge(put(t, j, "1 a", "1 c", "2 d"), marks.Now{Attempt: 1}, nil))
	fmt.Println(v.Outcome, v.Earned, v.Available, v.Fraction, v.Score, v.Percent)
	// Output:
	// part 4 5 4/5 8.00 80.00
}

func TestScoresByHand(t *testing.T) {
	for name, c := range map[string]struct {
		more    string
		put     list
		attempt int
		want    string
	}{
		"all correct: 5 of 5":                              {key, list{"1 a", "1 b", "1 c", "2 d"}, 1, "right 5 1 10.00"},
		"all correct at the second share, 50%":             {`"marks":{"shares":[100,50]},` + key, list{"1 a", "1 b", "1 c", "2 d"}, 2, "right 5 1 5.00"},
		"the last share repeats":                           {`"marks":{"shares":[100,50]},` + key, list{"1 a", "1 b", "1 c", "2 d"}, 9, "right 5 1 5.00"},
		"a wrong piece costs its penalty: 1 + 1 − 2 of 5":  {key, list{"1 a", "1 b", "2 r"}, 1, "part 0 0 0.00"},
		"below nothing is nothing: 1 − 2":                  {key, list{"1 a", "2 r"}, 1, "part -1 0 0.00"},
		"or less, where that is allowed: −1 of 5":          {`"marks":{"negative":true},` + key, list{"1 a", "2 r"}, 1, "part -1 -1/5 -2.00"},
		"a share does not soften what is below nothing":    {`"marks":{"negative":true,"shares":[100,50]},` + key, list{"1 a", "2 r"}, 2, "part -1 -1/5 -2.00"},
		"a cell's own penalty: 1 − 0":                      {`"marks":{"cells":{"r/two":{"penalty":0}}},` + key, list{"1 a", "2 r"}, 1, "part 1 1/5 2.00"},
		"a cell's own weight: 4 of 8":                      {`"marks":{"cells":{"a/one":{"weight":4}}},` + key, list{"1 a"}, 1, "part 4 1/2 5.00"},
		"nothing placed":                                   {key, list{}, 1, "wrong 0 0 0.00"},
		"nothing to earn, and valid":                       {`"key":{"solutions":[{}]}`, list{}, 1, "right 0 1 10.00"},
		"nothing to earn, and not valid":                   {`"key":{"solutions":[{}]}`, list{"1 a"}, 1, "wrong 0 0 0.00"},
		"5/9 of 0.25 points is 0.1389, rounded once: 0.14": {`"marks":{"points":0.25,"cells":{"c/one":{"weight":4},"d/two":{"weight":3}}},` + key, list{"1 a", "1 c"}, 1, "part 5 5/9 0.14"},
	} {
		t.Run(name, func(t *testing.T) {
			j := judge(t, c.more)
			v := j.Verdict(j.Judge(put(t, j, c.put...), marks.Now{Attempt: c.attempt}, nil))
			if got := fmt.Sprint(v.Outcome, " ", v.Earned, " ", v.Fraction, " ", v.Score); got != c.want {
				t.Errorf("%s, want %s", got, c.want)
			}
		})
	}
}

// Two ways: all of a, b, c in one; or, for 60 %, d alone in two.
const ways = `"key":{"solutions":[{"right":{"one":{"items":["a","b","c"]}}},{"credit":60,"right":{"two":{"items":["d"]}}}]}`

func TestTheVerdictIsThatOfTheSolutionThatFitsBest(t *testing.T) {
	for name, c := range map[string]struct {
		put  list
		want string
	}{
		"the first, whole":                        {list{"1 a", "1 b", "1 c"}, "right 0 0 1"},
		"the second, whole, for its credit":       {list{"2 d"}, "right 1 1 3/5"},
		"neither; half of the first is 1/2":       {list{"1 c"}, "part 0 0 1/2"},
		"neither; d is more under the second":     {list{"1 a", "2 d"}, "part 1 1 3/5"},
		"alike: the earlier":                      {nil, "wrong 0 0 0"},
		"a held piece leaves its solution alone":  {list{"1 a*", "2 d"}, "part 0 0 1/4"},
		"held pieces of both: all are considered": {list{"1 a*", "2 d*"}, "part 1 1 3/5"},
	} {
		t.Run(name, func(t *testing.T) {
			j := judge(t, ways)
			v := j.Verdict(j.Judge(put(t, j, c.put...), marks.Now{Attempt: 1}, nil))
			if got := fmt.Sprint(v.Outcome, " ", v.Solution, " ", v.ScoredBy, " ", v.Fraction); got != c.want {
				t.Errorf("%s, want %s", got, c.want)
			}
		})
	}
	// A whole way with little credit: the verdict is its, the score the other's.
	j := judge(t, `"key":{"solutions":[{"right":{"one":{"items":["a","b","c"]}}},{"credit":10,"right":{"one":{"items":["c"]}}}]}`)
	v := j.Verdict(j.Judge(put(t, j, "1 c"), marks.Now{Attempt: 1}, nil))
	if v.Outcome != "right" || v.Solution != 1 || v.ScoredBy != 0 || v.Fraction != "1/2" || v.Score != "5.00" {
		t.Errorf("%+v", v)
	}
}

// Marks by target, by order and of the whole; a lane of three steps beside a box.
func TestOtherMarksByHand(t *testing.T) {
	const board = `{"format":"keen-magpie/activity","version":1,"id":"m","items":[{"id":"s1","penalty":5},{"id":"s2"},{"id":"s3"},{"id":"oil","weight":2},{"id":"rag","penalty":1}],
		"targets":[{"id":"lane","ordered":true,"weight":4,"frame":{"x":0,"y":0,"w":9,"h":9}},{"id":"box","weight":3,"frame":{"x":0,"y":0,"w":9,"h":9}},{"id":"bin","weight":7,"frame":{"x":0,"y":0,"w":9,"h":9}}],
		"key":{"solutions":[{"right":{"lane":{"items":["s1","s2","s3"]},"box":{"items":["oil"]}},"orders":[{"target":"lane","tiers":[["s1"],["s2"],["s3"]]}]}]},"marks":{`
	for name, c := range map[string]struct {
		marks string
		put   list
		want  string
	}{
		// The bin has no right cell and is no unit: 4 + 3 are available.
		"by target, both right":                {`"by":"target"`, list{"1 s1", "1 s2", "1 s3", "2 oil"}, "right 7/7"},
		"by target, one step left out":         {`"by":"target"`, list{"1 s1", "1 s3", "2 oil"}, "part 3/7"},
		"by target, a rag in the bin":          {`"by":"target"`, list{"1 s1", "1 s2", "1 s3", "3 rag"}, "part 3/7"},
		"by order, one of three wrong":         {`"by":"order"`, list{"1 s2", "1 s1", "1 s3", "2 oil"}, "part 14/3/6"}, // 4 × 2/3 + 2 of 4 + 2; s1, though wrong, is at its cell and costs nothing
		"by order, a rag in the lane":          {`"by":"order"`, list{"1 rag", "1 s1", "1 s2", "1 s3", "2 oil"}, "part 5/6"},
		"by order, position":                   {`"by":"order","measure":"position"`, list{"1 rag", "1 s1", "1 s2", "1 s3", "2 oil"}, "part 1/6"}, // all are one too late
		"by order, pairs":                      {`"by":"order","measure":"pairs"`, list{"1 s2", "1 s1", "1 s3"}, "part 8/3/6"},
		"by order, neighbours":                 {`"by":"order","measure":"neighbours"`, list{"1 s2", "1 s3", "1 s1"}, "part 2/6"},
		"whole, not quite":                     {`"by":"whole"`, list{"1 s1", "1 s2", "1 s3", "3 rag"}, "part 0/1"},
		"whole":                                {`"by":"whole"`, list{"1 s1", "1 s2", "1 s3", "2 oil"}, "right 1/1"},
		"by item: the step in the bin costs 5": {`"by":"item","negative":true`, list{"3 s1", "2 oil"}, "part -3/5"},
	} {
		t.Run(name, func(t *testing.T) {
			doc, faults := activity.Read([]byte(board + c.marks + "}}"))
			if faults != nil {
				t.Fatal(faults)
			}
			j, err := marks.NewJudge(doc)
			if err != nil {
				t.Fatal(err)
			}
			v := j.Verdict(j.Judge(put(t, j, c.put...), marks.Now{Attempt: 1}, nil))
			if got := string(v.Outcome) + " " + v.Earned + "/" + v.Available; got != c.want {
				t.Errorf("%s, want %s", got, c.want)
			}
		})
	}
}

// Where placements are judged: shares of each item's own tries, and charges.
func TestSharesOfTriesByHand(t *testing.T) {
	settings := func(by string) string {
		return `"marks":{"by":"` + by + `","shares":[100,50,20],"hintCost":10,"negative":true},` + key
	}
	all := list{"1 a", "1 b", "1 c", "2 d"}
	for name, c := range map[string]struct {
		by    string
		put   list
		wrong []string // placements that were wrong: "a/two"
		cost  int
		hints int
		want  string // earned, score
	}{
		"no wrong ones: 5 of 5":                       {"item", all, nil, 0, 0, "5 10.00"},
		"a at its second try: 4 1/2 of 5":             {"item", all, list{"a/two"}, 0, 0, "5 9.00"},
		"c (weight 2) at its fourth: 3 + 2 × 1/5":     {"item", all, list{"c/two", "c/two", "c/two"}, 0, 0, "5 6.80"},
		"charges are not softened: 1/2 − 2 of 5":      {"item", list{"1 a"}, list{"a/two"}, 2, 0, "-1 -3.00"},
		"and two hints: 9/10 − 2/10":                  {"item", all, list{"a/two"}, 0, 2, "5 7.00"},
		"by target, of weight 1: 1 + 1/2 of 2":        {"target", all, list{"a/two"}, 0, 0, "2 7.50"},
		"of the whole: at the second":                 {"whole", all, list{"a/two"}, 0, 0, "1 5.00"},
		"of the whole, a charge is none: 0, less 10%": {"whole", list{"1 a"}, list{"a/two"}, 0, 1, "0 -1.00"},
	} {
		t.Run(name, func(t *testing.T) {
			j := judge(t, settings(c.by))
			tries := marks.NewTries(j.Parts)
			for i, w := range c.wrong {
				item, target, _ := strings.Cut(w, "/")
				x, _ := j.Parts.Item(item)
				y, _ := j.Parts.Target(target)
				tries = tries.And(x, y, map[bool]int{true: c.cost}[i == 0])
			}
			g := j.Judge(put(t, j, c.put...), marks.Now{Attempt: 1, Hints: c.hints, Tries: tries}, nil)
			v := j.Verdict(g)
			if got := v.Earned + " " + v.Score; got != c.want {
				t.Errorf("%s, want %s", got, c.want)
			}
			if entries := j.Account(g, marks.Now{Attempt: 1, Hints: c.hints, Tries: tries}); len(entries) == 0 && v.Earned != "0" {
				t.Error("nothing says how it was put together")
			}
		})
	}
}

func TestTheAccountAddsUp(t *testing.T) {
	j := judge(t, key)
	g := j.Judge(put(t, j, "1 a", "1 c", "2 r"), marks.Now{Attempt: 1}, nil)
	var got []string
	for _, e := range j.Account(g, marks.Now{Attempt: 1}) {
		got = append(got, e.What+" "+e.Piece+" "+e.Target+" "+e.Points)
	}
	if text := strings.Join(got, ", "); text != "piece a one 1, piece c one 2, penalty r two -2" {
		t.Error(text)
	}
}

func TestAnImpossibleKeyNamesThoseAtFault(t *testing.T) {
	doc := document(t, ways)
	doc.Targets[0].Holds = 2
	_, err := marks.NewJudge(doc)
	var impossible *marks.Impossible
	if !errors.As(err, &impossible) || impossible.Solution != 0 || fmt.Sprint(impossible.Items, impossible.Targets) != "[a b c] [one]" {
		t.Errorf("%+v", err)
	}
}

func TestBands(t *testing.T) {
	j := judge(t, `"marks":{"bands":[{"from":0,"name":"low"},{"from":59.5,"name":"high"}]},`+key)
	for percent, want := range map[int]string{-100: "", 0: "low", 5949: "low", 5950: "high", 10000: "high"} {
		if got := j.Band(activity.U(percent)); got != want {
			t.Errorf("%d hundredths of a percent: %q, want %q", percent, got, want)
		}
	}
}

// large is the document of the measurement: 50 pieces, 10 targets, 3 solutions with
// needs, and an arrangement of all of them that is nearly right.
func large(t testing.TB) (*marks.Judge, *placing.Arrangement) {
	t.Helper()
	var items, targets, solutions list
	for i := range 50 {
		items = append(items, fmt.Sprintf(`{"id":"i%d","tags":["g%d","h%d"],"penalty":1}`, i, i%10, i/5))
	}
	for k := range 3 {
		var right, needs list
		for j := range 10 {
			tag := fmt.Sprint("g", (j+k)%10)
			if k == 2 {
				tag = fmt.Sprint("h", j)
			}
			right = append(right, fmt.Sprintf(`"t%d":{"tags":["%s"]}`, j, tag))
			if j%2 == 0 {
				needs = append(needs, fmt.Sprintf(`{"target":"t%d","min":2,"max":4}`, j))
			}
		}
		solutions = append(solutions, `{"right":{`+strings.Join(right, ",")+`},"needs":[`+strings.Join(needs, ",")+`]}`)
	}
	for j := range 10 {
		targets = append(targets, fmt.Sprintf(`{"id":"t%d","frame":{"x":0,"y":0,"w":9,"h":9}}`, j))
	}
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"m","items":[` + strings.Join(items, ",") + `],"targets":[` +
		strings.Join(targets, ",") + `],"key":{"solutions":[` + strings.Join(solutions, ",") + `]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	j, err := marks.NewJudge(doc)
	if err != nil {
		t.Fatal(err)
	}
	a := placing.New(j.Parts)
	for piece := range j.Parts.Pieces {
		target := piece % 10
		if piece%7 == 0 {
			target = (piece + 1) % 10
		}
		a.Put(piece, target, piece+1)
	}
	return j, a
}

func TestJudgingAgainAllocatesNothing(t *testing.T) {
	j, a := large(t)
	var g marks.Judgement
	j.Judge(a, marks.Now{Attempt: 1}, &g)
	if g.Outcome != "part" || g.Seen().Rights < 20 {
		t.Errorf("the measurement judges something else: %+v", g)
	}
	if n := testing.AllocsPerRun(100, func() { j.Judge(a, marks.Now{Attempt: 2, Hints: 1}, &g) }); n > 0 {
		t.Errorf("%v allocations", n)
	}
}

func BenchmarkJudge(b *testing.B) {
	j, a := large(b)
	b.Run("numbers", func(b *testing.B) {
		var g marks.Judgement
		b.ReportAllocs()
		for b.Loop() {
			j.Judge(a, marks.Now{Attempt: 1}, &g)
		}
	})
	b.Run("verdict", func(b *testing.B) {
		var g marks.Judgement
		b.ReportAllocs()
		for b.Loop() {
			j.Verdict(j.Judge(a, marks.Now{Attempt: 1}, &g))
		}
	})
}
