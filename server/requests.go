package server

import (
	"context"
	"log/slog"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
)

// Meter is told what a server does.
type Meter interface {
	Requested(method, route string, status int, took time.Duration)
	Moved(sitting string)
	Panicked(where string)
}

// WithMeter has what a server does be counted.
func WithMeter(m Meter) Option { return func(s *Server) { s.meter = m } }

// unmetered counts nothing.
type unmetered struct{}

func (unmetered) Requested(string, string, int, time.Duration) {}
func (unmetered) Moved(string)                                 {}
func (unmetered) Panicked(string)                              {}

// asker is who turned out to ask, for the log: an account's id, never a name.
type asker struct{ account string }

type askerKey struct{}

// known notes who asks, once that is known.
func known(ctx context.Context, account string) {
	if a, _ := ctx.Value(askerKey{}).(*asker); a != nil {
		a.account = account
	}
}

// observed logs and counts every request by its route's pattern: addresses hold links and
// ids, and those are nobody's business in a log.
func (s *Server) observed(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		began, who := time.Now(), &asker{}
		answer := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		r = r.WithContext(context.WithValue(r.Context(), askerKey{}, who))
		next.ServeHTTP(answer, r)
		took, route, status := time.Since(began), routeOf(r), answer.Status()
		if status == 0 {
			status = http.StatusOK
		}
		method := r.Method
		if !slices.Contains(methods, method) {
			method = "other" // anybody can make one up
		}
		s.meter.Requested(method, route, status, took)
		level := slog.LevelInfo
		if !strings.HasPrefix(route, "/api/") {
			level = slog.LevelDebug // files
		}
		attrs := []slog.Attr{slog.String("request", middleware.GetReqID(r.Context())), slog.String("method", method), slog.String("route", route),
			slog.Int("status", status), slog.Float64("ms", float64(took.Microseconds())/1000)}
		if who.account != "" {
			attrs = append(attrs, slog.String("account", who.account))
		}
		s.log.LogAttrs(r.Context(), level, "request", attrs...)
	})
}

var methods = []string{http.MethodGet, http.MethodHead, http.MethodPost, http.MethodPut, http.MethodPatch, http.MethodDelete, http.MethodOptions}

// routeOf is the pattern that a request's address fits.
func routeOf(r *http.Request) string {
	if c := chi.RouteContext(r.Context()); c != nil && c.RoutePattern() != "" {
		return c.RoutePattern()
	}
	return "none"
}
