package edit

import (
	"reflect"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
	"keenmagpie/core/say"
)

// words of the replies that an activity starts with, by kind: all right, some right,
// nothing right.
var startingWords = map[activity.Kind][3]string{
	activity.KindSort:     {"Everything is where it belongs.", "{right} of {total} are where they belong.", "None of them is where it belongs yet."},
	activity.KindMatch:    {"Every pair is correct.", "{right} of {total} pairs are correct.", "None of the pairs is correct yet."},
	activity.KindSequence: {"That is the order.", "{right} of {total} stand in order.", "The order is not correct yet."},
	activity.KindLabel:    {"Every label is where it belongs.", "{right} of {total} labels are where they belong.", "None of the labels is where it belongs yet."},
	activity.KindGaps:     {"Every gap is filled rightly.", "{right} of {total} gaps are filled rightly.", "None of the gaps is filled rightly yet."},
	activity.KindBuild:    {"Nothing is missing: that will do.", "{right} of {total} pieces are correct.", "None of these pieces helps yet."},
}

// single are the words where one thing is asked: it is right or it is not.
var single = [3]string{"That is correct.", "", "That is not correct."}

// wordsFor are the words for a document.
func wordsFor(d *activity.Doc) [3]string {
	if oneThing(d) {
		return single
	}
	if words, ok := startingWords[d.Kind]; ok {
		return words
	}
	return startingWords[activity.KindSort]
}

// oneThing says whether one item is right in one target and nothing else is: then nothing is
// ever partly right.
func oneThing(d *activity.Doc) bool {
	n := 0
	for i := range d.Targets {
		for j := range d.Items {
			if len(d.Key.Solutions) == 1 && d.Key.Solutions[0].RightCell(&d.Targets[i], &d.Items[j]) {
				n += d.Items[j].Copies
			}
		}
	}
	return n == 1
}

// AddStartingReplies gives the document what it lacks of a reply for each shape of
// outcome: all right, some right, none right, and each of these when no attempt is
// left. Outcomes that cannot come by the play settings are left out. It returns how
// many were added, and changes the document itself.
func AddStartingReplies(d *activity.Doc) (added int) {
	words := wordsFor(d)
	add := func(moment activity.Moment, text string, tone activity.Tone, when ...activity.Condition) {
		r := activity.NewReply("", moment)
		switch len(when) {
		case 0:
		case 1:
			r.When = &when[0]
		default:
			r.When = &activity.Condition{All: when}
		}
		r.Say.Text, r.Tone = text, tone
		if addNew(d, r) {
			added++
		}
	}
	hundred, zero := activity.U(100), activity.U(0)
	some, none := activity.Condition{Left: &activity.Range{Min: &hundred}}, activity.Condition{Left: &activity.Range{Max: &zero}}
	switch d.Play.Check {
	case activity.CheckingNone:
		add(activity.MomentChecked, "It is handed in.", activity.TonePlain)
		return added
	case activity.CheckingEach:
		add(activity.MomentPlaced, "Yes, that is correct.", activity.ToneRight, activity.Condition{Result: activity.ResultRight})
		add(activity.MomentPlaced, "No, not there.", activity.ToneWrong, activity.Condition{Result: activity.ResultWrong})
		add(activity.MomentDone, words[0], activity.ToneRight, activity.Condition{Outcome: activity.OutcomeRight})
		part, wrong := activity.Condition{Outcome: activity.OutcomePart}, activity.Condition{Outcome: activity.OutcomeWrong}
		if d.Play.Attempts > 0 {
			if words[1] != "" {
				add(activity.MomentDone, "That was the last attempt. "+words[1], activity.ToneNear, part, none)
			}
			add(activity.MomentDone, "That was the last attempt. "+words[2], activity.ToneWrong, wrong, none)
			part, wrong = activity.Condition{All: []activity.Condition{part, some}}, activity.Condition{All: []activity.Condition{wrong, some}}
		}
		if words[1] != "" {
			add(activity.MomentDone, words[1], activity.ToneNear, part) // handed in
		}
		add(activity.MomentDone, words[2], activity.ToneWrong, wrong)
		return added
	}
	for _, outcome := range []activity.Outcome{activity.OutcomeRight, activity.OutcomePart, activity.OutcomeWrong} {
		for _, last := range []bool{false, true} {
			if outcome == activity.OutcomePart && words[1] == "" || last && d.Play.Attempts == 0 || !last && d.Play.Attempts == 1 {
				continue // it cannot come
			}
			r := replyTo(d, outcome, last)
			if addNew(d, r) {
				added++
			}
		}
	}
	return added
}

// dropUsual takes out the replies that are as [AddStartingReplies] makes them, of one moment
// or of all, and says how many there were.
func dropUsual(d *activity.Doc, moment activity.Moment) (n int) {
	usual := d.Clone()
	usual.Replies = nil
	AddStartingReplies(usual)
	n = len(d.Replies)
	d.Replies = slices.DeleteFunc(d.Replies, func(r activity.Reply) bool {
		return (moment == "" || r.Moment == moment) &&
			slices.ContainsFunc(usual.Replies, func(x activity.Reply) bool { return unchanged(&r, &x) })
	})
	return n - len(d.Replies)
}

// timeUp is the reply that a time limit brings.
func timeUp() activity.Reply {
	r := activity.NewReply("", activity.MomentTimeUp)
	r.Say.Text, r.Tone = "Your time is up.", activity.TonePlain
	return r
}

// SetTimeLimit gives a document another time limit, in milliseconds, 0 for none. With a first
// one comes the reply that says when it is over, unless there is one, and twice the time for
// who is given extra, as new activities allow it; without a limit the reply goes again, unless
// somebody has changed it.
func SetTimeLimit(d *activity.Doc, ms int) *activity.Doc {
	out := d.Clone()
	usual := timeUp()
	if ms == 0 {
		out.Replies = slices.DeleteFunc(out.Replies, func(r activity.Reply) bool { return unchanged(&r, &usual) })
	} else if out.Play.TimeLimit == 0 && !slices.ContainsFunc(out.Replies, func(r activity.Reply) bool { return r.Moment == usual.Moment }) {
		addNew(out, usual)
	}
	if out.Play.TimeLimit == 0 && ms > 0 && out.Play.Extension <= 100 {
		out.Play.Extension = 200
	}
	out.Play.TimeLimit = ms
	return out
}

// addNew adds a reply, unless there is one at its moment with the same condition.
func addNew(d *activity.Doc, r activity.Reply) bool {
	if slices.ContainsFunc(d.Replies, func(x activity.Reply) bool { return x.Moment == r.Moment && sameWhen(&x, &r) }) {
		return false
	}
	r.ID = string(r.Moment) + "-" + string(r.Tone)
	AddReply(d, r)
	return true
}

// replyTo is a reply to a check that comes out so, with attempts left or none, in the
// words that an activity of this kind starts with. Where every placement is judged it
// comes when the sitting is over.
func replyTo(d *activity.Doc, outcome activity.Outcome, last bool) activity.Reply {
	words := wordsFor(d)
	n := slices.Index([]activity.Outcome{activity.OutcomeRight, activity.OutcomePart, activity.OutcomeWrong}, outcome)
	r := activity.NewReply("", activity.MomentChecked)
	r.Say.Text, r.Tone = words[n], []activity.Tone{activity.ToneRight, activity.ToneNear, activity.ToneWrong}[n]
	r.When = &activity.Condition{Outcome: outcome}
	tried := d.Play.Attempts != 1
	if d.Play.Check == activity.CheckingEach {
		r.Moment = activity.MomentDone
		tried = d.Play.Attempts > 0
	}
	switch {
	case n > 0 && last && d.Play.Attempts > 1:
		r.Say.Text = "That was the last attempt. " + r.Say.Text
	case n == 0 && last && d.Play.Attempts > 1:
		r.Say.Text = strings.TrimSuffix(r.Say.Text, ".") + ", at the last attempt."
	case n > 0 && !last && r.Moment == activity.MomentChecked:
		r.Say.Text += " Try again."
	}
	if tried && d.Play.Attempts > 0 {
		hundred, zero := activity.U(100), activity.U(0)
		left := activity.Condition{Left: &activity.Range{Min: &hundred}}
		if last {
			left = activity.Condition{Left: &activity.Range{Max: &zero}}
		}
		r.When = &activity.Condition{All: []activity.Condition{*r.When, left}}
	}
	return r
}

// AddReplyTo adds a reply to checks that come out so, last of its kind, so that it is
// given where no other one is. It changes the document itself.
func AddReplyTo(d *activity.Doc, outcome activity.Outcome, last bool) {
	addNew(d, replyTo(d, outcome, last))
}

// sameWhen reports whether two replies are given under the same condition.
func sameWhen(r *activity.Reply, o *activity.Reply) bool { return reflect.DeepEqual(r.When, o.When) }

// RepliesForTargets adds a reply at the check for every combination of which of some
// targets are right, both first and neither last, and returns the ids of those that
// were made. At most six targets make a combination. Usual replies to a check that nobody
// has changed go: behind these they would never be shown.
func RepliesForTargets(d *activity.Doc, targets []string) (out *activity.Doc, made []string, err error) {
	if len(targets) == 0 || len(targets) > 6 {
		return nil, nil, Say("combinations", message.P{"n": len(targets)})
	}
	out = d.Clone()
	dropUsual(out, activity.MomentChecked)
	for k := range 1 << len(targets) {
		var all []activity.Condition
		var right []string
		for i, id := range targets {
			is := activity.Condition{Target: id, Is: activity.IsRight}
			if k>>(len(targets)-1-i)&1 == 0 {
				all = append(all, is)
				right = append(right, id)
			} else {
				all = append(all, activity.Condition{None: []activity.Condition{is}})
			}
		}
		r := activity.NewReply("", activity.MomentChecked)
		r.When = &activity.Condition{All: all}
		if len(all) == 1 {
			r.When = &all[0]
		}
		names := message.List(message.ListAnd, say.Targets(d, right)).Message
		switch len(right) {
		case len(targets):
			r.Tone, r.Say.Text = activity.ToneRight, names+map[bool]string{true: " are correct.", false: " is correct."}[len(right) > 1]
		case 0:
			r.Tone, r.Say.Text = activity.ToneWrong, "Not correct yet: "+message.List(message.ListAnd, say.Targets(d, targets)).Message+"."
		default:
			r.Tone, r.Say.Text = activity.ToneNear, names+map[bool]string{true: " are correct, the rest is not yet.", false: " is correct, the rest is not yet."}[len(right) > 1]
		}
		if slices.ContainsFunc(out.Replies, func(x activity.Reply) bool { return x.Moment == r.Moment && sameWhen(&x, &r) }) {
			continue
		}
		r.ID = "targets-" + string(r.Tone)
		made = append(made, AddReply(out, r))
	}
	return out, made, nil
}
