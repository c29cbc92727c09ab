package server

import (
	"context"
	"fmt"
	"net/http"

	"keenmagpie/core/play"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Replay is a sitting as it was played, for its replay: with the document that judges it.
type Replay struct {
	Learner  string      `json:"learner"`
	Phase    string      `json:"phase"`
	Score    string      `json:"score"`
	Percent  string      `json:"percent"`
	Outcome  string      `json:"outcome"`
	Band     string      `json:"band,omitempty"`
	Seed     uint64      `json:"seed"`
	Document Document    `json:"document"`
	Moves    []play.Move `json:"moves" nullable:"false"`
}

type replayInput struct {
	PlayedInput
	Sitting int64 `path:"sitting"`
}

type replayOutput struct{ Body Replay }

func (s *Server) replayRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/sittings/{sitting}", "replay", "A sitting's moves, for its replay"), s.replay)
}

func (s *Server) replay(ctx context.Context, m store.Member, in *replayInput) (*replayOutput, error) {
	p, err := s.played(ctx, m, in.PlayedInput)
	if err != nil {
		return nil, err
	}
	if err := s.enough(ctx, m, p); err != nil {
		return nil, err
	}
	x, err := s.store.Sitting(ctx, p.Played, in.Sitting)
	if err != nil {
		return nil, err
	}
	h, err := s.hosting.FindAnyway(ctx, p.release.Link)
	if err != nil {
		return nil, err
	}
	st := h.Stages[in.Step]
	if x.RemarkID != nil {
		if st, err = s.hosting.Corrected(ctx, st, p.release.ID, *x.RemarkID); err != nil {
			return nil, err
		}
	}
	doc := *st.Game.Doc
	if x.LimitMS != nil {
		doc.Play.TimeLimit = int(*x.LimitMS) // the one that this learner had
	}
	list, err := s.store.Moves(ctx, x.ID)
	if err != nil {
		return nil, err
	}
	moves, err := hosting.MovesOf(store.Logged{Sitting: x, Moves: list})
	if err != nil {
		return nil, err
	}
	if err := s.record(ctx, m, "replay", about(p.release), fmt.Sprintf("sitting %d", x.ID)); err != nil {
		return nil, err
	}
	r := p.row(x, m)
	return &replayOutput{Replay{r.Learner, r.Phase, r.Score, r.Percent, r.Outcome, r.Band, x.Seed, Document(doc.Full()), moves}}, nil
}
