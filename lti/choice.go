package lti

import (
	"time"

	"github.com/go-jose/go-jose/v4/jwt"
)

// Item is one thing that a course is to link to.
type Item struct {
	Title  string
	URL    string
	Custom map[string]string
	// Points and Resource are of its column in the gradebook; without points it has none.
	Points   string
	Resource string
	// From and Until are when it can be begun.
	From, Until *time.Time
}

type contentItem struct {
	Type   string            `json:"type"`
	Title  string            `json:"title"`
	URL    string            `json:"url"`
	Custom map[string]string `json:"custom,omitempty"`
	Line   *lineItem         `json:"lineItem,omitempty"`
	From   *window           `json:"available,omitempty"`
	Frame  *size             `json:"iframe,omitempty"`
}

type lineItem struct {
	ID       string  `json:"id,omitempty"`
	Label    string  `json:"label,omitempty"`
	Most     float64 `json:"scoreMaximum"`
	Resource string  `json:"resourceId,omitempty"`
	Link     string  `json:"resourceLinkId,omitempty"`
}

type window struct {
	From  *time.Time `json:"startDateTime,omitempty"`
	Until *time.Time `json:"endDateTime,omitempty"`
}

type size struct {
	Width  int `json:"width"`
	Height int `json:"height"`
}

// Chosen is the token by which what was chosen goes back to the platform (Deep Linking 2.0).
func (k Key) Chosen(p Platform, l Launch, items []Item, now time.Time) (string, error) {
	list := []contentItem{}
	for _, x := range items {
		c := contentItem{Type: "ltiResourceLink", Title: x.Title, URL: x.URL, Custom: x.Custom, Frame: &size{960, 720}}
		if x.Points != "" && l.Deep.LineItem {
			c.Line = &lineItem{Label: x.Title, Most: number(x.Points), Resource: x.Resource}
		}
		if x.From != nil || x.Until != nil {
			c.From = &window{x.From, x.Until}
		}
		list = append(list, c)
	}
	more := map[string]any{
		"nonce": NewNonce(), claim + "message_type": messageDeepR, claim + "version": version, claim + "deployment_id": l.Deployment, claimDL + "content_items": list,
	}
	if l.Deep.Data != "" {
		more[claimDL+"data"] = l.Deep.Data
	}
	return k.sign(jwt.Claims{Issuer: p.ClientID, Audience: jwt.Audience{p.Issuer}, IssuedAt: jwt.NewNumericDate(now), Expiry: jwt.NewNumericDate(now.Add(5 * time.Minute))}, more)
}
