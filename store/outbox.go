package store

import (
	"context"
	"time"

	"github.com/jmoiron/sqlx"
)

// Post is something that is to be sent to a platform or a record store. Those of a lane go in
// order; each has a name, by which whoever gets it twice can keep it once.
type Post struct {
	ID          int64     `db:"id"`
	WorkspaceID string    `db:"workspace_id"`
	Kind        string    `db:"kind"`
	Lane        string    `db:"lane"`
	Name        string    `db:"name"`
	Body        string    `db:"body"`
	MadeAt      time.Time `db:"made_at"`
	DueAt       time.Time `db:"due_at"`
	Tries       int       `db:"tries"`
	State       string    `db:"state"` // waiting, sent, refused, dropped
	Answer      string    `db:"answer"`
}

// Kinds of posts.
const (
	AGrade     = "grade"
	AStatement = "statement"
	ByCmi5     = "cmi5" // a statement of a launch
)

// addPosts puts posts into the outbox, in the transaction of what they tell.
func addPosts(ctx context.Context, tx *sqlx.Tx, list []Post) error {
	for _, p := range list {
		p.MadeAt = now()
		p.DueAt = p.MadeAt
		if _, err := tx.NamedExecContext(ctx, `INSERT INTO outbox (workspace_id, kind, lane, name, body, made_at, due_at) VALUES (:workspace_id, :kind, :lane, :name, :body, :made_at, :due_at)`, p); err != nil {
			return err
		}
	}
	return nil
}

// AddPosts puts posts into the outbox.
func (s *Store) AddPosts(ctx context.Context, list []Post) error {
	return s.inTx(ctx, func(tx *sqlx.Tx) error { return addPosts(ctx, tx, list) })
}

const postColumns = `SELECT o.id, o.workspace_id, o.kind, o.lane, o.name, o.body, o.made_at, o.due_at, o.tries, o.state, o.answer FROM outbox o `

// DuePosts lists what can be sent now, at most so many, in order: of a lane nothing is left
// out before something of it, and nothing comes where the first of it is not due.
func (s *Store) DuePosts(ctx context.Context, at time.Time, most int) ([]Post, error) {
	list := []Post{}
	err := s.db.SelectContext(ctx, &list, postColumns+`WHERE o.state = 'waiting' AND o.due_at <= ? AND NOT EXISTS
		(SELECT 1 FROM outbox e WHERE e.lane = o.lane AND e.state = 'waiting' AND e.id < o.id AND e.due_at > ?) ORDER BY o.id LIMIT ?`, at, at, most)
	return list, err
}

// Posted notes that posts have been taken.
func (s *Store) Posted(ctx context.Context, ids ...int64) error {
	return s.eachPost(ctx, ids, `UPDATE outbox SET state = 'sent', answer = '' WHERE id IN (?)`)
}

func (s *Store) eachPost(ctx context.Context, ids []int64, do string, args ...any) error {
	if len(ids) == 0 {
		return nil
	}
	query, args, err := sqlx.In(do, append(args, ids)...)
	if err == nil {
		_, err = s.db.ExecContext(ctx, query, args...)
	}
	return err
}

// PostLater notes that a post could not be sent, and when it is tried again.
func (s *Store) PostLater(ctx context.Context, due time.Time, answer string, ids ...int64) error {
	return s.eachPost(ctx, ids, `UPDATE outbox SET tries = tries + 1, due_at = ?, answer = ? WHERE id IN (?)`, due, short(answer, 600))
}

// PostRefused notes that a post is refused for good.
func (s *Store) PostRefused(ctx context.Context, id int64, answer string) error {
	return s.eachPost(ctx, []int64{id}, `UPDATE outbox SET state = 'refused', tries = tries + 1, answer = ? WHERE id IN (?)`, short(answer, 600))
}

// PostDropped notes that what a post tells is nobody's any more.
func (s *Store) PostDropped(ctx context.Context, id int64) error {
	return s.eachPost(ctx, []int64{id}, `UPDATE outbox SET state = 'dropped' WHERE id IN (?)`)
}

// Outbox is how it stands with what a workspace sends.
type Outbox struct {
	Waiting int    `db:"waiting"`
	Refused int    `db:"refused"`
	Oldest  *int64 `db:"oldest"` // seconds that the first waits
}

// Outbox says how it stands.
func (w Workspace) Outbox(ctx context.Context) (o Outbox, err error) {
	err = w.s.db.GetContext(ctx, &o, `SELECT COALESCE(SUM(state = 'waiting'), 0) AS waiting, COALESCE(SUM(state = 'refused'), 0) AS refused,
		TIMESTAMPDIFF(SECOND, MIN(IF(state = 'waiting', made_at, NULL)), UTC_TIMESTAMP(3)) AS oldest FROM outbox WHERE workspace_id = ? AND state IN ('waiting', 'refused')`, w.id)
	return o, err
}

// StuckPosts lists those that were refused, or tried in vain, the latest first.
func (w Workspace) StuckPosts(ctx context.Context, most int) ([]Post, error) {
	list := []Post{}
	err := w.s.db.SelectContext(ctx, &list, postColumns+`WHERE o.workspace_id = ? AND (o.state = 'refused' OR o.state = 'waiting' AND o.tries > 0) ORDER BY o.id DESC LIMIT ?`, w.id, most)
	return list, err
}

// PostAgain lets what was refused, or waits to be tried again, be sent now.
func (w Workspace) PostAgain(ctx context.Context) error {
	_, err := w.s.db.ExecContext(ctx, `UPDATE outbox SET state = 'waiting', due_at = ? WHERE workspace_id = ? AND (state = 'refused' OR state = 'waiting' AND tries > 0)`, now(), w.id)
	return err
}

// DropSent forgets what was sent long ago.
func (s *Store) DropSent(ctx context.Context) error {
	return s.dropSome(ctx, `outbox WHERE state IN ('sent', 'dropped') AND made_at < ?`, now().Add(-7*24*time.Hour))
}
