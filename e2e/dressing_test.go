package e2e

import (
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/demo"
)

// Cards of all items are typed and pasted as a column, their pictures come as files, and
// what opens in play is the card.
func TestCardsOfAllItemsAtOnce(t *testing.T) { cardsOfAllItemsAtOnce(t, false) }

func TestCardsOfAllItemsAtOnceByKeyboard(t *testing.T) { cardsOfAllItemsAtOnce(t, true) }

func cardsOfAllItemsAtOnce(t *testing.T, keys bool) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	ana.keys, ana.acts = keys, 0
	ana.click("New activity")
	ana.fill("Your content, if you have it", "Ida Brook\tFounder\nTom Vale\tRider\nUna Reed\tMechanic\nSol Hart\tPainter\nKit Moor\tWelder\nMay Lund\tTeacher")
	ana.files("Pictures and sounds", drawings(t, "Ida Brook", "Tom Vale", "Una Reed", "Sol Hart", "Kit Moor", "May Lund")...)
	ana.click("Match")
	ana.sees("1 correct arrangement")
	ana.click("Content")
	ana.click(contentCell("Ida Brook", "card that opens when it is placed right"))
	ana.paste("Began the workshop in a barn.\nRode to the sea and back.\nMends what others throw out.\nPaints every frame by hand.\nLearned welding from Ida.\nTeaches the evening class.")
	ana.sees("Teaches the evening class.")
	ana.shift(contentCell("May Lund", "card that opens when it is placed right"))
	ana.sees("6 cards.")
	ana.files("Picture and sound files", drawings(t, "a1", "a2", "a3", "a4", "a5", "a6")...)
	ana.sees("6 items have their files")
	ana.shot("cards")
	ana.click("Settings for learners")
	ana.choose("Checked", "each")
	doc := ana.document()
	if len(doc.Items) != 6 {
		t.Fatalf("%d items", len(doc.Items))
	}
	for i := range doc.Items {
		found := false
		for _, r := range doc.Replies {
			found = found || r.Spot == "card" && r.Say.Text != "" && r.Say.Picture != "" && len(r.When.All) == 2 && r.When.All[0].Piece.Items[0] == doc.Items[i].ID
		}
		if !found {
			t.Errorf("%s has no card with a text and a picture", doc.Items[i].Name)
		}
	}
	t.Logf("acts: six portraits, each opens its card: %d", ana.acts)
	if ana.acts > 14 {
		t.Errorf("cards for six take %d acts", ana.acts)
	}

	// One undo takes the files away, another one the texts.
	ana.press("z", chromedp.ModifierCtrl)
	ana.press("z", chromedp.ModifierCtrl)
	ana.press("z", chromedp.ModifierCtrl)
	if doc := ana.document(); len(doc.Items) != 6 {
		t.Errorf("%d items after undo", len(doc.Items))
	} else {
		for _, r := range doc.Replies {
			if r.Spot == "card" {
				t.Errorf("%s stays after undo", r.ID)
			}
		}
	}
}

// Pieces get signs of right and wrong of the author's own, for all at once, and drawn
// shapes as faces.
func TestSignsAndShapesOfPieces(t *testing.T) { signsAndShapesOfPieces(t, false) }

func TestSignsAndShapesOfPiecesByKeyboard(t *testing.T) { signsAndShapesOfPieces(t, true) }

func signsAndShapesOfPieces(t *testing.T, keys bool) {
	w := newWorld(t)
	ana := w.person(t)
	ana.openDocument(arranged("sort", "x: Bell, Hub, Rim", "A", "B"))
	ana.click("Item Bell")
	ana.click("Details")
	ana.keys, ana.acts = keys, 0
	ana.press("a", chromedp.ModifierCtrl)
	ana.click("right")
	ana.files("Picture that says right", drawings(t, "star")...)
	ana.click("wrong")
	ana.files("Picture that says wrong", drawings(t, "bolt")...)
	ana.until("both", `document.querySelectorAll('[aria-label=Looks] img').length >= 3`)
	t.Logf("acts: own right and wrong sign on every piece: %d", ana.acts)
	ana.shot("signs")
	doc := ana.document()
	for i := range doc.Items {
		l := doc.Items[i].Looks
		if l == nil || l.Right == nil || l.Right.Sign == nil || l.Wrong == nil || l.Wrong.Sign == nil {
			t.Fatalf("%s: %+v", doc.Items[i].ID, l)
		}
	}
	ana.click("at rest")
	ana.choose("Shape", "ellipse")
	ana.until("ellipses", `document.querySelectorAll('[data-part^="item-"] ellipse').length === 3`)
	ana.shot("shapes")
	if doc = ana.document(); doc.Items[2].Looks.Rest.Style.Shape != "ellipse" {
		t.Errorf("%+v", doc.Items[2].Looks.Rest.Style)
	}
}

// A picture of the author's own is shown in full over the board, at once, for right and
// for wrong.
func TestAPictureOverTheWholeBoard(t *testing.T) { aPictureOverTheWholeBoard(t, false) }

func TestAPictureOverTheWholeBoardByKeyboard(t *testing.T) { aPictureOverTheWholeBoard(t, true) }

func aPictureOverTheWholeBoard(t *testing.T, keys bool) {
	w := newWorld(t)
	ana := w.person(t)
	ana.signIn(demo.Accounts()[0])
	doc := arranged("sort", "x: Bell, Hub", "A", "B")
	doc.Play.Check = "each"
	doc.Key.Solutions[0].Right = map[string]activity.Selector{"a": {Items: []string{"bell"}}, "b": {Items: []string{"hub"}}}
	for _, item := range []string{"bell", "hub"} {
		edit.SayOf(doc, item, "right", activity.Say{Text: "Yes."})
		edit.SayOf(doc, item, "wrong", activity.Say{Text: "No."})
	}
	ana.openDocument(doc)
	ana.click("Feedback")
	ana.keys, ana.acts = keys, 0
	ana.click("When Bell is put down and is correct there")
	ana.files("Picture of the reply", drawings(t, "yes")...)
	ana.choose("Position", "board")
	ana.shot("feedback")
	t.Logf("acts: a picture over the whole board: %d", ana.acts)
	ana.click("Rehearse")
	ana.place("Bell", "A")
	ana.until("the picture", `document.querySelector('[data-reply] img')?.getBoundingClientRect().height > 200`)
	ana.shot("full")
	over := eval[float64](ana, `(() => { const a = document.querySelector('[data-reply]').getBoundingClientRect(), b = document.querySelector('[data-board]').getBoundingClientRect(); return Math.abs(a.width - b.width) + Math.abs(a.height - b.height) + Math.abs(a.x - b.x) })()`)
	if over > 3 {
		t.Errorf("it is %v pixels off the board", over)
	}
	ana.press(kb.Escape)
	ana.until("closed", `!document.querySelector('[data-reply] img')`)
}

// Replies of one's own for each wrong piece, and a picture as a hint beside its text, in a
// handful of acts.
func TestActsForRepliesOfOnesOwn(t *testing.T) { actsForRepliesOfOnesOwn(t, false) }

func TestActsForRepliesOfOnesOwnByKeyboard(t *testing.T) { actsForRepliesOfOnesOwn(t, true) }

func actsForRepliesOfOnesOwn(t *testing.T, keys bool) {
	w := newWorld(t)
	ana := w.person(t)
	doc := arranged("match", "x: Hub, Rim, Bell, Pump, Chain, Tyre", "Wheel")
	doc.Targets[0].Holds = 1
	doc.Key.Solutions[0].Right = map[string]activity.Selector{"wheel": {Items: []string{"hub"}}}
	doc.Play.Check, doc.Play.Attempts = "each", 1
	ana.openDocument(doc)
	ana.keys, ana.acts = keys, 0
	ana.click("Feedback")
	ana.click("By item")
	ana.click("Rim, when wrong")
	ana.paste("A rim alone does not turn.\nA bell only rings.\nA pump stays off the bicycle.\nThe chain drives it.\nThe tyre comes around it.")
	ana.sees("Tyre, when wrong: The tyre comes around it.")
	ana.click("Settings for learners")
	ana.fill("Attempts", "3")
	ana.press(kb.Enter)
	t.Logf("acts: a reply for each of five wrong pieces, three tries: %d", ana.acts)
	if doc = ana.document(); ana.acts > 8 || len(doc.Replies) < 5 || doc.Play.Attempts != 3 {
		t.Errorf("%d acts, %d replies, %d attempts", ana.acts, len(doc.Replies), doc.Play.Attempts)
	}

	bo := w.person(t)
	bo.openDocument(arranged("sort", "x: Hub, Rim", "Wheel"))
	bo.keys, bo.acts = keys, 0
	bo.click("Feedback")
	bo.click("Nothing is correct and an attempt is left")
	bo.files("Picture of the reply", drawings(t, "hint")...)
	bo.choose("The picture stands", "beside")
	t.Logf("acts: a picture beside the text at each failed attempt: %d", bo.acts)
	shown := false
	for _, r := range bo.document().Replies {
		shown = shown || r.Say.Picture != "" && r.Say.Layout == "beside"
	}
	if bo.acts > 6 || !shown {
		t.Errorf("%d acts; %v", bo.acts, shown)
	}
}
