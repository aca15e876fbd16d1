package backup_test

import (
	"os"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/backup"
)

func TestTheListOfErasuresIsReadAsFarAsItIsWhole(t *testing.T) {
	folder := t.TempDir()
	none, err := backup.ErasuresIn(folder, "s1", time.Time{})
	require.NoError(t, err)
	assert.Empty(t, none, "no list")
	lines := `{"studio":"s1","customer":12,"at":"2027-05-04T10:00:00Z"}
{"studio":"s2","customer":13,"at":"2027-05-04T10:00:00Z"}
no line at all
{"studio":"s1","customer":14,"at":"2027-05-05T10:00:00Z"}
{"studio":"s1","cust`
	path := filepath.Join(folder, "erasures.jsonl")
	require.NoError(t, os.WriteFile(path, []byte(lines), 0o600))
	numbers := func(since string) (ids []uint64) {
		at, err := time.Parse(time.DateOnly, since)
		require.NoError(t, err)
		list, err := backup.ErasuresIn(folder, "s1", at)
		require.NoError(t, err)
		for _, e := range list {
			ids = append(ids, e.CustomerID)
		}
		return ids
	}
	assert.Equal(t, []uint64{12, 14}, numbers("2027-05-01"))
	assert.Equal(t, []uint64{14}, numbers("2027-05-05"))
	assert.Empty(t, numbers("2027-05-06"))
	require.NoError(t, os.Remove(path))
	require.NoError(t, os.Mkdir(path, 0o700))
	_, err = backup.ErasuresIn(folder, "s1", time.Time{})
	assert.ErrorContains(t, err, "reading whose data was erased")
}
