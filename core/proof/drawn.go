package proof

import (
	"math"
	"math/big"
)

// drawn lets guessers play. What they put where is judged as [guesser.put] says.
func (g *guesser) drawn() Chance {
	rnd := mix(guessSeed)
	// A number below k from 32 of 64 bits drawn: uneven by less than k in 2³².
	var bits uint64
	half := false
	draw := func(k int) int {
		if half = !half; half {
			bits = rnd.next()
		} else {
			bits >>= 32
		}
		return int(bits & 0xFFFFFFFF * uint64(k) >> 32)
	}
	var adds [][]int64 // by piece: what each of its choices adds
	if g.tally != nil && !g.limited {
		for p, choices := range g.open {
			adds = append(adds, nil)
			for _, t := range choices {
				if t >= 0 {
					adds[p] = append(adds[p], g.tally.of(t, g.parts.Pieces[p].Item)...)
				} else {
					adds[p] = append(adds[p], make([]int64, len(g.tally.now))...)
				}
			}
		}
	}
	order := make([]int, len(g.parts.Pieces)) // in which they come
	for p := range order {
		order[p] = p
	}
	valids := int64(0)
	times := []int64{}
	for range draws {
		if g.over() {
			break
		}
		for t := range g.a.In {
			g.a.In[t] = g.a.In[t][:0]
		}
		if g.tally != nil {
			clear(g.tally.now)
		}
		for _, list := range adds { // nothing depends on what stands already
			n := len(g.tally.now)
			if n == 1 {
				g.tally.now[0] += list[draw(len(list))]
				continue
			}
			k := draw(len(list) / n)
			for i, add := range list[k*n : (k+1)*n] {
				g.tally.now[i] += add
			}
		}
		if g.limited {
			for i := len(order) - 1; i > 0; i-- {
				k := draw(i + 1)
				order[i], order[k] = order[k], order[i]
			}
		}
		for _, p := range order {
			if adds != nil {
				break
			}
			choices := g.choices(p, g.now[p])
			t := choices[draw(len(choices))]
			index := 0
			if places := g.places(t); places > 1 {
				index = draw(places)
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

// mix draws numbers, quickly also where no product of 128 bits is at hand
// (splitmix64: Steele, Lea and Flood, Fast splittable pseudorandom number
// generators, 2014).
type mix uint64

func (m *mix) next() uint64 {
	*m += 0x9E3779B97F4A7C15
	x := uint64(*m)
	x = (x ^ x>>30) * 0xBF58476D1CE4E5B9
	x = (x ^ x>>27) * 0x94D049BB133111EB
	return x ^ x>>31
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
