// Package dbtest gives each test a database of its own on one shared server,
// which scripts/with-database starts for a whole test run.
package dbtest

import (
	"context"
	"fmt"
	"os"
	"sync/atomic"
	"testing"

	"github.com/go-sql-driver/mysql"
	"github.com/stretchr/testify/require"
	"gorm.io/gorm"

	"tidykiln/internal/database"
)

var count atomic.Int64

// DSN names a fresh database, dropped when the test ends.
func DSN(t testing.TB) string {
	t.Helper()
	config, err := mysql.ParseDSN(baseDSN(t))
	require.NoError(t, err)
	config.DBName = fmt.Sprintf("test_%d_%d", os.Getpid(), count.Add(1))
	return config.FormatDSN()
}

func baseDSN(t testing.TB) string {
	t.Helper()
	base := os.Getenv("TIDYKILN_TEST_DSN")
	if base == "" {
		t.Fatal("these tests need a database server: run them through scripts/with-database, or run make test")
	}
	return base
}

// Folder is one that lasts as long as the server, for what belongs to a cast beside its database.
func Folder(t testing.TB) string {
	t.Helper()
	folder := os.Getenv("TIDYKILN_TEST_FOLDER")
	require.NotEmpty(t, folder, "scripts/with-database names it")
	return folder
}

// New opens a fresh, migrated database, dropped when the test ends. It has no triggers for
// the audit trail, which take longer to make than most tests do.
func New(t testing.TB) *database.DB {
	t.Helper()
	return open(t, Cast(t, "empty", func(*database.DB) error { return nil }))
}

// Trailed is New with the audit trail.
func Trailed(t testing.TB) *database.DB {
	t.Helper()
	dsn := DSN(t)
	t.Cleanup(func() { require.NoError(t, database.Drop(context.Background(), dsn)) })
	return open(t, dsn)
}

func open(t testing.TB, dsn string) *database.DB {
	t.Helper()
	db, err := database.Open(context.Background(), dsn)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	return db
}

// Another opens the same database once more, as another process would.
func Another(t testing.TB, db *database.DB) *database.DB {
	t.Helper()
	var name string
	require.NoError(t, db.Read(t.Context(), func(tx *gorm.DB) error { return tx.Raw("SELECT DATABASE()").Scan(&name).Error }))
	config, err := mysql.ParseDSN(os.Getenv("TIDYKILN_TEST_DSN"))
	require.NoError(t, err)
	config.DBName = name
	other, err := database.Open(context.Background(), config.FormatDSN())
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, other.Close()) })
	return other
}
