package edit_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
)

func note(t *testing.T) *activity.Doc {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"n","kind":"gaps",
		"scenery":[{"id":"text","type":"text","frame":{"x":10,"y":10,"w":600,"h":100}}],"key":{"solutions":[{}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return doc
}

func words(d *activity.Doc) string {
	var out []string
	for _, it := range d.Items {
		var in []string
		for i := range d.Targets {
			if d.Key.Solutions[0].RightCell(&d.Targets[i], &it) {
				in = append(in, d.Targets[i].ID)
			}
		}
		out = append(out, fmt.Sprintf("%s×%d in %s", it.Text, it.Copies, strings.Join(in, "+")))
	}
	return strings.Join(out, ", ")
}

// Prose with words in brackets becomes gaps, pieces and right cells; written again,
// only what is different changes.
func TestGapTextIsWrittenAsProse(t *testing.T) {
	doc, made, _, err := edit.Prose(note(t), "text", "Check the [[brakes]] first, then the [[tyres]]. Never ride without [[brakes]].")
	if err != nil {
		t.Fatal(err)
	}
	if got := words(doc); got != "brakes×2 in brakes+brakes-2, tyres×1 in tyres" {
		t.Errorf("made: %s", got)
	}
	if len(made.Targets) != 3 || len(made.Items) != 2 {
		t.Errorf("made %v", made)
	}
	if got := doc.Scenery[0].Text; got != "Check the [[brakes]] first, then the [[tyres]]. Never ride without [[brakes-2]]." {
		t.Errorf("the text: %s", got)
	}
	for _, x := range doc.Targets {
		if strings.Contains(x.Name+x.Label.Text, "brake") {
			t.Errorf("the gap's name %q tells the word", x.Name)
		}
		if x.Frame.W != doc.Targets[0].Frame.W || x.Holds != 1 {
			t.Errorf("%s is %v wide and holds %d", x.ID, x.Frame.W, x.Holds)
		}
	}
	whole(t, doc)

	// One gap less, one more; what stands keeps its target.
	doc, made, lost, err := edit.Prose(doc, "text", "Check the [[brakes]], then the tyres. Wear a [[helmet]]. Never ride without [[brakes-2]].")
	if err != nil {
		t.Fatal(err)
	}
	if got := words(doc); got != "brakes×2 in brakes+brakes-2, helmet×1 in helmet" {
		t.Errorf("written again: %s", got)
	}
	if !slices.Equal(made.Targets, []string{"helmet"}) || inWords(lost) != "1 correct cell" {
		t.Errorf("made %v, lost %v", made, lost)
	}
	whole(t, doc)

	// A gap that is deleted on the board leaves its word.
	doc, _ = edit.Remove(doc, activity.Selection{Targets: []string{"helmet"}})
	if got := doc.Scenery[0].Text; !strings.Contains(got, "Wear a helmet.") {
		t.Errorf("after the gap went: %s", got)
	}
	whole(t, doc)
	edit.EqualGaps(doc, false)
	if _, _, _, err := edit.Prose(doc, "nothing", ""); err == nil {
		t.Error("a text that is not there was written")
	}
}

// Labels come from the names of the spots, each right there alone.
func TestLabelsFromTheirSpots(t *testing.T) {
	doc, made := edit.ItemsOfTargets(workbench(t), []string{"box"})
	it := doc.Item(made.Items[0])
	if it.Name != "Box" || doc.Target("box").Label.Text != "" || !doc.Key.Solutions[0].RightCell(doc.Target("box"), it) || doc.Target("box").Holds != 1 {
		t.Errorf("made %+v of %+v", it, doc.Target("box"))
	}
	whole(t, doc)
}

// What is copied takes with it what is between its parts, and nothing else; pasted,
// it has ids of its own and counts as it did.
func TestPartsGoToAnotherActivity(t *testing.T) {
	from := workbench(t)
	copied := whole(t, edit.Keep(from, activity.Selection{Items: []string{"bell", "hub"}, Targets: []string{"lane"}}))
	if len(copied.Items) != 2 || len(copied.Targets) != 1 || len(copied.Scenery) != 0 || len(copied.Key.Solutions[0].Needs) != 0 {
		t.Fatalf("copied %s", copied.Write())
	}
	doc, made := edit.Insert(from, copied, 1000, 2000)
	doc = whole(t, doc)
	if got := fmt.Sprint(made); got != "{[bell-2 hub-2] [lane-2] []}" {
		t.Errorf("made %s", got)
	}
	sol := doc.Key.Solutions[0]
	if !sol.RightCell(doc.Target("lane-2"), doc.Item("bell-2")) || sol.RightCell(doc.Target("lane-2"), doc.Item("bell")) || len(sol.Orders) != 2 || sol.Orders[1].Tiers[0][0] != "bell-2" {
		t.Errorf("the key is %+v", sol)
	}
	if f := doc.Target("lane-2").Frame; f.X != 1000 || f.Y != 22000 {
		t.Errorf("it stands at %v", f)
	}
	// Scenery and gaps go with what they name.
	gaps, _, _, _ := edit.Prose(note(t), "text", "The [[chain]].")
	again := whole(t, edit.Keep(gaps, activity.Selection{Items: []string{"chain"}, Targets: []string{"chain"}, Scenery: []string{"text"}}))
	twice, _ := edit.Insert(again, again, 0, 0)
	if got := whole(t, twice).Scenery[1].Text; got != "The [[chain-2]]." {
		t.Errorf("the second text: %s", got)
	}
}

func TestOtherContentInTheSameBoard(t *testing.T) {
	doc := workbench(t)
	out := whole(t, edit.Swap(doc, []edit.Face{{Item: "chain", Name: "Lamp", Text: "Lamp", Picture: "lamp"}, {Target: "box", Name: "Front", Text: "Front"}, {Item: "nobody"}}))
	if it := out.Item("lamp"); it.Text != "Lamp" || it.Picture != "lamp" || it.Home == nil || len(it.Tags) != 2 {
		t.Errorf("the item is %+v", it)
	}
	if out.Target("front").Name != "Front" || !out.Key.Solutions[0].RightCell(out.Target("front"), out.Item("lamp")) {
		t.Error("the target or the key has changed")
	}
}

// No former name is left anywhere: in what learners are told, in hints, texts and tags; but
// what only looks like a name stays.
func TestOtherNamesEverywhere(t *testing.T) {
	doc := workbench(t)
	chain, box := doc.Item("chain"), doc.Target("box")
	was, place := chain.Name, box.Name
	doc.Title, doc.Instructions = "About "+was, "Put the "+strings.ToLower(was)+" in. Not the "+was+"ring."
	r := activity.NewReply("told", "checked")
	r.Say.Text = "{right} of {total}. " + was + " goes in " + place + ", [see](page:" + was + ")."
	doc.Replies = append(doc.Replies, r)
	doc.Hints = []activity.Hint{{Text: place + " comes last."}}
	text := activity.NewScenery("note", "text")
	text.Text = was + " [[" + doc.Targets[0].ID + "]]"
	doc.Scenery = append(doc.Scenery, text)
	chain.Tags = []string{was}
	out := edit.Swap(doc, []edit.Face{{Item: "chain", Name: "Lamp"}, {Target: "box", Name: was}})
	for _, x := range [][2]string{
		{out.Title, "About Lamp"},
		{out.Instructions, "Put the Lamp in. Not the " + was + "ring."},
		{out.Replies[len(out.Replies)-1].Say.Text, "{right} of {total}. Lamp goes in " + was + ", [see](page:" + was + ")."},
		{out.Hints[0].Text, was + " comes last."},
		{out.Scenery[len(out.Scenery)-1].Text, "Lamp [[" + out.Targets[0].ID + "]]"},
		{strings.Join(out.Item("lamp").Tags, " "), "Lamp"},
	} {
		if x[0] != x[1] {
			t.Errorf("%q, want %q", x[0], x[1])
		}
	}
}
