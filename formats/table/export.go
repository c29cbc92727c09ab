package table

import (
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
)

// Export is the content of an activity as rows, headings first: what [Merge] takes
// in again without a change. Columns that no item has anything in are left out, but
// for the item and where it is right.
func Export(doc *activity.Doc, files Files) [][]string {
	cells := make([][]string, len(doc.Items))
	for i := range doc.Items {
		cells[i] = describe(doc, &doc.Items[i], files)
	}
	usual := map[string]string{"copies": "1", "points": "1", "penalty": "0"}
	rows := make([][]string, len(doc.Items)+1)
	for k, c := range Columns {
		used := c.Key == "name" || c.Key == "text" || c.Key == "right"
		for _, row := range cells {
			used = used || row[k] != usual[c.Key]
		}
		if !used {
			continue
		}
		rows[0] = append(rows[0], c.Title)
		for i, row := range cells {
			rows[i+1] = append(rows[i+1], row[k])
		}
	}
	return rows
}

// describe is what each of the [Columns] says of an item.
func describe(doc *activity.Doc, it *activity.Item, files Files) []string {
	var right []string
	for i := range doc.Targets {
		if doc.Key.Solutions[0].RightCell(&doc.Targets[i], it) {
			right = append(right, doc.Targets[i].Name)
		}
	}
	return []string{it.Name, it.Text, it.Alt, strings.Join(it.Tags, ", "), strconv.Itoa(it.Copies), strconv.Itoa(it.Weight),
		strconv.Itoa(it.Penalty), files.NameOf(it.Picture), files.NameOf(it.Sound), strings.Join(right, "; "),
		edit.SaidOf(doc, it.ID, activity.ResultRight).Text, edit.SaidOf(doc, it.ID, activity.ResultWrong).Text}
}
