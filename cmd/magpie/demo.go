package main

import (
	"context"
	"errors"
	"fmt"
	"log/slog"
	"os"
	"os/signal"
	"path/filepath"
	"syscall"

	"keenmagpie/demo"
	"keenmagpie/localdb"
)

type demoCmd struct {
	Addr string `help:"Address to listen on." default:"127.0.0.1:8090"`
	Data string `help:"Directory of the private database." default:".data" type:"path"`
	webFlags
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
	fmt.Println("\nCtrl+C stops it; what was made is kept in " + c.Data)
	ctx, end := context.WithCancel(ctx)
	defer end()
	go func() {
		<-db.Ended() // also when it is stopped in order, and then this changes nothing
		end()
	}()
	log := logFlags{"text", slog.LevelWarn}.logger() // what is asked for would bury the sign-ins
	err = serving{listener, st, log, c.OpsAddr, c.options()}.run(ctx)
	select {
	case <-db.Ended():
		return errors.Join(err, db.Why())
	default:
		return err
	}
}
