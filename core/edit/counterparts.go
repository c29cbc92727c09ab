package edit

import (
	"cmp"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/message"
	"keenmagpie/core/say"
)

// Pieces for targets, and targets for pieces.

// ItemsOfTargets makes a piece of each target's label, right there alone: a
// labelled picture has its labels from the names of its spots.
func ItemsOfTargets(d *activity.Doc, ids []string) (*activity.Doc, activity.Selection) {
	out := d.Clone()
	items, _, _ := takenIDs(out)
	var made activity.Selection
	for _, id := range ids {
		t := out.Target(id)
		if t == nil {
			continue
		}
		name := cmp.Or(t.Label.Text, t.Name)
		it := activity.NewItem(activity.FreshID(items, name), name)
		it.Size.W = max(it.Size.W, min(24000, wordWidth(name)))
		out.Items = append(out.Items, it)
		made.Items = append(made.Items, it.ID)
		t.Label.Text = "" // it would give the answer away
		if t.Holds == 0 {
			t.Holds = 1
		}
		rightEverywhere(out, id, it.ID)
	}
	return out, made
}

// TargetsUnder lets what stands on the board, pieces and scenery, become the answer: each has
// a target that learners do not see, exactly where it stands and of its shape, right for it
// alone, and goes into the tray. lost says what scenery that became a piece took with it.
func TargetsUnder(d *activity.Doc, s activity.Selection) (out *activity.Doc, made activity.Selection, lost []message.Sentence) {
	out, made, lost = Recast(d, activity.Selection{Scenery: s.Scenery}, "item")
	_, targets, _ := takenIDs(out)
	made.Items = append(slices.Clone(s.Items), made.Items...)
	for _, id := range made.Items {
		it := out.Item(id)
		if it == nil || it.Home == nil {
			continue
		}
		t := activity.NewTarget(activity.FreshID(targets, it.Name), it.Name)
		t.Frame = geometry.Rect{X: it.Home.X, Y: it.Home.Y, W: it.Size.W, H: it.Size.H}
		t.Holds, t.Shows = 1, activity.ShowsNever
		if style := activity.RestStyle(it.Looks.Points()); style != nil && style.Shape != "" {
			t.Shape, t.Points = style.Shape, spread(style.Points, geometry.Rect{W: 10000, H: 10000}, t.Frame)
		}
		it.Home = nil
		out.Targets = append(out.Targets, t)
		made.Targets = append(made.Targets, t.ID)
		rightEverywhere(out, t.ID, it.ID)
	}
	return out, made, lost
}

// Waiting is the first label of a labelled picture that is right nowhere yet, nil without one.
func Waiting(d *activity.Doc) *activity.Item {
	if d.Kind != activity.KindLabel || len(d.Key.Solutions) == 0 {
		return nil
	}
	s := &d.Key.Solutions[0]
	for i := range d.Items {
		if it := &d.Items[i]; !slices.ContainsFunc(d.Targets, func(t activity.Target) bool { return s.RightCell(&t, it) }) {
			return it
		}
	}
	return nil
}

// FillSpot makes a target right for the label that waits for its spot, if one does. It changes
// the document itself.
func FillSpot(d *activity.Doc, target string) {
	if it := Waiting(d); it != nil {
		rightEverywhere(d, target, it.ID)
	}
}

// SpotFound says for which label a spot of a labelled picture is that was just drawn, and which
// one is next; nothing where it is for none.
func SpotFound(d *activity.Doc, spot string) []message.Sentence {
	if d.Kind != activity.KindLabel || len(d.Key.Solutions) == 0 {
		return nil
	}
	for i := range d.Items {
		it := &d.Items[i]
		if !d.Key.Solutions[0].RightCell(d.Target(spot), it) {
			continue
		}
		code, params := "spot-found", message.P{"item": cmp.Or(it.Name, it.Text), "target": say.Targets(d, []string{spot})[0]}
		if next := Waiting(d); next != nil {
			code, params["next"] = "spot-found-next", cmp.Or(next.Name, next.Text)
		}
		return []message.Sentence{Say(code, params)}
	}
	return nil
}

// rightEverywhere lets an item be right in a target by every solution.
func rightEverywhere(d *activity.Doc, target, item string) {
	it, t := d.Item(item), d.Target(target)
	for i := range d.Key.Solutions {
		s := &d.Key.Solutions[i]
		right(s, target, s.Right[target].With(it, true))
	}
	t.Lets = t.Lets.With(it, true)
}
