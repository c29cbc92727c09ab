package activity

import (
	"slices"

	"keenmagpie/core/richtext"
)

// Keep is the document with the selected parts alone, and with the cells and needs
// that are between them: what is copied to be pasted elsewhere.
func (d *Doc) Keep(s Selection) *Doc {
	rest := Selection{}
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
	out, _ := d.Remove(rest)
	return out
}

// Insert puts the parts of another document into this one, moved by so much, with
// ids of their own, and says which they are. What is right there under a solution is
// right here under the one of the same number, as far as there is one; replies,
// play and marks stay this document's.
func (d *Doc) Insert(from *Doc, dx, dy U) (*Doc, Selection) {
	out, in := d.Clone(), from.Clone()
	items, targets, scenery := out.takenIDs()
	rename, groups := map[string]string{}, map[string]string{}
	group := func(p *Part) {
		if p.Group == "" {
			return
		}
		if groups[p.Group] == "" {
			taken := map[string]bool{}
			for _, g := range out.groups() {
				taken[g] = true
			}
			groups[p.Group] = FreshID(taken, p.Group)
		}
		p.Group = groups[p.Group]
	}
	var made Selection
	for _, it := range in.Items {
		id := FreshID(items, it.ID)
		rename["item "+it.ID] = id
		it.ID = id
		group(&it.Part)
		if it.Home != nil {
			it.Home = &Point{within(it.Home.X+dx, it.Size.W, out.Board.Width), within(it.Home.Y+dy, it.Size.H, out.Board.Height)}
		}
		out.Items = append(out.Items, it)
		made.Items = append(made.Items, id)
	}
	for _, t := range in.Targets {
		id := FreshID(targets, t.ID)
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
		x.ID = FreshID(scenery, x.ID)
		group(&x.Part)
		x.shift(dx, dy)
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
	chosen := func(sel Selector) Selector {
		var list []string
		for i := range from.Items {
			if sel.Selects(&from.Items[i]) {
				list = append(list, rename["item "+from.Items[i].ID])
			}
		}
		return Selector{Items: list}
	}
	for i := range out.Key.Solutions {
		if i >= len(from.Key.Solutions) {
			break
		}
		sol := &out.Key.Solutions[i]
		if sol.Right == nil {
			sol.Right = map[string]Selector{}
		}
		for id, sel := range from.Key.Solutions[i].Right {
			sol.Right[rename["target "+id]] = chosen(sel)
		}
		for _, n := range from.Key.Solutions[i].Needs {
			n.Target, n.Of = rename["target "+n.Target], chosen(n.Of)
			sol.Needs = append(sol.Needs, n)
		}
		for _, o := range from.Key.Solutions[i].Orders {
			order := Order{Target: rename["target "+o.Target]}
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

func within(at, size, room U) U { return max(0, min(at, room-size)) }

func (d *Doc) groups() []string {
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
// item of its number or name, all else (places, cells, replies, marks) as it was.
// What no row is for keeps its face.
func (d *Doc) Swap(faces []Face) *Doc {
	out := d.Clone()
	for _, f := range faces {
		if it := out.Item(f.Item); it != nil {
			it.Name, it.Text, it.Picture, it.Alt = f.Name, f.Text, f.Picture, f.Alt
			it.Sound, it.Transcript = f.Sound, f.Transcript
		} else if t := out.Target(f.Target); t != nil {
			t.Name = f.Name
			if t.Label.Text != "" {
				t.Label.Text = f.Text
			}
		}
	}
	return out
}

// Face is what an item or a target shows, for [Doc.Swap].
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

// HasGaps reports whether a text of the board has gaps.
func (d *Doc) HasGaps() bool {
	return slices.ContainsFunc(d.Scenery, func(x Scenery) bool { return len(richtext.Gaps(x.Text)) > 0 })
}
