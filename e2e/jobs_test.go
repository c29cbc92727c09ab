package e2e

import (
	"fmt"
	"math"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/demo"
)

// job is something that is built from nothing, and in how many acts at most: a click, a
// key, a drag, a paste or a text is one act.
type job struct {
	name  string
	most  int
	build func(ana *person) (found string) // what is wrong with what was built
}

var eight = []string{"Bell", "Chain", "Pump", "Horn", "Tyre", "Lamp", "Hub", "Lock"}

// sounds are short sound files, by name.
func sounds(t testing.TB, names ...string) (files []string) {
	body, err := os.ReadFile("../demo/sounds/yes.wav")
	if err != nil {
		t.Fatal(err)
	}
	dir := t.TempDir()
	for _, name := range names {
		files = append(files, filepath.Join(dir, name+".wav"))
		if err := os.WriteFile(files[len(files)-1], body, 0o600); err != nil {
			t.Fatal(err)
		}
	}
	return files
}

// discs is a drawing of four discs of another colour than what is around them.
func discs(t testing.TB) string {
	body := `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 400 300"><rect width="400" height="300" fill="#eef2f7"/>`
	for i := range 4 {
		body += fmt.Sprintf(`<circle cx="%d" cy="90" r="30" fill="#0b6e6e"/>`, 50+100*i)
	}
	file := filepath.Join(t.TempDir(), "wheel.svg")
	if err := os.WriteFile(file, []byte(body+`</svg>`), 0o600); err != nil {
		t.Fatal(err)
	}
	return file
}

// match is two pieces for two targets, Stop and Drive.
func match(title string) *activity.Doc {
	doc := arranged("match", "x: Pads, Chain", "Stop", "Drive")
	doc.Title = title
	doc.Key.Solutions[0].Right = map[string]activity.Selector{"stop": {Items: []string{"pads"}}, "drive": {Items: []string{"chain"}}}
	edit.AddStartingReplies(doc)
	return doc
}

// timeIsUp is what a document says when the time is over.
func timeIsUp(d *activity.Doc) (said string) {
	for _, r := range d.Replies {
		if r.Moment == "timeUp" {
			said += r.Say.Text
		}
	}
	return said
}

// Jobs of the trade, each from nothing to what can be released; by mouse, and in as many acts by
// keys alone.
func TestJobsOfTheTrade(t *testing.T) { jobsOfTheTrade(t, false) }

func TestJobsOfTheTradeByKeyboard(t *testing.T) { jobsOfTheTrade(t, true) }

func jobsOfTheTrade(t *testing.T, keys bool) {
	w := newWorld(t)
	for _, job := range []job{
		{"two baskets, eight pictures and sounds, back when wrong, motion, a fixed ground", 15, func(ana *person) string {
			rows := ""
			for i, name := range eight {
				rows += fmt.Sprintf("%s\t%s\n", name, []string{"Keep", "Mend"}[i%2])
			}
			ana.click("New activity")
			ana.fill("Your content, if you have it", rows)
			files := append(drawings(t, append([]string{"yard"}, eight...)...), sounds(t, eight...)...)
			ana.files("Pictures and sounds", files...)
			ana.click("Sort")
			ana.sees("1 correct arrangement")
			ana.click("Settings for learners")
			ana.choose("Checked", "each")
			ana.click("Item Bell")
			ana.press("a", chromedp.ModifierCtrl)
			ana.click("Details")
			ana.choose("Animation", "settle")
			d := ana.document()
			if d.Board.Background.Picture == "" || len(d.Items) != 8 || d.Targets[0].Frame.W != d.Targets[1].Frame.W || d.Play.Check != "each" || d.Play.WrongPieces != "home" {
				return fmt.Sprintf("%d items over %q, %+v", len(d.Items), d.Board.Background.Picture, d.Play)
			}
			for i := range d.Items {
				if it := &d.Items[i]; it.Picture == "" || it.Sound == "" || it.Looks.Rest.Motion != "settle" {
					return fmt.Sprintf("%+v", it)
				}
			}
			return ""
		}},
		{"six pictures to six texts, points a pair, attempts, a time limit with its message, seven arrows", 12, func(ana *person) string {
			rows := "Item\tTarget\tPoints\n"
			for i, name := range eight[:6] {
				rows += fmt.Sprintf("%s\tText %d\t%d\n", name, i+1, i+2)
			}
			ana.click("New activity")
			ana.fill("Your content, if you have it", rows)
			ana.files("Pictures and sounds", drawings(t, eight[:6]...)...)
			ana.click("Match")
			ana.sees("1 correct arrangement")
			ana.click("Settings for learners")
			ana.choose("Time limit", "a limited time:")
			ana.fill("Read when the time is up", "The workshop closes now.")
			ana.fill("Attempts", "3")
			ana.click("Arrange")
			ana.click("Arrows around a ring")
			ana.click("Draw an arrow")
			ana.draw(30, 30, 200, 30)
			ana.until("seven arrows", `document.querySelectorAll('[data-part^="scenery-arrow"]').length === 7`)
			d := ana.document()
			arrows := 0
			for _, s := range d.Scenery {
				if s.Type == "arrow" {
					arrows++
				}
			}
			if arrows != 7 || d.Items[5].Weight != 7 || d.Play.Attempts != 3 || timeIsUp(d) != "The workshop closes now." {
				return fmt.Sprintf("%d arrows, %d points, %d attempts, %q", arrows, d.Items[5].Weight, d.Play.Attempts, timeIsUp(d))
			}
			return ""
		}},
		{"three discs into hidden spots exactly over a drawing", 10, func(ana *person) string {
			ana.click("New activity")
			ana.files("Pictures and sounds", drawings(t, "plan")...)
			ana.click("Blank board")
			ana.sees("No pieces yet")
			ana.click("Draw an ellipse")
			for i := range 3 {
				ana.draw(float64(60+200*i), 200, float64(180+200*i), 320)
				ana.until("the disc", fmt.Sprintf(`document.querySelectorAll('[data-part^="scenery-ellipse"]').length === %d`, i+1))
			}
			ana.press("a", chromedp.ModifierCtrl)
			ana.click("Convert to")
			ana.click("Create a hidden target under each piece")
			ana.sees("1 correct arrangement")
			d := ana.document()
			for i := range d.Targets {
				x, it := &d.Targets[i], &d.Items[i]
				if x.Shape != "ellipse" || x.Shows != "never" || x.Frame.W != it.Size.W || it.Home != nil || !d.Key.Solutions[0].RightCell(x, it) {
					return fmt.Sprintf("%+v %+v", x, it)
				}
			}
			if len(d.Targets) != 3 || d.Marks.Points == 0 || len(d.Replies) < 3 {
				return fmt.Sprintf("%d targets, %d replies", len(d.Targets), len(d.Replies))
			}
			return ""
		}},
		{"three pictures and a spare, names, one becomes a text, one a drawn shape, one goes", 14, func(ana *person) string {
			ana.click("New activity")
			ana.fill("Your content, if you have it", "Bell\tBox 1\nChain\tBox 2\nPump\tBox 3\nHorn")
			ana.files("Pictures and sounds", drawings(t, eight[:4]...)...)
			ana.click("Match")
			ana.sees("1 correct arrangement")
			ana.click(contentCell("Box 1", "Name"))
			ana.paste("Warns\nDrives\nFills")
			ana.click("Item Bell")
			ana.click("Details")
			ana.click("Remove picture")
			ana.click("Item Chain")
			ana.choose("Shape", "ellipse")
			ana.click("Remove picture")
			ana.click("Item Pump")
			ana.press(kb.Delete)
			ana.sees("3 pieces")
			d := ana.document()
			bell, chain := d.Item("bell"), d.Item("chain")
			if len(d.Items) != 3 || bell.Picture != "" || bell.Text != "Bell" || chain.Picture != "" || chain.Looks.Rest.Style.Shape != "ellipse" || d.Targets[1].Name != "Drives" {
				return fmt.Sprintf("%+v", d.Items)
			}
			return ""
		}},
		{"one place, judged at once, the piece grows in hand, a message when the time is up", 8, func(ana *person) string {
			ana.click("New activity")
			ana.fill("Your content, if you have it", "Pads\tDisc\nBell\nHorn")
			ana.click("Match")
			ana.sees("1 correct arrangement")
			ana.click("Settings for learners")
			ana.choose("Checked", "each")
			ana.choose("Time limit", "a limited time:")
			ana.fill("Read when the time is up", "Too late.")
			ana.choose("Size in hand", "grows")
			d := ana.document()
			if len(d.Targets) != 1 || d.Play.Check != "each" || d.Items[0].Looks.InHand.Scale != 125 || timeIsUp(d) != "Too late." {
				return fmt.Sprintf("%+v, %q", d.Play, timeIsUp(d))
			}
			return ""
		}},
		{"looks of four targets at rest, under a piece and when right", 8, func(ana *person) string {
			ana.openDocument(arranged("sort", "x: Bell, Hub", "A", "B", "C", "D"))
			ana.acts = 0
			ana.click("Target 1 A")
			ana.press("a", chromedp.ModifierCtrl)
			ana.click("Details")
			ana.fill("Opacity, %", "60")
			ana.click("under a piece that it accepts")
			ana.fill("Opacity, %", "90")
			ana.click("right")
			ana.choose("Animation", "settle")
			for _, x := range ana.document().Targets {
				if l := x.Looks; l == nil || l.Rest == nil || *l.Rest.Opacity != 60 || *l.OverOpen.Opacity != 90 || l.Right == nil || l.Right.Motion != "settle" {
					return fmt.Sprintf("%s: %+v", x.Name, l)
				}
			}
			return ""
		}},
		{"own signs of right and wrong on every piece and target at once", 4, func(ana *person) string {
			ana.openDocument(match("Signed"))
			ana.acts = 0
			ana.click("Activity")
			ana.click("Board theme")
			ana.files("Picture that says right", drawings(ana.t, "star")...)
			ana.files("Picture that says wrong", drawings(ana.t, "bolt")...)
			ana.until("both", `[...document.querySelectorAll('[role=dialog] [role=group] img')].length === 2`)
			if theme := ana.document().Board.Theme; theme == nil || theme.Signs == nil || theme.Signs.Right == nil || theme.Signs.Wrong == nil {
				return fmt.Sprintf("%+v", theme)
			}
			return ""
		}},
		{"a second version with other people and colours", 5, func(ana *person) string {
			doc := match("Six people")
			ana.openDocument(doc)
			ana.click("Content")
			ana.acts = 0
			ana.click("Replace content…")
			ana.fill("Rows of the new content", "Ida Brook\nTom Vale\nFounder\nRider")
			ana.files("Pictures of the new content", drawings(ana.t, "Tom Vale", "Ida Brook")...)
			ana.choose("Colours and type", "Evening")
			ana.click("Replace 4")
			ana.sees("Ida Brook, Name: ")
			d := ana.document()
			if d.Items[0].Name != "Ida Brook" || d.Items[0].Picture == "" || d.Items[0].Picture == d.Items[1].Picture || d.Targets[1].Label.Text != "Rider" || d.Board.Theme == nil || strings.Contains(string(d.Write()), "ads") {
				return string(d.Write())
			}
			return ""
		}},
		{"a wrong key found while rehearsing, and mended where it is explained", 2, func(ana *person) string {
			doc := match("Wrong key")
			doc.Play.Check = "each"
			doc.Key.Solutions[0].Right["stop"] = activity.Selector{Items: []string{"chain"}}
			ana.openDocument(doc)
			ana.click("Rehearse")
			ana.acts = 0
			ana.sees("Chain")
			ana.carry("Pads", "Stop")
			ana.click("Mark as correct")
			ana.sees("Pads is correct in Stop")
			if d := ana.document(); !d.Key.Solutions[0].RightCell(d.Target("stop"), d.Item("pads")) {
				return "the cell is not right"
			}
			return ""
		}},
		{"four messages for two targets, on only when right, else back to the page", 12, func(ana *person) string {
			w.shelved(ana.t, match("Two brakes"))
			ana.reload()
			ana.acts = 0
			ana.click("More actions for Two brakes")
			ana.click("Start a series with it")
			ana.choose("Moves on", "right")
			ana.click("Add a page")
			ana.types("Read this first")
			ana.click("2")
			ana.until("saving", `[...document.querySelectorAll('[role=status]')].some((e) => e.textContent === 'Saved')`)
			series := ana.series()
			ana.click("Open it in the workbench")
			ana.click("Feedback")
			ana.click("One per combination of 2 targets")
			ana.click("Stop is correct and Drive is not correct")
			ana.shift("Stop is not correct and Drive is not correct")
			ana.sees("3 selected")
			ana.choose("read a page again (in a series)", series.Steps[0].Page.ID)
			d := ana.document()
			back := 0
			for _, r := range d.Replies {
				if r.Moment == "checked" && len(r.Offer) == 1 && r.Offer[0] == "page:"+series.Steps[0].Page.ID {
					back++
				}
			}
			if back != 3 || len(d.Replies) != 4 || series.Steps[1].MoveOn != "right" || series.Steps[0].Page.Title != "Read this first" {
				return fmt.Sprintf("%d replies of %d lead back; %+v", back, len(d.Replies), series.Steps)
			}
			return ""
		}},
		{"gap text and labelled picture in a series with three bands and a limit, released", 30, func(ana *person) string {
			ana.click("New activity")
			ana.fill("Your content, if you have it", "Squeeze both [[brakes]], spin both [[wheels]], ring the [[bell]].")
			ana.click("Gap text")
			ana.sees("1 correct arrangement")
			ana.click("Shelf")
			ana.click("New activity")
			ana.fill("Your content, if you have it", "Hub\nRim\nTyre")
			ana.files("Pictures and sounds", discs(ana.t))
			ana.click("Label")
			ana.sees("3 pieces")
			ana.click("Trace a spot in a picture")
			board := ana.document().Board
			for i := range 3 {
				ana.pressOn(math.Round(float64(board.Width)/400*float64(50+100*i)/100), math.Round(float64(board.Width)/400*90/100))
				ana.sees(fmt.Sprintf("%d target", i+1))
			}
			ana.sees("“Tyre” belongs in Spot 3.")
			if label := ana.document(); len(label.Targets) != 3 || !label.Key.Solutions[0].RightCell(&label.Targets[2], &label.Items[2]) {
				return fmt.Sprintf("the labels: %+v", label.Key.Solutions[0])
			}
			ana.press(kb.Escape)
			ana.click("Shelf")
			ana.click("New series")
			ana.click("Add activities")
			ana.click("New label")
			ana.click("New gap text")
			ana.click("Add 2")
			for i := range 3 {
				ana.click("Band")
				ana.until("the band", fmt.Sprintf(`document.querySelectorAll('[role=slider]').length === %d`, i+2))
			}
			ana.fill("Minutes in all", "20")
			ana.click("Release…")
			ana.click("Release")
			ana.sees("published")
			return ""
		}},
	} {
		t.Run(job.name, func(t *testing.T) {
			ana := w.person(t)
			ana.signIn(demo.Accounts()[0])
			ana.keys = keys
			ana.acts = 0
			found := job.build(ana)
			t.Logf("acts: %d (aim: at most %d)", ana.acts, job.most)
			ana.shot("job-" + strings.Fields(job.name)[0] + strings.Fields(job.name)[1])
			if found != "" || ana.acts > job.most {
				t.Errorf("%d acts; %s", ana.acts, found)
			}
		})
	}
}
