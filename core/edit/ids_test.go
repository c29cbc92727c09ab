package edit_test

import (
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/play"
)

// With other people on the same board nothing of the former ones is left in the document, in
// its ids neither, and everything is right where it was.
func TestNoFormerNameRemainsAnywhere(t *testing.T) {
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"people","title":"Who is Ida Brook?","order":["founder","ida-brook","tom-vale"],
		"scenery":[{"id":"text","type":"text","frame":{"x":0,"y":0,"w":400,"h":50},"text":"Tom Vale sits in [[rider]]."},{"id":"line","type":"line","from":{"x":0,"y":0},"to":{"x":9,"y":9},"tie":"rider"}],
		"items":[{"id":"ida-brook","name":"Ida Brook","text":"Ida Brook","tags":["ida brook"]},{"id":"tom-vale","name":"Tom Vale","text":"Tom Vale"},{"id":"spare","name":"Spare"}],
		"targets":[{"id":"founder","name":"Founder","frame":{"x":0,"y":0,"w":90,"h":90},"lets":{"items":["ida-brook","tom-vale"]}},{"id":"rider","name":"Rider","ordered":true,"frame":{"x":100,"y":0,"w":90,"h":90}}],
		"key":{"solutions":[{"right":{"founder":{"items":["ida-brook"]},"rider":{"items":["tom-vale","spare"]}},"orders":[{"target":"rider","tiers":[["tom-vale"],["spare"]],"before":[["tom-vale","spare"]]}]}]},
		"replies":[{"id":"right-ida-brook","moment":"placed","when":{"all":[{"piece":{"items":["ida-brook"]}},{"onto":["founder"]}]},"say":{"text":"Ida Brook founded it."},"point":["ida-brook","founder"]},
			{"id":"tom","moment":"checked","when":{"any":[{"item":"tom-vale","in":"rider"},{"target":"founder","is":"right"}]},"say":{"text":"Yes."}}],
		"marks":{"cells":{"tom-vale/founder":{"penalty":2}},"examples":[{"name":"One","moves":[{"do":"place","piece":"tom-vale","target":"rider"}]}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	out := edit.Swap(doc, []edit.Face{{Item: "ida-brook", Name: "Una Reed", Text: "Una Reed"}, {Item: "tom-vale", Name: "Ida Brook-Hart", Text: "Ida Brook-Hart"}, {Target: "rider", Name: "Mechanic", Text: "Mechanic"}})
	body := string(out.Write())
	for _, former := range []string{"tom-vale", "Tom Vale", "rider", "Rider", `"ida-brook"`, "right-ida-brook"} {
		if strings.Contains(body, former) {
			t.Errorf("%s is left in %s", former, body)
		}
	}
	again, faults := activity.Read([]byte(body))
	if faults != nil {
		t.Fatal(faults)
	}
	if _, err := play.New(again); err != nil {
		t.Fatal(err)
	}
	if again.Item("una-reed") == nil || again.Item("ida-brook-hart") == nil || again.Item("spare") == nil || again.Target("mechanic") == nil || again.Target("founder") == nil {
		t.Fatalf("the ids are others: %s", body)
	}
	if !again.Key.Solutions[0].RightCell(again.Target("mechanic"), again.Item("ida-brook-hart")) || again.Replies[0].Point[0] != "una-reed" || again.Marks.Examples[0].Moves[0].Piece != "ida-brook-hart" {
		t.Errorf("something is not where it was: %s", body)
	}

	// Two that change places keep to their own.
	swapped := edit.Swap(doc, []edit.Face{{Item: "ida-brook", Name: "Tom Vale", Text: "Tom Vale"}, {Item: "tom-vale", Name: "Ida Brook", Text: "Ida Brook"}})
	if swapped.Items[0].ID != "tom-vale" || swapped.Items[1].ID != "ida-brook" || !swapped.Key.Solutions[0].RightCell(swapped.Target("founder"), swapped.Item("tom-vale")) {
		t.Errorf("two that changed places: %s", swapped.Write())
	}
}
