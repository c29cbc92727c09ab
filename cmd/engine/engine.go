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
	"encoding/json"
	"errors"
	"fmt"
	"slices"

	"keenmagpie/core/activity"
	answers "keenmagpie/core/answer"
	"keenmagpie/core/geometry"
	"keenmagpie/core/layout"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/core/richtext"
)

// failure is the answer to a question that has none.
type failure struct {
	Code    string           `json:"code"`
	Message string           `json:"message"`
	Faults  []activity.Fault `json:"faults,omitempty"`
	Parts   []string         `json:"parts,omitempty"`
}

func answer(question, in, document string) string {
	var out any
	var err error
	if f, ok := questions[question]; ok {
		out, err = f([]byte(in))
	} else if f, ok := looks[question]; ok {
		out, err = lookAt(f, []byte(in), document)
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
	switch {
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
	"hit":      hit,
	"edit":     edit,
	"samples":  samples,
}

// rehearsed is a sitting from its beginning: what the learner sees, and for each
// move what it came to and why.
type rehearsed struct {
	Scene    play.Scene    `json:"scene"`
	Standing play.Standing `json:"standing"`
	Steps    []step        `json:"steps"`
}

type step struct {
	Move   play.Move   `json:"move"`
	Result string      `json:"result"`
	Reason string      `json:"reason,omitempty"`
	Target string      `json:"target,omitempty"`
	Trail  []play.Step `json:"trail"`
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
		doc = doc.Demonstrable()
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
	Pieces  int            `json:"pieces"`
	Targets int            `json:"targets"`
	Nowhere []string       `json:"nowhere"` // items that are right nowhere
	Cells   activity.Cells `json:"cells"`
	// Must says of each item, by solution, whether it must be placed.
	Must [][]string `json:"must"`
	// Settled is the draft with orders and needs brought in line with what they rest
	// on, where that alone was wrong with it; Lost what went with that.
	Settled json.RawMessage `json:"settled,omitempty"`
	Lost    []string        `json:"lost,omitempty"`
	// TagsFor proposes tags for targets.
	TagsFor []activity.TagFor `json:"tagsFor"`
	// Rich are the texts of the board as they are drawn, by scenery.
	Rich         map[string][]richtext.Node `json:"rich"`
	Instructions []richtext.Node            `json:"instructions"`
	// When says of each reply when it is given; Only what must hold at its moment.
	When []string `json:"when"`
	Only []string `json:"only"`
	// Slots are the replies that have a place in the table, by number.
	Slots map[int]activity.Slot `json:"slots"`
}

func figures(in []byte) (any, error) {
	doc, faults := activity.Read(in)
	var settled json.RawMessage
	var lost []string
	if faults != nil {
		mended, gone, ok := activity.Settle(in)
		if !ok {
			return nil, faults
		}
		doc, settled, lost = mended, mended.Full(), gone
	}
	parts := activity.NewParts(doc)
	out := known{Settled: settled, Lost: lost, TagsFor: doc.TagsFor(), Pieces: len(parts.Pieces), Targets: len(doc.Targets), Nowhere: answers.Nowhere(parts), Cells: doc.Cells(),
		Slots: doc.Slots(), When: []string{}, Only: []string{}, Rich: map[string][]richtext.Node{}, Instructions: richtext.Read(doc.Instructions)}
	for _, x := range doc.Scenery {
		if x.Text != "" {
			out.Rich[x.ID] = richtext.Read(x.Text)
		}
	}
	for i := range doc.Replies {
		out.When = append(out.When, doc.TellWhen(&doc.Replies[i]))
		out.Only = append(out.Only, doc.TellOnly(&doc.Replies[i]))
	}
	for k := range doc.Key.Solutions {
		must := make([]string, len(doc.Items))
		for i := range doc.Items {
			must[i] = doc.Must(k, &doc.Items[i])
		}
		out.Must = append(out.Must, must)
	}
	return out, nil
}

// edited is a draft after an act of the workbench: what was made, to be selected,
// and what went with what was removed, in words.
type edited struct {
	Document json.RawMessage    `json:"document"`
	Made     activity.Selection `json:"made"`
	Lost     []string           `json:"lost"`
	Told     []string           `json:"told,omitempty"`     // what else had to change, in sentences
	Solution *int               `json:"solution,omitempty"` // the one made or changed
	Reply    string             `json:"reply,omitempty"`    // the one made
}

// request is an act with what it needs.
type request struct {
	Document json.RawMessage    `json:"document"`
	Act      string             `json:"act"`
	Parts    activity.Selection `json:"parts"`
	Names    []string           `json:"names"`
	To       string             `json:"to"`
	First    struct{ Kind, ID string }
	Drawing  layout.Drawing  `json:"drawing"`
	From     json.RawMessage `json:"from"` // the document whose parts are put in
	DX       activity.U      `json:"dx"`
	DY       activity.U      `json:"dy"`
	Faces    []activity.Face `json:"faces"`
	Say      json.RawMessage `json:"say"` // the fields that change
	Slots    []activity.Slot `json:"slots"`
	Reply    activity.Reply  `json:"reply"`
	Seed     uint64          `json:"seed"`
	Moves    []play.Move     `json:"moves"`
	keyRequest
}

// edit does an act of the workbench to a draft.
func edit(in []byte) (any, error) {
	var q request
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	doc, faults := activity.Read(q.Document)
	if faults != nil {
		return nil, faults
	}
	out := edited{Lost: []string{}}
	switch q.Act {
	case "addItems":
		doc, out.Made = doc.AddItems(q.Names)
	case "addTargets":
		doc, out.Made = doc.AddTargets(q.Names)
	case "duplicate":
		doc, out.Made = doc.Duplicate(q.Parts)
	case "remove":
		doc, out.Lost = doc.Remove(q.Parts)
	case "recast":
		doc, out.Made, out.Lost = doc.Recast(q.Parts, q.To)
	case "renameTag":
		if len(q.Names) != 2 {
			return nil, errors.New("renaming a tag needs the old name and the new one")
		}
		doc = doc.RenameTag(q.Names[0], q.Names[1])
	case "layOut":
		doc = layout.Again(doc, q.Parts)
	case "draw":
		made, parts, err := layout.Draw(doc, q.Drawing)
		if err != nil {
			return nil, err
		}
		doc, out.Made = made, parts
	case "reshape":
		made, err := layout.Reshape(doc, q.Parts.Targets, q.Drawing.Points)
		if err != nil {
			return nil, err
		}
		doc = made
	case "front", "back", "forward", "backward":
		doc = layout.Stack(doc, q.Parts, q.Act)
	case "prose":
		if len(q.Names) != 1 || len(q.Parts.Scenery) != 1 {
			return nil, errors.New("one text is written at a time")
		}
		var err error
		if doc, out.Made, out.Lost, err = doc.Prose(q.Parts.Scenery[0], q.Names[0]); err != nil {
			return nil, err
		}
		out.Made = activity.Selection{}
	case "equalGaps", "wordGaps":
		doc = doc.Clone()
		doc.EqualGaps(q.Act == "equalGaps")
	case "itemsOfTargets":
		doc, out.Made = doc.ItemsOfTargets(q.Parts.Targets)
	case "sayAt": // in each slot
		doc = doc.Clone()
		for _, slot := range q.Slots {
			what := activity.Say{}
			if r := doc.SaidAt(slot); r != nil {
				what = r.Say
			}
			if err := json.Unmarshal(q.Say, &what); err != nil {
				return nil, err
			}
			doc.SayAt(slot, what)
		}
	case "addReply":
		doc = doc.Clone()
		out.Reply = doc.AddReply(q.Reply)
	case "situate": // the reply with the id, by the condition given
		doc = doc.Clone()
		doc.Situate(q.Reply.ID, q.Reply.When)
	case "startingReplies":
		doc = doc.Clone()
		doc.AddStartingReplies()
	case "repliesForTargets":
		made, _, err := doc.RepliesForTargets(q.Parts.Targets)
		if err != nil {
			return nil, err
		}
		doc = made
	case "keepExample":
		doc = proof.Keep(doc, q.To, q.Seed, q.Moves)
	case "keep":
		doc = doc.Keep(q.Parts)
	case "insert":
		from, faults := activity.Read(q.From)
		if faults != nil {
			return nil, faults
		}
		doc, out.Made = doc.Insert(from, q.DX, q.DY)
	case "swap":
		doc = doc.Swap(q.Faces)
	default:
		if changed, err := editKey(doc, &q, &out); changed != nil || err != nil {
			if err != nil {
				return nil, err
			}
			doc = changed
			break
		}
		if !slices.Contains(layout.Acts, q.Act) {
			return nil, fmt.Errorf("there is no act %q", q.Act)
		}
		doc = layout.Tidy(doc, q.Parts, q.Act, q.To, q.First.Kind, q.First.ID)
	}
	if out.Lost == nil {
		out.Lost = []string{}
	}
	out.Document = doc.Full()
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

// hit finds the target under a piece, for showing it while the piece is in hand.
func hit(in []byte) (any, error) {
	var q struct {
		Targets []struct {
			Frame  geometry.Rect     `json:"frame"`
			Shape  string            `json:"shape"`
			Points []geometry.Vertex `json:"points"`
		} `json:"targets"`
		X, Y    geometry.U
		Size    geometry.Size `json:"size"`
		Hit     string        `json:"hit"`
		Overlap int           `json:"overlap"`
		Reach   geometry.U    `json:"reach"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	shapes := make([]geometry.Shape, len(q.Targets))
	for i, t := range q.Targets {
		shapes[i] = placing.Shape(&activity.Target{Frame: t.Frame, Shape: t.Shape, Points: t.Points})
	}
	return geometry.Hit(shapes, geometry.HitRule{Rule: q.Hit, Overlap: q.Overlap}, q.X, q.Y, q.Size.W, q.Size.H, q.Reach), nil
}
