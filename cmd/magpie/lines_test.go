package main

import (
	"bytes"
	"encoding/json"
	"os"
	"path/filepath"
	"reflect"
	"strings"
	"testing"

	"keenmagpie/core/activity"
	"keenmagpie/core/proof"
)

// Each worked case: what goes in, and what core.md says comes out. An answer may
// hold further fields.
func TestWorkedCases(t *testing.T) {
	dirs, err := filepath.Glob("testdata/cases/*")
	if err != nil || len(dirs) == 0 {
		t.Fatal("no cases found", err)
	}
	for _, dir := range dirs {
		t.Run(filepath.Base(dir), func(t *testing.T) {
			game, err := open(filepath.Join(dir, "activity.json"), os.Stderr)
			if err != nil {
				t.Fatal(err)
			}
			ran := 0
			if in, err := os.Open(filepath.Join(dir, "arrangements.jsonl")); err == nil {
				var out bytes.Buffer
				if err := judge(game, in, &out); err != nil {
					t.Fatal(err)
				}
				compareLines(t, filepath.Join(dir, "judge.jsonl"), out.String())
				ran++
			}
			if in, err := os.Open(filepath.Join(dir, "moves.jsonl")); err == nil {
				var out bytes.Buffer
				if err := replay(game, 0, in, &out); err != nil {
					t.Fatal(err)
				}
				compareLines(t, filepath.Join(dir, "replay.jsonl"), out.String())
				ran++
			}
			if _, err := os.Stat(filepath.Join(dir, "prove.json")); err == nil {
				report, err := json.Marshal(prove(t, game.Doc))
				if err != nil {
					t.Fatal(err)
				}
				compareLines(t, filepath.Join(dir, "prove.json"), string(report))
				ran++
			}
			if ran == 0 {
				t.Fatal("the case has no arrangements, no moves and no proof")
			}
		})
	}
}

func compareLines(t *testing.T, wantFile, got string) {
	t.Helper()
	want, err := os.ReadFile(wantFile)
	if err != nil {
		t.Fatal(err)
	}
	wants, gots := strings.Split(strings.TrimSpace(string(want)), "\n"), strings.Split(strings.TrimSpace(got), "\n")
	if len(wants) != len(gots) {
		t.Fatalf("%d lines came out, want %d:\n%s", len(gots), len(wants), got)
	}
	for i := range wants {
		var w, g map[string]any
		if json.Unmarshal([]byte(wants[i]), &w) != nil || json.Unmarshal([]byte(gots[i]), &g) != nil {
			t.Fatalf("line %d is not JSON: %s", i+1, gots[i])
		}
		if !within(w, g) {
			t.Errorf("line %d:\n got %s\nwant %s", i+1, gots[i], wants[i])
		}
	}
}

// within reports whether got has all that want has; further fields may be there.
func within(want, got any) bool {
	w, ok := want.(map[string]any)
	if !ok {
		return reflect.DeepEqual(want, got)
	}
	g, ok := got.(map[string]any)
	if !ok {
		return false
	}
	for k, v := range w {
		if x, there := g[k]; !there || !within(v, x) {
			return false
		}
	}
	return true
}

func TestBadLinesAreAnsweredAndTheRunGoesOn(t *testing.T) {
	game, err := open("testdata/cases/13-cells/activity.json", os.Stderr)
	if err != nil {
		t.Fatal(err)
	}
	target := game.Doc.Targets[0].ID
	piece := game.Doc.Items[0].ID
	in := strings.Join([]string{
		`{"targets":{"nowhere":[]}}`,
		`{"targets":{"` + target + `":["nobody"]}}`,
		`{"targets":{"` + target + `":["` + piece + `","` + piece + `"]}}`,
		`{"targets":{}, "colour": 1}`,
		`not json`,
		`{"targets":{}}`,
	}, "\n")
	var out bytes.Buffer
	if err := judge(game, strings.NewReader(in), &out); err != nil {
		t.Fatal(err)
	}
	lines := strings.Split(strings.TrimSpace(out.String()), "\n")
	for i, code := range []string{"unknown-target", "unknown-piece", "piece-twice", "bad-line", "bad-line"} {
		if !strings.Contains(lines[i], `"code":"`+code+`"`) {
			t.Errorf("line %d: %s, want %s", i+1, lines[i], code)
		}
	}
	if !strings.Contains(lines[5], `"outcome":"wrong"`) {
		t.Errorf("the run did not go on: %s", lines[5])
	}
}

func TestADocumentThatCannotBePlayedIsRefusedWithEveryReason(t *testing.T) {
	write := func(body string) string {
		path := filepath.Join(t.TempDir(), "activity.json")
		if err := os.WriteFile(path, []byte(body), 0o600); err != nil {
			t.Fatal(err)
		}
		return path
	}
	head := `{"format":"keen-magpie/activity","version":1,"id":"a","key":{"solutions":[{"right":{"box":{"all":true}}}]},`
	var out bytes.Buffer
	_, err := open(write(head+`"items":[{"id":"x","weight":2000},{"id":"x"}],"targets":[{"id":"box","frame":{"x":0,"y":0,"w":10,"h":10},"colour":3}]}`), &out)
	if err == nil || !strings.Contains(out.String(), "/items/0/weight") || !strings.Contains(out.String(), "/targets/0/colour") {
		t.Errorf("not every fault is named: %s", out.String())
	}
	// Three pieces must all be placed, and the only place holds two.
	out.Reset()
	_, err = open(write(head+`"items":[{"id":"x","copies":3}],"targets":[{"id":"box","holds":2,"frame":{"x":0,"y":0,"w":10,"h":10}}]}`), &out)
	if err == nil || !strings.Contains(out.String(), `"code":"key-impossible"`) || !strings.Contains(out.String(), `"targets":["box"]`) {
		t.Errorf("an impossible key should be refused with those at fault: %s", out.String())
	}
}

// prove proves a document for a test.
func prove(t *testing.T, doc *activity.Doc) *proof.Report {
	t.Helper()
	report, err := proof.Prove(t.Context(), doc)
	if err != nil {
		t.Fatal(err)
	}
	return report
}
