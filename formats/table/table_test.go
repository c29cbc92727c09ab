package table_test

import (
	"bytes"
	"errors"
	"fmt"
	"strings"
	"testing"

	"github.com/xuri/excelize/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/layout"
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

// What is too wide, too long or too much is told and costs nothing; the same table is the
// same each time.
func TestTablesAreBounded(t *testing.T) {
	wide := table.Read("Chain"+strings.Repeat("\tx", 60_000)+"\nBell\tFrame\n", nil)
	if wide.Faults != 1 || !strings.Contains(wide.Rows[0].Fault, "60001 cells") || len(wide.Rows[0].Text) > 3000 || len(wide.Items) != 1 {
		t.Errorf("a wide row: %d faults, %q", wide.Faults, wide.Rows[0].Fault)
	}
	long := table.Read(strings.Repeat("a\tb\n", 120_000), nil)
	if len(long.Rows) > table.MaxRows+1 {
		t.Errorf("a long table gives %d rows", len(long.Rows))
	}
	targets := "Chain"
	for i := range 150 {
		targets += fmt.Sprintf("\tt%d", i)
	}
	targets += "\nBell"
	for i := range 150 {
		targets += fmt.Sprintf("\tu%d", i)
	}
	if many := table.Read(targets, nil); len(many.Targets) > table.MaxTargets || many.Faults != 1 {
		t.Errorf("%d targets, %d faults", len(many.Targets), many.Faults)
	}
	rows := func(n, from int) string {
		text := "Item\tText\tReply when right\tReply when wrong\tCopies\tPoints\n"
		for i := range n {
			text += fmt.Sprintf("item %d\tx\tyes\tno\t%d\t%d\n", from+i, i%3*1000, i%5*900)
		}
		return text
	}
	doc := layout.New("sort", "Large")
	doc, _ = table.Merge(doc, rows(450, 0), nil, none{})
	var first string
	for range 200 {
		out, story := table.Merge(doc, rows(101, 1000), nil, none{})
		if len(out.Items) > 500 || story.Faults == 0 {
			t.Fatalf("%d items, %d faults", len(out.Items), story.Faults)
		}
		got := fmt.Sprintf("%s %+v", out.Write(), story)
		if first == "" {
			first = got
		} else if got != first {
			t.Fatal("the same table twice makes two activities")
		}
	}
}

func TestSheetsAreBounded(t *testing.T) {
	for cell, says := range map[string]string{"XFD1": "cells; a table has at most", "A1048576": "below row"} {
		f := excelize.NewFile()
		if err := errors.Join(f.SetCellValue("Sheet1", "A1", "Chain"), f.SetCellValue("Sheet1", cell, "x")); err != nil {
			t.Fatal(err)
		}
		var b bytes.Buffer
		if err := f.Write(&b); err != nil {
			t.Fatal(err)
		}
		if _, err := table.Text(b.Bytes()); err == nil || !strings.Contains(err.Error(), says) {
			t.Errorf("something in %s: %v", cell, err)
		}
	}
}

// A field stays one field, and no formula, where cells end at commas and where they end at
// semicolons.
func TestFieldsAreHarmless(t *testing.T) {
	var b strings.Builder
	l := table.NewLines(&b, ',')
	for _, text := range []string{"Lea", "=1+1", " =1+1", "a;=1+1", "a,=1+1", "say \"=1\"", "@sum", "-2", "+3", "\t=1", ""} {
		l.Text(text)
	}
	l.Bare("4.50")
	if err := errors.Join(l.End(), l.Flush()); err != nil {
		t.Fatal(err)
	}
	want := `"Lea","'=1+1","' =1+1","a;=1+1","a,=1+1","say ""=1""","'@sum","'-2","'+3","'` + "\t" + `=1","",4.50` + "\n"
	if b.String() != want {
		t.Errorf("\n got %q\nwant %q", b.String(), want)
	}
}

type none struct{}

func (none) Picture(string) (string, bool) { return "", false }
func (none) Sound(string) (string, bool)   { return "", false }
func (none) NameOf(string) string          { return "" }
