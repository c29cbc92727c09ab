package store

import (
	"context"
	"database/sql"
	"fmt"
	"maps"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Played says whose sittings are meant: a release's or, of a series, those of one step,
// each learner's first there.
type Played struct {
	release string
	Step    *int
}

// Played is what was played of a release, or of a step of it. Only whoever has found the
// release can ask for that.
func (r *Release) Played(step *int) Played { return Played{r.ID, step} }

func (p Played) where() string {
	if p.Step == nil {
		return `s.release_id = ? AND s.run_id IS NULL`
	}
	return `s.release_id = ? AND s.run_id IS NOT NULL AND s.turn = 0 AND s.step = ?`
}

func (p Played) args(more ...any) []any {
	if p.Step == nil {
		return append([]any{p.release}, more...)
	}
	return append([]any{p.release, *p.Step}, more...)
}

// Search says which sittings are looked for. What is empty is not asked for.
type Search struct {
	Text     string // part of the learner's name, where Names, or the sitting's number
	Names    bool
	Phase    string
	From, To string // percent: at least, less than; only of those that have a score
	Sort     string // learner, started, state, attempts, score, took
	Down     bool
	Limit    int
	Offset   int
}

// sorts are what sittings can be ordered by. Only these come into SQL.
var sorts = map[string]string{"learner": "s.learner COLLATE utf8mb4_general_ci", "started": "s.started_at", "state": "s.phase",
	"attempts": "s.attempts", "score": "s.score", "took": "s.took_ms"}

// FindSittings gives a page of the sittings that are looked for, and how many there are.
func (s *Store) FindSittings(ctx context.Context, p Played, q Search) (list []Sitting, total int, err error) {
	where, args := p.where(), p.args()
	if q.Text != "" {
		some, id := `0`, int64(0)
		if q.Names {
			some = `s.learner COLLATE utf8mb4_general_ci LIKE ?`
			args = append(args, "%"+strings.NewReplacer(`\`, `\\`, `%`, `\%`, `_`, `\_`).Replace(q.Text)+"%")
		}
		if id, err = strconv.ParseInt(q.Text, 10, 64); err != nil {
			id = -1
		}
		where += ` AND (` + some + ` OR s.id = ?)`
		args = append(args, id)
	}
	if q.Phase != "" {
		where += ` AND s.phase = ?`
		args = append(args, q.Phase)
	}
	if q.From != "" {
		where += ` AND s.outcome <> '' AND s.percent >= ?`
		args = append(args, q.From)
	}
	if q.To != "" {
		where += ` AND s.outcome <> '' AND s.percent < ?`
		args = append(args, q.To)
	}
	if err := s.old.GetContext(ctx, &total, `SELECT COUNT(*) FROM sittings s WHERE `+where, args...); err != nil {
		return nil, 0, err
	}
	by, ok := sorts[q.Sort]
	if !ok {
		by = sorts["started"]
	}
	down := ``
	if q.Down {
		down = ` DESC`
	}
	order := ` ORDER BY ` + by + down + `, s.id` + down
	list = []Sitting{}
	// The page first: the last move is looked up for its rows alone.
	err = s.old.SelectContext(ctx, &list, strings.Replace(sittingColumns, `FROM sittings s `,
		`FROM (SELECT * FROM sittings s WHERE `+where+order+` LIMIT ? OFFSET ?) s`, 1)+order, append(args, q.Limit, q.Offset)...)
	return list, total, err
}

// CountSittings counts them.
func (s *Store) CountSittings(ctx context.Context, p Played) (n int, err error) {
	err = s.old.GetContext(ctx, &n, `SELECT COUNT(*) FROM sittings s WHERE `+p.where(), p.args()...)
	return n, err
}

// inOrder reads a release's sittings in the order of their ids, which is that of their
// moves too. Left alone, the database now and then takes another index and
// reads all of them to find the next hundred.
const inOrder = `FORCE INDEX (of_release) `

// SittingIDs lists the sittings in the order in which they began.
func (s *Store) SittingIDs(ctx context.Context, p Played) ([]int64, error) {
	return s.idsAfter(ctx, p, 0, 1<<40)
}

func (s *Store) idsAfter(ctx context.Context, p Played, id int64, most int) ([]int64, error) {
	list := []int64{}
	err := s.old.SelectContext(ctx, &list, `SELECT s.id FROM sittings s `+inOrder+`WHERE `+p.where()+` AND s.id > ? ORDER BY s.id LIMIT ?`, p.args(id, most)...)
	return list, err
}

// batch is how many sittings are read at once; the first are fewer, so that they come
// soon.
const (
	batch      = 500
	firstBatch = 20
)

// EachBatch calls f with the sittings in the order in which they began, some hundred at
// a time, without holding them all in memory; with their logs, where logs is set.
func (s *Store) EachBatch(ctx context.Context, p Played, logs bool, f func([]Logged) error) error {
	last := int64(0)
	for most := firstBatch; ; most = batch {
		ids, err := s.idsAfter(ctx, p, last, most)
		if err != nil || len(ids) == 0 {
			return err
		}
		last = ids[len(ids)-1]
		list, err := logged(ctx, s.old, ids, logs)
		if err != nil {
			return err
		}
		if err := f(list); err != nil {
			return err
		}
	}
}

// EachLog calls f with some sittings and their logs, some hundred at a time.
func (s *Store) EachLog(ctx context.Context, ids []int64, f func([]Logged) error) error {
	for len(ids) > 0 {
		some := ids[:min(batch, len(ids))]
		ids = ids[len(some):]
		list, err := logged(ctx, s.db, some, true)
		if err != nil {
			return err
		}
		if err := f(list); err != nil {
			return err
		}
	}
	return nil
}

func logged(ctx context.Context, db *sqlx.DB, ids []int64, logs bool) ([]Logged, error) {
	list := []Logged{}
	if err := db.SelectContext(ctx, &list, sittingColumns+`WHERE s.id IN (`+numbers(ids)+`) ORDER BY s.id`); err != nil || !logs {
		return list, err
	}
	rows, err := db.QueryContext(ctx, `SELECT sitting_id, n, body, result, at FROM moves WHERE sitting_id IN (`+numbers(ids)+`) ORDER BY sitting_id, n`)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	x := 0
	for rows.Next() {
		var id int64
		var m Move
		var at time.Time
		if err := rows.Scan(&id, &m.N, &m.Body, &m.Result, &at); err != nil {
			return nil, err
		}
		for x < len(list) && list[x].ID != id {
			x++
		}
		if x == len(list) {
			break // begun again in between
		}
		list[x].Moves, list[x].At = append(list[x].Moves, m), append(list[x].At, at)
	}
	return list, rows.Err()
}

func numbers(ids []int64) string {
	b := make([]byte, 0, 10*len(ids))
	for i, id := range ids {
		if i > 0 {
			b = append(b, ',')
		}
		b = strconv.AppendInt(b, id, 10)
	}
	return string(b)
}

// Tally is what a sitting gives to the figures, as core/stats writes it, by the document
// of a re-mark, or, where that is "", of the release (the column is called stage).
type Tally struct {
	ReleaseID string `db:"release_id"`
	Remark    string `db:"stage"`
	SittingID int64  `db:"sitting_id"`
	Moves     int    `db:"moves"`
	Body      []byte `db:"body"`
}

// EachTally calls f with every sitting and what was kept of it; fresh says whether that
// is all. kept is valid during the call. Sittings and tallies are read beside each other
// in the order of their ids: that takes a third of the time of joining them.
func (s *Store) EachTally(ctx context.Context, p Played, remark string, f func(sitting int64, kept []byte, fresh bool) error) error {
	done := []int64{}
	if err := s.old.SelectContext(ctx, &done, `SELECT s.id FROM sittings s WHERE `+p.where()+` AND s.phase = 'done' ORDER BY s.id`, p.args()...); err != nil {
		return err
	}
	type count struct {
		ID    int64 `db:"id"`
		Moves int   `db:"moves"`
	}
	list := []count{}
	if err := s.old.SelectContext(ctx, &list, `SELECT s.id, (SELECT COALESCE(MAX(m.n), 0) FROM moves m WHERE m.sitting_id = s.id) AS moves
		FROM sittings s WHERE `+p.where()+` AND s.phase <> 'done'`, p.args()...); err != nil {
		return err
	}
	underWay := make(map[int64]int, len(list))
	for _, x := range list {
		underWay[x.ID] = x.Moves
	}
	rows, err := s.old.QueryContext(ctx, `SELECT sitting_id, moves, body FROM tallies WHERE release_id = ? AND stage = ? ORDER BY sitting_id`, p.release, remark)
	if err != nil {
		return err
	}
	defer rows.Close()
	none := func(ids []int64) error {
		for _, id := range ids {
			if err := f(id, nil, false); err != nil {
				return err
			}
		}
		return nil
	}
	for rows.Next() {
		var id int64
		var moves int
		var kept sql.RawBytes
		if err := rows.Scan(&id, &moves, &kept); err != nil {
			return err
		}
		if made, ok := underWay[id]; ok {
			delete(underWay, id)
			if err := f(id, kept, moves >= made); err != nil {
				return err
			}
			continue
		}
		n := 0
		for n < len(done) && done[n] < id {
			n++
		}
		if err := none(done[:n]); err != nil {
			return err
		}
		if done = done[n:]; len(done) > 0 && done[0] == id {
			done = done[1:]
			if err := f(id, kept, true); err != nil {
				return err
			}
		}
	}
	if err := rows.Err(); err != nil {
		return err
	}
	return none(append(done, slices.Sorted(maps.Keys(underWay))...))
}

// TalliesOf finds what was kept of these sittings.
func (s *Store) TalliesOf(ctx context.Context, release, remark string, ids []int64) ([]Tally, error) {
	list := []Tally{}
	if len(ids) == 0 {
		return list, nil
	}
	err := s.old.SelectContext(ctx, &list, `SELECT release_id, stage, sitting_id, moves, body FROM tallies
		WHERE release_id = ? AND stage = ? AND sitting_id IN (`+numbers(ids)+`) ORDER BY sitting_id`, release, remark)
	return list, err
}

// KeepTallies keeps them, but for those of which more moves are kept already.
func (s *Store) KeepTallies(ctx context.Context, list []Tally) error {
	if err := keepTallies(ctx, s.db, list); err != nil && !gone(err) { // one was deleted meanwhile: they are played again
		return err
	}
	return nil
}

func keepTallies(ctx context.Context, db sqlx.ExtContext, list []Tally) error {
	if len(list) == 0 {
		return nil
	}
	_, err := sqlx.NamedExecContext(ctx, db, `INSERT INTO tallies (release_id, stage, sitting_id, moves, body) VALUES (:release_id, :stage, :sitting_id, :moves, :body)
		ON DUPLICATE KEY UPDATE body = IF(VALUES(moves) >= moves, VALUES(body), body), moves = GREATEST(moves, VALUES(moves))`, list)
	if err != nil {
		return fmt.Errorf("tallies: %w", err)
	}
	return nil
}

// retally keeps that of a sitting that is done, and drops those by other documents: they
// are of before.
func retally(ctx context.Context, tx *sqlx.Tx, x *Tally) error {
	if x == nil {
		return nil
	}
	if _, err := tx.ExecContext(ctx, `DELETE FROM tallies WHERE sitting_id = ? AND stage <> ?`, x.SittingID, x.Remark); err != nil {
		return err
	}
	return keepTallies(ctx, tx, []Tally{*x})
}
