package activity

import (
	"fmt"
	"reflect"
	"slices"
	"strings"
)

// words of the replies that an activity starts with, by kind: all right, some right,
// nothing right.
var startingWords = map[string][3]string{
	"sort":     {"Everything is where it belongs.", "{right} of {total} are where they belong.", "None of them is where it belongs yet."},
	"match":    {"Every pair is right.", "{right} of {total} pairs are right.", "None of the pairs is right yet."},
	"sequence": {"That is the order.", "{right} of {total} stand in order.", "The order is not right yet."},
	"label":    {"Every label is where it belongs.", "{right} of {total} labels are where they belong.", "None of the labels is where it belongs yet."},
	"gaps":     {"Every gap is filled rightly.", "{right} of {total} gaps are filled rightly.", "None of the gaps is filled rightly yet."},
	"build":    {"Nothing is missing: that will do.", "{right} of {total} pieces are right.", "None of these pieces helps yet."},
}

// AddStartingReplies gives the document what it lacks of a reply for each shape of
// outcome: all right, some right, none right, and each of these when no attempt is
// left. Outcomes that cannot come by the play settings are left out. It returns how
// many were added, and changes the document itself.
func (d *Doc) AddStartingReplies() (added int) {
	words, ok := startingWords[d.Kind]
	if !ok {
		words = startingWords["sort"]
	}
	add := func(moment, text, tone string, when ...Condition) {
		r := NewReply("", moment)
		switch len(when) {
		case 0:
		case 1:
			r.When = &when[0]
		default:
			r.When = &Condition{All: when}
		}
		if slices.ContainsFunc(d.Replies, func(x Reply) bool { return x.Moment == moment && x.sameWhen(&r) }) {
			return
		}
		r.ID = moment + "-" + tone
		r.Say.Text, r.Tone = text, tone
		d.AddReply(r)
		added++
	}
	hundred, zero := U(100), U(0)
	some, none := Condition{Left: &Range{Min: &hundred}}, Condition{Left: &Range{Max: &zero}}
	tones := map[string]string{"right": "right", "part": "near", "wrong": "wrong"}
	switch d.Play.Check {
	case "none":
		add("checked", "It is handed in.", "plain")
		return added
	case "each":
		add("placed", "Yes, that is right.", "right", Condition{Result: "right"})
		add("placed", "No, not there.", "wrong", Condition{Result: "wrong"})
		add("done", words[0], "right", Condition{Outcome: "right"})
		part, wrong := Condition{Outcome: "part"}, Condition{Outcome: "wrong"}
		if d.Play.Attempts > 0 {
			add("done", "That was the last attempt. "+words[1], "near", part, none)
			add("done", "That was the last attempt. "+words[2], "wrong", wrong, none)
			part, wrong = Condition{All: []Condition{part, some}}, Condition{All: []Condition{wrong, some}}
		}
		add("done", words[1], "near", part) // handed in
		add("done", words[2], "wrong", wrong)
		return added
	}
	for i, outcome := range []string{"right", "part", "wrong"} {
		is, text := Condition{Outcome: outcome}, words[i]
		switch {
		case d.Play.Attempts == 1:
			add("checked", text, tones[outcome], is)
		case d.Play.Attempts == 0 && i > 0:
			add("checked", text+" Try again.", tones[outcome], is)
		case d.Play.Attempts == 0:
			add("checked", text, tones[outcome], is)
		case i == 0:
			add("checked", text, tones[outcome], is, some)
			add("checked", strings.TrimSuffix(text, ".")+", at the last attempt.", tones[outcome], is, none)
		default:
			add("checked", text+" Try again.", tones[outcome], is, some)
			add("checked", "That was the last attempt. "+text, tones[outcome], is, none)
		}
	}
	return added
}

// sameWhen reports whether two replies are given under the same condition.
func (r *Reply) sameWhen(o *Reply) bool { return reflect.DeepEqual(r.When, o.When) }

// RepliesForTargets adds a reply at the check for every combination of which of some
// targets are right, both first and neither last, and returns the ids of those that
// were made. At most six targets make a combination.
func (d *Doc) RepliesForTargets(targets []string) (out *Doc, made []string, err error) {
	if len(targets) == 0 || len(targets) > 6 {
		return nil, nil, fmt.Errorf("%d targets were chosen; a reply for each combination is possible with 1 to 6", len(targets))
	}
	out = d.Clone()
	for k := range 1 << len(targets) {
		var all []Condition
		var right []string
		for i, id := range targets {
			is := Condition{Target: id, Is: "right"}
			if k>>(len(targets)-1-i)&1 == 0 {
				all = append(all, is)
				right = append(right, id)
			} else {
				all = append(all, Condition{None: []Condition{is}})
			}
		}
		r := NewReply("", "checked")
		r.When = &Condition{All: all}
		if len(all) == 1 {
			r.When = &all[0]
		}
		names := and(d.targetNames(right), "and")
		switch len(right) {
		case len(targets):
			r.Tone, r.Say.Text = "right", names+map[bool]string{true: " are right.", false: " is right."}[len(right) > 1]
		case 0:
			r.Tone, r.Say.Text = "wrong", "Not right yet: "+and(d.targetNames(targets), "and")+"."
		default:
			r.Tone, r.Say.Text = "near", names+map[bool]string{true: " are right, the rest is not yet.", false: " is right, the rest is not yet."}[len(right) > 1]
		}
		if slices.ContainsFunc(out.Replies, func(x Reply) bool { return x.Moment == r.Moment && x.sameWhen(&r) }) {
			continue
		}
		r.ID = "targets-" + r.Tone
		made = append(made, out.AddReply(r))
	}
	return out, made, nil
}
