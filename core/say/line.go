package say

import (
	"fmt"
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

// P are what fills in a line, by name: texts and whole numbers.
type P = map[string]any

// In is the line in the words of a catalogue: by code, texts in which {name} is filled in,
// and {n, plural, one {# piece} other {# pieces}} goes by a number, the two forms that
// English has (a part of ICU's message format). A code that is not there is itself.
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
		name, forms, plural := strings.Cut(inner, ", plural,")
		value := l.Params[strings.TrimSpace(name)]
		if !plural {
			fmt.Fprint(b, value)
			continue
		}
		form := "other"
		if value == 1 {
			form = "one"
		}
		_, after, _ := strings.Cut(forms, form+" {")
		chosen, _ := braced("{" + after)
		l.fill(b, strings.ReplaceAll(chosen, "#", fmt.Sprint(value)))
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
