package platforms

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"strings"

	"keenmagpie/hosting"
	"keenmagpie/lti"
	"keenmagpie/store"
)

// LaunchData is what a platform wants of a launch by cmi5.
type LaunchData struct {
	Template map[string]any `json:"contextTemplate"`
	Mode     string         `json:"launchMode"`
	Mastery  *float64       `json:"masteryScore"`
	Return   string         `json:"returnURL"`
}

// Cmi5 fetches the token of a launch, which is given once, and what the platform wants of it.
func (s *Service) Cmi5(ctx context.Context, fetch, endpoint string, actor json.RawMessage, activity, registration string) (token string, data LaunchData, err error) {
	r, err := http.NewRequestWithContext(ctx, http.MethodPost, fetch, nil)
	if err != nil {
		return "", data, err
	}
	var got struct {
		Token string `json:"auth-token"`
		Why   string `json:"error-text"`
	}
	if err := lti.Ask(r, &got); err != nil {
		return "", data, err
	}
	if got.Token == "" {
		return "", data, &lti.Answered{Status: http.StatusBadRequest, Body: got.Why}
	}
	q := url.Values{"stateId": {"LMS.LaunchData"}, "activityId": {activity}, "agent": {string(actor)}, "registration": {registration}}
	if r, err = byToken(ctx, http.MethodGet, endpoint+"activities/state?"+q.Encode(), got.Token, ""); err != nil {
		return "", data, err
	}
	if err := lti.Ask(r, &data); err != nil {
		return "", data, err
	}
	if data.Mode == "" {
		data.Mode = "Normal"
	}
	// The profile wants what a learner prefers to be asked for; nothing of it is used here.
	if r, err = byToken(ctx, http.MethodGet, endpoint+"agents/profile?"+url.Values{"profileId": {"cmi5LearnerPreferences"}, "agent": {string(actor)}}.Encode(), got.Token, ""); err == nil {
		_ = lti.Ask(r, nil)
	}
	return got.Token, data, nil
}

func byToken(ctx context.Context, method, address, token, body string) (*http.Request, error) {
	r, err := http.NewRequestWithContext(ctx, method, address, strings.NewReader(body))
	if err != nil {
		return nil, err
	}
	r.Header.Set("Authorization", "Basic "+token)
	r.Header.Set("X-Experience-API-Version", "1.0.3")
	r.Header.Set("Content-Type", "application/json")
	return r, nil
}

// Seal encrypts something that is kept, bound to what it is of.
func (s *Service) Seal(what, plain string) ([]byte, error) {
	if !s.Ready() {
		return nil, ErrNoSecret
	}
	return lti.Seal(s.secret, what, []byte(plain))
}

// sendByCmi5 sends a statement of a launch with the token of its session.
func (s *Service) sendByCmi5(ctx context.Context, p store.Post) error {
	var post hosting.Cmi5Post
	if err := json.Unmarshal([]byte(p.Body), &post); err != nil {
		return err
	}
	x, err := s.store.Cmi5Session(ctx, post.Session)
	if errors.Is(err, store.ErrNotFound) {
		return errNobody
	}
	if err != nil {
		return err
	}
	token, err := lti.Unseal(s.secret, "cmi5 session "+x.ID, x.Sealed)
	if err != nil {
		return fmt.Errorf("the token of a session cannot be read: %w", err)
	}
	r, err := byToken(ctx, http.MethodPost, x.Endpoint+"statements", string(token), string(post.Statement))
	if err != nil {
		return err
	}
	return lti.Ask(r, nil)
}
