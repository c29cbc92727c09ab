// Package trial starts servers of the built program for measurements that do to them what
// attackers and accidents do, and plays on them as learners would. All of it runs on
// loopback.
package trial

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"net/url"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"

	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/demo"
	"keenmagpie/hosting"
	"keenmagpie/localdb"
	"keenmagpie/server"
	"keenmagpie/store"
)

// House is a database of its own with the demo in it.
type House struct {
	Dir   string // where it is kept
	DB    *localdb.Server
	Store *store.Store
}

// Open makes a house in an empty folder, with a database of that name. Closing it removes
// the folder.
func Open(ctx context.Context, dir, name string) (*House, error) {
	h := &House{Dir: dir}
	var err error
	if h.DB, err = localdb.Start(ctx, dir); err != nil {
		return nil, errors.Join(err, os.RemoveAll(dir))
	}
	if h.Store, err = demo.Open(ctx, h.DB, name); err != nil {
		h.Close()
		return nil, err
	}
	return h, nil
}

// Close ends a house and removes what it kept.
func (h *House) Close() {
	if h.Store != nil {
		_ = h.Store.Close()
	}
	h.DB.Stop()
	_ = os.RemoveAll(h.Dir)
}

// KillDatabase ends its database at once; who keeps it starts it again.
func (h *House) KillDatabase() error {
	body, err := os.ReadFile(filepath.Join(h.Dir, "pid"))
	if err != nil {
		return err
	}
	pid, err := strconv.Atoi(strings.TrimSpace(string(body)))
	if err != nil {
		return err
	}
	return syscall.Kill(pid, syscall.SIGKILL)
}

// Server is a running `magpie serve`.
type Server struct {
	URL  string
	addr string
	args []string
	cmd  *exec.Cmd
}

// Serve starts a server on a database and waits until it answers.
func Serve(ctx context.Context, dsn string, args ...string) (*Server, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	addr := l.Addr().String()
	if err := l.Close(); err != nil {
		return nil, err
	}
	s := &Server{URL: "http://" + addr, addr: addr, args: append([]string{"serve", "--dsn", dsn, "--addr", addr}, args...)}
	return s, s.Start(ctx)
}

// Start starts it, or starts it again where it was before.
func (s *Server) Start(ctx context.Context) error {
	s.cmd = exec.Command("bin/magpie", s.args...)
	if err := s.cmd.Start(); err != nil {
		return err
	}
	ctx, cancel := context.WithTimeout(ctx, 2*time.Minute)
	defer cancel()
	for {
		resp, err := http.Get(s.URL + "/api/me")
		if err == nil {
			return resp.Body.Close()
		}
		select {
		case <-ctx.Done():
			return fmt.Errorf("the server at %s does not answer: %w", s.addr, err)
		case <-time.After(20 * time.Millisecond):
		}
	}
}

// Kill ends it at once.
func (s *Server) Kill() {
	_ = s.cmd.Process.Kill()
	_ = s.cmd.Wait()
}

// Processor is the processor time that it has taken.
func (s *Server) Processor() time.Duration {
	stat, _ := os.ReadFile(fmt.Sprintf("/proc/%d/stat", s.cmd.Process.Pid))
	_, rest, _ := strings.Cut(string(stat), ") ")
	fields := strings.Fields(rest)
	if len(fields) < 13 {
		return 0
	}
	user, _ := strconv.Atoi(fields[11])
	system, _ := strconv.Atoi(fields[12])
	return time.Duration(user+system) * 10 * time.Millisecond // clock ticks of 1/100 s
}

// Peak is the most memory that it has had since the last call, in kB.
func (s *Server) Peak() int {
	status, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", s.cmd.Process.Pid))
	_, rest, _ := strings.Cut(string(status), "VmHWM:")
	kb := 0
	_, _ = fmt.Sscan(rest, &kb)
	_ = os.WriteFile(fmt.Sprintf("/proc/%d/clear_refs", s.cmd.Process.Pid), []byte("5"), 0)
	return kb
}

// Client keeps cookies.
type Client struct {
	URL string
	http.Client
}

// Browser is a client with no cookies yet.
func Browser(url string) *Client {
	jar, _ := cookiejar.New(nil) // fails never without options
	return &Client{url, http.Client{Jar: jar, Timeout: 5 * time.Minute}}
}

// Ask asks, and reads the answer into out where that is not nil.
func (c *Client) Ask(method, path string, in, out any) (status int, err error) {
	var body io.Reader = http.NoBody
	kind := "application/json"
	switch x := in.(type) {
	case nil:
	case []byte:
		body, kind = bytes.NewReader(x), "application/octet-stream"
	case json.RawMessage:
		body = bytes.NewReader(x)
	default:
		j, err := json.Marshal(x)
		if err != nil {
			return 0, err
		}
		body = bytes.NewReader(j)
	}
	req, err := http.NewRequest(method, c.URL+path, body)
	if err != nil {
		return 0, err
	}
	req.Header.Set("Content-Type", kind)
	resp, err := c.Do(req)
	if err != nil {
		return 0, err
	}
	defer resp.Body.Close()
	all, err := io.ReadAll(resp.Body)
	if err == nil && out != nil && resp.StatusCode < 300 {
		err = json.Unmarshal(all, out)
	}
	return resp.StatusCode, err
}

// Designer signs the demo's designer in.
func Designer(url string) (*Client, error) {
	c, ana := Browser(url), demo.Accounts()[0]
	status, err := c.Ask("POST", "/api/session", map[string]string{"email": ana.Email, "password": ana.Password}, nil)
	if err == nil && status != 200 {
		err = fmt.Errorf("signing in was answered %d", status)
	}
	return c, err
}

// Release releases the first activity of the shelf.
func (c *Client) Release() (r server.Release, activity string, err error) {
	var shelf struct{ Activities []server.Card }
	if _, err := c.Ask("GET", "/api/activities", nil, &shelf); err != nil {
		return r, "", err
	}
	activity = shelf.Activities[0].ID
	var draft server.Draft
	if _, err := c.Ask("GET", "/api/activities/"+activity, nil, &draft); err != nil {
		return r, "", err
	}
	_, err = c.Ask("POST", "/api/activities/"+activity+"/releases", map[string]int{"revision": draft.Revision}, &r)
	return r, activity, err
}

// Learner plays.
type Learner struct {
	*Client
	base   string
	Seated hosting.Seated
	N      int
}

// Begin begins a sitting.
func Begin(url, link, name string) (*Learner, error) {
	l := &Learner{Client: Browser(url), base: "/api" + link}
	var begun hosting.Begun
	status, err := l.Ask("POST", l.base+"/sittings", map[string]string{"learner": name}, &begun)
	if err != nil || begun.Sitting == nil {
		return nil, fmt.Errorf("beginning was answered %d (%v)", status, err)
	}
	l.Seated = *begun.Sitting
	return l, nil
}

// Next is the learner's next move: pieces in turn into targets in turn.
func (l *Learner) Next() play.Move {
	scene := l.Seated.Scene
	n := l.N + 1
	return play.Move{N: n, T: int64(n), Do: activity.DoPlace, Piece: scene.Pieces[n%len(scene.Pieces)].ID, Target: scene.Targets[(n/3)%len(scene.Targets)].ID}
}

// Make makes a move once; acknowledged says that the server has answered that it is kept.
func (l *Learner) Make(m play.Move) (acknowledged bool, status int) {
	_, acknowledged, status = l.Stands(m)
	return acknowledged, status
}

// Stands makes a move once, and says how the sitting stands after it where that is answered.
func (l *Learner) Stands(m play.Move) (st play.Standing, acknowledged bool, status int) {
	status, err := l.Ask("POST", l.base+"/moves", m, &st)
	return st, err == nil && status == 200 && st.N >= m.N, status
}

// Token is the sitting's, as the learner's browser keeps it.
func (l *Learner) Token() string {
	for _, c := range l.Jar.Cookies(l.address(l.URL)) {
		return c.Value
	}
	return ""
}

// MoveTo goes on at another server of the same database.
func (l *Learner) MoveTo(server string) {
	cookies := l.Jar.Cookies(l.address(l.URL))
	l.URL = server
	for _, c := range cookies {
		c.Path = l.base
	}
	l.Jar.SetCookies(l.address(server), cookies)
}

func (l *Learner) address(server string) *url.URL {
	u, _ := url.Parse(server + l.base + "/moves") // an address of ours
	return u
}
