package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"os/signal"
	"syscall"

	"keenmagpie/core/activity"
	"keenmagpie/core/marks"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/proof"
	"keenmagpie/core/stats"
)

// judgeCmd, replayCmd and proveCmd are the core on the command line: one JSON object a
// line in and out (core.md, section 12).
type judgeCmd struct {
	Activity string `arg:"" help:"The activity document." type:"existingfile"`
}

type replayCmd struct {
	Activity string `arg:"" help:"The activity document." type:"existingfile"`
	Seed     uint64 `help:"Seed of shuffling and dealing."`
}

type proveCmd struct {
	Activity string `arg:"" help:"The activity document." type:"existingfile"`
}

type statsCmd struct {
	Activity string `arg:"" help:"The activity document." type:"existingfile"`
}

// Run reads sittings and writes what they come to, as one object.
func (c *statsCmd) Run() error {
	game, err := open(c.Activity, os.Stdout)
	if err != nil {
		return err
	}
	return statistics(game, os.Stdin, os.Stdout)
}

// Run writes the proof on one line. A key that cannot be met is a finding here, not
// an error.
func (c *proveCmd) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	doc, err := read(c.Activity, os.Stdout)
	if err != nil {
		return err
	}
	report, err := proof.Prove(ctx, doc)
	if err != nil {
		return fmt.Errorf("stopped before the proof was ready: %w", err)
	}
	return writeLine(os.Stdout, report)
}

// Run reads arrangements and writes verdicts.
func (c *judgeCmd) Run() error {
	game, err := open(c.Activity, os.Stdout)
	if err != nil {
		return err
	}
	return judge(game, os.Stdin, os.Stdout)
}

// Run reads moves and writes what each came to.
func (c *replayCmd) Run() error {
	game, err := open(c.Activity, os.Stdout)
	if err != nil {
		return err
	}
	return replay(game, c.Seed, os.Stdin, os.Stdout)
}

// lineError is an error on a line: the run goes on.
type lineError struct {
	Code    string           `json:"code"`
	Message string           `json:"message"`
	Faults  []activity.Fault `json:"faults,omitempty"`
	Items   []string         `json:"items,omitempty"`
	Targets []string         `json:"targets,omitempty"`
}

func (e *lineError) Error() string { return e.Code + ": " + e.Message }

var errBadDocument = errors.New("the document cannot be played")

// read reads a document; what is wrong with it goes to out.
func read(path string, out io.Writer) (*activity.Doc, error) {
	body, err := os.ReadFile(path)
	if err != nil {
		return nil, err
	}
	doc, faults := activity.Read(body)
	if faults != nil {
		return nil, errors.Join(writeLine(out, map[string]any{"error": &lineError{
			Code: "bad-document", Message: fmt.Sprintf("the document has %d faults", len(faults)), Faults: faults,
		}}), errBadDocument)
	}
	return doc, nil
}

// open reads a document and makes it ready; what is wrong with it goes to out.
func open(path string, out io.Writer) (*play.Game, error) {
	doc, err := read(path, out)
	if err != nil {
		return nil, err
	}
	game, err := play.New(doc)
	var impossible *marks.Impossible
	if errors.As(err, &impossible) {
		return nil, errors.Join(writeLine(out, map[string]any{"error": &lineError{
			Code: "key-impossible", Message: impossible.Error(), Items: impossible.Items, Targets: impossible.Targets,
		}}), errBadDocument)
	}
	return game, err
}

func writeLine(out io.Writer, v any) error {
	enc := json.NewEncoder(out)
	enc.SetEscapeHTML(false)
	return enc.Encode(v)
}

// eachLine calls f with every line that is not blank, and writes what it answers.
func eachLine(in io.Reader, out io.Writer, f func(line []byte) (any, *lineError)) error {
	w := bufio.NewWriter(out)
	defer w.Flush()
	scan := bufio.NewScanner(in)
	scan.Buffer(nil, 8<<20)
	for scan.Scan() {
		line := bytes.TrimSpace(scan.Bytes())
		if len(line) == 0 {
			continue
		}
		answer, bad := f(line)
		if bad != nil {
			answer = map[string]any{"error": bad}
		}
		if answer == nil {
			continue // what it says comes at the end
		}
		if err := writeLine(w, answer); err != nil {
			return err
		}
	}
	return scan.Err()
}

func strict(line []byte, into any) *lineError {
	dec := json.NewDecoder(bytes.NewReader(line))
	dec.DisallowUnknownFields()
	if err := dec.Decode(into); err != nil {
		return &lineError{Code: "bad-line", Message: err.Error()}
	}
	if dec.More() {
		return &lineError{Code: "bad-line", Message: "there is more after the object"}
	}
	return nil
}

func judge(game *play.Game, in io.Reader, out io.Writer) error {
	var g marks.Judgement
	return eachLine(in, out, func(line []byte) (any, *lineError) {
		given := struct {
			Targets map[string][]string `json:"targets"`
			Attempt int                 `json:"attempt"`
			Hints   int                 `json:"hints"`
		}{Attempt: 1}
		if bad := strict(line, &given); bad != nil {
			return nil, bad
		}
		if given.Attempt < 1 {
			return nil, &lineError{Code: "bad-line", Message: "attempt should be 1 or more"}
		}
		if given.Hints < 0 {
			return nil, &lineError{Code: "bad-line", Message: "hints should be 0 or more"}
		}
		a, bad := arrangement(game.Parts, given.Targets)
		if bad != nil {
			return nil, bad
		}
		return game.Judge.Verdict(game.Judge.Judge(a, marks.Now{Attempt: given.Attempt, Hints: given.Hints}, &g)), nil
	})
}

// arrangement takes pieces as they are listed, whether or not the targets would
// have let them in. Their order in a target is their age there.
func arrangement(parts *activity.Parts, targets map[string][]string) (*placing.Arrangement, *lineError) {
	a := placing.New(parts)
	for id := range targets {
		if _, ok := parts.Target(id); !ok {
			return nil, &lineError{Code: "unknown-target", Message: "there is no target " + id}
		}
	}
	for t := range parts.Doc.Targets {
		for i, id := range targets[parts.Doc.Targets[t].ID] {
			piece, ok := parts.Piece(id)
			if !ok {
				return nil, &lineError{Code: "unknown-piece", Message: "there is no piece " + id}
			}
			if a.Where[piece] != activity.Home {
				return nil, &lineError{Code: "piece-twice", Message: id + " is in the arrangement twice"}
			}
			a.Put(piece, t, i+1)
		}
	}
	return a, nil
}

func statistics(game *play.Game, in io.Reader, out io.Writer) error {
	table := stats.New(game)
	err := eachLine(in, out, func(line []byte) (any, *lineError) {
		var s struct {
			Learner string      `json:"learner"`
			Seed    uint64      `json:"seed"`
			Moves   []play.Move `json:"moves"`
		}
		if bad := strict(line, &s); bad != nil {
			return nil, bad
		}
		table.Add(s.Seed, -1, s.Moves)
		return nil, nil
	})
	if err != nil {
		return err
	}
	return writeLine(out, table.Figures())
}

func replay(game *play.Game, seed uint64, in io.Reader, out io.Writer) error {
	state := game.Open(seed)
	if len(state.Opening) > 0 {
		if err := writeLine(out, game.Line(state, 0, play.Answer{Replies: state.Opening})); err != nil {
			return err
		}
	}
	err := eachLine(in, out, func(line []byte) (any, *lineError) {
		var m play.Move
		if bad := strict(line, &m); bad != nil {
			return nil, bad
		}
		var a play.Answer
		state, a = game.Move(state, m)
		return game.Line(state, m.N, a), nil
	})
	if err != nil {
		return err
	}
	return writeLine(out, map[string]any{"final": game.Final(state)})
}
