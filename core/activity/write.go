package activity

import (
	"bytes"
	"encoding/json"
	"reflect"
	"slices"
	"strconv"
)

// Write writes the document in its one form: fields in the order of the types,
// what equals its default left out, one space of indent. Reading and writing
// again gives the same bytes. Cost: linear.
func (d *Doc) Write() []byte {
	var b bytes.Buffer
	writer{&b, shapes{}, false}.object(reflect.ValueOf(d).Elem())
	var out bytes.Buffer
	if err := json.Indent(&out, b.Bytes(), "", " "); err != nil {
		panic("activity: wrote what is not JSON: " + err.Error())
	}
	out.WriteByte('\n')
	return out.Bytes()
}

// Full writes the document with every field, also those that equal their
// defaults, so that a reader of it needs to know none of them. [Read] takes it.
func (d *Doc) Full() json.RawMessage { return full(reflect.ValueOf(d).Elem()) }

type writer struct {
	*bytes.Buffer
	shapes shapes
	full   bool
}

// optional tells a field for which being left out is a value of its own.
func (f field) optional() bool {
	low, _, bounded := bounds(f.tag)
	return f.typ.Kind() == reflect.Pointer || f.tag.Get("optional") != "" || f.tag.Get("keep") != "" || f.typ.Kind() == reflect.Int && f.tag.Get("default") == "" && bounded && low > 0
}

func (w writer) skips(f field, v reflect.Value) bool {
	if f.tag.Get("required") != "" {
		return false
	}
	if w.full {
		return f.optional() && v.IsZero()
	}
	empty := (v.Kind() == reflect.Slice || v.Kind() == reflect.Map) && v.Len() == 0 && f.tag.Get("keep") == ""
	return empty || reflect.DeepEqual(v.Interface(), f.def.Interface())
}

func (w writer) object(v reflect.Value) {
	w.WriteByte('{')
	first := true
	for _, f := range w.shapes.of(v.Type()) {
		x := v.FieldByIndex(f.index)
		if w.skips(f, x) {
			continue
		}
		if !first {
			w.WriteByte(',')
		}
		first = false
		w.WriteString(strconv.Quote(f.name) + ":")
		w.value(x)
	}
	w.WriteByte('}')
}

func (w writer) value(v reflect.Value) {
	switch {
	case v.Kind() == reflect.Pointer:
		w.value(v.Elem())
	case v.Kind() == reflect.Struct && v.Type() != hitRule:
		w.object(v)
	case v.Kind() == reflect.Slice, v.Kind() == reflect.Array:
		w.WriteByte('[')
		for i := range v.Len() {
			if i > 0 {
				w.WriteByte(',')
			}
			w.value(v.Index(i))
		}
		w.WriteByte(']')
	case v.Kind() == reflect.Map:
		w.WriteByte('{')
		names := make([]string, 0, v.Len())
		for _, k := range v.MapKeys() {
			names = append(names, k.String())
		}
		slices.Sort(names)
		for i, name := range names {
			if i > 0 {
				w.WriteByte(',')
			}
			w.value(reflect.ValueOf(name))
			w.WriteByte(':')
			w.value(v.MapIndex(reflect.ValueOf(name)))
		}
		w.WriteByte('}')
	default:
		enc := json.NewEncoder(w)
		enc.SetEscapeHTML(false)
		if err := enc.Encode(v.Interface()); err != nil {
			panic("activity: cannot write " + v.Type().String())
		}
		w.Truncate(w.Len() - 1) // the encoder's line end
	}
}

// MarshalJSON writes it as a document in full does: what is left open stays out.
func (s Style) MarshalJSON() ([]byte, error) { return full(reflect.ValueOf(s)), nil }

// MarshalJSON is that of [Style].
func (l Look) MarshalJSON() ([]byte, error) { return full(reflect.ValueOf(l)), nil }

// MarshalJSON is that of [Style].
func (t Theme) MarshalJSON() ([]byte, error) { return full(reflect.ValueOf(t)), nil }

func full(v reflect.Value) []byte {
	var b bytes.Buffer
	writer{&b, shapes{}, true}.object(v)
	return b.Bytes()
}

// MarshalJSON writes a condition as the document does: the fields of its one form.
func (c Condition) MarshalJSON() ([]byte, error) {
	var b bytes.Buffer
	writer{&b, shapes{}, false}.object(reflect.ValueOf(&c).Elem())
	return b.Bytes(), nil
}
