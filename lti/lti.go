// Package lti is what a tool says and hears by LTI 1.3 Advantage: keys, launches, deep
// linking, grades (Assignment and Grade Services 2.0), members (Names and Role Provisioning
// Services 2.0), and dynamic registration. It asks platforms over HTTP and keeps nothing;
// who may do what, and what is kept, is for whoever uses it.
//
// What is wrong with something that came from a platform is a [*Refused].
package lti

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/url"
	"strings"
	"time"
)

// Platform is a learning platform as a tool knows it: as it was registered there.
type Platform struct {
	Issuer   string
	ClientID string
	// Deployments are those that may launch; none is yet to be known.
	Deployments []string
	Auth        string // where a login is answered
	Token       string // where tokens for its services are given
	Keys        string // where its keys are
}

// Refused is why something of a platform was not taken: for a person, and as a code for the log.
type Refused struct {
	Code   string
	Detail string
	// Cause is for the log.
	Cause error
}

func (r *Refused) Error() string {
	if r.Cause != nil {
		return r.Code + ": " + r.Cause.Error()
	}
	return r.Code
}

// Unwrap is the cause.
func (r *Refused) Unwrap() error { return r.Cause }

func refuse(code, detail string, cause error) *Refused { return &Refused{code, detail, cause} }

// What a tool may ask of a platform's services.
const (
	ScopeLineItem = "https://purl.imsglobal.org/spec/lti-ags/scope/lineitem"
	ScopeScore    = "https://purl.imsglobal.org/spec/lti-ags/scope/score"
	ScopeMembers  = "https://purl.imsglobal.org/spec/lti-nrps/scope/contextmembership.readonly"
)

// Claims of LTI 1.3, and what stands in them.
const (
	claim        = "https://purl.imsglobal.org/spec/lti/claim/"
	claimDL      = "https://purl.imsglobal.org/spec/lti-dl/claim/"
	claimTool    = "https://purl.imsglobal.org/spec/lti-tool-configuration"
	version      = "1.3.0"
	messageLink  = "LtiResourceLinkRequest"
	messageDeep  = "LtiDeepLinkingRequest"
	messageDeepR = "LtiDeepLinkingResponse"
)

// web asks platforms. None is waited for longer than it takes a person to lose patience, and
// none can send a question on to somebody else.
var web = &http.Client{Timeout: 10 * time.Second, CheckRedirect: func(*http.Request, []*http.Request) error { return http.ErrUseLastResponse }}

// mostAnswer is how much of an answer is read.
const mostAnswer = 4 << 20

// Answered is an answer of a platform's service that is not the one that was hoped for.
type Answered struct {
	Status int
	Body   string // its beginning
}

func (a *Answered) Error() string { return fmt.Sprintf("it answered %d: %s", a.Status, a.Body) }

// ForGood says that asking again will not help: what was sent is refused, not the moment.
func ForGood(err error) bool {
	var a *Answered
	return errors.As(err, &a) && a.Status >= 400 && a.Status < 500 && a.Status != http.StatusUnauthorized && a.Status != http.StatusRequestTimeout && a.Status != http.StatusTooManyRequests
}

// Unreached says that nobody answered.
func Unreached(err error) bool {
	var u *url.Error
	return errors.As(err, &u)
}

// do asks and reads a JSON answer into out, which may be nil. It answers the headers.
func do(r *http.Request, out any) (http.Header, error) {
	resp, err := web.Do(r)
	if err != nil {
		return nil, err
	}
	defer resp.Body.Close()
	body, err := io.ReadAll(io.LimitReader(resp.Body, mostAnswer))
	if err != nil {
		return nil, err
	}
	if resp.StatusCode < 200 || resp.StatusCode > 299 {
		return nil, &Answered{resp.StatusCode, string(body[:min(len(body), 500)])}
	}
	if out != nil {
		if err := json.Unmarshal(body, out); err != nil {
			return nil, fmt.Errorf("its answer cannot be read: %w", err)
		}
	}
	return resp.Header, nil
}

// Ask asks, as platforms are asked, and reads a JSON answer into out, which may be nil.
func Ask(r *http.Request, out any) error {
	_, err := do(r, out)
	return err
}

func get(ctx context.Context, address string, out any) error {
	r, err := http.NewRequestWithContext(ctx, http.MethodGet, address, nil)
	if err != nil {
		return err
	}
	r.Header.Set("Accept", "application/json")
	_, err = do(r, out)
	return err
}

// Address says whether an address of a platform can be meant: https, or http of this very
// machine where the tool is reached there too.
func Address(text string, here bool) bool {
	u, err := url.Parse(text)
	if err != nil || u.Host == "" || u.User != nil || u.Fragment != "" {
		return false
	}
	ip := net.ParseIP(u.Hostname())
	loopback := u.Hostname() == "localhost" || ip != nil && ip.IsLoopback()
	return u.Scheme == "https" && (!loopback || here) || u.Scheme == "http" && loopback && here
}

// Origin is that of an address, or "".
func Origin(address string) string {
	u, err := url.Parse(address)
	if err != nil || u.Host == "" || strings.ContainsAny(u.Host, " ;,*'\"") {
		return ""
	}
	return u.Scheme + "://" + strings.ToLower(u.Host)
}
