package edit_test

import (
	"fmt"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/layout"
	"keenmagpie/core/marks"
)

// Practice and assessment carry their usual replies; what an author has written stays, and
// where replies were taken out none come back.
func TestPresets(t *testing.T) {
	fresh := layout.New("sort", "X")
	own := layout.New("sort", "X")
	own.Replies[0].Say.Text = "Mine."
	none := layout.New("sort", "X")
	none.Replies = nil
	mine := layout.New("sort", "X")
	mine.Replies = mine.Replies[:1]
	mine.Replies[0].Say.Text = "Only mine."
	for _, x := range []struct {
		name string
		doc  *activity.Doc
		to   string
		want string
	}{
		{"practice", fresh, "practice", "ask 0 home: checked right, checked near, checked wrong"},
		{"assessment says nothing", fresh, "assessment", "ask 1 stay: "},
		{"what is written stays", own, "practice", "ask 0 home: checked right, checked right, checked near, checked wrong"},
		{"none become the usual ones", none, "practice", "ask 0 home: checked right, checked near, checked wrong"},
		{"an author's alone stays alone", mine, "practice", "ask 0 home: checked right"},
	} {
		t.Run(x.name, func(t *testing.T) {
			out, p, ok := edit.SetPreset(x.doc, x.to)
			if !ok || p.ID != x.to {
				t.Fatalf("%v %v", p, ok)
			}
			got := fmt.Sprintf("%s %d %s: ", out.Play.Check, out.Play.Attempts, out.Play.WrongPieces)
			for i, r := range out.Replies {
				if i > 0 {
					got += ", "
				}
				got += r.Moment + " " + r.Tone
			}
			if got != x.want {
				t.Errorf("it is %s\nnot   %s", got, x.want)
			}
			again, faults := activity.Read(out.Full())
			if faults != nil {
				t.Fatal(faults)
			}
			if _, err := marks.NewJudge(again); err != nil {
				t.Error(err)
			}
			there, _, _ := edit.SetPreset(out, x.to)
			if len(there.Replies) != len(out.Replies) {
				t.Errorf("set again, it has %d replies", len(there.Replies))
			}
		})
	}
	if _, _, ok := edit.SetPreset(fresh, "party"); ok {
		t.Error("there is no such preset")
	}
}
