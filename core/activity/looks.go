package activity

import (
	"cmp"

	"keenmagpie/core/geometry"
)

// Style is how a part departs from the theme. What is left out is the theme's.
type Style struct {
	Fill   string     `json:"fill" colour:"true"`
	Edge   *Edge      `json:"edge"`
	Text   *TextStyle `json:"text"`
	Corner *U         `json:"corner" range:"0..1000"`
	Crop   Crop       `json:"crop" default:"\"none\"" one:"none|round"`
	// Shape is drawn in place of the card of a piece; left out, the theme's card is. Points
	// are the corners of a polygon, in hundredths of the piece's width and height.
	Shape  Shape             `json:"shape" one:"rect|ellipse|polygon" optional:"true"`
	Points []geometry.Vertex `json:"points" max:"200" optional:"true"`
	// Card false leaves out the card behind a picture that must fit exactly.
	Card   bool `json:"card" default:"true"`
	Shadow bool `json:"shadow"`
}

// Edge is the line around a part.
type Edge struct {
	Color string `json:"color" colour:"true"`
	Width *U     `json:"width" range:"0..100"`
	// Dash is the length of the dashes; 0 is a line without gaps.
	Dash U `json:"dash" range:"0..100"`
}

// TextStyle is how text is set. Weight is that of CSS: 400 is plain, 700 strong.
type TextStyle struct {
	Size   *U     `json:"size" range:"1..400"`
	Weight int    `json:"weight" range:"100..900"`
	Align  Align  `json:"align" one:"left|centre|right" optional:"true"`
	Color  string `json:"color" colour:"true"`
}

// ItemLooks is how an item departs from the theme at each point of its way. The
// point's own comes first, then Rest, then the theme.
type ItemLooks struct {
	Rest        *Look `json:"rest"`
	InHand      *Look `json:"inHand"`
	OverOpen    *Look `json:"overOpen"`
	OverClosed  *Look `json:"overClosed"`
	Placed      *Look `json:"placed"`
	HeldInPlace *Look `json:"heldInPlace"`
	Right       *Look `json:"right"`
	Wrong       *Look `json:"wrong"`
}

// TargetLooks is [ItemLooks]'s counterpart.
type TargetLooks struct {
	Rest       *Look `json:"rest"`
	Beckoning  *Look `json:"beckoning"`
	OverOpen   *Look `json:"overOpen"`
	OverClosed *Look `json:"overClosed"`
	Right      *Look `json:"right"`
	Part       *Look `json:"part"`
	Wrong      *Look `json:"wrong"`
}

// Points lists the looks by the name of their point. On nil there are none.
func (l *ItemLooks) Points() map[string]*Look {
	if l == nil {
		return nil
	}
	return map[string]*Look{"rest": l.Rest, "inHand": l.InHand, "overOpen": l.OverOpen, "overClosed": l.OverClosed,
		"placed": l.Placed, "heldInPlace": l.HeldInPlace, "right": l.Right, "wrong": l.Wrong}
}

// Points is [ItemLooks.Points] for a target.
func (l *TargetLooks) Points() map[string]*Look {
	if l == nil {
		return nil
	}
	return map[string]*Look{"rest": l.Rest, "beckoning": l.Beckoning, "overOpen": l.OverOpen, "overClosed": l.OverClosed,
		"right": l.Right, "part": l.Part, "wrong": l.Wrong}
}

// RestStyle is the style of a part at rest, by its points; nil where the theme alone decides.
func RestStyle(points map[string]*Look) *Style {
	if rest := points["rest"]; rest != nil {
		return rest.Style
	}
	return nil
}

// Look is how a part looks at one point.
type Look struct {
	Style   *Style  `json:"style"`
	Text    *string `json:"text" max:"1000"`
	Picture *string `json:"picture" max:"64" media:"true"`
	Scale   int     `json:"scale" range:"1..1000"`
	Opacity *int    `json:"opacity" range:"0..100"`
	Motion  Motion  `json:"motion" one:"none|settle|turn|fade" optional:"true"`
	// Sign is shown over the part, at right and at wrong in place of the usual sign.
	Sign *Sign `json:"sign"`
}

// Sign is a picture that says right or wrong on a piece or a target.
type Sign struct {
	Picture string `json:"picture" required:"true" max:"64" media:"true"`
	// At is where on the part it stands: on its upper left corner, in its middle, under
	// it, or over all of it.
	At SignAt `json:"at" default:"\"corner\"" one:"corner|middle|below|all"`
	// Size is its width and height, but over all of the part.
	Size U `json:"size" default:"28" range:"8..400"`
}

// Signs are a theme's own signs of right and wrong on pieces.
type Signs struct {
	Right *Sign `json:"right"`
	Wrong *Sign `json:"wrong"`
}

// from says from which point another one takes what it leaves open, before it takes it
// from rest: over a target a piece is still in hand, and one that is marked still placed.
var itemFrom = map[string]string{"overOpen": "inHand", "overClosed": "inHand", "heldInPlace": "placed", "right": "placed", "wrong": "placed"}
var targetFrom = map[string]string{"overOpen": "beckoning", "overClosed": "beckoning"}

// Seen is how the item looks at each point at which it departs from the theme, each with
// what it leaves open filled from the point it follows, then from rest; a sign of right
// or wrong from the theme's own, which may be nil. On nil there are no others. The theme
// fills the rest.
func (l *ItemLooks) Seen(theme *Theme) map[string]Look {
	out := seen(l.Points(), itemFrom)
	if theme != nil && theme.Signs != nil {
		signed(out, "right", theme.Signs.Right)
		signed(out, "wrong", theme.Signs.Wrong)
	}
	// What is held is held because it is right.
	signed(out, "heldInPlace", out["right"].Sign)
	return out
}

// signed gives a point a sign where it has none.
func signed(looks map[string]Look, point string, sign *Sign) {
	look, ok := looks[point]
	if sign == nil || look.Sign != nil {
		return
	}
	if !ok {
		look = looks["rest"]
		if placed, ok := looks[itemFrom[point]]; ok {
			look = placed
		}
	}
	look.Sign = sign
	looks[point] = look
}

// Seen is [ItemLooks.Seen] for a target.
func (l *TargetLooks) Seen() map[string]Look { return seen(l.Points(), targetFrom) }

func seen(points map[string]*Look, from map[string]string) map[string]Look {
	out := map[string]Look{}
	for name, look := range points {
		chain := []*Look{points["rest"]}
		if before := from[name]; before != "" {
			chain = append(chain, points[before])
		}
		var full Look
		departs := false
		for _, l := range append(chain, look) {
			if l != nil {
				full, departs = l.over(full), true
			}
		}
		if departs {
			out[name] = full
		}
	}
	return out
}

// TellsOver says whether anything looks otherwise over a target that lets it in than over
// one that turns it away.
func (d *Doc) TellsOver() bool {
	for i := range d.Items {
		if l := d.Items[i].Looks; l != nil && (l.OverOpen != nil || l.OverClosed != nil) {
			return true
		}
	}
	for i := range d.Targets {
		if l := d.Targets[i].Looks; l != nil && (l.OverOpen != nil || l.OverClosed != nil) {
			return true
		}
	}
	return false
}

// over is the look with what it leaves open filled from below.
func (l *Look) over(below Look) Look {
	out := below
	if l.Style != nil {
		style := l.Style.over(below.Style)
		out.Style = &style
	}
	if l.Text != nil {
		out.Text = l.Text
	}
	if l.Picture != nil {
		out.Picture = l.Picture
	}
	if l.Scale != 0 {
		out.Scale = l.Scale
	}
	if l.Opacity != nil {
		out.Opacity = l.Opacity
	}
	if l.Motion != "" {
		out.Motion = l.Motion
	}
	out.Sign = cmp.Or(l.Sign, out.Sign)
	return out
}

// over fills what the style leaves open from below, which may be nil. A card that is
// taken off below stays off, and a shadow there stays.
func (s *Style) over(below *Style) Style {
	out := *s
	if below == nil {
		return out
	}
	out.Fill, out.Corner = cmp.Or(out.Fill, below.Fill), cmp.Or(out.Corner, below.Corner)
	if out.Crop == "" || out.Crop == CropNone {
		out.Crop = below.Crop
	}
	if out.Shape == "" {
		out.Shape, out.Points = below.Shape, below.Points
	}
	out.Card = out.Card && below.Card
	out.Shadow = out.Shadow || below.Shadow
	if b := below.Edge; b != nil {
		own := cmp.Or(out.Edge, &Edge{})
		out.Edge = &Edge{cmp.Or(own.Color, b.Color), cmp.Or(own.Width, b.Width), cmp.Or(own.Dash, b.Dash)}
	}
	if b := below.Text; b != nil {
		own := cmp.Or(out.Text, &TextStyle{})
		out.Text = &TextStyle{cmp.Or(own.Size, b.Size), cmp.Or(own.Weight, b.Weight), cmp.Or(own.Align, b.Align), cmp.Or(own.Color, b.Color)}
	}
	return out
}
