package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/message"
	"keenmagpie/core/say"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// SeriesDocument is a series in a response, complete, as [activity.Series.Full] writes
// it. Its schema is that of core/activity (see [OpenAPI]).
type SeriesDocument json.RawMessage

// Schema refers to the series' own schema.
func (SeriesDocument) Schema(huma.Registry) *huma.Schema {
	return &huma.Schema{Ref: "#/components/schemas/DocSeries"}
}

// MarshalJSON writes the document as it is.
func (d SeriesDocument) MarshalJSON() ([]byte, error) { return d, nil }

// UnmarshalJSON keeps the document as it is.
func (d *SeriesDocument) UnmarshalJSON(b []byte) error { *d = bytes.Clone(b); return nil }

// SeriesDraft is a series as it was last saved.
type SeriesDraft struct {
	ID       string         `json:"id"`
	Revision int            `json:"revision"`
	SavedAt  time.Time      `json:"savedAt"`
	SavedBy  string         `json:"savedBy"`
	Releases int            `json:"releases"`
	Document SeriesDocument `json:"document"`
}

// SeriesCard is a series on the shelf, with the boards that it goes through.
type SeriesCard struct {
	ID       string       `json:"id"`
	Title    string       `json:"title"`
	SavedAt  time.Time    `json:"savedAt"`
	SavedBy  string       `json:"savedBy"`
	Releases int          `json:"releases"`
	Sittings int          `json:"sittings"`
	Pages    int          `json:"pages"`
	Boards   []drawnScene `json:"boards" nullable:"false" doc:"Of its activities that are there, at most four"`
	Missing  int          `json:"missing" doc:"Activities that are there no more"`
	Length   int          `json:"length" doc:"How many activities it goes through"`
}

type seriesListOutput struct {
	Body struct {
		Series []SeriesCard `json:"series" nullable:"false"`
		Next   string       `json:"next,omitempty" doc:"Where the next page begins; left out, there is none"`
	}
}

type seriesDraftOutput struct{ Body SeriesDraft }

type newSeriesInput struct {
	Body struct {
		Title      string   `json:"title" minLength:"1" maxLength:"200"`
		Activities []string `json:"activities,omitempty" maxItems:"100" doc:"Its first steps"`
	}
}

type keepSeriesInput struct {
	RawBody []byte
	Body    SeriesDocument
}

type saveSeriesInput struct {
	ID       string `path:"id" maxLength:"40"`
	Revision int    `query:"revision" minimum:"1" required:"true" doc:"The revision that the draft was made from"`
	Save     string `query:"save" maxLength:"40" pattern:"^[\\w-]*$" doc:"An id of this save: whose answer is lost knows by it that a newer revision is its own"`
	RawBody  []byte
	Body     SeriesDocument
}

func (s *Server) seriesRoutes() {
	member(s, operation(http.MethodGet, "/api/activities/{id}/pages", "seriesPages", "The pages that a reply of an activity can lead to"), s.pages)
	member(s, operation(http.MethodGet, "/api/series", "seriesList", "The series on the shelf"), s.seriesList)
	member(s, operation(http.MethodGet, "/api/series/{id}", "seriesDraft", "One series"),
		func(ctx context.Context, m store.Member, in *idInput) (*seriesDraftOutput, error) {
			a, _, err := s.seriesByID(ctx, m, in.ID)
			if err != nil {
				return nil, err
			}
			return seriesDraft(a)
		})
	designer(s, created(operation(http.MethodPost, "/api/series", "newSeries", "A new series")),
		func(ctx context.Context, m store.Member, in *newSeriesInput) (*seriesDraftOutput, error) {
			doc := activity.NewSeries(in.Body.Title, in.Body.Activities)
			a, err := s.store.In(m.WorkspaceID).AddSeries(ctx, m.ID, doc.Title, string(doc.Write()), nil)
			if err != nil {
				return nil, err
			}
			s.sumSeries(ctx, a, doc)
			return seriesDraft(a)
		})
	designer(s, takesDocument(operation(http.MethodPut, "/api/series/{id}", "saveSeries", "Save a series")), s.saveSeries)
	designer(s, created(operation(http.MethodPost, "/api/series/{id}/copy", "copySeries", "A copy of a series; its activities are the same")),
		func(ctx context.Context, m store.Member, in *idInput) (*seriesDraftOutput, error) {
			_, doc, err := s.seriesByID(ctx, m, in.ID)
			if err != nil {
				return nil, err
			}
			doc.Title = truncated("Copy of "+doc.Title, 200)
			a, err := s.store.In(m.WorkspaceID).AddSeries(ctx, m.ID, doc.Title, string(doc.Write()), nil)
			if err != nil {
				return nil, err
			}
			s.sumSeries(ctx, a, doc)
			return seriesDraft(a)
		})
	designer(s, takesDocument(created(operation(http.MethodPost, "/api/series/documents", "keepSeries", "Keep a document as a new series"))),
		func(ctx context.Context, m store.Member, in *keepSeriesInput) (*seriesDraftOutput, error) {
			doc, faults := activity.ReadSeries(in.RawBody)
			if faults != nil {
				return nil, &Problem{Status: 422, Code: "bad-document", Detail: "The series was not kept: it has faults.", Faults: faults}
			}
			a, err := s.store.In(m.WorkspaceID).AddSeries(ctx, m.ID, doc.Title, string(doc.Write()), nil)
			if err != nil {
				return nil, err
			}
			s.sumSeries(ctx, a, doc)
			return seriesDraft(a)
		})
	designer(s, created(operation(http.MethodPost, "/api/series/{id}/releases", "releaseSeries", "Release a series, with its activities as they are now")), s.releaseSeries)
}

func seriesOf(a store.Activity) (*activity.Series, error) {
	doc, faults := activity.ReadSeries([]byte(a.Document))
	if faults != nil {
		return nil, fmt.Errorf("series %s as saved cannot be read: %w", a.ID, faults)
	}
	return doc, nil
}

func (s *Server) seriesByID(ctx context.Context, m store.Member, id string) (store.Activity, *activity.Series, error) {
	a, err := s.store.In(m.WorkspaceID).Series(ctx, id)
	if err != nil {
		return a, nil, err
	}
	doc, err := seriesOf(a)
	return a, doc, err
}

func seriesDraft(a store.Activity) (*seriesDraftOutput, error) {
	doc, err := seriesOf(a)
	if err != nil {
		return nil, err
	}
	return &seriesDraftOutput{SeriesDraft{a.ID, a.Revision, a.SavedAt, a.SavedByName, a.Releases, SeriesDocument(doc.Full())}}, nil
}

func (s *Server) saveSeries(ctx context.Context, m store.Member, in *saveSeriesInput) (*savedOutput, error) {
	doc, faults := activity.ReadSeries(in.RawBody)
	if faults != nil {
		return nil, &Problem{Status: 422, Code: "bad-document", Detail: "The series was not saved: it has faults.", Faults: faults}
	}
	a, err := s.store.In(m.WorkspaceID).SaveSeries(ctx, m.ID, in.ID, in.Save, in.Revision, doc.Title, string(doc.Write()))
	if errors.Is(err, store.ErrNewer) {
		theirs, err := seriesOf(a)
		if err != nil {
			return nil, err
		}
		current := draftOf(a, theirs.Full())
		newer := said(409, "newer-revision", "{person} has saved this series in between. Nothing of either is lost.", message.P{"person": a.SavedByName})
		newer.Current = &current
		return nil, newer
	}
	if err != nil {
		return nil, err
	}
	s.sumSeries(ctx, a, doc)
	out := &savedOutput{}
	out.Body.Revision, out.Body.SavedAt = a.Revision, a.SavedAt
	return out, nil
}

func (s *Server) sumSeries(ctx context.Context, a store.Activity, doc *activity.Series) {
	x, err := hosting.SeriesSummary(doc)
	s.sum(ctx, a, x, err)
}

// boardsShown is how many boards of a series its card shows.
const boardsShown = 4

func (s *Server) seriesList(ctx context.Context, m store.Member, in *shelfInput) (*seriesListOutput, error) {
	list, next, err := s.store.In(m.WorkspaceID).Cards(ctx, store.ASeries, in.page())
	if errors.Is(err, store.ErrBadPlace) {
		return nil, badPlace()
	}
	if err != nil {
		return nil, err
	}
	out := &seriesListOutput{}
	out.Body.Series, out.Body.Next = []SeriesCard{}, next
	steps := make([]hosting.Steps, len(list))
	var bare, drawn []string // activities that are to be there, and those that are to be drawn
	for i := range list {
		if steps[i], err = stepsOf(&list[i]); err != nil {
			return nil, err
		}
		shown := 0
		for _, id := range steps[i] {
			if id == "" {
				continue
			}
			if bare = append(bare, id); shown < boardsShown {
				drawn, shown = append(drawn, id), shown+1
			}
		}
	}
	there, _, err := s.store.In(m.WorkspaceID).Cards(ctx, store.AnActivity, store.Page{IDs: unique(bare), Bare: true})
	if err != nil {
		return nil, err
	}
	faces, _, err := s.store.In(m.WorkspaceID).Cards(ctx, store.AnActivity, store.Page{IDs: unique(drawn)})
	if err != nil {
		return nil, err
	}
	known, scenes := map[string]bool{}, map[string]drawnScene{}
	for _, a := range there {
		known[a.ID] = true
	}
	for i := range faces {
		_, scenes[faces[i].ID] = face(&faces[i])
	}
	for i, a := range list {
		card := SeriesCard{ID: a.ID, Title: a.Title, SavedAt: a.SavedAt, SavedBy: a.SavedByName, Releases: a.Releases, Sittings: a.Sittings, Boards: []drawnScene{}}
		for _, id := range steps[i] {
			switch {
			case id == "":
				card.Pages++
				continue
			case !known[id]:
				card.Missing++
			case scenes[id] != nil && len(card.Boards) < boardsShown:
				card.Boards = append(card.Boards, scenes[id])
			}
			card.Length++
		}
		out.Body.Series = append(out.Body.Series, card)
	}
	return out, nil
}

// unique is a list without what is in it twice; never nil.
func unique(ids []string) []string {
	out := append([]string{}, ids...)
	slices.Sort(out)
	return slices.Compact(out)
}

// stepsOf are a series' steps by its summary, or, where that is out of date, by the draft.
func stepsOf(a *store.Card) (steps hosting.Steps, err error) {
	text := ""
	if a.IsSummed() {
		text = *a.Face
	} else {
		x, err := hosting.SummaryOf(a.Activity)
		if err != nil {
			return nil, err
		}
		text = x.Face
	}
	return steps, json.Unmarshal([]byte(text), &steps)
}

// SeriesPage is a page that a reply of an activity can lead to.
type SeriesPage struct {
	ID     string `json:"id"`
	Title  string `json:"title"`
	Series string `json:"series" doc:"The title of the series that it is in"`
}

type seriesPagesOutput struct {
	Body struct {
		Pages []SeriesPage `json:"pages" nullable:"false"`
	}
}

// pages are those of the series that an activity is in.
func (s *Server) pages(ctx context.Context, m store.Member, in *idInput) (*seriesPagesOutput, error) {
	if _, err := s.store.In(m.WorkspaceID).Activity(ctx, in.ID); err != nil {
		return nil, err
	}
	list, err := s.store.In(m.WorkspaceID).Activities(ctx, store.ASeries)
	if err != nil {
		return nil, err
	}
	out := &seriesPagesOutput{}
	out.Body.Pages = []SeriesPage{}
	for _, a := range list {
		doc, err := seriesOf(a)
		if err != nil {
			return nil, err
		}
		if !slices.Contains(doc.Activities(), in.ID) {
			continue
		}
		for _, step := range doc.Steps {
			if step.Page != nil {
				out.Body.Pages = append(out.Body.Pages, SeriesPage{step.Page.ID, step.Page.Title, doc.Title})
			}
		}
	}
	return out, nil
}

// leadsNowhere is the problem of a series in which a reply offers a page that is not in it.
func leadsNowhere(series *activity.Series, its *activity.Doc) *Problem {
	for i := range its.Replies {
		for _, o := range its.Replies[i].Offer {
			id, isPage := strings.CutPrefix(o, "page:")
			there := slices.ContainsFunc(series.Steps, func(s activity.Leg) bool { return s.Page != nil && s.Page.ID == id })
			if isPage && !there {
				return said(422, "offer-nowhere", "{title}: its reply {reply} offers a page that is not in this series. Choose another page in the workbench, or remove the offer; nothing was released.",
					message.P{"title": its.Title, "reply": say.Reply(its, &its.Replies[i])})
			}
		}
	}
	return nil
}

func (s *Server) releaseSeries(ctx context.Context, m store.Member, in *releaseInput) (*releaseOutput, error) {
	a, doc, err := s.seriesByID(ctx, m, in.ID)
	if err != nil {
		return nil, err
	}
	if a.Revision != in.Body.Revision {
		return nil, &Problem{Status: 409, Code: "newer-revision", Detail: "The series has been saved in between. Look at it again; nothing was released."}
	}
	if len(doc.Activities()) == 0 {
		return nil, &Problem{Status: 422, Code: "nothing-to-do", Detail: "There is no activity in this series yet. Nothing was released."}
	}
	who, err := s.entryFrom(ctx, m, in.Body.Entry)
	if err != nil {
		return nil, err
	}
	docs := map[string]*activity.Doc{}
	for _, id := range doc.Activities() {
		one, err := s.store.In(m.WorkspaceID).Activity(ctx, id)
		if errors.Is(err, store.ErrNotFound) {
			return nil, &Problem{Status: 422, Code: "activity-missing", Detail: "An activity of this series is there no more. Take its step out, or bring it back; nothing was released."}
		}
		if err != nil {
			return nil, err
		}
		its, err := document(one)
		if err != nil {
			return nil, err
		}
		if p := unready(its); p != nil {
			p.Detail = fmt.Sprintf("%s: %s", its.Title, p.Detail)
			return nil, p
		}
		if p := leadsNowhere(doc, its); p != nil {
			return nil, p
		}
		docs[id] = its
	}
	frozen, err := s.hosting.FreezeSeries(ctx, m.WorkspaceID, doc, docs)
	if err != nil {
		return nil, err
	}
	r, err := s.store.AddRelease(ctx, store.Release{Entry: who, ActivityID: a.ID, ReleasedBy: m.ID, Form: store.ASeries, Document: frozen.Document,
		Names: frozen.Names, Semantics: marks.Semantics}, in.Body.Request)
	if err != nil {
		return nil, err
	}
	return &releaseOutput{s.releaseOf(ctx, r)}, nil
}
