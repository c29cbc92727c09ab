package hosting

import (
	"context"
	"encoding/json"
	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/formats/bundle"
	"keenmagpie/store"
)

// Holds is what a release holds, without its media, and the workspace's words of a series.
func Holds(r store.Release) (b bundle.Bundle, words map[string]string, err error) {
	if r.Form == store.AnActivity {
		doc, faults := activity.Read([]byte(r.Document))
		if faults != nil {
			return b, nil, faults
		}
		b.Doc = doc
	} else {
		var frozen bound
		if err := json.Unmarshal([]byte(r.Document), &frozen); err != nil {
			return b, nil, err
		}
		doc, faults := activity.ReadSeries(frozen.Series)
		if faults != nil {
			return b, nil, faults
		}
		b.Series, b.Activities, words = doc, map[string]*activity.Doc{}, frozen.Words
		for id, body := range frozen.Activities {
			if b.Activities[id], faults = activity.Read(body); faults != nil {
				return b, nil, fmt.Errorf("activity %s: %w", id, faults)
			}
		}
	}
	return b, words, nil
}

// Content is what a release holds, with its media; see [Holds]. Cost: that of reading all
// media.
func (s *Service) Content(ctx context.Context, r store.Release) (b bundle.Bundle, words map[string]string, err error) {
	if b, words, err = Holds(r); err != nil {
		return b, nil, err
	}
	for _, id := range b.Uses() {
		x, err := s.store.In(r.WorkspaceID).Medium(ctx, id)
		if err != nil {
			return b, nil, fmt.Errorf("medium %s of release %s: %w", id, r.ID, err)
		}
		b.Media = append(b.Media, bundle.Medium{ID: x.ID, Type: x.Type, Body: x.Body})
	}
	return b, words, nil
}
