package server

import (
	"context"
	"fmt"
	"net/http"
	"path"
	"slices"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"

	"keenmagpie/core/message"
	"keenmagpie/formats/bundle"
	"keenmagpie/formats/picture"
	"keenmagpie/formats/sound"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

type mediaInput struct {
	ID string `path:"id" maxLength:"64"`
}

type playMediaInput struct {
	Link string `path:"link" maxLength:"40"`
	ID   string `path:"id" maxLength:"64"`
}

type uploadInput struct {
	Name    string `query:"name" maxLength:"200" doc:"Of the file"`
	RawBody []byte `contentType:"application/octet-stream"`
}

type uploadOutput struct {
	Body struct {
		ID     string `json:"id"`
		Type   string `json:"type"`
		Width  int    `json:"width" doc:"Of a picture, as it is shown; 0 where it does not say"`
		Height int    `json:"height"`
	}
}

// Medium is a picture or a sound of the workspace, and where it is used.
type Medium struct {
	ID      string    `json:"id"`
	Type    string    `json:"type"`
	Bytes   int       `json:"bytes"`
	AddedAt time.Time `json:"addedAt"`
	Name    string    `json:"name"`
	Licence string    `json:"licence"`
	Source  string    `json:"source"`
	Width   int       `json:"width"`
	Height  int       `json:"height"`
	UsedIn  []Use     `json:"usedIn" nullable:"false"`
}

// Use is an activity, or a series, that uses a medium.
type Use struct {
	ID     string `json:"id"`
	Title  string `json:"title"`
	Series bool   `json:"series"`
}

type mediaListOutput struct {
	Body struct {
		Media []Medium `json:"media" nullable:"false"`
	}
}

type describeInput struct {
	ID   string `path:"id" maxLength:"64"`
	Body struct {
		Name    string `json:"name" maxLength:"200"`
		Licence string `json:"licence" maxLength:"200"`
		Source  string `json:"source" maxLength:"500"`
	}
}

func (s *Server) mediaRoutes() {
	upload := heavy(created(operation(http.MethodPost, "/api/media", "upload", "Keep a picture or a sound in the workspace")), 4*picture.MaxBytes)
	designer(s, upload, s.upload)
	member(s, operation(http.MethodGet, "/api/media", "media", "Everything uploaded in the workspace"), s.media)
	describe := operation(http.MethodPut, "/api/media/{id}", "describeMedium", "Write down a medium's name, licence and source")
	describe.DefaultStatus = http.StatusNoContent
	designer(s, describe, func(ctx context.Context, m store.Member, in *describeInput) (*struct{}, error) {
		return nil, s.store.In(m.WorkspaceID).DescribeMedium(ctx, in.ID,
			store.About{Name: in.Body.Name, Licence: in.Body.Licence, Source: in.Body.Source})
	})
	drop := operation(http.MethodDelete, "/api/media/{id}", "deleteMedium", "Delete a medium that no draft uses; releases keep it")
	drop.DefaultStatus = http.StatusNoContent
	designer(s, drop, s.deleteMedium)
	member(s, operation(http.MethodGet, "/api/media/{id}", "medium", "A picture of the workspace"),
		func(ctx context.Context, m store.Member, in *mediaInput) (*huma.StreamResponse, error) {
			return s.medium(ctx, m.WorkspaceID, in.ID, in.ID)
		})
	open(s, operation(http.MethodGet, "/api/play/{link}/media/{id}", "playMedium", "A picture of a release"),
		func(ctx context.Context, in *playMediaInput) (*huma.StreamResponse, error) {
			workspace, id, err := s.hosting.Medium(ctx, in.Link, in.ID)
			if err != nil {
				return nil, err
			}
			return s.medium(ctx, workspace, id, in.ID)
		})
}

// upload makes a file a picture or a sound of the workspace. The same twice is one.
func (s *Server) upload(ctx context.Context, m store.Member, in *uploadInput) (*uploadOutput, error) {
	about := store.About{Name: in.Name}
	_, body, err := sound.Take(in.RawBody)
	if err != nil && !isSound(in.Name) {
		leave, p := s.drawingPlace(ctx)
		if p != nil {
			return nil, p
		}
		var taken picture.Taken
		taken, err = picture.Take(in.RawBody)
		leave()
		body, about.Width, about.Height = taken.Body, taken.Width, taken.Height
	}
	if err != nil {
		return nil, said(422, "bad-medium", "This file was refused: {why}.", message.P{"why": err.Error()})
	}
	kept, err := bundle.NewMedium(body)
	if err != nil {
		return nil, said(422, "bad-medium", "This file was refused: {why}.", message.P{"why": err.Error()})
	}
	if err := s.store.In(m.WorkspaceID).AddMedium(ctx, store.Medium{ID: kept.ID, Type: kept.Type, Body: kept.Body, About: about}); err != nil {
		return nil, err
	}
	out := &uploadOutput{}
	out.Body.ID, out.Body.Type, out.Body.Width, out.Body.Height = kept.ID, kept.Type, about.Width, about.Height
	return out, nil
}

// isSound tells which reason a file that is refused gets.
func isSound(name string) bool {
	return slices.Contains([]string{".mp3", ".wav", ".ogg", ".oga", ".opus", ".webm", ".m4a", ".flac", ".aac"}, strings.ToLower(path.Ext(name)))
}

// media lists what was uploaded. Where each is used is read from all drafts: linear
// in their documents.
func (s *Server) media(ctx context.Context, m store.Member, _ *struct{}) (*mediaListOutput, error) {
	list, err := s.store.In(m.WorkspaceID).Media(ctx)
	if err != nil {
		return nil, err
	}
	uses, err := s.uses(ctx, m)
	if err != nil {
		return nil, err
	}
	out := &mediaListOutput{}
	out.Body.Media = []Medium{}
	for _, x := range list {
		in := uses[x.ID]
		if in == nil {
			in = []Use{}
		}
		out.Body.Media = append(out.Body.Media, Medium{x.ID, x.Type, x.Bytes, x.AddedAt, x.Name, x.Licence, x.Source, x.Width, x.Height, in})
	}
	return out, nil
}

// uses finds where media are used, by their ids: in all drafts of activities and series.
func (s *Server) uses(ctx context.Context, m store.Member) (map[string][]Use, error) {
	uses := map[string][]Use{}
	for _, form := range []string{store.AnActivity, store.ASeries} {
		list, _, err := s.store.In(m.WorkspaceID).Cards(ctx, form, store.Page{Bare: true})
		if err != nil {
			return nil, err
		}
		for i := range list {
			a := &list[i]
			ids, err := a.Media()
			if !a.IsSummed() {
				var x store.Summary
				x, err = hosting.SummaryOf(a.Activity)
				ids = x.Uses
			}
			if err != nil {
				return nil, err
			}
			for _, id := range ids {
				uses[id] = append(uses[id], Use{a.ID, a.Title, form == store.ASeries})
			}
		}
	}
	return uses, nil
}

// deleteMedium deletes what no draft uses, and says where it is used otherwise.
func (s *Server) deleteMedium(ctx context.Context, m store.Member, in *mediaInput) (*struct{}, error) {
	uses, err := s.uses(ctx, m)
	if err != nil {
		return nil, err
	}
	if in := uses[in.ID]; len(in) > 0 {
		where := in[0].Title
		if len(in) > 1 {
			where = fmt.Sprintf("%s and %d more", where, len(in)-1)
		}
		return nil, said(409, "in-use", "This is used in {where}. Remove it there first; nothing was deleted.", message.P{"where": where})
	}
	return nil, s.store.In(m.WorkspaceID).DeleteMedium(ctx, in.ID)
}

// medium sends a picture or a sound, or the part of it that is asked for, as it is read
// from the store: a piece at a time. It is named by its content, or by its release, so a
// browser may keep it for good. An SVG opened on its own may run nothing.
func (s *Server) medium(ctx context.Context, workspace, id, known string) (*huma.StreamResponse, error) {
	m, err := s.store.In(workspace).OpenMedium(ctx, id)
	if err != nil {
		return nil, err
	}
	return &huma.StreamResponse{Body: func(c huma.Context) {
		r, w := humachi.Unwrap(c)
		h := w.Header()
		h.Set("Content-Type", m.Type)
		h.Set("Cache-Control", "private, max-age=31536000, immutable")
		h.Set("ETag", `"`+known+`"`)
		h.Set("Content-Security-Policy", "default-src 'none'; style-src 'unsafe-inline'; sandbox")
		http.ServeContent(w, r, "", time.Time{}, m)
	}}, nil
}
