package main

import (
	"encoding/json"

	"keenmagpie/core/activity"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/core/reply"
)

// Questions about sittings of a draft.

// examples are worked examples of what it scores.
func examples(e *engine, _ []byte) (any, error) {
	doc := e.doc
	game, err := play.New(doc)
	if err != nil {
		return nil, err
	}
	return proof.Examples(game), nil
}

// facts lists what could be said of a situation.
func facts(e *engine, in []byte) (any, error) {
	doc := e.doc
	var q struct {
		Targets       map[string][]string `json:"targets"`
		Moment        activity.Moment     `json:"moment"`
		Attempt       int                 `json:"attempt"`
		Piece, Target string              // of the last placement
		Result        placing.Effect      `json:"result"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	game, err := play.New(doc)
	if err != nil {
		return nil, err
	}
	a := placing.New(game.Parts)
	since := 0
	for i := range doc.Targets {
		for _, id := range q.Targets[doc.Targets[i].ID] {
			if p, ok := game.Parts.Piece(id); ok {
				since++
				a.Put(p, i, since)
			}
		}
	}
	var placed *reply.Placement
	piece, ok := game.Parts.Piece(q.Piece)
	target, there := game.Parts.Target(q.Target)
	if ok && there {
		placed = &reply.Placement{Piece: piece, Target: target, Result: q.Result}
	}
	return game.Facts(a, q.Moment, max(1, q.Attempt), placed), nil
}

// selfPlay gives the moves of a sitting that plays itself.
func selfPlay(e *engine, in []byte) (any, error) {
	doc := e.doc
	var q struct {
		How  string `json:"how"`
		Seed uint64 `json:"seed"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	game, err := play.New(doc)
	if err != nil {
		return nil, err
	}
	return proof.SelfPlay(game, q.How, q.Seed)
}

// beckons lists the targets that show themselves while a piece is in hand.
func beckons(e *engine, in []byte) (any, error) {
	doc := e.doc
	var q struct {
		Piece string `json:"piece"`
	}
	if err := json.Unmarshal(in, &q); err != nil {
		return nil, err
	}
	game, err := play.New(doc)
	if err != nil {
		return nil, err
	}
	return game.Beckons(q.Piece), nil
}
