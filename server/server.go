// Package server joins the core and the store to the world: routes, sign-in,
// what is sent to whom. Nothing here decides right or wrong.
//
// Every operation is registered through one of four doors, so that none can
// forget to ask who is there: [open] for sign-in and what a release link
// allows, [member] for any member of a workspace, [designer] for
// those who may change something, [owner] for what concerns learners' data.
package server

import (
	"context"
	"log/slog"
	"net/http"
	"reflect"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/mysqlstore"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-chi/httprate"
	lru "github.com/hashicorp/golang-lru/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/store"
)

// Server answers HTTP requests. Any number of them share one database: what it
// keeps in memory can be thrown away.
type Server struct {
	clock     func() time.Time
	store     *store.Store
	log       *slog.Logger
	sessions  *scs.SessionManager
	hosted    *lru.Cache[string, *hosted] // by link
	seats     *lru.Cache[string, *seat]   // by the learner's token
	api       huma.API
	router    chi.Router
	drawing   chan struct{}                // pictures being drawn anew
	drafts    *lru.Cache[string, stage]    // by draft link and revision
	codes     *httprate.RateLimiter        // wrong codes, by link
	figures   *lru.Cache[string, gathered] // by what was played, and the stage
	gathering sync.Map                     // of a mutex each, by the same
}

// drawnAtOnce bounds the memory that uploads take: a large photograph is up to a
// quarter of a gigabyte while it is open.
const drawnAtOnce = 2

// Option changes how a server works.
type Option func(*Server)

// New makes a server on an open store. store may be nil to describe the API only.
func New(st *store.Store, log *slog.Logger, options ...Option) *Server {
	s := &Server{clock: time.Now, store: st, log: log, sessions: scs.New(), router: chi.NewRouter(), drawing: make(chan struct{}, drawnAtOnce), codes: newCodes()}
	for _, option := range options {
		option(s)
	}
	s.hosted, _ = lru.New[string, *hosted](hostedSize) // fails for sizes below 1 alone
	s.seats, _ = lru.New[string, *seat](seatedSize)
	s.figures, _ = lru.New[string, gathered](hostedSize)
	s.drafts, _ = lru.New[string, stage](hostedSize)
	if st != nil {
		// Sessions that have expired are dropped at sign-in, not by a goroutine.
		s.sessions.Store = mysqlstore.NewWithCleanupInterval(st.DB(), 0)
	}
	s.sessions.Lifetime = 14 * 24 * time.Hour
	s.sessions.Cookie.Name = "magpie_session"
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode
	r := s.router
	r.Use(s.recoverer, headers, http.NewCrossOriginProtection().Handler)
	cfg := huma.DefaultConfig("Keen Magpie", "1")
	cfg.CreateHooks = nil // no $schema in bodies
	cfg.DocsPath, cfg.OpenAPIPath, cfg.SchemasPath = "", "", ""
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[exact.Hundredths](), reflect.TypeFor[float64]())
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[activity.Look](), reflect.TypeFor[docLook]())
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[activity.Style](), reflect.TypeFor[docStyle]())
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[activity.Theme](), reflect.TypeFor[docTheme]())
	cfg.Components.Schemas.Schema(reflect.TypeFor[Problem](), true, "")
	r.Group(func(r chi.Router) {
		r.Use(compressed)
		r.Use(s.sessionsButNotForLearners)
		s.api = humachi.New(r, cfg)
		s.accountRoutes()
		s.activityRoutes()
		s.releaseRoutes()
		s.playRoutes()
		s.mediaRoutes()
		s.shelfRoutes()
		s.themeRoutes()
		s.wordRoutes()
		s.tableRoutes()
		s.seriesRoutes()
		s.runRoutes()
		s.rosterRoutes()
		s.tryRoutes()
		s.outcomeRoutes()
		s.sittingRoutes()
		s.downloadRoutes()
		s.privacyRoutes()
		s.remarkRoutes()
		s.replayRoutes()
		r.Get("/api/*", func(w http.ResponseWriter, r *http.Request) { writeProblem(w, notFound("This address")) })
	})
	s.staticRoutes()
	return s
}

func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.router.ServeHTTP(w, r) }

// sessionsButNotForLearners reads the session of whoever signed in; a learner's
// request has none, and is spared the look-up.
func (s *Server) sessionsButNotForLearners(next http.Handler) http.Handler {
	with := s.sessions.LoadAndSave(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if _, err := r.Cookie(s.sessions.Cookie.Name); err != nil && r.URL.Path != "/api/session" || isPlay(r.URL.Path) {
			next.ServeHTTP(w, r)
			return
		}
		with.ServeHTTP(w, r.WithContext(context.WithValue(r.Context(), sessionLoaded{}, true)))
	})
}

// compressed makes answers smaller on their way, but for those to moves: they are
// short and come often, and take less to send than to compress.
func compressed(next http.Handler) http.Handler {
	small := middleware.Compress(5, "application/json", "application/problem+json", "application/jsonl", "text/csv")(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if isPlay(r.URL.Path) && strings.HasSuffix(r.URL.Path, "/moves") {
			next.ServeHTTP(w, r)
			return
		}
		small.ServeHTTP(w, r)
	})
}

// sessionLoaded marks a request whose session was read: without, the session
// library panics when it is asked.
type sessionLoaded struct{}

func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; media-src 'self' blob:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		next.ServeHTTP(w, r)
	})
}

// recoverer turns a panic into a plain sentence for the user and a line in the log.
func (s *Server) recoverer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			if p := recover(); p != nil {
				if p == http.ErrAbortHandler {
					panic(p)
				}
				s.log.Error("panic", "path", r.URL.Path, "panic", p)
				writeProblem(w, internal())
			}
		}()
		next.ServeHTTP(w, r)
	})
}

// signedIn finds who asks, or answers 401.
func (s *Server) signedIn(ctx context.Context) (store.Member, error) {
	if ctx.Value(sessionLoaded{}) == nil {
		return store.Member{}, notSignedIn()
	}
	id := s.sessions.GetString(ctx, "account")
	if id == "" {
		return store.Member{}, notSignedIn()
	}
	m, err := s.store.MemberByID(ctx, id, s.sessions.GetString(ctx, "workspace"))
	if err == store.ErrNotFound {
		return m, notSignedIn()
	}
	return m, s.fail(err)
}

func operation(method, path, id, summary string) huma.Operation {
	return huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, MaxBodyBytes: 1 << 20}
}

// open registers an operation that anybody may ask for.
func open[I, O any](s *Server, op huma.Operation, f func(context.Context, *I) (*O, error)) {
	huma.Register(s.api, op, f)
}

// member registers an operation for members of a workspace.
func member[I, O any](s *Server, op huma.Operation, f func(context.Context, store.Member, *I) (*O, error)) {
	huma.Register(s.api, op, func(ctx context.Context, in *I) (*O, error) {
		m, err := s.signedIn(ctx)
		if err != nil {
			return nil, err
		}
		return f(ctx, m, in)
	})
}

// owner registers an operation for those who answer for a workspace.
func owner[I, O any](s *Server, op huma.Operation, f func(context.Context, store.Member, *I) (*O, error)) {
	member(s, op, func(ctx context.Context, m store.Member, in *I) (*O, error) {
		if !m.Owner {
			return nil, &Problem{Status: 403, Code: "not-the-owner", Detail: "Only the owner of this workspace can do this."}
		}
		return f(ctx, m, in)
	})
}

// designer registers an operation for those who may change things.
func designer[I, O any](s *Server, op huma.Operation, f func(context.Context, store.Member, *I) (*O, error)) {
	member(s, op, func(ctx context.Context, m store.Member, in *I) (*O, error) {
		if m.Role != store.Designer {
			return nil, &Problem{Status: 403, Code: "not-a-designer", Detail: "You can look at this workspace, and a designer can change it."}
		}
		return f(ctx, m, in)
	})
}
