// Command outbox plays on two servers of one database whose workspace sends what learners do to
// a record store, and meanwhile kills servers and the database, and has the store slow, failing,
// gone, or silent after it took something. At the end it holds what the store keeps against what
// learners were told, sitting by sitting:
//
//	bin/outbox -seed 1 -kills 10
package main

import (
	"context"
	"encoding/json"
	"flag"
	"fmt"
	"math/rand/v2"
	"net/http"
	"net/http/httptest"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"sync/atomic"
	"time"

	"github.com/google/uuid"

	"keenmagpie/bench/trial"
	"keenmagpie/core/activity"
	"keenmagpie/core/play"
	"keenmagpie/formats/xapi"
	"keenmagpie/standin"
)

func main() {
	seed := flag.Uint64("seed", 1, "of the times at which things are killed")
	kills := flag.Int("kills", 10, "how often something is killed")
	learners := flag.Int("learners", 6, "who play at a time")
	flag.Parse()
	if err := run(context.Background(), *seed, *kills, *learners); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(ctx context.Context, seed uint64, kills, learners int) error {
	dir, err := os.MkdirTemp("", "magpie-outbox-")
	if err != nil {
		return err
	}
	house, err := trial.Open(ctx, dir, "outbox")
	if err != nil {
		return err
	}
	defer house.Close()
	secret := filepath.Join(dir, "secret")
	if err := os.WriteFile(secret, []byte("a secret of this measurement alone, and of no other"), 0o600); err != nil {
		return err
	}
	var servers [2]*trial.Server
	for i := range servers {
		if servers[i], err = trial.Serve(ctx, house.DB.DSN("outbox"), "--begins-per-minute", "0", "--moves-per-minute", "0", "--secret-file", secret); err != nil {
			return err
		}
		defer servers[i].Kill()
	}
	records := &recordStore{college: standin.NewCollege()}
	web := httptest.NewServer(records.handler())
	defer web.Close()
	ana, err := trial.Designer(servers[0].URL)
	if err != nil {
		return err
	}
	status, err := ana.Ask("PUT", "/api/records", map[string]string{"endpoint": web.URL + "/xapi", "user": standin.RecordsUser, "password": standin.RecordsPassword}, nil)
	if err != nil || status != 200 {
		return fmt.Errorf("giving a record store was answered %d (%v)", status, err)
	}
	release, id, err := ana.Release()
	if err != nil {
		return err
	}
	var draft struct{ Document activity.Doc }
	if _, err := ana.Ask("GET", "/api/activities/"+id, nil, &draft); err != nil {
		return err
	}

	t := told{doc: &draft.Document, sittings: map[string][]string{}}
	stop := make(chan struct{})
	var group sync.WaitGroup
	for i := range learners {
		group.Go(func() {
			for n := 0; !over(stop); n++ {
				t.play([]string{servers[i%2].URL, servers[1-i%2].URL}, release.Link, fmt.Sprintf("Learner %d, sitting %d", i, n), stop)
			}
		})
	}
	rnd := rand.New(rand.NewPCG(seed, 0))
	killed := map[string]int{}
	for k := range kills {
		// What a killed server was sending is another's once its lease is over; until then
		// nothing is asked of the store, and no fault is met.
		asked := records.asked.Load()
		for range 600 {
			_, _ = ana.Ask("POST", "/api/outbox", nil, nil) // what waits to be tried again does so now
			if records.asked.Load() > asked+3 {
				break
			}
			time.Sleep(100 * time.Millisecond)
		}
		fault := int32(k+1) % faults
		records.fault.Store(fault)
		for had, tries := records.had[fault].Load(), 0; records.had[fault].Load() < had+2 && tries < 100; tries++ {
			time.Sleep(100 * time.Millisecond)
		}
		time.Sleep(time.Duration(rnd.IntN(500)) * time.Millisecond)
		what := []string{"server", "server", "database"}[rnd.IntN(3)]
		killed[what]++
		if what == "database" {
			if err = house.KillDatabase(); err == nil {
				err = comesUp(ctx, house)
			}
		} else {
			s := servers[rnd.IntN(2)]
			s.Kill()
			err = s.Start(ctx)
		}
		if err != nil {
			return fmt.Errorf("a %s that was killed did not come up again: %w", what, err)
		}
	}
	records.fault.Store(none)
	close(stop)
	group.Wait()
	began := time.Now()
	for waiting := -1; waiting != 0; {
		if time.Since(began) > 5*time.Minute {
			return fmt.Errorf("%d still wait after five minutes in which nothing was wrong", waiting)
		}
		_, _ = ana.Ask("POST", "/api/outbox", nil, nil) // what waits to be tried again does so now
		time.Sleep(200 * time.Millisecond)
		if err := house.Store.DB().QueryRowContext(ctx, `SELECT COUNT(*) FROM outbox WHERE state <> 'sent'`).Scan(&waiting); err != nil {
			return err
		}
	}
	lost, unknown, misplaced := t.compare(records.college.Statements())
	fmt.Printf("seed %d: %d kills (%d of a server, %d of the database); the store was asked %d times: slow %d, failed %d, gone %d, silent after it took them %d\n",
		seed, kills, killed["server"], killed["database"], records.asked.Load(), records.had[slow].Load(), records.had[failing].Load(), records.had[gone].Load(), records.had[silent].Load())
	fmt.Printf("sittings: %d, statements that had to come: %d, kept: %d, lost: %d, twice or unknown: %d, sittings out of order: %d; all there %s after the last fault\n",
		len(t.sittings), t.due(), len(records.college.Statements()), lost, unknown, misplaced, time.Since(began).Round(time.Millisecond))
	if lost+unknown+misplaced > 0 {
		os.Exit(1)
	}
	return nil
}

// comesUp waits for the database, which whoever keeps it starts again.
func comesUp(ctx context.Context, house *trial.House) error {
	ctx, cancel := context.WithTimeout(ctx, time.Minute)
	defer cancel()
	for {
		err := house.Store.DB().PingContext(ctx)
		if err == nil || ctx.Err() != nil {
			return err
		}
		time.Sleep(50 * time.Millisecond)
	}
}

func over(stop <-chan struct{}) bool {
	select {
	case <-stop:
		return true
	default:
		return false
	}
}

// What is wrong with the record store.
const (
	none int32 = iota
	slow
	failing
	gone
	silent // it takes what it is sent, and its answer does not arrive
	faults
)

// recordStore is a college's with faults before it.
type recordStore struct {
	college *standin.College
	fault   atomic.Int32
	asked   atomic.Int64
	had     [faults]atomic.Int64
}

func (x *recordStore) handler() http.Handler {
	inner := x.college.Handler()
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		fault := x.fault.Load()
		x.asked.Add(1)
		x.had[fault].Add(1)
		switch fault {
		case slow:
			time.Sleep(700 * time.Millisecond)
		case failing:
			http.Error(w, "this store is not well", http.StatusInternalServerError)
			return
		case gone:
			panic(http.ErrAbortHandler)
		case silent:
			inner.ServeHTTP(httptest.NewRecorder(), r)
			panic(http.ErrAbortHandler)
		}
		inner.ServeHTTP(w, r)
	})
}

// told is what has to be stated of each sitting, by its token, in order: worked out from what
// its learner was answered alone.
type told struct {
	doc      *activity.Doc
	mu       sync.Mutex
	sittings map[string][]string
}

// play plays one sitting to its end or until it is stopped: some pieces, a check, and again.
// Each move is made at one server or the other until it is acknowledged.
func (t *told) play(urls []string, link, name string, stop <-chan struct{}) {
	l, err := trial.Begin(urls[0], link, name)
	if err != nil {
		time.Sleep(50 * time.Millisecond) // as after a kill
		return
	}
	token := l.Token()
	does := func(do activity.Do) (st play.Standing) {
		m := l.Next()
		if do != activity.DoPlace {
			m = play.Move{N: l.N + 1, T: int64(l.N + 1), Do: do}
		}
		for tries, ok := 1, false; !ok; tries++ {
			if st, ok, _ = l.Stands(m); !ok {
				time.Sleep(30 * time.Millisecond)
				l.MoveTo(urls[tries%2])
			}
		}
		l.N = m.N
		if m.N == 1 {
			t.add(token, m.N, "attempted")
		}
		return st
	}
	for range 4 {
		st := play.Standing{}
		for range 3 {
			st = does(activity.DoPlace)
		}
		if !st.CanCheck {
			continue
		}
		st = does(activity.DoCheck)
		for i := range t.doc.Targets {
			t.add(token, l.N, "answered "+t.doc.Targets[i].ID)
		}
		if st.Phase == play.Done {
			t.add(token, l.N, "completed")
			if t.doc.Marks.PassMark > 0 {
				t.add(token, l.N, "judged")
			}
			return
		}
		if over(stop) {
			return
		}
		if st.Phase == play.Paused {
			does(activity.DoAgain)
		}
	}
}

func (t *told) add(token string, n int, what string) {
	t.mu.Lock()
	defer t.mu.Unlock()
	t.sittings[token] = append(t.sittings[token], uuid.UUID(xapi.Named(token, n, what)).String())
}

func (t *told) due() (n int) {
	for _, list := range t.sittings {
		n += len(list)
	}
	return n
}

// compare says how many of those that had to come are not there, how many are there that had
// not, and of how many sittings they stand in another order.
func (t *told) compare(kept []json.RawMessage) (lost, unknown, misplaced int) {
	of := map[string]string{}
	for token, list := range t.sittings {
		for _, id := range list {
			of[id] = token
		}
	}
	came := map[string][]string{}
	for _, one := range kept {
		var x struct{ ID string }
		_ = json.Unmarshal(one, &x) // the college has read it
		if of[x.ID] == "" || slices.Contains(came[of[x.ID]], x.ID) {
			unknown++
			continue
		}
		came[of[x.ID]] = append(came[of[x.ID]], x.ID)
	}
	for token, list := range t.sittings {
		lost += len(list) - len(came[token])
		if len(list) == len(came[token]) && !slices.Equal(list, came[token]) {
			misplaced++
		}
	}
	return lost, unknown, misplaced
}
