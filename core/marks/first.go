package marks

import (
	"keenmagpie/core/exact"
	"keenmagpie/core/placing"
)

// Firsts values first attempts, many after another: the same number as
// [Judge.Judge] comes to, without the verdict. It is not for several at once.
type Firsts struct {
	judge  *Judge
	needed []int // by solution: how many pieces must be placed besides those of needs
	line   line
	count  []int
	seq    []int
	last   exact.Ratio // the fraction valued last, and its value
	worth  exact.Ratio
	some   bool
	known  []map[int]exact.Ratio // by solution: the value of what is earned
}

// NewFirsts makes a judge ready for it.
func NewFirsts(j *Judge) *Firsts {
	f := &Firsts{judge: j, needed: make([]int, len(j.Solutions)), known: make([]map[int]exact.Ratio, len(j.Solutions))}
	for i, s := range j.Solutions {
		for item := range j.Parts.Doc.Items {
			if s.Needed(item) {
				f.needed[i] += j.Parts.Doc.Items[item].Copies
			}
		}
		f.known[i] = map[int]exact.Ratio{}
	}
	return f
}

// Value is what an arrangement with nothing held is worth as a first attempt
// without hints, and whether it is valid. Cost: O(pieces) a solution where no need
// has too many and marks are not by target; that of [Judge.Judge] otherwise.
func (f *Firsts) Value(a *placing.Arrangement) (value exact.Ratio, valid bool) {
	for i := range f.judge.Solutions {
		v, ok := f.under(i, a)
		if i == 0 || v.Cmp(value) > 0 {
			value = v
		}
		valid = valid || ok
	}
	if !f.some || f.last != value {
		f.some, f.last, f.worth = true, value, f.judge.valueOf(value, Now{Attempt: 1})
	}
	return f.worth, valid
}

func (f *Firsts) under(i int, a *placing.Arrangement) (exact.Ratio, bool) {
	j, s := f.judge, f.judge.Solutions[i]
	whole := j.Parts.Doc.Marks.By == "whole"
	if j.Parts.Doc.Marks.By == "target" {
		return f.full(i, a)
	}
	needs := s.Needs()
	f.count = cleared(f.count, len(needs))
	earned, needed, valid := 0, 0, true
	var lanes exact.Ratio
	byLanes := false
	for t, list := range a.In {
		lane := s.Lane(t)
		if lane != nil && len(list) > 0 {
			f.seq = lane.Sequence(a, t, f.seq[:0])
			follows := lane.Order.Follows(f.seq)
			valid = valid && follows
			switch {
			case j.byLane(s, t):
				got, of := j.measured(lane.Order, f.seq, lane.Order.Longest)
				lanes = lanes.Add(exact.Of(int64(j.Parts.Doc.Targets[t].Weight)*int64(got), int64(of)))
				byLanes = true
			case !follows && !whole:
				return f.full(i, a) // which of them are right is a question of age
			}
		}
		for _, p := range list {
			item := j.Parts.Pieces[p.Piece].Item
			if !s.RightCell(t, item) {
				valid = false
				earned -= j.Parts.Penalty(t, item)
				continue
			}
			if k := s.CountedBy(t, item); k >= 0 {
				if f.count[k]++; needs[k].Most >= 0 && f.count[k] > needs[k].Most {
					return f.full(i, a) // which are the surplus is a question of weight
				}
			} else if s.Needed(item) {
				needed++
			}
			if !j.byLane(s, t) {
				earned += j.Parts.Weight(t, item)
			}
		}
	}
	valid = valid && needed == f.needed[i]
	for k, n := range needs {
		valid = valid && f.count[k] >= n.Least
	}
	if whole {
		earned = 0
		if valid {
			earned = 1
		}
	}
	if v, ok := f.known[i][earned]; ok && !byLanes && j.available[i].Sign() != 0 {
		return v, valid
	}
	f.line.seen.Valid = valid
	f.line.earned = exact.Int(earned).Add(lanes)
	j.finish(i, &f.line, &sum{judge: j})
	if !byLanes {
		f.known[i][earned] = f.line.value
	}
	return f.line.value, valid
}

func (f *Firsts) full(i int, a *placing.Arrangement) (exact.Ratio, bool) {
	f.judge.account(i, a, Now{Attempt: 1}, &f.line, nil)
	return f.line.value, f.line.seen.Valid
}

func cleared(list []int, n int) []int {
	if cap(list) < n {
		return make([]int, n)
	}
	list = list[:n]
	clear(list)
	return list
}
