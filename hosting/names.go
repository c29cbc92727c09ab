package hosting

import (
	"crypto/hmac"
	"crypto/rand"
	"crypto/sha256"
	"encoding/base32"
	"encoding/json"
	"strings"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
)

// Names are the ids under which a release's learners know its parts. They are
// random, so that they say nothing; the judge works with the author's own.
type Names struct {
	Items   map[string]string `json:"items"`
	Targets map[string]string `json:"targets"`
	Pics    map[string]string `json:"media"`

	itemBack, targetBack, mediaBack map[string]string
}

// newNames gives the parts of a document names, each made by one function: of what
// kind it is, and its id.
func newNames(doc *activity.Doc, make func(kind, id string) string) *Names {
	n := mediaNames(doc.Media(), make)
	for _, x := range doc.Items {
		n.Items[x.ID] = make("p", x.ID)
	}
	for _, x := range doc.Targets {
		n.Targets[x.ID] = make("t", x.ID)
	}
	n.invert()
	return n
}

// LearnersNames makes the names under which the learners of a new release know the parts
// of a document, as a release keeps them.
func LearnersNames(doc *activity.Doc) string { return newNames(doc, random).String() }

// mediaNames are names for pictures and sounds alone.
func mediaNames(media []string, make func(kind, id string) string) *Names {
	n := &Names{Items: map[string]string{}, Targets: map[string]string{}, Pics: map[string]string{}}
	for _, id := range media {
		n.Pics[id] = make("m", id)
	}
	n.invert()
	return n
}

// random makes an id that says nothing: 50 random bits.
func random(kind, _ string) string { return kind + strings.ToLower(rand.Text()[:10]) }

// secretly makes ids that are the same each time and say nothing to whoever does not
// know the secret: 50 bits of an HMAC.
func secretly(secret string) func(kind, id string) string {
	return func(kind, id string) string {
		h := hmac.New(sha256.New, []byte(secret))
		h.Write([]byte(kind + id))
		return kind + strings.ToLower(base32.StdEncoding.EncodeToString(h.Sum(nil))[:10])
	}
}

func readNames(body string) (*Names, error) {
	n := &Names{}
	if err := json.Unmarshal([]byte(body), n); err != nil {
		return nil, err
	}
	n.invert()
	return n, nil
}

func (n *Names) invert() {
	turned := func(m map[string]string) map[string]string {
		out := make(map[string]string, len(m))
		for k, v := range m {
			out[v] = k
		}
		return out
	}
	n.itemBack, n.targetBack, n.mediaBack = turned(n.Items), turned(n.Targets), turned(n.Pics)
}

func (n *Names) String() string {
	b, err := json.Marshal(n)
	if err != nil {
		panic(err) // maps of strings
	}
	return string(b)
}

func swap(m map[string]string, piece string) string {
	item, copied, has := strings.Cut(piece, "~")
	if has {
		return m[item] + "~" + copied
	}
	return m[item]
}

// Piece, Target and Media are the learner's ids; see [play.Names].
func (n *Names) Piece(id string) string { return swap(n.Items, id) }

func (n *Names) Target(id string) string { return n.Targets[id] }

func (n *Names) Media(id string) string { return n.Pics[id] }

// move puts the author's ids into a learner's move. An unknown id becomes one
// that no part has, and the core rejects it.
func (n *Names) move(m play.Move) play.Move {
	if m.Piece != "" {
		m.Piece = swap(n.itemBack, m.Piece)
		if m.Piece == "" || m.Piece[0] == '~' {
			m.Piece = "?"
		}
	}
	if m.Target != "" {
		if m.Target = n.targetBack[m.Target]; m.Target == "" {
			m.Target = "?"
		}
	}
	return m
}

// picture finds the picture that a learner knows by an id.
func (n *Names) picture(id string) (string, bool) {
	original, ok := n.mediaBack[id]
	return original, ok
}

// picture finds the picture of a release that a learner knows by an id.
func (h *Hosted) picture(id string) (string, bool) {
	for _, st := range h.Stages {
		if st.Names != nil {
			if found, ok := st.Names.picture(id); ok {
				return found, true
			}
		}
	}
	if h.Series != nil {
		return h.Series.pages.picture(id)
	}
	return "", false
}

var _ play.Names = (*Names)(nil)
