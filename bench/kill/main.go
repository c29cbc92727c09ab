// Command kill plays on two servers of one database and kills, one after the other, a
// server, the database, a migration, and a server in the middle of a re-mark. It prints how
// many moves were acknowledged, and how many of them were lost or are there twice:
//
//	bin/kill -seed 1 -kills 40
package main

import (
	"context"
	"flag"
	"fmt"
	"math/rand/v2"
	"os"
	"os/exec"
	"sync"
	"time"

	"keenmagpie/bench/trial"
	"keenmagpie/localdb"
)

func main() {
	seed := flag.Uint64("seed", 1, "of the times at which things are killed")
	kills := flag.Int("kills", 24, "how often something is killed")
	learners := flag.Int("learners", 16, "who play")
	flag.Parse()
	if err := run(context.Background(), *seed, *kills, *learners); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

func run(ctx context.Context, seed uint64, kills, learners int) error {
	dir, err := os.MkdirTemp("", "magpie-kill-")
	if err != nil {
		return err
	}
	house, err := trial.Open(ctx, dir, "kill")
	if err != nil {
		return err
	}
	defer house.Close()
	db, st := house.DB, house.Store
	var servers [2]*trial.Server
	for i := range servers {
		if servers[i], err = trial.Serve(ctx, db.DSN("kill"), "--begins-per-minute", "0", "--moves-per-minute", "0"); err != nil {
			return err
		}
		defer servers[i].Kill()
	}
	ana, err := trial.Designer(servers[0].URL)
	if err != nil {
		return err
	}
	release, _, err := ana.Release()
	if err != nil {
		return err
	}
	var told trial.Told
	stop := make(chan struct{})
	urls := []string{servers[0].URL, servers[1].URL}
	var group sync.WaitGroup
	for i := range learners {
		l, err := trial.Begin(servers[i%2].URL, release.Link, fmt.Sprintf("Learner %d", i))
		if err != nil {
			return err
		}
		group.Go(func() { told.PlayOn(l, urls, stop) })
	}
	rnd := rand.New(rand.NewPCG(seed, 0))
	done := map[string]int{}
	var failed []string
	for k := range kills {
		time.Sleep(time.Duration(200+rnd.IntN(800)) * time.Millisecond)
		what := []string{"server", "database", "migration", "re-mark"}[k%4]
		var err error
		switch what {
		case "server":
			s := servers[rnd.IntN(2)]
			s.Kill()
			err = s.Start(ctx)
		case "database":
			err = house.KillDatabase()
		case "migration":
			err = killMigration(ctx, db, k, time.Duration(rnd.IntN(900))*time.Millisecond)
		case "re-mark":
			err = killRemark(ctx, ana, servers, release.ID, time.Duration(rnd.IntN(60))*time.Millisecond)
		}
		done[what]++
		if err != nil {
			failed = append(failed, fmt.Sprintf("%s, kill %d: %v", what, k+1, err))
		}
	}
	time.Sleep(time.Second)
	close(stop)
	group.Wait()
	lost, doubled, err := told.Compare(ctx, st)
	if err != nil {
		return err
	}
	fmt.Printf("seed %d: %d kills (%d of a server, %d of the database, %d of a migration, %d during a re-mark)\n", seed, kills, done["server"], done["database"], done["migration"], done["re-mark"])
	fmt.Printf("moves acknowledged: %d (sent again: %d), lost: %d, doubled: %d; what did not come up again: %d\n", told.Moves(), told.Retried(), lost, doubled, len(failed))
	for _, f := range failed {
		fmt.Println("  " + f)
	}
	if lost+doubled+len(failed) > 0 {
		os.Exit(1)
	}
	return nil
}

// killMigration kills a first start on an empty database after a while, and looks whether
// the next one brings it up.
func killMigration(ctx context.Context, db *localdb.Server, k int, after time.Duration) error {
	name := fmt.Sprintf("migration_%d", k)
	for range 100 { // it may just be coming up again
		if err := db.Create(ctx, name); err == nil {
			break
		}
		time.Sleep(50 * time.Millisecond)
	}
	first := exec.Command("bin/magpie", "migrate", "--dsn", db.DSN(name))
	if err := first.Start(); err != nil {
		return err
	}
	time.Sleep(after)
	_ = first.Process.Kill()
	_ = first.Wait()
	out, err := exec.CommandContext(ctx, "bin/magpie", "migrate", "--dsn", db.DSN(name)).CombinedOutput()
	if err != nil {
		return fmt.Errorf("%w: %s", err, out)
	}
	return nil
}

// killRemark kills a server while it works a re-mark out, and works it out at the other.
func killRemark(ctx context.Context, ana *trial.Client, servers [2]*trial.Server, release string, after time.Duration) error {
	began := make(chan struct{})
	go func() {
		close(began)
		_, _ = ana.Ask("POST", "/api/releases/"+release+"/remarks", nil, nil)
	}()
	<-began
	time.Sleep(after)
	servers[0].Kill()
	other := *ana
	other.URL = servers[1].URL
	status, err := other.Ask("POST", "/api/releases/"+release+"/remarks", nil, nil)
	if err == nil && status != 200 {
		err = fmt.Errorf("answered %d", status)
	}
	if up := servers[0].Start(ctx); up != nil {
		return up
	}
	return err
}
