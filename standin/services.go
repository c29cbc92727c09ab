package standin

import (
	"encoding/json"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
)

// column is one of the gradebook.
type column struct {
	ID, Course int
	Label      string
	Most       float64
	Resource   string
	Link       string
	scores     map[string]score // by fellow
}

type score struct {
	At                string   `json:"timestamp"`
	User              string   `json:"userId"`
	Given             *float64 `json:"scoreGiven"`
	Most              float64  `json:"scoreMaximum"`
	Activity, Grading string
	Posts             int `json:"-"`
}

func (c *College) addColumn(course int, label string, most float64, resource, link string) *column {
	k := &column{ID: len(c.columns) + 1, Course: course, Label: label, Most: most, Resource: resource, Link: link, scores: map[string]score{}}
	c.columns = append(c.columns, k)
	return k
}

// giveToken gives a tool one for the services, by an assertion that it has signed.
func (c *College) giveToken(w http.ResponseWriter, r *http.Request) {
	var is jwt.Claims
	x, err := jwt.ParseSigned(r.FormValue("client_assertion"), []jose.SignatureAlgorithm{jose.RS256})
	if err == nil {
		err = x.UnsafeClaimsWithoutVerification(&is)
	}
	c.mu.Lock()
	t, down := c.toolOf(is.Subject), c.faults["down"]
	c.mu.Unlock()
	if err == nil && t != nil {
		err = t.readBy(r.FormValue("client_assertion"), &is)
	}
	if err == nil && t != nil {
		err = is.Validate(jwt.Expected{Issuer: t.Client, Subject: t.Client, AnyAudience: jwt.Audience{base(r) + "/lti/token"}})
	}
	switch {
	case down:
		http.Error(w, "down, as the switch says", http.StatusInternalServerError)
	case err != nil || t == nil || r.FormValue("grant_type") != "client_credentials":
		c.mu.Lock()
		c.say("", fmt.Sprintf("refused a token: %v", err))
		c.mu.Unlock()
		answerJSON(w, http.StatusUnauthorized, map[string]string{"error": "invalid_client"})
	default:
		c.mu.Lock()
		defer c.mu.Unlock()
		if is.ID == "" || t.seen[is.ID] {
			answerJSON(w, http.StatusUnauthorized, map[string]string{"error": "invalid_client"})
			return
		}
		t.seen[is.ID] = true
		token := uuid()
		t.tokens[token] = time.Now().Add(time.Hour)
		answerJSON(w, 200, map[string]any{"access_token": token, "token_type": "Bearer", "expires_in": 3600, "scope": r.FormValue("scope")})
	}
}

// dawdles waits where the switch for it is on.
func (c *College) dawdles() {
	c.mu.Lock()
	slow := c.faults["slow"]
	c.mu.Unlock()
	if slow {
		time.Sleep(2 * time.Second)
	}
}

// up says whether the services are, slow as they may be; else it is answered.
func (c *College) up(w http.ResponseWriter) bool {
	c.dawdles()
	c.mu.Lock()
	down := c.faults["down"]
	c.mu.Unlock()
	if down {
		http.Error(w, "down, as the switch says", http.StatusInternalServerError)
	}
	return !down
}

// serves says whether a tool may use a service now; else it is answered.
func (c *College) serves(w http.ResponseWriter, r *http.Request) bool {
	if !c.up(w) {
		return false
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	token, _ := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer ")
	for _, t := range c.tools {
		if until, ok := t.tokens[token]; ok && time.Now().Before(until) && !c.faults["old-tokens"] {
			return true
		}
	}
	http.Error(w, "whoever asks is not known", http.StatusUnauthorized)
	return false
}

func (c *College) columnsOf(w http.ResponseWriter, r *http.Request) {
	if !c.serves(w, r) {
		return
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	course, _ := strconv.Atoi(r.PathValue("course"))
	said := func(k *column) map[string]any {
		return map[string]any{"id": fmt.Sprintf("%s/lti/columns/%d", base(r), k.ID), "label": k.Label, "scoreMaximum": k.Most, "resourceId": k.Resource, "resourceLinkId": k.Link}
	}
	if r.Method == http.MethodPost {
		var in struct {
			Label          string
			Most           float64 `json:"scoreMaximum"`
			ResourceLinkID string
		}
		if json.NewDecoder(io.LimitReader(r.Body, 1<<20)).Decode(&in) != nil || in.Label == "" || in.Most <= 0 {
			http.Error(w, "a column needs a label and a maximum", http.StatusBadRequest)
			return
		}
		answerJSON(w, http.StatusCreated, said(c.addColumn(course, in.Label, in.Most, "", in.ResourceLinkID)))
		return
	}
	list := []any{}
	for _, k := range c.columns {
		if link := r.URL.Query().Get("resource_link_id"); k.Course == course && (link == "" || link == k.Link) {
			list = append(list, said(k))
		}
	}
	answerJSON(w, 200, list)
}

// takeScore keeps a score, unless it has one that was made later: so the same, sent twice, is one.
func (c *College) takeScore(w http.ResponseWriter, r *http.Request) {
	if !c.serves(w, r) {
		return
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	n, _ := strconv.Atoi(r.PathValue("id"))
	var in struct {
		score
		Activity string `json:"activityProgress"`
		Grading  string `json:"gradingProgress"`
	}
	switch {
	case n < 1 || n > len(c.columns):
		http.NotFound(w, r)
		return
	case r.Header.Get("Content-Type") != "application/vnd.ims.lis.v1.score+json":
		http.Error(w, "this is not a score", http.StatusUnsupportedMediaType)
		return
	case json.NewDecoder(io.LimitReader(r.Body, 1<<20)).Decode(&in) != nil, in.User == "", in.At == "",
		!slices.Contains([]string{"Initialized", "Started", "InProgress", "Submitted", "Completed"}, in.Activity),
		!slices.Contains([]string{"FullyGraded", "Pending", "PendingManual", "Failed", "NotReady"}, in.Grading),
		in.Given != nil && (*in.Given < 0 || in.score.Most <= 0):
		http.Error(w, "this is not a score as the service takes it", http.StatusBadRequest)
		return
	case c.faults["refuse-scores"]:
		http.Error(w, "refused, as the switch says", http.StatusForbidden)
		return
	}
	k := c.columns[n-1]
	x := in.score
	x.Activity, x.Grading, x.Posts = in.Activity, in.Grading, k.scores[in.User].Posts+1
	if before, ok := k.scores[in.User]; ok && before.At > x.At {
		http.Error(w, "a later score is there", http.StatusConflict)
		return
	}
	k.scores[in.User] = x
	said := "no score"
	if x.Given != nil {
		said = fmt.Sprintf("%g of %g", *x.Given, x.Most)
	}
	c.say(c.fellow(in.User).Name, fmt.Sprintf("has %s in %s (%s, %s)", said, k.Label, x.Activity, x.Grading))
	w.WriteHeader(http.StatusNoContent)
}

// membersOnPage is how many stand on one page.
const membersOnPage = 5

func (c *College) membersOf(w http.ResponseWriter, r *http.Request) {
	if !c.serves(w, r) {
		return
	}
	page, _ := strconv.Atoi(r.URL.Query().Get("page"))
	list := []any{}
	from := min(page*membersOnPage, len(c.Fellows))
	to := min(from+membersOnPage, len(c.Fellows))
	for _, f := range c.Fellows[from:to] {
		role := "Learner"
		if f.Teacher {
			role = "Instructor"
		}
		list = append(list, map[string]any{"status": "Active", "user_id": f.ID, "name": f.Name, "roles": []string{"http://purl.imsglobal.org/vocab/lis/v2/membership#" + role}})
	}
	if to < len(c.Fellows) {
		w.Header().Set("Link", fmt.Sprintf(`<%s%s?page=%d>; rel="next"`, base(r), r.URL.Path, page+1))
	}
	w.Header().Set("Content-Type", "application/vnd.ims.lti-nrps.v2.membershipcontainer+json")
	_ = json.NewEncoder(w).Encode(map[string]any{"id": base(r) + r.URL.Path, "context": map[string]string{"id": "course-" + r.PathValue("course")}, "members": list})
}
