package activity_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"runtime"
	"strings"
	"testing"

	"keenmagpie/core/activity"
)

// unfilled reports whether something of a message was not filled in.
func unfilled(message string) bool {
	return strings.Contains(message, "<nil>") || strings.ContainsAny(message, "{}")
}

func Example() {
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"bins","items":[{"id":"chain","copies":2}],
		"targets":[{"id":"box","frame":{"x":0,"y":0,"w":10,"h":10}}],"key":{"solutions":[{"right":{"box":{"items":["chain"]}}}]}}`))
	fmt.Println(doc.Items[0].Copies, doc.Items[0].Weight, len(faults))

	_, faults = activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"bins","items":[{"id":"Chain"},{"colour":1}],"key":{"solutions":[]}}`))
	fmt.Println(faults)
	// Output:
	// 2 1 0
	// /items/0/id: “Chain” is not an id: up to 64 small letters, digits and hyphens, not beginning with a hyphen
	// /items/1/colour: there is no field “colour” here
	// /items/1/id: “id” is missing
	// /key/solutions: at least 1 must stand here
}

const head = `{"format":"keen-magpie/activity","version":1,"id":"a",`
const key = `"key":{"solutions":[{}]}}`

func TestEachFaultIsNamedWhereItIs(t *testing.T) {
	target := `"targets":[{"id":"box","frame":{"x":0,"y":0,"w":10,"h":10}}],`
	for name, c := range map[string]struct{ body, pointer, says string }{
		"not JSON":                   {`{"format":`, "/format", "not JSON"},
		"more after it":              {head + key + "{}", "", "more after"},
		"a list":                     {`[]`, "", "should be an object"},
		"another format":             {strings.Replace(head, "keen-magpie", "other", 1) + key, "/format", "not possible"},
		"a field twice":              {head + `"title":"a","title":"b",` + key, "/title", "twice"},
		"an unknown field":           {head + `"play":{"speed":1},` + key, "/play/speed", `no field “speed”`},
		"a number for a text":        {head + `"title":3,` + key, "/title", "should be text"},
		"three decimals":             {head + `"items":[{"id":"x","size":{"w":1.234,"h":2}}],` + key, "/items/0/size/w", "decimals"},
		"half a copy":                {head + `"items":[{"id":"x","copies":1.5}],` + key, "/items/0/copies", "whole"},
		"an exponent":                {head + `"items":[{"id":"x","weight":1e2}],` + key, "/items/0/weight", "plain decimal"},
		"an id twice":                {head + `"items":[{"id":"x"},{"id":"x"}],` + key, "/items/1/id", "another item"},
		"an item that is not there":  {head + target + `"key":{"solutions":[{"right":{"box":{"items":["y"]}}}]}}`, "/key/solutions/0/right/box/items/0", `no item “y”`},
		"a target that is not there": {head + `"key":{"solutions":[{"right":{"bo/x":{}}}]}}`, "/key/solutions/0/right/bo~1x", "no target"},
		"a cell of nothing":          {head + target + `"marks":{"cells":{"y/box":{}}},` + key, "/marks/cells/y~1box", "an item’s id"},
		"a check that there is not":  {head + `"play":{"check":"never"},` + key, "/play/check", "not possible"},
		"a frame without a side":     {head + `"targets":[{"id":"box","frame":{"x":0,"y":0,"w":9}}],` + key, "/targets/0/frame/h", "missing"},
		"no frame":                   {head + `"targets":[{"id":"box"}],` + key, "/targets/0/frame", "missing"},
		"a polygon of two":           {head + `"targets":[{"id":"box","shape":"polygon","points":[[0,0],[1,1]]}],` + key, "/targets/0/points", "at least 3"},
		"a polygon that crosses":     {head + `"targets":[{"id":"box","shape":"polygon","points":[[0,0],[9,9],[9,0],[0,9]]}],` + key, "/targets/0/points", "cross"},
		"a flat polygon":             {head + `"targets":[{"id":"box","shape":"polygon","points":[[0,0],[9,0],[4,0]]}],` + key, "/targets/0/points", "area"},
		"a corner of three":          {head + `"targets":[{"id":"box","shape":"polygon","points":[[0,0,1],[9,0],[4,4]]}],` + key, "/targets/0/points/0", "list of 2"},
		"a line without ends":        {head + `"scenery":[{"id":"l","type":"line","from":{"x":1,"y":1}}],` + key, "/scenery/0", "two ends"},
		"an overlap of nothing":      {head + `"play":{"hit":{"overlap":0}},` + key, "/play/hit/overlap", "too small"},
		"a hit rule there is not":    {head + `"play":{"hit":"near"},` + key, "/play/hit", "centre, touch, inside"},
		"a hint of nothing":          {head + `"hints":[{}],` + key, "/hints/0", "text or a picture"},
		"a gap without a target":     {head + `"kind":"gaps","scenery":[{"id":"s","type":"text","frame":{"x":0,"y":0,"w":9,"h":9},"text":"The [[chain]]"}],` + key, "/scenery/0/text", `no target “chain”`},
		"a part to read twice":       {head + target + `"order":["box","box"],` + key, "/order/1", "twice"},
		"a part that is not there":   {head + `"order":["box"],` + key, "/order/0", "no part"},
		"null":                       {head + `"items":null,` + key, "/items", "should be a list"},
		"no width":                   {head + `"targets":[{"id":"box","frame":{"x":0,"y":0,"w":0,"h":10}}],` + key, "/targets/0/frame/w", "too small"},
	} {
		t.Run(name, func(t *testing.T) {
			doc, faults := activity.Read([]byte(c.body))
			if doc != nil || len(faults) == 0 || faults[0].Pointer != c.pointer || !strings.Contains(faults[0].Message, c.says) || unfilled(faults[0].Message) {
				t.Errorf("%v, want %s: …%s…", faults, c.pointer, c.says)
			}
		})
	}
}

// Faults of what a key and replies say, in a document that is sound otherwise: a
// lane and a box, the items x and y and two pieces of z.
func TestFaultsOfMeaning(t *testing.T) {
	items := head + `"items":[{"id":"x"},{"id":"y"},{"id":"z","copies":2}],"targets":[
		{"id":"lane","ordered":true,"frame":{"x":0,"y":0,"w":10,"h":10}},{"id":"box","frame":{"x":0,"y":0,"w":10,"h":10}}],`
	solution := func(s string) string { return items + `"key":{"solutions":[{` + s + `}]}}` }
	reply := func(s string) string { return items + `"replies":[{"id":"r","moment":"placed",` + s + `}],` + key }
	for name, c := range map[string]struct{ body, pointer, says string }{
		"needs that overlap":   {solution(`"right":{"box":{"all":true}},"needs":[{"target":"box","of":{"items":["x","y"]},"min":1},{"target":"box","of":{"items":["y"]}}]`), "/key/solutions/0/needs/1", `both count “y”`},
		"a need upside down":   {solution(`"needs":[{"target":"box","min":2,"max":1}]`), "/key/solutions/0/needs/0/max", "at most 1"},
		"a need of nothing":    {solution(`"needs":[{"target":"bin"}]`), "/key/solutions/0/needs/0/target", "no target"},
		"an order in a circle": {solution(`"right":{"lane":{"items":["x","y"]}},"orders":[{"target":"lane","tiers":[["x"],["y"]],"before":[["y","x"]]}]`), "/key/solutions/0/orders/0", "x before y before x"},
		"an order in no lane":  {solution(`"right":{"box":{"items":["x"]}},"orders":[{"target":"box","tiers":[["x"]]}]`), "/key/solutions/0/orders/0/target", "only a lane"},
		"an order twice":       {solution(`"right":{"lane":{"items":["x"]}},"orders":[{"target":"lane","tiers":[["x"]]},{"target":"lane","tiers":[["x"]]}]`), "/key/solutions/0/orders/1/target", "already"},
		"an order of nothing":  {solution(`"orders":[{"target":"lane"}]`), "/key/solutions/0/orders/0", "at least one"},
		"in the tiers twice":   {solution(`"right":{"lane":{"items":["x"]}},"orders":[{"target":"lane","tiers":[["x"],["x"]]}]`), "/key/solutions/0/orders/0/tiers/1/0", "twice"},
		"copies in an order":   {solution(`"right":{"lane":{"items":["z"]}},"orders":[{"target":"lane","tiers":[["z"]]}]`), "/key/solutions/0/orders/0", "2 copies"},
		"right elsewhere, too": {solution(`"right":{"lane":{"items":["x"]},"box":{"items":["x"]}},"orders":[{"target":"lane","tiers":[["x"]]}]`), "/key/solutions/0/orders/0", "nowhere else"},
		"not in its order":     {solution(`"right":{"lane":{"items":["x","y"]}},"orders":[{"target":"lane","tiers":[["x"]]}]`), "/key/solutions/0/orders/0", `“y” is correct in “lane”`},
		"counted and ordered":  {solution(`"right":{"lane":{"items":["x"]}},"needs":[{"target":"lane","min":1}],"orders":[{"target":"lane","tiers":[["x"]]}]`), "/key/solutions/0/orders/0", "counted by a need"},
		"three in a pair":      {solution(`"right":{"lane":{"items":["x"]}},"orders":[{"target":"lane","before":[["x","y","z"]]}]`), "/key/solutions/0/orders/0/before/0", "two items"},
		"two forms":            {reply(`"when":{"outcome":"right","solution":0}`), "/replies/0/when", "outcome, solution"},
		"no form":              {reply(`"when":{"any":[{}]}`), "/replies/0/when/any/0", "empty"},
		"an item that is part": {reply(`"when":{"item":"x","is":"part"}`), "/replies/0/when/is", "home, right, wrong"},
		"a target at home":     {reply(`"when":{"target":"box","is":"home"}`), "/replies/0/when/is", "right, part, wrong or empty"},
		"an item and no more":  {reply(`"when":{"item":"x"}`), "/replies/0/when", `“is”`},
		"a span upside down":   {reply(`"when":{"left":{"min":2,"max":1}}`), "/replies/0/when/left", "at least 2"},
		"a solution too far":   {reply(`"when":{"none":[{"solution":1}]}`), "/replies/0/when/none/0/solution", "numbered from 0"},
		"onto nothing":         {reply(`"when":{"onto":["bin"]}`), "/replies/0/when/onto/0", "no target"},
		"a frame for an edge":  {reply(`"frame":{"x":0,"y":0,"w":1,"h":1}`), "/replies/0/frame", "spot is frame"},
		"an offer of nothing":  {reply(`"offer":["page:"]`), "/replies/0/offer/0", "page:<id>"},
		"pointing at nothing":  {reply(`"point":["bin"]`), "/replies/0/point/0", "no part"},
	} {
		t.Run(name, func(t *testing.T) {
			doc, faults := activity.Read([]byte(c.body))
			if doc != nil || len(faults) != 1 || faults[0].Pointer != c.pointer || !strings.Contains(faults[0].Message, c.says) || unfilled(faults[0].Message) {
				t.Errorf("%v, want %s: …%s…", faults, c.pointer, c.says)
			}
		})
	}
}

// All faults come at once: those of form and those of meaning, but none that only
// follows from another.
func TestAllFaultsComeAtOnce(t *testing.T) {
	_, faults := activity.Read([]byte(head + `"items":[{"id":"X","weight":-1},{"id":"y","colour":"red"}],
		"targets":[{"id":"box","frame":{"x":0,"y":0,"w":10,"h":10},"lets":{"items":["X","q"]}}],
		"key":{"solutions":[{"credit":0,"right":{"bin":{"all":true}}}]}}`))
	var pointers []string
	for _, f := range faults {
		pointers = append(pointers, f.Pointer)
	}
	want := "/items/0/id /items/0/weight /items/1/colour /key/solutions/0/credit /targets/0/lets/items/1 /key/solutions/0/right/bin"
	if got := strings.Join(pointers, " "); got != want {
		t.Errorf("%s, want %s", got, want)
	}
}

// What is read and written reads the same, and is written as the same bytes; so
// is the full form.
func checkRoundTrip(t *testing.T, body []byte) {
	t.Helper()
	doc, faults := activity.Read(body)
	if faults != nil {
		return
	}
	first := doc.Write()
	again, faults := activity.Read(first)
	if faults != nil {
		t.Fatalf("what was written is refused: %v\n%s", faults, first)
	}
	if !bytes.Equal(first, again.Write()) {
		t.Fatalf("written again it differs:\n%s\n%s", first, again.Write())
	}
	full, faults := activity.Read(doc.Full())
	if faults != nil {
		t.Fatalf("the full form is refused: %v\n%s", faults, doc.Full())
	}
	if !bytes.Equal(first, full.Write()) {
		t.Fatal("the full form says something else")
	}
}

func FuzzRead(f *testing.F) {
	cases, err := filepath.Glob("../../cmd/magpie/testdata/cases/*/activity.json")
	if err != nil || len(cases) == 0 {
		f.Fatal("no cases to begin with", err)
	}
	for _, path := range append(cases, "../../demo/activities/parts-drawers.json") {
		body, err := os.ReadFile(path)
		if err != nil {
			f.Fatal(err)
		}
		f.Add(body)
	}
	f.Add([]byte(head + `"items":[{"id":"x","home":{"x":0.1,"y":-3},"tags":["<b>"," "]}],"marks":{"shares":[50,0]},` + key))
	f.Add([]byte(strings.Repeat("[", 1000)))
	f.Add([]byte(head + `"targets":[{"id":"l","shape":"polygon","points":[[0,0],[9.5,0],[4,4]],"ordered":true,"looks":{"rest":{"opacity":0,"text":"","style":{"corner":0,"edge":{}}}}}],
		"items":[{"id":"x","offTarget":"stay","looks":{"inHand":{"scale":110}}}],"order":["x"],"hints":[{"place":true}],"play":{"hit":{"overlap":60},"check":"each"},
		"replies":[{"id":"r","moment":"placed","when":{"all":[{"any":[]},{"onto":[]},{"item":"x","in":"l"},{"left":{"min":0}},{"piece":{}}]},"spot":"frame","frame":{"x":0,"y":0,"w":1,"h":1}}],
		"key":{"solutions":[{"right":{"l":{"all":true}},"orders":[{"target":"l","tiers":[["x"]],"before":[]}]}]}}`))
	f.Fuzz(func(t *testing.T, body []byte) { checkRoundTrip(t, body) })
}

// What reading takes grows with the document and no faster, whatever it is made of:
// at most so many bytes for each that is read.
func TestReadingTakesLinearMemory(t *testing.T) {
	long := strings.Repeat("n", 1<<20)
	for name, body := range map[string]string{
		"lists":            strings.Repeat("[", 1<<20),
		"objects":          strings.Repeat(`{"a":`, 1<<18),
		"numbers":          head + `"x":[` + strings.Repeat("1,", 1<<19) + `1],` + key,
		"a long name":      head + `"` + long + `":[` + strings.Repeat("1,", 1<<18) + `1],` + key,
		"under long names": head + `"key":{"solutions":[{"right":{"` + long + `":{"items":[` + strings.Repeat("1,", 400) + `1]}}}]}}`,
		"many fields":      head + `"items":[` + strings.Repeat(`{"a":1,"b":2},`, 1<<16) + `{}],` + key,
		"many faults":      head + `"items":[` + strings.Repeat(`{"id":"`+strings.Repeat("X", 4000)+`"},`, 400) + `{}],` + key,
		"conditions":       head + `"replies":[` + strings.Repeat(`{"id":"r","moment":"placed","when":{"all":[{"any":[{"none":[{}]}]}]}},`, 400) + `{}],` + key,
		"many corners":     head + `"targets":[` + strings.Repeat(`{"id":"t","shape":"polygon","points":[`+strings.Repeat("[1,2],", 190)+`[3,4]]},`, 190) + `{}],` + key,
	} {
		var before, after runtime.MemStats
		runtime.ReadMemStats(&before)
		_, faults := activity.Read([]byte(body))
		runtime.ReadMemStats(&after)
		if len(faults) == 0 {
			t.Errorf("%s: no fault", name)
		}
		if took := after.TotalAlloc - before.TotalAlloc; took > uint64(200*len(body)) {
			t.Errorf("%s: %d bytes took %d", name, len(body), took)
		}
	}
}

// A selector is changed for one item and for no other, whatever it was.
func TestWithChangesOneItemAlone(t *testing.T) {
	rnd := rand.New(rand.NewPCG(3, 0))
	items := make([]activity.Item, 6)
	for i := range items {
		items[i].ID = fmt.Sprint("i", i)
		if i%2 == 0 {
			items[i].Tags = []string{"even"}
		}
	}
	for range 2000 {
		s := activity.Selector{All: rnd.IntN(4) == 0}
		for _, it := range items {
			switch rnd.IntN(5) {
			case 0:
				s.Items = append(s.Items, it.ID)
			case 1:
				s.Except = append(s.Except, it.ID)
			}
		}
		if rnd.IntN(2) == 0 {
			s.Tags = []string{"even"}
		}
		one, on := rnd.IntN(len(items)), rnd.IntN(2) == 0
		got := s.With(&items[one], on)
		for i := range items {
			want := s.Selects(&items[i])
			if i == one {
				want = on
			}
			if got.Selects(&items[i]) != want {
				t.Fatalf("%+v with %s %v is %+v: item %d is %v", s, items[one].ID, on, got, i, !want)
			}
		}
	}
}

func BenchmarkRead(b *testing.B) {
	body, err := os.ReadFile("../../demo/activities/parts-drawers.json")
	if err != nil {
		b.Fatal(err)
	}
	for b.Loop() {
		if _, faults := activity.Read(body); faults != nil {
			b.Fatal(faults)
		}
	}
}

func ExampleCondition_MarshalJSON() {
	zero := activity.U(0)
	body, err := json.Marshal([]activity.Condition{{Item: "bell", In: "upper"}, {None: []activity.Condition{{Left: &activity.Range{Max: &zero}}}}})
	fmt.Println(string(body), err)
	// Output: [{"item":"bell","in":"upper"},{"none":[{"left":{"max":0}}]}] <nil>
}
