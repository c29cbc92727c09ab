package server

import (
	"context"
	"errors"
	"fmt"
	"strings"
	"time"

	"keenmagpie/store"
)

// Entry says who may begin with a release, when, and how often. Whoever has begun may
// finish.
type Entry struct {
	Roster   string     `json:"roster,omitempty" doc:"Its id; without one whoever has the link may"`
	OpensAt  *time.Time `json:"opensAt,omitempty"`
	ClosesAt *time.Time `json:"closesAt,omitempty"`
	MostEach int        `json:"mostEach,omitempty" minimum:"0" maximum:"1000" doc:"Sittings of each learner of the roster; 0 is no limit"`
	Most     int        `json:"most,omitempty" minimum:"0" maximum:"1000000" doc:"Sittings in all; 0 is no limit"`
	// Allowance is how late a move may arrive that was made in time.
	Allowance *int `json:"allowance,omitempty" minimum:"0" maximum:"86400" doc:"Seconds; left out it is 120"`
	// Extension is how much of a time limit learners may be given.
	Extension *int `json:"extension,omitempty" minimum:"100" maximum:"1000" doc:"Percent; left out it is what the activity says"`
	// Rev says which settings were changed.
	Rev int `json:"rev,omitempty" minimum:"0" doc:"As it was read; where another has changed it since, nothing is"`
}

func entry(e store.Entry) Entry {
	out := Entry{OpensAt: e.OpensAt, ClosesAt: e.ClosesAt, MostEach: e.MostEach, Most: e.Most, Rev: e.Rev}
	allowance := int(e.AllowanceMS / 1000)
	out.Allowance, out.Extension = &allowance, e.Extension
	if e.RosterID != nil {
		out.Roster = *e.RosterID
	}
	return out
}

type entryInput struct {
	ID   string `path:"id" maxLength:"40"`
	Body Entry
}

// setEntry says who may begin from now on.
func (s *Server) setEntry(ctx context.Context, m store.Member, in *entryInput) (*releaseOutput, error) {
	e := store.Entry{OpensAt: in.Body.OpensAt, ClosesAt: in.Body.ClosesAt, MostEach: in.Body.MostEach, Most: in.Body.Most, AllowanceMS: store.DefaultAllowance.Milliseconds(), Extension: in.Body.Extension}
	if in.Body.Allowance != nil {
		e.AllowanceMS = 1000 * int64(*in.Body.Allowance)
	}
	if e.OpensAt != nil && e.ClosesAt != nil && !e.OpensAt.Before(*e.ClosesAt) {
		return nil, &Problem{Status: 422, Code: "closes-first", Detail: "It would close before it opens. Nothing was changed."}
	}
	if in.Body.Roster != "" {
		if _, err := s.store.Roster(ctx, m.WorkspaceID, in.Body.Roster); err != nil {
			return nil, err
		}
		e.RosterID = &in.Body.Roster
	}
	if err := s.store.SetEntry(ctx, m.WorkspaceID, in.ID, in.Body.Rev, e); err != nil {
		return nil, changedSince(err)
	}
	r, err := s.store.Release(ctx, m.WorkspaceID, in.ID)
	if err != nil {
		return nil, err
	}
	return &releaseOutput{s.releaseOf(ctx, r)}, s.record(ctx, m, "entry changed", about(r), entryWords(e))
}

// changedSince says that somebody else has changed the same in between.
func changedSince(err error) error {
	if errors.Is(err, store.ErrNewer) {
		return &Problem{Status: 409, Code: "changed-since", Detail: "This was changed elsewhere in between. Nothing of yours was kept: look at it again, and change what is still to change."}
	}
	return err
}

// entryWords is who may begin, for the log.
func entryWords(e store.Entry) string {
	words := []string{"whoever has the link"}
	if e.RosterID != nil {
		words[0] = "by a roster"
	}
	add := func(has bool, format string, args ...any) {
		if has {
			words = append(words, fmt.Sprintf(format, args...))
		}
	}
	add(e.OpensAt != nil, "from %s", day(e.OpensAt))
	add(e.ClosesAt != nil, "until %s", day(e.ClosesAt))
	add(e.MostEach > 0, "each at most %d times", e.MostEach)
	add(e.Most > 0, "at most %d in all", e.Most)
	add(e.AllowanceMS != store.DefaultAllowance.Milliseconds(), "moves up to %d s late", e.AllowanceMS/1000)
	add(e.Extension != nil, "up to %d %% of the time", value(e.Extension))
	return strings.Join(words, ", ")
}

func day(at *time.Time) string {
	if at == nil {
		return ""
	}
	return at.Format("2 January 2006, 15:04 MST")
}

func value(n *int) int {
	if n == nil {
		return 0
	}
	return *n
}

// shut says why nobody can begin with a release now, or nil.
func shut(r store.Release, now time.Time) *Problem {
	switch {
	case r.OpensAt != nil && now.Before(*r.OpensAt):
		return &Problem{Status: 403, Code: "not-open-yet", At: r.OpensAt, Detail: "This opens on " + day(r.OpensAt) + ". Come back then."}
	case r.ClosesAt != nil && !now.Before(*r.ClosesAt):
		return &Problem{Status: 403, Code: "closed", At: r.ClosesAt, Detail: "This closed on " + day(r.ClosesAt) + ". Ask whoever gave you the link."}
	case r.Most > 0 && r.Sittings >= r.Most:
		return full(r)
	}
	return nil
}

func (s *Server) begin(ctx context.Context, in *beginInput) (*begunOutput, error) {
	if err := within(ctx, s.begins, "who begin"); err != nil {
		return nil, err
	}
	h, err := s.host(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	r, err := s.store.ReleaseByLink(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	if err := (&hosted{release: r}).ended(); err != nil {
		return nil, err
	}
	if p := wellFormed(in.Body.Request); p != nil {
		return nil, p
	}
	who := store.Learner{Name: strings.Join(strings.Fields(in.Body.Learner), " "), TimePercent: 100}
	if r.RosterID != nil {
		if who, err = s.byCode(ctx, in.Link, *r.RosterID, in.Body.Code); err != nil {
			return nil, err
		}
		// Whoever has begun goes on, on any device, also when nobody can begin any more.
		if out, err := s.resume(ctx, h, r, who); out != nil || err != nil {
			return out, err
		}
	} else if who.Name == "" {
		return nil, &Problem{Status: 422, Code: "no-name", Detail: "Give your name, so that your result can be found."}
	}
	if p := shut(r, s.clock()); p != nil {
		return nil, p
	}
	var id *int64
	if who.ID != 0 {
		id = &who.ID
	}
	out, err := s.beginAnew(ctx, h, r, who, id, in.Body.Request)
	switch {
	case errors.Is(err, store.ErrFull):
		return nil, full(r)
	case errors.Is(err, store.ErrEnough):
		// Begun on another device at the very same time: that is gone on with.
		if out, err := s.resume(ctx, h, r, who); out != nil || err != nil {
			return out, err
		}
		return nil, begunBefore()
	}
	return out, err
}

// beginAnew begins within the limits of a release.
func (s *Server) beginAnew(ctx context.Context, h *hosted, r store.Release, who store.Learner, id *int64, request string) (*begunOutput, error) {
	if h.series != nil {
		run, err := s.store.BeginRun(ctx, r, store.Run{Learner: who.Name, LearnerID: id, End: h.series.End(),
			LimitMS: int64(h.series.Doc.TimeLimit) * int64(max(100, who.TimePercent)) / 100}, request)
		return &begunOutput{s.cookie(r.Link, run.Token), Begun{}}, err
	}
	st := h.stages[0]
	limit := extended(st.game.Doc, r.Extension, who.TimePercent)
	begins, _ := st.start(store.Sitting{Learner: who.Name, LearnerID: id, LimitMS: &limit})
	x, err := s.store.Begin(ctx, r, begins, request)
	if err != nil {
		return nil, err
	}
	as, err := s.seat(ctx, st, x) // played already, where the request came before
	if err != nil {
		return nil, err
	}
	return s.begun(r.Link, st, as), nil
}

// wellFormed refuses a request's id that others could guess: whoever knows it gets what
// was begun by it.
func wellFormed(request string) *Problem {
	if request != "" && len(request) < 20 {
		return &Problem{Status: 422, Code: "bad-request-id", Detail: "A request's id has at least 20 letters, drawn at random. Nothing was begun."}
	}
	return nil
}

func full(r store.Release) *Problem {
	return &Problem{Status: 403, Code: "full", Detail: fmt.Sprintf("All %d sittings have been begun. Ask whoever gave you the link.", r.Most)}
}

func begunBefore() *Problem {
	return &Problem{Status: 403, Code: "begun-before", Detail: "You have begun this as often as is allowed. Your name is no longer kept with what you did, so it cannot be shown here."}
}

func (s *Server) begun(link string, st stage, x *seat) *begunOutput {
	s.seats.Add(Seating{Link: link, Token: x.Token}.key(), x)
	seated := x.seated(s.clock())
	return &begunOutput{s.cookie(link, x.Token), Begun{&seated}}
}

// byCode finds who of a roster enters. Wrong codes are counted: with close to 40 bits a
// code it takes centuries to find one of a thousand.
func (s *Server) byCode(ctx context.Context, link, roster, code string) (store.Learner, error) {
	if err := s.tries.may(ctx, codeTry, link); err != nil {
		return store.Learner{}, err
	}
	who, err := s.store.LearnerByCode(ctx, roster, strings.ToLower(strings.Join(strings.Fields(strings.ReplaceAll(code, "-", "")), "")))
	if errors.Is(err, store.ErrNotFound) {
		if err := s.tries.inVain(ctx, codeTry, link); err != nil {
			return who, err
		}
		return who, &Problem{Status: 403, Code: "wrong-code", Detail: "Nobody has this code here. Check it with whoever gave it to you; nothing was begun."}
	}
	return who, err
}

// resume finds the sitting that a roster's learner has under way, or, where no more
// may be begun, the last one. nil: a new one may be begun.
func (s *Server) resume(ctx context.Context, h *hosted, r store.Release, who store.Learner) (*begunOutput, error) {
	n, err := s.store.Begun(ctx, r.ID, who.ID)
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
	if h.series != nil {
		run, err := s.store.RunOfLearner(ctx, r.ID, who.ID)
		if err != nil || run.Reached >= run.End && more {
			return nil, known(err)
		}
		return &begunOutput{s.cookie(r.Link, run.Token), Begun{}}, nil
	}
	x, err := s.store.SittingOfLearner(ctx, r.ID, who.ID)
	if err != nil {
		return nil, known(err)
	}
	st := h.stages[0]
	if more && (x.Phase == "done" || st.game.Doc.Play.Reenter == "restart") {
		return nil, nil
	}
	as, err := s.seat(ctx, st, x)
	if err != nil {
		return nil, err
	}
	return s.begun(r.Link, st, as), nil
}
