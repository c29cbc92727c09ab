// Package jobs is what goes by itself: sittings whose time is over, names whose time is
// over, what was deleted long ago. Every server runs the same loop; each job is held by one
// of them at a time, by a lease in the database, so that of many servers one does it, and
// another goes on when that one is gone.
//
// A job may be begun again before it has ended, by another server, when it takes longer
// than its lease: whatever it does must be right also when it is done twice.
package jobs

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"slices"
	"sync/atomic"
	"time"

	"keenmagpie/hosting"
	"keenmagpie/store"
)

// Job is something that is done again and again.
type Job struct {
	Name  string
	Every time.Duration // from its end to its next beginning
	Lease time.Duration // for how long one server holds it
	Do    func(context.Context) error
}

// Of are all jobs of an installation.
func Of(st *store.Store, host *hosting.Service, log *slog.Logger) []Job {
	hourly := func(name string, do func(context.Context) error) Job {
		return Job{name, time.Hour, 10 * time.Minute, do}
	}
	return []Job{
		{"finish what is over", 10 * time.Second, time.Minute, host.FinishDue},
		{"end launches that were left", 10 * time.Second, time.Minute, host.EndLeft},
		{"finish re-marks", 10 * time.Second, time.Minute, host.FinishRemarks},
		hourly("forget names", func(ctx context.Context) error { return forgetNames(ctx, st) }),
		{"sum up drafts", time.Minute, 5 * time.Minute, func(ctx context.Context) error { return sumUp(ctx, st) }},
		hourly("purge media", func(ctx context.Context) error {
			n, err := st.PurgeMedia(ctx, 100)
			if n > 0 {
				log.Info("media that nothing used for 30 days are gone", "media", n)
			}
			return err
		}),
		hourly("thin revisions", func(ctx context.Context) error {
			_, err := st.ThinRevisions(ctx, 2000)
			return err
		}),
		hourly("drop lost chunks", func(ctx context.Context) error { return st.DropLostChunks(ctx, 100) }),
		hourly("drop what was deleted", st.DropDeleted),
		hourly("drop old sessions", st.DropExpiredSessions),
		hourly("drop old tries", st.DropTries),
		hourly("drop old tickets", st.DropTickets),
		hourly("drop old letters", st.DropLetters),
		hourly("drop old visits", st.DropVisits),
		hourly("drop old guards", st.DropGuards),
		hourly("drop old launches", st.DropAdmissions),
		hourly("drop what was sent", st.DropSent),
	}
}

// forgetNames takes names away wherever their time is over.
func forgetNames(ctx context.Context, st *store.Store) error {
	list, err := st.Forgetting(ctx)
	for _, m := range list {
		if _, err := st.ForgetNames(ctx, m); err != nil {
			return err
		}
	}
	return err
}

// sumUp makes the summaries that are out of date, as after an upgrade; a save makes its own.
// A draft that cannot be read stays without one and keeps no other from it.
func sumUp(ctx context.Context, st *store.Store) error {
	const atOnce = 200
	for {
		list, err := st.Unsummed(ctx, atOnce)
		if err != nil {
			return err
		}
		made := 0
		var failed error
		for _, a := range list {
			x, err := hosting.SummaryOf(a)
			if err == nil {
				err = st.KeepSummary(ctx, a.ID, a.Revision, x)
			}
			if err != nil {
				failed = errors.Join(failed, fmt.Errorf("draft %s: %w", a.ID, err))
				continue
			}
			made++
		}
		if made == 0 || len(list) < atOnce {
			return failed
		}
	}
}

// Loop does jobs when they are due.
type Loop struct {
	store  *store.Store
	log    *slog.Logger
	jobs   []Job
	holder string
	looked atomic.Int64 // when it was last looked what is due, in Unix milliseconds
	// Panicked, where it is set, is told which job ended by a fault of the program.
	Panicked func(job string)
	// soonest is how long one waits after a failure at most.
	soonest time.Duration
}

// NewLoop is one server's.
func NewLoop(st *store.Store, log *slog.Logger, list []Job) *Loop {
	return &Loop{store: st, log: log, jobs: list, holder: store.NewID(), soonest: time.Minute}
}

// Looked is when it was last looked for what is due.
func (l *Loop) Looked() time.Time { return time.UnixMilli(l.looked.Load()) }

// Run looks every so often for what is due, until the context ends. What is under way then
// is ended with it, and another server does it again.
func (l *Loop) Run(ctx context.Context, every time.Duration) {
	clock := time.NewTicker(every)
	defer clock.Stop()
	for {
		if err := l.Once(ctx); err != nil && ctx.Err() == nil {
			l.log.Error("jobs could not be looked for; it is tried again", "error", err)
		}
		select {
		case <-ctx.Done():
			return
		case <-clock.C:
		}
	}
}

// Once does what is due now and no other server does, one after the other. A job that fails
// stands in nobody's way: it is logged, and tried again soon.
func (l *Loop) Once(ctx context.Context) error {
	l.looked.Store(time.Now().UnixMilli())
	names := make([]string, len(l.jobs))
	for i, j := range l.jobs {
		names[i] = j.Name
	}
	if err := l.store.KnowJobs(ctx, names...); err != nil {
		return err
	}
	due, err := l.store.DueJobs(ctx)
	if err != nil {
		return err
	}
	for _, j := range l.jobs {
		if !slices.Contains(due, j.Name) {
			continue
		}
		if err := l.do(ctx, j); err != nil {
			return err
		}
	}
	return nil
}

func (l *Loop) do(ctx context.Context, j Job) error {
	mine, err := l.store.HoldJob(ctx, j.Name, l.holder, j.Lease)
	if err != nil || !mine {
		return err
	}
	failed := l.safely(ctx, j)
	if ctx.Err() != nil {
		return ctx.Err() // its lease runs out
	}
	again := j.Every
	if failed != nil {
		again = min(again, l.soonest)
		l.log.Error("a job failed; it is tried again", "job", j.Name, "error", failed)
	}
	return l.store.LetGoOfJob(ctx, j.Name, l.holder, again, failed)
}

// safely has a panic of one job end that job alone.
func (l *Loop) safely(ctx context.Context, j Job) (err error) {
	defer func() {
		if p := recover(); p != nil {
			err = fmt.Errorf("panic: %v\n%s", p, debug.Stack())
			if l.Panicked != nil {
				l.Panicked("job " + j.Name)
			}
		}
	}()
	ctx, cancel := context.WithTimeout(ctx, j.Lease)
	defer cancel()
	return j.Do(ctx)
}
