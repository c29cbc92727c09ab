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
	"io"
	"os"
	"os/exec"
	"os/user"
	"path/filepath"
	"runtime"
	"strconv"
	"strings"
	"sync"
	"syscall"
	"time"

	_ "github.com/go-sql-driver/mysql" // the driver of the "is it up" probe
)

// Server is a running private server. When it dies it is started again.
type Server struct {
	dir      string // absolute
	socket   string
	password string
	daemon   string
	args     []string
	lock     *os.File    // held as long as the directory is used
	claims   []io.Closer // held as long as ports are used
	mu       sync.Mutex
	cmd      *exec.Cmd
	done     chan struct{} // closed when the process has ended
	stopping bool
	ended    chan struct{} // closed when nothing is started again
}

// Start prepares dir where it is new or was left half prepared, and starts the
// server in it. It returns when the server answers. An error says what to do.
//
// One server at a time uses a directory; a second Start there is refused.
func Start(ctx context.Context, dir string) (*Server, error) {
	s, err := take(dir)
	if err != nil {
		return nil, err
	}
	if err := s.start(ctx); err != nil {
		return nil, errors.Join(err, s.leave())
	}
	return s, nil
}

// take makes a directory and takes it for this process alone. The lock goes with the
// process, however that ends.
func take(dir string) (*Server, error) {
	dir, err := filepath.Abs(dir)
	if err != nil {
		return nil, err
	}
	daemon, err := find("mariadbd", "mysqld")
	if err != nil {
		return nil, errors.New("the MariaDB server is not installed: run 'apt-get install mariadb-server' (as root or with sudo), then start again")
	}
	s := &Server{dir: dir, daemon: daemon, ended: make(chan struct{})}
	return s, s.take()
}

func (s *Server) take() error {
	// A server that starts clears its folder for temporary tables: shared with another,
	// it would take that one's away.
	if err := os.MkdirAll(filepath.Join(s.dir, "tmp"), 0o755); err != nil {
		return s.denied(err)
	}
	lock, err := os.OpenFile(filepath.Join(s.dir, "lock"), os.O_RDWR|os.O_CREATE, 0o644)
	if err != nil {
		return s.denied(err)
	}
	if err := syscall.Flock(int(lock.Fd()), syscall.LOCK_EX|syscall.LOCK_NB); err != nil {
		return errors.Join(fmt.Errorf("another start is using the database in %s; stop that one first, or give another --data", s.dir), lock.Close())
	}
	s.lock = lock
	return nil
}

// denied says why a directory cannot be used.
func (s *Server) denied(err error) error {
	at := s.dir
	for at != filepath.Dir(at) {
		if info, no := os.Stat(at); no == nil {
			if own, ok := info.Sys().(*syscall.Stat_t); ok && errors.Is(err, os.ErrPermission) && int(own.Uid) != os.Geteuid() {
				owner := strconv.Itoa(int(own.Uid))
				if u, err := user.LookupId(owner); err == nil {
					owner = u.Username
				}
				return fmt.Errorf("%s belongs to the user %s, and this was started by another. Start it as %s, or give another --data", at, owner, owner)
			}
			break
		}
		at = filepath.Dir(at)
	}
	return fmt.Errorf("the data directory %s cannot be made: %w", s.dir, err)
}

func (s *Server) start(ctx context.Context) error {
	if err := prepare(ctx, s.dir); err != nil {
		return err
	}
	if err := s.clearLeftovers(); err != nil {
		return err
	}
	var err error
	if s.socket, err = socketFor(s.dir); err != nil {
		return err
	}
	port, err := s.takePort()
	if err != nil {
		return err
	}
	initFile, err := s.makePassword()
	if err != nil {
		return err
	}
	s.args = append(s.arguments(port, "root"), "--init-file="+initFile, "--innodb-buffer-pool-size=1G")
	if err := s.launch(); err != nil {
		return err
	}
	go s.supervise()
	if err := s.ready(ctx); err != nil {
		s.Stop()
		return err
	}
	return nil
}

// arguments are those of every server, before what else one is given. as is who it becomes
// where root starts it: it refuses unless told.
func (s *Server) arguments(port int, as string) []string {
	args := []string{
		"--no-defaults", "--datadir=" + filepath.Join(s.dir, "db"), "--tmpdir=" + filepath.Join(s.dir, "tmp"), "--socket=" + s.socket,
		"--port=" + strconv.Itoa(port), "--bind-address=127.0.0.1", "--skip-name-resolve",
		"--pid-file=" + filepath.Join(s.dir, "pid"),
		"--innodb-log-file-size=64M", "--max-allowed-packet=64M",
		"--character-set-server=utf8mb4", "--collation-server=utf8mb4_bin",
	}
	if os.Geteuid() == 0 {
		args = append(args, "--user="+as)
	}
	return args
}

// launch starts the process.
func (s *Server) launch() error {
	s.mu.Lock()
	defer s.mu.Unlock()
	if s.stopping {
		return nil
	}
	log, err := s.openLog()
	if err != nil {
		return fmt.Errorf("the log of the database cannot be written: %w", err)
	}
	defer log.Close()
	cmd, done := exec.Command(s.daemon, s.args...), make(chan struct{})
	cmd.Stdout, cmd.Stderr = log, log
	// The server goes down with us however we end, and a Ctrl+C in the terminal
	// reaches us alone, so that we stop it in order.
	cmd.SysProcAttr = &syscall.SysProcAttr{Pdeathsig: syscall.SIGTERM, Setpgid: true}
	started := make(chan error)
	go func() {
		// The kernel sends Pdeathsig when the thread that forked ends, so it is
		// kept as long as the server runs.
		runtime.LockOSThread()
		err := cmd.Start()
		started <- err
		if err == nil {
			_ = cmd.Wait()
			close(done)
		}
	}()
	if err := <-started; err != nil {
		return fmt.Errorf("%s cannot be started: %w", s.daemon, err)
	}
	s.cmd, s.done = cmd, done
	return nil
}

// A server that ends within soon of its start is started again so often in a row.
const (
	mostRestarts = 5
	soon         = 3 * time.Second
)

// supervise starts a server that has died again.
func (s *Server) supervise() {
	defer close(s.ended)
	for quick := 0; quick <= mostRestarts; {
		_, done := s.process()
		began := time.Now()
		<-done
		if s.isStopping() {
			return
		}
		if quick++; time.Since(began) > soon {
			quick = 0
		}
		time.Sleep(time.Duration(quick) * 200 * time.Millisecond)
		if s.launch() != nil {
			return
		}
	}
}

// Ended is closed when the server has ended and is not started again.
func (s *Server) Ended() <-chan struct{} { return s.ended }

// Why says how its log ends.
func (s *Server) Why() error {
	return fmt.Errorf("the database ended and does not come up again; its log %s ends with:\n%s", s.logPath(), s.logEnd())
}

func (s *Server) process() (*exec.Cmd, chan struct{}) {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.cmd, s.done
}

func (s *Server) isStopping() bool {
	s.mu.Lock()
	defer s.mu.Unlock()
	return s.stopping
}

// openLog opens the log to be gone on with; one that has grown large is put aside.
func (s *Server) openLog() (*os.File, error) {
	const large = 10 << 20
	if info, err := os.Stat(s.logPath()); err == nil && info.Size() > large {
		if err := os.Rename(s.logPath(), s.logPath()+".1"); err != nil {
			return nil, err
		}
	}
	return os.OpenFile(s.logPath(), os.O_WRONLY|os.O_CREATE|os.O_APPEND, 0o644)
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

// leave gives up the directory and the ports; the second time there is nothing to give up.
func (s *Server) leave() error {
	s.mu.Lock()
	lock := s.lock
	s.lock = nil
	s.mu.Unlock()
	if lock == nil {
		return nil
	}
	for _, c := range s.claims {
		_ = c.Close()
	}
	return lock.Close()
}

// ready waits until the server answers.
func (s *Server) ready(ctx context.Context) error {
	return s.waits(ctx, s.DSN(""), func(db *sql.DB) bool {
		one := 0
		return db.QueryRowContext(ctx, "SELECT 1").Scan(&one) == nil
	})
}

// waits waits until the server is as it is asked to be, or has ended.
func (s *Server) waits(ctx context.Context, dsn string, is func(*sql.DB) bool) error {
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer db.Close()
	ctx, cancel := context.WithTimeout(ctx, 3*time.Minute)
	defer cancel()
	tick := time.NewTicker(50 * time.Millisecond)
	defer tick.Stop()
	for {
		if is(db) {
			return nil
		}
		select {
		case <-s.ended:
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
	return create(ctx, s.DSN(""), database)
}

func create(ctx context.Context, dsn, database string) error {
	db, err := sql.Open("mysql", dsn)
	if err != nil {
		return err
	}
	defer db.Close()
	_, err = db.ExecContext(ctx, "CREATE DATABASE IF NOT EXISTS `"+database+"`")
	return err
}

// Stop stops the server and waits for it.
func (s *Server) Stop() {
	s.mu.Lock()
	s.stopping = true
	cmd, done := s.cmd, s.done
	s.mu.Unlock()
	if cmd != nil {
		_ = cmd.Process.Signal(syscall.SIGTERM)
		select {
		case <-done:
		case <-time.After(time.Minute):
			_ = cmd.Process.Kill()
			<-done
		}
	}
	if dir := filepath.Dir(s.socket); dir != s.dir {
		_ = os.RemoveAll(dir)
	}
	_ = s.leave()
}
