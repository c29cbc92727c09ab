package server

import (
	"context"
	"fmt"
	"net/http"

	"keenmagpie/formats/bundle"
	"keenmagpie/formats/picture"
	"keenmagpie/store"
)

type mediaInput struct {
	ID          string `path:"id" maxLength:"64"`
	IfNoneMatch string `header:"If-None-Match"`
}

type playMediaInput struct {
	Link        string `path:"link" maxLength:"40"`
	ID          string `path:"id" maxLength:"64"`
	IfNoneMatch string `header:"If-None-Match"`
}

type mediaOutput struct {
	Status       int
	ContentType  string `header:"Content-Type"`
	CacheControl string `header:"Cache-Control"`
	ETag         string `header:"ETag"`
	Policy       string `header:"Content-Security-Policy"`
	Body         []byte
}

type uploadInput struct {
	RawBody []byte `contentType:"application/octet-stream"`
}

type uploadOutput struct {
	Body struct {
		ID     string `json:"id"`
		Width  int    `json:"width" doc:"As it is shown; 0 where a drawing does not say"`
		Height int    `json:"height"`
	}
}

func (s *Server) mediaRoutes() {
	upload := created(operation(http.MethodPost, "/api/media", "upload", "Keep a picture in the workspace"))
	upload.MaxBodyBytes = 4*picture.MaxBytes + 1
	designer(s, upload, s.upload)
	member(s, operation(http.MethodGet, "/api/media/{id}", "medium", "A picture of the workspace"),
		func(ctx context.Context, m store.Member, in *mediaInput) (*mediaOutput, error) {
			return s.medium(ctx, m.WorkspaceID, in.ID, in.ID, in.IfNoneMatch)
		})
	open(s, operation(http.MethodGet, "/api/play/{link}/media/{id}", "playMedium", "A picture of a release"),
		func(ctx context.Context, in *playMediaInput) (*mediaOutput, error) {
			h, err := s.host(ctx, in.Link)
			if err != nil {
				return nil, err
			}
			id, ok := h.names.picture(in.ID)
			if !ok {
				return nil, notFound("This picture")
			}
			return s.medium(ctx, h.release.WorkspaceID, id, in.ID, in.IfNoneMatch)
		})
}

// upload makes a file a picture of the workspace. The same picture twice is one.
func (s *Server) upload(ctx context.Context, m store.Member, in *uploadInput) (*uploadOutput, error) {
	select {
	case s.drawing <- struct{}{}:
	case <-ctx.Done():
		return nil, s.fail(ctx.Err())
	}
	taken, err := picture.Take(in.RawBody)
	<-s.drawing
	if err != nil {
		return nil, &Problem{Status: 422, Code: "bad-picture", Detail: fmt.Sprintf("This file was refused: %s.", err)}
	}
	kept, err := bundle.NewMedium(taken.Body)
	if err != nil {
		return nil, &Problem{Status: 422, Code: "bad-picture", Detail: fmt.Sprintf("This file was refused: %s.", err)}
	}
	if err := s.store.AddMedium(ctx, m.WorkspaceID, store.Medium{ID: kept.ID, Type: kept.Type, Body: kept.Body}); err != nil {
		return nil, s.fail(err)
	}
	out := &uploadOutput{}
	out.Body.ID, out.Body.Width, out.Body.Height = kept.ID, taken.Width, taken.Height
	return out, nil
}

// medium sends a picture. It is named by its content, or by its release, so a
// browser may keep it for good. An SVG opened on its own may run nothing.
func (s *Server) medium(ctx context.Context, workspace, id, known, has string) (*mediaOutput, error) {
	out := &mediaOutput{Status: http.StatusOK, CacheControl: "private, max-age=31536000, immutable", ETag: `"` + known + `"`,
		Policy: "default-src 'none'; style-src 'unsafe-inline'; sandbox"}
	if has == out.ETag {
		out.Status = http.StatusNotModified
		return out, nil
	}
	m, err := s.store.Medium(ctx, workspace, id)
	if err != nil {
		return nil, s.fail(err)
	}
	out.ContentType, out.Body = m.Type, m.Body
	return out, nil
}
