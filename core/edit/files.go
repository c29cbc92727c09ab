package edit

import (
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
)

// File is a picture or a sound that was uploaded, and what it is called.
type File struct {
	ID     string     `json:"id"`
	Name   string     `json:"name"`
	Sound  bool       `json:"sound"`
	Width  activity.U `json:"width"` // of a picture; 0 where it does not say
	Height activity.U `json:"height"`
}

// TakeFiles gives each file to the item that is called so. The others go in their order to
// the items of a range, where there is one and it has one for each of their kind; else an
// item is made of each, and made are those. A new item with a picture shows that alone, in
// its proportion. What an item with a new picture had for a frame stays.
// With cards, pictures and sounds are those of the cards that open when pieces of the
// items are placed right.
func TakeFiles(d *activity.Doc, files []File, to []string, cards bool) (*activity.Doc, activity.Selection) {
	out := d.Clone()
	taken, _, _ := takenIDs(out)
	var made activity.Selection
	fresh := map[string]bool{}
	called := func(f File) int {
		return slices.IndexFunc(out.Items, func(it activity.Item) bool { return strings.EqualFold(it.Name, f.Name) })
	}
	rest := map[bool]int{}
	for _, f := range files {
		if called(f) < 0 {
			rest[f.Sound]++
		}
	}
	given := map[bool]int{}
	for _, f := range files {
		at := called(f)
		if at < 0 && (len(to) > 1 || cards) && rest[f.Sound] <= len(to) {
			at = slices.IndexFunc(out.Items, func(it activity.Item) bool { return it.ID == to[given[f.Sound]] })
			given[f.Sound]++
		}
		if at < 0 {
			id := activity.FreshID(taken, f.Name)
			it := activity.NewItem(id, f.Name)
			it.Size = SizeFor(d, f.Name)
			out.Items = append(out.Items, it)
			made.Items, fresh[id], at = append(made.Items, id), true, len(out.Items)-1
		}
		it := &out.Items[at]
		if cards && !fresh[it.ID] {
			says := SaidOf(out, it.ID, activity.ResultRight)
			if f.Sound {
				says.Sound = f.ID
			} else {
				says.Picture = f.ID
			}
			SetCard(out, it.ID, says)
			continue
		}
		if f.Sound {
			it.Sound = f.ID
			continue
		}
		it.Picture = f.ID
		if fresh[it.ID] {
			it.Text, it.Alt, it.Size = "", f.Name, PictureSize(f.Width, f.Height)
		}
	}
	return out, made
}

// PictureSize is the size of a new piece with a picture: its proportion in a box of 120
// by 112.
func PictureSize(width, height activity.U) geometry.Size {
	const w, h = 12000, 11200
	if width <= 0 || height <= 0 {
		return geometry.Size{W: w, H: h}
	}
	if width*h > height*w {
		return geometry.Size{W: w, H: max(geometry.Smallest, (height*w/width+50)/100*100)}
	}
	return geometry.Size{W: max(geometry.Smallest, (width*h/height+50)/100*100), H: h}
}
