package say_test

import (
	"encoding/json"
	"os"
	"reflect"
	"regexp"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/say"
)

// Every form of condition, said and denied: a reader should never have to work out
// what a negation means.
func TestEveryConditionCanBeSaidAndDenied(t *testing.T) {
	doc := drawers(t, "")
	for _, c := range []struct{ when, said, denied string }{
		{`{"outcome":"right"}`, "everything is correct", "not everything is correct"},
		{`{"outcome":"part"}`, "some of it is correct", "it is not partly correct"},
		{`{"outcome":"wrong"}`, "nothing is correct", "something is correct"},
		{`{"target":"upper","is":"right"}`, "Upper is correct", "Upper is not correct"},
		{`{"target":"upper","is":"part"}`, "Upper is partly correct", "Upper is not partly correct"},
		{`{"target":"upper","is":"wrong"}`, "Upper has nothing correct in it", "Upper is not all wrong"},
		{`{"target":"upper","is":"empty"}`, "Upper is empty", "Upper is not empty"},
		{`{"item":"bell","is":"home"}`, "Bell is at its start", "Bell is not at its start"},
		{`{"item":"bell","is":"right"}`, "Bell is correct", "Bell is not correct"},
		{`{"item":"bell","is":"wrong"}`, "Bell is wrong", "Bell is not wrong"},
		{`{"item":"bell","in":"lower"}`, "Bell is in Lower", "Bell is not in Lower"},
		{`{"piece":{"items":["bell","chain"]}}`, "the piece is Bell or Chain", "the piece is not Bell or Chain"},
		{`{"piece":{"all":true,"except":["bell"]}}`, "the piece is any piece but Bell", "the piece is not any piece but Bell"},
		{`{"piece":{"items":["bell"],"tags":["drive"]}}`, "the piece is Bell or a piece tagged drive", "the piece is not Bell or a piece tagged drive"},
		{`{"onto":["upper"]}`, "the target is Upper", "the target is not Upper"},
		{`{"result":"right"}`, "it is correct there", "it is not correct there"},
		{`{"result":"refused"}`, "it is not accepted", "it is accepted"},
		{`{"result":"kept"}`, "it was already there", "it was not there yet"},
		{`{"rightCount":{"min":1,"max":1}}`, "1 piece is correct", "not exactly 1 piece is correct"},
		{`{"wrongCount":{"max":0}}`, "at most 0 pieces are wrong", "not at most 0 pieces are wrong"},
		{`{"wrongCount":{"min":0,"max":0}}`, "no piece is wrong", "not 0 pieces are wrong"},
		{`{"missingCount":{"min":2}}`, "at least 2 items are missing", "not at least 2 items are missing"},
		{`{"homeCount":{"min":2,"max":4}}`, "2 to 4 pieces are at their start", "not 2 to 4 pieces are at their start"},
		{`{"percent":{"min":60,"max":79.5}}`, "the score is 60 to 79.5%", "the score is not 60 to 79.5%"},
		{`{"attempt":{"min":2,"max":2}}`, "it is the second attempt", "it is not the second attempt"},
		{`{"attempt":{"min":4,"max":4}}`, "it is attempt 4", "it is not attempt 4"},
		{`{"attempt":{"min":2,"max":3}}`, "it is attempt 2 to 3", "it is not attempt 2 to 3"},
		{`{"attempt":{"max":2}}`, "it is attempt 2 or an earlier one", "it is not attempt 2 or an earlier one"},
		{`{"left":{"max":0}}`, "no attempt is left", "an attempt is left"},
		{`{"left":{"min":1}}`, "an attempt is left", "no attempt is left"},
		{`{"left":{"min":1,"max":1}}`, "1 attempt is left", "not 1 attempts are left"},
		{`{"left":{"min":2}}`, "at least 2 attempts are left", "not at least 2 attempts are left"},
		{`{"solution":0}`, "it is closest to As built", "it is not closest to As built"},
		{`{"all":[{"outcome":"part"},{"left":{"max":0}}]}`, "some of it is correct and no attempt is left", "it is not partly correct or an attempt is left"},
		{`{"any":[{"outcome":"part"},{"left":{"max":0}}]}`, "some of it is correct or no attempt is left", "it is not partly correct and an attempt is left"},
		{`{"none":[{"outcome":"part"}]}`, "it is not partly correct", "some of it is correct"},
		{`{"all":[]}`, "always", "never"},
		{`{"any":[]}`, "never", "always"},
		{`{"none":[]}`, "always", "never"},
	} {
		body := `{"format":"keen-magpie/activity","version":1,"id":"x","items":[{"id":"bell","name":"Bell"},{"id":"chain","name":"Chain"}],
			"targets":[{"id":"upper","name":"Upper","frame":{"x":0,"y":0,"w":9,"h":9}},{"id":"lower","name":"Lower","frame":{"x":0,"y":9,"w":9,"h":9}}],
			"key":{"solutions":[{"name":"As built"}]},"replies":[{"id":"r","moment":"checked","when":` + c.when + `}]}`
		read, faults := activity.Read([]byte(body))
		if faults != nil {
			t.Errorf("%s: %v", c.when, faults)
			continue
		}
		when := read.Replies[0].When
		if got := say.Condition(doc, when).Message; got != c.said {
			t.Errorf("%s is said: %s, want %s", c.when, got, c.said)
		}
		if got := say.Condition(doc, &activity.Condition{None: []activity.Condition{*when}}).Message; got != c.denied {
			t.Errorf("%s is denied: %s, want %s", c.when, got, c.denied)
		}
		// Written alone it is what it was.
		again, err := json.Marshal(*when)
		if err != nil || string(again) != c.when && c.when != `{"piece":{"all":true,"except":["bell"]}}` {
			t.Errorf("%s is written %s (%v)", c.when, again, err)
		}
	}
}

// What the catalogue has is said of some document, and what is said is in the catalogue.
func TestWhatIsSaidOfADocumentIsInTheCatalogue(t *testing.T) {
	said := map[string]bool{}
	for _, name := range []string{"key.go", "when.go", "differences.go"} {
		source, err := os.ReadFile(name)
		if err != nil {
			t.Fatal(err)
		}
		for _, m := range regexp.MustCompile(`"([a-zA-Z/-]+)"`).FindAllStringSubmatch(string(source), -1) {
			said[m[1]] = true
		}
	}
	// Codes that are put together, with what is put behind the slash.
	together := regexp.MustCompile(`^(moment|item|pieces|target-is|outcome|result|attempt|placed|placed-into|field|changed|parts)/[a-zA-Z-]+$|^(right|wrong|missing|home)Count/(no|one)$`)
	for code := range say.English {
		if plain := strings.TrimPrefix(code, "not-"); !said[plain] && !together.MatchString(plain) {
			t.Errorf("%s is never said", code)
		}
	}
	for _, kind := range []any{activity.Item{}, activity.Target{}, activity.Scenery{}} {
		for _, f := range reflect.VisibleFields(reflect.TypeOf(kind)) {
			if name := f.Tag.Get("json"); name != "" && name != "id" && say.English["field/"+name] == "" {
				t.Errorf("%T has no word for %s", kind, name)
			}
		}
	}
}

// A reply is called by its first words, and without any by when it is given.
func TestWhatAReplyIsCalled(t *testing.T) {
	doc := drawers(t, `,"replies":[{"id":"a","moment":"done","say":{"text":"One two  three four five six seven"}},{"id":"b","moment":"done","say":{"text":"One two"}},{"id":"c","moment":"done"}]`)
	for i, want := range []string{"“One two three four five six …”", "“One two”", "“When it is over”"} {
		if got := say.Reply(doc, &doc.Replies[i]).Message; got != want {
			t.Errorf("%s, want %s", got, want)
		}
	}
}
