package hosting

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/store"
)

// shut says why nobody can begin with a release now, or nil.
func shut(r store.Release, now time.Time) *Refusal {
	switch {
	case r.OpensAt != nil && now.Before(*r.OpensAt):
		return &Refusal{Code: "not-open-yet", At: r.OpensAt, Detail: "This opens on " + Day(*r.OpensAt) + ". Come back then."}
	case r.ClosesAt != nil && !now.Before(*r.ClosesAt):
		return &Refusal{Code: "closed", At: r.ClosesAt, Detail: "This closed on " + Day(*r.ClosesAt) + ". Ask whoever gave you the link."}
	case r.Most > 0 && r.Sittings >= r.Most:
		return full(r)
	}
	return nil
}

// Begin begins a sitting, or a series, of what a link leads to. Whoever comes by the code of
// a roster and has one under way gets that; so does the same request.
func (s *Service) Begin(ctx context.Context, link string, in Beginning) (*Begun, error) {
	h, r, err := s.current(ctx, link)
	if err != nil {
		return nil, err
	}
	if p := wellFormed(in.Request); p != nil {
		return nil, p
	}
	who := store.Learner{Name: strings.Join(strings.Fields(in.Learner), " "), TimePercent: 100}
	if r.RosterID != nil {
		if who, err = s.byCode(ctx, link, *r.RosterID, in.Code); err != nil {
			return nil, err
		}
		// Whoever has begun goes on, on any device, also when nobody can begin any more.
		if out, err := s.resume(ctx, h, r, comer{who: who}); out != nil || err != nil {
			return out, err
		}
	} else if who.Name == "" {
		return nil, &Refusal{Code: "no-name", Detail: "Give your name, so that your result can be found."}
	}
	return s.beginOnce(ctx, h, r, comer{who: who}, in.Request)
}

// comer is who begins, and by which arrival from a platform, if by one.
type comer struct {
	who     store.Learner
	arrival *int64
}

// id is that of a roster's learner; nil of nobody's.
func (c comer) id() *int64 {
	if c.who.ID == 0 {
		return nil
	}
	return &c.who.ID
}

// beginOnce begins, where a release lets in now, or goes on with what was begun on another
// device at the very same time.
func (s *Service) beginOnce(ctx context.Context, h *Hosted, r store.Release, by comer, request string) (*Begun, error) {
	if p := shut(r, s.clock()); p != nil {
		return nil, p
	}
	out, err := s.beginAnew(ctx, h, r, by, request)
	switch {
	case errors.Is(err, store.ErrFull):
		return nil, full(r)
	case errors.Is(err, store.ErrEnough):
		if out, err := s.resume(ctx, h, r, by); out != nil || err != nil {
			return out, err
		}
		return nil, begunBefore()
	}
	return out, err
}

// beginAnew begins within the limits of a release.
func (s *Service) beginAnew(ctx context.Context, h *Hosted, r store.Release, by comer, request string) (*Begun, error) {
	who := by.who
	if h.Series != nil {
		run, err := s.store.BeginRun(ctx, r, store.Run{Learner: who.Name, LearnerID: by.id(), ArrivalID: by.arrival, End: h.Series.End(),
			LimitMS: int64(h.Series.Doc.TimeLimit) * int64(max(100, who.TimePercent)) / 100}, request)
		return &Begun{Token: run.Token}, err
	}
	st := h.Stages[0]
	limit := extended(st.Game.Doc, r.Extension, who.TimePercent)
	begins, _ := st.start(store.Sitting{Learner: who.Name, LearnerID: by.id(), ArrivalID: by.arrival, LimitMS: &limit})
	x, err := s.store.Begin(ctx, r, begins, request)
	if err != nil {
		return nil, err
	}
	as, err := s.seat(ctx, st, x) // played already, where the request came before
	if err != nil {
		return nil, err
	}
	return s.begun(r.Link, as), nil
}

// wellFormed refuses a request's id that others could guess: whoever knows it gets what
// was begun by it.
func wellFormed(request string) *Refusal {
	if request != "" && len(request) < 20 {
		return &Refusal{Code: "bad-request-id", Detail: "A request's id has at least 20 letters, drawn at random. Nothing was begun."}
	}
	return nil
}

func full(r store.Release) *Refusal {
	return &Refusal{Code: "full", Detail: fmt.Sprintf("All %d sittings have been begun. Ask whoever gave you the link.", r.Most)}
}

func begunBefore() *Refusal {
	return &Refusal{Code: "begun-before", Detail: "You have begun this as often as is allowed. Your name is no longer kept with what you did, so it cannot be shown here."}
}

func (s *Service) begun(link string, x *seat) *Begun {
	s.seats.Add(Seating{Link: link, Token: x.Token}.key(), x)
	seated := x.seated(s.clock())
	return &Begun{Token: x.Token, Sitting: &seated}
}

// byCode finds who of a roster enters. Wrong codes are counted: with close to 40 bits a
// code it takes centuries to find one of a thousand.
func (s *Service) byCode(ctx context.Context, link, roster, code string) (store.Learner, error) {
	if err := s.codes.May(ctx, link); err != nil {
		return store.Learner{}, err
	}
	who, err := s.store.LearnerByCode(ctx, roster, strings.ToLower(strings.Join(strings.Fields(strings.ReplaceAll(code, "-", "")), "")))
	if errors.Is(err, store.ErrNotFound) {
		if err := s.codes.InVain(ctx, link); err != nil {
			return who, err
		}
		return who, &Refusal{Code: "wrong-code", Detail: "Nobody has this code here. Check it with whoever gave it to you; nothing was begun."}
	}
	return who, err
}

// resume finds the sitting that a roster's learner has under way, or, where no more
// may be begun, the last one; whoever comes from a platform finds also the last one that is
// done. nil: a new one may be begun.
func (s *Service) resume(ctx context.Context, h *Hosted, r store.Release, by comer) (*Begun, error) {
	n, err := s.store.Begun(ctx, r.ID, by.who.ID)
	if err != nil || n == 0 {
		return nil, err
	}
	more := r.MostEach == 0 || n < r.MostEach
	known := func(err error) error {
		if errors.Is(err, store.ErrNotFound) && more {
			return nil
		}
		if errors.Is(err, store.ErrNotFound) {
			return begunBefore() // its name has been forgotten
		}
		return err
	}
	if h.Series != nil {
		run, err := s.runOf(ctx, r, by)
		if err != nil || run.Reached >= run.End && more && by.arrival == nil {
			return nil, known(err)
		}
		return &Begun{Token: run.Token}, nil
	}
	x, err := s.sittingOf(ctx, r, by)
	if err != nil {
		return nil, known(err)
	}
	st := h.Stages[0]
	if more && (x.Phase == "done" && by.arrival == nil || x.Phase != "done" && st.Game.Doc.Play.Reenter == activity.ReenterRestart) {
		return nil, nil
	}
	as, err := s.seat(ctx, st, x)
	if err != nil {
		return nil, err
	}
	return s.begun(r.Link, as), nil
}

// Beginning is who begins: by a name, or by the code of a roster.
type Beginning struct {
	Learner string `json:"learner,omitempty" maxLength:"200"`
	Code    string `json:"code,omitempty" maxLength:"40"`
	// Request makes it safe to ask again: the same one is the same sitting.
	Request string `json:"request,omitempty" maxLength:"64" doc:"Drawn at random by whoever asks"`
}

// Begun is a sitting; in a series, the first step is gone to next.
type Begun struct {
	// Token is by which whoever has begun is known from now on.
	Token   string  `json:"-"`
	Sitting *Seated `json:"sitting,omitempty"`
}

// Day is a day and time as it is said to people.
func Day(at time.Time) string { return at.Format("2 January 2006, 15:04 MST") }
