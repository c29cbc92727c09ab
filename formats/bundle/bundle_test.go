package bundle_test

import (
	"archive/zip"
	"bytes"
	"io"
	"reflect"
	"strings"
	"testing"

	"keenmagpie/formats/bundle"
	"keenmagpie/formats/table"
)

func sample(t *testing.T) (bundle.Bundle, []byte) {
	t.Helper()
	m, err := bundle.NewMedium([]byte(`<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h8"/></svg>`))
	if err != nil {
		t.Fatal(err)
	}
	doc := table.Read("Chain\tDrivetrain\nBell", nil).Sort("Parts")
	doc.Items[0].Picture = m.ID
	b := bundle.Bundle{Doc: doc, Media: []bundle.Medium{m}}
	var out bytes.Buffer
	if err := b.Write(&out); err != nil {
		t.Fatal(err)
	}
	return b, out.Bytes()
}

func TestWhatIsWrittenReadsEqual(t *testing.T) {
	b, body := sample(t)
	back, err := bundle.Read(body)
	if err != nil {
		t.Fatal(err)
	}
	if !bytes.Equal(b.Doc.Write(), back.Doc.Write()) || !reflect.DeepEqual(b.Media, back.Media) {
		t.Error("the bundle came back different")
	}
	var again bytes.Buffer
	if err := back.Write(&again); err != nil || !bytes.Equal(again.Bytes(), body) {
		t.Error("writing it again gives other bytes")
	}
}

// repack copies the bundle with one change to its files.
func repack(t *testing.T, body []byte, change func(name string, content []byte) (string, []byte)) []byte {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
	if err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	w := zip.NewWriter(&out)
	for _, f := range z.File {
		r, _ := f.Open()
		content, _ := io.ReadAll(r)
		name, content := change(f.Name, content)
		if name == "" {
			continue
		}
		x, _ := w.Create(name)
		if _, err := x.Write(content); err != nil {
			t.Fatal(err)
		}
	}
	if err := w.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

func TestABrokenBundleIsRefusedWithTheReason(t *testing.T) {
	_, body := sample(t)
	on := func(prefix string, f func(string, []byte) (string, []byte)) []byte {
		return repack(t, body, func(n string, c []byte) (string, []byte) {
			if strings.HasPrefix(n, prefix) {
				return f(n, c)
			}
			return n, c
		})
	}
	for name, c := range map[string]struct {
		body []byte
		says string
	}{
		"cut off":            {body[:len(body)/2], "not a zip file"},
		"something else":     {[]byte("hello"), "not a zip file"},
		"no manifest":        {on("manifest", func(string, []byte) (string, []byte) { return "", nil }), "no manifest.json"},
		"a foreign manifest": {on("manifest", func(n string, _ []byte) (string, []byte) { return n, []byte(`{"format":"x"}`) }), "not that of"},
		"a later version": {on("manifest", func(n string, c []byte) (string, []byte) {
			return n, bytes.Replace(c, []byte(`"version": 1`), []byte(`"version": 2`), 1)
		}), "version 2"},
		"a changed document": {on("activity", func(n string, c []byte) (string, []byte) { return n, append(c, ' ') }), "changed or damaged"},
		"a missing picture":  {on("media", func(string, []byte) (string, []byte) { return "", nil }), "not in the bundle"},
		"an unlisted file":   {on("media", func(n string, c []byte) (string, []byte) { return n + "x", c }), "manifest"},
		"a path upwards":     {on("media", func(_ string, c []byte) (string, []byte) { return "../x.svg", c }), "not possible"},
		"too large":          {make([]byte, bundle.MaxBytes+1), "at most"},
		"a zip bomb":         {on("media", func(n string, _ []byte) (string, []byte) { return n, make([]byte, bundle.MaxBytes+1) }), "larger than"},
	} {
		t.Run(name, func(t *testing.T) {
			if _, err := bundle.Read(c.body); err == nil || !strings.Contains(err.Error(), c.says) {
				t.Errorf("%v, want %q", err, c.says)
			}
		})
	}
}
