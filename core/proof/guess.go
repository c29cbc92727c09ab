package proof

import (
	"math"
	"math/big"
	"math/rand/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// Chance is what a blind guesser comes to: pieces in document order, each in any
// of the targets that let it in and have room, all as likely, and also home where
// the document has a distractor or nothing is open; in a lane at any index.
type Chance struct {
	// Valid is the probability of a valid arrangement, as a fraction.
	Valid string `json:"valid"`
	// Mean is the mean percent that a first attempt scores, rounded once.
	Mean  exact.Hundredths `json:"-"`
	Exact bool             `json:"exact"`
	// Interval holds both with 95 % certainty, in percent, where they were drawn.
	Interval *Interval `json:"interval,omitempty"`

	MeanPercent string `json:"meanPercent"`
}

// Interval is between which percents a probability and a mean lie.
type Interval struct {
	Valid       [2]float64 `json:"valid"`
	MeanPercent [2]float64 `json:"meanPercent"`
}

const (
	mostOutcomes = 200_000
	draws        = 20_000
	guessSeed    = 8
)

// guesser puts pieces down one after the other.
type guesser struct {
	parts *activity.Parts
	home  bool // a distractor makes home a choice
	a     *placing.Arrangement
	open  [][]int // by piece: targets that let it in, and home where that is a choice
	lane  []bool  // by target
	// limited: some target may be full, so that choices depend on what stands.
	limited bool
	now     [][]int // by piece: scratch
	firsts  *marks.Firsts
	values  map[exact.Ratio]int // value: its number
	list    []exact.Ratio
}

func newGuesser(judge *marks.Judge, home bool) *guesser {
	g := &guesser{parts: judge.Parts, home: home,
		a: placing.New(judge.Parts), firsts: marks.NewFirsts(judge), values: map[exact.Ratio]int{}}
	for t := range g.a.In {
		g.a.In[t] = make([]placing.Placed, 0, len(g.parts.Pieces))
	}
	ofItem := make([][]int, len(g.parts.Doc.Items))
	for t := range g.parts.Doc.Targets {
		g.limited = g.limited || g.parts.Doc.Targets[t].Holds > 0
		g.lane = append(g.lane, g.parts.Doc.Targets[t].Ordered)
	}
	for i := range ofItem {
		for t := range g.parts.Doc.Targets {
			if g.parts.LetsIn(t, i) {
				ofItem[i] = append(ofItem[i], t)
			}
		}
		if g.home || len(ofItem[i]) == 0 {
			ofItem[i] = append(ofItem[i], activity.Home)
		}
	}
	for _, p := range g.parts.Pieces {
		g.open = append(g.open, ofItem[p.Item])
		g.now = append(g.now, make([]int, 0, len(ofItem[p.Item])+1))
	}
	return g
}

// choices adds to out the targets for a piece as things stand, and home.
func (g *guesser) choices(piece int, out []int) []int {
	if !g.limited {
		return g.open[piece]
	}
	for _, t := range g.open[piece] {
		if t >= 0 && g.a.Room(t) {
			out = append(out, t)
		}
	}
	if g.home || len(out) == 0 {
		out = append(out, activity.Home)
	}
	return out
}

// places is at how many indices a piece can be put into a target.
func (g *guesser) places(target int) int {
	if target < 0 || !g.lane[target] {
		return 1
	}
	return len(g.a.In[target]) + 1
}

func (g *guesser) put(piece, target, index int) {
	if target < 0 {
		return
	}
	list := append(g.a.In[target], placing.Placed{Piece: piece, Since: piece + 1})
	if g.lane[target] {
		copy(list[index+1:], list[index:])
		list[index] = placing.Placed{Piece: piece, Since: piece + 1}
	}
	g.a.In[target] = list
}

func (g *guesser) takeBack(target, index int) {
	if target < 0 {
		return
	}
	list := g.a.In[target]
	if g.lane[target] {
		copy(list[index:], list[index+1:])
	}
	g.a.In[target] = list[:len(list)-1]
}

// look judges what stands as a first attempt: the number of its value, and whether
// it is valid.
func (g *guesser) look() (value int, valid bool) {
	worth, valid := g.firsts.Value(g.a)
	n, ok := g.values[worth]
	if !ok {
		n = len(g.list)
		g.values[worth] = n
		g.list = append(g.list, worth)
	}
	return n, valid
}

// guess works out the chance of a blind guesser, exactly where there are at most
// 200,000 outcomes, else from 20,000 draws that are always the same. home says
// whether leaving a piece there is a choice. Cost: a judgement for each.
func guess(judge *marks.Judge, home bool) Chance {
	g := newGuesser(judge, home)
	if g.countTo(0, mostOutcomes) <= mostOutcomes {
		return g.all()
	}
	return g.drawn()
}

// countTo counts outcomes from a piece on, and stops where there are more than so
// many.
func (g *guesser) countTo(piece, most int) int {
	if piece == len(g.parts.Pieces) {
		return 1
	}
	// Without going through them: every later piece has at least these choices.
	least := 1
	for p := piece; p < len(g.parts.Pieces) && least <= most; p++ {
		k := 0
		for _, t := range g.open[p] {
			if t < 0 {
				k++
			} else if holds := g.parts.Doc.Targets[t].Holds; holds == 0 || holds-len(g.a.In[t]) > p-piece {
				k++
			}
		}
		least *= max(1, k)
	}
	if least > most {
		return most + 1
	}
	n := 0
	for _, t := range g.choices(piece, g.now[piece]) {
		for i := range g.places(t) {
			g.put(piece, t, i)
			n += g.countTo(piece+1, most-n)
			g.takeBack(t, i)
			if n > most {
				return n
			}
		}
	}
	return n
}

// all goes through every outcome. What is as likely and scores as much is counted
// together: a weight is the product of the numbers of choices on the way.
func (g *guesser) all() Chance {
	type step struct{ weight, choices int }
	weights := []*big.Int{big.NewInt(1)}
	named, after := map[string]int{"1": 0}, map[step]int{}
	type sort struct {
		weight, value int
		valid         bool
	}
	counts := map[sort]int64{}
	var last sort
	var times int64
	var from func(piece, weight int)
	from = func(piece, weight int) {
		if piece == len(g.parts.Pieces) {
			value, valid := g.look()
			if this := (sort{weight, value, valid}); this != last {
				counts[last] += times
				last, times = this, 0
			}
			times++
			return
		}
		choices := g.choices(piece, g.now[piece])
		for _, t := range choices {
			places := g.places(t)
			s := step{weight, len(choices) * places}
			next, ok := after[s]
			if !ok {
				w := new(big.Int).Mul(weights[weight], big.NewInt(int64(s.choices)))
				if next, ok = named[w.String()]; !ok {
					next = len(weights)
					weights = append(weights, w)
					named[w.String()] = next
				}
				after[s] = next
			}
			for i := range places {
				g.put(piece, t, i)
				from(piece+1, next)
				g.takeBack(t, i)
			}
		}
	}
	from(0, 0)
	counts[last] += times
	valid, mean := new(big.Rat), new(big.Rat)
	for s, n := range counts {
		if n == 0 {
			continue
		}
		part := new(big.Rat).SetFrac(big.NewInt(n), weights[s.weight])
		if s.valid {
			valid.Add(valid, part)
		}
		mean.Add(mean, part.Mul(part, g.list[s.value].Rat()))
	}
	return chance(valid, mean, true)
}

func chance(valid, mean *big.Rat, sure bool) Chance {
	percent := exact.RoundRat(mean.Mul(mean, big.NewRat(100, 1)))
	return Chance{Valid: valid.RatString(), Mean: percent, MeanPercent: percent.Fixed(), Exact: sure}
}

// drawn lets guessers play.
func (g *guesser) drawn() Chance {
	rnd := rand.New(rand.NewPCG(guessSeed, 0))
	valids := int64(0)
	times := []int64{}
	for range draws {
		for t := range g.a.In {
			g.a.In[t] = g.a.In[t][:0]
		}
		for p := range g.parts.Pieces {
			choices := g.choices(p, g.now[p])
			t := choices[rnd.Uint64N(uint64(len(choices)))]
			index := 0
			if places := g.places(t); places > 1 {
				index = int(rnd.Uint64N(uint64(places)))
			}
			g.put(p, t, index)
		}
		value, valid := g.look()
		if valid {
			valids++
		}
		if value == len(times) {
			times = append(times, 0)
		}
		times[value]++
	}
	mean := new(big.Rat)
	squares := 0.0
	for v, n := range times {
		mean.Add(mean, new(big.Rat).Mul(g.list[v].Rat(), big.NewRat(n, draws)))
		x, _ := g.list[v].Rat().Float64()
		squares += x * x * float64(n) / draws
	}
	m, _ := mean.Float64()
	out := chance(big.NewRat(valids, draws), mean, false)
	spread := z * math.Sqrt(max(0, squares-m*m)/draws)
	out.Interval = &Interval{wilson(valids), [2]float64{percentTo2(m - spread), percentTo2(m + spread)}}
	return out
}

const z = 1.959963985 // 95 % of a normal distribution lies within as many deviations

// wilson is the interval of a probability of which so many draws came true
// (Wilson, Probable inference, 1927): never below 0, and not empty at 0.
func wilson(times int64) [2]float64 {
	n, p := float64(draws), float64(times)/draws
	middle := p + z*z/(2*n)
	half := z * math.Sqrt(p*(1-p)/n+z*z/(4*n*n))
	scale := 1 + z*z/n
	return [2]float64{percentTo2(max(0, (middle-half)/scale)), percentTo2((middle + half) / scale)}
}

func percentTo2(x float64) float64 { return math.Round(1e4*x) / 100 }
