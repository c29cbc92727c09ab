package edit

import (
	"slices"

	"keenmagpie/core/activity"
)

// particular is how particular a reply is: among those of a moment the more particular
// are tried earlier, so that nothing general takes their place. First come those that
// let the search go on; last those that ask for no more than the outcome and the
// attempts. Between them it is the number of conditions, and what is said of one place
// comes before what is said of the same piece anywhere.
func particular(r *activity.Reply) int {
	facts := r.Asks()
	general := !slices.ContainsFunc(facts, func(c activity.Condition) bool { return c.Outcome == "" && c.Left == nil && c.Attempt == nil })
	rank := 2 * len(facts)
	if s, ok := slot(r); ok && s.Result == "" {
		rank++
	}
	switch {
	case r.Also && !general:
		return 1000 + rank
	case general:
		return 0
	}
	return rank
}

// AddReply puts a reply before those of its moment that are less particular, else at
// the end, with an id of its own. It changes the document itself.
func AddReply(d *activity.Doc, r activity.Reply) (id string) {
	r.ID = activity.FreshID(takenReplies(d), r.ID)
	insertReply(d, r)
	return r.ID
}

func insertReply(d *activity.Doc, r activity.Reply) {
	at := slices.IndexFunc(d.Replies, func(x activity.Reply) bool { return x.Moment == r.Moment && particular(&x) < particular(&r) })
	if at < 0 {
		at = len(d.Replies)
	}
	d.Replies = slices.Insert(d.Replies, at, r)
}

// Situate changes when a reply is given. Where the others of its moment stand by how
// particular they are it takes its place among them; an order made by hand stays. It
// changes the document itself.
func Situate(d *activity.Doc, id string, when *activity.Condition) {
	at := slices.IndexFunc(d.Replies, func(r activity.Reply) bool { return r.ID == id })
	if at < 0 {
		return
	}
	d.Replies[at].When = when
	r := d.Replies[at]
	less := func(a, b activity.Reply) int { return particular(&b) - particular(&a) }
	own := slices.DeleteFunc(slices.Clone(d.Replies), func(x activity.Reply) bool { return x.Moment != r.Moment })
	others := slices.DeleteFunc(slices.Clone(own), func(x activity.Reply) bool { return x.ID == id })
	if slices.IsSortedFunc(own, less) || !slices.IsSortedFunc(others, less) {
		return
	}
	d.Replies = slices.Delete(d.Replies, at, at+1)
	insertReply(d, r)
}

func takenReplies(d *activity.Doc) map[string]bool {
	taken := map[string]bool{}
	for _, r := range d.Replies {
		taken[r.ID] = true
	}
	return taken
}
