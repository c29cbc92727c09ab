// Command playengine is as much of the core as a player in a package needs, built for the
// browser: it keeps one visit, and answers one question at a time, JSON in and JSON out:
//
//	magpieVisit("open", '{"activities":{…}}')
//	magpieVisit("move", '{"step":0,"move":{…},"now":…}')
//
// It also answers what a player asks of a board: what is under a piece, and how a lane makes
// room for it.
package main

import (
	"encoding/json"
	"errors"
	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/series"
	"keenmagpie/core/visit"
)

// engine keeps the visit.
type engine struct{ visit *visit.Visit }

// query is a question with all that any of them needs.
type query struct {
	Series     json.RawMessage            `json:"series"`
	Activities map[string]json.RawMessage `json:"activities"`
	Words      map[string]string          `json:"words"`
	Seed       uint64                     `json:"seed"`
	Now        int64                      `json:"now"`
	Memory     string                     `json:"memory"`
	Most       int                        `json:"most"`
	Step       int                        `json:"step"`
	Move       play.Move                  `json:"move"`
	Piece      string                     `json:"piece"`
	Going      series.Going               `json:"going"`
}

var questions = map[string]func(*engine, *query) (any, error){
	"open":    (*engine).open,
	"opening": func(e *engine, q *query) (any, error) { return e.visit.Opening(q.Now), nil },
	"recall":  func(e *engine, q *query) (any, error) { return true, e.visit.Recall(q.Memory) },
	"begin": func(e *engine, q *query) (any, error) {
		e.visit.Begin(q.Seed, q.Now)
		return true, nil
	},
	"seated": func(e *engine, q *query) (any, error) { return e.visit.Seated(q.Step, q.Now), nil },
	"move":   func(e *engine, q *query) (any, error) { return e.visit.Move(q.Step, q.Move) },
	"beckon": func(e *engine, q *query) (any, error) { return e.visit.Beckons(q.Step, q.Piece), nil },
	"go":     func(e *engine, q *query) (any, error) { return e.visit.Go(q.Going, q.Now) },
	"now":    func(e *engine, q *query) (any, error) { return e.visit.Now(), nil },
	"report": func(e *engine, q *query) (any, error) { return e.visit.Report(), nil },
	"remember": func(e *engine, q *query) (any, error) {
		memory, ok := e.visit.Remember(q.Most)
		return map[string]any{"memory": memory, "fits": ok}, nil
	},
}

// boards are the questions that need no visit.
var boards = map[string]func([]byte) (any, error){"hit": placing.AskHit, "opens": placing.AskOpens}

func (e *engine) open(q *query) (any, error) {
	holds := visit.Holds{Activities: map[string]*activity.Doc{}, Words: q.Words}
	var faults activity.Faults
	if len(q.Series) > 0 && string(q.Series) != "null" {
		if holds.Series, faults = activity.ReadSeries(q.Series); faults != nil {
			return nil, faults
		}
	}
	for id, body := range q.Activities {
		if holds.Activities[id], faults = activity.Read(body); faults != nil {
			return nil, fmt.Errorf("activity %s: %w", id, faults)
		}
	}
	var err error
	e.visit, err = visit.New(holds)
	return true, err
}

func (e *engine) answer(question, in string) string {
	var out any
	var err error
	if f, ok := boards[question]; ok {
		out, err = f([]byte(in))
	} else if f, ok := questions[question]; ok {
		var q query
		if err = json.Unmarshal([]byte(in), &q); err == nil && question != "open" && e.visit == nil {
			err = errors.New("nothing has been opened")
		}
		if err == nil {
			out, err = f(e, &q)
		}
	} else {
		err = fmt.Errorf("the engine does not know %q", question)
	}
	if err == nil {
		var body []byte
		if body, err = json.Marshal(map[string]any{"answer": out}); err == nil {
			return string(body)
		}
	}
	code := "failed"
	switch {
	case errors.Is(err, play.ErrDamaged):
		code = "damaged"
	case errors.Is(err, play.ErrOtherRelease):
		code = "other-release"
	case errors.Is(err, visit.ErrNotYet):
		code = "not-yet"
	}
	body, _ := json.Marshal(map[string]any{"error": map[string]string{"code": code, "message": err.Error()}})
	return string(body)
}
