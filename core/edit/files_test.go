package edit_test

import (
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
)

// Files go to the items that are called so, else to those of a range in their order, and
// only where neither takes them they become items.
func TestFilesAreTaken(t *testing.T) {
	with := func(names ...string) *activity.Doc {
		d, _ := edit.AddItems(workbench(t), names)
		d.Items = d.Items[len(d.Items)-len(names):]
		return d
	}
	story := func(d *activity.Doc) string {
		var out []string
		for _, it := range d.Items {
			out = append(out, it.Name+"="+it.Picture+it.Sound)
		}
		return strings.Join(out, " ")
	}
	picture := func(id, name string) edit.File { return edit.File{ID: id, Name: name, Width: 100, Height: 100} }
	sound := func(id, name string) edit.File { return edit.File{ID: id, Name: name, Sound: true} }
	for _, x := range []struct {
		name  string
		files []edit.File
		first int // of the items are the range
		want  string
		made  int
	}{
		{"by name", []edit.File{picture("1", "BELL"), sound("2", "Chain")}, 0, "Bell=1 Chain=2 Rim=", 0},
		{"in the order of a range", []edit.File{picture("1", "img 1"), picture("2", "img 2"), sound("3", "say 1"), sound("4", "say 2")}, 2, "Bell=13 Chain=24 Rim=", 0},
		{"by name before order", []edit.File{picture("1", "Rim"), picture("2", "img")}, 2, "Bell=2 Chain= Rim=1", 0},
		{"more than the range", []edit.File{picture("1", "a"), picture("2", "b"), picture("3", "c")}, 2, "Bell= Chain= Rim= a=1 b=2 c=3", 3},
		{"new ones", []edit.File{picture("1", "Hub"), sound("2", "Hub")}, 0, "Bell= Chain= Rim= Hub=12", 1},
	} {
		t.Run(x.name, func(t *testing.T) {
			doc, to := with("Bell", "Chain", "Rim"), []string{}
			for _, it := range doc.Items[:x.first] {
				to = append(to, it.ID)
			}
			out, made := edit.TakeFiles(doc, x.files, to, false)
			if got := story(out); got != x.want || len(made.Items) != x.made {
				t.Errorf("%s, %d made", got, len(made.Items))
			}
		})
	}
}
