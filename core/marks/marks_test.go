package marks_test

import (
	"errors"
	"fmt"
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

func put(pieces ...string) *placing.Arrangement {
	a := placing.New()
	for i, p := range pieces {
		target := []string{"one", "two"}[p[0]-'1']
		a.Targets[target] = append(a.Targets[target], placing.Placed{Piece: p[2:], Since: i + 1})
	}
	return a
}

func Example() {
	doc := document(&testing.T{}, key)
	judge, _ := marks.NewJudge(doc)
	v, _ := judge.Verdict(put("1 a", "1 c", "2 d"), 1)
	fmt.Println(v.Outcome, v.Earned, v.Available, v.Fraction, v.Score, v.Percent)
	// Output:
	// part 4 5 4/5 8.00 80.00
}

func TestScoresByHand(t *testing.T) {
	for name, c := range map[string]struct {
		more    string
		put     *placing.Arrangement
		attempt int
		want    string
	}{
		"all right: 5 of 5":                                {key, put("1 a", "1 b", "1 c", "2 d"), 1, "right 5 1 10.00"},
		"all right at the second share, 50 %":              {`"marks":{"shares":[100,50]},` + key, put("1 a", "1 b", "1 c", "2 d"), 2, "right 5 1 5.00"},
		"the last share repeats":                           {`"marks":{"shares":[100,50]},` + key, put("1 a", "1 b", "1 c", "2 d"), 9, "right 5 1 5.00"},
		"a wrong piece costs its penalty: 1 + 1 − 2 of 5":  {key, put("1 a", "1 b", "2 r"), 1, "part 0 0 0.00"},
		"below nothing is nothing: 1 − 2":                  {key, put("1 a", "2 r"), 1, "part -1 0 0.00"},
		"or less, where that is allowed: −1 of 5":          {`"marks":{"negative":true},` + key, put("1 a", "2 r"), 1, "part -1 -1/5 -2.00"},
		"a share does not soften what is below nothing":    {`"marks":{"negative":true,"shares":[100,50]},` + key, put("1 a", "2 r"), 2, "part -1 -1/5 -2.00"},
		"a cell's own penalty: 1 − 0":                      {`"marks":{"cells":{"r/two":{"penalty":0}}},` + key, put("1 a", "2 r"), 1, "part 1 1/5 2.00"},
		"a cell's own weight: 4 of 8":                      {`"marks":{"cells":{"a/one":{"weight":4}}},` + key, put("1 a"), 1, "part 4 1/2 5.00"},
		"nothing placed":                                   {key, put(), 1, "wrong 0 0 0.00"},
		"nothing to earn, and valid":                       {`"key":{"solutions":[{}]}`, put(), 1, "right 0 1 10.00"},
		"nothing to earn, and not valid":                   {`"key":{"solutions":[{}]}`, put("1 a"), 1, "wrong 0 0 0.00"},
		"5/9 of 0.25 points is 0.1389, rounded once: 0.14": {`"marks":{"points":0.25,"cells":{"c/one":{"weight":4},"d/two":{"weight":3}}},` + key, put("1 a", "1 c"), 1, "part 5 5/9 0.14"},
	} {
		judge, err := marks.NewJudge(document(t, c.more))
		if err != nil {
			t.Fatal(err)
		}
		v, _ := judge.Verdict(c.put, c.attempt)
		if got := fmt.Sprint(v.Outcome, " ", v.Earned, " ", v.Fraction, " ", v.Score); got != c.want {
			t.Errorf("%s: %s, want %s", name, got, c.want)
		}
	}
}

// Two ways: all of a, b, c in one; or, for 60 %, d alone in two.
const ways = `"key":{"solutions":[{"right":{"one":{"items":["a","b","c"]}}},{"credit":60,"right":{"two":{"items":["d"]}}}]}`

func TestTheVerdictIsThatOfTheSolutionThatFitsBest(t *testing.T) {
	for name, c := range map[string]struct {
		put  *placing.Arrangement
		held []string
		want string
	}{
		"the first, whole":                        {put("1 a", "1 b", "1 c"), nil, "right 0 0 1"},
		"the second, whole, for its credit":       {put("2 d"), nil, "right 1 1 3/5"},
		"neither; half of the first is 1/2":       {put("1 c"), nil, "part 0 0 1/2"},
		"neither; d is more under the second":     {put("1 a", "2 d"), nil, "part 1 1 3/5"},
		"alike: the earlier":                      {put(), nil, "wrong 0 0 0"},
		"a held piece leaves its solution alone":  {put("1 a", "2 d"), []string{"a"}, "part 0 0 1/4"},
		"held pieces of both: all are considered": {put("1 a", "2 d"), []string{"a", "d"}, "part 1 1 3/5"},
	} {
		judge, err := marks.NewJudge(document(t, ways))
		if err != nil {
			t.Fatal(err)
		}
		c.put.Held = c.held
		v, _ := judge.Verdict(c.put, 1)
		if got := fmt.Sprint(v.Outcome, " ", v.Solution, " ", v.ScoredBy, " ", v.Fraction); got != c.want {
			t.Errorf("%s: %s, want %s", name, got, c.want)
		}
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
	judge, err := marks.NewJudge(document(t, `"marks":{"bands":[{"from":0,"name":"low"},{"from":59.5,"name":"high"}]},`+key))
	if err != nil {
		t.Fatal(err)
	}
	for percent, want := range map[int]string{-100: "", 0: "low", 5949: "low", 5950: "high", 10000: "high"} {
		if got := judge.Band(activity.U(percent)); got != want {
			t.Errorf("%d hundredths of a percent: %q, want %q", percent, got, want)
		}
	}
}

func BenchmarkVerdict(b *testing.B) {
	judge, err := marks.NewJudge(document(b, key))
	if err != nil {
		b.Fatal(err)
	}
	a := put("1 a", "1 b", "1 c", "2 r")
	for b.Loop() {
		judge.Verdict(a, 1)
	}
}
