package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// A match of four, with its key, a reply, marks and the release, by keyboard alone.
func TestAMatchByKeyboardAlone(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	focused := `(() => { const e = document.activeElement; return (e?.getAttribute('aria-label') ?? e?.labels?.[0]?.textContent ?? e?.textContent ?? '').trim() })()`
	// on goes on with Tab until something has the focus.
	on := func(name string) {
		t.Helper()
		for range 90 {
			if eval[bool](ana, `(() => { const e = document.activeElement; return e?.matches('button, input, select, textarea, a, [role=grid]') && `+focused+`.startsWith(`+js(name)+`) })()`) {
				return
			}
			ana.press(kb.Tab)
		}
		ana.shot("failed")
		t.Fatalf("Tab does not come to %s, but to %s", name, eval[string](ana, focused))
	}
	command := func(words string) {
		t.Helper()
		ana.press("k", chromedp.ModifierCtrl)
		ana.until("the finder", `document.activeElement?.matches('[role=dialog] input')`)
		ana.types(words)
		ana.press(kb.Enter)
		ana.until("it is closed", `!document.querySelector('[role=dialog] input[role=combobox], [cmdk-input]')`)
	}
	inGrid := func(name string) {
		t.Helper()
		for range 6 {
			if eval[bool](ana, `document.activeElement?.matches('[role=grid]') && `+focused+`.startsWith(`+js(name)+`)`) {
				return
			}
			ana.press(kb.F6)
		}
		on(name)
	}

	on("New activity")
	ana.press(kb.Enter)
	ana.until("the title in focus", `document.activeElement?.labels?.[0]?.textContent === 'Title'`)
	ana.types("Signs and causes")
	for range 8 {
		if eval[bool](ana, `document.activeElement.textContent.startsWith('Match')`) {
			break
		}
		ana.press(kb.Tab)
	}
	ana.press(kb.Enter)
	ana.sees("Signs and causes")
	ana.sees("4 targets")

	command("content tab")
	inGrid("Content")
	ana.press(kb.Home, chromedp.ModifierCtrl)
	ana.press(kb.Home)
	for _, name := range []string{"Slack chain", "Worn pads", "Dry hub", "Bent rim", "It skips", "It squeals", "It grinds", "It wobbles"} {
		ana.types(name)
		ana.press(kb.Enter)
	}
	ana.saved()

	// The first two are the other way round.
	command("placing tab")
	for range 6 {
		if eval[bool](ana, `!!document.activeElement?.closest('[data-zone=ledger] [role=grid]')`) {
			break
		}
		ana.press(kb.F6)
	}
	on("Answer 1 is correct in")
	ana.press(kb.Backspace)
	ana.types("2")
	ana.press(kb.Enter)
	on("Answer 2 is correct in")
	ana.press(kb.Backspace)
	ana.types("It skips")
	ana.press(kb.Enter)
	ana.sees("1 correct arrangement")
	ana.saved()

	command("feedback tab")
	on("By item")
	ana.press(kb.Enter)
	on("Replies by item")
	ana.press(kb.ArrowRight)
	ana.types("Listen again.")
	ana.press(kb.Enter)
	ana.saved()

	command("marks tab")
	on("Points")
	ana.press("a", chromedp.ModifierCtrl)
	ana.types("8")
	ana.press(kb.Enter)
	ana.saved()

	command("release")
	ana.sees("A release is a frozen copy")
	on("Release")
	ana.press(kb.Enter)
	ana.sees("published")

	doc := ana.document()
	t.Logf("keys and texts: %d", ana.acts)
	if doc.Items[0].Text != "Slack chain" || doc.Targets[3].Name != "It wobbles" || doc.Targets[3].Label.Text != "It wobbles" {
		t.Errorf("names: %q, %q with the label %q", doc.Items[0].Text, doc.Targets[3].Name, doc.Targets[3].Label.Text)
	}
	if got := rightIn(doc, 0); got != "target-1: item-2; target-2: item-1; target-3: item-3; target-4: item-4" {
		t.Errorf("right: %s", got)
	}
	if doc.Marks.Points != 800 {
		t.Errorf("points: %v", doc.Marks.Points)
	}
	said := false
	for _, r := range doc.Replies {
		said = said || r.Say.Text == "Listen again."
	}
	if !said {
		t.Error("no reply was written")
	}
}
