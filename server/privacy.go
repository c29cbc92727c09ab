package server

import (
	"context"
	"fmt"
	"net/http"
	"strings"
	"time"

	"keenmagpie/store"
)

// Privacy is what a workspace lets be seen of its learners, and for how long.
type Privacy struct {
	NamesFor   string `json:"namesFor" enum:"members,designers,owner" doc:"Who may see learners' names"`
	NamesDays  int    `json:"namesDays" minimum:"0" maximum:"10000" doc:"So many days after its start a sitting keeps its name; 0 is always"`
	LeastGroup int    `json:"leastGroup" minimum:"0" maximum:"1000" doc:"Of fewer sittings only totals are shown; 0 is none"`
}

// Trace is what is kept of a learner at one place.
type Trace struct {
	Kind    string    `json:"kind" enum:"sitting,run,roster"`
	ID      int64     `json:"id"`
	Where   string    `json:"where,omitempty" doc:"The activity's title, or the roster's name"`
	Number  int       `json:"number,omitempty" doc:"The release's"`
	Learner string    `json:"learner,omitempty"`
	At      time.Time `json:"at,omitempty"`
}

// Record is a line of the log.
type Record struct {
	ID     int64     `json:"id"`
	At     time.Time `json:"at"`
	By     string    `json:"by"`
	What   string    `json:"what"`
	About  string    `json:"about"`
	Detail string    `json:"detail"`
}

type privacyOutput struct {
	Body struct {
		Privacy
		Forgets int `json:"forgets" doc:"Names that so many days take away at once"`
	}
}

type tracesOutput struct {
	Body struct {
		Traces []Trace `json:"traces" nullable:"false"`
	}
}

type recordsOutput struct {
	Body struct {
		Records []Record `json:"records" nullable:"false"`
		More    bool     `json:"more"`
	}
}

// recordsAtOnce is how many lines of the log are listed.
const recordsAtOnce = 200

func (s *Server) privacyRoutes() {
	owner(s, operation(http.MethodGet, "/api/privacy", "privacy", "What is seen of learners, and for how long"),
		func(ctx context.Context, m store.Member, in *struct {
			Days int `query:"days" minimum:"0" maximum:"10000" doc:"How many names would be taken away if they were kept for so many days"`
		}) (*privacyOutput, error) {
			out := &privacyOutput{}
			out.Body.Privacy = Privacy{m.NamesFor, m.NamesDays, m.LeastGroup}
			var err error
			if in.Days > 0 {
				out.Body.Forgets, err = s.store.In(m.WorkspaceID).Named(ctx, daysAgo(in.Days))
			}
			return out, err
		})
	owner(s, operation(http.MethodPut, "/api/privacy", "setPrivacy", "Say what is seen of learners, and for how long"), s.setPrivacy)
	owner(s, operation(http.MethodPost, "/api/learners/find", "traces", "What is kept of learners with a name"),
		func(ctx context.Context, m store.Member, in *struct {
			Body struct {
				Name string `json:"name" minLength:"1" maxLength:"200"`
			}
		}) (*tracesOutput, error) {
			list, err := s.store.In(m.WorkspaceID).Traces(ctx, strings.TrimSpace(in.Body.Name))
			out := &tracesOutput{}
			out.Body.Traces = []Trace{}
			for _, x := range list {
				out.Body.Traces = append(out.Body.Traces, Trace(x))
			}
			return out, err
		})
	owner(s, operation(http.MethodPost, "/api/learners/erase", "erase", "Delete what is kept of learners"), s.erase)
	owner(s, operation(http.MethodGet, "/api/records", "records", "Who did what with learners' data"),
		func(ctx context.Context, m store.Member, in *struct {
			Before int64 `query:"before" minimum:"0"`
		}) (*recordsOutput, error) {
			list, err := s.store.In(m.WorkspaceID).Records(ctx, in.Before, recordsAtOnce)
			out := &recordsOutput{}
			out.Body.Records, out.Body.More = []Record{}, len(list) == recordsAtOnce
			for _, x := range list {
				out.Body.Records = append(out.Body.Records, Record{x.ID, x.At, x.AccountName, x.What, x.About, x.Detail})
			}
			return out, err
		})
}

// record writes a line into the workspace's log.
func (s *Server) record(ctx context.Context, m store.Member, what, about, detail string) error {
	return s.store.AddRecord(ctx, store.Record{WorkspaceID: m.WorkspaceID, AccountName: m.Name, What: what, About: about, Detail: detail})
}

func daysAgo(days int) time.Time { return time.Now().UTC().Add(-time.Duration(days) * 24 * time.Hour) }

func (s *Server) setPrivacy(ctx context.Context, m store.Member, in *struct{ Body Privacy }) (*privacyOutput, error) {
	p := store.Privacy(in.Body)
	if err := s.store.In(m.WorkspaceID).SetPrivacy(ctx, p); err != nil {
		return nil, err
	}
	if p != m.Privacy {
		kept := "names are kept"
		if p.NamesDays > 0 {
			kept = fmt.Sprintf("names are kept for %d days", p.NamesDays)
		}
		if err := s.record(ctx, m, "setting", "", fmt.Sprintf("names are seen by %s; %s; smallest group %d",
			map[string]string{store.Members: "every member", store.Designers: "designers", store.Owners: "the owner alone"}[p.NamesFor], kept, p.LeastGroup)); err != nil {
			return nil, err
		}
	}
	m.Privacy = p
	if n, err := s.store.ForgetNames(ctx, m); err != nil {
		return nil, err
	} else if n > 0 {
		s.forget()
	}
	out := &privacyOutput{}
	out.Body.Privacy = in.Body
	return out, nil
}

type eraseInput struct {
	Body struct {
		Traces []Trace `json:"traces" minItems:"1" maxItems:"1000"`
	}
}

func (s *Server) erase(ctx context.Context, m store.Member, in *eraseInput) (*tracesOutput, error) {
	list := make([]store.Trace, len(in.Body.Traces))
	n := map[string]int{}
	for i, x := range in.Body.Traces {
		list[i] = store.Trace{Kind: x.Kind, ID: x.ID}
		n[x.Kind]++
	}
	if err := s.store.In(m.WorkspaceID).Erase(ctx, list); err != nil {
		return nil, err
	}
	s.forget()
	var parts []string
	for _, kind := range []string{"sitting", "run", "roster"} {
		if n[kind] > 0 {
			parts = append(parts, counted(n[kind], map[string]string{"sitting": "sitting", "run": "run", "roster": "line of a roster"}[kind]))
		}
	}
	out := &tracesOutput{}
	out.Body.Traces = []Trace{}
	return out, s.record(ctx, m, "deletion", "", strings.Join(parts, ", "))
}

// counted is a number of things in words.
func counted(n int, of string) string {
	if n == 1 {
		return "1 " + of
	}
	if of == "line of a roster" {
		return fmt.Sprintf("%d lines of rosters", n)
	}
	return fmt.Sprintf("%d %ss", n, of)
}
