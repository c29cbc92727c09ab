package hosting

import (
	"context"
	"encoding/json"
	"fmt"
	"maps"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/series"
)

// bound is a released series, frozen whole: with its activities as they were, by id,
// and the words of its pages.
type bound struct {
	Series     json.RawMessage            `json:"series"`
	Activities map[string]json.RawMessage `json:"activities"`
	Words      map[string]string          `json:"words,omitempty"`
}

// Course is a released series ready to be gone through.
type Course struct {
	*series.Run
	words map[string]string
	pages *Names // of the pages' pictures and sounds
}

// pageNames is under what the names of the pages' media stand beside those of the
// activities.
const pageNames = ""

// bind makes a series' release ready.
func (h *Hosted) bind() error {
	held, words, err := Holds(h.Release)
	if err != nil {
		return err
	}
	doc, docs := held.Series, held.Activities
	var learners map[string]*Names
	if err := json.Unmarshal([]byte(h.Release.Names), &learners); err != nil {
		return err
	}
	for _, n := range learners {
		n.invert()
	}
	h.Series = &Course{series.New(doc, docs), words, learners[pageNames]}
	h.Stages = make([]Stage, len(doc.Steps))
	for i, step := range doc.Steps {
		if step.Page != nil {
			continue
		}
		if h.Stages[i], err = newStage(series.Activity(docs[step.Activity], step), learners[step.Activity]); err != nil {
			return fmt.Errorf("activity %s: %w", step.Activity, err)
		}
	}
	return nil
}

// Frozen is what a release keeps of what is released: the document, and the names by which
// its learners know the parts.
type Frozen struct{ Document, Names string }

// Freeze makes an activity ready to be released. It stays as it is whatever the workspace
// changes later, its words included.
func (s *Service) Freeze(ctx context.Context, workspace string, doc *activity.Doc) (Frozen, error) {
	doc, err := s.worded(ctx, workspace, doc)
	if err != nil {
		return Frozen{}, err
	}
	return Frozen{string(doc.Write()), LearnersNames(doc)}, nil
}

// FreezeSeries makes a series ready to be released, with its activities by id.
func (s *Service) FreezeSeries(ctx context.Context, workspace string, doc *activity.Series, docs map[string]*activity.Doc) (out Frozen, err error) {
	frozen := bound{Series: json.RawMessage(doc.Write()), Activities: map[string]json.RawMessage{}}
	learners := map[string]*Names{pageNames: mediaNames(doc.Media(), random)}
	for id, its := range docs {
		if its, err = s.worded(ctx, workspace, its); err != nil {
			return out, err
		}
		frozen.Activities[id], learners[id] = its.Write(), newNames(its, random)
	}
	if frozen.Words, err = s.store.In(workspace).Words(ctx, Spoken(doc.Lang)); err != nil {
		return out, err
	}
	body, err := json.Marshal(frozen)
	if err != nil {
		return out, err
	}
	known, err := json.Marshal(learners)
	return Frozen{string(body), string(known)}, err
}

// Spoken is a language without its region: words are kept for that.
func Spoken(lang string) string {
	first, _, _ := strings.Cut(strings.ToLower(lang), "-")
	return first
}

// worded is a document with the workspace's words under its own.
func (s *Service) worded(ctx context.Context, workspace string, doc *activity.Doc) (*activity.Doc, error) {
	words, err := s.store.In(workspace).Words(ctx, Spoken(doc.Lang))
	if err != nil || len(words) == 0 {
		return doc, err
	}
	out := doc.Clone()
	maps.Copy(words, out.Words)
	out.Words = words
	return out, nil
}
