package activity

import (
	"cmp"
	"slices"

	"keenmagpie/core/exact"
	"keenmagpie/core/message"
)

// BandAt names the band of a rounded percent: the one with the highest from that it
// reaches, in whatever order they are listed; "" below all of them.
func BandAt(bands []Band, percent exact.Hundredths) string {
	name := ""
	highest := -exact.Limit
	for _, b := range bands {
		if b.From <= percent && b.From >= highest {
			name, highest = b.Name, b.From
		}
	}
	return name
}

// sortBands puts bands into their one order, after telling which of them begin where
// another does.
func sortBands(path string, bands []Band, r *reader) {
	seen := map[U]bool{}
	for i, b := range bands {
		if seen[b.From] {
			r.fault(at(path, i)+"/from", "band-twice", message.P{"from": b.From})
		}
		seen[b.From] = true
	}
	slices.SortStableFunc(bands, func(a, b Band) int { return cmp.Compare(a.From, b.From) })
}
