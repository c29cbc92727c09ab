package proof

import (
	"encoding/binary"
	"math/big"
	"slices"

	"keenmagpie/core/exact"
)

// merged is all where pieces only add up: after each piece, what adds up to the same
// and leaves the same room goes on as one. ok is false where there are more outcomes
// than may be. Cost: choices for each of the different sums, not for each outcome.
func (g *guesser) merged() (c Chance, ok bool) {
	type sum struct {
		held   []int // by target
		now    []int64
		counts map[int]int64 // by weight
	}
	w := newWeights()
	n := len(g.a.In)
	layer := map[string]*sum{"": {make([]int, n), make([]int64, len(g.tally.now)), map[int]int64{0: 1}}}
	var key []byte
	fill := func(from *sum) {
		for t := range g.a.In {
			g.a.In[t] = g.a.In[t][:from.held[t]]
		}
	}
	for p := range g.parts.Pieces {
		// How many outcomes there are is known before any is made.
		outcomes := int64(0)
		for _, from := range layer {
			fill(from)
			k := int64(len(g.choices(p, g.now[p])))
			for _, times := range from.counts {
				outcomes += times * k
			}
		}
		if outcomes > mostOutcomes { // and each goes on in at least one way
			return c, false
		}
		next := map[string]*sum{}
		for _, from := range layer {
			fill(from)
			copy(g.tally.now, from.now)
			choices := g.choices(p, g.now[p])
			for _, t := range choices {
				g.put(p, t, 0)
				key = key[:0]
				for t := range g.a.In {
					key = append(key, byte(len(g.a.In[t])), byte(len(g.a.In[t])>>8))
				}
				for _, x := range g.tally.now {
					key = binary.LittleEndian.AppendUint64(key, uint64(x))
				}
				to := next[string(key)]
				if to == nil {
					to = &sum{make([]int, n), slices.Clone(g.tally.now), map[int]int64{}}
					for t := range g.a.In {
						to.held[t] = len(g.a.In[t])
					}
					next[string(key)] = to
				}
				for weight, times := range from.counts {
					to.counts[w.times(weight, len(choices))] += times
				}
				g.takeBack(p, t, 0)
			}
		}
		layer = next
	}
	for _, end := range layer {
		copy(g.tally.now, end.now)
		value, valid := g.look()
		for weight, times := range end.counts {
			w.count(weight, value, valid, times)
		}
	}
	return w.sum(g.list), true
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
