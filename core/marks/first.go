package marks

import (
	"keenmagpie/core/activity"
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

// Cell is what a piece of an item adds in a target: points under each solution, and
// whether it is right there.
type Cell struct {
	Points []int32
	Right  []bool
}

// Cells is what every piece adds, by target and item, and how many right pieces
// each solution asks for, where that is all there is to it: marks by item or of the
// whole, no needs, no orders. Otherwise ok is false. What an arrangement adds up to
// is valued by [Firsts.Sum].
func (f *Firsts) Cells() (cells [][]Cell, needed []int, ok bool) {
	j := f.judge
	by := j.Parts.Doc.Marks.By
	for _, s := range j.Solutions {
		for t := range j.Parts.Doc.Targets {
			if s.Lane(t) != nil {
				return nil, nil, false
			}
		}
		if len(s.Needs()) > 0 {
			return nil, nil, false
		}
	}
	if by == activity.ByTarget {
		return nil, nil, false
	}
	for t := range j.Parts.Doc.Targets {
		row := make([]Cell, len(j.Parts.Doc.Items))
		for i := range row {
			for _, s := range j.Solutions {
				right := s.RightCell(t, i)
				points := -j.Parts.Penalty(t, i)
				if right {
					points = j.Parts.Weight(t, i)
				}
				row[i].Points = append(row[i].Points, int32(points))
				row[i].Right = append(row[i].Right, right)
			}
		}
		cells = append(cells, row)
	}
	return cells, f.needed, true
}

// Sum values an arrangement by what its pieces add up to under each solution, and
// whether it is valid under each.
func (f *Firsts) Sum(points []int, valid []bool) exact.Ratio {
	var value exact.Ratio
	for i, n := range points {
		if v := f.worthOf(i, n, valid[i]); i == 0 || v.Cmp(value) > 0 {
			value = v
		}
	}
	return f.judge.valueOf(value, Now{Attempt: 1})
}

// worthOf is the fraction for whole points under a solution.
func (f *Firsts) worthOf(i, points int, valid bool) exact.Ratio {
	if f.judge.Parts.Doc.Marks.By == activity.ByWhole {
		points = 0
		if valid {
			points = 1
		}
	}
	f.line.seen.Valid, f.line.earned = valid, exact.Int(points)
	f.judge.finish(i, &f.line, &sum{judge: f.judge})
	return f.line.value
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
	whole := j.Parts.Doc.Marks.By == activity.ByWhole
	if j.Parts.Doc.Marks.By == activity.ByTarget {
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
