// Package demotest gives tests the demo studio, told once for each moment and
// copied from then on.
package demotest

import (
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gocloud.dev/blob/memblob"

	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
	"tidykiln/internal/database/dbtest"
	"tidykiln/internal/demo"
)

// bucket holds the pictures of all demo studios of this process.
var bucket = memblob.OpenBucket(nil)

// Files are the pictures of a demo studio.
func Files(t testing.TB, db *database.DB) *artwork.Files {
	t.Helper()
	studio, err := db.Studio(context.Background())
	require.NoError(t, err)
	return artwork.NewFiles(bucket, studio)
}

// DSN names a database of its own with the demo studio as it stands at a moment.
func DSN(t testing.TB, now time.Time, zone string) string {
	t.Helper()
	return dbtest.Cast(t, "demo "+now.Format(time.RFC3339)+" "+zone, func(db *database.DB) error {
		_, err := demo.Load(context.Background(), db, Files(t, db), now, zone)
		return err
	})
}

// New opens a database of its own with the demo studio as it stands at a moment, without
// an audit trail of what is written from then on.
func New(t testing.TB, now time.Time, zone string) *database.DB {
	t.Helper()
	return open(t, DSN(t, now, zone))
}

// Trailed is New with the audit trail.
func Trailed(t testing.TB, now time.Time, zone string) *database.DB {
	t.Helper()
	dsn := DSN(t, now, zone)
	dbtest.LeaveTrail(t, dsn)
	return open(t, dsn)
}

func open(t testing.TB, dsn string) *database.DB {
	t.Helper()
	db, err := database.Open(context.Background(), dsn)
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, db.Close()) })
	return db
}
