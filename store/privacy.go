package store

import (
	"context"
	"fmt"
	"strconv"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Privacy is what a workspace lets be seen of its learners, and for how long.
type Privacy struct {
	NamesFor   string `db:"names_for"`   // Members, Designers or Owners
	NamesDays  int    `db:"names_days"`  // so long after its start a sitting keeps its name; 0 is always
	LeastGroup int    `db:"least_group"` // of fewer sittings only totals are shown; 0 is none
}

// Who may see learners' names.
const (
	Members   = "members"
	Designers = "designers"
	Owners    = "owner"
)

// SeesNames says whether a member may see learners' names. Whoever looks at drafts needs none.
func (m Member) SeesNames() bool {
	return m.Owner || m.NamesFor == Members && m.Role != Reviewer || m.NamesFor == Designers && m.Role == Designer
}

// SetPrivacy changes what is seen of a workspace's learners.
func (w Workspace) SetPrivacy(ctx context.Context, p Privacy) error {
	_, err := w.s.db.ExecContext(ctx, `UPDATE workspaces SET names_for = ?, names_days = ?, least_group = ? WHERE id = ?`, p.NamesFor, p.NamesDays, p.LeastGroup, w.id)
	return err
}

// ofWorkspace joins what is of a workspace to the releases that were played.
const ofWorkspace = ` JOIN releases r ON r.id = x.release_id JOIN activities a ON a.id = r.activity_id `

// Named counts the sittings and runs of a workspace that began before a time and have a
// name.
func (w Workspace) Named(ctx context.Context, before time.Time) (n int, err error) {
	const of = `(SELECT COUNT(*) FROM `
	const which = ofWorkspace + `WHERE a.workspace_id = ? AND x.started_at < ? AND x.learner <> '')`
	err = w.s.db.GetContext(ctx, &n, `SELECT `+of+`sittings x`+which+` + `+of+`runs x`+which, w.id, before, w.id, before)
	return n, err
}

// ForgetNames takes the names from what began longer ago than a workspace keeps them, says
// so in its log, and how many. What they did stays. m is who decided it.
func (s *Store) ForgetNames(ctx context.Context, m Member) (n int64, err error) {
	if m.NamesDays == 0 {
		return 0, nil
	}
	before := now().Add(-time.Duration(m.NamesDays) * 24 * time.Hour)
	for _, table := range []string{"sittings", "runs"} {
		for more := true; more; {
			var some int64
			err := s.inTx(ctx, func(tx *sqlx.Tx) (err error) {
				some, err = forgetSome(ctx, tx, m, table, before)
				return err
			})
			if err != nil {
				return n, err
			}
			n += some
			more = some == forgetAtOnce
		}
	}
	return n, nil
}

// forgetAtOnce is how many names are taken away in one transaction; each is a line of the
// log, so that it says what was done also where it is interrupted.
const forgetAtOnce = 5000

func forgetSome(ctx context.Context, tx *sqlx.Tx, m Member, table string, before time.Time) (int64, error) {
	ids := []int64{}
	if err := tx.SelectContext(ctx, &ids, `SELECT x.id FROM `+table+` x`+ofWorkspace+`WHERE a.workspace_id = ? AND x.started_at < ? AND x.learner <> '' LIMIT ?`,
		m.WorkspaceID, before, forgetAtOnce); err != nil || len(ids) == 0 {
		return 0, err
	}
	r, err := tx.ExecContext(ctx, `UPDATE `+table+` SET learner = '', learner_id = NULL, arrival_id = NULL WHERE learner <> '' AND id IN (`+numbers(ids)+`)`)
	if err != nil {
		return 0, err
	}
	n, err := r.RowsAffected()
	if err != nil || n == 0 {
		return n, err
	}
	what := strings.TrimSuffix(table, "s")
	if n != 1 {
		what = table
	}
	return n, addRecord(ctx, tx, Record{WorkspaceID: m.WorkspaceID, AccountName: m.Name, What: "names taken away",
		Detail: fmt.Sprintf("%d %s older than %d days", n, what, m.NamesDays)})
}

// Forgetting lists the workspaces that keep names for some days only.
func (s *Store) Forgetting(ctx context.Context) (list []Member, err error) {
	err = s.db.SelectContext(ctx, &list, `SELECT id AS workspace_id, name AS workspace_name, names_for, names_days, least_group FROM workspaces WHERE names_days > 0`)
	return list, err
}

// Trace is what is kept of a learner at one place: a sitting, a run through a series,
// or the line in a roster.
type Trace struct {
	Kind    string    `db:"kind"` // sitting, run or roster
	ID      int64     `db:"id"`
	Where   string    `db:"title"`  // the activity's title, or the roster's name
	Number  int       `db:"number"` // the release's
	Learner string    `db:"learner"`
	At      time.Time `db:"at"`
}

// Traces finds what a workspace keeps of learners with this name, in any case; of a run
// it lists the run and not its sittings.
func (w Workspace) Traces(ctx context.Context, name string) ([]Trace, error) {
	list := []Trace{}
	const columns = `x.id, a.title, r.number, x.learner, x.started_at AS at FROM `
	const which = ofWorkspace + `WHERE a.workspace_id = ? AND x.learner COLLATE utf8mb4_general_ci = ?`
	err := w.s.db.SelectContext(ctx, &list, `SELECT 'sitting' AS kind, `+columns+`sittings x`+which+` AND x.run_id IS NULL
		UNION ALL SELECT 'run', `+columns+`runs x`+which+`
		UNION ALL SELECT 'roster', l.id, r.name, 0, l.name, r.made_at FROM learners l JOIN rosters r ON r.id = l.roster_id
		WHERE r.workspace_id = ? AND l.name COLLATE utf8mb4_general_ci = ? ORDER BY at, id`, w.id, name, w.id, name, w.id, name)
	return list, err
}

// Erase deletes what is kept of learners, with all that belongs to it: all of the traces
// or none. ErrNotFound, where one is not in this workspace.
func (w Workspace) Erase(ctx context.Context, traces []Trace) error {
	of := map[string][]int64{}
	for _, x := range traces {
		of[x.Kind] = append(of[x.Kind], x.ID)
	}
	return w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		for kind, from := range map[string]string{"sitting": `sittings x` + ofWorkspace, "run": `runs x` + ofWorkspace,
			"roster": `learners x JOIN rosters a ON a.id = x.roster_id `} {
			n := 0
			if err := tx.GetContext(ctx, &n, `SELECT COUNT(*) FROM `+from+`WHERE a.workspace_id = ? AND x.id IN (0`+more(of[kind])+`)`, w.id); err != nil {
				return err
			}
			if n != len(of[kind]) {
				return ErrNotFound
			}
		}
		steps := []int64{}
		if err := tx.SelectContext(ctx, &steps, `SELECT id FROM sittings WHERE run_id IN (0`+more(of["run"])+`)`); err != nil {
			return err
		}
		// Whoever's sitting is deleted may begin that often again.
		for _, table := range []string{`sittings x JOIN begins b ON b.release_id = x.release_id AND b.learner_id = x.learner_id
			WHERE x.run_id IS NULL AND x.id IN (0` + more(of["sitting"]), `runs x JOIN begins b ON b.release_id = x.release_id AND b.learner_id = x.learner_id
			WHERE x.id IN (0` + more(of["run"])} {
			counts := []struct {
				Release string `db:"release_id"`
				Learner int64  `db:"learner_id"`
				N       int    `db:"n"`
			}{}
			if err := tx.SelectContext(ctx, &counts, `SELECT b.release_id, b.learner_id, COUNT(*) AS n FROM `+table+`) GROUP BY b.release_id, b.learner_id`); err != nil {
				return err
			}
			for _, c := range counts {
				if _, err := tx.ExecContext(ctx, `UPDATE begins SET n = GREATEST(0, n - ?) WHERE release_id = ? AND learner_id = ?`, c.N, c.Release, c.Learner); err != nil {
					return err
				}
			}
		}
		sittings := more(append(of["sitting"], steps...))
		for _, q := range []string{`moves WHERE sitting_id IN (0` + sittings, `remarked WHERE sitting_id IN (0` + sittings,
			`tallies WHERE sitting_id IN (0` + sittings, `sittings WHERE id IN (0` + sittings,
			`runs WHERE id IN (0` + more(of["run"]), `cmi5_sessions WHERE arrival_id IN (SELECT id FROM arrivals WHERE learner_id IN (0` + more(of["roster"]) + `)`,
			`arrivals WHERE learner_id IN (0` + more(of["roster"]), `begins WHERE learner_id IN (0` + more(of["roster"]), `learners WHERE id IN (0` + more(of["roster"])} {
			if _, err := tx.ExecContext(ctx, `DELETE FROM `+q+`)`); err != nil {
				return err
			}
		}
		return nil
	})
}

// more is a list of numbers that goes on after one.
func more(ids []int64) string {
	if len(ids) == 0 {
		return ""
	}
	return "," + numbers(ids)
}

// Record is one line of a workspace's log: who did what with learners' data.
type Record struct {
	ID          int64     `db:"id"`
	WorkspaceID string    `db:"workspace_id"`
	At          time.Time `db:"at"`
	AccountName string    `db:"account_name"` // "" is Keen Magpie itself
	What        string    `db:"what"`
	About       string    `db:"about"`  // the activity and release
	Detail      string    `db:"detail"` // never a learner's name
}

// AddRecord writes a line into the log.
func (s *Store) AddRecord(ctx context.Context, x Record) error { return addRecord(ctx, s.db, x) }

func addRecord(ctx context.Context, db sqlx.ExtContext, x Record) error {
	x.At = now()
	_, err := sqlx.NamedExecContext(ctx, db, `INSERT INTO records (workspace_id, at, account_name, what, about, detail)
		VALUES (:workspace_id, :at, :account_name, :what, :about, :detail)`, x)
	return err
}

// Records lists a workspace's log, the latest first: those before a line, or from the
// start where before is 0.
func (w Workspace) Records(ctx context.Context, before int64, most int) ([]Record, error) {
	list := []Record{}
	if before == 0 {
		before = 1 << 62
	}
	err := w.s.db.SelectContext(ctx, &list, `SELECT id, workspace_id, at, account_name, what, about, detail FROM records
		WHERE workspace_id = ? AND id < ? ORDER BY id DESC LIMIT `+strconv.Itoa(most), w.id, before)
	return list, err
}
