package reply

import (
	"cmp"
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
func (b *Book) Fill(text string, s Situation) string {
	if !strings.Contains(text, "{") {
		return text
	}
	item, target := "", ""
	if s.Placement != nil {
		item = Spoken(b.parts.ItemOf(s.Placement.Piece))
		target = Called(&b.parts.Doc.Targets[s.Placement.Target])
	}
	left := "∞"
	if s.Left != Unlimited {
		left = strconv.Itoa(s.Left)
	}
	j := s.Judgement
	return strings.NewReplacer(
		"{item}", plain.Replace(item), "{target}", plain.Replace(target),
		"{right}", strconv.Itoa(j.Seen().Rights), "{total}", strconv.Itoa(b.judge.Solutions[j.Solution].Asked()),
		"{left}", left, "{attempt}", strconv.Itoa(s.Attempt),
		"{score}", j.Score.String(), "{points}", b.parts.Doc.Marks.Points.String(), "{percent}", j.Percent.String(),
	).Replace(text)
}

var plain = strings.NewReplacer(`\`, `\\`, "*", `\*`, "_", `\_`, "[", `\[`, "]", `\]`)
