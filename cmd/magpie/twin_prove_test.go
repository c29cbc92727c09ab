package main

import (
	"encoding/json"
	"fmt"
	"maps"
	"math/big"
	"math/rand/v2"
	"os"
	"slices"
	"sort"
	"strconv"
	"strings"
	"testing"

	"keenmagpie/core/activity"
)

// possible is every arrangement that could be valid, each once: alike pieces are
// one, targets are sorted, lanes are in every order. What is right in no solution
// stays at home.
func (d *twinDoc) possible(visit func(a table)) {
	pieces := d.pieces()
	seen := map[string]bool{}
	var arrange func(k int, in map[string][]string)
	arrange = func(k int, in map[string][]string) {
		if k < len(pieces) {
			arrange(k+1, in)
			for _, t := range d.Targets {
				if t.Holds > 0 && len(in[t.ID]) >= t.Holds {
					continue
				}
				right := slices.ContainsFunc(d.Key.Solutions, func(s twinSolution) bool { return d.cell(s, itemOf(pieces[k]), t.ID) })
				if !right {
					continue
				}
				was := in[t.ID]
				places := []int{len(was)}
				if t.Ordered {
					places = places[:0]
					for i := range len(was) + 1 {
						places = append(places, i)
					}
				}
				for _, i := range places {
					in[t.ID] = slices.Insert(slices.Clone(was), i, pieces[k])
					arrange(k+1, in)
				}
				in[t.ID] = was
			}
			return
		}
		name := ""
		a := newTable()
		for _, t := range d.Targets {
			var items []string
			for i, p := range in[t.ID] {
				a.in[t.ID] = append(a.in[t.ID], spot{p, i + 1})
				items = append(items, itemOf(p))
			}
			if !t.Ordered {
				sort.Strings(items)
			}
			name += strings.Join(items, " ") + "/"
		}
		if !seen[name] {
			seen[name] = true
			visit(a)
		}
	}
	arrange(0, map[string][]string{})
}

// guess goes through all that a blind guesser may do, whichever piece comes first, and
// gives the probability of a valid arrangement and the mean value; or nothing where that
// is too much. stays says that some valid arrangement leaves a piece at home.
func (d *twinDoc) guess(stays bool) (valid, mean *big.Rat) {
	pieces := d.pieces()
	type outcome struct{ valid, mean *big.Rat }
	known := map[string]outcome{} // by what has come, and where it is
	const most = 4000
	var from func(come map[string]string, lanes map[string][]string) outcome
	from = func(come map[string]string, lanes map[string][]string) outcome {
		name := fmt.Sprint(come, lanes) // fmt sorts maps
		if known[name].valid != nil || len(known) > most {
			return known[name]
		}
		a, count := newTable(), map[string]int{}
		for i, p := range pieces { // as if they had come in this order
			if t := come[p]; t != "" && t != "home" {
				count[t]++
				if !d.target(t).Ordered {
					a.in[t] = append(a.in[t], spot{p, i + 1})
				}
			}
		}
		for t, list := range lanes {
			for _, p := range list {
				a.in[t] = append(a.in[t], spot{p, slices.Index(pieces, p) + 1})
			}
		}
		out := outcome{rat(0), rat(0)}
		left := len(pieces) - len(come)
		if left == 0 {
			v := d.judge(a, 1, 0, nil)
			if out.mean = v.value; v.valid {
				out.valid = rat(1)
			}
		}
		for _, p := range pieces {
			if come[p] != "" {
				continue
			}
			var open []string
			for _, t := range d.Targets {
				if t.Lets.picks(itemOf(p)) && (t.Holds == 0 || count[t.ID] < t.Holds) {
					open = append(open, t.ID)
				}
			}
			if stays || len(open) == 0 {
				open = append(open, "home")
			}
			for _, t := range open {
				then := maps.Clone(come)
				then[p] = t
				places := 1
				if t != "home" && d.target(t).Ordered {
					places = len(lanes[t]) + 1
				}
				for i := range places {
					order := maps.Clone(lanes)
					if t != "home" && d.target(t).Ordered {
						order[t] = slices.Insert(slices.Clone(lanes[t]), i, p)
					}
					next := from(then, order)
					if len(known) > most {
						return out
					}
					part := big.NewRat(1, int64(left*len(open)*places))
					out.valid.Add(out.valid, new(big.Rat).Mul(next.valid, part))
					out.mean.Add(out.mean, new(big.Rat).Mul(next.mean, part))
				}
			}
		}
		known[name] = out
		return out
	}
	all := from(map[string]string{}, map[string][]string{})
	if len(known) > most {
		return nil, nil
	}
	return all.valid, all.mean
}

func TestProofAgreesWithItsTwin(t *testing.T) {
	documents := 100 // MAGPIE_TWIN=2000 tries more
	if n, err := strconv.Atoi(os.Getenv("MAGPIE_TWIN")); err == nil {
		documents = n
	}
	seen := map[string]int{}
	for seed := range documents {
		c := chooser{rand.New(rand.NewPCG(uint64(seed), 10))}
		d := c.document()
		if c.yes(30) { // several that have much in common
			twin := d.Key.Solutions[0]
			twin.Needs, twin.Orders = nil, nil
			d.Key.Solutions = append(d.Key.Solutions, twin)
		}
		body, err := json.Marshal(d)
		if err != nil {
			t.Fatal(err)
		}
		doc, faults := activity.Read(body)
		if faults != nil {
			seen["refused"]++
			continue
		}
		ways, solvable, stays := 0, make([]bool, len(d.Key.Solutions)), false
		d.possible(func(a table) {
			some := false
			for i, s := range d.Key.Solutions {
				if d.look(s, a).valid {
					solvable[i], some = true, true
				}
			}
			if some {
				ways++
				placed := 0
				for _, list := range a.in {
					placed += len(list)
				}
				stays = stays || placed < len(d.pieces())
			}
		})
		got := prove(t, doc)
		want := fmt.Sprintf("solvable %v, %d ways", !slices.Contains(solvable, false), ways)
		if found := fmt.Sprintf("solvable %v, %s ways", got.Solvable, got.Count); found != want || !got.Exact {
			t.Fatalf("seed %d: %s, exact %v; the twin finds %s\n%s", seed, found, got.Exact, want, body)
		}
		if slices.Contains(solvable, false) {
			seen["unsolvable"]++
			if got.Conflict == nil || ways == 0 && got.Chance.Valid != "0" {
				t.Fatalf("seed %d: no conflict is named, or there is a chance\n%s", seed, body)
			}
			continue
		}
		switch {
		case ways == 1:
			seen["one way"]++
		case ways > 1:
			seen["several ways"]++
		}
		if valid, mean := d.guess(stays); valid != nil {
			seen["guessed"]++
			want := fmt.Sprintf("%s %s", valid.RatString(), round(mean.Mul(mean, rat(100))))
			if found := got.Chance.Valid + " " + got.Chance.MeanPercent; found != want || !got.Chance.Exact {
				t.Fatalf("seed %d: chance %s, exact %v; the twin finds %s\n%s", seed, found, got.Chance.Exact, want, body)
			}
		}
	}
	t.Log(seen)
	for _, what := range []string{"unsolvable", "one way", "several ways", "guessed"} {
		if seen[what] < documents/20 {
			t.Errorf("%s came %d times: the test tests too little", what, seen[what])
		}
	}
}
