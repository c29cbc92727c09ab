package e2e

import (
	"archive/zip"
	"encoding/base64"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

const aMatch = `<?xml version="1.0" encoding="UTF-8"?>
<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="tools" title="Put the tools away" adaptive="false" timeDependent="false">
<responseDeclaration identifier="RESPONSE" cardinality="multiple" baseType="directedPair"><correctResponse><value>A X</value><value>B Y</value></correctResponse>
<mapping defaultValue="0" lowerBound="0"><mapEntry mapKey="A X" mappedValue="2"/><mapEntry mapKey="B Y" mappedValue="1"/></mapping></responseDeclaration>
<itemBody><p>Everything has its place.</p><matchInteraction responseIdentifier="RESPONSE" shuffle="true" maxAssociations="2">
<simpleMatchSet><simpleAssociableChoice identifier="A" matchMax="1">Spanner</simpleAssociableChoice><simpleAssociableChoice identifier="B" matchMax="1">Rag</simpleAssociableChoice></simpleMatchSet>
<simpleMatchSet><simpleAssociableChoice identifier="X" matchMax="0">Drawer</simpleAssociableChoice><simpleAssociableChoice identifier="Y" matchMax="0">Hook</simpleAssociableChoice></simpleMatchSet>
</matchInteraction></itemBody><responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/map_response"/></assessmentItem>`

const anOrder = `<?xml version="1.0" encoding="UTF-8"?>
<qti-assessment-item xmlns="http://www.imsglobal.org/xsd/imsqtiasi_v3p0" identifier="patch" title="Patch a tube" adaptive="false" time-dependent="false">
<qti-response-declaration identifier="RESPONSE" cardinality="ordered" base-type="identifier"><qti-correct-response><qti-value>A</qti-value><qti-value>B</qti-value></qti-correct-response></qti-response-declaration>
<qti-item-body><qti-order-interaction response-identifier="RESPONSE" shuffle="true"><qti-simple-choice identifier="A">Find the hole</qti-simple-choice><qti-simple-choice identifier="B">Glue</qti-simple-choice></qti-order-interaction></qti-item-body>
<qti-response-processing template="https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/match_correct"/></qti-assessment-item>`

const aChoice = `<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="choice" title="Choose"><itemBody>
<choiceInteraction responseIdentifier="R"/></itemBody></assessmentItem>`

// A package of another application is looked at, and what is chosen of it is made; a release goes
// out as QTI and comes back as it was.
func TestQTI(t *testing.T) {
	w := newWorld(t)
	dir := t.TempDir()
	file := filepath.Join(dir, "workshop.zip")
	out, err := os.Create(file)
	if err != nil {
		t.Fatal(err)
	}
	z := zip.NewWriter(out)
	for name, body := range map[string]string{"imsmanifest.xml": `<manifest xmlns="http://www.imsglobal.org/xsd/imscp_v1p1"><resources><resource identifier="a" type="imsqti_item_xmlv2p1" href="a.xml"/>
		<resource identifier="b" type="imsqti_item_xmlv3p0" href="b.xml"/><resource identifier="c" type="imsqti_item_xmlv2p1" href="c.xml"/></resources></manifest>`, "a.xml": aMatch, "b.xml": anOrder, "c.xml": aChoice} {
		f, err := z.Create(name)
		if err != nil {
			t.Fatal(err)
		}
		_, _ = f.Write([]byte(body))
	}
	if err := z.Close(); err != nil {
		t.Fatal(err)
	}
	out.Close()
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.upload("File to import", file)
	ana.sees("Put the tools away")
	ana.sees("Patch a tube")
	ana.sees("2 of 2 chosen")
	ana.sees("c.xml, line 2")
	ana.sees("of which no activity can be made: it is left out.")
	ana.shot("qti")
	ana.accessible("import QTI")
	ana.tabTo("Patch a tube")
	ana.press(" ")
	ana.sees("1 of 2 chosen")
	ana.tabTo("Create activity")
	ana.press(kb.Enter)
	ana.sees("Everything has its place.")
	doc := ana.document()
	if doc.Marks.Points != 300 || len(doc.Items) != 2 || doc.Items[0].Weight != 2 || doc.Items[1].Weight != 1 {
		t.Errorf("made as %s", doc.Write())
	}
	ana.shot("made")

	// A single item, as a file of XML.
	single := filepath.Join(dir, "patch.xml")
	if err := os.WriteFile(single, []byte(anOrder), 0o600); err != nil {
		t.Fatal(err)
	}
	ana.open(w.url)
	ana.sees("New activity")
	ana.upload("File to import", single)
	ana.sees("Find the hole, Glue")
	ana.click("Create activity")
	ana.sees("Patch a tube")
	link := ana.release()
	ana.press(kb.Escape)
	ana.click("Releases and sittings")
	ana.click("Get it out…")
	ana.sees("QTI 3.0")
	ana.sees("Download for QTI 3.0")
	body := eval[string](ana, `fetch([...document.querySelectorAll('a')].find((a) => a.textContent.includes('QTI 3.0')).href).then((r) => r.arrayBuffer()).then((b) => btoa(String.fromCharCode(...new Uint8Array(b))))`)
	if len(body) < 1000 || link == "" {
		t.Error("the package is empty")
	}

	// Several activities are one package, by keyboard alone; each is taken in again as it was.
	ana.open(w.url)
	ana.sees("New activity")
	ana.tabTo("Export as QTI…")
	ana.press(kb.Enter)
	ana.sees("Pick the activities to export.")
	ana.until("the list", `document.querySelector('[role=dialog]').innerText.includes('Patch a tube')`)
	ana.tabTo("Patch a tube")
	ana.press(" ")
	ana.tabTo("Ready for night")
	ana.press(" ")
	ana.sees("2 activities picked")
	ana.sees("things it can’t carry")
	ana.until("a download", find("Download"))
	ana.shot("qti-several")
	ana.accessible("export as QTI")
	ana.tabTo("Download")
	several := filepath.Join(dir, "several.zip")
	packed, err := base64.StdEncoding.DecodeString(eval[string](ana, `fetch(document.activeElement.href).then((r) => r.arrayBuffer()).then((b) => { let s = ''; for (const x of new Uint8Array(b)) s += String.fromCharCode(x); return btoa(s) })`))
	if err == nil {
		err = os.WriteFile(several, packed, 0o600)
	}
	if err != nil {
		t.Fatal(err)
	}
	ana.press(kb.Escape)
	ana.upload("File to import", several)
	ana.sees("2 of 2 chosen")
	ana.shot("qti-several-back")
	ana.seesNot("Left out")
	ana.press(kb.Escape)

	// What is no QTI is refused in words.
	bad := filepath.Join(dir, "bad.xml")
	if err := os.WriteFile(bad, []byte(`<!DOCTYPE a [<!ENTITY x "y">]><assessmentItem/>`), 0o600); err != nil {
		t.Fatal(err)
	}
	ana.open(w.url)
	ana.sees("New activity")
	ana.upload("File to import", bad)
	ana.sees("it declares a type of document or entities: neither is read")
	ana.shot("refused")
}
