package server

import (
	"bytes"
	"context"
	"encoding/json"
	"io"
	"net/http"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/formats/bundle"
	"keenmagpie/formats/pack"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Package is a package that can be made of a release, and what it cannot carry.
type Package struct {
	As     pack.As     `json:"as" enum:"scorm12,scorm2004,cmi5,web,bundle"`
	Losses []pack.Loss `json:"losses" nullable:"false"`
}

type packagesOutput struct {
	Body struct {
		Packages []Package `json:"packages" nullable:"false"`
		Steps    int       `json:"steps" doc:"Of a series; 0 for an activity"`
		College  bool      `json:"college" doc:"A learning platform that stands in for one can try them"`
	}
}

// WithCollege gives the address of a learning platform that stands in for one, at which
// packages can be tried.
func WithCollege(url string) Option { return func(s *Server) { s.college = url } }

type triedOutput struct {
	Body struct {
		URL string `json:"url" doc:"Where it is played there"`
	}
}

type packageInput struct {
	ID       string  `path:"id" maxLength:"40"`
	As       pack.As `path:"as" enum:"scorm12,scorm2004,cmi5,web,bundle"`
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
			out.Body.College = s.college != ""
			if b.Series != nil {
				out.Body.Steps = len(b.Series.Steps)
			}
			for _, as := range pack.All() {
				out.Body.Packages = append(out.Body.Packages, Package{as, pack.Losses(as, b)})
			}
			return out, nil
		})
	designer(s, heavy(operation(http.MethodGet, "/api/releases/{id}/packages/{as}", "package", "A release as a package, with its key"), 0),
		func(ctx context.Context, m store.Member, in *packageInput) (*huma.StreamResponse, error) {
			r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			b, body, err := s.packed(ctx, r, in)
			if err != nil {
				return nil, err
			}
			ending := "-" + string(in.As) + ".zip"
			if in.As == pack.Bundle {
				ending = ".magpie.zip"
			}
			return download("application/zip", b.ID()+ending, func(w io.Writer) { _, _ = w.Write(body) }), nil
		})
	designer(s, heavy(operation(http.MethodPost, "/api/releases/{id}/packages/{as}/college", "tryPackage", "Put a package into the learning platform that stands in for one"), 0),
		func(ctx context.Context, m store.Member, in *packageInput) (*triedOutput, error) {
			r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
			if err != nil {
				return nil, err
			}
			if s.college == "" {
				return nil, &Problem{Status: 404, Code: "no-college", Detail: "No learning platform stands in for one here."}
			}
			_, body, err := s.packed(ctx, r, in)
			if err != nil {
				return nil, err
			}
			where, err := s.toCollege(ctx, body)
			out := &triedOutput{}
			out.Body.URL = where
			return out, err
		})
}

// packed is a release as a package.
func (s *Server) packed(ctx context.Context, r store.Release, in *packageInput) (bundle.Bundle, []byte, error) {
	b, words, err := s.hosting.Content(ctx, r)
	if err != nil {
		return b, nil, err
	}
	var body bytes.Buffer
	err = pack.Write(&body, in.As, b, pack.Options{EachStep: in.EachStep, Words: words})
	return b, body.Bytes(), err
}

// toCollege brings a package to the platform that stands in for one, and says where it is.
func (s *Server) toCollege(ctx context.Context, body []byte) (string, error) {
	ctx, cancel := context.WithTimeout(ctx, 20*time.Second)
	defer cancel()
	ask, err := http.NewRequestWithContext(ctx, http.MethodPost, s.college+"/packages", bytes.NewReader(body))
	if err != nil {
		return "", err
	}
	ask.Header.Set("Content-Type", "application/zip")
	answer, err := http.DefaultClient.Do(ask)
	if err != nil {
		return "", &Problem{Status: 502, Code: "college-away", Detail: "Tarnbridge College does not answer. Nothing was put there."}
	}
	defer answer.Body.Close()
	var made struct{ URL string }
	if answer.StatusCode != http.StatusCreated || json.NewDecoder(answer.Body).Decode(&made) != nil {
		return "", &Problem{Status: 502, Code: "college-refused", Detail: "Tarnbridge College did not take the package. Nothing was put there."}
	}
	return s.college + made.URL, nil
}
