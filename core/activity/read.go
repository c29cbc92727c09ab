package activity

import (
	"encoding/json"
	"fmt"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"keenmagpie/core/exact"
	"keenmagpie/core/geometry"
)

// Fault is one thing wrong with a document: where, as a JSON pointer (RFC 6901),
// and a sentence that an author understands.
type Fault struct {
	Pointer string `json:"pointer"`
	Message string `json:"message"`
}

// Faults is everything wrong with a document.
type Faults []Fault

func (f Faults) Error() string {
	lines := make([]string, len(f))
	for i, x := range f {
		lines[i] = x.Pointer + ": " + x.Message
	}
	return strings.Join(lines, "\n")
}

// MaxBytes is the largest document that is read.
const MaxBytes = 4 << 20

const maxDepth = 64

// maxFaults keeps a hopeless document from answering with a book.
const maxFaults = 200

// Read reads and checks a document. With faults the document is nil.
// What could be read is checked, too, so that all faults come at once.
// Cost: linear in the body, but for what [check] says.
func Read(body []byte) (*Doc, Faults) {
	if len(body) > MaxBytes {
		return nil, Faults{{"", fmt.Sprintf("the document has %d bytes; at most %d are read", len(body), MaxBytes)}}
	}
	if !utf8.Valid(body) {
		return nil, Faults{{"", "the document is not valid UTF-8"}}
	}
	tree, faults := parse(body)
	if tree == nil && len(faults) > 0 {
		return nil, faults
	}
	doc, faults := taken(tree, faults)
	if len(faults) > 0 {
		return nil, faults
	}
	return doc, nil
}

// ReadFaulty reads what can be read of a document with faults; nil where it is not
// even JSON.
func ReadFaulty(body []byte) (*Doc, Faults) {
	tree, faults := parse(body)
	if tree == nil && len(faults) > 0 {
		return nil, faults
	}
	return taken(tree, faults)
}

func taken(tree any, faults Faults) (*Doc, Faults) {
	r := reader{shapes: shapes{}, faults: faults}
	doc := new(Doc)
	r.value("", tree, reflect.ValueOf(doc).Elem(), "")
	check(doc, &r)
	return doc, r.faults
}

// reader walks a parsed tree and a Go type side by side.
type reader struct {
	faults Faults
	shapes shapes
}

func (r *reader) fault(at, format string, args ...any) {
	if len(r.faults) < maxFaults {
		r.faults = append(r.faults, Fault{at, fmt.Sprintf(format, args...)})
	}
}

var (
	hundredths = reflect.TypeFor[exact.Hundredths]()
	hitRule    = reflect.TypeFor[geometry.HitRule]()
)

func (r *reader) value(at string, in any, out reflect.Value, tag reflect.StructTag) {
	if out.Kind() == reflect.Pointer {
		out.Set(reflect.New(out.Type().Elem()))
		r.value(at, in, out.Elem(), tag)
		return
	}
	switch {
	case out.Type() == hitRule:
		r.hitRule(at, in, out)
	case out.Type() == hundredths, out.Kind() == reflect.Int:
		r.number(at, in, out, tag)
	case out.Kind() == reflect.Bool:
		v, ok := in.(bool)
		if !ok {
			r.fault(at, "%s should be true or false", describe(in))
			return
		}
		out.SetBool(v)
	case out.Kind() == reflect.String:
		r.text(at, in, out, tag)
	case out.Kind() == reflect.Slice:
		r.list(at, in, out, tag)
	case out.Kind() == reflect.Array:
		r.tuple(at, in, out)
	case out.Kind() == reflect.Map:
		obj, ok := in.(*object)
		if !ok {
			r.fault(at, "%s should be an object", describe(in))
			return
		}
		if len(obj.names) == 0 {
			return // empty is as if left out
		}
		out.Set(reflect.MakeMapWithSize(out.Type(), len(obj.names)))
		for _, name := range obj.names {
			if len(name) > longestName {
				r.fault(at+"/"+escape(name), "this name is too long: %d bytes are possible", longestName)
				continue
			}
			v := reflect.New(out.Type().Elem()).Elem()
			r.value(at+"/"+escape(name), obj.values[name], v, "")
			out.SetMapIndex(reflect.ValueOf(name), v)
		}
	case out.Kind() == reflect.Struct:
		obj, ok := in.(*object)
		if !ok {
			r.fault(at, "%s should be an object", describe(in))
			return
		}
		r.object(at, obj, out)
	default:
		panic("activity: no reading for " + out.Type().String())
	}
}

func (r *reader) object(at string, obj *object, out reflect.Value) {
	known := r.shapes.of(out.Type())
	for _, name := range obj.names {
		i := slices.IndexFunc(known, func(f field) bool { return f.name == name })
		if i < 0 {
			r.fault(at+"/"+escape(name), "there is no field %s here", describe(name))
			continue
		}
		f := known[i]
		r.value(at+"/"+escape(name), obj.values[name], out.FieldByIndex(f.index), f.tag)
	}
	for _, f := range known {
		if _, given := obj.values[f.name]; given {
			continue
		}
		if f.tag.Get("required") != "" {
			r.fault(at+"/"+f.name, "%q is missing", f.name)
			continue
		}
		out.FieldByIndex(f.index).Set(f.fallback())
	}
}

func (r *reader) number(at string, in any, out reflect.Value, tag reflect.StructTag) {
	num, ok := in.(json.Number)
	if !ok {
		r.fault(at, "%s should be a number", describe(in))
		return
	}
	h, err := exact.Parse(string(num))
	if err != nil {
		r.fault(at, "%s", err)
		return
	}
	if out.Type() != hundredths && h%100 != 0 {
		r.fault(at, "%s should be a whole number", num)
		return
	}
	if low, high, ok := bounds(tag); ok && (h < low || h > high) {
		word := "small"
		if h > high {
			word = "large"
		}
		r.fault(at, "%s is too %s: %s to %s is possible", num, word, low, high)
		h = min(max(h, low), high)
	}
	if out.Type() == hundredths {
		out.SetInt(int64(h))
	} else {
		out.SetInt(int64(h / 100))
	}
}

// bounds reads a range tag "low..high", either side of which may be left out.
func bounds(tag reflect.StructTag) (low, high exact.Hundredths, ok bool) {
	a, b, ok := strings.Cut(tag.Get("range"), "..")
	low, high = -exact.Limit, exact.Limit
	if a != "" {
		low, _ = exact.Parse(a)
	}
	if b != "" {
		high, _ = exact.Parse(b)
	}
	return low, high, ok
}

var (
	idPattern  = regexp.MustCompile(`^[a-z0-9][a-z0-9-]{0,63}$`)
	hexPattern = regexp.MustCompile(`^#[0-9a-fA-F]{6}$`)
	// mediaPattern is the hash that a picture or a sound is kept by, or the name of a file.
	mediaPattern = regexp.MustCompile(`^([A-Za-z0-9][A-Za-z0-9._-]{0,63})?$`)
	// langPattern is what RFC 5646 calls well formed, near enough: letters, then parts of
	// up to eight letters and digits.
	langPattern   = regexp.MustCompile(`^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$`)
	colourPattern = regexp.MustCompile(`^(#[0-9a-fA-F]{6}|[a-z]{1,32})?$`)
)

func (r *reader) text(at string, in any, out reflect.Value, tag reflect.StructTag) {
	s, ok := in.(string)
	if !ok {
		r.fault(at, "%s should be text", describe(in))
		return
	}
	if one := tag.Get("one"); one != "" && !slices.Contains(strings.Split(one, "|"), s) {
		r.fault(at, "%s is not possible here; possible: %s", describe(s), strings.ReplaceAll(one, "|", ", "))
		return
	}
	out.SetString(s) // also when it is at fault: what refers to it is not
	if tag.Get("id") != "" && !idPattern.MatchString(s) {
		r.fault(at, "%s is not an id: up to 64 small letters, digits and hyphens, not beginning with a hyphen", describe(s))
		return
	}
	if tag.Get("media") != "" && !mediaPattern.MatchString(s) {
		r.fault(at, "%s is not the name of a picture or a sound", describe(s))
	}
	if tag.Get("lang") != "" && !langPattern.MatchString(s) {
		r.fault(at, "%s is not a language: en, de or pt-BR, for example", describe(s))
	}
	if tag.Get("colour") == "hex" && !hexPattern.MatchString(s) {
		r.fault(at, "%s is not a colour: # and six hexadecimal digits", describe(s))
	}
	if tag.Get("colour") == "true" && !colourPattern.MatchString(s) {
		r.fault(at, "%s is not a colour: a theme name or # and six hexadecimal digits", describe(s))
		return
	}
	if most, err := strconv.Atoi(tag.Get("max")); err == nil && utf8.RuneCountInString(s) > most {
		r.fault(at, "the text has %d characters; %d are possible", utf8.RuneCountInString(s), most)
	}
}

// hitRule reads a rule's name, or {"overlap": percent}.
func (r *reader) hitRule(at string, in any, out reflect.Value) {
	rule := geometry.HitRule{}
	switch v := in.(type) {
	case string:
		rule.Rule = v
	case *object:
		o := struct {
			Overlap int `json:"overlap" required:"true" range:"1..100"`
		}{}
		r.object(at, v, reflect.ValueOf(&o).Elem())
		rule = geometry.HitRule{Rule: "overlap", Overlap: o.Overlap}
	}
	if rule.Overlap == 0 && !slices.Contains(hitRules, rule.Rule) && rule.Rule != "overlap" {
		r.fault(at, "%s is not possible here; possible: %s, {\"overlap\": percent}", describe(in), strings.Join(hitRules, ", "))
		return
	}
	if rule.Rule == "overlap" && rule.Overlap == 0 {
		if _, ok := in.(string); ok {
			r.fault(at, "overlap needs a percent: {\"overlap\": 60}")
		}
		return
	}
	out.Set(reflect.ValueOf(rule))
}

var hitRules = []string{"centre", "touch", "inside"}

// tuple reads a list of a fixed length.
func (r *reader) tuple(at string, in any, out reflect.Value) {
	list, ok := in.([]any)
	if !ok || len(list) != out.Len() {
		r.fault(at, "%s should be a list of %d numbers", describe(in), out.Len())
		return
	}
	for i, v := range list {
		r.value(at+"/"+strconv.Itoa(i), v, out.Index(i), `range:"-100000..100000"`)
	}
}

func (r *reader) list(at string, in any, out reflect.Value, tag reflect.StructTag) {
	list, ok := in.([]any)
	if !ok {
		r.fault(at, "%s should be a list", describe(in))
		return
	}
	if least, err := strconv.Atoi(tag.Get("min")); err == nil && len(list) < least {
		r.fault(at, "at least %d must stand here", least)
	}
	if most, err := strconv.Atoi(tag.Get("max")); err == nil && len(list) > most {
		r.fault(at, "%d stand here; %d are possible", len(list), most)
		return
	}
	if len(list) == 0 && tag.Get("keep") == "" {
		return // empty is as if left out
	}
	out.Set(reflect.MakeSlice(out.Type(), len(list), len(list)))
	inner := tag
	if out.Type().Elem().Kind() != reflect.Int {
		inner = `max:"200"` // each text, or list of texts, of a list
	}
	for i, v := range list {
		r.value(at+"/"+strconv.Itoa(i), v, out.Index(i), inner)
	}
}

func describe(in any) string {
	switch v := in.(type) {
	case nil:
		return "null"
	case bool:
		return strconv.FormatBool(v)
	case json.Number:
		return string(v)
	case string:
		if utf8.RuneCountInString(v) > 40 {
			v = string([]rune(v)[:40]) + "…"
		}
		return strconv.Quote(v)
	case []any:
		return "a list"
	default:
		return "an object"
	}
}
