package server

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"io"
	"net/http"
	"net/url"
	"slices"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/formats/bundle"
	"keenmagpie/formats/pack"
	"keenmagpie/formats/qti"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Package is a package that can be made of a release, and what it cannot carry.
type Package struct {
	As     pack.As     `json:"as" enum:"scorm12,scorm2004,cmi5,web,bundle,qti"`
	Losses []pack.Loss `json:"losses" nullable:"false"`
}

type packagesOutput struct {
	Body struct {
		Packages  []Package `json:"packages" nullable:"false"`
		Steps     int       `json:"steps" doc:"Of a series; 0 for an activity"`
		Platforms bool      `json:"platforms" doc:"Learning platforms can be connected by LTI"`
		College   bool      `json:"college" doc:"A learning platform that stands in for one can try them"`
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
			out.Body.College, out.Body.Platforms = s.college != "", s.platforms.Ready()
			if b.Series != nil {
				out.Body.Steps = len(b.Series.Steps)
			}
			for _, as := range pack.All() {
				out.Body.Packages = append(out.Body.Packages, Package{as, pack.Losses(as, b)})
			}
			losses, err := qti.Losses(b)
			if err != nil {
				return nil, err
			}
			out.Body.Packages = append(out.Body.Packages, Package{"qti", losses})
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
				return nil, noCollege()
			}
			_, body, err := s.packed(ctx, r, in)
			if err != nil {
				return nil, err
			}
			ctx, cancel := context.WithTimeout(ctx, 20*time.Second)
			defer cancel()
			where, err := s.bringToCollege(ctx, "/packages", "application/zip", body)
			out := &triedOutput{}
			out.Body.URL = where
			return out, err
		})
	designer(s, operation(http.MethodPost, "/api/releases/{id}/college", "tryByLTI", "Link to a release from a course of the learning platform that stands in for one"), s.tryByLTI)
}

// tryByLTI puts a link to a release into a course of the platform that stands in for one, which
// is connected first where it is not yet, and says where it is.
func (s *Server) tryByLTI(ctx context.Context, m store.Member, in *idInput) (*triedOutput, error) {
	r, err := s.store.In(m.WorkspaceID).Release(ctx, in.ID)
	if err != nil {
		return nil, err
	}
	if s.college == "" || !s.platforms.Ready() {
		return nil, noCollege()
	}
	ctx, cancel := context.WithTimeout(ctx, 20*time.Second)
	defer cancel()
	p, err := s.collegeAsPlatform(ctx, m)
	if err != nil {
		return nil, err
	}
	points, err := worth(r)
	if err != nil {
		return nil, err
	}
	link, err := json.Marshal(map[string]any{"client": p.ClientID, "title": r.Title, "url": s.public + "/play/" + r.Link, "custom": map[string]string{"release": r.Link}, "points": json.Number(points)})
	if err != nil {
		return nil, err
	}
	where, err := s.bringToCollege(ctx, "/links", "application/json", link)
	out := &triedOutput{}
	out.Body.URL = where
	return out, err
}

// collegeAsPlatform is the stand-in as the workspace is connected with it, which it is from
// then on: it loses its memory when it is stopped, so that a connection may be one of before.
func (s *Server) collegeAsPlatform(ctx context.Context, m store.Member) (store.Platform, error) {
	ask, err := http.NewRequestWithContext(ctx, http.MethodGet, s.college+"/tools", nil)
	if err != nil {
		return store.Platform{}, err
	}
	answer, err := http.DefaultClient.Do(ask)
	if err != nil {
		return store.Platform{}, collegeAway()
	}
	var known []string
	err = json.NewDecoder(answer.Body).Decode(&known)
	answer.Body.Close()
	if err != nil {
		return store.Platform{}, collegeAway()
	}
	// It is looked for twice: as it may be connected already, and as it has registered itself.
	find := func(meant func(store.Platform) bool) (store.Platform, error) {
		list, err := s.store.In(m.WorkspaceID).Platforms(ctx)
		if i := slices.IndexFunc(list, func(p store.Platform) bool { return p.Issuer == s.college && meant(p) }); i >= 0 {
			return list[i], err
		}
		return store.Platform{}, err
	}
	if p, err := find(func(p store.Platform) bool { return p.Confirmed && slices.Contains(known, p.ClientID) }); err != nil || p.ID != "" {
		return p, err
	}
	t, err := s.store.AddTicket(ctx, store.Ticket{Kind: store.ForConnecting, WorkspaceID: &m.WorkspaceID, AccountID: &m.ID, MadeBy: m.Name}, time.Minute)
	if err != nil {
		return store.Platform{}, err
	}
	if ask, err = http.NewRequestWithContext(ctx, http.MethodGet, s.college+"/tools/new?address="+url.QueryEscape(s.public+registerPath+t), nil); err != nil {
		return store.Platform{}, err
	}
	if answer, err = http.DefaultClient.Do(ask); err != nil {
		return store.Platform{}, collegeAway()
	}
	answer.Body.Close()
	p, err := find(func(p store.Platform) bool { return !p.Confirmed })
	if err != nil || p.ID == "" {
		return p, errors.Join(err, collegeAway())
	}
	p.Confirmed = true
	return p, s.store.In(m.WorkspaceID).KeepPlatform(ctx, p)
}

func noCollege() *Problem {
	return &Problem{Status: 404, Code: "no-college", Detail: "No learning platform stands in for one here."}
}

func collegeAway() *Problem {
	return &Problem{Status: 502, Code: "college-away", Detail: "Tarnbridge College does not answer. Nothing was put there."}
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

// bringToCollege brings something to the platform that stands in for one, and says where it is.
func (s *Server) bringToCollege(ctx context.Context, to, kind string, body []byte) (string, error) {
	ask, err := http.NewRequestWithContext(ctx, http.MethodPost, s.college+to, bytes.NewReader(body))
	if err != nil {
		return "", err
	}
	ask.Header.Set("Content-Type", kind)
	answer, err := http.DefaultClient.Do(ask)
	if err != nil {
		return "", collegeAway()
	}
	defer answer.Body.Close()
	var made struct{ URL string }
	if answer.StatusCode != http.StatusCreated || json.NewDecoder(answer.Body).Decode(&made) != nil {
		return "", &Problem{Status: 502, Code: "college-refused", Detail: "Tarnbridge College did not take it. Nothing was put there."}
	}
	return s.college + made.URL, nil
}
