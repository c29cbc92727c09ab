package xapi

import (
	"encoding/json"
	"maps"
	"time"

	"github.com/google/uuid"

	"keenmagpie/core/visit"
)

// Launch is a launch by cmi5, as its statements have it: who, what and under which registration, as
// the platform says, and what it wants in the context of each.
type Launch struct {
	Actor        json.RawMessage `json:"actor"`
	Activity     string          `json:"activity"`
	Registration string          `json:"registration"`
	Template     map[string]any  `json:"template,omitempty"`
	Mastery      *float64        `json:"mastery,omitempty"`
	Mode         string          `json:"mode"` // Normal, Browse or Review
	Return       string          `json:"return,omitempty"`
}

// Categories and extensions of the profile.
const (
	categoryCmi5   = "https://w3id.org/xapi/cmi5/context/categories/cmi5"
	categoryMoveOn = "https://w3id.org/xapi/cmi5/context/categories/moveon"
	mastery        = "https://w3id.org/xapi/cmi5/context/extensions/masteryscore"
)

// about is what statements of a launch share with all others.
func (l Launch) about(lang string) About { return About{Activity: l.Activity, Lang: lang} }

// said makes a statement one of the launch. Defined are those that the profile names.
func (l Launch) said(s Statement, defined, moveOn bool) Statement {
	s.Actor = l.Actor
	context := maps.Clone(l.Template)
	if context == nil {
		context = map[string]any{}
	}
	context["registration"] = l.Registration
	if defined {
		s.Object = map[string]any{"objectType": "Activity", "id": l.Activity}
		activities, _ := context["contextActivities"].(map[string]any)
		activities = maps.Clone(activities)
		if activities == nil {
			activities = map[string]any{}
		}
		var category []any
		switch own := activities["category"].(type) {
		case []any:
			category = append(category, own...)
		case map[string]any:
			category = append(category, own)
		}
		category = append(category, map[string]any{"id": categoryCmi5})
		if moveOn {
			category = append(category, map[string]any{"id": categoryMoveOn})
		}
		activities["category"] = category
		context["contextActivities"] = activities
	}
	s.Context = context
	return s
}

// Initialized and Terminated are the beginning and the end of a session.
func (l Launch) Initialized(id uuid.UUID, at time.Time) Statement {
	return l.said(l.about("en").statement(id, "initialized", at, nil, nil), true, false)
}

// Terminated is said last.
func (l Launch) Terminated(id uuid.UUID, at time.Time, tookMS int64) Statement {
	return l.said(l.about("en").statement(id, "terminated", at, nil, map[string]any{"duration": Duration(tookMS)}), true, false)
}

// Answered is one answer at a check: allowed beside what the profile defines.
func (l Launch) Answered(id uuid.UUID, at time.Time, lang string, x visit.Interaction) Statement {
	return l.said(l.about(lang).Answered(id, at, x), false, false)
}

// Completed is said once under a registration.
func (l Launch) Completed(id uuid.UUID, at time.Time, tookMS int64) Statement {
	return l.said(l.about("en").Completed(id, at, tookMS), true, true)
}

// Judged is passed, once, or failed.
func (l Launch) Judged(id uuid.UUID, at time.Time, passed bool, x Score, tookMS int64) Statement {
	s := l.said(l.about("en").Judged(id, at, passed, x, tookMS), true, true)
	if context := s.Context.(map[string]any); l.Mastery != nil {
		extensions, _ := context["extensions"].(map[string]any)
		extensions = maps.Clone(extensions)
		if extensions == nil {
			extensions = map[string]any{}
		}
		extensions[mastery] = *l.Mastery
		context["extensions"] = extensions
	}
	return s
}
