package main

import (
	"io"
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// answers are what the studio says of itself at some addresses, as text.
func (s *studio) answers() map[string]string {
	s.Helper()
	all := map[string]string{}
	for _, path := range []string{"/api/orders/4", "/api/products", "/api/products/1", "/api/batches?page=1", "/api/batches/3", "/api/materials?page=1", "/api/receipts", "/api/workshop", "/api/methods", "/api/artworks", "/api/print-jobs", "/api/orders/4/proof", "/api/trail", "/api/outlets"} {
		r, err := http.Get("http://" + s.address + path)
		require.NoError(s, err)
		text, err := io.ReadAll(r.Body)
		require.NoError(s, err)
		require.NoError(s, r.Body.Close())
		require.Equal(s, http.StatusOK, r.StatusCode, "%s: %s", path, text)
		all[path] = string(text)
	}
	return all
}

// difference is where two texts begin to differ, with a little of each; empty where they do not.
func difference(a, b string) string {
	for i := range min(len(a), len(b)) {
		if a[i] != b[i] {
			from := max(0, i-80)
			return a[from:min(len(a), i+80)] + "\nand not\n" + b[from:min(len(b), i+80)]
		}
	}
	return strings.TrimPrefix(a, b) + strings.TrimPrefix(b, a)
}

// A studio is backed up while it serves, its folder is lost, and it is put back: nothing differs.
func TestAStudioIsBackedUpLostAndPutBack(t *testing.T) {
	s := newStudio(t)
	s.start("demo")
	var today struct{ Now time.Time }
	s.get("/api/today", &today)
	require.Equal(t, http.StatusCreated, s.post("/api/orders", strings.Replace(anOrder, "2099-01-01", today.Now.AddDate(0, 0, 30).Format(time.DateOnly), 1)))
	passphrase := filepath.Join(t.TempDir(), "passphrase")
	require.NoError(t, os.WriteFile(passphrase, []byte("reeds by the slow water\n"), 0o600))
	sealed := filepath.Join(t.TempDir(), "all.tar.gz.age")
	out, code := s.told("backup", "--demo", "--passphrase-file", passphrase, sealed)
	require.Zero(t, code, out)
	assert.Regexp(t, `has \d+ rows and \d+ files of pictures, and was read back whole\.`, out)
	out, code = s.told("backup", "--demo", sealed)
	assert.Equal(t, 2, code)
	assert.Contains(t, out, "is there already")
	out, code = s.told("restore", "--demo", "--passphrase-file", passphrase, sealed)
	assert.Equal(t, 2, code)
	assert.Contains(t, out, "is not empty")
	before, orders := s.answers(), s.orders()
	s.stop()

	require.NoError(t, os.RemoveAll(s.folder))
	out, code = s.told("restore", "--demo", sealed)
	assert.Equal(t, 2, code)
	assert.Contains(t, out, "give its passphrase")
	out, code = s.told("restore", "--demo", "--passphrase-file", passphrase, sealed)
	require.Zero(t, code, out)
	assert.Regexp(t, `\d+ rows and \d+ files of pictures are back, as they stood on`, out)
	s.start("demo")
	assert.Equal(t, orders, s.orders(), "when each is ready is planned anew")
	for path, is := range s.answers() {
		assert.Empty(t, difference(before[path], is), path)
	}
	var artworks []struct{ Original string }
	s.get("/api/artworks", &artworks)
	assert.NotEmpty(t, artworks)
	for _, a := range artworks {
		r, err := http.Get("http://" + s.address + "/api/artwork-files/" + a.Original)
		require.NoError(t, err)
		require.NoError(t, r.Body.Close())
		assert.Equal(t, http.StatusOK, r.StatusCode)
	}
	s.stop()
}

func TestABackupIsNotPutUnderARunningServerNorFromADamagedFile(t *testing.T) {
	s := newStudio(t)
	s.start("serve")
	file := filepath.Join(t.TempDir(), "empty.tar.gz")
	out, code := s.told("backup", file)
	require.Zero(t, code, out)
	out, code = s.told("restore", file)
	assert.Equal(t, 2, code)
	assert.Contains(t, out, "a server is running on this studio")
	s.stop()
	text, err := os.ReadFile(file)
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(file, text[:len(text)-20], 0o600))
	for _, args := range [][]string{{"restore", file}, {"restore", filepath.Join(t.TempDir(), "none")}, {"restore"}, {"backup"}, {"backup", "--passphrase-file", "/nowhere", "x"}} {
		out, code = s.told(args...)
		assert.Equal(t, 2, code, "%v: %s", args, out)
	}
}
