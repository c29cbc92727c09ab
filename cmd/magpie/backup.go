package main

import (
	"bufio"
	"bytes"
	"compress/gzip"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"net"
	"os"
	"os/exec"
	"os/signal"
	"path/filepath"
	"strings"
	"syscall"
	"time"

	"github.com/go-sql-driver/mysql"

	"keenmagpie/store"
)

// A backup is what mariadb-dump writes, compressed with gzip, between a first line that
// says what it is and a last one without which it is not whole.
const (
	backupBegins = "-- Keen Magpie backup "
	backupEnds   = "-- Keen Magpie backup ends here\n"
)

// backupHead is what a backup says of itself.
type backupHead struct {
	Format int       `json:"format"`
	Schema int       `json:"schema"` // how far the schema had been brought
	Made   time.Time `json:"made"`
}

type backupCmd struct {
	database
	File string `arg:"" help:"File to write, as magpie-2026-11-29.sql.gz; - is the standard output."`
}

// Run writes a backup while the application goes on.
func (c *backupCmd) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	if c.File == "-" {
		return c.write(ctx, os.Stdout)
	}
	if _, err := os.Stat(c.File); !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("%s is there already; nothing was written. Give another name, or take that file away first", c.File)
	}
	begun := time.Now()
	part := c.File + ".part"
	out, err := os.OpenFile(part, os.O_CREATE|os.O_TRUNC|os.O_WRONLY, 0o600) // it holds names and scores
	if err != nil {
		return err
	}
	if err = errors.Join(c.write(ctx, out), out.Sync(), out.Close()); err == nil {
		_, err = readBackup(part, io.Discard)
	}
	if err != nil {
		return errors.Join(err, os.Remove(part))
	}
	if err := os.Rename(part, c.File); err != nil {
		return err
	}
	info, err := os.Stat(c.File)
	if err == nil {
		fmt.Printf("%s: %.1f MB in %s, read again and whole. Sessions are not in it: whoever is signed in signs in again after a restore.\n",
			c.File, float64(info.Size())/1e6, time.Since(begun).Truncate(100*time.Millisecond))
	}
	return err
}

// write writes a backup: all tables as they were at one moment.
func (c *backupCmd) write(ctx context.Context, to io.Writer) error {
	st, cfg, err := c.bare(ctx)
	if err != nil {
		return err
	}
	defer st.Close()
	schema, _, err := st.SchemaVersion(ctx)
	if err != nil {
		return fmt.Errorf("this is not a database of Keen Magpie, or it does not answer: %w", err)
	}
	head, err := json.Marshal(backupHead{1, schema, time.Now().UTC().Truncate(time.Second)})
	if err != nil {
		return err
	}
	packed, err := gzip.NewWriterLevel(to, gzip.BestSpeed)
	if err != nil {
		return err
	}
	if _, err := fmt.Fprintf(packed, "%s%s\n", backupBegins, head); err != nil {
		return err
	}
	// Sessions would let in again who has been locked out since; where they were, and locks, are
	// of no use without them.
	run, done, err := tool(ctx, cfg, "mariadb-dump", "--single-transaction", "--quick", "--hex-blob", "--skip-tz-utc",
		"--default-character-set=utf8mb4", "--max-allowed-packet=1G", "--ignore-table-data="+cfg.DBName+".sessions", "--ignore-table-data="+cfg.DBName+".visits", "--ignore-table-data="+cfg.DBName+".goose_lock", cfg.DBName)
	if err != nil {
		return err
	}
	defer done()
	run.Stdout = packed
	if err := said(run); err != nil {
		return fmt.Errorf("the database could not be read: %w", err)
	}
	if now, _, err := st.SchemaVersion(ctx); err != nil || now != schema {
		return errors.Join(err, errors.New("the schema was changed meanwhile, so that the backup would not fit together; make it again"))
	}
	_, err = io.WriteString(packed, backupEnds)
	return errors.Join(err, packed.Close())
}

type restoreCmd struct {
	database
	File string `arg:"" help:"Backup to restore." type:"existingfile"`
}

// Run fills an empty database from a backup.
func (c *restoreCmd) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	head, err := readBackup(c.File, io.Discard)
	if err != nil {
		return fmt.Errorf("%w. Nothing was changed", err)
	}
	st, cfg, err := c.bare(ctx)
	if err != nil {
		return err
	}
	defer st.Close()
	tables, err := st.Tables(ctx)
	if err != nil {
		return err
	}
	if len(tables) > 0 {
		return fmt.Errorf("the database %s is not empty (it has the table %s). Nothing was changed; make an empty one, with CREATE DATABASE, and give its name in --dsn", cfg.DBName, tables[0])
	}
	if knows := store.SchemaKnown(); head.Schema > knows {
		return fmt.Errorf("the backup is of a newer program: its schema is at step %d, and this program knows %d. Nothing was changed; use the newer program", head.Schema, knows)
	}
	if err := fill(ctx, cfg, c.File); err != nil {
		// Empty again, so that the next try finds it as this one did.
		return errors.Join(fmt.Errorf("the backup could not be restored: %w. The database is empty, as before", err), st.DropAll(context.WithoutCancel(ctx)))
	}
	if err := st.Migrate(ctx, nil); err != nil {
		return err
	}
	has, err := st.Counts(ctx)
	if err == nil {
		fmt.Printf("Restored as it was on %s: %d accounts, %d activities and series, %d releases, %d sittings.\n",
			head.Made.Format("2 January 2006, 15:04 MST"), has.Accounts, has.Activities, has.Releases, has.Sittings)
	}
	return err
}

func fill(ctx context.Context, cfg *mysql.Config, file string) error {
	run, done, err := tool(ctx, cfg, "mariadb", "--binary-mode", "--default-character-set=utf8mb4", "--max-allowed-packet=1G", cfg.DBName)
	if err != nil {
		return err
	}
	defer done()
	in, out := io.Pipe()
	run.Stdin = in
	go func() {
		_, err := readBackup(file, out)
		out.CloseWithError(err)
	}()
	err = said(run)
	_ = in.Close()
	return err
}

// readBackup reads a backup to its end, and says whether it is one and whole. Everything
// after its first line goes to to.
func readBackup(file string, to io.Writer) (head backupHead, err error) {
	broken := func(why string) error {
		return fmt.Errorf("%s is not a whole backup of Keen Magpie: %s", filepath.Base(file), why)
	}
	f, err := os.Open(file)
	if err != nil {
		return head, err
	}
	defer f.Close()
	packed, err := gzip.NewReader(bufio.NewReaderSize(f, 1<<20))
	if err != nil {
		return head, broken("it is not compressed as one")
	}
	text := bufio.NewReaderSize(packed, 1<<20)
	first, err := text.ReadString('\n')
	rest, is := strings.CutPrefix(first, backupBegins)
	if err != nil || !is || json.Unmarshal([]byte(rest), &head) != nil {
		return head, broken("its first line does not say so")
	}
	if head.Format != 1 {
		return head, broken(fmt.Sprintf("its form is %d, and this program knows 1", head.Format))
	}
	last := &ending{most: len(backupEnds)}
	if _, err := io.Copy(io.MultiWriter(to, last), text); err != nil {
		return head, broken(err.Error())
	}
	if !bytes.HasSuffix(last.is, []byte(backupEnds)) {
		return head, broken("its end is missing")
	}
	return head, nil
}

// ending keeps the last bytes that were written.
type ending struct {
	is   []byte
	most int
}

func (e *ending) Write(p []byte) (int, error) {
	e.is = append(e.is, p[max(0, len(p)-e.most):]...)
	e.is = e.is[max(0, len(e.is)-e.most):]
	return len(p), nil
}

// bare opens the database as it is.
func (d database) bare(ctx context.Context) (*store.Store, *mysql.Config, error) {
	dsn, err := d.source()
	if err != nil {
		return nil, nil, err
	}
	cfg, err := mysql.ParseDSN(dsn)
	if err != nil {
		return nil, nil, fmt.Errorf("the data source name cannot be read: %w", err)
	}
	st, err := store.Open(ctx, dsn)
	return st, cfg, err
}

// tool is one of MariaDB's programs, about to be run on a database. The password goes to it
// in a file that nobody else can read, and done takes away.
func tool(ctx context.Context, cfg *mysql.Config, name string, args ...string) (run *exec.Cmd, done func(), err error) {
	program, err := exec.LookPath(name)
	if err != nil {
		return nil, nil, fmt.Errorf("%s is not installed: run 'apt-get install mariadb-client' (as root or with sudo), then start again", name)
	}
	quote := strings.NewReplacer(`\`, `\\`, `"`, `\"`)
	text := fmt.Sprintf("[client]\nuser=\"%s\"\npassword=\"%s\"\n", quote.Replace(cfg.User), quote.Replace(cfg.Passwd))
	if cfg.Net == "unix" {
		text += fmt.Sprintf("socket=\"%s\"\n", cfg.Addr)
	} else {
		host, port, err := net.SplitHostPort(cfg.Addr)
		if err != nil {
			return nil, nil, err
		}
		text += fmt.Sprintf("host=%s\nport=%s\nprotocol=tcp\n", host, port)
	}
	switch cfg.TLSConfig {
	case "true":
		text += "ssl\nssl-verify-server-cert\n"
	case "skip-verify", "preferred":
		text += "ssl\n"
	}
	dir, err := os.MkdirTemp("", "magpie-")
	if err != nil {
		return nil, nil, err
	}
	done = func() { _ = os.RemoveAll(dir) }
	file := filepath.Join(dir, "client.cnf")
	if err := os.WriteFile(file, []byte(text), 0o600); err != nil {
		done()
		return nil, nil, err
	}
	return exec.CommandContext(ctx, program, append([]string{"--defaults-extra-file=" + file}, args...)...), done, nil
}

// said runs a program; where it fails, the error is what it said.
func said(run *exec.Cmd) error {
	var says bytes.Buffer
	run.Stderr = &says
	err := run.Run()
	if text := strings.TrimSpace(says.String()); err != nil && text != "" {
		return errors.New(text)
	}
	return err
}
