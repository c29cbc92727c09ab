package e2e

import (
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/demo"
)

// A line of the trail leads to the cell that decided it; changed there, the same
// moves are judged again. Any line can be gone back to and played on from.
func TestTheTrailLeadsToTheCell(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	doc.Play.Attempts, doc.Play.WrongPieces = 3, "home"
	ana.openDocument(doc)
	ana.click("Marks") // the line leads away from here
	ana.click("Rehearse")
	ana.place("Bell", "Brakes")
	ana.place("Chain", "Drivetrain")
	ana.sees("Bell is not correct in Brakes: no answer has it there")
	ana.click("Bell is not correct in Brakes: no answer has it there")
	ana.until("the cell in focus", `document.activeElement?.getAttribute('role') === 'grid' && document.querySelector('[aria-selected=true][aria-label^="Bell in Brakes"]') !== null`)
	ana.until("a cell that nothing covers", `(() => {
		const cell = document.getElementById(document.activeElement.getAttribute('aria-activedescendant') ?? '');
		const r = cell?.getBoundingClientRect();
		return r && cell.contains(document.elementFromPoint(r.x + r.width / 2, r.y + r.height / 2)) })()`)
	ana.press(" ")
	ana.sees("Bell is correct in Brakes")
	ana.until("the focus stays in the cell", `document.activeElement?.getAttribute('role') === 'grid'`)
	ana.sees("So far 2 correct, 0 incorrect")
	ana.shot("trail-changed")
	if got := rightIn(ana.document(), 0); !strings.Contains(got, "brakes: pad lever bell") {
		t.Errorf("right: %s", got)
	}
	// The same from the line itself, and back again, without leaving the rehearsal.
	ana.click("Mark as not correct")
	ana.sees("Bell is not correct in Brakes")
	ana.click("Mark as correct")
	ana.sees("So far 2 correct, 0 incorrect")
	// Play goes on from there; then back to after the first move, and on from that.
	ana.place("Pad", "Brakes")
	ana.click("Check")
	ana.sees("Checked: 3 correct, 0 incorrect, 2 still missing")
	ana.click("Back to after move 1")
	ana.until("one move", `document.querySelectorAll('[aria-label="Trail"] li').length === 1`)
	ana.sees("Chain, not placed")
	ana.place("Chain", "Brakes")
	ana.click("Check")
	ana.sees("Checked: 1 correct, 1 incorrect, 4 still missing")
	ana.click("Try again")
	ana.sees("Chain returns to the tray: incorrect pieces do after a failed check")
	ana.click("Chain returns to the tray: incorrect pieces do after a failed check")
	ana.sees("When they try again")
	ana.choose("After a failed check", "stay stay")
	ana.seesNot("Chain returns to the tray: incorrect pieces do")
	ana.sees("Chain, in Brakes")
	// A draft that cannot be played says why, and the rehearsal stays as it was.
	ana.click("Back to the start")
	ana.sees("Every move is listed here")
}

// Playing by itself, the next learner, the seed, the sizes of screens.
func TestRehearsingByItself(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	doc.Play.Shuffle, doc.Play.Attempts = true, 2
	ana.openDocument(doc)
	ana.click("Rehearse")
	for _, c := range [][2]string{{"all correct", "Score 10 of 10 (100%)"}, {"one wrong", "Checked: 3 correct, 1 incorrect, 1 still missing"},
		{"all wrong", "Checked: 0 correct, 5 incorrect, 4 still missing"}, {"random", "Checked: "}} {
		ana.click(c[0])
		ana.sees(c[1])
	}
	ana.until("the next learner's, who plays at random", `!!document.querySelector('[data-seed="2"]')`)
	ana.shot("rehearsed-by-itself")
	tray := `[...document.querySelectorAll('[data-tray] [data-piece]')].map((e) => e.dataset.piece).join(' ')`
	ana.click("Keep the seed")
	ana.click("Restart as new learner")
	// begun waits until the board is set up for a learner with the seed.
	begun := func(seed string) {
		t.Helper()
		ana.until("seed "+seed, `!!document.querySelector('[data-seed="`+seed+`"]') && `+tray+`.split(' ').length === 5`)
	}
	begun("2")
	same := eval[string](ana, tray)
	ana.place("Bell", "Brakes") // so that the next board is another
	ana.click("Restart as new learner")
	begun("2")
	if again := eval[string](ana, tray); again != same {
		t.Errorf("by the same seed %s, then %s", same, again)
	}
	ana.click("Keep the seed")
	seen := map[string]bool{same: true}
	for _, seed := range []string{"3", "4", "5"} {
		ana.click("Restart as new learner")
		begun(seed)
		seen[eval[string](ana, tray)] = true
	}
	if len(seen) < 3 {
		t.Errorf("four learners have the orders %v", seen)
	}
	// On a phone and a tablet it is laid out as there, and pieces can be moved.
	ana.choose("As the learner sees it", "phone")
	ana.until("a phone", `document.querySelector('[data-screen=phone]')?.clientWidth < 362`)
	ana.place("Crank", "Drivetrain")
	ana.shot("rehearsed-phone")
	ana.choose("As the learner sees it", "tablet")
	ana.until("a tablet", `document.querySelector('[data-screen=tablet]')?.clientWidth > 800`)
	ana.place("Pad", "Brakes")
	ana.shot("rehearsed-tablet")
	ana.choose("As the learner sees it", "screen")
	ana.place("Chain", "Drivetrain")
	ana.sees("So far 3 correct")
	ana.press(kb.Escape)
	ana.sees("Drag parts to move them")
}

// The time runs out by itself, and what is said then is said.
func TestTheTimeRunsOut(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	doc.Play.TimeLimit = 2500
	late := activity.NewReply("late", "timeUp")
	late.Say.Text, late.Tone = "Time is up, with {right} right.", "wrong"
	doc.Replies = append(doc.Replies, late)
	ana.openDocument(doc)
	link := ana.release()
	ana.click("Close")
	ana.click("Rehearse")
	ana.sees("0:0")
	ana.place("Chain", "Drivetrain")
	ana.sees("Time is up, with 1 right.")
	ana.sees("Score 2.5 of 10")
	lea := w.person(t)
	lea.begin(link, "Lea")
	lea.sees("Time is up, with 0 right.")
	lea.sees("Score 0 of 10")
}

// A situation met in a rehearsal is kept: for a reply, as a demonstration of what is
// right, as a worked example.
func TestKeepingASituation(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	for _, name := range []string{"Cable", "Hub"} {
		item := doc.Items[0]
		item.ID, item.Name = strings.ToLower(name), name
		doc.Items = append(doc.Items, item)
	}
	doc, _ = edit.RightIn(doc, 0, []edit.Row{{Item: "cable", Targets: []string{"brakes"}}, {Item: "hub", Targets: []string{"drivetrain"}}})
	doc.Play.Attempts = 2
	ana.openDocument(doc)
	ana.click("Rehearse")
	ana.place("Bell", "Brakes")
	ana.place("Chain", "Drivetrain")
	ana.click("Check")
	ana.click("Save as…")
	ana.click("Feedback condition")
	ana.sees("When Bell is in Brakes.")
	ana.click("2 more …")
	ana.until("the keys go on with what is new", `document.activeElement?.textContent === 'it is the first attempt'`)
	ana.click("Create feedback")
	ana.fill("What is said", "Ring elsewhere.")
	ana.sees("When it is checked and Bell is in Brakes.")

	ana.click("Rehearse")
	ana.sees("2 attempts left")
	ana.place("Bell", "Drivetrain")
	ana.click("Save as…")
	ana.click("Answer key")
	ana.sees("Setting the answer key")
	ana.sees("Bell, in Drivetrain")
	ana.click("Save as correct answer")
	ana.sees("1 piece counts as correct")
	ana.click("Done")

	ana.click("Rehearse")
	ana.place("Lever", "Brakes")
	ana.click("Check")
	ana.sees("Checked: 1 correct")
	ana.click("Save as…")
	ana.click("Scoring example")
	ana.sees("Rehearsal 1")
	ana.click("Done")
	ana.until("its score", `document.querySelector('[data-example="Rehearsal 1"]')?.textContent.includes('1 of 7')`)
	ana.shot("example-kept")
	d := ana.document()
	if got := rightIn(d, 0); !strings.Contains(got, "drivetrain: chain crank bell hub") || len(d.Marks.Examples) != 1 || len(d.Marks.Examples[0].Moves) != 2 {
		t.Errorf("%s, examples %+v", got, d.Marks.Examples)
	}
	if !strings.Contains(said(d), "When it is checked and Bell is in Brakes: Ring elsewhere.") {
		t.Errorf("said: %s", said(d))
	}
	ana.click("Delete: Rehearsal 1")
	ana.seesNot("Rehearsal 1")
}

// Play settings: every setting of the document can be set, presets say what they set,
// and the miniature of a chapter follows.
func TestPlaySettings(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(keyed())
	ana.click("Settings for learners")
	ana.sees("When they arrive")
	picture := func(moment string) string {
		return eval[string](ana, `document.querySelector('[data-effect=`+moment+`]').innerHTML`)
	}
	for _, c := range []struct{ field, value, moment string }{
		{"Order of the pieces", "true", "arrive"}, {"Dealing", "one", "arrive"}, {"Time limit", "limit", "arrive"}, {"Coming back", "restart", ""},
		{"Highlighting", "open", "hand"}, {"How exactly it must hit", "overlap", "drop"}, {"Outside all targets", "stay", "drop"},
		{"Undoing", "false", ""}, {"Putting all back", "false", ""}, {"Check is offered", "allPlaced", "check"}, {"When pieces show whether they are correct", "never", "check"},
		{"After a failed check", "home hold", "again"}, {"Starting over", "true", ""}, {"Shown afterwards", "both", "over"}, {"Where Check stands", "board", ""},
	} {
		before := ""
		if c.moment != "" {
			before = picture(c.moment)
		}
		ana.choose(c.field, c.value)
		ana.until(c.field, `document.querySelector('[role=combobox][aria-label=`+js(c.field)+`]').dataset.value === `+js(c.value))
		if c.moment != "" && picture(c.moment) == before {
			t.Errorf("%s does not show in its miniature", c.field)
		}
	}
	ana.fill("Minutes", "2.5")
	ana.fill("Extension", "150")
	ana.fill("Overlap in percent", "75")
	ana.fill("Reach", "12")
	ana.fill("Attempts", "4")
	ana.click("Add a hint")
	ana.until("the hint is being written", `document.activeElement?.getAttribute('aria-label') === 'Hint 1'`)
	ana.types("Look at the ")
	ana.press("b", chromedp.ModifierCtrl)
	ana.types("teeth.")
	ana.press(kb.Escape)
	ana.until("it as learners read it", `document.querySelector('[aria-label="Hint 1: Look at the teeth."] strong')?.textContent === 'teeth.'`)
	ana.click("Add a “place one piece” hint")
	ana.fill("Cost of a hint in percent", "15")
	ana.press(kb.Enter)
	ana.files("Picture of hint 1", drawings(t, "cog")...)
	ana.fill("Alternative text", "A toothed wheel")
	ana.press(kb.Enter)
	ana.until("it is there", `document.querySelector('button[aria-label="Hint 1: Look at the teeth."]').parentElement.querySelector('img')?.naturalWidth > 0`)
	if h := ana.document().Hints[0]; h.Picture == "" || h.Alt != "A toothed wheel" {
		t.Errorf("a hint with a picture: %+v", h)
	}
	ana.shot("hint")
	ana.tabTo("Move hint 2")
	ana.press(" ")
	// That it was taken up is said before arrows are heard; where it is, once they are.
	ana.until("it is over its place", `[...document.querySelectorAll('[aria-live]')].some((e) => e.textContent === 'hint 2: 2 of 2')`)
	ana.press(kb.ArrowUp)
	ana.until("it is over the first", `[...document.querySelectorAll('[aria-live]')].some((e) => e.textContent.includes('1 of 2'))`)
	ana.press(" ")
	ana.until("it is the first", `document.querySelector('button[aria-label="Hint 2: Look at the teeth."]')`)
	ana.press("z", chromedp.ModifierCtrl)
	ana.until("it is as before", `document.querySelector('button[aria-label="Hint 1: Look at the teeth."]')`)
	ana.click("Remove picture")
	ana.shot("play-settings")
	d := ana.document()
	want := activity.Play{Check: "ask", Attempts: 4, WrongPieces: "home", RightPieces: "hold", Show: "never", CheckWhen: "allPlaced", OffTarget: "stay",
		Refusals: "free", Deal: "one", Shuffle: true, TimeLimit: 150000, Extension: 150, Restart: true, Reach: 1200, Review: "both", Reenter: "restart", Beckon: "open"}
	want.Hit.Rule, want.Hit.Overlap = "overlap", 75
	if d.Play != want || d.Marks.HintCost != 15 || len(d.Hints) != 2 || d.Hints[0].Text != "Look at the **teeth.**" || !d.Hints[1].Place || d.Board.Check == nil {
		t.Errorf("%+v\nwant %+v\nhints %+v, Check %v", d.Play, want, d.Hints, d.Board.Check)
	}
	// Check stands on the board, and is moved there.
	at := ana.middle("Check button")
	ana.drag(at, spot{at.X - 80, at.Y - 40})
	ana.saved()
	if moved := ana.document().Board.Check; moved.X >= d.Board.Check.X || moved.Y >= d.Board.Check.Y {
		t.Errorf("Check moved from %v to %v", d.Board.Check, moved)
	}
	ana.choose("Checked", "each")
	ana.choose("Refusals", "count")
	ana.click("assessment")
	ana.sees("Set for assessment: one attempt; checked once everything is placed; results never shown")
	if p := ana.document().Play; p.Attempts != 1 || p.Show != "never" || p.Check != "ask" || p.TimeLimit != 150000 || p.Review != "none" {
		t.Errorf("for assessment: %+v", p)
	}
	ana.click("Undo")
	ana.until("undone", `document.querySelector('[role=combobox][aria-label="Checked"]').dataset.value === 'each'`)

	// Words for learners: this activity's, over the workspace's, over the language's.
	ana.choose("Language", "de")
	ana.click("Customise texts…")
	ana.fill("In the workspace, in place of: Prüfen", "Kontrollieren")
	ana.press(kb.Enter)
	ana.fill("In place of: Abgeben", "Fertig machen")
	ana.press(kb.Enter)
	ana.sees("1 custom text")
	ana.shot("learner-words")
	ana.choose("Checked", "ask")
	ana.click("Rehearse")
	ana.sees("Kontrollieren")
	ana.choose("Checked", "none")
	ana.sees("Fertig machen")
}

// Marks: points of an item and of a cell, how they add up, bands that are dragged,
// and what sittings come to.
func TestTheMarksLens(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	doc.Play.Attempts = 2
	ana.openDocument(doc)
	ana.click("Marks")
	score := func(example, score, how string) {
		t.Helper()
		ana.until(example+" "+score, `(() => { const r = document.querySelector('[data-example=`+example+`]'); return r?.cells[1].textContent === `+js(score)+` && r.cells[3].textContent.includes(`+js(how)+`) })()`)
	}
	score("right", "10", "4 of 4")
	score("oneWrong", "7.5", "3 of 4")
	score("second", "7.5", "4 of 4 × 50% × 10 points = 5; the best attempt counts")
	score("half", "5", "2 of 4")
	score("nothing", "0", "0 of 4")
	ana.fill("Shares of the attempts in percent", "100, 60")
	ana.press(kb.Enter)
	score("second", "7.5", "the best attempt counts")
	ana.choose("Attempt that counts", "last")
	score("second", "6", "4 of 4 × 60%")
	// Three points for the chain, and its place in the brakes costs two.
	ana.click("Chain, points")
	ana.types("3")
	ana.press(kb.Enter)
	ana.click("Chain in 2 Brakes")
	ana.types("-2")
	ana.press(kb.Enter)
	score("oneWrong", "1.67", "1 of 6")
	ana.click("Crank, points")
	ana.types("many")
	ana.press(kb.Enter)
	ana.sees("“many” could not be read")
	ana.choose("Counted by", "whole")
	score("oneWrong", "0", "0 of 1")
	ana.choose("Counted by", "target")
	score("half", "5", "1 of 2")
	ana.sees("Target 1 Drivetrain")
	// Bands: added, named, dragged, moved by key; the pass mark, too.
	ana.click("Band")
	ana.fill("Name of the band from 0%", "Once more")
	ana.press(kb.Enter)
	ana.click("Band")
	ana.fill("Name of the band from 50%", "Ready")
	ana.press(kb.Enter)
	ana.sees("Ready begins at 50%")
	at := ana.middle("Ready begins at 50%")
	ana.drag(at, spot{at.X + 114, at.Y})
	ana.seesNot("50%")
	eval[any](ana, `document.querySelector('[role=slider][aria-label^="Pass mark"]').focus()`)
	for range 4 {
		ana.press(kb.PageUp)
	}
	ana.sees("pass mark 40%")
	ana.until("what is passed", `document.querySelector('[data-example=right]').textContent.includes('passed, Ready') && document.querySelector('[data-example=half]').textContent.includes('passed, Once more')`)
	ana.shot("marks")
	d := ana.document()
	cell := d.Marks.Cells["chain/brakes"]
	if d.Items[0].Weight != 3 || cell.Weight != nil || cell.Penalty == nil || *cell.Penalty != 2 || d.Marks.PassMark != 4000 || d.Marks.Bands[1].From < 6000 {
		t.Errorf("%+v, chain %d", d.Marks, d.Items[0].Weight)
	}
	ana.click("Rehearse: One piece wrong")
	ana.sees("Rehearsing")
	ana.sees("Checked: ")
}

// A question mark that is typed into the ledger is meant for that, also beside a
// rehearsal; on the board it asks where everything is.
func TestAQuestionMarkBesideARehearsal(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(keyed())
	ana.click("Content")
	ana.click("Rehearse")
	ana.sees("Rehearsing")
	ana.click("Bell, text: Bell")
	ana.types("? What")
	ana.until("it is in the cell", `document.activeElement?.tagName === 'INPUT' && document.activeElement.value === '? What'`)
	asked := `document.querySelector('[aria-label="Where everything is"][aria-expanded=true]')`
	if eval[bool](ana, "!!"+asked) {
		t.Error("the board answers what was typed into the ledger")
	}
	ana.press(kb.Enter)
	// The rehearsal is set up again with what was changed, and a piece loses the focus then.
	ana.until("the board has it", `[...document.querySelectorAll('[data-rehearsing] [data-piece]')].some((p) => p.textContent.includes('? What'))`)
	ana.until("a piece has the focus", `(() => { const p = document.querySelector('[data-piece][tabindex="0"]'); p?.focus(); return p && document.activeElement === p })()`)
	ana.press("?")
	ana.until("the board answers", asked)
}

// A game that was asked for begins no more when a new learner has begun meanwhile.
func TestALateGameTakesNoLearnersPlace(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.everyPage(answersLate)
	doc := keyed()
	doc.Play.Shuffle = true
	ana.openDocument(doc)
	ana.click("Rehearse")
	ana.sees("Autoplay")
	eval[any](ana, `window.holds = true`)
	ana.click("all correct")
	ana.until("its answer", `window.held.length > 0`)
	ana.click("Restart as new learner")
	eval[any](ana, `(window.holds = false, window.held.splice(0).forEach((go) => go()))`)
	ana.until("the new learner's board", `!!document.querySelector('[data-seed="2"]') && document.querySelectorAll('[data-tray] [data-piece]').length === 5`)
}

// A rehearsal begins with nothing done, also when the draft changes before its board is there.
func TestARehearsalBeginsAnew(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.everyPage(answersLate)
	doc := keyed()
	doc.Play.Attempts = 2
	ana.openDocument(doc)
	ana.click("Rehearse")
	ana.place("Bell", "Brakes")
	ana.click("Check")
	ana.sees("One attempt left")
	ana.click("Save as…")
	ana.click("Feedback condition")
	ana.click("Create feedback")
	ana.fill("What is said", "Ring")
	ana.saved()
	eval[any](ana, `window.holds = true`)
	ana.types(" elsewhere.")
	ana.until("its text is asked for", `window.held.length > 0`)
	ana.click("Rehearse")
	ana.until("it begins", `!!document.querySelector('[data-rehearsing]')`)
	eval[any](ana, `(window.holds = false, window.held.splice(0).forEach((go) => go()))`)
	ana.sees("2 attempts left")
	ana.sees("Every move is listed here")
}

// Who changes a word that a workspace shares takes none away that another has changed since.
func TestSharedWordsStay(t *testing.T) {
	w := newWorld(t)
	ana, tobi := w.person(t), w.person(t)
	ana.openDocument(keyed())
	ana.click("Settings for learners")
	ana.click("Customise texts…")
	ana.sees("In the workspace, in place of: Check")
	tobi.signIn(demo.Accounts()[1])
	tobi.untilAnswered("his word is kept", `fetch('/api/words/en', {method: 'PUT', headers: {'Content-Type': 'application/json'}, body: '{"words": {"back": "Go back"}}'}).then((r) => r.ok)`)
	ana.fill("In the workspace, in place of: Check", "Have a look")
	ana.press(kb.Enter)
	ana.untilAnswered("both are kept", `fetch('/api/words/en').then((r) => r.json()).then(({words}) => words.back === 'Go back' && words.check === 'Have a look')`)
}
