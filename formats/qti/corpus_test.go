package qti

import (
	"fmt"
	"strings"
	"testing"
)

// corpus are sixty items as other tools write them: ten interactions, each scored in six ways.
func corpus() map[string]string {
	interactions := map[string]struct{ cardinality, kind, correct, mapping, first, body string }{
		"match": {"multiple", "directedPair", "a x|b y", "a x=2|b y=1", "a x", `<qti-match-interaction response-identifier="RESPONSE" shuffle="true" max-associations="0"><qti-prompt>Sort them.</qti-prompt><qti-simple-match-set><qti-simple-associable-choice identifier="a" match-max="1">Chain</qti-simple-associable-choice><qti-simple-associable-choice identifier="b" match-max="1">Pad</qti-simple-associable-choice></qti-simple-match-set>
			<qti-simple-match-set><qti-simple-associable-choice identifier="x" match-max="0">Drivetrain</qti-simple-associable-choice><qti-simple-associable-choice identifier="y" match-max="0">Brakes</qti-simple-associable-choice></qti-simple-match-set></qti-match-interaction>`},
		"a match in which one goes to several": {"multiple", "directedPair", "a x|a y|b y", "a x=1|a y=1|b y=1", "a x", `<qti-match-interaction response-identifier="RESPONSE" max-associations="0"><qti-simple-match-set><qti-simple-associable-choice identifier="a" match-max="2">Bolt</qti-simple-associable-choice><qti-simple-associable-choice identifier="b" match-max="1">Pad</qti-simple-associable-choice></qti-simple-match-set>
			<qti-simple-match-set><qti-simple-associable-choice identifier="x" match-max="2">Drivetrain</qti-simple-associable-choice><qti-simple-associable-choice identifier="y" match-max="2">Brakes</qti-simple-associable-choice></qti-simple-match-set></qti-match-interaction>`},
		"gap match": {"multiple", "directedPair", "w g1|s g2", "w g1=1|s g2=1", "w g1", `<qti-gap-match-interaction response-identifier="RESPONSE" shuffle="false"><qti-gap-text identifier="w" match-max="1">wheel</qti-gap-text><qti-gap-text identifier="s" match-max="1">spoke</qti-gap-text><qti-gap-text identifier="n" match-max="1">saddle</qti-gap-text>
			<p>A <qti-gap identifier="g1"/> has many a <qti-gap identifier="g2"/>.</p></qti-gap-match-interaction>`},
		"graphic gap match": {"multiple", "directedPair", "l h1", "l h1=1", "l h1", `<qti-graphic-gap-match-interaction response-identifier="RESPONSE"><object type="image/png" data="bike.png" width="400" height="300">A bicycle</object><qti-gap-text identifier="l" match-max="1">Lamp</qti-gap-text><qti-gap-text identifier="m" match-max="1">Rack</qti-gap-text>
			<qti-associable-hotspot identifier="h1" match-max="1" shape="circle" coords="50,60,20"/><qti-associable-hotspot identifier="h2" match-max="1" shape="rect" coords="200,60,260,120"/></qti-graphic-gap-match-interaction>`},
		"order":           {"ordered", "identifier", "a|b|c", "", "", `<qti-order-interaction response-identifier="RESPONSE" shuffle="true"><qti-simple-choice identifier="a">Find</qti-simple-choice><qti-simple-choice identifier="b">Glue</qti-simple-choice><qti-simple-choice identifier="c">Patch</qti-simple-choice></qti-order-interaction>`},
		"graphic order":   {"ordered", "identifier", "a|b", "", "", `<qti-graphic-order-interaction response-identifier="RESPONSE"><object type="image/png" data="bike.png" width="400" height="300"/><qti-hotspot-choice identifier="a" shape="circle" coords="50,60,20"/><qti-hotspot-choice identifier="b" shape="circle" coords="150,60,20"/></qti-graphic-order-interaction>`},
		"associate":       {"multiple", "pair", "a b", "a b=1", "a b", `<qti-associate-interaction response-identifier="RESPONSE" shuffle="true" max-associations="1"><qti-simple-associable-choice identifier="a" match-max="1">Nut</qti-simple-associable-choice><qti-simple-associable-choice identifier="b" match-max="1">Bolt</qti-simple-associable-choice><qti-simple-associable-choice identifier="c" match-max="1">Tube</qti-simple-associable-choice></qti-associate-interaction>`},
		"position object": {"multiple", "point", "50 60", "", "", `<qti-position-object-stage><object type="image/png" data="map.png" width="400" height="300"/><qti-position-object-interaction response-identifier="RESPONSE" max-choices="1"><object type="image/png" data="flag.png" width="16" height="16">Flag</object></qti-position-object-interaction></qti-position-object-stage>`},
		"choice":          {"single", "identifier", "a", "a=1", "", `<qti-choice-interaction response-identifier="RESPONSE" max-choices="1"><qti-simple-choice identifier="a">Yes</qti-simple-choice><qti-simple-choice identifier="b">No</qti-simple-choice></qti-choice-interaction>`},
		"text entry":      {"single", "string", "York", "York=1", "", `<p>Now is the <qti-text-entry-interaction response-identifier="RESPONSE"/></p>`},
	}
	out := map[string]string{}
	for name, x := range interactions {
		correct, mapping := "", ""
		for _, v := range strings.Split(x.correct, "|") {
			correct += "<qti-value>" + v + "</qti-value>"
		}
		correct = "<qti-correct-response>" + correct + "</qti-correct-response>"
		for v := range strings.SplitSeq(x.mapping, "|") {
			key, worth, ok := strings.Cut(v, "=")
			if !ok {
				continue
			}
			mapping += fmt.Sprintf(`<qti-map-entry map-key="%s" mapped-value="%s"/>`, key, worth)
		}
		if mapping != "" {
			mapping = `<qti-mapping default-value="0" lower-bound="0">` + mapping + "</qti-mapping>"
		}
		if x.kind == "point" {
			mapping = `<qti-area-mapping default-value="0"><qti-area-map-entry shape="circle" coords="50,60,20" mapped-value="1"/></qti-area-mapping>`
		}
		point, points := "", ""
		if x.kind == "point" {
			point, points = "_point", "-point"
		}
		same := `<qti-match><qti-variable identifier="RESPONSE"/><qti-correct identifier="RESPONSE"/></qti-match>`
		for way, processing := range map[string]string{
			"correct by template": `<qti-response-processing template="https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/match_correct.xml"/>`,
			"mapped by template":  `<qti-response-processing template="https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/map_response` + point + `.xml"/>`,
			"correct, written out": `<qti-response-processing><qti-response-condition><qti-response-if>` + same + gives("2") + `</qti-response-if><qti-response-else>` + gives("0") +
				`</qti-response-else></qti-response-condition></qti-response-processing>`,
			"mapped, written out": `<qti-response-processing><qti-set-outcome-value identifier="SCORE"><qti-map-response` + points + ` identifier="RESPONSE"/></qti-set-outcome-value></qti-response-processing>`,
			"two ways": `<qti-response-processing><qti-response-condition><qti-response-if>` + same + gives("2") + `</qti-response-if><qti-response-else-if>` + is(x.first) + gives("1") +
				`</qti-response-else-if></qti-response-condition></qti-response-processing>`,
			"a product": `<qti-response-processing><qti-set-outcome-value identifier="SCORE"><qti-product><qti-map-response identifier="RESPONSE"/><qti-variable identifier="duration"/></qti-product></qti-set-outcome-value></qti-response-processing>`,
		} {
			out[name+", "+way] = `<qti-assessment-item xmlns="http://www.imsglobal.org/xsd/imsqtiasi_v3p0" identifier="i" title="I" adaptive="false" time-dependent="false"><qti-response-declaration identifier="RESPONSE" cardinality="` + x.cardinality + `" base-type="` + x.kind + `">` + correct + mapping +
				`</qti-response-declaration><qti-outcome-declaration identifier="SCORE" cardinality="single" base-type="float"/><qti-item-body>` + x.body + `</qti-item-body>` + processing + `</qti-assessment-item>`
		}
	}
	return out
}

// Of a mixed corpus it is known what is taken in whole, in part, and not at all.
func TestACorpus(t *testing.T) {
	whole, part, none := 0, 0, 0
	for name, item := range corpus() {
		got, notes, err := Import([]byte(item), Source{Name: name, File: func(string) ([]byte, error) { return []byte(pixel), nil }})
		switch {
		case err != nil:
			t.Errorf("%s: %v", name, err)
		case got == nil:
			none++
		case len(notes) > 0:
			part++
			t.Logf("in part: %s: %s", name, notes[0].Code)
		default:
			whole++
		}
	}
	t.Logf("of %d items %d are taken in whole, %d in part, %d not at all", whole+part+none, whole, part, none)
	if whole < 24 || none > 12 {
		t.Errorf("%d are taken in whole, %d not at all", whole, none)
	}
}

// pixel is a picture, as small as one may be.
const pixel = "\x89PNG\r\n\x1a\n\x00\x00\x00\rIHDR\x00\x00\x00\x01\x00\x00\x00\x01\x08\x06\x00\x00\x00\x1f\x15\xc4\x89\x00\x00\x00\rIDATx\x9cc\xf8\xff\xff?\x00\x05\xfe\x02\xfe\xa7\x35\x81\x84\x00\x00\x00\x00IEND\xaeB`\x82"
