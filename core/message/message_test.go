package message_test

import (
	"cmp"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"keenmagpie/core/message"
)

func TestLinesAreFilledIn(t *testing.T) {
	words := map[string]string{
		"plain":  "Nothing to fill in.",
		"named":  "{item} is in {target}.",
		"number": "{target} holds {holds}, but {n, plural, one {# piece belongs} other {# pieces belong}} there.",
		"chosen": "{what, select, list {the list of {n}} other {{item}}} has no end",
		"tricky": "{n, plural, one {the other piece} other {all # of one kind, in {target}}}",
	}
	for want, line := range map[string]message.Line{
		"Nothing to fill in.":                     {Code: "plain"},
		"Bell {n} is in Box.":                     {Code: "named", Params: message.P{"item": "Bell {n}", "target": "Box", "n": 7}},
		"Box holds 1, but 1 piece belongs there.": {Code: "number", Params: message.P{"target": "Box", "holds": 1, "n": 1}},
		"Box holds 1, but 5 pieces belong there.": {Code: "number", Params: message.P{"target": "Box", "holds": 1, "n": 5}},
		"the list of 3 has no end":                {Code: "chosen", Params: message.P{"what": "list", "n": 3}},
		"Bell {n} has no end":                     {Code: "chosen", Params: message.P{"what": "map", "item": "Bell {n}"}},
		"the other piece":                         {Code: "tricky", Params: message.P{"n": 1}},
		"all 3 of one kind, in Box":               {Code: "tricky", Params: message.P{"n": 3, "target": "Box"}},
		"not-there":                               {Code: "not-there"},
	} {
		if got := line.In(words); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}

// What the catalogues of the core say is said somewhere, and what is said stands there.
func TestWhatIsSaidIsInTheCatalogue(t *testing.T) {
	entry := regexp.MustCompile(`(?m)^\t"([a-z-]+)": +"`)
	for folder, said := range map[string]string{
		"../activity": `\.(?:fault|end)\((?:.*, )?"([a-z-]+)", |faultAt\("", "([a-z-]+)"`,
		"../edit":     `(?:Say|refused)\("([a-z-]+)"`,
		"../layout":   `refused\("([a-z-]+)"`,
	} {
		catalogue, err := os.ReadFile(filepath.Join(folder, "said.go"))
		if err != nil {
			t.Fatal(err)
		}
		var sources strings.Builder
		for _, pattern := range []string{folder + "/*.go", "../../cmd/engine/*.go"} {
			names, _ := filepath.Glob(pattern)
			for _, name := range names {
				if body, err := os.ReadFile(name); err == nil && filepath.Base(name) != "said.go" && !strings.HasSuffix(name, "_test.go") {
					sources.Write(body)
				}
			}
		}
		known := map[string]bool{}
		for _, m := range entry.FindAllStringSubmatch(string(catalogue), -1) {
			known[m[1]] = true
			if !strings.Contains(sources.String(), `"`+m[1]+`"`) {
				t.Errorf("%s: %s is never said", folder, m[1])
			}
		}
		codes := regexp.MustCompile(said).FindAllStringSubmatch(sources.String(), -1)
		if len(codes) < 5 || len(known) < 5 {
			t.Errorf("%s: %d codes found, %d known", folder, len(codes), len(known))
		}
		for _, m := range codes {
			if code := cmp.Or(m[1:]...); !known[code] {
				t.Errorf("%s: %s is not in the catalogue", folder, code)
			}
		}
	}
}
