package store

import (
	"context"
	"database/sql/driver"
	"errors"
	"fmt"
	"io"
	"net"
	"strings"
	"sync/atomic"
	"syscall"
	"time"

	"github.com/go-sql-driver/mysql"
	"golang.org/x/sys/unix"
)

// nodes connects to the first of several databases that keep the same, as MariaDB Galera
// Cluster does, that is there and ready. One that was not is passed over for a while.
type nodes struct {
	of []*node
}

type node struct {
	driver.Connector
	addr  string
	avoid atomic.Int64 // until then, in Unix milliseconds
}

// avoided is for how long a node that could not be reached is asked last.
const avoided = 5 * time.Second

// connector reads a data source name, in which tcp(a:3306,b:3306) names several servers.
// lagging says that what is read may be a moment old.
func connector(dsn string, lagging bool) (driver.Connector, error) {
	before, addresses, after := cutAddresses(dsn)
	n := &nodes{}
	for addr := range strings.SplitSeq(addresses, ",") {
		cfg, err := mysql.ParseDSN(before + strings.TrimSpace(addr) + after)
		if err != nil {
			return nil, err
		}
		cfg.ParseTime = true
		cfg.Loc = time.UTC
		cfg.InterpolateParams = true // one round trip a query instead of two
		cfg.Collation = "utf8mb4_bin"
		cfg.MaxAllowedPacket = 0 // ask the server
		if cfg.Timeout == 0 {
			cfg.Timeout = 5 * time.Second
		}
		if strings.Contains(addresses, ",") {
			cfg.DialFunc = dial
			if _, given := cfg.Params["wsrep_sync_wait"]; !given && !lagging {
				if cfg.Params == nil {
					cfg.Params = map[string]string{}
				}
				// What one node has kept is there at the others a moment later: whoever
				// asks at another waits for it.
				cfg.Params["wsrep_sync_wait"] = "7"
			}
		}
		c, err := mysql.NewConnector(cfg)
		if err != nil {
			return nil, err
		}
		n.of = append(n.of, &node{Connector: c, addr: cfg.Addr})
	}
	if len(n.of) == 1 {
		return n.of[0].Connector, nil
	}
	return n, nil
}

// cutAddresses cuts a data source name around what stands in tcp(…).
func cutAddresses(dsn string) (before, addresses, after string) {
	slash := strings.LastIndexByte(dsn, '/')
	if slash < 0 {
		return dsn, "", ""
	}
	head := dsn[:slash]
	at := strings.LastIndexByte(head, '@') + 1
	open := strings.Index(head[at:], "tcp(")
	if open != 0 || !strings.HasSuffix(head, ")") {
		return dsn, "", ""
	}
	open += at + len("tcp(")
	return dsn[:open], head[open : len(head)-1], dsn[slash-1:]
}

// dial reaches a server, and notices within seconds when the machine is gone without a word.
func dial(ctx context.Context, network, addr string) (net.Conn, error) {
	const gone = 10 * time.Second
	d := net.Dialer{
		KeepAliveConfig: net.KeepAliveConfig{Enable: true, Idle: gone / 2, Interval: gone / 5, Count: 3},
		Control: func(_, _ string, c syscall.RawConn) error {
			var err error
			return errors.Join(c.Control(func(fd uintptr) {
				err = unix.SetsockoptInt(int(fd), unix.IPPROTO_TCP, unix.TCP_USER_TIMEOUT, int(gone.Milliseconds()))
			}), err)
		},
	}
	return d.DialContext(ctx, network, addr)
}

// Connect tries the nodes in their order, those last that were not there just now.
func (n *nodes) Connect(ctx context.Context) (driver.Conn, error) {
	at := time.Now().UnixMilli()
	var failed error
	for _, avoid := range []bool{false, true} {
		for _, x := range n.of {
			if avoid != (x.avoid.Load() > at) {
				continue
			}
			c, err := x.connect(ctx)
			if err == nil {
				return c, nil
			}
			failed = errors.Join(failed, fmt.Errorf("%s: %w", x.addr, err))
			if ctx.Err() != nil {
				return nil, failed
			}
			x.avoid.Store(at + avoided.Milliseconds())
		}
	}
	return nil, failed
}

// Driver is that of the nodes.
func (n *nodes) Driver() driver.Driver { return n.of[0].Driver() }

// whole is what the driver's connections can do.
type whole interface {
	driver.Conn
	driver.ConnBeginTx
	driver.ConnPrepareContext
	driver.ExecerContext
	driver.NamedValueChecker
	driver.Pinger
	driver.QueryerContext
	driver.SessionResetter
	driver.Validator
}

func (x *node) connect(ctx context.Context) (driver.Conn, error) {
	c, err := x.Connector.Connect(ctx)
	if err != nil {
		return nil, err
	}
	w, ok := c.(whole)
	if !ok {
		return nil, errors.Join(errors.New("the driver's connections cannot do what they could"), c.Close())
	}
	if err := ready(ctx, w); err != nil {
		return nil, errors.Join(err, c.Close())
	}
	return &watched{whole: w, of: x}, nil
}

// ready says why a node takes nothing now: it has lost the others, or catches up with them.
// One that is not of a cluster has nothing to say about that.
func ready(ctx context.Context, c whole) error {
	rows, err := c.QueryContext(ctx, `SHOW GLOBAL STATUS LIKE 'wsrep_ready'`, nil)
	if err != nil {
		return err
	}
	line := make([]driver.Value, len(rows.Columns()))
	err = rows.Next(line)
	if err = errors.Join(ignored(err, io.EOF), rows.Close()); err != nil {
		return err
	}
	if value := fmt.Sprintf("%s", line[len(line)-1]); value == "OFF" {
		return errors.New("the node is not ready: it has lost the others, or catches up with them")
	}
	return nil
}

func ignored(err, which error) error {
	if errors.Is(err, which) {
		return nil
	}
	return err
}

// watched is a connection that is given up when its node says that it takes nothing: asked
// for again, another node answers.
type watched struct {
	whole
	of   *node
	lost bool
}

// notReady is what a node says that has lost the others (08S01, WSREP has not yet prepared
// node for application use). Nothing has been done then.
const notReady = 1047

func (w *watched) look(err error) error {
	if failed(err, notReady) {
		w.lost = true
		w.of.avoid.Store(time.Now().Add(avoided).UnixMilli())
		return driver.ErrBadConn
	}
	return err
}

// IsValid says whether the connection can be used again.
func (w *watched) IsValid() bool { return !w.lost && w.whole.IsValid() }

// BeginTx begins a transaction.
func (w *watched) BeginTx(ctx context.Context, o driver.TxOptions) (driver.Tx, error) {
	tx, err := w.whole.BeginTx(ctx, o)
	return tx, w.look(err)
}

// ExecContext does something.
func (w *watched) ExecContext(ctx context.Context, query string, args []driver.NamedValue) (driver.Result, error) {
	r, err := w.whole.ExecContext(ctx, query, args)
	return r, w.look(err)
}

// QueryContext asks something.
func (w *watched) QueryContext(ctx context.Context, query string, args []driver.NamedValue) (driver.Rows, error) {
	r, err := w.whole.QueryContext(ctx, query, args)
	return r, w.look(err)
}
