// Package visit is one learner's visit to what a package holds: an activity, or a series
// with its activities, played where no server keeps the sitting. It does what hosting does
// with a database, on the same games, and comes to the same results:
//
//	v, err := visit.New(holds)
//	v.Begin(seed, 0)
//	seated, err := v.Seated(0, now)
//	told, err := v.Move(0, move, now)
//	memory := v.Remember(4096, now) // what a platform keeps; [Visit.Recall] goes on from it
//
// Times are milliseconds; now is that of the clock on the wall, by which time goes on while
// nobody is there. It knows no platform: what is reported to one is made of [Visit.Report]
// and of the interactions of a move.
package visit

import (
	"errors"
	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/richtext"
	"keenmagpie/core/series"
)

// Holds is what a package holds. Without a series there is one activity.
type Holds struct {
	Series     *activity.Series
	Activities map[string]*activity.Doc
	// Words are the workspace's own, of a series.
	Words map[string]string
}

// stage is a step ready to be played; of a page it has no game.
type stage struct {
	game *play.Game
	page *activity.Page
}

// seat is the sitting of a step.
type seat struct {
	state   *play.State
	started int64 // on the wall's clock
	turn    int
}

// Visit is one learner's way through it. It is changed by what is done.
type Visit struct {
	run    *series.Run // nil for a single activity
	words  map[string]string
	doc    *activity.Series
	stages []stage
	seats  []*seat
	turns  []int // the next sitting's, by step
	place  series.Place
	began  int64
	begun  bool
	seed   uint64
}

// New makes ready what a package holds. The error says which activity cannot be played.
func New(holds Holds) (*Visit, error) {
	v := &Visit{doc: holds.Series, words: holds.Words}
	if holds.Series == nil {
		if len(holds.Activities) != 1 {
			return nil, errors.New("without a series there is one activity")
		}
		for _, d := range holds.Activities {
			game, err := play.New(d)
			if err != nil {
				return nil, err
			}
			v.stages = []stage{{game: game}}
		}
	} else {
		v.run = series.New(holds.Series, holds.Activities)
		for _, step := range holds.Series.Steps {
			st := stage{page: step.Page}
			if step.Page == nil {
				d := holds.Activities[step.Activity]
				if d == nil {
					return nil, fmt.Errorf("the activity %q of the series is not there", step.Activity)
				}
				var err error
				if st.game, err = play.New(series.Activity(d, step)); err != nil {
					return nil, fmt.Errorf("%s: %w", d.Title, err)
				}
			}
			v.stages = append(v.stages, st)
		}
	}
	v.seats, v.turns = make([]*seat, len(v.stages)), make([]int, len(v.stages))
	return v, nil
}

// Begin starts anew; the sittings' seeds come of one.
func (v *Visit) Begin(seed uint64, now int64) {
	v.seats, v.turns = make([]*seat, len(v.stages)), make([]int, len(v.stages))
	v.place, v.began, v.begun, v.seed = series.Place{}, now, true, seed
}

// Begun reports whether there is something to go on with.
func (v *Visit) Begun() bool { return v.begun }

// seedOf is the seed of a step's sitting. It fits 53 bits.
func (v *Visit) seedOf(step, turn int) uint64 {
	return (v.seed + uint64(step)*0x9E3779B97F4A7C15 + uint64(turn)*0xBF58476D1CE4E5B9) & (1<<53 - 1)
}

// sit begins a step's sitting anew.
func (v *Visit) sit(step int, now int64) *seat {
	g := v.stages[step].game
	limit := int64(g.Doc.Play.TimeLimit)
	if v.doc != nil && v.doc.TimeLimit > 0 {
		left := max(1, int64(v.doc.TimeLimit)-(now-v.began))
		if limit == 0 || left < limit {
			limit = left
		}
	}
	v.seats[step] = &seat{g.OpenWithin(v.seedOf(step, v.turns[step]), limit), now, v.turns[step]}
	v.turns[step]++
	return v.seats[step]
}

func (v *Visit) results() []series.Result {
	out := make([]series.Result, len(v.stages))
	for i, s := range v.seats {
		if s != nil {
			out[i] = series.ResultOf(v.stages[i].game, s.state)
		}
	}
	return out
}

// Seated is a sitting as its learner sees it.
type Seated struct {
	Learner  string        `json:"learner"`
	Elapsed  int64         `json:"elapsed" doc:"Milliseconds since the start"`
	Turn     int           `json:"turn" doc:"Of a series: the how manieth sitting of its step"`
	Scene    play.Scene    `json:"scene"`
	Standing play.Standing `json:"standing"`
}

// Seated is the sitting of a step, which begins where there is none, or where coming back
// starts over.
func (v *Visit) Seated(step int, now int64) Seated {
	s, g := v.seats[step], v.stages[step].game
	switch {
	case s == nil:
		s = v.sit(step, now)
	case v.run == nil && g.Doc.Play.Reenter == activity.ReenterRestart && s.state.N > 0 && s.state.Phase != play.Done:
		s = v.sit(step, now)
	}
	return v.seated(s, g, now)
}

func (v *Visit) seated(s *seat, g *play.Game, now int64) Seated {
	scene := g.Scene(s.state.Seed, play.Plain{})
	scene.TimeLimit = int(s.state.Limit)
	return Seated{Elapsed: max(0, now-s.started), Turn: s.turn, Scene: scene, Standing: g.Standing(s.state, play.Answer{}, play.Plain{})}
}

// ErrNoSitting is of a move in a step whose sitting has not begun.
var ErrNoSitting = errors.New("no sitting has begun there")

// Moved is what a move came to.
type Moved struct {
	Standing     play.Standing `json:"standing"`
	Report       Report        `json:"report"`
	Interactions []Interaction `json:"interactions"`
}

// Move does a move in a step. A move that brings a verdict brings its interactions.
func (v *Visit) Move(step int, m play.Move) (Moved, error) {
	if step < 0 || step >= len(v.seats) || v.seats[step] == nil {
		return Moved{}, ErrNoSitting
	}
	s, g := v.seats[step], v.stages[step].game
	was := s.state
	after, answer := g.Move(was, m)
	s.state = after
	out := Moved{Standing: g.Standing(after, answer, play.Plain{}), Report: v.Report(), Interactions: []Interaction{}}
	if answer.Verdict != nil && after != was {
		out.Interactions = Interactions(g, after, answer.Verdict, m.Time())
		for i := range out.Interactions {
			out.Interactions[i].Step = step
		}
	}
	return out, nil
}

// Beckons says which targets show themselves while a piece of a step is in hand.
func (v *Visit) Beckons(step int, piece string) play.Beckoning {
	if step < 0 || step >= len(v.stages) || v.stages[step].game == nil {
		return play.Beckoning{Targets: []string{}, Opens: []string{}}
	}
	return v.stages[step].game.Beckons(piece)
}

// PageView is a page as learners get it.
type PageView struct {
	Title      string          `json:"title"`
	Rich       []richtext.Node `json:"rich" nullable:"false"`
	Picture    string          `json:"picture"`
	Alt        string          `json:"alt"`
	Sound      string          `json:"sound"`
	Transcript string          `json:"transcript"`
	// Aside is whether the step goes on where it was after this page.
	Aside bool `json:"aside"`
}

// View is where a learner stands in a series, and what is there.
type View struct {
	Learner   string     `json:"learner"`
	Elapsed   int64      `json:"elapsed" doc:"Milliseconds since the run began"`
	TimeLimit int        `json:"timeLimit" doc:"Milliseconds for all of it; 0 is none"`
	Now       series.Now `json:"now"`
	Page      *PageView  `json:"page,omitempty"`
	Sitting   *Seated    `json:"sitting,omitempty"`
}

// ErrNotYet is of a step that cannot be gone to.
var ErrNotYet = errors.New("that step cannot be gone to yet")

// Now says where a learner stands in a series.
func (v *Visit) Now() series.Now { return v.run.Now(v.place, v.results()) }

// Go goes to a step of a series, and says what is there. Where that may not be gone to,
// nothing changes. When the time for all of it is up, it leads to the result.
func (v *Visit) Go(to series.Going, now int64) (View, error) {
	end, results := v.run.End(), v.results()
	limit := int64(v.doc.TimeLimit)
	out := View{Elapsed: max(0, now-v.began), TimeLimit: int(limit)}
	over := limit > 0 && now-v.began >= limit
	switch {
	case over && v.place.At < end:
		if s := v.seats[v.place.At]; s != nil && s.state.Phase != play.Done {
			s.state, _ = v.stages[v.place.At].game.Move(s.state, play.Move{N: s.state.N + 1, T: max(s.state.T, s.state.Limit), Do: activity.DoTimeUp})
		}
		v.place = series.Place{At: end, Reached: end}
	case over && (to.Again || to.Retry):
		return out, ErrNotYet
	default:
		gone, ok := v.run.Go(v.place, results, to, func(what string) bool {
			at := v.place.At
			return at < end && v.seats[at] != nil && series.Offers(v.stages[at].game, v.seats[at].state, what)
		})
		if !ok {
			return out, ErrNotYet
		}
		if gone.Aside >= 0 {
			out.Page, out.Now = v.page(gone.Aside, true), v.Now()
			return out, nil
		}
		v.place = gone.Place
		for _, step := range gone.Redo {
			v.seats[step] = nil
		}
	}
	if at := v.place.At; at < end {
		if v.stages[at].page != nil {
			out.Page = v.page(at, false)
		} else {
			g, s := v.stages[at].game, v.seats[at]
			if s == nil || v.run.Fresh(v.place, series.ResultOf(g, s.state), s.state.N, g.Doc.Play.Reenter) {
				s = v.sit(at, now)
			}
			seated := v.seated(s, g, now)
			out.Sitting = &seated
		}
	}
	out.Now = v.Now()
	return out, nil
}

func (v *Visit) page(step int, aside bool) *PageView {
	p := v.stages[step].page
	rich := richtext.Read(p.Text)
	if rich == nil {
		rich = []richtext.Node{}
	}
	return &PageView{p.Title, rich, p.Picture, p.Alt, p.Sound, p.Transcript, aside}
}

// Outline is what a series looks like before it is begun.
type Outline struct {
	Steps     int  `json:"steps"`
	TimeLimit int  `json:"timeLimit" doc:"Milliseconds for all of it; 0 is none"`
	UnderWay  bool `json:"underWay" doc:"It has been begun here"`
}

// Opening is what is seen first.
type Opening struct {
	Title        string            `json:"title"`
	Instructions []richtext.Node   `json:"instructions"`
	Lang         string            `json:"lang"`
	Words        map[string]string `json:"words,omitempty"`
	ByCode       bool              `json:"byCode"`
	TimeLimit    int               `json:"timeLimit"`
	Sitting      *Seated           `json:"sitting,omitempty"`
	Series       *Outline          `json:"series,omitempty"`
}

// Opening says what is seen first: of a series whether it is under way, of an activity the
// sitting that is.
func (v *Visit) Opening(now int64) Opening {
	if v.run != nil {
		return Opening{Title: v.doc.Title, Instructions: []richtext.Node{}, Lang: v.doc.Lang, Words: v.words,
			Series: &Outline{len(v.doc.Steps), v.doc.TimeLimit, v.begun}}
	}
	d := v.stages[0].game.Doc
	out := Opening{Title: d.Title, Instructions: play.Rich(d.Instructions, play.Plain{}), Lang: d.Lang, Words: d.Words, TimeLimit: d.Play.TimeLimit}
	if v.begun && v.seats[0] != nil {
		seated := v.Seated(0, now)
		out.Sitting = &seated
	}
	return out
}
