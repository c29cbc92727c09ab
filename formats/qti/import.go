package qti

import (
	"cmp"
	"fmt"
	"path"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/layout"
	"keenmagpie/formats/bundle"
)

// Source is where an item comes from: its name, for notes, and what reads a file that it refers
// to, by its path from the item; nil where there are none.
type Source struct {
	Name string
	File func(path string) ([]byte, error)
}

// Imported is an activity that was made of an item.
type Imported struct {
	bundle.Bundle
	Version string
	// Source is the file that it was made of, as notes name it.
	Source string
}

// importing is an item on its way to an activity.
type importing struct {
	from  Source
	root  *node
	kind  string
	at    *node // the interaction
	doc   *activity.Doc
	media map[string]bundle.Medium
	notes []Note
	taken map[string]bool // ids of items and replies
	spots map[string]bool // of targets
	// ids of items and targets by their identifiers there; what is dragged as often as it likes.
	items, targets map[string]string
	unbound        []string
	// alike has, of choices that are pieces of one item, the first's identifier.
	alike map[string]string
}

func (m *importing) note(n *node, part, code, message string, args ...any) {
	line := 0
	if n != nil {
		line = n.line
	}
	m.notes = append(m.notes, Note{m.from.Name, line, part, code, fmt.Sprintf(message, args...)})
}

// Import makes an activity of an item's XML. Where none can be made the result is nil and a note
// says why; the error is that of a file which cannot be read at all, a [*Bad].
func Import(body []byte, from Source) (*Imported, []Note, error) {
	root, version, err := parse(body)
	if err != nil {
		return nil, nil, err
	}
	if root.name != "qti-assessment-item" {
		return nil, []Note{{from.Name, root.line, root.name, "not-an-item", "This is no assessment item."}}, nil
	}
	m := &importing{from: from, root: root, media: map[string]bundle.Medium{}, taken: map[string]bool{}, spots: map[string]bool{}, items: map[string]string{}, targets: map[string]string{}, alike: map[string]string{}}
	if version == "" {
		m.note(root, root.get("identifier"), "unknown-version", "Its version of QTI is not one that is read: 2.1, 2.2 and 3.0 are. It is read as 3.0 or 2.2 by its names.")
	}
	if !m.choose() {
		return nil, m.notes, nil
	}
	m.begin()
	made := false
	switch m.kind {
	case gapMatch:
		made = m.gaps()
	case graphicGaps:
		made = m.overPicture()
	case matching:
		made = m.sets()
	case associating:
		made = m.associated()
	case ordering, graphicOrder:
		made = m.ordered()
	case positioning:
		made = m.positioned()
	}
	if !made {
		return nil, m.notes, nil
	}
	m.surroundings()
	m.score()
	m.feedback()
	return m.finish(version)
}

// choose finds the one interaction that an activity can be made of.
func (m *importing) choose() bool {
	var list []*node
	if body := m.root.child("qti-item-body"); body != nil {
		body.all(func(n *node) {
			if strings.HasSuffix(n.name, "-interaction") {
				list = append(list, n)
			}
		})
	}
	id := m.root.get("identifier")
	switch {
	case len(list) == 0:
		m.note(m.root, id, "no-interaction", "“%s” asks nothing: it is left out.", m.title())
		return false
	case len(list) > 1:
		m.note(list[1], id, "several-interactions", "“%s” has %d interactions, of which one activity cannot be made: it is left out.", m.title(), len(list))
		return false
	}
	m.at, m.kind = list[0], list[0].name
	if !slices.Contains([]string{gapMatch, graphicGaps, matching, ordering, graphicOrder, associating, positioning}, m.kind) {
		m.note(m.at, id, "other-interaction", "“%s” is a %s, of which no activity can be made: it is left out.", m.title(), strings.TrimPrefix(m.kind, "qti-"))
		return false
	}
	for _, t := range m.root.children("qti-template-processing", "qti-template-declaration") {
		m.note(t, id, "template", "“%s” has other content each time that it is opened, which cannot be taken over: it is left out.", m.title())
		return false
	}
	if m.root.get("adaptive") == "true" {
		m.note(m.root, id, "adaptive", "“%s” is adaptive: it is taken as it begins.", m.title())
	}
	return true
}

func (m *importing) title() string {
	return cmp.Or(strings.Join(strings.Fields(m.root.get("title")), " "), m.root.get("identifier"), "Untitled")
}

// begin makes an empty activity.
func (m *importing) begin() {
	m.doc, _ = activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"new","key":{"solutions":[{}]},"marks":{"by":"whole","points":1}}`))
	m.doc.ID = activity.FreshID(map[string]bool{}, cmp.Or(m.root.get("identifier"), m.title()))
	m.doc.Title = clipped(m.title(), 200)
	if lang := m.root.get("xml:lang"); language.MatchString(lang) {
		m.doc.Lang = lang
	} else if lang != "" {
		m.note(m.root, m.root.get("identifier"), "language", "“%s” is no language: English is taken.", clipped(lang, 40))
	}
	m.doc.Key.Solutions[0].Right = map[string]activity.Selector{}
	m.doc.Play.Shuffle = m.at.get("shuffle") == "true"
}

// language is what names one: en, de-CH.
var language = regexp.MustCompile(`^[A-Za-z]{2,3}(-[A-Za-z0-9]{2,8})*$`)

func clipped(text string, most int) string {
	if r := []rune(text); len(r) > most {
		return string(r[:most-1]) + "…"
	}
	return text
}

// short is a text as long as one may be, and notes where the rest is left out.
func (m *importing) short(n *node, text string, most int) string {
	if len([]rune(text)) > most {
		m.note(n, n.get("identifier"), "too-long", "A text of more than %d letters is cut off: “%s”.", most, clipped(text, 40))
	}
	return clipped(text, most)
}

// most is a match-max, or a number beside it; 0 is no limit.
func (m *importing) most(n *node, name string, without int) int {
	text := n.get(name)
	if text == "" {
		return without
	}
	k, err := strconv.Atoi(text)
	if err != nil || k < 0 {
		m.note(n, n.get("identifier"), "bad-number", "%s is “%s”, which is no number: %d is taken.", name, clipped(text, 30), without)
		return without
	}
	return k
}

// own says whether an item was written by an export of this package, or in the same form.
func (m *importing) own() bool {
	for _, d := range m.root.children("qti-outcome-declaration") {
		if d.get("identifier") == "VALID_1" {
			return true
		}
	}
	return false
}

// medium takes a picture that an item shows, or notes that it is not there.
func (m *importing) medium(n *node, from string) string {
	clean := path.Clean("/" + from)
	switch {
	case from == "":
		return ""
	case strings.HasPrefix(from, "data:"), strings.Contains(from, "://"), strings.HasPrefix(from, "//"), strings.HasPrefix(from, "/"), strings.Contains(from, `\`), strings.Contains(from, ".."):
		m.note(n, clipped(from, 60), "elsewhere", "“%s” is not a file beside the item, and nothing is fetched: the picture is left out.", clipped(from, 60))
		return ""
	case m.from.File == nil:
		m.note(n, from, "missing", "The file “%s” is not there: the picture is left out.", clipped(from, 60))
		return ""
	}
	body, err := m.from.File(strings.TrimPrefix(clean, "/"))
	if err != nil {
		m.note(n, from, "missing", "The file “%s” is not there: the picture is left out.", clipped(from, 60))
		return ""
	}
	medium, err := bundle.NewMedium(body)
	if err != nil {
		m.note(n, from, "not-a-picture", "“%s” is no picture that can be shown: %s.", clipped(from, 60), err)
		return ""
	}
	m.media[medium.ID] = medium
	return medium.ID
}

// laid is the activity as it is laid out, and what is wrong with it.
func (m *importing) laid() (*activity.Doc, activity.Faults) {
	doc := m.doc.Clone()
	if m.kind != graphicGaps && m.kind != graphicOrder && m.kind != positioning {
		layout.Fill(doc)
	}
	return activity.Read(doc.Write())
}

// finish lays the activity out and checks it.
func (m *importing) finish(version string) (*Imported, []Note, error) {
	doc, faults := m.laid()
	if faults != nil {
		for _, f := range faults {
			m.note(m.root, m.root.get("identifier"), "cannot-be-made", "“%s” cannot be made: %s (%s).", m.title(), f.Message, f.Pointer)
		}
		return nil, m.notes, nil
	}
	out := &Imported{Version: version, Source: m.from.Name}
	out.Doc = doc
	for _, id := range doc.Media() {
		if x, ok := m.media[id]; ok {
			out.Media = append(out.Media, x)
		}
	}
	return out, m.notes, nil
}
