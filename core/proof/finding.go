package proof

import (
	"context"
	"slices"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/message"
)

// Finding is something that should be looked at.
type Finding struct {
	Code     string   `json:"code"`
	Severity Severity `json:"severity" enum:"stop,warn,info"`
	// Parts are the ids of all that it is about: items, targets, scenery, replies.
	Parts   []string `json:"parts"`
	Message string   `json:"message"`
	// Line is the message by its code and parameters, and MendLines are those of Mends.
	Line message.Line `json:"line"`
	// Mends say what would put it right, each by itself, where something would; see [Mend].
	Mends     []string       `json:"mends"`
	MendLines []message.Line `json:"mendLines"`
	// At are the parts by kind.
	At      activity.Selection `json:"at"`
	Replies []string           `json:"replies,omitempty"`
	mends   []func(*activity.Doc)
}

// Severity is how much a finding matters.
type Severity string

const (
	stop Severity = "stop" // it is in the way of a release
	warn Severity = "warn"
	info Severity = "info"
)

// finder collects findings.
type finder struct {
	*Proof
	out []Finding
}

// about is what a finding concerns.
type about struct{ items, targets, scenery, replies []string }

// mend is something that would put a finding right: its code in the catalogue behind
// "mend/", with what fills it in, and what it does.
type mend struct {
	code   string
	params message.P
	do     func(*activity.Doc)
}

// add adds a finding by its line's code: its own, and which sentence of it behind a slash.
func (f *finder) add(line string, severity Severity, at about, params message.P, mends ...mend) {
	parts := slices.Concat(at.items, at.targets, at.scenery, at.replies)
	if parts == nil {
		parts = []string{}
	}
	code, _, _ := strings.Cut(line, "/")
	said := message.Line{Code: line, Params: params}
	found := Finding{Code: code, Severity: severity, Parts: parts, Message: said.In(english), Line: said, Mends: []string{}, MendLines: []message.Line{},
		At: activity.Selection{Items: orNone(at.items), Targets: orNone(at.targets), Scenery: orNone(at.scenery)}, Replies: at.replies}
	for _, m := range mends {
		said := message.Line{Code: "mend/" + m.code, Params: m.params}
		found.Mends, found.MendLines, found.mends = append(found.Mends, said.In(english)), append(found.MendLines, said), append(found.mends, m.do)
	}
	f.out = append(f.out, found)
}

func orNone(list []string) []string {
	if list == nil {
		return []string{}
	}
	return list
}

// Mend is the document with a finding put right by one of its mends; ok is false where
// there is no such finding any more. The finding is given by its code and parts.
func Mend(ctx context.Context, doc *activity.Doc, code string, parts []string, mend string) (mended *activity.Doc, ok bool) {
	p := New(ctx, doc)
	// Those of replies take longest to find, and are mostly not the ones.
	for _, find := range []func() []Finding{p.Findings, p.CoverFindings} {
		for _, f := range find() {
			if k := slices.Index(f.Mends, mend); f.Code == code && slices.Equal(f.Parts, parts) && k >= 0 {
				out := doc.Clone()
				f.mends[k](out)
				return out, true
			}
		}
	}
	return nil, false
}

// Findings are those of the document itself; what replies are given when is that
// of [Proof.Cover]. While nothing is right anywhere, only what stays true
// whatever comes is found. Cost: O(solutions × items × targets), and that of
// [Proof.Solve].
func (p *Proof) Findings() []Finding {
	f := finder{Proof: p, out: []Finding{}}
	if p.Solve().State == Keyed {
		f.impossible()
		f.cells()
		f.room()
		f.nowhere()
		f.unneeded()
		f.lanes()
		f.bouncing()
		f.everythingIn()
	}
	f.tags()
	f.playing()
	f.words()
	f.places()
	f.illegible()
	f.contrast()
	rank := map[Severity]int{stop: 0, warn: 1, info: 2}
	slices.SortStableFunc(f.out, func(a, b Finding) int { return rank[a.Severity] - rank[b.Severity] })
	return f.out
}

func (f *finder) solutionName(i int) message.Sentence {
	switch s := &f.doc.Key.Solutions[i]; {
	case len(f.doc.Key.Solutions) == 1:
		return message.Say(english, "part/key", nil)
	case s.Name != "":
		return message.Say(english, "part/solution-named", message.P{"name": s.Name})
	}
	return message.Say(english, "part/solution", message.P{"n": i + 1})
}
