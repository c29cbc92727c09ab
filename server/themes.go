package server

import (
	"context"
	"encoding/json"
	"net/http"

	"keenmagpie/core/activity"
	"keenmagpie/store"
)

// ThemeEntry is a theme that a board can have, with what its colours come to.
type ThemeEntry struct {
	ID    string          `json:"id,omitempty" doc:"Absent for one that ships"`
	Theme activity.Theme  `json:"theme"`
	Pairs []activity.Pair `json:"pairs" nullable:"false"`
}

type themesOutput struct {
	Body struct {
		Themes []ThemeEntry `json:"themes" nullable:"false"`
	}
}

type themeOutput struct{ Body ThemeEntry }

type themeInput struct {
	ID      string `query:"id" maxLength:"40" doc:"Of the theme that is changed; absent for a new one"`
	RawBody []byte
	Body    activity.Theme
}

func (s *Server) themeRoutes() {
	member(s, operation(http.MethodGet, "/api/themes", "themes", "The themes of the workspace, and those that ship"),
		func(ctx context.Context, m store.Member, _ *struct{}) (*themesOutput, error) {
			out := &themesOutput{}
			for _, t := range activity.Themes() {
				out.Body.Themes = append(out.Body.Themes, ThemeEntry{"", t, t.Pairs()})
			}
			list, err := s.store.In(m.WorkspaceID).Themes(ctx)
			if err != nil {
				return nil, err
			}
			for _, x := range list {
				t, faults := activity.ReadTheme([]byte(x.Body))
				if faults != nil {
					return nil, faults
				}
				out.Body.Themes = append(out.Body.Themes, ThemeEntry{x.ID, t, t.Pairs()})
			}
			return out, nil
		})
	keep := operation(http.MethodPut, "/api/themes", "keepTheme", "Keep a theme in the workspace")
	keep.SkipValidateBody = true
	designer(s, keep, func(ctx context.Context, m store.Member, in *themeInput) (*themeOutput, error) {
		t, faults := activity.ReadTheme(in.RawBody)
		if faults != nil {
			return nil, badDocument(faults)
		}
		body, err := json.Marshal(t)
		if err != nil {
			return nil, err
		}
		kept, err := s.store.In(m.WorkspaceID).KeepTheme(ctx, store.Theme{ID: in.ID, Body: string(body)})
		return &themeOutput{ThemeEntry{kept.ID, t, t.Pairs()}}, err
	})
	check := operation(http.MethodPost, "/api/themes/check", "checkTheme", "What the colours of a theme come to, without keeping it")
	check.SkipValidateBody = true
	designer(s, check, func(_ context.Context, _ store.Member, in *themeInput) (*themeOutput, error) {
		t, faults := activity.ReadTheme(in.RawBody)
		if faults != nil {
			return nil, badDocument(faults)
		}
		return &themeOutput{ThemeEntry{"", t, t.Pairs()}}, nil
	})
	drop := operation(http.MethodDelete, "/api/themes/{id}", "dropTheme", "Forget a theme; boards that have it keep it")
	drop.DefaultStatus = http.StatusNoContent
	designer(s, drop, func(ctx context.Context, m store.Member, in *idInput) (*struct{}, error) {
		return nil, s.store.In(m.WorkspaceID).DropTheme(ctx, in.ID)
	})
}
