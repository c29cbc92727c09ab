package server

import (
	"context"
	"fmt"
	"net/http"
	"strings"

	"keenmagpie/core/message"
	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Words are what learners read in place of a language's own words, by id.
type Words struct {
	Words map[string]string `json:"words"`
}

type wordsInput struct {
	Lang string `path:"lang" maxLength:"35" pattern:"^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$"`
}

type keepWordsInput struct {
	Lang string `path:"lang" maxLength:"35" pattern:"^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$"`
	Body Words
}

type wordsOutput struct{ Body Words }

const mostWords, longestWord = 300, 300

func (s *Server) wordRoutes() {
	member(s, operation(http.MethodGet, "/api/words/{lang}", "words", "The workspace's own words for learners, in a language"),
		func(ctx context.Context, m store.Member, in *wordsInput) (*wordsOutput, error) {
			words, err := s.store.In(m.WorkspaceID).Words(ctx, hosting.Spoken(in.Lang))
			return &wordsOutput{Words{words}}, err
		})
	designer(s, operation(http.MethodPut, "/api/words/{lang}", "keepWords", "Keep the workspace's own words for learners, in a language"),
		func(ctx context.Context, m store.Member, in *keepWordsInput) (*wordsOutput, error) {
			if len(in.Body.Words) > mostWords {
				return nil, said(422, "too-many-words", "A workspace has at most {most} words of its own. Nothing was changed.", message.P{"most": mostWords})
			}
			for id, text := range in.Body.Words {
				if len(id) > 40 || len(text) > longestWord {
					return nil, said(422, "word-too-long", "{given} is too long: {most} bytes are possible. Nothing was changed.", message.P{"given": fmt.Sprintf("%.40q", text), "most": longestWord})
				}
				if strings.TrimSpace(text) == "" {
					delete(in.Body.Words, id)
				}
			}
			err := s.store.In(m.WorkspaceID).KeepWords(ctx, hosting.Spoken(in.Lang), in.Body.Words)
			return &wordsOutput{in.Body}, err
		})
}
