package server

import (
	"context"
	"errors"
	"fmt"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// stage is a document ready to be played before learners, who know its parts by
// names of their own. Where a series has a page it is empty.
type stage struct {
	game  *play.Game
	names *names
}

func newStage(doc *activity.Doc, n *names) (stage, error) {
	game, err := play.New(doc)
	return stage{game, n}, err
}

// hosted is a release ready to be played: by step, of which an activity has one.
type hosted struct {
	release store.Release
	seen    time.Time // when it was last read; what it has been made into never changes
	stages  []stage
	series  *boundSeries // nil for an activity
}

func (h *hosted) stage(step int) (stage, error) {
	if step < 0 || step >= len(h.stages) || h.stages[step].game == nil {
		return stage{}, noSitting()
	}
	return h.stages[step], nil
}

// hostedSize and seatedSize are how many releases and sittings are kept in memory.
const (
	hostedSize = 500
	seatedSize = 5000
)

// host finds what a link leads to, ready to be played. It is made once for all who ask for
// it at the same time.
func (s *Server) host(ctx context.Context, link string) (*hosted, error) {
	if h, ok := s.hosted.Get(link); ok && s.clock().Sub(h.seen) < seenFor && h.seen.Before(s.clock().Add(time.Second)) {
		return h, h.ended()
	}
	// Whoever asked first may leave; the others still want it.
	ctx = context.WithoutCancel(ctx)
	h, err, _ := s.making.Do("release "+link, func() (any, error) { return s.makeHost(ctx, link) })
	if err != nil {
		return nil, err
	}
	return h.(*hosted), h.(*hosted).ended()
}

// seenFor is for how long a server takes a release to be there without asking again.
const seenFor = 10 * time.Second

// ended says why a release's link leads nowhere any more, or nil.
func (h *hosted) ended() error {
	if h.release.DeletedAt == nil {
		return nil
	}
	return &Problem{Status: 410, Code: "ended", Detail: "This activity has been deleted, so its link has ended. Ask whoever gave you the link; what you did is kept for now."}
}

// hostAnyway is host for those who look at what was played: also where links have ended.
func (s *Server) hostAnyway(ctx context.Context, link string) (*hosted, error) {
	h, err := s.host(ctx, link)
	if h != nil {
		return h, nil
	}
	return h, err
}

func (s *Server) makeHost(ctx context.Context, link string) (*hosted, error) {
	r, err := s.store.ReleaseByLink(ctx, link)
	if errors.Is(err, store.ErrNotFound) {
		return nil, noRelease()
	}
	if err != nil {
		return nil, err
	}
	if h, ok := s.hosted.Get(link); ok { // made before: only what is said of it may have changed
		again := *h
		again.release, again.seen = r, s.clock()
		s.hosted.Add(link, &again)
		return &again, nil
	}
	h := &hosted{release: r, seen: s.clock()}
	if r.Form == store.ASeries {
		err = h.bind()
	} else {
		err = h.take(r.Document, r.Names)
	}
	if err != nil {
		return nil, fmt.Errorf("release %s cannot be read: %w", r.ID, err)
	}
	s.hosted.Add(link, h)
	return h, nil
}

// take makes an activity's release ready.
func (h *hosted) take(document, learners string) error {
	doc, faults := activity.Read([]byte(document))
	if faults != nil {
		return faults
	}
	n, err := readNames(learners)
	if err != nil {
		return err
	}
	st, err := newStage(doc, n)
	h.stages = []stage{st}
	return err
}

func noRelease() *Problem {
	return &Problem{Status: 404, Code: "no-release", Detail: "This link leads to no activity. Check it with whoever gave it to you."}
}
