package edit

import (
	"slices"

	"keenmagpie/core/activity"
)

// Keep is the document with the selected parts alone, and with the cells and needs
// that are between them: what is copied to be pasted elsewhere.
func Keep(d *activity.Doc, s activity.Selection) *activity.Doc {
	rest := activity.Selection{}
	for _, x := range d.Items {
		if !slices.Contains(s.Items, x.ID) {
			rest.Items = append(rest.Items, x.ID)
		}
	}
	for _, x := range d.Targets {
		if !slices.Contains(s.Targets, x.ID) {
			rest.Targets = append(rest.Targets, x.ID)
		}
	}
	for _, x := range d.Scenery {
		if !slices.Contains(s.Scenery, x.ID) {
			rest.Scenery = append(rest.Scenery, x.ID)
		}
	}
	out, _ := Remove(d, rest)
	return out
}

// Insert puts the parts of another document into this one, moved by so much, with
// ids of their own, and says which they are. What is right there under a solution is
// right here under the one of the same number, as far as there is one; replies,
// play and marks stay this document's.
func Insert(d *activity.Doc, from *activity.Doc, dx, dy activity.U) (*activity.Doc, activity.Selection) {
	out, in := d.Clone(), from.Clone()
	items, targets, scenery := takenIDs(out)
	rename, groups := map[string]string{}, map[string]string{}
	group := func(p *activity.Part) {
		if p.Group == "" {
			return
		}
		if groups[p.Group] == "" {
			taken := map[string]bool{}
			for _, g := range groupsOf(out) {
				taken[g] = true
			}
			groups[p.Group] = activity.FreshID(taken, p.Group)
		}
		p.Group = groups[p.Group]
	}
	var made activity.Selection
	for _, it := range in.Items {
		id := activity.FreshID(items, it.ID)
		rename["item "+it.ID] = id
		it.ID = id
		group(&it.Part)
		if it.Home != nil {
			it.Home = &activity.Point{X: within(it.Home.X+dx, it.Size.W, out.Board.Width), Y: within(it.Home.Y+dy, it.Size.H, out.Board.Height)}
		}
		out.Items = append(out.Items, it)
		made.Items = append(made.Items, id)
	}
	for _, t := range in.Targets {
		id := activity.FreshID(targets, t.ID)
		rename["target "+t.ID] = id
		t.ID = id
		group(&t.Part)
		x, y := within(t.Frame.X+dx, t.Frame.W, out.Board.Width), within(t.Frame.Y+dy, t.Frame.H, out.Board.Height)
		for k := range t.Points {
			t.Points[k][0], t.Points[k][1] = t.Points[k][0]+x-t.Frame.X, t.Points[k][1]+y-t.Frame.Y
		}
		t.Frame.X, t.Frame.Y = x, y
		out.Targets = append(out.Targets, t)
		made.Targets = append(made.Targets, id)
	}
	for _, x := range in.Scenery {
		x.ID = activity.FreshID(scenery, x.ID)
		group(&x.Part)
		shift(&x, dx, dy)
		x.Tie = rename["target "+x.Tie]
		x.Text = bracketed.ReplaceAllStringFunc(x.Text, func(s string) string {
			if id := rename["target "+s[2:len(s)-2]]; id != "" {
				return "[[" + id + "]]"
			}
			return s
		})
		out.Scenery = append(out.Scenery, x)
		made.Scenery = append(made.Scenery, x.ID)
	}
	// A selector of the other document picks what it picked there, by name: its tags
	// could pick more here.
	chosen := func(sel activity.Selector) activity.Selector {
		var list []string
		for i := range from.Items {
			if sel.Selects(&from.Items[i]) {
				list = append(list, rename["item "+from.Items[i].ID])
			}
		}
		return activity.Selector{Items: list}
	}
	for i := range out.Key.Solutions {
		if i >= len(from.Key.Solutions) {
			break
		}
		sol := &out.Key.Solutions[i]
		if sol.Right == nil {
			sol.Right = map[string]activity.Selector{}
		}
		for id, sel := range from.Key.Solutions[i].Right {
			sol.Right[rename["target "+id]] = chosen(sel)
		}
		for _, n := range from.Key.Solutions[i].Needs {
			n.Target, n.Of = rename["target "+n.Target], chosen(n.Of)
			sol.Needs = append(sol.Needs, n)
		}
		for _, o := range from.Key.Solutions[i].Orders {
			order := activity.Order{Target: rename["target "+o.Target]}
			for _, tier := range o.Tiers {
				order.Tiers = append(order.Tiers, renamed(tier, rename))
			}
			for _, pair := range o.Before {
				order.Before = append(order.Before, renamed(pair, rename))
			}
			sol.Orders = append(sol.Orders, order)
		}
	}
	for i, t := range from.Targets {
		if lets := &out.Targets[len(d.Targets)+i].Lets; !t.Lets.All {
			*lets = chosen(t.Lets)
		} else {
			lets.Except = renamed(t.Lets.Except, rename)
		}
	}
	return out, made
}

func renamed(items []string, rename map[string]string) []string {
	out := make([]string, len(items))
	for i, id := range items {
		out[i] = rename["item "+id]
	}
	return out
}

func within(at, size, room activity.U) activity.U { return max(0, min(at, room-size)) }

func groupsOf(d *activity.Doc) []string {
	var out []string
	for _, x := range d.Items {
		out = append(out, x.Group)
	}
	for _, x := range d.Targets {
		out = append(out, x.Group)
	}
	for _, x := range d.Scenery {
		out = append(out, x.Group)
	}
	return out
}

// Swap puts other words and pictures into the same board: each row's face onto the
// item of its number or name, all else (places, cells, replies, marks) as it was, with the
// new names wherever the old ones are written: in replies, hints, texts, descriptions and
// tags, and with ids made of the new names where they were made of the old ones. What no
// row is for keeps its face.
func Swap(d *activity.Doc, faces []Face) *activity.Doc {
	out := d.Clone()
	names := newRenaming()
	for _, f := range faces {
		if it := out.Item(f.Item); it != nil {
			names.add(it.Name, f.Name)
			names.add(it.Text, f.Text)
			it.Name, it.Text, it.Picture, it.Alt = f.Name, f.Text, f.Picture, f.Alt
			it.Sound, it.Transcript = f.Sound, f.Transcript
		} else if t := out.Target(f.Target); t != nil {
			names.add(t.Name, f.Name)
			t.Name = f.Name
			if t.Label.Text != "" {
				t.Label.Text = f.Text
			}
		}
	}
	names.everywhere(out)
	likeNames(out, d)
	return out
}

// Face is what an item or a target shows, for [Swap].
type Face struct {
	Item       string `json:"item"`
	Target     string `json:"target"`
	Name       string `json:"name"`
	Text       string `json:"text"`
	Picture    string `json:"picture"`
	Alt        string `json:"alt"`
	Sound      string `json:"sound"`
	Transcript string `json:"transcript"`
}
