package e2e

import (
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// A text is written as it will look, by keys and by its toolbar, and stands in the
// document in the plainest signs.
func TestATextIsWrittenAsItLooks(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	doc.Instructions = "Read [[the note]] *first*."
	ana.openDocument(doc)
	says := func(want string) {
		t.Helper()
		var got string
		// The core writes the text first, and it is saved a moment after it was typed.
		for end := time.Now().Add(20 * time.Second); time.Now().Before(end); time.Sleep(50 * time.Millisecond) {
			ana.saved()
			if got = ana.document().Instructions; got == want {
				return
			}
		}
		t.Errorf("the instructions are %q, want %q", got, want)
	}
	before := ana.document().Instructions
	ana.click("Instructions")
	ana.until("the editor", `document.activeElement?.isContentEditable`)
	// What no button here makes is kept all the same.
	ana.press(kb.End, chromedp.ModifierCtrl)
	ana.types(" Now.")
	says("Read [[the note]] *first*. Now.")
	ana.press("a", chromedp.ModifierCtrl)
	ana.types("Sort the ")
	ana.press("b", chromedp.ModifierCtrl)
	ana.types("parts")
	ana.until("bold is on", find("Bold (Ctrl+B)")+`.ariaPressed === 'true'`)
	ana.press("b", chromedp.ModifierCtrl)
	ana.types(".")
	ana.press(kb.Enter)
	ana.click("List")
	ana.types("chain_link")
	ana.press(kb.Enter)
	ana.types("2 * pads")
	ana.until("it looks like it", `document.querySelector('.rich strong')?.innerText === 'parts' && document.querySelectorAll('.rich li').length === 2`)
	ana.shot("rich")
	says("Sort the **parts**.\n\n- chain_link\n- 2 * pads")
	ana.press(kb.Enter)
	ana.click("Link")
	ana.until("the field for it", `document.activeElement?.ariaLabel === 'Address of the link'`)
	ana.press("a", chromedp.ModifierCtrl)
	ana.types("javascript:alert(1)")
	ana.press(kb.Enter)
	ana.sees("An address begins with https:// or mailto:")
	ana.press("a", chromedp.ModifierCtrl)
	ana.types("https://example.org/pads")
	ana.press(kb.Enter)
	says("Sort the **parts**.\n\n- chain_link\n- 2 * pads\n- [https://example.org/pads](https://example.org/pads)")
	// Undo within the text takes back what was written there.
	ana.until("the text again", `document.activeElement?.isContentEditable`)
	ana.press("z", chromedp.ModifierCtrl)
	ana.until("without the link", `!document.querySelector('.rich a')`)
	ana.press(kb.Escape)
	ana.until("it is read again", `document.querySelector('[aria-label^="Instructions: Sort the parts"] strong')`)
	ana.saved()
	if got := ana.document().Instructions; !strings.HasPrefix(got, "Sort the **parts**.\n\n- chain_link\n- 2 * pads") || strings.Contains(got, "](") {
		t.Errorf("after undo within the text: %q", got)
	}
	// What is copied from elsewhere means what it means in the document, and no more.
	ana.click("Instructions")
	ana.until("the editor", `document.activeElement?.isContentEditable`)
	ana.paste("**Now** [not](javascript:alert(1))\n\n1. one")
	says("**Now** [not](javascript:alert(1))\n\n1. one")
	ana.press(kb.Escape)
	for range 12 {
		if ana.document().Instructions == before {
			return
		}
		ana.click("Undo")
		ana.saved()
	}
	t.Errorf("undone: %q, was %q", ana.document().Instructions, before)
}

// What is pasted stands where it was pasted, and is kept, however soon something else is typed
// or the text is left.
func TestAPasteOutlivesItsText(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.everyPage(answersLate)
	ana.signIn(demo.Accounts()[0])
	ana.click("New series")
	ana.click("Add a page")
	ana.fill("Title of the page", "Before")
	ana.click("Text")
	ana.until("the editor", `document.activeElement?.isContentEditable`)
	hold := func(on bool) {
		t.Helper()
		eval[any](ana, `window.holds = `+js(on)+`; if (!window.holds) window.held.splice(0).forEach((go) => go())`)
	}
	says := func(want string) {
		t.Helper()
		ana.until("the text of the page", `[...document.querySelectorAll('.rich')].some((e) => e.innerText.trim() === `+js(want)+`)`)
	}
	ana.types("Read: ")
	hold(true)
	ana.paste("**all** of it")
	ana.types(" first")
	hold(false)
	says("Read: all of it first")
	ana.types("!") // the caret is where it was
	says("Read: all of it first!")
	hold(true)
	ana.paste(" **Then** go on.")
	ana.click("Add a page")
	ana.until("another page", find("Title of the page")+`.value === ''`)
	hold(false)
	ana.fill("Title of the page", "After")
	ana.sees("After")
	pages := func() (texts []string) {
		for _, step := range ana.series().Steps {
			if step.Page != nil {
				texts = append(texts, step.Page.Text)
			}
		}
		return texts
	}
	if got := strings.Join(pages(), " | "); got != "Read: **all** of it first! **Then** go on. | " {
		t.Errorf("the pages say %q", got)
	}
}
