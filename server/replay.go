package server

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// Log is a sitting as it was played, for its replay: with the document that judges it.
type Log struct {
	Learner  string      `json:"learner"`
	Seed     uint64      `json:"seed"`
	Document Document    `json:"document"`
	Moves    []play.Move `json:"moves" nullable:"false"`
}

type logInput struct {
	ID      string `path:"id" maxLength:"40"`
	Sitting int64  `path:"sitting"`
}

type logOutput struct{ Body Log }

func (s *Server) replayRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/sittings/{sitting}", "log", "A sitting's moves, for its replay"), s.replay)
}

func (s *Server) replay(ctx context.Context, m store.Member, in *logInput) (*logOutput, error) {
	r, err := s.store.Release(ctx, m.WorkspaceID, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	x, err := s.store.Sitting(ctx, r.ID, in.Sitting)
	if err != nil {
		return nil, s.fail(err)
	}
	counts := r.Document
	if x.RemarkID != nil {
		k, err := s.store.Remark(ctx, r.ID, *x.RemarkID)
		if err != nil {
			return nil, s.fail(err)
		}
		counts = k.Document
	}
	doc, faults := activity.Read([]byte(counts))
	if faults != nil {
		return nil, s.fail(faults)
	}
	if x.LimitMS != nil {
		doc.Play.TimeLimit = int(*x.LimitMS) // the one that this learner had
	}
	list, err := s.store.Moves(ctx, x.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	out := &logOutput{Log{x.Learner, x.Seed, Document(doc.Full()), make([]play.Move, len(list))}}
	for i, line := range list {
		if err := json.Unmarshal([]byte(line.Body), &out.Body.Moves[i]); err != nil {
			return nil, s.fail(fmt.Errorf("sitting %d, move %d: %w", x.ID, line.N, err))
		}
	}
	return out, nil
}
