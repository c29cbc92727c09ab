package activity

import "slices"

// The plainest replies are those that speak of one item's placement, right or wrong,
// and of nothing else: what a table has a column for, and the sheet a field.
func (r *Reply) speaksOf(item, result string) bool {
	w := r.When
	if r.Moment != "placed" || w == nil || len(w.All) != 2 || w.All[0].Piece == nil {
		return false
	}
	p := w.All[0].Piece
	return slices.Equal(p.Items, []string{item}) && !p.All && len(p.Tags) == 0 && len(p.Except) == 0 && w.All[1].Result == result
}

// SaidOf is what is said when a piece of an item is placed right, or wrong.
func (d *Doc) SaidOf(item, result string) Say {
	for i := range d.Replies {
		if d.Replies[i].speaksOf(item, result) {
			return d.Replies[i].Say
		}
	}
	return Say{}
}

// SayOf says something when a piece of an item is placed right, or wrong; with
// nothing to say the reply goes. It changes the document itself.
func (d *Doc) SayOf(item, result string, what Say) {
	at := slices.IndexFunc(d.Replies, func(r Reply) bool { return r.speaksOf(item, result) })
	switch {
	case what == Say{} && at >= 0:
		d.Replies = slices.Delete(d.Replies, at, at+1)
	case what == Say{}:
	case at >= 0:
		d.Replies[at].Say = what
	default:
		taken := map[string]bool{}
		for _, r := range d.Replies {
			taken[r.ID] = true
		}
		r := NewReply(FreshID(taken, result+"-"+item), "placed")
		r.When = &Condition{All: []Condition{{Piece: &Selector{Items: []string{item}}}, {Result: result}}}
		r.Say, r.Tone = what, result
		d.Replies = append(d.Replies, r)
	}
}
