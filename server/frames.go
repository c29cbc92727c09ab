package server

import (
	"context"
	"encoding/json"
	"fmt"
	"html"
	"net/http"
	"net/url"
	"slices"
	"strings"

	"github.com/go-chi/chi/v5"

	"keenmagpie/core/message"
	"keenmagpie/store"
)

// Frames are the pages elsewhere that may show a workspace's releases in a frame.
type Frames struct {
	Origins []string `json:"origins" nullable:"false" maxItems:"50" doc:"Each a scheme and a host, as in https://pages.tarnbridge.example"`
}

type framesOutput struct{ Body Frames }

type keepFramesInput struct{ Body Frames }

func (s *Server) frameRoutes() {
	member(s, operation(http.MethodGet, "/api/frames", "frames", "Which pages elsewhere may show the workspace's releases"),
		func(ctx context.Context, m store.Member, _ *struct{}) (*framesOutput, error) {
			list, err := s.store.In(m.WorkspaceID).Frames(ctx)
			return &framesOutput{Frames{append([]string{}, list...)}}, err
		})
	designer(s, operation(http.MethodPut, "/api/frames", "keepFrames", "Say which pages elsewhere may show the workspace's releases"),
		func(ctx context.Context, m store.Member, in *keepFramesInput) (*framesOutput, error) {
			list := []string{}
			for _, text := range in.Body.Origins {
				origin, ok := originOf(text)
				if !ok {
					return nil, said(422, "bad-origin", "{given} is not the address of a site: it should read like https://pages.tarnbridge.example. Nothing was changed.",
						message.P{"given": fmt.Sprintf("%.80q", text)})
				}
				if !slices.Contains(list, origin) {
					list = append(list, origin)
				}
			}
			return &framesOutput{Frames{list}}, s.store.In(m.WorkspaceID).KeepFrames(ctx, list)
		})
	s.router.Get("/oembed", s.oembed)
}

// originOf is the scheme and the host of an address.
func originOf(text string) (string, bool) {
	u, err := url.Parse(strings.TrimSpace(text))
	if err != nil || u.Scheme != "https" && u.Scheme != "http" || u.Host == "" || u.User != nil || strings.ContainsAny(u.Host, " ;,*'\"") {
		return "", false
	}
	return u.Scheme + "://" + strings.ToLower(u.Host), true
}

// framed says, for a page that learners open, which pages may show it in a frame.
func (s *Server) framed(next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		list, err := s.store.FramesOfLink(r.Context(), chi.URLParam(r, "link"))
		if p, none := s.store.PlatformOfTicket(r.Context(), r.URL.Query().Get("ticket")); none == nil {
			list = append(list, originsOf(p)...)
		}
		if err == nil {
			allowFrames(w, list...)
		}
		next(w, r)
	}
}

// launched says which platform may show a page of a launch in a frame.
func (s *Server) launched(next http.HandlerFunc) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if p, err := s.store.PlatformOfTicket(r.Context(), r.URL.Query().Get("ticket")); err == nil {
			allowFrames(w, originsOf(p)...)
		}
		next(w, r)
	}
}

// sittingHeader brings a learner's token where no cookie comes along: in a frame of another
// site. It is asked for with framedHeader, and comes back under its own name.
const (
	sittingHeader = "Magpie-Sitting"
	framedHeader  = "Magpie-Framed"
)

// tokenFromHeader puts the token of a header in place of the cookie's.
func tokenFromHeader(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if isPlay(r.URL.Path) && r.Header.Get(framedHeader) != "" {
			r.Header.Del("Cookie")
			if token := r.Header.Get(sittingHeader); token != "" {
				r.AddCookie(&http.Cookie{Name: sittingCookie, Value: token})
			}
		}
		next.ServeHTTP(w, r)
	})
}

// embedHeight is how high a frame is before what is in it says how high it should be.
const embedHeight = 640

// oembed answers, by oEmbed 1.0, how the page of a link is shown in a frame.
func (s *Server) oembed(w http.ResponseWriter, r *http.Request) {
	u, err := url.Parse(r.URL.Query().Get("url"))
	if format := r.URL.Query().Get("format"); format != "" && format != "json" {
		http.Error(w, "only json is possible", http.StatusNotImplemented)
		return
	}
	link, ok := "", false
	if err == nil {
		link, ok = strings.CutPrefix(u.Path, s.base+"/play/")
	}
	if !ok {
		http.Error(w, "this is not the address of a release", http.StatusNotFound)
		return
	}
	o, err := s.hosting.Opening(r.Context(), link, "")
	if err != nil {
		http.Error(w, "this is not the address of a release", http.StatusNotFound)
		return
	}
	src := s.public + "/play/" + link
	if s.public == "" {
		src = "//" + r.Host + s.base + "/play/" + link
	}
	w.Header().Set("Content-Type", "application/json; charset=utf-8")
	_ = json.NewEncoder(w).Encode(map[string]any{
		"version": "1.0", "type": "rich", "title": o.Title, "provider_name": "Keen Magpie", "width": 960, "height": embedHeight,
		"html": fmt.Sprintf(`<iframe src="%s" title="%s" width="960" height="%d" style="width:100%%;border:0" allow="fullscreen"></iframe>`, html.EscapeString(src), html.EscapeString(o.Title), embedHeight),
	})
}
