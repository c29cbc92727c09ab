package server

import (
	"context"
	"encoding/json"
	"errors"
	"net/http"
	"runtime/debug"
	"strconv"
	"strings"
	"time"

	"github.com/danielgtaylor/huma/v2"
	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Problem is an error as RFC 9457 has it, with a code, and for a document all its
// faults by JSON pointer.
type Problem struct {
	Status int    `json:"status"`
	Title  string `json:"title"`
	Detail string `json:"detail" doc:"What happened, what is safe, what to do"`
	Code   string `json:"code"`
	// Params are what the detail names, where it names something: names and numbers.
	Params map[string]any   `json:"params,omitempty"`
	Faults []activity.Fault `json:"faults,omitempty"`
	// At is when it opens, or closed (codes not-open-yet and closed).
	At *time.Time `json:"at,omitempty"`
	// RetryAfter is after how many seconds it can be tried again; 0 does not say.
	RetryAfter int `json:"retryAfter,omitempty"`
	// Current is what another has saved in between (code newer-revision).
	Current *Draft `json:"current,omitempty"`
}

func (p *Problem) Error() string             { return p.Code + ": " + p.Detail }
func (p *Problem) GetStatus() int            { return p.Status }
func (p *Problem) ContentType(string) string { return "application/problem+json" }

// GetHeaders says when to try again; see [huma.HeadersError].
func (p *Problem) GetHeaders() http.Header {
	h := http.Header{}
	if p.RetryAfter > 0 {
		h.Set("Retry-After", strconv.Itoa(p.RetryAfter))
	}
	return h
}

// MarshalJSON fills the title from the status.
func (p *Problem) MarshalJSON() ([]byte, error) {
	type plain Problem
	x := plain(*p)
	x.Title = http.StatusText(p.Status)
	return json.Marshal(x)
}

// said is a problem whose sentence names something: params fill in the text, as [message.Line]
// does, and go beside it, so that an interface in another language can say it by its code.
func said(status int, code, text string, params message.P) *Problem {
	return &Problem{Status: status, Code: code, Detail: message.Line{Code: code, Params: params}.In(map[string]string{code: text}), Params: params}
}

func notFound(what string) *Problem {
	return &Problem{Status: 404, Code: "not-found", Detail: what + " is not here, or not in your workspace."}
}

func notSignedIn() *Problem {
	return &Problem{Status: 401, Code: "not-signed-in", Detail: "Sign in first; what you had on the screen is still there."}
}

func internal() *Problem {
	return &Problem{Status: 500, Code: "internal", Detail: "Something went wrong. Saved work is safe. Try again in a moment."}
}

func badDocument(faults activity.Faults) *Problem {
	return &Problem{Status: 422, Code: "bad-document", Detail: "The activity was not saved: it has faults.", Faults: faults}
}

// problem is the answer to what went wrong in an operation. What nobody foresaw goes to
// the log, with the operation and the request's id.
func (s *Server) problem(ctx context.Context, operation string, err error) *Problem {
	var p *Problem
	var r *hosting.Refusal
	switch {
	case errors.As(err, &p):
		return p
	case errors.As(err, &r):
		return refused(r)
	case errors.Is(err, store.ErrNotFound):
		return notFound("That")
	case ctx.Err() != nil: // whoever asked has left
		return &Problem{Status: 499, Code: "gone", Detail: "The request was ended before it was answered."}
	}
	s.log.Error("request failed", "operation", operation, "request", middleware.GetReqID(ctx), "error", err)
	return internal()
}

// refused is a refusal as it is answered.
func refused(r *hosting.Refusal) *Problem {
	return &Problem{Status: refusals[r.Code], Code: r.Code, Detail: r.Detail, At: r.At}
}

// refusals has the status of each refusal by its code.
var refusals = map[string]int{
	"no-release": 404, "no-sitting": 404, "no-draft": 404, "no-picture": 404, "ended": 410,
	"not-open-yet": 403, "closed": 403, "full": 403, "begun-before": 403, "wrong-code": 403,
	"not-yet": 409, "raced": 409, "time-over": 409,
	"bad-request-id": 422, "no-name": 422, "key-impossible": 422,
}

// oneShape gives errors that the library answers with, of requests that are not as they
// should be, the shape of all others. What was sent is not repeated.
func oneShape(_ huma.Context, _ string, v any) (any, error) {
	e, ok := v.(*huma.ErrorModel)
	if !ok {
		return v, nil
	}
	p := &Problem{Status: e.Status, Code: codes[e.Status], Detail: "The request could not be read: " + strings.ToLower(e.Detail) + ". Nothing was changed."}
	if p.Code == "" {
		p.Code = "bad-request"
	}
	for _, d := range e.Errors {
		at := "/" + strings.NewReplacer(".", "/", "[", "/", "]", "").Replace(d.Location)
		p.Faults = append(p.Faults, activity.Fault{Pointer: at, Message: d.Message})
	}
	if e.Status == http.StatusUnprocessableEntity && len(p.Faults) > 0 {
		p.Detail = "The request does not have the expected form: " + p.Faults[0].Message + " (" + p.Faults[0].Pointer + "). Nothing was changed."
	}
	return p, nil
}

var codes = map[int]string{
	http.StatusBadRequest: "bad-request", http.StatusRequestTimeout: "too-slow", http.StatusRequestEntityTooLarge: "too-large",
	http.StatusUnsupportedMediaType: "bad-type", http.StatusUnprocessableEntity: "bad-form", http.StatusNotAcceptable: "bad-type",
}

// nowhere answers requests that no route takes.
func (s *Server) nowhere(w http.ResponseWriter, r *http.Request) {
	var allowed []string
	for _, method := range []string{http.MethodGet, http.MethodPost, http.MethodPut, http.MethodDelete} {
		c := chi.NewRouteContext()
		if s.router.Match(c, method, r.URL.Path) && c.RoutePattern() != anyPage {
			allowed = append(allowed, method)
		}
	}
	if len(allowed) == 0 {
		writeProblem(w, notFound("This address"))
		return
	}
	w.Header().Set("Allow", strings.Join(allowed, ", "))
	writeProblem(w, &Problem{Status: 405, Code: "bad-method", Detail: "This address does not take " + r.Method + " requests."})
}

// recoverer turns a panic into a plain sentence for the user, and all that is known of it
// into the log.
func (s *Server) recoverer(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			p := recover()
			if p == nil {
				return
			}
			if p == http.ErrAbortHandler {
				panic(p)
			}
			route := routeOf(r)
			s.meter.Panicked(route)
			s.log.Error("panic", "route", r.Method+" "+route, "request", middleware.GetReqID(r.Context()), "panic", p, "stack", string(debug.Stack()))
			writeProblem(w, internal())
		}()
		next.ServeHTTP(w, r)
	})
}

func writeProblem(w http.ResponseWriter, p *Problem) {
	for name, list := range p.GetHeaders() {
		w.Header().Set(name, list[0])
	}
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(p.Status)
	_ = json.NewEncoder(w).Encode(p)
}
