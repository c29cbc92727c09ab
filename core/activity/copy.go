package activity

import "reflect"

// Clone is a document that shares nothing with d, whatever is wrong with it.
// Cost: linear in the document.
func (d *Doc) Clone() *Doc {
	out := new(Doc)
	deepCopy(reflect.ValueOf(out).Elem(), reflect.ValueOf(d).Elem())
	return out
}

// deepCopy sets to to what from is, down to the last list. The document's types are
// structs of exported fields, pointers, lists, maps and plain values.
func deepCopy(to, from reflect.Value) {
	switch from.Kind() {
	case reflect.Pointer:
		if !from.IsNil() {
			to.Set(reflect.New(from.Type().Elem()))
			deepCopy(to.Elem(), from.Elem())
		}
	case reflect.Struct:
		for i := range from.NumField() {
			deepCopy(to.Field(i), from.Field(i))
		}
	case reflect.Slice:
		if !from.IsNil() {
			to.Set(reflect.MakeSlice(from.Type(), from.Len(), from.Len()))
			for i := range from.Len() {
				deepCopy(to.Index(i), from.Index(i))
			}
		}
	case reflect.Array:
		for i := range from.Len() {
			deepCopy(to.Index(i), from.Index(i))
		}
	case reflect.Map:
		if from.IsNil() {
			return
		}
		to.Set(reflect.MakeMapWithSize(from.Type(), from.Len()))
		for at := from.MapRange(); at.Next(); {
			v := reflect.New(from.Type().Elem()).Elem()
			deepCopy(v, at.Value())
			to.SetMapIndex(at.Key(), v)
		}
	default:
		to.Set(from)
	}
}
