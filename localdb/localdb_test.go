package localdb_test

import (
	"context"
	"database/sql"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
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
// stops it and goes on with the data, also where the server has not written its number yet.
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
	number := filepath.Join(dir, "pid")
	waitFor(t, number)
	if err := os.Truncate(number, 0); err != nil {
		t.Fatal(err)
	}
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

// A server that dies is started again, with its data, and its log goes on.
func TestAServerThatDiesIsStartedAgain(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	s := start(t, dir)
	defer s.Stop()
	run(t, s, "CREATE TABLE t (n INT)")
	before, err := os.ReadFile(filepath.Join(dir, "server.log"))
	if err != nil {
		t.Fatal(err)
	}
	body, err := os.ReadFile(filepath.Join(dir, "pid"))
	if err != nil {
		t.Fatal(err)
	}
	pid, _ := strconv.Atoi(strings.TrimSpace(string(body)))
	if err := syscall.Kill(pid, syscall.SIGKILL); err != nil {
		t.Fatal(err)
	}
	db, err := sql.Open("mysql", s.DSN("kept"))
	if err != nil {
		t.Fatal(err)
	}
	defer db.Close()
	ctx, cancel := context.WithTimeout(t.Context(), 3*time.Minute)
	defer cancel()
	tick := time.NewTicker(30 * time.Millisecond)
	defer tick.Stop()
	for {
		if _, err := db.ExecContext(ctx, "INSERT INTO t VALUES (1)"); err == nil {
			break
		}
		select {
		case <-ctx.Done():
			t.Fatal("it was not started again")
		case <-tick.C:
		}
	}
	after, err := os.ReadFile(filepath.Join(dir, "server.log"))
	if err != nil || !strings.HasPrefix(string(after), string(before)) {
		t.Errorf("the log was not gone on with (%v)", err)
	}
}

// Two first starts at once: one has the directory, and the other says so.
func TestTwoFirstStartsAtOnce(t *testing.T) {
	dir := filepath.Join(t.TempDir(), "data")
	type started struct {
		s   *localdb.Server
		err error
	}
	both := make(chan started, 2)
	for range 2 {
		go func() {
			s, err := localdb.Start(t.Context(), dir)
			both <- started{s, err}
		}()
	}
	running := 0
	for range 2 {
		switch x := <-both; {
		case x.err == nil:
			running++
			defer x.s.Stop()
		case !strings.Contains(x.err.Error(), "another start is using"):
			t.Error(x.err)
		}
	}
	if running != 1 {
		t.Errorf("%d are running", running)
	}
}

// Nothing is left in the folder for temporary files, also of a start that was killed.
func TestNoFoldersAreLeftBehind(t *testing.T) {
	shared := t.TempDir()
	t.Setenv("TMPDIR", shared)
	start(t, filepath.Join(t.TempDir(), strings.Repeat("a-very-deep-checkout/", 6), "data")).Stop()
	if left, err := os.ReadDir(shared); err != nil || len(left) > 0 {
		t.Errorf("left behind: %v (%v)", left, err)
	}
}

func waitFor(t *testing.T, file string) {
	t.Helper()
	ctx, cancel := context.WithTimeout(t.Context(), 3*time.Minute)
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
