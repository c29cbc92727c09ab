package main

import (
	"crypto/tls"
	"fmt"
	"os"
	"sync"
	"time"
)

// certificate serves a certificate from files, and a newer one once the files have changed.
type certificate struct {
	cert, key string
	mu        sync.Mutex
	pair      *tls.Certificate
	looked    time.Time // when the files were last looked at
	changed   time.Time // when they had last been changed then
}

func newCertificate(cert, key string) (*certificate, error) {
	c := &certificate{cert: cert, key: key}
	if err := c.read(); err != nil {
		return nil, fmt.Errorf("the certificate could not be read: %w. Both files must be PEM, the key without a password", err)
	}
	return c, nil
}

// certificateLook is how often the files are looked at, at most.
const certificateLook = time.Minute

// get is for [tls.Config].
func (c *certificate) get(*tls.ClientHelloInfo) (*tls.Certificate, error) {
	c.mu.Lock()
	defer c.mu.Unlock()
	if time.Since(c.looked) > certificateLook {
		_ = c.read() // while a new one is half written, the one before goes on
	}
	return c.pair, nil
}

// read reads the files if they have changed.
func (c *certificate) read() error {
	c.looked = time.Now()
	var changed time.Time
	for _, name := range []string{c.cert, c.key} {
		info, err := os.Stat(name)
		if err != nil {
			return err
		}
		if info.ModTime().After(changed) {
			changed = info.ModTime()
		}
	}
	if changed.Equal(c.changed) {
		return nil
	}
	pair, err := tls.LoadX509KeyPair(c.cert, c.key)
	if err != nil {
		return err
	}
	c.pair, c.changed = &pair, changed
	return nil
}
