package standin

import (
	"archive/zip"
	"bytes"
	"encoding/json"
	"encoding/xml"
	"fmt"
	"io"
	"mime"
	"net/http"
	"path"
	"slices"
	"strconv"
)

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
			Ref   string `xml:"identifierref,attr"`
			Title string `xml:"title"`
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
	c.dawdles()
	c.mu.Lock()
	refuse := c.faults["refuse-commits"]
	c.mu.Unlock()
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
	kept.State, kept.Status, kept.Success, kept.Score, kept.Total = in.State, in.Status, in.Success, in.Score, in.Total
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
