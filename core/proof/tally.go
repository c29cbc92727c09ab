package proof

import "keenmagpie/core/marks"

// tally is what the pieces on the board add up to, under each solution: points in
// the lower 32 bits of a number, above them how many are right and how many there
// are, 16 bits each.
type tally struct {
	adds   []int64 // by target, item and solution: what a piece adds
	items  int
	needed []int
	now    []int64
	points []int
	valid  []bool
	known  [][]int        // by solution where there is one: points and validity, the value's number and one more
	named  map[string]int // where there are several: the same, by what it adds up to
	name   []byte
}

func newTally(cells [][]marks.Cell, needed []int, items int) *tally {
	n := len(needed)
	t := &tally{items: items, needed: needed, now: make([]int64, n), points: make([]int, n), valid: make([]bool, n), named: map[string]int{}}
	for _, row := range cells {
		for _, c := range row {
			for i, points := range c.Points {
				add := int64(points) + 1<<48
				if c.Right[i] {
					add += 1 << 32
				}
				t.adds = append(t.adds, add)
			}
		}
	}
	return t
}

// of is what a piece of an item adds in a target.
func (t *tally) of(target, item int) []int64 {
	at := (target*t.items + item) * len(t.now)
	return t.adds[at : at+len(t.now)]
}

// sum is [guesser.look] for what adds up.
func (g *guesser) sum() (value int, valid bool) {
	t := g.tally
	for i, sum := range t.now {
		points := int32(sum)
		rest := (sum - int64(points)) >> 32
		right, placed := int(rest&0xFFFF), int(rest>>16)
		t.points[i], t.valid[i] = int(points), right == placed && placed == t.needed[i]
		valid = valid || t.valid[i]
	}
	if len(t.now) == 1 {
		return t.single(g), valid
	}
	t.name = t.name[:0]
	for i, n := range t.points {
		if n <<= 1; t.valid[i] {
			n++
		}
		t.name = append(t.name, byte(n), byte(n>>8), byte(n>>16), byte(n>>24))
	}
	value, ok := t.named[string(t.name)]
	if !ok {
		value = g.number(g.firsts.Sum(t.points, t.valid))
		t.named[string(t.name)] = value
	}
	return value, valid
}

// single finds the value's number where there is one solution, in a list by points.
func (t *tally) single(g *guesser) int {
	n := t.points[0] << 1 // below 0 they take the odd places of a list of their own
	list := 0
	if n < 0 {
		n, list = -n, 1
	}
	if t.valid[0] {
		n++
	}
	for len(t.known) <= list {
		t.known = append(t.known, nil)
	}
	for len(t.known[list]) <= n {
		t.known[list] = append(t.known[list], 0)
	}
	if t.known[list][n] == 0 {
		t.known[list][n] = g.number(g.firsts.Sum(t.points, t.valid)) + 1
	}
	return t.known[list][n] - 1
}
