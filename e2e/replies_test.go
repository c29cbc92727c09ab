package e2e

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/core/proof"
	"keenmagpie/core/say"
)

// keyed is an arranged sort with its key: Chain and Crank in Drivetrain, Pad and
// Lever in Brakes, Bell nowhere. It says nothing, and has one attempt.
func keyed() *activity.Doc {
	doc := arranged("sort", ": Chain, Crank, Pad, Lever, Bell", "Drivetrain", "Brakes")
	doc, _ = edit.RightIn(doc, 0, []edit.Row{{Item: "chain", Targets: []string{"drivetrain"}}, {Item: "crank", Targets: []string{"drivetrain"}},
		{Item: "pad", Targets: []string{"brakes"}}, {Item: "lever", Targets: []string{"brakes"}}})
	doc.Replies = nil
	doc.Play.Attempts, doc.Play.WrongPieces, doc.Play.RightPieces, doc.Play.Shuffle = 1, "stay", "stay", false
	return doc
}

// types writes a text where the focus is; it is no act of its own.
func (p *person) types(text string) {
	p.t.Helper()
	kept.heard(text)
	p.do(chromedp.KeyEvent(text[:1]))
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		_, err := cdp.Call(ctx, t, input.InsertText, input.InsertTextParams{Text: text[1:]})
		return err
	}))
}

// said lists what a document says, and when.
func said(d *activity.Doc) string {
	var out []string
	for i := range d.Replies {
		r := &d.Replies[i]
		out = append(out, say.When(d, r).Message+": "+r.Say.Text)
	}
	return strings.Join(out, "\n")
}

// TestActsToTell counts what it takes, from an arranged and keyed activity, besides
// the texts.
func TestActsToTell(t *testing.T) { actsToTell(t, false) }

func TestActsToTellByKeyboard(t *testing.T) { actsToTell(t, true) }

func actsToTell(t *testing.T, keys bool) {
	w := newWorld(t)
	count := func(name string, most int, set func(ana *person)) *activity.Doc {
		ana := w.person(t)
		ana.openDocument(keyed())
		ana.sees("1 correct arrangement")
		ana.keys = keys
		ana.acts = 0
		set(ana)
		t.Logf("acts: %s: %d (aim: at most %d)", name, ana.acts, most)
		if ana.acts > most {
			t.Errorf("%s takes %d acts, more than %d", name, ana.acts, most)
		}
		return ana.document()
	}
	doc := count("own reply for each of five wrong pieces, three attempts, out of attempts", 10, func(ana *person) {
		ana.click("Settings for learners")
		ana.fill("Attempts", "3")
		ana.click("Feedback")
		ana.click("Add default feedback")
		ana.click("By item")
		ana.click("Chain, when wrong")
		for i, text := range []string{"A chain drives.", "A crank turns.", "A pad rubs.", "A lever pulls.", "A bell rings."} {
			ana.types(text)
			acts := ana.acts
			ana.press(kb.Enter) // the end of the text
			ana.acts = acts
			ana.sees([]string{"Chain", "Crank", "Pad", "Lever", "Bell"}[i] + ", when wrong: " + text)
		}
	})
	got := said(doc)
	for _, want := range []string{"When it is checked and Chain is wrong: A chain drives.", "When it is checked and Bell is wrong: A bell rings.",
		"When it is checked and some of it is correct and no attempt is left: That was the last attempt. {right} of {total} are where they belong."} {
		if !strings.Contains(got, want) {
			t.Errorf("nothing says %q in\n%s", want, got)
		}
	}
	if doc.Play.Attempts != 3 || len(doc.Replies) != 11 {
		t.Errorf("%d attempts, %d replies", doc.Play.Attempts, len(doc.Replies))
	}
	for _, c := range proof.New(t.Context(), doc).Cover().Replies {
		if !c.Given {
			t.Errorf("%s never comes: %s is in its way", c.ID, c.Shadowed)
		}
	}
	doc = count("four replies for two targets right, either right, neither", 16, func(ana *person) {
		ana.click("Feedback")
		ana.click("One per combination of 2 targets")
		ana.sees("Drivetrain is not correct and Brakes is correct")
	})
	if got := said(doc); len(doc.Replies) != 4 || !strings.HasPrefix(got, "When it is checked and Drivetrain is correct and Brakes is correct: ") {
		t.Errorf("four replies:\n%s", got)
	}
	doc = count("only wrong pieces return, correct ones held, two attempts", 3, func(ana *person) {
		ana.click("Settings for learners")
		ana.choose("After a failed check", "home hold")
		ana.fill("Attempts", "2")
		ana.do(chromedp.KeyEvent(kb.Enter)) // the end of the number
		ana.saved()
	})
	if p := doc.Play; p.WrongPieces != "home" || p.RightPieces != "hold" || p.Attempts != 2 {
		t.Errorf("%+v", p)
	}
	doc = count("the answer afterwards instead of own placements", 2, func(ana *person) {
		ana.click("Settings for learners")
		ana.choose("Shown afterwards", "key")
		ana.saved()
	})
	if doc.Play.Review != "key" {
		t.Errorf("shown afterwards: %s", doc.Play.Review)
	}
	doc = count("tick and arrow at each placement", 2, func(ana *person) {
		ana.click("Settings for learners")
		ana.choose("When pieces show whether they are correct", "placement")
		ana.saved()
	})
	if doc.Play.Show != "placement" {
		t.Errorf("shows: %s", doc.Play.Show)
	}
}

// The table of replies: filled by pasting, set for a range, read in words; a card
// that can be opened again; each as one step of undo.
func TestRepliesByItem(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(keyed())
	ana.click("Feedback")
	ana.click("By item")
	ana.choose("shown", "placed")
	ana.click("Chain, when correct")
	ana.paste("It drives.\tNot the chain.\nIt turns.\tNot the crank.\n\"A pad,\nof rubber.\"\tNot the pad.")
	ana.sees("Pad, when correct: A pad,")
	doc := ana.document()
	if got := edit.SaidOf(doc, "crank", "wrong").Text; len(doc.Replies) != 6 || got != "Not the crank." || edit.SaidAt(doc, edit.Slot{Item: "crank", Result: "wrong", Moment: "placed"}).Tone != "wrong" {
		t.Errorf("pasted: %s", said(doc))
	}
	// What is set for a range is set in each; cells that were empty get a reply by a text.
	ana.over("Lever, when correct", "Bell, when correct")
	ana.sees("2 cells, 0 with feedback")
	ana.fill("What is said", "One of these two.")
	ana.sees("2 cells, 2 with feedback")
	ana.choose("Position", "card")
	ana.click("Can be reopened from the piece")
	ana.sees("Bell, when correct: One of these two.")
	ana.shot("replies-by-item")
	ana.click("Bell, in 1 Drivetrain")
	ana.types("No bell among the chains.")
	ana.press(kb.Enter)
	ana.sees("Bell, in 1 Drivetrain: No bell among the chains.")
	doc = ana.document()
	lever := edit.SaidAt(doc, edit.Slot{Item: "lever", Result: "right", Moment: "placed"})
	if lever == nil || lever.Spot != "card" || !lever.Reopen || lever.Say.Text != "One of these two." {
		t.Errorf("for the range: %+v", lever)
	}
	if first := doc.Replies[0]; first.When.All[1].Onto == nil {
		t.Errorf("what is said of one place comes first, and not %s", say.When(doc, &first))
	}
	ana.click("Undo")
	ana.sees("Bell, in 1 Drivetrain: nothing is said")
	ana.over("Chain, when correct", "Pad, when wrong")
	ana.press(kb.Delete)
	ana.sees("Chain, when wrong: nothing is said")
	if doc = ana.document(); len(doc.Replies) != 2 {
		t.Errorf("cleared: %s", said(doc))
	}

	// As the learner sees it: a card over the board, closed, and opened again from its piece.
	ana.click("Rehearse")
	ana.place("Lever", "Brakes")
	ana.sees("One of these two.")
	ana.pictures()
	ana.shot("reply-card")
	ana.click("Close")
	ana.until("the card closed", `!document.querySelector('[data-reply]')`)
	ana.click("Reopen the message about Lever")
	ana.until("the card again", `!!document.querySelector('[data-reply]')`)
	ana.press(kb.Escape)
	ana.until("the card closed by key", `!document.querySelector('[data-reply]')`)
}

// All replies: made by situation and by chips, nested, read out, put in order by key,
// switched off, duplicated, tried; one that is in another's shadow says whose.
func TestAllReplies(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	doc.Play.Attempts = 2
	ana.openDocument(doc)
	ana.click("Feedback")
	ana.sees("Learners are told only which pieces are correct")
	ana.click("Add default feedback")
	ana.sees("Some of it is correct and an attempt is left")

	// A situation is set up on the board, and what stands out in it is proposed.
	ana.click("From a situation…")
	ana.sees("Set up the situation")
	ana.place("Bell", "Brakes")
	ana.click("Use this situation")
	ana.sees("When Bell is in Brakes.")
	ana.shot("situation")
	ana.click("an attempt is left")
	ana.sees("When Bell is in Brakes and an attempt is left.")
	ana.click("Create feedback")
	ana.fill("What is said", "Bells do not brake, {left} left.")
	ana.sees("Bells do not brake")

	// By chips: a group within, read out in plain words.
	ana.click("New feedback")
	ana.click("When it is checked")
	ana.until("the new reply alone", `!document.querySelector('[role=menu]') && document.querySelector('[role=textbox][aria-label="What is said"]')?.innerText.trim() === ''`)
	ana.click("Add a condition")
	ana.click("state of a target")
	ana.choose("Target is", "right")
	ana.click("Add a condition")
	ana.click("any of …")
	ana.until("the group", `document.querySelectorAll('[aria-label="Group"]').length === 1`)
	ana.sees("When it is checked and Drivetrain is correct and everything is correct.")
	ana.choose("Group", "none")
	ana.sees("When it is checked and Drivetrain is correct and not everything is correct.")
	ana.fill("What is said", "The drivetrain is done.")
	ana.shot("reply-conditions")
	ana.until("it in its row", find("Try: The drivetrain is done."))
	doc = ana.document()
	if got := said(doc); !strings.Contains(got, "When it is checked and Drivetrain is correct and not everything is correct: The drivetrain is done.") {
		t.Errorf("by chips:\n%s", got)
	}

	// Tried: the board shows it in a situation in which it comes.
	ana.click("Try: The drivetrain is done.")
	ana.until("it on the board", `document.querySelector('[data-rehearsing] [data-reply]')?.textContent.includes('The drivetrain is done.')`)
	ana.pictures()
	ana.shot("reply-tried")
	ana.click("Done")

	// A duplicate stands in the shadow of what it was made from, and says so.
	ana.click("Duplicate: The drivetrain is done.")
	ana.sees("Never shown")
	ana.sees("“The drivetrain is done.” comes first and is shown instead.")
	ana.clickOn("the last of its two", `[...document.querySelectorAll('[aria-label="Delete: The drivetrain is done."]')].at(-1)`)
	ana.seesNot("comes first and is shown")

	// Order by key, and switched off.
	order := func() string {
		var out []string
		for _, r := range ana.document().Replies {
			out = append(out, strings.Fields(r.Say.Text + " x")[0])
		}
		return strings.Join(out, " ")
	}
	before := order()
	eval[any](ana, `[...document.querySelectorAll('[role=group][aria-label="All feedback"] li button[aria-pressed]')].find((b) => b.textContent.includes('The drivetrain')).focus()`)
	ana.press(kb.ArrowDown, chromedp.ModifierAlt)
	ana.saved()
	if after := order(); after == before {
		t.Errorf("by key they stay in the order %s", after)
	}
	ana.click("Undo")
	ana.saved()
	if after := order(); after != before {
		t.Errorf("undone they stand as %s, and were %s", after, before)
	}
	// And by its grip: the last row onto the first.
	grips := func() []string {
		return eval[[]string](ana, `[...document.querySelectorAll('[role=group][aria-label="All feedback"] li button[aria-label^="Move "]')].map((e) => e.ariaLabel)`)
	}
	all := grips()
	ana.sorts(all[len(all)-1], all[0])
	ana.saved()
	words := strings.Fields(before)
	if after := order(); !strings.HasPrefix(after, words[len(words)-1]+" "+words[0]+" ") {
		t.Errorf("by drag: %s, from %s", after, before)
	}
	ana.click("Undo")
	ana.saved()
	ana.click("Switch off: Bells do not brake, {left} left.")
	ana.sees("Switch on: Bells do not brake")
	doc = ana.document()
	for _, r := range doc.Replies {
		if r.Off != strings.HasPrefix(r.Say.Text, "Bells") {
			t.Errorf("%s is off: %v", r.Say.Text, r.Off)
		}
	}

	// Composed where it stands: moved on the board, it has a frame of its own.
	ana.click("Some of it is correct and an attempt is left")
	at := ana.middle("The reply on the board")
	ana.drag(at, spot{at.X - 60, at.Y - 90})
	ana.saved()
	var wide activity.U
	for _, r := range ana.document().Replies {
		if strings.HasPrefix(r.Say.Text, "{right} of {total}") {
			if r.Spot != "frame" || r.Frame.Y > 60000 {
				t.Errorf("moved on the board: %s %v", r.Spot, r.Frame)
			}
			wide = r.Frame.W
		}
	}
	ana.shot("reply-on-board")
	eval[any](ana, `document.querySelector('[aria-label^="The reply on the board"]').focus()`)
	ana.press(kb.ArrowRight, chromedp.ModifierAlt, chromedp.ModifierShift)
	ana.press(kb.ArrowUp)
	ana.saved()
	for _, r := range ana.document().Replies {
		if strings.HasPrefix(r.Say.Text, "{right} of {total}") && r.Frame.W != wide+1000 {
			t.Errorf("by keys it is %v, was %v wide", r.Frame, wide)
		}
	}
}

// What a reply does before the learner: points out, dims, shows the answer, offers,
// ends; hints, the clock, starting over; Check on the board; all in German.
func TestRepliesBeforeTheLearner(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	doc := keyed()
	doc.Lang, doc.Words = "de", map[string]string{"again": "Nochmal!", "checksLeft.other": "{n} Mal prüfen"}
	doc.Play.Attempts, doc.Play.Restart, doc.Play.TimeLimit = 3, true, 3600000
	doc.Board.Check = &geometry.Rect{X: 90000, Y: 60000, W: 20000, H: 7000}
	doc.Hints = []activity.Hint{{Text: "Ketten treiben an."}, {Place: true}}
	doc.Marks.HintCost = 10
	add := func(moment activity.Moment, text string, when activity.Outcome, change func(r *activity.Reply)) {
		r := activity.NewReply(fmt.Sprintf("r-%d", len(doc.Replies)), moment)
		r.Say.Text = text
		if when != "" {
			r.When = &activity.Condition{Outcome: when}
		}
		change(&r)
		doc.Replies = append(doc.Replies, r)
	}
	add("opened", "Willkommen.", "", func(r *activity.Reply) {
		r.Spot, r.Until = "frame", "move"
		r.Frame = &geometry.Rect{X: 30000, Y: 1000, W: 30000, H: 8000}
	})
	add("checked", "Fast: {right} von {total}.", "part", func(r *activity.Reply) {
		r.Tone, r.Point, r.Dim, r.Offer = "near", []string{"wrong"}, true, []string{"again", "next"}
	})
	add("checked", "So wäre es.", "wrong", func(r *activity.Reply) { r.ShowKey, r.Finish = true, true })
	ana.openDocument(doc)
	link := ana.release()

	lea := w.person(t)
	lea.open(link)
	lea.fill("Dein Name", "Lea")
	lea.click("Los")
	lea.sees("Willkommen.")
	lea.sees("3 Mal prüfen")
	lea.sees("noch 59:")
	lea.place("Chain", "Drivetrain")
	lea.until("the welcome gone", `!document.body.innerText.includes('Willkommen')`)
	lea.place("Pad", "Drivetrain")
	lea.shot("german")
	lea.click("Prüfen")
	lea.sees("Fast: 1 von 4.")
	lea.until("the wrong piece pointed out", `[...document.querySelectorAll('.outline-3 [data-piece]')].map((e) => e.ariaLabel).join() === 'Pad, in Drivetrain, nicht richtig'`)
	lea.until("no offer that leads nowhere", `[...document.querySelectorAll('[data-reply] button')].map((b) => b.textContent).join() === 'Nochmal!'`)
	lea.shot("reply-points")
	lea.clickOn("the reply's button", `document.querySelector('[data-reply] button')`)
	lea.sees("2 Mal prüfen")
	lea.click("Hinweis (−10 %)")
	lea.sees("Ketten treiben an.")
	lea.press(kb.Escape)
	lea.click("Hinweis (−10 %)")
	lea.until("a piece placed by a hint", `document.querySelectorAll('[aria-label$="eingerastet"]').length === 1`)
	lea.click("Von vorn beginnen")
	lea.sees("Alle Teile gehen zurück")
	lea.clickOn("the dialog's button", `document.querySelector('[role=dialog] button')`)
	lea.sees("Willkommen.")
	lea.place("Bell", "Brakes")
	lea.click("Prüfen")
	lea.sees("So wäre es.")
	lea.until("the answer", `!!document.querySelector('[aria-label="Chain, in Drivetrain"]') && !!document.querySelector('[aria-label="Lever, in Brakes"]')`)
	lea.shot("reply-answer")
	lea.click("Deine Lösung")
	lea.sees("Bell, in Brakes")
	lea.sees("0 von 10 Punkten")
}

// From nothing to a reply that was tried, by keys alone.
func TestRepliesByKeyboard(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(keyed())
	ana.sees("1 correct arrangement")
	ana.press("k", chromedp.ModifierCtrl)
	ana.until("the finder", `document.activeElement?.tagName === 'INPUT'`)
	ana.types("Show the Feedback tab")
	ana.press(kb.Enter)
	ana.sees("All feedback")
	// on goes on with Tab until something has the focus.
	on := func(name string) {
		t.Helper()
		for range 80 {
			if eval[bool](ana, `(() => { const e = document.activeElement; return e?.matches('button, textarea, [role=textbox], [role=grid]') && (e.getAttribute('aria-label') ?? e.textContent ?? '').trim().startsWith(`+js(name)+`) })()`) {
				return
			}
			ana.press(kb.Tab)
		}
		ana.shot("failed")
		t.Fatalf("%s is not reached by Tab", name)
	}
	on("By item")
	ana.press(kb.Enter)
	on("Replies by item")
	ana.press(kb.ArrowRight)
	ana.press(kb.ArrowDown)
	ana.sees("No feedback yet.")
	ana.seesNot("Show the answer") // what nothing is said about does nothing either
	ana.types("A crank turns.")
	ana.press(kb.Enter)
	ana.sees("Crank, when wrong: A crank turns.")
	ana.press(kb.ArrowUp)
	ana.tabTo("incorrect") // the tones of the pane: Tab comes to the one that is chosen
	ana.tapsWhileBusy(kb.ArrowLeft)
	ana.until("the tone before it", `((e) => e === document.activeElement && e.labels[0].innerText.trim() === 'almost')(document.querySelector('[aria-label=Tone] :checked'))`)
	ana.press(kb.ArrowRight)
	on("What is said")
	on("All feedback")
	ana.press(kb.Enter)
	on("Try: A crank turns.")
	ana.press(kb.Enter)
	ana.until("it on the board", `document.querySelector('[data-rehearsing] [data-reply]')?.textContent.includes('A crank turns.')`)
	ana.press(kb.Escape)
	ana.until("the end of the rehearsal", `!document.querySelector('[data-rehearsing]')`)
}
