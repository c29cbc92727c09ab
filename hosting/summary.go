package hosting

import (
	"encoding/json"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/store"
)

// Steps are what the summary of a series has in place of a board: by step the id of its
// activity, or "" for a page.
type Steps []string

// Summary is what lists tell of an activity.
func Summary(doc *activity.Doc) (store.Summary, error) {
	face, err := json.Marshal(play.Drawn(doc))
	return store.Summary{Kind: string(doc.Kind), Face: string(face), Uses: doc.Media()}, err
}

// SeriesSummary is what lists tell of a series.
func SeriesSummary(doc *activity.Series) (store.Summary, error) {
	steps := make(Steps, len(doc.Steps))
	for i, step := range doc.Steps {
		steps[i] = step.Activity
	}
	face, err := json.Marshal(steps)
	return store.Summary{Kind: "series", Face: string(face), Uses: doc.Media()}, err
}

// SummaryOf is that of a draft as it is kept.
func SummaryOf(a store.Activity) (store.Summary, error) {
	if a.Form == store.ASeries {
		doc, faults := activity.ReadSeries([]byte(a.Document))
		if faults != nil {
			return store.Summary{}, faults
		}
		return SeriesSummary(doc)
	}
	doc, faults := activity.Read([]byte(a.Document))
	if faults != nil {
		return store.Summary{}, faults
	}
	return Summary(doc)
}
