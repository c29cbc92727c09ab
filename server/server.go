// Package server joins the core and the store to the world: routes, sign-in,
// what is sent to whom. Nothing here decides right or wrong.
//
// Every operation is registered through one of five doors (doors.go), so that none can
// forget to ask who is there: [open] for sign-in and what a release link allows, [member]
// for any member of a workspace, [reviewer] for those who may comment, [designer] for those
// who may change something, [owner] for what concerns learners' data.
package server

import (
	"context"
	"log/slog"
	"net/http"
	"net/netip"
	"net/url"
	"reflect"
	"slices"
	"strings"
	"sync"
	"time"

	"github.com/alexedwards/scs/mysqlstore"
	"github.com/alexedwards/scs/v2"
	"github.com/danielgtaylor/huma/v2"
	"github.com/danielgtaylor/huma/v2/adapters/humachi"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	"github.com/go-webauthn/webauthn/webauthn"
	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"

	"keenmagpie/core/activity"
	"keenmagpie/core/exact"
	"keenmagpie/core/play"
	"keenmagpie/hosting"
	"keenmagpie/identity"
	"keenmagpie/platforms"
	"keenmagpie/store"
)

// Server answers HTTP requests. Any number of them share one database: what it
// keeps in memory can be thrown away.
type Server struct {
	clock       func() time.Time
	store       *store.Store
	hosting     *hosting.Service
	log         *slog.Logger
	sessions    *scs.SessionManager
	api         huma.API
	router      chi.Router
	meter       Meter
	public      string               // the address at which people reach it; "" does not say
	base        string               // the path below which it stands; "" at the root
	secure      bool                 // cookies go over https alone
	proxies     []netip.Prefix       // whose word is taken for where a request comes from
	providers   []*identity.Provider // whose word is taken for who somebody is
	noPasswords bool
	relying     *webauthn.WebAuthn // as passkeys know it; nil where there can be none
	mail        bool               // goes out
	secret      []byte             // with which keys are encrypted; none: platforms cannot be connected
	platforms   *platforms.Service
	college     string                       // the address of a learning platform that stands in for one, or ""
	tries       tries                        // wrong codes and passwords
	begins      *limiter                     // by address
	moves       *limiter                     // by address
	signIns     *limiter                     // begun with a passkey or a provider, by address
	hashes      chan struct{}                // passwords being compared: some at once
	heavy       chan struct{}                // large bodies being taken
	trying      chan struct{}                // the draft being opened
	drawing     chan struct{}                // the picture being redrawn
	making      singleflight.Group           // of figures, once for all who ask
	figures     *lru.Cache[string, gathered] // by what was played, and the re-mark
	reading     sync.Map                     // QTIProgress by askedFor, of files that are being read
}

// Hosting is what lets learners play, for whatever else does so beside HTTP.
func (s *Server) Hosting() *hosting.Service { return s.hosting }

// WithPublicURL tells a server at what address people reach it. Where that is https,
// cookies go over https alone; where it has a path, the application stands below that.
func WithPublicURL(address string) Option {
	return func(s *Server) {
		if u, err := url.Parse(strings.TrimSuffix(address, "/")); err == nil {
			s.public, s.base, s.secure, s.relying = u.String(), u.Path, u.Scheme == "https", relying(address)
		}
	}
}

// WithProxies names what stands in front of a server. Where a request comes from is what
// these say of it, and no others: their own address would be that of everybody.
func WithProxies(list ...netip.Prefix) Option {
	return func(s *Server) {
		s.proxies = append(s.proxies, list...)
	}
}

// WithLimits sets how many sittings one address may begin in a minute, and how many moves
// it may make; 0 is no limit.
func WithLimits(begins, moves int) Option {
	return func(s *Server) { s.begins, s.moves = perMinute(begins), perMinute(moves) }
}

// What one address may do in a minute, unless a server is told otherwise: a large school
// behind one address does less.
const (
	BeginsPerMinute = 3_000
	MovesPerMinute  = 60_000
)

// Option changes how a server works.
type Option func(*Server)

// New makes a server on an open store. st may be nil to describe the API only; without a log
// nothing is said.
func New(st *store.Store, log *slog.Logger, options ...Option) *Server {
	if log == nil {
		log = slog.New(slog.DiscardHandler)
	}
	s := &Server{clock: time.Now, store: st, log: log, meter: unmetered{}, sessions: scs.New(), router: chi.NewRouter(), heavy: make(chan struct{}, heavyAtOnce), hashes: make(chan struct{}, 4), drawing: make(chan struct{}, 1), trying: make(chan struct{}, 1), tries: tries{store: st}, signIns: perMinute(signInsPerMinute), begins: perMinute(BeginsPerMinute), moves: perMinute(MovesPerMinute)}
	for _, option := range options {
		option(s)
	}
	s.hosting = hosting.New(st, s.clock, codeGuard{&s.tries})
	s.hosting.Public = s.public
	s.platforms = platforms.New(st, s.secret)
	s.figures, _ = lru.New[string, gathered](figuresKept) // fails for sizes below 1 alone
	if st != nil {
		// Sessions that have expired are dropped by a job, not by a goroutine of each server.
		s.sessions.Store = mysqlstore.NewWithCleanupInterval(st.DB(), 0)
	}
	s.sessions.Lifetime, s.sessions.IdleTimeout = 14*24*time.Hour, 24*time.Hour
	s.sessions.Cookie.Secure = s.secure
	s.sessions.Cookie.Name = "magpie_session"
	s.sessions.Cookie.Path = s.base + "/"
	s.sessions.Cookie.SameSite = http.SameSiteLaxMode
	r := s.router
	from := middleware.ClientIPFromRemoteAddr
	if len(s.proxies) > 0 {
		var networks []string
		for _, p := range s.proxies {
			networks = append(networks, p.String())
		}
		from = middleware.ClientIPFromXFF(networks...)
	}
	r.Use(middleware.RequestID, s.observed, from, addressed, s.overHTTPS, paced, s.recoverer, headers, tokenFromHeader, fromPlatforms().Handler)
	r.NotFound(s.nowhere)
	r.MethodNotAllowed(s.nowhere)
	cfg := huma.DefaultConfig("Keen Magpie", "1")
	cfg.CreateHooks = nil // no $schema in bodies
	cfg.DocsPath, cfg.OpenAPIPath, cfg.SchemasPath = "", "", ""
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[exact.Hundredths](), reflect.TypeFor[float64]())
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[activity.Look](), reflect.TypeFor[docLook]())
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[activity.Style](), reflect.TypeFor[docStyle]())
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[activity.Theme](), reflect.TypeFor[docTheme]())
	cfg.Components.Schemas.RegisterTypeAlias(reflect.TypeFor[drawnScene](), reflect.TypeFor[play.Scene]())
	cfg.Components.Schemas.Schema(reflect.TypeFor[Problem](), true, "")
	cfg.Transformers = append(cfg.Transformers, oneShape)
	r.Group(func(r chi.Router) {
		r.Use(compressed)
		r.Use(s.sessionsButNotForLearners)
		s.api = humachi.New(r, cfg)
		s.accountRoutes()
		s.peopleRoutes()
		s.ticketRoutes()
		s.signOnRoutes()
		s.letterRoutes()
		s.visitRoutes()
		s.passkeyRoutes()
		s.commentRoutes()
		s.activityRoutes()
		s.releaseRoutes()
		s.packageRoutes()
		s.qtiRoutes()
		s.frameRoutes()
		s.playRoutes()
		s.platformRoutes()
		s.admissionRoutes()
		s.cmi5Routes()
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
	})
	s.launchRoutes()
	s.staticRoutes()
	return s
}

// ServeHTTP answers a request. A proxy may take away the path below which the server stands,
// or leave it.
func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) {
	if s.base != "" && (r.URL.Path == s.base || strings.HasPrefix(r.URL.Path, s.base+"/")) {
		http.StripPrefix(s.base, s.router).ServeHTTP(w, r)
		return
	}
	s.router.ServeHTTP(w, r)
}

// fromPlatforms refuses what pages of other sites ask for, but for the steps of a launch:
// platforms send people there by a form, and each has a proof of its own.
func fromPlatforms() *http.CrossOriginProtection {
	p := http.NewCrossOriginProtection()
	p.AddInsecureBypassPattern("POST " + loginPath)
	p.AddInsecureBypassPattern("POST " + launchPath)
	return p
}

// overHTTPS sends whoever came over http to https, where a proxy says that they did.
func (s *Server) overHTTPS(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		if !s.secure || !s.throughProxy(r) || r.Header.Get("X-Forwarded-Proto") != "http" {
			if s.secure {
				w.Header().Set("Strict-Transport-Security", "max-age=31536000")
			}
			next.ServeHTTP(w, r)
			return
		}
		http.Redirect(w, r, s.public+r.URL.RequestURI(), http.StatusPermanentRedirect)
	})
}

// throughProxy says whether a request comes from one of the proxies.
func (s *Server) throughProxy(r *http.Request) bool {
	from, err := netip.ParseAddrPort(r.RemoteAddr)
	return err == nil && slices.ContainsFunc(s.proxies, func(p netip.Prefix) bool { return p.Contains(from.Addr().Unmap()) })
}

// sessionsButNotForLearners reads the session of whoever signed in; a learner's
// request has none, and is spared the look-up.
func (s *Server) sessionsButNotForLearners(next http.Handler) http.Handler {
	with := s.sessions.LoadAndSave(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		comes := strings.HasPrefix(r.URL.Path, "/api/session") || strings.HasPrefix(r.URL.Path, "/api/tickets/") // signs in
		if _, err := r.Cookie(s.sessions.Cookie.Name); err != nil && !comes || isPlay(r.URL.Path) {
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

func headers(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; media-src 'self' blob:; object-src 'none'; base-uri 'none'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		if strings.HasPrefix(r.URL.Path, "/api/") {
			h.Set("Cache-Control", "no-store") // media, which never change, say otherwise
		}
		next.ServeHTTP(w, r)
	})
}
