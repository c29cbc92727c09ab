package qti

import (
	"archive/zip"
	"bytes"
	"context"
	"errors"
	"fmt"
	"io"
	"maps"
	"path"
	"slices"
	"strings"

	"keenmagpie/formats/bundle"
)

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
		got, more, err := Import(item, sourceOf(files, href))
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

// sourceOf is where an item of a package comes from, with the files that it names.
func sourceOf(files map[string][]byte, item string) Source {
	return Source{Name: item, File: func(name string) ([]byte, error) {
		if f, ok := files[inside(path.Join(path.Dir(item), name))]; ok {
			return f, nil
		}
		return nil, errors.New("it is not in the package")
	}}
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
		more, err := Check(ctx, item, sourceOf(files, href))
		notes = append(notes, more...)
		var bad *Bad
		if errors.As(err, &bad) {
			notes = append(notes, Note{href, bad.Line, href, bad.Code, bad.Why})
		}
	})
	return notes, nil
}
