package activity

import (
	"maps"
	"reflect"
	"slices"
)

// Media lists the ids of all pictures and sounds that the document uses, each once,
// sorted. Cost: linear.
func (d *Doc) Media() []string { return mediaOf(reflect.ValueOf(d)) }

// RenameMedia puts other ids in place of those of pictures and sounds that are named,
// in the document itself.
func (d *Doc) RenameMedia(named map[string]string) { renameMedia(reflect.ValueOf(d), named) }

// Media is that of [Doc.Media], of the pages.
func (s *Series) Media() []string { return mediaOf(reflect.ValueOf(s)) }

// RenameMedia is that of [Doc.RenameMedia], of the pages.
func (s *Series) RenameMedia(named map[string]string) { renameMedia(reflect.ValueOf(s), named) }

func mediaOf(v reflect.Value) []string {
	ids := map[string]bool{}
	eachMedium(v, shapes{}, func(x reflect.Value) { ids[x.String()] = true })
	return slices.Sorted(maps.Keys(ids))
}

func renameMedia(v reflect.Value, named map[string]string) {
	eachMedium(v, shapes{}, func(x reflect.Value) {
		if id, ok := named[x.String()]; ok {
			x.SetString(id)
		}
	})
}

// eachMedium calls f with every field that names a picture or a sound, and does.
func eachMedium(v reflect.Value, known shapes, f func(reflect.Value)) {
	switch v.Kind() {
	case reflect.Pointer:
		if !v.IsNil() {
			eachMedium(v.Elem(), known, f)
		}
	case reflect.Slice:
		for i := range v.Len() {
			eachMedium(v.Index(i), known, f)
		}
	case reflect.Struct:
		for _, field := range known.of(v.Type()) {
			x := v.FieldByIndex(field.index)
			if field.name != "picture" && field.name != "sound" {
				eachMedium(x, known, f)
			} else if x = reflect.Indirect(x); x.IsValid() && x.String() != "" {
				f(x)
			}
		}
	}
}
