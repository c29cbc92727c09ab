package richtext_test

import (
	"encoding/json"
	"fmt"
	"strings"
	"testing"

	"keenmagpie/core/richtext"
)

func Example() {
	blocks := richtext.Read("The *chain*\nruns on the **crank**.\n\n- oil\n- [more](https://example.org/oil)")
	fmt.Println(richtext.Plain(blocks))
	fmt.Println(blocks[1].Children[1].Children[0].Kind)
	// Output:
	// The chain
	// runs on the crank.
	//
	// • oil
	// • more
	// link
}

// short writes a tree on one line: em(…), st(…), a(…), br, gap:id.
func short(nodes []richtext.Node) string {
	names := map[string]string{"paragraph": "p", "list": "ul", "numbered": "ol", "entry": "li", "emphasis": "em", "strong": "st", "link": "a"}
	var out []string
	for _, n := range nodes {
		switch n.Kind {
		case "text":
			out = append(out, n.Text)
		case "break":
			out = append(out, "|")
		case "gap":
			out = append(out, "gap:"+n.Text)
		default:
			out = append(out, names[n.Kind]+"("+short(n.Children)+")")
		}
	}
	return strings.Join(out, "")
}

func TestReads(t *testing.T) {
	for in, want := range map[string]string{
		"":                                "",
		"a\n\n\n b ":                      "p(a)p(b)",
		"a\nb":                            "p(a|b)",
		"**a *b* c**":                     "p(st(a em(b) c))",
		"*a **b* c**":                     "p(em(a **b) c**)", // what is not closed inside is text
		"2 * 3 * 4":                       "p(2 * 3 * 4)",
		"front_lamp_holder":               "p(front_lamp_holder)",
		"_front_ lamp":                    "p(em(front) lamp)",
		`\*not\* this`:                    "p(*not* this)",
		"* a\n* b\n\n1. c\n2. d":          "ul(li(a)li(b))ol(li(c)li(d))",
		"- a\nand on\n- b":                "ul(li(a|and on)li(b))",
		"[a *b*](https://x.org)":          "p(a(a em(b)))",
		"[a](mailto:a@x.org).":            "p(a(a).)",
		"[a](javascript:alert(1))":        "p([a](javascript:alert(1)))",
		"[a](http://x.org)":               "p([a](http://x.org))",
		"The [[chain]] runs on [[crank]]": "p(The gap:chain runs on gap:crank)",
		"[[a][b]]":                        "p([[a][b]])",
		"<b>a</b>":                        "p(<b>a</b>)",
		"**":                              "p(**)",
	} {
		if got := short(richtext.Read(in)); got != want {
			t.Errorf("%q reads as %s, want %s", in, got, want)
		}
	}
	if gaps := richtext.Gaps("- [[a]]\n- **[[b]]**"); len(gaps) != 2 || gaps[1] != "b" {
		t.Errorf("gaps %v", gaps)
	}
}

// Whatever is read: nothing of the text is lost but signs, and a long text of
// signs takes no longer than a long text.
func FuzzRead(f *testing.F) {
	for _, s := range []string{"*a*", "[[[[", strings.Repeat("[a](", 200), strings.Repeat("*_**__", 300), "- \n-", "1. \\"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, text string) {
		blocks := richtext.Read(text)
		if body, err := json.Marshal(blocks); err != nil || len(body) > 400+60*len(text) {
			t.Errorf("%d bytes become %d, %v", len(text), len(body), err)
		}
		if plain := richtext.Plain(blocks); len(plain) > 4*len(text)+4 {
			t.Errorf("%q became longer: %q", text, plain)
		}
	})
}
