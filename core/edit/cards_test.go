package edit_test

import (
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
)

func TestCardsOfAllItems(t *testing.T) {
	doc := &activity.Doc{Items: []activity.Item{activity.NewItem("bell", "Bell"), activity.NewItem("hub", "Hub"), activity.NewItem("rim", "Rim")}}
	edit.SayOf(doc, "bell", "right", activity.Say{Text: "Yes."})
	if edit.CardOf(doc, "bell") != nil {
		t.Fatal("what is said beside a piece is taken for its card")
	}
	edit.SetCard(doc, "bell", activity.Say{Text: "A bell rings."})
	first := edit.CardOf(doc, "bell")
	if len(doc.Replies) != 1 || first == nil || first.Say.Text != "A bell rings." || !first.Reopen || first.Stays() != "closed" {
		t.Fatalf("what was said is not the card now: %+v", doc.Replies)
	}
	first.Dim, first.Tone = true, "plain"
	out, made := edit.TakeFiles(doc, []edit.File{{ID: "p2", Name: "Rim"}, {ID: "p1", Name: "IMG 1"}, {ID: "p3", Name: "IMG 2"}}, []string{"bell", "hub", "rim"}, true)
	if len(made.Items) != 0 || len(out.Items) != 3 {
		t.Fatalf("files of cards made items: %v", made)
	}
	for id, picture := range map[string]string{"bell": "p1", "hub": "p3", "rim": "p2"} {
		r := edit.CardOf(out, id)
		if r == nil || r.Say.Picture != picture || !r.Dim || r.Tone != "plain" || out.Item(id).Picture != "" {
			t.Errorf("the card of %s is %+v, with picture %s and the look of the first wanted", id, r, picture)
		}
	}
	if got := edit.CardOf(out, "bell").Say.Text; got != "A bell rings." {
		t.Errorf("the text of a card that gets a picture is %q", got)
	}
	edit.SetCard(out, "bell", activity.Say{})
	if len(out.Replies) != 2 || edit.CardOf(out, "bell") != nil {
		t.Error("a card with nothing to say stays")
	}
}

// A drawn part that becomes a piece, a target or scenery keeps its shape and its look.
func TestAShapeStaysWhatItIsMadeInto(t *testing.T) {
	read := func(scenery, targets string) *activity.Doc {
		doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"a","kind":"build","title":"A","key":{"solutions":[{}]},"items":[],"scenery":[` + scenery + `],"targets":[` + targets + `]}`))
		if faults != nil {
			t.Fatal(faults)
		}
		return doc
	}
	doc := read(`{"id":"moon","type":"ellipse","frame":{"x":10,"y":20,"w":80,"h":80},"style":{"fill":"accent","edge":{"color":"ink","width":4}}}`,
		`{"id":"sail","name":"Sail","shape":"polygon","points":[[100,100],[200,100],[100,300]]}`)
	doc, _, _ = edit.Recast(doc, activity.Selection{Scenery: []string{"moon"}, Targets: []string{"sail"}}, "item")
	look := func(id string) *activity.Style { return doc.Item(id).Looks.Rest.Style }
	if s := look("moon"); s.Shape != "ellipse" || s.Fill != "accent" || *s.Edge.Width != 400 {
		t.Errorf("a piece made of an ellipse looks %+v", s)
	}
	if s := look("sail"); s.Shape != "polygon" || len(s.Points) != 3 || s.Points[2][1] != 10000 {
		t.Errorf("a piece made of a polygon looks %+v", s)
	}
	if again, faults := activity.Read(doc.Full()); faults != nil || again.Item("sail").Looks.Rest.Style.Points[1][0] != 10000 {
		t.Fatal("it is not read again as it was:", faults)
	}
	doc, _, _ = edit.Recast(doc, activity.Selection{Items: []string{"sail"}}, "target")
	if s := doc.Target("sail"); s.Shape != "polygon" || s.Points[1] != (doc.Target("sail").Points[1]) || s.Frame.W != 10000 || s.Frame.H != 20000 {
		t.Errorf("a target made of that piece is %+v", s)
	}
	doc, made, _ := edit.Recast(doc, activity.Selection{Items: []string{"moon"}}, "scenery")
	if s := doc.Scenery[0]; len(made.Scenery) != 1 || s.Type != "ellipse" || s.Style.Fill != "accent" || s.Style.Shape != "" {
		t.Errorf("scenery made of that piece is %+v", s)
	}
}
