package shop

import (
	"context"
	"crypto/sha256"
	"encoding/hex"

	"github.com/alexedwards/argon2id"
)

// hashing is what a password or a PIN costs to guess: 19 MB and two passes each time.
var hashing = &argon2id.Params{
	Memory: 19 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32,
}

// hashes lets a few passwords be worked on at a time, however many are sent: each takes its
// memory.
var hashes = make(chan struct{}, 4)

// Hashed is a password or a PIN as it is kept.
func Hashed(secret string) (string, error) {
	hashes <- struct{}{}
	defer func() { <-hashes }()
	return argon2id.CreateHash(secret, hashing)
}

// Matches tells whether a secret is the one that was kept. A caller that leaves while others
// are worked on, by ctx, gets its error.
func Matches(ctx context.Context, secret, hash string) (bool, error) {
	select {
	case hashes <- struct{}{}:
		defer func() { <-hashes }()
	case <-ctx.Done():
		return false, ctx.Err()
	}
	return argon2id.ComparePasswordAndHash(secret, hash)
}

// HashToken returns what is kept of a token that opens a door: never the token itself.
func HashToken(t string) string {
	h := sha256.Sum256([]byte(t))
	return hex.EncodeToString(h[:])
}
