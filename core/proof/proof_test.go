package proof_test

import (
	"context"
	"errors"
	"fmt"
	"math"
	"os"
	"regexp"
	"runtime"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
)

// base is two items in two drawers; the fields given replace those that are there.
func base(t *testing.T, fields string) *activity.Doc {
	t.Helper()
	parts := map[string]string{
		"items": `[{"id":"chain","name":"Chain","text":"Chain"},{"id":"pump","name":"Pump","text":"Pump"}]`,
		"targets": `[{"id":"upper","name":"Upper","frame":{"x":20,"y":40,"w":260,"h":300}},
			{"id":"lower","name":"Lower","frame":{"x":310,"y":40,"w":260,"h":300}}]`,
		"key": `{"solutions":[{"right":{"upper":{"items":["chain"]},"lower":{"items":["pump"]}}}]}`,
	}
	body := `{"format":"keen-magpie/activity","version":1,"id":"base"`
	for _, f := range strings.Split(fields, "\n") {
		if name, value, ok := strings.Cut(strings.TrimSpace(f), ": "); ok {
			parts[name] = value
		}
	}
	for name, value := range parts {
		body += fmt.Sprintf(`,%q:%s`, name, value)
	}
	doc, faults := activity.Read([]byte(body + "}"))
	if faults != nil {
		t.Fatal(faults, body)
	}
	return doc
}

// prove proves a document for a test.
func prove(t *testing.T, doc *activity.Doc) *proof.Report {
	t.Helper()
	report, err := proof.Prove(t.Context(), doc)
	if err != nil {
		t.Fatal(err)
	}
	return report
}

// What takes long by nature ends soon after whoever asked has gone.
func TestAProofEndsWithItsContext(t *testing.T) {
	item := `{"id":"i%d","copies":2}`
	var items, targets, right []string
	for i := range 14 {
		items = append(items, fmt.Sprintf(item, i))
		targets = append(targets, fmt.Sprintf(`{"id":"t%d","holds":3,"ordered":%t,"frame":{"x":%d,"y":0,"w":50,"h":50}}`, i, i%2 == 0, 60*i))
		right = append(right, fmt.Sprintf(`"t%d":{"all":true}`, i))
	}
	doc, err := activity.Read(fmt.Appendf(nil, `{"format":"keen-magpie/activity","version":1,"id":"long","items":[%s],"targets":[%s],
		"key":{"solutions":[{"right":{%s}}]},
		"replies":[{"id":"r","moment":"checked","say":{"text":"x"},"when":{"all":[{"outcome":"right"},{"outcome":"wrong"}]}}]}`,
		strings.Join(items, ","), strings.Join(targets, ","), strings.Join(right, ",")))
	if err != nil {
		t.Fatal(err)
	}
	// What is left to do is counted in memory asked for, which is the same on a slow machine.
	whole := &patience{Context: t.Context(), asks: math.MaxInt}
	begun := allocated()
	if _, err := proof.Prove(whole, doc); err != nil {
		t.Fatal(err)
	}
	all := allocated() - begun
	for _, asks := range []int{0, 5, whole.asked / 2} {
		ctx := &patience{Context: t.Context(), asks: asks}
		_, err := proof.Prove(ctx, doc)
		if after := allocated() - ctx.ended; !errors.Is(err, context.DeadlineExceeded) || after > all/20 {
			t.Errorf("over when asked for the %dth of %d times, a proof that asks for %d kB took another %d kB, and said %v",
				asks+1, whole.asked, all>>10, after>>10, err)
		}
	}
}

// patience is a context that is over once it was asked so many times.
type patience struct {
	context.Context
	asks, asked int
	ended       uint64 // how much memory had been asked for by then
}

func (p *patience) Err() error {
	p.asked++
	if p.asked <= p.asks {
		return nil
	}
	if p.ended == 0 {
		p.ended = allocated()
	}
	return context.DeadlineExceeded
}

// allocated is how many bytes were ever asked for.
func allocated() uint64 {
	var m runtime.MemStats
	runtime.ReadMemStats(&m)
	return m.TotalAlloc
}

// What the catalogue says is said somewhere, and what is said stands there.
func TestFindingsAreInTheCatalogue(t *testing.T) {
	var source strings.Builder
	for _, name := range []string{"finding.go", "findings.go", "look.go", "cover.go"} {
		body, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		source.Write(body)
	}
	for code := range proof.English {
		// A check comes out in three ways, each of them said.
		if said := strings.TrimSuffix(strings.TrimPrefix(code, "mend/"), "/some"); !strings.HasPrefix(said, "outcome/") && !strings.Contains(source.String(), `"`+said+`"`) {
			t.Errorf("%s is never said", code)
		}
	}
	for _, m := range regexp.MustCompile(`(f\.add\(|mend\{)"([^"]+)"`).FindAllStringSubmatch(source.String(), -1) {
		code := m[2]
		if m[1] == "mend{" {
			code = "mend/" + code
		}
		if proof.English[code] == "" {
			t.Errorf("%s is not in the catalogue", code)
		}
	}
}

func Example() {
	doc, _ := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"lamps",
		"items":[{"id":"front"},{"id":"rear"}],
		"targets":[{"id":"bar","frame":{"x":0,"y":0,"w":200,"h":100}},{"id":"post","frame":{"x":300,"y":0,"w":200,"h":100}}],
		"key":{"solutions":[{"right":{"bar":{"items":["front"]},"post":{"items":["front","rear"]}}}]}}`))
	r, _ := proof.Prove(context.Background(), doc)
	fmt.Println(r.Solvable, r.Count, r.Chance.Valid, r.Chance.MeanPercent)
	// Output: true 2 1/2 75.00
}

// kits is one target that either of two kits fills.
const kits = `items: [{"id":"bracket"},{"id":"screws"},{"id":"glue"}]` + "\n" + `targets: [{"id":"bench","frame":{"x":20,"y":40,"w":260,"h":300}}]` + "\n" +
	`key: {"solutions":[{"right":{"bench":{"items":["bracket","screws"]}}},{"right":{"bench":{"items":["glue"]}}}]}`

const drawers = `{"id":"upper","name":"Upper","frame":{"x":20,"y":40,"w":260,"h":300}`

func TestFindings(t *testing.T) {
	for _, c := range []struct {
		name, fields string
		code         string // none: nothing may be found
		parts, says  string
		mended       bool // it has a mend, after which it is gone
	}{
		{"nothing to find", "", "", "", "", false},
		{"room for fewer", "items: [{\"id\":\"chain\",\"copies\":3},{\"id\":\"pump\"}]\ntargets: [" + drawers + `,"holds":2},{"id":"lower","frame":{"x":310,"y":40,"w":260,"h":300}}]`,
			"too-few-places", "[upper]", "Upper holds 2, but 3 pieces belong there", true},
		{"and so impossible", "items: [{\"id\":\"chain\",\"copies\":3},{\"id\":\"pump\"}]\ntargets: [" + drawers + `,"holds":2},{"id":"lower","frame":{"x":310,"y":40,"w":260,"h":300}}]`,
			"key-impossible", "[chain upper]", "No arrangement meets the key", false},
		{"a need beyond what there is", `key: {"solutions":[{"right":{"upper":{"all":true}},"needs":[{"target":"upper","min":3}]}]}`,
			"need-beyond", "[upper]", "at least 3 pieces by the key, but only 2", true},
		{"a need beyond what it holds", "key: {\"solutions\":[{\"right\":{\"upper\":{\"all\":true}},\"needs\":[{\"target\":\"upper\",\"min\":2}]}]}\ntargets: [" + drawers + `,"holds":1}]`,
			"need-beyond", "[upper]", "but holds 1", true},
		{"right, but not accepted", "targets: [" + drawers + `,"lets":{"items":["pump"]}},{"id":"lower","frame":{"x":310,"y":40,"w":260,"h":300}}]`,
			"right-not-let-in", "[chain upper]", "not accepted there, so it does not count", true},
		{"a distractor", `key: {"solutions":[{"right":{"upper":{"items":["chain"]},"lower":{"tags":["none"]}}}]}`, "distractor", "[pump]", "Correct nowhere: Pump.", false},
		{"a tag that nobody has", `key: {"solutions":[{"right":{"upper":{"items":["chain"]},"lower":{"items":["pump"],"tags":["none"]}}}]}`, "tag-unknown", "[lower]", "the tag none", true},
		{"nothing correct here", `key: {"solutions":[{"right":{"upper":{"all":true}}}]}`, "nothing-right-here", "[lower]", "Lower: nothing is correct here", false},
		{"nothing requires it", `key: {"solutions":[{"right":{"upper":{"items":["chain"]},"lower":{"items":["pump"]}},"needs":[{"target":"lower","min":0}]}]}`,
			"not-required", "[pump]", "Nothing requires Pump", false},
		{"nothing requires its copies", "items: [{\"id\":\"chain\",\"copies\":5},{\"id\":\"pump\"}]\nkey: {\"solutions\":[{\"right\":{\"upper\":{\"items\":[\"chain\"]},\"lower\":{\"items\":[\"pump\"]}},\"needs\":[{\"target\":\"upper\",\"min\":1,\"max\":2}]}]}",
			"copies-not-required", "[chain]", "has 5 pieces, and no solution has room for more than 2", true},
		{"a lane in any order", `targets: [{"id":"upper","ordered":true,"frame":{"x":20,"y":40,"w":260,"h":300}}]` + "\n" + `key: {"solutions":[{"right":{"upper":{"all":true}}}]}`,
			"any-order", "[upper]", "any order is correct", false},
		{"told by bouncing", `targets: [{"id":"upper","lets":{"items":["chain"]},"frame":{"x":20,"y":40,"w":260,"h":300}},{"id":"lower","lets":{"items":["pump"]},"frame":{"x":310,"y":40,"w":260,"h":300}}]`,
			"all-by-bouncing", "[]", "rejections reveal the answer", true},
		{"told by trying", `play: {"check":"each","attempts":0,"wrongPieces":"home"}`, "all-by-trying", "[]", "trial and error", false},
		{"beckoning", `play: {"beckon":"right"}`, "beckons-right", "[]", "gives the answer away", true},
		{"no extension", `play: {"timeLimit":60000}`, "no-extension", "[]", "allows no extra time", true},
		{"again, with none left", `replies: [{"id":"r","moment":"done","say":{"text":"Well."},"offer":["again"]}]`, "again-not-left", "[r]", "when none is left", true},
		{"starting over, forbidden", `replies: [{"id":"r","moment":"checked","say":{"text":"Well."},"offer":["restart"]}]`, "restart-forbidden", "[r]", "do not allow", true},
		{"a text that is cut off", `items: [{"id":"chain","text":"What runs over the sprockets","size":{"w":60,"h":24}},{"id":"pump"}]`, "illegible", "[chain]", "cut off in windows 1280, 768, 390", false},
		{"spots that are numbers", "targets: [{\"id\":\"upper\",\"name\":\"Spot 1\",\"frame\":{\"x\":20,\"y\":40,\"w\":260,\"h\":300}},{\"id\":\"lower\",\"name\":\"Spot 2\",\"alt\":\"Where the foot pushes.\",\"frame\":{\"x\":310,\"y\":40,\"w\":260,\"h\":300}}]\nscenery: [{\"id\":\"pic\",\"type\":\"picture\",\"picture\":\"p\",\"frame\":{\"x\":0,\"y\":0,\"w\":100,\"h\":100}}]",
			"target-undescribed", "[upper]", "hears only a number", false},
		{"a picture that says nothing", `items: [{"id":"chain","picture":"p"},{"id":"pump","name":"Pump"}]`, "alt-missing", "[chain]", "a screen reader cannot say what it is", false},
		{"a picture that says too much", `items: [{"id":"chain","name":"Chain","picture":"p","alt":"A chain from the upper drawer"},{"id":"pump","name":"Pump"}]`,
			"alt-tells", "[chain upper]", "says “Upper”", false},
		{"a name that says too much", `targets: [{"id":"upper","name":"The chain","frame":{"x":20,"y":40,"w":260,"h":300}},{"id":"lower","name":"Lower","frame":{"x":310,"y":40,"w":260,"h":300}}]`,
			"name-tells", "[chain upper]", "says its name “The chain”", true},
		{"too small", `items: [{"id":"chain","name":"Chain","size":{"w":20,"h":40}},{"id":"pump"}]`, "small", "[chain]", "smaller than 24 units", true},
		{"a target too small", `targets: [` + drawers + `},{"id":"lower","name":"Lower","frame":{"x":310,"y":40,"w":10,"h":300}}]`, "small", "[lower]", "hard to hit", true},
		{"off the board", `items: [{"id":"chain","home":{"x":1150,"y":10}},{"id":"pump"}]`, "off-board", "[chain]", "partly off the board", true},
		{"a target off the board", `targets: [` + drawers + `},{"id":"lower","frame":{"x":1000,"y":600,"w":260,"h":300}}]`, "off-board", "[lower]", "partly off the board", true},
		{"over each other", `targets: [` + drawers + `},{"id":"lower","name":"Lower","frame":{"x":200,"y":40,"w":260,"h":300}}]`, "overlap", "[upper lower]", "the later one takes the piece", false},
		{"a covered label", `targets: [` + drawers + `},{"id":"lower","name":"Lower","label":{"text":"Lower"},"frame":{"x":20,"y":342,"w":260,"h":300},"arrange":{"anchor":"top"}}]` + "\n" +
			`key: {"solutions":[{"right":{"upper":{"items":["chain"]},"lower":{"items":["pump"]}}}]}` + "\n" + `items: [{"id":"chain","size":{"w":250,"h":295}},{"id":"pump"}]`, "label-covered", "[upper lower]", "would cover the label of Lower", false},
		{"weak contrast", `items: [{"id":"chain","text":"Chain","looks":{"rest":{"style":{"text":{"color":"#cccccc"}}}}},{"id":"pump"}]`, "contrast", "[chain]", "a contrast of 1.6 to 1", true},
		{"weak contrast of a text", `scenery: [{"id":"note","type":"text","text":"Read me","frame":{"x":700,"y":10,"w":100,"h":40},"style":{"text":{"color":"#eeeeee"}}}]`, "contrast", "[note]", "Read me", true},
		{"shadowed", `replies: [{"id":"any","moment":"placed","say":{"text":"Hm."}},{"id":"one","moment":"placed","when":{"item":"chain","is":"right"}}]`,
			"reply-shadowed", "[one]", "“Hm.” comes before it", true},
		{"never", `replies: [{"id":"all","moment":"checked"},{"id":"one","moment":"placed","when":{"all":[{"item":"chain","is":"right"},{"item":"chain","is":"home"}]}}]`,
			"reply-never", "[one]", "no situation was found", false},
		{"a lane can be in another order", "targets: [{\"id\":\"upper\",\"ordered\":true,\"frame\":{\"x\":20,\"y\":40,\"w\":260,\"h\":300}}]\n" +
			`key: {"solutions":[{"right":{"upper":{"all":true}},"orders":[{"target":"upper","tiers":[["chain"],["pump"]]}]}]}` + "\n" + `play: {"attempts":2,"checkWhen":"allPlaced"}` + "\n" +
			`replies: [{"id":"part","moment":"checked","when":{"all":[{"outcome":"part"},{"left":{"max":0}}]}},{"id":"rest","moment":"checked"}]`, "", "", "", false},
		{"silent at the last", `play: {"attempts":2}` + "\n" + `replies: [{"id":"well","moment":"checked","when":{"outcome":"right"}},{"id":"more","moment":"checked","when":{"left":{"min":1}}}]`,
			"attempts-silent", "[]", "When the last attempt is partly correct, no reply is given.", true},
		{"silent when partly correct", `play: {"attempts":2}` + "\n" + `replies: [{"id":"well","moment":"checked","when":{"outcome":"right"}}]`,
			"outcome-silent", "[]", "After a check that is partly correct, no reply is given.", true},
		{"silent in one situation", `play: {"attempts":2}` + "\n" + `replies: [{"id":"chain","moment":"checked","when":{"item":"chain","is":"right"}},{"id":"well","moment":"checked","when":{"outcome":"wrong"}}]`,
			"outcome-silent", "[]", "partly correct, no reply is given in some situations, such as ", true},
		{"all of two kits", kits, "everything-in", "[]", "earns full marks", true},
	} {
		t.Run(c.name, func(t *testing.T) {
			doc := base(t, c.fields)
			for _, f := range prove(t, doc).Findings {
				for k, line := range append(f.MendLines, f.Line) {
					message := append(f.Mends, f.Message)[k]
					if proof.English[line.Code] == "" || message != line.In(proof.English) || strings.ContainsAny(message, "{}") || strings.Contains(message, "<nil>") {
						t.Errorf("%s with %v says %q", line.Code, line.Params, message)
					}
				}
			}
			find := func(doc *activity.Doc) *proof.Finding {
				for _, f := range prove(t, doc).Findings {
					if f.Code == c.code && fmt.Sprint(f.Parts) == c.parts && (c.says == "" || f.Code != "attempts-silent" && f.Code != "outcome-silent" || strings.Contains(f.Message, c.says)) {
						return &f
					}
				}
				return nil
			}
			if c.code == "" {
				if found := prove(t, doc).Findings; len(found) > 0 {
					t.Errorf("found %v", found)
				}
				return
			}
			f := find(doc)
			if f == nil {
				t.Errorf("%s was not found with %s among %v", c.code, c.parts, prove(t, doc).Findings)
				return
			}
			if !strings.Contains(f.Message, c.says) || (len(f.Mends) > 0) != c.mended {
				t.Errorf("%q, mend %q", f.Message, f.Mends)
			}
			if _, ok := proof.Mend(t.Context(), doc, f.Code, f.Parts, "Do something else"); ok {
				t.Error("mended by what is not offered")
			}
			for _, by := range f.Mends {
				mended, ok := proof.Mend(t.Context(), doc, f.Code, f.Parts, by)
				if !ok {
					t.Errorf("%s was not done", by)
					continue
				}
				if _, faults := activity.Read(mended.Write()); faults != nil || find(mended) != nil {
					t.Errorf("after its mend %v, and %v", find(mended), faults)
				}
			}
		})
	}
}

func TestNothingIsRightYet(t *testing.T) {
	r := prove(t, base(t, `key: {"solutions":[{}]}`))
	if r.State != proof.NotDone || len(r.Findings) > 0 || !r.Solvable {
		t.Errorf("%+v", r)
	}
}

func TestASolutionThatIsImpossible(t *testing.T) {
	doc := base(t, "targets: ["+drawers+`,"holds":1}]`+"\n"+`key: {"solutions":[{"right":{"upper":{"all":true}}},{"right":{"upper":{"items":["pump"]}}}]}`)
	r := prove(t, doc)
	if r.Solvable || r.Count != "1" || r.Conflict == nil || r.Conflict.Solution != 0 || fmt.Sprint(r.Witness) != "map[upper:[pump]]" {
		t.Errorf("%+v", r.Solution)
	}
	// Either may stay at home. When the pump comes first it is put up half of the time, and
	// then nothing is open for the chain; when the chain comes first both choices must be
	// right: (1/2 + 1/4) / 2.
	if r.Chance.Valid != "3/8" || !r.Chance.Exact {
		t.Errorf("%+v", r.Chance)
	}
}

func TestChance(t *testing.T) {
	for _, c := range []struct{ name, fields, want string }{
		{"each in its drawer", "", "1/4 50.00"},
		{"with a distractor, home is a choice", `key: {"solutions":[{"right":{"upper":{"items":["chain"]}}}]}`, "1/9 33.33"},
		{"a full drawer is none", `targets: [{"id":"upper","holds":1,"frame":{"x":0,"y":0,"w":90,"h":90}},{"id":"lower","holds":1,"frame":{"x":100,"y":0,"w":90,"h":90}}]`, "1/2 50.00"},
		{"a lane takes any index", `targets: [{"id":"upper","ordered":true,"frame":{"x":0,"y":0,"w":90,"h":90}}]` + "\n" +
			`key: {"solutions":[{"right":{"upper":{"all":true}},"orders":[{"target":"upper","tiers":[["chain"],["pump"]]}]}]}`, "1/2 75.00"},
		{"the first attempt's share", `marks: {"shares":[60]}`, "1/4 30.00"},
	} {
		t.Run(c.name, func(t *testing.T) {
			got := prove(t, base(t, c.fields)).Chance
			if got.Valid+" "+got.MeanPercent != c.want || !got.Exact {
				t.Errorf("%s %s, want %s", got.Valid, got.MeanPercent, c.want)
			}
		})
	}
	// Twelve pieces in either of four drawers, each right in one of them: exactly where any
	// number goes into a drawer, drawn where three do.
	var items, targets, right []string
	for i := range 12 {
		items = append(items, fmt.Sprintf(`{"id":"i%d"}`, i))
		if i < 4 {
			targets = append(targets, fmt.Sprintf(`{"id":"t%d","frame":{"x":%d,"y":0,"w":90,"h":90}}`, i, 100*i))
			right = append(right, fmt.Sprintf(`"t%d":{"items":["i%d","i%d","i%d"]}`, i, i, i+4, i+8))
		}
	}
	join := func(list []string) string { return strings.Join(list, ",") }
	doc := base(t, "items: ["+join(items)+"]\ntargets: ["+join(targets)+"]\nkey: {\"solutions\":[{\"right\":{"+join(right)+"}}]}")
	if c := proof.New(t.Context(), doc).Chance(); c.Valid != "1/16777216" || c.MeanPercent != "25.00" || !c.Exact {
		t.Errorf("each by itself: %+v", c)
	}
	for i := range doc.Targets {
		doc.Targets[i].Holds = 3
	}
	c := proof.New(t.Context(), doc).Chance()
	if c.Exact || c.Interval == nil || c.Interval.MeanPercent[0] > 25 || c.Interval.MeanPercent[1] < 25 || c.Interval.Valid[1] <= 0 || c.Interval.Valid[1] > 0.1 {
		t.Errorf("drawn: %+v %+v", c, c.Interval)
	}
	if again := proof.New(t.Context(), doc).Chance(); again.MeanPercent != c.MeanPercent {
		t.Error("another draw another figure")
	}
}

// TestExamplesAreTrue plays the moves of every example: the reply is given after the
// last of them.
func TestExamplesAreTrue(t *testing.T) {
	doc := base(t, `play: {"attempts":3,"wrongPieces":"home","timeLimit":9000,"extension":150}
		hints: [{"text":"Look closely."}]
		replies: [{"id":"hello","moment":"opened"}, {"id":"swapped","moment":"checked","when":{"all":[{"item":"chain","in":"lower"},{"item":"pump","in":"upper"}]}}, {"id":"third","moment":"checked","when":{"all":[{"attempt":{"min":3}},{"outcome":"part"},{"target":"lower","is":"right"}]}}, {"id":"half","moment":"checked","when":{"any":[{"percent":{"min":50,"max":50}}]}}, {"id":"none","moment":"checked","when":{"none":[{"rightCount":{"min":1}},{"wrongCount":{"min":1}}]}}, {"id":"last","moment":"checked","when":{"left":{"max":0}}}, {"id":"placed","moment":"placed","when":{"all":[{"piece":{"items":["pump"]}},{"onto":["lower"]},{"result":"right"},{"item":"chain","is":"wrong"}]}}, {"id":"hint","moment":"hinted"}, {"id":"late","moment":"timeUp","when":{"homeCount":{"min":2}}}, {"id":"done","moment":"done","when":{"outcome":"wrong"}}]`)
	cover := proof.New(t.Context(), doc).Cover()
	game, err := play.New(doc)
	if err != nil {
		t.Fatal(err)
	}
	for _, r := range cover.Replies {
		if !r.Given {
			t.Errorf("no situation for %s", r.ID)
			continue
		}
		state := game.Open(1)
		given := state.Opening
		for _, m := range r.Example.Moves {
			var a play.Answer
			state, a = game.Move(state, m)
			given = a.Replies
		}
		found := false
		for _, g := range given {
			found = found || g.ID == r.ID
		}
		if !found || fmt.Sprint(state.Now.Names()) != fmt.Sprint(r.Example.Targets) {
			t.Errorf("%s is not given after %v", r.ID, r.Example.Moves)
		}
	}
}

func TestASimulatedClass(t *testing.T) {
	for _, c := range []struct {
		name, fields string
		low, high    int // how many of a hundred end with everything right, knowing half
	}{
		{"one attempt", "", 40, 70},
		{"three, seeing what is wrong", `play: {"attempts":3,"wrongPieces":"home","rightPieces":"hold"}`, 95, 100},
		{"three, seeing nothing", `play: {"attempts":3,"wrongPieces":"home","show":"never"}`, 60, 99},
		{"each at once", `play: {"check":"each","attempts":0,"wrongPieces":"home"}`, 100, 100},
		{"dealt one by one", `play: {"deal":"one","check":"full"}`, 40, 70},
		{"a check when all is placed", `play: {"checkWhen":"allPlaced"}`, 40, 70},
		{"handed in", `play: {"check":"none"}`, 0, 0},
		{"a lane, tried again", `play: {"attempts":4}` + "\n" + `targets: [{"id":"upper","ordered":true,"frame":{"x":20,"y":40,"w":260,"h":300}}]` + "\n" +
			`key: {"solutions":[{"right":{"upper":{"all":true}},"orders":[{"target":"upper","tiers":[["chain"],["pump"]]}]}]}`, 90, 100},
	} {
		t.Run(c.name, func(t *testing.T) {
			game, err := play.New(base(t, c.fields))
			if err != nil {
				t.Fatal(err)
			}
			all := proof.Simulate(game, proof.Learners{Number: 50, Ability: 100, Seed: 1}, nil)
			if all.Right != 50 && c.high > 0 {
				t.Errorf("%d of 50 who know everything were right", all.Right)
			}
			half := proof.Simulate(game, proof.Learners{Number: 100, Ability: 50, Seed: 1}, nil)
			if half.Right < c.low || half.Right > c.high {
				t.Errorf("%d of 100 were right", half.Right)
			}
			if again := proof.Simulate(game, proof.Learners{Number: 100, Ability: 50, Seed: 1}, nil); fmt.Sprint(again) != fmt.Sprint(half) {
				t.Error("the same seed, another class")
			}
			sum := 0
			for _, n := range half.Scores {
				sum += n
			}
			if sum != 100 || half.Number != 100 {
				t.Errorf("%d scores", sum)
			}
		})
	}
	game, _ := play.New(base(t, ""))
	if c := proof.Simulate(game, proof.Learners{Number: 1000, Ability: 50, Seed: 1}, func(done int) bool { return done < 10 }); c.Number != 10 {
		t.Errorf("stopped at %d", c.Number)
	}
}
