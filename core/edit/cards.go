package edit

import (
	"cmp"

	"keenmagpie/core/activity"
)

// CardOf is the reply that opens as a card when a piece of an item is placed right, or
// nil.
func CardOf(d *activity.Doc, item string) *activity.Reply {
	if r := SaidAt(d, opensWhenRight(item)); r != nil && r.Spot == activity.SpotCard {
		return r
	}
	return nil
}

func opensWhenRight(item string) Slot {
	return Slot{Item: item, Result: activity.ResultRight, Moment: activity.MomentPlaced}
}

// SetCard says what the card of an item says; with nothing to say it goes. What was said
// beside the piece until then becomes the card. A new card looks and behaves as the first
// one that there is; the first of all stays until it is closed and can be opened again from
// its piece. It changes the document itself.
func SetCard(d *activity.Doc, item string, what activity.Say) {
	like := firstCard(d)
	SayAt(d, opensWhenRight(item), what)
	r := SaidAt(d, opensWhenRight(item))
	if r == nil || r.Spot == activity.SpotCard {
		return
	}
	r.Spot, r.Frame, r.Until, r.Reopen = activity.SpotCard, nil, "", true
	if like != nil {
		r.Tone, r.Until, r.Dim, r.Reopen = cmp.Or(like.Tone, r.Tone), like.Until, like.Dim, like.Reopen
	}
}

// firstCard is a copy of the first card in the order of the items, or nil.
func firstCard(d *activity.Doc) *activity.Reply {
	for i := range d.Items {
		if r := CardOf(d, d.Items[i].ID); r != nil {
			like := *r
			return &like
		}
	}
	return nil
}
