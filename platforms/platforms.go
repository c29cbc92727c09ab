// Package platforms connects an installation with learning platforms: its keys, and what is
// sent to them. What is said by LTI is in package lti, what is kept in package store.
package platforms

import (
	"context"
	"errors"
	"sync"
	"time"

	"keenmagpie/lti"
	"keenmagpie/store"
)

// Service is safe for use by many at once. Any number of them share one database.
type Service struct {
	lti.Verifier
	store  *store.Store
	secret []byte
	client lti.Client

	mu   sync.Mutex
	keys []lti.Key // the newest first
}

// ErrNoSecret is of an installation that has no secret, so that it can keep no keys.
var ErrNoSecret = errors.New("this installation has no secret with which its keys are encrypted: give it one with --secret-file")

// New makes a service; without a secret it refuses what needs keys.
func New(st *store.Store, secret []byte) *Service {
	s := &Service{store: st, secret: secret}
	s.client.Key = s.Key
	return s
}

// Ready says whether there can be keys.
func (s *Service) Ready() bool { return len(s.secret) > 0 }

// Of is a platform as it is spoken to.
func Of(p store.Platform) lti.Platform {
	return lti.Platform{Issuer: p.Issuer, ClientID: p.ClientID, Deployments: p.Deployments(), Auth: p.Auth, Token: p.Token, Keys: p.Keys}
}

// How long a key is signed with, and is published in all: from the time that the next one is
// there, what was signed before can still be checked.
const (
	KeyServes = 90 * 24 * time.Hour
	KeyStays  = KeyServes + 7*24*time.Hour
	// keyRests is how long a new key is published before it signs, so that platforms that
	// keep keys for a while know it by then.
	keyRests = time.Hour
)

// Keys are those that there are, the newest first; the first one is made here.
func (s *Service) Keys(ctx context.Context) ([]lti.Key, error) {
	list, _, err := s.all(ctx)
	return list, err
}

// Key is the one that signs.
func (s *Service) Key(ctx context.Context) (lti.Key, error) {
	list, made, err := s.all(ctx)
	if err != nil {
		return lti.Key{}, err
	}
	for i := range list {
		if time.Since(made[i]) >= keyRests {
			return list[i], nil
		}
	}
	return list[len(list)-1], nil
}

func (s *Service) all(ctx context.Context) ([]lti.Key, []time.Time, error) {
	if !s.Ready() {
		return nil, nil, ErrNoSecret
	}
	list, err := s.store.ToolKeys(ctx)
	if err == nil && len(list) == 0 {
		if err = s.Rotate(ctx, time.Now().Add(-KeyServes)); err == nil {
			list, err = s.store.ToolKeys(ctx)
		}
	}
	if err != nil {
		return nil, nil, err
	}
	s.mu.Lock()
	defer s.mu.Unlock()
	known := map[string]lti.Key{}
	for _, k := range s.keys {
		known[k.ID] = k
	}
	s.keys = nil
	var made []time.Time
	for _, sealed := range list {
		k, ok := known[sealed.ID]
		if !ok {
			if k, err = lti.OpenKey(sealed.ID, sealed.Sealed, s.secret); err != nil {
				return nil, nil, err
			}
		}
		s.keys, made = append(s.keys, k), append(made, sealed.MadeAt)
	}
	return s.keys, made, nil
}

// Rotate makes a new key, unless one was made since a time.
func (s *Service) Rotate(ctx context.Context, since time.Time) error {
	if !s.Ready() {
		return ErrNoSecret
	}
	list, err := s.store.ToolKeys(ctx)
	if err != nil || len(list) > 0 && list[0].MadeAt.After(since) {
		return err
	}
	k, err := lti.NewKey()
	if err != nil {
		return err
	}
	sealed, err := k.Sealed(s.secret)
	if err != nil {
		return err
	}
	return s.store.AddToolKey(ctx, store.SealedKey{ID: k.ID, Sealed: sealed}, since)
}

// Tend makes a new key when it is time, and forgets old ones.
func (s *Service) Tend(ctx context.Context) error {
	if !s.Ready() {
		return nil
	}
	list, err := s.store.ToolKeys(ctx)
	if err != nil || len(list) == 0 {
		return err // nobody is connected yet
	}
	if err := s.Rotate(ctx, time.Now().Add(-KeyServes)); err != nil {
		return err
	}
	return s.store.DropToolKeys(ctx, time.Now().Add(-KeyStays))
}

// Members reads who is in the course of a launch.
func (s *Service) Members(ctx context.Context, p store.Platform, l lti.Launch) ([]lti.Member, error) {
	return s.client.Members(ctx, Of(p), l.Members)
}
