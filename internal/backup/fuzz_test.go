package backup

import (
	"bytes"
	"errors"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Whatever stands in a file that is given as a backup, it is refused as damaged, or as one
// of a later form, or it is whole by its own word.
func FuzzOpen(f *testing.F) {
	fixtures, err := filepath.Glob("testdata/*.tar.gz")
	require.NoError(f, err)
	for _, path := range fixtures {
		content, err := os.ReadFile(path)
		require.NoError(f, err)
		f.Add(content, "")
	}
	f.Add([]byte("age-encryption.org/v1\n-> scrypt x 17\n"), "words")
	f.Add([]byte{0x1f, 0x8b, 8}, "")
	f.Fuzz(func(t *testing.T, content []byte, passphrase string) {
		path := filepath.Join(t.TempDir(), "it")
		require.NoError(t, os.WriteFile(path, content, 0o600))
		a, err := Open(t.Context(), path, passphrase)
		if err == nil {
			assert.Equal(t, program, a.About.Program)
			require.NoError(t, a.Close())
			return
		}
		said := errors.As(err, new(Damaged)) || strings.Contains(err.Error(), "made by a later version")
		if bytes.HasPrefix(content, []byte(ageBegins)) {
			said = said || errors.Is(err, ErrNeedsPassphrase) || errors.Is(err, ErrWrongPassphrase)
		}
		assert.True(t, said, "%v", err)
	})
}
