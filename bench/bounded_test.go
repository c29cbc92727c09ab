package bench

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
)

// hostile are families of documents that ask for much; each grows with n.
var hostile = []struct {
	name string
	of   func(n int) document
}{
	{"pieces of 500 items", func(n int) document { return document{items: 500, copies: n, targets: 20, solutions: 1} }},
	{"targets", func(n int) document { return document{items: 500, copies: 4, targets: n, solutions: 1, check: "full"} }},
	{"solutions, each placement judged", func(n int) document {
		return document{items: 200, copies: 10, targets: 50, solutions: n, check: "each"}
	}},
	{"needs", func(n int) document { return document{items: n, copies: 1, targets: 20, solutions: 1, needs: 20} }},
	{"needs of solutions", func(n int) document { return document{items: 40, copies: 4, targets: 10, solutions: n, needs: 10} }},
	{"full targets", func(n int) document {
		return document{items: n, copies: 2, targets: 40, solutions: 1, holds: 10, check: "full"}
	}},
	{"named items", func(n int) document { return document{items: 300, copies: 1, targets: 40, solutions: n, named: true} }},
	{"long lanes", func(n int) document {
		return document{items: 200, copies: 1, targets: 1, solutions: n, lanes: true, check: "each", by: "order"}
	}},
	{"pairs of before", func(n int) document {
		return document{items: 16 * n, copies: 1, targets: n, solutions: 1, lanes: true, pairs: true, check: "each", by: "order", measure: "position"}
	}},
	{"pairs of before in solutions", func(n int) document {
		return document{items: 64, copies: 1, targets: 4, solutions: n, lanes: true, pairs: true, check: "each", by: "order", measure: "pairs"}
	}},
	{"conditions", func(n int) document {
		return document{items: 20, copies: 99, targets: 4, solutions: 1, replies: n, check: "each"}
	}},
	{"tags", func(n int) document { return document{items: 400, copies: 1, targets: n, solutions: 1, tags: 40} }},
}

type document struct {
	items, copies, targets, solutions, needs, holds, replies, tags int
	named, lanes, pairs                                            bool
	check, by, measure                                             string
}

// write writes the document.
func (d document) write() []byte {
	var b strings.Builder
	list := func(n int, each func(i int)) {
		b.WriteString("[")
		for i := range n {
			if i > 0 {
				b.WriteString(",")
			}
			each(i)
		}
		b.WriteString("]")
	}
	say := func(format string, args ...any) { fmt.Fprintf(&b, format, args...) }
	per := max(1, d.items/max(1, d.targets)) // items of a lane
	say(`{"format":"keen-magpie/activity","version":1,"id":"x","items":`)
	list(d.items, func(i int) {
		say(`{"id":"i%d","copies":%d,"tags":`, i, d.copies)
		list(d.tags, func(k int) { say(`"t%d"`, k) })
		say("}")
	})
	say(`,"targets":`)
	list(d.targets, func(i int) {
		say(`{"id":"t%d","ordered":%v,"frame":{"x":0,"y":0,"w":100,"h":100}`, i, d.lanes)
		if d.holds > 0 {
			say(`,"holds":%d`, d.holds)
		}
		say("}")
	})
	say(`,"key":{"solutions":`)
	list(d.solutions, func(s int) {
		say(`{"right":{`)
		for t := range d.targets {
			if t > 0 {
				say(",")
			}
			say(`"t%d":`, t)
			switch {
			case d.lanes:
				say(`{"items":`)
				list(per, func(i int) { say(`"i%d"`, t*per+i) })
				say("}")
			case d.named:
				say(`{"items":`)
				list(d.items/2, func(i int) { say(`"i%d"`, (i+t)%d.items) })
				say("}")
			case d.tags > 0:
				say(`{"tags":`)
				list(d.tags, func(k int) { say(`"t%d"`, k) })
				say("}")
			default:
				say(`{"all":true}`)
			}
		}
		say(`},"needs":`)
		list(d.needs, func(t int) { say(`{"target":"t%d","min":1}`, t) })
		say(`,"orders":`)
		lanes := 0
		if d.lanes {
			lanes = d.targets
		}
		list(lanes, func(t int) {
			say(`{"target":"t%d",`, t)
			if d.pairs {
				say(`"before":`)
				list(per-1, func(i int) { say(`["i%d","i%d"]`, t*per+i/2, t*per+i+1) })
			} else {
				say(`"tiers":`)
				list(per, func(i int) { say(`["i%d"]`, t*per+(i*7+s)%per) })
			}
			say("}")
		})
		say("}")
	})
	say(`},"replies":`)
	list(min(d.replies, 500), func(i int) {
		say(`{"id":"r%d","moment":"placed","also":true,"when":{"none":`, i)
		list(max(1, d.replies/500), func(k int) { say(`{"item":"i%d","is":"right"}`, (i+k)%d.items) })
		say("}}")
	})
	say(`,"play":{"check":%q,"attempts":0},"marks":{"by":%q,"measure":%q}}`, or(d.check, "ask"), or(d.by, "item"), or(d.measure, "run"))
	return []byte(b.String())
}

func or(text, other string) string {
	if text == "" {
		return other
	}
	return text
}

// BenchmarkHostile finds the largest document of each family that is read, and prints what
// opening it takes (reading it, making it ready, beginning), and its slowest move of two
// hundred, in milliseconds.
func BenchmarkHostile(b *testing.B) {
	for _, family := range hostile {
		b.Run(family.name, func(b *testing.B) {
			low, high := 1, 2
			accepted := func(n int) bool {
				body := family.of(n).write()
				_, faults := activity.Read(body)
				return faults == nil && len(body) < 1<<20
			}
			for high < 5000 && accepted(high) {
				low, high = high, 2*high
			}
			for high-low > 1 {
				if mid := (low + high) / 2; accepted(mid) {
					low = mid
				} else {
					high = mid
				}
			}
			body := family.of(low).write()
			for b.Loop() {
				began := time.Now()
				doc, faults := activity.Read(body)
				if faults != nil {
					b.Fatal(faults[0])
				}
				game, err := play.New(doc)
				if err != nil {
					b.Skip(err)
				}
				state := game.Open(1)
				opened := time.Since(began)
				var slowest time.Duration
				for k := range 200 {
					zero := 0
					p := k % len(game.Parts.Pieces)
					began := time.Now()
					state, _ = game.Move(state, play.Move{N: k + 1, Do: "place", Piece: game.Parts.Pieces[p].ID, Target: doc.Targets[p*len(doc.Targets)/len(game.Parts.Pieces)].ID, Index: &zero})
					slowest = max(slowest, time.Since(began))
				}
				b.ReportMetric(float64(opened.Microseconds())/1000, "ms/open")
				b.ReportMetric(float64(slowest.Microseconds())/1000, "ms/move")
				b.ReportMetric(float64(len(body))/1000, "kB")
			}
		})
	}
}
