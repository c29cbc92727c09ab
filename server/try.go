package server

import (
	"context"
	"errors"
	"fmt"
	"math/rand/v2"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// A draft link lets a colleague try a draft. Nothing is kept of that: the page sends
// all of its moves each time, and whichever server gets them plays them from the
// beginning. The draft is judged as it was when the page was opened.

type tryInput struct {
	Link string `path:"link" maxLength:"40"`
}

// Tried is which revision of which draft is tried.
type Tried struct {
	Link     string `path:"link" maxLength:"40"`
	Revision int    `path:"revision" minimum:"1"`
}

type tryMovesInput struct {
	Tried
	Body struct {
		Seed  uint64      `json:"seed" maximum:"9007199254740992"`
		Moves []play.Move `json:"moves" nullable:"false" maxItems:"5000" doc:"All of them"`
	}
}

type tryBeckoningInput struct {
	Tried
	Piece string `path:"piece" maxLength:"80"`
}

type tryMediaInput struct {
	Tried
	ID string `path:"id" maxLength:"64"`
}

// Trying is a draft before its first move.
type Trying struct {
	Revision int    `json:"revision"`
	Seed     uint64 `json:"seed"`
	Seated   Seated `json:"seated"`
}

type tryingOutput struct{ Body Trying }

func (s *Server) tryRoutes() {
	open(s, operation(http.MethodGet, "/api/try/{link}", "try", "What a draft link leads to"), s.try)
	moves := operation(http.MethodPost, "/api/try/{link}/{revision}/moves", "tryMoves", "Play moves from the beginning; nothing is kept")
	open(s, moves, func(ctx context.Context, in *tryMovesInput) (*standingOutput, error) {
		st, err := s.drafted(ctx, in.Tried)
		if err != nil {
			return nil, err
		}
		state, last := st.game.Open(in.Body.Seed), play.Answer{}
		for _, m := range in.Body.Moves {
			state, last = st.game.Move(state, st.names.move(m))
		}
		return &standingOutput{st.game.Standing(state, last, st.names)}, nil
	})
	open(s, operation(http.MethodGet, "/api/try/{link}/{revision}/beckoning/{piece}", "tryBeckoning", "The targets that show themselves while a piece is in hand"),
		func(ctx context.Context, in *tryBeckoningInput) (*beckoningOutput, error) {
			st, err := s.drafted(ctx, in.Tried)
			if err != nil {
				return nil, err
			}
			// Which pieces have appeared only the page knows; it asks for one in hand.
			return &beckoningOutput{st.beckoning(st.names.move(play.Move{Piece: in.Piece}).Piece)}, nil
		})
	open(s, operation(http.MethodGet, "/api/try/{link}/{revision}/media/{id}", "tryMedium", "A picture of a draft"),
		func(ctx context.Context, in *tryMediaInput) (*huma.StreamResponse, error) {
			st, err := s.drafted(ctx, in.Tried)
			if err != nil {
				return nil, err
			}
			id, ok := st.names.picture(in.ID)
			if !ok {
				return nil, notFound("This picture")
			}
			d, err := s.store.DraftByLink(ctx, in.Link)
			if err != nil {
				return nil, err
			}
			return s.medium(ctx, d.WorkspaceID, id, in.ID)
		})
	links := func(ctx context.Context, m store.Member, id string) (*draftLinksOutput, error) {
		if _, err := s.store.Activity(ctx, m.WorkspaceID, id); err != nil {
			return nil, err
		}
		list, err := s.store.DraftLinks(ctx, m.WorkspaceID, id)
		out := &draftLinksOutput{}
		out.Body.Links = []string{}
		for _, d := range list {
			out.Body.Links = append(out.Body.Links, "/try/"+d.Link)
		}
		return out, err
	}
	designer(s, operation(http.MethodGet, "/api/activities/{id}/draft-links", "draftLinks", "The links by which a draft can be tried"),
		func(ctx context.Context, m store.Member, in *idInput) (*draftLinksOutput, error) {
			return links(ctx, m, in.ID)
		})
	designer(s, created(operation(http.MethodPost, "/api/activities/{id}/draft-links", "addDraftLink", "Make a link by which a draft can be tried")),
		func(ctx context.Context, m store.Member, in *idInput) (*draftLinksOutput, error) {
			if _, err := s.store.Activity(ctx, m.WorkspaceID, in.ID); err != nil {
				return nil, err
			}
			if err := s.store.AddDraftLink(ctx, in.ID, m.ID); err != nil {
				return nil, err
			}
			return links(ctx, m, in.ID)
		})
	designer(s, operation(http.MethodDelete, "/api/activities/{id}/draft-links/{link}", "withdrawDraftLink", "End a draft link"),
		func(ctx context.Context, m store.Member, in *draftLinkInput) (*draftLinksOutput, error) {
			if err := s.store.WithdrawDraftLink(ctx, m.WorkspaceID, in.ID, in.Link); err != nil {
				return nil, err
			}
			return links(ctx, m, in.ID)
		})
}

type draftLinkInput struct {
	ID   string `path:"id" maxLength:"40"`
	Link string `path:"link" maxLength:"40"`
}

type draftLinksOutput struct {
	Body struct {
		Links []string `json:"links" nullable:"false" doc:"Paths"`
	}
}

func noDraft() *Problem {
	return &Problem{Status: 404, Code: "no-draft", Detail: "This link leads to no draft: it may have been withdrawn. Ask whoever gave it to you."}
}

func (s *Server) try(ctx context.Context, in *tryInput) (*tryingOutput, error) {
	// A draft can be as large as one may be: one at a time is laid out for those who open it.
	leave, p := queue(ctx, s.trying, "Many people are opening drafts. Try again in half a minute.")
	if p != nil {
		return nil, p
	}
	defer leave()
	d, err := s.store.DraftByLink(ctx, in.Link)
	if errors.Is(err, store.ErrNotFound) {
		return nil, noDraft()
	}
	if err != nil {
		return nil, err
	}
	st, err := s.drafted(ctx, Tried{in.Link, d.Revision})
	if err != nil {
		return nil, err
	}
	x := &seat{Sitting: store.Sitting{Seed: rand.Uint64N(1 << 53)}, stage: st}
	x.state = st.game.Open(x.Seed)
	seated := x.seated(s.clock())
	seated.Elapsed = 0
	return &tryingOutput{Trying{d.Revision, x.Seed, seated}}, nil
}

// drafted is a revision of a draft ready to be tried. That the link still holds is
// asked each time.
func (s *Server) drafted(ctx context.Context, in Tried) (stage, error) {
	d, err := s.store.DraftByLink(ctx, in.Link)
	if errors.Is(err, store.ErrNotFound) {
		return stage{}, noDraft()
	}
	if err != nil {
		return stage{}, err
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
	return st.(stage), err
}

// makeDraft makes a revision of a draft ready.
func (s *Server) makeDraft(ctx context.Context, d store.DraftLink, in Tried) (stage, error) {
	v, err := s.store.Revision(ctx, d.WorkspaceID, d.ActivityID, in.Revision)
	if errors.Is(err, store.ErrNotFound) {
		return stage{}, noDraft()
	}
	if err != nil {
		return stage{}, err
	}
	doc, faults := activity.Read([]byte(v.Document))
	if faults != nil {
		return stage{}, faults
	}
	if doc, err = s.worded(ctx, d.WorkspaceID, doc); err != nil {
		return stage{}, err
	}
	st, err := newStage(doc, newNames(doc, secretly(d.Secret)))
	var impossible *marks.Impossible
	if errors.As(err, &impossible) {
		return stage{}, &Problem{Status: 422, Code: "key-impossible", Detail: "This draft cannot be played as it is now: " + impossible.Error() + "."}
	}
	return st, err
}
