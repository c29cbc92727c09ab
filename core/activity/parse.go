package activity

import (
	"bytes"
	"encoding/json"
	"fmt"
	"io"
	"strconv"
	"strings"
)

// object keeps the order of its fields, and so can tell that one came twice.
type object struct {
	names  []string
	values map[string]any
}

// parse reads JSON into objects, []any, string, json.Number, bool and nil.
func parse(body []byte) (any, *Fault) {
	dec := json.NewDecoder(bytes.NewReader(body))
	dec.UseNumber()
	v, fault := parseValue(dec, "", 0)
	if fault != nil {
		return nil, fault
	}
	if _, err := dec.Token(); err != io.EOF {
		return nil, &Fault{"", "there is more after the document's end"}
	}
	return v, nil
}

func parseValue(dec *json.Decoder, at string, depth int) (any, *Fault) {
	tok, err := dec.Token()
	if err != nil {
		return nil, &Fault{at, fmt.Sprintf("this is not JSON (near byte %d)", dec.InputOffset())}
	}
	delim, ok := tok.(json.Delim)
	if !ok {
		return tok, nil
	}
	if depth >= maxDepth {
		return nil, &Fault{at, "the document is nested too deeply"}
	}
	if delim == '[' {
		list := []any{}
		for dec.More() {
			v, fault := parseValue(dec, at+"/"+strconv.Itoa(len(list)), depth+1)
			if fault != nil {
				return nil, fault
			}
			list = append(list, v)
		}
		if _, err := dec.Token(); err != nil {
			return nil, &Fault{at, "the list has no end"}
		}
		return list, nil
	}
	obj := &object{values: map[string]any{}}
	for dec.More() {
		tok, err := dec.Token()
		if err != nil {
			return nil, &Fault{at, fmt.Sprintf("this is not JSON (near byte %d)", dec.InputOffset())}
		}
		name := tok.(string)
		v, fault := parseValue(dec, at+"/"+escape(name), depth+1)
		if fault != nil {
			return nil, fault
		}
		if _, twice := obj.values[name]; twice {
			return nil, &Fault{at + "/" + escape(name), "this field stands here twice"}
		}
		obj.names = append(obj.names, name)
		obj.values[name] = v
	}
	if _, err := dec.Token(); err != nil {
		return nil, &Fault{at, "the object has no end"}
	}
	return obj, nil
}

func escape(name string) string {
	return strings.ReplaceAll(strings.ReplaceAll(name, "~", "~0"), "/", "~1")
}
