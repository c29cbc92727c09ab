package e2e

import (
	"context"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/network"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// block makes addresses fail, as those of an earlier version do; none ends it.
func (p *person) block(patterns ...string) {
	p.t.Helper()
	list := []*network.BlockPattern{}
	for _, pattern := range patterns {
		list = append(list, &network.BlockPattern{URLPattern: p.w.url + pattern, Block: true})
	}
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		if _, err := cdp.Call(ctx, t, network.Enable, network.EnableParams{}); err != nil {
			return err
		}
		_, err := cdp.Call(ctx, t, network.SetBlockedURLs, network.SetBlockedURLsParams{URLPatterns: list})
		return err
	}))
}

// In a new activity of each kind every lens shows something.
func TestEveryLensOfANewActivity(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	for _, kind := range []string{"Sort", "Match", "Sequence", "Label", "Gap text", "Build"} {
		ana.click("New activity")
		ana.fill("Title", "A new "+kind)
		ana.click(kind)
		ana.sees("Proof")
		for _, with := range []string{"nothing in it", "an item"} {
			for _, lens := range []string{"Content", "Feedback", "Marks", "Settings for learners", "Placing"} {
				ana.click(lens)
				ana.until(kind+" with "+with+": "+lens, `document.querySelector('[data-zone=ledger] [role=tabpanel][data-state=active]')?.innerText.length > 20`)
				if lens == "Marks" {
					ana.sees("Nothing placed") // the last of the worked examples
				}
				ana.seesNot("stopped working")
			}
			ana.press("k", chromedp.ModifierCtrl)
			ana.press("add an item")
			ana.press(kb.Enter)
			ana.saved()
		}
		ana.click("Shelf /")
	}
}

// A part of the page that the server no longer has asks to reload and loses nothing; so
// does an engine that cannot be fetched. One that fails is started again.
func TestPartsOfThePageThatAreGone(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.everyPage(`window.engines = []; window.Worker = class extends Worker { constructor(...a) { super(...a); engines.push(this) } }`)
	ana.openSort("Small parts")
	ana.saved()

	ana.block("/assets/Releases-*")
	ana.click("Releases and sittings")
	ana.sees("A part of this page could not be loaded")
	ana.shot("part-gone")
	ana.block()
	ana.click("Reload")
	ana.sees("Nothing is released yet")
	eval[any](ana, `history.back()`)
	ana.sees("correct arrangement")

	// A worker that fails is told of, and the next act finds another.
	ana.until("a worker", `engines.length > 0`)
	eval[any](ana, `engines[0].postMessage({module: 5})`)
	ana.click("Content")
	ana.click("Bell, Name: ")
	ana.press("d", chromedp.ModifierCtrl)
	ana.press(kb.Delete)
	ana.sees("4 items")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees("5 items")
	ana.saved()

	ana.block("/assets/engine-*", "/assets/worker-*")
	ana.reload()
	ana.sees("The engine could not be loaded")
	ana.shot("engine-gone")
	ana.block()
	ana.reload()
	ana.sees("correct arrangements")
	ana.seesNot("The engine could not be loaded")
}

// Who is signed out signs in again over what is open, and goes on.
func TestSigningInAgainInPlace(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	ana.saved()
	eval[any](ana, `fetch('/api/session', {method: 'DELETE'})`)
	ana.click("Content")
	ana.click("Bell, Name: ")
	ana.press("H")
	ana.press("i")
	ana.press(kb.Enter)
	ana.sees("Sign in again")
	ana.until("the password has the focus", `document.activeElement?.id === 'password'`)
	ana.accessible("sign in again")
	ana.shot("sign-in-again")
	ana.fill("Password", demo.Accounts()[0].Password)
	ana.press(kb.Enter)
	ana.seesNot("Sign in again")
	ana.saved()
	if doc := ana.document(); doc.Item("bell").Name != "Hi" {
		t.Errorf("%q was saved", doc.Item("bell").Name)
	}
}

// A dialog begins in its first field and gives the focus back to what it had it from.
func TestDialogsAndTheFocus(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.holdable()
	ana.signIn(demo.Accounts()[0])
	focus := func(what, label string) {
		t.Helper()
		ana.until(what, `(document.activeElement?.labels?.[0]?.textContent ?? document.activeElement?.ariaLabel ?? document.activeElement?.textContent ?? '').includes(`+js(label)+`)`)
	}
	ana.click("New activity")
	focus("the title", "Title")
	ana.press("M")
	ana.press(" ")
	ana.press("x")
	ana.press(kb.Escape)
	focus("what opened it", "New activity")

	ana.click("Parts drawers")
	ana.sees("correct arrangements")
	ana.click("Activity")
	ana.click("Media")
	focus("the field", "Find in Media")
	ana.press(kb.Escape)
	focus("the menu's button", "Activity")
	// From the finder back to the cell.
	ana.click("Content")
	ana.click("Chain, Name: ")
	ana.press("k", chromedp.ModifierCtrl)
	ana.press("release")
	ana.until("it comes first", `document.querySelector('[cmdk-item][aria-selected=true]')?.textContent.startsWith('Release…')`)
	for _, word := range []string{"copy", "pair", "delete", "rehearse"} {
		ana.press("a", chromedp.ModifierCtrl)
		ana.press(word)
		ana.until(word+" comes first", `document.querySelector('[cmdk-item]')?.textContent.toLowerCase().startsWith(`+js(word)+`)`)
	}
	ana.press(kb.Escape)
	focus("the grid", "Content: items and targets")
	ana.press("k", chromedp.ModifierCtrl)
	ana.press("table")
	ana.until("it comes first", `document.querySelector("[cmdk-item][aria-selected=true]")?.textContent.startsWith("Table: ")`)
	ana.press(kb.Enter)
	ana.sees("Table")
	ana.press(kb.Escape)
	focus("the grid again", "Content: items and targets")

	// What is under way can't be left before it is done, and the keys go on with what came of it.
	ana.click("Release…")
	focus("what it is for", "Release")
	ana.held("POST .*/releases$", func() { ana.press(kb.Enter) }, func() {
		ana.press(kb.Escape)
		ana.sees("A release is a frozen copy")
		ana.until("nothing in it can be used", `[...document.querySelectorAll('[role=dialog] :is(button, input)')].every((e) => e.matches(':disabled'))`)
	})
	focus("the link", "Link for learners")
}
