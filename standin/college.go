package standin

import (
	"embed"
	"encoding/json"
	"html/template"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// built has the run-time that packages are played before: scorm-again, copied by the build.
//
//go:embed all:built
var built embed.FS

//go:embed college.html
var pages string

var collegePages = template.Must(template.New("").Funcs(template.FuncMap{"json": func(v any) (template.JS, error) {
	b, err := json.Marshal(v)
	return template.JS(b), err
}}).Parse(pages))

// Fellow is somebody at the college.
type Fellow struct {
	ID, Name string
	Teacher  bool
}

// College is a made-up learning platform: courses, two teachers, twelve learners, a
// gradebook and a log of every message in both directions. It plays uploaded packages by
// SCORM 1.2 and SCORM 2004, and by cmi5 with a record store of its own. Everything is in
// memory, and small.
type College struct {
	Name    string
	Courses []string
	Fellows []Fellow
	Tool    string // the address of the application that is tried, or ""

	mu      sync.Mutex
	objects []*object
	log     []Message
	faults  map[string]bool

	// Of LTI 1.3: tools that are registered, links that lead to them, and their columns.
	keys        *signer
	registering map[string]bool
	tools       []*tool
	links       []*toolLink
	columns     []*column

	// Of the record store: what was sent, documents of state, and launches by cmi5.
	statements []statement
	documents  map[string][]byte
	sessions   []*session
}

// Message is one that went between the college and what it plays.
type Message struct {
	At          time.Time
	Object, Who string
	Text        string
}

// object is one thing in a course that is launched.
type object struct {
	ID      int
	Course  string
	Title   string
	Version string // 1.2, 2004 or cmi5
	Pages   []entryPoint
	units   []unit // by cmi5, as many as pages
	files   map[string][]byte
	records map[string]*record // by page and fellow
}

type entryPoint struct{ Title, Href string }

// record is what is kept of one fellow at one page.
type record struct {
	State                         json.RawMessage
	Status, Success, Score, Total string
	Launches                      int
	registration                  string
}

// NewCollege makes Tarnbridge College.
func NewCollege() *College {
	c := &College{Name: "Tarnbridge College", Courses: []string{"Bicycle Mechanics I", "Safe Workshop", "Teaching Practice"}, faults: map[string]bool{}, registering: map[string]bool{}, documents: map[string][]byte{}}
	for i, name := range []string{"Ruth Calder", "Owen Hale", "Ada Finch", "Ben Moss", "Cleo Ward", "Dan Frost", "Eva Lark", "Finn Dale", "Gia Stone", "Hugo Pike", "Ivy Reed", "Jon Marsh", "Kaya Bright", "Leo Thorn"} {
		id := strings.ToLower(strings.Fields(name)[0])
		c.Fellows = append(c.Fellows, Fellow{id, name, i < 2})
	}
	return c
}

// Faults are those that can be switched on.
func Faults() []string {
	return []string{"slow", "down", "refuse-commits", "refuse-scores", "old-tokens", "wrong-signature", "late-token", "no-names", "no-storage"}
}

// Handler answers for the college.
func (c *College) Handler() http.Handler {
	mux := http.NewServeMux()
	mux.HandleFunc("GET /{$}", c.home)
	mux.HandleFunc("GET /gradebook", c.gradebook)
	mux.HandleFunc("GET /log", c.messages)
	mux.HandleFunc("POST /faults", c.setFaults)
	mux.HandleFunc("POST /packages", c.take)
	mux.HandleFunc("GET /objects/{id}", c.launch)
	mux.HandleFunc("POST /objects/{id}/state", c.keep)
	mux.HandleFunc("GET /objects/{id}/files/{path...}", c.file)
	mux.HandleFunc("POST /cmi5/fetch/{token}", c.fetchToken)
	mux.HandleFunc("GET /xapi/about", func(w http.ResponseWriter, r *http.Request) {
		if !keyed(r) {
			http.Error(w, "whoever asks is not known", http.StatusUnauthorized)
			return
		}
		answerJSON(w, 200, map[string]any{"version": []string{"1.0.3"}})
	})
	mux.HandleFunc("POST /xapi/statements", c.takeStatements)
	mux.HandleFunc("PUT /xapi/statements", c.takeStatements)
	mux.HandleFunc("/xapi/activities/state", c.document)
	mux.HandleFunc("GET /xapi/agents/profile", http.NotFound)
	mux.HandleFunc("GET /run-time.js", func(w http.ResponseWriter, r *http.Request) {
		body, err := built.ReadFile("built/scorm-again.min.js")
		if err != nil {
			http.Error(w, "the run-time was not built", http.StatusNotFound)
			return
		}
		w.Header().Set("Content-Type", "text/javascript; charset=utf-8")
		_, _ = w.Write(body)
	})
	c.toolRoutes(mux)
	return mux
}

func (c *College) show(w http.ResponseWriter, page string, data any) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	if err := collegePages.ExecuteTemplate(w, page, data); err != nil {
		http.Error(w, err.Error(), http.StatusInternalServerError)
	}
}

func (c *College) home(w http.ResponseWriter, _ *http.Request) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.show(w, "home", map[string]any{"College": c, "Objects": c.objects, "Tools": c.tools, "Links": c.links, "Faults": Faults(), "On": c.faults, "RecordsUser": RecordsUser, "RecordsPassword": RecordsPassword})
}

func (c *College) setFaults(w http.ResponseWriter, r *http.Request) {
	if err := r.ParseForm(); err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	c.mu.Lock()
	for _, f := range Faults() {
		c.faults[f] = r.Form.Has(f)
	}
	c.mu.Unlock()
	http.Redirect(w, r, "/", http.StatusSeeOther)
}

// mostMessages is how many the log keeps.
const mostMessages = 5000

func (c *College) note(o *object, who, text string) {
	c.log = append(c.log, Message{time.Now(), o.Title, who, text})
	c.log = c.log[max(0, len(c.log)-mostMessages):]
}

func (c *College) messages(w http.ResponseWriter, _ *http.Request) {
	c.mu.Lock()
	list := slices.Clone(c.log)
	c.mu.Unlock()
	slices.Reverse(list)
	c.show(w, "log", map[string]any{"College": c, "Log": list})
}

// Grade is a line of the gradebook.
type Grade struct {
	Object, Page, Who, Status, Success, Score, Total string
	Launches                                         int
}

// Grades is the gradebook.
func (c *College) Grades() []Grade {
	c.mu.Lock()
	defer c.mu.Unlock()
	list := []Grade{}
	for _, o := range c.objects {
		for p, page := range o.Pages {
			for _, f := range c.Fellows {
				if k := o.records[key(p, f.ID)]; k != nil {
					list = append(list, Grade{o.Title, page.Title, f.Name, k.Status, k.Success, k.Score, k.Total, k.Launches})
				}
			}
		}
	}
	for _, k := range c.columns {
		for _, f := range c.Fellows {
			if x, ok := k.scores[f.ID]; ok {
				g := Grade{Object: k.Label, Page: k.Label, Who: f.Name, Status: x.Activity, Success: x.Grading, Launches: x.Posts}
				if x.Given != nil {
					g.Score = strconv.FormatFloat(*x.Given, 'f', -1, 64) + " of " + strconv.FormatFloat(x.Most, 'f', -1, 64)
				}
				list = append(list, g)
			}
		}
	}
	return list
}

// Fault switches one on or off.
func (c *College) Fault(name string, on bool) {
	c.mu.Lock()
	defer c.mu.Unlock()
	c.faults[name] = on
}

func (c *College) gradebook(w http.ResponseWriter, r *http.Request) {
	list := c.Grades()
	if strings.Contains(r.Header.Get("Accept"), "application/json") {
		w.Header().Set("Content-Type", "application/json")
		_ = json.NewEncoder(w).Encode(list)
		return
	}
	c.show(w, "gradebook", map[string]any{"College": c, "Grades": list})
}
