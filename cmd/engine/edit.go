package main

import (
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/layout"
	"keenmagpie/core/message"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
)

// Acts of the workbench.

// edited is a draft after an act of the workbench: what was made, to be selected,
// and what went with what was removed, in words.
type edited struct {
	Document json.RawMessage    `json:"document"`
	Made     activity.Selection `json:"made"`
	Lost     []message.Sentence `json:"lost"`
	Told     []message.Sentence `json:"told,omitempty"`     // what else had to change, in sentences
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
	Faces    []edit.Face     `json:"faces"`
	Say      json.RawMessage `json:"say"` // the fields that change
	Slots    []edit.Slot     `json:"slots"`
	Reply    json.RawMessage `json:"reply"`
	Seed     uint64          `json:"seed"`
	Moves    []play.Move     `json:"moves"`
	Files    []edit.File     `json:"files"`
	Own      bool            `json:"own"`   // the names are somebody's content: samples go
	Cards    bool            `json:"cards"` // the files are of the items' cards
	keyRequest
}

// following are the acts after which a board that nobody has arranged is laid out again.
var following = []string{"addItems", "addTargets", "takeFiles", "remove", "prose", "itemsOfTargets"}

// replyFrom is a new reply of a moment with the fields that are given.
func replyFrom(fields []byte) (activity.Reply, error) {
	var of struct{ Moment activity.Moment }
	if err := json.Unmarshal(fields, &of); err != nil {
		return activity.Reply{}, err
	}
	r := activity.NewReply(strings.ToLower(string(of.Moment))+"-reply", of.Moment)
	return r, json.Unmarshal(fields, &r)
}

// act does an act of the workbench to a draft.
func act(in []byte) (any, error) {
	var q request
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	doc, faults := activity.Read(q.Document)
	if faults != nil {
		return nil, faults
	}
	out := edited{Lost: []message.Sentence{}}
	follows := slices.Contains(following, q.Act) && layout.Follows(doc)
	switch q.Act {
	case "fill":
		doc = doc.Clone()
		layout.Fill(doc)
	case "takeFiles":
		doc, out.Made = edit.TakeFiles(layout.DropSamples(doc, true, q.Parts.Items...), q.Files, q.Parts.Items, q.Cards)
	case "addItems":
		if q.Own {
			doc = layout.DropSamples(doc, true)
		}
		doc, out.Made = edit.AddItems(doc, q.Names)
	case "addTargets":
		doc, out.Made = edit.AddTargets(doc, q.Names)
	case "duplicate":
		doc, out.Made = edit.Duplicate(doc, q.Parts)
	case "remove":
		doc, out.Lost = edit.Remove(doc, q.Parts)
	case "recast":
		doc, out.Made, out.Lost = edit.Recast(doc, q.Parts, q.To)
	case "renameTag":
		if len(q.Names) != 2 {
			return nil, errors.New("renaming a tag needs the old name and the new one")
		}
		doc = edit.RenameTag(doc, q.Names[0], q.Names[1])
	case "layOut":
		doc = layout.Again(doc, q.Parts)
	case "draw":
		made, parts, err := layout.Draw(doc, q.Drawing)
		if err != nil {
			return nil, err
		}
		for _, id := range parts.Targets {
			out.Told = append(out.Told, edit.SpotFound(made, id)...)
		}
		doc, out.Made = made, parts
	case "arrows":
		made, parts, err := layout.Arrows(doc, q.Parts.Targets, q.To == "ring")
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
		if doc, out.Made, out.Lost, err = edit.Prose(doc, q.Parts.Scenery[0], q.Names[0]); err != nil {
			return nil, err
		}
		out.Made = activity.Selection{}
	case "equalGaps", "wordGaps":
		doc = doc.Clone()
		edit.EqualGaps(doc, q.Act == "equalGaps")
	case "itemsOfTargets":
		doc, out.Made = edit.ItemsOfTargets(doc, q.Parts.Targets)
	case "targetsUnder":
		if doc, out.Made, out.Lost = edit.TargetsUnder(doc, q.Parts); len(out.Made.Targets) == 0 {
			return nil, edit.Say("nothing-on-board", nil)
		}
	case "sayAt": // in each slot
		doc = doc.Clone()
		for _, slot := range q.Slots {
			what := activity.Say{}
			if r := edit.SaidAt(doc, slot); r != nil {
				what = r.Say
			}
			if err := json.Unmarshal(q.Say, &what); err != nil {
				return nil, err
			}
			edit.SayAt(doc, slot, what)
		}
	case "cards": // what the items' cards say, in their order
		if len(q.Names) != len(q.Parts.Items) {
			return nil, errors.New("each card needs its text")
		}
		doc = doc.Clone()
		for i, id := range q.Parts.Items {
			says := edit.SaidOf(doc, id, activity.ResultRight)
			says.Text = q.Names[i]
			edit.SetCard(doc, id, says)
		}
	case "addReply":
		r, err := replyFrom(q.Reply)
		if err != nil {
			return nil, err
		}
		doc = doc.Clone()
		out.Reply = edit.AddReply(doc, r)
	case "situate": // the reply with the id, by the condition given
		r, err := replyFrom(q.Reply)
		if err != nil {
			return nil, err
		}
		doc = doc.Clone()
		edit.Situate(doc, r.ID, r.When)
	case "preset":
		made, p, ok := edit.SetPreset(doc, q.To)
		if !ok {
			return nil, fmt.Errorf("there is no preset %q", q.To)
		}
		doc, out.Told = made, append(out.Told, edit.Say("preset", message.P{"preset": p.Name, "says": p.Says}))
	case "timeLimit":
		ms, err := strconv.Atoi(q.To)
		if err != nil {
			return nil, err
		}
		doc = edit.SetTimeLimit(doc, ms)
	case "startingReplies":
		doc = doc.Clone()
		edit.AddStartingReplies(doc)
	case "repliesForTargets":
		with, made, err := edit.RepliesForTargets(doc, q.Parts.Targets)
		if err != nil {
			return nil, err
		}
		if gone := len(doc.Replies) + len(made) - len(with.Replies); gone > 0 {
			out.Told = append(out.Told, edit.Say("default-replies-gone", nil))
		}
		doc = with
	case "keepExample":
		doc = proof.Keep(doc, q.To, q.Seed, q.Moves)
	case "keep":
		doc = edit.Keep(doc, q.Parts)
	case "insert":
		from, faults := activity.Read(q.From)
		if faults != nil {
			return nil, faults
		}
		doc, out.Made = edit.Insert(doc, from, q.DX, q.DY)
	case "swap":
		doc = edit.Swap(doc, q.Faces)
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
		out.Lost = []message.Sentence{}
	}
	if follows {
		layout.Fill(doc)
	}
	out.Document = layout.Tie(doc).Full()
	return out, nil
}
