package picture

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"regexp"
	"strings"
)

// What an SVG may be: a plain drawing, of bounded size once everything it uses is drawn.

const svgSpace, xlinkSpace = "http://www.w3.org/2000/svg", "http://www.w3.org/1999/xlink"

// mostDrawn bounds the elements that an SVG draws, those counted again that it uses again.
const mostDrawn = 20_000

// allowed reports whether a name is in a list of those that only draw.
func allowed(name, list string) bool {
	return strings.Contains(list, " "+name+" ")
}

const elements = ` svg g defs title desc path rect circle ellipse line polyline polygon text tspan ` +
	`linearGradient radialGradient stop clipPath mask pattern symbol use marker `

const attributes = ` xmlns viewBox width height x y x1 y1 x2 y2 cx cy r rx ry fx fy d points id class ` +
	`transform fill fill-rule fill-opacity stroke stroke-width stroke-linecap stroke-linejoin stroke-dasharray ` +
	`stroke-dashoffset stroke-opacity stroke-miterlimit opacity offset stop-color stop-opacity clip-path clip-rule ` +
	`clipPathUnits mask maskUnits gradientUnits gradientTransform patternUnits patternTransform spreadMethod ` +
	`preserveAspectRatio font-family font-size font-weight text-anchor dominant-baseline color href version ` +
	`marker-start marker-mid marker-end markerWidth markerHeight refX refY orient role aria-label aria-hidden `

var errUnknown = errors.New("this is not a picture of a known kind (PNG, JPEG, WebP, GIF or SVG)")

// drawsOnly walks an SVG and refuses whatever is not a plain drawing: scripts,
// styles, foreign content, event handlers, references out of the file, entities,
// instructions to programs, and drawings that use themselves again and again.
func drawsOnly(body []byte) error {
	dec := xml.NewDecoder(bytes.NewReader(body))
	u := uses{byID: map[string]*node{}}
	var open []*node
	for {
		tok, err := dec.Token()
		if err == io.EOF {
			if u.root == nil {
				return errUnknown
			}
			return u.bounded()
		}
		if err != nil {
			return errUnknown
		}
		switch x := tok.(type) {
		case xml.Directive:
			return errors.New("the SVG has a document type or entities, which are not taken")
		case xml.ProcInst:
			if x.Target != "xml" {
				return errors.New("the SVG has an instruction to a program, which is not taken")
			}
		case xml.EndElement:
			open = open[:len(open)-1]
		case xml.StartElement:
			if len(open) >= 100 {
				return errors.New("the SVG is nested too deeply")
			}
			if u.root == nil && x.Name.Local != "svg" {
				return errUnknown
			}
			if x.Name.Space != "" && x.Name.Space != svgSpace || !allowed(x.Name.Local, elements) {
				return fmt.Errorf("the SVG has an element %q, which is not taken: only drawings are", x.Name.Local)
			}
			n := &node{}
			for _, a := range x.Attr {
				if err := plain(a); err != nil {
					return err
				}
				switch {
				case a.Name.Local == "id" && a.Name.Space == "":
					if u.byID[a.Value] == nil {
						u.byID[a.Value] = n
					}
				case a.Name.Local == "href":
					n.refers = append(n.refers, strings.TrimPrefix(strings.TrimSpace(a.Value), "#"))
				default:
					n.refers = append(n.refers, referred(a.Value)...)
				}
			}
			if u.root == nil {
				u.root = n
			} else if len(open) > 0 {
				parent := open[len(open)-1]
				parent.within = append(parent.within, n)
			}
			if u.n++; u.n > mostDrawn {
				return tooMuch()
			}
			open = append(open, n)
		}
	}
}

// function is the beginning of a function in a CSS value.
var function = regexp.MustCompile(`([A-Za-z_-][A-Za-z0-9_-]*)\s*\(`)

const functions = ` url rgb rgba hsl hsla matrix translate scale rotate skewx skewy `

// referred lists what a value refers to within its file.
func referred(value string) []string {
	var out []string
	for _, part := range strings.Split(value, "url(")[1:] {
		id, _, _ := strings.Cut(part, ")")
		out = append(out, strings.TrimPrefix(strings.Trim(id, ` "'`), "#"))
	}
	return out
}

// plain refuses attributes that do more than draw. A value is looked at as CSS reads it:
// with an escape or a comment in it, names would not be what they seem, so those are
// refused.
func plain(a xml.Attr) error {
	if a.Name.Space == "xmlns" || a.Name.Space == "" && a.Name.Local == "xmlns" {
		return nil
	}
	if a.Name.Space != "" && !(a.Name.Local == "href" && (a.Name.Space == xlinkSpace || a.Name.Space == "xlink")) || !allowed(a.Name.Local, attributes) {
		return fmt.Errorf("the SVG has an attribute %q, which is not taken", a.Name.Local)
	}
	outside := errors.New("the SVG refers to something outside itself")
	if a.Name.Local == "href" && !strings.HasPrefix(strings.TrimSpace(a.Value), "#") {
		return outside
	}
	if a.Name.Local == "aria-label" { // words, which nothing reads as CSS
		return nil
	}
	if strings.ContainsAny(a.Value, "\\@") || strings.Contains(a.Value, "/*") {
		return fmt.Errorf("the SVG's attribute %q has signs that are not taken", a.Name.Local)
	}
	lower := strings.ToLower(a.Value)
	for _, f := range function.FindAllStringSubmatch(lower, -1) {
		if !allowed(f[1], functions) {
			return fmt.Errorf("the SVG's attribute %q uses %s(), which is not taken", a.Name.Local, f[1])
		}
	}
	for _, part := range strings.Split(lower, "url")[1:] {
		inside, is := strings.CutPrefix(strings.TrimSpace(part), "(")
		if is && !strings.HasPrefix(strings.TrimLeft(inside, " \t\r\n\"'"), "#") {
			return outside
		}
	}
	return nil
}

// node is an element with those in it and what it refers to.
type node struct {
	within []*node
	refers []string
	drawn  int // elements that it draws, once counted
	now    bool
}

// uses are the elements of an SVG.
type uses struct {
	root *node
	byID map[string]*node
	n    int
}

// bounded refuses a drawing that draws too much once everything it uses is drawn, or that
// uses itself. Cost: linear in the file, since what is used often is counted once.
func (u *uses) bounded() error {
	if u.count(u.root) > mostDrawn {
		return tooMuch()
	}
	return nil
}

func (u *uses) count(n *node) int {
	if n.now {
		return mostDrawn + 1 // in a circle
	}
	if n.drawn > 0 {
		return n.drawn
	}
	n.now = true
	total := 1
	add := func(k int) { total = min(total+k, mostDrawn+1) }
	for _, x := range n.within {
		add(u.count(x))
	}
	for _, id := range n.refers {
		if x := u.byID[id]; x != nil {
			add(u.count(x))
		}
	}
	n.now = false
	n.drawn = total
	return total
}

func tooMuch() error {
	return fmt.Errorf("the SVG draws more than %d elements, or itself within itself", mostDrawn)
}
