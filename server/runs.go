package server

import (
	"context"
	"net/http"
	"time"

	"keenmagpie/core/exact"
	"keenmagpie/hosting"
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
	// Sittings are those of its steps, the last of each.
	Sittings []RunSitting `json:"sittings" nullable:"false"`
}

// RunSitting is what a learner did at one step of a run.
type RunSitting struct {
	Step    int    `json:"step" doc:"From 0, pages counted"`
	Sitting int64  `json:"sitting"`
	Phase   string `json:"phase"`
	Score   string `json:"score"`
	Percent string `json:"percent"`
}

// course finds a released series, and those who have begun it.
func (s *Server) course(ctx context.Context, m store.Member, id string) (*hosting.Hosted, []store.Run, error) {
	r, err := s.store.In(m.WorkspaceID).Release(ctx, id)
	if err != nil {
		return nil, nil, err
	}
	h, err := s.hosting.FindAnyway(ctx, r.Link)
	if err != nil {
		return nil, nil, err
	}
	if h.Series == nil {
		return nil, nil, notFound("This series")
	}
	list, err := s.store.Runs(ctx, r.ID)
	return h, list, err
}

// runs lists those who have begun a series.
func (s *Server) runs(ctx context.Context, m store.Member, in *idInput) (*runsOutput, error) {
	h, list, err := s.course(ctx, m, in.ID)
	if err != nil {
		return nil, err
	}
	out := &runsOutput{}
	out.Body.Steps, out.Body.Runs = []RunStep{}, []RunRow{}
	for i, leg := range h.Series.Steps {
		if h.Stages[i].Game != nil {
			out.Body.Steps = append(out.Body.Steps, RunStep{i, leg.Title})
		}
	}
	if len(list) < m.LeastGroup {
		out.Body.Least = m.LeastGroup
		return out, nil
	}
	of, err := s.store.SittingsOfRuns(ctx, h.Release.ID)
	if err != nil {
		return nil, err
	}
	for _, x := range list {
		row := runRow(h, x, m)
		for _, p := range of[x.ID] {
			row.Sittings = append(row.Sittings, RunSitting{p.Step, p.ID, p.Phase, p.Score, p.Percent})
		}
		out.Body.Runs = append(out.Body.Runs, row)
	}
	return out, nil
}

// row is a run as a member may see it.
func runRow(h *hosting.Hosted, x store.Run, m store.Member) RunRow {
	row := RunRow{ID: x.ID, Learner: shown(m, x.Learner), StartedAt: x.StartedAt, At: min(x.At+1, x.End), Steps: x.End, Done: x.Reached >= x.End, Score: x.Score, Percent: x.Percent, Sittings: []RunSitting{}}
	if percent, err := exact.Parse(x.Percent); err == nil && row.Done {
		row.Band = h.Series.Band(percent)
	}
	return row
}

func (s *Server) runRoutes() {
	member(s, operation(http.MethodGet, "/api/releases/{id}/runs", "runs", "Those who have begun a released series"), s.runs)
}
