package backup_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/backup"
)

// sums are columns that hold sums of what is not kept as a file.
var sums = map[string]string{"proofs.shown": "what a proof showed", "trail_setup.fingerprint": "how the trail was set up"}

// A column of 64 letters names a file by the sum of what is in it: whoever adds one says
// whether it goes into backups.
func TestEveryFileThatARowNamesIsBackedUp(t *testing.T) {
	s := newStudio(t)
	db, files, _ := restored(t, s.made(""), "")
	var papers []string
	require.NoError(t, db.Read(t.Context(), func(tx *gorm.DB) error {
		var columns []struct{ Tab, Col string }
		err := tx.Raw("SELECT table_name AS tab, column_name AS col FROM information_schema.columns WHERE table_schema = DATABASE() AND column_type = 'char(64)'").Scan(&columns).Error
		require.Greater(t, len(columns), 5)
		for _, c := range columns {
			if _, is := sums[c.Tab+"."+c.Col]; !is {
				assert.True(t, backup.NamesFile(c.Tab, c.Col), "%s.%s", c.Tab, c.Col)
			}
		}
		if err != nil {
			return err
		}
		return tx.Raw("SELECT file FROM issued_papers").Scan(&papers).Error
	}))
	require.NotEmpty(t, papers)
	for _, hash := range papers {
		content, err := files.Read(t.Context(), hash)
		require.NoError(t, err)
		assert.Equal(t, "%PDF", string(content[:4]))
	}
}
