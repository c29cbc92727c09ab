package activity_test

import (
	"bytes"
	"strings"
	"testing"

	"keenmagpie/core/activity"
)

const walk = `{"format":"keen-magpie/series","version":1,"id":"walk","title":"Walk","steps":[
 {"page":{"id":"hello","title":"Hello","picture":"p1","sound":"s1"}},
 {"activity":"a1","points":5,"moveOn":"right"},
 {"activity":"a2","counts":false},
 {"page":{"id":"bye","picture":"p1"}}],"passMark":70,"bands":[{"from":0,"name":"Again"}],"again":"wrong"}`

func TestASeriesIsReadAndWritten(t *testing.T) {
	s, faults := activity.ReadSeries([]byte(walk))
	if faults != nil {
		t.Fatal(faults)
	}
	if !s.Back || s.Steps[1].MoveOn != "right" || s.Steps[2].MoveOn != "done" || s.Steps[2].Counts || !s.Steps[1].Counts || s.Lang != "en" {
		t.Errorf("%+v", s)
	}
	if got := strings.Join(append(s.Media(), s.Activities()...), " "); got != "p1 s1 a1 a2" {
		t.Errorf("it uses %s", got)
	}
	for _, body := range [][]byte{s.Write(), s.Full()} {
		again, faults := activity.ReadSeries(body)
		if faults != nil || !bytes.Equal(again.Write(), s.Write()) {
			t.Errorf("%v\n%s", faults, body)
		}
	}
}

func TestFaultsOfASeries(t *testing.T) {
	for _, c := range []struct{ from, to, pointer, says string }{
		{`"again":"wrong"`, `"again":"twice"`, "/again", "not possible here"},
		{`"activity":"a2",`, ``, "/steps/2", "a page or an activity"},
		{`"activity":"a2"`, `"activity":"a2","page":{"id":"x"}`, "/steps/2", "not both"},
		{`"id":"bye"`, `"id":"hello"`, "/steps/3/page/id", "another page"},
		{`{"page":{"id":"bye","picture":"p1"}}`, `{"page":{"id":"bye"},"points":3}`, "/steps/3/points", "no points"},
		{`"moveOn":"right"`, `"moveOn":"right","goto":3`, "/steps/1/goto", "there is no field"},
		{`"id":"walk",`, ``, "/id", "missing"},
		{`"passMark":70`, `"passMark":700`, "/passMark", "too large"},
		{`"title":"Walk"`, `"title":"Wa`, "", "not JSON"},
	} {
		_, faults := activity.ReadSeries([]byte(strings.Replace(walk, c.from, c.to, 1)))
		found := false
		for _, f := range faults {
			found = found || (c.pointer == "" || f.Pointer == c.pointer) && strings.Contains(f.Message, c.says)
		}
		if !found {
			t.Errorf("%s for %s: %v", c.to, c.from, faults)
		}
	}
}
