package access

import (
	"context"
	"crypto/sha256"
	"errors"
	"fmt"
	"strings"
	"sync"
	"unicode/utf8"

	"github.com/alexedwards/argon2id"

	"tidykiln/internal/problem"
)

// leastPassword is the fewest characters of a password: long enough that nobody
// guesses it within the tries that are let through.
const leastPassword = 10

// effort is what one try costs: about a twentieth of a second and 46 MiB (RFC 9106, §4,
// scaled to a small machine).
var effort = &argon2id.Params{Memory: 46 * 1024, Iterations: 2, Parallelism: 1, SaltLength: 16, KeyLength: 32}

// trying bounds how many tries are worked on at once, so that guessing fills neither memory nor processors.
var trying = make(chan struct{}, 2)

// hashed checks a new password and gives its argon2id hash.
func hashed(field, name, password string) (string, error) {
	switch {
	case utf8.RuneCountInString(password) < leastPassword:
		return "", problem.Invalid(field, "at least %d characters; a few words in a row are easy to keep in mind", leastPassword)
	case utf8.RuneCountInString(strings.TrimSpace(name)) >= 3 && strings.Contains(strings.ToLower(password), strings.ToLower(strings.TrimSpace(name))):
		return "", problem.Invalid(field, "this has the name in it, which is tried first")
	case len(strings.Trim(password, password[:1])) == 0:
		return "", problem.Invalid(field, "this is one character again and again")
	}
	return hash(password)
}

func hash(secret string) (string, error) {
	trying <- struct{}{}
	defer func() { <-trying }()
	text, err := argon2id.CreateHash(secret, effort)
	if err != nil {
		return "", fmt.Errorf("hashing: %w", err)
	}
	return text, nil
}

// nobodys is the hash that is tried where there is no member, so that the answer takes as long.
var nobodys = sync.OnceValues(func() (string, error) { return hash(newToken()) })

// fits tells whether a secret is the one of a hash; nil is nobody's.
func fits(ctx context.Context, secret string, hash *string) (bool, error) {
	against, err := nobodys()
	if err != nil {
		return false, err
	}
	if hash != nil {
		against = *hash
	}
	select {
	case trying <- struct{}{}:
	case <-ctx.Done():
		return false, ctx.Err()
	}
	defer func() { <-trying }()
	same, err := argon2id.ComparePasswordAndHash(secret, against)
	if err != nil {
		return false, errors.New("a hash that is kept cannot be read")
	}
	return same && hash != nil, nil
}

// digest is what is kept of a secret that is random and long: nobody finds it by trying.
func digest(secret string) []byte {
	sum := sha256.Sum256([]byte(secret))
	return sum[:]
}

// checkPIN refuses what is no PIN.
func checkPIN(pin string) error {
	if len(pin) < 4 || len(pin) > 8 || strings.Trim(pin, "0123456789") != "" {
		return problem.Invalid("pin", "4 to 8 digits")
	}
	return nil
}
