package ops_test

import (
	"log/slog"
	"net/http"
	"net/http/httptest"
	"os"
	"strings"
	"testing"
	"time"

	"keenmagpie/jobs"
	"keenmagpie/localdb"
	"keenmagpie/ops"
	"keenmagpie/server"
	"keenmagpie/store"
)

// A server is ready while its database, its schema and its jobs are; it says which is not.
// What it did is counted by the pattern of an address, never by the address.
func TestWhoRunsAServerSeesHowItIs(t *testing.T) {
	dir, err := localdb.Scratch()
	if err != nil {
		t.Fatal(err)
	}
	defer os.RemoveAll(dir)
	db, err := localdb.Start(t.Context(), dir)
	if err != nil {
		t.Fatal(err)
	}
	defer db.Stop()
	if err := db.Create(t.Context(), "ops"); err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(t.Context(), db.DSN("ops"))
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	looked := time.Now()
	watch := ops.New(st, func() time.Time { return looked })
	ask := func(h http.Handler, path string) (int, string) {
		w := httptest.NewRecorder()
		h.ServeHTTP(w, httptest.NewRequest(http.MethodGet, path, nil))
		return w.Code, w.Body.String()
	}
	ready := func(name string, code int, says string) {
		t.Helper()
		if got, body := ask(watch, "/readyz"); got != code || !strings.Contains(body, says) {
			t.Errorf("%s: %d %s", name, got, body)
		}
	}
	ready("a database without tables", 503, `"database":"does not answer"`)
	if err := st.Migrate(t.Context(), nil); err != nil {
		t.Fatal(err)
	}
	ready("all is well", 200, `"jobs":"ok"`)
	if _, err := st.DB().ExecContext(t.Context(), `DELETE FROM goose_db_version ORDER BY version_id DESC LIMIT 1`); err != nil {
		t.Fatal(err)
	}
	ready("a schema of before", 503, `"schema":"older than this program"`)
	if _, err := st.DB().ExecContext(t.Context(), `INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, 1)`); err != nil {
		t.Fatal(err)
	}
	ready("a newer server beside this one", 200, `"schema":"ok"`)
	looked = time.Now().Add(-time.Hour)
	ready("a loop that hangs", 503, "not looked for since 1h")
	looked = time.Now()

	log := slog.New(slog.DiscardHandler)
	handler := server.New(st, log, server.WithMeter(watch))
	ask(handler, "/api/play/nobodyknowsthislink")
	ask(handler, "/api/me")
	loop := jobs.NewLoop(st, log, []jobs.Job{{Name: "rest", Every: time.Hour, Lease: time.Minute, Do: jobs.Of(st, handler.Hosting(), log)[0].Do}})
	if err := loop.Once(t.Context()); err != nil {
		t.Fatal(err)
	}
	watch.Moved("a")
	watch.Moved("a")
	watch.Panicked("somewhere")
	code, text := ask(watch, "/metrics")
	for _, line := range []string{
		`magpie_request_seconds_count{method="GET",route="/api/play/{link}",status="404"} 1`,
		`magpie_request_seconds_count{method="GET",route="/api/me",status="401"} 1`,
		"magpie_moves_total 2\n", "magpie_sittings_open 1\n", "magpie_outbox_letters 0\n", `magpie_panics_total{where="somewhere"} 1`,
		`magpie_job_failures{job="rest"} 0`, `magpie_job_done_seconds_ago{job="rest"}`, `go_sql_open_connections{db_name="magpie"}`,
	} {
		if code != 200 || !strings.Contains(text, line) {
			t.Errorf("%d: there is no %s", code, line)
		}
	}
	if strings.Contains(text, "nobodyknows") {
		t.Error("the metrics name a link")
	}
	if got, _ := ask(watch, "/livez"); got != 200 {
		t.Errorf("alive: %d", got)
	}
	watch.Stopping()
	ready("a server that stops", 503, "stopping")
	db.Stop()
	ready("a database that is gone", 503, `"database":"does not answer"`)
}
