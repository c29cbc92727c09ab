package server

import (
	"context"
	"errors"
	"fmt"

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
	if h, ok := s.hosted.Get(link); ok {
		return h, nil
	}
	// Whoever asked first may leave; the others still want it.
	ctx = context.WithoutCancel(ctx)
	h, err, _ := s.making.Do("release "+link, func() (any, error) { return s.makeHost(ctx, link) })
	if err != nil {
		return nil, err
	}
	return h.(*hosted), nil
}

func (s *Server) makeHost(ctx context.Context, link string) (*hosted, error) {
	r, err := s.store.ReleaseByLink(ctx, link)
	if errors.Is(err, store.ErrNotFound) {
		return nil, noRelease()
	}
	if err != nil {
		return nil, err
	}
	h := &hosted{release: r}
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
