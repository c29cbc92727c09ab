package edit

import (
	"regexp"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"keenmagpie/core/activity"
)

// renaming puts new names for old ones wherever they are written: several at once, so that
// two that change places do. It keeps to whole words in any case, and leaves alone what only
// looks like a word: gaps, fill-ins and the addresses of links.
type renaming struct {
	to   map[string]string // by the old name in small letters
	find *regexp.Regexp    // nil where nothing is renamed
}

// leastName is the fewest letters of a name that is looked for: shorter ones are words of
// every text.
const leastName = 3

func newRenaming() *renaming { return &renaming{to: map[string]string{}} }

func (r *renaming) add(from, to string) {
	if from != to && to != "" && utf8.RuneCountInString(from) >= leastName {
		r.to[strings.ToLower(from)] = to
	}
}

func (r *renaming) ready() {
	if len(r.to) == 0 {
		return
	}
	var names []string
	for name := range r.to {
		names = append(names, regexp.QuoteMeta(name))
	}
	// The longest first: a name can be the beginning of another.
	slices.SortFunc(names, func(a, b string) int {
		if len(a) != len(b) {
			return len(b) - len(a)
		}
		return strings.Compare(a, b)
	})
	r.find = regexp.MustCompile(`\[\[[^\]]*\]\]|\{[a-z]+\}|\]\([^)]*\)|(?i:` + strings.Join(names, "|") + `)`)
}

// in is a text with the new names.
func (r *renaming) in(text string) string {
	if r.find == nil || text == "" {
		return text
	}
	var b strings.Builder
	at := 0
	for _, m := range r.find.FindAllStringIndex(text, -1) {
		to, known := r.to[strings.ToLower(text[m[0]:m[1]])]
		before, _ := utf8.DecodeLastRuneInString(text[:m[0]])
		after, _ := utf8.DecodeRuneInString(text[m[1]:])
		if !known || inWord(before) || inWord(after) {
			continue
		}
		b.WriteString(text[at:m[0]] + to)
		at = m[1]
	}
	return b.String() + text[at:]
}

func inWord(r rune) bool { return unicode.IsLetter(r) || unicode.IsDigit(r) }

// everywhere renames in all that is written in a document but the names and faces of its
// items and targets themselves. Tags that are called so go along.
func (r *renaming) everywhere(d *activity.Doc) {
	r.ready()
	texts := []*string{&d.Title, &d.Instructions}
	say := func(s *activity.Say) { texts = append(texts, &s.Text, &s.Alt, &s.Transcript) }
	for i := range d.Replies {
		say(&d.Replies[i].Say)
	}
	for i := range d.Hints {
		texts = append(texts, &d.Hints[i].Text)
	}
	for i := range d.Scenery {
		texts = append(texts, &d.Scenery[i].Text, &d.Scenery[i].Alt)
	}
	for i := range d.Targets {
		texts = append(texts, &d.Targets[i].Alt)
	}
	for _, t := range texts {
		*t = r.in(*t)
	}
	tags := map[string]bool{}
	for i := range d.Items {
		for _, tag := range d.Items[i].Tags {
			tags[tag] = true
		}
	}
	for tag := range tags {
		if to, known := r.to[strings.ToLower(tag)]; known && !tags[to] {
			*d = *RenameTag(d, tag, to)
		}
	}
}
