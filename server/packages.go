package server

import (
	"bytes"
	"context"
	"io"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/formats/pack"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Package is a package that can be made of a release, and what it cannot carry.
type Package struct {
	As     pack.As     `json:"as" enum:"scorm12,scorm2004,web,bundle"`
	Losses []pack.Loss `json:"losses" nullable:"false"`
}

type packagesOutput struct {
	Body struct {
		Packages []Package `json:"packages" nullable:"false"`
		Steps    int       `json:"steps" doc:"Of a series; 0 for an activity"`
	}
}

type packageInput struct {
	ID       string  `path:"id" maxLength:"40"`
	As       pack.As `path:"as" enum:"scorm12,scorm2004,web,bundle"`
	EachStep bool    `query:"eachStep" doc:"One object a step of a series, through which the platform leads"`
}

func (s *Server) packageRoutes() {
	designer(s, operation(http.MethodGet, "/api/releases/{id}/packages", "packages", "The packages that can be made of a release, and what each cannot carry"),
		func(ctx context.Context, m store.Member, in *idInput) (*packagesOutput, error) {
			r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			b, _, err := hosting.Holds(r)
			if err != nil {
				return nil, err
			}
			out := &packagesOutput{}
			if b.Series != nil {
				out.Body.Steps = len(b.Series.Steps)
			}
			for _, as := range pack.All() {
				out.Body.Packages = append(out.Body.Packages, Package{as, pack.Losses(as, b)})
			}
			return out, nil
		})
	designer(s, operation(http.MethodGet, "/api/releases/{id}/packages/{as}", "package", "A release as a package, with its key"),
		func(ctx context.Context, m store.Member, in *packageInput) (*huma.StreamResponse, error) {
			r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			b, words, err := s.hosting.Content(ctx, r)
			if err != nil {
				return nil, err
			}
			var body bytes.Buffer
			if err := pack.Write(&body, in.As, b, pack.Options{EachStep: in.EachStep, Words: words}); err != nil {
				return nil, err
			}
			ending := "-" + string(in.As) + ".zip"
			if in.As == pack.Bundle {
				ending = ".magpie.zip"
			}
			return download("application/zip", b.ID()+ending, func(w io.Writer) { _, _ = w.Write(body.Bytes()) }), nil
		})
}
