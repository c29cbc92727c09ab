package edit

import (
	"cmp"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/message"
)

func takenIDs(d *activity.Doc) (items, targets, scenery map[string]bool) {
	items, targets, scenery = map[string]bool{}, map[string]bool{}, map[string]bool{}
	for _, x := range d.Items {
		items[x.ID] = true
	}
	for _, x := range d.Targets {
		targets[x.ID] = true
	}
	for _, x := range d.Scenery {
		scenery[x.ID] = true
	}
	return items, targets, scenery
}

// AddItems adds an item for each name, last, and says which they are.
func AddItems(d *activity.Doc, names []string) (*activity.Doc, activity.Selection) {
	out := d.Clone()
	items, _, _ := takenIDs(out)
	var made activity.Selection
	for _, name := range names {
		id := activity.FreshID(items, name)
		it := activity.NewItem(id, name)
		it.Size = SizeFor(d, name)
		out.Items = append(out.Items, it)
		made.Items = append(made.Items, id)
	}
	return out, made
}

// SizeFor is the size that a new piece with these words has here: that of the word in
// gap text, that of the others where they are all alike, else wide enough for it.
func SizeFor(d *activity.Doc, name string) geometry.Size {
	if d.HasGaps() {
		return geometry.Size{W: wordWidth(name), H: 3600}
	}
	size := activity.NewItem("", "").Size
	if len(d.Items) > 0 {
		size = d.Items[0].Size
		for _, it := range d.Items {
			if it.Size != size {
				size = activity.NewItem("", "").Size
				break
			}
		}
	}
	if n := len([]rune(name)); n > 14 && size.W < 24000 {
		size.W = max(size.W, min(24000, 3000+activity.U(n)*800))
	}
	return size
}

// AddTargets adds a target for each name, like the last one there is in size and in how
// pieces stand in it, each at
// the first place, row by row from the left upper corner, where it lies over no other; on
// a board that is full, smaller.
func AddTargets(d *activity.Doc, names []string) (*activity.Doc, activity.Selection) {
	out := d.Clone()
	_, targets, _ := takenIDs(out)
	var made activity.Selection
	size := geometry.Size{W: 20000, H: 14000}
	if n := len(out.Targets); n > 0 && out.Targets[n-1].Shape != activity.ShapePolygon {
		size = geometry.Size{W: out.Targets[n-1].Frame.W, H: out.Targets[n-1].Frame.H}
	}
	for _, name := range names {
		t := activity.NewTarget(activity.FreshID(targets, name), name)
		LikeOthers(out, &t)
		t.Frame = room(out, size)
		out.Targets = append(out.Targets, t)
		made.Targets = append(made.Targets, t.ID)
	}
	return out, made
}

// LikeOthers lets a new target take pieces as the last one that there is does, unless that
// is a lane.
func LikeOthers(d *activity.Doc, t *activity.Target) {
	if n := len(d.Targets); n > 0 && !d.Targets[n-1].Ordered {
		like := &d.Targets[n-1]
		t.Label.Side, t.Holds, t.WhenFull, t.Arrange = like.Label.Side, like.Holds, like.WhenFull, like.Arrange
	}
}

// room is a place for a target of a size, clear of the others and of their labels, or
// smaller where there is none. Cost: places tried × targets.
func room(d *activity.Doc, size geometry.Size) geometry.Rect {
	const step = 2000
	for _, percent := range []activity.U{100, 75, 50, 30, 20, 0} {
		around, label := activity.U(2000), activity.U(1600)
		if percent == 0 { // the board is full: close to one another
			around, label = 0, 0
		}
		r := geometry.Rect{W: max(2400, size.W*percent/100), H: max(2400, size.H*percent/100)}
		for r.Y = 4000; r.Y+r.H <= d.Board.Height; r.Y += step {
		next:
			for r.X = 4000; r.X+r.W <= d.Board.Width; r.X += step {
				for i := range d.Targets {
					f := d.Targets[i].Frame
					if r.X < f.X+f.W+around && f.X < r.X+r.W+around && r.Y < f.Y+f.H+around+label && f.Y < r.Y+r.H+around+label {
						continue next
					}
				}
				return r
			}
		}
	}
	return geometry.Rect{X: 4000, Y: 4000, W: min(size.W, d.Board.Width), H: min(size.H, d.Board.Height)}
}

// Duplicate copies parts, a little aside, each behind its original. A copy counts
// as its original does: where that is named in a selector, so is the copy; a copied
// target lets in and counts as right what its original does.
func Duplicate(d *activity.Doc, s activity.Selection) (*activity.Doc, activity.Selection) {
	out := d.Clone()
	items, targets, scenery := takenIDs(out)
	var made activity.Selection
	copies := map[string]string{}
	const aside = 2400
	for i := 0; i < len(out.Items); i++ {
		if it := out.Items[i]; slices.Contains(s.Items, it.ID) {
			id := activity.FreshID(items, it.ID)
			copies[it.ID] = id
			it.ID = id
			if it.Home != nil {
				it.Home = &activity.Point{X: min(it.Home.X+aside, out.Board.Width-it.Size.W), Y: min(it.Home.Y+aside, out.Board.Height-it.Size.H)}
			}
			i++
			out.Items = slices.Insert(out.Items, i, it)
			made.Items = append(made.Items, id)
		}
	}
	for i := 0; i < len(out.Targets); i++ {
		if t := out.Targets[i]; slices.Contains(s.Targets, t.ID) {
			was := t.ID
			t.ID = activity.FreshID(targets, was)
			dx, dy := min(aside, out.Board.Width-t.Frame.X-t.Frame.W), min(aside, out.Board.Height-t.Frame.Y-t.Frame.H)
			t.Frame.X, t.Frame.Y = t.Frame.X+dx, t.Frame.Y+dy
			t.Points = slices.Clone(t.Points)
			for k := range t.Points {
				t.Points[k][0], t.Points[k][1] = t.Points[k][0]+dx, t.Points[k][1]+dy
			}
			i++
			out.Targets = slices.Insert(out.Targets, i, t)
			made.Targets = append(made.Targets, t.ID)
			for k := range out.Key.Solutions {
				if sel, ok := out.Key.Solutions[k].Right[was]; ok {
					out.Key.Solutions[k].Right[t.ID] = sel
				}
			}
		}
	}
	for i := 0; i < len(out.Scenery); i++ {
		if x := out.Scenery[i]; slices.Contains(s.Scenery, x.ID) {
			x.ID = activity.FreshID(scenery, x.ID)
			shift(&x, aside, aside)
			i++
			out.Scenery = slices.Insert(out.Scenery, i, x)
			made.Scenery = append(made.Scenery, x.ID)
		}
	}
	selectors(out, func(sel *activity.Selector) {
		for _, list := range []*[]string{&sel.Items, &sel.Except} {
			for _, id := range slices.Clone(*list) {
				if c, ok := copies[id]; ok {
					*list = append(*list, c)
				}
			}
		}
	})
	return out, made
}

func shift(x *activity.Scenery, dx, dy activity.U) {
	if x.Frame != nil {
		f := *x.Frame
		f.X, f.Y = f.X+dx, f.Y+dy
		x.Frame = &f
	}
	if x.From != nil && x.To != nil {
		x.From, x.To = &activity.Point{X: x.From.X + dx, Y: x.From.Y + dy}, &activity.Point{X: x.To.X + dx, Y: x.To.Y + dy}
	}
}

// Recast makes parts into items, targets or scenery and back, keeping place, size,
// picture and name. What only the old role had goes with it; lost says so in words.
func Recast(d *activity.Doc, s activity.Selection, to string) (out *activity.Doc, made activity.Selection, lost []message.Sentence) {
	type face struct {
		name, text, picture, alt string
		frame                    geometry.Rect
		shape                    activity.Shape
		points                   []geometry.Vertex // in hundredths of the frame
		style                    *activity.Style
	}
	var faces []face
	take := activity.Selection{}
	for _, it := range d.Items {
		if slices.Contains(s.Items, it.ID) && to != "item" {
			at := geometry.Centred(d.Board.Width/2, d.Board.Height/2, it.Size.W, it.Size.H)
			if it.Home != nil {
				at.X, at.Y = it.Home.X, it.Home.Y
			}
			f := face{it.Name, it.Text, it.Picture, it.Alt, at, "", nil, nil}
			if f.style = activity.RestStyle(it.Looks.Points()); f.style != nil {
				f.shape, f.points = f.style.Shape, f.style.Points
			}
			faces = append(faces, f)
			take.Items = append(take.Items, it.ID)
		}
	}
	for _, t := range d.Targets {
		if slices.Contains(s.Targets, t.ID) && to != "target" {
			faces = append(faces, face{t.Name, t.Label.Text, "", "", t.Frame, t.Shape, spread(t.Points, t.Frame, geometry.Rect{W: 10000, H: 10000}), nil})
			take.Targets = append(take.Targets, t.ID)
		}
	}
	for _, x := range d.Scenery {
		if slices.Contains(s.Scenery, x.ID) && to != "scenery" && x.Frame != nil {
			faces = append(faces, face{cmp.Or(x.Alt, x.Text, spelt(x.ID)), x.Text, x.Picture, x.Alt, *x.Frame, drawnAs[x.Type], nil, x.Style})
			take.Scenery = append(take.Scenery, x.ID)
		}
	}
	out, lost = Remove(d, take)
	items, targets, scenery := takenIDs(out)
	for _, f := range faces {
		name := cmp.Or(f.name, f.text)
		switch to {
		case "item":
			it := activity.NewItem(activity.FreshID(items, name), name)
			it.Text, it.Picture, it.Alt = f.text, f.picture, f.alt
			it.Size = geometry.Size{W: f.frame.W, H: f.frame.H}
			it.Home = &activity.Point{X: f.frame.X, Y: f.frame.Y}
			it.Looks = shaped(f.shape, f.points, f.style)
			out.Items = append(out.Items, it)
			made.Items = append(made.Items, it.ID)
		case "target":
			t := activity.NewTarget(activity.FreshID(targets, name), name)
			t.Frame = f.frame
			if f.shape != "" {
				t.Shape, t.Points = f.shape, spread(f.points, geometry.Rect{W: 10000, H: 10000}, f.frame)
			}
			out.Targets = append(out.Targets, t)
			made.Targets = append(made.Targets, t.ID)
		default:
			x := activity.NewScenery("", "")
			x.ID, x.Type, x.Text, x.Picture, x.Alt = activity.FreshID(scenery, name), activity.SceneryTypeText, cmp.Or(f.text, f.name), f.picture, cmp.Or(f.alt, f.name)
			if f.picture != "" {
				x.Type, x.Text = activity.SceneryTypePicture, ""
			} else {
				x.Alt = ""
			}
			if f.style != nil {
				style := *f.style
				style.Shape, style.Points, x.Style = "", nil, &style
				if as := map[activity.Shape]activity.SceneryType{activity.ShapeRect: activity.SceneryTypeBox, activity.ShapeEllipse: activity.SceneryTypeEllipse}[f.shape]; as != "" && f.picture == "" {
					x.Type, x.Text = as, f.text
				}
			}
			x.Frame, x.Pinned = &f.frame, true
			out.Scenery = append(out.Scenery, x)
			made.Scenery = append(made.Scenery, x.ID)
		}
	}
	return out, made, lost
}

// spelt is a name made of an id: "ellipse-2" is Ellipse 2.
func spelt(id string) string {
	words := strings.ReplaceAll(id, "-", " ")
	return strings.ToUpper(words[:1]) + words[1:]
}

// drawnAs is the shape in which a drawn part is drawn.
var drawnAs = map[activity.SceneryType]activity.Shape{activity.SceneryTypeBox: activity.ShapeRect, activity.SceneryTypeEllipse: activity.ShapeEllipse}

// shaped are the looks of a piece that is drawn as something was that is no piece: with
// its shape, its fill and its edge. A rectangle without a style is a card.
func shaped(shape activity.Shape, points []geometry.Vertex, style *activity.Style) *activity.ItemLooks {
	if style == nil && (shape == "" || shape == activity.ShapeRect) {
		return nil
	}
	s := activity.Style{Card: true, Crop: activity.CropNone}
	if style != nil {
		s = *style
	}
	s.Shape, s.Points = shape, points
	return &activity.ItemLooks{Rest: &activity.Look{Style: &s}}
}

// spread carries points from one frame over to another.
func spread(points []geometry.Vertex, from, to geometry.Rect) []geometry.Vertex {
	var out []geometry.Vertex
	for _, p := range points {
		out = append(out, geometry.Vertex{to.X + (p[0]-from.X)*to.W/from.W, to.Y + (p[1]-from.Y)*to.H/from.H})
	}
	return out
}
