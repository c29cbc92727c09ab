package demo

import (
	"strings"
	"testing"

	"golang.org/x/crypto/bcrypt"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
)

func TestThePrintedPasswordsAreTheAccounts(t *testing.T) {
	for _, a := range Accounts() {
		if err := bcrypt.CompareHashAndPassword([]byte(a.hash), []byte(a.Password)); err != nil {
			t.Errorf("%s: %v", a.Email, err)
		}
	}
}

// Every piece has a picture and can be told by name; the key can be satisfied, and
// what is said of the inner cable and of the two distractors is so.
func TestPartsDrawers(t *testing.T) {
	doc, media, err := PartsDrawers()
	if err != nil {
		t.Fatal(err)
	}
	if len(doc.Items) != 24 || len(media) != 24 || len(doc.Targets) != 5 {
		t.Errorf("%d items, %d pictures, %d targets", len(doc.Items), len(media), len(doc.Targets))
	}
	if _, faults := activity.Read(doc.Write()); faults != nil {
		t.Error(faults)
	}
	if _, err := play.New(doc); err != nil {
		t.Error(err)
	}
	places := map[string]int{}
	for _, items := range doc.Cells().Right[0] {
		for _, id := range items {
			places[id]++
		}
	}
	if places["inner-cable"] != 2 || places["bell"] != 0 || places["pump"] != 0 || len(places) != 22 {
		t.Errorf("right in so many drawers: %v", places)
	}
}

// Every activity can be solved, has nothing that would stop a release or should be
// looked at, and says something in every situation that ends in a check.
func TestEveryActivityIsSound(t *testing.T) {
	if len(Activities) < 5 {
		t.Errorf("%d activities", len(Activities))
	}
	for _, id := range Activities {
		doc, media, err := Activity(id)
		if err != nil {
			t.Fatal(err)
		}
		if again, faults := activity.Read(doc.Write()); faults != nil || len(again.Media()) != len(media) {
			t.Errorf("%s: %v, %d of %d media", id, faults, len(media), len(again.Media()))
		}
		p := proof.New(t.Context(), doc)
		if s := p.Solve(); !s.Solvable || s.State != proof.Keyed {
			t.Errorf("%s: %+v", id, s)
		}
		for _, f := range append(p.Findings(), p.CoverFindings()...) {
			if f.Severity != "info" {
				t.Errorf("%s: %s", id, f.Message)
			}
		}
		if len(p.Cover().Silent) > 0 {
			t.Errorf("%s: nothing is said after some checks", id)
		}
	}
}

// What each of them is to show.
func TestWhatTheActivitiesShow(t *testing.T) {
	wear, _, _ := Activity("signs-of-wear")
	said := 0
	for _, s := range edit.Slots(wear) {
		if s.Result == "wrong" && s.Moment == "checked" {
			said++
		}
	}
	if len(wear.Targets) != 6 || len(wear.Items) != 8 || said != 8 || wear.Play.Attempts != 4 || wear.Play.RightPieces != "hold" {
		t.Errorf("Signs of wear: %d signs, %d causes, %d replies of their own, %+v", len(wear.Targets), len(wear.Items), said, wear.Play)
	}
	steps, _, _ := Activity("fix-the-puncture")
	if count, exact := proof.New(t.Context(), steps).Count(); count != "4" || !exact || len(steps.Items) != 9 || steps.Marks.Measure != "pairs" || steps.Marks.Shares[1] != 50 {
		t.Errorf("Fix the puncture: %s ways, %+v", count, steps.Marks)
	}
	desk, media, _ := Activity("front-desk")
	if len(desk.Items) != 12 || len(desk.Targets) != 3 || desk.Play.Deal != "one" || desk.Play.Check != "each" || len(media) != 2 {
		t.Errorf("Front desk: %d tickets, %d sounds, %+v", len(desk.Items), len(media), desk.Play)
	}
	note, _, _ := Activity("safety-note")
	copies := 0
	for _, it := range note.Items {
		copies += it.Copies
	}
	if len(note.Targets) != 8 || len(note.Items) != 12 || copies != 13 {
		t.Errorf("Safety note: %d gaps, %d words, %d pieces", len(note.Targets), len(note.Items), copies)
	}
}

// The three that are built and labelled: what each is to show.
func TestWhatTheBuildsShow(t *testing.T) {
	bicycle, _, _ := Activity("know-your-bicycle")
	polygons, unseen, either := 0, 0, 0
	for i := range bicycle.Targets {
		x := &bicycle.Targets[i]
		if x.Shape == "polygon" {
			polygons++
		}
		if x.Shows == "never" {
			unseen++
		}
		if len(bicycle.Cells().Right[0][x.ID]) == 2 {
			either++
		}
	}
	cards := 0
	for _, r := range bicycle.Replies {
		if r.Spot == "card" && r.Reopen {
			cards++
		}
	}
	if len(bicycle.Targets) != 12 || polygons != 4 || unseen != 4 || either != 2 || cards != 12 {
		t.Errorf("Know your bicycle: %d spots, %d polygons, %d unseen, %d take either, %d cards", len(bicycle.Targets), polygons, unseen, either, cards)
	}
	// Two whites times two reds times the seven choices of reflectors, or the dynamo
	// with one of the seven.
	night, _, _ := Activity("ready-for-night")
	if count, exact := proof.New(t.Context(), night).Count(); count != "35" || !exact || len(night.Hints) != 1 || night.Hints[0].Picture == "" {
		t.Errorf("Ready for night: %s ways", count)
	}
	stand, _, _ := Activity("on-the-stand")
	if count, exact := proof.New(t.Context(), stand).Count(); count != "3" || !exact || len(stand.Items) != 9 || stand.Targets[0].WhenFull != "oust" || stand.Targets[0].Holds != 2 || stand.Key.Solutions[2].Credit != 60 {
		t.Errorf("On the stand: %s ways", count)
	}
}

// Every step of the series is an activity of the demo, and every page that a reply
// offers is in a series that has the activity.
func TestTheSeriesHang(t *testing.T) {
	offered := map[string]bool{}
	for _, id := range AllSeries {
		doc, media, err := Series(id)
		if err != nil {
			t.Fatal(err)
		}
		if len(media) != len(doc.Media()) {
			t.Errorf("%s: %d pictures for %v", id, len(media), doc.Media())
		}
		pages := map[string]bool{}
		for _, leg := range doc.Steps {
			if leg.Page != nil {
				pages["page:"+leg.Page.ID] = true
			}
		}
		for _, leg := range doc.Steps {
			if leg.Page != nil {
				continue
			}
			d, _, err := Activity(leg.Activity)
			if err != nil {
				t.Fatal(err)
			}
			for _, r := range d.Replies {
				for _, o := range r.Offer {
					if strings.HasPrefix(o, "page:") {
						offered[o] = true
						if !pages[o] {
							t.Errorf("%s: %s offers %s", id, leg.Activity, o)
						}
					}
				}
			}
		}
	}
	induction, _, _ := Series("volunteer-induction")
	pages := len(induction.Steps) - len(induction.Activities())
	if pages != 2 || len(induction.Activities()) != 6 || induction.PassMark != 7000 || len(induction.Bands) != 3 || len(offered) == 0 {
		t.Errorf("Volunteer induction: %d pages, %d activities, offered: %v", pages, len(induction.Activities()), offered)
	}
}
