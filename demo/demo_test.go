package demo

import (
	"testing"

	"golang.org/x/crypto/bcrypt"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
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
