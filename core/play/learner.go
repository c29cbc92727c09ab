package play

import (
	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/reply"
	"keenmagpie/core/richtext"
)

// Scene is what a learner gets of an activity, and all of it: frames, faces,
// words, and the play settings that show. It is an allow-list. Tags, lets,
// weights, penalties, solutions and the author's names of parts are not in it,
// and ids are what Names makes of them.
type Scene struct {
	Title        string            `json:"title"`
	Instructions []richtext.Node   `json:"instructions" nullable:"false"`
	Lang         string            `json:"lang"`
	Words        map[string]string `json:"words,omitempty" doc:"The author's own, in place of those of the language"`
	CheckAt      *geometry.Rect    `json:"checkAt,omitempty" doc:"Where the button for checking stands, if not in the bar"`
	Width        activity.U        `json:"width"`
	Height       activity.U        `json:"height"`
	Legible      int               `json:"legible" doc:"The least percent of its own size at which all on the board can be read and hit"`
	Color        string            `json:"color"`
	Picture      string            `json:"picture"`
	Theme        *activity.Theme   `json:"theme,omitempty"`
	Scenery      []SceneScenery    `json:"scenery" nullable:"false"`
	Pieces       []ScenePiece      `json:"pieces" nullable:"false"`
	Targets      []SceneTarget     `json:"targets" nullable:"false"`
	Order        []string          `json:"order" nullable:"false" doc:"The reading order, as far as the activity sets one: ids of targets and pieces"`
	Reset        bool              `json:"reset"`
	Restart      bool              `json:"restart"`
	Check        activity.Checking `json:"check" enum:"each,full,ask,none"`
	Beckons      bool              `json:"beckons" doc:"Targets show themselves while a piece is in hand; which, is asked for then"`
	OneByOne     bool              `json:"oneByOne" doc:"The next piece appears when the one before it is placed"`
	TellsOver    bool              `json:"tellsOver" doc:"What is over a target looks otherwise where that lets it in; whether, is asked for with a piece in hand"`
	TimeLimit    int               `json:"timeLimit" doc:"Milliseconds; 0 is none"`
	HintCost     int               `json:"hintCost" doc:"Percent of the points that each hint costs"`
	Hit          string            `json:"hit" enum:"centre,touch,inside,overlap"`
	Overlap      int               `json:"overlap" doc:"The percent that hit by overlap asks for"`
	Reach        activity.U        `json:"reach"`
	Points       activity.U        `json:"points"`
	// ShowsRight is false where learners never see which pieces are right: then one that
	// is held in place only says that it cannot be moved.
	ShowsRight bool `json:"showsRight"`
}

// SceneScenery is a part that only stands there.
type SceneScenery struct {
	Type    activity.SceneryType `json:"type"`
	Frame   *geometry.Rect       `json:"frame,omitempty"`
	From    *activity.Point      `json:"from,omitempty" doc:"The ends of a line or an arrow"`
	To      *activity.Point      `json:"to,omitempty"`
	Rich    []richtext.Node      `json:"rich" nullable:"false" doc:"The text; its gaps bear the ids of targets"`
	Picture string               `json:"picture"`
	Alt     string               `json:"alt"`
	Style   *activity.Style      `json:"style,omitempty"`
	Z       int                  `json:"z"`
}

// ScenePiece is one piece in the order in which they are laid out.
type ScenePiece struct {
	ID         string                   `json:"id"`
	Text       string                   `json:"text"`
	Picture    string                   `json:"picture"`
	Sound      string                   `json:"sound"`
	Transcript string                   `json:"transcript"`
	OnPick     bool                     `json:"onPick" doc:"The sound plays when the piece is picked up"`
	Spoken     string                   `json:"spoken" doc:"What a screen reader says: the text, else the alternative text, else the name"`
	Size       geometry.Size            `json:"size"`
	Home       *activity.Point          `json:"home,omitempty"`
	Ghost      bool                     `json:"ghost" doc:"A faint copy stays at home"`
	Looks      map[string]activity.Look `json:"looks" doc:"How it departs from the theme at each point of its way, all of it for each"`
	Z          int                      `json:"z"`
}

// SceneTarget is where a piece can be put.
type SceneTarget struct {
	ID      string                   `json:"id"`
	Label   activity.Label           `json:"label"`
	Spoken  string                   `json:"spoken"`
	Alt     string                   `json:"alt" doc:"What is there, in words"`
	Frame   geometry.Rect            `json:"frame"`
	Shape   activity.Shape           `json:"shape"`
	Points  []geometry.Vertex        `json:"points,omitempty" doc:"The corners of a polygon"`
	Shows   activity.Shows           `json:"shows" enum:"always,inHand,never"`
	Opacity int                      `json:"opacity" doc:"The percent at which pieces show in it"`
	Lane    *activity.Arrange        `json:"lane,omitempty" doc:"How pieces stand in it, where it keeps them in order"`
	Looks   map[string]activity.Look `json:"looks"`
	Z       int                      `json:"z"`
}

// Names gives parts the ids under which a learner knows them.
type Names interface {
	Piece(id string) string
	Target(id string) string
	Media(id string) string
}

// Plain leaves ids as they are: for rehearsing, where the author looks on.
type Plain struct{}

func (Plain) Piece(id string) string  { return id }
func (Plain) Target(id string) string { return id }
func (Plain) Media(id string) string  { return id }

// Scene is what the learner with this seed sees before the first move.
func (g *Game) Scene(seed uint64, names Names) Scene {
	return scene(g.Doc, g.Parts, g.shuffled(seed), names)
}

// Drawn is the scene of a document as far as it is seen at rest, pieces in their order: for
// miniatures, of which many are shown at once, also while its key cannot be satisfied. What
// is heard, and how parts look at other points of their way, is left out.
func Drawn(doc *activity.Doc) Scene {
	parts := activity.NewParts(doc)
	order := make([]int, len(parts.Pieces))
	for i := range order {
		order[i] = i
	}
	s := scene(doc, parts, order, Plain{})
	s.Instructions, s.Words = []richtext.Node{}, nil
	for i := range s.Pieces {
		p := &s.Pieces[i]
		p.Sound, p.Transcript, p.Spoken, p.Looks = "", "", "", atRest(p.Looks)
	}
	for i := range s.Targets {
		t := &s.Targets[i]
		t.Alt, t.Spoken, t.Lane, t.Looks = "", "", nil, atRest(t.Looks)
	}
	return s
}

func atRest(looks map[string]activity.Look) map[string]activity.Look {
	return map[string]activity.Look{"rest": looks["rest"]}
}

func scene(d *activity.Doc, parts *activity.Parts, order []int, names Names) Scene {
	s := Scene{
		Title: d.Title, Instructions: Rich(d.Instructions, names), Lang: d.Lang, Words: d.Words, CheckAt: d.Board.Check,
		Width: d.Board.Width, Height: d.Board.Height, Legible: layout.Legible(d), Color: d.Board.Background.Color,
		Picture: media(names, d.Board.Background.Picture), Theme: d.Board.Theme.Unsigned(),
		Scenery: []SceneScenery{}, Pieces: []ScenePiece{}, Targets: []SceneTarget{}, Order: []string{},
		Reset: d.Play.Reset, Restart: d.Play.Restart, Check: d.Play.Check, Beckons: d.Play.Beckon != activity.BeckonNone, TellsOver: d.TellsOver(), OneByOne: d.Play.Deal == activity.DealOne,
		TimeLimit: d.Play.TimeLimit, HintCost: d.Marks.HintCost, Hit: d.Play.Hit.Rule, Overlap: d.Play.Hit.Overlap, Reach: d.Play.Reach, Points: d.Marks.Points,
		ShowsRight: d.Play.Show != activity.ShowNever,
	}
	for _, x := range d.Scenery {
		s.Scenery = append(s.Scenery, SceneScenery{x.Type, x.Frame, x.From, x.To, Rich(x.Text, names), media(names, x.Picture), x.Alt, x.Style, x.Z})
	}
	for _, p := range order {
		it := parts.ItemOf(p)
		s.Pieces = append(s.Pieces, ScenePiece{
			ID: names.Piece(parts.Pieces[p].ID), Text: it.Text, Picture: media(names, it.Picture),
			Sound: media(names, it.Sound), Transcript: it.Transcript, OnPick: it.PlaySound == activity.PlaySoundPick,
			Spoken: reply.Spoken(it), Size: it.Size, Home: it.Home, Ghost: it.Ghost, Looks: pictured(it.Looks.Seen(d.Board.Theme), names), Z: it.Z})
	}
	for i := range d.Targets {
		t := &d.Targets[i]
		var lane *activity.Arrange
		if t.Ordered {
			lane = &t.Arrange
		}
		s.Targets = append(s.Targets, SceneTarget{
			ID: names.Target(t.ID), Label: t.Label, Spoken: reply.Called(t), Alt: t.Alt, Frame: t.Frame, Shape: t.Shape, Points: t.Points,
			Shows: t.Shows, Opacity: t.Arrange.Opacity, Lane: lane, Looks: pictured(t.Looks.Seen(), names), Z: t.Z})
	}
	for _, id := range d.Order {
		if t := d.Target(id); t != nil {
			s.Order = append(s.Order, names.Target(id))
		} else if it := d.Item(id); it != nil {
			for _, p := range parts.Pieces {
				if parts.Doc.Items[p.Item].ID == id {
					s.Order = append(s.Order, names.Piece(p.ID))
				}
			}
		}
	}
	return s
}

// Rich reads a text, and gives its gaps the ids that the learner knows.
func Rich(text string, names Names) []richtext.Node {
	nodes := richtext.Read(text)
	var swap func([]richtext.Node)
	swap = func(list []richtext.Node) {
		for i := range list {
			if list[i].Kind == richtext.Gap {
				list[i].Text = names.Target(list[i].Text)
			}
			swap(list[i].Children)
		}
	}
	swap(nodes)
	if nodes == nil {
		nodes = []richtext.Node{}
	}
	return nodes
}

// pictured gives the pictures of looks the names that the learner knows.
func pictured(looks map[string]activity.Look, names Names) map[string]activity.Look {
	for point, look := range looks {
		if look.Picture != nil {
			id := media(names, *look.Picture)
			look.Picture = &id
		}
		if look.Sign != nil {
			sign := *look.Sign
			sign.Picture = media(names, sign.Picture)
			look.Sign = &sign
		}
		looks[point] = look
	}
	return looks
}

func media(names Names, id string) string {
	if id == "" {
		return ""
	}
	return names.Media(id)
}

// Standing is what a learner sees of the state, after each move.
type Standing struct {
	N        int                      `json:"n"`
	T        int64                    `json:"t"`
	Result   placing.Effect           `json:"result"`
	Reason   string                   `json:"reason,omitempty"`
	Phase    Phase                    `json:"phase" enum:"placing,paused,done"`
	Progress string                   `json:"progress" doc:"How far it has come, from 0 to 1"`
	Attempt  int                      `json:"attempt"`
	Left     *int                     `json:"left,omitempty"`
	Targets  map[string][]string      `json:"targets"`
	Stands   map[string]geometry.Rect `json:"stands" doc:"Where each piece stands that is not at home"`
	Held     []string                 `json:"held" nullable:"false"`
	Dealt    int                      `json:"dealt" doc:"How many of the scene's pieces have appeared"`
	CanCheck bool                     `json:"canCheck"`
	CanUndo  bool                     `json:"canUndo"`
	// Shown is there from a check until the next attempt, where the activity
	// shows what is right.
	Shown   *Shown     `json:"shown,omitempty"`
	Final   *Final     `json:"final,omitempty"`
	Replies []Told     `json:"replies" nullable:"false"`
	Hints   []HintTold `json:"hints" nullable:"false" doc:"Those taken"`
	// HintsLeft is how many more can be asked for.
	HintsLeft int `json:"hintsLeft"`
	// Key is what is right, once it may be seen; Review how a finished sitting is
	// looked at.
	Key    *Key            `json:"key,omitempty"`
	Review activity.Review `json:"review,omitempty" enum:"none,own,key,both"`
}

// Shown marks pieces right and wrong after a check.
type Shown struct {
	Outcome activity.Outcome `json:"outcome" enum:"right,part,wrong"`
	Right   []string         `json:"right" nullable:"false"`
	Wrong   []string         `json:"wrong" nullable:"false"`
	// Targets has those alone that look different then.
	Targets map[string]string `json:"targets,omitempty" doc:"How targets stand whose looks tell it: right, part or wrong"`
}

// Standing tells the learner where the sitting stands after an answer; the zero
// Answer is that before any move, or when the learner comes back: to a finished
// sitting with what is said then.
func (g *Game) Standing(s *State, a Answer, names Names) Standing {
	standing := s.Standing
	if a.Result == "" && s.Phase == Done {
		standing = append(standing[:len(standing):len(standing)], g.Review(s)...)
	}
	out := Standing{
		N: s.N, T: s.T, Result: a.Result, Reason: a.Reason, Phase: s.Phase, Progress: s.Progress(), Attempt: s.Attempt,
		Targets: map[string][]string{}, Stands: map[string]geometry.Rect{},
		Held: rename(g.names(func(p int) bool { return s.Now.Held[p] }), names), Dealt: s.Dealt,
		CanCheck: g.CanCheck(s), CanUndo: g.CanUndo(s), Shown: g.shown(s, names),
		Replies: g.told(standing, names), Hints: g.hintsTold(s, names), HintsLeft: len(g.Doc.Hints) - s.Hints, Key: g.key(s, names),
	}
	if left, ok := g.Left(s); ok {
		out.Left = &left
	}
	for t, list := range s.Now.Names() {
		out.Targets[names.Target(t)] = rename(list, names)
	}
	for p, r := range s.Now.Stands() {
		out.Stands[names.Piece(g.Parts.Pieces[p].ID)] = r
	}
	if s.Phase == Done {
		f := g.Final(s)
		out.Final, out.Review = &f, g.Doc.Play.Review
	}
	return out
}

// Progress is how far a sitting has come, from 0 to 1: what share of its pieces is in targets.
func (s *State) Progress() string {
	placed := 0
	for _, where := range s.Now.Where {
		if where >= 0 {
			placed++
		}
	}
	return Progress(s.Phase == Done, placed, len(s.Now.Where))
}

// Progress is a share to two places, as a decimal; only what is done is 1.
func Progress(done bool, n, of int) string {
	switch {
	case done:
		return "1"
	case of == 0:
		return "0"
	}
	return min(exact.Hundredths(99), exact.Of(int64(n), int64(of)).Round()).String()
}

// shown is what of right and wrong the learner sees, as the document lets it be
// seen: after a check, or at each placement. Pieces that have gone home since are
// left out.
func (g *Game) shown(s *State, names Names) *Shown {
	show, v := g.Doc.Play.Show, s.Verdict
	switch {
	case s.Phase == Placing && show == activity.ShowPlacement:
		v = g.Judge.Verdict(g.Judge.Judge(s.Now, marks.Now{Attempt: s.Attempt, Hints: s.Hints, Tries: s.tries}, nil))
	case v == nil || show == activity.ShowNever || s.Phase == Placing && !g.each():
		return nil
	}
	standing := func(pieces []string) []string {
		out := []string{}
		for _, id := range pieces {
			if p, _ := g.Parts.Piece(id); s.Now.Where[p] >= 0 {
				out = append(out, names.Piece(id))
			}
		}
		return out
	}
	out := &Shown{v.Outcome, standing(v.Right), standing(v.Wrong), map[string]string{}}
	for i := range g.Doc.Targets {
		t := &g.Doc.Targets[i]
		if state := v.Targets[t.ID]; state != "" && t.Looks.Points()[state] != nil {
			out.Targets[names.Target(t.ID)] = state
		}
	}
	return out
}

func rename(pieces []string, names Names) []string {
	out := make([]string, len(pieces))
	for i, p := range pieces {
		out[i] = names.Piece(p)
	}
	return out
}
