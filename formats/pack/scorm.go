package pack

import (
	"bytes"
	"encoding/xml"
	"fmt"
	"math/big"
	"strings"

	"keenmagpie/core/richtext"
	"keenmagpie/formats/bundle"
)

// esc writes a text into XML; what XML 1.0 cannot have is left out.
func esc(s string) string {
	var b bytes.Buffer
	_ = xml.EscapeText(&b, []byte(strings.Map(func(r rune) rune {
		if r < 0x20 && r != '\n' && r != '\t' {
			return -1
		}
		return r
	}, s)))
	return b.String()
}

// xmlID makes a name that XML takes as an identifier.
func xmlID(s string) string {
	out := strings.Map(func(r rune) rune {
		if r >= 'a' && r <= 'z' || r >= 'A' && r <= 'Z' || r >= '0' && r <= '9' || r == '-' || r == '_' {
			return r
		}
		return '-'
	}, s)
	return "magpie-" + out
}

// described is what it is about, in plain words.
func described(b bundle.Bundle) string {
	if b.Series != nil {
		return fmt.Sprintf("A series of %d steps.", len(b.Series.Steps))
	}
	text := richtext.Plain(richtext.Read(b.Doc.Instructions))
	if len(text) > 1000 {
		text = strings.ToValidUTF8(text[:1000], "")
	}
	return text
}

// resources are one for each page that is opened, with all files: they share them.
func resources(launches []launch, files []string, kind string) string {
	var b strings.Builder
	for _, l := range launches {
		fmt.Fprintf(&b, "    <resource identifier=%q type=\"webcontent\" adlcp:%s=\"sco\" href=%q>\n", "res-"+l.page, kind, l.page+".html")
		for _, f := range files {
			fmt.Fprintf(&b, "      <file href=\"%s\" />\n", esc(f))
		}
		b.WriteString("    </resource>\n")
	}
	return b.String()
}

// manifest12 is the manifest by SCORM 1.2's Content Aggregation Model, with IMS metadata.
// A pass mark is the platform's mastery score, in percent.
func manifest12(b bundle.Bundle, launches []launch, files []string) []byte {
	var out strings.Builder
	fmt.Fprintf(&out, `<?xml version="1.0" encoding="UTF-8"?>
<manifest identifier="%s" version="1.0" xmlns="http://www.imsproject.org/xsd/imscp_rootv1p1p2" xmlns:adlcp="http://www.adlnet.org/xsd/adlcp_rootv1p2" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance" xsi:schemaLocation="http://www.imsproject.org/xsd/imscp_rootv1p1p2 imscp_rootv1p1p2.xsd http://www.imsglobal.org/xsd/imsmd_rootv1p2p1 imsmd_rootv1p2p1.xsd http://www.adlnet.org/xsd/adlcp_rootv1p2 adlcp_rootv1p2.xsd">
  <metadata>
    <schema>ADL SCORM</schema>
    <schemaversion>1.2</schemaversion>
    <lom xmlns="http://www.imsglobal.org/xsd/imsmd_rootv1p2p1">
      <general>
        <title><langstring xml:lang="%[2]s">%[3]s</langstring></title>
        <language>%[2]s</language>
        <description><langstring xml:lang="%[2]s">%[4]s</langstring></description>
      </general>
      <lifecycle>
        <version><langstring xml:lang="x-none">1</langstring></version>
      </lifecycle>
    </lom>
  </metadata>
  <organizations default="course">
    <organization identifier="course">
      <title>%[3]s</title>
`, xmlID(b.ID()), esc(langOf(b)), esc(b.Title()), esc(described(b)))
	for _, l := range launches {
		fmt.Fprintf(&out, "      <item identifier=%q identifierref=%q>\n        <title>%s</title>\n", "item-"+l.page, "res-"+l.page, esc(l.title))
		if l.passMark > 0 {
			fmt.Fprintf(&out, "        <adlcp:masteryscore>%s</adlcp:masteryscore>\n", l.passMark)
		}
		out.WriteString("      </item>\n")
	}
	fmt.Fprintf(&out, `    </organization>
  </organizations>
  <resources>
%s  </resources>
</manifest>
`, resources(launches, files, "scormtype"))
	return []byte(out.String())
}

// manifest2004 is the manifest by SCORM 2004's 4th edition, with IEEE metadata. A pass mark
// is the least measure of the primary objective, from −1 to 1.
func manifest2004(b bundle.Bundle, launches []launch, files []string) []byte {
	var out strings.Builder
	fmt.Fprintf(&out, `<?xml version="1.0" encoding="UTF-8"?>
<manifest identifier="%s" version="1.0" xmlns="http://www.imsglobal.org/xsd/imscp_v1p1" xmlns:adlcp="http://www.adlnet.org/xsd/adlcp_v1p3" xmlns:adlseq="http://www.adlnet.org/xsd/adlseq_v1p3" xmlns:adlnav="http://www.adlnet.org/xsd/adlnav_v1p3" xmlns:imsss="http://www.imsglobal.org/xsd/imsss" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance" xsi:schemaLocation="http://www.imsglobal.org/xsd/imscp_v1p1 imscp_v1p1.xsd http://www.adlnet.org/xsd/adlcp_v1p3 adlcp_v1p3.xsd http://www.adlnet.org/xsd/adlseq_v1p3 adlseq_v1p3.xsd http://www.adlnet.org/xsd/adlnav_v1p3 adlnav_v1p3.xsd http://www.imsglobal.org/xsd/imsss imsss_v1p0.xsd http://ltsc.ieee.org/xsd/LOM lom.xsd">
  <metadata>
    <schema>ADL SCORM</schema>
    <schemaversion>2004 4th Edition</schemaversion>
    <lom xmlns="http://ltsc.ieee.org/xsd/LOM">
      <general>
        <title><string language="%[2]s">%[3]s</string></title>
        <language>%[2]s</language>
        <description><string language="%[2]s">%[4]s</string></description>
      </general>
      <lifeCycle>
        <version><string language="%[2]s">1</string></version>
      </lifeCycle>
    </lom>
  </metadata>
  <organizations default="course">
    <organization identifier="course">
      <title>%[3]s</title>
`, xmlID(b.ID()), esc(langOf(b)), esc(b.Title()), esc(described(b)))
	for _, l := range launches {
		fmt.Fprintf(&out, "      <item identifier=%q identifierref=%q>\n        <title>%s</title>\n", "item-"+l.page, "res-"+l.page, esc(l.title))
		measure := ""
		by := "false"
		if l.passMark > 0 {
			by = "true"
			measure = fmt.Sprintf("\n              <imsss:minNormalizedMeasure>%s</imsss:minNormalizedMeasure>", big.NewRat(int64(l.passMark), 10000).FloatString(4))
		}
		fmt.Fprintf(&out, `        <imsss:sequencing>
          <imsss:objectives>
            <imsss:primaryObjective objectiveID="primary" satisfiedByMeasure="%s">%s
            </imsss:primaryObjective>
          </imsss:objectives>
          <imsss:deliveryControls tracked="true" completionSetByContent="true" objectiveSetByContent="true" />
        </imsss:sequencing>
      </item>
`, by, measure)
	}
	sequence := ""
	if len(launches) > 1 {
		sequence = "      <imsss:sequencing>\n        <imsss:controlMode choice=\"true\" flow=\"true\" />\n      </imsss:sequencing>\n"
	}
	fmt.Fprintf(&out, `%s    </organization>
  </organizations>
  <resources>
%s  </resources>
</manifest>
`, sequence, resources(launches, files, "scormType"))
	return []byte(out.String())
}
