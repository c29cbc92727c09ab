package ways

import (
	"maps"
	"math"
	"slices"
)

// sorted brings the cells into an order in which little has to be remembered: again
// and again, the variable is dealt with to its last cell that leaves the fewest
// states to carry on. Several beginnings are tried where that is quick.
// Cost: O(variables × cells) for each.
func (n *network) sorted() {
	of := map[int][]int{} // variable: its cells
	for i, c := range n.cells {
		for _, v := range c.vars {
			of[v] = append(of[v], i)
		}
	}
	names := slices.Sorted(maps.Keys(of))
	tries := min(len(names), 1+100_000/(len(names)*len(n.cells)))
	var best []cell
	least := math.Inf(1)
	for k := range tries {
		first := -1 // whichever is cheapest
		if k > 0 {
			first = names[k*len(names)/tries]
		}
		if order, cost := n.greedy(of, names, first); cost < least {
			best, least = order, cost
		}
	}
	n.cells = best
}

// greedy is one order of the cells, that begins with a variable where one is given,
// and how many states it goes through at most.
func (n *network) greedy(of map[int][]int, names []int, first int) (order []cell, cost float64) {
	weight, left := make([]float64, len(n.vars)), make([]int, len(n.vars))
	for v, list := range of {
		weight[v], left[v] = math.Log2(float64(n.vars[v].states())), len(list)
	}
	open, taken, touched := make([]bool, len(n.vars)), make([]bool, len(n.cells)), make([]int, len(n.vars))
	carried := 0.0
	for len(order) < len(n.cells) {
		best, least := first, math.Inf(1)
		for _, v := range names {
			if left[v] == 0 || first >= 0 {
				continue
			}
			// What is opened by going through its cells, less what is closed.
			added := 0.0
			var met []int
			for _, i := range of[v] {
				if taken[i] {
					continue
				}
				for _, w := range n.cells[i].vars {
					if touched[w] == 0 {
						met = append(met, w)
					}
					touched[w]++
				}
			}
			for _, w := range met {
				if touched[w] == left[w] && open[w] {
					added -= weight[w]
				} else if touched[w] < left[w] && !open[w] {
					added += weight[w]
				}
				touched[w] = 0
			}
			if added < least-1e-9 {
				best, least = v, added
			}
		}
		first = -1
		for _, i := range of[best] {
			if taken[i] {
				continue
			}
			taken[i] = true
			order = append(order, n.cells[i])
			for _, w := range n.cells[i].vars {
				if !open[w] {
					open[w] = true
					carried += weight[w]
				}
			}
			cost += math.Exp2(carried)
			for _, w := range n.cells[i].vars {
				if left[w]--; left[w] == 0 {
					carried -= weight[w]
				}
			}
		}
	}
	return order, cost
}
