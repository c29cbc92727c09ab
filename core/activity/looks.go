package activity

// Style is how a part departs from the theme. What is left out is the theme's.
type Style struct {
	Fill   string     `json:"fill" colour:"true"`
	Edge   *Edge      `json:"edge"`
	Text   *TextStyle `json:"text"`
	Corner *U         `json:"corner" range:"0..1000"`
	Crop   string     `json:"crop" default:"\"none\"" one:"none|round"`
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
	Align  string `json:"align" one:"left|centre|right" optional:"true"`
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

// Look is how a part looks at one point.
type Look struct {
	Style   *Style  `json:"style"`
	Text    *string `json:"text" max:"1000"`
	Picture *string `json:"picture" max:"64" media:"true"`
	Scale   int     `json:"scale" range:"1..1000"`
	Opacity *int    `json:"opacity" range:"0..100"`
	Motion  string  `json:"motion" one:"none|settle|turn|fade" optional:"true"`
}

// Over is the look with what it leaves open filled from below, which may be nil.
func (l *Look) Over(below *Look) Look {
	var out Look
	for _, x := range []*Look{below, l} {
		if x == nil {
			continue
		}
		if x.Style != nil {
			out.Style = x.Style
		}
		if x.Text != nil {
			out.Text = x.Text
		}
		if x.Picture != nil {
			out.Picture = x.Picture
		}
		if x.Scale != 0 {
			out.Scale = x.Scale
		}
		if x.Opacity != nil {
			out.Opacity = x.Opacity
		}
		if x.Motion != "" {
			out.Motion = x.Motion
		}
	}
	return out
}
