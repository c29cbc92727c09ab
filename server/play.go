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

// hosted is a release ready to be played.
type hosted struct {
	release store.Release
	game    *play.Game
	names   *names
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

func (s *Server) host(ctx context.Context, link string) (*hosted, error) {
	if h, ok := s.hosted.Get(link); ok {
		return h, nil
	}
	r, err := s.store.ReleaseByLink(ctx, link)
	if errors.Is(err, store.ErrNotFound) {
		return nil, &Problem{Status: 404, Code: "no-release", Detail: "This link leads to no activity. Check it with whoever gave it to you."}
	}
	if err != nil {
		return nil, s.fail(err)
	}
	doc, faults := activity.Read([]byte(r.Document))
	if faults != nil {
		return nil, s.fail(fmt.Errorf("release %s cannot be read: %w", r.ID, faults))
	}
	game, err := play.New(doc)
	if err != nil {
		return nil, s.fail(err)
	}
	n, err := readNames(r.Names)
	if err != nil {
		return nil, s.fail(err)
	}
	h := &hosted{r, game, n}
	s.hosted.Add(link, h)
	return h, nil
}

const sittingCookie = "magpie_sitting"

func isPlay(path string) bool { return strings.HasPrefix(path, "/api/play/") }

type linkInput struct {
	Link    string `path:"link" maxLength:"40"`
	Sitting string `cookie:"magpie_sitting"`
}

// Opening is what a release link shows: the title, and the sitting that this
// browser has begun.
type Opening struct {
	Title        string            `json:"title"`
	Instructions []richtext.Node   `json:"instructions" nullable:"false"`
	Lang         string            `json:"lang"`
	Words        map[string]string `json:"words,omitempty"`
	Sitting      *Seated           `json:"sitting,omitempty"`
}

// Seated is a sitting under way, as its learner sees it.
type Seated struct {
	Learner  string        `json:"learner"`
	Elapsed  int64         `json:"elapsed" doc:"Milliseconds since the start"`
	Scene    play.Scene    `json:"scene"`
	Standing play.Standing `json:"standing"`
}

type openingOutput struct{ Body Opening }

type beginInput struct {
	Link string `path:"link" maxLength:"40"`
	Body struct {
		Learner string `json:"learner" maxLength:"200"`
	}
}

type seatedOutput struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
	Body      Seated
}

type leaveOutput struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
}

type moveInput struct {
	Link    string `path:"link" maxLength:"40"`
	Sitting string `cookie:"magpie_sitting"`
	Body    play.Move
}

type beckoningInput struct {
	Link    string `path:"link" maxLength:"40"`
	Sitting string `cookie:"magpie_sitting"`
	Piece   string `path:"piece" maxLength:"80"`
}

// Beckoning lists targets that show themselves.
type Beckoning struct {
	Targets []string `json:"targets" nullable:"false"`
}

type beckoningOutput struct{ Body Beckoning }

// beckoning says which targets show themselves for a piece that has just been taken
// up: only as much of what is let in, or right, as the author wants seen then.
func (s *Server) beckoning(ctx context.Context, in *beckoningInput) (*beckoningOutput, error) {
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	x, known := s.seats.Get(in.Sitting)
	if !known || x.ReleaseID != h.release.ID {
		x, err = s.sitting(ctx, h, in.Sitting)
		if errors.Is(err, store.ErrNotFound) {
			return nil, noSitting()
		}
		if err != nil {
			return nil, s.fail(err)
		}
		s.seats.Add(in.Sitting, x)
	}
	out := &beckoningOutput{Beckoning{[]string{}}}
	piece := h.names.move(play.Move{Piece: in.Piece}).Piece
	if p, ok := h.game.Parts.Piece(piece); !ok || !x.state.HasAppeared(p) || x.state.Phase != play.Placing {
		return out, nil
	}
	for _, id := range h.game.Beckons(piece) {
		out.Body.Targets = append(out.Body.Targets, h.names.Target(id))
	}
	return out, nil
}

func noSitting() *Problem {
	return &Problem{Status: 404, Code: "no-sitting", Detail: "Your sitting is not known in this browser. Reload the page to begin again."}
}

type standingOutput struct{ Body play.Standing }

func (s *Server) playRoutes() {
	open(s, operation(http.MethodGet, "/api/play/{link}", "opening", "What a release link leads to"), s.opening)
	open(s, created(operation(http.MethodPost, "/api/play/{link}/sittings", "begin", "Begin a sitting")), s.begin)
	move := operation(http.MethodPost, "/api/play/{link}/moves", "move", "Make a move")
	move.MaxBodyBytes = 4096
	open(s, move, s.move)
	open(s, operation(http.MethodGet, "/api/play/{link}/beckoning/{piece}", "beckoning", "The targets that show themselves while a piece is in hand"), s.beckoning)
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

func (s *Server) opening(ctx context.Context, in *linkInput) (*openingOutput, error) {
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	out := &openingOutput{Opening{Title: h.game.Doc.Title, Instructions: play.Rich(h.game.Doc.Instructions, h.names), Lang: h.game.Doc.Lang, Words: h.game.Doc.Words}}
	if in.Sitting == "" {
		return out, nil
	}
	x, err := s.sitting(ctx, h, in.Sitting)
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	if err != nil {
		return nil, s.fail(err)
	}
	seated := h.seated(x)
	out.Body.Sitting = &seated
	return out, nil
}

// sitting reads a sitting and folds its log.
// Cost: O(moves), some microseconds each.
func (s *Server) sitting(ctx context.Context, h *hosted, token string) (*seat, error) {
	x, err := s.store.SittingByToken(ctx, h.release.ID, token)
	if err != nil {
		return nil, err
	}
	log, err := s.store.Moves(ctx, x.ID)
	if err != nil {
		return nil, err
	}
	state := h.game.Open(x.Seed)
	for _, line := range log {
		var m play.Move
		if err := json.Unmarshal([]byte(line.Body), &m); err != nil {
			return nil, fmt.Errorf("sitting %d, move %d: %w", x.ID, line.N, err)
		}
		state, _ = h.game.Move(state, m)
	}
	return &seat{x, state}, nil
}

func (h *hosted) seated(x *seat) Seated {
	return Seated{Learner: x.Learner, Elapsed: time.Since(x.StartedAt).Milliseconds(),
		Scene: h.game.Scene(x.Seed, h.names), Standing: h.game.Standing(x.state, play.Answer{}, h.names)}
}

func (s *Server) begin(ctx context.Context, in *beginInput) (*seatedOutput, error) {
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	learner := strings.Join(strings.Fields(in.Body.Learner), " ")
	if learner == "" {
		return nil, &Problem{Status: 422, Code: "no-name", Detail: "Give your name, so that your result can be found."}
	}
	// 53 bits, so that a seed survives any JSON reader.
	x := &seat{Sitting: store.Sitting{ReleaseID: h.release.ID, Learner: learner, Semantics: marks.Semantics, Seed: rand.Uint64N(1 << 53)}}
	x.state = h.game.Open(x.Seed)
	x.Sitting.Standing = h.standing(x.state)
	if x.Sitting, err = s.store.AddSitting(ctx, x.Sitting); err != nil {
		return nil, s.fail(err)
	}
	s.seats.Add(x.Token, x)
	return &seatedOutput{cookie(in.Link, x.Token), h.seated(x)}, nil
}

// standing is where a sitting stands, for lists.
func (h *hosted) standing(state *play.State) store.Standing {
	f := h.game.Final(state)
	return store.Standing{Phase: f.Phase, Attempts: f.Attempts, Score: f.Score, Percent: f.Percent, Outcome: f.Outcome}
}

func (s *Server) move(ctx context.Context, in *moveInput) (*standingOutput, error) {
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	m := h.names.move(in.Body)
	body, err := json.Marshal(m)
	if err != nil {
		return nil, s.fail(err)
	}
	// What this server remembers of the sitting is tried first. Where another server
	// has gone on with it, the move's number is taken, or does not follow: then the
	// log is read, and the move judged again on what stands there.
	for try := range 3 {
		x, known := s.seats.Get(in.Sitting)
		if !known || x.ReleaseID != h.release.ID || try > 0 {
			known = false
			x, err = s.sitting(ctx, h, in.Sitting)
			if errors.Is(err, store.ErrNotFound) {
				return nil, noSitting()
			}
			if err != nil {
				return nil, s.fail(err)
			}
			s.seats.Add(in.Sitting, x)
		}
		after, answer := h.game.Move(x.state, m)
		if after.N == x.state.N {
			if known {
				continue
			}
			return &standingOutput{h.game.Standing(after, answer, h.names)}, nil
		}
		next := &seat{x.Sitting, after}
		var changed *store.Standing
		if now := h.standing(after); now != x.Standing {
			next.Sitting.Standing, changed = now, &now
		}
		err := s.store.AppendMove(ctx, x.ID, store.Move{N: m.N, Body: string(body), Result: answer.Result}, changed)
		if errors.Is(err, store.ErrRaced) {
			continue
		}
		if err != nil {
			// Whether it was kept is not known, so nothing is remembered.
			s.seats.Remove(in.Sitting)
			return nil, s.fail(err)
		}
		s.seats.Add(in.Sitting, next)
		return &standingOutput{h.game.Standing(after, answer, h.names)}, nil
	}
	return nil, &Problem{Status: 409, Code: "raced", Detail: "This sitting is being played in another window. Reload the page."}
}
