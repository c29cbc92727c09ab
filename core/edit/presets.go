package edit

import (
	"slices"

	"keenmagpie/core/activity"
)

// Preset is a way to play that sets all of it but the time and how exactly a piece must
// hit, and brings the replies that are usual for it.
type Preset struct {
	ID   string `json:"id"`
	Name string `json:"name"`
	Says string `json:"says"` // what it sets
	set  func(*activity.Play)
}

// Presets are those that there are.
func Presets() []Preset {
	return []Preset{
		{"practice", "practice", "as many attempts as they want; checked when they ask; right and wrong show at a check; wrong pieces go back, correct ones are locked; they can start over; afterwards they see their answer and the correct one; pieces are shuffled",
			func(p *activity.Play) {
				p.Check, p.CheckWhen, p.Attempts, p.Show = activity.CheckingAsk, activity.CheckWhenAny, 0, activity.ShowCheck
				p.WrongPieces, p.RightPieces = activity.WrongPiecesHome, activity.RightPiecesHold
				p.Restart, p.Review = true, activity.ReviewBoth
			}},
		{"assessment", "assessment", "one attempt; checked once everything is placed; results never shown; pieces stay in place; they cannot start over; afterwards they see only their score; pieces are shuffled",
			func(p *activity.Play) {
				p.Check, p.CheckWhen, p.Attempts, p.Show = activity.CheckingAsk, activity.CheckWhenAllPlaced, 1, activity.ShowNever
				p.WrongPieces, p.RightPieces = activity.WrongPiecesStay, activity.RightPiecesStay
				p.Restart, p.Review = false, activity.ReviewNone
			}},
	}
}

// SetPreset sets a way to play. Usual replies that nobody has changed give way to those that
// are usual for it; where results are never shown there are none. ok is false where there is
// no such preset.
func SetPreset(d *activity.Doc, id string) (out *activity.Doc, p Preset, ok bool) {
	list := Presets()
	i := slices.IndexFunc(list, func(p Preset) bool { return p.ID == id })
	if i < 0 {
		return d, p, false
	}
	out, p = d.Clone(), list[i]
	followed := len(out.Replies) == 0
	followed = dropUsual(out, "") > 0 || followed
	play := &out.Play
	p.set(play)
	play.Refusals, play.Reenter, play.Beckon, play.Deal = activity.RefusalsFree, activity.ReenterResume, activity.BeckonNone, activity.DealAll
	play.Undo, play.Reset, play.Shuffle = true, true, true
	if followed && play.Show != activity.ShowNever {
		AddStartingReplies(out)
	}
	return out, p, true
}

// unchanged says whether a reply is as it was added.
func unchanged(r, x *activity.Reply) bool {
	return r.Moment == x.Moment && r.Tone == x.Tone && r.Say == x.Say && sameWhen(r, x) && len(r.Offer) == 0 && !r.Off
}
