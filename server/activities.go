package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"maps"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
	"keenmagpie/formats/bundle"
	"keenmagpie/formats/picture"
	"keenmagpie/formats/qti"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Document is an activity document in a response: complete, as [activity.Doc.Full]
// writes it. Its schema is that of core/activity (see [OpenAPI]).
type Document json.RawMessage

// Schema refers to the document's own schema.
func (Document) Schema(huma.Registry) *huma.Schema {
	return &huma.Schema{Ref: "#/components/schemas/Doc"}
}

// MarshalJSON writes the document as it is.
func (d Document) MarshalJSON() ([]byte, error) { return d, nil }

// UnmarshalJSON keeps the document as it is.
func (d *Document) UnmarshalJSON(b []byte) error { *d = bytes.Clone(b); return nil }

// Draft is an activity as it was last saved.
type Draft struct {
	ID       string    `json:"id"`
	Revision int       `json:"revision"`
	SavedAt  time.Time `json:"savedAt"`
	SavedBy  string    `json:"savedBy"`
	Releases int       `json:"releases"`
	Sittings int       `json:"sittings"`
	Document Document  `json:"document"`
	// Save is the id that a browser gave to the save that made it.
	Save string `json:"save,omitempty"`
}

type draftOutput struct{ Body Draft }

type idInput struct {
	ID string `path:"id" maxLength:"40"`
}

type saveInput struct {
	ID       string `path:"id" maxLength:"40"`
	Revision int    `query:"revision" minimum:"1" required:"true" doc:"The revision that the draft was made from"`
	Save     string `query:"save" maxLength:"40" pattern:"^[\\w-]*$" doc:"An id of this save: whose answer is lost knows by it that a newer revision is its own"`
	RawBody  []byte
	Body     Document
}

type savedOutput struct {
	Body struct {
		Revision int       `json:"revision"`
		SavedAt  time.Time `json:"savedAt"`
	}
}

type copyInput struct {
	RawBody []byte
	Body    Document
}

type bundleInput struct {
	RawBody []byte `contentType:"application/zip"`
}

func (s *Server) activityRoutes() {
	member(s, operation(http.MethodGet, "/api/activities/{id}", "draft", "One draft"), s.draft)
	save := takesDocument(operation(http.MethodPut, "/api/activities/{id}", "save", "Save a draft"))
	designer(s, save, s.save)
	keepCopy := takesDocument(created(operation(http.MethodPost, "/api/activities", "keepCopy", "Keep a document as a new activity")))
	designer(s, keepCopy, func(ctx context.Context, m store.Member, in *copyInput) (*draftOutput, error) {
		doc, faults := activity.Read(in.RawBody)
		if faults != nil {
			return nil, badDocument(faults)
		}
		return s.add(ctx, m, doc, nil)
	})
	read := heavy(created(operation(http.MethodPost, "/api/bundles", "importBundle", "Make an activity, or a series with its activities, of a bundle or a package")), bundle.MaxBytes)
	designer(s, read, s.importBundle)
	member(s, operation(http.MethodGet, "/api/activities/{id}/bundle", "exportBundle", "The activity as a bundle"), s.exportBundle)
}

func created(op huma.Operation) huma.Operation {
	op.DefaultStatus = http.StatusCreated
	return op
}

// takesDocument leaves a body to the core's own reader, whose faults have pointers.
func takesDocument(op huma.Operation) huma.Operation {
	op.MaxBodyBytes = activity.MaxBytes + 1
	op.SkipValidateBody = true
	return op
}

func document(a store.Activity) (*activity.Doc, error) {
	doc, faults := activity.Read([]byte(a.Document))
	if faults != nil {
		return nil, fmt.Errorf("activity %s as saved cannot be read: %w", a.ID, faults)
	}
	return doc, nil
}

func draft(a store.Activity) (Draft, error) {
	doc, err := document(a)
	if err != nil {
		return Draft{}, err
	}
	return draftOf(a, doc.Full()), nil
}

func draftOf(a store.Activity, document []byte) Draft {
	d := Draft{ID: a.ID, Revision: a.Revision, SavedAt: a.SavedAt, SavedBy: a.SavedByName, Releases: a.Releases, Sittings: a.Sittings, Document: document}
	if a.SaveID != nil {
		d.Save = *a.SaveID
	}
	return d
}

func (s *Server) draft(ctx context.Context, m store.Member, in *idInput) (*draftOutput, error) {
	a, err := s.store.In(m.WorkspaceID).Activity(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	d, err := draft(a)
	return &draftOutput{d}, err
}

func (s *Server) add(ctx context.Context, m store.Member, doc *activity.Doc, media []store.Medium) (*draftOutput, error) {
	a, err := s.store.In(m.WorkspaceID).AddActivity(ctx, m.ID, doc.Title, string(doc.Write()), media)
	if err != nil {
		return nil, err
	}
	x, err := hosting.Summary(doc)
	s.sum(ctx, a, x, err)
	d, err := draft(a)
	return &draftOutput{d}, err
}

func (s *Server) save(ctx context.Context, m store.Member, in *saveInput) (*savedOutput, error) {
	doc, faults := activity.Read(in.RawBody)
	if faults != nil {
		return nil, badDocument(faults)
	}
	a, err := s.store.In(m.WorkspaceID).SaveActivity(ctx, m.ID, in.ID, in.Save, in.Revision, doc.Title, string(doc.Write()))
	if errors.Is(err, store.ErrNewer) {
		current, err := draft(a)
		if err != nil {
			return nil, err
		}
		newer := said(409, "newer-revision", "{person} has saved this activity in between. Nothing of either is lost.", message.P{"person": a.SavedByName})
		newer.Current = &current
		return nil, newer
	}
	if err != nil {
		return nil, err
	}
	x, err := hosting.Summary(doc)
	s.sum(ctx, a, x, err)
	out := &savedOutput{}
	out.Body.Revision, out.Body.SavedAt = a.Revision, a.SavedAt
	return out, nil
}

// Imported is what was made of a bundle or a package.
type Imported struct {
	ID     string `json:"id"`
	Title  string `json:"title"`
	Series bool   `json:"series" doc:"It is a series, and its activities were made with it"`
}

type importedOutput struct{ Body Imported }

func (s *Server) importBundle(ctx context.Context, m store.Member, in *bundleInput) (*importedOutput, error) {
	b, err := bundle.Read(in.RawBody)
	var faults activity.Faults
	if errors.As(err, &faults) {
		return nil, &Problem{Status: 422, Code: "bad-bundle", Detail: "The activity in this bundle has faults. Nothing was imported.", Faults: faults}
	}
	if err != nil && qti.Looks(in.RawBody) {
		return nil, &Problem{Status: 422, Code: "qti", Detail: "This is a package of QTI: look at what can be made of it first. Nothing was imported."}
	}
	if err != nil {
		return nil, said(422, "bad-bundle", "This bundle was refused: {why}. Nothing was imported.", message.P{"why": err.Error()})
	}
	media := make([]store.Medium, len(b.Media))
	renamed := map[string]string{}
	for i, x := range b.Media {
		if media[i], err = s.bundled(ctx, x); err != nil {
			return nil, said(422, "bad-bundle", "This bundle was refused: {why}. Nothing was imported.", message.P{"why": err.Error()})
		}
		renamed[x.ID] = media[i].ID
	}
	// Its activities come first; the series names them by their new ids.
	var fresh []store.Fresh
	ids := map[string]string{}
	for _, id := range slices.Sorted(maps.Keys(b.Documents())) {
		doc := b.Documents()[id]
		doc.RenameMedia(renamed)
		ids[id] = store.NewID()
		fresh = append(fresh, store.Fresh{Form: store.AnActivity, ID: ids[id], Title: doc.Title, Document: string(doc.Write())})
	}
	if b.Series != nil {
		b.Series.RenameMedia(renamed)
		for i := range b.Series.Steps {
			if step := &b.Series.Steps[i]; step.Activity != "" {
				step.Activity = ids[step.Activity]
			}
		}
		fresh = append(fresh, store.Fresh{Form: store.ASeries, ID: store.NewID(), Title: b.Series.Title, Document: string(b.Series.Write())})
	}
	list, err := s.store.In(m.WorkspaceID).AddAll(ctx, m.ID, fresh, media)
	if err != nil {
		return nil, err
	}
	for _, a := range list {
		x, err := hosting.SummaryOf(a)
		s.sum(ctx, a, x, err)
	}
	made := list[len(list)-1]
	return &importedOutput{Imported{made.ID, made.Title, b.Series != nil}}, nil
}

// bundled makes a medium of a bundle ready to be kept. A picture goes the way of those that
// are uploaded: of one that has more than its image only that is kept, under another id.
func (s *Server) bundled(ctx context.Context, x bundle.Medium) (store.Medium, error) {
	if strings.HasPrefix(x.Type, "audio/") {
		return store.Medium{ID: x.ID, Type: x.Type, Body: x.Body}, nil
	}
	leave, p := s.drawingPlace(ctx)
	if p != nil {
		return store.Medium{}, p
	}
	defer leave()
	taken, err := picture.Clean(x.Body)
	if err != nil {
		return store.Medium{}, err
	}
	kept, err := bundle.NewMedium(taken.Body)
	return store.Medium{ID: kept.ID, Type: kept.Type, Body: kept.Body, About: store.About{Width: taken.Width, Height: taken.Height}}, err
}

func (s *Server) exportBundle(ctx context.Context, m store.Member, in *idInput) (*huma.StreamResponse, error) {
	b, err := s.drafted(ctx, m, in.ID)
	if err != nil {
		return nil, err
	}
	var body bytes.Buffer
	if err := b.Write(&body); err != nil {
		return nil, err
	}
	return download("application/zip", b.ID()+".magpie.zip", func(w io.Writer) { _, _ = w.Write(body.Bytes()) }), nil
}

// drafted is a draft with its media.
func (s *Server) drafted(ctx context.Context, m store.Member, id string) (bundle.Bundle, error) {
	a, err := s.store.In(m.WorkspaceID).Activity(ctx, id)
	if err != nil {
		return bundle.Bundle{}, err
	}
	doc, faults := activity.Read([]byte(a.Document))
	if faults != nil {
		return bundle.Bundle{}, faults
	}
	b := bundle.Bundle{Doc: doc}
	for _, id := range doc.Media() {
		x, err := s.store.In(m.WorkspaceID).Medium(ctx, id)
		if err != nil {
			return bundle.Bundle{}, fmt.Errorf("picture %s of activity %s: %w", id, a.ID, err)
		}
		b.Media = append(b.Media, bundle.Medium{ID: x.ID, Type: x.Type, Body: x.Body})
	}
	return b, nil
}

func download(contentType, name string, write func(io.Writer)) *huma.StreamResponse {
	return &huma.StreamResponse{Body: func(ctx huma.Context) {
		ctx.SetHeader("Content-Type", contentType)
		ctx.SetHeader("Content-Disposition", fmt.Sprintf("attachment; filename=%q", name))
		write(ctx.BodyWriter())
	}}
}
