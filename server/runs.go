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

// course finds a released series, and those who have begun it.
func (s *Server) course(ctx context.Context, m store.Member, id string) (*hosted, []store.Run, error) {
	r, err := s.store.Release(ctx, m.WorkspaceID, id)
	if err != nil {
		return nil, nil, s.fail(err)
	}
	h, err := s.host(ctx, r.Link)
	if err != nil {
		return nil, nil, err
	}
	if h.series == nil {
		return nil, nil, notFound("This series")
	}
	if err := s.FinishDue(ctx, r.ID); err != nil {
		return nil, nil, s.fail(err)
	}
	list, err := s.store.Runs(ctx, r.ID)
	return h, list, s.fail(err)
}

// runs lists those who have begun a series.
func (s *Server) runs(ctx context.Context, m store.Member, in *idInput) (*runsOutput, error) {
	h, list, err := s.course(ctx, m, in.ID)
	if err != nil {
		return nil, err
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
		out.Body.Runs = append(out.Body.Runs, h.row(x, m))
	}
	return out, nil
}

// row is a run as a member may see it.
func (h *hosted) row(x store.Run, m store.Member) RunRow {
	row := RunRow{ID: x.ID, Learner: shown(m, x.Learner), StartedAt: x.StartedAt, At: min(x.At+1, x.End), Steps: x.End, Done: x.Reached >= x.End, Score: x.Score, Percent: x.Percent}
	if percent, err := exact.Parse(x.Percent); err == nil && row.Done {
		row.Band = h.series.Band(percent)
	}
	return row
}

func (s *Server) runRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/runs", "runs", "Those who have begun a released series"), s.runs)
}
