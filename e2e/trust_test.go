package e2e

import (
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// Extra time that a release does not allow is told where it is given, and where the release
// is made, and is allowed at one press; how late moves may arrive is set beside it.
func TestExtraTimeIsToldAndAllowed(t *testing.T) {
	w := newWorld(t)
	doc := keyed()
	doc.Title = "Timed parts"
	doc.Play.TimeLimit, doc.Play.Extension = 600000, 100
	ana := w.person(t)
	ana.openDocument(doc)
	link := ana.release()
	ana.roster("Lea Brandt", "Add one learner")
	ana.sees("This release allows 100% of the time at most, so 150% would not be given.")
	ana.shot("roster-time")
	// What can't be is put back, with what can be; and the keys stay there.
	time := "Time of Lea Brandt in percent"
	ana.fill(time, "5000")
	ana.press(kb.Enter)
	ana.sees(time + ": “5000” is not possible here; possible: whole numbers, 100 to 1000. Nothing was changed.")
	ana.until("it is as it was", `document.activeElement === `+find(time)+` && document.activeElement.value === '150'`)
	ana.shot("roster-refused")
	code := eval[string](ana, `document.querySelector('[role=dialog] tbody tr').cells[1].textContent`)
	ana.click("Done")
	ana.sees("Some learners in this roster get 150% of the time, but this release allows 100% at most.")
	ana.shot("entry-time")
	ana.click("Allow 150% in this release")
	ana.seesNot("but this release allows")
	ana.fill("Seconds allowed for lost connections", "30")
	ana.press(kb.Enter)
	ana.until("it is kept", `document.querySelector('[aria-label="Seconds allowed for lost connections"]')?.value === '30'`)

	lea := w.person(t)
	lea.open(link)
	lea.fill("Your code", code)
	lea.click("Start")
	lea.until("half as long again as the ten minutes of the activity", `/1[45]:\d\d left/.test(document.body.innerText)`)

	// The next release says so before it is out.
	ana.open(strings.TrimSuffix(strings.TrimPrefix(eval[string](ana, "location.href"), w.url), "/releases"))
	ana.click("Release…")
	ana.sees("A roster gives learners 150% of the time, but this activity allows 100% at most.")
	ana.shot("releasing-time")
	ana.click("Allow 150%")
	ana.seesNot("but this activity allows")
	ana.press(kb.Escape)
	ana.saved()
	if got := ana.document().Play.Extension; got != 150 {
		t.Errorf("the draft allows %d%%", got)
	}
}

// Where results never shown, a piece that is held looks fixed and not right: on the
// board, in the list, and at the end.
func TestHeldPiecesTellNothingWhereNothingShows(t *testing.T) {
	w := newWorld(t)
	doc := keyed()
	doc.Play.Show, doc.Play.RightPieces, doc.Play.Attempts = "never", "hold", 2
	ana := w.person(t)
	ana.openDocument(doc)
	link := ana.release()
	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.place("Chain", "Drivetrain")
	lea.click("Check")
	lea.click("Try again")
	lea.sees("Chain, in Drivetrain, held in place")
	seals := `document.querySelectorAll('main [data-piece] .text-teal, main [data-piece] .bg-teal').length`
	if n := eval[int](lea, seals); n != 0 {
		t.Errorf("%d pieces look right", n)
	}
	lea.shot("held-quietly")
	lea.click("Check")
	lea.sees("Score")
	if n := eval[int](lea, seals); n != 0 {
		t.Errorf("at the end %d pieces look right", n)
	}
}

// A proof says the chance of guessing as one in so many, what putting everything in comes
// to, and writes the reply that a situation lacks.
func TestTheProofOffersWhatIsMissing(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.until("the chance", `/1 in [\d.,]+/.test(document.querySelector('[data-figure="chance"]')?.textContent ?? '')`)
	ana.click("Proof: what is known")
	ana.sees("Putting every piece into a target scores at most")
	ana.sees("By guessing, everything comes out right with a chance of")
	ana.shot("proof-trust")
}

// A sitting of a series is played again from the list of those who went through it.
func TestRunsLeadToWhatWasDone(t *testing.T) {
	w := newWorld(t)
	doc := keyed()
	doc.Title, doc.Play.Attempts = "Sort the parts", 1
	w.shelved(t, doc)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("New series")
	ana.sees("This series is empty")
	ana.fill("Title", "A short evening")
	ana.press(kb.Enter)
	ana.click("Add activities")
	ana.click("Sort the parts")
	ana.click("Add")
	ana.saved()
	ana.click("Release…")
	ana.sees("freezes the series")
	ana.click("Release")
	ana.sees("published")
	link := eval[string](ana, find("Link for learners")+".value")
	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.place("Chain", "Drivetrain")
	lea.click("Check")
	ana.click("View sittings")
	ana.until("the step's score", `[...document.querySelectorAll('td a')].length > 0`)
	ana.shot("runs")
	ana.choose("View", "0")
	ana.click("Re-mark…")
	ana.sees("the same")
	ana.shot("remark-step")
	ana.click("Re-mark one sitting")
	ana.sees("one sitting re-marked")
	ana.click("Revert")
	ana.sees("reverted")
	ana.choose("View", "")
	ana.until("the table", `document.querySelector('td a') !== null`)
	ana.click(eval[string](ana, `document.querySelector('td a').textContent`))
	ana.sees("Trail")
	ana.until("its line stands there", `document.querySelector('[aria-label="Trail"] [aria-current="step"]') !== null`)
	ana.sees("Score ")
	ana.shot("replay-trust")
}

// What nothing uses is deleted from the library; what a draft uses is not, and says so.
func TestAMediumIsDeleted(t *testing.T) {
	w := newWorld(t)
	dir := t.TempDir()
	file := filepath.Join(dir, "loose.svg")
	if err := os.WriteFile(file, []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 8 8"><path d="M0 0h8"/></svg>`), 0o600); err != nil {
		t.Fatal(err)
	}
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Activity")
	ana.click("Media")
	ana.fill("Find in Media", "bell")
	ana.click("bell.svg")
	ana.sees("Used in ")
	if !eval[bool](ana, `[...document.querySelectorAll('[role=dialog] button')].find((b) => b.textContent === 'Delete').disabled`) {
		t.Error("what a draft uses can be deleted")
	}
	ana.fill("Find in Media", "loose")
	ana.files("Files for Media", file)
	ana.sees("Not used")
	ana.click("Delete")
	ana.sees("No matches")
}
