package standin

import (
	"crypto/rand"
	"crypto/rsa"
	"encoding/json"
	"fmt"
	"net/http"
	"strconv"
	"strings"
	"time"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
)

func newSigner() *signer {
	k, err := rsa.GenerateKey(rand.Reader, 2048)
	if err != nil {
		panic(err)
	}
	return &signer{uuid(), k}
}

// RotateKeys gives the college a new key, and takes the others away.
func (c *College) RotateKeys() {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.keys = newSigner()
}

const ltiClaim = "https://purl.imsglobal.org/spec/lti/claim/"

func (c *College) idToken(r *http.Request, t *tool, who Fellow, hint, nonce string) (string, error) {
	b := base(r)
	now := time.Now()
	if c.faults["late-token"] {
		now = now.Add(-time.Hour)
	}
	role := "http://purl.imsglobal.org/vocab/lis/v2/membership#Learner"
	if who.Teacher {
		role = "http://purl.imsglobal.org/vocab/lis/v2/membership#Instructor"
	}
	claims := map[string]any{
		"iss": b, "aud": t.Client, "sub": who.ID, "nonce": nonce, "iat": now.Unix(), "exp": now.Add(5 * time.Minute).Unix(),
		ltiClaim + "version": "1.3.0", ltiClaim + "deployment_id": t.Deployment, ltiClaim + "roles": []string{role},
	}
	if !c.faults["no-names"] {
		claims["name"] = who.Name
	}
	course := 0
	kind, which, _ := strings.Cut(hint, " ")
	if kind == "choose" {
		course, _ = strconv.Atoi(which)
		claims[ltiClaim+"message_type"] = "LtiDeepLinkingRequest"
		claims[ltiClaim+"target_link_uri"] = t.target
		claims["https://purl.imsglobal.org/spec/lti-dl/claim/deep_linking_settings"] = map[string]any{"deep_link_return_url": b + "/lti/chosen", "accept_types": []string{"ltiResourceLink"},
			"accept_presentation_document_targets": []string{"iframe", "window"}, "accept_multiple": true, "accept_lineitem": true, "data": t.Client + " " + which}
	} else {
		l := c.linkOf(which)
		if l == nil {
			return "", fmt.Errorf("there is no such link")
		}
		course = l.Course
		claims[ltiClaim+"message_type"] = "LtiResourceLinkRequest"
		claims[ltiClaim+"target_link_uri"] = l.URL
		claims[ltiClaim+"resource_link"] = map[string]string{"id": "link-" + which, "title": l.Title}
		claims[ltiClaim+"custom"] = l.Custom
		claims[ltiClaim+"launch_presentation"] = map[string]string{"document_target": "iframe", "return_url": b + "/"}
		grades := map[string]any{"lineitems": fmt.Sprintf("%s/lti/courses/%d/columns", b, course), "scope": []string{"https://purl.imsglobal.org/spec/lti-ags/scope/lineitem", "https://purl.imsglobal.org/spec/lti-ags/scope/score"}}
		if l.column > 0 {
			grades["lineitem"] = fmt.Sprintf("%s/lti/columns/%d", b, l.column)
		}
		claims["https://purl.imsglobal.org/spec/lti-ags/claim/endpoint"] = grades
	}
	if course < 0 || course >= len(c.Courses) {
		return "", fmt.Errorf("there is no such course")
	}
	claims[ltiClaim+"context"] = map[string]any{"id": "course-" + strconv.Itoa(course), "title": c.Courses[course], "type": []string{"http://purl.imsglobal.org/vocab/lis/v2/course#CourseOffering"}}
	claims["https://purl.imsglobal.org/spec/lti-nrps/claim/namesroleservice"] = map[string]any{"context_memberships_url": fmt.Sprintf("%s/lti/courses/%d/members", b, course), "service_versions": []string{"2.0"}}
	signs := c.signer()
	if c.faults["wrong-signature"] {
		signs = &signer{signs.id, newSigner().key}
	}
	s, err := jose.NewSigner(jose.SigningKey{Algorithm: jose.RS256, Key: jose.JSONWebKey{Key: signs.key, KeyID: signs.id}}, nil)
	if err != nil {
		return "", err
	}
	return jwt.Signed(s).Claims(claims).Serialize()
}

// readBy reads a token that a tool has signed, by its published keys.
func (t *tool) readBy(token string, claims ...any) error {
	x, err := jwt.ParseSigned(token, []jose.SignatureAlgorithm{jose.RS256})
	if err != nil {
		return err
	}
	resp, err := http.Get(t.keys)
	if err != nil {
		return err
	}
	defer resp.Body.Close()
	var set jose.JSONWebKeySet
	if err := json.NewDecoder(resp.Body).Decode(&set); err != nil {
		return err
	}
	found := set.Key(x.Headers[0].KeyID)
	if len(found) == 0 {
		return fmt.Errorf("the tool does not publish the key %q", x.Headers[0].KeyID)
	}
	return x.Claims(found[0], claims...)
}
