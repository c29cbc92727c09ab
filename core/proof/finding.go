package proof

import (
	"context"
	"fmt"
	"slices"

	"keenmagpie/core/activity"
)

// Finding is something that should be looked at.
type Finding struct {
	Code     string   `json:"code"`
	Severity Severity `json:"severity" enum:"stop,warn,info"`
	// Parts are the ids of all that it is about: items, targets, scenery, replies.
	Parts   []string `json:"parts"`
	Message string   `json:"message"`
	// Mends say what would put it right, each by itself, where something would; see [Mend].
	Mends []string `json:"mends"`
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

func (f *finder) add(code string, severity Severity, at about, message, label string, mend func(*activity.Doc)) {
	parts := slices.Concat(at.items, at.targets, at.scenery, at.replies)
	if parts == nil {
		parts = []string{}
	}
	f.out = append(f.out, Finding{code, severity, parts, message, []string{},
		activity.Selection{Items: orNone(at.items), Targets: orNone(at.targets), Scenery: orNone(at.scenery)}, at.replies, nil})
	if mend != nil {
		f.or(label, mend)
	}
}

// or adds a mend to the finding that was added last.
func (f *finder) or(label string, mend func(*activity.Doc)) {
	last := &f.out[len(f.out)-1]
	last.Mends, last.mends = append(last.Mends, label), append(last.mends, mend)
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

func (f *finder) solutionName(i int) string {
	switch s := &f.doc.Key.Solutions[i]; {
	case len(f.doc.Key.Solutions) == 1:
		return "the key"
	case s.Name != "":
		return "solution “" + s.Name + "”"
	}
	return fmt.Sprintf("solution %d", i+1)
}
