// Command engine is the core built for the browser. It runs in a worker and
// answers one question at a time, JSON in and JSON out:
//
//	magpieEngine("rehearse", '{"document":…,"seed":1,"moves":[…]}', "")
//	magpieEngine("prove", '{"what":"count"}', '{"format":…}')
//
// What only looks at a document takes it by itself, as text: several such questions
// about the same one read it once.
// It keeps nothing that matters between questions, so that a worker can be ended at
// any time.
package main

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"

	"keenmagpie/core/activity"
	answers "keenmagpie/core/answer"
	"keenmagpie/core/edit"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/core/marks"
	"keenmagpie/core/message"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/core/richtext"
	"keenmagpie/core/say"
)

// failure is the answer to a question that has none.
type failure struct {
	Code    string           `json:"code"`
	Message string           `json:"message"`
	Faults  []activity.Fault `json:"faults,omitempty"`
	Line    message.Line     `json:"line,omitzero"` // the message by its code, where it has one
	Parts   []string         `json:"parts,omitempty"`
}

// engine keeps the document that was looked at last: the parts of a proof are asked
// for one after the other, and reading takes longer than most of them.
type engine struct {
	// progress is told how far a long question is, where the one who asks listens.
	progress func(done int)
	body     string
	doc      *activity.Doc
	proof    *proof.Proof
}

// read makes a document ready to be looked at.
func (e *engine) read(document string) error {
	if e.doc != nil && document == e.body {
		return nil
	}
	doc, faults := activity.Read([]byte(document))
	if faults != nil {
		return faults
	}
	e.body, e.doc, e.proof = document, doc, proof.New(context.Background(), doc)
	return nil
}

func (e *engine) answer(question, in, document string) string {
	var out any
	var err error
	if f, ok := questions[question]; ok {
		out, err = f([]byte(in))
	} else if f, ok := looks[question]; ok {
		if err = e.read(document); err == nil {
			out, err = f(e, []byte(in))
		}
	} else {
		return fail("unknown-question", fmt.Errorf("the engine does not know %q", question))
	}
	if err != nil {
		return fail("failed", err)
	}
	body, err := json.Marshal(map[string]any{"answer": out})
	if err != nil {
		return fail("failed", err)
	}
	return string(body)
}

func fail(code string, err error) string {
	f := failure{Code: code, Message: err.Error()}
	var faults activity.Faults
	var impossible *marks.Impossible
	var said message.Sentence
	switch {
	case errors.As(err, &said):
		f.Line = said.Line
	case errors.As(err, &faults):
		f.Code, f.Faults = "bad-document", faults
	case errors.As(err, &impossible):
		f.Code, f.Parts = "key-impossible", append(impossible.Items, impossible.Targets...)
	}
	body, _ := json.Marshal(map[string]any{"error": f})
	return string(body)
}

var questions = map[string]func([]byte) (any, error){
	"mend":     mend,
	"rehearse": rehearse,
	"figures":  figures,
	"hit":      placing.AskHit,
	"opens":    placing.AskOpens,
	"series":   goSeries,
	"edit":     act,
	"samples":  samples,
	"presets":  func([]byte) (any, error) { return edit.Presets(), nil },
	"spot": func(in []byte) (any, error) {
		var q struct {
			Pixels layout.Pixels `json:"pixels"`
			X, Y   int
			Frame  geometry.Rect `json:"frame"`
		}
		if err := json.Unmarshal(in, &q); err != nil {
			return nil, err
		}
		return layout.Spot(q.Pixels, q.X, q.Y, q.Frame)
	},
	"readRich": func(in []byte) (any, error) {
		var q struct{ Text string }
		err := json.Unmarshal(in, &q)
		return append([]richtext.Node{}, richtext.Read(q.Text)...), err
	},
	"writeRich": func(in []byte) (any, error) {
		var q struct{ Nodes []richtext.Node }
		err := json.Unmarshal(in, &q)
		return richtext.Write(q.Nodes), err
	},
}

// rehearsed is a sitting from its beginning: what the learner sees, and for each
// move what it came to and why.
type rehearsed struct {
	Scene    play.Scene    `json:"scene"`
	Standing play.Standing `json:"standing"`
	Steps    []step        `json:"steps"`
}

type step struct {
	Move   play.Move      `json:"move"`
	Result placing.Effect `json:"result"`
	Reason string         `json:"reason,omitempty"`
	Target string         `json:"target,omitempty"`
	Trail  []play.Step    `json:"trail"`
}

func rehearse(in []byte) (any, error) {
	var q struct {
		Document json.RawMessage `json:"document"`
		Seed     uint64          `json:"seed"`
		Moves    []play.Move     `json:"moves"`
		// Demonstrate plays the document made to show on it what is right.
		Demonstrate bool `json:"demonstrate"`
		// Review looks at a sitting that is over.
		Review bool `json:"review"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	doc, faults := activity.Read(q.Document)
	if faults != nil {
		return nil, faults
	}
	if q.Demonstrate {
		doc = edit.Demonstrable(doc)
	}
	g, err := play.New(doc)
	if err != nil {
		return nil, err
	}
	state, last := g.Open(q.Seed), play.Answer{}
	out := rehearsed{Scene: g.Scene(q.Seed, play.Plain{}), Steps: []step{}}
	for _, m := range q.Moves {
		var trail []play.Step
		state, last, trail = g.Explain(state, m)
		out.Steps = append(out.Steps, step{m, last.Result, last.Reason, last.Target, trail})
	}
	if q.Review && state.Phase == play.Done {
		last = play.Answer{}
	}
	out.Standing = g.Standing(state, last, play.Plain{})
	return out, nil
}

// known is what the ledger and the proof strip show of a draft.
type known struct {
	Follows bool           `json:"follows"` // nobody has arranged the board yet
	Samples int            `json:"samples"` // items that it began with and that nobody has changed
	Pieces  int            `json:"pieces"`
	Targets int            `json:"targets"`
	Nowhere []string       `json:"nowhere"` // items that are right nowhere
	Cells   activity.Cells `json:"cells"`
	// Must says of each item, by solution, whether it must be placed.
	Must [][]message.Sentence `json:"must"`
	// Settled is the draft with orders and needs brought in line with what they rest
	// on, where that alone was wrong with it; Lost what went with that.
	Settled json.RawMessage    `json:"settled,omitempty"`
	Lost    []message.Sentence `json:"lost,omitempty"`
	// TagsFor proposes tags for targets.
	TagsFor []edit.TagFor `json:"tagsFor"`
	// Rich are the texts of the board as they are drawn, by scenery.
	Rich         map[string][]richtext.Node `json:"rich"`
	Instructions []richtext.Node            `json:"instructions"`
	// Hints are their texts as they are drawn, in order.
	Hints [][]richtext.Node `json:"hints"`
	// Looks are how items and targets look at each point, by id, where they depart from the theme.
	Looks struct {
		Items   map[string]map[string]activity.Look `json:"items"`
		Targets map[string]map[string]activity.Look `json:"targets"`
	} `json:"looks"`
	// When says of each reply when it is given; Only what must hold at its moment.
	When []message.Sentence `json:"when"`
	Only []message.Sentence `json:"only"`
	// Called is what replies are called, by id: by their first words.
	Called map[string]message.Sentence `json:"called"`
	// Says are the texts of replies as they are drawn, by id.
	Says map[string][]richtext.Node `json:"says"`
	// Slots are the replies that have a place in the table, by number.
	Slots map[int]edit.Slot `json:"slots"`
}

func figures(in []byte) (any, error) {
	doc, faults := activity.Read(in)
	var settled json.RawMessage
	var lost []message.Sentence
	if faults != nil {
		mended, gone, ok := edit.Settle(in)
		if !ok {
			return nil, faults
		}
		doc, settled, lost = mended, mended.Full(), gone
	}
	parts := activity.NewParts(doc)
	out := known{Follows: layout.Follows(doc), Samples: len(layout.Samples(doc).Items), Settled: settled, Lost: lost, TagsFor: edit.TagsFor(doc), Pieces: len(parts.Pieces), Targets: len(doc.Targets), Nowhere: answers.Nowhere(parts), Cells: doc.Cells(),
		Slots: edit.Slots(doc), When: []message.Sentence{}, Only: []message.Sentence{}, Called: map[string]message.Sentence{}, Says: map[string][]richtext.Node{}, Rich: map[string][]richtext.Node{}, Instructions: richtext.Read(doc.Instructions), Hints: [][]richtext.Node{}}
	for i := range doc.Hints {
		out.Hints = append(out.Hints, richtext.Read(doc.Hints[i].Text))
	}
	for _, x := range doc.Scenery {
		if x.Text != "" {
			out.Rich[x.ID] = richtext.Read(x.Text)
		}
	}
	out.Looks.Items, out.Looks.Targets = map[string]map[string]activity.Look{}, map[string]map[string]activity.Look{}
	for i := range doc.Items {
		if seen := doc.Items[i].Looks.Seen(doc.Board.Theme); len(seen) > 0 {
			out.Looks.Items[doc.Items[i].ID] = seen
		}
	}
	for i := range doc.Targets {
		if seen := doc.Targets[i].Looks.Seen(); len(seen) > 0 {
			out.Looks.Targets[doc.Targets[i].ID] = seen
		}
	}
	for i := range doc.Replies {
		out.When = append(out.When, say.When(doc, &doc.Replies[i]))
		out.Only = append(out.Only, say.Only(doc, &doc.Replies[i]))
		out.Says[doc.Replies[i].ID] = richtext.Read(doc.Replies[i].Say.Text)
		out.Called[doc.Replies[i].ID] = say.Reply(doc, &doc.Replies[i])
	}
	for k := range doc.Key.Solutions {
		must := make([]message.Sentence, len(doc.Items))
		for i := range doc.Items {
			must[i] = say.Must(doc, k, &doc.Items[i])
		}
		out.Must = append(out.Must, must)
	}
	return out, nil
}

// samples says where pieces would stand in some targets.
func samples(in []byte) (any, error) {
	var q struct {
		Document json.RawMessage `json:"document"`
		Targets  []string        `json:"targets"`
		Most     int             `json:"most"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	doc, faults := activity.Read(q.Document)
	if faults != nil {
		return nil, faults
	}
	return placing.Samples(doc, q.Targets, q.Most), nil
}
