package qti

import (
	"cmp"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/reply"
	"keenmagpie/core/richtext"
)

// body is what the learner sees.
func (x *exporting) body() []*node {
	var list []*node
	if x.doc.Instructions != "" {
		list = append(list, el("div", nil, x.blocks(richtext.Read(x.doc.Instructions), nil)...))
	}
	if x.kind != gapMatch {
		list = append(list, x.sceneryBesides()...)
	}
	shuffle := strconv.FormatBool(x.doc.Play.Shuffle)
	switch x.kind {
	case ordering:
		orientation := "vertical"
		if lane := x.doc.Targets[x.lane].Frame; lane.W > lane.H {
			orientation = "horizontal"
		}
		n := el(ordering, at("response-identifier", response, "class", below, "orientation", orientation, "shuffle", shuffle))
		for _, c := range x.choices {
			n.add(el("qti-simple-choice", at("identifier", c.id), x.face(c.item)...))
		}
		return append(list, n)
	case gapMatch:
		n := el(gapMatch, at("response-identifier", response, "class", below, "shuffle", shuffle, "min-associations", "0", "max-associations", "0"))
		n.add(x.dragged("qti-gap-text", "qti-gap-img")...)
		return append(list, n.add(x.gapText()...))
	case graphicGaps:
		n := el(graphicGaps, at("response-identifier", response, "class", below, "min-associations", "0", "max-associations", "0"))
		p := x.picture()
		n.add(x.image(p.Picture, p.Alt, pixels(p.Frame.W), pixels(p.Frame.H)))
		n.add(x.dragged("qti-gap-text", "qti-gap-img")...)
		for t := range x.doc.Targets {
			target := &x.doc.Targets[t]
			shape, coords := x.shape(target, p)
			n.add(el("qti-associable-hotspot", at("identifier", x.target[t], "match-max", strconv.Itoa(target.Holds), "match-group", x.group(t), "shape", shape, "coords", coords, "hotspot-label", cmp.Or(reply.Called(target), target.Alt))))
		}
		return append(list, n)
	}
	n := el(matching, at("response-identifier", response, "class", below, "shuffle", shuffle, "min-associations", "0", "max-associations", "0"))
	first, second := el("qti-simple-match-set", nil), el("qti-simple-match-set", nil)
	for _, c := range x.choices {
		first.add(el("qti-simple-associable-choice", at("identifier", c.id, "match-max", strconv.Itoa(c.most)), x.face(c.item)...))
	}
	for t := range x.doc.Targets {
		target := &x.doc.Targets[t]
		second.add(el("qti-simple-associable-choice", at("identifier", x.target[t], "match-max", strconv.Itoa(target.Holds), "match-group", x.group(t)), txt(cmp.Or(reply.Called(target), target.Alt, target.ID))))
	}
	return append(list, n.add(first, second))
}

// below is the class of the shared vocabulary that has choices lie under what they go to, as the
// tray does here.
const below = "qti-choices-bottom"

// group lists what a target lets in, where that is not everything.
func (x *exporting) group(t int) string {
	ids := []string{}
	for _, c := range x.choices {
		if x.parts.LetsIn(t, c.item) {
			ids = append(ids, c.id)
		}
	}
	if len(ids) == len(x.choices) {
		return ""
	}
	if len(ids) == 0 {
		return "nothing"
	}
	return strings.Join(ids, " ")
}

// dragged are the choices of gap match and graphic gap match.
func (x *exporting) dragged(text, picture string) (list []*node) {
	for _, c := range x.choices {
		it := &x.doc.Items[c.item]
		most := strconv.Itoa(c.most)
		if it.Picture != "" {
			n := el(picture, at("identifier", c.id, "match-max", most, "object-label", reply.Spoken(it)), x.image(it.Picture, cmp.Or(it.Alt, reply.Spoken(it)), pixels(it.Size.W), pixels(it.Size.H)))
			list = append(list, n)
			if it.Text != "" {
				x.lose(it.ID, "text-beside-picture", "“%s” has a text and a picture: the text is there as the picture’s label.", reply.Spoken(it))
			}
			continue
		}
		list = append(list, el(text, at("identifier", c.id, "match-max", most), txt(reply.Spoken(it))))
	}
	return list
}

// face is what an item shows, in places that take anything.
func (x *exporting) face(i int) (list []*node) {
	it := &x.doc.Items[i]
	if it.Picture != "" {
		list = append(list, x.image(it.Picture, it.Alt, pixels(it.Size.W), pixels(it.Size.H)))
	}
	if it.Text != "" {
		list = append(list, txt(it.Text))
	}
	if len(list) == 0 {
		list = append(list, txt(reply.Spoken(it)))
	}
	return list
}

// image shows a medium.
func (x *exporting) image(id, alt, width, height string) *node {
	src := "media/" + id
	if m, ok := x.media[id]; ok {
		src = "media/" + m.Name()
	}
	return el("img", at("src", cmp.Or(x.files[id], src), "width", width, "height", height)).addAttr("alt", alt)
}

func (n *node) addAttr(name, value string) *node {
	n.attr = append(n.attr, attr{name, value})
	return n
}

// pixels are board units as whole pixels.
func pixels(u activity.U) string { return strconv.Itoa(int((u + 50) / 100)) }

// shape is a target over a picture, in the picture's pixels.
func (x *exporting) shape(t *activity.Target, over *activity.Scenery) (shape, coords string) {
	left, top := over.Frame.X, over.Frame.Y
	f := t.Frame
	join := func(list ...activity.U) string {
		out := []string{}
		for _, u := range list {
			out = append(out, pixels(u))
		}
		return strings.Join(out, ",")
	}
	switch {
	case t.Shape == activity.ShapePolygon:
		list := []activity.U{}
		for _, p := range t.Points {
			list = append(list, p[0]-left, p[1]-top)
		}
		return "poly", join(list...)
	case t.Shape == activity.ShapeEllipse && f.W == f.H:
		return "circle", join(f.X-left+f.W/2, f.Y-top+f.H/2, f.W/2)
	case t.Shape == activity.ShapeEllipse:
		return "ellipse", join(f.X-left+f.W/2, f.Y-top+f.H/2, f.W/2, f.H/2)
	}
	return "rect", join(f.X-left, f.Y-top, f.X-left+f.W, f.Y-top+f.H)
}

// sceneryBesides is what stands on the board besides the picture that the targets lie over.
func (x *exporting) sceneryBesides() (list []*node) {
	over := (*activity.Scenery)(nil)
	if x.kind == graphicGaps {
		over = x.picture()
	}
	for i := range x.doc.Scenery {
		s := &x.doc.Scenery[i]
		switch {
		case over != nil && s.Picture == over.Picture:
		case s.Type == activity.SceneryTypePicture && s.Picture != "" && s.Frame != nil:
			list = append(list, el("p", nil, x.image(s.Picture, s.Alt, pixels(s.Frame.W), pixels(s.Frame.H))))
		case s.Text != "":
			list = append(list, el("div", nil, x.blocks(richtext.Read(s.Text), nil)...))
		default:
			x.lose(s.ID, "drawing", "The %s “%s” on the board is not there.", s.Type, s.ID)
		}
	}
	return list
}

// gapText are the texts with their gaps, as paragraphs.
func (x *exporting) gapText() (list []*node) {
	placed := map[string]bool{}
	gap := func(id string) *node {
		t, ok := x.parts.Target(id)
		if !ok || placed[id] {
			return nil
		}
		placed[id] = true
		return el("qti-gap", at("identifier", x.target[t], "match-group", x.group(t)))
	}
	for i := range x.doc.Scenery {
		s := &x.doc.Scenery[i]
		if s.Text != "" {
			list = append(list, el("div", nil, x.blocks(richtext.Read(s.Text), gap)...))
		} else if s.Picture != "" && s.Frame != nil {
			list = append(list, el("p", nil, x.image(s.Picture, s.Alt, pixels(s.Frame.W), pixels(s.Frame.H))))
		}
	}
	for _, t := range x.doc.Targets {
		if !placed[t.ID] {
			list = append(list, el("p", nil, txt(cmp.Or(reply.Called(&t), t.ID)+": "), gap(t.ID)))
		}
	}
	return list
}

// blocks and inline write rich text as HTML.
func (x *exporting) blocks(list []richtext.Node, gap func(string) *node) (out []*node) {
	for _, b := range list {
		switch b.Kind {
		case richtext.List, richtext.Numbered:
			n := el(map[string]string{richtext.List: "ul", richtext.Numbered: "ol"}[b.Kind], nil)
			for _, e := range b.Children {
				n.add(el("li", nil, x.inline(e.Children, gap)...))
			}
			out = append(out, n)
		default:
			out = append(out, el("p", nil, x.inline(b.Children, gap)...))
		}
	}
	return out
}

func (x *exporting) inline(list []richtext.Node, gap func(string) *node) (out []*node) {
	for _, n := range list {
		switch n.Kind {
		case richtext.Text:
			out = append(out, txt(n.Text))
		case richtext.Break:
			out = append(out, el("br", nil))
		case richtext.Emphasis:
			out = append(out, el("em", nil, x.inline(n.Children, gap)...))
		case richtext.Strong:
			out = append(out, el("strong", nil, x.inline(n.Children, gap)...))
		case richtext.Link:
			out = append(out, el("a", at("href", n.Text), x.inline(n.Children, gap)...))
		case richtext.Gap:
			if gap != nil {
				if g := gap(n.Text); g != nil {
					out = append(out, g)
				}
			}
		}
	}
	return out
}
