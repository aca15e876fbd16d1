// Package demotest gives tests the demo studio, told once for each moment and
// copied from then on.
package demotest

import (
	"context"
	"errors"
	"io"
	"path/filepath"
	"strings"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/require"
	"gocloud.dev/blob"
	"gocloud.dev/blob/fileblob"
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
	name := "demo " + now.Format(time.RFC3339) + " " + zone
	kept := filepath.Join(dbtest.Folder(t), strings.NewReplacer(" ", "_", "/", "_", ":", "_").Replace(name))
	dsn := dbtest.Cast(t, name, func(db *database.DB) error {
		_, err := demo.Load(t.Context(), db, Files(t, db), now, zone)
		if err != nil {
			return err
		}
		return keep(t.Context(), kept)
	})
	bringing.Lock()
	defer bringing.Unlock()
	if !brought[name] {
		require.NoError(t, bring(t.Context(), kept))
		brought[name] = true
	}
	return dsn
}

var (
	bringing sync.Mutex
	// brought names the studios whose pictures are in this process's bucket.
	brought = map[string]bool{}
)

// all is the bucket with the pictures of every studio; it counts as closed once one has a part of it.
func all() *blob.Bucket { return blob.PrefixedBucket(bucket, "") }

// keep puts the pictures of the bucket into a folder, for other processes.
func keep(ctx context.Context, folder string) error {
	into, err := inFolder(folder)
	if err != nil {
		return err
	}
	return errors.Join(copyFiles(ctx, all(), into), into.Close())
}

// bring takes the pictures that another process may have told into this one's bucket.
func bring(ctx context.Context, folder string) error {
	from, err := inFolder(folder)
	if err != nil {
		return err
	}
	return errors.Join(copyFiles(ctx, from, all()), from.Close())
}

func inFolder(folder string) (*blob.Bucket, error) {
	return fileblob.OpenBucket(folder, &fileblob.Options{CreateDir: true, NoTempDir: true, Metadata: fileblob.MetadataDontWrite})
}

func copyFiles(ctx context.Context, from, into *blob.Bucket) error {
	for list := from.List(nil); ; {
		o, err := list.Next(ctx)
		if errors.Is(err, io.EOF) {
			return nil
		}
		if err != nil {
			return err
		}
		content, err := from.ReadAll(ctx, o.Key)
		if err != nil {
			return err
		}
		if err := into.WriteAll(ctx, o.Key, content, nil); err != nil {
			return err
		}
	}
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
