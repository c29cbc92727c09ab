package main

import (
	"fmt"
	"math/big"
	"slices"
)

// The documents of twin_test.go: what the core does not help to read.

type twinDoc struct {
	Format  string       `json:"format"`
	Version int          `json:"version"`
	ID      string       `json:"id"`
	Items   []twinItem   `json:"items"`
	Targets []twinTarget `json:"targets"`
	Key     struct {
		Solutions []twinSolution `json:"solutions"`
	} `json:"key"`
	Replies []twinReply `json:"replies,omitempty"`
	Hints   []twinHint  `json:"hints,omitempty"`
	Play    twinPlay    `json:"play"`
	Marks   twinMarks   `json:"marks"`
	avails  []*big.Rat  // what each solution makes available, once it is known
}

type twinItem struct {
	ID        string `json:"id"`
	Copies    int    `json:"copies"`
	Weight    int    `json:"weight"`
	Penalty   int    `json:"penalty"`
	OffTarget string `json:"offTarget,omitempty"`
}

type twinSelector struct {
	All   bool     `json:"all,omitempty"`
	Items []string `json:"items,omitempty"`
}

func (s twinSelector) picks(item string) bool { return s.All || slices.Contains(s.Items, item) }

type twinTarget struct {
	ID       string       `json:"id"`
	Frame    twinFrame    `json:"frame"`
	Holds    int          `json:"holds,omitempty"`
	Lets     twinSelector `json:"lets"`
	WhenFull string       `json:"whenFull"`
	Ordered  bool         `json:"ordered"`
	Weight   int          `json:"weight"`
}

type twinFrame struct{ X, Y, W, H int }

func (f twinFrame) MarshalJSON() ([]byte, error) {
	return fmt.Appendf(nil, `{"x":%d,"y":%d,"w":%d,"h":%d}`, f.X, f.Y, f.W, f.H), nil
}

type twinSolution struct {
	Credit int                     `json:"credit"`
	Right  map[string]twinSelector `json:"right"`
	Needs  []twinNeed              `json:"needs,omitempty"`
	Orders []twinOrder             `json:"orders,omitempty"`
}

type twinNeed struct {
	Target string       `json:"target"`
	Of     twinSelector `json:"of"`
	Min    int          `json:"min"`
	Max    *int         `json:"max,omitempty"`
}

type twinOrder struct {
	Target string      `json:"target"`
	Tiers  [][]string  `json:"tiers,omitempty"`
	Before [][2]string `json:"before,omitempty"`
}

type twinHint struct {
	Text  string `json:"text,omitempty"`
	Place bool   `json:"place,omitempty"`
}

type twinPlay struct {
	Check       string `json:"check"`
	Attempts    int    `json:"attempts"`
	WrongPieces string `json:"wrongPieces"`
	RightPieces string `json:"rightPieces"`
	CheckWhen   string `json:"checkWhen"`
	OffTarget   string `json:"offTarget"`
	Refusals    string `json:"refusals"`
	Deal        string `json:"deal"`
	TimeLimit   int    `json:"timeLimit"`
	Undo        bool   `json:"undo"`
	Reset       bool   `json:"reset"`
	Restart     bool   `json:"restart"`
}

type twinMarks struct {
	By       string              `json:"by"`
	Points   float64             `json:"points"`
	Shares   []int               `json:"shares"`
	HintCost int                 `json:"hintCost"`
	Negative bool                `json:"negative"`
	Keep     string              `json:"keep"`
	Measure  string              `json:"measure"`
	Cells    map[string]twinCell `json:"cells,omitempty"`
}

type twinCell struct {
	Weight  *int `json:"weight,omitempty"`
	Penalty *int `json:"penalty,omitempty"`
}

type twinReply struct {
	ID     string         `json:"id"`
	Moment string         `json:"moment"`
	When   map[string]any `json:"when,omitempty"`
	Also   bool           `json:"also,omitempty"`
	Finish bool           `json:"finish,omitempty"`
}
