package hosting

import (
	"context"
	"errors"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/richtext"
	"keenmagpie/core/visit"
	"keenmagpie/store"
)

// Opening is what a release link shows: the title, and what this browser has begun.
type Opening struct {
	Title        string            `json:"title"`
	Instructions []richtext.Node   `json:"instructions" nullable:"false"`
	Lang         string            `json:"lang"`
	Words        map[string]string `json:"words,omitempty"`
	// ByCode is whether a code is asked for, not a name.
	ByCode bool `json:"byCode"`
	// Shut says why nobody can begin now.
	Shut *Refusal `json:"-"`
	// TimeLimit is how long there is from the start, in milliseconds; 0 is as long as one
	// likes. What single learners have beyond is not known before they are.
	TimeLimit int `json:"timeLimit"`
	// Learner is who was here last, where coming back starts over.
	Learner string   `json:"learner,omitempty"`
	Sitting *Seated  `json:"sitting,omitempty"`
	Series  *Outline `json:"series,omitempty"`
}

// Outline and Seated are those of a visit.
type (
	Outline = visit.Outline
	Seated  = visit.Seated
)

// Opening says what a link leads to; token is what the browser has of a sitting begun here,
// or empty.
func (s *Service) Opening(ctx context.Context, link, token string) (*Opening, error) {
	h, r, err := s.current(ctx, link)
	if err != nil {
		return nil, err
	}
	out := &Opening{ByCode: r.RosterID != nil}
	out.Shut = shut(r, s.clock())
	if h.Series != nil {
		return out, s.openSeries(ctx, h, token, out)
	}
	st := h.Stages[0]
	doc := st.Game.Doc
	out.Title, out.Instructions, out.Lang, out.Words = doc.Title, play.Rich(doc.Instructions, st.Names), doc.Lang, doc.Words
	out.TimeLimit = doc.Play.TimeLimit
	if token == "" {
		return out, nil
	}
	x, err := s.sitting(ctx, h, Seating{Link: link, Token: token})
	if errors.Is(err, store.ErrNotFound) {
		return out, nil
	}
	if err != nil {
		return nil, err
	}
	if doc.Play.Reenter == activity.ReenterRestart && x.state.N > 0 {
		out.Learner = x.Learner
		return out, nil
	}
	seated := x.seated(s.clock())
	out.Sitting = &seated
	return out, nil
}

// openSeries says what a series' link leads to.
func (s *Service) openSeries(ctx context.Context, h *Hosted, token string, out *Opening) error {
	doc := h.Series.Doc
	out.Title, out.Lang, out.Words, out.Instructions = doc.Title, doc.Lang, h.Series.words, []richtext.Node{}
	out.Series = &Outline{Steps: len(doc.Steps), TimeLimit: doc.TimeLimit}
	if token == "" {
		return nil
	}
	_, err := s.store.RunByToken(ctx, h.Release.ID, token)
	out.Series.UnderWay = err == nil
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return err
}
