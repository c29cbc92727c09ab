package proof

import (
	"math/big"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
)

// byStates is the chance where targets can be full, so that who comes first matters. A
// state says which pieces have come, and where they are; all states with one piece more
// are made from those with one fewer, so that orders which lead to the same state are
// gone on with as one. ok is false where there are more than mostStates.
//
// A state's weight is the sum, over the orders and choices that lead to it, of the
// product of one over the number of choices, times a whole number that keeps it whole:
// the least common multiple of all those numbers, once for each piece that has come.
// Cost: the choices of every piece for each state.
func (g *guesser) byStates() (c Chance, ok bool) {
	if g.ways(true) > mostStates {
		return c, false
	}
	n := len(g.parts.Pieces)
	unit := g.commonMultiple()
	shareOf := map[int]*big.Int{} // unit divided by a number of choices
	layer := map[string]*big.Int{string(make([]byte, 2*n)): big.NewInt(1)}
	var part big.Int
	states := 0
	for range n {
		next := map[string]*big.Int{}
		for state, weight := range layer {
			if g.over() {
				return c, false
			}
			g.stand(state)
			for p := range n {
				if state[2*p]|state[2*p+1] != 0 {
					continue // it has come
				}
				choices := g.choices(p, g.now[p])
				for _, t := range choices {
					places := g.places(t)
					k := len(choices) * places
					if shareOf[k] == nil {
						shareOf[k] = new(big.Int).Quo(unit, big.NewInt(int64(k)))
					}
					part.Mul(weight, shareOf[k])
					for i := range places {
						key := g.with(state, p, t, i)
						to := next[key]
						if to == nil {
							if states++; states > mostStates {
								g.stand(string(make([]byte, 2*n)))
								return c, false
							}
							to = new(big.Int)
							next[key] = to
						}
						to.Add(to, &part)
					}
				}
			}
		}
		layer = next
	}
	whole := new(big.Int).Exp(unit, big.NewInt(int64(n)), nil)
	w := newShares(whole.Mul(whole, new(big.Int).MulRange(1, int64(n)))) // all orders
	for state, weight := range layer {
		g.stand(state)
		value, valid := g.look()
		w.add(weight, g.list[value], valid)
	}
	return w.chance(), true
}

// commonMultiple is a multiple of all numbers of choices that a piece can have: targets,
// and places in a lane.
func (g *guesser) commonMultiple() *big.Int {
	targets, places := 1, 1
	for _, open := range g.open {
		targets = max(targets, len(open)+1) // and home, where all are full
	}
	for _, lane := range g.lane {
		if lane {
			places = len(g.parts.Pieces)
		}
	}
	a, b := multiple(targets), multiple(places)
	return a.Mul(a, b)
}

// multiple is the least common multiple of 1 to n.
func multiple(n int) *big.Int {
	out, gcd := big.NewInt(1), new(big.Int)
	for k := int64(2); k <= int64(n); k++ {
		x := big.NewInt(k)
		out.Mul(out, x.Quo(x, gcd.GCD(nil, nil, out, x)))
	}
	return out
}

// A state has two bytes for each piece: 0 before it has come, 1 at home, from 2 on its
// target; then, for each lane, its pieces in their order, two bytes each.
const atHome, firstTarget = 1, 2

// stand puts the pieces where a state has them.
func (g *guesser) stand(state string) {
	for t := range g.a.In {
		g.a.In[t] = g.a.In[t][:0]
	}
	if g.tally != nil {
		clear(g.tally.now)
	}
	n := len(g.parts.Pieces)
	for p := range n {
		t := int(state[2*p]) | int(state[2*p+1])<<8 - firstTarget
		if t < 0 {
			continue
		}
		if !g.lane[t] {
			g.put(p, t, 0)
		}
	}
	for at := 2 * n; at < len(state); at += 2 {
		p := int(state[at]) | int(state[at+1])<<8
		t := int(state[2*p]) | int(state[2*p+1])<<8 - firstTarget
		g.a.In[t] = append(g.a.In[t], placing.Placed{Piece: p, Since: p + 1})
	}
}

// with is the state that stands, and one piece more.
func (g *guesser) with(state string, piece, target, index int) string {
	key := []byte(state)
	code := atHome
	if target != activity.Home {
		code = firstTarget + target
	}
	key[2*piece], key[2*piece+1] = byte(code), byte(code>>8)
	if target < 0 || !g.lane[target] {
		return string(key)
	}
	// The lanes follow each other in document order.
	at := 2*len(g.parts.Pieces) + 2*index
	for t := range target {
		if g.lane[t] {
			at += 2 * len(g.a.In[t])
		}
	}
	key = append(key, 0, 0)
	copy(key[at+2:], key[at:])
	key[at], key[at+1] = byte(piece), byte(piece>>8)
	return string(key)
}
