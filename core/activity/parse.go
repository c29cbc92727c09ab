package activity

import (
	"bytes"
	"encoding/json"
	"io"
	"strconv"
	"strings"
	"unicode/utf8"

	"keenmagpie/core/message"
)

// object keeps the order of its fields, and so can tell that one came twice.
type object struct {
	names  []string
	values map[string]any
}

// parser reads JSON, with the way to where it is.
type parser struct {
	dec    *json.Decoder
	path   []string
	faults Faults
}

// parse reads JSON into objects, []any, string, json.Number, bool and nil. What is
// not JSON ends it; fields that come twice are told, and the first one counts.
func parse(body []byte) (any, Faults) {
	if len(body) > MaxBytes {
		return nil, Faults{faultAt("", "long-document", message.P{"n": len(body), "most": MaxBytes})}
	}
	if !utf8.Valid(body) {
		return nil, Faults{faultAt("", "not-utf-8", nil)}
	}
	p := parser{dec: json.NewDecoder(bytes.NewReader(body))}
	p.dec.UseNumber()
	v, fault := p.value()
	if fault == nil {
		if _, err := p.dec.Token(); err != io.EOF {
			fault = p.fault("more-after-end", nil)
		}
	}
	if fault != nil {
		return nil, append(p.faults, *fault)
	}
	return v, p.faults
}

func (p *parser) fault(code string, params message.P) *Fault {
	var at strings.Builder
	for _, name := range p.path {
		at.WriteString("/" + escape(name))
	}
	fault := faultAt(at.String(), code, params)
	return &fault
}

func (p *parser) value() (any, *Fault) {
	tok, err := p.dec.Token()
	if err != nil {
		return nil, p.fault("not-json", message.P{"byte": p.dec.InputOffset()})
	}
	delim, ok := tok.(json.Delim)
	if !ok {
		return tok, nil
	}
	if len(p.path) >= maxDepth {
		return nil, p.fault("deep", nil)
	}
	last := len(p.path)
	p.path = append(p.path, "")
	defer func() { p.path = p.path[:last] }()
	if delim == '[' {
		list := []any{}
		for p.dec.More() {
			p.path[last] = strconv.Itoa(len(list))
			v, fault := p.value()
			if fault != nil {
				return nil, fault
			}
			list = append(list, v)
		}
		return list, p.end("no-end", message.P{"what": "list"})
	}
	obj := &object{values: map[string]any{}}
	for p.dec.More() {
		tok, err := p.dec.Token()
		if err != nil {
			return nil, p.fault("not-json", message.P{"byte": p.dec.InputOffset()})
		}
		name := tok.(string)
		p.path[last] = name
		v, fault := p.value()
		if fault != nil {
			return nil, fault
		}
		if _, twice := obj.values[name]; twice {
			if len(p.faults) < maxFaults {
				p.faults = append(p.faults, *p.fault("field-twice", nil))
			}
			continue
		}
		obj.names = append(obj.names, name)
		obj.values[name] = v
	}
	return obj, p.end("no-end", message.P{"what": "object"})
}

func (p *parser) end(code string, params message.P) *Fault {
	if _, err := p.dec.Token(); err != nil {
		p.path = p.path[:len(p.path)-1]
		return p.fault(code, params)
	}
	return nil
}

// longestName is how much of a name stands in a pointer, so that a fault does not
// repeat what may be megabytes.
const longestName = 200

// escape makes a name part of a JSON pointer.
func escape(name string) string {
	if len(name) > longestName {
		name = strings.ToValidUTF8(name[:longestName], "") + "…"
	}
	return strings.ReplaceAll(strings.ReplaceAll(name, "~", "~0"), "/", "~1")
}
