package activity

import (
	"bytes"
	"encoding/json"
	"reflect"
	"slices"

	"keenmagpie/core/message"
)

// SeriesFormat opens every series.
const SeriesFormat = "keen-magpie/series"

// Series is activities and pages in running order, with one total. It names its
// activities by id; what a learner gets is frozen with them.
type Series struct {
	Format  string `json:"format" required:"true" one:"keen-magpie/series"`
	Version int    `json:"version" required:"true" range:"1..1"`
	ID      string `json:"id" required:"true" id:"true"`
	Title   string `json:"title" max:"200"`
	Lang    string `json:"lang" default:"\"en\"" max:"35" lang:"true"`
	Steps   []Leg  `json:"steps" max:"100"`
	// PassMark and Bands are of the total's percent.
	PassMark U      `json:"passMark" range:"-100..100"`
	Bands    []Band `json:"bands" max:"50"`
	// TimeLimit is for all of it, in milliseconds; 0 is none.
	TimeLimit int  `json:"timeLimit" range:"0..86400000"`
	Back      bool `json:"back" default:"true"`
	// Again is what the result offers to do once more.
	Again Again `json:"again" default:"\"none\"" one:"none|all|wrong"`
}

// Leg is one step of a series: a page, or an activity.
type Leg struct {
	Page     *Page  `json:"page"`
	Activity string `json:"activity" max:"64" optional:"true"`
	// Points, left out, are the activity's own.
	Points *U `json:"points" range:"0..1000000"`
	// Counts is false for practice: played and recorded, not summed.
	Counts bool   `json:"counts" default:"true"`
	MoveOn MoveOn `json:"moveOn" default:"\"done\"" one:"free|done|right"`
}

// Page only shows something.
type Page struct {
	ID         string `json:"id" required:"true" id:"true"`
	Title      string `json:"title" max:"200"`
	Text       string `json:"text" max:"20000"`
	Picture    string `json:"picture" max:"64" media:"true"`
	Alt        string `json:"alt" max:"1000"`
	Sound      string `json:"sound" max:"64" media:"true"`
	Transcript string `json:"transcript" max:"4000"`
}

// ReadSeries reads and checks a series, as [Read] does an activity.
func ReadSeries(body []byte) (*Series, Faults) {
	tree, faults := parse(body)
	if tree == nil && len(faults) > 0 {
		return nil, faults
	}
	r := reader{shapes: shapes{}, faults: faults}
	s := new(Series)
	r.value("", tree, reflect.ValueOf(s).Elem(), "")
	s.check(&r)
	if len(r.faults) > 0 {
		return nil, r.faults
	}
	return s, nil
}

// NewSeries is a series of activities, one step each. Its id is made from the title.
func NewSeries(title string, activities []string) *Series {
	s, _ := ReadSeries([]byte(`{"format":"keen-magpie/series","version":1,"id":"series"}`))
	s.Title, s.ID = title, FreshID(map[string]bool{}, title)
	for _, id := range activities {
		s.Steps = append(s.Steps, Leg{Activity: id, Counts: true, MoveOn: MoveOnDone})
	}
	return s
}

func (s *Series) check(r *reader) {
	sortBands("/bands", s.Bands, r)
	pages := map[string]bool{}
	for i, leg := range s.Steps {
		path := at("/steps", i)
		switch {
		case leg.Page == nil && leg.Activity == "":
			r.fault(path, "step-empty", nil)
		case leg.Page != nil && leg.Activity != "":
			r.fault(path, "step-twice", nil)
		case leg.Page == nil:
		case leg.Points != nil:
			r.fault(path+"/points", "page-points", nil)
		case leg.Page.ID != "" && pages[leg.Page.ID]:
			r.fault(path+"/page/id", "id-twice", message.P{"what": "page", "id": leg.Page.ID})
		default:
			pages[leg.Page.ID] = true
		}
	}
}

// Write writes the series in its one form, as [Doc.Write] does.
func (s *Series) Write() []byte {
	var b, out bytes.Buffer
	writer{&b, shapes{}, false}.object(reflect.ValueOf(s).Elem())
	if err := json.Indent(&out, b.Bytes(), "", " "); err != nil {
		panic("activity: wrote what is not JSON: " + err.Error())
	}
	out.WriteByte('\n')
	return out.Bytes()
}

// Full writes the series with every field, as [Doc.Full] does.
func (s *Series) Full() json.RawMessage { return full(reflect.ValueOf(s).Elem()) }

// Activities lists the activities that it goes through, each once, in its order.
func (s *Series) Activities() []string {
	var out []string
	for _, leg := range s.Steps {
		if leg.Activity != "" && !slices.Contains(out, leg.Activity) {
			out = append(out, leg.Activity)
		}
	}
	return out
}

// SeriesSchema is the JSON Schema of a series, as [Schema] is that of an activity.
func SeriesSchema(full bool) map[string]any {
	defs := map[string]any{}
	root := schemaMaker{defs, full}.of(reflect.TypeFor[Series](), "")
	return map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema",
		"title":   "Keen Magpie series",
		"$ref":    root["$ref"],
		"$defs":   defs,
	}
}
