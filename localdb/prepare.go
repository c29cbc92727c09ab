package localdb

import (
	"context"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"strconv"
	"strings"
	"syscall"
	"time"
)

// Scratch makes a directory for the databases of tests and measurements, in memory where
// the machine has a place for that: nobody wants them back.
func Scratch() (string, error) {
	const memory = "/dev/shm"
	if info, err := os.Stat(memory); err == nil && info.IsDir() {
		if dir, err := os.MkdirTemp(memory, "magpie-"); err == nil {
			return dir, nil
		}
	}
	return os.MkdirTemp("", "magpie-")
}

// During runs a server in a directory of its own for as long as it is used, as tests do, and
// leaves nothing of it behind. It returns what use returns, or 1 where no server came up.
func During(use func(db *Server) int) int {
	dir, err := Scratch()
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer os.RemoveAll(dir)
	db, err := Start(context.Background(), filepath.Join(dir, "db"))
	if err != nil {
		fmt.Fprintln(os.Stderr, err)
		return 1
	}
	defer db.Stop()
	return use(db)
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
// very directory, and refuses when its owner is still there. It asks the kernel what runs:
// the file with the server's number is there only once it is up, and empty for a moment.
func (s *Server) clearLeftovers() error {
	processes, err := os.ReadDir("/proc")
	if err != nil {
		return err
	}
	for _, p := range processes {
		if pid, err := strconv.Atoi(p.Name()); err == nil && ours(pid, s.dir) {
			if err := s.clearLeftover(pid); err != nil {
				return err
			}
		}
	}
	return nil
}

func (s *Server) clearLeftover(pid int) error {
	if parent(pid) > 1 {
		return fmt.Errorf("another start is using the database in %s (process %d); stop that one first, or give another --data", s.dir, pid)
	}
	// One that is still coming up does not hear the signal, so it is sent again; and one
	// that does not stop, on a busy machine, is ended: it recovers as after a crash.
	began := time.Now()
	for i := 0; time.Since(began) < 2*time.Minute; i++ {
		signal := syscall.SIGTERM
		if time.Since(began) > 20*time.Second {
			signal = syscall.SIGKILL
		}
		if i%10 == 0 {
			_ = syscall.Kill(pid, signal)
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
