package activity

import (
	"math"
	"reflect"
	"strconv"
)

// Theme is how a board looks: colours, type, corners, the form of its pieces. A
// document carries a copy of its own, so that it looks the same wherever it goes;
// without one it follows the application's colours, light or dark.
type Theme struct {
	Name   string  `json:"name" max:"200"`
	Colors Palette `json:"colors"`
	Font   Font    `json:"font" default:"\"text\"" one:"text|heading|serif|fixed"`
	// Size is that of the text on pieces.
	Size   U `json:"size" default:"15" range:"8..48"`
	Corner U `json:"corner" default:"6" range:"0..60"`
	// Piece is the outline by which a piece is told from scenery.
	Piece PieceForm `json:"piece" default:"\"cut\"" one:"cut|notch|round"`
	// Signs, left out, are the application's own.
	Signs *Signs `json:"signs"`
}

// Palette is a theme's colours, each # and six hexadecimal digits. Their names are
// what a [Style] can call them by.
type Palette struct {
	Board  string `json:"board" default:"\"#ffffff\"" colour:"hex"`
	Ink    string `json:"ink" default:"\"#141a24\"" colour:"hex"`
	Well   string `json:"well" default:"\"#e3e9f1\"" colour:"hex"`
	Rim    string `json:"rim" default:"\"#7384a1\"" colour:"hex"`
	Card   string `json:"card" default:"\"#ffffff\"" colour:"hex"`
	Edge   string `json:"edge" default:"\"#6b7a93\"" colour:"hex"`
	Accent string `json:"accent" default:"\"#2346a0\"" colour:"hex"`
	Right  string `json:"right" default:"\"#0b6e6e\"" colour:"hex"`
	Near   string `json:"near" default:"\"#8a5f0e\"" colour:"hex"`
	Wrong  string `json:"wrong" default:"\"#a83c17\"" colour:"hex"`
}

// Themes are the ones that ship.
func Themes() []Theme {
	return []Theme{
		{"Daylight", Palette{"#ffffff", "#141a24", "#e3e9f1", "#7384a1", "#ffffff", "#6b7a93", "#2346a0", "#0b6e6e", "#8a5f0e", "#a83c17"}, FontText, 1500, 600, PieceFormCut, nil},
		{"Evening", Palette{"#1a2130", "#eef2f8", "#0f141e", "#6f80a0", "#27324a", "#8c9ab1", "#a9bff8", "#7fd4ce", "#e9c27a", "#f4a888"}, FontText, 1500, 1000, PieceFormRound, nil},
		{"Poster", Palette{"#fff9e8", "#1c1408", "#f3e3b4", "#8a6a1f", "#ffffff", "#5c4513", "#7a1f5c", "#17602f", "#80550a", "#a02a10"}, FontHeading, 1700, 0, PieceFormNotch, nil},
	}
}

// Unsigned is the theme without its own signs, which the looks of pieces have. On nil it
// is nil.
func (t *Theme) Unsigned() *Theme {
	if t == nil || t.Signs == nil {
		return t
	}
	out := *t
	out.Signs = nil
	return &out
}

// Pair is two colours of a theme that meet, and their contrast.
type Pair struct {
	Over    string  `json:"over"`
	Under   string  `json:"under"`
	Ratio   float64 `json:"ratio" doc:"From 1, alike, to 21"`
	Needed  float64 `json:"needed" doc:"4.5 for text, 3 for outlines (WCAG 2.2, 1.4.3 and 1.4.11)"`
	Enough  bool    `json:"enough"`
	Meaning string  `json:"meaning"`
}

// Pairs checks the contrast wherever two colours of the theme meet.
func (t Theme) Pairs() []Pair {
	c := t.Colors
	var out []Pair
	add := func(over, under, a, b string, needed float64, meaning string) {
		ratio := math.Round(100*Contrast(a, b)) / 100
		out = append(out, Pair{over, under, ratio, needed, ratio >= needed, meaning})
	}
	add("ink", "board", c.Ink, c.Board, 4.5, "text on the board")
	add("ink", "card", c.Ink, c.Card, 4.5, "text on pieces")
	add("ink", "well", c.Ink, c.Well, 4.5, "text in targets")
	add("edge", "board", c.Edge, c.Board, 3, "the edge of a piece on the board")
	add("edge", "well", c.Edge, c.Well, 3, "the edge of a piece in a target")
	add("rim", "board", c.Rim, c.Board, 3, "the rim of a target")
	add("accent", "board", c.Accent, c.Board, 3, "what is selected or open")
	for _, x := range [][2]string{{"right", c.Right}, {"near", c.Near}, {"wrong", c.Wrong}} {
		add(x[0], "card", x[1], c.Card, 4.5, "the sign of "+x[0]+" on a piece")
	}
	return out
}

// Contrast is the contrast ratio of two colours written as # and six hexadecimal
// digits, from 1 to 21, by the formula of WCAG 2.2 (relative luminance of sRGB).
// What is not written so counts as black.
func Contrast(a, b string) float64 {
	light, dark := luminance(a), luminance(b)
	if light < dark {
		light, dark = dark, light
	}
	return (light + 0.05) / (dark + 0.05)
}

func luminance(colour string) float64 {
	var sum float64
	for i, weight := range []float64{0.2126, 0.7152, 0.0722} {
		if len(colour) != 7 {
			return 0
		}
		v, _ := strconv.ParseUint(colour[1+2*i:3+2*i], 16, 8)
		s := float64(v) / 255
		if s <= 0.04045 {
			s /= 12.92
		} else {
			s = math.Pow((s+0.055)/1.055, 2.4)
		}
		sum += weight * s
	}
	return sum
}

// ReadTheme reads a theme as strictly as a document is read.
func ReadTheme(body []byte) (Theme, Faults) {
	var t Theme
	tree, faults := parse(body)
	if tree == nil && len(faults) > 0 {
		return t, faults
	}
	r := reader{shapes: shapes{}, faults: faults}
	r.value("", tree, reflect.ValueOf(&t).Elem(), "")
	return t, r.faults
}
