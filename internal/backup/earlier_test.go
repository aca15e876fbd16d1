package backup_test

import (
	"fmt"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/artwork"
	"tidykiln/internal/backup"
	"tidykiln/internal/database"
	"tidykiln/internal/house/housetest"
)

// Of each form that archives have had, and of the schema at that time, a small one is kept
// under testdata: this program reads it, and brings it up to date. A new form gets its own
// by TIDYKILN_WRITE=1; one that is there already is never written again.
func TestArchivesOfEarlierVersionsAreRead(t *testing.T) {
	current := fmt.Sprintf("testdata/format-%d-schema-*.tar.gz", backup.Format)
	if os.Getenv("TIDYKILN_WRITE") != "" {
		writeSmall(t)
	}
	found, err := filepath.Glob(current)
	require.NoError(t, err)
	require.NotEmpty(t, found, "the form that archives have now has none")
	all, err := filepath.Glob("testdata/format-*.tar.gz")
	require.NoError(t, err)
	for _, path := range all {
		db, files, _ := restored(t, path, "")
		require.NoError(t, db.Ready(t.Context()), "brought up to date")
		tables := everything(t, db)
		assert.Contains(t, tables["customers"], `"name":"Reed Club"`, path)
		assert.Equal(t, 3, strings.Count(tables["pieces"], "\n"), path)
		assert.Contains(t, tables["trail_changes"], `"about":"orders"`, path)
		require.NoError(t, db.Read(t.Context(), func(tx *gorm.DB) error {
			var a artwork.Artwork
			require.NoError(t, tx.First(&a).Error)
			content, err := files.Read(t.Context(), a.Original)
			assert.NotEmpty(t, content, path)
			return err
		}))
	}
}

// writeSmall makes a small studio with something of everything, and its archive.
func writeSmall(t *testing.T) {
	s := housetest.NewTrailed(t).Small()
	s.OrderFor("2027-03-20", 2)
	lot := s.MakeLot(1)
	s.Step(lot, 0, 12)
	content, err := os.ReadFile("../demo/pictures/boat.png")
	require.NoError(t, err)
	files := housetest.Files(t, s.DB)
	s.Artwork.KeepIn(files)
	_, err = s.Artwork.Take(t.Context(), "boat.png", content)
	require.NoError(t, err)
	var version int64
	require.NoError(t, s.DB.Snapshot(t.Context(), func(snapshot *database.Snapshot) error { version = snapshot.Version; return nil }))
	path := fmt.Sprintf("testdata/format-%d-schema-%d.tar.gz", backup.Format, version)
	if _, err := os.Stat(path); err == nil {
		return
	}
	require.NoError(t, os.MkdirAll("testdata", 0o755))
	_, err = backup.Source{DB: s.DB, Files: files}.MakeFile(t.Context(), path, "", housetest.Monday, nobody)
	require.NoError(t, err)
}
