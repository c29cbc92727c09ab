package table

import (
	"cmp"
	"fmt"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
)

// Columns are what a column of a content table can mean, with the heading under
// which it is exported.
var Columns = []struct{ Key, Title string }{
	{"name", "Item"}, {"text", "Text"}, {"alt", "Alternative text"}, {"tags", "Tags"}, {"copies", "Copies"},
	{"points", "Points"}, {"penalty", "Penalty"}, {"picture", "Picture"}, {"sound", "Sound"}, {"right", "Right in"},
	{"whenRight", "Reply when right"}, {"whenWrong", "Reply when wrong"},
}

// recognised are headings that people write over such columns.
var recognised = map[string]*regexp.Regexp{
	"name":      regexp.MustCompile(`(?i)^(items?|names?|pieces?|terms?)$`),
	"text":      regexp.MustCompile(`(?i)^(texts?|words?|face)$`),
	"alt":       regexp.MustCompile(`(?i)^(alt|alt(ernative)? texts?|description)$`),
	"tags":      regexp.MustCompile(`(?i)^(tags?|categor(y|ies)|topics?)$`),
	"copies":    regexp.MustCompile(`(?i)^(copies|count|number)$`),
	"points":    regexp.MustCompile(`(?i)^(points?|weights?|marks?)$`),
	"penalty":   regexp.MustCompile(`(?i)^(penalt(y|ies)|minus)$`),
	"picture":   regexp.MustCompile(`(?i)^(pictures?|images?|picture files?|files?)$`),
	"sound":     regexp.MustCompile(`(?i)^(sounds?|audio|sound files?)$`),
	"right":     regexp.MustCompile(`(?i)^(right in|targets?|places?|bins?|groups?|answers?)( \d+)?$`),
	"whenRight": regexp.MustCompile(`(?i)^(reply when right|right reply|feedback when right|feedback)$`),
	"whenWrong": regexp.MustCompile(`(?i)^(reply when wrong|wrong reply|feedback when wrong)$`),
}

// Files finds the media of a workspace by the name of their file; sounds and
// pictures apart.
type Files interface {
	Picture(name string) (id string, ok bool)
	Sound(name string) (id string, ok bool)
	NameOf(id string) string
}

// Merged is what a table does to an activity.
type Merged struct {
	// Columns is what each column is taken for; "" is left out.
	Columns []string    `json:"columns" nullable:"false"`
	Heads   []string    `json:"heads" nullable:"false" doc:"The first row, where it is headings"`
	Rows    []MergedRow `json:"rows" nullable:"false"`
	Targets []string    `json:"targets" nullable:"false" doc:"Targets that are new"`
	Made    int         `json:"made"`
	Changed int         `json:"changed"`
	Same    int         `json:"same"`
	Faults  int         `json:"faults"`
}

// MergedRow is what one row does.
type MergedRow struct {
	Number int      `json:"number"`
	Name   string   `json:"name"`
	Does   string   `json:"does" enum:"made,changed,same,fault"`
	What   []string `json:"what" nullable:"false" doc:"The fields that change, or what is wrong"`
	item   string   // its id, where it was taken
}

// Merge takes the rows of a table into an activity. A row whose name is that of an
// item changes that item, in what the table has columns for; any other row is a new
// item. assign says what columns mean, where that is not to be recognised; rows with
// a fault are left out, and told. Everything that no row speaks of stays as it is.
// Cost: linear, times the number of items.
func Merge(doc *activity.Doc, text string, assign []string, files Files) (*activity.Doc, Merged) {
	out := doc.Clone()
	m := Merged{Columns: []string{}, Heads: []string{}, Rows: []MergedRow{}, Targets: []string{}}
	text = strings.NewReplacer("\r\n", "\n", "\r", "\n").Replace(strings.TrimPrefix(text, "\ufeff"))
	records := split(text)
	char := new(Table).separate(records)
	laidOut, follows := len(out.Targets) > 0, layout.Follows(doc)
	spoken := []string{} // of items and targets in rows that were taken
	for i, text := range records {
		cells, fault := record(text, char)
		if fault == "" && len(cells) == 0 {
			continue
		}
		if len(m.Columns) == 0 && fault == "" {
			m.recognise(cells, assign)
			if len(m.Heads) > 0 {
				continue
			}
		}
		var row MergedRow
		if fault == "" && i > MaxRows {
			m.Faults++
			m.Rows = append(m.Rows, MergedRow{Number: i + 1, Does: "fault", What: []string{fmt.Sprintf("%d more rows; only %d are read", len(records)-i, MaxRows)}})
			break
		}
		if fault == "" {
			row, fault = m.take(out, cells, files)
		}
		switch {
		case fault != "":
			row.Does, row.What = "fault", []string{fault}
			m.Faults++
		case row.Does == "made":
			m.Made++
		case row.Does == "changed":
			m.Changed++
		default:
			m.Same++
		}
		row.Number = i + 1
		m.Rows = append(m.Rows, row)
		if row.item != "" {
			spoken = append(spoken, row.item)
		}
	}
	for _, t := range out.Targets[len(doc.Targets):] {
		m.Targets = append(m.Targets, t.Name)
	}
	if m.Made > 0 || len(m.Targets) > 0 {
		for i := range out.Targets {
			if slices.ContainsFunc(out.Items, func(it activity.Item) bool {
				return slices.Contains(spoken, it.ID) && out.Key.Solutions[0].RightCell(&out.Targets[i], &it)
			}) {
				spoken = append(spoken, out.Targets[i].ID)
			}
		}
		out = layout.DropSamples(out, len(m.Targets) == 0, spoken...)
	}
	switch {
	case follows && (m.Made > 0 || len(m.Targets) > 0):
		layout.Fill(out)
	case !laidOut && len(out.Targets) > 0:
		layout.Start(out)
	}
	return out, m
}

// recognise finds out what the columns mean: as assigned, else by their headings,
// else an item and then targets.
func (m *Merged) recognise(cells, assign []string) {
	heads := 0
	for _, cell := range cells {
		key := ""
		for _, c := range Columns {
			if recognised[c.Key].MatchString(strings.TrimSpace(cell)) {
				key = c.Key
				heads++
				break
			}
		}
		m.Columns = append(m.Columns, key)
	}
	switch {
	case heads*2 > len(cells), heads > 0 && m.Columns[0] == "name":
		m.Heads = cells
	default:
		for i := range m.Columns {
			m.Columns[i] = "right"
		}
		m.Columns[0] = "name"
	}
	for i, key := range assign {
		if i < len(m.Columns) && key != "?" {
			m.Columns[i] = key
		}
	}
}

// record splits a row into its cells; a text keeps its line ends.
func record(text string, char rune) ([]string, string) {
	cells, fault := cellsOf(text, char)
	if fault != "" {
		return nil, fault
	}
	empty := true
	for i := range cells {
		cells[i] = strings.TrimSpace(cells[i])
		cells[i] = unmarked(cells[i])
		if !utf8.ValidString(cells[i]) {
			return nil, fmt.Sprintf("cell %d is not text in UTF-8", i+1)
		}
		if utf8.RuneCountInString(cells[i]) > 1000 {
			return nil, fmt.Sprintf("cell %d has more than 1000 characters", i+1)
		}
		empty = empty && cells[i] == ""
	}
	if empty {
		return nil, ""
	}
	return cells, ""
}

// take does what a row says to the document, or, with a fault, nothing.
func (m *Merged) take(doc *activity.Doc, cells []string, files Files) (row MergedRow, fault string) {
	values := map[string][]string{}
	for i, key := range m.Columns {
		if key != "" && i < len(cells) {
			values[key] = append(values[key], cells[i])
		}
	}
	first := func(key string) (string, bool) {
		list, has := values[key]
		return strings.Join(list, "\n"), has
	}
	name, _ := first("name")
	if name == "" {
		name, _ = first("text")
	}
	row = MergedRow{Name: name, Does: "same", What: []string{}}
	if name == "" {
		return row, "there is no name in this row"
	}
	// All that can be wrong comes first, so that a row is taken whole or not at all.
	for _, key := range []string{"name", "tags", "right"} {
		for _, v := range values[key] {
			if utf8.RuneCountInString(v) > 200 {
				return row, "a name, tag or target has more than 200 characters"
			}
		}
	}
	numbers := map[string]int{}
	for _, c := range []struct {
		key         string
		least, most int
	}{{"copies", 1, 99}, {"points", 0, 1000}, {"penalty", 0, 1000}} {
		v, ok := first(c.key)
		if !ok || v == "" {
			continue
		}
		n, err := strconv.Atoi(v)
		if err != nil || n < c.least || n > c.most {
			return row, fmt.Sprintf("%s: %q should be a whole number from %d to %d", c.key, v, c.least, c.most)
		}
		numbers[c.key] = n
	}
	media := map[string]string{}
	for _, c := range []struct {
		key  string
		find func(string) (string, bool)
	}{{"picture", files.Picture}, {"sound", files.Sound}} {
		key := c.key
		v, ok := first(key)
		if !ok {
			continue
		}
		id, there := "", true
		if v != "" {
			id, there = c.find(v)
		}
		if !there {
			return row, fmt.Sprintf("there is no %s called %q in the workspace: take the file in first", key, v)
		}
		media[key] = id
	}

	at := slices.IndexFunc(doc.Items, func(it activity.Item) bool { return strings.EqualFold(it.Name, name) })
	if at < 0 && len(doc.Items) >= MaxRows {
		return row, fmt.Sprintf("it would be one more than the %d items that an activity can have", MaxRows)
	}
	if n := newTargets(doc, values["right"]); len(doc.Targets)+n > MaxTargets {
		return row, fmt.Sprintf("its targets would be more than the %d that an activity can have", MaxTargets)
	}
	if at < 0 {
		row.Does = "made"
		taken := map[string]bool{}
		for _, it := range doc.Items {
			taken[it.ID] = true
		}
		it := activity.NewItem(activity.FreshID(taken, name), name)
		it.Size = edit.SizeFor(doc, name)
		doc.Items = append(doc.Items, it)
		at = len(doc.Items) - 1
	}
	id := doc.Items[at].ID
	row.item = id
	before := describe(doc, &doc.Items[at], files)
	it := &doc.Items[at]
	if v, ok := first("text"); ok {
		it.Text = v
	}
	if v, ok := first("alt"); ok {
		it.Alt = v
	}
	if v, ok := first("tags"); ok {
		it.Tags = tagList(v)
	}
	set := func(key string, to *int) {
		if n, ok := numbers[key]; ok {
			*to = n
		}
	}
	set("copies", &it.Copies)
	set("points", &it.Weight)
	set("penalty", &it.Penalty)
	if picture, ok := media["picture"]; ok {
		if _, words := first("text"); row.Does == "made" && picture != "" && !words {
			it.Text = ""
			it.Size = geometry.Size{W: 12000, H: 11200}
			it.Alt = cmp.Or(it.Alt, name)
		}
		it.Picture = picture
	}
	if sound, ok := media["sound"]; ok {
		it.Sound = sound
	}
	if list, ok := values["right"]; ok {
		rightIn(doc, id, list)
	}
	for _, c := range []struct {
		key    string
		result activity.Result
	}{{"whenRight", activity.ResultRight}, {"whenWrong", activity.ResultWrong}} {
		if v, ok := first(c.key); ok {
			what := edit.SaidOf(doc, id, c.result)
			what.Text = v
			edit.SayOf(doc, id, c.result, what)
		}
	}
	after := describe(doc, doc.Item(id), files)
	for i, c := range Columns {
		if row.Does != "made" && before[i] != after[i] {
			row.What = append(row.What, strings.ToLower(c.Title))
		}
	}
	if len(row.What) > 0 {
		row.Does = "changed"
	}
	return row, ""
}

func tagList(text string) []string {
	var out []string
	for _, t := range strings.FieldsFunc(text, func(r rune) bool { return r == ',' || r == ';' }) {
		if t = strings.TrimSpace(t); t != "" && !slices.Contains(out, t) {
			out = append(out, t)
		}
	}
	return out
}

// targetsNamed are the targets that the cells of a row name.
func targetsNamed(values []string) []string {
	var out []string
	for _, v := range values {
		for _, name := range strings.Split(v, ";") {
			if name = strings.Join(strings.Fields(name), " "); name != "" {
				out = append(out, name)
			}
		}
	}
	return out
}

// newTargets counts those of them that are not there yet.
func newTargets(doc *activity.Doc, values []string) int {
	added := map[string]bool{}
	for _, name := range targetsNamed(values) {
		if !slices.ContainsFunc(doc.Targets, func(t activity.Target) bool { return strings.EqualFold(t.Name, name) }) {
			added[strings.ToLower(name)] = true
		}
	}
	return len(added)
}

// rightIn makes an item right, under the first solution, in exactly the targets that
// are named; one that is not there is made.
func rightIn(doc *activity.Doc, id string, values []string) {
	var want []string
	for _, name := range targetsNamed(values) {
		at := slices.IndexFunc(doc.Targets, func(t activity.Target) bool { return strings.EqualFold(t.Name, name) })
		if at < 0 {
			made, _ := edit.AddTargets(doc, []string{name})
			*doc = *made
			at = len(doc.Targets) - 1
		}
		want = append(want, doc.Targets[at].ID)
	}
	edit.PutRight(doc, 0, []edit.Row{{Item: id, Targets: want}})
}
