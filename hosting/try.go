package hosting

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// Trying is a draft before its first move.
type Trying struct {
	Revision int    `json:"revision"`
	Seed     uint64 `json:"seed"`
	Seated   Seated `json:"seated"`
}

func noDraft() *Refusal {
	return &Refusal{Code: "no-draft", Detail: "This link leads to no draft: it may have been withdrawn. Ask whoever gave it to you."}
}

// A draft link lets a colleague try a draft. Nothing is kept of that: the page sends
// all of its moves each time, and whichever server gets them plays them from the
// beginning. The draft is judged as it was when the page was opened.

// Tried is which revision of which draft is tried.
type Tried struct {
	Link     string
	Revision int
}

// Try opens a draft by its link. A draft can be as large as one may be, and is laid out
// again for each person who opens it.
func (s *Service) Try(ctx context.Context, link string) (*Trying, error) {
	d, err := s.store.DraftByLink(ctx, link)
	if errors.Is(err, store.ErrNotFound) {
		d.Revision, err = 1, nil // a release, or nothing
	}
	if err != nil {
		return nil, err
	}
	st, err := s.drafted(ctx, Tried{link, d.Revision})
	if err != nil {
		return nil, err
	}
	x := &seat{Sitting: store.Sitting{Seed: rand.Uint64N(1 << 53)}, stage: st}
	x.state = st.Game.Open(x.Seed)
	seated := x.seated(s.clock())
	seated.Elapsed = 0
	return &Trying{d.Revision, x.Seed, seated}, nil
}

// drafted is a revision of a draft ready to be tried. That the link still holds is
// asked each time.
func (s *Service) drafted(ctx context.Context, in Tried) (Stage, error) {
	d, err := s.store.DraftByLink(ctx, in.Link)
	if errors.Is(err, store.ErrNotFound) {
		h, err := s.taught(ctx, in.Link)
		if err != nil {
			return Stage{}, err
		}
		return h.Stage(0)
	}
	if err != nil {
		return Stage{}, err
	}
	key := fmt.Sprintf("%s.%d", in.Link, in.Revision)
	if st, ok := s.drafts.Get(key); ok {
		return st, nil
	}
	ctx = context.WithoutCancel(ctx)
	st, err, _ := s.making.Do("draft "+key, func() (any, error) {
		st, err := s.makeDraft(ctx, d, in)
		if err == nil {
			s.drafts.Add(key, st)
		}
		return st, err
	})
	return st.(Stage), err
}

// taught finds the release that whoever teaches at a platform has opened from there: they try
// it like a draft, and nothing is kept.
func (s *Service) taught(ctx context.Context, token string) (*Hosted, error) {
	link, err := s.store.TrialLink(ctx, token)
	if errors.Is(err, store.ErrNotFound) {
		return nil, noDraft()
	}
	if err != nil {
		return nil, err
	}
	return s.Find(ctx, link)
}

// makeDraft makes a revision of a draft ready.
func (s *Service) makeDraft(ctx context.Context, d store.DraftLink, in Tried) (Stage, error) {
	v, err := s.store.In(d.WorkspaceID).Revision(ctx, d.ActivityID, in.Revision)
	if errors.Is(err, store.ErrNotFound) {
		return Stage{}, noDraft()
	}
	if err != nil {
		return Stage{}, err
	}
	doc, faults := activity.Read([]byte(v.Document))
	if faults != nil {
		return Stage{}, faults
	}
	if doc, err = s.worded(ctx, d.WorkspaceID, doc); err != nil {
		return Stage{}, err
	}
	st, err := newStage(doc, newNames(doc, secretly(d.Secret)))
	var impossible *marks.Impossible
	if errors.As(err, &impossible) {
		return Stage{}, &Refusal{Code: "key-impossible", Detail: "This draft cannot be played as it is now: " + impossible.Error() + "."}
	}
	return st, err
}

// TryMoves plays moves of a draft from the beginning, and says what stands then.
// Cost: O(moves).
func (s *Service) TryMoves(ctx context.Context, in Tried, seed uint64, moves []play.Move) (*play.Standing, error) {
	st, err := s.drafted(ctx, in)
	if err != nil {
		return nil, err
	}
	state, last := st.Game.Open(seed), play.Answer{}
	for _, m := range moves {
		state, last = st.Game.Move(state, st.Names.move(m))
	}
	now := st.Game.Standing(state, last, st.Names)
	return &now, nil
}

// TryBeckoning is [Service.Beckoning] for a draft. Which pieces have appeared only the page
// knows; it asks for one in hand.
func (s *Service) TryBeckoning(ctx context.Context, in Tried, piece string) (out play.Beckoning, err error) {
	st, err := s.drafted(ctx, in)
	if err != nil {
		return out, err
	}
	return st.beckoning(st.Names.move(play.Move{Piece: piece}).Piece), nil
}

// TryMedium finds a picture or a sound of a draft, and the workspace that it is in.
func (s *Service) TryMedium(ctx context.Context, in Tried, known string) (workspace, id string, err error) {
	st, err := s.drafted(ctx, in)
	if err != nil {
		return "", "", err
	}
	id, ok := st.Names.picture(known)
	if !ok {
		return "", "", noPicture()
	}
	d, err := s.store.DraftByLink(ctx, in.Link)
	if errors.Is(err, store.ErrNotFound) {
		h, err := s.taught(ctx, in.Link)
		if err != nil {
			return "", "", err
		}
		return h.Release.WorkspaceID, id, nil
	}
	return d.WorkspaceID, id, err
}

// Medium finds a picture or a sound of what a link leads to, by its name there.
func (s *Service) Medium(ctx context.Context, link, known string) (workspace, id string, err error) {
	h, err := s.Find(ctx, link)
	if err != nil {
		return "", "", err
	}
	id, ok := h.picture(known)
	if !ok {
		return "", "", noPicture()
	}
	return h.Release.WorkspaceID, id, nil
}

func noPicture() *Refusal {
	return &Refusal{Code: "no-picture", Detail: "This picture is not here."}
}
