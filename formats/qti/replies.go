package qti

import (
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/richtext"
)

// feedbackRules choose what is told, and feedback is what that says.
func (x *exporting) feedbackRules() (list []*node) {
	var chain *node
	for i := range x.doc.Replies {
		r := &x.doc.Replies[i]
		if r.Off {
			continue
		}
		condition, ok := x.condition(r.When)
		if !ok || r.Moment != activity.MomentChecked && r.Moment != activity.MomentDone || r.Say.Text == "" {
			x.lose(r.ID, "reply", "The reply “%s” is not there: when it is given, or what it shows, cannot be said.", r.ID)
			continue
		}
		give := set("FEEDBACK", el("qti-multiple", nil, variable("FEEDBACK"), base("identifier", safe(r.ID))))
		if r.Also {
			list = append(list, when(condition, give))
			continue
		}
		name := "qti-response-else-if"
		if chain == nil {
			name, chain = "qti-response-if", el("qti-response-condition", nil)
			list = append(list, chain)
		}
		chain.add(el(name, nil, condition, give))
	}
	return list
}

// condition is that of a reply, as far as it can be said.
func (x *exporting) condition(c *activity.Condition) (*node, bool) {
	if c == nil {
		return base("boolean", "true"), true
	}
	several := func(list []activity.Condition) ([]*node, bool) {
		out := []*node{}
		for i := range list {
			n, ok := x.condition(&list[i])
			if !ok {
				return nil, false
			}
			out = append(out, n)
		}
		return out, true
	}
	switch {
	case len(c.All) > 0:
		list, ok := several(c.All)
		return and(list...), ok
	case len(c.Any) > 0:
		list, ok := several(c.Any)
		return or(list...), ok
	case len(c.None) > 0:
		list, ok := several(c.None)
		return not(or(list...)), ok
	case c.Outcome != "":
		return el("qti-match", nil, variable(outcome), base("identifier", string(c.Outcome))), true
	case c.Item != "" && c.In != "" && x.kind != ordering:
		i, ok := x.parts.Item(c.Item)
		t, there := x.parts.Target(c.In)
		if !ok || !there {
			return nil, false
		}
		return and(not(el("qti-is-null", nil, variable(response))), or(x.members(i, t)...)), true
	}
	return nil, false
}

func (x *exporting) feedback() (list []*node) {
	for i := range x.doc.Replies {
		r := &x.doc.Replies[i]
		if _, ok := x.condition(r.When); r.Off || !ok || r.Moment != activity.MomentChecked && r.Moment != activity.MomentDone || r.Say.Text == "" {
			continue
		}
		body := x.said(r)
		list = append(list, el("qti-modal-feedback", at("outcome-identifier", "FEEDBACK", "identifier", safe(r.ID), "show-hide", "show"), el("qti-content-body", nil, body...)))
	}
	return list
}

// said is a reply's text, with what is known of the score in it.
func (x *exporting) said(r *activity.Reply) (list []*node) {
	text := r.Say.Text
	for _, word := range []string{"item", "target", "right", "total", "left", "attempt", "percent"} {
		if strings.Contains(text, "{"+word+"}") {
			x.lose(r.ID, "words", "“{%s}” in the reply “%s” is left out.", word, r.ID)
			text = strings.ReplaceAll(text, "{"+word+"}", "…")
		}
	}
	for line := range strings.SplitSeq(text, "\n\n") {
		p := el("p", nil)
		for rest := line; rest != ""; {
			k := strings.IndexByte(rest, '{')
			word, id := "", ""
			for name, variable := range map[string]string{"{score}": score, "{points}": maximum} {
				if k >= 0 && strings.HasPrefix(rest[k:], name) {
					word, id = name, variable
				}
			}
			if word == "" {
				p.add(txt(strings.NewReplacer("*", "", "_", " ").Replace(rest)))
				break
			}
			if k > 0 {
				p.add(txt(rest[:k]))
			}
			p.add(el("qti-printed-variable", at("identifier", id)))
			rest = rest[k+len(word):]
		}
		list = append(list, p)
	}
	if r.Say.Picture != "" {
		list = append(list, el("p", nil, x.image(r.Say.Picture, r.Say.Alt, "", "")))
	}
	return list
}

// feedback takes over what is said at the end, where it depends on the outcome alone.
func (m *importing) feedback() {
	said := map[string]string{} // identifier to the outcome that it is said at
	if p := m.root.child("qti-response-processing"); p != nil {
		p.all(func(n *node) {
			if n.name != "qti-response-if" && n.name != "qti-response-else-if" && n.name != "qti-response-else" {
				return
			}
			in := n.children()
			at := ""
			switch {
			case n.name == "qti-response-else":
				at = "else"
			case len(in) > 0 && in[0].name == "qti-match" && in[0].child("qti-variable") != nil && in[0].child("qti-variable").get("identifier") == outcome && in[0].child("qti-base-value") != nil:
				at = in[0].child("qti-base-value").plain()
			case len(in) > 0 && isCorrect(in[0]):
				at = "right"
			}
			for _, set := range n.children("qti-set-outcome-value") {
				set.all(func(v *node) {
					if v.name == "qti-base-value" && v.get("base-type") == "identifier" && at != "" && set.get("identifier") != outcome {
						said[v.plain()] = at
					}
				})
			}
		})
	}
	for _, f := range m.root.children("qti-modal-feedback") {
		id := f.get("identifier")
		var blocks = m.rich(f)
		at, known := said[id]
		if !known {
			m.note(f, id, "feedback", "When “%s” is said cannot be taken over: it is left out.", clipped(f.plain(), 60))
			continue
		}
		r := activity.NewReply(activity.FreshID(m.taken, strings.TrimPrefix(id, "_")), activity.MomentChecked)
		r.Say.Text = clipped(richtext.Write(blocks), 4000)
		switch at {
		case "right", "part", "wrong":
			r.When = &activity.Condition{Outcome: activity.Outcome(at)}
			r.Tone = map[string]activity.Tone{"right": activity.ToneRight, "part": activity.ToneNear, "wrong": activity.ToneWrong}[at]
		case "else":
			r.When, r.Tone = &activity.Condition{None: []activity.Condition{{Outcome: activity.OutcomeRight}}}, activity.ToneWrong
		}
		m.doc.Replies = append(m.doc.Replies, r)
	}
}
