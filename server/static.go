package server

import (
	"bytes"
	"embed"
	"fmt"
	"html"
	"io/fs"
	"mime"
	"net/http"
	"path"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
)

// The built interface. Where Node has never run there is a placeholder only.
//
//go:embed all:webui/dist
var webui embed.FS

// anyPage is every address that no other route takes: those of the interface's views.
const anyPage = "/*"

func (s *Server) staticRoutes() {
	files, err := fs.Sub(webui, "webui/dist/built")
	if err != nil {
		panic(err) // the path is a constant
	}
	page := func(name string) http.HandlerFunc {
		body, err := fs.ReadFile(files, name)
		// The build does not know below which path the server stands.
		body = bytes.ReplaceAll(body, []byte(`data-base=""`), fmt.Appendf(nil, `data-base="%s"`, html.EscapeString(s.base)))
		body = bytes.ReplaceAll(body, []byte(`="./`), fmt.Appendf(nil, `="%s/`, html.EscapeString(s.base)))
		return func(w http.ResponseWriter, r *http.Request) {
			if err != nil {
				serveFile(w, r, files, name) // says what is missing
				return
			}
			w.Header().Set("Cache-Control", "no-cache")
			w.Header().Set("Content-Type", "text/html; charset=utf-8")
			http.ServeContent(w, r, "", time.Time{}, bytes.NewReader(body))
		}
	}
	icon := func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "no-cache")
		serveFile(w, r, files, "magpie.svg")
	}
	index := page("index.html")
	s.router.Get("/assets/*", func(w http.ResponseWriter, r *http.Request) {
		w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		serveFile(w, r, files, path.Join("assets", path.Clean("/"+chi.URLParam(r, "*"))))
	})
	s.router.Get("/magpie.svg", icon)
	s.router.Get("/play/{link}", s.framed(page("play.html")))
	s.router.Get(choosePath, s.launched(page("launched.html")))
	s.router.Get(seePath, s.launched(page("launched.html")))
	s.router.Get("/try/{link}", page("play.html"))
	s.router.Get(anyPage, func(w http.ResponseWriter, r *http.Request) {
		if strings.HasPrefix(r.URL.Path, "/api/") {
			s.nowhere(w, r)
			return
		}
		index(w, r)
	})
}

// serveFile sends a file as it was compressed when it was built.
func serveFile(w http.ResponseWriter, r *http.Request, files fs.FS, name string) {
	if info, err := fs.Stat(files, name); err != nil || info.IsDir() {
		w.Header().Set("Cache-Control", "no-store")
		if _, err := fs.Stat(files, "index.html"); err != nil {
			http.Error(w, "The interface has not been built yet: run 'make build'.", http.StatusServiceUnavailable)
			return
		}
		http.Error(w, "There is no such file.", http.StatusNotFound)
		return
	}
	h := w.Header()
	kind := mime.TypeByExtension(path.Ext(name))
	switch path.Ext(name) {
	case ".wasm":
		kind = "application/wasm"
	case ".woff2":
		kind = "font/woff2"
	}
	h.Set("Content-Type", kind)
	h.Add("Vary", "Accept-Encoding")
	for _, enc := range []struct{ name, ending string }{{"br", ".br"}, {"gzip", ".gz"}} {
		if strings.Contains(r.Header.Get("Accept-Encoding"), enc.name) {
			if _, err := fs.Stat(files, name+enc.ending); err == nil {
				h.Set("Content-Encoding", enc.name)
				name += enc.ending
				break
			}
		}
	}
	http.ServeFileFS(w, r, files, name)
}
