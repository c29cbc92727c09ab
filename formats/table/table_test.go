package table_test

import (
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/formats/table"
)

func TestReadsWhatSpreadsheetsCopyAndWrite(t *testing.T) {
	for name, text := range map[string]string{
		"tabs, with headings":     "Item\tTarget\nChain\tDrivetrain\nInner cable\tDrivetrain\tBrakes\nBell\n",
		"semicolons":              "Chain;Drivetrain\nInner cable;Drivetrain;Brakes\nBell;\n",
		"commas, quoted, CRLF":    "\ufeff\"Chain\",Drivetrain\r\nInner cable,\"Drivetrain\",Brakes\r\nBell,\r\n",
		"an item in two rows":     "Chain\tDrivetrain\nInner cable\tDrivetrain\nBell\t\nInner  cable\tBrakes\n",
		"large and small letters": "Chain\tDrivetrain\nInner cable\tdrivetrain\tBrakes\nBell\t\n",
		"blank rows":              "\nChain\tDrivetrain\n\nInner cable\tDrivetrain\tBrakes\n\t\nBell\n",
		"a cell over two lines":   "Chain\tDrivetrain\n\"Inner\ncable\"\tDrivetrain\tBrakes\nBell\n",
	} {
		got := table.Read(text, nil)
		if got.Faults != 0 || len(got.Items) != 3 || len(got.Targets) != 2 {
			t.Errorf("%s: %+v", name, got)
			continue
		}
		if got.Items[1].Name != "Inner cable" || strings.Join(got.Items[1].Right, "+") != "Drivetrain+Brakes" || len(got.Items[2].Right) != 0 {
			t.Errorf("%s: items %+v", name, got.Items)
		}
		if got.Targets[0] != (table.Bin{Name: "Drivetrain", Items: 2}) {
			t.Errorf("%s: targets %+v", name, got.Targets)
		}
	}
}

func TestRowsThatCannotBeReadAreNumberedCorrectedAndLeftOut(t *testing.T) {
	text := "Chain\tDrivetrain\n\tBrakes\nChain\tDrivetrain\n\"Rotor\tBrakes\nSaddle\tSeat\n" + strings.Repeat("x", 201) + "\tSeat"
	got := table.Read(text, nil)
	var faulty []int
	for _, r := range got.Rows {
		if r.Fault != "" {
			faulty = append(faulty, r.Number)
		}
	}
	if len(faulty) != 4 || faulty[0] != 2 || faulty[1] != 3 || faulty[2] != 4 || faulty[3] != 6 || got.Faults != 4 {
		t.Fatalf("faulty rows %v, want 2 3 4 6", faulty)
	}
	if len(got.Items) != 2 {
		t.Errorf("the rows that can be read make %d items, want 2", len(got.Items))
	}
	got = table.Read(text, []table.Edit{{Row: 2, Text: "Brake pad\tBrakes"}, {Row: 3, LeaveOut: true}, {Row: 4, Text: "Rotor\tBrakes"}, {Row: 6, LeaveOut: true}})
	if got.Faults != 0 || len(got.Items) != 4 || got.Targets[1] != (table.Bin{Name: "Brakes", Items: 2}) {
		t.Errorf("after correcting: %+v", got)
	}
}

// What is made of a table is a document that reads back, and is right when each
// item is put where its row says.
func TestSortMakesAPlayableActivity(t *testing.T) {
	doc := table.Read("Chain\tDrivetrain\nInner cable\tDrivetrain\tBrakes\nBell\n鈴\tBrakes\n", nil).Sort("Parts & more")
	back, faults := activity.Read(doc.Write())
	if faults != nil {
		t.Fatal(faults)
	}
	if back.ID != "parts-more" || back.Items[3].ID != "part" {
		t.Errorf("ids %q %q", back.ID, back.Items[3].ID)
	}
	game, err := play.New(back)
	if err != nil {
		t.Fatal(err)
	}
	state := game.Open(1)
	for i, m := range []play.Move{
		{Do: "place", Piece: "chain", Target: "drivetrain"}, {Do: "place", Piece: "inner-cable", Target: "brakes"},
		{Do: "place", Piece: "part", Target: "brakes"}, {Do: "check"},
	} {
		m.N = i + 1
		state, _ = game.Move(state, m)
	}
	if f := game.Final(state); f.Outcome != "right" || f.Score != "10.00" {
		t.Errorf("ended with %+v", f)
	}
}
