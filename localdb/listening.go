package localdb

import (
	"crypto/sha256"
	"errors"
	"fmt"
	mathrand "math/rand/v2"
	"net"
	"os"
	"path/filepath"
	"strconv"
)

// socketFor is where the server listens: in its own directory or, since the path of a
// socket has at most 107 bytes and a checkout may lie deeper, in one that is named by it.
func socketFor(dir string) (string, error) {
	if path := filepath.Join(dir, "s"); len(path) < 100 {
		return path, nil
	}
	sum := sha256.Sum256([]byte(dir))
	short := filepath.Join(os.TempDir(), fmt.Sprintf("magpie-db-%x", sum[:6]))
	if err := os.MkdirAll(short, 0o755); err != nil {
		return "", err
	}
	return filepath.Join(short, "s"), nil
}

// takePort finds a port below those that the kernel gives to connections (from 32768 on,
// ip(7)): one of these could be taken by any connection before the server listens there. A
// name in the kernel that goes with this process (unix(7), abstract) keeps other servers
// that are being started from the same port.
func (s *Server) takePort() (int, error) {
	const first, last = 20000, 32000
	var fault error
	for range 100 {
		port := first + mathrand.IntN(last-first)
		claim, err := net.Listen("unix", fmt.Sprintf("@keen-magpie-port-%d", port))
		if err != nil {
			fault = err
			continue
		}
		l, err := net.Listen("tcp", net.JoinHostPort("127.0.0.1", strconv.Itoa(port)))
		if err == nil {
			s.claims = append(s.claims, claim)
			return port, l.Close()
		}
		fault = errors.Join(err, claim.Close())
	}
	return 0, fmt.Errorf("no port is free on 127.0.0.1: %w", fault)
}
