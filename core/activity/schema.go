package activity

import (
	"encoding/json"
	"reflect"
	"slices"
	"strconv"
	"strings"

	"keenmagpie/core/exact"
)

// Schema is the document's JSON Schema (2020-12), made from the Go types and
// the same tags that [Read] follows. Object types stand under $defs by name.
// With full it describes what [Doc.Full] writes, where hardly a field is left out.
func Schema(full bool) map[string]any {
	defs := map[string]any{}
	m := schemaMaker{defs, full}
	root := m.of(reflect.TypeFor[Doc](), "")
	return map[string]any{
		"$schema": "https://json-schema.org/draft/2020-12/schema",
		"title":   "Keen Magpie activity",
		"$ref":    root["$ref"],
		"$defs":   defs,
	}
}

type schemaMaker struct {
	defs map[string]any
	full bool
}

func (m schemaMaker) of(t reflect.Type, tag reflect.StructTag) map[string]any {
	s := map[string]any{}
	switch {
	case t.Kind() == reflect.Pointer:
		return m.of(t.Elem(), tag)
	case t == reflect.TypeFor[exact.Hundredths](), t.Kind() == reflect.Int:
		s["type"] = "integer"
		if t.Kind() != reflect.Int {
			s["type"], s["multipleOf"] = "number", json.Number("0.01")
		}
		if low, high, ok := bounds(tag); ok {
			s["minimum"] = low
			if high < exact.Limit {
				s["maximum"] = high
			}
		}
	case t.Kind() == reflect.Bool:
		s["type"] = "boolean"
	case t.Kind() == reflect.String:
		s["type"] = "string"
		if one := tag.Get("one"); one != "" {
			s["enum"] = strings.Split(one, "|")
		}
		if tag.Get("id") != "" {
			s["pattern"] = idPattern.String()
		}
		if tag.Get("media") != "" {
			s["pattern"] = mediaPattern.String()
		}
		if tag.Get("lang") != "" {
			s["pattern"] = langPattern.String()
		}
		switch tag.Get("colour") {
		case "hex":
			s["pattern"] = hexPattern.String()
		case "true":
			s["pattern"] = colourPattern.String()
		}
		if most, err := strconv.Atoi(tag.Get("max")); err == nil {
			s["maxLength"] = most
		}
	case t == hitRule:
		return map[string]any{"oneOf": []any{
			map[string]any{"type": "string", "enum": hitRules},
			map[string]any{"type": "object", "additionalProperties": false, "required": []string{"overlap"},
				"properties": map[string]any{"overlap": map[string]any{"type": "integer", "minimum": 1, "maximum": 100}}},
		}, "default": "centre"}
	case t.Kind() == reflect.Array:
		s["type"], s["minItems"], s["maxItems"] = "array", t.Len(), t.Len()
		s["items"] = m.of(t.Elem(), "")
	case t == reflect.TypeFor[Condition]():
		if _, done := m.defs["Condition"]; !done {
			m.defs["Condition"] = nil // it holds itself
			m.defs["Condition"] = m.condition()
		}
		return map[string]any{"$ref": "#/$defs/Condition"}
	case t.Kind() == reflect.Slice:
		s["type"] = "array"
		s["items"] = m.of(t.Elem(), "")
		for name, key := range map[string]string{"min": "minItems", "max": "maxItems"} {
			if n, err := strconv.Atoi(tag.Get(name)); err == nil {
				s[key] = n
			}
		}
	case t.Kind() == reflect.Map:
		s["type"] = "object"
		s["additionalProperties"] = m.of(t.Elem(), "")
	case t.Kind() == reflect.Struct:
		if _, done := m.defs[t.Name()]; !done {
			def := map[string]any{"type": "object", "additionalProperties": false}
			m.defs[t.Name()] = def
			properties, required := map[string]any{}, []string{}
			for _, f := range fields(t) {
				properties[f.name] = m.of(f.typ, f.tag)
				if f.tag.Get("required") != "" || m.full && !f.optional() {
					required = append(required, f.name)
				}
			}
			def["properties"] = properties
			if len(required) > 0 {
				def["required"] = required
			}
		}
		return map[string]any{"$ref": "#/$defs/" + t.Name()}
	}
	if def := tag.Get("default"); def != "" {
		s["default"] = json.RawMessage(def)
	}
	return s
}

// condition is a union: every form is an object of its own.
func (m schemaMaker) condition() map[string]any {
	var forms []any
	all := fields(reflect.TypeFor[Condition]())
	form := func(names ...string) {
		properties := map[string]any{}
		for _, f := range all {
			if slices.Contains(names, f.name) {
				properties[f.name] = m.of(f.typ, f.tag)
			}
		}
		if names[0] == "item" && len(names) > 1 && names[1] == "is" {
			properties["is"] = map[string]any{"type": "string", "enum": []string{"home", "right", "wrong"}}
		}
		if names[0] == "target" {
			properties["is"] = map[string]any{"type": "string", "enum": []string{"right", "part", "wrong", "empty"}}
		}
		forms = append(forms, map[string]any{"type": "object", "additionalProperties": false, "properties": properties, "required": names})
	}
	form("item", "is")
	form("item", "in")
	form("target", "is")
	for _, f := range all {
		if !slices.Contains([]string{"item", "target", "is", "in"}, f.name) {
			form(f.name)
		}
	}
	return map[string]any{"oneOf": forms}
}
