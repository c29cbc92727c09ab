package lti

import (
	"context"
	"encoding/json"
	"errors"
	"maps"
	"net/http"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
)

// signed is a token of claims, by a key and an algorithm.
func signed(t *testing.T, key any, id string, by jose.SignatureAlgorithm, claims map[string]any) string {
	t.Helper()
	s, err := jose.NewSigner(jose.SigningKey{Algorithm: by, Key: jose.JSONWebKey{Key: key, KeyID: id}}, nil)
	if err != nil {
		t.Fatal(err)
	}
	token, err := jwt.Signed(s).Claims(claims).Serialize()
	if err != nil {
		t.Fatal(err)
	}
	return token
}

// Each thing that can be wrong with a token is refused for its own reason; a right one is read.
func TestEachRefusal(t *testing.T) {
	key, err := NewKey()
	if err != nil {
		t.Fatal(err)
	}
	other, err := NewKey()
	if err != nil {
		t.Fatal(err)
	}
	there := httptest.NewServer(http.HandlerFunc(func(w http.ResponseWriter, _ *http.Request) { _ = json.NewEncoder(w).Encode(Public(key)) }))
	defer there.Close()
	p := Platform{Issuer: "https://college.example", ClientID: "magpie", Deployments: []string{"one"}, Keys: there.URL}
	now := time.Now()
	right := map[string]any{
		"iss": p.Issuer, "aud": "magpie", "sub": "ada", "nonce": "n", "iat": now.Unix(), "exp": now.Add(time.Minute).Unix(), "name": " Ada  Finch ",
		claim + "message_type": messageLink, claim + "version": version, claim + "deployment_id": "one", claim + "resource_link": map[string]string{"id": "7"},
		claim + "roles":  []string{"http://purl.imsglobal.org/vocab/lis/v2/membership#Learner", "http://purl.imsglobal.org/vocab/lis/v2/institution/person#Instructor"},
		claim + "custom": map[string]any{"release": "r", "n": 3},
	}
	but := func(more map[string]any) map[string]any {
		x := maps.Clone(right)
		maps.Copy(x, more)
		for k, v := range more {
			if v == nil {
				delete(x, k)
			}
		}
		return x
	}
	rs := func(claims map[string]any) string { return signed(t, key.private, key.ID, jose.RS256, claims) }
	var v Verifier
	l, err := v.Verify(context.Background(), p, rs(right), "n", now)
	if err != nil {
		t.Fatal(err)
	}
	if l.Name != "Ada Finch" || l.Teacher || l.Custom["release"] != "r" || l.Custom["n"] != "3" || l.Resource != "7" {
		t.Errorf("read as %+v", l)
	}
	none := "eyJhbGciOiJub25lIn0." + "e30" + "."
	for name, x := range map[string]struct{ token, code string }{
		"nothing":                {"", "bad-token"},
		"alg none":               {none, "bad-algorithm"},
		"HS256":                  {signed(t, []byte("a secret that both sides would have to know"), key.ID, jose.HS256, right), "bad-algorithm"},
		"RS512":                  {signed(t, key.private, key.ID, jose.RS512, right), "bad-algorithm"},
		"another key":            {signed(t, other.private, key.ID, jose.RS256, right), "bad-signature"},
		"an unknown key":         {signed(t, other.private, other.ID, jose.RS256, right), "unknown-key"},
		"another platform":       {rs(but(map[string]any{"iss": "https://elsewhere.example"})), "other-issuer"},
		"another audience":       {rs(but(map[string]any{"aud": "another"})), "other-audience"},
		"two audiences, no azp":  {rs(but(map[string]any{"aud": []string{"magpie", "another"}})), "other-audience"},
		"another azp":            {rs(but(map[string]any{"azp": "another"})), "other-audience"},
		"late":                   {rs(but(map[string]any{"exp": now.Add(-2 * time.Minute).Unix()})), "expired"},
		"old, and holds forever": {rs(but(map[string]any{"iat": now.Add(-time.Hour).Unix(), "exp": now.Add(time.Hour).Unix()})), "expired"},
		"from the future":        {rs(but(map[string]any{"iat": now.Add(time.Hour).Unix(), "exp": now.Add(2 * time.Hour).Unix()})), "not-yet-valid"},
		"without an end":         {rs(but(map[string]any{"exp": nil})), "bad-token"},
		"another nonce":          {rs(but(map[string]any{"nonce": "m"})), "other-nonce"},
		"without a nonce":        {rs(but(map[string]any{"nonce": nil})), "other-nonce"},
		"without a deployment":   {rs(but(map[string]any{claim + "deployment_id": nil})), "no-deployment"},
		"another deployment":     {rs(but(map[string]any{claim + "deployment_id": "two"})), "other-deployment"},
		"another version":        {rs(but(map[string]any{claim + "version": "1.1"})), "other-version"},
		"another message":        {rs(but(map[string]any{claim + "message_type": "LtiSubmissionReviewRequest"})), "other-message"},
		"nobody":                 {rs(but(map[string]any{"sub": nil})), "bad-launch"},
		"from no link":           {rs(but(map[string]any{claim + "resource_link": nil})), "bad-launch"},
	} {
		t.Run(name, func(t *testing.T) {
			var r *Refused
			if _, err := v.Verify(context.Background(), p, x.token, "n", now); !errors.As(err, &r) || r.Code != x.code || r.Detail == "" {
				t.Errorf("refused with %v, not with %s", err, x.code)
			}
		})
	}
}

// A key is opened by the secret that it was sealed with, and by nothing else.
func TestSealedKeys(t *testing.T) {
	key, err := NewKey()
	if err != nil {
		t.Fatal(err)
	}
	sealed, err := key.Sealed([]byte("secret"))
	if err != nil {
		t.Fatal(err)
	}
	if again, err := OpenKey(key.ID, sealed, []byte("secret")); err != nil || !again.private.Equal(key.private) {
		t.Errorf("it does not open: %v", err)
	}
	if _, err := OpenKey(key.ID, sealed, []byte("another")); !errors.Is(err, ErrSealed) {
		t.Errorf("another secret opens it: %v", err)
	}
	if _, err := OpenKey("another", sealed, []byte("secret")); !errors.Is(err, ErrSealed) {
		t.Errorf("it opens under another name: %v", err)
	}
	sealed[len(sealed)-1] ^= 1
	if _, err := OpenKey(key.ID, sealed, []byte("secret")); !errors.Is(err, ErrSealed) {
		t.Errorf("a changed one opens: %v", err)
	}
}

// Addresses of platforms are https; http is for the machine itself, where the tool is too.
func TestAddresses(t *testing.T) {
	for address, want := range map[string][2]bool{
		"https://college.example/x": {true, true}, "http://college.example": {false, false}, "http://127.0.0.1:8095": {false, true}, "https://127.0.0.1": {false, true},
		"https://user@college.example": {false, false}, "ftp://college.example": {false, false}, "": {false, false}, "http://localhost:8095/x": {false, true},
	} {
		if got := [2]bool{Address(address, false), Address(address, true)}; got != want {
			t.Errorf("%q may be meant: %v, want %v", address, got, want)
		}
	}
}
