package qti

import (
	"cmp"
	"fmt"
	"io"
	"maps"
	"path"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/formats/bundle"
)

// Types of resources in a package, whatever their version.
const (
	itemType = "imsqti_item_xmlv3p0"
	testType = "imsqti_test_xmlv3p0"
)

// Package writes an activity, several, or a series as a test of its activities, as a package of
// QTI 3.0: with its media, and with our own documents, by which it is taken in again without
// loss. Losses are in the order of the items; of several activities, each names its own.
func Package(w io.Writer, list ...bundle.Bundle) ([]Loss, error) {
	p, err := packed(list)
	if err != nil {
		return nil, err
	}
	return p.losses, bundle.Zip(w, p.files)
}

// Losses is what a package by [Package] cannot say.
func Losses(list ...bundle.Bundle) ([]Loss, error) {
	p, err := packed(list)
	if err != nil {
		return nil, err
	}
	return p.losses, nil
}

func packed(list []bundle.Bundle) (*packing, error) {
	n := 0
	for _, b := range list {
		n += len(b.Documents())
	}
	p := &packing{several: n > 1, files: map[string][]byte{}, losses: []Loss{}, resources: el("resources", nil), names: map[string]string{}}
	for _, b := range list {
		if len(list) > 1 && b.Series != nil {
			return nil, fmt.Errorf("“%s” is a series: it has a package of its own", b.Title())
		}
		if err := p.items(b); err != nil {
			return nil, err
		}
		own, err := b.Files()
		if err != nil {
			return nil, err
		}
		folder := bundle.Folder
		if len(list) > 1 {
			folder = ownFolder(p.last)
		}
		for name, body := range own {
			p.files[folder+name] = body
		}
	}
	called := "activities"
	if len(list) == 1 {
		called = list[0].ID()
		if b := list[0]; b.Series != nil {
			p.files["test.xml"] = test(b, b.Documents(), p.names, &p.losses).file()
			p.resources.in = append([]*node{el("resource", at("identifier", "test", "type", testType, "href", "test.xml"), el("file", at("href", "test.xml")))}, p.resources.in...)
		}
	}
	manifest := el("manifest", at("xmlns", "http://www.imsglobal.org/xsd/qti/qtiv3p0/imscp_v1p1", "identifier", "magpie_"+safe(called)),
		el("metadata", nil, el("schema", nil, txt("QTI Package")), el("schemaversion", nil, txt("3.0.0"))), el("organizations", nil), p.resources)
	p.files["imsmanifest.xml"] = manifest.file()
	return p, nil
}

// packing is a package on its way.
type packing struct {
	several   bool // activities: losses name theirs
	files     map[string][]byte
	losses    []Loss
	resources *node
	names     map[string]string // of items' files, by the ids of the activities
	last      string            // the item written last
}

// items writes the activities of a bundle as items.
func (p *packing) items(b bundle.Bundle) error {
	media := map[string]bundle.Medium{}
	for _, m := range b.Media {
		media[m.ID] = m
	}
	docs := b.Documents()
	for _, id := range slices.Sorted(maps.Keys(docs)) {
		x, root, err := export(docs[id], Options{Media: media})
		if err != nil {
			return fmt.Errorf("“%s”: %w", docs[id].Title, err)
		}
		for _, l := range x.losses {
			if p.several {
				l.Activity = docs[id].Title
			}
			p.losses = append(p.losses, l)
		}
		n := len(p.resources.in) + 1
		name := fmt.Sprintf("items/%s.xml", cmp.Or(docs[id].ID, strconv.Itoa(n)))
		for k := 2; p.files[name] != nil; k++ {
			name = fmt.Sprintf("items/%s-%d.xml", docs[id].ID, k)
		}
		p.names[id], p.last = name, name
		p.files[name] = root.file()
		r := el("resource", at("identifier", "item_"+strconv.Itoa(n), "type", itemType, "href", name), el("file", at("href", name)))
		for _, used := range docs[id].Media() {
			if m, ok := media[used]; ok {
				p.files["items/media/"+m.Name()] = m.Body
				r.add(el("file", at("href", "items/media/"+m.Name())))
			}
		}
		p.resources.add(r)
	}
	return nil
}

// ownFolder is where a package of several has our own document of an item.
func ownFolder(item string) string {
	return bundle.Folder + strings.TrimSuffix(path.Base(item), ".xml") + "/"
}

// test is a series as a test: what counts is summed up, each step with its points.
func test(b bundle.Bundle, docs map[string]*activity.Doc, names map[string]string, losses *[]Loss) *node {
	s := b.Series
	lose := func(part, code, message string, args ...any) {
		*losses = append(*losses, Loss{Part: part, Code: code, Message: fmt.Sprintf(message, args...)})
	}
	section := el("qti-assessment-section", at("identifier", "steps", "title", cmp.Or(s.Title, "Steps"), "visible", "true"))
	for i, step := range s.Steps {
		if step.Page != nil {
			lose(step.Page.ID, "page", "The page “%s” is not there.", cmp.Or(step.Page.Title, step.Page.ID))
			continue
		}
		d := docs[step.Activity]
		if d == nil {
			continue
		}
		category := ""
		if step.Counts {
			category = "counts"
		}
		ref := el("qti-assessment-item-ref", at("identifier", fmt.Sprintf("step_%d", i+1), "href", names[step.Activity], "category", category),
			el("qti-item-session-control", at("max-attempts", strconv.Itoa(d.Play.Attempts), "show-feedback", "true")))
		if d.Play.TimeLimit > 0 {
			ref.add(el("qti-time-limits", at("max-time", strconv.Itoa(d.Play.TimeLimit/1000))))
		}
		if step.Points != nil && d.Marks.Points > 0 && *step.Points != d.Marks.Points {
			ref.add(el("qti-weight", at("identifier", "WEIGHT", "value", strconv.FormatFloat(float64(*step.Points)/float64(d.Marks.Points), 'g', 6, 64))))
		}
		if step.MoveOn != activity.MoveOnFree {
			lose(step.Activity, "move-on", "That “%s” has to be done before the next step is not there.", d.Title)
		}
		section.add(ref)
	}
	if len(s.Bands) > 0 {
		lose("series", "bands", "The names of bands are not there.")
	}
	root := el("qti-assessment-test", at("xmlns", Namespace, "identifier", safe(cmp.Or(s.ID, "series")), "title", cmp.Or(s.Title, "Untitled"), "xml:lang", s.Lang),
		el("qti-outcome-declaration", at("identifier", score, "cardinality", "single", "base-type", "float"), el("qti-default-value", nil, el("qti-value", nil, txt("0")))))
	if s.TimeLimit > 0 {
		root.add(el("qti-time-limits", at("max-time", strconv.Itoa(s.TimeLimit/1000))))
	}
	mode := "nonlinear"
	if !s.Back {
		mode = "linear"
	}
	return root.add(el("qti-test-part", at("identifier", "part", "navigation-mode", mode, "submission-mode", "individual"), section),
		el("qti-outcome-processing", nil, set(score, el("qti-sum", nil, el("qti-test-variables", at("variable-identifier", score, "weight-identifier", "WEIGHT", "include-category", "counts"))))))
}
