package hosting

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"github.com/google/uuid"

	"keenmagpie/core/exact"
	"keenmagpie/core/play"
	"keenmagpie/core/visit"
	"keenmagpie/store"
)

// Arrive begins what a link leads to for somebody whom a platform sends, or goes on with it:
// also with the last that they did where that is done, unless they want it again. A roster that
// keeps others out does not keep them out: their platform has let them in.
func (s *Service) Arrive(ctx context.Context, link string, arrival store.Arrival, again bool, request string) (*Begun, error) {
	h, r, err := s.current(ctx, link)
	if err != nil {
		return nil, err
	}
	if p := wellFormed(request); p != nil {
		return nil, p
	}
	if arrival.LearnerID == nil {
		return nil, noSitting()
	}
	who, err := s.store.LearnerByID(ctx, *arrival.LearnerID)
	if err != nil {
		return nil, err
	}
	by := comer{who, &arrival.ID}
	out, err := s.resume(ctx, h, r, by)
	if err != nil || out != nil && !again {
		return out, err
	}
	if out != nil && !s.over(ctx, r, by) {
		return out, nil // it is under way
	}
	return s.beginOnce(ctx, h, r, by, request)
}

// over says whether what somebody begun last is done.
func (s *Service) over(ctx context.Context, r store.Release, by comer) bool {
	if r.Form == store.ASeries {
		run, err := s.runOf(ctx, r, by)
		return err == nil && run.Reached >= run.End
	}
	x, err := s.sittingOf(ctx, r, by)
	return err == nil && play.Phase(x.Phase) == play.Done
}

func (s *Service) sittingOf(ctx context.Context, r store.Release, by comer) (store.Sitting, error) {
	if by.arrival != nil {
		return s.store.SittingOfArrival(ctx, r.ID, *by.arrival)
	}
	return s.store.SittingOfLearner(ctx, r.ID, by.who.ID)
}

func (s *Service) runOf(ctx context.Context, r store.Release, by comer) (store.Run, error) {
	if by.arrival != nil {
		return s.store.RunOfArrival(ctx, r.ID, *by.arrival)
	}
	return s.store.RunOfLearner(ctx, r.ID, by.who.ID)
}

// Grade is what a platform is told of somebody at one of its links.
type Grade struct {
	Arrival int64  `json:"arrival"`
	Title   string `json:"title"`
	Given   string `json:"given,omitempty"` // "" where there is no verdict
	Most    string `json:"most"`
	// Done says that the attempt that counts is done, Working that another is under way.
	Done    bool `json:"done"`
	Working bool `json:"working"`
}

func attempt(x store.Sitting, now store.Result) store.Attempt {
	return store.Attempt{ID: x.ID, ReleaseID: x.ReleaseID, StartedAt: x.StartedAt, Done: play.Phase(now.Phase) == play.Done, Score: now.Score, Percent: now.Percent, Judged: now.Outcome != ""}
}

func attemptOfRun(r store.Run) store.Attempt {
	return store.Attempt{ID: r.ID, ReleaseID: r.ReleaseID, StartedAt: r.StartedAt, Done: r.Reached >= r.End, Score: r.Score, Percent: r.Percent, Judged: true}
}

// grade is the post by which a platform is told how it stands with an attempt, and the
// others of the same arrival: by keep the best, the last or the first of them counts. What is
// under way counts only where nothing is done.
func (s *Service) grade(ctx context.Context, arrival int64, now store.Attempt, points, keep, title string) ([]store.Post, error) {
	a, p, err := s.store.ArrivalByID(ctx, arrival)
	if errors.Is(err, store.ErrNotFound) || err == nil && p.Auth == "" {
		return nil, nil // the connection was ended, or takes no grades
	}
	if err != nil {
		return nil, err
	}
	list, err := s.store.AttemptsOf(ctx, arrival)
	if err != nil {
		return nil, err
	}
	for i, x := range list {
		if x.ID == now.ID && x.ReleaseID == now.ReleaseID {
			list[i] = now
		}
	}
	g := GradeOf(list, points, keep, now.ReleaseID)
	g.Arrival, g.Title = arrival, title
	return []store.Post{GradePost(a, p, g)}, nil
}

// GradePost is a grade on its way to a platform.
func GradePost(a store.Arrival, p store.Platform, g Grade) store.Post {
	body, err := json.Marshal(g)
	if err != nil {
		panic(err) // texts and truths
	}
	return store.Post{WorkspaceID: p.WorkspaceID, Kind: store.AGrade, Lane: GradeLane(a.ID), Name: uuid.NewString(), Body: string(body)}
}

// GradeOf is the grade of some attempts, in the order in which they were begun; points are
// those of the release.
func GradeOf(list []store.Attempt, points, keep, release string) Grade {
	g := Grade{Most: points}
	those := make([]visit.Attempt, len(list))
	for i, x := range list {
		g.Working = g.Working || !x.Done
		those[i] = visit.Attempt{Done: x.Done, Judged: x.Judged}
		those[i].Score, _ = exact.Parse(x.Score)
		those[i].Percent, _ = exact.Parse(x.Percent)
	}
	i := visit.Counts(those, keep)
	if i < 0 {
		return g
	}
	g.Done = those[i].Done
	score := those[i].Score
	if list[i].ReleaseID != release { // with points of its own: their share counts
		whole, _ := exact.Parse(points)
		score = exact.Of(int64(those[i].Percent)*int64(whole), 100*100*100).Round()
	}
	g.Given = max(0, score).String()
	return g
}

// GradeLane is where posts of an arrival's grade stand in line.
func GradeLane(arrival int64) string { return fmt.Sprintf("arrival %d", arrival) }

// GradesAgain are the posts by which a platform is told the grades of a release as they stand
// now, as after a re-mark.
func (s *Service) GradesAgain(ctx context.Context, r store.Release) ([]store.Post, error) {
	h, err := s.FindAnyway(ctx, r.Link)
	if err != nil {
		return nil, err
	}
	arrivals, err := s.store.ArrivalsOfRelease(ctx, r.ID)
	if err != nil {
		return nil, err
	}
	posts := []store.Post{}
	for _, id := range arrivals {
		a, p, err := s.store.ArrivalByID(ctx, id)
		if errors.Is(err, store.ErrNotFound) || err == nil && p.Auth == "" {
			continue
		}
		if err != nil {
			return nil, err
		}
		list, err := s.store.AttemptsOf(ctx, id)
		if err != nil {
			return nil, err
		}
		points, keep, title, err := s.pointsOf(ctx, h, r, id)
		if err != nil {
			return nil, err
		}
		if g := GradeOf(list, points, keep, r.ID); g.Given != "" {
			g.Arrival, g.Title = id, title
			posts = append(posts, GradePost(a, p, g))
		}
	}
	return posts, nil
}

// pointsOf is what a release is worth, as it is scored now for those of an arrival, which
// attempt counts, and what it is called.
func (s *Service) pointsOf(ctx context.Context, h *Hosted, r store.Release, arrival int64) (points, keep, title string, err error) {
	if h.Series == nil {
		doc := h.Stages[0].Game.Doc
		return doc.Marks.Points.String(), string(doc.Marks.Keep), doc.Title, nil
	}
	run, err := s.store.RunOfArrival(ctx, r.ID, arrival)
	if err != nil {
		return "", "", "", err
	}
	list, err := s.store.SittingsOfRun(ctx, run.ID)
	if err != nil {
		return "", "", "", err
	}
	w := &way{Hosted: h, at: s.clock(), run: run}
	if err := s.take(ctx, w, list); err != nil {
		return "", "", "", err
	}
	if t := w.now().Total; t != nil {
		points = t.Points
	}
	return points, "best", h.Series.Doc.Title, nil
}
