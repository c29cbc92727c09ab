package reply

import (
	"cmp"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
)

// Spoken is what a learner knows an item by: its text, else what stands for its
// picture, else its name.
func Spoken(it *activity.Item) string { return cmp.Or(it.Text, it.Alt, it.Name) }

// Called is [Spoken]'s counterpart for a target: its label, else its name.
func Called(t *activity.Target) string { return cmp.Or(t.Label.Text, t.Name) }

// Fill puts values in place of the placeholders of a text: {item} and {target} of
// the placement, {right} of {total} pieces, {left} and {attempt}, {score} of
// {points}, {percent}. What stands in them means nothing as rich text; a
// placeholder without a value is left empty, and anything else in braces stays.
func (b *Book) Fill(text string, s Situation) string { return Filled(text, b.Values(text, s)) }

var placeholders = []string{"{item}", "{target}", "{right}", "{total}", "{left}", "{attempt}", "{score}", "{points}", "{percent}"}

// Values are what the placeholders of a text stand for, one after the other.
func (b *Book) Values(text string, s Situation) (values []string) {
	each(text, func(_, placeholder string) {
		if placeholder != "" {
			values = append(values, plain.Replace(b.value(placeholder, s)))
		}
	})
	return values
}

// Filled is a text with values in place of its placeholders, one after the other.
func Filled(text string, values []string) string {
	if len(values) == 0 {
		return text
	}
	var out strings.Builder
	each(text, func(before, placeholder string) {
		out.WriteString(before)
		if placeholder != "" && len(values) > 0 {
			out.WriteString(values[0])
			values = values[1:]
		}
	})
	return out.String()
}

// each calls f with every placeholder of a text and what stands before it, and last with
// what stands after them all.
func each(text string, f func(before, placeholder string)) {
	for at := 0; ; {
		open := strings.IndexByte(text[at:], '{')
		if open < 0 {
			f(text, "")
			return
		}
		at += open
		i := slices.IndexFunc(placeholders, func(p string) bool { return strings.HasPrefix(text[at:], p) })
		if i < 0 {
			at++
			continue
		}
		f(text[:at], placeholders[i])
		text, at = text[at+len(placeholders[i]):], 0
	}
}

func (b *Book) value(placeholder string, s Situation) string {
	j := s.Judgement
	switch placeholder {
	case "{item}":
		if s.Placement == nil {
			return ""
		}
		return Spoken(b.parts.ItemOf(s.Placement.Piece))
	case "{target}":
		if s.Placement == nil {
			return ""
		}
		return Called(&b.parts.Doc.Targets[s.Placement.Target])
	case "{right}":
		return strconv.Itoa(j.Seen().Rights)
	case "{total}":
		return strconv.Itoa(b.judge.Solutions[j.Solution].Asked())
	case "{left}":
		if s.Left == Unlimited {
			return "∞"
		}
		return strconv.Itoa(s.Left)
	case "{attempt}":
		return strconv.Itoa(s.Attempt)
	case "{score}":
		return j.Score.String()
	case "{points}":
		return b.parts.Doc.Marks.Points.String()
	}
	return j.Percent.String()
}

var plain = strings.NewReplacer(`\`, `\\`, "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`)
