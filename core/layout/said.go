package layout

import "keenmagpie/core/message"

// english says why something cannot be drawn, by code; the form is that of [message.Line].
var english = map[string]string{
	"corners":     "a polygon has 3 to 64 corners, and this has {n}",
	"edges-cross": "its edges would cross each other",
	"few-targets": "arrows lead from one target to another: select two or more",
	"no-area":     "it would have no area",
	"no-picture":  "there is no picture at this place",
	"no-room":     "these targets touch: there is no room for arrows between them",
	"spot-large":  "this spot runs into what is around it: press on an area with an outline, or draw the target",
	"spot-small":  "this spot is too small to be a target: press on a larger area of one colour",
}

func refused(code string, params message.P) error { return message.Say(english, code, params) }
