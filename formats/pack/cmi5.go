package pack

import (
	"cmp"
	"fmt"
	"math/big"
	"strings"

	"keenmagpie/formats/bundle"
)

// courseStructure is the course structure by cmi5 (Quartz), one assignable unit for each
// page that is opened. What moves on is the pass mark where there is one, else to have
// completed it. A package has no address: its ids are names. What is played elsewhere is opened
// at the address that is given.
func courseStructure(b bundle.Bundle, launches []launch, address string) []byte {
	var out strings.Builder
	lang := esc(langOf(b))
	text := func(name, s, indent string) {
		fmt.Fprintf(&out, "%s<%s><langstring lang=\"%s\">%s</langstring></%s>\n", indent, name, lang, esc(s), name)
	}
	fmt.Fprintf(&out, `<?xml version="1.0" encoding="UTF-8"?>
<courseStructure xmlns="https://w3id.org/xapi/profiles/cmi5/v1/CourseStructure.xsd">
  <course id="urn:keen-magpie:course:%s">
`, esc(b.ID()))
	text("title", b.Title(), "    ")
	text("description", described(b), "    ")
	out.WriteString("  </course>\n")
	for _, l := range launches {
		moveOn, mastery := "Completed", ""
		if l.passMark > 0 {
			moveOn = "Passed"
			mastery = fmt.Sprintf(" masteryScore=%q", big.NewRat(int64(l.passMark), 10000).FloatString(4))
		}
		fmt.Fprintf(&out, "  <au id=\"urn:keen-magpie:unit:%s\" moveOn=%q%s launchMethod=\"AnyWindow\">\n", esc(l.id), moveOn, mastery)
		text("title", l.title, "    ")
		text("description", described(b), "    ")
		fmt.Fprintf(&out, "    <url>%s</url>\n  </au>\n", esc(cmp.Or(address, l.page+".html")))
	}
	out.WriteString("</courseStructure>\n")
	return []byte(out.String())
}
