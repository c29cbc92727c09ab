package main

import (
	"bytes"
	"compress/gzip"
	"context"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"

	"keenmagpie/demo"
	"keenmagpie/localdb"
	"keenmagpie/store"
)

// private is a private database server for a test.
func private(t *testing.T) *localdb.Server {
	t.Helper()
	dir, err := localdb.Scratch()
	if err != nil {
		t.Fatal(err)
	}
	db, err := localdb.Start(t.Context(), dir)
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() {
		db.Stop()
		_ = os.RemoveAll(dir)
	})
	return db
}

// sums are the check sums of all tables but those that a backup leaves out.
func sums(t *testing.T, st *store.Store) map[string]string {
	t.Helper()
	names, err := st.Tables(t.Context())
	if err != nil {
		t.Fatal(err)
	}
	out := map[string]string{}
	for _, name := range names {
		if name == "sessions" || name == "visits" || name == "goose_lock" {
			continue
		}
		var is, sum string
		if err := st.DB().QueryRowContext(t.Context(), "CHECKSUM TABLE `"+name+"` EXTENDED").Scan(&is, &sum); err != nil {
			t.Fatal(err)
		}
		out[name] = sum
	}
	return out
}

// What a backup holds comes back into an empty database as it was, pictures included; what
// is not whole, not a backup, or would overwrite something, changes nothing.
func TestABackupComesBackAsItWas(t *testing.T) {
	db := private(t)
	st, err := demo.Open(t.Context(), db, "source")
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	file := filepath.Join(t.TempDir(), "all.sql.gz")
	// Somebody goes on working meanwhile: each of their saves is in it whole, or not at all.
	working, end := context.WithCancel(t.Context())
	worked := make(chan error, 1)
	go func() {
		for i := 0; working.Err() == nil; i++ {
			if _, err := st.AddWorkspace(context.WithoutCancel(working), fmt.Sprintf("Łukasz 🚲 %d", i)); err != nil {
				worked <- err
				return
			}
		}
		worked <- nil
	}()
	during := printed(t, (&backupCmd{database{DSN: db.DSN("source")}, file}).Run)
	end()
	if err := <-worked; err != nil || !strings.Contains(during, "read again and whole") {
		t.Fatal(err, during)
	}
	if err := (&backupCmd{database{DSN: db.DSN("source")}, file}).Run(); err == nil || !strings.Contains(err.Error(), "is there already") {
		t.Errorf("a second backup into the same file: %v", err)
	}
	if err := os.Remove(file); err != nil {
		t.Fatal(err)
	}
	if err := (&backupCmd{database{DSN: db.DSN("source")}, file}).Run(); err != nil {
		t.Fatal(err)
	}

	empty := func(name string) (restoreCmd, *store.Store) {
		t.Helper()
		if err := db.Create(t.Context(), name); err != nil {
			t.Fatal(err)
		}
		to, err := store.Open(t.Context(), db.DSN(name))
		if err != nil {
			t.Fatal(err)
		}
		t.Cleanup(func() { _ = to.Close() })
		return restoreCmd{database{DSN: db.DSN(name)}, file}, to
	}
	restore, to := empty("target")
	if says := printed(t, restore.Run); !strings.Contains(says, "3 accounts") {
		t.Errorf("it says: %s", says)
	}
	if was, is := sums(t, st), sums(t, to); !equal(was, is) {
		t.Errorf("what came back is not what there was:\n%v\n%v", was, is)
	}
	if err := restore.Run(); err == nil || !strings.Contains(err.Error(), "is not empty") {
		t.Errorf("restored over what is there: %v", err)
	}

	whole, err := os.ReadFile(file)
	if err != nil {
		t.Fatal(err)
	}
	flipped := slices.Clone(whole)
	flipped[len(flipped)/2] ^= 4
	failing := packed(t, backupBegins+`{"format":1,"schema":1}`+"\nCREATE TABLE half (id INT);\nINSERT INTO nowhere VALUES (1);\n"+backupEnds)
	for name, body := range map[string][]byte{
		"cut off":           whole[:len(whole)*2/3],
		"flipped":           flipped,
		"not one":           []byte("name,score\nLea,4\n"),
		"of something else": packed(t, "CREATE TABLE x (id INT);\n"),
		"without its end":   packed(t, backupBegins+`{"format":1,"schema":1}`+"\nSELECT 1;\n"),
		"of a newer one":    packed(t, backupBegins+`{"format":1,"schema":9999}`+"\n"+backupEnds),
		"that fails":        failing,
	} {
		t.Run(name, func(t *testing.T) {
			restore, to := empty("bad " + name)
			restore.File = filepath.Join(t.TempDir(), "bad.sql.gz")
			if err := os.WriteFile(restore.File, body, 0o600); err != nil {
				t.Fatal(err)
			}
			if err := restore.Run(); err == nil {
				t.Error("it was restored")
			}
			if tables, err := to.Tables(t.Context()); err != nil || len(tables) > 0 {
				t.Errorf("it left %v (%v)", tables, err)
			}
		})
	}
}

func equal(a, b map[string]string) bool {
	for name, sum := range a {
		if b[name] != sum {
			return false
		}
	}
	return len(a) == len(b) && len(a) > 10
}

func packed(t *testing.T, text string) []byte {
	t.Helper()
	var b bytes.Buffer
	w := gzip.NewWriter(&b)
	_, err := w.Write([]byte(text))
	if closed := w.Close(); err != nil || closed != nil {
		t.Fatal(err, closed)
	}
	return b.Bytes()
}

// The doctor finds what is wrong, says what to do, and is content when it was done.
func TestTheDoctorFindsWhatIsWrong(t *testing.T) {
	db := private(t)
	c := doctorCmd{serveCmd{Addr: "127.0.0.1:8090", DBConnections: 32, database: database{DSN: db.DSN("patient")}}}
	found := func() string {
		var out []string
		for _, d := range c.look(t.Context()) {
			if d.how != well {
				out = append(out, fmt.Sprintf("%s: %s → %s", d.of, d.says, d.do))
			}
		}
		return strings.Join(out, "\n")
	}
	finds := func(text string) {
		t.Helper()
		if all := found(); !strings.Contains(all, text) {
			t.Errorf("%q is not found, but:\n%s", text, all)
		}
	}
	finds("Is it running")
	if err := db.Create(t.Context(), "patient"); err != nil {
		t.Fatal(err)
	}
	finds("there are no tables yet")
	st, err := demo.Open(t.Context(), db, "patient")
	if err != nil {
		t.Fatal(err)
	}
	defer st.Close()
	do := func(query string, args ...any) {
		t.Helper()
		if _, err := st.DB().ExecContext(t.Context(), query, args...); err != nil {
			t.Fatal(err)
		}
	}
	c.PublicURL = "https://magpie.invalid"
	c.Proxies = nil
	finds("accounts of the demo")
	finds("cannot be reached")
	do(`SET GLOBAL innodb_flush_log_at_trx_commit = 2`)
	finds("when the power goes")
	do(`SET GLOBAL innodb_flush_log_at_trx_commit = 1`)
	do(`INSERT INTO media_chunks (id, part, body) VALUES ('lost', 0, 'x')`)
	finds("1 pieces of media belong to nobody")
	if err := st.DropLostChunks(t.Context(), 10); err != nil {
		t.Fatal(err)
	}
	do(`INSERT INTO workspaces (id, name) VALUES ('w', 'North School')`)
	finds(`nobody owns the workspace "North School"`)
	do(`INSERT INTO jobs (name, next_at, held_until, done_at, failures, says) VALUES ('rest', NOW(), NOW(), NULL, 3, 'no room')`)
	finds(`"rest" failed 3 times in a row: no room`)
	do(`DELETE FROM jobs`)
	do(`DELETE FROM workspaces WHERE id = 'w'`)
	do(`UPDATE accounts SET email = CONCAT('n', id, '@school.example')`)
	c.PublicURL, c.OpsAddr = "http://127.0.0.1:8090", "127.0.0.1:8092"
	do(`UPDATE activities SET summed = revision, face = '{}'`)
	if all := found(); all != "" {
		t.Errorf("it is not content:\n%s", all)
	}
	c.DSN = "nothing"
	finds("data source name cannot be read")
}
