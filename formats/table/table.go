// Package table reads rows of items and targets, as they are copied from a
// spreadsheet or stand in a CSV file, and makes a sort of them.
//
// A row is an item and where it is right, one target a cell; an item with no
// target belongs nowhere. The same item may come again with another target:
//
//	Chain ⇥ Drivetrain
//	Inner cable ⇥ Drivetrain ⇥ Brakes
//	Bell
//
// Cells are separated by tabs, semicolons or commas, whichever the first rows
// have. Rows that cannot be read are numbered, with the reason; they can be
// corrected or left out with an [Edit].
package table

import (
	"encoding/csv"
	"fmt"
	"regexp"
	"slices"
	"strings"
	"unicode/utf8"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/layout"
)

// What is read of a table: so many rows, cells of one row, and targets in all. They are
// what an activity can hold.
const (
	MaxRows    = 500
	MaxColumns = 201 // an item, and its targets
	MaxTargets = 200
)

// Edit replaces a row as it was read, or leaves it out.
type Edit struct {
	Row      int    `json:"row" doc:"The row's number, from 1"`
	Text     string `json:"text,omitempty" doc:"What the row should have been"`
	LeaveOut bool   `json:"leaveOut,omitempty"`
}

// Row is one row as read.
type Row struct {
	Number  int      `json:"number"`
	Text    string   `json:"text"`
	Item    string   `json:"item"`
	Targets []string `json:"targets" nullable:"false"`
	Fault   string   `json:"fault,omitempty"`
	LeftOut bool     `json:"leftOut,omitempty"`
}

// Table is what was read.
type Table struct {
	Separator string `json:"separator" enum:"tab,semicolon,comma"`
	Header    bool   `json:"header" doc:"The first row was taken as headings"`
	Rows      []Row  `json:"rows" nullable:"false"`
	Items     []Item `json:"items" nullable:"false" doc:"What would be made, in order"`
	Targets   []Bin  `json:"targets" nullable:"false"`
	Faults    int    `json:"faults" doc:"Rows that cannot be read"`
}

// Item is an item that would be made.
type Item struct {
	Name  string   `json:"name"`
	Right []string `json:"right" nullable:"false"`
}

// Bin is a target that would be made, with the number of items right in it.
type Bin struct {
	Name  string `json:"name"`
	Items int    `json:"items"`
}

var separators = []struct {
	name string
	char rune
}{{"tab", '\t'}, {"semicolon", ';'}, {"comma", ','}}

var headings = regexp.MustCompile(`(?i)^(items?|pieces?|words?)$`)
var targetHeadings = regexp.MustCompile(`(?i)^(targets?|places?|bins?|drawers?|right in)( \d+)?$`)

// Read reads the rows; of those beyond [MaxRows] it says only that they are there.
// Cost: linear in the text, and for each item and target that is kept a look at those
// before it.
func Read(text string, edits []Edit) Table {
	text = strings.ReplaceAll(strings.TrimPrefix(text, "\ufeff"), "\r\n", "\n")
	text = strings.ReplaceAll(text, "\r", "\n")
	t := Table{Separator: "tab", Rows: []Row{}, Items: []Item{}, Targets: []Bin{}}
	records := split(text)
	char := t.separate(records)
	edited := map[int]Edit{}
	for _, e := range edits {
		edited[e.Row] = e
	}
	for i, rec := range records {
		row := Row{Number: i + 1, Text: rec, Targets: []string{}}
		if e, ok := edited[row.Number]; ok {
			row.LeftOut = e.LeaveOut
			if e.Text != "" {
				row.Text = e.Text
			}
		}
		if read := len(t.Rows); read >= MaxRows && !row.LeftOut { // the others would say the same
			t.Faults++
			t.Rows = append(t.Rows, Row{Number: i + 1, Targets: []string{}, Text: abridged(rec), Fault: fmt.Sprintf("%d more rows; only %d are read", len(records)-i, MaxRows)})
			break
		}
		cells, fault := parse(row.Text, char)
		if i == 0 && fault == "" && len(cells) > 1 && headings.MatchString(cells[0]) && targetHeadings.MatchString(cells[1]) {
			t.Header = true
			continue
		}
		row.Fault = fault
		if fault != "" {
			row.Text = abridged(row.Text)
		} else {
			t.take(&row, cells)
		}
		if row.LeftOut {
			row.Fault = ""
		}
		if row.Fault != "" {
			t.Faults++
		}
		if row.Fault != "" || row.LeftOut || row.Item != "" {
			t.Rows = append(t.Rows, row)
		}
	}
	return t
}

// split makes records of lines. A quoted cell may go over several lines, as
// spreadsheets copy it; a mark that is never closed spoils its own line only.
func split(text string) []string {
	lines := strings.Split(strings.TrimRight(text, "\n \t"), "\n")
	var out []string
	for i := 0; i < len(lines); i++ {
		joined := lines[i]
		end := i
		for strings.Count(joined, `"`)%2 == 1 && end+1 < len(lines) && end-i < 20 {
			end++
			joined += "\n" + lines[end]
		}
		if strings.Count(joined, `"`)%2 == 0 {
			out, i = append(out, joined), end
		} else {
			out = append(out, lines[i])
		}
	}
	return out
}

func (t *Table) separate(records []string) rune {
	best, most := separators[0], 0
	for _, s := range separators {
		n := 0
		for _, rec := range records[:min(len(records), 20)] {
			if strings.ContainsRune(rec, s.char) {
				n++
			}
		}
		if n > most {
			best, most = s, n
		}
	}
	t.Separator = best.name
	return best.char
}

// abridged is the beginning of a row that is not read.
func abridged(text string) string {
	const most = 2000
	if len(text) > most {
		return strings.ToValidUTF8(text[:most], "") + "…"
	}
	return text
}

// cellsOf splits a record into its cells as they stand.
func cellsOf(text string, char rune) (cells []string, fault string) {
	if strings.TrimSpace(text) == "" {
		return nil, ""
	}
	if n := 1 + strings.Count(text, string(char)); n > MaxColumns && !strings.Contains(text, `"`) {
		return nil, tooWide(n)
	}
	r := csv.NewReader(strings.NewReader(text))
	r.Comma, r.FieldsPerRecord = char, -1
	cells, err := r.Read()
	if err != nil {
		if strings.Count(text, `"`)%2 == 1 {
			return nil, "a quotation mark is opened and not closed"
		}
		return nil, "a quotation mark stands in the middle of a cell"
	}
	if len(cells) > MaxColumns {
		return nil, tooWide(len(cells))
	}
	return cells, ""
}

func tooWide(n int) string {
	return fmt.Sprintf("the row has %d cells; at most %d are read", n, MaxColumns)
}

func parse(text string, char rune) (cells []string, fault string) {
	if cells, fault = cellsOf(text, char); fault != "" {
		return nil, fault
	}
	for i := range cells {
		cells[i] = strings.Join(strings.Fields(cells[i]), " ")
		if utf8.RuneCountInString(cells[i]) > 200 {
			return nil, fmt.Sprintf("cell %d has more than 200 characters", i+1)
		}
		if !utf8.ValidString(cells[i]) {
			return nil, fmt.Sprintf("cell %d is not text in UTF-8", i+1)
		}
	}
	return cells, ""
}

// take adds a row's item and targets to what would be made.
func (t *Table) take(row *Row, cells []string) {
	if len(cells) == 0 {
		return
	}
	row.Item = cells[0]
	for _, c := range cells[1:] {
		if c != "" && !slices.Contains(row.Targets, c) {
			row.Targets = append(row.Targets, c)
		}
	}
	switch {
	case row.LeftOut:
		return
	case row.Item == "" && len(row.Targets) == 0:
		return
	case row.Item == "":
		row.Fault = "the first cell, for the item, is empty"
		return
	}
	i := slices.IndexFunc(t.Items, func(x Item) bool { return strings.EqualFold(x.Name, row.Item) })
	if i < 0 {
		t.Items = append(t.Items, Item{row.Item, []string{}})
		i = len(t.Items) - 1
	} else if !slices.ContainsFunc(row.Targets, func(n string) bool { return !slices.Contains(t.Items[i].Right, t.bin(n)) }) {
		row.Fault = fmt.Sprintf("%s stands in an earlier row already, right in the same place", row.Item)
		return
	}
	for _, n := range row.Targets {
		b := t.bin(n)
		if b == "" && len(t.Targets) == MaxTargets {
			row.Fault = fmt.Sprintf("%s would be one more than the %d targets that an activity can have", n, MaxTargets)
			return
		}
		if b == "" {
			b = n
			t.Targets = append(t.Targets, Bin{Name: n})
		}
		if !slices.Contains(t.Items[i].Right, b) {
			t.Items[i].Right = append(t.Items[i].Right, b)
			t.Targets[slices.IndexFunc(t.Targets, func(x Bin) bool { return x.Name == b })].Items++
		}
	}
}

// bin finds a target by name, large and small letters alike.
func (t *Table) bin(name string) string {
	for _, b := range t.Targets {
		if strings.EqualFold(b.Name, name) {
			return b.Name
		}
	}
	return ""
}

// Sort makes a sorting activity of the table, laid out and ready to be played:
// shuffled, since rows usually come in the order of their targets; two attempts,
// wrong pieces go home, right ones are held.
func (t Table) Sort(title string) *activity.Doc {
	doc, _ := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"new","board":{"width":960,"height":720},"kind":"sort","key":{"solutions":[{}]},
		"play":{"shuffle":true,"attempts":2,"wrongPieces":"home","rightPieces":"hold","extension":200},"marks":{"shares":[100,50]}}`))
	doc.ID, doc.Title, doc.Instructions = activity.FreshID(map[string]bool{}, title), title, "Put each piece where it belongs."
	targetOf, taken := map[string]string{}, map[string]bool{}
	for _, b := range t.Targets {
		id := activity.FreshID(taken, b.Name)
		targetOf[b.Name] = id
		doc.Targets = append(doc.Targets, activity.NewTarget(id, b.Name))
	}
	right := map[string]activity.Selector{}
	taken = map[string]bool{}
	for _, it := range t.Items {
		id := activity.FreshID(taken, it.Name)
		x := activity.NewItem(id, it.Name)
		x.Size = edit.SizeFor((&activity.Doc{}), it.Name)
		doc.Items = append(doc.Items, x)
		for _, b := range it.Right {
			sel := right[targetOf[b]]
			sel.Items = append(sel.Items, id)
			right[targetOf[b]] = sel
		}
	}
	doc.Key.Solutions[0].Right = right
	layout.Fill(doc)
	return doc
}
