package proof

import (
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/core/edit"
	"keenmagpie/core/message"
	"keenmagpie/core/placing"
	"keenmagpie/core/play"
	"keenmagpie/core/say"
)

// Cover says in which situation each reply is given, and which situations end
// without one.
type Cover struct {
	Replies []Covered `json:"replies"`
	Silent  []Silence `json:"silent"`
}

// Covered is a reply with a situation in which it is given, or why it never is.
type Covered struct {
	ID      string   `json:"id"`
	Given   bool     `json:"given"`
	Example *Example `json:"example,omitempty"`
	// Shadowed is the earlier reply that is given in its place, where its own
	// condition can hold.
	Shadowed string `json:"shadowed,omitempty"`
}

// Example is a sitting that leads to a situation: its moves, and what stands in the
// targets after them.
type Example struct {
	Moves   []play.Move         `json:"moves"`
	Targets map[string][]string `json:"targets"`
	Attempt int                 `json:"attempt"`
}

// Silence is a check that is followed by no reply.
type Silence struct {
	Outcome activity.Outcome `json:"outcome"`
	Last    bool             `json:"last"` // no attempt was left
	// Some says that others which come out so do get a reply.
	Some    bool     `json:"some"`
	Example *Example `json:"example"`
}

// Cover plays many sittings (arrangements near to what is right, near to what is
// wrong, each placement, and guesses), looks which replies come, and searches for
// those that did not come by putting right, one after the other, what their
// condition still lacks. A reply is said to be never given when none of it found a
// situation; that is certain for conditions that contradict themselves, and very
// likely for others. Cost: some ten thousand moves at most, and none without
// replies; nothing is known where the key is impossible.
func (p *Proof) Cover() Cover {
	if p.covered != nil {
		return *p.covered
	}
	out := Cover{Replies: []Covered{}, Silent: []Silence{}}
	p.covered = &out
	if len(p.doc.Replies) == 0 || p.ready() == nil {
		return out
	}
	game := p.ready()
	c := newCoverer(p, game)
	c.everything()
	for i := range p.doc.Replies {
		r := &p.doc.Replies[i]
		if r.Off {
			continue
		}
		this := Covered{ID: r.ID}
		if c.found[r.ID] == nil {
			c.search(i)
		}
		if this.Example = c.found[r.ID]; this.Example == nil {
			this.Shadowed = c.shadow(i)
		}
		this.Given = this.Example != nil
		out.Replies = append(out.Replies, this)
	}
	for _, outcome := range []activity.Outcome{activity.OutcomeRight, activity.OutcomePart, activity.OutcomeWrong} {
		for _, last := range []bool{false, true} {
			key := silence{outcome, last}
			if e := c.silent[key]; e != nil {
				out.Silent = append(out.Silent, Silence{outcome, last, c.answered[key], e})
			}
		}
	}
	return out
}

// CoverFindings are those that follow from which replies come. Cost: that of
// [Proof.Cover].
func (p *Proof) CoverFindings() []Finding {
	c := p.Cover()
	f := finder{Proof: p, out: []Finding{}}
	called := func(id string) message.Sentence {
		i := slices.IndexFunc(p.doc.Replies, func(r activity.Reply) bool { return r.ID == id })
		return say.Reply(p.doc, &p.doc.Replies[i])
	}
	for _, r := range c.Replies {
		switch {
		case r.Given:
		case r.Shadowed != "":
			f.add("reply-shadowed", warn, about{replies: []string{r.ID}},
				message.P{"reply": called(r.ID), "other": called(r.Shadowed)},
				mend{"before", message.P{"other": called(r.Shadowed)}, func(d *activity.Doc) {
					from := slices.IndexFunc(d.Replies, func(x activity.Reply) bool { return x.ID == r.ID })
					to := slices.IndexFunc(d.Replies, func(x activity.Reply) bool { return x.ID == r.Shadowed })
					moved := d.Replies[from]
					d.Replies = slices.Insert(slices.Delete(d.Replies, from, from+1), to, moved)
				}})
		default:
			f.add("reply-never", warn, about{replies: []string{r.ID}}, message.P{"reply": called(r.ID)})
		}
	}
	for _, s := range c.Silent {
		f.silent(s)
	}
	return f.out
}

// silent tells of checks after which nothing is said: all that come out so, or some.
func (f *finder) silent(s Silence) {
	outcome := message.Say(english, "outcome/"+string(s.Outcome), nil)
	code, severity, write := "outcome-silent", info, "write-reply"
	if s.Last {
		code, write = "attempts-silent", "write-reply-last"
		if s.Outcome != activity.OutcomeRight {
			severity = warn
		}
	}
	params := message.P{"outcome": outcome}
	if s.Some {
		code += "/some"
		params["example"] = f.situation(s.Example)
	}
	f.add(code, severity, about{}, params,
		mend{write, message.P{"outcome": outcome}, func(d *activity.Doc) { edit.AddReplyTo(d, s.Outcome, s.Last) }})
}

// situation names what stands where: "Chain in Upper, nothing in Lower".
func (f *finder) situation(e *Example) message.Sentence {
	var said []any
	const most = 4
	for i := range f.doc.Targets {
		id := f.doc.Targets[i].ID
		var items []string
		for _, piece := range e.Targets[id] {
			if p, ok := f.parts.Piece(piece); ok {
				items = append(items, f.doc.Items[f.parts.Pieces[p].Item].ID)
			}
		}
		if target := f.targetName(id); len(items) == 0 {
			said = append(said, message.Say(english, "situation/nothing", message.P{"target": target}))
		} else {
			said = append(said, message.Say(english, "situation", message.P{"items": f.itemNames(items), "target": target}))
		}
	}
	if len(said) > most {
		said = append(said[:most], "…")
	}
	return message.List(message.ListClauses, said)
}

// Try is the shortest sitting found in which a reply is given: the example of the
// reply cover with every move left out that it does not need. given is nil where no
// sitting was found, and shadowed is then the reply that takes its place, if any.
// Cost: that of [Proof.Cover], and a sitting for each move of the example.
func (p *Proof) Try(reply string) (given []play.Move, shadowed string) {
	for _, c := range p.Cover().Replies {
		if c.ID == reply && c.Example == nil {
			return nil, c.Shadowed
		} else if c.ID == reply {
			return shortened(p.ready(), reply, c.Example.Moves), ""
		}
	}
	return nil, ""
}

// shortened leaves out moves without which the reply is given with the last one all
// the same.
func shortened(game *play.Game, reply string, moves []play.Move) []play.Move {
	given := func(moves []play.Move) bool {
		state := game.Open(1)
		replies := state.Opening
		for i, m := range moves {
			m.N = i + 1
			var a play.Answer
			if state, a = game.Move(state, m); a.Result == placing.EffectRejected {
				return false
			}
			replies = a.Replies
		}
		replies = append(replies[:len(replies):len(replies)], game.Review(state)...)
		return slices.ContainsFunc(replies, func(g play.Given) bool { return g.ID == reply })
	}
	moves = slices.Clone(moves)
	for before := len(moves) + 1; len(moves) < before; {
		before = len(moves) // what one move was needed for may be gone with a later one
		for i := 0; i < len(moves)-1; {
			if fewer := slices.Delete(slices.Clone(moves), i, i+1); given(fewer) {
				moves = fewer
			} else {
				i++
			}
		}
	}
	for i := range moves {
		moves[i].N = i + 1
	}
	return moves
}
