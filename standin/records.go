package standin

import (
	"bytes"
	"crypto/rand"
	"crypto/sha256"
	"encoding/hex"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"io"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
)

// session is a launch by cmi5: its token, what it is of, and whether it has been ended.
type session struct {
	object       *object
	page         int
	who          Fellow
	registration string
	activity     string
	token        string
	fetched      bool
	begun, over  bool
}

// statement is one as it was sent, with what the college looks at.
type statement struct {
	ID   string
	Body json.RawMessage
	read struct {
		Verb   struct{ ID string }
		Result struct {
			Score    *struct{ Raw *float64 }
			Duration string
		}
		Context struct{ Registration string }
	}
}

// Statements are all that the record store has, in the order in which they came.
func (c *College) Statements() []json.RawMessage {
	c.mu.Lock()
	defer c.mu.Unlock()
	out := []json.RawMessage{}
	for _, s := range c.statements {
		out = append(out, s.Body)
	}
	return out
}

// Of the record store, for whoever sends statements without a launch.
const (
	RecordsUser     = "magpie"
	RecordsPassword = "known-in-the-demo-alone"
)

func keyed(r *http.Request) bool {
	user, password, ok := r.BasicAuth()
	return ok && user == RecordsUser && password == RecordsPassword
}

func uuid() string {
	var b [16]byte
	_, _ = rand.Read(b[:])
	b[6], b[8] = b[6]&0x0f|0x40, b[8]&0x3f|0x80
	h := hex.EncodeToString(b[:])
	return h[:8] + "-" + h[8:12] + "-" + h[12:16] + "-" + h[16:20] + "-" + h[20:]
}

// readCourse reads a package for cmi5 by its course structure.
func (o *object) readCourse() error {
	var m struct {
		Title string `xml:"course>title>langstring"`
		Units []struct {
			MoveOn  string `xml:"moveOn,attr"`
			Mastery string `xml:"masteryScore,attr"`
			Title   string `xml:"title>langstring"`
			URL     string `xml:"url"`
		} `xml:"au"`
	}
	if err := xml.Unmarshal(o.files["cmi5.xml"], &m); err != nil {
		return fmt.Errorf("its course structure cannot be read: %w", err)
	}
	o.Title, o.Version = m.Title, "cmi5"
	for _, u := range m.Units {
		if o.files[u.URL] != nil || strings.HasPrefix(u.URL, "http") {
			o.Pages = append(o.Pages, entryPoint{u.Title, u.URL})
			o.units = append(o.units, unit{u.MoveOn, u.Mastery})
		}
	}
	return nil
}

type unit struct{ MoveOn, Mastery string }

// launchUnit begins a session by cmi5 and says where its page is.
func (c *College) launchUnit(o *object, page int, who Fellow, kept *record, mode, base string) string {
	if kept.registration == "" {
		kept.registration = uuid()
	}
	s := &session{object: o, page: page, who: who, registration: kept.registration, token: uuid(),
		activity: fmt.Sprintf("%s/units/%d/%d", base, o.ID, page)}
	c.sessions = append(c.sessions, s)
	data := map[string]any{
		"contextTemplate": map[string]any{
			"contextActivities": map[string]any{"grouping": []any{map[string]any{"objectType": "Activity", "id": fmt.Sprintf("%s/published/%d", base, o.ID)}}},
			"extensions":        map[string]any{"https://w3id.org/xapi/cmi5/context/extensions/sessionid": s.token},
		},
		"launchMode": map[string]string{"normal": "Normal", "review": "Review"}[mode], "moveOn": o.units[page].MoveOn, "returnURL": base + "/",
	}
	if m, err := strconv.ParseFloat(o.units[page].Mastery, 64); err == nil {
		data["masteryScore"] = m
	}
	body, _ := json.Marshal(data)
	c.documents[s.place("LMS.LaunchData")] = body
	actor, _ := json.Marshal(map[string]any{"objectType": "Agent", "name": who.Name, "account": map[string]string{"homePage": base, "name": who.ID}})
	q := url.Values{"endpoint": {base + "/xapi/"}, "fetch": {base + "/cmi5/fetch/" + s.token}, "actor": {string(actor)}, "registration": {s.registration}, "activityId": {s.activity}}
	if href := o.Pages[page].Href; strings.HasPrefix(href, "http") {
		return href + "?" + q.Encode()
	}
	return fmt.Sprintf("/objects/%d/files/%s?%s", o.ID, o.Pages[page].Href, q.Encode())
}

// place is under what a state document is kept.
func (s *session) place(state string) string { return s.activity + " " + s.registration + " " + state }

func (c *College) fetchToken(w http.ResponseWriter, r *http.Request) {
	c.mu.Lock()
	defer c.mu.Unlock()
	w.Header().Set("Content-Type", "application/json")
	for _, s := range c.sessions {
		if s.token == r.PathValue("token") && !s.fetched {
			s.fetched = true
			c.note(s.object, s.who.Name, "fetched its token")
			_ = json.NewEncoder(w).Encode(map[string]string{"auth-token": s.token})
			return
		}
	}
	w.WriteHeader(http.StatusBadRequest)
	_ = json.NewEncoder(w).Encode(map[string]string{"error-code": "1", "error-text": "this token was fetched already, or there is none"})
}

// session finds who asks, by the token.
func (c *College) session(w http.ResponseWriter, r *http.Request) *session {
	token, _ := strings.CutPrefix(r.Header.Get("Authorization"), "Basic ")
	for _, s := range c.sessions {
		if s.token == token && s.fetched {
			return s
		}
	}
	http.Error(w, "whoever asks is not known", http.StatusUnauthorized)
	return nil
}

// takeStatements takes statements, one or several, each once: the same id with another body is
// a conflict. It holds them to cmi5's order: initialized first, terminated last.
func (c *College) takeStatements(w http.ResponseWriter, r *http.Request) {
	if !c.up(w) {
		return
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	var s *session
	if !keyed(r) {
		if s = c.session(w, r); s == nil {
			return
		}
	}
	if r.Header.Get("X-Experience-API-Version") == "" {
		http.Error(w, "the version of xAPI is missing", http.StatusBadRequest)
		return
	}
	if c.faults["refuse-commits"] {
		http.Error(w, "refused, as the switch says", http.StatusServiceUnavailable)
		return
	}
	body, err := io.ReadAll(http.MaxBytesReader(w, r.Body, 4<<20))
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	list := []json.RawMessage{body}
	if bytes.HasPrefix(bytes.TrimSpace(body), []byte("[")) {
		list = nil
		if err := json.Unmarshal(body, &list); err != nil {
			http.Error(w, err.Error(), http.StatusBadRequest)
			return
		}
	}
	ids := []string{}
	for _, one := range list {
		x := statement{Body: one}
		var head struct{ ID string }
		if json.Unmarshal(one, &head) != nil || json.Unmarshal(one, &x.read) != nil || x.read.Verb.ID == "" {
			http.Error(w, "this is not a statement", http.StatusBadRequest)
			return
		}
		x.ID = head.ID
		if id := r.URL.Query().Get("statementId"); id != "" {
			x.ID = id
		}
		if i := slices.IndexFunc(c.statements, func(o statement) bool { return o.ID == x.ID }); i >= 0 {
			if !bytes.Equal(c.statements[i].Body, one) {
				http.Error(w, "there is another statement with this id", http.StatusConflict)
				return
			}
			ids = append(ids, x.ID)
			continue
		}
		verb := x.read.Verb.ID[strings.LastIndex(x.read.Verb.ID, "/")+1:]
		if s == nil {
			c.statements = append(c.statements, x)
			c.say("", verb+" "+string(one))
			ids = append(ids, x.ID)
			continue
		}
		switch {
		case x.read.Context.Registration != s.registration:
			http.Error(w, "it is of another registration", http.StatusForbidden)
			return
		case s.over, !s.begun && verb != "initialized", s.begun && verb == "initialized":
			http.Error(w, "that is not its turn", http.StatusForbidden)
			return
		}
		s.begun, s.over = true, verb == "terminated"
		c.statements = append(c.statements, x)
		c.note(s.object, s.who.Name, verb+" "+string(one))
		s.object.records[key(s.page, s.who.ID)].hear(verb, x)
		ids = append(ids, x.ID)
	}
	w.Header().Set("Content-Type", "application/json")
	_ = json.NewEncoder(w).Encode(ids)
}

// hear is what a statement changes in the gradebook.
func (k *record) hear(verb string, x statement) {
	r := x.read.Result
	switch verb {
	case "initialized":
		if k.Status == "" {
			k.Status = "incomplete"
		}
	case "completed":
		k.Status = "completed"
	case "passed", "failed":
		k.Success = verb
		if r.Score != nil && r.Score.Raw != nil {
			k.Score = strconv.FormatFloat(*r.Score.Raw, 'f', -1, 64)
		}
	case "terminated":
		k.Total = r.Duration
	}
}

// document gives and keeps documents of state, with an ETag.
func (c *College) document(w http.ResponseWriter, r *http.Request) {
	c.mu.Lock()
	defer c.mu.Unlock()
	s := c.session(w, r)
	if s == nil {
		return
	}
	q := r.URL.Query()
	if q.Get("activityId") != s.activity || q.Get("registration") != s.registration {
		http.Error(w, "it is of another launch", http.StatusForbidden)
		return
	}
	place := s.place(q.Get("stateId"))
	tag := func(b []byte) string { h := sha256.Sum256(b); return `"` + hex.EncodeToString(h[:8]) + `"` }
	switch r.Method {
	case http.MethodGet:
		body, ok := c.documents[place]
		if !ok {
			http.NotFound(w, r)
			return
		}
		w.Header().Set("Content-Type", "application/json")
		w.Header().Set("ETag", tag(body))
		_, _ = w.Write(body)
	case http.MethodDelete:
		delete(c.documents, place)
		w.WriteHeader(http.StatusNoContent)
	default:
		body, err := io.ReadAll(http.MaxBytesReader(w, r.Body, 4<<20))
		if err != nil {
			http.Error(w, err.Error(), http.StatusBadRequest)
			return
		}
		if match := r.Header.Get("If-Match"); match != "" && match != tag(c.documents[place]) {
			http.Error(w, "it has changed", http.StatusPreconditionFailed)
			return
		}
		c.documents[place] = body
		w.WriteHeader(http.StatusNoContent)
	}
}
