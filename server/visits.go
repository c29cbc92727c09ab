package server

import (
	"cmp"
	"context"
	"errors"
	"net/http"
	"time"

	"github.com/mileusna/useragent"

	"keenmagpie/store"
)

// Session is one of a person's own.
type Session struct {
	ID      string    `json:"id"`
	Device  string    `json:"device" doc:"As Firefox on Windows"`
	Place   string    `json:"place" doc:"The network address that it was last used from"`
	BeganAt time.Time `json:"beganAt"`
	SeenAt  time.Time `json:"seenAt"`
	Here    bool      `json:"here" doc:"It is this one"`
}

type sessionsOutput struct {
	Body struct {
		Sessions []Session `json:"sessions" nullable:"false"`
	}
}

type sessionInput struct {
	ID string `path:"session" maxLength:"40"`
}

func (s *Server) visitRoutes() {
	member(s, operation(http.MethodGet, "/api/me/sessions", "sessions", "Where one is signed in"), s.ownSessions)
	end := operation(http.MethodDelete, "/api/me/sessions/{session}", "endSession", "End a session of one's own")
	end.DefaultStatus = http.StatusNoContent
	member(s, end, func(ctx context.Context, m store.Member, in *sessionInput) (*struct{}, error) {
		return nil, s.store.EndVisit(ctx, m.ID, in.ID)
	})
}

func (s *Server) ownSessions(ctx context.Context, m store.Member, _ *struct{}) (*sessionsOutput, error) {
	list, err := s.store.Visits(ctx, m.ID)
	if err != nil {
		return nil, err
	}
	out, here := &sessionsOutput{}, s.sessions.GetString(ctx, "visit")
	out.Body.Sessions = []Session{}
	for _, v := range list {
		if time.Since(v.SeenAt) < s.sessions.IdleTimeout && time.Since(v.BeganAt) < s.sessions.Lifetime {
			out.Body.Sessions = append(out.Body.Sessions, Session{v.ID, v.Device, v.Place, v.BeganAt, v.SeenAt, v.ID == here})
		}
	}
	return out, nil
}

// deviceOf is a browser as its owner knows it. What it says of itself is taken for no more
// than that.
func deviceOf(agent string) string {
	is := useragent.Parse(agent)
	name, on := cmp.Or(is.Name, "A program"), is.OS
	if on == "" {
		return firstLetters(name, 60)
	}
	return firstLetters(name+" on "+on, 90)
}

func firstLetters(text string, most int) string {
	letters := []rune(text)
	return string(letters[:min(most, len(letters))])
}

// visiting says whether the visit of a session goes on, and notes where. One that began with
// an earlier version has none.
func (s *Server) visiting(ctx context.Context, account string) (bool, error) {
	id := s.sessions.GetString(ctx, "visit")
	if id == "" {
		return true, nil
	}
	v, err := s.store.Visit(ctx, account, id)
	if errors.Is(err, store.ErrNotFound) {
		return false, nil
	}
	if err == nil && (time.Since(v.SeenAt) > time.Minute || v.Place != address(ctx)) {
		err = s.store.SeenAt(ctx, id, address(ctx))
	}
	return err == nil, err
}
