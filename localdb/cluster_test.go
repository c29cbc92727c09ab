package localdb

import (
	"context"
	"database/sql"
	"errors"
	"os"
	"testing"
	"time"
)

// A node that was killed comes back with what it missed.
func TestACluster(t *testing.T) {
	dir, err := Scratch()
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		if !t.Failed() {
			_ = os.RemoveAll(dir)
		}
	})
	ctx, cancel := context.WithTimeout(t.Context(), 5*time.Minute)
	defer cancel()
	began := time.Now()
	c, err := StartCluster(ctx, dir, 3, Unhurried)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(c.Stop)
	t.Log("up after", time.Since(began))
	open := func(n *Node) *sql.DB {
		db, err := sql.Open("mysql", n.Alone(""))
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { _ = db.Close() })
		return db
	}
	first := open(c.Nodes[0])
	must := func(q string) {
		t.Helper()
		if _, err := first.ExecContext(ctx, q); err != nil {
			t.Fatal(err)
		}
	}
	must("CREATE DATABASE x")
	must("CREATE TABLE x.t (id INT PRIMARY KEY)")
	must("INSERT INTO x.t VALUES (1)")
	c.Nodes[2].Kill()
	began = time.Now()
	must("INSERT INTO x.t VALUES (2)")
	t.Log("written without the third after", time.Since(began))
	began = time.Now()
	if err := c.Nodes[2].Start(ctx); err != nil {
		t.Fatal(err)
	}
	t.Log("back after", time.Since(began))
	n := 0
	third := open(c.Nodes[2])
	third.SetMaxOpenConns(1)
	if _, err := third.ExecContext(ctx, "SET wsrep_sync_wait = 7"); err != nil {
		t.Fatal(err)
	}
	if err := third.QueryRowContext(ctx, "SELECT COUNT(*) FROM x.t").Scan(&n); err != nil || n != 2 {
		t.Fatalf("the node that came back has %d of 2 rows (%v)", n, err)
	}
}

// Servers that are started at once take different ports, though none of them listens yet.
func TestAPortIsTakenOnce(t *testing.T) {
	taken := map[int]bool{}
	for range 4 {
		dir, err := Scratch()
		if err != nil {
			t.Fatal(err)
		}
		s, err := take(dir)
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { _ = errors.Join(s.leave(), os.RemoveAll(dir)) })
		for range 150 {
			port, err := s.takePort()
			if err != nil {
				t.Fatal(err)
			}
			if taken[port] {
				t.Fatalf("port %d was taken twice", port)
			}
			taken[port] = true
		}
	}
}
