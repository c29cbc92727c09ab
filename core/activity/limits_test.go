package activity

import (
	"fmt"
	"strings"
	"testing"
)

// A document that asks for more than can be judged in bounded time is refused with a
// sentence that says of what it has too much.
func TestLimitsAreFaults(t *testing.T) {
	items := func(n, copies int) string {
		list := make([]string, n)
		for i := range list {
			list[i] = fmt.Sprintf(`{"id":"i%d","copies":%d}`, i, copies)
		}
		return `"items":[` + strings.Join(list, ",") + `]`
	}
	targets := func(n int) string {
		list := make([]string, n)
		for i := range list {
			list[i] = fmt.Sprintf(`{"id":"t%d","frame":{"x":0,"y":0,"w":9,"h":9}}`, i)
		}
		return `"targets":[` + strings.Join(list, ",") + `]`
	}
	deep := strings.Repeat(`{"all":[`, 9) + `{"outcome":"right"}` + strings.Repeat(`]}`, 9)
	many := `{"all":[` + strings.Repeat(`{"outcome":"right"},`, 89) + `{"outcome":"part"}]}`
	replies := func(n int, when string) string {
		list := make([]string, n)
		for i := range list {
			list[i] = fmt.Sprintf(`{"id":"r%d","moment":"checked","when":%s}`, i, when)
		}
		return `"replies":[` + strings.Join(list, ",") + `]`
	}
	const plain = `"key":{"solutions":[{}]}`
	for name, c := range map[string]struct{ fields, pointer, says string }{
		"pieces":             {items(30, 99) + "," + plain, "/items", "2970 pieces"},
		"cells":              {items(500, 1) + "," + targets(200) + `,"key":{"solutions":[` + strings.TrimSuffix(strings.Repeat("{},", 6), ",") + `]}`, "/key/solutions", "600000 cells"},
		"conditions":         {plain + "," + replies(10, many), "/replies", "910 conditions"},
		"depth of them":      {plain + "," + replies(1, deep), "/replies", "10 deep"},
		"needs with pieces":  {items(500, 4) + "," + targets(20) + `,"key":{"solutions":[{"right":{"t0":{"all":true},"t1":{"all":true},"t2":{"all":true}},"needs":[{"target":"t0","min":1}]}]}`, "/key/solutions/0", "1500 correct cells"},
		"within all of them": {items(20, 99) + "," + targets(10) + "," + plain + "," + replies(8, many), "", ""},
	} {
		t.Run(name, func(t *testing.T) {
			_, faults := Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"a",` + c.fields + `}`))
			switch {
			case c.says == "" && faults != nil:
				t.Errorf("%v", faults)
			case c.says != "" && (len(faults) != 1 || faults[0].Pointer != c.pointer || !strings.Contains(faults[0].Message, c.says)):
				t.Errorf("%v", faults)
			}
		})
	}
}
