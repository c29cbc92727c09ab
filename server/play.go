package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"net/http"
	"strings"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/play"
	"keenmagpie/core/richtext"
	"keenmagpie/store"
)

// stage is a document ready to be played before learners, who know its parts by
// names of their own. Where a series has a page it is empty.
type stage struct {
	game  *play.Game
	names *names
}

func newStage(doc *activity.Doc, n *names) (stage, error) {
	game, err := play.New(doc)
	return stage{game, n}, err
}

// hosted is a release ready to be played: by step, of which an activity has one.
type hosted struct {
	release store.Release
	stages  []stage
	series  *boundSeries // nil for an activity
}

func (h *hosted) stage(step int) (stage, error) {
	if step < 0 || step >= len(h.stages) || h.stages[step].game == nil {
		return stage{}, noSitting()
	}
	return h.stages[step], nil
}

// hostedSize and seatedSize are how many releases and sittings are kept in memory.
const (
	hostedSize = 500
	seatedSize = 5000
)

// seat is a sitting with its state: the fold of its log as far as this server has
// seen it. Another server may have gone on with it; see [Server.move].
type seat struct {
	store.Sitting
	state *play.State
}

// Seating is what a learner's request says of where its sitting is.
type Seating struct {
	Link  string `path:"link" maxLength:"40"`
	Token string `cookie:"magpie_sitting"`
	Step  int    `query:"step" minimum:"0" maximum:"200" doc:"Of a series"`
	Turn  int    `query:"turn" minimum:"0" doc:"Of a series: the how manieth sitting of this step"`
}

func (x Seating) key() string { return fmt.Sprintf("%s.%d.%d", x.Token, x.Step, x.Turn) }

func (s *Server) host(ctx context.Context, link string) (*hosted, error) {
	if h, ok := s.hosted.Get(link); ok {
		return h, nil
	}
	r, err := s.store.ReleaseByLink(ctx, link)
	if errors.Is(err, store.ErrNotFound) {
		return nil, noRelease()
	}
	if err != nil {
		return nil, s.fail(err)
	}
	h := &hosted{release: r}
	if r.Form == store.ASeries {
		err = h.bind()
	} else {
		err = h.take(r.Document, r.Names)
	}
	if err != nil {
		return nil, s.fail(fmt.Errorf("release %s cannot be read: %w", r.ID, err))
	}
	s.hosted.Add(link, h)
	return h, nil
}

// take makes an activity's release ready.
func (h *hosted) take(document, learners string) error {
	doc, faults := activity.Read([]byte(document))
	if faults != nil {
		return faults
	}
	n, err := readNames(learners)
	if err != nil {
		return err
	}
	st, err := newStage(doc, n)
	h.stages = []stage{st}
	return err
}

func noRelease() *Problem {
	return &Problem{Status: 404, Code: "no-release", Detail: "This link leads to no activity. Check it with whoever gave it to you."}
}

const sittingCookie = "magpie_sitting"

func isPlay(path string) bool { return strings.HasPrefix(path, "/api/play/") }

type linkInput struct {
	Link  string `path:"link" maxLength:"40"`
	Token string `cookie:"magpie_sitting"`
}

// Opening is what a release link shows: the title, and what this browser has begun.
type Opening struct {
	Title        string            `json:"title"`
	Instructions []richtext.Node   `json:"instructions" nullable:"false"`
	Lang         string            `json:"lang"`
	Words        map[string]string `json:"words,omitempty"`
	// ByCode is whether a code is asked for, not a name.
	ByCode bool `json:"byCode"`
	// Shut says why nobody can begin now.
	Shut string `json:"shut,omitempty"`
	// Learner is who was here last, where coming back starts over.
	Learner string   `json:"learner,omitempty"`
	Sitting *Seated  `json:"sitting,omitempty"`
	Series  *Outline `json:"series,omitempty"`
}

// Outline is what a series looks like before it is begun.
type Outline struct {
	Steps     int  `json:"steps"`
	TimeLimit int  `json:"timeLimit" doc:"Milliseconds for all of it; 0 is none"`
	UnderWay  bool `json:"underWay" doc:"This browser has begun it"`
}

// Seated is a sitting under way, as its learner sees it.
type Seated struct {
	Learner  string        `json:"learner"`
	Elapsed  int64         `json:"elapsed" doc:"Milliseconds since the start"`
	Turn     int           `json:"turn" doc:"Of a series: the how manieth sitting of its step"`
	Scene    play.Scene    `json:"scene"`
	Standing play.Standing `json:"standing"`
}

type openingOutput struct{ Body Opening }

type beginInput struct {
	Link string `path:"link" maxLength:"40"`
	Body Beginning
}

// Beginning is who begins: by a name, or by the code of a roster.
type Beginning struct {
	Learner string `json:"learner,omitempty" maxLength:"200"`
	Code    string `json:"code,omitempty" maxLength:"40"`
}

type begunOutput struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
	Body      Begun
}

// Begun is a sitting; in a series, the first step is gone to next.
type Begun struct {
	Sitting *Seated `json:"sitting,omitempty"`
}

type leaveOutput struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
}

type moveInput struct {
	Seating
	Body play.Move
}

type beckoningInput struct {
	Seating
	Piece string `path:"piece" maxLength:"80"`
}

// Beckoning lists targets that show themselves.
type Beckoning struct {
	Targets []string `json:"targets" nullable:"false"`
}

type beckoningOutput struct{ Body Beckoning }

type standingOutput struct{ Body play.Standing }

func (s *Server) playRoutes() {
	open(s, operation(http.MethodGet, "/api/play/{link}", "opening", "What a release link leads to"), s.opening)
	open(s, created(operation(http.MethodPost, "/api/play/{link}/sittings", "begin", "Begin a sitting")), s.begin)
	move := operation(http.MethodPost, "/api/play/{link}/moves", "move", "Make a move")
	move.MaxBodyBytes = 4096
	open(s, move, s.move)
	open(s, operation(http.MethodGet, "/api/play/{link}/beckoning/{piece}", "beckoning", "The targets that show themselves while a piece is in hand"), s.beckoning)
	open(s, operation(http.MethodPost, "/api/play/{link}/go", "go", "Go to a step of a series"), s.goTo)
	open(s, operation(http.MethodGet, "/api/play/{link}/now", "now", "Where a learner stands in a series"), s.nowInSeries)
	leave := operation(http.MethodDelete, "/api/play/{link}/sitting", "leave", "Let another learner begin in this browser")
	leave.DefaultStatus = http.StatusNoContent
	open(s, leave, func(_ context.Context, in *linkInput) (*leaveOutput, error) {
		c := cookie(in.Link, "")
		c.MaxAge = -1
		return &leaveOutput{c}, nil
	})
}

func cookie(link, token string) http.Cookie {
	return http.Cookie{Name: sittingCookie, Value: token, Path: "/api/play/" + link, HttpOnly: true,
		SameSite: http.SameSiteLaxMode, MaxAge: int((180 * 24 * time.Hour).Seconds())}
}

func noSitting() *Problem {
	return &Problem{Status: 404, Code: "no-sitting", Detail: "Your sitting is not known in this browser. Reload the page to begin again."}
}

func (s *Server) opening(ctx context.Context, in *linkInput) (*openingOutput, error) {
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	// Who may enter can have changed since the release was read.
	r, err := s.store.ReleaseByLink(ctx, in.Link)
	if err != nil {
		return nil, s.fail(err)
	}
	out := &openingOutput{Opening{ByCode: r.RosterID != nil}}
	if p := shut(r, time.Now()); p != nil {
		out.Body.Shut = p.Detail
	}
	if h.series != nil {
		return out, s.fail(s.openSeries(ctx, h, in.Token, &out.Body))
	}
	st := h.stages[0]
	doc := st.game.Doc
	out.Body.Title, out.Body.Instructions, out.Body.Lang, out.Body.Words = doc.Title, play.Rich(doc.Instructions, st.names), doc.Lang, doc.Words
	if in.Token == "" {
		return out, nil
	}
	x, err := s.sitting(ctx, h, Seating{Link: in.Link, Token: in.Token})
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	if err != nil {
		return nil, s.fail(err)
	}
	if doc.Play.Reenter == "restart" && x.state.N > 0 {
		out.Body.Learner = x.Learner
		return out, nil
	}
	seated := st.seated(x)
	out.Body.Sitting = &seated
	return out, nil
}

// sitting reads a sitting and folds its log.
// Cost: O(moves), some microseconds each.
func (s *Server) sitting(ctx context.Context, h *hosted, in Seating) (*seat, error) {
	st, err := h.stage(in.Step)
	if err != nil {
		return nil, err
	}
	var x store.Sitting
	if h.series == nil {
		x, err = s.store.SittingByToken(ctx, h.release.ID, in.Token)
	} else {
		var run store.Run
		if run, err = s.store.RunByToken(ctx, h.release.ID, in.Token); err == nil {
			x, err = s.store.SittingOfRun(ctx, run.ID, in.Step, in.Turn)
		}
	}
	if err != nil {
		return nil, err
	}
	return s.seat(ctx, st, x)
}

// seat folds the log of a sitting.
func (s *Server) seat(ctx context.Context, st stage, x store.Sitting) (*seat, error) {
	log, err := s.store.Moves(ctx, x.ID)
	if err != nil {
		return nil, err
	}
	state := st.open(x)
	for _, line := range log {
		var m play.Move
		if err := json.Unmarshal([]byte(line.Body), &m); err != nil {
			return nil, fmt.Errorf("sitting %d, move %d: %w", x.ID, line.N, err)
		}
		state, _ = st.game.Move(state, m)
	}
	return &seat{x, state}, nil
}

// open is a sitting before its first move.
func (st stage) open(x store.Sitting) *play.State {
	if x.LimitMS != nil {
		return st.game.OpenWithin(x.Seed, *x.LimitMS)
	}
	return st.game.Open(x.Seed)
}

func (st stage) seated(x *seat) Seated {
	scene := st.game.Scene(x.Seed, st.names)
	scene.TimeLimit = int(x.state.Limit)
	return Seated{Learner: x.Learner, Elapsed: time.Since(x.StartedAt).Milliseconds(), Turn: x.Turn,
		Scene: scene, Standing: st.game.Standing(x.state, play.Answer{}, st.names)}
}

// start begins a sitting of a stage.
func (s *Server) start(ctx context.Context, st stage, x store.Sitting) (*seat, error) {
	// 53 bits, so that a seed survives any JSON reader.
	x.Semantics, x.Seed = marks.Semantics, rand.Uint64N(1<<53)
	state := st.open(x)
	x.Standing = st.standing(state)
	x, err := s.store.AddSitting(ctx, x)
	return &seat{x, state}, err
}

// standing is where a sitting stands, for lists.
func (st stage) standing(state *play.State) store.Standing {
	f := st.game.Final(state)
	return store.Standing{Phase: f.Phase, Attempts: f.Attempts, Score: f.Score, Percent: f.Percent, Outcome: f.Outcome}
}

// seen is the sitting as this server remembers it, else as the log has it.
func (s *Server) seen(ctx context.Context, h *hosted, in Seating, remembered bool) (x *seat, known bool, err error) {
	if x, known = s.seats.Get(in.key()); known && remembered && x.ReleaseID == h.release.ID {
		return x, true, nil
	}
	x, err = s.sitting(ctx, h, in)
	if errors.Is(err, store.ErrNotFound) {
		return nil, false, noSitting()
	}
	if err != nil {
		return nil, false, s.fail(err)
	}
	s.seats.Add(in.key(), x)
	return x, false, nil
}

// beckoning says which targets show themselves for a piece that has just been taken
// up: only as much of what is let in, or right, as the author wants seen then.
func (s *Server) beckoning(ctx context.Context, in *beckoningInput) (*beckoningOutput, error) {
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	st, err := h.stage(in.Step)
	if err != nil {
		return nil, err
	}
	x, _, err := s.seen(ctx, h, in.Seating, true)
	if err != nil {
		return nil, err
	}
	return &beckoningOutput{Beckoning{st.beckons(x.state, in.Piece)}}, nil
}

func (st stage) beckons(state *play.State, piece string) []string {
	out := []string{}
	id := st.names.move(play.Move{Piece: piece}).Piece
	if p, ok := st.game.Parts.Piece(id); !ok || !state.HasAppeared(p) || state.Phase != play.Placing {
		return out
	}
	for _, t := range st.game.Beckons(id) {
		out = append(out, st.names.Target(t))
	}
	return out
}

func (s *Server) move(ctx context.Context, in *moveInput) (*standingOutput, error) {
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	st, err := h.stage(in.Step)
	if err != nil {
		return nil, err
	}
	m := st.names.move(in.Body)
	body, err := json.Marshal(m)
	if err != nil {
		return nil, s.fail(err)
	}
	// What this server remembers of the sitting is tried first. Where another server
	// has gone on with it, the move's number is taken, or does not follow: then the
	// log is read, and the move judged again on what stands there.
	for try := range 3 {
		x, known, err := s.seen(ctx, h, in.Seating, try == 0)
		if err != nil {
			return nil, err
		}
		after, answer := st.game.Move(x.state, m)
		if after.N == x.state.N {
			if known {
				continue
			}
			return &standingOutput{st.game.Standing(after, answer, st.names)}, nil
		}
		next := &seat{x.Sitting, after}
		var changed *store.Standing
		if now := st.standing(after); now != x.Standing {
			next.Sitting.Standing, changed = now, &now
		}
		err = s.store.AppendMove(ctx, x.ID, store.Move{N: m.N, Body: string(body), Result: answer.Result}, changed)
		if errors.Is(err, store.ErrRaced) {
			continue
		}
		if err != nil {
			// Whether it was kept is not known, so nothing is remembered.
			s.seats.Remove(in.key())
			return nil, s.fail(err)
		}
		s.seats.Add(in.key(), next)
		return &standingOutput{st.game.Standing(after, answer, st.names)}, nil
	}
	return nil, &Problem{Status: 409, Code: "raced", Detail: "This sitting is being played in another window. Reload the page."}
}
