package answer

// flow is a network with whole capacities and worths, and no circle that is worth
// anything.
type flow struct {
	edges []edge
	from  [][]int // node: indices into edges; an edge's partner is index ^ 1
	best  []int
	via   []int
	queue []int
	in    []bool
}

type edge struct{ to, room, worth int }

func newFlow(nodes int) *flow {
	return &flow{from: make([][]int, nodes), best: make([]int, nodes), via: make([]int, nodes), in: make([]bool, nodes)}
}

// edge adds one and returns its index.
func (f *flow) edge(from, to, room, worth int) int {
	f.from[from] = append(f.from[from], len(f.edges))
	f.edges = append(f.edges, edge{to, room, worth})
	f.from[to] = append(f.from[to], len(f.edges))
	f.edges = append(f.edges, edge{from, 0, -worth})
	return len(f.edges) - 2
}

// sent is what goes along an edge.
func (f *flow) sent(e int) int { return f.edges[e^1].room }

// richest sends from source to sink as much as makes it worth most, and returns
// that worth. Each round takes the path that is worth most, found by a queue
// (Bellman–Ford), and what a path is worth only goes down from round to round, so
// the first that gains nothing ends it (successive shortest paths; Ahuja, Magnanti and
// Orlin, Network Flows, 1993, section 9.7).
func (f *flow) richest(source, sink int) (worth int) {
	const none = -1 << 62
	for {
		for i := range f.best {
			f.best[i], f.via[i] = none, -1
		}
		f.best[source] = 0
		f.queue = append(f.queue[:0], source)
		for head := 0; head < len(f.queue); head++ {
			node := f.queue[head]
			f.in[node] = false
			for _, e := range f.from[node] {
				x := &f.edges[e]
				if x.room > 0 && f.best[node]+x.worth > f.best[x.to] {
					f.best[x.to], f.via[x.to] = f.best[node]+x.worth, e
					if !f.in[x.to] {
						f.in[x.to] = true
						f.queue = append(f.queue, x.to)
					}
				}
			}
		}
		if f.best[sink] <= 0 {
			return worth
		}
		room := 1 << 60
		for node := sink; node != source; node = f.edges[f.via[node]^1].to {
			room = min(room, f.edges[f.via[node]].room)
		}
		for node := sink; node != source; node = f.edges[f.via[node]^1].to {
			f.edges[f.via[node]].room -= room
			f.edges[f.via[node]^1].room += room
		}
		worth += room * f.best[sink]
	}
}
