package pack

import (
	"fmt"
	"maps"
	"slices"

	"keenmagpie/core/activity"
	"keenmagpie/formats/bundle"
)

// Loss is what a package for a platform cannot carry.
type Loss struct {
	Part    string `json:"part"`
	Code    string `json:"code"`
	Message string `json:"message"`
	// Activity is the title of the activity, where a package has several.
	Activity string `json:"activity,omitempty"`
}

// remembers is how many characters a platform keeps by SCORM 1.2.
const remembers = 4096

// Losses lists what a package cannot carry, part by part. What is played is the same
// everywhere; it is what the platform gets to know and keeps that differs.
func Losses(as As, b bundle.Bundle) []Loss {
	out := []Loss{}
	add := func(part, code, message string, args ...any) {
		out = append(out, Loss{Part: part, Code: code, Message: fmt.Sprintf(message, args...)})
	}
	if as == Bundle {
		return out
	}
	if as == Web {
		add("results", "no-results", "Nobody gets the results: they are seen by the learner and kept nowhere.")
		return out
	}
	bands := b.Series != nil && len(b.Series.Bands) > 0
	size := 200
	for _, id := range slices.Sorted(maps.Keys(b.Documents())) {
		d := b.Documents()[id]
		bands = bands || len(d.Marks.Bands) > 0
		parts := activity.NewParts(d)
		size += 60 + 14*len(parts.Pieces) + 2*len(d.Items) + 4*len(d.Targets)
		if d.Play.TimeLimit > 0 {
			add(id, "time-by-learner", "More time for single learners is the release's, not the package's: everyone has the time limit of “%s”.", d.Title)
		}
		part := false
		for _, t := range d.Targets {
			part = part || t.Holds != 1
			if as == Scorm12 && longestAnswer(parts, t.ID) > 255 {
				add(t.ID, "answer-length", "What stands in “%s” can be longer than the 255 characters that SCORM 1.2 keeps of an answer; the rest is left out of the platform’s list of answers.", t.Name)
			}
		}
		if part {
			add(id, "partly-right", "A target of “%s” that is partly right is listed as incorrect: the platform’s list of answers knows nothing between. The score is exact.", d.Title)
		}
		if as == Scorm12 && d.Marks.Negative {
			add(id, "below-zero", "A score below 0 in “%s” is reported as 0: SCORM 1.2 has none.", d.Title)
		}
	}
	if bands {
		add("bands", "bands", "The names of bands are seen by the learner; the platform gets the score.")
	}
	if as == Scorm12 {
		add("progress", "progress", "How far somebody has come is not reported: SCORM 1.2 knows complete and incomplete.")
		if size > remembers {
			add("resume", "resume-length", "What has to be kept to go on later can be longer than the %d characters of SCORM 1.2: somebody who leaves in the middle may go back to their last check, or to the start. SCORM 2004 keeps 64,000.", remembers)
		}
	}
	return out
}

// longestAnswer is how long the list of all pieces of a target can be.
func longestAnswer(p *activity.Parts, target string) int {
	n := 0
	for _, piece := range p.Pieces {
		if t, ok := p.Target(target); ok && p.LetsIn(t, piece.Item) {
			n += len(p.Doc.Items[piece.Item].ID) + len(target) + 2
		}
	}
	return n
}
