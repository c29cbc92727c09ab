package activity

import "slices"

// Slot is a place in the table of replies: what is said of an item that is right, or
// wrong, or that is in one target, as soon as it is put down or at the check.
type Slot struct {
	Item   string `json:"item"`
	Result string `json:"result"` // right, wrong, or empty: in the target
	Target string `json:"target"`
	// Moment is placed or checked.
	Moment string `json:"moment"`
}

// when is the condition of the slot's reply.
func (s Slot) when() *Condition {
	switch {
	case s.Moment == "checked" && s.Result != "":
		return &Condition{Item: s.Item, Is: s.Result}
	case s.Moment == "checked":
		return &Condition{Item: s.Item, In: s.Target}
	}
	which := Condition{Result: s.Result}
	if s.Result == "" {
		which = Condition{Onto: []string{s.Target}}
	}
	return &Condition{All: []Condition{{Piece: &Selector{Items: []string{s.Item}}}, which}}
}

// slot is the place that a reply has in the table, where it speaks of that and of
// nothing else.
func (r *Reply) slot() (s Slot, ok bool) {
	w := r.When
	switch {
	case w == nil:
	case r.Moment == "checked" && w.Item != "" && w.In != "":
		return Slot{w.Item, "", w.In, "checked"}, true
	case r.Moment == "checked" && w.Item != "" && w.Is != "home":
		return Slot{w.Item, w.Is, "", "checked"}, true
	case r.Moment == "placed" && len(w.All) == 2 && w.All[0].Piece != nil:
		p, what := w.All[0].Piece, &w.All[1]
		if p.All || len(p.Tags)+len(p.Except) > 0 || len(p.Items) != 1 {
			break
		}
		if what.Result == "right" || what.Result == "wrong" {
			return Slot{p.Items[0], what.Result, "", "placed"}, true
		}
		if len(what.Onto) == 1 {
			return Slot{p.Items[0], "", what.Onto[0], "placed"}, true
		}
	}
	return Slot{}, false
}

// Slots lists the replies of the table, by number, with their slots.
func (d *Doc) Slots() map[int]Slot {
	out := map[int]Slot{}
	for i := range d.Replies {
		if s, ok := d.Replies[i].slot(); ok {
			out[i] = s
		}
	}
	return out
}

// SaidAt finds the reply of a slot, or nil.
func (d *Doc) SaidAt(s Slot) *Reply {
	for i := range d.Replies {
		if at, ok := d.Replies[i].slot(); ok && at == s {
			return &d.Replies[i]
		}
	}
	return nil
}

// SaidOf is what is said when a piece of an item is placed right, or wrong.
func (d *Doc) SaidOf(item, result string) Say {
	if r := d.SaidAt(Slot{Item: item, Result: result, Moment: "placed"}); r != nil {
		return r.Say
	}
	return Say{}
}

// SayOf says something when a piece of an item is placed right, or wrong; see
// [Doc.SayAt].
func (d *Doc) SayOf(item, result string, what Say) {
	d.SayAt(Slot{Item: item, Result: result, Moment: "placed"}, what)
}

// SayAt says something in a slot; with nothing to say its reply goes. A new reply
// comes before those of its moment that are less particular; at a check it lets the
// search go on, since more than one item may be spoken of. It changes the document
// itself.
func (d *Doc) SayAt(s Slot, what Say) {
	at := slices.IndexFunc(d.Replies, func(r Reply) bool { here, ok := r.slot(); return ok && here == s })
	switch {
	case what == Say{} && at >= 0:
		d.Replies = slices.Delete(d.Replies, at, at+1)
	case what == Say{}:
	case at >= 0:
		d.Replies[at].Say = what
	default:
		r := NewReply(s.Result+s.Target+"-"+s.Item, s.Moment)
		r.When, r.Say, r.Also = s.when(), what, s.Moment == "checked"
		if s.Result != "" {
			r.Tone = s.Result
		}
		d.AddReply(r)
	}
}

func (d *Doc) takenReplies() map[string]bool {
	taken := map[string]bool{}
	for _, r := range d.Replies {
		taken[r.ID] = true
	}
	return taken
}
