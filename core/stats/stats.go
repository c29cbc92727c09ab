// Package stats says what the learners of a release did: how hard each item was, how
// well it tells those who know from those who do not, and which looks keyed wrong.
//
//	table := stats.New(game)
//	for _, s := range sittings {
//		table.Add(s.Seed, s.Limit, s.Moves)
//	}
//	figures := table.Figures()
//	figures.First.Items[0].Facility // 0.62: at the first attempt 62 % had it right
//
// All of it is worked out twice: over first attempts, and over the final states of
// those who are done. A first attempt is what stood at the first check; where every
// placement is judged, it is each item's first placement.
//
// An item is right in a sitting when none of its pieces is wrong and none is missing: a
// distractor is right that is left where it was. Scores are never worked out here; they
// are those of the verdicts.
//
// Where the text leaves it open, this package decides: the upper third is n/3 sittings,
// rounded down, ties in the order in which they were added; the right places of a
// distractor are home; places are right under any solution.
package stats

import (
	"cmp"
	"math"
	"slices"
	"sync"

	"keenmagpie/core/answer"
	"keenmagpie/core/exact"
	"keenmagpie/core/play"
)

// Table gathers sittings. Its memory is a few bytes for each sitting and item.
type Table struct {
	game     *play.Game
	rights   [][]bool // by target and item: right under some solution
	nowhere  []bool   // by item: right nowhere
	sittings int
	finished int
	first    sample
	final    sample
	times    [][]int64 // by item: when it was first put down right
	read     Tally     // room for [Table.Count]
}

// sample is one state of each of many sittings.
type sample struct {
	numbers  []int64 // in which order they began
	percents []exact.Hundredths
	// By sitting and item, one sitting after the other: the target of its first piece
	// that has one, or −1, and whether the item is right.
	places []int16
	right  []bool
	// counts is how often an item's pieces stood in a target, and in the last column
	// at home.
	counts [][]int
}

// New makes an empty table.
func New(g *play.Game) *Table {
	doc := g.Doc
	t := &Table{game: g, rights: make([][]bool, len(doc.Targets)), nowhere: make([]bool, len(doc.Items)), times: make([][]int64, len(doc.Items))}
	for i := range t.nowhere {
		t.nowhere[i] = true
	}
	for target := range doc.Targets {
		t.rights[target] = make([]bool, len(doc.Items))
		for item := range doc.Items {
			on := slices.ContainsFunc(g.Judge.Solutions, func(s *answer.Solution) bool { return s.RightCell(target, item) })
			t.rights[target][item] = on
			t.nowhere[item] = t.nowhere[item] && !on
		}
	}
	for _, s := range []*sample{&t.first, &t.final} {
		s.counts = make([][]int, len(doc.Items))
		for item := range s.counts {
			s.counts[item] = make([]int, len(doc.Targets)+1)
		}
	}
	return t
}

// Add plays a sitting and gathers what came of it. limit is its time limit in
// milliseconds; below 0 it is the document's own. Cost: that of playing it.
func (t *Table) Add(seed uint64, limit int64, moves []play.Move) {
	t.add(int64(t.sittings), t.Tally(seed, limit, moves))
}

// Count gathers a sitting from its tally as it was kept; one of another document or
// another format is [ErrTally], and nothing is gathered. They may come in any order:
// among equal scores, number says which was first. Cost: O(items), without playing.
func (t *Table) Count(number int64, kept []byte) error {
	if err := t.Read(kept, &t.read); err != nil {
		return err
	}
	t.add(number, &t.read)
	return nil
}

// Empty says that nothing was gathered.
func (t *Table) Empty() bool { return t.sittings == 0 }

func (t *Table) add(number int64, x *Tally) {
	t.sittings++
	if x.Done {
		t.finished++
	}
	if x.First.Reached {
		t.first.add(number, &x.First)
	}
	if x.Final.Reached {
		t.final.add(number, &x.Final)
	}
	for item, at := range x.Times {
		if at >= 0 {
			t.times[item] = append(t.times[item], at)
		}
	}
}

func (s *sample) add(number int64, x *State) {
	s.numbers = append(s.numbers, number)
	s.percents = append(s.percents, x.Percent)
	s.right = append(s.right, x.Right...)
	next := 0
	for item, pieces := range x.Pieces {
		place := int16(-1)
		for _, at := range x.Places[next : next+int(pieces)] {
			if at >= 0 && place < 0 {
				place = at
			}
			row := s.counts[item]
			if at < 0 {
				row[len(row)-1]++
			} else {
				row[at]++
			}
		}
		next += int(pieces)
		s.places = append(s.places, place)
	}
}

// Figures are what the gathered sittings come to.
type Figures struct {
	Sittings int      `json:"sittings"`
	Finished int      `json:"finished"`
	First    Attempts `json:"first"`
	Final    Attempts `json:"final"`
	// Times are milliseconds from the start to an item's first right placement.
	Times []ItemTime `json:"times"`
}

// ItemTime is the median over those who put the item down right at all.
type ItemTime struct {
	Item   string  `json:"item"`
	N      int     `json:"n"`
	Median float64 `json:"median"`
}

// Attempts are the figures over one state of each sitting.
type Attempts struct {
	N      int    `json:"n"`
	Scores Spread `json:"scores"` // percent
	// Alpha is Cronbach's, over the items as 1 when right, else 0; absent where nothing
	// varies, or there is one item.
	Alpha *float64 `json:"alpha,omitempty"`
	// SEM is the standard error of measurement of the number of right items.
	SEM   *float64      `json:"sem,omitempty"`
	Items []ItemFigures `json:"items"`
	Bands []BandCount   `json:"bands"`
}

// BandCount is how many came to a band.
type BandCount struct {
	Name string `json:"name"`
	N    int    `json:"n"`
}

// ItemFigures are one item's figures.
type ItemFigures struct {
	Item string `json:"item"`
	// Facility is the share of sittings in which it is right.
	Facility float64 `json:"facility"`
	// Discrimination is the correlation of the item with the sum of the others
	// (Pearson, corrected item–total); absent where either does not vary.
	Discrimination *float64 `json:"discrimination,omitempty"`
	// Placed is how often its pieces stood in each target, and at "" at home.
	Placed  map[string]int `json:"placed"`
	Suspect *Suspect       `json:"suspect,omitempty"`
}

// Suspect says that an item looks keyed wrong: of the upper third by score, so many put
// it into one other place, and so many into its right ones.
type Suspect struct {
	Place string `json:"place"` // "" is home
	There int    `json:"there"`
	Right int    `json:"right"`
	Of    int    `json:"of"`
}

// suspectFrom is how many sittings it takes before an item is suspected.
const suspectFrom = 30

// Figures works them out, both states beside each other. Cost: O(sittings × items), and
// sorting the scores.
func (t *Table) Figures() Figures {
	f := Figures{Sittings: t.sittings, Finished: t.finished, Times: []ItemTime{}}
	var both sync.WaitGroup
	both.Go(func() { f.First = t.attempts(&t.first) })
	f.Final = t.attempts(&t.final)
	for item, list := range t.times {
		if len(list) > 0 {
			f.Times = append(f.Times, ItemTime{t.game.Doc.Items[item].ID, len(list), median(list)})
		}
	}
	both.Wait()
	return f
}

func (t *Table) attempts(s *sample) Attempts {
	n := len(s.percents)
	a := Attempts{N: n, Scores: spread(s.percents), Items: []ItemFigures{}, Bands: t.bands(s.percents)}
	items := len(t.game.Doc.Items)
	// Sums of whole numbers: nothing is lost.
	sum, squares := 0, 0
	own, with := make([]int, items), make([]int, items)
	for at := range n {
		row := s.right[at*items : (at+1)*items]
		total := 0
		for _, right := range row {
			if right {
				total++
			}
		}
		sum += total
		squares += total * total
		for i, right := range row {
			if right {
				own[i]++
				with[i] += total
			}
		}
	}
	upper := s.upper()
	for i := range items {
		it := ItemFigures{Item: t.game.Doc.Items[i].ID, Placed: map[string]int{}}
		for target, count := range s.counts[i] {
			id := ""
			if target < len(t.game.Doc.Targets) {
				id = t.game.Doc.Targets[target].ID
			}
			if count > 0 {
				it.Placed[id] = count
			}
		}
		if n > 0 {
			it.Facility = rounded(float64(own[i]) / float64(n))
			it.Discrimination = discrimination(n, own[i], sum, squares, with[i])
			it.Suspect = t.suspect(s, i, upper, it.Discrimination)
		}
		a.Items = append(a.Items, it)
	}
	a.Alpha, a.SEM = alpha(n, own, sum, squares)
	return a
}

// discrimination is the correlation of x (0 or 1, own of n are 1) with y = total − x,
// from n Σxy − Σx Σy over the root of both variances, each times n.
func discrimination(n, own, sum, squares, with int) *float64 {
	x, y := own, sum-own
	xy, yy := with-own, squares-2*with+own
	vx, vy := n*x-x*x, n*yy-y*y
	if vx <= 0 || vy <= 0 {
		return nil
	}
	r := rounded(float64(n*xy-x*y) / (math.Sqrt(float64(vx)) * math.Sqrt(float64(vy))))
	return &r
}

// alpha is Cronbach's, k/(k−1) × (1 − Σσᵢ²/σ²) with population variances, and the
// standard error of measurement σ√(1 − alpha).
func alpha(n int, own []int, sum, squares int) (a, sem *float64) {
	k := len(own)
	total := n*squares - sum*sum // n² times the variance
	if k < 2 || n == 0 || total <= 0 {
		return nil, nil
	}
	parts := 0
	for _, x := range own {
		parts += n*x - x*x
	}
	value := float64(k) / float64(k-1) * (1 - float64(parts)/float64(total))
	sd := math.Sqrt(float64(total)) / float64(n)
	rest := rounded(sd * math.Sqrt(max(0, 1-value)))
	value = rounded(value)
	return &value, &rest
}

// upper lists the upper third of the sittings by score. Only those that have the score
// at its edge are put in order.
func (s *sample) upper() []int {
	third := len(s.percents) / 3
	if third == 0 {
		return nil
	}
	sorted := slices.Clone(s.percents)
	slices.Sort(sorted)
	edge := sorted[len(sorted)-third]
	var above, at []int
	for i, p := range s.percents {
		switch {
		case p > edge:
			above = append(above, i)
		case p == edge:
			at = append(at, i)
		}
	}
	slices.SortFunc(at, func(a, b int) int { return cmp.Compare(s.numbers[a], s.numbers[b]) })
	return append(above, at[:third-len(above)]...)
}

// suspect says whether an item looks keyed wrong.
func (t *Table) suspect(s *sample, item int, upper []int, r *float64) *Suspect {
	if len(s.percents) < suspectFrom || r == nil || *r >= 0 {
		return nil
	}
	counts := make([]int, len(t.game.Doc.Targets)+1)
	for _, i := range upper {
		counts[s.places[i*len(t.game.Doc.Items)+item]+1]++
	}
	right := 0
	best, there := -1, 0
	for at, n := range counts {
		target := at - 1
		fits := target < 0 && t.nowhere[item] || target >= 0 && t.rights[target][item]
		switch {
		case fits:
			right += n
		case target >= 0 && n > there:
			best, there = target, n
		}
	}
	if best < 0 || there <= right {
		return nil
	}
	return &Suspect{t.game.Doc.Targets[best].ID, there, right, len(upper)}
}

func (t *Table) bands(percents []exact.Hundredths) []BandCount {
	out := []BandCount{}
	at := map[string]int{}
	for _, b := range t.game.Doc.Marks.Bands {
		if _, twice := at[b.Name]; !twice {
			at[b.Name] = len(out)
			out = append(out, BandCount{b.Name, 0})
		}
	}
	for _, p := range percents {
		if i, ok := at[t.game.Judge.Band(p)]; ok {
			out[i].N++
		}
	}
	return out
}
