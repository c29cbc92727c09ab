package standin

import (
	"archive/zip"
	"bytes"
	"embed"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"html/template"
	"io"
	"mime"
	"net/http"
	"path"
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
	Mastery string // as the manifest says it
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
	Seen                          time.Time
	Launches                      int
	registration                  string
}

// NewCollege makes Tarnbridge College.
func NewCollege() *College {
	c := &College{Name: "Tarnbridge College", Courses: []string{"Bicycle Mechanics I", "Safe Workshop", "Teaching Practice"}, faults: map[string]bool{}, documents: map[string][]byte{}}
	for i, name := range []string{"Ruth Calder", "Owen Hale", "Ada Finch", "Ben Moss", "Cleo Ward", "Dan Frost", "Eva Lark", "Finn Dale", "Gia Stone", "Hugo Pike", "Ivy Reed", "Jon Marsh", "Kaya Bright", "Leo Thorn"} {
		id := strings.ToLower(strings.Fields(name)[0])
		c.Fellows = append(c.Fellows, Fellow{id, name, i < 2})
	}
	return c
}

// Faults are those that can be switched on.
func Faults() []string { return []string{"slow", "refuse-commits"} }

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
	c.show(w, "home", map[string]any{"College": c, "Objects": c.objects, "Faults": Faults(), "On": c.faults})
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

// mostPackage is how large a package may be.
const mostPackage = 128 << 20

// take takes a package: a form's file, or a body that is one. It answers where it is.
func (c *College) take(w http.ResponseWriter, r *http.Request) {
	var in io.Reader = http.MaxBytesReader(w, r.Body, mostPackage)
	course, form := r.URL.Query().Get("course"), false
	if kind, _, _ := mime.ParseMediaType(r.Header.Get("Content-Type")); kind == "multipart/form-data" {
		file, _, err := r.FormFile("package")
		if err != nil {
			http.Error(w, "no file was chosen", http.StatusBadRequest)
			return
		}
		defer file.Close()
		in, course, form = file, r.FormValue("course"), true
	}
	body, err := io.ReadAll(in)
	if err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	o, err := unpackObject(body)
	if err != nil {
		http.Error(w, err.Error(), http.StatusUnprocessableEntity)
		return
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	if o.Course = course; !slices.Contains(c.Courses, course) {
		o.Course = c.Courses[0]
	}
	o.ID = len(c.objects) + 1
	c.objects = append(c.objects, o)
	c.note(o, "", "uploaded: "+o.Version+", "+strconv.Itoa(len(o.Pages))+" to launch")
	where := "/objects/" + strconv.Itoa(o.ID)
	if form {
		http.Redirect(w, r, "/", http.StatusSeeOther)
		return
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Location", where)
	w.WriteHeader(http.StatusCreated)
	_ = json.NewEncoder(w).Encode(map[string]string{"url": where})
}

// unpackObject reads a package by its manifest.
func unpackObject(body []byte) (*object, error) {
	z, err := zip.NewReader(bytes.NewReader(body), int64(len(body)))
	if err != nil {
		return nil, fmt.Errorf("this is not a zip file")
	}
	o := &object{files: map[string][]byte{}, records: map[string]*record{}}
	left := int64(mostPackage)
	for _, f := range z.File {
		r, err := f.Open()
		if err != nil {
			return nil, err
		}
		content, err := io.ReadAll(io.LimitReader(r, left+1))
		r.Close()
		if left -= int64(len(content)); err != nil || left < 0 {
			return nil, fmt.Errorf("%s cannot be unpacked", f.Name)
		}
		o.files[f.Name] = content
	}
	if o.files["cmi5.xml"] != nil {
		if err := o.readCourse(); err != nil {
			return nil, err
		}
		if len(o.Pages) == 0 {
			return nil, fmt.Errorf("its course structure names nothing to launch")
		}
		return o, nil
	}
	var m struct {
		Version string `xml:"metadata>schemaversion"`
		Items   []struct {
			Ref     string `xml:"identifierref,attr"`
			Title   string `xml:"title"`
			Mastery string `xml:"masteryscore"`
			Measure string `xml:"sequencing>objectives>primaryObjective>minNormalizedMeasure"`
		} `xml:"organizations>organization>item"`
		Title     string `xml:"organizations>organization>title"`
		Resources []struct {
			ID   string `xml:"identifier,attr"`
			Href string `xml:"href,attr"`
		} `xml:"resources>resource"`
	}
	if err := xml.Unmarshal(o.files["imsmanifest.xml"], &m); err != nil {
		return nil, fmt.Errorf("it has no manifest that can be read: %w", err)
	}
	o.Title, o.Version = m.Title, "2004"
	if m.Version == "1.2" {
		o.Version = m.Version
	}
	for _, item := range m.Items {
		for _, r := range m.Resources {
			if r.ID == item.Ref && o.files[r.Href] != nil {
				o.Pages = append(o.Pages, entryPoint{item.Title, r.Href})
				o.Mastery = item.Mastery + item.Measure
			}
		}
	}
	if len(o.Pages) == 0 {
		return nil, fmt.Errorf("its manifest names nothing to launch")
	}
	return o, nil
}

func (c *College) find(w http.ResponseWriter, r *http.Request) *object {
	n, err := strconv.Atoi(r.PathValue("id"))
	if err != nil || n < 1 || n > len(c.objects) {
		http.NotFound(w, r)
		return nil
	}
	return c.objects[n-1]
}

func (c *College) fellow(id string) Fellow {
	for _, f := range c.Fellows {
		if f.ID == id {
			return f
		}
	}
	return c.Fellows[2]
}

func key(page int, who string) string { return strconv.Itoa(page) + "/" + who }

// launch shows a page of a package before the run-time, as somebody.
func (c *College) launch(w http.ResponseWriter, r *http.Request) {
	c.mu.Lock()
	defer c.mu.Unlock()
	o := c.find(w, r)
	if o == nil {
		return
	}
	who := c.fellow(r.URL.Query().Get("as"))
	page, _ := strconv.Atoi(r.URL.Query().Get("page"))
	page = min(max(page, 0), len(o.Pages)-1)
	kept := o.records[key(page, who.ID)]
	if kept == nil {
		kept = &record{}
		o.records[key(page, who.ID)] = kept
	}
	kept.Launches++
	kept.Seen = time.Now()
	mode := "normal"
	if r.URL.Query().Get("mode") == "review" {
		mode = "review"
	}
	c.note(o, who.Name, "launched "+o.Pages[page].Href+" ("+mode+")")
	if o.Version == "cmi5" {
		where := c.launchUnit(o, page, who, kept, mode, "http://"+r.Host)
		c.show(w, "unit", map[string]any{"College": c, "Object": o, "Who": who, "Page": page, "At": o.Pages[page], "Where": where})
		return
	}
	c.show(w, "launch", map[string]any{"College": c, "Object": o, "Who": who, "Page": page, "At": o.Pages[page], "State": kept.State, "Total": kept.Total, "Mode": mode})
}

// keep takes what the run-time commits.
func (c *College) keep(w http.ResponseWriter, r *http.Request) {
	var in struct {
		State                         json.RawMessage
		Status, Success, Score, Total string
		Calls                         []string
	}
	if err := json.NewDecoder(http.MaxBytesReader(w, r.Body, 8<<20)).Decode(&in); err != nil {
		http.Error(w, err.Error(), http.StatusBadRequest)
		return
	}
	c.mu.Lock()
	slow, refuse := c.faults["slow"], c.faults["refuse-commits"]
	c.mu.Unlock()
	if slow {
		time.Sleep(2 * time.Second)
	}
	if refuse {
		http.Error(w, "refused, as the switch says", http.StatusServiceUnavailable)
		return
	}
	c.mu.Lock()
	defer c.mu.Unlock()
	o := c.find(w, r)
	if o == nil {
		return
	}
	who := c.fellow(r.URL.Query().Get("as"))
	page, _ := strconv.Atoi(r.URL.Query().Get("page"))
	kept := o.records[key(page, who.ID)]
	if kept == nil {
		http.NotFound(w, r)
		return
	}
	kept.State, kept.Status, kept.Success, kept.Score, kept.Total, kept.Seen = in.State, in.Status, in.Success, in.Score, in.Total, time.Now()
	for _, call := range in.Calls {
		c.note(o, who.Name, call)
	}
	w.WriteHeader(http.StatusNoContent)
}

func (c *College) file(w http.ResponseWriter, r *http.Request) {
	c.mu.Lock()
	o := c.find(w, r)
	c.mu.Unlock()
	if o == nil {
		return
	}
	body, ok := o.files[r.PathValue("path")]
	if !ok {
		http.NotFound(w, r)
		return
	}
	kind := mime.TypeByExtension(path.Ext(r.PathValue("path")))
	if kind == "" {
		kind = "application/octet-stream"
	}
	w.Header().Set("Content-Type", kind)
	_, _ = w.Write(body)
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
	return list
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
