package server

import (
	"context"
	"errors"
	"net/http"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// Release is a frozen version as its owner sees it.
type Release struct {
	ID         string    `json:"id"`
	Number     int       `json:"number"`
	Link       string    `json:"link" doc:"The path of the page that learners open"`
	ReleasedAt time.Time `json:"releasedAt"`
	Sittings   int       `json:"sittings"`
	Finished   int       `json:"finished"`
	AllowsTime int       `json:"allowsTime" doc:"The percent of a time limit that a learner can be given; 0 where there is no limit"`
	Entry      Entry     `json:"entry"`
}

type releaseInput struct {
	ID   string `path:"id" maxLength:"40"`
	Body struct {
		Revision int    `json:"revision" minimum:"1" doc:"The revision to release; it must be the current one"`
		Request  string `json:"request,omitempty" maxLength:"64" doc:"Drawn at random by whoever asks: the same one is the same release"`
		Entry    *Entry `json:"entry,omitempty" doc:"Who may begin, from the start; left out, anyone who has the link"`
	}
}

type releaseOutput struct{ Body Release }

type releasesOutput struct {
	Body struct {
		Title    string    `json:"title"`
		Series   bool      `json:"series" doc:"These are of a series"`
		Releases []Release `json:"releases" nullable:"false"`
	}
}

func (s *Server) releaseRoutes() {
	designer(s, created(operation(http.MethodPost, "/api/activities/{id}/releases", "release", "Release the draft")), s.release)
	member(s, operation(http.MethodGet, "/api/activities/{id}/releases", "releases", "An activity's releases"), s.releases)
	designer(s, operation(http.MethodPut, "/api/releases/{id}/entry", "setEntry", "Say who may begin with a release, and when"), s.setEntry)
}

func (s *Server) release(ctx context.Context, m store.Member, in *releaseInput) (*releaseOutput, error) {
	a, err := s.store.In(m.WorkspaceID).Activity(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if a.Revision != in.Body.Revision {
		return nil, &Problem{Status: 409, Code: "newer-revision", Detail: "The activity has been saved in between. Look at it again; nothing was released."}
	}
	doc, faults := activity.Read([]byte(a.Document))
	if faults != nil {
		return nil, faults
	}
	if p := unready(doc); p != nil {
		return nil, p
	}
	who, err := s.entryFrom(ctx, m, in.Body.Entry)
	if err != nil {
		return nil, err
	}
	frozen, err := s.hosting.Freeze(ctx, m.WorkspaceID, doc)
	if err != nil {
		return nil, err
	}
	r, err := s.store.AddRelease(ctx, store.Release{Entry: who, ActivityID: a.ID, ReleasedBy: m.ID, Form: store.AnActivity, Document: frozen.Document,
		Names: frozen.Names, Semantics: marks.Semantics}, in.Body.Request)
	if err != nil {
		return nil, err
	}
	return &releaseOutput{s.releaseOf(ctx, r)}, nil
}

// unready says why a document cannot be released, or nil.
func unready(doc *activity.Doc) *Problem {
	p := func(code, detail string) *Problem { return &Problem{Status: 422, Code: code, Detail: detail} }
	if len(doc.Items) == 0 || len(doc.Targets) == 0 {
		return p("nothing-to-do", "There is no item or no target yet. Nothing was released.")
	}
	right := false
	for i := range doc.Key.Solutions {
		for j := range doc.Targets {
			for k := range doc.Items {
				right = right || doc.Key.Solutions[i].RightCell(&doc.Targets[j], &doc.Items[k])
			}
		}
	}
	if !right {
		return p("nothing-right", "Nothing is correct anywhere yet. Nothing was released.")
	}
	_, err := play.New(doc)
	var impossible *marks.Impossible
	if errors.As(err, &impossible) {
		return p("key-impossible", "It cannot be solved: "+impossible.Error()+". Nothing was released.")
	}
	return nil
}

func (s *Server) releaseOf(ctx context.Context, r store.Release) Release {
	out := Release{r.ID, r.Number, "/play/" + r.Link, r.ReleasedAt, r.Sittings, r.Finished, 0, entry(r.Entry)}
	if h, err := s.hosting.FindAnyway(ctx, r.Link); err == nil {
		out.AllowsTime = h.AllowsTime(r)
	}
	return out
}

func (s *Server) releases(ctx context.Context, m store.Member, in *idInput) (*releasesOutput, error) {
	a, err := s.store.In(m.WorkspaceID).Activity(ctx, in.ID)
	if errors.Is(err, store.ErrNotFound) {
		a, err = s.store.In(m.WorkspaceID).Series(ctx, in.ID)
	}
	if err != nil {
		return nil, err
	}
	list, err := s.store.In(m.WorkspaceID).Releases(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	out := &releasesOutput{}
	out.Body.Title, out.Body.Series = a.Title, a.Form == store.ASeries
	out.Body.Releases = []Release{}
	for _, r := range list {
		out.Body.Releases = append(out.Body.Releases, s.releaseOf(ctx, r))
	}
	return out, nil
}
