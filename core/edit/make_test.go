package edit_test

import (
	"fmt"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/core/message"
)

// workbench is a document in which everything names something else.
const head = `{"format":"keen-magpie/activity","version":1,"id":"a",`

// workbench is a small document with something of everything in it.
func workbench(t testing.TB) *activity.Doc {
	t.Helper()
	doc, faults := activity.Read([]byte(head + `"items":[{"id":"chain","name":"Chain","text":"Chain","tags":["drive","spare"],"home":{"x":10,"y":20}},{"id":"bell","picture":"pic","tags":["spare"]},{"id":"hub","name":"Hub"}],
		"targets":[{"id":"box","name":"Box","frame":{"x":0,"y":0,"w":100,"h":100},"lets":{"all":true,"except":["bell"]}},{"id":"lane","ordered":true,"frame":{"x":0,"y":200,"w":300,"h":60}}],
		"scenery":[{"id":"note","type":"picture","picture":"pic","alt":"A note","frame":{"x":5,"y":6,"w":70,"h":80}}],"order":["note","chain","box"],
		"replies":[{"id":"a","moment":"placed","when":{"any":[{"item":"chain","in":"box"}]}},{"id":"b","moment":"placed","when":{"piece":{"tags":["spare"]}},"point":["chain","right"]},{"id":"c","moment":"done","when":{"target":"lane","is":"right"}}],
		"marks":{"cells":{"chain/box":{"weight":2}}},
		"key":{"solutions":[{"right":{"box":{"items":["chain"]},"lane":{"items":["bell","hub"]}},"needs":[{"target":"box","of":{"items":["chain"]},"min":1}],
			"orders":[{"target":"lane","tiers":[["bell"],["hub"]]}]}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return doc
}

func whole(t testing.TB, doc *activity.Doc) *activity.Doc {
	t.Helper()
	again, faults := activity.Read(doc.Full())
	if faults != nil {
		t.Fatalf("what was made is refused: %v", faults)
	}
	return again
}

// inWords is what went with an act, or what it told, in a row.
func inWords(said []message.Sentence) string {
	words := make([]string, len(said))
	for i, s := range said {
		words[i] = s.Message
	}
	return strings.Join(words, ", ")
}

func TestRemovingTakesWithItWhatNamesIt(t *testing.T) {
	for name, c := range map[string]struct {
		gone activity.Selection
		lost string
	}{
		"an item":            {activity.Selection{Items: []string{"chain"}}, "1 correct cell, 1 need or order, the marks of Chain in Box, 1 reply"},
		"an item of a lane":  {activity.Selection{Items: []string{"bell"}}, "1 correct cell"},
		"a target":           {activity.Selection{Targets: []string{"lane"}}, "2 correct cells, 1 need or order, 1 reply"},
		"scenery":            {activity.Selection{Scenery: []string{"note"}}, ""},
		"everything":         {activity.Selection{Items: []string{"chain", "bell", "hub"}, Targets: []string{"box", "lane"}}, "3 correct cells, 2 needs and orders, the marks of Chain in Box, 2 replies"},
		"nothing that there": {activity.Selection{Items: []string{"nobody"}}, ""},
	} {
		t.Run(name, func(t *testing.T) {
			doc := workbench(t)
			before := string(doc.Write())
			out, lost := edit.Remove(doc, c.gone)
			if got := inWords(lost); got != c.lost {
				t.Errorf("lost %s, want %s", got, c.lost)
			}
			out = whole(t, out)
			for _, id := range slices.Concat(c.gone.Items, c.gone.Targets, c.gone.Scenery) {
				if strings.Contains(string(out.Write()), `"`+id+`"`) {
					t.Errorf("%s is still named in %s", id, out.Write())
				}
			}
			if string(doc.Write()) != before {
				t.Error("the document before was changed")
			}
		})
	}
}

func TestACopyCountsAsItsOriginal(t *testing.T) {
	doc := workbench(t)
	out, made := edit.Duplicate(doc, activity.Selection{Items: []string{"chain"}, Targets: []string{"box"}, Scenery: []string{"note"}})
	if fmt.Sprint(made) != "{[chain-2] [box-2] [note-2]}" {
		t.Fatalf("%v", made)
	}
	out = whole(t, out)
	cells := out.Cells()
	if got := fmt.Sprint(cells.Right[0]["box"], cells.Right[0]["box-2"], cells.Lets["box-2"]); got != "[chain chain-2] [chain chain-2] [chain chain-2 hub]" {
		t.Errorf("cells: %s", got)
	}
	if c := out.Item("chain-2"); *c.Home != (activity.Point{X: 3400, Y: 4400}) || out.Items[1].ID != "chain-2" {
		t.Errorf("the copy stands at %v", c.Home)
	}
	if f := out.Target("box-2").Frame; f.X != 2400 || f.Y != 2400 {
		t.Errorf("the copied target stands at %v", f)
	}
}

func TestRolesChange(t *testing.T) {
	doc := workbench(t)
	out, made, lost := edit.Recast(doc, activity.Selection{Items: []string{"bell", "chain"}}, "scenery")
	out = whole(t, out)
	s := out.Scenery[len(out.Scenery)-2:]
	// The chain had a place; the bell, from the tray, lies in the middle.
	if len(made.Scenery) != 2 || s[0].Text != "Chain" || s[0].Frame.X != 1000 || s[1].Type != "picture" || s[1].Frame.X != 54000 || len(lost) == 0 {
		t.Errorf("to scenery: %v %+v, lost %v", made, s, lost)
	}
	out, made, _ = edit.Recast(doc, activity.Selection{Scenery: []string{"note"}, Targets: []string{"box"}}, "item")
	out = whole(t, out)
	if fmt.Sprint(made.Items) != "[box a-note]" {
		t.Fatalf("to items: %v", made)
	}
	if it := out.Item("a-note"); it.Picture != "pic" || it.Size.W != 7000 || it.Home.X != 500 {
		t.Errorf("the picture as item: %+v", it)
	}
	out, made, _ = edit.Recast(doc, activity.Selection{Items: []string{"chain"}}, "target")
	if f := whole(t, out).Target(made.Targets[0]).Frame; f.X != 1000 || f.W != 12000 {
		t.Errorf("to a target: %v", f)
	}
}

func TestATagIsRenamedEverywhere(t *testing.T) {
	doc := workbench(t)
	doc.Items[0].Tags = []string{"drive", "new", "spare"} // both names, apart
	out := whole(t, edit.RenameTag(doc, "spare", "drive"))
	if strings.Contains(string(out.Write()), "spare") || fmt.Sprint(out.Items[0].Tags, out.Replies[1].When.Piece.Tags) != "[drive new] [drive]" {
		t.Errorf("%s", out.Write())
	}
}

func TestNewPartsHaveIdsOfTheirOwn(t *testing.T) {
	doc := workbench(t)
	out, made := edit.AddItems(doc, []string{"Chain", "Chain", "", "Öl & Fett"})
	if fmt.Sprint(made.Items) != "[chain-2 chain-3 part l-fett]" || whole(t, out).Item("chain-3").Text != "Chain" {
		t.Errorf("%v", made)
	}
	out, made = edit.AddTargets(doc, []string{"Box", "Bin"})
	if out = whole(t, out); fmt.Sprint(made.Targets) != "[box-2 bin]" || !out.Target("bin").Lets.All {
		t.Errorf("%v", made)
	}
}

func TestAllMediaAreFound(t *testing.T) {
	doc, faults := activity.Read([]byte(head + `"board":{"background":{"picture":"b"}},"items":[{"id":"x","picture":"p","sound":"s","looks":{"right":{"picture":"l"}}},{"id":"y","picture":"p"}],
		"scenery":[{"id":"n","type":"picture","picture":"n","frame":{"x":0,"y":0,"w":1,"h":1}}],"hints":[{"picture":"h"}],"replies":[{"id":"r","moment":"done","say":{"picture":"r","sound":"t"}}],` + `"key":{"solutions":[{}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	if got := fmt.Sprint(doc.Media()); got != "[b h l n p r s t]" {
		t.Error(got)
	}
}

// However they come, one by one or together, new targets lie clear of each other.
func TestNewTargetsHaveRoomOfTheirOwn(t *testing.T) {
	for _, n := range []int{1, 4, 12, 40} {
		doc := &activity.Doc{Board: activity.Board{Width: 120000, Height: 72000}}
		for i := range n {
			doc, _ = edit.AddTargets(doc, []string{fmt.Sprint("T", i)})
		}
		board := geometry.Rect{W: 120000, H: 72000}
		for i, a := range doc.Targets {
			if !board.Covers(a.Frame) {
				t.Errorf("of %d, %v is off the board", n, a.Frame)
			}
			for _, b := range doc.Targets[i+1:] {
				if a.Frame.X < b.Frame.X+b.Frame.W && b.Frame.X < a.Frame.X+a.Frame.W && a.Frame.Y < b.Frame.Y+b.Frame.H && b.Frame.Y < a.Frame.Y+a.Frame.H {
					t.Fatalf("of %d, %v and %v lie over each other", n, a.Frame, b.Frame)
				}
			}
		}
	}
}

// What stands on a board becomes the answer: a target that is not seen under each piece, of
// its shape, right for it alone; the pieces go into the tray.
func TestTargetsUnderWhatStands(t *testing.T) {
	doc := whole(t, layout.New("blank", "Discs"))
	disc := activity.NewScenery("ellipse-2", "ellipse")
	disc.Frame = &geometry.Rect{X: 10000, Y: 20000, W: 8000, H: 8000}
	doc.Scenery = append(doc.Scenery, disc)
	hub := activity.NewItem("hub", "Hub")
	hub.Home = &activity.Point{X: 30000, Y: 20000}
	loose := activity.NewItem("loose", "Loose")
	doc.Items = append(doc.Items, hub, loose)
	out, made, lost := edit.TargetsUnder(doc, activity.Selection{Items: []string{"hub", "loose"}, Scenery: []string{"ellipse-2"}})
	whole(t, out)
	if len(out.Scenery) != len(doc.Scenery)-1 || len(made.Items) != 3 || len(made.Targets) != 2 || len(lost) != 0 {
		t.Fatalf("%+v, lost %v", made, lost)
	}
	for i, want := range []struct {
		name  string
		shape activity.Shape
	}{{"Hub", "rect"}, {"Ellipse 2", "ellipse"}} {
		t.Run(want.name, func(t *testing.T) {
			x := out.Target(made.Targets[i])
			if x.Name != want.name || x.Shape != want.shape || x.Shows != "never" || x.Holds != 1 {
				t.Errorf("%+v", x)
			}
			for j := range out.Items {
				it := &out.Items[j]
				if right := out.Key.Solutions[0].RightCell(x, it); right != (it.Name == want.name) || it.Home != nil {
					t.Errorf("%s in %s: %v, home %v", it.Name, x.Name, right, it.Home)
				}
			}
		})
	}
	if f := out.Target(made.Targets[1]).Frame; f != *disc.Frame {
		t.Errorf("the disc's spot: %v", f)
	}
	if doc.Items[0].Home == nil {
		t.Error("the document itself was changed")
	}
}
