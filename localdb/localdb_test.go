package localdb_test

import (
	"context"
	"database/sql"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"
	"time"

	_ "github.com/go-sql-driver/mysql"

	"keenmagpie/localdb"
)

func start(t *testing.T, dir string) *localdb.Server {
	t.Helper()
	s, err := localdb.Start(t.Context(), dir)
	if err != nil {
		t.Fatal(err)
	}
	return s
}

func run(t *testing.T, s *localdb.Server, query string) {
	t.Helper()
	if err := s.Create(t.Context(), "kept"); err != nil {
		t.Fatal(err)
	}
	db, err := sql.Open("mysql", s.DSN("kept"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	if _, err := db.ExecContext(t.Context(), query); err != nil {
		t.Fatal(err)
	}
}

func TestStartsStopsAndIsUsedAgain(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	// An earlier start was interrupted while it prepared the tables.
	if err := os.MkdirAll(filepath.Join(dir, "db.new", "half"), 0o755); err != nil {
		t.Fatal(err)
	}
	s := start(t, dir)
	run(t, s, "CREATE TABLE t (n INT)")

	// While it runs, a second start on the same directory is refused, and says so.
	if _, err := localdb.Start(t.Context(), dir); err == nil || !strings.Contains(err.Error(), "another start is using") {
		t.Errorf("a second start: %v", err)
	}
	s.Stop()
	again := start(t, dir)
	defer again.Stop()
	run(t, again, "INSERT INTO t VALUES (1)")
}

// Two servers do not share a folder for temporary tables: the one that starts clears it.
func TestAnotherServersTemporaryTablesStay(t *testing.T) {
	shared := t.TempDir()
	t.Setenv("TMPDIR", shared)
	others := filepath.Join(shared, "#sql-temptable-1-2-3.MAI")
	if err := os.WriteFile(others, nil, 0o600); err != nil {
		t.Fatal(err)
	}
	start(t, filepath.Join(t.TempDir(), "data")).Stop()
	if _, err := os.Stat(others); err != nil {
		t.Error("the temporary table of another server is gone")
	}
}

// A start that was killed leaves a server behind that nobody owns; the next start
// stops it and goes on with the data.
func TestAServerLeftBehindIsTakenOver(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	s := start(t, dir)
	run(t, s, "CREATE TABLE t (n INT)")
	s.Stop()
	daemon := exec.Command("/bin/sh", "-c", `"$0" --no-defaults --datadir="$1/db" --socket="$1/s" --skip-networking --pid-file="$1/pid" $2 >/dev/null 2>&1 &`,
		mariadbd(t), dir, asRoot())
	if err := daemon.Run(); err != nil {
		t.Fatal(err)
	}
	waitFor(t, filepath.Join(dir, "pid"))
	again := start(t, dir)
	defer again.Stop()
	run(t, again, "INSERT INTO t VALUES (1)")
}

func asRoot() string {
	if os.Geteuid() == 0 {
		return "--user=root"
	}
	return "--skip-name-resolve"
}

func mariadbd(t *testing.T) string {
	t.Helper()
	for _, p := range []string{"/usr/sbin/mariadbd", "/usr/bin/mariadbd", "/usr/local/sbin/mariadbd"} {
		if _, err := os.Stat(p); err == nil {
			return p
		}
	}
	t.Fatal("no mariadbd")
	return ""
}

func waitFor(t *testing.T, file string) {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), 30*time.Second)
	defer cancel()
	tick := time.NewTicker(30 * time.Millisecond)
	defer tick.Stop()
	for {
		if _, err := os.Stat(file); err == nil {
			return
		}
		select {
		case <-ctx.Done():
			t.Fatalf("%s did not come", file)
		case <-tick.C:
		}
	}
}

func TestWhatIsInTheWayIsSaidInASentence(t *testing.T) {
	dir := t.TempDir()
	if err := os.MkdirAll(filepath.Join(dir, "db"), 0o755); err != nil {
		t.Fatal(err)
	}
	if err := os.WriteFile(filepath.Join(dir, "db", "holiday.jpg"), nil, 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := localdb.Start(t.Context(), dir); err == nil || !strings.Contains(err.Error(), "not a database of ours; move it away") {
		t.Errorf("a foreign directory: %v", err)
	}
	// A database that does not come up says so, with the end of its log.
	dir = filepath.Join(t.TempDir(), "data")
	s := start(t, dir)
	s.Stop()
	if err := os.WriteFile(filepath.Join(dir, "db", "ibdata1"), []byte("spoiled"), 0o600); err != nil {
		t.Fatal(err)
	}
	if _, err := localdb.Start(t.Context(), dir); err == nil || !strings.Contains(err.Error(), "its log") || strings.Contains(err.Error(), "goroutine") {
		t.Errorf("a spoiled database: %v", err)
	}
}
