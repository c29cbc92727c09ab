package edit

import (
	"slices"

	"keenmagpie/core/activity"
)

// Slot is a place in the table of replies: what is said of an item that is right, or
// wrong, or that is in one target, as soon as it is put down or at the check.
type Slot struct {
	Item   string          `json:"item"`
	Result activity.Result `json:"result"` // right, wrong, or empty: in the target
	Target string          `json:"target"`
	// Moment is placed or checked.
	Moment activity.Moment `json:"moment"`
}

// when is the condition of the slot's reply.
func (s Slot) when() *activity.Condition {
	switch {
	case s.Moment == activity.MomentChecked && s.Result != "":
		return &activity.Condition{Item: s.Item, Is: activity.Is(s.Result)}
	case s.Moment == activity.MomentChecked:
		return &activity.Condition{Item: s.Item, In: s.Target}
	}
	which := activity.Condition{Result: s.Result}
	if s.Result == "" {
		which = activity.Condition{Onto: []string{s.Target}}
	}
	return &activity.Condition{All: []activity.Condition{{Piece: &activity.Selector{Items: []string{s.Item}}}, which}}
}

// slot is the place that a reply has in the table, where it speaks of that and of
// nothing else.
func slot(r *activity.Reply) (s Slot, ok bool) {
	w := r.When
	switch {
	case w == nil:
	case r.Moment == activity.MomentChecked && w.Item != "" && w.In != "":
		return Slot{w.Item, "", w.In, activity.MomentChecked}, true
	case r.Moment == activity.MomentChecked && w.Item != "" && w.Is != activity.IsHome:
		return Slot{w.Item, activity.Result(w.Is), "", activity.MomentChecked}, true
	case r.Moment == activity.MomentPlaced && len(w.All) == 2 && w.All[0].Piece != nil:
		p, what := w.All[0].Piece, &w.All[1]
		if p.All || len(p.Tags)+len(p.Except) > 0 || len(p.Items) != 1 {
			break
		}
		if what.Result == activity.ResultRight || what.Result == activity.ResultWrong {
			return Slot{p.Items[0], what.Result, "", activity.MomentPlaced}, true
		}
		if len(what.Onto) == 1 {
			return Slot{p.Items[0], "", what.Onto[0], activity.MomentPlaced}, true
		}
	}
	return Slot{}, false
}

// Slots lists the replies of the table, by number, with their slots.
func Slots(d *activity.Doc) map[int]Slot {
	out := map[int]Slot{}
	for i := range d.Replies {
		if s, ok := slot(&d.Replies[i]); ok {
			out[i] = s
		}
	}
	return out
}

// SaidAt finds the reply of a slot, or nil.
func SaidAt(d *activity.Doc, s Slot) *activity.Reply {
	for i := range d.Replies {
		if at, ok := slot(&d.Replies[i]); ok && at == s {
			return &d.Replies[i]
		}
	}
	return nil
}

// SaidOf is what is said when a piece of an item is placed right, or wrong.
func SaidOf(d *activity.Doc, item string, result activity.Result) activity.Say {
	if r := SaidAt(d, Slot{Item: item, Result: result, Moment: activity.MomentPlaced}); r != nil {
		return r.Say
	}
	return activity.Say{}
}

// SayOf says something when a piece of an item is placed right, or wrong; see
// [SayAt].
func SayOf(d *activity.Doc, item string, result activity.Result, what activity.Say) {
	SayAt(d, Slot{Item: item, Result: result, Moment: activity.MomentPlaced}, what)
}

// SayAt says something in a slot; with nothing to say its reply goes. A new reply
// comes before those of its moment that are less particular; at a check it lets the
// search go on, since more than one item may be spoken of. It changes the document
// itself.
func SayAt(d *activity.Doc, s Slot, what activity.Say) {
	at := slices.IndexFunc(d.Replies, func(r activity.Reply) bool { here, ok := slot(&r); return ok && here == s })
	switch {
	case what.Empty() && at >= 0:
		d.Replies = slices.Delete(d.Replies, at, at+1)
	case what.Empty():
	case at >= 0:
		d.Replies[at].Say = what
	default:
		r := activity.NewReply(string(s.Result)+s.Target+"-"+s.Item, s.Moment)
		r.When, r.Say, r.Also = s.when(), what, s.Moment == activity.MomentChecked
		if s.Result != "" {
			r.Tone = activity.Tone(s.Result)
		}
		AddReply(d, r)
	}
}
