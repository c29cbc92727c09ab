package server

import (
	"encoding/json"
	"errors"
	"net/http"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/store"
)

// Problem is an error as RFC 9457 has it, with a code, and for a document all its
// faults by JSON pointer.
type Problem struct {
	Status int              `json:"status"`
	Title  string           `json:"title"`
	Detail string           `json:"detail" doc:"What happened, what is safe, what to do"`
	Code   string           `json:"code"`
	Faults []activity.Fault `json:"faults,omitempty"`
	// At is when it opens, or closed (codes not-open-yet and closed).
	At *time.Time `json:"at,omitempty"`
	// Current is what another has saved in between (code newer-revision).
	Current *Draft `json:"current,omitempty"`
}

func (p *Problem) Error() string             { return p.Code + ": " + p.Detail }
func (p *Problem) GetStatus() int            { return p.Status }
func (p *Problem) ContentType(string) string { return "application/problem+json" }

// MarshalJSON fills the title from the status.
func (p *Problem) MarshalJSON() ([]byte, error) {
	type plain Problem
	x := plain(*p)
	x.Title = http.StatusText(p.Status)
	return json.Marshal(x)
}

func notFound(what string) *Problem {
	return &Problem{Status: 404, Code: "not-found", Detail: what + " is not here, or not in your workspace."}
}

func notSignedIn() *Problem {
	return &Problem{Status: 401, Code: "not-signed-in", Detail: "Sign in first; what you had on the screen is still there."}
}

func internal() *Problem {
	return &Problem{Status: 500, Code: "internal", Detail: "Something went wrong here. What was saved is safe; try again in a moment."}
}

func badDocument(faults activity.Faults) *Problem {
	return &Problem{Status: 422, Code: "bad-document", Detail: "The activity was not saved: it has faults.", Faults: faults}
}

// fail turns an error of the store into a problem; what happened goes to the log.
func (s *Server) fail(err error) error {
	var p *Problem
	switch {
	case err == nil:
		return nil
	case errors.As(err, &p):
		return p
	case errors.Is(err, store.ErrNotFound):
		return notFound("That")
	}
	s.log.Error("request failed", "error", err)
	return internal()
}

func writeProblem(w http.ResponseWriter, p *Problem) {
	w.Header().Set("Content-Type", "application/problem+json")
	w.WriteHeader(p.Status)
	_ = json.NewEncoder(w).Encode(p)
}
