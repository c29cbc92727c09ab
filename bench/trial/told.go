package trial

import (
	"context"
	"encoding/json"
	"sync"
	"time"

	"keenmagpie/core/play"
	"keenmagpie/store"
)

// Told is what learners were told is kept: by sitting's token and number, the move. It is
// safe for use by many at once.
type Told struct {
	mu      sync.Mutex
	moves   map[string]map[int]play.Move
	total   int
	retried int
	longest time.Duration
}

// Moves is how many were acknowledged.
func (t *Told) Moves() int {
	t.mu.Lock()
	defer t.mu.Unlock()
	return t.total
}

// Retried is how often a move was sent again.
func (t *Told) Retried() int {
	t.mu.Lock()
	defer t.mu.Unlock()
	return t.retried
}

// Longest is the longest that a learner waited for a move since it was last asked.
func (t *Told) Longest() time.Duration {
	t.mu.Lock()
	defer t.mu.Unlock()
	d := t.longest
	t.longest = 0
	return d
}

// PlayOn makes moves one after the other, each until it is acknowledged, at each of the
// servers in turn, until it is stopped.
func (t *Told) PlayOn(l *Learner, servers []string, stop <-chan struct{}) {
	token := ""
	for n := 0; ; n++ {
		m, began, tries := l.Next(), time.Now(), 0
		for ok := false; !ok; tries++ {
			select {
			case <-stop:
				return
			default:
			}
			if ok, _ = l.Make(m); !ok {
				time.Sleep(30 * time.Millisecond)
			}
		}
		l.N = m.N
		if token == "" {
			token = l.Token()
		}
		t.mu.Lock()
		if t.moves == nil {
			t.moves = map[string]map[int]play.Move{}
		}
		if t.moves[token] == nil {
			t.moves[token] = map[int]play.Move{}
		}
		t.moves[token][m.N] = m
		t.total++
		t.retried += tries - 1
		t.longest = max(t.longest, time.Since(began))
		t.mu.Unlock()
		if n%17 == 16 {
			l.MoveTo(servers[(n/17)%len(servers)])
		}
	}
}

// Compare holds what was acknowledged against what is kept.
func (t *Told) Compare(ctx context.Context, st *store.Store) (lost, doubled int, err error) {
	for token, moves := range t.moves {
		found, err := kept(ctx, st, token, moves)
		if err != nil {
			return 0, 0, err
		}
		for n := range moves {
			switch found[n] {
			case 0:
				lost++
			case 1:
			default:
				doubled++
			}
		}
	}
	return lost, doubled, nil
}

// kept counts how often each of the moves of a sitting is there.
func kept(ctx context.Context, st *store.Store, token string, moves map[int]play.Move) (map[int]int, error) {
	rows, err := st.DB().QueryContext(ctx, `SELECT m.n, m.body FROM moves m JOIN sittings s ON s.id = m.sitting_id WHERE s.token = ?`, token)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	found := map[int]int{}
	for rows.Next() {
		var n int
		var body string
		if err := rows.Scan(&n, &body); err != nil {
			return nil, err
		}
		var m play.Move
		if err := json.Unmarshal([]byte(body), &m); err != nil {
			return nil, err
		}
		if m.T == moves[n].T && m.Do == moves[n].Do {
			found[n]++
		}
	}
	return found, rows.Err()
}
