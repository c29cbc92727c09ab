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
	Roster   string     `json:"roster,omitempty" doc:"Its id; without one anyone who has the link may"`
	OpensAt  *time.Time `json:"opensAt,omitempty"`
	ClosesAt *time.Time `json:"closesAt,omitempty"`
	MostEach int        `json:"mostEach,omitempty" minimum:"0" maximum:"1000" doc:"Sittings of each learner of the roster, or of a learning platform; who only gives a name is not counted; 0 is no limit"`
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

// entryFrom is who may begin as it is asked for; nil is whoever has the link.
func (s *Server) entryFrom(ctx context.Context, m store.Member, in *Entry) (store.Entry, error) {
	e := store.Anyone()
	if in == nil {
		return e, nil
	}
	e.OpensAt, e.ClosesAt, e.MostEach, e.Most, e.Extension = in.OpensAt, in.ClosesAt, in.MostEach, in.Most, in.Extension
	if in.Allowance != nil {
		e.AllowanceMS = 1000 * int64(*in.Allowance)
	}
	if e.OpensAt != nil && e.ClosesAt != nil && !e.OpensAt.Before(*e.ClosesAt) {
		return e, &Problem{Status: 422, Code: "closes-first", Detail: "The closing time is before the opening time. Nothing was changed."}
	}
	if in.Roster != "" {
		if _, err := s.store.In(m.WorkspaceID).Roster(ctx, in.Roster); err != nil {
			return e, err
		}
		e.RosterID = &in.Roster
	}
	return e, nil
}

// setEntry says who may begin from now on.
func (s *Server) setEntry(ctx context.Context, m store.Member, in *entryInput) (*releaseOutput, error) {
	e, err := s.entryFrom(ctx, m, &in.Body)
	if err != nil {
		return nil, err
	}
	if err := s.store.In(m.WorkspaceID).SetEntry(ctx, in.ID, in.Body.Rev, e); err != nil {
		return nil, changedSince(err)
	}
	r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
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
	words := []string{"anyone with the link"}
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
	add(e.Extension != nil, "up to %d%% of the time", value(e.Extension))
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
