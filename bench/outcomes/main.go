// Command outcomes measures what it takes to look at a release that very many have
// played: to the first figures, to a download's first and last byte, to score all
// sittings again. The sittings are those of the demo's first release, over and over.
package main

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"io"
	"log/slog"
	"net/http"
	"net/http/cookiejar"
	"net/http/httptest"
	"os"
	"strconv"
	"strings"
	"time"

	"keenmagpie/bench/trial"
	"keenmagpie/demo"
	"keenmagpie/server"
	"keenmagpie/store"
)

func main() {
	if err := measure(context.Background(), os.Args[1:]); err != nil {
		fmt.Fprintln(os.Stderr, err)
		os.Exit(1)
	}
}

type site struct {
	st     *store.Store
	url    string
	client *http.Client
	id     string // the release
	stop   func()
}

func measure(ctx context.Context, sizes []string) error {
	dir, err := os.MkdirTemp("", "magpie-outcomes-")
	if err != nil {
		return err
	}
	house, err := trial.Open(ctx, dir, "outcomes")
	if err != nil {
		return err
	}
	defer house.Close()
	st := house.Store
	if err := demo.LoadSittings(ctx, st); err != nil {
		return err
	}
	for _, size := range sizes {
		n, err := strconv.Atoi(size)
		if err != nil {
			return fmt.Errorf("%q is not a number of sittings", size)
		}
		x, err := open(st)
		if err != nil {
			return err
		}
		err = x.measure(n)
		x.stop()
		if err != nil {
			return err
		}
	}
	return nil
}

// open serves with nothing in memory, and signs in.
func open(st *store.Store) (*site, error) {
	s := httptest.NewServer(server.New(st, slog.New(slog.NewTextHandler(os.Stderr, nil))))
	jar, err := cookiejar.New(nil)
	if err != nil {
		return nil, err
	}
	x := &site{st: st, url: s.URL, client: &http.Client{Jar: jar}, stop: s.Close}
	a := demo.Accounts()[0]
	body, _ := json.Marshal(map[string]string{"email": a.Email, "password": a.Password})
	if _, err := x.ask("POST", "/api/session", body); err != nil {
		return nil, err
	}
	return x, st.DB().QueryRow(`SELECT r.id FROM releases r JOIN sittings s ON s.release_id = r.id GROUP BY r.id ORDER BY COUNT(*) DESC LIMIT 1`).Scan(&x.id)
}

func (x *site) request(method, path string, body []byte) (*http.Response, error) {
	req, err := http.NewRequest(method, x.url+path, bytes.NewReader(body))
	if err != nil {
		return nil, err
	}
	req.Header.Set("Content-Type", "application/json")
	r, err := x.client.Do(req)
	if err == nil && r.StatusCode >= 300 {
		text, _ := io.ReadAll(r.Body)
		r.Body.Close()
		return nil, fmt.Errorf("%s %s: %d %s", method, path, r.StatusCode, text)
	}
	return r, err
}

func (x *site) ask(method, path string, body []byte) ([]byte, error) {
	r, err := x.request(method, path, body)
	if err != nil {
		return nil, err
	}
	defer r.Body.Close()
	return io.ReadAll(r.Body)
}

func (x *site) release(path string) string { return "/api/releases/" + x.id + path }

// play brings the release to n sittings: copies of the first 180, without what is kept
// for figures.
func (x *site) play(n int) error {
	db := x.st.DB()
	var first, have int64
	if err := db.QueryRow(`SELECT MIN(id), COUNT(*) FROM sittings WHERE release_id = ?`, x.id).Scan(&first, &have); err != nil {
		return err
	}
	const block = 180
	for have < int64(n) {
		from := have / block
		to := min(from+50, (int64(n)+block-1)/block) - 1
		seq := fmt.Sprintf("seq_%d_to_%d", from, to)
		for _, q := range []string{
			`INSERT INTO sittings (id, release_id, token, learner, semantics, started_at, seed, phase, attempts, score, percent, outcome, took_ms, limit_ms)
			SELECT s.id + 1000000 + 180 * q.seq, s.release_id, CONCAT('copy', s.id + 180 * q.seq), CONCAT(s.learner, ' ', q.seq), s.semantics, s.started_at, s.seed, s.phase, s.attempts, s.score, s.percent, s.outcome, s.took_ms, s.limit_ms
			FROM ` + seq + ` q JOIN sittings s WHERE s.id >= ? AND s.id < ? + 180`,
			`INSERT INTO moves (sitting_id, n, body, result, at) SELECT m.sitting_id + 1000000 + 180 * q.seq, m.n, m.body, m.result, m.at
			FROM ` + seq + ` q JOIN moves m WHERE m.sitting_id >= ? AND m.sitting_id < ? + 180`} {
			if _, err := db.Exec(q, first, first); err != nil {
				return err
			}
		}
		have += block * (to - from + 1)
	}
	_, err := db.Exec(`ANALYZE TABLE sittings, moves, tallies`)
	return err
}

func say(what string, since time.Time, more string, args ...any) {
	fmt.Printf("  %-44s %8.2f s   %s\n", what, time.Since(since).Seconds(), fmt.Sprintf(more, args...))
}

func (x *site) figures() (sittings, behind int, err error) {
	body, err := x.ask("GET", x.release("/outcomes"), nil)
	if err != nil {
		return 0, 0, err
	}
	var o struct {
		Figures struct{ Sittings int }
		Behind  int
	}
	err = json.Unmarshal(body, &o)
	return o.Figures.Sittings, o.Behind, err
}

func (x *site) measure(n int) error {
	if err := x.play(n); err != nil {
		return err
	}
	var sittings, moves int
	if err := x.st.DB().QueryRow(`SELECT COUNT(*), (SELECT COUNT(*) FROM moves) FROM sittings WHERE release_id = ?`, x.id).Scan(&sittings, &moves); err != nil {
		return err
	}
	fmt.Printf("%d sittings, %d moves\n", sittings, moves)
	began := time.Now()
	got, behind, err := x.figures()
	if err != nil {
		return err
	}
	say("first figures, nothing kept yet", began, "of %d sittings, %d to come", got, behind)
	for behind > 0 {
		if _, behind, err = x.figures(); err != nil {
			return err
		}
	}
	say("  … of all of them", began, "every sitting is played once")
	x.stop()
	fresh, err := open(x.st)
	if err != nil {
		return err
	}
	*x = *fresh
	began = time.Now()
	if got, behind, err = x.figures(); err != nil {
		return err
	}
	say("first figures, a server just started", began, "of %d sittings, %d to come", got, behind)
	for _, q := range []struct{ what, query string }{{"a page of sittings", ""}, {"a page by score", "?sort=score&down=true"}, {"a search by name", "?text=hollis%2012"}} {
		began = time.Now()
		if _, err := x.ask("GET", x.release("/sittings"+q.query), nil); err != nil {
			return err
		}
		say(q.what, began, "")
	}
	for _, what := range []string{"sittings.csv", "placements.csv", "moves.jsonl"} {
		if err := x.download(what); err != nil {
			return err
		}
	}
	return x.remark()
}

func (x *site) download(what string) error {
	began := time.Now()
	r, err := x.request("GET", x.release("/"+what), nil)
	if err != nil {
		return err
	}
	defer r.Body.Close()
	if _, err := io.ReadFull(r.Body, make([]byte, 1)); err != nil {
		return err
	}
	say(what+", first byte", began, "")
	size, err := io.Copy(io.Discard, r.Body)
	if err != nil {
		return err
	}
	say(what+", last byte", began, "%.1f MB", float64(size)/1e6)
	return nil
}

func (x *site) remark() error {
	began := time.Now()
	r, err := x.request("POST", x.release("/remarks"), nil)
	if err != nil {
		return err
	}
	defer r.Body.Close()
	lines, last := 0, server.RemarkStep{}
	for scan := bufio.NewScanner(r.Body); scan.Scan(); lines++ {
		if err := json.Unmarshal(scan.Bytes(), &last); err != nil {
			return err
		}
		if lines == 1 {
			say("re-mark, first progress", began, "%d of %d", last.Done, last.Of)
		}
	}
	if last.Remark == "" {
		return fmt.Errorf("the re-mark broke off at %+v", last)
	}
	say("re-mark, worked out", began, "%d lines of progress", lines)
	for _, what := range []string{"", "/apply", "/revert"} {
		began = time.Now()
		method := map[bool]string{true: "GET", false: "POST"}[what == ""]
		body, err := x.ask(method, x.release("/remarks/"+last.Remark+what), nil)
		if err != nil {
			return err
		}
		say("re-mark, "+map[string]string{"": "looked at", "/apply": "applied", "/revert": "taken back"}[what], began, "")
		if what == "" {
			fmt.Printf("    %s\n", strings.SplitN(string(body), `"changes"`, 2)[0])
		}
		if what == "/apply" {
			began = time.Now()
			if _, _, err := x.figures(); err != nil {
				return err
			}
			say("  … figures then", began, "")
		}
	}
	return nil
}
