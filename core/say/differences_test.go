package say_test

import (
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/message"
	"keenmagpie/core/say"
)

func TestWhatChangedIsSaidInWords(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*activity.Doc)
		want   string
	}{
		"nothing":      {func(*activity.Doc) {}, ""},
		"the title":    {func(d *activity.Doc) { d.Title = "Two boxes" }, "title: Two boxes"},
		"no title":     {func(d *activity.Doc) { d.Title = "" }, "title removed"},
		"an item":      {func(d *activity.Doc) { d.Items[0].Text, d.Items[0].Weight = "Links", 2 }, "Chain: text, weight"},
		"an item gone": {func(d *activity.Doc) { out, _ := edit.Remove(d, activity.Selection{Items: []string{"hub"}}); *d = *out }, "1 item removed: Hub; needs and orders"},
		"items added":  {func(d *activity.Doc) { out, _ := edit.AddItems(d, []string{"A", "B", "C", "D", "E"}); *d = *out }, "5 items added: A, B, C and 2 more"},
		"their order":  {func(d *activity.Doc) { d.Items[0], d.Items[1] = d.Items[1], d.Items[0] }, "order of items"},
		"the answer key": {func(d *activity.Doc) {
			out, _ := edit.SetCells(d, 0, []string{"bell"}, []string{"box"}, true)
			*d = *out
		}, "Box: what it accepts; answer key: 1 cell; needs and orders"},
		"play and marks": {func(d *activity.Doc) { d.Play.Attempts, d.Marks.Points = 3, 500 }, "play settings; marks"},
		"a solution":     {func(d *activity.Doc) { d.Key.Solutions = append(d.Key.Solutions, activity.Solution{}) }, "2 solutions instead of 1"},
		"scenery":        {func(d *activity.Doc) { d.Scenery[0].Alt = "Another" }, "Another: alternative text"},
	} {
		t.Run(name, func(t *testing.T) {
			before, after := something(t), something(t)
			c.change(after)
			if got := message.List(message.ListClauses, say.Differences(before, after)).Message; got != c.want {
				t.Errorf("%q, want %q", got, c.want)
			}
		})
	}
}

// something is a document with something of everything in it.
func something(t testing.TB) *activity.Doc {
	t.Helper()
	doc, faults := activity.Read([]byte(`{"format":"keen-magpie/activity","version":1,"id":"a","title":"Boxes","items":[{"id":"chain","name":"Chain","text":"Chain","tags":["drive","spare"],"home":{"x":10,"y":20}},{"id":"bell","picture":"pic","tags":["spare"]},{"id":"hub","name":"Hub"}],
		"targets":[{"id":"box","name":"Box","frame":{"x":0,"y":0,"w":100,"h":100},"lets":{"all":true,"except":["bell"]}},{"id":"lane","ordered":true,"frame":{"x":0,"y":200,"w":300,"h":60}}],
		"scenery":[{"id":"note","type":"picture","picture":"pic","alt":"A note","frame":{"x":5,"y":6,"w":70,"h":80}}],"order":["note","chain","box"],
		"replies":[{"id":"a","moment":"placed","when":{"any":[{"item":"chain","in":"box"}]}},{"id":"b","moment":"placed","when":{"piece":{"tags":["spare"]}},"point":["chain","right"]},{"id":"c","moment":"done","when":{"target":"lane","is":"right"}}],
		"marks":{"cells":{"chain/box":{"weight":2}}},
		"key":{"solutions":[{"right":{"box":{"items":["chain"]},"lane":{"items":["bell","hub"]}},"needs":[{"target":"box","of":{"items":["chain"]},"min":1}],
			"orders":[{"target":"lane","tiers":[["bell"],["hub"]]}]}]}}`))
	if faults != nil {
		t.Fatal(faults)
	}
	return doc
}
