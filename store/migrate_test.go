package store_test

import (
	"context"
	"errors"
	"os"
	"path/filepath"
	"regexp"
	"strings"
	"testing"
	"time"

	"keenmagpie/store"
)

// bare opens a database in which nothing is.
func bare(t *testing.T, options string) (*store.Store, func(query string)) {
	t.Helper()
	t.Parallel()
	name := "bare_" + store.NewID()
	if err := db.Create(t.Context(), name); err != nil {
		t.Fatal(err)
	}
	st, err := store.Open(t.Context(), db.DSN(name))
	if err != nil {
		t.Fatal(err)
	}
	t.Cleanup(func() { _ = st.Close() })
	do := func(query string) {
		t.Helper()
		if _, err := st.DB().ExecContext(t.Context(), query); err != nil {
			t.Fatalf("%s: %v", query, err)
		}
	}
	if options != "" {
		do("ALTER DATABASE `" + name + "` " + options)
	}
	return st, do
}

var statement = regexp.MustCompile(`(?s)-- \+goose Up\n(.*)-- \+goose Down`)

// A process that is killed at any statement of any migration, recorded or not, leaves a
// database that the next start brings up to date.
func TestMigrationsAreGoneOnWithWhereverTheyStopped(t *testing.T) {
	files, err := filepath.Glob("migrations/*.sql")
	if err != nil || len(files) < 15 {
		t.Fatal(files, err)
	}
	var steps [][]string // by file: its statements
	for i, file := range files {
		body, err := os.ReadFile(file)
		if err != nil {
			t.Fatal(err)
		}
		up := statement.FindStringSubmatch(string(body))
		var list []string
		for s := range strings.SplitSeq(up[1], ";\n") {
			lines := strings.Split(s, "\n")
			for len(lines) > 0 && (strings.HasPrefix(lines[0], "--") || strings.TrimSpace(lines[0]) == "") {
				lines = lines[1:]
			}
			if s := strings.TrimSpace(strings.Join(lines, "\n")); s != "" {
				list = append(list, s)
			}
		}
		if i >= 6 && len(list) != 1 {
			t.Errorf("%s has %d statements: one that can be repeated is a migration", file, len(list))
		}
		steps = append(steps, list)
	}
	for k := range steps {
		t.Run(filepath.Base(files[k]), func(t *testing.T) {
			st, do := bare(t, "")
			// The versions' own table, without its first line.
			do(`CREATE TABLE goose_db_version (id BIGINT UNSIGNED NOT NULL AUTO_INCREMENT PRIMARY KEY, version_id BIGINT NOT NULL, is_applied BOOLEAN NOT NULL, tstamp DATETIME NULL DEFAULT CURRENT_TIMESTAMP)`)
			if k > 0 {
				do(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (0, 1)`)
			}
			for i, list := range steps[:k+1] {
				for _, s := range list {
					do(s)
				}
				if i < k { // the last one was done and not written down
					do(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (` + strings.TrimLeft(filepath.Base(files[i])[:5], "0") + `, 1)`)
				}
			}
			if err := st.Migrate(t.Context(), nil); err != nil {
				t.Fatal(err)
			}
			if _, err := st.AddWorkspace(t.Context(), "It works"); err != nil {
				t.Error(err)
			}
		})
	}
}

// Whatever character set a database has, every name can be kept, also in tables that an
// earlier version made.
func TestNamesOfAllLettersAreKept(t *testing.T) {
	for name, before := range map[string]func(do func(string)){
		"a new database": func(func(string)) {},
		"tables of before": func(do func(string)) {
			do(`CREATE TABLE workspaces (id VARCHAR(26) NOT NULL PRIMARY KEY, name VARCHAR(200) NOT NULL)`)
			do(`CREATE TABLE accounts (id VARCHAR(26) NOT NULL PRIMARY KEY, email VARCHAR(200) NOT NULL UNIQUE, name VARCHAR(200) NOT NULL, password_hash VARCHAR(200) NOT NULL)`)
			do(`CREATE TABLE members (workspace_id VARCHAR(26) NOT NULL, account_id VARCHAR(26) NOT NULL, role VARCHAR(20) NOT NULL, PRIMARY KEY (account_id, workspace_id),
				FOREIGN KEY (workspace_id) REFERENCES workspaces (id), FOREIGN KEY (account_id) REFERENCES accounts (id))`)
		},
	} {
		t.Run(name, func(t *testing.T) {
			st, do := bare(t, "CHARACTER SET latin1 COLLATE latin1_swedish_ci")
			before(do)
			if err := st.Migrate(t.Context(), nil); err != nil {
				t.Fatal(err)
			}
			if _, err := st.AddWorkspace(t.Context(), "Łukasz, 東京, 🚲"); err != nil {
				t.Error(err)
			}
			var references int
			if err := st.DB().QueryRowContext(t.Context(), `SELECT COUNT(*) FROM information_schema.referential_constraints WHERE constraint_schema = DATABASE() AND table_name = 'members'`).Scan(&references); err != nil || references != 2 {
				t.Errorf("%d references of the members (%v)", references, err)
			}
		})
	}
}

// A program that is older than the schema says so, and changes nothing.
func TestAnOlderProgramSaysSo(t *testing.T) {
	st, do := bare(t, "")
	if err := st.Migrate(t.Context(), nil); err != nil {
		t.Fatal(err)
	}
	do(`INSERT INTO goose_db_version (version_id, is_applied) VALUES (9999, 1)`)
	if err := st.Migrate(t.Context(), nil); !errors.Is(err, store.ErrTooNew) || !strings.Contains(err.Error(), "9999") {
		t.Errorf("a schema of the future: %v", err)
	}
}

// Whoever has to wait for another start says so at once, and goes on when that is done, or
// soon after it was killed.
func TestWaitingForAnotherStartIsSaid(t *testing.T) {
	st, do := bare(t, "")
	if err := st.Migrate(t.Context(), nil); err != nil {
		t.Fatal(err)
	}
	do(`UPDATE goose_lock SET locked = 1, locked_by = 'killed', locked_at = NOW(), lease_expires_at = NOW() + INTERVAL 4 SECOND, updated_at = NOW()`)
	said := make(chan struct{}, 1)
	ctx, cancel := context.WithTimeout(t.Context(), 3*time.Minute)
	defer cancel()
	if err := st.Migrate(ctx, func() { said <- struct{}{} }); err != nil {
		t.Fatal(err)
	}
	select {
	case <-said:
	default:
		t.Error("it was not said")
	}
}
