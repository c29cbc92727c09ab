package main

import (
	"context"
	"crypto/tls"
	"crypto/x509"
	"errors"
	"fmt"
	"io/fs"
	"net"
	"os"
	"os/exec"
	"os/signal"
	"slices"
	"strconv"
	"strings"
	"syscall"
	"time"

	"keenmagpie/store"
)

// doctorCmd looks at an installation with the settings that it would be served with:
// those that contradict each other are refused before it begins.
type doctorCmd struct{ serveCmd }

// diagnosis is what was found of one thing.
type diagnosis struct {
	of   string
	how  int // well, odd or broken
	says string
	do   string // what to do about it; "" where it is well
}

const (
	well   = iota
	odd    // it works, and something should be seen to
	broken // it does not work, or loses something
)

// errBroken says that something is broken; what, has been printed.
var errBroken = errors.New("something is broken: see above for what to do")

// Run looks, and prints what it found.
func (c *doctorCmd) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	worst := well
	for _, d := range c.look(ctx) {
		fmt.Printf("%-7s %-13s %s\n", []string{"well", "see to", "broken"}[d.how], d.of, d.says)
		if d.do != "" {
			fmt.Printf("%22s%s\n", "", d.do)
		}
		worst = max(worst, d.how)
	}
	if worst == broken {
		return errBroken
	}
	return nil
}

func (c *doctorCmd) look(ctx context.Context) []diagnosis {
	out := slices.Concat(c.settings(), c.tools(), c.https(ctx))
	st, _, err := c.bare(ctx)
	if err != nil {
		return append(out, diagnosis{"database", broken, err.Error(), "Is it running, and are name, password and address in dsn right?"})
	}
	defer st.Close()
	schema, err := schemaOf(ctx, st)
	out = append(out, schema)
	if err != nil {
		return out
	}
	h, err := st.Health(ctx)
	if err != nil {
		return append(out, diagnosis{"database", broken, err.Error(), "The account in dsn must be able to read all tables of its database."})
	}
	if c.SMTP != "" {
		out = append(out, letters(ctx, st))
	}
	return slices.Concat(out, c.database(h), disk(h), people(h, c.PublicURL), leftOver(h), jobsOf(ctx, st))
}

func (c *doctorCmd) settings() []diagnosis {
	out := []diagnosis{{"settings", well, "they fit together", ""}}
	for _, file := range []string{settingsFile, os.Getenv("MAGPIE_CONFIG"), c.DSNFile, c.TLSKey} {
		info, err := os.Stat(file)
		switch {
		case file == "" || errors.Is(err, fs.ErrNotExist) && file == settingsFile:
		case err != nil:
			out = append(out, diagnosis{"settings", broken, err.Error(), "Name a file that is there, and that this account may read."})
		case info.Mode()&0o004 != 0:
			out = append(out, diagnosis{"settings", odd, file + " holds a secret, and everybody on this machine can read it", "chmod o-r " + file})
		}
	}
	if c.PublicURL == "" {
		out = append(out, diagnosis{"settings", odd, "there is no public-url: the server is for this machine alone", "Set public-url to the address at which people shall reach it."})
	}
	if c.OpsAddr == "" {
		out = append(out, diagnosis{"settings", odd, "nothing watches the server", "Set ops-addr, as 127.0.0.1:8092, and have /readyz asked and /metrics gathered."})
	}
	return out
}

func (c *doctorCmd) tools() (out []diagnosis) {
	for _, name := range []string{"mariadb-dump", "mariadb"} {
		if _, err := exec.LookPath(name); err != nil {
			return []diagnosis{{"backups", broken, name + " is not installed: no backup can be made", "apt-get install mariadb-client"}}
		}
	}
	return []diagnosis{{"backups", well, "what they need is installed; whether they are made, only you know", ""}}
}

// certificateEnds is how long before its end a certificate should be seen to.
const certificateEnds = 21 * 24 * time.Hour

func (c *doctorCmd) https(ctx context.Context) []diagnosis {
	u, err := c.public()
	if c.PublicURL == "" || err != nil || u.Scheme != "https" {
		return nil
	}
	var leaf *x509.Certificate
	if c.TLSCert != "" {
		pair, err := tls.LoadX509KeyPair(c.TLSCert, c.TLSKey)
		if err != nil {
			return []diagnosis{{"certificate", broken, err.Error(), "Both files must be PEM and belong together, the key without a password."}}
		}
		leaf = pair.Leaf
	} else {
		port := u.Port()
		if port == "" {
			port = "443"
		}
		ctx, cancel := context.WithTimeout(ctx, 5*time.Second)
		defer cancel()
		// Whoever it is for, its end is to be seen: names are compared below.
		conn, err := (&tls.Dialer{Config: &tls.Config{InsecureSkipVerify: true}}).DialContext(ctx, "tcp", net.JoinHostPort(u.Hostname(), port))
		if err != nil {
			return []diagnosis{{"certificate", odd, "from here, " + u.Host + " cannot be reached: " + err.Error(), "If people can reach it, all is well."}}
		}
		defer conn.Close()
		leaf = conn.(*tls.Conn).ConnectionState().PeerCertificates[0]
	}
	left := time.Until(leaf.NotAfter)
	switch err := leaf.VerifyHostname(u.Hostname()); {
	case err != nil:
		return []diagnosis{{"certificate", broken, err.Error(), "Get a certificate for " + u.Hostname() + "."}}
	case left < 0:
		return []diagnosis{{"certificate", broken, "it ended on " + leaf.NotAfter.Format("2 January 2006"), "Renew it; the server notices the new one."}}
	case left < certificateEnds:
		return []diagnosis{{"certificate", odd, "it ends on " + leaf.NotAfter.Format("2 January 2006"), "Renew it; the server notices the new one."}}
	}
	return []diagnosis{{"certificate", well, "for " + u.Hostname() + ", until " + leaf.NotAfter.Format("2 January 2006"), ""}}
}

func letters(ctx context.Context, st *store.Store) diagnosis {
	n, says, err := st.Unsent(ctx)
	switch {
	case err != nil:
		return diagnosis{"mail", broken, err.Error(), "See the database below."}
	case says != "":
		return diagnosis{"mail", odd, fmt.Sprintf("%d letters wait; of the last one that was tried: %s", n, says), "Look at the settings smtp-… and mail-from; letters are tried again by themselves."}
	}
	return diagnosis{"mail", well, fmt.Sprintf("%d letters wait", n), ""}
}

func schemaOf(ctx context.Context, st *store.Store) (diagnosis, error) {
	has, knows, err := st.SchemaVersion(ctx)
	switch {
	case err != nil:
		return diagnosis{"schema", odd, "there are no tables yet", "Start the server once, or run 'magpie migrate'."}, err
	case has < knows:
		return diagnosis{"schema", odd, fmt.Sprintf("it is at step %d of %d", has, knows), "The next start brings it up to date, as does 'magpie migrate'. Make a backup before."}, nil
	case has > knows:
		return diagnosis{"schema", broken, fmt.Sprintf("it is at step %d, and this program knows %d", has, knows), "Install the program that brought it there, or a newer one."}, nil
	}
	return diagnosis{"schema", well, fmt.Sprintf("step %d of %d", has, knows), ""}, nil
}

// clockOff is by how much the clocks of program and database may differ.
const clockOff = time.Second

func (c *doctorCmd) database(h store.Health) []diagnosis {
	number := func(name string) int {
		n, _ := strconv.Atoi(h.Variables[name])
		return n
	}
	out := []diagnosis{{"database", well, fmt.Sprintf("%s, %.0f MB, %d connections", h.Version, float64(h.Bytes)/1e6, h.Threads), ""}}
	add := func(is bool, how int, says, do string) {
		if is {
			out = append(out, diagnosis{"database", how, says, do})
		}
	}
	add(!strings.Contains(h.Version, "MariaDB"), odd, "it is not MariaDB; the application is tried with that alone", "Use MariaDB 10.11 or later.")
	add(h.Variables["innodb_flush_log_at_trx_commit"] != "1", broken, "moves of learners that were acknowledged are lost when the power goes", "Set innodb_flush_log_at_trx_commit = 1.")
	add(h.Variables["log_bin"] == "ON" && h.Variables["sync_binlog"] == "0", odd, "a copy of this database may lack what it has when the power goes", "Set sync_binlog = 1.")
	add(!strings.Contains(h.Variables["sql_mode"], "STRICT_TRANS_TABLES"), broken, "it cuts off what is too long instead of saying so", "Add STRICT_TRANS_TABLES to sql_mode.")
	add(number("max_allowed_packet") < 16<<20, broken, fmt.Sprintf("it takes at most %d kB at once; a picture or an activity can be larger", number("max_allowed_packet")>>10), "Set max_allowed_packet = 16M or more.")
	add(number("max_connections") < c.DBConnections+10, odd, fmt.Sprintf("it takes %d connections, and one server alone may want %d", number("max_connections"), c.DBConnections), "Raise max_connections: db-connections for each server, and ten besides.")
	add(c.DBLifetime > 0 && time.Duration(number("wait_timeout"))*time.Second < c.DBLifetime, odd, "it ends connections before the server does", "Set wait_timeout above db-lifetime, or db-lifetime below it.")
	buffer, _ := strconv.ParseInt(h.Variables["innodb_buffer_pool_size"], 10, 64)
	add(h.Bytes > 4*buffer && h.Bytes > 1<<30, odd, fmt.Sprintf("it keeps %d MB in memory of %d MB on disk", buffer>>20, h.Bytes>>20), "Raise innodb_buffer_pool_size, up to two thirds of the machine's memory.")
	if away := h.Away.Abs(); away > clockOff {
		out = append(out, diagnosis{"time", odd, fmt.Sprintf("the database's clock and this machine's differ by %s", away), "Have both keep time, with systemd-timesyncd or chrony."})
	} else {
		out = append(out, diagnosis{"time", well, "this machine and the database agree", ""})
	}
	return out
}

// disk looks at the disk of the database, where that is on this machine.
func disk(h store.Health) []diagnosis {
	var fs syscall.Statfs_t
	if syscall.Statfs(h.DataDir, &fs) != nil {
		return nil // another machine's
	}
	free, all := fs.Bavail*uint64(fs.Bsize), fs.Blocks*uint64(fs.Bsize)
	d := diagnosis{"disk", well, fmt.Sprintf("%.0f of %.0f GB are free for the database", float64(free)/1e9, float64(all)/1e9), ""}
	switch {
	case free < 1<<30:
		d.how, d.do = broken, "Make room at once: on a full disk no move can be kept."
	case free < all/10:
		d.how, d.do = odd, "Make room, or give it a larger disk, before it is full."
	}
	return []diagnosis{d}
}

func people(h store.Health, publicURL string) []diagnosis {
	var out []diagnosis
	if h.DemoAccount && !local(publicURL) {
		out = append(out, diagnosis{"people", broken, "accounts of the demo are in it, whose passwords anybody can look up", "Remove them under People, or start with an empty database."})
	}
	for _, name := range h.Unowned {
		out = append(out, diagnosis{"people", odd, fmt.Sprintf("nobody owns the workspace %q", name), fmt.Sprintf("magpie account add ADDRESS --workspace %q --owner", name)})
	}
	if out == nil {
		out = []diagnosis{{"people", well, "every workspace has an owner", ""}}
	}
	return out
}

func leftOver(h store.Health) []diagnosis {
	var out []diagnosis
	if h.BareMedia > 0 {
		out = append(out, diagnosis{"data", broken, fmt.Sprintf("%d pictures or sounds have lost their bytes", h.BareMedia), "Put the same files in again, under Media: they are known by what is in them. A backup, restored beside this database, has them."})
	}
	if h.LostChunks > 0 {
		out = append(out, diagnosis{"data", odd, fmt.Sprintf("%d pieces of media belong to nobody", h.LostChunks), "They go by themselves within hours; if they do not, see the jobs."})
	}
	if h.Unsummed > 0 {
		out = append(out, diagnosis{"data", odd, fmt.Sprintf("%d drafts are not summed up: the shelf is slower for them", h.Unsummed), "That is done within minutes of a start; a draft that cannot be read stays so, and the log names it."})
	}
	if out == nil {
		out = []diagnosis{{"data", well, "nothing is lost, nothing left over", ""}}
	}
	return out
}

// jobLate is after how long without being done a job is taken to be forgotten: the slowest
// comes every hour.
const jobLate = 3 * time.Hour

func jobsOf(ctx context.Context, st *store.Store) (out []diagnosis) {
	list, err := st.Jobs(ctx)
	if err != nil {
		return []diagnosis{{"jobs", broken, err.Error(), "See the database above."}}
	}
	for _, j := range list {
		switch {
		case j.Failures > 0:
			out = append(out, diagnosis{"jobs", odd, fmt.Sprintf("%q failed %d times in a row: %s", j.Name, j.Failures, j.Says), "It will be tried again; the log has more."})
		case j.DoneAt == nil || time.Since(*j.DoneAt) > jobLate:
			out = append(out, diagnosis{"jobs", odd, fmt.Sprintf("nobody has done %q for long", j.Name), "Is a server running? Each does what is due."})
		}
	}
	if out == nil {
		out = []diagnosis{{"jobs", well, fmt.Sprintf("%d, all done as they should be", len(list)), ""}}
	}
	return out
}
