// Command load measures how many moves a second one `magpie serve` with its database
// judges on this machine at a 99th percentile under 50 ms, and how many learners at
// one move every two seconds that means; next to the same figure for a bare handler
// that makes one committed INSERT in the same database; and how much memory the server
// takes with 1,000 sittings open. All of it runs on loopback and stops by itself.
package main

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"net"
	"net/http"
	"net/http/cookiejar"
	"os"
	"os/exec"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"

	"keenmagpie/bench/trial"
	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/demo"
	"keenmagpie/hosting"
	"keenmagpie/server"
	"keenmagpie/store"
)

const (
	aim      = 50 * time.Millisecond // of the 99th percentile
	learners = 400                   // who play at once
	lasting  = 6 * time.Second       // of one trial
	opened   = 1000                  // sittings open, for the memory
)

func main() {
	var err error
	if len(os.Args) == 4 && os.Args[1] == "bare" {
		err = bare(os.Args[3], os.Args[2])
	} else {
		err = measure(context.Background())
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

// bare serves one committed INSERT for each request.
func bare(addr, dsn string) error {
	st, err := store.Open(context.Background(), dsn)
	if err != nil {
		return err
	}
	if _, err := st.DB().Exec(`CREATE TABLE IF NOT EXISTS bare (id BIGINT AUTO_INCREMENT PRIMARY KEY, body TEXT NOT NULL)`); err != nil {
		return err
	}
	r := chi.NewRouter()
	r.Post("/*", func(w http.ResponseWriter, r *http.Request) {
		body, err := io.ReadAll(r.Body)
		if err == nil {
			_, err = st.DB().ExecContext(r.Context(), `INSERT INTO bare (body) VALUES (?)`, body)
		}
		if err != nil {
			http.Error(w, err.Error(), 500)
			return
		}
		_, _ = w.Write([]byte("{}"))
	})
	return (&http.Server{Addr: addr, Handler: r, ReadHeaderTimeout: 10 * time.Second}).ListenAndServe()
}

func measure(ctx context.Context) error {
	dir, err := os.MkdirTemp("", "magpie-load-")
	if err != nil {
		return err
	}
	house, err := trial.Open(ctx, dir, "load")
	if err != nil {
		return err
	}
	defer house.Close()
	db := house.DB
	hosted, stopHosted, err := start(ctx, "bin/magpie", "serve", "--log-level", "warn", "--begins-per-minute", "0", "--moves-per-minute", "0", "--dsn", db.DSN("load"), "--addr")
	if err != nil {
		return err
	}
	defer stopHosted()
	self, err := os.Executable()
	if err != nil {
		return err
	}
	plain, stopPlain, err := start(ctx, self, "bare", db.DSN("load"))
	if err != nil {
		return err
	}
	defer stopPlain()

	link, err := release(hosted.url)
	if err != nil {
		return err
	}
	before := hosted.memory()
	sittings, err := begin(hosted.url+"/api"+link, opened)
	if err != nil {
		return err
	}
	for _, s := range sittings {
		for range 5 {
			if err := s.move(); err != nil {
				return err
			}
		}
	}
	after := hosted.memory()
	fmt.Printf("memory with %d sittings open: %d MB; %d MB before, so %.1f kB a sitting\n", opened, after>>10, before>>10, float64(after-before)/opened)

	judged, p99 := most("hosted moves", func(i int) error { return sittings[i%learners].move() })
	inserted, plain99 := most("bare INSERT", func(i int) error {
		return post(http.DefaultClient, plain.url+"/", play.Move{N: i, Do: activity.DoPlace, Piece: "p0123456789", Target: "t0123456789"}, nil)
	})
	fmt.Printf("hosted moves: %d a second at a 99th percentile of %.0f ms: %d learners at one move every two seconds\n", judged, ms(p99), 2*judged)
	fmt.Printf("bare INSERT:  %d a second at a 99th percentile of %.0f ms; hosted is %.2f of it\n", inserted, ms(plain99), float64(judged)/float64(inserted))
	return nil
}

func ms(d time.Duration) float64 { return float64(d.Microseconds()) / 1000 }

// most looks for the highest rate at which the 99th percentile stays under the aim:
// rates of a second that grow by a half, then in between by a tenth. What fails is
// tried once more, since the machine may have been busy with something else.
func most(what string, do func(i int) error) (rate int, p99 time.Duration) {
	n := 0
	try := func(r int) bool {
		for range 2 {
			took, kept := drive(r, &n, do)
			fmt.Printf("  %s: %d a second, 99th percentile %.1f ms%s\n", what, r, ms(took), map[bool]string{false: ", not kept up with"}[kept])
			if kept && took < aim {
				rate, p99 = r, took
				return true
			}
		}
		return false
	}
	for r := 400; try(r); r = r * 3 / 2 {
	}
	for r := rate * 11 / 10; rate > 0 && try(r); r = r * 11 / 10 {
	}
	return rate, p99
}

// drive asks at a steady rate, whether or not earlier ones are answered, and gives the
// 99th percentile of the times from when each was due to its answer.
func drive(rate int, n *int, do func(i int) error) (p99 time.Duration, kept bool) {
	var mu sync.Mutex
	var took []time.Duration
	var wait sync.WaitGroup
	begun := time.Now()
	total := int(lasting.Seconds() * float64(rate))
	locks := make([]sync.Mutex, learners)
	for k := range total {
		due := begun.Add(time.Duration(k) * time.Second / time.Duration(rate))
		if d := time.Until(due); d > 0 {
			time.Sleep(d)
		}
		if time.Since(due) > 2*time.Second {
			total = k
			break
		}
		*n++
		i := *n
		wait.Add(1)
		go func() {
			defer wait.Done()
			// A learner waits for the answer before the next move.
			locks[i%learners].Lock()
			defer locks[i%learners].Unlock()
			err := do(i)
			mu.Lock()
			defer mu.Unlock()
			if err != nil {
				took = append(took, time.Minute)
				return
			}
			took = append(took, time.Since(due))
		}()
	}
	wait.Wait()
	slices.Sort(took)
	return took[len(took)*99/100], float64(total)/float64(rate) > 0.95*lasting.Seconds() && time.Since(begun) < lasting+2*time.Second
}

// process is a server that was started.
type process struct {
	url string
	cmd *exec.Cmd
}

// memory is its resident set in kB.
func (p *process) memory() int {
	body, _ := os.ReadFile(fmt.Sprintf("/proc/%d/status", p.cmd.Process.Pid))
	for _, line := range strings.Split(string(body), "\n") {
		if rest, ok := strings.CutPrefix(line, "VmRSS:"); ok {
			n, _ := strconv.Atoi(strings.Fields(rest)[0])
			return n
		}
	}
	return 0
}

// start starts a server that takes its address last, and waits until it answers.
func start(ctx context.Context, name string, args ...string) (*process, func(), error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, nil, err
	}
	addr := l.Addr().String()
	l.Close()
	cmd := exec.CommandContext(ctx, name, append(args, addr)...)
	cmd.Stderr = os.Stderr
	if err := cmd.Start(); err != nil {
		return nil, nil, err
	}
	stop := func() {
		_ = cmd.Process.Signal(os.Interrupt)
		_, _ = cmd.Process.Wait()
	}
	for range 200 {
		if c, err := net.Dial("tcp", addr); err == nil {
			c.Close()
			return &process{"http://" + addr, cmd}, stop, nil
		}
		time.Sleep(50 * time.Millisecond)
	}
	stop()
	return nil, nil, fmt.Errorf("%s did not answer at %s", name, addr)
}

// sitting is a learner at a browser of their own, who puts one piece after the other
// into the first drawer and back.
type sitting struct {
	client *http.Client
	base   string
	pieces []string
	target string
	n      int
}

func (s *sitting) move() error {
	s.n++
	m := play.Move{N: s.n, T: int64(s.n), Do: activity.DoPlace, Piece: s.pieces[(s.n/2)%len(s.pieces)], Target: s.target}
	if s.n%2 == 1 {
		m.Do, m.Target = activity.DoLift, ""
	}
	return post(s.client, s.base+"/moves", m, nil)
}

// begin opens sittings; connections are shared, cookies are not.
func begin(base string, n int) ([]*sitting, error) {
	shared := &http.Transport{MaxIdleConnsPerHost: learners}
	http.DefaultTransport.(*http.Transport).MaxIdleConnsPerHost = learners
	var out []*sitting
	for i := range n {
		jar, err := cookiejar.New(nil)
		if err != nil {
			return nil, err
		}
		s := &sitting{client: &http.Client{Jar: jar, Transport: shared}, base: base}
		var begun hosting.Begun
		if err := post(s.client, base+"/sittings", map[string]string{"learner": fmt.Sprintf("Learner %d", i+1)}, &begun); err != nil {
			return nil, err
		}
		for _, p := range begun.Sitting.Scene.Pieces {
			s.pieces = append(s.pieces, p.ID)
		}
		s.target = begun.Sitting.Scene.Targets[0].ID
		out = append(out, s)
	}
	return out, nil
}

// release releases the demo's first activity and gives its link.
func release(url string) (string, error) {
	jar, err := cookiejar.New(nil)
	if err != nil {
		return "", err
	}
	c := &http.Client{Jar: jar}
	a := demo.Accounts()[0]
	if err := post(c, url+"/api/session", map[string]string{"email": a.Email, "password": a.Password}, nil); err != nil {
		return "", err
	}
	resp, err := c.Get(url + "/api/activities")
	if err != nil {
		return "", err
	}
	defer resp.Body.Close()
	var shelf struct{ Activities []server.Card }
	if err := json.NewDecoder(resp.Body).Decode(&shelf); err != nil {
		return "", err
	}
	var r server.Release
	err = post(c, url+"/api/activities/"+shelf.Activities[0].ID+"/releases", map[string]int{"revision": 1}, &r)
	return r.Link, err
}

func post(c *http.Client, url string, body, into any) error {
	in, err := json.Marshal(body)
	if err != nil {
		return err
	}
	resp, err := c.Post(url, "application/json", bytes.NewReader(in))
	if err != nil {
		return err
	}
	defer resp.Body.Close()
	out, err := io.ReadAll(resp.Body)
	if err != nil {
		return err
	}
	if resp.StatusCode > 299 {
		return fmt.Errorf("%s: %d %s", url, resp.StatusCode, out)
	}
	if into == nil {
		return nil
	}
	return json.Unmarshal(out, into)
}
