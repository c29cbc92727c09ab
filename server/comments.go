package server

import (
	"context"
	"net/http"
	"strings"
	"time"

	"keenmagpie/store"
)

// Comment is what a member said of a draft.
type Comment struct {
	ID     string     `json:"id"`
	Part   string     `json:"part,omitempty" doc:"The item or target that it is about; left out, the whole"`
	Text   string     `json:"text"`
	SaidBy string     `json:"saidBy"`
	SaidAt time.Time  `json:"saidAt"`
	Mine   bool       `json:"mine"`
	DoneBy string     `json:"doneBy,omitempty" doc:"Who has seen to it"`
	DoneAt *time.Time `json:"doneAt,omitempty"`
}

type commentsOutput struct {
	Body struct {
		Comments []Comment `json:"comments" nullable:"false"`
	}
}

type commentInput struct {
	ID   string `path:"id" maxLength:"40"`
	Body struct {
		Text string `json:"text" maxLength:"2000"`
		Part string `json:"part,omitempty" maxLength:"80"`
	}
}

type seeToInput struct {
	ID      string `path:"id" maxLength:"40"`
	Comment string `path:"comment" maxLength:"40"`
	Body    struct {
		Done bool `json:"done"`
	}
}

type takeBackInput struct {
	ID      string `path:"id" maxLength:"40"`
	Comment string `path:"comment" maxLength:"40"`
}

func (s *Server) commentRoutes() {
	const at = "/api/activities/{id}/comments"
	member(s, operation(http.MethodGet, at, "comments", "What members said of an activity"), func(ctx context.Context, m store.Member, in *idInput) (*commentsOutput, error) {
		if _, err := s.store.In(m.WorkspaceID).Activity(ctx, in.ID); err != nil {
			return nil, err
		}
		return s.comments(ctx, m, in.ID)
	})
	reviewer(s, created(operation(http.MethodPost, at, "comment", "Say something of an activity")), func(ctx context.Context, m store.Member, in *commentInput) (*commentsOutput, error) {
		text := strings.TrimSpace(in.Body.Text)
		if text == "" {
			return nil, &Problem{Status: 422, Code: "no-text", Detail: "Write what you want to say. Nothing was kept."}
		}
		if err := s.store.In(m.WorkspaceID).Comment(ctx, m.ID, in.ID, in.Body.Part, text); err != nil {
			return nil, err
		}
		return s.comments(ctx, m, in.ID)
	})
	reviewer(s, operation(http.MethodPut, at+"/{comment}", "seeToComment", "Note that a comment was seen to, or stands again"), func(ctx context.Context, m store.Member, in *seeToInput) (*commentsOutput, error) {
		if err := s.store.In(m.WorkspaceID).SeeTo(ctx, m.ID, in.ID, in.Comment, in.Body.Done); err != nil {
			return nil, err
		}
		return s.comments(ctx, m, in.ID)
	})
	reviewer(s, operation(http.MethodDelete, at+"/{comment}", "takeBackComment", "Delete a comment of one's own"), func(ctx context.Context, m store.Member, in *takeBackInput) (*commentsOutput, error) {
		if err := s.store.In(m.WorkspaceID).TakeBack(ctx, m.ID, in.ID, in.Comment); err != nil {
			return nil, err
		}
		return s.comments(ctx, m, in.ID)
	})
}

func (s *Server) comments(ctx context.Context, m store.Member, activity string) (*commentsOutput, error) {
	list, err := s.store.In(m.WorkspaceID).Comments(ctx, activity)
	out := &commentsOutput{}
	out.Body.Comments = make([]Comment, len(list))
	for i, c := range list {
		out.Body.Comments[i] = Comment{c.ID, c.Part, c.Text, c.SaidByName, c.SaidAt, c.SaidBy == m.ID, c.DoneByName, c.DoneAt}
	}
	return out, err
}
