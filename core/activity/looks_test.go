package activity_test

import (
	"testing"

	"keenmagpie/core/activity"
)

// What a point leaves open it takes from the point that it follows, then from rest, each
// part of a style by itself.
func TestLooksFollowOneAnother(t *testing.T) {
	size, half := activity.U(2000), 50
	looks := &activity.ItemLooks{
		Rest:       &activity.Look{Style: &activity.Style{Card: true, Fill: "card", Text: &activity.TextStyle{Size: &size}}},
		InHand:     &activity.Look{Scale: 110, Style: &activity.Style{Card: true, Fill: "accent"}},
		OverClosed: &activity.Look{Opacity: &half},
		Placed:     &activity.Look{Style: &activity.Style{Card: false}},
	}
	seen := looks.Seen(nil)
	for point, want := range map[string]struct {
		fill  string
		scale int
		card  bool
	}{
		"rest": {"card", 0, true}, "inHand": {"accent", 110, true}, "overOpen": {"accent", 110, true}, "overClosed": {"accent", 110, true},
		"placed": {"card", 0, false}, "right": {"card", 0, false},
	} {
		t.Run(point, func(t *testing.T) {
			got, ok := seen[point]
			if !ok || got.Style == nil || got.Style.Fill != want.fill || got.Scale != want.scale || got.Style.Card != want.card {
				t.Errorf("%+v %+v, want %+v", got, got.Style, want)
			} else if got.Style.Text == nil || *got.Style.Text.Size != size {
				t.Errorf("the size of its text is lost: %+v", got.Style.Text)
			}
		})
	}
	if got := seen["overClosed"]; got.Opacity == nil || *got.Opacity != half {
		t.Errorf("its own: %+v", got)
	}
	if len((*activity.TargetLooks)(nil).Seen()) != 0 {
		t.Error("nothing looks otherwise, and something is said of it")
	}
}

// A theme's own signs stand on every piece that has none of its own, and what is held has
// that of right.
func TestSignsComeFromTheThemeUnlessAPieceHasItsOwn(t *testing.T) {
	theme := &activity.Theme{Signs: &activity.Signs{Right: &activity.Sign{Picture: "star"}, Wrong: &activity.Sign{Picture: "bolt"}}}
	own := &activity.ItemLooks{Placed: &activity.Look{Scale: 120}, Wrong: &activity.Look{Sign: &activity.Sign{Picture: "own"}}}
	for name, x := range map[string]struct {
		looks        *activity.ItemLooks
		right, wrong string
		scale        int
	}{"plain": {nil, "star", "bolt", 0}, "with its own": {own, "star", "own", 120}} {
		t.Run(name, func(t *testing.T) {
			seen := x.looks.Seen(theme)
			if seen["right"].Sign.Picture != x.right || seen["heldInPlace"].Sign.Picture != x.right || seen["wrong"].Sign.Picture != x.wrong || seen["right"].Scale != x.scale {
				t.Errorf("a piece %s is seen as %+v", name, seen)
			}
		})
	}
	if len((*activity.ItemLooks)(nil).Seen(nil)) != 0 {
		t.Error("without signs a plain piece departs from the theme")
	}
}
