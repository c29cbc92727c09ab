package main

import (
	"context"
	"fmt"
	"net"
	"net/http"
	"os"
	"os/signal"
	"syscall"
	"time"

	"keenmagpie/standin"
)

type standinCmd struct {
	Addr string `help:"Address to listen on." default:"127.0.0.1:8095"`
	Tool string `help:"Address of the tool that is tried; its page is linked."`
}

// Run starts the learning platform that stands in for one, alone.
func (c *standinCmd) Run() error {
	ctx, stop := signal.NotifyContext(context.Background(), os.Interrupt, syscall.SIGTERM)
	defer stop()
	l, err := net.Listen("tcp", c.Addr)
	if err != nil {
		return err
	}
	college := standin.NewCollege()
	college.Tool = c.Tool
	s := &http.Server{Handler: college.Handler(), ReadHeaderTimeout: 10 * time.Second}
	fmt.Printf("%s is at http://%s\nCtrl+C stops it; nothing is kept.\n", college.Name, l.Addr())
	go func() {
		<-ctx.Done()
		_ = s.Close()
	}()
	if err := s.Serve(l); err != http.ErrServerClosed {
		return err
	}
	return nil
}
