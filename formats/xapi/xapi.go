// Package xapi writes what a learner did as statements of the Experience API 1.0.3, for record
// stores: what was tried, each answer at a check, how it ended.
package xapi

import (
	"encoding/json"
	"fmt"
	"slices"
	"strings"
	"time"

	"github.com/google/uuid"

	"keenmagpie/core/visit"
)

// About is what all statements of a sitting have in common.
type About struct {
	// Home and Name are who it is, as an account: no name that people go by.
	Home, Name string
	// Activity is the address that names the activity.
	Activity     string
	Title, Lang  string
	Registration uuid.UUID
}

// Statement is one; its id is always the same for the same thing.
type Statement struct {
	ID        uuid.UUID `json:"id"`
	Actor     any       `json:"actor"`
	Verb      any       `json:"verb"`
	Object    any       `json:"object"`
	Result    any       `json:"result,omitempty"`
	Context   any       `json:"context"`
	Timestamp string    `json:"timestamp"`
}

// JSON is the statement as it is sent.
func (s Statement) JSON() string {
	b, err := json.Marshal(s)
	if err != nil {
		panic(err) // maps and texts
	}
	return string(b)
}

const verbs = "http://adlnet.gov/expapi/verbs/"

// Named makes an id of what a statement is of: the sitting, the move, and which of its
// statements.
func Named(parts ...any) uuid.UUID {
	return uuid.NewSHA1(uuid.NameSpaceURL, []byte(fmt.Sprintln(parts...)))
}

// statement is one of a verb at a time, of the activity or, where it is given, another object.
func (a About) statement(id uuid.UUID, verb string, at time.Time, object, result any) Statement {
	if object == nil {
		object = map[string]any{"objectType": "Activity", "id": a.Activity, "definition": map[string]any{"type": "http://adlnet.gov/expapi/activities/assessment", "name": map[string]string{a.Lang: a.Title}}}
	}
	return Statement{
		ID:    id,
		Actor: map[string]any{"objectType": "Agent", "account": map[string]string{"homePage": a.Home, "name": a.Name}},
		Verb:  map[string]any{"id": verbs + verb, "display": map[string]string{"en": verb}}, Object: object, Result: result,
		Context:   map[string]any{"registration": a.Registration, "language": a.Lang, "platform": "Keen Magpie", "contextActivities": map[string]any{"parent": []any{map[string]any{"objectType": "Activity", "id": a.Activity}}}},
		Timestamp: at.UTC().Format("2006-01-02T15:04:05.000Z"),
	}
}

// Attempted says that it was begun.
func (a About) Attempted(id uuid.UUID, at time.Time) Statement {
	return a.statement(id, "attempted", at, nil, nil)
}

// Answered is one answer at a check.
func (a About) Answered(id uuid.UUID, at time.Time, x visit.Interaction) Statement {
	named := func(ids []string) []any {
		list := []any{}
		for _, id := range ids {
			list = append(list, map[string]any{"id": id, "description": map[string]string{a.Lang: x.Names[id]}})
		}
		return list
	}
	all := []string{}
	for id := range x.Names {
		all = append(all, id)
	}
	slices.Sort(all)
	lane := x.Kind == "sequencing"
	pattern := func(ids []string) string {
		if lane {
			return strings.Join(ids, "[,]")
		}
		pairs := []string{}
		for _, id := range ids {
			pairs = append(pairs, id+"[.]"+x.ID)
		}
		return strings.Join(pairs, "[,]")
	}
	definition := map[string]any{"type": "http://adlnet.gov/expapi/activities/cmi.interaction", "interactionType": x.Kind, "name": map[string]string{a.Lang: x.Title}}
	correct := []string{}
	for _, c := range x.Correct {
		if len(c) > 0 {
			correct = append(correct, pattern(c))
		}
	}
	if len(correct) > 0 {
		definition["correctResponsesPattern"] = correct
	}
	if lane {
		definition["choices"] = named(all)
	} else {
		definition["source"] = named(all)
		definition["target"] = []any{map[string]any{"id": x.ID, "description": map[string]string{a.Lang: x.Title}}}
	}
	object := map[string]any{"objectType": "Activity", "id": fmt.Sprintf("%s/step/%d/target/%s", a.Activity, x.Step+1, x.ID), "definition": definition}
	return a.statement(id, "answered", at, object, map[string]any{"response": pattern(x.Answer), "success": x.Result == "right", "duration": Duration(x.Latency)})
}

// Score is a result in points, with its share in percent.
type Score struct{ Raw, Most, Percent float64 }

// Completed says that it was ended.
func (a About) Completed(id uuid.UUID, at time.Time, tookMS int64) Statement {
	return a.statement(id, "completed", at, nil, map[string]any{"completion": true, "duration": Duration(tookMS)})
}

// Judged says whether the pass mark was reached: passed or failed.
func (a About) Judged(id uuid.UUID, at time.Time, passed bool, x Score, tookMS int64) Statement {
	verb := "failed"
	if passed {
		verb = "passed"
	}
	score := map[string]any{"scaled": max(-1, min(1, x.Percent/100)), "raw": x.Raw, "min": min(0, x.Raw), "max": max(x.Most, x.Raw)}
	return a.statement(id, verb, at, nil, map[string]any{"success": passed, "score": score, "duration": Duration(tookMS)})
}

// Duration is milliseconds as ISO 8601 has them, to the hundredth of a second.
func Duration(ms int64) string { return fmt.Sprintf("PT%d.%02dS", ms/1000, ms%1000/10) }
