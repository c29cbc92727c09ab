package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"regexp"
	"strings"
	"time"

	"github.com/jmoiron/sqlx"
)

// Arrival is somebody at a link of a platform: a learner there, and where their grade goes.
type Arrival struct {
	ID         int64     `db:"id"`
	Place      string    `db:"place"`
	PlatformID string    `db:"platform_id"`
	LinkID     string    `db:"link_id"` // which link of the platform's: a hash
	RosterID   *string   `db:"roster_id"`
	LearnerID  *int64    `db:"learner_id"`
	Launch     string    `db:"launch"`    // JSON: what the platform said last
	LineItem   string    `db:"line_item"` // the column that the grade goes to, or ""
	ArrivedAt  time.Time `db:"arrived_at"`
}

// HashOf is a name of several things taken together.
func HashOf(parts ...string) string {
	sum := sha256.Sum256([]byte(strings.Join(parts, "\x00")))
	return hex.EncodeToString(sum[:])
}

// Comer is who comes by a platform, and from where.
type Comer struct {
	PlatformID string
	Deployment string
	Resource   string // the platform's link
	Context    string // the course, or ""
	Course     string // what the course is called
	Subject    string
	Name       string
	Launch     string // JSON
	LineItem   string
}

const arrivalColumns = `SELECT id, place, platform_id, link_id, roster_id, learner_id, launch, line_item, arrived_at FROM arrivals `

// Arrive notes that somebody has come, the first time or again: with the course's roster,
// where they are a learner.
func (w Workspace) Arrive(ctx context.Context, c Comer) (Arrival, Learner, error) {
	var a Arrival
	var l Learner
	err := w.s.inTx(ctx, func(tx *sqlx.Tx) error {
		roster, err := w.course(ctx, tx, c)
		if err != nil {
			return err
		}
		if l, err = atCourse(ctx, tx, roster, HashOf(c.Subject), c.Name); err != nil {
			return err
		}
		a = Arrival{Place: HashOf(c.PlatformID, c.Deployment, c.Resource, c.Subject), PlatformID: c.PlatformID, LinkID: LinkOf(c.PlatformID, c.Deployment, c.Resource),
			RosterID: &roster, LearnerID: &l.ID, Launch: c.Launch, LineItem: c.LineItem, ArrivedAt: now()}
		// A column that was found or made stays where the platform does not name one.
		if _, err := tx.NamedExecContext(ctx, `INSERT INTO arrivals (place, platform_id, link_id, roster_id, learner_id, launch, line_item, arrived_at)
			VALUES (:place, :platform_id, :link_id, :roster_id, :learner_id, :launch, :line_item, :arrived_at)
			ON DUPLICATE KEY UPDATE roster_id = VALUES(roster_id), learner_id = VALUES(learner_id), launch = VALUES(launch),
				line_item = IF(VALUES(line_item) = '', line_item, VALUES(line_item)), arrived_at = VALUES(arrived_at)`, a); err != nil {
			return err
		}
		return tx.GetContext(ctx, &a, arrivalColumns+`WHERE place = ?`, a.Place)
	})
	return a, l, err
}

// LinkOf names a link of a platform.
func LinkOf(platform, deployment, resource string) string {
	return HashOf(platform, deployment, resource)
}

// course finds or makes the roster of a course.
func (w Workspace) course(ctx context.Context, tx *sqlx.Tx, c Comer) (string, error) {
	name := HashOf(c.PlatformID, c.Deployment, c.Context)
	if err := guard(ctx, tx, guardCourse, name); err != nil {
		return "", err
	}
	var id string
	err := tx.GetContext(ctx, &id, `SELECT id FROM rosters WHERE course = ?`, name)
	if !errors.Is(err, sql.ErrNoRows) {
		return id, err
	}
	id = NewID()
	called := c.Course
	if called == "" {
		called = "A course"
	}
	var platform string
	if err := tx.GetContext(ctx, &platform, `SELECT name FROM platforms WHERE id = ?`, c.PlatformID); err != nil {
		return "", found(err)
	}
	_, err = tx.ExecContext(ctx, `INSERT INTO rosters (id, workspace_id, name, made_at, course) VALUES (?, ?, ?, ?, ?)`, id, w.id, short(called+" ("+platform+")", 200), now(), name)
	return id, err
}

func short(text string, most int) string {
	if r := []rune(text); len(r) > most {
		return string(r[:most])
	}
	return text
}

// atCourse finds or adds a learner of a course, and keeps the name that they have now; none
// leaves the one that there is.
func atCourse(ctx context.Context, tx *sqlx.Tx, roster, subject, name string) (l Learner, err error) {
	const columns = `SELECT id, roster_id, name, code, time_percent FROM learners WHERE roster_id = ? AND subject = ?`
	err = tx.GetContext(ctx, &l, columns, roster, subject)
	if errors.Is(err, sql.ErrNoRows) {
		if name == "" {
			name = "Learner " + subject[:6]
		}
		_, err = tx.ExecContext(ctx, `INSERT INTO learners (roster_id, name, code, time_percent, subject) VALUES (?, ?, ?, 100, ?)`, roster, short(name, 200), newCode(), subject)
		if err != nil {
			return l, err
		}
		return l, tx.GetContext(ctx, &l, columns, roster, subject)
	}
	if err == nil && name != "" && name != l.Name {
		l.Name = short(name, 200)
		_, err = tx.ExecContext(ctx, `UPDATE learners SET name = ? WHERE id = ?`, l.Name, l.ID)
	}
	return l, err
}

// CourseMember is somebody of a course, as its platform says.
type CourseMember struct{ Subject, Name string }

// RefreshCourse gives the roster of a course those who are in it now. Those who have left stay:
// what they did is kept by them.
func (w Workspace) RefreshCourse(ctx context.Context, c Comer, members []CourseMember) (roster string, list []Learner, err error) {
	err = w.s.inTx(ctx, func(tx *sqlx.Tx) (err error) {
		list = nil
		if roster, err = w.course(ctx, tx, c); err != nil {
			return err
		}
		for _, m := range members {
			l, err := atCourse(ctx, tx, roster, HashOf(m.Subject), m.Name)
			if err != nil {
				return err
			}
			list = append(list, l)
		}
		return nil
	})
	return roster, list, err
}

// ArrivalByID finds one, with its platform.
func (s *Store) ArrivalByID(ctx context.Context, id int64) (Arrival, Platform, error) {
	var a Arrival
	if err := s.db.GetContext(ctx, &a, arrivalColumns+`WHERE id = ?`, id); err != nil {
		return a, Platform{}, found(err)
	}
	p, err := s.PlatformByID(ctx, a.PlatformID)
	return a, p, err
}

// ArrivalsAt lists those at a link of a platform's.
func (s *Store) ArrivalsAt(ctx context.Context, link string) ([]Arrival, error) {
	list := []Arrival{}
	err := s.db.SelectContext(ctx, &list, arrivalColumns+`WHERE link_id = ?`, link)
	return list, err
}

// ArrivalsOfRelease lists those by which a release was begun.
func (s *Store) ArrivalsOfRelease(ctx context.Context, release string) ([]int64, error) {
	list := []int64{}
	err := s.db.SelectContext(ctx, &list, `SELECT DISTINCT arrival_id FROM sittings WHERE release_id = ? AND arrival_id IS NOT NULL AND run_id IS NULL
		UNION SELECT DISTINCT arrival_id FROM runs WHERE release_id = ? AND arrival_id IS NOT NULL`, release, release)
	return list, err
}

// KeepColumn notes the column of a gradebook that was found or made for an arrival's link.
func (s *Store) KeepColumn(ctx context.Context, link, column string) error {
	_, err := s.db.ExecContext(ctx, `UPDATE arrivals SET line_item = ? WHERE link_id = ? AND line_item = ''`, column, link)
	return err
}

// SittingOfArrival finds the latest sitting of a release by an arrival, outside series.
func (s *Store) SittingOfArrival(ctx context.Context, release string, arrival int64) (Sitting, error) {
	var x Sitting
	err := s.db.GetContext(ctx, &x, sittingColumns+`WHERE s.release_id = ? AND s.arrival_id = ? AND s.run_id IS NULL ORDER BY s.started_at DESC, s.id DESC LIMIT 1`, release, arrival)
	return x, found(err)
}

// RunOfArrival finds the latest run of a release by an arrival.
func (s *Store) RunOfArrival(ctx context.Context, release string, arrival int64) (Run, error) {
	var r Run
	err := s.db.GetContext(ctx, &r, runColumns+`WHERE release_id = ? AND arrival_id = ? ORDER BY started_at DESC, id DESC LIMIT 1`, release, arrival)
	return r, found(err)
}

// Attempt is one of those that an arrival has made at a release, for its grade.
type Attempt struct {
	ID        int64     `db:"id"`
	ReleaseID string    `db:"release_id"`
	Learner   string    `db:"learner"`
	StartedAt time.Time `db:"started_at"`
	Done      bool      `db:"done"`
	Attempts  int       `db:"attempts"` // at checking; of a series the steps that were reached
	Score     string    `db:"score"`
	Percent   string    `db:"percent"`
	Judged    bool      `db:"judged"` // there is a verdict, so a score
	ArrivalID int64     `db:"arrival_id"`
}

const attemptsOf = `SELECT id, release_id, learner, started_at, phase = 'done' AS done, attempts, score, percent, outcome <> '' AS judged, arrival_id FROM sittings WHERE run_id IS NULL AND arrival_id IN (?)
	UNION ALL SELECT id, release_id, learner, started_at, reached = end_step AS done, reached AS attempts, score, percent, reached > 0 AS judged, arrival_id FROM runs WHERE arrival_id IN (?)
	ORDER BY started_at, id`

// AttemptsOf lists what some arrivals have begun, in order.
func (s *Store) AttemptsOf(ctx context.Context, arrivals ...int64) ([]Attempt, error) {
	return attemptsBy(ctx, s.db, arrivals)
}

func attemptsBy(ctx context.Context, db sqlx.QueryerContext, arrivals []int64) ([]Attempt, error) {
	list := []Attempt{}
	if len(arrivals) == 0 {
		return list, nil
	}
	query, args, err := sqlx.In(attemptsOf, arrivals, arrivals)
	if err != nil {
		return nil, err
	}
	err = sqlx.SelectContext(ctx, db, &list, query, args...)
	return list, err
}

// Admission is what a launch lets its page do.
type Admission struct {
	PlatformID string    `db:"platform_id"`
	ArrivalID  *int64    `db:"arrival_id"`
	Kind       string    `db:"kind"`
	Link       string    `db:"link"` // of the release that is opened
	Launch     string    `db:"launch"`
	UntilAt    time.Time `db:"until_at"`
}

// What a page is admitted to.
const (
	ToPlay   = "play"
	ToChoose = "choose"
	ToSee    = "see" // what learners did
)

// How long a ticket waits for its page, and then a page may go on.
const (
	TicketHolds = time.Minute
	PassHolds   = 8 * time.Hour
)

// Admit makes a ticket for a page. Only its hash is kept.
func (s *Store) Admit(ctx context.Context, a Admission) (ticket string, err error) {
	ticket, a.UntilAt = NewID(), now().Add(TicketHolds)
	_, err = s.db.ExecContext(ctx, `INSERT INTO admissions (ticket, platform_id, arrival_id, kind, link, launch, until_at) VALUES (?, ?, ?, ?, ?, ?, ?)`,
		HashOf(ticket), a.PlatformID, a.ArrivalID, a.Kind, a.Link, a.Launch, a.UntilAt)
	return ticket, err
}

const admissionColumns = `SELECT platform_id, arrival_id, kind, link, launch, until_at FROM admissions `

// TakeTicket takes a ticket of a kind, once: ErrNotFound where it was taken, or is over. pass
// is what its page goes on with.
func (s *Store) TakeTicket(ctx context.Context, ticket, kind string) (a Admission, pass string, err error) {
	pass = NewID()
	r, err := s.db.ExecContext(ctx, `UPDATE admissions SET pass = ?, until_at = ? WHERE ticket = ? AND kind = ? AND pass IS NULL AND until_at > ?`,
		HashOf(pass), now().Add(PassHolds), HashOf(ticket), kind, now())
	if err := changedOne(r, err); err != nil {
		return a, "", err
	}
	a, err = s.Admitted(ctx, pass, kind)
	return a, pass, err
}

// Admitted finds what a page may do by what it was given.
func (s *Store) Admitted(ctx context.Context, pass, kind string) (a Admission, err error) {
	err = s.db.GetContext(ctx, &a, admissionColumns+`WHERE pass = ? AND kind = ? AND until_at > ?`, HashOf(pass), kind, now())
	return a, found(err)
}

// TrialOf is by what a release that was opened to see is tried: nobody can do more with it.
func TrialOf(pass string) string { return HashOf(pass)[:32] }

var trial = regexp.MustCompile(`^[0-9a-f]{32}$`)

// TrialLink finds the link of the release that is tried.
func (s *Store) TrialLink(ctx context.Context, token string) (link string, err error) {
	if !trial.MatchString(token) {
		return "", ErrNotFound
	}
	err = s.db.GetContext(ctx, &link, `SELECT link FROM admissions WHERE pass LIKE ? AND kind = ? AND until_at > ?`, token+"%", ToSee, now())
	return link, found(err)
}

// PlatformOfTicket finds whose ticket one is, also after it was taken.
func (s *Store) PlatformOfTicket(ctx context.Context, ticket string) (Platform, error) {
	var p Platform
	if ticket == "" {
		return p, ErrNotFound
	}
	err := s.db.GetContext(ctx, &p, strings.Replace(platformColumns, "FROM platforms", "FROM platforms JOIN (SELECT platform_id FROM admissions WHERE ticket = ? AND until_at > ?) a ON a.platform_id = platforms.id", 1), HashOf(ticket), now())
	return p, found(err)
}

// DropAdmissions forgets logins and admissions that are over.
func (s *Store) DropAdmissions(ctx context.Context) error {
	if err := s.dropSome(ctx, `platform_logins WHERE made_at < ?`, now().Add(-LoginHolds)); err != nil {
		return err
	}
	// Of a session that is long over only what was said of it stays, not who it was.
	if _, err := s.db.ExecContext(ctx, `UPDATE cmi5_sessions SET launch = '{}', sealed = '' WHERE over_at < ? AND launch <> '{}'`, now().Add(-7*24*time.Hour)); err != nil {
		return err
	}
	return s.dropSome(ctx, `admissions WHERE until_at < ?`, now())
}
