package activity_test

import (
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
)

// BenchmarkReadLarge reads a document of some 300 kB: 400 items, 50 solutions that name
// them all in two lanes.
func BenchmarkReadLarge(b *testing.B) {
	var items, solutions []string
	for i := range 400 {
		items = append(items, fmt.Sprintf(`{"id":"i%d"}`, i))
	}
	for s := range 50 {
		var tiers [2][]string
		var right [2][]string
		for i := range 400 {
			tiers[i%2] = append(tiers[i%2], fmt.Sprintf(`["i%d"]`, (i+2*s)%400))
			right[i%2] = append(right[i%2], fmt.Sprintf(`"i%d"`, i))
		}
		solutions = append(solutions, fmt.Sprintf(`{"right":{"a":{"items":[%s]},"b":{"items":[%s]}},"orders":[{"target":"a","tiers":[%s]},{"target":"b","tiers":[%s]}]}`,
			strings.Join(right[0], ","), strings.Join(right[1], ","), strings.Join(tiers[0], ","), strings.Join(tiers[1], ",")))
	}
	lane := `{"id":%q,"ordered":true,"frame":{"x":0,"y":0,"w":9,"h":9}}`
	body := []byte(fmt.Sprintf(`{"format":"keen-magpie/activity","version":1,"id":"x","items":[%s],"targets":[`+lane+`,`+lane+`],"key":{"solutions":[%s]}}`,
		strings.Join(items, ","), "a", "b", strings.Join(solutions, ",")))
	b.SetBytes(int64(len(body)))
	for b.Loop() {
		if _, faults := activity.Read(body); faults != nil {
			b.Fatal(faults[0])
		}
	}
}
