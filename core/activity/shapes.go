package activity

import (
	"reflect"
)

// field is one JSON field of a document type.
type field struct {
	name  string
	index []int
	tag   reflect.StructTag
	typ   reflect.Type
	def   reflect.Value // what it is when it is left out; see shapes
}

// fields lists the JSON fields of a struct type in order, those of embedded
// structs in their place. Cost: O(fields).
func fields(t reflect.Type) []field {
	var out []field
	for _, f := range reflect.VisibleFields(t) {
		if name := f.Tag.Get("json"); name != "" {
			out = append(out, field{name: name, index: f.Index, tag: f.Tag, typ: f.Type})
		}
	}
	return out
}

// shapes holds the fields of each struct type with their defaults, worked out
// once for one reading or writing.
type shapes map[reflect.Type][]field

func (s shapes) of(t reflect.Type) []field {
	list, ok := s[t]
	if !ok {
		list = fields(t)
		for i := range list {
			list[i].def = list[i].makeDefault(s)
		}
		s[t] = list
	}
	return list
}

// makeDefault makes the value of a field that was left out: from its tag, or, for
// an object, from the tags within.
func (f field) makeDefault(s shapes) reflect.Value {
	v := reflect.New(f.typ).Elem()
	// The tags' rules are for what authors write: a default may break them.
	r := reader{shapes: s}
	if text := f.tag.Get("default"); text != "" {
		in, faults := parse([]byte(text))
		if len(faults) > 0 {
			panic("activity: bad default of " + f.name)
		}
		r.value("", in, v, "")
	} else if f.typ.Kind() == reflect.Struct {
		r.object("", &object{}, v)
	}
	return v
}

// fallback is the default, as a value that shares nothing with another's.
func (f field) fallback() reflect.Value {
	if f.typ.Kind() == reflect.Slice && f.def.Len() > 0 {
		return reflect.AppendSlice(reflect.MakeSlice(f.typ, 0, f.def.Len()), f.def)
	}
	return f.def
}

// FieldsChanged names the fields that differ, as the document calls them.
func FieldsChanged(a, b any) []string {
	known := shapes{}
	x, y := reflect.ValueOf(a), reflect.ValueOf(b)
	var out []string
	for _, f := range known.of(x.Type()) {
		if !reflect.DeepEqual(x.FieldByIndex(f.index).Interface(), y.FieldByIndex(f.index).Interface()) {
			out = append(out, f.name)
		}
	}
	return out
}
