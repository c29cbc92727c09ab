package qti

import (
	"archive/zip"
	"bytes"
	"cmp"
	"context"
	"errors"
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

// ownIn are the files of our own documents in a package of several, by their folders.
func ownIn(files map[string][]byte) map[string]map[string][]byte {
	own := map[string]map[string][]byte{}
	for name, body := range files {
		rest, ok := strings.CutPrefix(name, bundle.Folder)
		folder, file, nested := strings.Cut(rest, "/")
		if !ok || !nested {
			continue
		}
		folder = bundle.Folder + folder + "/"
		if own[folder] == nil {
			own[folder] = map[string][]byte{}
		}
		own[folder][file] = body
	}
	return own
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

// How much a package may hold.
const (
	MostPackage  = 128 << 20 // of the zip file, and of all that is in it unpacked
	mostPackaged = 20_000
)

// Read reads an item, or a package of them, of whichever version. Of a package that this
// application wrote it is our own document that is read. done, where it is given, is told how
// many items have been read of how many. The error is that of what cannot be read at all, a
// [*Bad], or of the context.
func Read(ctx context.Context, body []byte, from Source, done func(n, of int)) ([]Imported, []Note, error) {
	if !bytes.HasPrefix(body, []byte("PK")) {
		got, notes, err := Import(body, from)
		if got == nil {
			return nil, notes, err
		}
		return []Imported{*got}, notes, err
	}
	if b, err := bundle.Read(body); err == nil {
		return []Imported{{Bundle: b, Version: "3.0", Source: from.Name}}, nil, nil
	}
	files, err := unpack(body)
	if err != nil {
		return nil, nil, err
	}
	manifest, err := manifestOf(files)
	if err != nil {
		return nil, nil, err
	}
	var hrefs []string
	named := map[string]bool{} // each item once, however often a manifest says it
	manifest.all(func(n *node) {
		href := n.get("href")
		if n.name == "resource" && strings.Contains(n.get("type"), "item_xml") && href != "" && !named[href] {
			hrefs, named[href] = append(hrefs, href), true
		}
	})
	own := ownIn(files)
	var made []Imported
	notes := []Note{}
	for i, href := range hrefs {
		if ctx.Err() != nil {
			return nil, nil, ctx.Err()
		}
		if done != nil {
			done(i, len(hrefs))
		}
		item, ok := files[inside(href)]
		if !ok {
			notes = append(notes, Note{"imsmanifest.xml", 0, href, "missing", fmt.Sprintf("The item “%s” is named and not there: it is left out.", clipped(href, 80))})
			continue
		}
		if b, err := bundle.FromFiles(own[ownFolder(href)]); err == nil && b.Doc != nil {
			made = append(made, Imported{Bundle: b, Version: "3.0", Source: href})
			continue
		}
		got, more, err := Import(item, Source{Name: href, File: func(name string) ([]byte, error) {
			if f, ok := files[inside(path.Join(path.Dir(href), name))]; ok {
				return f, nil
			}
			return nil, errors.New("it is not in the package")
		}})
		notes = append(notes, more...)
		var bad *Bad
		if errors.As(err, &bad) {
			notes = append(notes, Note{href, bad.Line, href, bad.Code, "It is left out: " + bad.Why + "."})
			continue
		}
		if got != nil {
			made = append(made, *got)
		}
	}
	manifest.all(func(n *node) {
		if n.name == "resource" && strings.Contains(n.get("type"), "test_xml") {
			notes = append(notes, Note{"imsmanifest.xml", n.line, n.get("href"), "test", "The test is left out, and its items are taken: put them into a series."})
		}
	})
	return made, notes, nil
}

// Looks says whether a file looks like one of QTI, by its beginning or by what it has in it.
func Looks(body []byte) bool {
	if !bytes.HasPrefix(body, []byte("PK")) {
		return bytes.Contains(body[:min(len(body), 4096)], []byte("ssessment"))
	}
	z, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
	return err == nil && slices.ContainsFunc(z.File, func(f *zip.File) bool {
		return f.Name == "imsmanifest.xml" || strings.HasSuffix(strings.ToLower(f.Name), ".xml")
	})
}

// inside is a path within a package; one that leads out of it is "".
func inside(name string) string {
	clean := path.Clean("/" + strings.ReplaceAll(name, "%20", " "))
	return strings.TrimPrefix(clean, "/")
}

// manifestOf reads a package's manifest; without one, every XML file is taken for an item.
func manifestOf(files map[string][]byte) (*node, error) {
	if body, ok := files["imsmanifest.xml"]; ok {
		root, _, err := parse(body)
		if err != nil {
			return nil, err
		}
		plainNames(root)
		return root, nil
	}
	list := el("resources", nil)
	for _, name := range slices.Sorted(maps.Keys(files)) {
		if strings.HasSuffix(strings.ToLower(name), ".xml") {
			list.add(el("resource", at("type", itemType, "href", name)))
		}
	}
	if len(list.in) == 0 {
		return nil, &Bad{1, "no-manifest", "this is no package of QTI: it has no manifest, and no XML file"}
	}
	return el("manifest", nil, list), nil
}

// plainNames takes back the names that a manifest's elements got as if they were of QTI 2.
func plainNames(n *node) {
	n.name = strings.TrimPrefix(n.name, "qti-")
	for _, c := range n.in {
		if c.name != "" {
			plainNames(c)
		}
	}
}

// unpack reads the files of a package, no more than it may hold.
func unpack(body []byte) (map[string][]byte, error) {
	if len(body) > MostPackage {
		return nil, &Bad{1, "too-large", fmt.Sprintf("the package has %d MB: up to %d MB are read", len(body)>>20, MostPackage>>20)}
	}
	z, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
	if err != nil {
		return nil, &Bad{1, "not-a-zip", "it is no zip file that can be read"}
	}
	if len(z.File) > mostPackaged {
		return nil, &Bad{1, "too-large", fmt.Sprintf("the package has %d files: up to %d are read", len(z.File), mostPackaged)}
	}
	files, left := map[string][]byte{}, int64(MostPackage)
	for _, f := range z.File {
		name := inside(f.Name)
		if name == "" || strings.HasSuffix(f.Name, "/") || strings.Contains(f.Name, `\`) || strings.Contains("/"+f.Name+"/", "/../") {
			continue
		}
		r, err := f.Open()
		if err != nil {
			return nil, &Bad{1, "not-a-zip", fmt.Sprintf("“%s” in it cannot be unpacked", clipped(f.Name, 80))}
		}
		content, err := io.ReadAll(io.LimitReader(r, left+1))
		r.Close()
		if left -= int64(len(content)); left < 0 {
			return nil, &Bad{1, "too-large", fmt.Sprintf("what is in the package has more than %d MB", MostPackage>>20)}
		}
		if err != nil {
			return nil, &Bad{1, "not-a-zip", fmt.Sprintf("“%s” in it cannot be unpacked", clipped(f.Name, 80))}
		}
		files[name] = content
	}
	return files, nil
}

// Check says what is wrong with an item or a package, or not understood in it: the error is that
// of what cannot be read, or is of no known version.
func Check(ctx context.Context, body []byte, from Source) ([]Note, error) {
	if !bytes.HasPrefix(body, []byte("PK")) {
		root, version, err := parse(body)
		if err != nil {
			return nil, err
		}
		if version == "" {
			return nil, &Bad{root.line, "unknown-version", "its version of QTI is not one that is read: 2.1, 2.2 and 3.0 are"}
		}
		_, notes, err := Import(body, from)
		return notes, err
	}
	files, err := unpack(body)
	if err != nil {
		return nil, err
	}
	manifest, err := manifestOf(files)
	if err != nil {
		return nil, err
	}
	var notes []Note
	manifest.all(func(n *node) {
		href := inside(n.get("href"))
		if n.name != "resource" || !strings.Contains(n.get("type"), "item_xml") || href == "" {
			return
		}
		item, ok := files[href]
		if !ok {
			notes = append(notes, Note{"imsmanifest.xml", n.line, href, "missing", "This item is named and not there."})
			return
		}
		more, err := Check(ctx, item, Source{Name: href, File: func(name string) ([]byte, error) {
			if f, ok := files[inside(path.Join(path.Dir(href), name))]; ok {
				return f, nil
			}
			return nil, errors.New("it is not in the package")
		}})
		notes = append(notes, more...)
		var bad *Bad
		if errors.As(err, &bad) {
			notes = append(notes, Note{href, bad.Line, href, bad.Code, bad.Why})
		}
	})
	return notes, nil
}
