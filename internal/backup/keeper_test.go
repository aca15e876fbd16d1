package backup_test

import (
	"context"
	"io"
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/backup"
	"tidykiln/internal/house/housetest"
	"tidykiln/internal/problem"
)

// kept is the area of a studio, with folders of its own.
func (s *studio) kept(passphrase string) (*backup.Area, backup.Places) {
	places := backup.Places{Folder: filepath.Join(s.TempDir(), "backups"), Second: filepath.Join(s.TempDir(), "second"), DSN: s.dsn, Passphrase: passphrase, Files: s.source.Files, Certificates: s.source.Certificates}
	a := backup.New(s.source.DB)
	a.KeepIn(places)
	return a, places
}

func listed(t *testing.T, a *backup.Area) backup.Backups {
	t.Helper()
	b, err := a.List(t.Context())
	require.NoError(t, err)
	return b
}

func TestABackupIsProvenAndCopied(t *testing.T) {
	s := newStudio(t)
	a, places := s.kept(secret)
	require.NoError(t, a.Make(t.Context(), madeOn))
	b := listed(t, a)
	require.Len(t, b.Kept, 1)
	one := b.Kept[0]
	assert.Equal(t, "tidykiln-20270505T030000Z.tar.gz.age", one.Name)
	assert.Equal(t, madeOn, one.MadeAt)
	assert.True(t, one.Encrypted)
	assert.True(t, one.Copied)
	assert.Empty(t, one.Failure)
	assert.Greater(t, one.Rows, int64(3000))
	assert.NotNil(t, one.HeldAt)
	assert.Equal(t, one.HeldAt, b.HeldAt)
	for _, folder := range []string{places.Folder, places.Second} {
		info, err := os.Stat(filepath.Join(folder, one.Name))
		require.NoError(t, err)
		assert.Equal(t, one.Bytes, info.Size())
		assert.Equal(t, os.FileMode(0o600), info.Mode().Perm(), "nobody else reads it")
	}
	for _, left := range []string{"*.part", "tidykiln-spool-*"} {
		found, err := filepath.Glob(filepath.Join(places.Folder, left))
		require.NoError(t, err)
		assert.Empty(t, found)
	}
	f, size, err := a.OpenFile(one.Name)
	require.NoError(t, err)
	content, err := io.ReadAll(f)
	require.NoError(t, err)
	require.NoError(t, f.Close())
	assert.EqualValues(t, size, len(content))
	for _, name := range []string{"last-failure.txt", "../backups/" + one.Name, "", one.Name + ".proof.json", "tidykiln-20270506T030000Z.tar.gz"} {
		_, _, err := a.OpenFile(name)
		housetest.Missing(t, err)
	}
}

func TestWhatIsInTheWayOfABackupIsSaidUntilOneIsMade(t *testing.T) {
	s := newStudio(t)
	a, places := s.kept("")
	require.NoError(t, os.MkdirAll(filepath.Join(places.Folder, "tidykiln-20270505T030000Z.tar.gz.part"), 0o700))
	require.Error(t, a.Make(t.Context(), madeOn))
	assert.Contains(t, listed(t, a).Failure, "making the backup's file")
	assert.Empty(t, listed(t, a).Kept)
	require.NoError(t, a.Make(t.Context(), madeOn.Add(time.Hour)))
	assert.Empty(t, listed(t, a).Failure)

	// A second folder that cannot be had does not keep the first from having one.
	places.Second = filepath.Join(places.Folder, "last-failure.txt", "x")
	require.NoError(t, os.WriteFile(filepath.Dir(places.Second), nil, 0o600))
	a.KeepIn(places)
	require.NoError(t, a.Make(t.Context(), madeOn.Add(2*time.Hour)))
	newest := listed(t, a).Kept[0]
	assert.NotNil(t, newest.HeldAt)
	assert.False(t, newest.Copied)
	assert.NotEmpty(t, newest.NotCopied)
}

func TestWhatAKilledServerLeftIsClearedAwayLater(t *testing.T) {
	s := newStudio(t)
	a, places := s.kept("")
	require.NoError(t, os.MkdirAll(places.Folder, 0o700))
	for name, old := range map[string]time.Duration{"tidykiln-1.tar.gz.part": 48 * time.Hour, "tidykiln-spool-1": 48 * time.Hour, "tidykiln-2.tar.gz.part": time.Hour, "notes.txt": 48 * time.Hour} {
		path := filepath.Join(places.Folder, name)
		require.NoError(t, os.WriteFile(path, nil, 0o600))
		require.NoError(t, os.Chtimes(path, madeOn.Add(-old), madeOn.Add(-old)))
	}
	require.NoError(t, a.Make(t.Context(), madeOn))
	left, err := os.ReadDir(places.Folder)
	require.NoError(t, err)
	var names []string
	for _, f := range left {
		names = append(names, f.Name())
	}
	assert.Equal(t, []string{"notes.txt", "tidykiln-2.tar.gz.part", "tidykiln-20270505T030000Z.tar.gz", "tidykiln-20270505T030000Z.tar.gz.proof.json"}, names)
}

func TestABackupThatNobodyLookedAtIsNotSaidToHold(t *testing.T) {
	s := newStudio(t)
	a, places := s.kept("")
	require.NoError(t, os.MkdirAll(places.Folder, 0o700))
	require.NoError(t, os.WriteFile(filepath.Join(places.Folder, "tidykiln-20270505T030000Z.tar.gz"), []byte("?"), 0o600))
	b := listed(t, a)
	require.Len(t, b.Kept, 1)
	assert.NotEmpty(t, b.Kept[0].Failure)
	assert.Nil(t, b.HeldAt)
}

func TestBackupsAreMadeAtNightAndWhenAsked(t *testing.T) {
	s := newStudio(t)
	a, places := s.kept("")
	a.AtOnce()
	ctx, stop := context.WithCancel(t.Context())
	ended := make(chan struct{})
	go func() {
		a.Keep(ctx, func(err error) { assert.NoError(t, err) })
		close(ended)
	}()
	made := func(n int) func() bool {
		return func() bool {
			b := listed(t, a)
			for _, one := range b.Kept {
				assert.Empty(t, one.Failure, "of one that is being made nothing is said")
			}
			return len(b.Kept) == n && b.Making == nil && b.HeldAt != nil
		}
	}
	require.Eventually(t, made(1), time.Minute, 20*time.Millisecond, "none was made since the last night")
	require.NoError(t, a.Ask(t.Context()))
	require.NoError(t, a.Ask(t.Context()), "one that is being made is enough")
	require.Eventually(t, made(2), time.Minute, 20*time.Millisecond)
	stop()
	<-ended
	for _, name := range []string{places.Folder, places.Second} {
		found, err := filepath.Glob(filepath.Join(name, "*.tar.gz"))
		require.NoError(t, err)
		assert.Len(t, found, 2)
	}
	housetest.RefusedAs(t, backup.New(s.source.DB).Ask(t.Context()), problem.Moved)
}
