package play

import (
	"cmp"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/answer"
	"keenmagpie/core/geometry"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/richtext"
)

// Told is a reply as it stands before the learner.
type Told struct {
	N      int             `json:"n" doc:"The move it came with; 0 is before the first"`
	Number int             `json:"number" doc:"Which of those that came with it"`
	Tone   activity.Tone   `json:"tone" enum:"right,near,wrong,plain"`
	Rich   []richtext.Node `json:"rich" nullable:"false"`
	Clip
	Spot   activity.Spot  `json:"spot" enum:"edge,piece,target,card,frame,board"`
	Piece  string         `json:"piece,omitempty" doc:"The piece that it is about"`
	Target string         `json:"target,omitempty"`
	Frame  *geometry.Rect `json:"frame,omitempty"`
	Until  activity.Until `json:"until" enum:"move,check,closed,stays"`
	Dim    bool           `json:"dim"`
	Reopen bool           `json:"reopen" doc:"It can be opened again from its piece"`
	// Points has what is pointed out: pieces, targets, and where scenery stands.
	Points  *Points            `json:"points,omitempty"`
	Offer   []string           `json:"offer" nullable:"false"`
	ShowKey bool               `json:"showKey"`
	Layout  activity.SayLayout `json:"layout" enum:"above,beside,below" doc:"Where the picture stands to the text"`
	Over    bool               `json:"over" doc:"It does not stand any more, and is only there to be opened again"`
}

// Clip is what goes with words: a picture and a sound.
type Clip struct {
	Picture    string `json:"picture"`
	Alt        string `json:"alt"`
	Sound      string `json:"sound"`
	Transcript string `json:"transcript"`
}

// Points are parts that are pointed out.
type Points struct {
	Pieces  []string        `json:"pieces" nullable:"false"`
	Targets []string        `json:"targets" nullable:"false"`
	Places  []geometry.Rect `json:"places" nullable:"false"`
}

// HintTold is a hint that was taken.
type HintTold struct {
	Rich    []richtext.Node `json:"rich" nullable:"false"`
	Picture string          `json:"picture"`
	Alt     string          `json:"alt"`
}

// Key is an arrangement that is right, where it is shown.
type Key struct {
	Targets map[string][]string      `json:"targets"`
	Stands  map[string]geometry.Rect `json:"stands"`
}

// stand says which replies stand after a move: those from before that are not over
// yet, and those that it brought. What says "check" is over at the next check, and
// where each placement is judged at the next placement. One that stands where a
// later move puts another gives way to it, unless it stays. What can be opened again
// is kept for that.
func (t *moving) stand() {
	s, brought := t.s, t.a.Replies
	if t.a.Result == placing.EffectRejected || t.a.Result == EffectRepeated {
		return
	}
	type piece struct {
		reply int
		id    string
	}
	spots, again := map[activity.Spot]bool{}, map[piece]bool{}
	for _, b := range brought {
		spots[t.Doc.Replies[b.Number].Spot] = true
		again[piece{b.Number, b.Piece}] = true
	}
	var left []Given
	checked := t.a.Result == EffectChecked || t.a.Result == EffectTimeUp || t.a.Verdict != nil
	for _, g := range s.Standing {
		r := &t.Doc.Replies[g.Number]
		over := t.a.Result == EffectRestarted || r.Stays() == activity.UntilMove || r.Stays() == activity.UntilCheck && checked || r.Stays() != activity.UntilStays && spots[r.Spot]
		again := again[piece{g.Number, g.Piece}]
		g.Over = g.Over || over
		if !g.Over || r.Reopen && g.Piece != "" && !again && t.a.Result != EffectRestarted {
			left = append(left, g)
		}
	}
	s.Standing = append(left, brought...)
}

// points finds what a reply points out, as things stand when it is given.
func (t *moving) points(r *activity.Reply) (out []string) {
	seen := func() *answer.Seen { return t.judge().Seen() }
	for _, id := range r.Point {
		switch id {
		case "right", "wrong":
			out = append(out, t.names(func(p int) bool { return t.s.Now.Where[p] >= 0 && seen().Right[p] == (id == "right") })...)
		case "missing":
			out = append(out, t.names(func(p int) bool {
				return seen().Missing[t.Parts.Pieces[p].Item] && !(t.s.Now.Where[p] >= 0 && seen().Right[p])
			})...)
		default:
			if it := t.Doc.Item(id); it != nil {
				out = append(out, t.names(func(p int) bool { return t.Parts.ItemOf(p).ID == id })...)
				continue
			}
			out = append(out, id)
		}
	}
	return out
}

// Review lists the replies of a finished sitting that is looked at.
func (g *Game) Review(s *State) []Given {
	if s.Phase != Done || !g.book.Any(activity.MomentReview) {
		return nil
	}
	after := *s
	t := moving{Game: g, was: s, s: &after, piece: -1, target: -1}
	t.give(activity.MomentReview)
	return t.a.Replies
}

// told are replies that stand, as the learner gets them.
func (g *Game) told(standing []Given, names Names) []Told {
	out := []Told{}
	for _, x := range standing {
		r := &g.Doc.Replies[x.Number]
		one := Told{N: x.N, Number: x.At, Tone: r.Tone, Rich: Rich(x.Text, names), Spot: r.Spot, Frame: r.Frame, Until: r.Stays(), Dim: r.Dim,
			Reopen: r.Reopen, Over: x.Over, Offer: slices.Clone(r.Offer), ShowKey: r.ShowKey, Layout: cmp.Or(r.Say.Layout, activity.SayLayoutAbove),
			Clip: Clip{media(names, r.Say.Picture), r.Say.Alt, media(names, r.Say.Sound), r.Say.Transcript}}
		if one.Offer == nil {
			one.Offer = []string{}
		}
		if x.Piece != "" {
			one.Piece, one.Target = names.Piece(x.Piece), names.Target(x.Target)
		}
		if len(x.Points) > 0 {
			one.Points = g.pointed(x.Points, names)
		}
		out = append(out, one)
	}
	return out
}

func (g *Game) pointed(ids []string, names Names) *Points {
	out := &Points{Pieces: []string{}, Targets: []string{}, Places: []geometry.Rect{}}
	for _, id := range ids {
		if _, ok := g.Parts.Piece(id); ok {
			out.Pieces = append(out.Pieces, names.Piece(id))
		} else if g.Doc.Target(id) != nil {
			out.Targets = append(out.Targets, names.Target(id))
		} else {
			for _, x := range g.Doc.Scenery {
				if x.ID == id && x.Frame != nil {
					out.Places = append(out.Places, *x.Frame)
				}
			}
		}
	}
	return out
}

// hintsTold are the hints taken that say something.
func (g *Game) hintsTold(s *State, names Names) []HintTold {
	out := []HintTold{}
	for _, h := range g.Doc.Hints[:s.Hints] {
		if !h.Place {
			out = append(out, HintTold{Rich(h.Text, names), media(names, h.Picture), h.Alt})
		}
	}
	return out
}

// key is the arrangement nearest to the learner's that is valid under the last
// verdict's solution, where it may be seen: a reply that stands shows it, or the
// sitting is over and the review has it.
func (g *Game) key(s *State, names Names) *Key {
	review := s.Phase == Done && (g.Doc.Play.Review == activity.ReviewKey || g.Doc.Play.Review == activity.ReviewBoth)
	if !review && !slices.ContainsFunc(s.Standing, func(x Given) bool { return !x.Over && g.Doc.Replies[x.Number].ShowKey }) {
		return nil
	}
	var solution int
	if s.Verdict != nil {
		solution = s.Verdict.Solution
	} else {
		solution = g.Judge.Judge(s.Now, marks.Now{Attempt: s.Attempt, Hints: s.Hints, Tries: s.tries}, nil).Solution
	}
	right := g.Judge.Solutions[solution].Nearest(s.Now)
	if right == nil {
		return nil
	}
	out := &Key{map[string][]string{}, map[string]geometry.Rect{}}
	for t, list := range right.Names() {
		out.Targets[names.Target(t)] = rename(list, names)
	}
	for p, r := range right.Stands() {
		out.Stands[names.Piece(g.Parts.Pieces[p].ID)] = r
	}
	return out
}

// Beckoning is what targets say of themselves while a piece is in hand.
type Beckoning struct {
	Targets []string `json:"targets" nullable:"false" doc:"Those that show themselves"`
	Opens   []string `json:"opens" nullable:"false" doc:"Those that let it in, where what is over them looks so"`
}

// Beckons says which targets show themselves while a piece is in hand: those that let it
// in, or those where it is right in some solution, as the document says. Where its looks
// tell over which targets a piece is let in, it says that too.
func (g *Game) Beckons(piece string) Beckoning {
	out := Beckoning{[]string{}, []string{}}
	p, ok := g.Parts.Piece(piece)
	how, tells := g.Doc.Play.Beckon, g.Doc.TellsOver()
	if !ok || how == activity.BeckonNone && !tells {
		return out
	}
	item := g.Parts.Pieces[p].Item
	for t := range g.Doc.Targets {
		id, open := g.Doc.Targets[t].ID, g.Parts.LetsIn(t, item)
		if open && tells {
			out.Opens = append(out.Opens, id)
		}
		right := func(s *answer.Solution) bool { return s.RightCell(t, item) }
		if how == activity.BeckonOpen && open || how == activity.BeckonRight && slices.ContainsFunc(g.Judge.Solutions, right) {
			out.Targets = append(out.Targets, id)
		}
	}
	return out
}
