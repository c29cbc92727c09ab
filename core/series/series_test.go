package series_test

import (
	"fmt"
	"slices"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/series"
)

// induction is a page, two activities of 10 and 20 points (the second as practice
// where asked), and a page.
func induction(change func(*activity.Series)) *series.Run {
	doc := activity.NewSeries("Induction", []string{"a", "b"})
	welcome, thanks := activity.Page{ID: "welcome", Title: "Welcome"}, activity.Page{ID: "thanks", Title: "Thanks"}
	doc.Steps = append([]activity.Leg{{Page: &welcome, Counts: true, MoveOn: "done"}}, doc.Steps...)
	doc.Steps = append(doc.Steps, activity.Leg{Page: &thanks, Counts: true, MoveOn: "done"})
	if change != nil {
		change(doc)
	}
	worth := func(points int) *activity.Doc {
		d := &activity.Doc{Title: fmt.Sprintf("Worth %d", points)}
		d.Marks.Points, d.Marks.Counts = exact.Whole(points), true
		return d
	}
	return series.New(doc, map[string]*activity.Doc{"a": worth(10), "b": worth(20)})
}

func done(outcome activity.Outcome, score int) series.Result {
	return series.Result{Begun: true, Phase: "done", Outcome: outcome, Attempts: 1, Score: exact.Whole(score)}
}

// The learner goes from a page on at once, from an activity when its sitting is over.
func Example() {
	run := induction(nil)
	results := make([]series.Result, 4)
	fmt.Println(run.Now(series.Place{At: 0}, results).Next)
	fmt.Println(run.Now(series.Place{At: 1, Reached: 1}, results).Next)
	results[1] = done("part", 7)
	fmt.Println(run.Now(series.Place{At: 1, Reached: 1}, results).Next)
	// Output:
	// 1
	// -1
	// 2
}

func TestWhereALearnerMayGo(t *testing.T) {
	free, right, noBack := func(s *activity.Series) { s.Steps[1].MoveOn = "free" },
		func(s *activity.Series) { s.Steps[1].MoveOn = "right" }, func(s *activity.Series) { s.Back = false }
	nothing, partly, wholly := make([]series.Result, 4), make([]series.Result, 4), make([]series.Result, 4)
	partly[1], wholly[1] = done("part", 7), done("right", 10)
	all := slices.Clone(partly)
	all[2] = done("right", 20)
	for _, c := range []struct {
		name       string
		change     func(*activity.Series)
		at         series.Place
		results    []series.Result
		next, back int
		retry      bool
	}{
		{"an activity that is not over keeps the learner", nil, series.Place{At: 1, Reached: 1}, nothing, -1, 0, false},
		{"unless it may be left at any time", free, series.Place{At: 1, Reached: 1}, nothing, 2, 0, false},
		{"over but not correct, where right is asked for", right, series.Place{At: 1, Reached: 1}, partly, -1, 0, true},
		{"right, where right is asked for", right, series.Place{At: 1, Reached: 1}, wholly, 2, 0, false},
		{"no way back", noBack, series.Place{At: 1, Reached: 1}, partly, 2, -1, false},
		{"back at a page, forward again to where one was", nil, series.Place{At: 0, Reached: 2}, partly, 1, -1, false},
		{"passed once, an activity under way does not keep", nil, series.Place{At: 1, Reached: 2}, nothing, 2, 0, false},
		{"the last page leads to the result", nil, series.Place{At: 3, Reached: 3}, all, 4, 2, false},
		{"after the result, going on leads back to it", nil, series.Place{At: 1, Reached: 4}, all, 4, 0, false},
		{"after the result, also without a way back before", noBack, series.Place{At: 1, Reached: 4}, all, 4, 0, false},
		{"after the result, over what is still to be done", nil, series.Place{At: 1, Reached: 4}, partly, 2, 0, false},
		{"a place beyond the end is the result", nil, series.Place{At: 9, Reached: 9}, all, -1, 3, false},
	} {
		t.Run(c.name, func(t *testing.T) {
			run := induction(c.change)
			n := run.Now(c.at, c.results)
			if n.Next != c.next || n.Back != c.back || n.Retry != c.retry {
				t.Errorf("next %d, back %d, retry %v", n.Next, n.Back, n.Retry)
			}
			for to := -1; to <= run.End()+1; to++ {
				may := run.MayGo(c.at, c.results, to)
				known := to >= 0 && to < run.End() && n.Steps[to].Open || to == n.Next && to >= 0 || to == n.At || to == run.End() && n.Reached == run.End()
				if c.at.At <= run.End() && may != known {
					t.Errorf("to %d: %v, and what is shown says %v", to, may, known)
				}
			}
		})
	}
}

// 7 of 10 and 20 of 20 are 27 of 30, which is 90 %. As practice the second leaves 7 of
// 10; worth 5 here, the first is scored out of 5.
func TestTheTotal(t *testing.T) {
	practice := func(s *activity.Series) { s.Steps[2].Counts = false }
	none := func(s *activity.Series) { s.Steps[1].Counts, s.Steps[2].Counts = false, false }
	five := exact.Whole(5)
	worth := func(s *activity.Series) { s.Steps[1].Points = &five }
	bands := func(s *activity.Series) {
		s.PassMark = exact.Whole(70)
		s.Bands = []activity.Band{{From: 0, Name: "Again"}, {From: exact.Whole(90), Name: "Ready"}}
	}
	for _, c := range []struct {
		name   string
		change func(*activity.Series)
		a, b   series.Result
		want   string
	}{
		{"both", nil, done("part", 7), done("right", 20), "27.00 of 30: 90.00%, passed"},
		{"one as practice", practice, done("part", 7), done("right", 20), "7.00 of 10: 70.00%, passed"},
		{"other points here", worth, done("part", 3), done("right", 20), "23.00 of 25: 92.00%, passed"},
		{"one never begun", nil, done("part", 7), series.Result{}, "7.00 of 30: 23.33%, passed"},
		{"a band and a pass mark", bands, done("part", 7), done("right", 20), "27.00 of 30: 90.00%, passed, Ready"},
		{"below the pass mark", bands, done("part", 7), done("part", 13), "20.00 of 30: 66.67%, not passed, Again"},
		{"nothing counts", none, done("part", 7), done("right", 20), "no total"},
	} {
		t.Run(c.name, func(t *testing.T) {
			run := induction(c.change)
			n := run.Now(series.Place{At: 4, Reached: 4}, []series.Result{{}, c.a, c.b, {}})
			got := "no total"
			if x := n.Total; x != nil {
				passed := map[bool]string{true: "passed", false: "not passed"}[x.Passed]
				got = fmt.Sprintf("%s of %s: %s%%, %s", x.Score, x.Points, x.Percent, passed)
				if x.Band != "" {
					got += ", " + x.Band
				}
			}
			if got != c.want {
				t.Errorf("%s, want %s", got, c.want)
			}
			if run.Now(series.Place{At: 3, Reached: 4}, []series.Result{{}, c.a, c.b, {}}).Total != nil {
				t.Error("the total is told before the result")
			}
		})
	}
}

// How a sitting stands that is under way is not told, whatever it has come to.
func TestWhatIsUnderWayIsNotTold(t *testing.T) {
	paused := done("part", 7)
	paused.Phase, paused.Band = "paused", "Low"
	s := induction(nil).Now(series.Place{At: 1, Reached: 1}, []series.Result{{}, paused, {}, {}}).Steps[1]
	if !s.Begun || s.Phase != "paused" || s.Outcome != "" || s.Score != 0 || s.Band != "" || s.Attempts != 0 {
		t.Errorf("%+v", s)
	}
}

func TestDoingItOnceMore(t *testing.T) {
	results := []series.Result{{}, done("part", 7), done("right", 20), {}}
	at := series.Place{At: 4, Reached: 4}
	for again, want := range map[activity.Again]string{"none": "[1]", "wrong": "wrong [1]", "all": "all [1 2]"} {
		run := induction(func(s *activity.Series) { s.Again = again })
		what := run.Now(at, results).Again
		got := fmt.Sprint(run.Redo(what, results))
		if what != "" {
			got = string(what) + " " + got
		}
		if got != want {
			t.Errorf("%s: %s, want %s", again, got, want)
		}
	}
	results[1] = done("right", 10)
	if what := induction(func(s *activity.Series) { s.Again = "wrong" }).Now(at, results).Again; what != "" {
		t.Errorf("all is correct, and %q is offered", what)
	}
}
