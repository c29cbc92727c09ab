package e2e

import (
	"context"
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/cdproto/cdp"
	"github.com/chromedp/cdproto/input"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/demo"
)

// drawings are small SVG files, by name.
func drawings(t testing.TB, names ...string) (files []string) {
	dir := t.TempDir()
	for i, name := range names {
		body := fmt.Sprintf(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 90"><rect x="%d" width="90" height="90" fill="#2346a0"/></svg>`, i)
		files = append(files, filepath.Join(dir, name+".svg"))
		if err := os.WriteFile(files[len(files)-1], []byte(body), 0o600); err != nil {
			t.Fatal(err)
		}
	}
	return files
}

// dropOn lets a file go on something on the page.
func (p *person) dropOn(name, file, body string) {
	p.t.Helper()
	p.acts++
	p.until(name, find(name))
	path := filepath.Join(p.t.TempDir(), file)
	if err := os.WriteFile(path, []byte(body), 0o600); err != nil {
		p.t.Fatal(err)
	}
	p.dragged(p.middle(name), &input.DragData{Items: []*input.DragDataItem{}, Files: []string{path}, DragOperationsMask: 1})
}

// dragged lets what is dragged over the page go at a spot.
func (p *person) dragged(at spot, data *input.DragData) {
	p.t.Helper()
	p.do(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		for _, kind := range []input.DispatchDragEventType{input.DispatchDragEventTypeDragEnter, input.DispatchDragEventTypeDragOver, input.DispatchDragEventTypeDrop} {
			if _, err := cdp.Call(ctx, t, input.DispatchDragEvent, input.DispatchDragEventParams{Type: kind, X: at.X, Y: at.Y, Data: data}); err != nil {
				return err
			}
		}
		return nil
	}))
}

// Three activities are built from nothing, and what it takes is counted: a click, a
// key, a drag, a paste or a text is one act. By keys alone they are no more.
func TestActsToBuild(t *testing.T) { actsToBuild(t, false) }

func TestActsToBuildByKeyboard(t *testing.T) { actsToBuild(t, true) }

func actsToBuild(t *testing.T, keys bool) {
	w := newWorld(t)
	count := func(name string, most int, build func(ana *person)) {
		ana := w.person(t)
		ana.signIn(demo.Accounts()[0])
		ana.keys = keys
		ana.acts = 0
		build(ana)
		t.Logf("acts: %s: %d (aim: at most %d)", name, ana.acts, most)
		if ana.acts > most {
			t.Errorf("%s takes %d acts, more than %d", name, ana.acts, most)
		}
	}
	count("a sort of 30 pictures into six targets", 20, func(ana *person) {
		var names, rows []string
		for i := range 30 {
			names = append(names, fmt.Sprintf("part-%d", i+1))
			rows = append(rows, fmt.Sprintf("Part %d\tDrawer %d", i+1, i%6+1))
		}
		ana.click("New sorting activity from a table")
		ana.fill("Title", "Thirty parts")
		ana.fill("Rows", strings.Join(rows, "\n"))
		ana.click("Create activity")
		ana.click("Content")
		ana.files("Picture and sound files", drawings(t, names...)...)
		ana.sees("30 items have their files")
		ana.sees("correct arrangement")
		doc := ana.document()
		for _, it := range doc.Items {
			if it.Picture == "" {
				t.Errorf("%s has no picture", it.Name)
			}
		}
		if len(doc.Items) != 30 || len(doc.Targets) != 6 {
			t.Errorf("%d items, %d targets", len(doc.Items), len(doc.Targets))
		}
	})
	count("one question over a picture, with a text of its own when wrong, for practice", 9, func(ana *person) {
		ana.click("New activity")
		ana.fill("Your content, if you have it", "Which of these stops a wheel?\nBrake pads\nA bell\nA chain")
		ana.files("Pictures and sounds", drawings(t, "wheel")...)
		ana.click("One question")
		ana.sees("1 correct arrangement")
		ana.click("Feedback")
		ana.click("Nothing is correct and an attempt is left")
		ana.until("the caret in its text", `document.activeElement?.isContentEditable && getSelection().toString().length > 0`)
		ana.types("That one makes no difference to a wheel.")
		ana.click("Settings for learners")
		ana.click("practice")
		ana.sees("Set for practice")
		doc := ana.document()
		if doc.Board.Background.Picture == "" || len(doc.Items) != 3 || doc.Play.Attempts != 0 || !doc.Key.Solutions[0].RightCell(&doc.Targets[0], &doc.Items[0]) {
			t.Errorf("%d items, %d attempts", len(doc.Items), doc.Play.Attempts)
		}
		said := false
		for _, r := range doc.Replies {
			said = said || r.Say.Text == "That one makes no difference to a wheel."
		}
		if !said {
			t.Errorf("replies: %+v", doc.Replies)
		}
	})
	count("36 pictures into six bins, one at a time, with a new start", 12, func(ana *person) {
		var names, rows []string
		for i := range 36 {
			names = append(names, fmt.Sprintf("part-%d", i+1))
			rows = append(rows, fmt.Sprintf("Part %d\tDrawer %d", i+1, i%6+1))
		}
		ana.click("New activity")
		ana.fill("Your content, if you have it", strings.Join(rows, "\n"))
		ana.files("Pictures and sounds", drawings(t, names...)...)
		ana.click("Sort")
		ana.sees("36 pieces")
		ana.click("Settings for learners")
		ana.choose("Dealing", "one")
		ana.choose("Starting over", "true")
		doc := ana.document()
		if len(doc.Items) != 36 || len(doc.Targets) != 6 || doc.Play.Deal != "one" || !doc.Play.Restart {
			t.Errorf("%d items, %d targets, %s", len(doc.Items), len(doc.Targets), doc.Play.Deal)
		}
		for i := range doc.Items {
			if doc.Items[i].Picture == "" || !doc.Key.Solutions[0].RightCell(&doc.Targets[i%6], &doc.Items[i]) {
				t.Fatalf("%+v", doc.Items[i])
			}
		}
	})
	count("six words by keyword into three containers, at a shared screen", 10, func(ana *person) {
		ana.click("New activity")
		ana.fill("Your content, if you have it", "Chain\tDrive\nCassette\tDrive\nPads\tStop\nRotor\tStop\nStem\tSteer\nHeadset\tSteer")
		ana.click("Sort")
		ana.sees("1 correct arrangement")
		ana.click("Activity")
		ana.click("Present the draft (shared screen)")
		ana.sees("Next learner")
	})
	count("eight targets traced over a picture", 20, func(ana *person) {
		// Discs of another colour than what is around them, two rows of four.
		body := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300"><rect width="400" height="300" fill="#eef2f7"/>`
		for i := range 8 {
			body += fmt.Sprintf(`<circle cx="%d" cy="%d" r="30" fill="#0b6e6e"/>`, 50+100*(i%4), 90+120*(i/4))
		}
		file := filepath.Join(t.TempDir(), "gears.svg")
		if err := os.WriteFile(file, []byte(body+`</svg>`), 0o600); err != nil {
			t.Fatal(err)
		}
		ana.click("New activity")
		ana.files("Pictures and sounds", file)
		ana.click("Label")
		ana.sees("No pieces yet")
		board := ana.document().Board
		ana.click("Trace a spot in a picture")
		x0, y0, scale := 0.0, 0.0, float64(board.Width)/400
		for i := range 8 {
			ana.pressOn(math.Round((x0+scale*float64(50+100*(i%4)))/100), math.Round((y0+scale*float64(90+120*(i/4)))/100))
			ana.sees(fmt.Sprintf("%d target", i+1))
		}
		ana.shot("traced")
		ana.press(kb.Escape)
		ana.press("a", chromedp.ModifierCtrl)
		ana.click("Convert to")
		ana.click("Create a matching piece for each target")
		ana.click("Content")
		doc := ana.document()
		if len(doc.Targets) != 8 || len(doc.Items) != 8 {
			t.Fatalf("%d targets, %d items", len(doc.Targets), len(doc.Items))
		}
		for i, x := range doc.Targets {
			cx, cy := float64(x.Frame.X+x.Frame.W/2), float64(x.Frame.Y+x.Frame.H/2)
			if x.Shape != "ellipse" || x.Holds != 1 || x.Label.Text != "" || cx-(x0+scale*float64(50+100*(i%4))) > 200 || cy-(y0+scale*float64(90+120*(i/4))) > 200 {
				t.Errorf("%s: %s at %v holds %d", x.Name, x.Shape, x.Frame, x.Holds)
			}
		}
	})
	count("a labelled picture with eight targets", 40, func(ana *person) {
		ana.click("New activity")
		ana.fill("Title", "A bicycle")
		ana.click("Label")
		// The sample's spots and labels make room for one's own.
		ana.click("Target 1 Spot 1")
		ana.press("a", chromedp.ModifierCtrl)
		ana.press("a", chromedp.ModifierCtrl) // and its labels
		ana.press(kb.Delete)
		ana.sees("0 targets")
		if keys {
			ana.click("Scenery picture")
			ana.click("Activity")
			ana.click("Media")
			ana.files("Files for Media", discs(t))
			ana.click("Use for the selected picture")
		} else {
			ana.dropOn("Scenery picture", "bicycle.svg", `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300"><circle cx="90" cy="200" r="80" fill="none" stroke="#141a24"/></svg>`)
		}
		ana.until("the picture", `document.querySelector('[data-part="scenery-picture"] img')`)
		ana.click("Draw a target")
		for i := range 8 {
			x, y := float64(60+i%2*640), float64(60+i/2*160)
			ana.draw(x, y, x+180, y+60)
			ana.sees(fmt.Sprintf("%d target", i+1))
		}
		ana.click("Content")
		ana.click("Spot 1, Name: ")
		ana.paste("Saddle\nHandlebar\nFrame\nFork\nFront wheel\nBack wheel\nPedal\nChain")
		ana.sees("Chain, Name: ")
		ana.click("Saddle, Name: ")
		ana.shift("Chain, Name: ")
		ana.click("Convert to")
		ana.click("Create a matching piece for each target")
		ana.sees("8 items")
		ana.sees("correct arrangement")
		ana.shot("labelled")
		if doc := ana.document(); len(doc.Items) != 8 || doc.Items[7].Name != "Chain" || !doc.Key.Solutions[0].RightCell(&doc.Targets[7], &doc.Items[7]) || doc.Scenery[0].Picture == "" {
			t.Errorf("made %+v", doc.Items)
		}
	})
	count("gap text with eight gaps and four distractors", 20, func(ana *person) {
		ana.click("New activity")
		ana.fill("Title", "Safety note")
		ana.click("Gap text")
		ana.doubleClick("Scenery Write the text")
		ana.fill("Text", "Before each ride squeeze both [[brakes]], spin both [[wheels]] and pull the [[chain]] up. The [[tyres]] should be hard, the [[lights]] lit, the [[bell]] heard. Wear a [[helmet]], and never carry a [[passenger]] on the rack.")
		ana.click("Done")
		ana.sees("8 targets")
		ana.click("Content")
		ana.click("Import table…")
		ana.fill("Rows of the table", "mudguards\nsaddle\npump\nbasket")
		ana.click("Import")
		ana.sees("correct arrangement")
		ana.sees("correct arrangement")
		ana.shot("safety-note")
		if doc := ana.document(); len(doc.Items) != 12 || len(doc.Targets) != 8 {
			t.Errorf("%d items, %d targets", len(doc.Items), len(doc.Targets))
		}
	})
}

// A drawing with named parts becomes one item a part, where it stands in the drawing
// and with no card behind it.
func TestNamedPartsOfADrawing(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openSort("Small parts")
	ana.click("Activity")
	ana.click("Media")
	file := filepath.Join(t.TempDir(), "stand.svg")
	if err := os.WriteFile(file, []byte(`<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 200"><g id="layer1" transform="translate(100 0)"><rect id="clamp" width="100" height="50" fill="#0b6e6e"/><circle id="base-plate" cx="50" cy="150" r="40"/><path id="path12" d="M0 0h5v5z"/></g></svg>`), 0o600); err != nil {
		t.Fatal(err)
	}
	ana.files("Files for Media", file)
	ana.click("Create an item per named part")
	ana.sees("2 items, one for each named part of stand.svg.")
	ana.shot("named-parts")
	doc := ana.document()
	clamp, plate := doc.Item("clamp"), doc.Item("base-plate")
	if clamp == nil || plate == nil {
		t.Fatalf("made %d items", len(doc.Items))
	}
	// The drawing of 400 × 200 is 864 × 432 on the board of 960 × 712: 2.16 times, from (48, 140).
	if clamp.Home.X != 26400 || clamp.Home.Y != 14000 || clamp.Size.W != 21600 || clamp.Size.H != 10800 || plate.Home.X != 28600 || plate.Size.W != 17300 {
		t.Errorf("the clamp is at %v, %v; the plate at %v, %v", *clamp.Home, clamp.Size, *plate.Home, plate.Size)
	}
	ana.click("Activity")
	ana.click("Media")
	ana.click("stand")
	ana.click("Create a target per named part")
	ana.sees("2 targets, one over each named part of stand.svg.")
	ana.shot("named-targets")
	doc = ana.document()
	if box, round := doc.Target("clamp"), doc.Target("base-plate"); box == nil || round == nil || box.Frame.W != 21600 || box.Frame.X != 26400 || round.Shape != "ellipse" || round.Frame.W != round.Frame.H {
		t.Errorf("the targets are %+v", doc.Targets)
	}
	if clamp.Looks.Rest.Style.Card || clamp.Alt != "Clamp" {
		t.Errorf("the clamp looks %+v", clamp.Looks.Rest)
	}
}

// Left and come back to, the workbench is as it was; undo goes to the lens in which
// it was done.
func TestTheViewIsFoundAgain(t *testing.T) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openShelved(demo.Accounts()[0], "Parts drawers")
	ana.click("Content")
	ana.click(contentCell("Chain", "Tags"))
	ana.press("drive")
	ana.press(kb.Enter)
	ana.sees(contentCell("Chain", "Tags") + "drive")
	ana.click("Placing")
	ana.press("z", chromedp.ModifierCtrl)
	ana.sees(contentCell("Chain", "Tags") + "drivetrain")
	ana.click("Target 3 Wheels")
	ana.press("3", chromedp.ModifierCtrl)
	ana.wheel("the table", `document.querySelector('[role=grid].overflow-auto, [role=grid] .overflow-auto')`, 220)
	const top = `document.querySelector('[role=grid].overflow-auto, [role=grid] .overflow-auto').scrollTop`
	ana.until("what was done is saved", `JSON.parse(localStorage.getItem(Object.keys(localStorage).find((k) => k.startsWith('magpie-view-')))).scrolled?.content?.[1] === `+top+` && `+top+` > 100`)
	scrolled := eval[float64](ana, top)
	ana.document()
	ana.reload()
	ana.until("the lens", `document.querySelector('[role=tab][data-state=active]')?.textContent === 'Content'`)
	ana.until("the scroll", top+` === `+js(scrolled))
	ana.until("the selection", `document.querySelector('[data-part="target-wheels"]').getAttribute('aria-pressed') === 'true'`)
	ana.until("the divider", `document.querySelector('section[aria-label=Board]').clientWidth < 500`)
	ana.shot("ledger-large")
}
