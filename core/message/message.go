// Package message is what is said to a person as a code and what fills it in, and how a
// catalogue says that in a language.
package message

import (
	"fmt"
	"strconv"
	"strings"
)

// Line is something that is said to a person, by its code in a catalogue and with what fills
// it in, so that an interface in another language can say it in its own words. Names of
// parts are as their author wrote them; lists of them are in English, and the ids that they
// stand for go beside the line.
type Line struct {
	Code   string         `json:"code"`
	Params map[string]any `json:"params,omitempty"`
}

// P are what fills in a line, by name: texts, whole numbers and sentences.
type P = map[string]any

// In is the line in the words of a catalogue: by code, texts in which {name} is filled in,
// {n, plural, one {# piece} other {# pieces}} goes by a number, the two forms that English
// has, and {what, select, list {the list} other {the object}} by a word (a part of ICU's
// message format). A code that is not there is itself.
func (l Line) In(catalogue map[string]string) string {
	text, ok := catalogue[l.Code]
	if !ok {
		return l.Code
	}
	var b strings.Builder
	l.fill(&b, text)
	return b.String()
}

func (l Line) fill(b *strings.Builder, text string) {
	for {
		from := strings.IndexByte(text, '{')
		if from < 0 {
			b.WriteString(text)
			return
		}
		b.WriteString(text[:from])
		inner, rest := braced(text[from:])
		text = rest
		name, forms, chosen := strings.Cut(inner, ",")
		value := l.Params[name]
		switch how, forms, _ := strings.Cut(forms, ","); {
		case !chosen:
			put(b, value)
		case strings.TrimSpace(how) == "select":
			l.fill(b, form(forms, fmt.Sprint(value)))
		default:
			number := "other"
			if value == 1 {
				number = "one"
			}
			l.fill(b, strings.ReplaceAll(form(forms, number), "#", fmt.Sprint(value)))
		}
	}
}

// put writes a value; a document has thousands of them, most of them texts and sentences.
func put(b *strings.Builder, value any) {
	switch v := value.(type) {
	case string:
		b.WriteString(v)
	case Sentence:
		b.WriteString(v.Message)
	case int:
		b.WriteString(strconv.Itoa(v))
	default:
		fmt.Fprint(b, v)
	}
}

// form is the one of several that has a name, or that for all others.
func form(forms, name string) string {
	other := ""
	for {
		label, _, more := strings.Cut(forms, "{")
		if !more {
			return other
		}
		inner, rest := braced(forms[len(label):])
		switch strings.TrimSpace(label) {
		case name:
			return inner
		case "other":
			other = inner
		}
		forms = rest
	}
}

// braced splits what stands between the brace that a text begins with and its counterpart
// from what follows.
func braced(text string) (inner, rest string) {
	depth := 0
	for i, r := range text {
		switch r {
		case '{':
			depth++
		case '}':
			if depth--; depth == 0 {
				return text[1:i], text[i+1:]
			}
		}
	}
	return strings.TrimPrefix(text, "{"), ""
}

// Sentence is a line with its English beside it. As an error it says why something cannot be done.
type Sentence struct {
	Message string `json:"message"`
	Line    Line   `json:"line"`
}

func (s Sentence) Error() string { return s.Message }

// Say says a line in the words of a catalogue.
func Say(catalogue map[string]string, code string, params P) Sentence {
	line := Line{code, params}
	return Sentence{line.In(catalogue), line}
}

// Lists are said by these codes, with the members as "of".
const (
	ListAnd     = "list-and"     // a, b and c
	ListOr      = "list-or"      // a, b or c
	ListPlain   = "list"         // a, b, c
	ListClauses = "list-clauses" // a; b; c
	ListSome    = "list-some"    // a, b and 7 more: n more than of
)

// Some says so many names, and how many more there are; never that there is one more.
func Some(names []string, most int) Sentence {
	if len(names) <= most+1 {
		return List(ListAnd, names)
	}
	more := len(names) - most
	first := List(ListPlain, names[:most])
	return Sentence{fmt.Sprintf("%s and %d more", first.Message, more), Line{ListSome, P{"of": names[:most], "n": more}}}
}

// List says several, texts or sentences, as one: by one of the codes of lists. Cost: linear.
func List[T any](code string, of []T) Sentence {
	if len(of) == 1 {
		if alone, ok := any(of[0]).(Sentence); ok {
			return alone
		}
	}
	between, last := ", ", ", "
	switch code {
	case ListAnd:
		last = " and "
	case ListOr:
		last = " or "
	case ListClauses:
		between, last = "; ", "; "
	}
	var b strings.Builder
	for i, x := range of {
		switch {
		case i == 0:
		case i == len(of)-1:
			b.WriteString(last)
		default:
			b.WriteString(between)
		}
		put(&b, x)
	}
	return Sentence{b.String(), Line{code, P{"of": of}}}
}
