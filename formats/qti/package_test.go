package qti

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/formats/bundle"
)

// zipped is a package of files.
func zipped(t testing.TB, files map[string]string) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for name, body := range files {
		f, err := z.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		_, _ = f.Write([]byte(body))
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// without is a package of ours as another application would have written it.
func without(t testing.TB, body []byte, left string) []byte {
	t.Helper()
	files, err := unpack(body)
	if err != nil {
		t.Fatal(err)
	}
	rest := map[string]string{}
	for name, f := range files {
		if !strings.HasPrefix(name, left) {
			rest[name] = string(f)
		}
	}
	return zipped(t, rest)
}

// A package comes back as it was; without our own document in it, each item does.
func TestPackages(t *testing.T) {
	body, err := os.ReadFile("../../demo/activities/parts-drawers.json")
	if err != nil {
		t.Fatal(err)
	}
	doc, faults := activity.Read(body)
	if faults != nil {
		t.Fatal(faults)
	}
	b := bundle.Bundle{Doc: doc}
	if err := b.Take(func(name string) ([]byte, error) {
		if body, err := os.ReadFile("../../demo/pictures/" + name); err == nil {
			return body, nil
		}
		return os.ReadFile("../../demo/sounds/" + name)
	}); err != nil {
		t.Fatal(err)
	}
	var out bytes.Buffer
	if _, err := Package(&out, b); err != nil {
		t.Fatal(err)
	}
	got, notes, err := Read(context.Background(), out.Bytes(), Source{}, nil)
	if err != nil || len(notes) > 0 || len(got) != 1 || !bytes.Equal(got[0].Doc.Write(), b.Doc.Write()) {
		t.Errorf("it does not come back as it was: %v %v", notes, err)
	}
	got, notes, err = Read(context.Background(), without(t, out.Bytes(), bundle.Folder), Source{}, nil)
	if err != nil || len(notes) > 0 || len(got) != 1 || len(got[0].Media) == 0 || got[0].Doc.Marks.Points != doc.Marks.Points || len(got[0].Doc.Items) != len(doc.Items) {
		t.Errorf("as another's it does not come back: %v %v", notes, err)
	}
	if notes, err := Check(context.Background(), out.Bytes(), Source{}); err != nil || len(notes) > 0 {
		t.Errorf("it is not understood: %v %v", notes, err)
	}

	// Several are one package, of which each comes back as it was; two of one id stay apart.
	again := b
	again.Doc = b.Doc.Clone()
	again.Doc.Title = "Once more"
	out.Reset()
	told, err := Package(&out, b, again)
	if err != nil || !slices.ContainsFunc(told, func(l Loss) bool { return l.Activity == "Once more" }) {
		t.Fatalf("several: %v %v", told, err)
	}
	got, notes, err = Read(context.Background(), out.Bytes(), Source{}, nil)
	if err != nil || len(notes) > 0 || len(got) != 2 || !bytes.Equal(got[0].Doc.Write(), b.Doc.Write()) || !bytes.Equal(got[1].Doc.Write(), again.Doc.Write()) {
		t.Errorf("several do not come back as they were: %d, %v %v", len(got), notes, err)
	}
	if got, _, err = Read(context.Background(), without(t, out.Bytes(), bundle.Folder), Source{}, nil); err != nil || len(got) != 2 {
		t.Errorf("several as another's do not come back: %d %v", len(got), err)
	}

	// A series is a test of its activities.
	rnd := rand.New(rand.NewPCG(3, 3))
	one, two := made(t, rnd), made(t, rnd)
	one.ID, two.ID = "one", "two"
	s, faults := activity.ReadSeries([]byte(`{"format":"keen-magpie/series","version":1,"id":"walk","title":"Walk","steps":[{"page":{"id":"p","title":"Hello","text":"Hi"}},{"activity":"one","points":3},{"activity":"two","counts":false}]}`))
	if faults != nil {
		t.Fatal(faults)
	}
	out.Reset()
	losses, err := Package(&out, bundle.Bundle{Series: s, Activities: map[string]*activity.Doc{"one": one, "two": two}})
	if err != nil || !slices.ContainsFunc(losses, func(l Loss) bool { return l.Code == "page" }) {
		t.Fatalf("%v %v", losses, err)
	}
	files, err := unpack(out.Bytes())
	if err != nil || !strings.Contains(string(files["test.xml"]), `href="items/one.xml" category="counts"`) || strings.Count(string(files["test.xml"]), "category") != 2 {
		t.Errorf("the test is %s", files["test.xml"])
	}
	got, notes, err = Read(context.Background(), without(t, out.Bytes(), bundle.Folder), Source{}, nil)
	if err != nil || len(got) != 2 || len(notes) == 0 || notes[len(notes)-1].Code != "test" {
		t.Errorf("a test as another's: %d %v %v", len(got), notes, err)
	}
}

// Of a package the one item that cannot be taken is left out, never all of it; hostile ones are
// refused.
func TestPackagesInPart(t *testing.T) {
	good := string(match3(correct3, template+`match_correct.xml"/>`))
	manifest := `<manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1"><resources>
<resource identifier="a" type="imsqti_item_xmlv2p1" href="a/good.xml"/><resource identifier="b" type="imsqti_item_xmlv2p1" href="bomb.xml"/>
<resource identifier="c" type="imsqti_item_xmlv2p1" href="gone.xml"/><resource identifier="d" type="imsqti_item_xmlv2p1" href="../../etc/passwd"/></resources></manifest>`
	body := zipped(t, map[string]string{"imsmanifest.xml": manifest, "a/good.xml": good, "bomb.xml": `<!DOCTYPE a [<!ENTITY x "y">]><a/>`, "../evil.xml": good})
	got, notes, err := Read(context.Background(), body, Source{}, nil)
	codes := []string{}
	for _, n := range notes {
		codes = append(codes, n.Code)
	}
	if err != nil || len(got) != 1 || !slices.Equal(codes, []string{"doctype", "missing", "missing"}) {
		t.Errorf("%d were made, with %v: %v", len(got), notes, err)
	}
	for name, body := range map[string][]byte{"no zip": []byte("PK nothing"), "no item": zipped(t, map[string]string{"a.txt": "x"}), "a bomb": zipped(t, map[string]string{"imsmanifest.xml": manifest, "big": strings.Repeat("\x00", MostPackage+1)})} {
		if _, _, err := Read(context.Background(), body, Source{}, nil); err == nil {
			t.Errorf("%s is read", name)
		}
	}
	ctx, stop := context.WithCancel(context.Background())
	stop()
	if _, _, err := Read(ctx, body, Source{}, nil); err != context.Canceled {
		t.Errorf("it goes on when it was stopped: %v", err)
	}
}

// BenchmarkImport prints how long a package of a thousand items takes, and what memory.
func BenchmarkImport(b *testing.B) {
	files := map[string]string{}
	var manifest strings.Builder
	manifest.WriteString(`<manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1"><resources>`)
	for n := range 1000 {
		name := fmt.Sprintf("items/%d.xml", n)
		fmt.Fprintf(&manifest, `<resource identifier="r%d" type="imsqti_item_xmlv3p0" href="%s"/>`, n, name)
		files[name] = string(match3(correct3+`<qti-mapping lower-bound="0" default-value="-0.5"><qti-map-entry map-key="a x" mapped-value="2"/><qti-map-entry map-key="b x" mapped-value="1"/></qti-mapping>`, template+`map_response.xml"/>`))
	}
	files["imsmanifest.xml"] = manifest.String() + `</resources></manifest>`
	body := zipped(b, files)
	b.ReportAllocs()
	for b.Loop() {
		got, _, err := Read(context.Background(), body, Source{}, nil)
		if err != nil || len(got) != 1000 {
			b.Fatal(len(got), err)
		}
	}
}
