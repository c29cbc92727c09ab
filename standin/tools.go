package standin

import (
	"crypto/rsa"
	"encoding/json"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
)

// tool is one that is registered by LTI 1.3.
type tool struct {
	Client, Deployment string
	Name               string
	login, keys        string
	redirects          []string
	target             string
	tokens             map[string]time.Time // of its services, with their ends
	seen               map[string]bool      // assertions, each good for once
}

// toolLink is one in a course that leads to a tool.
type toolLink struct {
	ID     int
	Course int
	Title  string
	URL    string
	Custom map[string]string
	Client string
	column int // 0 is none
}

// signer is a key of the college.
type signer struct {
	id  string
	key *rsa.PrivateKey
}

func (c *College) toolRoutes(mux *http.ServeMux) {
	mux.HandleFunc("GET /.well-known/openid-configuration", c.describe)
	mux.HandleFunc("GET /lti/keys", func(w http.ResponseWriter, _ *http.Request) {
		c.mu.Lock()
		defer c.mu.Unlock()
		answerJSON(w, 200, jose.JSONWebKeySet{Keys: []jose.JSONWebKey{{Key: c.signer().key.Public(), KeyID: c.signer().id, Algorithm: "RS256", Use: "sig"}}})
	})
	mux.HandleFunc("POST /lti/registrations", c.registerTool)
	mux.HandleFunc("GET /tools/new", c.newTool)
	mux.HandleFunc("GET /tools", func(w http.ResponseWriter, _ *http.Request) {
		c.mu.Lock()
		defer c.mu.Unlock()
		list := []string{}
		for _, t := range c.tools {
			list = append(list, t.Client)
		}
		answerJSON(w, 200, list)
	})
	mux.HandleFunc("GET /courses/{course}/choose", c.askToChoose)
	mux.HandleFunc("GET /links/{id}", c.openLink)
	mux.HandleFunc("POST /links", c.addLink)
	mux.HandleFunc("GET /lti/auth", c.authenticate)
	mux.HandleFunc("POST /lti/auth", c.authenticate)
	mux.HandleFunc("POST /lti/chosen", c.takeChoice)
	mux.HandleFunc("POST /lti/token", c.giveToken)
	mux.HandleFunc("/lti/courses/{course}/columns", c.columnsOf)
	mux.HandleFunc("POST /lti/columns/{id}/scores", c.takeScore)
	mux.HandleFunc("GET /lti/courses/{course}/members", c.membersOf)
}

func (c *College) signer() *signer {
	if c.keys == nil {
		c.keys = newSigner()
	}
	return c.keys
}

func answerJSON(w http.ResponseWriter, status int, v any) {
	w.Header().Set("Content-Type", "application/json")
	w.WriteHeader(status)
	_ = json.NewEncoder(w).Encode(v)
}

func base(r *http.Request) string { return "http://" + r.Host }

// describe is the college's configuration, for tools that register.
func (c *College) describe(w http.ResponseWriter, r *http.Request) {
	b := base(r)
	answerJSON(w, 200, map[string]any{
		"issuer": b, "authorization_endpoint": b + "/lti/auth", "token_endpoint": b + "/lti/token", "jwks_uri": b + "/lti/keys", "registration_endpoint": b + "/lti/registrations",
		"token_endpoint_auth_methods_supported": []string{"private_key_jwt"}, "token_endpoint_auth_signing_alg_values_supported": []string{"RS256"},
		"id_token_signing_alg_values_supported": []string{"RS256"}, "response_types_supported": []string{"id_token"}, "subject_types_supported": []string{"public"},
		"https://purl.imsglobal.org/spec/lti-platform-configuration": map[string]any{"product_family_code": "tarnbridge", "version": "1", "name": c.Name,
			"messages_supported": []any{map[string]string{"type": "LtiResourceLinkRequest"}, map[string]string{"type": "LtiDeepLinkingRequest"}}},
	})
}

// newTool opens a tool's address for registering.
func (c *College) newTool(w http.ResponseWriter, r *http.Request) {
	u, err := url.Parse(strings.TrimSpace(r.URL.Query().Get("address")))
	if err != nil || u.Host == "" {
		http.Error(w, "that is not an address", http.StatusBadRequest)
		return
	}
	c.mu.Lock()
	token := uuid()
	c.registering[token] = true
	c.mu.Unlock()
	q := u.Query()
	q.Set("openid_configuration", base(r)+"/.well-known/openid-configuration")
	q.Set("registration_token", token)
	u.RawQuery = q.Encode()
	http.Redirect(w, r, u.String(), http.StatusSeeOther)
}

func (c *College) registerTool(w http.ResponseWriter, r *http.Request) {
	token, _ := strings.CutPrefix(r.Header.Get("Authorization"), "Bearer ")
	var in struct {
		Name      string   `json:"client_name"`
		Login     string   `json:"initiate_login_uri"`
		Redirects []string `json:"redirect_uris"`
		Keys      string   `json:"jwks_uri"`
		Method    string   `json:"token_endpoint_auth_method"`
		Tool      struct {
			Target string `json:"target_link_uri"`
		} `json:"https://purl.imsglobal.org/spec/lti-tool-configuration"`
	}
	body, _ := io.ReadAll(io.LimitReader(r.Body, 1<<20))
	c.mu.Lock()
	defer c.mu.Unlock()
	switch {
	case !c.registering[token]:
		answerJSON(w, http.StatusUnauthorized, map[string]string{"error": "invalid_token"})
		return
	case json.Unmarshal(body, &in) != nil || in.Login == "" || in.Keys == "" || len(in.Redirects) == 0 || in.Method != "private_key_jwt":
		answerJSON(w, http.StatusBadRequest, map[string]string{"error": "invalid_client_metadata"})
		return
	}
	delete(c.registering, token)
	t := &tool{Client: "tool-" + uuid()[:8], Deployment: "deployment-" + strconv.Itoa(len(c.tools)+1), Name: in.Name, login: in.Login, keys: in.Keys, redirects: in.Redirects, target: in.Tool.Target, tokens: map[string]time.Time{}, seen: map[string]bool{}}
	c.tools = append(c.tools, t)
	c.say("", "registered the tool "+in.Name+" as "+t.Client)
	var out map[string]any
	_ = json.Unmarshal(body, &out)
	out["client_id"] = t.Client
	if conf, ok := out["https://purl.imsglobal.org/spec/lti-tool-configuration"].(map[string]any); ok {
		conf["deployment_id"] = t.Deployment
	}
	answerJSON(w, http.StatusCreated, out)
}

func (c *College) say(who, text string) {
	c.log = append(c.log, Message{time.Now(), "", who, text})
	c.log = c.log[max(0, len(c.log)-mostMessages):]
}

func (c *College) toolOf(client string) *tool {
	for _, t := range c.tools {
		if t.Client == client {
			return t
		}
	}
	return nil
}

// begin shows a tool in a frame, which the login opens; hint is what the college gets back.
func (c *College) begin(w http.ResponseWriter, r *http.Request, t *tool, title, target, who, hint string) {
	q := url.Values{"iss": {base(r)}, "client_id": {t.Client}, "login_hint": {who}, "lti_message_hint": {hint}, "target_link_uri": {target}, "lti_deployment_id": {t.Deployment}}
	if !c.faults["no-storage"] {
		q.Set("lti_storage_target", "_parent")
	}
	u, err := url.Parse(t.login)
	if err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
		return
	}
	u.RawQuery = q.Encode()
	if r.URL.Query().Has("window") {
		http.Redirect(w, r, u.String(), http.StatusSeeOther)
		return
	}
	c.show(w, "tool", map[string]any{"College": c, "Title": title, "Who": c.fellow(who), "Where": u.String()})
}

func (c *College) askToChoose(w http.ResponseWriter, r *http.Request) {
	c.mu.Lock()
	defer c.mu.Unlock()
	t := c.toolOf(r.URL.Query().Get("tool"))
	if t == nil {
		http.NotFound(w, r)
		return
	}
	c.begin(w, r, t, "Choose activities", t.target, c.Fellows[0].ID, "choose "+r.PathValue("course"))
}

// addLink puts a link into the first course, as a teacher would by hand, and says where it is.
func (c *College) addLink(w http.ResponseWriter, r *http.Request) {
	var in struct {
		Client, Title, URL string
		Custom             map[string]string
		Points             float64
	}
	if err := json.NewDecoder(io.LimitReader(r.Body, 1<<20)).Decode(&in); err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if c.toolOf(in.Client) == nil {
		http.Error(w, "no tool of this name is known", http.StatusNotFound)
		return
	}
	l := &toolLink{ID: len(c.links) + 1, Title: in.Title, URL: in.URL, Custom: in.Custom, Client: in.Client}
	c.links = append(c.links, l)
	if in.Points > 0 {
		l.column = c.addColumn(0, in.Title, in.Points, "", "link-"+strconv.Itoa(l.ID)).ID
	}
	answerJSON(w, http.StatusCreated, map[string]string{"url": "/links/" + strconv.Itoa(l.ID) + "?as=" + c.Fellows[2].ID})
}

func (c *College) linkOf(id string) *toolLink {
	n, err := strconv.Atoi(id)
	if err != nil || n < 1 || n > len(c.links) {
		return nil
	}
	return c.links[n-1]
}

func (c *College) openLink(w http.ResponseWriter, r *http.Request) {
	c.mu.Lock()
	defer c.mu.Unlock()
	l := c.linkOf(r.PathValue("id"))
	if l == nil {
		http.NotFound(w, r)
		return
	}
	who := c.fellow(r.URL.Query().Get("as"))
	c.say(who.Name, "opens "+l.Title)
	c.begin(w, r, c.toolOf(l.Client), l.Title, l.URL, who.ID, "link "+strconv.Itoa(l.ID))
}

// authenticate says to a tool who somebody is: OpenID Connect, as LTI asks for it.
func (c *College) authenticate(w http.ResponseWriter, r *http.Request) {
	if err := r.ParseForm(); err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	f := r.Form
	c.mu.Lock()
	defer c.mu.Unlock()
	t := c.toolOf(f.Get("client_id"))
	switch {
	case t == nil, !slices.Contains(t.redirects, f.Get("redirect_uri")):
		http.Error(w, "this tool, or where its answer is to go, is not known", http.StatusBadRequest)
		return
	case f.Get("scope") != "openid" || f.Get("response_type") != "id_token" || f.Get("response_mode") != "form_post" || f.Get("prompt") != "none" || f.Get("nonce") == "" || f.Get("state") == "":
		http.Error(w, "this is not a login as LTI 1.3 has it", http.StatusBadRequest)
		return
	}
	token, err := c.idToken(r, t, c.fellow(f.Get("login_hint")), f.Get("lti_message_hint"), f.Get("nonce"))
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	c.show(w, "answer", map[string]any{"To": f.Get("redirect_uri"), "State": f.Get("state"), "Token": token})
}

// takeChoice takes what was chosen into a course.
func (c *College) takeChoice(w http.ResponseWriter, r *http.Request) {
	var is jwt.Claims
	var in struct {
		Data  string `json:"https://purl.imsglobal.org/spec/lti-dl/claim/data"`
		Items []struct {
			Title    string            `json:"title"`
			URL      string            `json:"url"`
			Custom   map[string]string `json:"custom"`
			LineItem *struct {
				Most       float64 `json:"scoreMaximum"`
				ResourceID string  `json:"resourceId"`
			} `json:"lineItem"`
		} `json:"https://purl.imsglobal.org/spec/lti-dl/claim/content_items"`
		Message    string `json:"https://purl.imsglobal.org/spec/lti/claim/message_type"`
		Deployment string `json:"https://purl.imsglobal.org/spec/lti/claim/deployment_id"`
	}
	token := r.FormValue("JWT")
	// Whose it is stands in what is to be checked: it is read once without, and believed after.
	x, err := jwt.ParseSigned(token, []jose.SignatureAlgorithm{jose.RS256})
	if err == nil {
		err = x.UnsafeClaimsWithoutVerification(&is)
	}
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	c.mu.Lock()
	t := c.toolOf(is.Issuer)
	c.mu.Unlock()
	if t == nil {
		http.Error(w, "no tool of this name is known", http.StatusForbidden)
		return
	}
	if err := t.readBy(token, &is, &in); err != nil {
		http.Error(w, err.Error(), http.StatusForbidden)
		return
	}
	client, which, _ := strings.Cut(in.Data, " ")
	course, err := strconv.Atoi(which)
	if err := is.Validate(jwt.Expected{Issuer: t.Client, AnyAudience: jwt.Audience{base(r)}}); err != nil || client != t.Client || in.Deployment != t.Deployment || in.Message != "LtiDeepLinkingResponse" {
		http.Error(w, "that is not an answer to what was asked", http.StatusForbidden)
		return
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if err != nil || course < 0 || course >= len(c.Courses) {
		http.Error(w, "there is no such course", http.StatusBadRequest)
		return
	}
	for _, item := range in.Items {
		l := &toolLink{ID: len(c.links) + 1, Course: course, Title: item.Title, URL: item.URL, Custom: item.Custom, Client: t.Client}
		c.links = append(c.links, l)
		if item.LineItem != nil {
			l.column = c.addColumn(course, item.Title, item.LineItem.Most, item.LineItem.ResourceID, "link-"+strconv.Itoa(l.ID)).ID
		}
		c.say("", "links to "+item.Title+" in "+c.Courses[course])
	}
	http.Redirect(w, r, "/", http.StatusSeeOther)
}
