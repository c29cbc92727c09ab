package store

import (
	"context"
	"time"
)

// Job is when something that goes by itself was last done, by whichever server.
type Job struct {
	Name     string     `db:"name"`
	NextAt   time.Time  `db:"next_at"`
	DoneAt   *time.Time `db:"done_at"`  // nil: never yet
	Failures int        `db:"failures"` // one after another, up to now
	Says     string     `db:"says"`     // the last of them
}

// Times of jobs are the database's, so that servers whose clocks differ agree.
const jobNow = `UTC_TIMESTAMP(3)`

// KnowJobs makes jobs known that are not yet: they are due at once.
func (s *Store) KnowJobs(ctx context.Context, names ...string) error {
	for _, name := range names {
		if _, err := s.db.ExecContext(ctx, `INSERT IGNORE INTO jobs (name, next_at, held_until) VALUES (?, `+jobNow+`, `+jobNow+`)`, name); err != nil {
			return err
		}
	}
	return nil
}

// DueJobs names those that are due and that nobody holds.
func (s *Store) DueJobs(ctx context.Context) (names []string, err error) {
	err = s.db.SelectContext(ctx, &names, `SELECT name FROM jobs WHERE next_at <= `+jobNow+` AND held_until <= `+jobNow)
	return names, err
}

// HoldJob gives a job that is due to one of many servers, for so long: ok says whether it
// is this one. A server that is gone without a word holds it no longer than that.
func (s *Store) HoldJob(ctx context.Context, name, holder string, long time.Duration) (ok bool, err error) {
	r, err := s.db.ExecContext(ctx, `UPDATE jobs SET held_by = ?, held_until = `+jobNow+` + INTERVAL ? MICROSECOND
		WHERE name = ? AND next_at <= `+jobNow+` AND held_until <= `+jobNow, holder, long.Microseconds(), name)
	if err != nil {
		return false, err
	}
	n, err := r.RowsAffected()
	return n == 1, err
}

// LetGoOfJob says that a job was done, or why not, and after how long it is due again. Where
// another server holds it by now, nothing changes.
func (s *Store) LetGoOfJob(ctx context.Context, name, holder string, again time.Duration, failed error) error {
	change, says := `done_at = `+jobNow+`, failures = 0, says = ?`, ""
	if failed != nil {
		change, says = `failures = failures + 1, says = ?`, firstOf(failed.Error(), 500)
	}
	_, err := s.db.ExecContext(ctx, `UPDATE jobs SET held_by = '', held_until = `+jobNow+`, next_at = `+jobNow+` + INTERVAL ? MICROSECOND, `+change+`
		WHERE name = ? AND held_by = ?`, again.Microseconds(), says, name, holder)
	return err
}

// Jobs lists them by name.
func (s *Store) Jobs(ctx context.Context) ([]Job, error) {
	list := []Job{}
	err := s.db.SelectContext(ctx, &list, `SELECT name, next_at, done_at, failures, says FROM jobs ORDER BY name`)
	return list, err
}

// firstOf is the beginning of a text, so many letters at most.
func firstOf(text string, most int) string {
	if letters := []rune(text); len(letters) > most {
		return string(letters[:most])
	}
	return text
}
