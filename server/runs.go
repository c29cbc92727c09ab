package server

import (
	"context"
	"net/http"
	"time"

	"keenmagpie/core/exact"
	"keenmagpie/store"
)

type runsOutput struct {
	Body struct {
		Steps []RunStep `json:"steps" nullable:"false" doc:"The activities; pages are left out"`
		Least int       `json:"least,omitempty" doc:"The smallest group, where these are fewer: none is listed"`
		Runs  []RunRow  `json:"runs" nullable:"false"`
	}
}

// RunStep is an activity of a series.
type RunStep struct {
	Step  int    `json:"step" doc:"From 0, pages counted"`
	Title string `json:"title"`
}

// RunRow is one run in the list.
type RunRow struct {
	ID        int64     `json:"id"`
	Learner   string    `json:"learner"`
	StartedAt time.Time `json:"startedAt"`
	At        int       `json:"at" doc:"The step, from 1"`
	Steps     int       `json:"steps"`
	Done      bool      `json:"done"`
	Score     string    `json:"score"`
	Percent   string    `json:"percent"`
	Band      string    `json:"band,omitempty"`
}

// runs lists those who have begun a series.
func (s *Server) runs(ctx context.Context, m store.Member, in *idInput) (*runsOutput, error) {
	r, err := s.store.Release(ctx, m.WorkspaceID, in.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	h, err := s.host(ctx, r.Link)
	if err != nil {
		return nil, err
	}
	if h.series == nil {
		return nil, notFound("This series")
	}
	list, err := s.store.Runs(ctx, r.ID)
	if err != nil {
		return nil, s.fail(err)
	}
	out := &runsOutput{}
	out.Body.Steps, out.Body.Runs = []RunStep{}, []RunRow{}
	for i, leg := range h.series.Legs {
		if h.stages[i].game != nil {
			out.Body.Steps = append(out.Body.Steps, RunStep{i, leg.Title})
		}
	}
	if len(list) < m.LeastGroup {
		out.Body.Least = m.LeastGroup
		return out, nil
	}
	for _, x := range list {
		row := RunRow{ID: x.ID, Learner: shown(m, x.Learner), StartedAt: x.StartedAt, At: min(x.At+1, x.End), Steps: x.End, Done: x.Reached >= x.End, Score: x.Score, Percent: x.Percent}
		if percent, err := exact.Parse(x.Percent); err == nil && row.Done {
			row.Band = h.series.Band(percent)
		}
		out.Body.Runs = append(out.Body.Runs, row)
	}
	return out, nil
}

func (s *Server) runRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/runs", "runs", "Those who have begun a released series"), s.runs)
}
