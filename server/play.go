package server

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"strings"
	"time"

	"keenmagpie/core/play"
	"keenmagpie/core/richtext"
	"keenmagpie/store"
)

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
	Shut *Problem `json:"shut,omitempty"`
	// TimeLimit is how long there is from the start, in milliseconds; 0 is as long as one
	// likes. What single learners have beyond is not known before they are.
	TimeLimit int `json:"timeLimit"`
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
	// Request makes it safe to ask again: the same one is the same sitting.
	Request string `json:"request,omitempty" maxLength:"64" doc:"Drawn at random by whoever asks"`
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

type beckoningOutput struct{ Body play.Beckoning }

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
		c := s.cookie(in.Link, "")
		c.MaxAge = -1
		return &leaveOutput{c}, nil
	})
}

func (s *Server) cookie(link, token string) http.Cookie {
	return http.Cookie{Name: sittingCookie, Value: token, Path: "/api/play/" + link, HttpOnly: true, Secure: s.secure,
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
		return nil, err
	}
	if err := (&hosted{release: r}).ended(); err != nil {
		return nil, err
	}
	out := &openingOutput{Opening{ByCode: r.RosterID != nil}}
	out.Body.Shut = shut(r, s.clock())
	if h.series != nil {
		return out, s.openSeries(ctx, h, in.Token, &out.Body)
	}
	st := h.stages[0]
	doc := st.game.Doc
	out.Body.Title, out.Body.Instructions, out.Body.Lang, out.Body.Words = doc.Title, play.Rich(doc.Instructions, st.names), doc.Lang, doc.Words
	out.Body.TimeLimit = doc.Play.TimeLimit
	if in.Token == "" {
		return out, nil
	}
	x, err := s.sitting(ctx, h, Seating{Link: in.Link, Token: in.Token})
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	if doc.Play.Reenter == "restart" && x.state.N > 0 {
		out.Body.Learner = x.Learner
		return out, nil
	}
	seated := x.seated(s.clock())
	out.Body.Sitting = &seated
	return out, nil
}

// beckoning says which targets show themselves for a piece that has just been taken
// up: only as much of what is let in, or right, as the author wants seen then.
func (s *Server) beckoning(ctx context.Context, in *beckoningInput) (*beckoningOutput, error) {
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	x, _, err := s.seen(ctx, h, in.Seating, true)
	if err != nil {
		return nil, err
	}
	return &beckoningOutput{x.stage.beckons(x.state, in.Piece)}, nil
}

func (st stage) beckons(state *play.State, piece string) play.Beckoning {
	id := st.names.move(play.Move{Piece: piece}).Piece
	if p, ok := st.game.Parts.Piece(id); !ok || !state.HasAppeared(p) || state.Phase != play.Placing {
		id = "" // nobody has it in hand
	}
	return st.beckoning(id)
}

// beckoning is what targets say of themselves for a piece, in the learner's names.
func (st stage) beckoning(id string) play.Beckoning {
	out := st.game.Beckons(id)
	for _, list := range [][]string{out.Targets, out.Opens} {
		for i, t := range list {
			list[i] = st.names.Target(t)
		}
	}
	return out
}

func (s *Server) move(ctx context.Context, in *moveInput) (*standingOutput, error) {
	if err := within(ctx, s.moves, "moves"); err != nil {
		return nil, err
	}
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	st, err := h.stage(in.Step)
	if err != nil {
		return nil, err
	}
	m := st.names.move(in.Body)
	arrived := s.clock()
	// What this server remembers of the sitting is tried first. Where another server
	// has gone on with it, the move's number is taken, or does not follow: then the
	// log is read, and the move judged again on what stands there.
	for try := range 3 {
		x, known, err := s.seen(ctx, h, in.Seating, try == 0)
		if err != nil {
			return nil, err
		}
		st := x.stage
		m = x.timed(m, arrived.Sub(x.StartedAt))
		if known && m.Time() > m.T {
			continue // too late, by when this server last saw the sitting: its allowance may have changed
		}
		after, answer := st.game.Move(x.state, m)
		if after.N == x.state.N {
			if known {
				continue
			}
			if answer.Result == "rejected" && x.Phase == play.Done && overAt(arrived, x.StartedAt, x.state.Limit) {
				answer.Reason = "too-late" // it was finished when its time was over
			}
			return &standingOutput{st.game.Standing(after, answer, st.names)}, nil
		}
		body, err := json.Marshal(m)
		if err != nil {
			return nil, err
		}
		next := &seat{x.Sitting, st, after}
		var changed *store.Change
		if m.Late {
			next.Late++
		}
		if now := st.standing(after); now != x.Standing || m.Late {
			next.Sitting.Standing = now
			if changed, err = s.change(ctx, next, after, m); err != nil {
				return nil, err
			}
		}
		err = s.store.AppendMove(ctx, x.ID, store.Move{N: m.N, Body: string(body), Result: answer.Result}, x.RemarkID, changed)
		if errors.Is(err, store.ErrRaced) {
			continue
		}
		if err != nil {
			// Whether it was kept is not known, so nothing is remembered.
			s.seats.Remove(in.key())
			if errors.Is(err, store.ErrNotFound) {
				return nil, noSitting()
			}
			return nil, err
		}
		s.seats.Add(in.key(), next)
		return &standingOutput{st.game.Standing(after, answer, st.names)}, nil
	}
	return nil, &Problem{Status: 409, Code: "raced", Detail: "This sitting is being played in another window. Reload the page."}
}
