// Command cluster plays on two servers that use two of three databases that keep the same
// (MariaDB Galera Cluster), and kills one of those, which comes back, and then another for
// good. It prints what was lost, how long learners waited at most, and how many moves a
// second were acknowledged, next to one database by itself:
//
//	bin/cluster -seconds 10
package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"os"
	"sync"
	"time"

	"keenmagpie/bench/trial"
	"keenmagpie/demo"
	"keenmagpie/localdb"
	"keenmagpie/store"
)

func main() {
	seconds := flag.Int("seconds", 10, "for how long is played before each of what happens")
	learners := flag.Int("learners", 16, "who play")
	flag.Parse()
	if err := run(context.Background(), *seconds, *learners); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

const name = "cluster"

func run(ctx context.Context, seconds, learners int) error {
	span := time.Duration(seconds) * time.Second
	alone, err := single(ctx, span, learners)
	if err != nil {
		return err
	}
	dir, err := localdb.Scratch()
	if err != nil {
		return err
	}
	defer os.RemoveAll(dir)
	r, err := Try(ctx, dir, span, learners)
	if err != nil {
		return err
	}
	fmt.Printf("one database:    %4d moves a second\nthree that keep the same: %4d moves a second, %.2f of that\n", alone, r.Rate, float64(r.Rate)/float64(alone))
	fmt.Printf("the longest that a learner waited: %s with all there, %s when one was killed, %s when it came back, %s when another was killed\n",
		r.Calm.Round(time.Millisecond), r.Killed.Round(time.Millisecond), r.Back.Round(time.Millisecond), r.Again.Round(time.Millisecond))
	fmt.Printf("moves acknowledged: %d (sent again: %d), lost: %d, doubled: %d; begun beyond what a release allows: %d; owners left: %d\n", r.Moves, r.Retried, r.Lost, r.Doubled, r.Beyond, r.Owners)
	if !r.Right() {
		os.Exit(1)
	}
	return nil
}

// single measures moves a second with one database and two servers.
func single(ctx context.Context, span time.Duration, learners int) (rate int, err error) {
	dir, err := localdb.Scratch()
	if err != nil {
		return 0, err
	}
	house, err := trial.Open(ctx, dir, name)
	if err != nil {
		return 0, err
	}
	defer house.Close()
	class, err := open(ctx, learners, house.DB.DSN(name), house.DB.DSN(name))
	if err != nil {
		return 0, err
	}
	defer class.close()
	return class.rate(span), nil
}

// class are learners who play at two servers.
type class struct {
	servers [2]*trial.Server
	ana     *trial.Client
	told    trial.Told
	stop    chan struct{}
	group   sync.WaitGroup
}

func open(ctx context.Context, learners int, sources ...string) (*class, error) {
	c := &class{stop: make(chan struct{})}
	for i, dsn := range sources {
		var err error
		if c.servers[i], err = trial.Serve(ctx, dsn, "--begins-per-minute", "0", "--moves-per-minute", "0"); err != nil {
			return nil, err
		}
	}
	var err error
	if c.ana, err = trial.Designer(c.servers[0].URL); err != nil {
		return nil, err
	}
	release, _, err := c.ana.Release()
	if err != nil {
		return nil, err
	}
	urls := []string{c.servers[0].URL, c.servers[1].URL}
	for i := range learners {
		l, err := trial.Begin(urls[i%2], release.Link, fmt.Sprintf("Learner %d", i))
		if err != nil {
			return nil, err
		}
		c.group.Go(func() { c.told.PlayOn(l, urls, c.stop) })
	}
	return c, nil
}

// rate is how many moves a second are acknowledged for so long.
func (c *class) rate(span time.Duration) int {
	time.Sleep(span / 5) // until all play
	before, began := c.told.Moves(), time.Now()
	time.Sleep(span)
	return int(float64(c.told.Moves()-before) / time.Since(began).Seconds())
}

// goesOn waits for so long, and then until as many moves were acknowledged since as several
// for each learner.
func (c *class) goesOn(ctx context.Context, cluster *localdb.Cluster, learners int, span time.Duration) error {
	ctx, cancel := context.WithTimeout(ctx, 2*time.Minute)
	defer cancel()
	before := c.told.Moves()
	time.Sleep(span)
	for c.told.Moves() < before+20*learners {
		select {
		case <-ctx.Done():
			return fmt.Errorf("two minutes later learners do not go on: %d moves since; %s", c.told.Moves()-before, cluster.States(context.WithoutCancel(ctx)))
		case <-time.After(50 * time.Millisecond):
		}
	}
	return nil
}

func (c *class) end() {
	select {
	case <-c.stop:
	default:
		close(c.stop)
	}
	c.group.Wait()
}

func (c *class) close() {
	c.end()
	for _, s := range c.servers {
		if s != nil {
			s.Kill()
		}
	}
}

// Result is what came of trying a cluster.
type Result struct {
	Rate                      int           // moves a second, with all nodes there
	Calm, Killed, Back, Again time.Duration // the longest that a learner waited: with all there, when one died, came back, and another died
	Moves, Retried            int
	Lost, Doubled             int
	Beyond                    int // sittings that were begun beyond what a release allows
	Owners                    int // of a workspace two of whose owners took each other's place away at once
}

// Right says whether nothing is wrong with it.
func (r Result) Right() bool { return r.Lost+r.Doubled+r.Beyond == 0 && r.Owners == 1 }

// Try starts a cluster of three in a directory, with options for Galera, lets learners play on
// two of them, and kills.
func Try(ctx context.Context, dir string, span time.Duration, learners int, provider ...string) (r Result, err error) {
	c, err := localdb.StartCluster(ctx, dir, 3, provider...)
	if err != nil {
		return r, err
	}
	defer c.Stop()
	st, err := demo.Open(ctx, c.Nodes[2], name)
	if err != nil {
		return r, err
	}
	defer st.Close()
	class, err := open(ctx, learners, c.Nodes[0].DSN(name), c.Nodes[1].DSN(name))
	if err != nil {
		return r, err
	}
	defer class.close()
	r.Rate = class.rate(span)
	if r.Beyond, err = beyond(class); err != nil {
		return r, err
	}
	if r.Owners, err = owners(ctx, c); err != nil {
		return r, err
	}
	r.Calm = class.told.Longest()
	for _, x := range []struct {
		longest *time.Duration
		do      func() error
	}{
		{&r.Killed, func() error { c.Nodes[0].Kill(); return nil }},
		{&r.Back, func() error { return c.Nodes[0].Start(ctx) }},
		{&r.Again, func() error { c.Nodes[1].Kill(); return nil }},
	} {
		if err := x.do(); err != nil {
			return r, err
		}
		if err := class.goesOn(ctx, c, learners, span); err != nil {
			return r, err
		}
		*x.longest = class.told.Longest()
	}
	class.end()
	r.Moves, r.Retried = class.told.Moves(), class.told.Retried()
	for _, at := range []int{0, 2} { // the one that came back has it all, too
		there, err := store.Open(ctx, c.Nodes[at].DSN(name))
		if err != nil {
			return r, err
		}
		lost, doubled, err := class.told.Compare(ctx, there)
		if err = errors.Join(err, there.Close()); err != nil {
			return r, err
		}
		r.Lost, r.Doubled = r.Lost+lost, r.Doubled+doubled
	}
	return r, nil
}

// beyond lets forty begin at once, at both servers, what three may, and says how many more
// than these did.
func beyond(c *class) (int, error) {
	const may = 3
	release, _, err := c.ana.Release()
	if err != nil {
		return 0, err
	}
	release.Entry.Most = may
	if status, err := c.ana.Ask("PUT", "/api/releases/"+release.ID+"/entry", release.Entry, nil); err != nil || status >= 300 {
		return 0, fmt.Errorf("who may begin was answered %d (%w)", status, err)
	}
	var group sync.WaitGroup
	var mu sync.Mutex
	begun := 0
	for i := range 40 {
		group.Go(func() {
			if _, err := trial.Begin(c.servers[i%2].URL, release.Link, fmt.Sprintf("Late %d", i)); err == nil {
				mu.Lock()
				begun++
				mu.Unlock()
			}
		})
	}
	group.Wait()
	if begun < may {
		return 0, fmt.Errorf("%d began where %d may", begun, may)
	}
	return begun - may, nil
}

// owners lets two owners take each other's place away at once, at two nodes, again and
// again, and says how few were left at worst.
func owners(ctx context.Context, c *localdb.Cluster) (least int, err error) {
	least = 2
	var at [2]*store.Store
	for i := range at {
		if at[i], err = store.Open(ctx, c.Nodes[i].DSN(name)); err != nil {
			return 0, err
		}
		defer at[i].Close()
	}
	id, err := at[0].WorkspaceNamed(ctx, demo.WorkspaceName)
	if err != nil {
		return 0, err
	}
	people, err := at[0].In(id).People(ctx)
	if err != nil {
		return 0, err
	}
	for range 20 {
		for _, p := range people[:2] {
			if err := at[0].In(id).SetRole(ctx, p.ID, store.Designer, true); err != nil {
				return 0, err
			}
		}
		for _, p := range people[2:] {
			if err := at[0].In(id).SetRole(ctx, p.ID, p.Role, false); err != nil {
				return 0, err
			}
		}
		var group sync.WaitGroup
		for i := range at {
			group.Go(func() { _ = at[i].In(id).SetRole(ctx, people[1-i].ID, store.Designer, false) })
		}
		group.Wait()
		now, err := at[1].In(id).People(ctx)
		if err != nil {
			return 0, err
		}
		left := 0
		for _, p := range now {
			if p.Owner {
				left++
			}
		}
		least = min(least, left)
	}
	return least, nil
}
