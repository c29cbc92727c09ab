package richtext_test

import (
	"reflect"
	"slices"
	"strings"
	"testing"

	"keenmagpie/core/richtext"
)

func text(s string) richtext.Node { return richtext.Node{Kind: richtext.Text, Text: s} }
func of(kind string, inside ...richtext.Node) richtext.Node {
	return richtext.Node{Kind: kind, Children: inside}
}

// What an editor makes is written in the plainest way that says it.
func TestWrites(t *testing.T) {
	const p, em, st, br = richtext.Paragraph, richtext.Emphasis, richtext.Strong, richtext.Break
	link := richtext.Node{Kind: richtext.Link, Text: "https://x.org/a (b)", Children: []richtext.Node{text("more")}}
	for name, c := range map[string]struct {
		blocks []richtext.Node
		want   string
	}{
		"nothing":                  {nil, ""},
		"two paragraphs":           {[]richtext.Node{of(p, text("a")), of(p, text("b"))}, "a\n\nb"},
		"an empty one":             {[]richtext.Node{of(p), of(p, text(" "))}, ""},
		"stress":                   {[]richtext.Node{of(p, text("a "), of(em, text("b")), text(" "), of(st, text("c")))}, "a *b* **c**"},
		"stress within stress":     {[]richtext.Node{of(p, of(st, of(em, text("a"))))}, "__*a*__"},
		"spaces in what is bold":   {[]richtext.Node{of(p, text("a"), of(st, text(" b ")), text("c"))}, "a **b** c"},
		"only spaces in it":        {[]richtext.Node{of(p, text("a"), of(st, text(" ")), text("b"))}, "a b"},
		"signs that mean nothing":  {[]richtext.Node{of(p, text("2 * 3 and front_lamp"))}, "2 * 3 and front_lamp"},
		"signs that would":         {[]richtext.Node{of(p, text("*a* b"))}, `\*a* b`},
		"a dash in front":          {[]richtext.Node{of(p, text("- a-b"))}, `\- a-b`},
		"a list":                   {[]richtext.Node{of(richtext.List, of(richtext.Entry, text("a")), of(richtext.Entry), of(richtext.Entry, text("b")))}, "- a\n- b"},
		"a numbered list":          {[]richtext.Node{of(richtext.Numbered, of(richtext.Entry, text("a")), of(richtext.Entry, text("b")))}, "1. a\n2. b"},
		"a line break":             {[]richtext.Node{of(p, text("a"), of(br), text("b"))}, "a\nb"},
		"breaks at the ends":       {[]richtext.Node{of(p, of(br), text("a"), of(br), of(br), text("b"), of(br))}, "a\n\nb"},
		"a gap":                    {[]richtext.Node{of(p, text("a "), richtext.Node{Kind: richtext.Gap, Text: "x"})}, "a [[x]]"},
		"an address with brackets": {[]richtext.Node{of(p, link)}, "[more](https://x.org/a%20(b%29)"},
	} {
		t.Run(name, func(t *testing.T) {
			if got := richtext.Write(c.blocks); got != c.want {
				t.Errorf("got %q, want %q", got, c.want)
			}
		})
	}
}

// What is read is written as a text that reads the same.
func TestWritesWhatIsRead(t *testing.T) {
	for _, in := range texts {
		once := richtext.Read(in)
		text := richtext.Write(once)
		if again := richtext.Read(text); !reflect.DeepEqual(once, again) {
			t.Errorf("%q reads as %s, written %q reads as %s", in, short(once), text, short(again))
		}
	}
}

var texts = []string{"", "a\n\nb", "**a *b* c**", "*a **b* c**", "***a***", `\*not\*`, "- a\nand on\n- b\n\n- c", "1. a\n2. b", "[a *b*](https://x.org) [[gap]]",
	"a*b*c _d_", "__a__b", `\\*a`, "- *a*\n- - b", "1. 2. a", "**a***b*", "**_a_ b** *c*", "[a](https://x.org/%29)", "-", "* *a*", "snake_case and 2 * 3"}

// Whatever is read, its words are written, and written once it stays as it is.
func FuzzWrite(f *testing.F) {
	for _, s := range texts {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		once := richtext.Read(s)
		text := richtext.Write(once)
		again := richtext.Read(text)
		if text2 := richtext.Write(again); text2 != text {
			t.Errorf("%q is written as %q, and that as %q", s, text, text2)
		}
		words := func(n []richtext.Node) []string {
			return strings.Fields(strings.ReplaceAll(richtext.Plain(n), "•", ""))
		}
		if a, b := words(once), words(again); !slices.Equal(a, b) {
			t.Errorf("%q: the words %q became %q", s, a, b)
		}
	})
}
