package server

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"time"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/store"
)

// Doors. Each asks who is there before anything of the request's body is read, and turns
// what goes wrong behind it into one answer.

// operation describes an operation with a body of up to a megabyte; heavy ones say more.
func operation(method, path, id, summary string) huma.Operation {
	return huma.Operation{OperationID: id, Method: method, Path: path, Summary: summary, MaxBodyBytes: 1 << 20, BodyReadTimeout: 20 * time.Second}
}

// heavy is an operation that takes a large body: only some at once, and with time for it.
func heavy(op huma.Operation, most int64) huma.Operation {
	op.MaxBodyBytes, op.BodyReadTimeout = most+1, -1 // its time is bounded by its progress; see paced
	op.Metadata = map[string]any{isHeavy: true}
	return op
}

const isHeavy = "heavy"

// heavyAtOnce bounds the memory that large bodies take: a bundle is up to 64 MB.
const heavyAtOnce = 2

// heavyWait is how long a large body waits for its turn before it is told to come back.
const heavyWait = 30 * time.Second

type memberKey struct{}

// Who may ask for an operation. Each is said in the API's description, as x-who, so that one
// list tells it and a test asks for every operation as each of them.
const (
	Anybody        = "anybody"
	AnyMember      = "member"
	ReviewersToo   = "reviewer"
	DesignersAlone = "designer"
	OwnersAlone    = "owner"
)

func forWhom(op huma.Operation, who string) huma.Operation {
	op.Extensions = map[string]any{"x-who": who}
	return op
}

// door registers an operation behind a check of who asks.
func door[I, O any](s *Server, op huma.Operation, who func(context.Context) (store.Member, error), f func(context.Context, store.Member, *I) (*O, error)) {
	op.Middlewares = append(op.Middlewares, func(c huma.Context, next func(huma.Context)) {
		m, err := who(c.Context())
		if err != nil {
			s.refuse(c, s.problem(c.Context(), op.OperationID, err))
			return
		}
		if op.Metadata[isHeavy] != nil {
			leave, p := s.uploadPlace(c.Context())
			if p != nil {
				s.refuse(c, p)
				return
			}
			defer leave()
		}
		next(huma.WithValue(c, memberKey{}, m))
	})
	huma.Register(s.api, op, func(ctx context.Context, in *I) (*O, error) {
		m, _ := ctx.Value(memberKey{}).(store.Member)
		out, err := f(ctx, m, in)
		if err != nil {
			return nil, s.problem(ctx, op.OperationID, err)
		}
		return out, nil
	})
}

// uploadPlace waits for one of the places of large bodies.
func (s *Server) uploadPlace(ctx context.Context) (leave func(), p *Problem) {
	return queue(ctx, s.heavy, othersUpload)
}

const othersUpload = "Other files are being uploaded. Nothing was uploaded; try again in half a minute."

// drawingPlace waits until no other picture is being redrawn: one alone takes up to
// 128 MB (see [picture.MaxMemory]).
func (s *Server) drawingPlace(ctx context.Context) (leave func(), p *Problem) {
	return queue(ctx, s.drawing, othersUpload)
}

// queue waits for one of some places, and says what others do where none comes free.
func queue(ctx context.Context, places chan struct{}, busy string) (leave func(), p *Problem) {
	clock := time.NewTimer(heavyWait)
	defer clock.Stop()
	select {
	case places <- struct{}{}:
		return func() { <-places }, nil
	case <-ctx.Done():
	case <-clock.C:
	}
	return nil, &Problem{Status: 503, Code: "busy", RetryAfter: 30, Detail: busy}
}

// refuse answers with a problem before the request's body is read.
func (s *Server) refuse(c huma.Context, p *Problem) {
	body, err := json.Marshal(p)
	if err != nil {
		body = []byte("{}")
	}
	c.SetHeader("Content-Type", p.ContentType(""))
	c.SetHeader("Connection", "close") // a large body is not waited for
	for name, list := range p.GetHeaders() {
		c.SetHeader(name, list[0])
	}
	c.SetStatus(p.Status)
	_, _ = c.BodyWriter().Write(body)
}

// open registers an operation that anybody may ask for.
func open[I, O any](s *Server, op huma.Operation, f func(context.Context, *I) (*O, error)) {
	door(s, forWhom(op, Anybody), func(context.Context) (store.Member, error) { return store.Member{}, nil },
		func(ctx context.Context, _ store.Member, in *I) (*O, error) { return f(ctx, in) })
}

// member registers an operation for members of a workspace.
func member[I, O any](s *Server, op huma.Operation, f func(context.Context, store.Member, *I) (*O, error)) {
	door(s, forWhom(op, AnyMember), s.signedIn, f)
}

// owner registers an operation for those who answer for a workspace.
func owner[I, O any](s *Server, op huma.Operation, f func(context.Context, store.Member, *I) (*O, error)) {
	door(s, forWhom(op, OwnersAlone), func(ctx context.Context) (store.Member, error) {
		m, err := s.signedIn(ctx)
		if err == nil && !m.Owner {
			err = &Problem{Status: 403, Code: "not-the-owner", Detail: "Only the owner of this workspace can do this."}
		}
		return m, err
	}, f)
}

// designer registers an operation for those who may change things.
func designer[I, O any](s *Server, op huma.Operation, f func(context.Context, store.Member, *I) (*O, error)) {
	door(s, forWhom(op, DesignersAlone), func(ctx context.Context) (store.Member, error) {
		m, err := s.signedIn(ctx)
		if err == nil && m.Role != store.Designer {
			err = &Problem{Status: 403, Code: "not-a-designer", Detail: "You can look at this workspace, and a designer can change it."}
		}
		return m, err
	}, f)
}

// reviewer registers an operation for those who may say something of a draft.
func reviewer[I, O any](s *Server, op huma.Operation, f func(context.Context, store.Member, *I) (*O, error)) {
	door(s, forWhom(op, ReviewersToo), func(ctx context.Context) (store.Member, error) {
		m, err := s.signedIn(ctx)
		if err == nil && m.Role == store.Viewer {
			err = &Problem{Status: 403, Code: "not-a-reviewer", Detail: "You can look at this workspace, and a reviewer or designer can comment on it."}
		}
		return m, err
	}, f)
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
	if errors.Is(err, store.ErrNotFound) {
		return m, notSignedIn()
	}
	if err != nil {
		return m, err
	}
	if ended(s.sessions.GetInt64(ctx, "since"), m.SessionsFrom) {
		return store.Member{}, notSignedIn()
	}
	if goesOn, err := s.visiting(ctx, m.ID); err != nil || !goesOn {
		return store.Member{}, cmp.Or(err, error(notSignedIn()))
	}
	known(ctx, m.ID)
	if m.SeenAt == nil || time.Since(*m.SeenAt) > time.Minute {
		err = s.store.Seen(ctx, m.ID)
	}
	return m, err
}

// ended says whether a session began before all of its account's were ended. One without a
// beginning is of an earlier version, in which none were.
func ended(since int64, from time.Time) bool {
	if since == 0 {
		return from.Year() > 2000
	}
	return time.UnixMilli(since).Before(from)
}

// sessionLoaded marks a request whose session was read: without, the session
// library panics when it is asked.
type sessionLoaded struct{}
