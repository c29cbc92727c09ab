package server

import (
	"context"
	"net/http"

	"github.com/danielgtaylor/huma/v2"

	"keenmagpie/core/play"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

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

type tryingOutput struct{ Body hosting.Trying }

func (s *Server) tryRoutes() {
	open(s, operation(http.MethodGet, "/api/try/{link}", "try", "What a draft link leads to"), s.try)
	moves := operation(http.MethodPost, "/api/try/{link}/{revision}/moves", "tryMoves", "Play moves from the beginning; nothing is kept")
	open(s, moves, func(ctx context.Context, in *tryMovesInput) (*standingOutput, error) {
		now, err := s.hosting.TryMoves(ctx, hosting.Tried(in.Tried), in.Body.Seed, in.Body.Moves)
		if err != nil {
			return nil, err
		}
		return &standingOutput{*now}, nil
	})
	open(s, operation(http.MethodGet, "/api/try/{link}/{revision}/beckoning/{piece}", "tryBeckoning", "The targets that show themselves while a piece is in hand"),
		func(ctx context.Context, in *tryBeckoningInput) (*beckoningOutput, error) {
			out, err := s.hosting.TryBeckoning(ctx, hosting.Tried(in.Tried), in.Piece)
			return &beckoningOutput{out}, err
		})
	open(s, operation(http.MethodGet, "/api/try/{link}/{revision}/media/{id}", "tryMedium", "A picture of a draft"),
		func(ctx context.Context, in *tryMediaInput) (*huma.StreamResponse, error) {
			workspace, id, err := s.hosting.TryMedium(ctx, hosting.Tried(in.Tried), in.ID)
			if err != nil {
				return nil, err
			}
			return s.medium(ctx, workspace, id, in.ID)
		})
	links := func(ctx context.Context, m store.Member, id string) (*draftLinksOutput, error) {
		if _, err := s.store.In(m.WorkspaceID).Activity(ctx, id); err != nil {
			return nil, err
		}
		list, err := s.store.In(m.WorkspaceID).DraftLinks(ctx, id)
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
			if err := s.store.In(m.WorkspaceID).AddDraftLink(ctx, in.ID, m.ID); err != nil {
				return nil, err
			}
			return links(ctx, m, in.ID)
		})
	designer(s, operation(http.MethodDelete, "/api/activities/{id}/draft-links/{link}", "withdrawDraftLink", "End a draft link"),
		func(ctx context.Context, m store.Member, in *draftLinkInput) (*draftLinksOutput, error) {
			if err := s.store.In(m.WorkspaceID).WithdrawDraftLink(ctx, in.ID, in.Link); err != nil {
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

func (s *Server) try(ctx context.Context, in *tryInput) (*tryingOutput, error) {
	// A draft can be as large as one may be: one at a time is laid out for those who open it.
	leave, p := queue(ctx, s.trying, "Many people are opening drafts. Try again in half a minute.")
	if p != nil {
		return nil, p
	}
	defer leave()
	out, err := s.hosting.Try(ctx, in.Link)
	if err != nil {
		return nil, err
	}
	return &tryingOutput{*out}, nil
}
