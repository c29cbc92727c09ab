package e2e

import (
	"context"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/demo"
	"keenmagpie/store"
)

// series is the draft of a series that is open, as the server has it once it is saved.
func (p *person) series() *activity.Series {
	p.t.Helper()
	p.until("saving", `[...document.querySelectorAll('[role=status]')].some((e) => e.textContent === 'Saved')`)
	a, err := p.w.store.In(p.workspace()).Series(context.Background(), eval[string](p, `location.pathname.split('/').pop()`))
	if err != nil {
		p.t.Fatal(err)
	}
	doc, faults := activity.ReadSeries([]byte(a.Document))
	if faults != nil {
		p.t.Fatal(faults)
	}
	return doc
}

// shelved keeps a document as an activity of the demo's workspace.
func (w *world) shelved(t testing.TB, doc *activity.Doc) store.Activity {
	t.Helper()
	m := w.designer(t)
	a, err := w.store.In(m.WorkspaceID).AddActivity(context.Background(), m.ID, doc.Title, string(doc.Write()), nil)
	if err != nil {
		t.Fatal(err)
	}
	return a
}

// A series of two activities and two pages is made, put in order, rehearsed from its
// middle, released, gone through by a learner with a detour to a page, summed up, and
// done once more where it was not right.
func TestASeries(t *testing.T) {
	w := newWorld(t)
	first, second := keyed(), keyed()
	first.Title, second.Title = "Sort the parts", "Sort them again"
	first.Replies = []activity.Reply{{ID: "look", Moment: "done", Tone: "plain", Spot: "edge", Say: activity.Say{Text: "Read up on it."}, Offer: []string{"page:page-1"},
		When: &activity.Condition{Outcome: "part"}}}
	w.shelved(t, first)
	w.shelved(t, second)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.click("New series")
	ana.sees("This series is empty")
	ana.fill("Title", "A first evening")
	ana.press(kb.Enter)
	ana.click("Add activities")
	ana.click("Sort the parts")
	ana.click("Sort them again")
	ana.click("Add 2")
	ana.click("Add a page")
	ana.fill("Title of the page", "What goes where")
	ana.click("Text")
	ana.paste("Chains *drive*, pads brake.")
	ana.sees("Chains drive, pads brake.")
	ana.sees("Feedback in an activity can lead here")
	ana.sees("Step 1, a page") // the first page introduces the series
	// Behind the first activity and to the front again, by keyboard alone.
	ana.click("1")
	ana.press(kb.ArrowDown, chromedp.ModifierAlt)
	ana.sees("Step 2, a page")
	ana.press(kb.ArrowUp, chromedp.ModifierAlt)
	ana.sees("Step 1, a page")
	ana.click("2")
	ana.choose("Moves on", "free")
	ana.fill("Points here", "30")
	ana.press(kb.Enter)
	ana.sees("It is worth 40 points")
	ana.choose("Again", "wrong")
	ana.click("Band")
	ana.shot("series")
	doc := ana.series()
	if len(doc.Steps) != 3 || doc.Steps[0].Page == nil || doc.Steps[1].MoveOn != "free" || doc.Steps[1].Points == nil || doc.Again != "wrong" || len(doc.Bands) != 1 || doc.Title != "A first evening" {
		t.Errorf("the series: %s", doc.Write())
	}
	ana.click("Undo")
	ana.until("no band", `document.querySelectorAll('[role=slider]').length === 1`)

	// Rehearsed from its second step; nothing is recorded.
	ana.click("Rehearse from step 2")
	ana.sees("Step 2 of 3")
	ana.place("Chain", "Drivetrain")
	ana.click("Next")
	ana.sees("Step 3 of 3")
	ana.click("Back")
	ana.sees("Chain, in Drivetrain")
	ana.shot("series-rehearsing")
	ana.click("Done")

	ana.click("Release…")
	ana.sees("2 activities, 1 page")
	ana.click("Release")
	ana.sees("published")
	link := eval[string](ana, find("Link for learners")+".value")

	lea := w.person(t)
	lea.open(link)
	lea.sees("3 steps")
	lea.fill("Your name", "Lea Brandt")
	lea.click("Start")
	lea.sees("Chains drive, pads brake.")
	lea.shot("series-page")
	lea.click("Next")
	lea.sees("Step 2 of 3")
	lea.place("Chain", "Drivetrain")
	lea.click("Check")
	lea.sees("Read up on it.")
	lea.shot("series-step")
	lea.click("Reread the page")
	lea.sees("Chains drive, pads brake.")
	lea.click("Back to Sort the parts")
	lea.sees("Chain, in Drivetrain")
	lea.click("Next")
	lea.sees("Step 3 of 3")
	for piece, target := range map[string]string{"Chain": "Drivetrain", "Crank": "Drivetrain", "Pad": "Brakes", "Lever": "Brakes"} {
		lea.place(piece, target)
	}
	lea.click("Check")
	lea.click("See results")
	// A quarter of 30 and 10 of 10.
	lea.sees("17.5 of 40")
	lea.sees("43.75%")
	lea.shot("series-result")
	// It is found again on the same link.
	lea.open(link)
	lea.sees("17.5 of 40")
	lea.click("Retry the incorrect ones")
	lea.sees("Step 2 of 3")
	for piece, target := range map[string]string{"Chain": "Drivetrain", "Crank": "Drivetrain", "Pad": "Brakes", "Lever": "Brakes"} {
		lea.place(piece, target)
	}
	lea.click("Check")
	lea.click("See results")
	lea.sees("40 of 40")
	lea.sees("all correct")
	ana.open("/activity/" + strings.Split(eval[string](ana, "location.pathname"), "/")[2] + "/releases")
	ana.sees("Lea Brandt")
	ana.sees("100%")

	// At 320 pixels nothing is cut off.
	lea.do(chromedp.EmulateViewport(320, 640))
	lea.until("it fits", `document.documentElement.scrollWidth <= 320`)
	lea.shot("series-result-narrow")
}

// roster makes one for what was just released, and gives Lea half as much time again.
func (p *person) roster(names, add string) {
	p.t.Helper()
	p.click("View sittings")
	p.click("Access settings…")
	p.choose("Who may begin", "new")
	p.fill("Name of the roster", "Tuesday evening")
	p.fill("Names to add", names)
	p.click(add)
	p.sees("Roster Tuesday evening")
	p.fill("Time of Lea Brandt in percent", "150")
	p.press(kb.Enter)
}

// What another program has written is read as it stands: the columns of the name are found, and
// can be chosen.
func TestNamesFromAFile(t *testing.T) {
	ana := newWorld(t).person(t)
	ana.openSort("Small parts")
	ana.release()
	ana.click("View sittings")
	ana.click("Access settings…")
	ana.choose("Who may begin", "new")
	file := filepath.Join(t.TempDir(), "people.csv")
	// As spreadsheets wrote it before there was a code for all letters.
	if err := os.WriteFile(file, []byte("Email;First name;Last name\r\nzoe@tarnbridge.example;Zo\xeb;Brandt\r\ntom@tarnbridge.example;Tom;Ek\r\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	ana.upload("A file of names", file)
	ana.sees("The first is Zoë Brandt.")
	ana.sees("Add 2 learners")
	ana.accessible("columns of names")
	ana.shot("names-columns")
	ana.click("The first row is a heading")
	ana.sees("Add 3 learners")
	ana.click("The first row is a heading")
	ana.tabTo("First name")
	ana.press(" ")
	ana.sees("The first is Brandt.")
	ana.press(" ")
	ana.sees("The first is Zoë Brandt.")
	ana.click("Add 2 learners")
	ana.until("both", `[...document.querySelectorAll('[aria-label^="Name of learner"]')].map((e) => e.value).join() === 'Tom Ek,Zoë Brandt'`)
	if err := os.WriteFile(file, []byte("\xd0\xcf\x11\xe0 an old spreadsheet"), 0o600); err != nil {
		t.Fatal(err)
	}
	ana.upload("A file of names", file)
	ana.sees("This file was refused")
}

// Names are pasted, each gets a code, one has more time; a learner enters by the code on
// any device, and no other name does.
func TestWhoEntersByCode(t *testing.T) {
	w := newWorld(t)
	doc := keyed()
	doc.Play.TimeLimit, doc.Play.Extension = 600000, 200
	ana := w.person(t)
	ana.openDocument(doc)
	link := ana.release()
	ana.roster("Lea Brandt\nTom Okafor\tleft-handed\n\nMia Sund", "Add 3 learners")
	ana.until("the time is kept", `document.querySelector('[aria-label="Time of Lea Brandt in percent"]')?.value === '150'`)
	code := eval[string](ana, `[...document.querySelectorAll('[role=dialog] tbody tr')].find((r) => r.querySelector('input').value === 'Lea Brandt').cells[1].textContent`)
	ana.shot("roster")
	ana.click("Done")
	ana.sees("each by a code")
	ana.fill("Sittings of each learner", "1")
	ana.press(kb.Enter)
	ana.shot("entry")
	ana.click("Hide")
	ana.sees("Learners on roster Tuesday evening, with a personal code, each at most once.")

	lea := w.person(t)
	lea.open(link)
	lea.fill("Your code", "abcd efgh")
	lea.click("Start")
	lea.sees("That code isn’t valid here")
	lea.shot("gate-code")
	lea.fill("Your code", strings.ToUpper(code))
	lea.click("Start")
	lea.sees("Lea Brandt")
	lea.sees("15:00 left")
	lea.place("Chain", "Drivetrain")
	// Another device, with the link that brings the code along.
	phone := w.person(t)
	phone.open(link + "#code=" + strings.ReplaceAll(code, " ", ""))
	phone.click("Start")
	phone.sees("Chain, in Drivetrain")
	// The window closes: nobody else begins.
	ana.open(strings.TrimPrefix(eval[string](ana, "location.href"), w.url))
	ana.sees("Learners on roster Tuesday evening")
	ana.click("Access settings…")
	ana.choose("Who may begin", "")
	ana.sees("may begin, giving a name.")
	ana.tabTo("Closes")
	ana.do(chromedp.KeyEvent("01012020" + kb.Tab + "1000A" + kb.Tab))
	ana.click("Hide")
	ana.sees("until Jan 1, 2020") // as it was saved, not as it was typed
	kim := w.person(t)
	kim.open(link)
	kim.sees("This closed on January 1, 2020")
	kim.shot("gate-closed")
}

// A roster is made where the release is, so that nobody else may begin at any time.
func TestARosterForARelease(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(keyed())
	ana.click("Release…")
	ana.choose("Who may begin", "new")
	ana.fill("Names to add", "Lea Brandt\nTom Okafor")
	ana.click("Add 2 learners")
	ana.sees("Copy names and codes")
	ana.until("keys go on with further names", `document.activeElement?.id === 'roster-names'`)
	code := eval[string](ana, `[...document.querySelectorAll('[role=dialog] tbody tr')].find((r) => r.querySelector('input').value === 'Lea Brandt').cells[1].textContent`)
	ana.click("Done")
	ana.until("keys go on where the roster was chosen", `document.activeElement?.getAttribute('aria-label') === 'Who may begin'`)
	ana.click("Release")
	ana.sees("Learners of the roster play it with this link and their code")
	lea := w.person(t)
	lea.open(eval[string](ana, find("Link for learners")+".value"))
	lea.fill("Your code", code)
	lea.click("Start")
	lea.sees("Lea Brandt")
}

// A colleague tries the draft by a link; withdrawn, it leads nowhere. On a shared screen
// the draft is played large, one learner after the other. Nothing of either is kept.
func TestTryingADraft(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(keyed())
	id := eval[string](ana, `location.pathname.split('/').pop()`)
	ana.click("Activity")
	ana.click("Preview links")
	ana.click("Create link")
	link := eval[string](ana, func() string { ana.until("the link", find("Link to try 1")); return find("Link to try 1") }()+".value")
	ana.shot("draft-links")
	kim := w.person(t)
	kim.open(link)
	kim.click("Start")
	kim.sees("Preview. Nothing is saved.")
	kim.place("Chain", "Drivetrain")
	kim.place("Pad", "Drivetrain")
	kim.click("Check")
	kim.sees("One piece is correct, one is not.")
	kim.click("Next learner")
	kim.sees("Chain, not placed")
	ana.click("Revoke")
	ana.sees("No links yet.")
	kim.open(link)
	kim.sees("it may have been withdrawn")

	ana.open("/activity/" + id + "/room")
	ana.place("Chain", "Drivetrain")
	ana.shot("room")
	ana.click("Next learner")
	ana.sees("Chain, not placed")
	ana.click("Close")
	ana.sees("Rehearse")
	if a, err := w.store.In(ana.workspace()).Activity(context.Background(), id); err != nil || a.Sittings != 0 {
		t.Errorf("something was kept: %+v %v", a.Sittings, err)
	}
	// A release on a shared screen asks for no name, and the next learner begins at once.
	released := ana.release()
	hall := w.person(t)
	hall.open(released + "?room")
	hall.click("Start")
	hall.place("Chain", "Drivetrain")
	hall.click("Check")
	hall.sees("Score")
	hall.click("Next learner")
	hall.sees("Chain, not placed")
}
