package activity

import (
	"fmt"
	"reflect"
	"strings"
	"testing"
)

func TestBandsInAnyOrder(t *testing.T) {
	const head = `{"format":"keen-magpie/activity","version":1,"id":"a","key":{"solutions":[{}]},"marks":{"bands":[`
	doc, faults := Read([]byte(head + `{"from":60,"name":"well"},{"from":-20,"name":"guessed"},{"from":0,"name":"begun"}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	for percent, want := range map[U]string{-3000: "", -2000: "guessed", -1: "guessed", 0: "begun", 5999: "begun", 6000: "well", 10000: "well"} {
		if got := BandAt(doc.Marks.Bands, percent); got != want {
			t.Errorf("%s%%: %q, want %q", percent, got, want)
		}
	}
	if got := strings.Join(strings.Fields(string(doc.Write())), ""); !strings.Contains(got, `"bands":[{"from":-20,"name":"guessed"},{"from":0,"name":"begun"},{"from":60,"name":"well"}]`) {
		t.Errorf("not written in order: %s", got)
	}
	if _, faults := Read([]byte(head + `{"from":60,"name":"well"},{"from":0,"name":"begun"},{"from":60,"name":"better"}]}}`)); len(faults) != 1 || faults[0].Pointer != "/marks/bands/2/from" {
		t.Errorf("two bands from 60: %v", faults)
	}
}

// A copy has all of the document, also what no reader would take, and shares nothing
// with it.
func TestACopyIsWholeAndItsOwn(t *testing.T) {
	doc := &Doc{Board: Board{Check: nil, Theme: &Theme{}}, Order: []string{"x"}, Play: Play{Attempts: -3}}
	for i := range 551 {
		doc.Items = append(doc.Items, Item{ID: fmt.Sprint("i", i), Tags: []string{"t"}, Home: &Point{1, 2}})
	}
	doc.Key.Solutions = []Solution{{Right: map[string]Selector{"box": {Items: []string{"i0"}}}, Orders: []Order{{Tiers: [][]string{{"i0"}}}}}}
	doc.Replies = []Reply{{ID: "r", When: &Condition{All: []Condition{{Onto: []string{"box"}}}}}}
	out := doc.Clone()
	if !reflect.DeepEqual(doc, out) {
		t.Fatal("the copy is not whole")
	}
	out.Items[550].Tags[0], out.Items[0].Home.X = "other", 9
	out.Key.Solutions[0].Right["box"].Items[0], out.Key.Solutions[0].Orders[0].Tiers[0][0] = "other", "other"
	out.Replies[0].When.All[0].Onto[0] = "other"
	if again := doc.Clone(); again.Items[550].Tags[0] != "t" || again.Items[0].Home.X != 1 || again.Key.Solutions[0].Right["box"].Items[0] != "i0" ||
		again.Key.Solutions[0].Orders[0].Tiers[0][0] != "i0" || again.Replies[0].When.All[0].Onto[0] != "box" {
		t.Error("the copy shares something with the document")
	}
}

func TestLanguagesAreWellFormed(t *testing.T) {
	for lang, good := range map[string]bool{"en": true, "pt-BR": true, "de-!!": false, "": false, "x": false} {
		_, faults := Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"a","key":{"solutions":[{}]},"lang":"` + lang + `"}`))
		if (faults == nil) != good {
			t.Errorf("%q: %v", lang, faults)
		}
	}
}
