package activity_test

import (
	"strings"
	"testing"

	"keenmagpie/core/activity"
)

func TestWhatChangedIsSaidInWords(t *testing.T) {
	for name, c := range map[string]struct {
		change func(*activity.Doc)
		want   string
	}{
		"nothing":        {func(*activity.Doc) {}, ""},
		"the title":      {func(d *activity.Doc) { d.Title = "Two boxes" }, "title: Two boxes"},
		"an item":        {func(d *activity.Doc) { d.Items[0].Text, d.Items[0].Weight = "Links", 2 }, "Chain: text, weight"},
		"an item gone":   {func(d *activity.Doc) { out, _ := d.Remove(activity.Selection{Items: []string{"hub"}}); *d = *out }, "1 item taken away: Hub; needs and orders"},
		"items added":    {func(d *activity.Doc) { out, _ := d.AddItems([]string{"A", "B", "C", "D", "E"}); *d = *out }, "5 items added: A, B, C and 2 more"},
		"their order":    {func(d *activity.Doc) { d.Items[0], d.Items[1] = d.Items[1], d.Items[0] }, "order of items"},
		"what is right":  {func(d *activity.Doc) { out, _ := d.SetCells(0, []string{"bell"}, []string{"box"}, true); *d = *out }, "Box: lets; what is right: 1 cell; needs and orders"},
		"play and marks": {func(d *activity.Doc) { d.Play.Attempts, d.Marks.Points = 3, 500 }, "play settings; marks"},
		"a solution":     {func(d *activity.Doc) { d.Key.Solutions = append(d.Key.Solutions, activity.Solution{}) }, "2 solutions instead of 1"},
		"scenery":        {func(d *activity.Doc) { d.Scenery[0].Alt = "Another" }, "Another: alt"},
	} {
		before, after := workbench(t), workbench(t)
		c.change(after)
		if got := strings.Join(activity.Differences(before, after), "; "); got != c.want {
			t.Errorf("%s: %q, want %q", name, got, c.want)
		}
	}
}
