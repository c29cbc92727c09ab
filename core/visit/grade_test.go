package visit_test

import (
	"testing"

	"keenmagpie/core/exact"
	"keenmagpie/core/visit"
)

// Of several attempts the best, the last or the first counts; what is done before what is under
// way, and nothing without a score.
func TestWhichAttemptCounts(t *testing.T) {
	done := func(percent int) visit.Attempt {
		return visit.Attempt{Done: true, Judged: true, Percent: exact.Hundredths(100 * percent)}
	}
	working := func(percent int) visit.Attempt {
		return visit.Attempt{Judged: true, Percent: exact.Hundredths(100 * percent)}
	}
	for name, c := range map[string]struct {
		list              []visit.Attempt
		best, last, first int
	}{
		"none":                           {nil, -1, -1, -1},
		"none with a score":              {[]visit.Attempt{{}, {Done: true}}, -1, -1, -1},
		"three that are done":            {[]visit.Attempt{done(40), done(90), done(60)}, 1, 2, 0},
		"alike":                          {[]visit.Attempt{done(50), done(50)}, 0, 1, 0},
		"under way alone":                {[]visit.Attempt{working(20)}, 0, 0, 0},
		"under way after one that is":    {[]visit.Attempt{done(40), working(90)}, 0, 0, 0},
		"done after one that is not":     {[]visit.Attempt{working(90), done(40)}, 1, 1, 1},
		"one without a score in between": {[]visit.Attempt{done(10), {Done: true}, done(5)}, 0, 2, 0},
	} {
		t.Run(name, func(t *testing.T) {
			for keep, want := range map[string]int{"best": c.best, "last": c.last, "first": c.first} {
				if got := visit.Counts(c.list, keep); got != want {
					t.Errorf("the %s is %d, not %d", keep, got, want)
				}
			}
		})
	}
}
