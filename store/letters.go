package store

import (
	"context"
	"time"
)

// Letter is mail that is to go out.
type Letter struct {
	ID      int64     `db:"id"`
	To      string    `db:"recipient"`
	Subject string    `db:"subject"`
	Body    string    `db:"body"`
	UntilAt time.Time `db:"until_at"` // after which it is of no use
	Tries   int       `db:"tries"`    // in vain, up to now
}

// AddLetter has a letter sent, which is of use for so long.
func (s *Store) AddLetter(ctx context.Context, l Letter, long time.Duration) error {
	_, err := s.db.ExecContext(ctx, `INSERT INTO letters (recipient, subject, body, made_at, until_at, next_at) VALUES (?, ?, ?, ?, ?, ?)`,
		l.To, l.Subject, l.Body, now(), now().Add(long), now())
	return err
}

// DueLetters are those that are to go now, the oldest first.
func (s *Store) DueLetters(ctx context.Context, most int) (list []Letter, err error) {
	err = s.db.SelectContext(ctx, &list, `SELECT id, recipient, subject, body, until_at, tries FROM letters WHERE next_at <= ? AND until_at > ? ORDER BY next_at, id LIMIT ?`, now(), now(), most)
	return list, err
}

// LetterWent forgets a letter that was sent.
func (s *Store) LetterWent(ctx context.Context, id int64) error {
	_, err := s.db.ExecContext(ctx, `DELETE FROM letters WHERE id = ?`, id)
	return err
}

// LetterStays has a letter tried again at a time, and notes why it did not go.
func (s *Store) LetterStays(ctx context.Context, id int64, next time.Time, why error) error {
	_, err := s.db.ExecContext(ctx, `UPDATE letters SET tries = tries + 1, next_at = ?, says = ? WHERE id = ?`, next.UTC(), firstOf(why.Error(), 500), id)
	return err
}

// DropLetters forgets those that are of no use any more.
func (s *Store) DropLetters(ctx context.Context) error {
	return s.dropSome(ctx, `letters WHERE until_at <= ?`, now())
}

// Unsent says how many letters wait, and what the last one that was tried in vain met.
func (s *Store) Unsent(ctx context.Context) (n int, says string, err error) {
	if err = s.db.GetContext(ctx, &n, `SELECT COUNT(*) FROM letters WHERE until_at > ?`, now()); err != nil {
		return 0, "", err
	}
	err = s.db.GetContext(ctx, &says, `SELECT COALESCE((SELECT says FROM letters WHERE tries > 0 ORDER BY next_at DESC LIMIT 1), '')`)
	return n, says, err
}
