package lti

import (
	"crypto/aes"
	"crypto/cipher"
	"crypto/rand"
	"crypto/rsa"
	"crypto/sha256"
	"crypto/x509"
	"errors"
	"fmt"
	"strings"

	"github.com/go-jose/go-jose/v4"
	"github.com/go-jose/go-jose/v4/jwt"
)

// Key is a private key of the tool, RSA with 2048 bits, by its name.
type Key struct {
	ID      string
	private *rsa.PrivateKey
}

// NewKey makes one. Cost: some tenths of a second.
func NewKey() (Key, error) {
	k, err := rsa.GenerateKey(rand.Reader, 2048)
	return Key{strings.ToLower(rand.Text()[:16]), k}, err
}

// ErrSealed is of a key that was sealed with another secret, or has been changed.
var ErrSealed = errors.New("the key was sealed with another secret, or has been changed")

func sealer(secret []byte) (cipher.AEAD, error) {
	key := sha256.Sum256(append([]byte("keen magpie tool keys\x00"), secret...))
	block, err := aes.NewCipher(key[:])
	if err != nil {
		return nil, err
	}
	return cipher.NewGCM(block)
}

// Seal encrypts what is secret, bound to a name: AES-256-GCM with a key made of the secret.
func Seal(secret []byte, name string, plain []byte) ([]byte, error) {
	aead, err := sealer(secret)
	if err != nil {
		return nil, err
	}
	nonce := make([]byte, aead.NonceSize())
	_, _ = rand.Read(nonce) // never fails
	return aead.Seal(nonce, nonce, plain, []byte(name)), nil
}

// Unseal undoes [Seal]: [ErrSealed].
func Unseal(secret []byte, name string, sealed []byte) ([]byte, error) {
	aead, err := sealer(secret)
	if err != nil {
		return nil, err
	}
	if len(sealed) < aead.NonceSize() {
		return nil, ErrSealed
	}
	plain, err := aead.Open(nil, sealed[:aead.NonceSize()], sealed[aead.NonceSize():], []byte(name))
	if err != nil {
		return nil, ErrSealed
	}
	return plain, nil
}

// Sealed is the key as it may be kept.
func (k Key) Sealed(secret []byte) ([]byte, error) {
	return Seal(secret, k.ID, x509.MarshalPKCS1PrivateKey(k.private))
}

// OpenKey reads a sealed key.
func OpenKey(id string, sealed, secret []byte) (Key, error) {
	plain, err := Unseal(secret, id, sealed)
	if err != nil {
		return Key{}, err
	}
	private, err := x509.ParsePKCS1PrivateKey(plain)
	if err != nil {
		return Key{}, fmt.Errorf("key %s: %w", id, err)
	}
	return Key{id, private}, nil
}

// Public is the set of what is public of keys, as platforms read it.
func Public(keys ...Key) jose.JSONWebKeySet {
	set := jose.JSONWebKeySet{Keys: []jose.JSONWebKey{}}
	for _, k := range keys {
		set.Keys = append(set.Keys, jose.JSONWebKey{Key: k.private.Public(), KeyID: k.ID, Algorithm: string(jose.RS256), Use: "sig"})
	}
	return set
}

// sign makes a token of claims.
func (k Key) sign(claims ...any) (string, error) {
	s, err := jose.NewSigner(jose.SigningKey{Algorithm: jose.RS256, Key: jose.JSONWebKey{Key: k.private, KeyID: k.ID}}, (&jose.SignerOptions{}).WithType("JWT"))
	if err != nil {
		return "", err
	}
	b := jwt.Signed(s)
	for _, c := range claims {
		b = b.Claims(c)
	}
	return b.Serialize()
}
