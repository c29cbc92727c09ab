package qti

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
)

// meansAlike compares what an item's own processing says with what the activity that was made
// of it says, for random responses that the item can hold.
func meansAlike(t *testing.T, body []byte, rnd *rand.Rand, rounds int) (*activity.Doc, []Note) {
	t.Helper()
	item, _, err := parse(body)
	if err != nil {
		t.Fatal(err)
	}
	got, notes, err := Import(body, Source{Name: "item.xml"})
	if err != nil || got == nil {
		t.Fatalf("nothing was made: %v %v\n%s", err, notes, body)
	}
	doc := got.Doc
	judge, err := marks.NewJudge(doc)
	if err != nil {
		t.Fatalf("%v\n%s\n%s", err, doc.Write(), body)
	}
	parts := judge.Parts
	n := item.find(matching)
	if n == nil {
		n = item.find(gapMatch)
	}
	if n == nil {
		return doc, notes
	}
	var choices, places []*node
	if sets := n.children("qti-simple-match-set"); len(sets) == 2 {
		choices, places = sets[0].children(), sets[1].children()
	} else {
		choices = n.children("qti-gap-text")
		n.all(func(x *node) {
			if x.name == "qti-gap" {
				places = append(places, x)
			}
		})
	}
	var into marks.Judgement
	for range rounds {
		a := placing.New(parts)
		answers, used := []string{}, map[string]int{}
		move := 0
		for _, c := range rnd.Perm(len(choices)) {
			id := choices[c].get("identifier")
			most := int(number(choices[c].get("match-max")))
			for range max(1, most) {
				p := places[rnd.IntN(len(places))]
				pair := id + " " + p.get("identifier")
				holds := int(number(p.get("match-max")))
				if p.name == "qti-gap" {
					holds = 1
				}
				target, ok := parts.Target(strings.ToLower(strings.TrimPrefix(p.get("identifier"), "_")))
				if !ok {
					t.Fatalf("the target of %s is not there\n%s", p.get("identifier"), doc.Write())
				}
				group := strings.Fields(p.get("match-group"))
				if rnd.IntN(4) == 0 || slices.Contains(answers, pair) || holds > 0 && len(a.In[target]) >= holds || len(group) > 0 && !slices.Contains(group, id) {
					continue
				}
				name := strings.ToLower(strings.TrimPrefix(id, "_"))
				if k := strings.LastIndexByte(name, '_'); k > 0 {
					name = name[:k]
				}
				used[name]++
				piece := name
				if used[name] > 1 {
					piece = fmt.Sprintf("%s~%d", name, used[name])
				}
				k, ok := parts.Piece(piece)
				if !ok {
					t.Fatalf("the piece %s is not there\n%s\n%s", piece, body, doc.Write())
				}
				move++
				a.Put(k, target, move)
				answers = append(answers, pair)
			}
		}
		vars, err := judged(item, answers)
		if err != nil {
			t.Fatal(err)
		}
		want := exact.Hundredths(math.Round(number3(vars["SCORE"]) * 100))
		have := judge.Judge(a, marks.Now{Attempt: 1}, &into)
		if have.Score != want || vars[outcome] != nil && vars[outcome] != string(have.Outcome) {
			t.Errorf("%v: the item says %s %v, the activity %s %s\n%s\n%s\n%v", answers, want, vars[outcome], have.Score, have.Outcome, body, doc.Write(), notes)
			return doc, notes
		}
	}
	return doc, notes
}

func number3(v value) float64 {
	switch x := v.(type) {
	case float64:
		return x
	case int:
		return float64(x)
	}
	return 0
}

// What was exported comes back with the same meaning, whatever the key and the marks.
func TestExportedItemsComeBack(t *testing.T) {
	rnd := rand.New(rand.NewPCG(11, 4))
	n := 0
	for range 600 {
		doc := made(t, rnd)
		x, root, err := export(doc, Options{})
		if err != nil || slices.ContainsFunc(x.losses, func(l Loss) bool { return l.Code == "surplus" }) {
			continue
		}
		n++
		_, notes := meansAlike(t, root.file(), rnd, 60)
		if t.Failed() {
			return
		}
		for _, note := range notes {
			if note.Code != "no-key" {
				t.Fatalf("a note of what was exported: %+v\n%s", note, root.file())
			}
		}
	}
	if n < 300 {
		t.Errorf("only %d were tried", n)
	}
}

// match3 is an item of QTI 3.0 with a match of three things and two places; what follows its
// declarations is given.
func match3(declared, processing string) []byte {
	return []byte(`<?xml version="1.0" encoding="UTF-8"?>
<qti-assessment-item xmlns="http://www.imsglobal.org/xsd/imsqtiasi_v3p0" identifier="m" title="Tools" adaptive="false" time-dependent="false" xml:lang="en">
<qti-response-declaration identifier="RESPONSE" cardinality="multiple" base-type="directedPair">` + declared + `</qti-response-declaration>
<qti-outcome-declaration identifier="SCORE" cardinality="single" base-type="float"><qti-default-value><qti-value>0</qti-value></qti-default-value></qti-outcome-declaration>
<qti-item-body><p>Where does it <strong>go</strong>?</p><qti-match-interaction response-identifier="RESPONSE" shuffle="true" max-associations="4">
<qti-prompt>Put each tool away.</qti-prompt>
<qti-simple-match-set><qti-simple-associable-choice identifier="a" match-max="1">Spanner</qti-simple-associable-choice>
<qti-simple-associable-choice identifier="b" match-max="2">Rag</qti-simple-associable-choice>
<qti-simple-associable-choice identifier="c" match-max="1">Pump</qti-simple-associable-choice></qti-simple-match-set>
<qti-simple-match-set><qti-simple-associable-choice identifier="x" match-max="3">Drawer</qti-simple-associable-choice>
<qti-simple-associable-choice identifier="y" match-max="0">Wall</qti-simple-associable-choice></qti-simple-match-set>
</qti-match-interaction></qti-item-body>` + processing + `</qti-assessment-item>`)
}

const (
	correct3 = `<qti-correct-response><qti-value>a x</qti-value><qti-value>b x</qti-value><qti-value>b y</qti-value></qti-correct-response>`
	template = `<qti-response-processing template="https://purl.imsglobal.org/spec/qti/v3p0/rptemplates/`
)

func is(pair string) string {
	return `<qti-member><qti-base-value base-type="directedPair">` + pair + `</qti-base-value><qti-variable identifier="RESPONSE"/></qti-member>`
}

func adds(pair, worth string) string {
	return `<qti-response-condition><qti-response-if>` + is(pair) + `<qti-set-outcome-value identifier="SCORE"><qti-sum><qti-variable identifier="SCORE"/><qti-base-value base-type="float">` + worth + `</qti-base-value></qti-sum></qti-set-outcome-value></qti-response-if></qti-response-condition>`
}

func gives(score string) string {
	return `<qti-set-outcome-value identifier="SCORE"><qti-base-value base-type="float">` + score + `</qti-base-value></qti-set-outcome-value>`
}

// Items of other hands score as their own processing says.
func TestOthersItemsScoreAsTheySay(t *testing.T) {
	rnd := rand.New(rand.NewPCG(2, 8))
	for name, x := range map[string]struct {
		body  []byte
		notes []string
	}{
		"correct by template": {match3(correct3, template+`match_correct.xml"/>`), nil},
		"mapped": {match3(correct3+`<qti-mapping lower-bound="0" default-value="-0.5"><qti-map-entry map-key="a x" mapped-value="2"/><qti-map-entry map-key="b x" mapped-value="1"/><qti-map-entry map-key="b y" mapped-value="0.5"/></qti-mapping>`,
			template+`map_response.xml"/>`), nil},
		"mapped, nothing for the rest": {match3(correct3+`<qti-mapping default-value="0"><qti-map-entry map-key="a x" mapped-value="1"/><qti-map-entry map-key="b y" mapped-value="1"/><qti-map-entry map-key="c x" mapped-value="0"/></qti-mapping>`,
			template+`map_response"/>`), nil},
		"added up": {match3(correct3, `<qti-response-processing>`+adds("a x", "1")+adds("b y", "0.5")+adds("c x", "-1")+`<qti-response-condition><qti-response-if><qti-lt><qti-variable identifier="SCORE"/><qti-base-value base-type="float">0</qti-base-value></qti-lt>`+gives("0")+
			`</qti-response-if></qti-response-condition></qti-response-processing>`), nil},
		"the most, by the correct response": {match3(correct3, `<qti-response-processing><qti-response-condition><qti-response-if><qti-match><qti-variable identifier="RESPONSE"/><qti-correct identifier="RESPONSE"/></qti-match>`+gives("2.5")+
			`</qti-response-if></qti-response-condition></qti-response-processing>`), nil},
		"correct, written out": {match3(correct3, `<qti-response-processing><qti-response-condition><qti-response-if><qti-match><qti-variable identifier="RESPONSE"/><qti-correct identifier="RESPONSE"/></qti-match>`+gives("3")+
			`</qti-response-if><qti-response-else>`+gives("0")+`</qti-response-else></qti-response-condition></qti-response-processing>`), nil},
		"two ways, one for less": {match3("", `<qti-response-processing><qti-response-condition>
			<qti-response-if><qti-and>`+is("a x")+is("c y")+`<qti-not><qti-or>`+is("a y")+is("b x")+is("b y")+is("c x")+`</qti-or></qti-not></qti-and>`+gives("4")+`</qti-response-if>
			<qti-response-else-if><qti-and>`+is("a y")+`<qti-any-n min="1" max="1">`+is("b x")+is("c x")+`</qti-any-n><qti-not><qti-or>`+is("a x")+is("b y")+is("c y")+`</qti-or></qti-not></qti-and>`+gives("2")+`</qti-response-else-if>
			<qti-response-else>`+gives("0")+`</qti-response-else></qti-response-condition></qti-response-processing>`), nil},
	} {
		t.Run(name, func(t *testing.T) {
			doc, notes := meansAlike(t, x.body, rnd, 300)
			codes := []string{}
			for _, n := range notes {
				codes = append(codes, n.Code)
			}
			if !slices.Equal(codes, x.notes) && len(codes)+len(x.notes) > 0 {
				t.Errorf("notes %v, want %v", notes, x.notes)
			}
			if doc.Title != "Tools" || !strings.Contains(doc.Instructions, "**go**") || !strings.Contains(doc.Instructions, "Put each tool away.") || doc.Items[0].Name != "Spanner" || doc.Targets[1].Name != "Wall" || !doc.Play.Shuffle {
				t.Errorf("read as %s", doc.Write())
			}
		})
	}
}

// Items of QTI 2 are read by the names that they have there.
func TestItemsOfTwo(t *testing.T) {
	gap := []byte(`<?xml version="1.0" encoding="ISO-8859-1"?>
<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" xmlns:xsi="http://www.w3.org/2001/XMLSchema-instance" identifier="gap" title="Gaps" adaptive="false" timeDependent="false">
<responseDeclaration identifier="RESPONSE" cardinality="multiple" baseType="directedPair"><correctResponse><value>W G1</value><value>S G2</value></correctResponse>
<mapping defaultValue="-1" lowerBound="0"><mapEntry mapKey="W G1" mappedValue="1"/><mapEntry mapKey="S G2" mappedValue="2"/></mapping></responseDeclaration>
<outcomeDeclaration identifier="SCORE" cardinality="single" baseType="float"/>
<itemBody><gapMatchInteraction responseIdentifier="RESPONSE" shuffle="false"><prompt>Fill it.</prompt>
<gapText identifier="W" matchMax="1">wheel</gapText><gapText identifier="S" matchMax="1">spoke</gapText><gapText identifier="N" matchMax="1">n` + "\xe4" + `gel</gapText>
<blockquote><p>The <gap identifier="G1"/> turns on its <gap identifier="G2"/>.</p></blockquote></gapMatchInteraction></itemBody>
<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/map_response"/></assessmentItem>`)
	doc, notes := meansAlike(t, gap, rand.New(rand.NewPCG(1, 1)), 100)
	if len(notes) > 0 || doc.Kind != "gaps" || doc.Items[2].Text != "nägel" || !strings.Contains(doc.Scenery[0].Text, "The [[g1]] turns on its [[g2]].") || doc.Marks.Points != 300 {
		t.Errorf("read as %s\n%v", doc.Write(), notes)
	}

	order := []byte(`<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p2" identifier="o" title="Order" adaptive="false" timeDependent="false">
<responseDeclaration identifier="R" cardinality="ordered" baseType="identifier"><correctResponse><value>B</value><value>A</value><value>C</value></correctResponse></responseDeclaration>
<itemBody><orderInteraction responseIdentifier="R" shuffle="true"><simpleChoice identifier="A">Air</simpleChoice><simpleChoice identifier="B">Patch</simpleChoice><simpleChoice identifier="C">Ride</simpleChoice></orderInteraction></itemBody>
<responseProcessing template="http://www.imsglobal.org/question/qti_v2p2/rptemplates/match_correct"/></assessmentItem>`)
	got, notes, err := Import(order, Source{})
	if err != nil || got == nil || len(notes) > 0 || fmt.Sprint(got.Doc.Key.Solutions[0].Orders[0].Tiers) != "[[b] [a] [c]]" {
		t.Errorf("an order: %v %v", notes, err)
	}

	graphic := []byte(`<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="g" title="Map" adaptive="false" timeDependent="false">
<responseDeclaration identifier="RESPONSE" cardinality="multiple" baseType="directedPair"><correctResponse><value>L A</value></correctResponse></responseDeclaration>
<itemBody><graphicGapMatchInteraction responseIdentifier="RESPONSE"><object type="image/png" data="map.png" width="206" height="280">A map</object>
<gapImg identifier="L" matchMax="1"><object type="image/png" data="l.png" width="30" height="20">Label L</object></gapImg>
<associableHotspot identifier="A" matchMax="1" shape="circle" coords="77,115,8"/><associableHotspot identifier="B" matchMax="1" shape="poly" coords="0,0,10,0,10,10,0,0"/>
<associableHotspot identifier="C" matchMax="2" shape="rect" coords="12,108,39,121"/></graphicGapMatchInteraction></itemBody>
<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/></assessmentItem>`)
	got, notes, err = Import(graphic, Source{})
	if err != nil || got == nil {
		t.Fatal(notes, err)
	}
	d := got.Doc
	if d.Targets[0].Shape != "ellipse" || d.Targets[0].Frame.X != 6900 || d.Targets[0].Frame.W != 1600 || d.Targets[1].Shape != "polygon" || len(d.Targets[1].Points) != 3 || d.Targets[2].Frame.W != 2700 || d.Targets[2].Holds != 2 || d.Board.Width != 20600 || d.Items[0].Name != "Label L" {
		t.Errorf("read as %s", d.Write())
	}
	if len(notes) != 2 || notes[0].Code != "missing" || notes[0].Line != 3 {
		t.Errorf("notes %v", notes)
	}

	pairs := []byte(`<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="p" title="Pairs" adaptive="false" timeDependent="false">
<responseDeclaration identifier="RESPONSE" cardinality="multiple" baseType="pair"><correctResponse><value>A B</value><value>C D</value></correctResponse></responseDeclaration>
<itemBody><associateInteraction responseIdentifier="RESPONSE" shuffle="true" maxAssociations="2"><simpleAssociableChoice identifier="A" matchMax="1">Nut</simpleAssociableChoice><simpleAssociableChoice identifier="B" matchMax="1">Bolt</simpleAssociableChoice>
<simpleAssociableChoice identifier="C" matchMax="1">Tube</simpleAssociableChoice><simpleAssociableChoice identifier="D" matchMax="1">Tyre</simpleAssociableChoice></associateInteraction></itemBody>
<responseProcessing template="http://www.imsglobal.org/question/qti_v2p1/rptemplates/match_correct"/></assessmentItem>`)
	if got, notes, err = Import(pairs, Source{}); err != nil || got == nil || len(got.Doc.Key.Solutions) != 4 {
		t.Errorf("pairs: %v %v", notes, err)
	}
	// Mapped ones earn the same whichever lies upon the other.
	worth := strings.Replace(strings.Replace(string(pairs), "</correctResponse>", `</correctResponse><mapping defaultValue="-1"><mapEntry mapKey="A B" mappedValue="2"/><mapEntry mapKey="C D" mappedValue="1"/></mapping>`, 1), "match_correct", "map_response", 1)
	if got, notes, err = Import([]byte(worth), Source{}); err != nil || got == nil {
		t.Fatal(notes, err)
	}
	judge, err := marks.NewJudge(got.Doc)
	if err != nil {
		t.Fatal(err)
	}
	for _, x := range []struct {
		item, target, score string
	}{{"a", "b", "2"}, {"b", "a", "2"}, {"d", "c", "1"}, {"a", "c", "-1"}} {
		a := placing.New(judge.Parts)
		piece, _ := judge.Parts.Piece(x.item)
		target, _ := judge.Parts.Target(x.target)
		a.Put(piece, target, 1)
		if s := judge.Judge(a, marks.Now{Attempt: 1}, nil).Score.String(); s != x.score {
			t.Errorf("%s upon %s scores %s, not %s", x.item, x.target, s, x.score)
		}
	}
}

// What is hostile, or no item, is refused with where and why, in linear time; what an activity
// cannot be made of is named and left out.
func TestWhatIsNotTaken(t *testing.T) {
	long := strings.Repeat("x", 1<<20)
	for name, x := range map[string]struct{ body, code string }{
		"an entity bomb":         {`<!DOCTYPE a [<!ENTITY x "xxxxxxxxxx"><!ENTITY y "&x;&x;&x;&x;&x;&x;&x;&x;">]><assessmentItem>&y;</assessmentItem>`, "doctype"},
		"an entity from outside": {`<!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]><assessmentItem>&x;</assessmentItem>`, "doctype"},
		"deep nesting":           {strings.Repeat("<a>", 100_000), "too-deep"},
		"not closed":             {`<assessmentItem><itemBody>`, "not-well-formed"},
		"wrongly closed":         {`<assessmentItem><itemBody></assessmentItem></itemBody>`, "not-well-formed"},
		"a foreign encoding":     {`<?xml version="1.0" encoding="EBCDIC"?><assessmentItem/>`, "not-well-formed"},
		"too much text":          {`<assessmentItem>` + strings.Repeat(long, 17), "too-large"},
		"many elements":          {`<assessmentItem>` + strings.Repeat("<a/>", 300_000), "too-large"},
		"nothing":                {``, "not-well-formed"},
		"two outermost":          {`<assessmentItem/><assessmentItem/>`, "not-well-formed"},
		"many attributes":        {`<assessmentItem ` + strings.Repeat(`a="1" `, 500) + `/>`, "too-large"},
	} {
		t.Run(name, func(t *testing.T) {
			_, _, err := Import([]byte(x.body), Source{})
			bad, ok := err.(*Bad)
			if !ok || bad.Code != x.code || bad.Line < 1 {
				t.Errorf("%v, want %s", err, x.code)
			}
		})
	}
	for body, code := range map[string]string{
		`<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="c"><itemBody><choiceInteraction responseIdentifier="R"/></itemBody></assessmentItem>`:                                          "other-interaction",
		`<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="c"><itemBody><p>Read.</p></itemBody></assessmentItem>`:                                                                         "no-interaction",
		`<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="c"><itemBody><matchInteraction responseIdentifier="R"/><matchInteraction responseIdentifier="S"/></itemBody></assessmentItem>`: "several-interactions",
		`<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1" identifier="c"><itemBody><matchInteraction responseIdentifier="R"/></itemBody></assessmentItem>`:                                           "sets",
		`<html/>`: "not-an-item",
	} {
		got, notes, err := Import([]byte(body), Source{Name: "f.xml"})
		if err != nil || got != nil || len(notes) == 0 || notes[len(notes)-1].Code != code || notes[0].Source != "f.xml" {
			t.Errorf("%s: %v %v %v", code, got, notes, err)
		}
	}
}

// Whatever is thrown at it, it answers.
func FuzzImport(f *testing.F) {
	f.Add(match3(correct3, template+`match_correct.xml"/>`))
	f.Add([]byte(`<assessmentItem xmlns="http://www.imsglobal.org/xsd/imsqti_v2p1"><itemBody><orderInteraction/></itemBody></assessmentItem>`))
	f.Fuzz(func(t *testing.T, body []byte) {
		got, _, err := Import(body, Source{})
		if err == nil && got != nil {
			if _, _, err := Export(got.Doc, Options{}); err != nil {
				if _, ok := err.(*marks.Impossible); !ok {
					t.Error(err)
				}
			}
		}
	})
}
