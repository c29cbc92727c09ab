package platforms

import (
	"bytes"
	"context"
	"errors"
	"net/http"
	"strings"

	"keenmagpie/lti"
	"keenmagpie/store"
)

// sealedFor is what the password of a workspace's record store is sealed for.
func sealedFor(workspace string) string { return "record store of " + workspace }

// KeepRecordStore gives a workspace a record store, after asking it whether it answers.
func (s *Service) KeepRecordStore(ctx context.Context, workspace, endpoint, user, password string) error {
	if !s.Ready() {
		return ErrNoSecret
	}
	r, err := s.recordRequest(ctx, http.MethodGet, endpoint+"about", user, password, nil)
	if err != nil {
		return err
	}
	if err := lti.Ask(r, nil); err != nil {
		return err
	}
	sealed, err := lti.Seal(s.secret, sealedFor(workspace), []byte(password))
	if err != nil {
		return err
	}
	return s.store.In(workspace).KeepRecordStore(ctx, store.RecordStore{Endpoint: endpoint, User: user, Sealed: sealed})
}

// sendStatements sends statements of one workspace, in their order.
func (s *Service) sendStatements(ctx context.Context, list []store.Post) error {
	to, err := s.store.In(list[0].WorkspaceID).RecordStore(ctx)
	if errors.Is(err, store.ErrNotFound) {
		return errNobody
	}
	if err != nil {
		return err
	}
	password, err := lti.Unseal(s.secret, sealedFor(to.WorkspaceID), to.Sealed)
	if err != nil {
		return err
	}
	var bodies []string
	for _, p := range list {
		bodies = append(bodies, p.Body)
	}
	r, err := s.recordRequest(ctx, http.MethodPost, to.Endpoint+"statements", to.User, string(password), []byte("["+strings.Join(bodies, ",")+"]"))
	if err != nil {
		return err
	}
	return lti.Ask(r, nil)
}

func (s *Service) recordRequest(ctx context.Context, method, address, user, password string, body []byte) (*http.Request, error) {
	r, err := http.NewRequestWithContext(ctx, method, address, bytes.NewReader(body))
	if err != nil {
		return nil, err
	}
	r.SetBasicAuth(user, password)
	r.Header.Set("X-Experience-API-Version", "1.0.3")
	r.Header.Set("Content-Type", "application/json")
	return r, nil
}
