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
				got += fmt.Sprint(r.Moment, " ", r.Tone)
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

// A time limit brings what is said when it is over, and takes it along unless it has been
// changed.
func TestATimeLimitSaysWhenItIsOver(t *testing.T) {
	said := func(d *activity.Doc) (list []string) {
		for _, r := range d.Replies {
			if r.Moment == "timeUp" {
				list = append(list, r.Say.Text)
			}
		}
		return list
	}
	none := layout.New("sort", "X")
	limited := edit.SetTimeLimit(none, 60000)
	if got := said(limited); limited.Play.TimeLimit != 60000 || len(got) != 1 || got[0] != "Your time is up." || len(said(none)) != 0 {
		t.Errorf("with a limit: %d, %q", limited.Play.TimeLimit, got)
	}
	none.Play.Extension = 100
	if first := edit.SetTimeLimit(none, 60000); first.Play.Extension != 200 {
		t.Errorf("with a first limit who is given extra time may have %d%% of it", first.Play.Extension)
	}
	limited.Play.Extension = 100
	if longer := edit.SetTimeLimit(limited, 90000); longer.Play.Extension != 100 {
		t.Errorf("with another limit that became %d%%", longer.Play.Extension)
	}
	if longer := edit.SetTimeLimit(limited, 90000); longer.Play.TimeLimit != 90000 || len(said(longer)) != 1 {
		t.Errorf("with a longer one: %q", said(longer))
	}
	if without := edit.SetTimeLimit(limited, 0); without.Play.TimeLimit != 0 || len(said(without)) != 0 {
		t.Errorf("without one again: %q", said(without))
	}
	for i := range limited.Replies {
		limited.Replies[i].Say.Text = "The bell rings."
	}
	if kept := edit.SetTimeLimit(edit.SetTimeLimit(limited, 0), 30000); len(said(kept)) != 1 || said(kept)[0] != "The bell rings." {
		t.Errorf("one's own: %q", said(kept))
	}
}
