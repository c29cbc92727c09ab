package start_test

import (
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/layout"
	"keenmagpie/core/marks"
	"keenmagpie/formats/start"
)

// none is a workspace without media.
type none struct{}

func (none) Picture(string) (string, bool) { return "", false }
func (none) Sound(string) (string, bool)   { return "", false }
func (none) NameOf(string) string          { return "" }

var (
	hub  = edit.File{ID: "h", Name: "Hub", Width: 80000, Height: 60000}
	bell = edit.File{ID: "b", Name: "Bell", Width: 20000, Height: 10000}
	ring = edit.File{ID: "r", Name: "Ring", Sound: true}
)

// right lists what is right where.
func right(doc *activity.Doc) string {
	var out []string
	for i := range doc.Targets {
		var names []string
		for j := range doc.Items {
			if doc.Key.Solutions[0].RightCell(&doc.Targets[i], &doc.Items[j]) {
				names = append(names, doc.Items[j].Name)
			}
		}
		out = append(out, doc.Targets[i].Name+"="+strings.Join(names, "+"))
	}
	return strings.Join(out, " ")
}

// Whatever somebody has becomes what the kind makes of it, the samples go, and all of it
// can be played.
func TestActivitiesFromWhatThereIs(t *testing.T) {
	for _, x := range []struct {
		name, kind string
		have       start.Have
		want       string
	}{
		{"a table of groups", "sort", start.Have{Text: "Chain\tDrivetrain\nPads\tBrakes\nBell"}, "Drivetrain=Chain Brakes=Pads"},
		{"pairs", "match", start.Have{Text: "Chain\tDrives\nPads\tStop"}, "Drives=Chain Stop=Pads"},
		{"lines in their order", "sequence", start.Have{Text: "Open\n Thread \n\nClose"}, "From first to last=Open+Thread+Close"},
		{"labels", "label", start.Have{Text: "Rim\nHub\nSpoke"}, "Spot 1=Rim Spot 2=Hub Spot 3=Spoke"},
		{"labels of a picture", "label", start.Have{Text: "Rim\nHub\nSpoke", Files: []edit.File{hub}}, ""},
		{"a text", "gaps", start.Have{Text: "Check the [[brakes]] and the [[tyres]]."}, "Gap 1=brakes Gap 2=tyres"},
		{"a picture for the ground", "blank", start.Have{Files: []edit.File{hub}}, ""},
		{"a question over a picture", "question", start.Have{Files: []edit.File{hub}}, "Answer=Answer 1"},
		{"a question with its answers", "question", start.Have{Text: "Which stops a wheel?\nPads\nA bell\nA chain"}, "Answer=Pads"},
		{"files", "sort", start.Have{Files: []edit.File{hub, bell, ring}}, "Group A= Group B= Group C="},
		{"a table of pictures, and one for the board", "sort", start.Have{Text: "Bell\tWarn\nRing\tWarn", Files: []edit.File{bell, hub, ring}}, "Warn=Bell+Ring"},
		{"nothing", "blank", start.Have{}, ""},
	} {
		t.Run(x.name, func(t *testing.T) {
			doc := start.From(x.kind, "Mine", x.have, none{})
			if got := right(doc); got != x.want {
				t.Errorf("right: %s", got)
			}
			again, faults := activity.Read(doc.Full())
			if faults != nil {
				t.Fatal(faults)
			}
			if _, err := marks.NewJudge(again); err != nil {
				t.Error(err)
			}
		})
	}
	ordered := start.From("sequence", "Mine", start.Have{Text: "Open\nThread\nClose"}, none{})
	if got := fmt.Sprint(ordered.Key.Solutions[0].Orders[0].Tiers); got != "[[open] [thread] [close]]" {
		t.Errorf("the order: %s", got)
	}
	ground := start.From("blank", "Mine", start.Have{Files: []edit.File{hub}}, none{})
	if b := ground.Board; b.Background.Picture != "h" || b.Width != 80000 || b.Height != 60000 || len(ground.Items) != 0 {
		t.Errorf("the board: %+v with %d items", b, len(ground.Items))
	}
	small := start.From("blank", "Mine", start.Have{Files: []edit.File{bell}}, none{})
	if b := small.Board; b.Width != 120000 || b.Height != 60000 {
		t.Errorf("a small picture: %v × %v", b.Width, b.Height)
	}
	over := start.From("sort", "Mine", start.Have{Text: "Bell\tWarn\nRing\tHold", Files: []edit.File{bell, hub, ring}}, none{})
	if over.Board.Background.Picture != "h" || len(over.Items) != 2 || over.Items[1].Sound != "r" {
		t.Errorf("a table over a picture: %+v, %+v", over.Board.Background, over.Items)
	}
	if comma := start.From("sort", "Mine", start.Have{Text: "Brake, front\tStop\nBell\tWarn", Files: []edit.File{bell, {ID: "f", Name: "Brake, front"}}}, none{}); comma.Board.Background.Picture != "" || len(comma.Items) != 2 {
		t.Errorf("a name with a comma: %+v, %+v", comma.Board.Background, comma.Items)
	}
	if two := start.From("sort", "Mine", start.Have{Text: "Bell\tWarn", Files: []edit.File{bell, hub, {ID: "s", Name: "Saddle"}}}, none{}); two.Board.Background.Picture != "" || len(two.Items) != 3 {
		t.Errorf("two pictures that no row names: %+v, %+v", two.Board.Background, two.Items)
	}
	pictured := start.From("label", "Mine", start.Have{Files: []edit.File{hub}}, none{})
	if pictured.Board.Background.Picture != "h" || len(pictured.Scenery)+len(layout.Samples(pictured).Items) != 0 {
		t.Errorf("a picture to be labelled: %+v", pictured.Board)
	}
}
