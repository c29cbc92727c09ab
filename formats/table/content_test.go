package table_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/layout"
	"keenmagpie/formats/table"
)

// files are two pictures and a sound.
type files struct{}

func (files) Picture(name string) (string, bool) {
	id := map[string]string{"chain.svg": "p1", "bell.png": "p2"}[strings.ToLower(name)]
	return id, id != ""
}
func (files) Sound(name string) (string, bool) { return "s1", name == "bell.mp3" }
func (files) NameOf(id string) string {
	return map[string]string{"p1": "chain.svg", "p2": "bell.png", "s1": "bell.mp3"}[id]
}

func story(m table.Merged) string {
	var out []string
	for _, r := range m.Rows {
		out = append(out, strings.TrimSpace(fmt.Sprintf("%d %s %s %s", r.Number, r.Name, r.Does, strings.Join(r.What, ","))))
	}
	return strings.Join(out, " | ")
}

const spreadsheet = "Item\tText\tTags\tPoints\tPicture\tRight in\tReply when right\n" +
	"Chain\t\tdrive, metal\t2\tchain.svg\tDrivetrain\tYes, it drives.\n" +
	"Cable\tInner cable\t\t\t\tDrivetrain; Brakes\t\n" +
	"Bell\tBell\t\t\tbell.gif\t\t\n" +
	"\t\t\t\t\t\t\n" +
	"Hub\tHub\t\tmany\t\tWheels\t\n"

// A table makes items, targets, right cells and replies; a row with a fault is left
// out and told by its number, and the rest are taken.
func TestATableBecomesContent(t *testing.T) {
	doc := layout.DropSamples(layout.New("sort", "Parts"), false)
	out, m := table.Merge(doc, spreadsheet, nil, files{})
	want := `2 Chain made | 3 Cable made | 4 Bell fault there is no picture called "bell.gif" in the workspace: take the file in first | 6 Hub fault points: "many" should be a whole number from 0 to 1000`
	if got := story(m); got != want {
		t.Errorf("rows: %s", got)
	}
	if m.Made != 2 || m.Faults != 2 || strings.Join(m.Targets, " ") != "Drivetrain Brakes" {
		t.Errorf("%+v", m)
	}
	chain := out.Items[0]
	if chain.Weight != 2 || chain.Picture != "p1" || strings.Join(chain.Tags, " ") != "drive metal" {
		t.Errorf("the chain: %+v", chain)
	}
	if said := edit.SaidAt(out, edit.Slot{Item: chain.ID, Result: "right", Moment: "placed"}); said == nil || said.Say.Text != "Yes, it drives." || said.Tone != "right" {
		t.Errorf("replies: %+v", out.Replies)
	}
	if again, faults := activity.Read(out.Full()); faults != nil || len(again.Targets) != 2 {
		t.Errorf("what was made is refused: %v", faults)
	}

	// Exported and taken in again it changes nothing, as each kind of file.
	rows := table.Export(out, files{})
	if got := strings.Join(rows[0], " "); got != "Item Text Tags Points Picture Right in Reply when right" {
		t.Errorf("heads: %s", got)
	}
	for _, kind := range table.Kinds {
		var file bytes.Buffer
		if err := table.Write(&file, kind, rows); err != nil {
			t.Fatal(err)
		}
		text, err := table.Text(file.Bytes())
		if err != nil {
			t.Fatal(err)
		}
		same, m := table.Merge(out, text, nil, files{})
		if m.Same != 2 || m.Faults+m.Changed+m.Made != 0 || string(same.Write()) != string(out.Write()) {
			t.Errorf("%s: %s", kind, story(m))
		}
	}

	// Changed rows say what is different; what the table is silent of stays.
	next, m := table.Merge(out, "Item\tPoints\tRight in\tReply when right\nchain\t3\tBrakes\tNo longer.\nCable\t\tDrivetrain; Brakes\t\n", nil, files{})
	if got := story(m); got != "2 chain changed points,right in,reply when right | 3 Cable same" {
		t.Errorf("changes: %s", got)
	}
	if next.Items[0].Picture != "p1" || next.Items[0].Weight != 3 || edit.SaidOf(next, "chain", "right").Text != "No longer." {
		t.Errorf("the chain now: %+v", next.Items[0])
	}
}

// Columns are recognised by their headings, without them an item and its targets;
// each can be given another meaning.
func TestColumnsAreRecognisedAndAssigned(t *testing.T) {
	empty := layout.New("sort", "Parts")
	for _, c := range []struct {
		text   string
		assign []string
		want   string
	}{
		{"Chain,Drivetrain\nBell,", nil, "name right"},
		{"Term;Category;Image\nChain;drive;chain.svg", nil, "name tags picture"},
		{"Item\tStrange\tTarget 1\tTarget 2\nx\ty\tz\t", nil, "name  right right"},
		{"Chain\tA thing that drives", []string{"?", "alt"}, "name alt"},
		{"", nil, ""},
	} {
		_, m := table.Merge(empty, c.text, c.assign, files{})
		if got := strings.Join(m.Columns, " "); got != c.want {
			t.Errorf("%q: %q, want %q", c.text, got, c.want)
		}
	}
}

func TestFilesAreReadAsText(t *testing.T) {
	for name, c := range map[string]struct{ body, want, fault string }{
		"UTF-8":         {"\ufeffa\tb", "a\tb", ""},
		"UTF-16":        {"\xff\xfea\x00\t\x00\xe4\x00", "a\tä", ""},
		"UTF-16 turned": {"\xfe\xff\x00a\x00\t\x00\xe4", "a\tä", ""},
		"a byte each":   {"a\t\xe4", "a\tä", ""},
		"an old sheet":  {"\xd0\xcf\x11\xe0rest", "", "old kind"},
		"a picture":     {"\x89PNG\x00\x00", "", "not a table"},
		"a broken zip":  {"PK\x03\x04rest", "", "cannot be read"},
	} {
		t.Run(name, func(t *testing.T) {
			got, err := table.Text([]byte(c.body))
			if got != c.want || (err == nil) != (c.fault == "") || err != nil && !strings.Contains(err.Error(), c.fault) {
				t.Errorf("%q, %v", got, err)
			}
		})
	}
	// A cell that a spreadsheet would reckon stays a text, there and back.
	var file bytes.Buffer
	if err := table.Write(&file, "csv", [][]string{{"Item", "Text"}, {"Sum", "=1+1"}}); err != nil || !strings.Contains(file.String(), "'=1+1") {
		t.Errorf("%q, %v", file.String(), err)
	}
	out, _ := table.Merge(layout.New("sort", "X"), file.String(), nil, files{})
	if out.Items[0].Text != "=1+1" {
		t.Errorf("back again: %q", out.Items[0].Text)
	}
}

// Samples that a new activity starts with go when the first own rows come, and what comes
// is laid out as the kind asks; what somebody has made of a sample stays.
func TestSamplesGo(t *testing.T) {
	for kind, want := range map[string]string{"sort": "3 items in Drivetrain Brakes", "match": "3 items in Drivetrain Brakes"} {
		out, _ := table.Merge(layout.New(kind, "Parts"), "Item\tTarget\nChain\tDrivetrain\nPads\tBrakes\nBell\t\n", nil, files{})
		var names []string
		for _, x := range out.Targets {
			names = append(names, x.Name)
		}
		if got := fmt.Sprintf("%d items in %s", len(out.Items), strings.Join(names, " ")); got != want {
			t.Errorf("%s: %s", kind, got)
		}
		if !layout.Follows(out) {
			t.Errorf("%s is not laid out", kind)
		}
		if kind == "match" && (out.Targets[0].Label.Side != "left" || out.Targets[0].Holds != 1) {
			t.Errorf("a target of a match: %+v", out.Targets[0])
		}
		if _, faults := activity.Read(out.Full()); faults != nil {
			t.Errorf("%s: %v", kind, faults)
		}
	}
	doc := layout.New("sort", "Parts")
	doc.Items[0].Name, doc.Targets[0].Name = "Mine", "My group"
	out, _ := table.Merge(doc, "Item\tTarget\nChain\tGroup B\n", nil, files{})
	if len(out.Items) != 2 || out.Items[0].Name != "Mine" || len(out.Targets) != 3 {
		t.Errorf("%d items, %d targets", len(out.Items), len(out.Targets))
	}
}
