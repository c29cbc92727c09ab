package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"net/http"
	"strings"
	"sync"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// hosted is a release ready to be played.
type hosted struct {
	release store.Release
	game    *play.Game
	names   *names
}

// hostedCache keeps releases that were asked for. They never change, so it needs
// no clearing but for its size.
type hostedCache struct {
	mu     sync.Mutex // guards byLink
	byLink map[string]*hosted
}

func newHostedCache() *hostedCache { return &hostedCache{byLink: map[string]*hosted{}} }

func (s *Server) host(ctx context.Context, link string) (*hosted, error) {
	s.hosted.mu.Lock()
	h := s.hosted.byLink[link]
	s.hosted.mu.Unlock()
	if h != nil {
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
	h = &hosted{r, game, n}
	s.hosted.mu.Lock()
	defer s.hosted.mu.Unlock()
	if len(s.hosted.byLink) >= 500 {
		clear(s.hosted.byLink)
	}
	s.hosted.byLink[link] = h
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
	Title        string  `json:"title"`
	Instructions string  `json:"instructions"`
	Lang         string  `json:"lang"`
	Sitting      *Seated `json:"sitting,omitempty"`
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

type standingOutput struct{ Body play.Standing }

func (s *Server) playRoutes() {
	open(s, operation(http.MethodGet, "/api/play/{link}", "opening", "What a release link leads to"), s.opening)
	open(s, created(operation(http.MethodPost, "/api/play/{link}/sittings", "begin", "Begin a sitting")), s.begin)
	move := operation(http.MethodPost, "/api/play/{link}/moves", "move", "Make a move")
	move.MaxBodyBytes = 4096
	open(s, move, s.move)
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
	out := &openingOutput{Opening{Title: h.game.Doc.Title, Instructions: h.game.Doc.Instructions, Lang: h.game.Doc.Lang}}
	if in.Sitting == "" {
		return out, nil
	}
	x, state, err := s.sitting(ctx, h, in.Sitting)
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	if err != nil {
		return nil, s.fail(err)
	}
	seated := h.seated(x, state)
	out.Body.Sitting = &seated
	return out, nil
}

func (s *Server) sitting(ctx context.Context, h *hosted, token string) (store.Sitting, *play.State, error) {
	x, err := s.store.SittingByToken(ctx, h.release.ID, token)
	if err != nil {
		return x, nil, err
	}
	state := new(play.State)
	if err := json.Unmarshal([]byte(x.State), state); err != nil {
		return x, nil, fmt.Errorf("sitting %d: %w", x.ID, err)
	}
	return x, state, nil
}

func (h *hosted) seated(x store.Sitting, state *play.State) Seated {
	return Seated{Learner: x.Learner, Elapsed: time.Since(x.StartedAt).Milliseconds(),
		Scene: h.game.Scene(state.Seed, h.names), Standing: h.game.Standing(state, play.Answer{}, h.names)}
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
	state := h.game.Open(rand.Uint64N(1 << 53))
	x := store.Sitting{ReleaseID: h.release.ID, Learner: learner, Semantics: marks.Semantics}
	if err := h.fill(&x, state); err != nil {
		return nil, s.fail(err)
	}
	if x, err = s.store.AddSitting(ctx, x); err != nil {
		return nil, s.fail(err)
	}
	return &seatedOutput{cookie(in.Link, x.Token), h.seated(x, state)}, nil
}

// fill writes the state into a sitting's row, with the figures for lists.
func (h *hosted) fill(x *store.Sitting, state *play.State) error {
	body, err := json.Marshal(state)
	f := h.game.Final(state)
	x.N, x.State, x.Phase, x.Attempts, x.Score, x.Percent, x.Outcome = state.N, string(body), f.Phase, f.Attempts, f.Score, f.Percent, f.Outcome
	return err
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
	// A move that raced another request of the same sitting is judged again, on
	// what that one left; the second time it is the repeated or the next one.
	for range 3 {
		x, state, err := s.sitting(ctx, h, in.Sitting)
		if errors.Is(err, store.ErrNotFound) {
			return nil, &Problem{Status: 404, Code: "no-sitting", Detail: "Your sitting is not known in this browser. Reload the page to begin again."}
		}
		if err != nil {
			return nil, s.fail(err)
		}
		after, answer := h.game.Move(state, m)
		if after.N > state.N {
			if err := h.fill(&x, after); err != nil {
				return nil, s.fail(err)
			}
			err := s.store.AppendMove(ctx, x, string(body), answer.Result)
			if errors.Is(err, store.ErrRaced) {
				continue
			}
			if err != nil {
				return nil, s.fail(err)
			}
		}
		return &standingOutput{h.game.Standing(after, answer, h.names)}, nil
	}
	return nil, &Problem{Status: 409, Code: "raced", Detail: "This sitting is being played in another window. Reload the page."}
}
