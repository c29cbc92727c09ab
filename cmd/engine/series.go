package main

import (
	"encoding/json"
	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/core/richtext"
	"keenmagpie/core/series"
)

// walk is a rehearsal of a series: where it stands, and the sittings of its steps.
type walk struct {
	Series     json.RawMessage            `json:"series"`
	Activities map[string]json.RawMessage `json:"activities"`
	series.Place
	// Sittings are those of the steps, null where none was begun.
	Sittings []*struct {
		Seed  uint64      `json:"seed"`
		Moves []play.Move `json:"moves"`
	} `json:"sittings"`
	// Going, left out, only looks.
	Going *series.Going `json:"going"`
}

// walked is where it stands then. Fresh is whether the step begins with a new sitting.
type walked struct {
	Gone  *series.Went    `json:"gone"` // null where going there is not possible
	Now   series.Now      `json:"now"`
	Fresh bool            `json:"fresh"`
	Page  []richtext.Node `json:"page"`
	// Document is the activity that is played at the step.
	Document json.RawMessage `json:"document,omitempty"`
}

// goSeries goes on with a rehearsal of a series.
func goSeries(in []byte) (any, error) {
	var q walk
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	doc, faults := activity.ReadSeries(q.Series)
	if faults != nil {
		return nil, faults
	}
	docs := map[string]*activity.Doc{}
	for id, body := range q.Activities {
		if docs[id], faults = activity.Read(body); faults != nil {
			return nil, fmt.Errorf("activity %s: %w", id, faults)
		}
	}
	run := series.New(doc, docs)
	games, states, results := make([]*play.Game, run.End()), make([]*play.State, run.End()), make([]series.Result, run.End())
	for i, step := range doc.Steps {
		d := docs[step.Activity]
		if d == nil || i >= len(q.Sittings) || q.Sittings[i] == nil {
			continue
		}
		g, err := play.New(series.Activity(d, step))
		if err != nil {
			return nil, fmt.Errorf("%s: %w", d.Title, err)
		}
		games[i], states[i] = g, g.Open(q.Sittings[i].Seed)
		for _, m := range q.Sittings[i].Moves {
			states[i], _ = g.Move(states[i], m)
		}
		results[i] = series.ResultOf(g, states[i])
	}
	out := walked{Page: []richtext.Node{}}
	at := q.Place
	if q.Going != nil {
		gone, ok := run.Go(at, results, *q.Going, func(what string) bool {
			return at.At < run.End() && games[at.At] != nil && series.Offers(games[at.At], states[at.At], what)
		})
		if ok {
			out.Gone, at = &gone, gone.Place
			results = series.Without(results, gone.Redo)
		}
		page := at.At
		if gone.Aside >= 0 {
			page = gone.Aside
		}
		if page < run.End() && doc.Steps[page].Page != nil {
			out.Page = richtext.Read(doc.Steps[page].Page.Text)
		}
	}
	out.Now = run.Now(at, results)
	if i := at.At; i < run.End() && docs[doc.Steps[i].Activity] != nil {
		d := series.Activity(docs[doc.Steps[i].Activity], doc.Steps[i])
		moves := 0
		if states[i] != nil {
			moves = states[i].N
		}
		out.Document, out.Fresh = d.Full(), run.Fresh(at, results[i], moves, d.Play.Reenter)
	}
	return out, nil
}
