package server_test

import (
	"archive/zip"
	"bytes"
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/formats/qti"
	"keenmagpie/server"
)

// many is a package of so many items of QTI 2.1.
func many(t *testing.T, n int) []byte {
	t.Helper()
	var out bytes.Buffer
	z := zip.NewWriter(&out)
	for i := range n {
		f, err := z.Create(fmt.Sprintf("item%04d.xml", i))
		if err == nil {
			_, err = fmt.Fprintf(f, `<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="tools%d" title="Tools %[1]d"><responseDeclaration identifier="R" cardinality="multiple" baseType="directedPair"><correctResponse><value>s d</value></correctResponse></responseDeclaration><itemBody><matchInteraction responseIdentifier="R" shuffle="true" maxAssociations="0"><simpleMatchSet><simpleAssociableChoice identifier="s" matchMax="1">Spanner</simpleAssociableChoice></simpleMatchSet><simpleMatchSet><simpleAssociableChoice identifier="d" matchMax="0">Drawer</simpleAssociableChoice></simpleMatchSet></matchInteraction></itemBody><responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/></assessmentItem>`, i)
		}
		if err != nil {
			t.Fatal(err)
		}
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	return out.Bytes()
}

// While a package is read, whoever sent it sees how far it is, and nobody else; afterwards
// nothing of it is kept.
func TestHowFarAFileIsRead(t *testing.T) {
	s := newSite(t)
	ana, els := s.ana(), s.signedIn("else@where.example", "another-bell")
	body := many(t, 400)
	looked := make(chan string)
	go func() {
		_, answer := ana.ask("POST", "/api/qti/look?name=many.zip&asked=mine", body)
		looked <- answer
	}()
	most, answer := 0, ""
	for answer == "" {
		select {
		case answer = <-looked:
		default:
			_, at := ana.ask("GET", "/api/qti/progress?asked=mine", nil)
			if now := read[server.QTIProgress](t, at); now.Of == 400 {
				most = max(most, now.N)
			}
			if _, at := els.ask("GET", "/api/qti/progress?asked=mine", nil); read[server.QTIProgress](t, at).Of != 0 {
				t.Fatalf("another sees %s", at)
			}
		}
	}
	if most == 0 {
		t.Error("nobody was told how far it was")
	}
	if list := read[server.QTILook](t, answer); len(list.Items) != 400 {
		t.Errorf("%d items: %.200s", len(list.Items), answer)
	}
	if _, at := ana.ask("GET", "/api/qti/progress?asked=mine", nil); read[server.QTIProgress](t, at).Of != 0 {
		t.Errorf("afterwards it is %s", at)
	}
}

// Several activities are one package; of another workspace's there is none.
func TestSeveralActivitiesAsQTI(t *testing.T) {
	s := newSite(t)
	ana, els := s.ana(), s.signedIn("else@where.example", "another-bell")
	one, _ := ana.activity()
	two := ana.small("Small", nil)
	code, body := ana.ask("GET", "/api/qti/package?activities="+one+","+two, nil)
	if code != 200 {
		t.Fatalf("%d %s", code, body)
	}
	made, notes, err := qti.Read(t.Context(), []byte(body), qti.Source{}, nil)
	if err != nil || len(made) != 2 || len(notes) != 0 || made[1].Doc.Title != "Small" {
		t.Errorf("read as %d: %v %v", len(made), notes, err)
	}
	if code, losses := ana.ask("GET", "/api/qti/losses?activities="+one+","+two, nil); code != 200 || !strings.Contains(losses, `"losses":[`) {
		t.Errorf("losses: %d %s", code, losses)
	}
	hopeless := ana.small("Hopeless", func(d *activity.Doc) {
		d.Key.Solutions[0].Needs = []activity.Need{{Target: "handlebar", Of: activity.Selector{All: true}, Min: 2}}
	})
	for _, path := range []string{"package", "losses"} {
		if code, body := ana.ask("GET", "/api/qti/"+path+"?activities="+one+","+hopeless, nil); code != 422 || !strings.Contains(body, "“Hopeless”") {
			t.Errorf("with one that cannot be solved: %d %.300s", code, body)
		}
		if code, body := els.ask("GET", "/api/qti/"+path+"?activities="+one, nil); code != 404 {
			t.Errorf("another workspace gets %d %.100s", code, body)
		}
		if code, body := ana.ask("GET", "/api/qti/"+path+"?activities=", nil); code != 422 {
			t.Errorf("without activities: %d %.100s", code, body)
		}
	}
}

// What is exported together is made in memory: above what a package may have it is refused
// before it is made, and what can be done is said.
func TestTooMuchForOnePackage(t *testing.T) {
	s := newSite(t)
	ana := s.ana()
	code, body := ana.ask("POST", "/api/media?name=long.wav", wav(9<<20))
	if code != 201 {
		t.Fatalf("%d %s", code, body)
	}
	id := read[struct{ ID string }](t, body).ID
	var loud []string
	for i := range 8 {
		loud = append(loud, ana.small(fmt.Sprintf("Loud %d", i), func(d *activity.Doc) {
			d.Items[0].Sound = id
		}))
	}
	if code, body := ana.ask("GET", "/api/qti/package?activities="+strings.Join(loud[:3], ","), nil); code != 200 {
		t.Errorf("27 MB: %d %.300s", code, body)
	}
	for _, path := range []string{"package", "losses"} {
		if code, body := ana.ask("GET", "/api/qti/"+path+"?activities="+strings.Join(loud, ","), nil); code != 422 || !strings.Contains(body, "more than 64 MB together. Choose fewer") {
			t.Errorf("72 MB: %d %.300s", code, body)
		}
	}
}
