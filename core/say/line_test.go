package say_test

import (
	"testing"

	"keenmagpie/core/say"
)

func TestLinesAreFilledIn(t *testing.T) {
	words := map[string]string{
		"plain":  "Nothing to fill in.",
		"named":  "{item} is in {target}.",
		"number": "{target} holds {holds}, but {n, plural, one {# piece belongs} other {# pieces belong}} there.",
		"tricky": "{n, plural, one {the other piece} other {all # of one kind, in {target}}}",
	}
	for want, line := range map[string]say.Line{
		"Nothing to fill in.":                     {Code: "plain"},
		"Bell {n} is in Box.":                     {Code: "named", Params: say.P{"item": "Bell {n}", "target": "Box", "n": 7}},
		"Box holds 1, but 1 piece belongs there.": {Code: "number", Params: say.P{"target": "Box", "holds": 1, "n": 1}},
		"Box holds 1, but 5 pieces belong there.": {Code: "number", Params: say.P{"target": "Box", "holds": 1, "n": 5}},
		"the other piece":                         {Code: "tricky", Params: say.P{"n": 1}},
		"all 3 of one kind, in Box":               {Code: "tricky", Params: say.P{"n": 3, "target": "Box"}},
		"not-there":                               {Code: "not-there"},
	} {
		if got := line.In(words); got != want {
			t.Errorf("%q, want %q", got, want)
		}
	}
}
