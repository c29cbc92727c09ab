package e2e

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// losesAnswers makes the page lose what the server answers to saves, as often as
// window.lose says: the server has done what was asked.
func (p *person) losesAnswers() {
	p.t.Helper()
	p.everyPage(`window.lose = 0; const real = fetch; window.fetch = async (...a) => { const put = a[0].method === 'PUT'; if (put && window.deny) throw new TypeError('denied'); const answer = await real(...a);
				if (put && window.lose > 0) { window.lose--; throw new TypeError('lost') } return answer }`)
}

// A save whose answer was lost is no conflict with oneself: for an activity and for a
// series, on the page and after a reload.
func TestALostAnswerIsNoConflict(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.losesAnswers()
	ana.openSort("Small parts")
	ana.saved()
	add := func() {
		ana.press("k", chromedp.ModifierCtrl)
		ana.press("add an item")
		ana.press(kb.Enter)
	}
	eval[any](ana, `window.lose = 2`)
	add()
	ana.until("it was lost twice", `window.lose === 0`)
	ana.saved()
	add()
	ana.saved()
	eval[any](ana, `window.lose = 100`)
	add()
	ana.until("it was lost", `window.lose < 100`)
	ana.until("it says so", `document.querySelector('header [role=status]').textContent.startsWith('Not saved')`)
	ana.reload()
	ana.saved()
	ana.seesNot("Someone else saved a newer version")
	if doc := ana.document(); len(doc.Items) != 8 {
		t.Errorf("%d items were saved", len(doc.Items))
	}

	ana.click("Shelf /")
	ana.click("Volunteer induction")
	ana.sees("Running order")
	eval[any](ana, `window.lose = 100`)
	ana.fill("Title", "Induction")
	ana.press(kb.Enter)
	ana.until("it was lost", `window.lose < 100`)
	ana.fill("Title", "First day")
	ana.press(kb.Enter)
	ana.until("it was lost again", `window.lose < 99`)
	ana.reload()
	ana.until("the title is kept", `document.querySelector('[aria-label="Title"]')?.value === 'First day'`)
	ana.saved()
	ana.seesNot("Someone else saved a newer version")
}

// What could not be saved when its view was left is there when one comes back to it.
func TestComingBackToUnsavedWork(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.losesAnswers()
	ana.openSort("Small parts")
	ana.saved()
	eval[any](ana, `window.deny = true`)
	ana.press("k", chromedp.ModifierCtrl)
	ana.press("add an item")
	ana.press(kb.Enter)
	ana.sees("saving is tried again")
	ana.shot("not-saved")
	ana.click("Shelf /")
	ana.sees("New activity")
	eval[any](ana, `window.deny = false`)
	ana.click("Small parts")
	ana.sees("6 items")
	ana.saved()
	if doc := ana.document(); len(doc.Items) != 6 {
		t.Errorf("%d items were saved", len(doc.Items))
	}
}

// Two who change a series are asked which to go on with, as for an activity.
func TestTwoChangeASeries(t *testing.T) {
	w := newWorld(t)
	ana, tobi := w.person(t), w.person(t)
	ana.signIn(demo.Accounts()[0])
	tobi.signIn(demo.Accounts()[1])
	for _, p := range []*person{ana, tobi} {
		p.click("Volunteer induction")
		p.sees("Running order")
	}
	ana.fill("Title", "Induction, by Ana")
	ana.press(kb.Enter)
	ana.saved()
	tobi.fill("Title", "Induction, by Tobi")
	tobi.press(kb.Enter)
	tobi.sees("Someone else saved a newer version")
	tobi.accessible("a conflict")
	tobi.click("Continue with mine")
	tobi.seesNot("Someone else saved a newer version")
	tobi.saved()
	tobi.click("Shelf /")
	tobi.sees("Induction, by Tobi")
	tobi.sees("Induction, by Ana (Ana")
}

// Two pages of one person keep each what is theirs, and a browser that keeps nothing
// stops nothing.
func TestStorageOfTwoPages(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.everyPage(`if (sessionStorage.full) Storage.prototype.setItem = () => { throw new DOMException('full', 'QuotaExceededError') }`)
	ana.openSort("Small parts")
	ana.saved()
	// Another page of hers has work that could not be saved.
	eval[any](ana, `(() => { const id = location.pathname.split('/')[2]; navigator.locks.request('magpie-page-other', () => new Promise(() => {}));
		localStorage.setItem('magpie-unsaved ana@cobblelane.example activity ' + id + ' other', JSON.stringify({doc: {title: 'x'}, revision: 1, at: Date.now(), sent: []}));
		localStorage.setItem('magpie-unsaved tobi@cobblelane.example activity ' + id + ' gone', JSON.stringify({doc: {title: 'y'}, revision: 1, at: Date.now(), sent: []})) })()`)
	ana.click("Content")
	ana.click("Bell, Name: ")
	ana.press("H")
	ana.press(kb.Enter)
	ana.saved()
	if kept := eval[int](ana, `Object.keys(localStorage).filter((k) => k.startsWith('magpie-unsaved')).length`); kept != 2 {
		t.Errorf("%d pages have unsaved work kept", kept)
	}
	eval[any](ana, `Object.keys(localStorage).filter((k) => k.startsWith('magpie-unsaved')).forEach((k) => localStorage.removeItem(k)); sessionStorage.full = 1`)
	ana.reload()
	ana.click("H, Name: ")
	ana.press("B")
	ana.press(kb.Enter)
	ana.saved()
	if doc := ana.document(); doc.Item("bell").Name != "B" || doc.Title != "Small parts" {
		t.Errorf("%q of %q was saved", doc.Item("bell").Name, doc.Title)
	}
}

// A network that answers in the server's place (a page to sign in to, a refusal of its
// own, half an answer) takes no move away: it is sent until our server has answered.
func TestMovesOutliveOtherNetworks(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	link := ana.release()
	lea := w.person(t)
	lea.everyPage(`window.strange = []; const real = fetch; window.fetch = (...a) => {
				const with_ = String(a[0]).includes('/moves') && window.strange.shift();
				return with_ ? Promise.resolve(new Response(with_.body, {status: with_.status, headers: {'Content-Type': with_.type}})) : real(...a) }`)
	lea.begin(link, "Lea")
	eval[any](lea, `window.strange = [{status: 200, type: 'text/html', body: '<h1>Sign in to this network</h1>'}, {status: 404, type: 'text/html', body: 'no'},
		{status: 403, type: 'application/json', body: '{}'}, {status: 200, type: 'application/json', body: '{"n":'}]`)
	lea.place("Chain", "Drivetrain")
	lea.until("all strange answers were given", `window.strange.length === 0`)
	lea.until("it was taken", `Object.keys(localStorage).every((k) => !k.startsWith('magpie-moves'))`)
	lea.seesNot("No connection")
	lea.sees(piece("Chain") + "in Drivetrain")
	lea.reload()
	lea.sees(piece("Chain") + "in Drivetrain")
}

// Of two quick changes none undoes the other, and names that were pasted into a new roster
// are in it when one is done.
func TestQuickChangesOfARoster(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.holdable()
	ana.openSort("Small parts")
	ana.release()
	ana.click("View sittings")
	ana.click("Access settings…")
	ana.choose("Who may begin", "new")
	ana.fill("Name of the roster", "New roster")
	ana.press(kb.Tab) // what is taken on leaving a field does not stop whoever leaves it
	ana.until("the keys go on to the names", `document.activeElement.id === 'roster-names'`)
	ana.fill("Names to add", "Lea Brandt\nTom Ek\nIda Moe")
	ana.click("Done")
	ana.click("Edit roster")
	field := func(name string) string {
		return `[...document.querySelectorAll('[aria-label^="Name of learner"]')].find((e) => e.value === ` + js(name) + `)`
	}
	// Names are added, and the first of them is changed before the list of rosters is there again.
	ana.until("the names", field("Ida Moe"))
	file := filepath.Join(t.TempDir(), "names.txt")
	if err := os.WriteFile(file, []byte("Ben Lund\n"), 0o600); err != nil {
		t.Fatal(err)
	}
	ana.fill("Names to add", "Kim Reed")
	ana.upload("A file of names", file) // takes nothing away that was typed
	ana.held("GET /api/rosters$", func() { ana.click("Add 2 learners") }, func() {
		ana.until("the name", field("Ben Lund"))
		ana.fill("Time of Ben Lund in percent", "150")
	})
	ana.until("all is added", `document.getElementById('roster-names').value === ''`)
	ana.until("the keys are where they were", `document.activeElement === `+find("Time of Ben Lund in percent"))
	ana.press(kb.Enter)
	kept := func(what, list string) {
		t.Helper()
		ana.untilAnswered(what, `fetch('/api/rosters').then((r) => r.json()).then((l) => fetch('/api/rosters/' + l.rosters.find((x) => x.name === 'New roster').id)).then((r) => r.json()).then((r) => r.learners.map((l) => l.name + ' ' + l.timePercent).join() === `+js(list)+`)`)
	}
	kept("the time is kept", "Ben Lund 150,Ida Moe 100,Kim Reed 100,Lea Brandt 100,Tom Ek 100")
	ana.accessible("roster")
	// Three changes, each made before the one before was answered.
	for _, change := range [][2]string{{"Ida Moe", "Ida Moor"}, {"Lea Brandt", "Lea Brand"}, {"Tom Ek", "Tom Eks"}} {
		name := change[1]
		eval[any](ana, `(() => { const e = `+field(change[0])+`; e.focus(); e.select() })()`)
		ana.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
			_, err := cdp.Call(ctx, t, input.InsertText, input.InsertTextParams{Text: name})
			return err
		}))
		ana.press(kb.Enter)
	}
	ana.click("Done")
	kept("all three are kept", "Ben Lund 150,Ida Moor 100,Kim Reed 100,Lea Brand 100,Tom Eks 100")
	ana.fill("Sittings of each learner", "3")
	ana.press(kb.Enter)
	ana.fill("Sittings in all", "9")
	ana.press(kb.Enter)
	ana.untilAnswered("both are kept", `fetch('/api/activities/' + location.pathname.split('/')[2] + '/releases').then((r) => r.json()).then((l) => l.releases[0].entry.most === 9 && l.releases[0].entry.mostEach === 3)`)
}
