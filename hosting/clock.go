package hosting

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// The clock is the server's. A learner's t orders moves and gives times; whether a move is
// in time is decided by when the sitting began and when the move arrived:
//
//   - a move's time is its t, but never later than its arrival;
//   - one that was made in time by its t and arrives after the limit counts within the
//     release's allowance, and is marked as received late; after that it is too late;
//   - a sitting whose time and allowance are over is finished without its learner.
//
// What a server's clock does when it jumps: set back, no move is refused for it, since a
// time is never taken to be before that of the move before; set forward, time is over
// sooner by as much, and what arrives within the allowance still counts. Servers that
// share a database should keep the same time, as by NTP: what they differ by is lateness.

// dueMargin is how much sooner than by the server's clock a learner's own clock may say
// that the time is up.
const dueMargin = 2 * time.Second

// timed gives a move the time that counts, on its arrival so long after the start.
func (x *seat) timed(m play.Move, arrived time.Duration) play.Move {
	m.At, m.Late = nil, false
	limit, now := x.state.Limit, arrived.Milliseconds()
	if m.T < x.state.T {
		return m // out of order, as it is for the core
	}
	at := max(min(m.T, now), x.state.T)
	switch {
	case limit == 0:
	case m.Do == activity.DoTimeUp:
		if m.T >= limit && now >= limit-dueMargin.Milliseconds() {
			at = max(at, limit)
		}
	case at <= limit && now > limit:
		if now > x.dueAfter().Milliseconds() {
			at = now
		} else {
			m.Late = true
		}
	}
	if at != m.T {
		m.At = &at
	}
	return m
}

// dueAfter is how long after its start a sitting with a limit is finished without its
// learner.
func (x *seat) dueAfter() time.Duration {
	if x.DueAt != nil {
		return x.DueAt.Sub(x.StartedAt)
	}
	return time.Duration(x.state.Limit)*time.Millisecond + store.DefaultAllowance
}

// overAt says whether time is up now for what began then and has so many milliseconds;
// without a limit it never is.
func overAt(now, begun time.Time, limit int64) bool {
	return limit > 0 && now.Sub(begun).Milliseconds() > limit
}

// finish ends a sitting whose time is up, unless another request has done so. The seat
// then has what stands.
func (s *Service) finish(ctx context.Context, x *seat) error {
	if play.Phase(x.Phase) == play.Done {
		return nil
	}
	m := play.Move{N: x.state.N + 1, T: max(x.state.T, x.state.Limit), Do: activity.DoTimeUp}
	after, answer := x.stage.Game.Move(x.state, m)
	if answer.Result == placing.EffectRejected {
		return nil
	}
	body, err := json.Marshal(m)
	if err != nil {
		return err
	}
	changed, err := s.change(ctx, x, after, answer, m)
	if err != nil {
		return err
	}
	if err := s.store.AppendMove(ctx, x.ID, store.Move{N: m.N, Body: string(body), Result: string(answer.Result)}, x.RemarkID, changed); err != nil {
		return err
	}
	x.Result, x.state = changed.Result, after
	return nil
}

// dueAtOnce is how many sittings or runs are finished by one look.
const dueAtOnce = 200

// FinishDue finishes what is still under way though its time is over. Any number of
// servers may do it beside each other; one that cannot be finished keeps none from it.
func (s *Service) FinishDue(ctx context.Context) error {
	for {
		sittings, links, err := s.store.DueSittings(ctx, s.clock(), dueAtOnce)
		if err != nil {
			return err
		}
		runs, err := s.store.DueRuns(ctx, s.clock(), dueAtOnce)
		if err != nil {
			return err
		}
		var failed error
		for i, x := range sittings {
			if err := s.finishSitting(ctx, links[i], x); err != nil {
				failed = errors.Join(failed, fmt.Errorf("sitting %d: %w", x.ID, err))
			}
		}
		for _, due := range runs {
			_, err := s.along(ctx, due.Link, due.Token, func(w *way) (*View, error) { return s.endWay(ctx, w) })
			if err != nil && !isGone(err) {
				failed = errors.Join(failed, err)
			}
		}
		if failed != nil || max(len(sittings), len(runs)) < dueAtOnce {
			return failed
		}
	}
}

// FinishRemarks carries on with re-marks whose server died before all sittings were scored.
func (s *Service) FinishRemarks(ctx context.Context) error {
	list, err := s.store.UnfinishedRemarks(ctx)
	for _, k := range list {
		h, found := s.FindAnyway(ctx, k.Link)
		if found == nil {
			found = s.store.CarryOnRemark(ctx, k.Remark, s.Totals(ctx, h))
		}
		if found != nil {
			err = errors.Join(err, fmt.Errorf("re-mark %s: %w", k.ID, found))
		}
	}
	return err
}

func (s *Service) finishSitting(ctx context.Context, link string, x store.Sitting) error {
	h, err := s.FindAnyway(ctx, link)
	if err != nil {
		return err
	}
	st, err := h.Stage(x.Step)
	if err != nil {
		return err
	}
	as, err := s.seat(ctx, st, x)
	if err == nil {
		err = s.finish(ctx, as)
	}
	if errors.Is(err, store.ErrRaced) || isGone(err) {
		return nil // another server, or its learner, was first; or it was deleted
	}
	return err
}

func isGone(err error) bool {
	var r *Refusal
	return errors.Is(err, store.ErrNotFound) || errors.As(err, &r) && (r.Code == "no-sitting" || r.Code == "no-release")
}

// extended is an activity's time limit for a learner who is given so many percent of
// it, as far as the activity allows, or the release in its place.
func extended(doc *activity.Doc, allows *int, percent int) int64 {
	most := doc.Play.Extension
	if allows != nil {
		most = *allows
	}
	return int64(doc.Play.TimeLimit) * int64(min(percent, most)) / 100
}

// allowsTime is how much of a time limit learners can be given in all that a release has,
// in percent; 0 where nothing has a limit.
func (h *Hosted) AllowsTime(r store.Release) int {
	least := 0
	for _, st := range h.Stages {
		if st.Game == nil || st.Game.Doc.Play.TimeLimit == 0 {
			continue
		}
		most := st.Game.Doc.Play.Extension
		if r.Extension != nil {
			most = *r.Extension
		}
		if least == 0 || most < least {
			least = most
		}
	}
	return least
}
