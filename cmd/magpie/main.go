// Command magpie is Keen Magpie's one program: it serves the application, runs the
// demo with a private database, and runs the core on the command line.
package main

import (
	"cmp"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"net/netip"
	"os"
	"os/signal"
	"path/filepath"
	"strings"
	"sync"
	"syscall"
	"time"

	"github.com/alecthomas/kong"

	"keenmagpie/core/activity"
	"keenmagpie/demo"
	"keenmagpie/jobs"
	"keenmagpie/localdb"
	"keenmagpie/server"
	"keenmagpie/store"
)

type cli struct {
	Serve   serveCmd   `cmd:"" help:"Serve the application on a database of yours."`
	Demo    demoCmd    `cmd:"" help:"Serve the demo, with a private database."`
	Migrate migrateCmd `cmd:"" help:"Bring a database's schema up to date."`
	Judge   judgeCmd   `cmd:"" help:"Judge arrangements, one a line."`
	Replay  replayCmd  `cmd:"" help:"Replay moves, one a line."`
	Prove   proveCmd   `cmd:"" help:"Say what can be known before anyone plays."`
	Stats   statsCmd   `cmd:"" help:"Say what the learners of many sittings did."`
	OpenAPI openapiCmd `cmd:"" name:"openapi" help:"Write the API's OpenAPI document."`
	Account accountCmd `cmd:"" help:"Let people in: add an account, reset a password, list who there is."`
	Schema  schemaCmd  `cmd:"" help:"Write the JSON Schema of the activity document, or of a series."`
}

func main() {
	var c cli
	k := kong.Parse(&c, kong.Name("magpie"), kong.DefaultEnvars("MAGPIE"), kong.UsageOnError(),
		kong.Description("Drag-and-drop activities: build, prove, release, and see what learners did."))
	err := k.Run()
	if errors.Is(err, errBadDocument) {
		os.Exit(1)
	}
	if err != nil {
		fmt.Fprintln(os.Stderr, "magpie: "+err.Error())
		os.Exit(1)
	}
}

type serveCmd struct {
	Addr string `help:"Address to listen on." default:"127.0.0.1:8090"`
	DSN  string `help:"Data source name of the MariaDB database, as user:password@tcp(host:3306)/name." required:""`
	webFlags
	DBConnections int           `help:"Connections to the database at most." name:"db-connections" default:"32"`
	DBLifetime    time.Duration `help:"For how long a connection is used, as 5m; 0 is for good." name:"db-lifetime" default:"5m"`
	// OlderProgram lets a program serve on a schema that it does not know.
	OlderProgram bool `help:"Start although a newer program has changed the database's schema."`
}

// Run serves until it is told to stop.
func (c *serveCmd) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	listener, err := listen(c.Addr)
	if err != nil {
		return err
	}
	st, err := openStore(ctx, c.DSN, c.OlderProgram)
	if err != nil {
		return err
	}
	defer st.Close()
	if c.DBConnections < 2 {
		return errors.New("--db-connections must be 2 or more: some acts need a second one")
	}
	st.SetPool(c.DBConnections, c.DBLifetime)
	address := cmp.Or(strings.TrimSuffix(c.PublicURL, "/"), "http://"+listener.Addr().String())
	fmt.Println("Keen Magpie answers at " + address)
	if err := welcome(ctx, st, address); err != nil {
		return err
	}
	return serve(ctx, listener, st, c.options()...)
}

// webFlags are how a server behaves towards those who ask.
type webFlags struct {
	PublicURL       string         `help:"Address at which people reach this server, as https://magpie.example; with https, cookies go over https alone." name:"public-url"`
	Proxies         []netip.Prefix `help:"Networks of the proxies in front of this server, as 127.0.0.1/32,10.0.0.0/8: where a request comes from is what they say in X-Forwarded-For."`
	BeginsPerMinute int            `help:"Sittings that one address may begin in a minute; 0 is no limit." default:"3000"`
	MovesPerMinute  int            `help:"Moves that one address may make in a minute; 0 is no limit." default:"60000"`
}

func (f webFlags) options() []server.Option {
	return []server.Option{server.WithPublicURL(f.PublicURL), server.WithProxies(f.Proxies...), server.WithLimits(f.BeginsPerMinute, f.MovesPerMinute)}
}

type migrateCmd struct {
	DSN string `help:"Data source name of the MariaDB database." required:""`
}

// Run migrates.
func (c *migrateCmd) Run() error {
	st, err := openStore(context.Background(), c.DSN, false)
	if err != nil {
		return err
	}
	return st.Close()
}

func openStore(ctx context.Context, dsn string, olderProgram bool) (*store.Store, error) {
	st, err := store.Open(ctx, dsn)
	if err != nil {
		return nil, err
	}
	err = st.Migrate(ctx, func() {
		fmt.Fprintln(os.Stderr, "Another process is bringing the database's schema up to date. Waiting for it to finish.")
	})
	if errors.Is(err, store.ErrTooNew) && olderProgram {
		fmt.Fprintln(os.Stderr, "magpie: "+err.Error()+". It is started all the same, as you asked.")
		return st, nil
	}
	if errors.Is(err, store.ErrTooNew) {
		err = fmt.Errorf("%w. Start the newer program, or start this one with --older-program if you know that it can work with this schema. Nothing was changed", err)
	}
	if err != nil {
		return nil, errors.Join(err, st.Close())
	}
	return st, nil
}

type demoCmd struct {
	Addr string `help:"Address to listen on." default:"127.0.0.1:8090"`
	Data string `help:"Directory of the private database." default:".data" type:"path"`
	webFlags
}

// Run starts the private database, loads the demo where it is not there, and
// serves.
func (c *demoCmd) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	// The port first: nothing else is started when somebody has it.
	listener, err := listen(c.Addr)
	if err != nil {
		return err
	}
	defer listener.Close()
	db, err := localdb.Start(ctx, filepath.Join(c.Data, "mariadb"))
	if err != nil {
		return err
	}
	defer db.Stop()
	st, err := demo.Open(ctx, db, "magpie")
	if err != nil {
		return err
	}
	defer st.Close()
	if err := demo.LoadSittings(ctx, st); err != nil {
		return fmt.Errorf("the demo's sittings could not be loaded: %w", err)
	}
	if err := os.WriteFile(filepath.Join(c.Data, "magpie.pid"), fmt.Appendln(nil, os.Getpid()), 0o644); err != nil {
		return err
	}
	fmt.Printf("\nKeen Magpie answers at http://%s\n\n", listener.Addr())
	fmt.Println("Demo sign-ins (they exist in the demo alone):")
	for _, a := range demo.Accounts() {
		fmt.Printf("  %-22s %-22s %s\n", a.Email, a.Password, a.Note)
	}
	fmt.Println("\nCtrl+C stops it; what was made is kept in " + c.Data)
	ctx, end := context.WithCancel(ctx)
	defer end()
	go func() {
		<-db.Ended() // also when it is stopped in order, and then this changes nothing
		end()
	}()
	err = serve(ctx, listener, st, c.options()...)
	select {
	case <-db.Ended():
		return errors.Join(err, db.Why())
	default:
		return err
	}
}

func listen(addr string) (net.Listener, error) {
	l, err := net.Listen("tcp", addr)
	if errors.Is(err, syscall.EADDRINUSE) {
		return nil, fmt.Errorf("%s is in use, perhaps by another start of this program; stop that, or give another address with --addr 127.0.0.1:8091 (or MAGPIE_ADDR=127.0.0.1:8091 before the command)", addr)
	}
	if err != nil {
		return nil, fmt.Errorf("cannot listen on %s: %w", addr, err)
	}
	return l, nil
}

func serve(ctx context.Context, l net.Listener, st *store.Store, options ...server.Option) error {
	log := slog.New(slog.NewTextHandler(os.Stderr, nil))
	handler := server.New(st, log, options...)
	// Bodies and answers have limits of their own, by route and by progress.
	srv := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10}
	ctx, end := context.WithCancel(ctx)
	var work sync.WaitGroup
	defer work.Wait()
	defer end()
	work.Go(func() { jobs.NewLoop(st, log, jobs.Of(st, handler.Hosting(), log)).Run(ctx, 5*time.Second) })
	failed := make(chan error, 1)
	go func() { failed <- srv.Serve(l) }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	soon, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	return srv.Shutdown(soon)
}

type openapiCmd struct{}

// Run writes the OpenAPI document.
func (openapiCmd) Run() error {
	body, err := server.OpenAPI()
	if err != nil {
		return err
	}
	_, err = os.Stdout.Write(body)
	return err
}

type schemaCmd struct {
	Series bool `help:"That of a series."`
}

// Run writes the JSON Schema.
func (c *schemaCmd) Run() error {
	schema := activity.Schema(false)
	if c.Series {
		schema = activity.SeriesSchema(false)
	}
	body, err := json.MarshalIndent(schema, "", " ")
	if err != nil {
		return err
	}
	_, err = fmt.Println(string(body))
	return err
}
