package hosting

import (
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/google/uuid"

	"keenmagpie/core/play"
	"keenmagpie/core/visit"
	"keenmagpie/formats/xapi"
	"keenmagpie/store"
)

// Cmi5Post is a statement of a launch on its way: it goes with the token of its session.
type Cmi5Post struct {
	Session   string          `json:"session"`
	Statement json.RawMessage `json:"statement"`
}

// PostOf is a statement of a session as a post.
func PostOf(x store.Cmi5Session, workspace string, s xapi.Statement) store.Post {
	body, err := json.Marshal(Cmi5Post{x.ID, json.RawMessage(s.JSON())})
	if err != nil {
		panic(err) // texts
	}
	return store.Post{WorkspaceID: workspace, Kind: store.ByCmi5, Lane: GradeLane(x.ArrivalID), Name: s.ID.String(), Body: string(body)}
}

// launched finds the session under way by which somebody came, and what is said of it; nil where
// they came otherwise, or it is over or only for looking.
func (s *Service) launched(ctx context.Context, arrival int64) (*store.Cmi5Session, xapi.Launch, string, error) {
	x, err := s.store.Cmi5Of(ctx, arrival)
	if errors.Is(err, store.ErrNotFound) {
		return nil, xapi.Launch{}, "", nil
	}
	if err != nil {
		return nil, xapi.Launch{}, "", err
	}
	p, err := s.store.PlatformByID(ctx, x.PlatformID)
	if err != nil {
		return nil, xapi.Launch{}, "", err
	}
	var l xapi.Launch
	if err := json.Unmarshal([]byte(x.Launch), &l); err != nil {
		return nil, l, "", err
	}
	if x.OverAt != nil || l.Mode != "Normal" {
		return nil, l, "", nil
	}
	return &x, l, p.WorkspaceID, nil
}

// OnlyLooks says whether somebody came only to look at what was done: then nothing is begun.
func (s *Service) OnlyLooks(ctx context.Context, arrival int64) (bool, error) {
	x, err := s.store.Cmi5Of(ctx, arrival)
	if errors.Is(err, store.ErrNotFound) || err == nil && x.OverAt != nil {
		return false, nil
	}
	var l xapi.Launch
	if err == nil {
		err = json.Unmarshal([]byte(x.Launch), &l)
	}
	return err == nil && l.Mode != "Normal", err
}

// ended adds to a session that what was launched is done, and whether it is passed: each once.
func ended(x *store.Cmi5Session, l xapi.Launch, workspace string, at time.Time, passMark bool, passed bool, score xapi.Score, took int64) (posts []store.Post) {
	if !x.Completed {
		x.Completed = true
		posts = append(posts, PostOf(*x, workspace, l.Completed(uuid.New(), at, took)))
	}
	verb := "failed"
	if passed {
		verb = "passed"
	}
	if passMark && x.Judged != "passed" && x.Judged != verb {
		x.Judged = verb
		posts = append(posts, PostOf(*x, workspace, l.Judged(uuid.New(), at, passed, score, took)))
	}
	return posts
}

// byCmi5 are the statements of a move to the platform by which its learner came.
func (s *Service) byCmi5(ctx context.Context, x *seat, after *play.State, answer play.Answer, m play.Move) ([]store.Post, *store.Cmi5Session, error) {
	if x.ArrivalID == nil || answer.Verdict == nil && after.Phase != play.Done {
		return nil, nil, nil
	}
	session, l, workspace, err := s.launched(ctx, *x.ArrivalID)
	if err != nil || session == nil {
		return nil, nil, err
	}
	g, at := x.stage.Game, x.StartedAt.Add(time.Duration(m.Time())*time.Millisecond)
	var posts []store.Post
	if answer.Verdict != nil {
		for _, i := range visit.Interactions(g, after, answer.Verdict, m.Time()) {
			i.Step = x.Step
			posts = append(posts, PostOf(*session, workspace, l.Answered(xapi.Named(x.Token, m.N, "cmi5", i.ID), at, g.Doc.Lang, i)))
		}
	}
	if x.RunID == nil && after.Phase == play.Done && x.state.Phase != play.Done {
		f := g.Final(after)
		posts = append(posts, ended(session, l, workspace, at, g.Doc.Marks.PassMark > 0 && after.Verdict != nil, f.Passed,
			scored(f.Score, g.Doc.Marks.Points.String(), f.Percent), m.Time())...)
	}
	return posts, session, nil
}

// stays is for how long a page that is gone may come back, as after it was loaded again.
const stays = 20 * time.Second

// EndLeft ends launches whose page has gone and did not come back.
func (s *Service) EndLeft(ctx context.Context) error {
	list, err := s.store.LeftBehind(ctx, s.clock().Add(-stays), dueAtOnce)
	for _, arrival := range list {
		err = errors.Join(err, s.EndLaunch(ctx, arrival))
	}
	return err
}

// EndLaunch ends the session by which somebody came, if there is one under way.
func (s *Service) EndLaunch(ctx context.Context, arrival int64) error {
	x, err := s.store.Cmi5Of(ctx, arrival)
	if errors.Is(err, store.ErrNotFound) || err == nil && x.OverAt != nil {
		return nil
	}
	if err != nil {
		return err
	}
	p, err := s.store.PlatformByID(ctx, x.PlatformID)
	if err != nil {
		return err
	}
	var l xapi.Launch
	if err := json.Unmarshal([]byte(x.Launch), &l); err != nil {
		return err
	}
	err = s.store.EndCmi5(ctx, x.ID, []store.Post{PostOf(x, p.WorkspaceID, l.Terminated(uuid.New(), s.clock(), s.clock().Sub(x.BegunAt).Milliseconds()))})
	if errors.Is(err, store.ErrNotFound) {
		return nil // it was ended at the same time
	}
	return err
}
