package standin_test

import (
	"archive/zip"
	"bytes"
	"net/http"
	"net/http/httptest"
	"os/exec"
	"strings"
	"testing"

	"keenmagpie/standin"
)

// It is a second reading of the standards, so it knows nothing of the application.
func TestTheStandInKnowsNothingOfTheApplication(t *testing.T) {
	list, err := exec.Command("go", "list", "-deps", ".").Output()
	if err != nil {
		t.Fatal(err)
	}
	for _, path := range strings.Fields(string(list)) {
		if strings.HasPrefix(path, "keenmagpie/") && path != "keenmagpie/standin" {
			t.Errorf("it knows %s", path)
		}
	}
}

// What is no package is refused with the reason, and nothing is put into a course.
func TestTheCollegeRefusesWhatIsNoPackage(t *testing.T) {
	college := httptest.NewServer(standin.NewCollege().Handler())
	defer college.Close()
	packed := func(files map[string]string) []byte {
		var b bytes.Buffer
		z := zip.NewWriter(&b)
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
		return b.Bytes()
	}
	for name, body := range map[string][]byte{
		"no zip":                   []byte("hello"),
		"no manifest":              packed(map[string]string{"index.html": "x"}),
		"nothing to launch":        packed(map[string]string{"imsmanifest.xml": "<manifest><organizations/></manifest>"}),
		"a page that is not there": packed(map[string]string{"cmi5.xml": `<courseStructure><au id="a"><url>index.html</url></au></courseStructure>`}),
	} {
		r, err := http.Post(college.URL+"/packages", "application/zip", bytes.NewReader(body))
		if err != nil {
			t.Fatal(err)
		}
		r.Body.Close()
		if r.StatusCode != http.StatusUnprocessableEntity {
			t.Errorf("%s: %d", name, r.StatusCode)
		}
	}
	if r, err := http.Get(college.URL + "/objects/1"); err != nil || r.StatusCode != http.StatusNotFound {
		t.Error("something was put into a course")
	}
}
