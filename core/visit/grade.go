package visit

import "keenmagpie/core/exact"

// Attempt is one of several sittings, or runs, of the same by one learner.
type Attempt struct {
	Done   bool
	Judged bool // there is a score
	Score  exact.Hundredths
	// Percent is by which attempts are compared: their points can differ.
	Percent exact.Hundredths
}

// Counts is which attempt counts, of some in the order in which they were begun: by keep the
// best, the last or the first. What is under way counts only where nothing is done. −1: none has
// a score. Cost: linear.
func Counts(list []Attempt, keep string) int {
	counts := -1
	for i, x := range list {
		switch {
		case !x.Judged:
		case counts < 0, x.Done && !list[counts].Done:
			counts = i
		case !x.Done && list[counts].Done:
		case keep == "last", keep == "best" && x.Percent > list[counts].Percent:
			counts = i
		}
	}
	return counts
}
