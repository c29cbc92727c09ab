package server

import (
	"context"
	"net/http"
	"strconv"
	"strings"
	"time"

	"keenmagpie/core/play"
	"keenmagpie/core/series"
	"keenmagpie/hosting"
)

const sittingCookie = "magpie_sitting"

func isPlay(path string) bool { return strings.HasPrefix(path, "/api/play/") }

type linkInput struct {
	Link  string `path:"link" maxLength:"40"`
	Token string `cookie:"magpie_sitting"`
}

// Opening is what a release link shows, and why nobody can begin now.
type Opening struct {
	hosting.Opening
	Shut *Problem `json:"shut,omitempty" doc:"Why nobody can begin now"`
}

type openingOutput struct{ Body Opening }

type beginInput struct {
	Link   string `path:"link" maxLength:"40"`
	Framed string `header:"Magpie-Framed" doc:"The page is in a frame of another site, where no cookie is kept: the token comes as a header"`
	Body   hosting.Beginning
}

type begunOutput struct {
	SetCookie *http.Cookie `header:"Set-Cookie"`
	Token     string       `header:"Magpie-Sitting" doc:"In a frame: to be sent with each request"`
	Body      hosting.Begun
}

type leaveOutput struct {
	SetCookie http.Cookie `header:"Set-Cookie"`
}

// Seating is what a learner's request says of where its sitting is.
type Seating struct {
	Link  string `path:"link" maxLength:"40"`
	Token string `cookie:"magpie_sitting"`
	Step  int    `query:"step" minimum:"0" maximum:"200" doc:"Of a series"`
	Turn  int    `query:"turn" minimum:"0" doc:"Of a series: the how manieth sitting of this step"`
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

type goInput struct {
	Link  string `path:"link" maxLength:"40"`
	Token string `cookie:"magpie_sitting"`
	Body  series.Going
}

type viewOutput struct{ Body hosting.View }

type nowOutput struct{ Body series.Now }

func (s *Server) playRoutes() {
	open(s, operation(http.MethodGet, "/api/play/{link}", "opening", "What a release link leads to"), s.opening)
	open(s, created(operation(http.MethodPost, "/api/play/{link}/sittings", "begin", "Begin a sitting")), s.begin)
	move := operation(http.MethodPost, "/api/play/{link}/moves", "move", "Make a move")
	move.MaxBodyBytes = 4096
	open(s, move, func(ctx context.Context, in *moveInput) (*standingOutput, error) {
		if err := within(ctx, s.moves, "moves"); err != nil {
			return nil, err
		}
		now, err := s.hosting.Move(ctx, hosting.Seating(in.Seating), in.Body)
		if err != nil {
			return nil, err
		}
		s.meter.Moved(in.Token + "/" + strconv.Itoa(in.Step))
		return &standingOutput{*now}, nil
	})
	open(s, operation(http.MethodGet, "/api/play/{link}/beckoning/{piece}", "beckoning", "The targets that show themselves while a piece is in hand"),
		func(ctx context.Context, in *beckoningInput) (*beckoningOutput, error) {
			out, err := s.hosting.Beckoning(ctx, hosting.Seating(in.Seating), in.Piece)
			return &beckoningOutput{out}, err
		})
	open(s, operation(http.MethodPost, "/api/play/{link}/go", "go", "Go to a step of a series"),
		func(ctx context.Context, in *goInput) (*viewOutput, error) {
			view, err := s.hosting.Go(ctx, in.Link, in.Token, in.Body)
			if err != nil {
				return nil, err
			}
			return &viewOutput{*view}, nil
		})
	open(s, operation(http.MethodGet, "/api/play/{link}/now", "now", "Where a learner stands in a series"),
		func(ctx context.Context, in *linkInput) (*nowOutput, error) {
			now, err := s.hosting.Now(ctx, in.Link, in.Token)
			if err != nil {
				return nil, err
			}
			return &nowOutput{*now}, nil
		})
	leave := operation(http.MethodDelete, "/api/play/{link}/sitting", "leave", "Let another learner begin in this browser")
	leave.DefaultStatus = http.StatusNoContent
	open(s, leave, func(_ context.Context, in *linkInput) (*leaveOutput, error) {
		c := s.cookie(in.Link, "")
		c.MaxAge = -1
		return &leaveOutput{c}, nil
	})
}

func (s *Server) cookie(link, token string) http.Cookie {
	return http.Cookie{Name: sittingCookie, Value: token, Path: s.base + "/api/play/" + link, HttpOnly: true, Secure: s.secure,
		SameSite: http.SameSiteLaxMode, MaxAge: int((180 * 24 * time.Hour).Seconds())}
}

func (s *Server) opening(ctx context.Context, in *linkInput) (*openingOutput, error) {
	o, err := s.hosting.Opening(ctx, in.Link, in.Token)
	if err != nil {
		return nil, err
	}
	out := &openingOutput{Opening{Opening: *o}}
	if o.Shut != nil {
		out.Body.Shut = refused(o.Shut)
	}
	return out, nil
}

func (s *Server) begin(ctx context.Context, in *beginInput) (*begunOutput, error) {
	if err := within(ctx, s.begins, "who begin"); err != nil {
		return nil, err
	}
	begun, err := s.hosting.Begin(ctx, in.Link, in.Body)
	if err != nil {
		return nil, err
	}
	if in.Framed != "" {
		return &begunOutput{nil, begun.Token, *begun}, nil
	}
	c := s.cookie(in.Link, begun.Token)
	return &begunOutput{&c, "", *begun}, nil
}
