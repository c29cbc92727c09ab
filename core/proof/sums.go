package proof

import (
	"encoding/binary"
	"math/big"
	"slices"

	"keenmagpie/core/exact"
)

// mostSums bounds how many sums [guesser.bySums] keeps at once.
const mostSums = 4_000

// bySums is the chance where pieces only add up and no target can be full. Then every
// piece has its choices whatever the others do, and all outcomes are as likely: what
// adds up to the same goes on as one, with how many outcomes it stands for. ok is false
// where there are too many sums. Cost: the different choices of each piece for each of
// the sums; outcomes need no time, so that 6²⁴ of them are as good as none.
func (g *guesser) bySums() (c Chance, ok bool) {
	type sum struct {
		now   []int64
		count big.Int
	}
	type choice struct {
		add   []int64
		times int64
	}
	layer := map[string]*sum{"": {now: make([]int64, len(g.tally.now))}}
	layer[""].count.SetInt64(1)
	all := big.NewInt(1)
	var key []byte
	var part big.Int
	for p, open := range g.open {
		all.Mul(all, big.NewInt(int64(len(open))))
		var choices []choice // those that add the same are one
		for _, t := range open {
			add := make([]int64, len(g.tally.now))
			if t >= 0 {
				add = g.tally.of(t, g.parts.Pieces[p].Item)
			}
			i := slices.IndexFunc(choices, func(c choice) bool { return slices.Equal(c.add, add) })
			if i < 0 {
				i = len(choices)
				choices = append(choices, choice{add: add})
			}
			choices[i].times++
		}
		next := map[string]*sum{}
		for _, from := range layer {
			for _, c := range choices {
				key = key[:0]
				for i, x := range from.now {
					key = binary.LittleEndian.AppendUint64(key, uint64(x+c.add[i]))
				}
				to := next[string(key)]
				if to == nil {
					to = &sum{now: slices.Clone(from.now)}
					for i, x := range c.add {
						to.now[i] += x
					}
					next[string(key)] = to
				}
				to.count.Add(&to.count, part.Mul(&from.count, big.NewInt(c.times)))
			}
		}
		if len(next) > mostSums || g.over() {
			return c, false
		}
		layer = next
	}
	w := newShares(all)
	for _, end := range layer {
		copy(g.tally.now, end.now)
		value, valid := g.look()
		w.add(&end.count, g.list[value], valid)
	}
	return w.chance(), true
}

// shares adds up what parts of a whole come to.
type shares struct {
	whole, valid *big.Int
	value        map[exact.Ratio]*big.Int // how much of the whole has this value
}

func newShares(whole *big.Int) *shares {
	return &shares{whole, new(big.Int), map[exact.Ratio]*big.Int{}}
}

func (s *shares) add(part *big.Int, value exact.Ratio, valid bool) {
	if valid {
		s.valid.Add(s.valid, part)
	}
	if s.value[value] == nil {
		s.value[value] = new(big.Int)
	}
	s.value[value].Add(s.value[value], part)
}

func (s *shares) chance() Chance {
	mean := new(big.Rat)
	for value, part := range s.value {
		mean.Add(mean, new(big.Rat).Mul(value.Rat(), new(big.Rat).SetFrac(part, s.whole)))
	}
	return chance(new(big.Rat).SetFrac(s.valid, s.whole), mean, true)
}

// weights are the products of numbers of choices by which outcomes are less likely, and
// how many outcomes of each come to each value.
type weights struct {
	list   []*big.Int
	named  map[string]int
	after  map[[2]int]int // a weight and a number of choices: the weight then
	counts [][]int64      // by weight, then value and validity
}

func newWeights() *weights {
	return &weights{[]*big.Int{big.NewInt(1)}, map[string]int{"1": 0}, map[[2]int]int{}, nil}
}

func (w *weights) times(weight, choices int) int {
	s := [2]int{weight, choices}
	next, ok := w.after[s]
	if !ok {
		x := new(big.Int).Mul(w.list[weight], big.NewInt(int64(choices)))
		if next, ok = w.named[x.String()]; !ok {
			next = len(w.list)
			w.list = append(w.list, x)
			w.named[x.String()] = next
		}
		w.after[s] = next
	}
	return next
}

func (w *weights) count(weight, value int, valid bool, times int64) {
	if value <<= 1; valid {
		value++
	}
	for len(w.counts) <= weight {
		w.counts = append(w.counts, nil)
	}
	for len(w.counts[weight]) <= value {
		w.counts[weight] = append(w.counts[weight], 0)
	}
	w.counts[weight][value] += times
}

func (w *weights) sum(values []exact.Ratio) Chance {
	valid, mean := new(big.Rat), new(big.Rat)
	for i, list := range w.counts {
		for value, n := range list {
			part := new(big.Rat).SetFrac(big.NewInt(n), w.list[i])
			if value&1 == 1 {
				valid.Add(valid, part)
			}
			mean.Add(mean, part.Mul(part, values[value>>1].Rat()))
		}
	}
	return chance(valid, mean, true)
}
