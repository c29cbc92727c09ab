package main

import (
	"cmp"
	"context"
	"crypto/rand"
	"errors"
	"fmt"
	"io/fs"
	"log/slog"
	"net"
	"net/http"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"
	"time"

	"keenmagpie/demo"
	"keenmagpie/identity"
	"keenmagpie/localdb"
	"keenmagpie/mailing"
	"keenmagpie/server"
	"keenmagpie/standin"
)

type demoCmd struct {
	Addr string `help:"Address to listen on." default:"127.0.0.1:8090"`
	Data string `help:"Directory of the private database." default:".data" type:"path"`
	webFlags
	Standin string `help:"Address of what stands in for a school around the demo; empty is none." default:"127.0.0.1:8095"`
	OpsAddr string `help:"Address for /livez, /readyz and /metrics." name:"ops-addr"`
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
	secret, err := ownSecret(filepath.Join(c.Data, "secret"))
	if err != nil {
		return err
	}
	options := append(c.options(), server.WithSecret(secret), server.WithPublicURL(cmp.Or(c.PublicURL, "http://"+listener.Addr().String())))
	var mailer *mailing.Mailer
	around, err := besideDemo(c.Standin)
	switch {
	case err != nil:
		fmt.Printf("\nWithout Tarnbridge College, which stands in for a school around it: %v.\n", err)
	case around != nil:
		defer around.Close()
		fmt.Printf("\nTarnbridge College, which stands in for a school around it, is at http://%s\n", c.Standin)
		fmt.Printf("Mail that the demo sends can be read at http://%s/mail\n", c.Standin)
		mailer = around.mailer
		options = append(options, server.WithProviders([]*identity.Provider{around.provider}, true), server.WithMail(true), server.WithCollege("http://"+c.Standin))
	}
	fmt.Println("\nCtrl+C stops it; what was made is kept in " + c.Data)
	ctx, end := context.WithCancel(ctx)
	defer end()
	go func() {
		<-db.Ended() // also when it is stopped in order, and then this changes nothing
		end()
	}()
	log := logFlags{"text", slog.LevelWarn}.logger() // what is asked for would bury the sign-ins
	err = serving{listener, st, log, c.OpsAddr, mailer, options}.run(ctx)
	select {
	case <-db.Ended():
		return errors.Join(err, db.Why())
	default:
		return err
	}
}

// ownSecret reads the demo's secret, or draws one.
func ownSecret(file string) ([]byte, error) {
	if _, err := os.Stat(file); errors.Is(err, fs.ErrNotExist) {
		if err := os.WriteFile(file, []byte(rand.Text()+rand.Text()+"\n"), 0o600); err != nil {
			return nil, err
		}
	}
	return readSecret(file)
}

// surroundings are what the demo has around it.
type surroundings struct {
	*http.Server
	provider *identity.Provider
	mailer   *mailing.Mailer
}

// besideDemo starts what stands in for a school; nil where no address is given.
func besideDemo(addr string) (*surroundings, error) {
	if addr == "" {
		return nil, nil
	}
	l, err := net.Listen("tcp", addr)
	if err != nil {
		return nil, fmt.Errorf("%w; give it another address with --standin", err)
	}
	const client, secret = "magpie", "known-in-the-demo-alone"
	issuer := "http://" + addr + "/id"
	college := standin.NewProvider(issuer, "Tarnbridge College", client, secret,
		standin.Person{Subject: "ana", Name: "Ana Duarte", Email: "ana@cobblelane.example", Verified: true},
		standin.Person{Subject: "ruth", Name: "Ruth Calder", Email: "ruth@tarnbridge.example", Verified: true},
		standin.Person{Subject: "sam", Name: "Sam Pike", Email: "sam@tarnbridge.example"})
	provider, err := identity.New(identity.Settings{ID: "tarnbridge", Name: college.Name, Issuer: issuer, ClientID: client, ClientSecret: secret,
		Domains: []string{"cobblelane.example", "tarnbridge.example"}, Workspace: demo.WorkspaceName})
	if err != nil {
		return nil, err
	}
	box := new(standin.Mailbox)
	post, err := net.Listen("tcp", "127.0.0.1:0")
	if err != nil {
		return nil, err
	}
	mailer, err := mailing.New(mailing.Settings{Server: post.Addr().String(), From: "Keen Magpie <magpie@cobblelane.example>", TLS: "none"})
	if err != nil {
		return nil, err
	}
	go func() { _ = box.Server().Serve(post) }()
	mux := http.NewServeMux()
	mux.Handle("/mail", box)
	mux.Handle("/", standin.NewCollege().Handler())
	mux.Handle("/id/", http.StripPrefix("/id", college))
	s := &surroundings{&http.Server{Handler: mux, ReadHeaderTimeout: 10 * time.Second}, provider, mailer}
	go func() { _ = s.Serve(l) }()
	return s, nil
}
