package platforms

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"math/rand/v2"
	"net/http"
	"sync"
	"time"

	"keenmagpie/hosting"
	"keenmagpie/lti"
	"keenmagpie/store"
)

// How many lanes are sent at once, how much is looked for, and how long one look takes.
const (
	lanesAtOnce = 8
	postsAtOnce = 500
	oneLook     = 20 * time.Second
)

// Waits between tries double from the first to the last.
const (
	firstWait = 2 * time.Second
	lastWait  = 15 * time.Minute
)

// SendDue sends what waits in the outbox, each lane in its order. What cannot be sent now waits
// longer each time; what is refused for good is noted with the answer, and the lane goes on.
// It may be done twice at once: whoever gets a post again knows it by its name, or by the time
// that it was made at.
func (s *Service) SendDue(ctx context.Context) error {
	until := time.Now().Add(oneLook)
	for ctx.Err() == nil && time.Now().Before(until) {
		list, err := s.store.DuePosts(ctx, time.Now(), postsAtOnce)
		if err != nil || len(list) == 0 {
			return err
		}
		var order []string
		lanes := map[string][]store.Post{}
		for _, p := range list {
			if lanes[p.Lane] == nil {
				order = append(order, p.Lane)
			}
			lanes[p.Lane] = append(lanes[p.Lane], p)
		}
		var mu sync.Mutex
		var failed error
		var work sync.WaitGroup
		places := make(chan struct{}, lanesAtOnce)
		for _, lane := range order {
			places <- struct{}{}
			work.Go(func() {
				defer func() { <-places }()
				if err := s.sendLane(ctx, lanes[lane], until); err != nil {
					mu.Lock()
					failed = errors.Join(failed, err)
					mu.Unlock()
				}
			})
		}
		work.Wait()
		if failed != nil {
			return failed
		}
	}
	return ctx.Err()
}

// sendLane sends posts of one lane. Of grades only the last is sent: each takes the place of
// the one before.
func (s *Service) sendLane(ctx context.Context, list []store.Post, until time.Time) error {
	if len(list) > 1 && list[0].Kind == store.AStatement {
		// All at once, where they are taken so; else each is asked for.
		err := s.sendStatements(ctx, list)
		if err == nil {
			return s.store.Posted(ctx, idsOf(list)...)
		}
		if !lti.ForGood(err) && !errors.Is(err, errNobody) {
			return s.later(ctx, list[0], err)
		}
	}
	for i, p := range list {
		if ctx.Err() != nil || time.Now().After(until) {
			return nil
		}
		if p.Kind == store.AGrade && i+1 < len(list) && list[i+1].Kind == store.AGrade {
			if err := s.store.Posted(ctx, p.ID); err != nil {
				return err
			}
			continue
		}
		err := s.send(ctx, p)
		switch {
		case err == nil:
			err = s.store.Posted(ctx, p.ID)
		case errors.Is(err, errNobody):
			err = s.store.PostDropped(ctx, p.ID)
		case lti.ForGood(err):
			err = s.store.PostRefused(ctx, p.ID, err.Error())
		default:
			return s.later(ctx, p, err)
		}
		if err != nil {
			return err
		}
	}
	return nil
}

func idsOf(list []store.Post) []int64 {
	ids := []int64{}
	for _, p := range list {
		ids = append(ids, p.ID)
	}
	return ids
}

// later has a post wait, and its lane with it: longer each time, and not all at the same time.
func (s *Service) later(ctx context.Context, p store.Post, why error) error {
	if ctx.Err() != nil {
		return nil // it is sent again
	}
	wait := min(firstWait<<min(p.Tries, 20), lastWait)
	wait = wait/2 + time.Duration(rand.Int64N(int64(wait)/2+1))
	return s.store.PostLater(ctx, time.Now().Add(wait), why.Error(), p.ID)
}

// errNobody says that there is nobody any more whom a post is for.
var errNobody = errors.New("the connection has ended")

func (s *Service) send(ctx context.Context, p store.Post) error {
	switch p.Kind {
	case store.AGrade:
		return s.sendGrade(ctx, p)
	case store.ByCmi5:
		return s.sendByCmi5(ctx, p)
	case store.AStatement:
		return s.sendStatements(ctx, []store.Post{p})
	}
	return fmt.Errorf("nothing is known of posts of the kind %q", p.Kind)
}

// sendGrade brings a grade to the column of its link, which is made where there is none.
func (s *Service) sendGrade(ctx context.Context, p store.Post) error {
	var g hosting.Grade
	if err := json.Unmarshal([]byte(p.Body), &g); err != nil {
		return err
	}
	a, platform, err := s.store.ArrivalByID(ctx, g.Arrival)
	if errors.Is(err, store.ErrNotFound) {
		return errNobody
	}
	if err != nil {
		return err
	}
	var l lti.Launch
	if err := json.Unmarshal([]byte(a.Launch), &l); err != nil {
		return err
	}
	column := a.LineItem
	if column == "" {
		if l.LineItems == "" {
			return errNobody // the platform keeps no grades for this link
		}
		if column, err = s.client.Column(ctx, Of(platform), l.LineItems, l.Resource, g.Title, g.Most); err != nil {
			return err
		}
		if err := s.store.KeepColumn(ctx, a.LinkID, column); err != nil {
			return err
		}
	}
	err = s.client.SendScore(ctx, Of(platform), column, scoreOf(g, l.Subject, p.MadeAt))
	var answered *lti.Answered
	if errors.As(err, &answered) && answered.Status == http.StatusConflict {
		return nil // a later one is there: this one came twice
	}
	return err
}

// scoreOf is a grade as the standard says it: progress of the learner, and of the grading.
func scoreOf(g hosting.Grade, subject string, at time.Time) lti.Score {
	x := lti.Score{Subject: subject, At: at, Given: g.Given, Most: g.Most, Activity: "InProgress", Grading: "Pending"}
	if g.Given == "" {
		x.Grading = "NotReady"
	}
	if g.Done {
		x.Grading = "FullyGraded"
		if !g.Working {
			x.Activity = "Completed"
		}
	}
	return x
}
