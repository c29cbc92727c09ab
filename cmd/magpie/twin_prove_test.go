package main

import (
	"encoding/json"
	"fmt"
	"math/big"
	"math/rand/v2"
	"os"
	"slices"
	"sort"
	"strconv"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/proof"
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

// guess goes through all that a blind guesser may do, and gives the probability of
// a valid arrangement and the mean value; or nothing where that is too much.
func (d *twinDoc) guess() (valid, mean *big.Rat) {
	pieces := d.pieces()
	distractor := slices.ContainsFunc(d.Items, func(it twinItem) bool {
		for _, s := range d.Key.Solutions {
			for _, t := range d.Targets {
				if d.cell(s, it.ID, t.ID) {
					return false
				}
			}
		}
		return true
	})
	leaves := 0
	var from func(k int, a table) (valid, mean *big.Rat)
	from = func(k int, a table) (*big.Rat, *big.Rat) {
		if leaves > 1500 {
			return rat(0), rat(0)
		}
		if k == len(pieces) {
			leaves++
			v := d.judge(a, 1, 0, nil)
			if v.valid {
				return rat(1), v.value
			}
			return rat(0), v.value
		}
		var open []string
		for _, t := range d.Targets {
			if t.Lets.picks(itemOf(pieces[k])) && (t.Holds == 0 || len(a.in[t.ID]) < t.Holds) {
				open = append(open, t.ID)
			}
		}
		if distractor || len(open) == 0 {
			open = append(open, "")
		}
		valid, mean := rat(0), rat(0)
		for _, t := range open {
			places := []int{0}
			if t != "" {
				places[0] = len(a.in[t])
				if d.target(t).Ordered {
					for i := range len(a.in[t]) {
						places = append(places, i)
					}
				}
			}
			part := big.NewRat(1, int64(len(open)*len(places)))
			for _, i := range places {
				b := a.copy()
				if t != "" {
					b.in[t] = slices.Insert(slices.Clone(a.in[t]), i, spot{pieces[k], k + 1})
				}
				v, m := from(k+1, b)
				valid.Add(valid, new(big.Rat).Mul(v, part))
				mean.Add(mean, new(big.Rat).Mul(m, part))
			}
		}
		return valid, mean
	}
	valid, mean = from(0, newTable())
	if leaves > 1500 {
		return nil, nil
	}
	return valid, mean
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
		ways, solvable := 0, make([]bool, len(d.Key.Solutions))
		d.possible(func(a table) {
			some := false
			for i, s := range d.Key.Solutions {
				if d.look(s, a).valid {
					solvable[i], some = true, true
				}
			}
			if some {
				ways++
			}
		})
		got := proof.Prove(doc)
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
		if valid, mean := d.guess(); valid != nil {
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
