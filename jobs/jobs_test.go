package jobs

import (
	"context"
	"errors"
	"log/slog"
	"os"
	"sync"
	"sync/atomic"
	"testing"
	"time"

	"keenmagpie/localdb"
	"keenmagpie/store"
)

var db *localdb.Server

func TestMain(m *testing.M) {
	os.Exit(localdb.During(func(started *localdb.Server) int {
		db = started
		return m.Run()
	}))
}

// servers are loops of so many servers on one database, with the same job.
func servers(t *testing.T, n int, j Job) (*store.Store, []*Loop) {
	t.Helper()
	t.Parallel()
	name := "jobs_" + store.NewID()
	if err := db.Create(t.Context(), name); err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(t.Context(), db.DSN(name))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() })
	if err := st.Migrate(t.Context(), nil); err != nil {
		t.Fatal(err)
	}
	loops := make([]*Loop, n)
	for i := range loops {
		loops[i] = NewLoop(st, slog.New(slog.DiscardHandler), []Job{j})
	}
	return st, loops
}

// Of many servers one does a job, and none does it before it is due again.
func TestOneOfManyDoesIt(t *testing.T) {
	var done atomic.Int32
	_, loops := servers(t, 8, Job{"count", time.Hour, time.Minute, func(context.Context) error { done.Add(1); return nil }})
	for range 2 {
		var group sync.WaitGroup
		for _, l := range loops {
			group.Go(func() {
				if err := l.Once(t.Context()); err != nil {
					t.Error(err)
				}
			})
		}
		group.Wait()
	}
	if done.Load() != 1 {
		t.Errorf("it was done %d times", done.Load())
	}
}

// A server that is gone in the middle holds its job only as long as its lease.
func TestAnotherGoesOn(t *testing.T) {
	gone, leave := context.WithCancel(t.Context())
	var done atomic.Int32
	st, loops := servers(t, 2, Job{"long", time.Hour, 300 * time.Millisecond, func(ctx context.Context) error {
		if done.Add(1) == 1 {
			leave() // as when the process is killed: nothing more is written
			<-ctx.Done()
		}
		return ctx.Err()
	}})
	if err := loops[0].Once(gone); !errors.Is(err, context.Canceled) {
		t.Fatal(err)
	}
	if mine, err := st.HoldJob(t.Context(), "long", "me", time.Second); mine || err != nil {
		t.Fatalf("held at once by another: %v, %v", mine, err)
	}
	for begun := time.Now(); done.Load() < 2 && time.Since(begun) < 20*time.Second; {
		if err := loops[1].Once(t.Context()); err != nil {
			t.Fatal(err)
		}
	}
	if done.Load() != 2 {
		t.Errorf("it was done %d times", done.Load())
	}
}

// A job that fails, or panics, is told and tried again, and is in no other's way.
func TestAFailingJob(t *testing.T) {
	for name, do := range map[string]func(context.Context) error{
		"failing": func(context.Context) error { return errors.New("no such table") },
		"panic":   func(context.Context) error { panic("no such table") },
	} {
		t.Run(name, func(t *testing.T) {
			st, loops := servers(t, 1, Job{"bad", time.Hour, time.Minute, do})
			loops[0].soonest = 0
			for range 2 {
				if err := loops[0].Once(t.Context()); err != nil {
					t.Fatal(err)
				}
			}
			list, err := st.Jobs(t.Context())
			if err != nil || len(list) != 1 || list[0].Failures != 2 || list[0].DoneAt != nil || list[0].Says == "" {
				t.Errorf("%+v, %v", list, err)
			}
		})
	}
}
