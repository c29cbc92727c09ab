package richtext

import (
	"reflect"
	"strconv"
	"strings"
	"unicode"
)

// Write is a text that reads as this tree: what an editor has made of a text goes back
// into the document by it. Of what the small Markdown cannot say, the words are kept:
// spaces at the ends of what is stressed move out of it, stress within the same stress is
// one, and what no signs can tell apart is not stressed. A text that was read and is
// written reads the same but for that. Cost: some readings, up to some hundred where
// stresses stand close together.
func Write(blocks []Node) string {
	var out []string
	for _, b := range blocks {
		for _, one := range tidied(b) {
			out = append(out, block(one))
		}
	}
	return strings.Join(out, "\n\n")
}

// tidied is a block as it can be read: a paragraph of several with blank lines between
// them is several, and what is empty is none.
func tidied(b Node) []Node {
	if b.Kind == Paragraph {
		var out []Node
		for _, part := range apart(b.Children) {
			out = append(out, Node{Kind: Paragraph, Children: part})
		}
		return out
	}
	list := Node{Kind: b.Kind}
	for _, e := range b.Children {
		var words []Node
		for i, part := range apart(e.Children) {
			if i > 0 {
				words = append(words, Node{Kind: Break})
			}
			words = append(words, part...)
		}
		if len(words) > 0 {
			list.Children = append(list.Children, Node{Kind: Entry, Children: words})
		}
	}
	if len(list.Children) == 0 {
		return nil
	}
	return []Node{list}
}

// apart parts words at their blank lines, with neither spaces nor breaks at the ends.
func apart(nodes []Node) [][]Node {
	var out [][]Node
	var line, part []Node
	endLine := func() bool {
		words := trimmed(line)
		line = nil
		if len(words) == 0 {
			return false
		}
		if len(part) > 0 {
			part = append(part, Node{Kind: Break})
		}
		part = append(part, words...)
		return true
	}
	endPart := func() {
		if len(part) > 0 {
			out = append(out, part)
		}
		part = nil
	}
	for _, n := range unspaced(nodes, "") {
		if n.Kind != Break {
			line = append(line, n)
		} else if !endLine() {
			endPart()
		}
	}
	endLine()
	endPart()
	return out
}

// trimmed takes the spaces from the ends of a line.
func trimmed(nodes []Node) []Node {
	if len(nodes) > 0 && nodes[0].Kind == Text {
		if nodes[0].Text = strings.TrimLeftFunc(nodes[0].Text, unicode.IsSpace); nodes[0].Text == "" {
			return trimmed(nodes[1:])
		}
	}
	if last := len(nodes) - 1; last >= 0 && nodes[last].Kind == Text {
		if nodes[last].Text = strings.TrimRightFunc(nodes[last].Text, unicode.IsSpace); nodes[last].Text == "" {
			return trimmed(nodes[:last])
		}
	}
	return nodes
}

// unspaced moves spaces out of the ends of what is stressed, where no sign can stand, and
// joins what lies side by side; within names the stresses that it is in already.
func unspaced(nodes []Node, within string) []Node {
	var out []Node
	for _, n := range nodes {
		switch n.Kind {
		case Emphasis, Strong, Link:
			inside := unspaced(n.Children, within+" "+n.Kind)
			if strings.Contains(within, n.Kind) {
				out = append(out, inside...)
				continue
			}
			before, after := "", ""
			if len(inside) > 0 && inside[0].Kind == Text {
				rest := strings.TrimLeftFunc(inside[0].Text, unicode.IsSpace)
				before, inside[0].Text = inside[0].Text[:len(inside[0].Text)-len(rest)], rest
			}
			if last := len(inside) - 1; last >= 0 && inside[last].Kind == Text {
				rest := strings.TrimRightFunc(inside[last].Text, unicode.IsSpace)
				after, inside[last].Text = inside[last].Text[len(rest):], rest
			}
			if before != "" {
				out = append(out, Node{Kind: Text, Text: before})
			}
			if inside = full(inside); len(inside) > 0 {
				out = append(out, Node{Kind: n.Kind, Text: n.Text, Children: inside})
			}
			if after != "" {
				out = append(out, Node{Kind: Text, Text: after})
			}
		default:
			out = append(out, n)
		}
	}
	return merged(out)
}

// full is without texts that are empty.
func full(nodes []Node) []Node {
	var out []Node
	for _, n := range nodes {
		if n.Kind != Text || n.Text != "" {
			out = append(out, n)
		}
	}
	return out
}

// writer is a way to write: with which signs, and how much is marked as meaning nothing.
type writer struct {
	// underlines has a bit for each stress, in order: whether underlines say it, or stars.
	underlines, stresses int
	// escapes: nothing; a sign that would begin an entry of a list; every sign.
	escapes int
	b       strings.Builder
}

// most is for how many stresses of a block every choice of signs is tried.
const most = 7

// block writes one block in the plainest way that reads as it again.
func block(n Node) string {
	for escapes := range 3 {
		for underlines := 0; ; underlines++ {
			w := writer{underlines: underlines, escapes: escapes}
			w.block(n)
			text := w.b.String()
			if back := Read(text); len(back) == 1 && reflect.DeepEqual(back[0], n) {
				return text
			}
			if underlines >= 1<<min(w.stresses, most)-1 {
				break
			}
		}
	}
	// It cannot be said in these signs: the words are kept.
	w := writer{escapes: 2}
	w.block(unstressed(n))
	return w.b.String()
}

// unstressed is without emphasis.
func unstressed(n Node) Node {
	out := Node{Kind: n.Kind, Text: n.Text}
	for _, c := range n.Children {
		c = unstressed(c)
		if c.Kind == Emphasis || c.Kind == Strong {
			out.Children = append(out.Children, c.Children...)
		} else {
			out.Children = append(out.Children, c)
		}
	}
	out.Children = merged(out.Children)
	return out
}

func (w *writer) block(n Node) {
	if n.Kind == Paragraph {
		w.inline(n.Children, true)
		return
	}
	for i, e := range n.Children {
		if i > 0 {
			w.b.WriteByte('\n')
		}
		if n.Kind == Numbered {
			w.b.WriteString(strconv.Itoa(i+1) + ". ")
		} else {
			w.b.WriteString("- ")
		}
		w.inline(e.Children, false)
	}
}

// inline writes words; begins says that they stand at the beginning of a line.
func (w *writer) inline(nodes []Node, begins bool) {
	for _, n := range nodes {
		switch n.Kind {
		case Text:
			w.text(n.Text, begins)
		case Break:
			w.b.WriteByte('\n')
		case Gap:
			w.b.WriteString("[[" + n.Text + "]]")
		case Link:
			w.b.WriteByte('[')
			w.inline(n.Children, false)
			w.b.WriteString("](" + strings.NewReplacer(")", "%29", " ", "%20", "\n", "").Replace(n.Text) + ")")
		default:
			sign := "*"
			if w.underlines>>w.stresses&1 == 1 {
				sign = "_"
			}
			w.stresses++
			if n.Kind == Strong {
				sign += sign
			}
			w.b.WriteString(sign)
			w.inline(n.Children, false)
			w.b.WriteString(sign)
		}
		begins = n.Kind == Break
	}
}

func (w *writer) text(s string, begins bool) {
	for i := range len(s) {
		sign := strings.IndexByte(`\*_[]-`, s[i]) >= 0
		if w.escapes == 2 && sign || w.escapes == 1 && begins && i == 0 && sign {
			w.b.WriteByte('\\')
		}
		w.b.WriteByte(s[i])
	}
}
