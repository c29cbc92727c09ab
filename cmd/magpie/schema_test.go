package main

import (
	"encoding/json"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/santhosh-tekuri/jsonschema/v6"

	"keenmagpie/core/activity"
)

func schema(t *testing.T, full bool) *jsonschema.Schema {
	t.Helper()
	body, err := json.Marshal(activity.Schema(full))
	if err != nil {
		t.Fatal(err)
	}
	doc, err := jsonschema.UnmarshalJSON(strings.NewReader(string(body)))
	if err != nil {
		t.Fatal(err)
	}
	c := jsonschema.NewCompiler()
	if err := c.AddResource("activity.json", doc); err != nil {
		t.Fatal(err)
	}
	s, err := c.Compile("activity.json")
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func valid(t *testing.T, s *jsonschema.Schema, body []byte) error {
	t.Helper()
	v, err := jsonschema.UnmarshalJSON(strings.NewReader(string(body)))
	if err != nil {
		t.Fatal(err)
	}
	return s.Validate(v)
}

// What the reader takes the schema takes, as it was and as it is written, short
// and in full; what has a fault of form the schema refuses, too.
func TestTheSchemaSaysWhatTheReaderDoes(t *testing.T) {
	short, full := schema(t, false), schema(t, true)
	paths, err := filepath.Glob("testdata/cases/*/activity.json")
	if err != nil || len(paths) < 20 {
		t.Fatal(err, paths)
	}
	bodies := [][]byte{[]byte(everything)}
	for _, path := range append(paths, "../../demo/activities/parts-drawers.json") {
		body, err := os.ReadFile(path)
		if err != nil {
			t.Fatal(err)
		}
		bodies = append(bodies, body)
	}
	for _, body := range bodies {
		doc, faults := activity.Read(body)
		if faults != nil {
			t.Fatal(faults)
		}
		if err := valid(t, short, body); err != nil {
			t.Errorf("%.200s: %v", body, err)
		}
		if err := valid(t, short, doc.Write()); err != nil {
			t.Errorf("written: %v", err)
		}
		if err := valid(t, full, doc.Full()); err != nil {
			t.Errorf("in full: %v", err)
		}
	}
	for _, change := range [][2]string{
		{`"title":"t"`, `"titel":"t"`}, {`"kind":"gaps"`, `"kind":"quiz"`}, {`"copies":2`, `"copies":2.5`}, {`"copies":2`, `"copies":0`},
		{`"overlap":60`, `"overlap":0`}, {`"outcome":"right"`, `"outcome":"right","solution":0`}, {`"is":"home"`, `"is":"part"`}, {`[9,0]`, `[9]`},
		{`"w":1.25`, `"w":"wide"`}, {`"id":"l"`, `"id":"L"`}, {`"solutions":[`, `"solution":[`}, {`"fill":"#00aaff"`, `"fill":"rgb(0,0,0)"`},
	} {
		body := strings.Replace(everything, change[0], change[1], 1)
		if body == everything {
			t.Fatal(change)
		}
		if _, faults := activity.Read([]byte(body)); faults == nil {
			t.Errorf("the reader takes %s", change[1])
		}
		if valid(t, short, []byte(body)) == nil {
			t.Errorf("the schema takes %s", change[1])
		}
	}
}

// everything is a document with something of all that there can be.
const everything = `{"format":"keen-magpie/activity","version":1,"id":"a","kind":"gaps","title":"t","instructions":"*Do* it.","lang":"de","board":{"width":800,"height":600,"background":{"color":"#ffffff","picture":"p"}},
	"scenery":[{"id":"s","type":"text","frame":{"x":0,"y":0,"w":9,"h":9},"text":"The [[l]]","style":{"fill":"#00aaff","edge":{"color":"ink","width":2,"dash":4},"text":{"size":20,"weight":700,"align":"centre","color":"ink"},"corner":0,"crop":"round","card":false,"shadow":true}},
		{"id":"a","type":"arrow","from":{"x":1,"y":1},"to":{"x":2,"y":-2},"group":"g","pinned":true,"hidden":true,"z":-1}],
	"items":[{"id":"x","name":"X","text":"x","picture":"p","sound":"s","transcript":"sss","playSound":"pick","alt":"an x","tags":["t"],"size":{"w":1.25,"h":2},"home":{"x":0,"y":0},"weight":0,"penalty":3,
		"looks":{"inHand":{"scale":110,"opacity":0,"motion":"turn","text":"!","picture":"q"}},"ghost":true,"offTarget":"stay"},{"id":"y","copies":2}],
	"targets":[{"id":"l","name":"L","label":{"text":"L","side":"left"},"shape":"polygon","points":[[0,0],[9,0],[4.5,4]],"holds":3,"lets":{"all":true,"except":["y"]},"whenFull":"trade","ordered":true,"weight":2,
		"arrange":{"as":"row","anchor":"topLeft","gap":0,"scale":50,"opacity":0,"step":3},"looks":{"beckoning":{}},"shows":"inHand"},{"id":"b","frame":{"x":0,"y":0,"w":9,"h":9}}],
	"order":["b","x"],
	"replies":[{"id":"r","moment":"placed","when":{"all":[{"any":[]},{"none":[{"outcome":"right"}]},{"piece":{"tags":["t"]}},{"onto":["l"]},{"result":"kept"},{"item":"x","is":"home"},{"item":"x","in":"l"},{"target":"b","is":"empty"},{"left":{"min":1}},{"percent":{"max":50.5}},{"solution":0}]},
		"also":true,"say":{"text":"{item}","picture":"p","alt":"","sound":"s","transcript":"t"},"tone":"near","spot":"frame","frame":{"x":0,"y":0,"w":1,"h":1},"until":"stays","dim":true,"reopen":true,"point":["right","b"],"showKey":true,"finish":true,"offer":["again","page:intro"]}],
	"hints":[{"text":"h"},{"place":true}],
	"play":{"check":"each","attempts":0,"hit":{"overlap":60},"reach":4,"timeLimit":60000,"extension":150,"deal":"one","beckon":"open"},
	"marks":{"by":"order","points":2.5,"shares":[100,0],"hintCost":5,"negative":true,"keep":"last","measure":"pairs","cells":{"x/l":{"weight":2}},"counts":false,"passMark":50,"bands":[{"from":-10,"name":"low"}]},
	"key":{"solutions":[{"name":"n","credit":50,"right":{"l":{"items":["x"]},"b":{"items":["y"]}},"needs":[{"target":"b","of":{"items":["y"]},"min":1,"max":1}],"orders":[{"target":"l","tiers":[["x"]],"before":[]}]}]}}`

func TestTheSchemaInDocsIsThis(t *testing.T) {
	kept, err := os.ReadFile("../../docs/activity.schema.json")
	if err != nil {
		t.Fatal(err)
	}
	var a, b any
	now, err := json.Marshal(activity.Schema(false))
	if err != nil || json.Unmarshal(kept, &a) != nil || json.Unmarshal(now, &b) != nil {
		t.Fatal(err)
	}
	x, _ := json.Marshal(a)
	y, _ := json.Marshal(b)
	if string(x) != string(y) {
		t.Error("docs/activity.schema.json is stale: run scripts/generate.sh")
	}
}
