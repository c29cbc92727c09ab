package server

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/core/richtext"
	"keenmagpie/core/series"
	"keenmagpie/store"
)

// bound is a released series, frozen whole: with its activities as they were, by id,
// and the words of its pages.
type bound struct {
	Series     json.RawMessage            `json:"series"`
	Activities map[string]json.RawMessage `json:"activities"`
	Words      map[string]string          `json:"words,omitempty"`
}

// boundSeries is a released series ready to be gone through.
type boundSeries struct {
	*series.Run
	words map[string]string
	pages *names // of the pages' pictures and sounds
}

// pageNames is under what the names of the pages' media stand beside those of the
// activities.
const pageNames = ""

// bind makes a series' release ready.
func (h *hosted) bind() error {
	var b bound
	var learners map[string]*names
	if err := errors.Join(json.Unmarshal([]byte(h.release.Document), &b), json.Unmarshal([]byte(h.release.Names), &learners)); err != nil {
		return err
	}
	doc, faults := activity.ReadSeries(b.Series)
	if faults != nil {
		return faults
	}
	docs := map[string]*activity.Doc{}
	for id, body := range b.Activities {
		if docs[id], faults = activity.Read(body); faults != nil {
			return fmt.Errorf("activity %s: %w", id, faults)
		}
	}
	for _, n := range learners {
		n.turn()
	}
	h.series = &boundSeries{series.New(doc, docs), b.Words, learners[pageNames]}
	h.stages = make([]stage, len(doc.Steps))
	for i, step := range doc.Steps {
		if step.Page != nil {
			continue
		}
		var err error
		if h.stages[i], err = newStage(series.Activity(docs[step.Activity], step), learners[step.Activity]); err != nil {
			return fmt.Errorf("activity %s: %w", step.Activity, err)
		}
	}
	return nil
}

// openSeries says what a series' link leads to.
func (s *Server) openSeries(ctx context.Context, h *hosted, token string, out *Opening) error {
	doc := h.series.Doc
	out.Title, out.Lang, out.Words, out.Instructions = doc.Title, doc.Lang, h.series.words, []richtext.Node{}
	out.Series = &Outline{Steps: len(doc.Steps), TimeLimit: doc.TimeLimit}
	if token == "" {
		return nil
	}
	_, err := s.store.RunByToken(ctx, h.release.ID, token)
	out.Series.UnderWay = err == nil
	if errors.Is(err, store.ErrNotFound) {
		return nil
	}
	return err
}
