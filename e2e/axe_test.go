package e2e

import (
	"context"
	"fmt"
	"os"
	"sync"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/emulation"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

var axe = sync.OnceValues(func() (string, error) {
	b, err := os.ReadFile("../ui/node_modules/axe-core/axe.min.js")
	return string(b), err
})

// finds is what a rule of axe finds, and where.
type finds struct {
	Rule, Help string
	At         []string
}

// scheme shows pages light or dark.
func (p *person) scheme(how string) {
	p.t.Helper()
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, emulation.SetEmulatedMedia, emulation.SetEmulatedMediaParams{Features: []*emulation.MediaFeature{
			{Name: "prefers-color-scheme", Value: how}, {Name: "prefers-reduced-motion", Value: "reduce"}}})
		return err
	}))
}

// accessible has axe look at what is shown, best practice included, and at its colours
// once more in the dark, where nothing else differs; it says what it finds. A dialog that is
// open has the focus in it.
func (p *person) accessible(view string) {
	p.t.Helper()
	if strayed := eval[string](p, `(() => { const dialogs = [...document.querySelectorAll('[role=dialog], [role=alertdialog]')].filter((d) => !d.closest('[aria-hidden=true]'));
		return dialogs.length === 0 || dialogs.some((d) => d.contains(document.activeElement)) ? '' : dialogs[0].textContent.slice(0, 40) + ': ' + document.activeElement.outerHTML.slice(0, 80) })()`); strayed != "" {
		p.t.Errorf("%s: the focus is not in the dialog: %s", view, strayed)
	}
	script, err := axe()
	if err != nil {
		p.t.Fatal(err)
	}
	for scheme, rules := range map[string]string{
		"light": `['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice']`,
		"dark":  `{type: 'rule', values: ['color-contrast']}`,
	} {
		p.scheme(scheme)
		if !eval[bool](p, `!!window.axe`) {
			eval[any](p, script+"; undefined")
		}
		found := eval[[]finds](p, `(async () => {
			await document.fonts.ready;
			const r = await axe.run(document, {runOnly: `+rules+`, resultTypes: ['violations']});
			return r.violations.map((v) => ({Rule: v.id, Help: v.help, At: v.nodes.slice(0, 4).map((n) => n.html.slice(0, 160) + (n.any[0]?.data?.contrastRatio ? ' ' + n.any[0].data.contrastRatio : ''))}));
		})()`)
		for _, f := range found {
			p.t.Errorf("%s, %s: %s: %s\n\t%q", view, scheme, f.Rule, f.Help, f.At)
		}
		p.t.Logf("axe: %s, %s: %d", view, scheme, len(found))
	}
	p.scheme("light")
}

// axe finds nothing on any view of designers, in both colour schemes, wide and narrow.
func TestDesignersViewsAreAccessible(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.open("/")
	ana.sees("Sign in")
	ana.accessible("sign in")
	ana.signIn(demo.Accounts()[0])
	ana.sees("Parts drawers")
	for _, wide := range []int64{1280, 768} {
		ana.do(chromedp.EmulateViewport(wide, 800))
		at := func(view string) {
			t.Helper()
			ana.accessible(fmt.Sprint(view, " ", wide))
		}
		ana.open("/")
		ana.sees("Parts drawers")
		at("shelf")
		ana.click("New activity")
		ana.until("the dialog or menu", `document.querySelector('[role=dialog], [role=menu]')`)
		at("new activity")
		ana.press(kb.Escape)
		ana.open("/")
		ana.click("Parts drawers")
		ana.sees("2 correct arrangements")
		at("placing")
		ana.click("Content")
		ana.sees("Inner cable, Tags: ")
		at("content")
		ana.click("Feedback")
		ana.click("All feedback")
		ana.click("Some of it is correct and an attempt is left")
		ana.sees("also show later matches")
		at("replies")
		ana.click("By item")
		at("replies by item")
		ana.click("Marks")
		ana.sees("All correct at the second attempt")
		at("marks")
		ana.click("Settings for learners")
		ana.sees("They can ask for 2 hints")
		at("play settings")
		ana.click("Placing")
		ana.click("Target 1 Drivetrain")
		if !eval[bool](ana, `document.body.innerText.includes('Piece layout')`) {
			ana.click("Details")
		}
		ana.sees("Piece layout")
		at("details")
		ana.press(kb.Escape)
		ana.click("Rehearse")
		ana.sees("Rehearsing")
		ana.click("all wrong")
		at("rehearsing")
		ana.click("Done")
		ana.click("Proof: what is known")
		ana.sees("Show me one")
		at("proof")
		ana.click("Close the proof")
		ana.click("Demonstrate")
		ana.sees("Start from the current answer key")
		at("demonstrating")
		ana.click("Done")
		ana.click("Release…")
		ana.sees("A release is a frozen copy")
		at("release")
		ana.press(kb.Escape)
		ana.open(eval[string](ana, `location.pathname`) + "/releases")
		ana.until("the page", `location.pathname.endsWith('/releases')`)
		ana.until("its title", `document.querySelector('h1')`)
		at("releases")
		ana.open("/")
		ana.click("Volunteer induction")
		ana.sees("It is worth")
		at("series")
		ana.open("/learners")
		ana.sees("Learner data")
		at("learners")
	}
}

// axe finds nothing on the pages of learners, at three widths.
func TestLearnersViewsAreAccessible(t *testing.T) {
	w := newWorld(t)
	for _, size := range screens {
		lea := w.person(t)
		lea.do(chromedp.EmulateViewport(size[0], size[1]))
		at := func(view string) {
			t.Helper()
			lea.accessible(fmt.Sprint(view, " ", size[0]))
		}
		lea.opens("Know your bicycle")
		at("start")
		lea.tries("Know your bicycle")
		at("board")
		lea.click("Chain, ")
		at("in hand")
		lea.click("Spot 11, ")
		lea.until("a card", `document.querySelector('[role=dialog]')`)
		at("card")
		lea.press(kb.Escape)
		lea.click("List view")
		lea.sees("then press Move")
		at("list")
		lea.tries("Safety note")
		lea.click("Check")
		lea.until("what is said", `document.querySelector('[data-reply], [data-outcome]')`)
		at("checked")
		lea.click("Where everything is")
		at("where everything is")
	}
}

// axe finds nothing in any dialog of the workbench either, nor in those of the pages around
// it, wide and narrow.
func TestDialogsAreAccessible(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	dialog := `document.querySelector('[role=dialog]')`
	for _, wide := range []int64{1280, 390} {
		ana.do(chromedp.EmulateViewport(wide, 800))
		at := func(view string) {
			t.Helper()
			ana.until(view, dialog)
			ana.accessible(fmt.Sprint(view, " ", wide))
			ana.press(kb.Escape)
			ana.until("it is closed", `!`+dialog)
		}
		ana.open("/")
		ana.click("Parts drawers")
		ana.until("the board", `document.querySelector('[data-part]')`)
		for _, entry := range []string{"Comments", "Version history", "Import or export a table", "Replace content", "Media", "Board theme", "Rename tags", "Preview links"} {
			ana.click("Activity")
			ana.click(entry)
			at(entry)
		}
		ana.command("answer key by tag")
		at("answer key by tag")
		ana.press("k", chromedp.ModifierCtrl)
		at("find")
		ana.press(kb.F1)
		at("keys")
		ana.open("/")
		ana.click("New sorting activity from a table")
		at("from a table")
		ana.open("/")
		ana.click("Volunteer induction")
		ana.click("Add activities")
		at("add activities")
	}
}

// No page of designers has to be scrolled sideways on a phone: what is wider scrolls by itself.
func TestDesignersPagesFitAPhone(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.do(chromedp.EmulateViewport(360, 740))
	fits := func(view string) {
		t.Helper()
		ana.until(view, `document.querySelector('h1')`)
		if wide := eval[string](ana, `[...document.querySelectorAll('body *')].filter((e) => {
			const r = e.getBoundingClientRect();
			if (r.width === 0 || r.right <= innerWidth + 1 || getComputedStyle(e).position === 'fixed') return false;
			for (let up = e.parentElement; up; up = up.parentElement) if (getComputedStyle(up).overflowX !== 'visible' && up.getBoundingClientRect().right <= innerWidth + 1 && up !== document.body && up.id !== 'root') return false;
			return true;
		}).slice(0, 3).map((e) => e.tagName + ' ' + (e.getAttribute('aria-label') ?? e.textContent).slice(0, 40)).join('; ')`); wide != "" {
			t.Errorf("%s is wider than a phone: %s", view, wide)
		}
	}
	for _, path := range []string{"/", "/learners", "/people", "/platforms", "/account"} {
		ana.open(path)
		fits(path)
	}
	ana.open("/")
	ana.click("Volunteer induction")
	ana.sees("Running order")
	fits("a series")
	ana.open("/")
	ana.click("Parts drawers")
	ana.sees("2 correct arrangements")
	fits("the workbench")
	if wide := eval[float64](ana, `document.querySelector('main').scrollWidth - document.querySelector('main').clientWidth`); wide > 0 {
		t.Errorf("the workbench goes %v px beyond its edge", wide)
	}
	// What is opened below the board is shown.
	inView := func(what string) string {
		return `(() => { const r = ` + what + `?.getBoundingClientRect(); const m = document.querySelector('main').getBoundingClientRect(); return r && r.height > 0 && r.top >= m.top - 1 && r.top < m.bottom - 60 })()`
	}
	ana.click("Settings")
	ana.until("the settings are in view", inView(`document.querySelector('[role=tabpanel][data-state=active]')`))
	ana.wheel("the board again", `document.querySelector('main')`, -2000)
	ana.click("Details")
	ana.until("the details are in view", inView(`document.querySelector('[aria-label="Details of the selection"]')`))
	ana.click("Close the details")
	for _, lens := range []string{"Content", "Feedback", "Marks", "Settings"} {
		ana.click(lens)
		fits(lens)
	}
	// The board stays where it is while the trail under it goes on.
	ana.click("Placing")
	ana.click("Rehearse")
	ana.until("the pieces", find(piece("Chain")))
	const rehearsed = `document.querySelector('[data-rehearsing]')`
	for _, name := range []string{"Chain", "Bell"} {
		ana.click(piece(name))
		ana.click("Drivetrain, ")
		ana.until("its line", `document.querySelector('section[aria-label=Trail]').textContent.includes('`+name+` is put into Drivetrain')`)
	}
	if !eval[bool](ana, inView(`[...document.querySelectorAll('[data-target]')][0]`)) {
		t.Errorf("the board went out of view: it begins at %v", eval[float64](ana, rehearsed+`.getBoundingClientRect().top`))
	}
	ana.open(eval[string](ana, `location.pathname`) + "/releases")
	ana.sees("Releases and sittings")
	fits("releases")
}
