package qti

import (
	"cmp"
	"slices"
	"strings"

	"keenmagpie/core/richtext"
)

// surroundings are what stands before the interaction: instructions and pictures.
func (m *importing) surroundings() {
	var blocks []richtext.Node
	if p := m.at.child("qti-prompt"); p != nil {
		blocks = append(blocks, richtext.Node{Kind: richtext.Paragraph, Children: m.inline(p)})
	}
	var around []richtext.Node
	var walk func(*node)
	walk = func(n *node) {
		for _, c := range n.in {
			switch {
			case c == m.at || c.name == "":
				if c.name == "" && strings.TrimSpace(c.text) != "" && n.name == "qti-item-body" {
					around = append(around, richtext.Node{Kind: richtext.Paragraph, Children: []richtext.Node{{Kind: richtext.Text, Text: strings.TrimSpace(c.text)}}})
				}
			case holds(c, m.at):
				walk(c)
			case c.name == "qti-rubric-block" || c.name == "qti-feedback-block" || c.name == "qti-stylesheet":
				m.note(c, m.root.get("identifier"), "beside", "A %s beside the task is left out.", strings.TrimPrefix(c.name, "qti-"))
			default:
				around = append(around, m.rich(c)...)
			}
		}
	}
	walk(m.root.child("qti-item-body"))
	m.doc.Instructions = m.short(m.root, richtext.Write(append(around, blocks...)), 4000)
	for _, n := range m.root.children("qti-assessment-stimulus-ref", "qti-companion-materials-info") {
		m.note(n, m.root.get("identifier"), "stimulus", "What is shown beside “%s” stands in another file and is left out.", m.title())
	}
}

func holds(n, inner *node) (yes bool) {
	n.all(func(c *node) { yes = yes || c == inner })
	return yes
}

// rich reads blocks of HTML.
func (m *importing) rich(n *node) []richtext.Node {
	switch n.name {
	case "ul", "ol":
		list := richtext.Node{Kind: map[string]string{"ul": richtext.List, "ol": richtext.Numbered}[n.name]}
		for _, li := range n.children("li") {
			list.Children = append(list.Children, richtext.Node{Kind: richtext.Entry, Children: m.inline(li)})
		}
		return []richtext.Node{list}
	case "table":
		m.note(n, m.root.get("identifier"), "table", "A table is taken as its rows, one a line.")
		var out []richtext.Node
		n.all(func(c *node) {
			if c.name == "tr" {
				line := richtext.Node{Kind: richtext.Paragraph}
				for i, cell := range c.children("td", "th") {
					if i > 0 {
						line.Children = append(line.Children, richtext.Node{Kind: richtext.Text, Text: " · "})
					}
					line.Children = append(line.Children, m.inline(cell)...)
				}
				out = append(out, line)
			}
		})
		return out
	}
	blocks := false
	for _, c := range n.children() {
		blocks = blocks || slices.Contains([]string{"p", "div", "ul", "ol", "table", "blockquote", "section", "h1", "h2", "h3", "h4", "h5", "h6"}, c.name)
	}
	if !blocks {
		in := m.inline(n)
		if len(in) == 0 {
			return nil
		}
		return []richtext.Node{{Kind: richtext.Paragraph, Children: in}}
	}
	var out []richtext.Node
	for _, c := range n.in {
		if c.name != "" {
			out = append(out, m.rich(c)...)
		} else if strings.TrimSpace(c.text) != "" {
			out = append(out, richtext.Node{Kind: richtext.Paragraph, Children: []richtext.Node{{Kind: richtext.Text, Text: strings.TrimSpace(c.text)}}})
		}
	}
	return out
}

// inline reads what stands in a line.
func (m *importing) inline(n *node) (out []richtext.Node) {
	for _, c := range n.in {
		switch c.name {
		case "":
			text := c.text
			lead, trail := strings.TrimLeft(text, " \t\r\n") != text, strings.TrimRight(text, " \t\r\n") != text
			text = strings.Join(strings.Fields(text), " ")
			if lead && len(out) > 0 {
				text = " " + text
			}
			if trail && strings.TrimSpace(text) != "" {
				text += " "
			}
			if text != "" {
				out = append(out, richtext.Node{Kind: richtext.Text, Text: text})
			}
		case "em", "i":
			out = append(out, richtext.Node{Kind: richtext.Emphasis, Children: m.inline(c)})
		case "strong", "b":
			out = append(out, richtext.Node{Kind: richtext.Strong, Children: m.inline(c)})
		case "br":
			out = append(out, richtext.Node{Kind: richtext.Break})
		case "a":
			if href := c.get("href"); strings.HasPrefix(href, "https:") || strings.HasPrefix(href, "mailto:") {
				out = append(out, richtext.Node{Kind: richtext.Link, Text: href, Children: m.inline(c)})
			} else {
				out = append(out, m.inline(c)...)
			}
		case "qti-gap":
			if id := m.targets[c.get("identifier")]; id != "" {
				out = append(out, richtext.Node{Kind: richtext.Gap, Text: id})
			}
		case "img", "object", "video", "audio":
			m.note(c, m.root.get("identifier"), "inline-medium", "A %s in the text is left out: “%s”.", c.name, clipped(cmp.Or(c.get("alt"), c.get("src"), c.get("data")), 60))
		case "qti-feedback-inline", "qti-feedback-block", "qti-template-inline", "qti-template-block", "qti-rubric-block", "qti-info-control", "script", "style":
			m.note(c, m.root.get("identifier"), "beside", "A %s in the text is left out.", strings.TrimPrefix(c.name, "qti-"))
		case "math":
			m.note(c, m.root.get("identifier"), "formula", "A formula in the text is taken as its text.")
			out = append(out, richtext.Node{Kind: richtext.Text, Text: c.plain()})
		case "qti-printed-variable":
			out = append(out, richtext.Node{Kind: richtext.Text, Text: map[string]string{score: "{score}", maximum: "{points}"}[c.get("identifier")]})
		default:
			out = append(out, m.inline(c)...)
		}
	}
	return out
}
