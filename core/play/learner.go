package play

import (
	"keenmagpie/core/activity"
	"keenmagpie/core/geometry"
	"keenmagpie/core/marks"
	"keenmagpie/core/reply"
)

// Scene is what a learner gets of an activity, and all of it: frames, faces,
// words, and the play settings that show. It is an allow-list. Tags, lets,
// weights, penalties, solutions and the author's names of parts are not in it,
// and ids are what Names makes of them.
type Scene struct {
	Title        string         `json:"title"`
	Instructions string         `json:"instructions"`
	Lang         string         `json:"lang"`
	Width        activity.U     `json:"width"`
	Height       activity.U     `json:"height"`
	Color        string         `json:"color"`
	Picture      string         `json:"picture"`
	Scenery      []SceneScenery `json:"scenery" nullable:"false"`
	Pieces       []ScenePiece   `json:"pieces" nullable:"false"`
	Targets      []SceneTarget  `json:"targets" nullable:"false"`
	Reset        bool           `json:"reset"`
	Hit          string         `json:"hit" enum:"centre,touch,inside,overlap"`
	Overlap      int            `json:"overlap" doc:"The percent that hit by overlap asks for"`
	Reach        activity.U     `json:"reach"`
	Points       activity.U     `json:"points"`
}

// SceneScenery is a part that only stands there.
type SceneScenery struct {
	Type    string          `json:"type"`
	Frame   *geometry.Rect  `json:"frame,omitempty"`
	From    *activity.Point `json:"from,omitempty" doc:"The ends of a line or an arrow"`
	To      *activity.Point `json:"to,omitempty"`
	Text    string          `json:"text"`
	Picture string          `json:"picture"`
	Alt     string          `json:"alt"`
}

// ScenePiece is one piece in the order in which they are laid out.
type ScenePiece struct {
	ID      string          `json:"id"`
	Text    string          `json:"text"`
	Picture string          `json:"picture"`
	Spoken  string          `json:"spoken" doc:"What a screen reader says: the text, else the alternative text, else the name"`
	Size    geometry.Size   `json:"size"`
	Home    *activity.Point `json:"home,omitempty"`
}

// SceneTarget is where a piece can be put.
type SceneTarget struct {
	ID     string            `json:"id"`
	Label  activity.Label    `json:"label"`
	Spoken string            `json:"spoken"`
	Frame  geometry.Rect     `json:"frame"`
	Shape  string            `json:"shape"`
	Points []geometry.Vertex `json:"points,omitempty" doc:"The corners of a polygon"`
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
	d := g.Doc
	s := Scene{
		Title: d.Title, Instructions: d.Instructions, Lang: d.Lang,
		Width: d.Board.Width, Height: d.Board.Height, Color: d.Board.Background.Color,
		Picture: media(names, d.Board.Background.Picture),
		Scenery: []SceneScenery{}, Pieces: []ScenePiece{}, Targets: []SceneTarget{},
		Reset: d.Play.Reset, Hit: d.Play.Hit.Rule, Overlap: d.Play.Hit.Overlap, Reach: d.Play.Reach, Points: d.Marks.Points,
	}
	for _, x := range d.Scenery {
		s.Scenery = append(s.Scenery, SceneScenery{x.Type, x.Frame, x.From, x.To, x.Text, media(names, x.Picture), x.Alt})
	}
	for _, p := range g.shuffled(seed) {
		it := g.Parts.ItemOf(p)
		s.Pieces = append(s.Pieces, ScenePiece{
			names.Piece(g.Parts.Pieces[p].ID), it.Text, media(names, it.Picture), reply.Spoken(it), it.Size, it.Home})
	}
	for i := range d.Targets {
		t := &d.Targets[i]
		s.Targets = append(s.Targets, SceneTarget{names.Target(t.ID), t.Label, reply.Called(t), t.Frame, t.Shape, t.Points})
	}
	return s
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
	Result   string                   `json:"result"`
	Reason   string                   `json:"reason,omitempty"`
	Phase    string                   `json:"phase" enum:"placing,paused,done"`
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
	Shown *Shown `json:"shown,omitempty"`
	Final *Final `json:"final,omitempty"`
}

// Shown marks pieces right and wrong after a check.
type Shown struct {
	Outcome string   `json:"outcome" enum:"right,part,wrong"`
	Right   []string `json:"right" nullable:"false"`
	Wrong   []string `json:"wrong" nullable:"false"`
}

// Standing tells the learner where the sitting stands after an answer; the zero
// Answer is that before any move.
func (g *Game) Standing(s *State, a Answer, names Names) Standing {
	out := Standing{
		N: s.N, T: s.T, Result: a.Result, Reason: a.Reason, Phase: s.Phase, Attempt: s.Attempt,
		Targets: map[string][]string{}, Stands: map[string]geometry.Rect{},
		Held: rename(g.names(func(p int) bool { return s.Now.Held[p] }), names), Dealt: s.Dealt,
		CanCheck: g.CanCheck(s), CanUndo: g.CanUndo(s), Shown: g.shown(s, names),
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
		out.Final = &f
	}
	return out
}

// shown is what of right and wrong the learner sees, as the document lets it be
// seen: after a check, or at each placement. Pieces that have gone home since are
// left out.
func (g *Game) shown(s *State, names Names) *Shown {
	show, v := g.Doc.Play.Show, s.Verdict
	switch {
	case s.Phase == Placing && show == "placement":
		v = g.Judge.Verdict(g.Judge.Judge(s.Now, marks.Now{Attempt: s.Attempt, Hints: s.Hints, Tries: s.tries}, nil))
	case v == nil || show == "never" || s.Phase == Placing && !g.each():
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
	return &Shown{v.Outcome, standing(v.Right), standing(v.Wrong)}
}

func rename(pieces []string, names Names) []string {
	out := make([]string, len(pieces))
	for i, p := range pieces {
		out[i] = names.Piece(p)
	}
	return out
}
