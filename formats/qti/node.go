package qti

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"io"
	"slices"
	"strings"
	"unicode/utf8"
)

// node is an element, or, without a name, a text.
type node struct {
	name string
	attr []attr
	in   []*node
	text string
	line int // in the file it was read from
}

type attr struct{ name, value string }

// el makes an element; attributes are pairs of a name and a value, of which empty ones are
// left out, and what follows stands in it.
func el(name string, attrs []string, in ...*node) *node {
	n := &node{name: name}
	for i := 0; i+1 < len(attrs); i += 2 {
		if attrs[i+1] != "" {
			n.attr = append(n.attr, attr{attrs[i], attrs[i+1]})
		}
	}
	for _, x := range in {
		if x != nil {
			n.in = append(n.in, x)
		}
	}
	return n
}

func at(pairs ...string) []string { return pairs }

func txt(text string) *node { return &node{text: text} }

func (n *node) add(in ...*node) *node {
	n.in = append(n.in, in...)
	return n
}

// get is an attribute's value, or "".
func (n *node) get(name string) string {
	for _, a := range n.attr {
		if a.name == name {
			return strings.TrimSpace(a.value)
		}
	}
	return ""
}

func (n *node) has(name string) bool {
	return slices.ContainsFunc(n.attr, func(a attr) bool { return a.name == name })
}

// child is the first element of a name in it, or nil.
func (n *node) child(name string) *node {
	for _, c := range n.in {
		if c.name == name {
			return c
		}
	}
	return nil
}

// children are the elements of a name in it; of any name where none is given.
func (n *node) children(names ...string) (list []*node) {
	for _, c := range n.in {
		if c.name != "" && (len(names) == 0 || slices.Contains(names, c.name)) {
			list = append(list, c)
		}
	}
	return list
}

// all calls f for each element in it, from the outside in.
func (n *node) all(f func(*node)) {
	for _, c := range n.in {
		if c.name != "" {
			f(c)
			c.all(f)
		}
	}
}

// find is the first element of a name, however deep.
func (n *node) find(name string) (found *node) {
	n.all(func(c *node) {
		if found == nil && c.name == name {
			found = c
		}
	})
	return found
}

// plain is the text in it, with spaces as they are read.
func (n *node) plain() string {
	var b strings.Builder
	var walk func(*node)
	walk = func(n *node) {
		b.WriteString(n.text)
		for _, c := range n.in {
			if c.name == "p" || c.name == "br" || c.name == "div" || c.name == "li" {
				b.WriteByte(' ')
			}
			walk(c)
		}
	}
	walk(n)
	return strings.Join(strings.Fields(b.String()), " ")
}

// write writes an element with what is in it; texts stand as they are, so only elements that
// hold no text are broken into lines.
func (n *node) write(b *bytes.Buffer, depth int) {
	if n.name == "" {
		_ = xml.EscapeText(b, []byte(n.text))
		return
	}
	b.WriteByte('<')
	b.WriteString(n.name)
	for _, a := range n.attr {
		fmt.Fprintf(b, ` %s="`, a.name)
		_ = xml.EscapeText(b, []byte(a.value))
		b.WriteByte('"')
	}
	if len(n.in) == 0 {
		b.WriteString("/>")
		return
	}
	b.WriteByte('>')
	mixed := false
	for _, c := range n.in {
		mixed = mixed || c.name == ""
	}
	for _, c := range n.in {
		if !mixed {
			b.WriteByte('\n')
			b.WriteString(strings.Repeat("  ", depth+1))
		}
		c.write(b, depth+1)
	}
	if !mixed {
		b.WriteByte('\n')
		b.WriteString(strings.Repeat("  ", depth))
	}
	b.WriteString("</" + n.name + ">")
}

// file is the element as a file.
func (n *node) file() []byte {
	var b bytes.Buffer
	b.WriteString(xml.Header)
	n.write(&b, 0)
	b.WriteByte('\n')
	return b.Bytes()
}

// How much a file may hold: more is refused before it is read to its end.
const (
	MostBytes = 16 << 20
	mostDepth = 200
	mostNodes = 400_000
	mostAttrs = 200
)

// Bad is why a file was not read, and where.
type Bad struct {
	Line int
	Code string
	Why  string
}

func (b *Bad) Error() string { return fmt.Sprintf("line %d: %s", b.Line, b.Why) }

// parse reads a file into its elements, under the names of QTI 3.0 whatever its version.
// Nothing outside the file is asked for; declarations of types and entities are refused.
// Cost: linear.
func parse(body []byte) (root *node, version string, err error) {
	if len(body) > MostBytes {
		return nil, "", &Bad{1, "too-large", fmt.Sprintf("the file has %d MB: up to %d MB are read", len(body)>>20, MostBytes>>20)}
	}
	d := xml.NewDecoder(bytes.NewReader(body))
	d.CharsetReader = charset
	line := func() int { l, _ := d.InputPos(); return l }
	var open []*node
	count := 0
	for {
		token, err := d.RawToken()
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			var syntax *xml.SyntaxError
			if errors.As(err, &syntax) {
				return nil, "", &Bad{syntax.Line, "not-well-formed", "it is not well-formed XML: " + syntax.Msg}
			}
			return nil, "", &Bad{line(), "not-well-formed", "it cannot be read: " + err.Error()}
		}
		if count++; count > mostNodes {
			return nil, "", &Bad{line(), "too-large", "it has too many elements"}
		}
		switch t := token.(type) {
		case xml.Directive:
			return nil, "", &Bad{line(), "doctype", "it declares a type of document or entities: neither is read"}
		case xml.StartElement:
			if len(open) >= mostDepth {
				return nil, "", &Bad{line(), "too-deep", fmt.Sprintf("its elements stand more than %d deep", mostDepth)}
			}
			if len(t.Attr) > mostAttrs {
				return nil, "", &Bad{line(), "too-large", "an element has too many attributes"}
			}
			n := &node{name: t.Name.Local, line: line()}
			for _, a := range t.Attr {
				if a.Name.Space == "xmlns" {
					continue
				}
				name := a.Name.Local
				if a.Name.Space == "xml" {
					name = "xml:" + name
				}
				n.attr = append(n.attr, attr{name, a.Value})
			}
			if len(open) > 0 {
				open[len(open)-1].add(n)
			} else if root == nil {
				root = n
			} else {
				return nil, "", &Bad{line(), "not-well-formed", "it has more than one outermost element"}
			}
			open = append(open, n)
		case xml.EndElement:
			if len(open) == 0 || open[len(open)-1].name != t.Name.Local {
				return nil, "", &Bad{line(), "not-well-formed", fmt.Sprintf("</%s> ends what has not begun", t.Name.Local)}
			}
			open = open[:len(open)-1]
		case xml.CharData:
			if len(open) > 0 && len(t) > 0 {
				open[len(open)-1].add(&node{text: string(t), line: line()})
			} else if len(bytes.TrimSpace(t)) > 0 && !bytes.Equal(t, []byte("\uFEFF")) {
				return nil, "", &Bad{line(), "not-well-formed", "text stands outside of its elements"}
			}
		}
	}
	if len(open) > 0 || root == nil {
		return nil, "", &Bad{line(), "not-well-formed", "it ends too early"}
	}
	version = versionOf(root)
	if version != "3.0" {
		renamed(root)
	}
	return root, version, nil
}

// charset reads the encodings that items come in besides UTF-8.
func charset(name string, in io.Reader) (io.Reader, error) {
	switch strings.ToLower(name) {
	case "utf-8", "us-ascii", "ascii":
		return in, nil
	case "iso-8859-1", "latin1":
		body, err := io.ReadAll(in)
		if err != nil {
			return nil, err
		}
		out := make([]byte, 0, len(body))
		for _, c := range body {
			out = utf8.AppendRune(out, rune(c))
		}
		return bytes.NewReader(out), nil
	}
	return nil, fmt.Errorf("the encoding %q is not read: save it as UTF-8", name)
}

// Namespaces by version.
var namespaces = map[string]string{
	"http://www.imsglobal.org/xsd/imsqtiasi_v3p0": "3.0", "http://www.imsglobal.org/xsd/qti/imsqtiasi_v3p0": "3.0", "http://www.imsglobal.org/xsd/imsqti_v3p0": "3.0",
	"http://www.imsglobal.org/xsd/imsqti_v2p2": "2.2", "http://www.imsglobal.org/xsd/imsqti_v2p1": "2.1", "http://www.imsglobal.org/xsd/imsqti_v2p0": "2.0",
}

// versionOf is a file's version of QTI, or "".
func versionOf(root *node) string {
	if v, ok := namespaces[root.get("xmlns")]; ok {
		return v
	}
	if root.get("xmlns") == "" {
		switch root.name {
		case "qti-assessment-item", "qti-assessment-test":
			return "3.0"
		case "assessmentItem", "assessmentTest":
			return "2.2"
		}
	}
	return ""
}

// markup are elements of HTML and MathML that keep their names.
var markup = map[string]bool{}

func init() {
	for _, name := range strings.Fields("a abbr acronym address article aside audio b bdi bdo big blockquote br caption cite code col colgroup dd details dfn div dl dt em figcaption figure footer h1 h2 h3 h4 h5 h6 header hr i img kbd label li main mark nav object ol p param picture pre q rp rt ruby samp section small source span strong sub summary sup table tbody td tfoot th thead time tr track tt u ul var video math") {
		markup[name] = true
	}
}

// renamed gives elements and attributes of QTI 2 the names that they have in QTI 3.
func renamed(n *node) {
	if !markup[n.name] {
		n.name = "qti-" + kebab(n.name)
		for i := range n.attr {
			if !strings.HasPrefix(n.attr[i].name, "xml:") {
				n.attr[i].name = kebab(n.attr[i].name)
			}
		}
	}
	for _, c := range n.in {
		if c.name != "" {
			renamed(c)
		}
	}
}

// kebab writes a name in camel case with hyphens.
func kebab(name string) string {
	var b strings.Builder
	for i, r := range name {
		if r >= 'A' && r <= 'Z' {
			if i > 0 {
				b.WriteByte('-')
			}
			r += 'a' - 'A'
		}
		b.WriteRune(r)
	}
	return b.String()
}
