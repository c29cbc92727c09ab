package main

import (
	"bytes"
	"cmp"
	"context"
	"crypto/tls"
	"errors"
	"fmt"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"strings"
	"sync"
	"syscall"
	"time"

	"keenmagpie/identity"
	"keenmagpie/jobs"
	"keenmagpie/mailing"
	"keenmagpie/ops"
	"keenmagpie/server"
	"keenmagpie/store"
)

type serveCmd struct {
	Addr string `help:"Address to listen on." default:"127.0.0.1:8090"`
	database
	webFlags
	TLSCert     string `help:"Certificate for https, a PEM file with all of its chain. It is read again when it has changed." name:"tls-cert"`
	TLSKey      string `help:"The certificate's key, a PEM file." name:"tls-key"`
	PlainHTTP   bool   `help:"Serve others over http, although anybody on the network can then read passwords and names." name:"plain-http"`
	OIDC        string `help:"File of the providers with whom people can sign in (OpenID Connect); see docs/operations.md." name:"oidc" type:"existingfile"`
	NoPasswords bool   `help:"Let people sign in with those providers alone." name:"no-passwords"`
	mailFlags
	SecretFile string `help:"File of the secret with which the keys are encrypted by which learning platforms know this installation, 32 letters or more; without it none can be connected." name:"secret-file"`
	OpsAddr    string `help:"Address for /livez, /readyz and /metrics, as 127.0.0.1:8092, for those who run the server alone; without it there are none." name:"ops-addr"`
	logFlags
	ReadDSN       string        `help:"Data source name of a database that keeps the same a moment later, for lists: the shelf, outcomes, downloads." name:"read-dsn"`
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
	defer listener.Close()
	address := "http://" + listener.Addr().String()
	if c.TLSCert != "" {
		pair, err := newCertificate(c.TLSCert, c.TLSKey)
		if err != nil {
			return err
		}
		listener = tls.NewListener(listener, &tls.Config{MinVersion: tls.VersionTLS12, NextProtos: []string{"h2", "http/1.1"}, GetCertificate: pair.get})
	}
	var providers []*identity.Provider
	if c.OIDC != "" {
		if providers, err = identity.Read(c.OIDC); err != nil {
			return err
		}
	}
	mailer, err := c.mailer()
	if err != nil {
		return err
	}
	st, err := c.openAnyway(ctx, c.OlderProgram)
	if err != nil {
		return err
	}
	defer st.Close()
	if c.ReadDSN != "" {
		if err := st.ReadFrom(ctx, c.ReadDSN); err != nil {
			return fmt.Errorf("--read-dsn: %w", err)
		}
	}
	st.SetPool(c.DBConnections, c.DBLifetime)
	secret, err := readSecret(c.SecretFile)
	if err != nil {
		return err
	}
	address = cmp.Or(strings.TrimSuffix(c.PublicURL, "/"), address)
	fmt.Println("Keen Magpie answers at " + address)
	if err := welcome(ctx, st, address); err != nil {
		return err
	}
	options := append(c.options(), server.WithPublicURL(address), server.WithProviders(providers, !c.NoPasswords), server.WithMail(mailer != nil), server.WithSecret(secret))
	return serving{listener, st, c.logger(), c.OpsAddr, mailer, options}.run(ctx)
}

// readSecret reads the secret of a file; no file is no secret.
func readSecret(file string) ([]byte, error) {
	if file == "" {
		return nil, nil
	}
	text, err := os.ReadFile(file)
	if err != nil {
		return nil, fmt.Errorf("--secret-file: %w", err)
	}
	secret := bytes.TrimSpace(text)
	if len(secret) < 32 {
		return nil, fmt.Errorf("--secret-file %s holds %d letters: 32 or more, drawn at random, keep keys safe, as openssl rand -base64 32 writes", file, len(secret))
	}
	return secret, nil
}

// mailFlags say how mail goes out.
type mailFlags struct {
	SMTP         string `help:"Server that takes mail, as mail.school.example:587; without it none goes out." name:"smtp"`
	SMTPUser     string `help:"Whom to sign in there as." name:"smtp-user"`
	SMTPPassword string `help:"File of the password for that." name:"smtp-password-file"`
	SMTPTLS      string `help:"starttls, tls (from the start, as on port 465), or none (for a server on this machine alone)." name:"smtp-tls" enum:"starttls,tls,none" default:"starttls"`
	MailFrom     string `help:"Whom mail comes from, as 'Keen Magpie <magpie@school.example>'." name:"mail-from"`
}

// mailer is nil where no mail goes out.
func (f mailFlags) mailer() (*mailing.Mailer, error) {
	if f.SMTP == "" {
		return nil, nil
	}
	return mailing.New(mailing.Settings{Server: f.SMTP, From: f.MailFrom, User: f.SMTPUser, PasswordFile: f.SMTPPassword, TLS: f.SMTPTLS})
}

// logFlags say how the log is written.
type logFlags struct {
	LogFormat string     `help:"json, a line for each thing that happened, or text, for reading it in a terminal." enum:"json,text" default:"json" name:"log-format"`
	LogLevel  slog.Level `help:"debug, info (every request), warn, or error." default:"info" name:"log-level"`
}

// logger writes to the standard error: no names, codes, addresses of mail, tokens or passwords.
func (f logFlags) logger() *slog.Logger {
	o := &slog.HandlerOptions{Level: f.LogLevel}
	if f.LogFormat == "text" {
		return slog.New(slog.NewTextHandler(os.Stderr, o))
	}
	return slog.New(slog.NewJSONHandler(os.Stderr, o))
}

// open opens the database and brings its schema up to date.
func (d database) open(ctx context.Context) (*store.Store, error) {
	return d.openAnyway(ctx, false)
}

func (d database) openAnyway(ctx context.Context, olderProgram bool) (*store.Store, error) {
	dsn, err := d.source()
	if err != nil {
		return nil, err
	}
	st, err := store.Open(ctx, dsn)
	if err != nil {
		return nil, err
	}
	err = st.Migrate(ctx, func() {
		fmt.Fprintln(os.Stderr, "Another process is bringing the database's schema up to date. Waiting for it to finish.")
	})
	if errors.Is(err, store.ErrTooNew) && olderProgram {
		fmt.Fprintln(os.Stderr, "magpie: "+err.Error()+". Starting anyway, as you asked.")
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

type migrateCmd struct{ database }

// Run migrates.
func (c *migrateCmd) Run() error {
	st, err := c.open(context.Background())
	if err != nil {
		return err
	}
	return st.Close()
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

// serving is one server: what it listens on, its database, and where its log goes.
type serving struct {
	listener net.Listener
	store    *store.Store
	log      *slog.Logger
	opsAddr  string // "" is none
	mailer   *mailing.Mailer
	options  []server.Option
}

// run serves, and does what goes by itself, until the context ends.
func (s serving) run(ctx context.Context) error {
	var loop *jobs.Loop
	watch := ops.New(s.store, func() time.Time { return loop.Looked() })
	handler := server.New(s.store, s.log, append(s.options, server.WithMeter(watch))...)
	list := jobs.Of(s.store, handler.Hosting(), s.log)
	if s.mailer != nil {
		list = append(list, jobs.Job{Name: "send mail", Every: 5 * time.Second, Lease: 10 * time.Minute, Do: func(ctx context.Context) error { return s.mailer.SendDue(ctx, s.store) }})
	}
	list = append(list, jobs.Job{Name: "send to platforms", Every: time.Second, Lease: 30 * time.Second, Do: handler.Platforms().SendDue},
		jobs.Job{Name: "tend keys", Every: time.Hour, Lease: time.Minute, Do: handler.Platforms().Tend})
	loop = jobs.NewLoop(s.store, s.log, list)
	loop.Panicked = watch.Panicked
	failed := make(chan error, 2)
	// Bodies and answers have limits of their own, by route and by progress.
	srv := &http.Server{Handler: handler, ReadHeaderTimeout: 10 * time.Second, IdleTimeout: 2 * time.Minute, MaxHeaderBytes: 64 << 10, ErrorLog: slog.NewLogLogger(s.log.Handler(), slog.LevelDebug)}
	if s.opsAddr != "" {
		l, err := listen(s.opsAddr)
		if err != nil {
			return fmt.Errorf("--ops-addr: %w", err)
		}
		opsServer := &http.Server{Handler: watch, ReadTimeout: 10 * time.Second, WriteTimeout: time.Minute}
		defer opsServer.Close()
		go func() { failed <- opsServer.Serve(l) }()
	}
	ctx, end := context.WithCancel(ctx)
	var work sync.WaitGroup
	defer work.Wait()
	defer end()
	work.Go(func() { loop.Run(ctx, 2*time.Second) })
	go func() { failed <- srv.Serve(s.listener) }()
	select {
	case err := <-failed:
		return err
	case <-ctx.Done():
	}
	watch.Stopping()
	soon, cancel := context.WithTimeout(context.Background(), 10*time.Second)
	defer cancel()
	return srv.Shutdown(soon)
}
