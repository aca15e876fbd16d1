package database_test

import (
	"context"
	"errors"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
)

func revision(t *testing.T, db *database.DB) uint64 {
	t.Helper()
	at, err := db.Stands(context.Background())
	require.NoError(t, err)
	return at.Number
}

func TestOpeningTwiceMigratesOnce(t *testing.T) {
	dsn := dbtest.DSN(t)
	first, err := database.Open(context.Background(), dsn)
	require.NoError(t, err)
	require.NoError(t, first.Ready(context.Background()))
	second, err := database.Open(context.Background(), dsn)
	require.NoError(t, err)
	require.NoError(t, second.Ready(context.Background()))
	require.NoError(t, second.Close())
	require.NoError(t, first.Close())
	assert.Error(t, first.Ready(context.Background()), "a closed database is not ready")
}

func TestOpenSaysWhatIsWrongWithItsAddress(t *testing.T) {
	_, err := database.Open(context.Background(), "nonsense")
	assert.ErrorContains(t, err, "TIDYKILN_DSN")
	_, err = database.Open(context.Background(), "a:b@tcp(127.0.0.1:1)/")
	assert.ErrorContains(t, err, "must name a database")
	_, err = database.Open(context.Background(), "a:b@tcp(127.0.0.1:1)/x")
	assert.ErrorContains(t, err, "connecting to the database")
}

func TestAWriteThatFailsLeavesNothing(t *testing.T) {
	db := dbtest.New(t)
	before := revision(t, db)
	stopped := errors.New("stopped")
	err := db.Write(context.Background(), database.Everything, func(tx *gorm.DB) error {
		require.NoError(t, tx.Exec("INSERT INTO people (name) VALUES ('Half')").Error)
		return stopped
	})
	require.ErrorIs(t, err, stopped)
	assert.Equal(t, before, revision(t, db))
	require.NoError(t, db.Read(context.Background(), func(tx *gorm.DB) error {
		var people int64
		require.NoError(t, tx.Table("people").Count(&people).Error)
		assert.Zero(t, people)
		return nil
	}))
}

func TestWritesAtOnceRunOneAfterTheOther(t *testing.T) {
	db := dbtest.New(t)
	before := revision(t, db)
	require.NoError(t, db.Write(context.Background(), database.Everything, func(tx *gorm.DB) error { return tx.Exec("UPDATE workshop SET sitting_minutes = 48").Error }))
	before++
	var all sync.WaitGroup
	for range 20 {
		all.Add(1)
		go func() {
			defer all.Done()
			assert.NoError(t, db.Write(context.Background(), database.Everything, func(tx *gorm.DB) error {
				var minutes int
				if err := tx.Raw("SELECT sitting_minutes FROM workshop").Scan(&minutes).Error; err != nil {
					return err
				}
				return tx.Exec("UPDATE workshop SET sitting_minutes = ?", minutes+1).Error
			}))
		}()
	}
	all.Wait()
	assert.Equal(t, before+20, revision(t, db))
	require.NoError(t, db.Read(context.Background(), func(tx *gorm.DB) error {
		var minutes int
		require.NoError(t, tx.Raw("SELECT sitting_minutes FROM workshop").Scan(&minutes).Error)
		assert.Equal(t, 48+20, minutes, "no write was lost")
		return nil
	}))
}
