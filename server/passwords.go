package server

import (
	"context"
	"strings"

	"github.com/alexedwards/argon2id"
	"github.com/trustelem/zxcvbn"
	"golang.org/x/crypto/bcrypt"
)

// shortestPassword and longestPassword bound a password, in letters and in bytes.
const (
	shortestPassword = 10
	longestPassword  = 200
)

// hashing are OWASP's parameters for argon2id: 19 MiB, twice. What many who sign in at once
// take is bounded by [Server.hashes].
var hashing = &argon2id.Params{Memory: 19 << 10, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// HashPassword hashes a password for [store.Account].
func HashPassword(password string) (string, error) {
	return argon2id.CreateHash(password, hashing)
}

// isPassword compares a password with what is kept of it, which may be a hash by bcrypt of an
// earlier version.
func (s *Server) isPassword(ctx context.Context, hash, password string) (bool, error) {
	if hash == "" { // of one who signs in by a provider alone
		return false, nil
	}
	leave, p := queue(ctx, s.hashes, "Many people are signing in. Try again in half a minute.")
	if p != nil {
		return false, p
	}
	defer leave()
	if strings.HasPrefix(hash, "$2") {
		return bcrypt.CompareHashAndPassword([]byte(hash), []byte(password)) == nil, nil
	}
	return argon2id.ComparePasswordAndHash(password, hash)
}

// newPassword hashes a password that somebody has chosen, and refuses one that is found by
// those who try what people choose. own is what is known of the person.
func (s *Server) newPassword(ctx context.Context, password string, own ...string) (string, error) {
	if len([]rune(password)) < shortestPassword {
		return "", &Problem{Status: 422, Code: "short-password", Detail: "A password has at least 10 characters. Several words that do not belong together are easy to remember. Nothing was changed."}
	}
	if len(password) > longestPassword {
		return "", &Problem{Status: 422, Code: "long-password", Detail: "A password has at most 200 characters. Nothing was changed."}
	}
	if zxcvbn.PasswordStrength(password[:min(len(password), 72)], own).Score < 2 {
		return "", &Problem{Status: 422, Code: "easy-password", Detail: "This password is easy to guess: it is common, or made of what others know of you. Several words that do not belong together are better. Nothing was changed."}
	}
	leave, p := queue(ctx, s.hashes, "Many people are signing in. Try again in half a minute.")
	if p != nil {
		return "", p
	}
	defer leave()
	return HashPassword(password)
}
