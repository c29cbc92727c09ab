package server

import (
	"context"
	"errors"
	"net/http"
	"strings"
	"unicode/utf8"

	"keenmagpie/core/message"
	"keenmagpie/store"
)

// Roster is learners who are given a release together.
type Roster struct {
	ID       string `json:"id"`
	Name     string `json:"name"`
	Learners int    `json:"learners"`
	MostTime int    `json:"mostTime" doc:"The most time that one of them is given, in percent of a limit"`
}

// RosterLearner is one of a roster. Whoever is new has no id and no code yet.
type RosterLearner struct {
	ID   int64  `json:"id,omitempty"`
	Name string `json:"name" maxLength:"200"`
	Code string `json:"code,omitempty" maxLength:"12" readOnly:"true"`
	// TimePercent is how much of a time limit they are given.
	TimePercent int `json:"timePercent" minimum:"100" maximum:"1000"`
}

type rostersOutput struct {
	Body struct {
		Rosters []Roster `json:"rosters" nullable:"false"`
	}
}

type rosterBody struct {
	Name     string          `json:"name" minLength:"1" maxLength:"200"`
	Learners []RosterLearner `json:"learners" nullable:"false" maxItems:"5000"`
}

type newRosterInput struct{ Body rosterBody }

type saveRosterInput struct {
	ID   string `path:"id" maxLength:"40"`
	Rev  int    `query:"rev" minimum:"0" doc:"As it was read; where another has changed it since, nothing is"`
	Body rosterBody
}

type rosterOutput struct {
	Body struct {
		ID       string          `json:"id"`
		Rev      int             `json:"rev"`
		Name     string          `json:"name"`
		Learners []RosterLearner `json:"learners" nullable:"false"`
	}
}

func (s *Server) rosterRoutes() {
	designer(s, operation(http.MethodGet, "/api/rosters", "rosters", "The workspace's rosters"),
		func(ctx context.Context, m store.Member, _ *struct{}) (*rostersOutput, error) {
			list, err := s.store.In(m.WorkspaceID).Rosters(ctx)
			out := &rostersOutput{}
			out.Body.Rosters = []Roster{}
			for _, r := range list {
				out.Body.Rosters = append(out.Body.Rosters, Roster{r.ID, r.Name, r.Learners, r.MostTime})
			}
			return out, err
		})
	designer(s, operation(http.MethodGet, "/api/rosters/{id}", "roster", "A roster's learners with their codes"),
		func(ctx context.Context, m store.Member, in *idInput) (*rosterOutput, error) {
			if p := namesHidden(m); p != nil {
				return nil, p
			}
			out, err := s.roster(ctx, m.WorkspaceID, in.ID)
			if err != nil {
				return nil, err
			}
			return out, s.record(ctx, m, "roster seen", out.Body.Name, counted(len(out.Body.Learners), "learner"))
		})
	designer(s, created(operation(http.MethodPost, "/api/rosters", "newRoster", "Make a roster, each learner with a code")),
		func(ctx context.Context, m store.Member, in *newRosterInput) (*rosterOutput, error) {
			if p := namesHidden(m); p != nil {
				return nil, p
			}
			learners, p := learnersOf(in.Body)
			if p != nil {
				return nil, p
			}
			r, err := s.store.In(m.WorkspaceID).AddRoster(ctx, in.Body.Name, learners)
			if err != nil {
				return nil, err
			}
			return s.roster(ctx, m.WorkspaceID, r.ID)
		})
	designer(s, operation(http.MethodPut, "/api/rosters/{id}", "saveRoster", "Change a roster; who is not named any more is taken away"),
		func(ctx context.Context, m store.Member, in *saveRosterInput) (*rosterOutput, error) {
			if p := namesHidden(m); p != nil {
				return nil, p
			}
			learners, p := learnersOf(in.Body)
			if p != nil {
				return nil, p
			}
			if err := s.store.In(m.WorkspaceID).SaveRoster(ctx, in.ID, in.Rev, in.Body.Name, learners); err != nil {
				return nil, changedSince(err)
			}
			return s.roster(ctx, m.WorkspaceID, in.ID)
		})
	drop := operation(http.MethodDelete, "/api/rosters/{id}", "deleteRoster", "Take a roster away; sittings of its learners stay")
	drop.DefaultStatus = http.StatusNoContent
	designer(s, drop, func(ctx context.Context, m store.Member, in *idInput) (*struct{}, error) {
		err := s.store.In(m.WorkspaceID).DeleteRoster(ctx, in.ID)
		if errors.Is(err, store.ErrUsed) {
			return nil, &Problem{Status: 409, Code: "in-use", Detail: "This roster is in use by a release. Change the release’s access first."}
		}
		return nil, err
	})
}

// namesHidden says that a member may not see learners' names, or nil.
func namesHidden(m store.Member) *Problem {
	if m.SeesNames() {
		return nil
	}
	return &Problem{Status: 403, Code: "names-hidden", Detail: "In this workspace learners' names and codes are not shown to you. Ask its owner."}
}

// learnersOf takes names as they were typed or pasted: without spaces around them,
// and none empty.
func learnersOf(body rosterBody) ([]store.Learner, *Problem) {
	out := make([]store.Learner, 0, len(body.Learners))
	for i, l := range body.Learners {
		name := strings.Join(strings.Fields(l.Name), " ")
		if name == "" || !utf8.ValidString(name) {
			return nil, said(422, "no-name", "Learner {n} has no name. Nothing was changed.", message.P{"n": i + 1})
		}
		out = append(out, store.Learner{ID: l.ID, Name: name, TimePercent: l.TimePercent})
	}
	return out, nil
}

func (s *Server) roster(ctx context.Context, workspace, id string) (*rosterOutput, error) {
	r, err := s.store.In(workspace).Roster(ctx, id)
	if err != nil {
		return nil, err
	}
	list, err := s.store.Learners(ctx, r.ID)
	if err != nil {
		return nil, err
	}
	out := &rosterOutput{}
	out.Body.ID, out.Body.Rev, out.Body.Name, out.Body.Learners = r.ID, r.Rev, r.Name, []RosterLearner{}
	for _, l := range list {
		out.Body.Learners = append(out.Body.Learners, RosterLearner{l.ID, l.Name, l.Code, l.TimePercent})
	}
	return out, nil
}
