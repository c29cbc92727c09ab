// Package hosting is what learners do, without HTTP: what a link leads to, who may begin,
// sittings and their moves, the clock, limits, series, and drafts that are tried. Whatever
// lets learners in, from the pages of the application to a learning platform, goes through
// a [Service], so that the same is allowed, judged and told everywhere.
//
// Any number of services share one database: what one keeps in memory can be thrown away.
// Whoever may not, or is too late, gets a [*Refusal].
package hosting

import (
	"context"
	"errors"
	"fmt"
	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/store"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"
	"golang.org/x/sync/singleflight"
)

// Service lets learners play what has been released. Its methods may be called at once
// from anywhere.
type Service struct {
	clock    func() time.Time
	store    *store.Store
	codes    Guard
	hosted   *lru.Cache[string, *Hosted]    // by link
	seats    *lru.Cache[string, *seat]      // by the learner's token
	drafts   *lru.Cache[string, Stage]      // by draft link and revision
	remarked *lru.Cache[string, *play.Game] // by re-mark
	// Public is the address at which people reach what is hosted, without a / at its end.
	Public    string
	recording *lru.Cache[string, recorded] // by workspace
	making    singleflight.Group           // what is made of releases and drafts, once for all who ask
}

// Guard is asked before the code of a roster is looked up, and told of wrong ones, so that
// nobody can go through them.
type Guard interface {
	May(ctx context.Context, link string) error
	InVain(ctx context.Context, link string) error
}

// New makes a service on an open store, with the clock that counts.
func New(st *store.Store, clock func() time.Time, codes Guard) *Service {
	s := &Service{clock: clock, store: st, codes: codes}
	s.hosted, _ = lru.New[string, *Hosted](hostedSize) // fails for sizes below 1 alone
	s.seats, _ = lru.New[string, *seat](seatedSize)
	s.drafts, _ = lru.New[string, Stage](hostedSize)
	s.recording, _ = lru.New[string, recorded](hostedSize)
	s.remarked, _ = lru.New[string, *play.Game](hostedSize)
	return s
}

// Forget drops what is remembered of sittings, when they have been changed other than by
// their moves.
func (s *Service) Forget() { s.seats.Purge() }

// Refusal is why a learner may not do something, or not any more.
type Refusal struct {
	Code   string
	Detail string // what happened, what is safe, what to do
	// At is when it opens, or closed (codes not-open-yet and closed).
	At *time.Time
}

func (r *Refusal) Error() string { return r.Code + ": " + r.Detail }

// Stage is a document ready to be played before learners, who know its parts by
// names of their own. Where a series has a page it is empty.
type Stage struct {
	Game  *play.Game
	Names *Names
	at    place
}

func newStage(doc *activity.Doc, n *Names) (Stage, error) {
	game, err := play.New(doc)
	return Stage{Game: game, Names: n}, err
}

// Hosted is a release ready to be played: by step, of which an activity has one.
type Hosted struct {
	Release store.Release
	seen    time.Time // when it was last read; what it has been made into never changes
	Stages  []Stage
	Series  *Course // nil for an activity
}

// Stage is that of a step.
func (h *Hosted) Stage(step int) (Stage, error) {
	if step < 0 || step >= len(h.Stages) || h.Stages[step].Game == nil {
		return Stage{}, noSitting()
	}
	return h.Stages[step], nil
}

// hostedSize and seatedSize are how many releases and sittings are kept in memory.
const (
	hostedSize = 500
	seatedSize = 5000
)

// Find finds what a link leads to, ready to be played. It is made once for all who ask for
// it at the same time.
func (s *Service) Find(ctx context.Context, link string) (*Hosted, error) {
	if h, ok := s.hosted.Get(link); ok && s.clock().Sub(h.seen) < seenFor && h.seen.Before(s.clock().Add(time.Second)) {
		return h, h.ended()
	}
	// Whoever asked first may leave; the others still want it.
	ctx = context.WithoutCancel(ctx)
	h, err, _ := s.making.Do("release "+link, func() (any, error) { return s.makeHost(ctx, link) })
	if err != nil {
		return nil, err
	}
	return h.(*Hosted), h.(*Hosted).ended()
}

// seenFor is for how long a server takes a release to be there without asking again.
const seenFor = 10 * time.Second

// ended says why a release's link leads nowhere any more, or nil.
func (h *Hosted) ended() error {
	if h.Release.DeletedAt == nil {
		return nil
	}
	return &Refusal{Code: "ended", Detail: "This activity has been deleted, so its link has ended. Ask whoever gave you the link; what you did is kept for now."}
}

// current is what a link leads to, with the release as it stands now: who may enter can have
// changed since it was made ready.
func (s *Service) current(ctx context.Context, link string) (*Hosted, store.Release, error) {
	h, err := s.Find(ctx, link)
	if err != nil {
		return nil, store.Release{}, err
	}
	r, err := s.store.ReleaseByLink(ctx, link)
	if err == nil {
		err = (&Hosted{Release: r}).ended()
	}
	return h, r, err
}

// FindAnyway is [Service.Find] for those who look at what was played: also where links have ended.
func (s *Service) FindAnyway(ctx context.Context, link string) (*Hosted, error) {
	h, err := s.Find(ctx, link)
	if h != nil {
		return h, nil
	}
	return h, err
}

func (s *Service) makeHost(ctx context.Context, link string) (*Hosted, error) {
	r, err := s.store.ReleaseByLink(ctx, link)
	if errors.Is(err, store.ErrNotFound) {
		return nil, noRelease()
	}
	if err != nil {
		return nil, err
	}
	if h, ok := s.hosted.Get(link); ok { // made before: only what is said of it may have changed
		again := *h
		again.Release, again.seen = r, s.clock()
		s.hosted.Add(link, &again)
		return &again, nil
	}
	h := &Hosted{Release: r, seen: s.clock()}
	if r.Form == store.ASeries {
		err = h.bind()
	} else {
		err = h.take(r.Document, r.Names)
	}
	if err != nil {
		return nil, fmt.Errorf("release %s cannot be read: %w", r.ID, err)
	}
	for i := range h.Stages {
		h.Stages[i].at = place{r.WorkspaceID, r.Link}
	}
	s.hosted.Add(link, h)
	return h, nil
}

// take makes an activity's release ready.
func (h *Hosted) take(document, learners string) error {
	doc, faults := activity.Read([]byte(document))
	if faults != nil {
		return faults
	}
	n, err := readNames(learners)
	if err != nil {
		return err
	}
	st, err := newStage(doc, n)
	h.Stages = []Stage{st}
	return err
}

func noRelease() *Refusal {
	return &Refusal{Code: "no-release", Detail: "This link leads to no activity. Check it with whoever gave it to you."}
}
