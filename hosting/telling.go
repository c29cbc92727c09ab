package hosting

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"strconv"
	"time"

	"keenmagpie/core/exact"
	"keenmagpie/core/play"
	"keenmagpie/core/visit"
	"keenmagpie/formats/xapi"
	"keenmagpie/store"
)

// place is where a stage belongs: whose it is, and the link that it is played by.
type place struct{ workspace, link string }

// recorded is what is known of a workspace's record store.
type recorded struct {
	there bool
	read  time.Time
}

// records says whether a workspace's statements go anywhere. It is asked every so often.
func (s *Service) records(ctx context.Context, workspace string) (bool, error) {
	if workspace == "" {
		return false, nil
	}
	if x, ok := s.recording.Get(workspace); ok && s.clock().Sub(x.read) < seenFor && !x.read.After(s.clock()) {
		return x.there, nil
	}
	_, err := s.store.In(workspace).RecordStore(ctx)
	if err != nil && !errors.Is(err, store.ErrNotFound) {
		return false, err
	}
	s.recording.Add(workspace, recorded{err == nil, s.clock()})
	return err == nil, nil
}

// RecordsChanged has it asked again where a workspace's statements go; other servers do so in
// some seconds.
func (s *Service) RecordsChanged(workspace string) { s.recording.Remove(workspace) }

// tells says whether a move is one that others are told of.
func (s *Service) tells(ctx context.Context, x *seat, answer play.Answer) (bool, error) {
	if x.state.N > 0 && answer.Verdict == nil {
		return false, nil
	}
	if x.ArrivalID != nil {
		return true, nil
	}
	return s.records(ctx, x.stage.at.workspace)
}

// StatementLane is where posts of a sitting's statements stand in line.
func StatementLane(sitting int64) string { return fmt.Sprintf("sitting %d", sitting) }

// statements are the posts that tell a record store of a move: that it was the first, each
// answer at a check, and how it ended.
func (s *Service) statements(ctx context.Context, x *seat, after *play.State, answer play.Answer, m play.Move) ([]store.Post, error) {
	is, err := s.records(ctx, x.stage.at.workspace)
	if err != nil || !is {
		return nil, err
	}
	g := x.stage.Game
	a := xapi.About{Home: s.Public, Name: "sitting-" + strconv.FormatInt(x.ID, 10), Activity: s.Public + "/play/" + x.stage.at.link, Title: g.Doc.Title, Lang: g.Doc.Lang, Registration: xapi.Named("sitting", x.Token)}
	if x.RunID != nil {
		a.Activity += "/step/" + strconv.Itoa(x.Step+1)
	}
	if x.LearnerID != nil {
		a.Name = "learner-" + strconv.FormatInt(*x.LearnerID, 10)
	}
	if x.ArrivalID != nil {
		if a.Home, a.Name, err = s.asArrived(ctx, *x.ArrivalID, a.Home, a.Name); err != nil {
			return nil, err
		}
	}
	at := x.StartedAt.Add(time.Duration(m.Time()) * time.Millisecond)
	list := []xapi.Statement{}
	id := func(what string) (named [16]byte) { return xapi.Named(x.Token, m.N, what) }
	if after.N == 1 {
		list = append(list, a.Attempted(id("attempted"), at))
	}
	if answer.Verdict != nil {
		for _, i := range visit.Interactions(g, after, answer.Verdict, m.Time()) {
			i.Step = x.Step
			list = append(list, a.Answered(id("answered "+i.ID), at, i))
		}
	}
	if after.Phase == play.Done && x.state.Phase != play.Done {
		f := g.Final(after)
		list = append(list, a.Completed(id("completed"), at, m.Time()))
		if g.Doc.Marks.PassMark > 0 && after.Verdict != nil {
			list = append(list, a.Judged(id("judged"), at, f.Passed, scored(f.Score, g.Doc.Marks.Points.String(), f.Percent), m.Time()))
		}
	}
	posts := []store.Post{}
	for _, one := range list {
		posts = append(posts, store.Post{WorkspaceID: x.stage.at.workspace, Kind: store.AStatement, Lane: StatementLane(x.ID), Name: one.ID.String(), Body: one.JSON()})
	}
	return posts, nil
}

// scored is a result as statements have it.
func scored(score, points, percent string) xapi.Score {
	return xapi.Score{Raw: number(score), Most: number(points), Percent: number(percent)}
}

// number is a decimal as JSON has it, for those who take no texts.
func number(decimal string) float64 {
	n, err := exact.Parse(decimal)
	if err != nil {
		return 0
	}
	return float64(n) / 100
}

// asArrived is who somebody is at the platform that they come from.
func (s *Service) asArrived(ctx context.Context, arrival int64, home, name string) (string, string, error) {
	a, p, err := s.store.ArrivalByID(ctx, arrival)
	if errors.Is(err, store.ErrNotFound) {
		return home, name, nil
	}
	if err != nil {
		return "", "", err
	}
	var l struct{ Subject string }
	err = json.Unmarshal([]byte(a.Launch), &l)
	return p.Issuer, l.Subject, err
}
