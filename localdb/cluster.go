package localdb

import (
	"context"
	"crypto/rand"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"sync"
	"time"
)

// Cluster is several servers that keep the same, MariaDB Galera Cluster, on 127.0.0.1
// alone: for measuring, and for trying what happens when one of them dies.
type Cluster struct {
	Nodes    []*Node
	password string
	provider []string
}

// Node is one of them. It stays dead when it has died, unlike a [Server] by itself.
type Node struct {
	cluster  *Cluster
	server   *Server
	port     int    // for programs
	group    int    // for the other nodes
	catchUp  int    // for what it has missed
	transfer string // address for all that there is, when it knows nothing
}

// The account that programs sign in with, at any node.
const clusterUser = "cluster"

// Unhurried are options with which a node that says nothing for seconds, as on a busy machine,
// is not taken for dead: where another one dies at that moment, the rest would take nothing
// until it is back. Each death holds up everything for twelve seconds then.
const Unhurried = "evs.suspect_timeout=PT10S;evs.inactive_timeout=PT25S"

// StartCluster starts so many servers in a directory, which is to be empty, with options for
// Galera beside those that each needs. The error says how the log of the one that did not
// come up ends.
func StartCluster(ctx context.Context, dir string, size int, provider ...string) (*Cluster, error) {
	c := &Cluster{password: rand.Text(), provider: provider}
	whole := false
	defer func() {
		if !whole {
			c.Stop()
		}
	}()
	for i := range size {
		s, err := take(filepath.Join(dir, strconv.Itoa(i)))
		if err != nil {
			return nil, err
		}
		n, transfer := &Node{cluster: c, server: s}, 0
		c.Nodes = append(c.Nodes, n)
		for _, port := range []*int{&n.port, &n.group, &n.catchUp, &transfer} {
			if *port, err = s.takePort(); err != nil {
				return nil, err
			}
		}
		n.transfer = fmt.Sprintf("127.0.0.1:%d", transfer)
		if s.socket, err = socketFor(s.dir); err != nil {
			return nil, err
		}
	}
	for i, n := range c.Nodes {
		if err := n.begin(ctx, i == 0); err != nil {
			return nil, err
		}
	}
	whole = true
	return c, nil
}

// begin prepares a node's directory and starts it. The first one makes the account.
func (n *Node) begin(ctx context.Context, first bool) error {
	dir := n.server.dir
	if !first {
		if err := os.MkdirAll(filepath.Join(dir, "db"), 0o755); err != nil {
			return err
		}
		return errors.Join(n.own(), n.start(ctx, ""))
	}
	if err := prepare(ctx, dir); err != nil {
		return err
	}
	file := filepath.Join(dir, "init.sql")
	body := fmt.Sprintf("CREATE USER IF NOT EXISTS %s@'127.0.0.1' IDENTIFIED BY '%s';\nGRANT ALL ON *.* TO %s@'127.0.0.1';\n", clusterUser, n.cluster.password, clusterUser)
	if err := os.WriteFile(file, []byte(body), 0o600); err != nil {
		return err
	}
	return errors.Join(n.own(), n.start(ctx, "", "--wsrep-new-cluster", "--init-file="+file))
}

// daemonUser is whom Debian's package makes for the server.
const daemonUser = "mysql"

// own gives a node's directory to the server's user: what sends everything to a new node
// would work as nobody where the server is root, and could not write.
func (n *Node) own() error {
	if os.Geteuid() != 0 {
		return nil
	}
	if err := os.Chmod(filepath.Dir(n.server.dir), 0o755); err != nil {
		return err
	}
	if out, err := exec.Command("chown", "-R", daemonUser+":", n.server.dir).CombinedOutput(); err != nil {
		return fmt.Errorf("%w: %s", err, out)
	}
	return nil
}

// Start starts a node that was killed: it finds out how far it had come, and gets what it
// has missed from the others.
func (n *Node) Start(ctx context.Context) error {
	at, err := n.position(ctx)
	if err != nil {
		return err
	}
	return n.start(ctx, at)
}

var recovered = regexp.MustCompile(`Recovered position: *([0-9a-f-]+:-?[0-9]+)`)

// position asks a node's own data how far it had come when it died.
func (n *Node) position(ctx context.Context) (string, error) {
	log := filepath.Join(n.server.dir, "recovered.log")
	if err := os.RemoveAll(log); err != nil {
		return "", err
	}
	args := append(n.arguments(), "--wsrep-recover", "--skip-networking", "--log-error="+log)
	out, err := exec.CommandContext(ctx, n.server.daemon, args...).CombinedOutput()
	body, _ := os.ReadFile(log)
	found := recovered.FindSubmatch(body)
	if err != nil || found == nil {
		return "", fmt.Errorf("how far a node had come is not known (%w): %s", err, lastLines(string(out)+string(body), 5))
	}
	return string(found[1]), nil
}

func (n *Node) start(ctx context.Context, at string, more ...string) error {
	s := n.server
	ended := make(chan struct{})
	s.ended = ended
	s.args = append(n.arguments(), more...)
	if at != "" {
		s.args = append(s.args, "--wsrep-start-position="+at)
	}
	if err := s.launch(); err != nil {
		return err
	}
	_, done := s.process()
	go func() {
		<-done
		close(ended)
	}()
	// It answers for a moment before it joins the others.
	return s.waits(ctx, n.Alone(""), func(db *sql.DB) bool {
		var name, state string
		return db.QueryRowContext(ctx, "SHOW GLOBAL STATUS LIKE 'wsrep_local_state_comment'").Scan(&name, &state) == nil && state == "Synced"
	})
}

func (n *Node) arguments() []string {
	var all []string
	for _, x := range n.cluster.Nodes {
		all = append(all, fmt.Sprintf("127.0.0.1:%d", x.group))
	}
	provider := append([]string{
		fmt.Sprintf("base_host=127.0.0.1;base_port=%d", n.group),
		fmt.Sprintf("gmcast.listen_addr=tcp://127.0.0.1:%d", n.group),
		fmt.Sprintf("ist.recv_addr=127.0.0.1:%d", n.catchUp),
		"gcache.size=128M",
	}, n.cluster.provider...)
	return append(n.server.arguments(n.port, daemonUser),
		"--innodb-buffer-pool-size=256M", "--binlog-format=ROW", "--innodb-autoinc-lock-mode=2", "--wsrep-on=ON",
		"--wsrep-provider=/usr/lib/galera/libgalera_smm.so", "--wsrep-cluster-name=magpie",
		"--wsrep-cluster-address=gcomm://"+strings.Join(all, ","),
		fmt.Sprintf("--wsrep-node-address=127.0.0.1:%d", n.group), fmt.Sprintf("--wsrep-node-incoming-address=127.0.0.1:%d", n.port),
		"--wsrep-sst-method=rsync", "--wsrep-sst-receive-address="+n.transfer,
		"--wsrep-slave-threads=4", "--wsrep-retry-autocommit=4", "--wsrep-provider-options="+strings.Join(provider, ";"))
}

// States says of each node how it sees itself and the others, for whoever finds out why
// nothing goes on.
func (c *Cluster) States(ctx context.Context) string {
	ctx, cancel := context.WithTimeout(ctx, 10*time.Second)
	defer cancel()
	var all []string
	for _, n := range c.Nodes {
		all = append(all, fmt.Sprintf("%s: %s", filepath.Base(n.server.dir), n.state(ctx)))
	}
	return strings.Join(all, "; ")
}

func (n *Node) state(ctx context.Context) string {
	db, err := sql.Open("mysql", n.Alone(""))
	if err != nil {
		return err.Error()
	}
	defer db.Close()
	rows, err := db.QueryContext(ctx, `SHOW GLOBAL STATUS WHERE Variable_name IN ('wsrep_cluster_size', 'wsrep_cluster_status', 'wsrep_local_state_comment')`)
	if err != nil {
		return err.Error()
	}
	defer rows.Close()
	var all []string
	for rows.Next() {
		var name, value string
		if err := rows.Scan(&name, &value); err != nil {
			return err.Error()
		}
		all = append(all, strings.TrimPrefix(name, "wsrep_")+" "+value)
	}
	if err := rows.Err(); err != nil {
		return err.Error()
	}
	return strings.Join(all, ", ")
}

// Kill ends a node at once, as a power cut does.
func (n *Node) Kill() {
	cmd, done := n.server.process()
	_ = cmd.Process.Kill()
	<-done
}

// DSN is the data source name of a database at all nodes, this one before the others.
func (n *Node) DSN(database string) string {
	i := slices.Index(n.cluster.Nodes, n)
	return n.cluster.from(slices.Concat(n.cluster.Nodes[i:], n.cluster.Nodes[:i]), database)
}

// Create makes a database where it is not there, at all nodes.
func (n *Node) Create(ctx context.Context, database string) error {
	return create(ctx, n.Alone(""), database)
}

// Alone is the data source name of a database at one node.
func (n *Node) Alone(database string) string { return n.cluster.from([]*Node{n}, database) }

func (c *Cluster) from(nodes []*Node, database string) string {
	var at []string
	for _, n := range nodes {
		at = append(at, fmt.Sprintf("127.0.0.1:%d", n.port))
	}
	return fmt.Sprintf("%s:%s@tcp(%s)/%s", clusterUser, c.password, strings.Join(at, ","), database)
}

// Stop stops all that run, and waits for them.
func (c *Cluster) Stop() {
	var group sync.WaitGroup
	for _, n := range c.Nodes {
		group.Go(n.server.Stop)
	}
	group.Wait()
}
