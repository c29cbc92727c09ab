package main

import (
	"context"
	"encoding/json"
	"fmt"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/message"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/core/say"
	"keenmagpie/core/ways"
)

// keyRequest is what acts on the key need.
type keyRequest struct {
	Solution int             `json:"solution"`
	Tag      string          `json:"tag"`
	On       bool            `json:"on"`
	Rows     []edit.Row      `json:"rows"`
	Asking   edit.Asking     `json:"asking"`
	Needs    []activity.Need `json:"needs"`
	Order    *activity.Order `json:"order"`
	Shown    edit.Shown      `json:"shown"`
	Spots    []edit.Spot     `json:"spots"`
	Pairs    []edit.TagFor   `json:"pairs"`
}

// rightCells is how many cells are right, of all solutions.
func rightCells(doc *activity.Doc) int {
	n := 0
	for i := range doc.Key.Solutions {
		for t := range doc.Targets {
			for j := range doc.Items {
				if doc.Key.Solutions[i].RightCell(&doc.Targets[t], &doc.Items[j]) {
					n++
				}
			}
		}
	}
	return n
}

// editKey does an act on what is right; nil where the act is none of those.
func editKey(doc *activity.Doc, q *request, out *edited) (changed *activity.Doc, err error) {
	if q.Solution < -1 || q.Solution >= len(doc.Key.Solutions) || q.Solution == -1 && q.Act != "cells" {
		return nil, fmt.Errorf("there is no solution %d", q.Solution+1)
	}
	at := q.Solution
	switch q.Act {
	case "cells": // solution −1: who is let in
		changed, out.Lost = edit.SetCells(doc, at, q.Parts.Items, q.Parts.Targets, q.On)
		if n := rightCells(doc) - rightCells(changed); at < 0 && n > 0 {
			out.Told = append(out.Told, edit.Say("cells-count-no-more", message.P{"n": n}))
		}
	case "tagRight":
		for _, id := range q.Parts.Targets {
			var lost []message.Sentence
			if changed, lost = edit.TagRight(doc, at, q.Tag, id, q.On); changed != nil {
				doc, out.Lost = changed, append(out.Lost, lost...)
			}
		}
	case "tagsRight":
		for _, p := range q.Pairs {
			var lost []message.Sentence
			changed, lost = edit.TagRight(doc, at, p.Tag, p.Target, true)
			doc, out.Lost = changed, append(out.Lost, lost...)
		}
	case "rightIn":
		changed, out.Lost = edit.RightIn(doc, at, q.Rows)
	case "ask":
		changed, out.Lost, err = edit.Ask(doc, at, q.Parts.Items, q.Parts.Targets, q.Asking)
	case "needs":
		for _, id := range q.Parts.Targets {
			doc = edit.SetNeeds(doc, at, id, q.Needs)
		}
		changed = doc
	case "order":
		for _, id := range q.Parts.Targets {
			if doc, err = edit.SetOrder(doc, at, id, q.Order); err != nil {
				return nil, err
			}
		}
		changed = doc
	case "anotherSolution":
		changed = edit.AnotherSolution(doc, at, fmt.Sprintf("Way %d", len(doc.Key.Solutions)+1))
		at = len(doc.Key.Solutions)
	case "dropSolution":
		changed, out.Lost = edit.DropSolution(doc, at)
		at = max(0, at-1)
	case "countRight":
		counted, err := edit.CountRight(doc, at, q.Shown, q.To)
		if err != nil {
			return nil, err
		}
		changed, at, out.Lost, out.Told = counted.Doc, counted.Solution, counted.Lost, counted.Told
	case "targetsHere":
		changed, out.Made = edit.TargetsHere(doc, at, q.Spots, activity.Shows(q.To))
	default:
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	out.Solution = &at
	if changed == nil {
		return doc, nil
	}
	if _, faults := activity.Read(changed.Write()); faults != nil {
		return nil, faults
	}
	return changed, nil
}

// looks are the questions that only look at a document.
var looks = map[string]func(*engine, []byte) (any, error){
	"prove":    prove,
	"ways":     everyWay,
	"tell":     tell,
	"exchange": exchange,
	"examples": examples,
	"facts":    facts,
	"selfPlay": selfPlay,
	"beckons":  beckons,
}

// about is which solution a question is about, and which parts.
type about struct {
	Solution     int `json:"solution"`
	Item, Target string
	Shown        edit.Shown `json:"shown"`
}

func aboutOf(doc *activity.Doc, in []byte) (q about, err error) {
	if err := json.Unmarshal(in, &q); err != nil {
		return q, err
	}
	if q.Solution < 0 || q.Solution >= len(doc.Key.Solutions) {
		return q, fmt.Errorf("there is no solution %d", q.Solution+1)
	}
	return q, nil
}

// exchange says by which exchange a demonstration and a solution differ, or null,
// and whether it can be meant in several ways.
func exchange(e *engine, in []byte) (any, error) {
	doc := e.doc
	q, err := aboutOf(doc, in)
	if err != nil {
		return nil, err
	}
	return map[string]any{"exchange": edit.FindExchange(doc, q.Solution, q.Shown), "against": edit.Against(doc, q.Solution, q.Shown)}, nil
}

// tell says in words what a cell, an item or a target is.
func tell(e *engine, in []byte) (any, error) {
	doc := e.doc
	q, err := aboutOf(doc, in)
	switch {
	case err != nil:
		return nil, err
	case q.Item != "" && q.Target != "":
		return say.Cell(doc, q.Solution, q.Item, q.Target), nil
	case q.Item != "":
		return say.Item(doc, q.Solution, q.Item), nil
	}
	return say.Target(doc, q.Solution, q.Target), nil
}

// prove answers one part of the proof: solve (with the findings of the document),
// count, chance, replies (with their findings), or class.
func prove(e *engine, in []byte) (any, error) {
	doc := e.doc
	var q struct {
		What     string         `json:"what"`
		Learners proof.Learners `json:"learners"`
		Reply    string         `json:"reply"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	p := e.proof
	switch q.What {
	case "solve":
		return struct {
			proof.Solution
			Findings []proof.Finding `json:"findings"`
		}{p.Solve(), p.Findings()}, nil
	case "count":
		count, exact := p.Count()
		return map[string]any{"count": count, "exact": exact}, nil
	case "chance":
		return p.Chance(), nil
	case "replies":
		cover := p.Cover()
		return struct {
			proof.Cover
			Findings []proof.Finding `json:"findings"`
		}{cover, p.CoverFindings()}, nil
	case "reply":
		moves, shadowed := p.Try(q.Reply)
		return map[string]any{"moves": moves, "shadowed": shadowed}, nil
	case "class":
		g, err := play.New(doc)
		if err != nil {
			return nil, err
		}
		return proof.Simulate(g, q.Learners, func(n int) bool {
			if e.progress != nil && n%100 == 0 {
				e.progress(n)
			}
			return true
		}), nil
	}
	return nil, fmt.Errorf("there is no proof of %q", q.What)
}

// mend gives the draft with a finding put right.
func mend(in []byte) (any, error) {
	var q struct {
		Document json.RawMessage `json:"document"`
		Code     string          `json:"code"`
		Parts    []string        `json:"parts"`
		Mend     string          `json:"mend"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	doc, faults := activity.Read(q.Document)
	if faults != nil {
		return nil, faults
	}
	mended, ok := proof.Mend(context.Background(), doc, q.Code, q.Parts, q.Mend)
	if !ok {
		return nil, fmt.Errorf("there is nothing left to fix here")
	}
	return mended.Full(), nil
}

// way is a valid arrangement, and where its pieces would stand.
type way struct {
	Solution int                 `json:"solution"`
	Targets  map[string][]string `json:"targets"`
	Stands   any                 `json:"stands"`
}

// everyWay lists valid arrangements from one number on; done is true where there are
// no more.
func everyWay(e *engine, in []byte) (any, error) {
	doc := e.doc
	var q struct {
		From int `json:"from"`
		Most int `json:"most"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	parts := activity.NewParts(doc)
	list, n := []way{}, 0
	done := ways.Each(context.Background(), parts, func(a *placing.Arrangement, solution int) bool {
		if n >= q.From {
			stands := map[string]any{}
			for piece, r := range a.Stands() {
				stands[parts.Pieces[piece].ID] = r
			}
			list = append(list, way{solution, a.Names(), stands})
		}
		n++
		return len(list) < q.Most
	})
	return map[string]any{"ways": list, "done": done && len(list) < q.Most}, nil
}
