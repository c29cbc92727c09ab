package lti

import (
	"bytes"
	"context"
	"crypto/rand"
	"encoding/json"
	"errors"
	"net/http"
	"net/url"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/go-jose/go-jose/v4/jwt"
	"golang.org/x/oauth2"
	"golang.org/x/oauth2/clientcredentials"
)

// NewNonce is a word that nobody can guess.
func NewNonce() string { return strings.ToLower(rand.Text()) }

func number(text string) float64 {
	n, err := strconv.ParseFloat(text, 64)
	if err != nil {
		return 0
	}
	return n
}

// Client asks platforms' services, with tokens that it keeps until shortly before they end.
// It is safe for use by many at once.
type Client struct {
	// Key signs for the tool.
	Key    func(context.Context) (Key, error)
	mu     sync.Mutex
	tokens map[string]*oauth2.Token
}

// soon is how long before its end a token is no longer used.
const soon = time.Minute

// token gives one for some scopes.
func (c *Client) token(ctx context.Context, p Platform, scopes []string) (*oauth2.Token, error) {
	slices.Sort(scopes)
	name := p.Token + " " + p.ClientID + " " + strings.Join(scopes, " ")
	c.mu.Lock()
	known := c.tokens[name]
	c.mu.Unlock()
	if known != nil && time.Until(known.Expiry) > soon {
		return known, nil
	}
	k, err := c.Key(ctx)
	if err != nil {
		return nil, err
	}
	now := time.Now()
	assertion, err := k.sign(jwt.Claims{Issuer: p.ClientID, Subject: p.ClientID, Audience: jwt.Audience{p.Token}, ID: NewNonce(), IssuedAt: jwt.NewNumericDate(now), Expiry: jwt.NewNumericDate(now.Add(5 * time.Minute))})
	if err != nil {
		return nil, err
	}
	asks := clientcredentials.Config{TokenURL: p.Token, Scopes: scopes, AuthStyle: oauth2.AuthStyleInParams, EndpointParams: url.Values{
		"client_assertion_type": {"urn:ietf:params:oauth:client-assertion-type:jwt-bearer"}, "client_assertion": {assertion}}}
	t, err := asks.Token(context.WithValue(ctx, oauth2.HTTPClient, web))
	var retrieve *oauth2.RetrieveError
	if errors.As(err, &retrieve) {
		return nil, &Answered{retrieve.Response.StatusCode, string(retrieve.Body[:min(500, len(retrieve.Body))])}
	}
	if err != nil {
		return nil, err
	}
	if t.Expiry.IsZero() {
		t.Expiry = now.Add(time.Hour)
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.tokens == nil || len(c.tokens) > 1000 {
		c.tokens = map[string]*oauth2.Token{}
	}
	c.tokens[name] = t
	return t, nil
}

// forget drops tokens of a platform, when it does not take them.
func (c *Client) forget(p Platform) {
	c.mu.Lock()
	defer c.mu.Unlock()
	for name := range c.tokens {
		if strings.HasPrefix(name, p.Token+" "+p.ClientID+" ") {
			delete(c.tokens, name)
		}
	}
}

// ask asks a service, once more with a new token where the one that there was is not taken.
func (c *Client) ask(ctx context.Context, p Platform, scopes []string, method, address, kind, accept string, body any, out any) (http.Header, error) {
	var sent []byte
	if body != nil {
		var err error
		if sent, err = json.Marshal(body); err != nil {
			return nil, err
		}
	}
	for try := 0; ; try++ {
		t, err := c.token(ctx, p, slices.Clone(scopes))
		if err != nil {
			return nil, err
		}
		r, err := http.NewRequestWithContext(ctx, method, address, bytes.NewReader(sent))
		if err != nil {
			return nil, err
		}
		t.SetAuthHeader(r)
		if kind != "" {
			r.Header.Set("Content-Type", kind)
		}
		r.Header.Set("Accept", accept)
		header, err := do(r, out)
		var a *Answered
		if errors.As(err, &a) && a.Status == http.StatusUnauthorized && try == 0 {
			c.forget(p)
			continue
		}
		return header, err
	}
}

// Score is what goes into a column of a gradebook for somebody. Given and Most are decimals;
// without Given nothing is given.
type Score struct {
	Subject string    `json:"subject"`
	At      time.Time `json:"at"`
	Given   string    `json:"given,omitempty"`
	Most    string    `json:"most,omitempty"`
	// Activity is Initialized, Started, InProgress, Submitted or Completed; Grading is
	// FullyGraded, Pending, PendingManual, Failed or NotReady.
	Activity string `json:"activity"`
	Grading  string `json:"grading"`
}

const (
	kindLine  = "application/vnd.ims.lis.v2.lineitem+json"
	kindLines = "application/vnd.ims.lis.v2.lineitemcontainer+json"
	kindScore = "application/vnd.ims.lis.v1.score+json"
	kindNames = "application/vnd.ims.lti-nrps.v2.membershipcontainer+json"
)

// SendScore brings a score to a column.
func (c *Client) SendScore(ctx context.Context, p Platform, column string, s Score) error {
	at, err := below(column, "scores")
	if err != nil {
		return err
	}
	body := map[string]any{"userId": s.Subject, "timestamp": s.At.UTC().Format("2006-01-02T15:04:05.000000Z"), "activityProgress": s.Activity, "gradingProgress": s.Grading}
	if s.Given != "" {
		body["scoreGiven"], body["scoreMaximum"] = number(s.Given), number(s.Most)
	}
	_, err = c.ask(ctx, p, []string{ScopeScore}, http.MethodPost, at, kindScore, "*/*", body, nil)
	return err
}

// below is an address below another, whose query stays.
func below(address, more string) (string, error) {
	u, err := url.Parse(address)
	if err != nil {
		return "", err
	}
	return u.JoinPath(more).String(), nil
}

// Column finds the column of a link in a gradebook, or makes one, and says where it is.
func (c *Client) Column(ctx context.Context, p Platform, columns, link, label, most string) (string, error) {
	u, err := url.Parse(columns)
	if err != nil {
		return "", err
	}
	q := u.Query()
	q.Set("resource_link_id", link)
	u.RawQuery = q.Encode()
	var list []lineItem
	if _, err := c.ask(ctx, p, []string{ScopeLineItem}, http.MethodGet, u.String(), "", kindLines, nil, &list); err != nil {
		return "", err
	}
	for _, l := range list {
		if l.Link == link && l.ID != "" {
			return l.ID, nil
		}
	}
	var made lineItem
	_, err = c.ask(ctx, p, []string{ScopeLineItem}, http.MethodPost, columns, kindLine, kindLine, lineItem{Label: label, Most: number(most), Link: link}, &made)
	if err == nil && made.ID == "" {
		err = errors.New("the platform does not say where the column is that it made")
	}
	return made.ID, err
}

// Member is somebody in a course.
type Member struct {
	Subject string
	Name    string // "" where the platform does not give it
	Teacher bool
}

var next = regexp.MustCompile(`<([^>]*)>\s*;[^,]*\brel="?next"?`)

// mostPages bounds how many pages of members are read.
const mostPages = 200

// Members reads who is in a course, page by page.
func (c *Client) Members(ctx context.Context, p Platform, address string) ([]Member, error) {
	list := []Member{}
	for range mostPages {
		var page struct {
			Members []struct {
				Status string   `json:"status"`
				User   string   `json:"user_id"`
				Name   string   `json:"name"`
				Given  string   `json:"given_name"`
				Family string   `json:"family_name"`
				Roles  []string `json:"roles"`
			} `json:"members"`
		}
		header, err := c.ask(ctx, p, []string{ScopeMembers}, http.MethodGet, address, "", kindNames, nil, &page)
		if err != nil {
			return nil, err
		}
		for _, m := range page.Members {
			if m.User == "" || m.Status != "" && m.Status != "Active" {
				continue
			}
			one := Member{m.User, strings.Join(strings.Fields(m.Name), " "), slices.ContainsFunc(m.Roles, teaches)}
			if one.Name == "" {
				one.Name = strings.TrimSpace(m.Given + " " + m.Family)
			}
			list = append(list, one)
		}
		found := next.FindStringSubmatch(strings.Join(header.Values("Link"), ", "))
		if found == nil {
			return list, nil
		}
		if Origin(found[1]) != Origin(address) {
			return nil, errors.New("the next page of members is somewhere else")
		}
		address = found[1]
	}
	return list, nil
}
