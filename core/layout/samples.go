package layout

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
)

// Samples are the items and targets that a new activity of the kind starts with and that
// nobody has made anything of.
func Samples(doc *activity.Doc) (s activity.Selection) {
	starts := []*activity.Doc{New(string(doc.Kind), doc.Title)}
	if doc.Kind == activity.KindBuild {
		starts = append(starts, New("question", doc.Title))
	}
	for i := range doc.Items {
		it := &doc.Items[i]
		if slices.ContainsFunc(starts, func(fresh *activity.Doc) bool { return sampleItem(it, fresh.Item(it.ID)) }) {
			s.Items = append(s.Items, it.ID)
		}
	}
	for i := range doc.Targets {
		t := &doc.Targets[i]
		if slices.ContainsFunc(starts, func(fresh *activity.Doc) bool { return sampleTarget(t, fresh.Target(t.ID)) }) {
			s.Targets = append(s.Targets, t.ID)
		}
	}
	return s
}

func sampleItem(it, was *activity.Item) bool {
	return was != nil && it.Name == was.Name && it.Text == was.Text && it.Picture+it.Sound+it.Alt == "" && len(it.Tags) == 0 && it.Home == nil
}

func sampleTarget(t, was *activity.Target) bool {
	return was != nil && t.Name == was.Name && t.Label.Text == was.Label.Text && t.Shape == was.Shape
}

// DropSamples is the activity without its sample items, once there are others to come, and
// without sample targets too unless they are to be kept. What is in keep stays.
func DropSamples(doc *activity.Doc, keepTargets bool, keep ...string) *activity.Doc {
	s := Samples(doc)
	if keepTargets {
		s.Targets = nil
	}
	kept := func(id string) bool { return slices.Contains(keep, id) }
	s.Items, s.Targets = slices.DeleteFunc(s.Items, kept), slices.DeleteFunc(s.Targets, kept)
	if len(s.Items)+len(s.Targets) == 0 {
		return doc
	}
	out, _ := edit.Remove(doc, s)
	return out
}
