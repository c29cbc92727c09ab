package server_test

import (
	"encoding/json"
	"html"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"net/url"
	"regexp"
	"strings"
	"sync"
	"testing"
	"time"

	"keenmagpie/platforms"
	"keenmagpie/server"
	"keenmagpie/standin"
)

// course is a site with a college beside it.
type course struct {
	*site
	college *standin.College
	at      string // the college's address
	tool    string // the site's
	send    *platforms.Service
	owner   *browser
}

func newCourse(t testing.TB) *course {
	t.Helper()
	c := &course{site: newSite(t), college: standin.NewCollege()}
	there := httptest.NewServer(c.college.Handler())
	t.Cleanup(there.Close)
	here := httptest.NewUnstartedServer(nil)
	c.at, c.tool = there.URL, "http://"+here.Listener.Addr().String()
	h := server.New(c.store, slog.New(slog.DiscardHandler), server.WithPublicURL(c.tool), server.WithSecret([]byte("thirty-two letters and some more of them")))
	c.send = h.Platforms()
	here.Config.Handler = h
	here.Start()
	t.Cleanup(here.Close)
	c.urls[0] = c.tool
	c.owner = c.ana()
	return c
}

// person has a browser of their own.
func (c *course) person() *browser {
	jar, err := cookiejar.New(nil)
	if err != nil {
		c.t.Fatal(err)
	}
	return &browser{c.t, c.tool, http.Client{Jar: jar}}
}

// get opens a page and follows where it leads, also by forms that send themselves. It answers
// where it ended, and what stood there.
func (b *browser) opens(address string) (string, string) {
	b.t.Helper()
	resp, err := b.Get(address)
	if err != nil {
		b.t.Fatal(err)
	}
	return b.follows(resp)
}

var (
	frameOf = regexp.MustCompile(`<iframe title="[^"]*" src="([^"]*)"`)
	formOf  = regexp.MustCompile(`(?s)<form method="post" action="([^"]*)">(.*?)</form>`)
	inputOf = regexp.MustCompile(`name="([^"]*)"(?: value="([^"]*)")?`)
	dataOf  = regexp.MustCompile(`data-(\w+)="([^"]*)"`)
)

func (b *browser) follows(resp *http.Response) (string, string) {
	b.t.Helper()
	kept := map[string]string{} // what the platform keeps for pages in its frame
	for range 20 {
		body := readAll(b.t, resp)
		data := map[string]string{}
		for _, m := range dataOf.FindAllStringSubmatch(body, -1) {
			data[m[1]] = html.UnescapeString(m[2])
		}
		var err error
		switch form, frame := formOf.FindStringSubmatch(body), frameOf.FindStringSubmatch(body); {
		case data["do"] == "keep":
			kept[data["key"]] = data["value"]
			resp, err = b.Get(data["to"])
		case form != nil && (strings.Contains(form[2], "id_token")):
			values := url.Values{}
			for _, m := range inputOf.FindAllStringSubmatch(form[2], -1) {
				values.Set(m[1], html.UnescapeString(m[2]))
			}
			if data["do"] == "show" {
				values.Set("proof", kept[data["key"]])
			}
			to, _ := resp.Request.URL.Parse(html.UnescapeString(form[1]))
			resp, err = b.PostForm(to.String(), values)
		case frame != nil && strings.Contains(frame[1], "/lti/"):
			resp, err = b.Get(html.UnescapeString(frame[1]))
		default:
			return resp.Request.URL.String(), body
		}
		if err != nil {
			b.t.Fatal(err)
		}
	}
	b.t.Fatal("it goes round in circles")
	return "", ""
}

func readAll(t testing.TB, resp *http.Response) string {
	t.Helper()
	defer resp.Body.Close()
	var b strings.Builder
	buf := make([]byte, 32<<10)
	for {
		n, err := resp.Body.Read(buf)
		b.Write(buf[:n])
		if err != nil {
			return b.String()
		}
	}
}

// connect registers the tool with the college, as its people would.
func (c *course) connect() {
	c.t.Helper()
	code, body := c.owner.ask("POST", "/api/platforms/registration", nil)
	if code != 201 {
		c.t.Fatalf("an address for registering: %d %s", code, body)
	}
	made := read[struct{ URL string }](c.t, body)
	if _, page := c.person().opens(c.at + "/tools/new?address=" + url.QueryEscape(made.URL)); !strings.Contains(page, "is registered with Tarnbridge College") {
		c.t.Fatalf("registering: %s", page)
	}
	_, body = c.owner.ask("GET", "/api/platforms", nil)
	list := read[server.Connections](c.t, body).Platforms
	if len(list) != 1 || list[0].Confirmed {
		c.t.Fatalf("platforms after registering: %s", body)
	}
	if _, page := c.person().opens(c.at + "/courses/0/choose?tool=" + list[0].ClientID); !strings.Contains(page, "unknown-platform") {
		c.t.Fatalf("a platform that nobody has confirmed lets in: %s", page)
	}
	p := list[0]
	if code, body := c.owner.ask("PUT", "/api/platforms/"+p.ID, map[string]any{"name": p.Name, "deployments": p.Deployments, "confirmed": true}); code != 200 {
		c.t.Fatalf("confirming: %d %s", code, body)
	}
	// The address works once.
	if _, page := c.person().opens(c.at + "/tools/new?address=" + url.QueryEscape(made.URL)); !strings.Contains(page, "no-ticket") {
		c.t.Errorf("an address for registering works twice: %s", page)
	}
}

// ticket is that of the address that a launch led to.
func ticket(t testing.TB, address string) string {
	t.Helper()
	u, err := url.Parse(address)
	if err != nil || u.Query().Get("ticket") == "" {
		t.Fatalf("the launch led to %s", address)
	}
	return u.Query().Get("ticket")
}

// as asks with what a launch gave.
func (b *browser) as(header, value, method, path string, in, out any) int {
	b.t.Helper()
	body, err := json.Marshal(in)
	if err != nil {
		b.t.Fatal(err)
	}
	r, err := http.NewRequest(method, b.url+path, strings.NewReader(string(body)))
	if err != nil {
		b.t.Fatal(err)
	}
	r.Header.Set("Content-Type", "application/json")
	r.Header.Set("Magpie-Framed", "1")
	r.Header.Set(header, value)
	resp, err := b.Do(r)
	if err != nil {
		b.t.Fatal(err)
	}
	if out != nil {
		text := readAll(b.t, resp)
		if err := json.Unmarshal([]byte(text), out); err != nil {
			b.t.Fatalf("%s %s: %d %s", method, path, resp.StatusCode, text)
		}
		if x, ok := out.(*begun); ok {
			x.token, x.pass = resp.Header.Get("Magpie-Sitting"), resp.Header.Get("Magpie-Pass")
		}
	} else {
		resp.Body.Close()
	}
	return resp.StatusCode
}

type begun struct {
	Sitting struct {
		Learner string
		Scene   struct {
			Pieces  []struct{ ID, Text string }
			Targets []struct{ ID, Text string }
		}
		Standing struct{ Phase string }
	}
	token, pass string
}

// choose links the first activity that there is into the college's first course.
func (c *course) choose(newest bool) {
	c.t.Helper()
	_, body := c.owner.ask("GET", "/api/platforms", nil)
	client := read[server.Connections](c.t, body).Platforms[0].ClientID
	teacher := c.person()
	at, _ := teacher.opens(c.at + "/courses/0/choose?tool=" + client)
	var in server.Admitted
	if code := teacher.as("Magpie-Pass", "", "POST", "/api/launched", map[string]string{"ticket": ticket(c.t, at), "kind": "choose"}, &in); code != 200 || in.Platform != "Tarnbridge College" || in.Course != "Bicycle Mechanics I" {
		c.t.Fatalf("the chooser: %d %+v", code, in)
	}
	if code := teacher.as("Magpie-Pass", "", "POST", "/api/launched", map[string]string{"ticket": ticket(c.t, at), "kind": "choose"}, nil); code != 403 {
		c.t.Errorf("a ticket works twice: %d", code)
	}
	var shelf struct{ List []server.Choosable }
	if code := teacher.as("Magpie-Pass", in.Pass, "GET", "/api/launched/shelf", nil, &shelf); code != 200 || len(shelf.List) == 0 {
		c.t.Fatalf("nothing can be chosen: %d", code)
	}
	var out struct{ To, Token string }
	if code := teacher.as("Magpie-Pass", in.Pass, "POST", "/api/launched/choice", map[string]any{"chosen": []any{map[string]any{"activity": shelf.List[0].Activity, "newest": newest}}}, &out); code != 200 {
		c.t.Fatalf("choosing: %d", code)
	}
	resp, err := teacher.PostForm(out.To, url.Values{"JWT": {out.Token}})
	if err != nil {
		c.t.Fatal(err)
	}
	if page := readAll(c.t, resp); resp.StatusCode != 200 || !strings.Contains(page, "(LTI)") {
		c.t.Fatalf("the college did not take the choice: %d %s", resp.StatusCode, page)
	}
}

// A platform registers itself, an owner confirms it, a teacher chooses an activity, a learner
// plays it, and the grade is in the gradebook; the teacher sees who did what, and who has not
// begun.
func TestACourse(t *testing.T) {
	c := newCourse(t)
	id, _ := c.owner.activity()
	r := c.owner.release(id)
	c.connect()
	c.choose(false)

	ada := c.person()
	at, _ := ada.opens(c.at + "/links/1?as=ada")
	if !strings.Contains(at, "/play/") {
		t.Fatalf("a learner's launch led to %s", at)
	}
	u, _ := url.Parse(at)
	link := strings.TrimPrefix(u.Path, "/play/")
	var sitting begun
	if code := ada.as("Magpie-Pass", "", "POST", "/api/play/"+link+"/arrivals", map[string]string{"ticket": ticket(t, at), "request": "a-request-of-twenty-letters"}, &sitting); code != 200 || sitting.Sitting.Learner != "Ada Finch" {
		t.Fatalf("arriving: %d %+v", code, sitting)
	}
	n := 0
	move := func(more map[string]any) (now struct{ Phase, Result string }) {
		n++
		more["n"], more["t"] = n, n*10
		ada.as("Magpie-Sitting", sitting.token, "POST", "/api/play/"+link+"/moves", more, &now)
		return now
	}
	move(map[string]any{"do": "place", "piece": sitting.Sitting.Scene.Pieces[0].ID, "target": sitting.Sitting.Scene.Targets[0].ID})
	for try := 1; move(map[string]any{"do": "check"}).Phase != "done"; try++ { // until there are no attempts left
		if try > 9 {
			t.Fatal("the attempts never end")
		}
		move(map[string]any{"do": "again"})
	}
	sends := func() {
		t.Helper()
		if err := c.send.SendDue(t.Context()); err != nil {
			t.Fatal(err)
		}
	}
	sends()
	grades := c.college.Grades()
	if len(grades) != 1 || grades[0].Who != "Ada Finch" || grades[0].Score == "" || grades[0].Success == "" {
		t.Fatalf("the gradebook has %+v", grades)
	}

	// Coming back, from another device, leads to the same sitting; another learner has their own.
	again := c.person()
	at, _ = again.opens(c.at + "/links/1?as=ada")
	var same begun
	if again.as("Magpie-Pass", "", "POST", "/api/play/"+link+"/arrivals", map[string]string{"ticket": ticket(t, at)}, &same); same.token != sitting.token {
		t.Error("coming back leads to another sitting")
	}
	// Who is done may begin again as often as the release says, also where no roster keeps others out.
	for _, x := range []struct {
		most    int
		another bool
	}{{1, false}, {2, true}} {
		if code, body := c.owner.ask("PUT", "/api/releases/"+r.ID+"/entry", map[string]any{"mostEach": x.most, "rev": x.most}); code != 200 {
			t.Fatalf("%d %s", code, body)
		}
		var anew begun
		at, _ = again.opens(c.at + "/links/1?as=ada")
		again.as("Magpie-Pass", "", "POST", "/api/play/"+link+"/arrivals", map[string]any{"ticket": ticket(t, at), "again": true}, &anew)
		if (anew.token != sitting.token) != x.another {
			t.Errorf("at most %d: beginning again leads to another sitting: %v", x.most, !x.another)
		}
	}
	ben := c.person()
	at, _ = ben.opens(c.at + "/links/1?as=ben")
	var other begun
	if ben.as("Magpie-Pass", "", "POST", "/api/play/"+link+"/arrivals", map[string]string{"ticket": ticket(t, at)}, &other); other.token == sitting.token || other.Sitting.Learner != "Ben Moss" {
		t.Errorf("another learner is %q", other.Sitting.Learner)
	}

	// The teacher sees both, and the ten who have not begun.
	ruth := c.person()
	at, _ = ruth.opens(c.at + "/links/1?as=ruth")
	var in server.Admitted
	if code := ruth.as("Magpie-Pass", "", "POST", "/api/launched", map[string]string{"ticket": ticket(t, at), "kind": "see"}, &in); code != 200 {
		t.Fatalf("the teacher's page: %d", code)
	}
	var seen struct {
		Results []server.LinkResult
		Try     string
	}
	ruth.as("Magpie-Pass", in.Pass, "GET", "/api/launched/results", nil, &seen)
	begunBy := 0
	for _, r := range seen.Results {
		if r.Begun != nil {
			begunBy++
		}
	}
	if len(seen.Results) != 12 || begunBy != 2 {
		t.Errorf("the teacher sees %d learners, of whom %d have begun", len(seen.Results), begunBy)
	}
	// They try it like a draft, and nothing is kept of that; whoever has the link sees no results.
	if code := ruth.as("Magpie-Pass", strings.TrimPrefix(seen.Try, "/try/"), "GET", "/api/launched/results", nil, nil); code != 403 {
		t.Errorf("by the link to try it, results are seen: %d", code)
	}
	if code, body := ruth.ask("GET", "/api"+seen.Try, nil); code != 200 || strings.Contains(body, "solutions") {
		t.Errorf("trying it: %d %s", code, body)
	}
}

// What a platform sends that is not right is refused, each for its reason, and nobody is let in.
func TestLaunchesThatAreRefused(t *testing.T) {
	c := newCourse(t)
	id, _ := c.owner.activity()
	c.owner.release(id)
	c.connect()
	c.choose(true)
	refused := func(name, code string) {
		t.Helper()
		if at, page := c.person().opens(c.at + "/links/1?as=ada"); !strings.Contains(page, code) {
			t.Errorf("%s: led to %s, %.300s", name, at, page)
		}
	}
	for fault, code := range map[string]string{"wrong-signature": "bad-signature", "late-token": "expired"} {
		c.college.Fault(fault, true)
		refused(fault, code)
		c.college.Fault(fault, false)
	}
	_, body := c.owner.ask("GET", "/api/platforms", nil)
	p := read[server.Connections](t, body).Platforms[0]
	c.owner.ask("PUT", "/api/platforms/"+p.ID, map[string]any{"name": p.Name, "deployments": []string{"another"}, "confirmed": true})
	refused("another deployment", "other-deployment")
	c.owner.ask("PUT", "/api/platforms/"+p.ID, map[string]any{"name": p.Name, "deployments": p.Deployments, "confirmed": true})

	// The platform's keys are rotated: the new one is asked for.
	c.college.RotateKeys()
	if at, page := c.person().opens(c.at + "/links/1?as=ada"); !strings.Contains(at, "/play/") {
		t.Errorf("after the platform's keys were rotated: %s", page)
	}
	// Ours are rotated: what is signed by either is taken.
	if err := c.send.Rotate(t.Context(), time.Now()); err != nil {
		t.Fatal(err)
	}
	if code, body := c.owner.ask("GET", "/lti/keys", nil); code != 200 || strings.Count(body, `"kid"`) != 2 {
		t.Errorf("published keys after a rotation: %d %s", code, body)
	}
	c.choose(false)

	// A launch is good for once, in the browser that asked for it.
	thief := c.person()
	at := c.at + "/links/1?as=ada&window="
	owner := c.person()
	c.college.Fault("no-storage", true)
	resp, err := owner.Get(at)
	if err != nil {
		t.Fatal(err)
	}
	form := formOf.FindStringSubmatch(readAll(t, resp))
	if form == nil {
		t.Fatal("the college does not answer the login")
	}
	values := url.Values{}
	for _, m := range inputOf.FindAllStringSubmatch(form[2], -1) {
		values.Set(m[1], html.UnescapeString(m[2]))
	}
	says := func(b *browser, code string) {
		t.Helper()
		resp, err := b.PostForm(form[1], values)
		if err != nil {
			t.Fatal(err)
		}
		if page := readAll(t, resp); !strings.Contains(page, code) {
			t.Errorf("not %s: %s %.300s", code, resp.Request.URL, page)
		}
	}
	says(thief, "other-browser")
	resp, err = owner.PostForm(form[1], values)
	if err != nil || !strings.Contains(resp.Request.URL.Path, "/play/") {
		t.Fatalf("the one who asked is not let in: %v %s", err, resp.Request.URL)
	}
	resp.Body.Close()
	says(owner, "used-login")
}

// Grades arrive once the platform is there again, the last of them; what it refuses for good is
// shown to the owner, and can be sent again.
func TestGradesArriveInTheEnd(t *testing.T) {
	c := newCourse(t)
	id, _ := c.owner.activity()
	r := c.owner.release(id)
	c.connect()
	c.choose(false)
	ada := c.person()
	at, _ := ada.opens(c.at + "/links/1?as=ada")
	u, _ := url.Parse(at)
	link := strings.TrimPrefix(u.Path, "/play/")
	var sitting begun
	ada.as("Magpie-Pass", "", "POST", "/api/play/"+link+"/arrivals", map[string]string{"ticket": ticket(t, at)}, &sitting)
	check := func(n int) {
		ada.as("Magpie-Sitting", sitting.token, "POST", "/api/play/"+link+"/moves", map[string]any{"n": n, "t": n * 10, "do": "place", "piece": sitting.Sitting.Scene.Pieces[n/2].ID, "target": sitting.Sitting.Scene.Targets[0].ID}, nil)
		ada.as("Magpie-Sitting", sitting.token, "POST", "/api/play/"+link+"/moves", map[string]any{"n": n + 1, "t": n*10 + 5, "do": "check"}, nil)
	}
	c.college.Fault("down", true)
	check(1)
	if err := c.send.SendDue(t.Context()); err != nil {
		t.Fatal(err)
	}
	if len(c.college.Grades()) != 0 {
		t.Fatal("a platform that is down has a grade")
	}
	connections := func() server.Connections {
		_, body := c.owner.ask("GET", "/api/platforms", nil)
		return read[server.Connections](t, body)
	}
	if x := connections(); x.Waiting != 1 || len(x.Stuck) != 1 || x.Stuck[0].Refused || !strings.Contains(x.Stuck[0].Answer, "500") {
		t.Fatalf("what waits: %+v", x)
	}
	c.college.Fault("down", false)
	c.college.Fault("refuse-scores", true)
	c.owner.ask("POST", "/api/outbox", nil)
	if err := c.send.SendDue(t.Context()); err != nil {
		t.Fatal(err)
	}
	if x := connections(); x.Refused != 1 || x.Waiting != 0 {
		t.Fatalf("what was refused: %+v", x)
	}
	c.college.Fault("refuse-scores", false)
	c.owner.ask("POST", "/api/outbox", nil)
	if err := c.send.SendDue(t.Context()); err != nil {
		t.Fatal(err)
	}
	if list := c.college.Grades(); len(list) != 1 || connections().Refused != 0 {
		t.Fatalf("the gradebook has %+v", list)
	}
	// As they stand now, once more.
	if code, body := c.owner.ask("POST", "/api/releases/"+r.ID+"/grades", nil); code != 200 || !strings.Contains(body, `"grades":1`) {
		t.Errorf("sending grades again: %d %s", code, body)
	}
	if err := c.send.SendDue(t.Context()); err != nil {
		t.Fatal(err)
	}
	if list := c.college.Grades(); len(list) != 1 || list[0].Launches != 2 {
		t.Errorf("after sending again the gradebook has %+v", list)
	}
}

// BenchmarkLaunches prints how many launches there are in a second: from the login that a
// platform begins to the page of a learner, with what the college does in between.
func BenchmarkLaunches(b *testing.B) {
	c := newCourse(b)
	id, _ := c.owner.activity()
	c.owner.release(id)
	c.connect()
	c.choose(false)
	n := 0
	for b.Loop() {
		var at sync.WaitGroup
		for range 16 {
			n++
			at.Go(func() {
				if to, page := c.person().opens(c.at + "/links/1?as=ada"); !strings.Contains(to, "/play/") {
					b.Errorf("a launch led to %s: %s", to, page)
				}
			})
		}
		at.Wait()
	}
	b.ReportMetric(float64(n)/b.Elapsed().Seconds(), "launches/s")
}
