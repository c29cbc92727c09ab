// Package localdb runs a private MariaDB server for the demo and the tests: its
// own data directory, socket, port and password, on 127.0.0.1 alone, started and
// stopped with the program that uses it.
//
//	db, err := localdb.Start(ctx, ".data/mariadb")
//	defer db.Stop()
//	store.Open(db.DSN("magpie"))
package localdb

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"net"
	"os"
	"os/exec"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"syscall"
	"time"

	_ "github.com/go-sql-driver/mysql" // the driver of the "is it up" probe
)

// Server is a running private server.
type Server struct {
	dir      string // absolute
	socket   string
	password string
	cmd      *exec.Cmd
	done     chan struct{} // closed when the process has ended
}

// Start prepares dir where it is new or was left half prepared, and starts the
// server in it. It returns when the server answers. An error says what to do.
//
// One server at a time uses a directory; a second Start there is refused.
func Start(ctx context.Context, dir string) (*Server, error) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	daemon, err := find("mariadbd", "mysqld")
	if err != nil {
		return nil, errors.New("the MariaDB server is not installed: run 'apt-get install mariadb-server' (as root or with sudo), then start again")
	}
	if err := os.MkdirAll(dir, 0o755); err != nil {
		return nil, fmt.Errorf("the data directory %s cannot be made: %w", dir, err)
	}
	// A server that starts clears its folder for temporary tables: shared with another,
	// it would take that one's away.
	if err := os.MkdirAll(filepath.Join(dir, "tmp"), 0o700); err != nil {
		return nil, err
	}
	if err := prepare(ctx, dir); err != nil {
		return nil, err
	}
	s := &Server{dir: dir, done: make(chan struct{})}
	if err := s.clearLeftovers(); err != nil {
		return nil, err
	}
	// A socket's path has at most 107 bytes, and a checkout may lie deeper.
	runDir, err := os.MkdirTemp("", "magpie-db-")
	if err != nil {
		return nil, err
	}
	if err := os.Chmod(runDir, 0o755); err != nil {
		return nil, err
	}
	s.socket = filepath.Join(runDir, "s")
	port, err := freePort()
	if err != nil {
		return nil, err
	}
	initFile, err := s.makePassword()
	if err != nil {
		return nil, err
	}
	logFile, err := os.Create(filepath.Join(dir, "server.log"))
	if err != nil {
		return nil, fmt.Errorf("the log of the database cannot be written: %w", err)
	}
	defer logFile.Close()
	args := []string{
		"--no-defaults", "--datadir=" + filepath.Join(dir, "db"), "--tmpdir=" + filepath.Join(dir, "tmp"), "--socket=" + s.socket,
		"--port=" + strconv.Itoa(port), "--bind-address=127.0.0.1", "--skip-name-resolve",
		"--pid-file=" + filepath.Join(dir, "pid"), "--init-file=" + initFile,
		"--innodb-buffer-pool-size=1G", "--innodb-log-file-size=64M", "--max-allowed-packet=64M",
		"--character-set-server=utf8mb4", "--collation-server=utf8mb4_bin",
	}
	if os.Geteuid() == 0 {
		args = append(args, "--user=root")
	}
	s.cmd = exec.Command(daemon, args...)
	s.cmd.Stdout, s.cmd.Stderr = logFile, logFile
	// The server goes down with us however we end, and a Ctrl+C in the terminal
	// reaches us alone, so that we stop it in order.
	s.cmd.SysProcAttr = &syscall.SysProcAttr{Pdeathsig: syscall.SIGTERM, Setpgid: true}
	started := make(chan error)
	go func() {
		// The kernel sends Pdeathsig when the thread that forked ends, so it is
		// kept as long as the server runs.
		runtime.LockOSThread()
		err := s.cmd.Start()
		started <- err
		if err == nil {
			_ = s.cmd.Wait()
			close(s.done)
		}
	}()
	if err := <-started; err != nil {
		return nil, fmt.Errorf("%s cannot be started: %w", daemon, err)
	}
	if err := s.ready(ctx); err != nil {
		s.Stop()
		return nil, err
	}
	return s, nil
}

func find(names ...string) (string, error) {
	for _, n := range names {
		for _, dir := range append(filepath.SplitList(os.Getenv("PATH")), "/usr/sbin", "/usr/local/sbin") {
			p := filepath.Join(dir, n)
			if info, err := os.Stat(p); err == nil && !info.IsDir() && info.Mode()&0o111 != 0 {
				return p, nil
			}
		}
	}
	return "", errors.New("not found")
}

// prepare makes the system tables, in a directory beside the final one, so that
// an interrupted start leaves nothing half made in its place.
func prepare(ctx context.Context, dir string) error {
	final := filepath.Join(dir, "db")
	if _, err := os.Stat(filepath.Join(final, "mysql")); err == nil {
		return nil
	}
	if entries, _ := os.ReadDir(final); len(entries) > 0 {
		return fmt.Errorf("%s is there and is not a database of ours; move it away and start again", final)
	}
	install, err := find("mariadb-install-db", "mysql_install_db")
	if err != nil {
		return errors.New("mariadb-install-db is missing: run 'apt-get install mariadb-server', then start again")
	}
	fresh := filepath.Join(dir, "db.new")
	if err := os.RemoveAll(fresh); err != nil {
		return err
	}
	args := []string{"--no-defaults", "--datadir=" + fresh, "--auth-root-authentication-method=normal", "--skip-test-db"}
	if os.Geteuid() == 0 {
		args = append(args, "--user=root")
	}
	cmd := exec.CommandContext(ctx, install, args...)
	cmd.Env = append(os.Environ(), "TMPDIR="+filepath.Join(dir, "tmp"))
	if out, err := cmd.CombinedOutput(); err != nil {
		return fmt.Errorf("the database in %s could not be prepared: %s", dir, lastLines(string(out), 3))
	}
	_ = os.Remove(final)
	return os.Rename(fresh, final)
}

// clearLeftovers stops a server that an interrupted start left running on this
// very directory, and refuses when its owner is still there.
func (s *Server) clearLeftovers() error {
	file := filepath.Join(s.dir, "pid")
	body, err := os.ReadFile(file)
	if err != nil {
		return nil
	}
	pid, err := strconv.Atoi(strings.TrimSpace(string(body)))
	if err != nil || !ours(pid, s.dir) {
		_ = os.Remove(file)
		return nil
	}
	if parent(pid) > 1 {
		return fmt.Errorf("another start is using the database in %s (process %d); stop that one first, or give another --data", s.dir, pid)
	}
	// One that is still coming up does not hear the signal, so it is sent again.
	for i := range 300 {
		if i%10 == 0 {
			_ = syscall.Kill(pid, syscall.SIGTERM)
		}
		if !ours(pid, s.dir) {
			return nil
		}
		time.Sleep(100 * time.Millisecond)
	}
	return fmt.Errorf("a database left over from an interrupted start (process %d) does not stop; end it with 'kill -9 %d' and start again", pid, pid)
}

// ours reports whether a process runs and was started on our data directory.
func ours(pid int, dir string) bool {
	line, err := os.ReadFile(fmt.Sprintf("/proc/%d/cmdline", pid))
	return err == nil && strings.Contains(string(line), "--datadir="+filepath.Join(dir, "db")+"\x00")
}

func parent(pid int) int {
	stat, _ := os.ReadFile(fmt.Sprintf("/proc/%d/stat", pid))
	if i := strings.LastIndexByte(string(stat), ')'); i >= 0 {
		if f := strings.Fields(string(stat)[i+1:]); len(f) > 1 {
			n, _ := strconv.Atoi(f[1])
			return n
		}
	}
	return 0
}

// makePassword makes a new password at each start; the server takes it from a
// file that its owner alone can read.
func (s *Server) makePassword() (initFile string, err error) {
	s.password = rand.Text()
	initFile = filepath.Join(s.dir, "init.sql")
	body := "ALTER USER 'root'@'localhost' IDENTIFIED BY '" + s.password + "';\n"
	if err := os.WriteFile(initFile, []byte(body), 0o600); err != nil {
		return "", fmt.Errorf("the data directory %s cannot be written: %w", s.dir, err)
	}
	return initFile, nil
}

func freePort() (int, error) {
	l, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return 0, fmt.Errorf("no port is free on 127.0.0.1: %w", err)
	}
	defer l.Close()
	return l.Addr().(*net.TCPAddr).Port, nil
}

func (s *Server) ready(ctx context.Context) error {
	db, err := sql.Open("mysql", s.DSN(""))
	if err != nil {
		return err
	}
	defer db.Close()
	ctx, cancel := context.WithTimeout(ctx, 60*time.Second)
	defer cancel()
	tick := time.NewTicker(50 * time.Millisecond)
	defer tick.Stop()
	for {
		if db.PingContext(ctx) == nil {
			return nil
		}
		select {
		case <-s.done:
			return fmt.Errorf("the database ended right after its start; its log %s ends with:\n%s", s.logPath(), s.logEnd())
		case <-ctx.Done():
			return fmt.Errorf("the database did not come up; its log %s ends with:\n%s\nMoving %s away and starting again makes a new one", s.logPath(), s.logEnd(), s.dir)
		case <-tick.C:
		}
	}
}

func (s *Server) logPath() string { return filepath.Join(s.dir, "server.log") }

func (s *Server) logEnd() string {
	body, _ := os.ReadFile(s.logPath())
	return lastLines(string(body), 5)
}

func lastLines(text string, n int) string {
	lines := strings.Split(strings.TrimSpace(text), "\n")
	return strings.Join(lines[max(0, len(lines)-n):], "\n")
}

// DSN is the data source name of a database on this server.
func (s *Server) DSN(database string) string {
	return fmt.Sprintf("root:%s@unix(%s)/%s", s.password, s.socket, database)
}

// Create makes a database where it is not there.
func (s *Server) Create(ctx context.Context, database string) error {
	db, err := sql.Open("mysql", s.DSN(""))
	if err != nil {
		return err
	}
	defer db.Close()
	_, err = db.ExecContext(ctx, "CREATE DATABASE IF NOT EXISTS `"+database+"`")
	return err
}

// Stop stops the server and waits for it.
func (s *Server) Stop() {
	_ = s.cmd.Process.Signal(syscall.SIGTERM)
	select {
	case <-s.done:
	case <-time.After(30 * time.Second):
		_ = s.cmd.Process.Kill()
		<-s.done
	}
	_ = os.RemoveAll(filepath.Dir(s.socket))
}
