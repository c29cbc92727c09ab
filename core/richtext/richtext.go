// Package richtext reads the small Markdown of replies, instructions and texts
// on the board into a tree. The interface draws the tree and formats write it; no
// HTML is ever taken over, since none is known.
//
//	paragraphs, apart by an empty line; a single line end is a line break
//	*emphasis* or _emphasis_, **strong** or __strong__
//	- an entry of a list, or 1. of a numbered one
//	[words](https://… or mailto:…)
//	[[target-id]] where that target goes, in the text of a gaps activity
//	\* a sign that means nothing here
//
// What is not one of these is text as it stands: nothing is an error. A link to
// anything but https: and mailto: stays text, too.
//
//	richtext.Plain(richtext.Read("The *chain*\nruns on the **crank**."))
//	// "The chain\nruns on the crank."
package richtext

import (
	"strings"
	"unicode"
	"unicode/utf8"
)

// Kinds of nodes.
const (
	Paragraph = "paragraph"
	List      = "list"     // its children are entries
	Numbered  = "numbered" // so are its
	Entry     = "entry"
	Text      = "text"
	Emphasis  = "emphasis"
	Strong    = "strong"
	Link      = "link"
	Break     = "break"
	Gap       = "gap"
)

// Node is a part of a text. Text is that of a text node, the address of a link, or
// the target's id of a gap.
type Node struct {
	Kind     string `json:"kind"`
	Text     string `json:"text,omitempty"`
	Children []Node `json:"children,omitempty"`
}

// Read reads a text into its blocks. Cost: linear.
func Read(text string) []Node {
	var blocks []Node
	var open *Node // the list or paragraph that goes on with the next line
	var lines []string
	flush := func() {
		if open == nil {
			return
		}
		words := inline(strings.Join(lines, "\n"))
		if open.Kind == Paragraph {
			open.Children = words
		} else {
			open.Children = append(open.Children, Node{Kind: Entry, Children: words})
		}
		lines = nil
	}
	end := func() {
		flush()
		if open != nil {
			blocks = append(blocks, *open)
		}
		open = nil
	}
	for line := range strings.SplitSeq(strings.ReplaceAll(text, "\r\n", "\n"), "\n") {
		line = strings.TrimSpace(line)
		kind, rest := entry(line)
		switch {
		case line == "":
			end()
		case kind != "":
			if open == nil || open.Kind != kind {
				end()
				open = &Node{Kind: kind}
			} else {
				flush()
			}
			lines = []string{rest}
		default:
			if open == nil {
				open = &Node{Kind: Paragraph}
			}
			lines = append(lines, line)
		}
	}
	end()
	return blocks
}

// entry tells whether a line begins an entry of a list.
func entry(line string) (kind, rest string) {
	if len(line) > 2 && (line[0] == '-' || line[0] == '*') && line[1] == ' ' {
		return List, strings.TrimSpace(line[2:])
	}
	digits := 0
	for digits < len(line) && digits < 9 && line[digits] >= '0' && line[digits] <= '9' {
		digits++
	}
	if digits > 0 && strings.HasPrefix(line[digits:], ". ") && len(line) > digits+2 {
		return Numbered, strings.TrimSpace(line[digits+2:])
	}
	return "", ""
}

// run is what has been read since a sign was opened.
type run struct {
	sign  string
	nodes []Node
}

// reader reads the inline parts. At most one of each of the four signs is open.
type reader struct {
	runs []run
	text strings.Builder
}

func (r *reader) add(n Node) {
	top := &r.runs[len(r.runs)-1]
	top.nodes = append(top.nodes, n)
}

func (r *reader) flush() {
	if r.text.Len() > 0 {
		r.add(Node{Kind: Text, Text: r.text.String()})
		r.text.Reset()
	}
}

// drop makes the innermost open sign text again.
func (r *reader) drop() {
	last := r.runs[len(r.runs)-1]
	r.runs = r.runs[:len(r.runs)-1]
	r.add(Node{Kind: Text, Text: last.sign})
	for _, n := range last.nodes {
		r.add(n)
	}
}

func inline(s string) []Node {
	r := reader{runs: []run{{}}}
	for i := 0; i < len(s); {
		if s[i] == '\\' && i+1 < len(s) && strings.IndexByte(`\*_[]-`, s[i+1]) >= 0 {
			r.text.WriteByte(s[i+1])
			i += 2
			continue
		}
		if s[i] == '\n' {
			r.flush()
			r.add(Node{Kind: Break})
			i++
			continue
		}
		if s[i] == '[' {
			if n, used := bracket(s[i:]); used > 0 {
				r.flush()
				r.add(n)
				i += used
				continue
			}
		}
		if s[i] == '*' || s[i] == '_' {
			i += r.sign(s, i)
			continue
		}
		r.text.WriteByte(s[i])
		i++
	}
	r.flush()
	for len(r.runs) > 1 {
		r.drop()
	}
	return merged(r.runs[0].nodes)
}

// sign handles one or two stars or underlines at i, and returns how many bytes
// they are.
func (r *reader) sign(s string, i int) int {
	sign := s[i : i+1]
	if i+1 < len(s) && s[i+1] == s[i] {
		sign = s[i : i+2]
	}
	before, _ := utf8.DecodeLastRuneInString(s[:i])
	after, _ := utf8.DecodeRuneInString(s[i+len(sign):])
	// An underline within a word is part of the word.
	inWord := sign[0] == '_' && letter(before) && letter(after)
	at := -1
	for k := 1; k < len(r.runs); k++ {
		if r.runs[k].sign == sign {
			at = k
		}
	}
	switch {
	case at >= 0 && !space(before) && !inWord:
		r.flush()
		for len(r.runs)-1 > at {
			r.drop()
		}
		done := r.runs[at]
		r.runs = r.runs[:at]
		kind := Emphasis
		if len(sign) == 2 {
			kind = Strong
		}
		r.add(Node{Kind: kind, Children: merged(done.nodes)})
	case at < 0 && !space(after) && !inWord:
		r.flush()
		r.runs = append(r.runs, run{sign: sign})
	default:
		r.text.WriteString(sign)
	}
	return len(sign)
}

func letter(c rune) bool {
	return c != utf8.RuneError && (unicode.IsLetter(c) || unicode.IsDigit(c))
}
func space(c rune) bool { return c == utf8.RuneError || unicode.IsSpace(c) }

// longestAddress bounds the search for a link's end, so that reading is linear.
const longestAddress = 2000

// bracket reads a gap or a link at the beginning of s; used is 0 where there is
// neither.
func bracket(s string) (n Node, used int) {
	if strings.HasPrefix(s, "[[") {
		if id, _, ok := strings.Cut(s[2:min(len(s), 2+70)], "]]"); ok && id != "" && !strings.ContainsAny(id, "[]\n") {
			return Node{Kind: Gap, Text: strings.TrimSpace(id)}, len(id) + 4
		}
		return Node{}, 0
	}
	end := strings.IndexAny(s[1:], "[]\n")
	if end < 1 || s[1+end] != ']' || !strings.HasPrefix(s[2+end:], "(") {
		return Node{}, 0
	}
	words, rest := s[1:1+end], s[3+end:]
	stop := strings.IndexAny(rest[:min(len(rest), longestAddress)], ") \n")
	if stop < 1 || rest[stop] != ')' {
		return Node{}, 0
	}
	address := rest[:stop]
	if lower := strings.ToLower(address); !strings.HasPrefix(lower, "https:") && !strings.HasPrefix(lower, "mailto:") {
		return Node{}, 0
	}
	return Node{Kind: Link, Text: address, Children: inline(words)}, 3 + end + stop + 1
}

// merged joins texts that stand side by side.
func merged(nodes []Node) []Node {
	var out []Node
	for i := 0; i < len(nodes); i++ {
		if nodes[i].Kind != Text {
			out = append(out, nodes[i])
			continue
		}
		var b strings.Builder
		for ; i < len(nodes) && nodes[i].Kind == Text; i++ {
			b.WriteString(nodes[i].Text)
		}
		i--
		out = append(out, Node{Kind: Text, Text: b.String()})
	}
	return out
}

// Plain is the text without its signs: a line for a line, a blank line between
// blocks, three underlines for a gap.
func Plain(blocks []Node) string {
	var b strings.Builder
	for i, n := range blocks {
		if i > 0 {
			b.WriteString("\n\n")
		}
		if n.Kind == Paragraph {
			plain(&b, n.Children)
			continue
		}
		for j, e := range n.Children {
			if j > 0 {
				b.WriteByte('\n')
			}
			b.WriteString("• ")
			plain(&b, e.Children)
		}
	}
	return b.String()
}

func plain(b *strings.Builder, nodes []Node) {
	for _, n := range nodes {
		switch n.Kind {
		case Text:
			b.WriteString(n.Text)
		case Break:
			b.WriteByte('\n')
		case Gap:
			b.WriteString("___")
		default:
			plain(b, n.Children)
		}
	}
}

// Gaps lists the ids of the gaps in order. Cost: linear.
func Gaps(text string) []string {
	var out []string
	var walk func([]Node)
	walk = func(nodes []Node) {
		for _, n := range nodes {
			if n.Kind == Gap {
				out = append(out, n.Text)
			}
			walk(n.Children)
		}
	}
	walk(Read(text))
	return out
}
