package activity

import (
	"encoding/json"
	"errors"
	"reflect"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"unicode/utf8"

	"keenmagpie/core/exact"
	"keenmagpie/core/geometry"
	"keenmagpie/core/message"
)

// Fault is one thing wrong with a document: where, as a JSON pointer (RFC 6901), and a
// sentence that an author understands, with its code and what fills it in beside it.
type Fault struct {
	Pointer string       `json:"pointer"`
	Message string       `json:"message"`
	Line    message.Line `json:"line,omitzero"`
}

// faultAt says a fault by its code in the catalogue.
func faultAt(pointer, code string, params message.P) Fault {
	said := message.Say(english, code, params)
	return Fault{pointer, said.Message, said.Line}
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

func (r *reader) fault(at, code string, params message.P) {
	if len(r.faults) < maxFaults {
		r.faults = append(r.faults, faultAt(at, code, params))
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
			r.fault(at, "not-a-boolean", message.P{"value": describe(in)})
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
			r.fault(at, "not-an-object", message.P{"value": describe(in)})
			return
		}
		if len(obj.names) == 0 {
			return // empty is as if left out
		}
		out.Set(reflect.MakeMapWithSize(out.Type(), len(obj.names)))
		for _, name := range obj.names {
			if len(name) > longestName {
				r.fault(at+"/"+escape(name), "long-name", message.P{"most": longestName})
				continue
			}
			v := reflect.New(out.Type().Elem()).Elem()
			r.value(at+"/"+escape(name), obj.values[name], v, "")
			out.SetMapIndex(reflect.ValueOf(name), v)
		}
	case out.Kind() == reflect.Struct:
		obj, ok := in.(*object)
		if !ok {
			r.fault(at, "not-an-object", message.P{"value": describe(in)})
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
			r.fault(at+"/"+escape(name), "no-field", message.P{"value": describe(name)})
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
			r.fault(at+"/"+f.name, "missing", message.P{"field": f.name})
			continue
		}
		out.FieldByIndex(f.index).Set(f.fallback())
	}
}

func (r *reader) number(at string, in any, out reflect.Value, tag reflect.StructTag) {
	num, ok := in.(json.Number)
	if !ok {
		r.fault(at, "not-a-number", message.P{"value": describe(in)})
		return
	}
	h, err := exact.Parse(string(num))
	if err != nil {
		r.fault(at, unreadable(err), message.P{"value": describe(in)})
		return
	}
	if out.Type() != hundredths && h%100 != 0 {
		r.fault(at, "not-whole", message.P{"value": describe(in)})
		return
	}
	if low, high, ok := bounds(tag); ok && (h < low || h > high) {
		code := "too-small"
		if h > high {
			code = "too-large"
		}
		r.fault(at, code, message.P{"value": describe(in), "least": low, "most": high})
		h = min(max(h, low), high)
	}
	if out.Type() == hundredths {
		out.SetInt(int64(h))
	} else {
		out.SetInt(int64(h / 100))
	}
}

// unreadable is the code for a number that [exact.Parse] did not take.
func unreadable(err error) string {
	switch {
	case errors.Is(err, exact.ErrDecimals):
		return "many-decimals"
	case errors.Is(err, exact.ErrLarge):
		return "large-number"
	}
	return "not-decimal"
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
		r.fault(at, "not-text", message.P{"value": describe(in)})
		return
	}
	if one := tag.Get("one"); one != "" && !slices.Contains(strings.Split(one, "|"), s) {
		r.fault(at, "impossible", message.P{"value": describe(s), "possible": strings.ReplaceAll(one, "|", ", ")})
		return
	}
	out.SetString(s) // also when it is at fault: what refers to it is not
	if tag.Get("id") != "" && !idPattern.MatchString(s) {
		r.fault(at, "not-an-id", message.P{"value": describe(s)})
		return
	}
	if tag.Get("media") != "" && !mediaPattern.MatchString(s) {
		r.fault(at, "not-a-medium", message.P{"value": describe(s)})
	}
	if tag.Get("lang") != "" && !langPattern.MatchString(s) {
		r.fault(at, "not-a-language", message.P{"value": describe(s)})
	}
	if tag.Get("colour") == "hex" && !hexPattern.MatchString(s) {
		r.fault(at, "not-a-colour", message.P{"value": describe(s)})
	}
	if tag.Get("colour") == "true" && !colourPattern.MatchString(s) {
		r.fault(at, "not-a-theme-colour", message.P{"value": describe(s)})
		return
	}
	if most, err := strconv.Atoi(tag.Get("max")); err == nil && utf8.RuneCountInString(s) > most {
		r.fault(at, "long-text", message.P{"n": utf8.RuneCountInString(s), "most": most})
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
		r.fault(at, "not-a-hit-rule", message.P{"value": describe(in), "possible": strings.Join(hitRules, ", ")})
		return
	}
	if rule.Rule == "overlap" && rule.Overlap == 0 {
		if _, ok := in.(string); ok {
			r.fault(at, "no-percent", nil)
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
		r.fault(at, "not-so-many-numbers", message.P{"value": describe(in), "n": out.Len()})
		return
	}
	for i, v := range list {
		r.value(at+"/"+strconv.Itoa(i), v, out.Index(i), `range:"-100000..100000"`)
	}
}

func (r *reader) list(at string, in any, out reflect.Value, tag reflect.StructTag) {
	list, ok := in.([]any)
	if !ok {
		r.fault(at, "not-a-list", message.P{"value": describe(in)})
		return
	}
	if least, err := strconv.Atoi(tag.Get("min")); err == nil && len(list) < least {
		r.fault(at, "too-few", message.P{"least": least})
	}
	if most, err := strconv.Atoi(tag.Get("max")); err == nil && len(list) > most {
		r.fault(at, "too-many", message.P{"n": len(list), "most": most})
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
		return abridged(string(v))
	case string:
		quoted := strconv.Quote(abridged(v))
		return "“" + strings.ReplaceAll(quoted[1:len(quoted)-1], `\"`, `"`) + "”"
	case []any:
		return "a list"
	default:
		return "an object"
	}
}

func abridged(s string) string {
	if utf8.RuneCountInString(s) > 40 {
		s = string([]rune(s)[:40]) + "…"
	}
	return s
}
