// Package qti reads and writes assessment items of QTI: 3.0, and reading also 2.1 and 2.2.
//
//	item, losses, err := qti.Export(doc, qti.Options{})   // one item's XML
//	got, notes, err := qti.Import(item, qti.Source{})      // documents, and what was left out
//
// Which interaction an activity becomes, and back:
//
//	text with gaps                           gap match
//	targets over one picture                 graphic gap match
//	one lane with an order of everything     order
//	everything else                          match: items, targets
//
// What a format cannot say is told as [Loss] and never dropped silently; of what is read,
// each thing that was left out or understood only in part is a [Note] with its line.
package qti

import "keenmagpie/formats/pack"

// Loss is what an item cannot say of an activity.
type Loss = pack.Loss

// Note is something that was left out when it was read, or understood only in part.
type Note struct {
	Source  string `json:"source"`
	Line    int    `json:"line"`
	Part    string `json:"part"`
	Code    string `json:"code"`
	Message string `json:"message"`
}

// Namespace is that of QTI 3.0.
const Namespace = "http://www.imsglobal.org/xsd/imsqtiasi_v3p0"

// Names that both directions know.
const (
	response = "RESPONSE"
	score    = "SCORE"
	maximum  = "MAXSCORE"
	outcome  = "OUTCOME" // right, part or wrong

	gapMatch     = "qti-gap-match-interaction"
	graphicGaps  = "qti-graphic-gap-match-interaction"
	matching     = "qti-match-interaction"
	ordering     = "qti-order-interaction"
	graphicOrder = "qti-graphic-order-interaction"
	associating  = "qti-associate-interaction"
	positioning  = "qti-position-object-interaction"
)
