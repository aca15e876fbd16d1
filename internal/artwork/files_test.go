package artwork_test

import (
	"context"
	"fmt"
	"net/http/httptest"
	"testing"
	"time"

	"github.com/johannesboyne/gofakes3"
	"github.com/johannesboyne/gofakes3/backend/s3mem"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"tidykiln/internal/artwork"
)

// objectStore is an object store with one bucket, by its address.
func objectStore(t *testing.T) string {
	store := s3mem.New()
	require.NoError(t, store.CreateBucket("pictures"))
	server := httptest.NewServer(gofakes3.New(store).Server())
	t.Cleanup(server.Close)
	t.Setenv("AWS_ACCESS_KEY_ID", "studio")
	t.Setenv("AWS_SECRET_ACCESS_KEY", "secret")
	return fmt.Sprintf("s3://pictures?region=eu-west-1&endpoint=%s&use_path_style=true&disable_https=true", server.URL)
}

func TestFilesAreKeptInAFolderAndInAnObjectStore(t *testing.T) {
	for name, address := range map[string]string{"folder": "", "object store": objectStore(t)} {
		t.Run(name, func(t *testing.T) {
			ctx, folder := t.Context(), t.TempDir()
			open := func(studio string) *artwork.Files {
				f, err := artwork.OpenFiles(ctx, address, folder, studio)
				require.NoError(t, err)
				t.Cleanup(func() { assert.NoError(t, f.Close()) })
				return f
			}
			read := func(f *artwork.Files, hash string) string {
				content, err := f.Read(ctx, hash)
				require.NoError(t, err)
				return string(content)
			}
			one, other, stranger := open("heron"), open("heron"), open("otter")
			hash, err := one.Keep(ctx, []byte("a boat"))
			require.NoError(t, err)
			again, err := other.Keep(ctx, []byte("a boat"))
			require.NoError(t, err)
			assert.Equal(t, hash, again)
			second, err := one.Keep(ctx, []byte("a lantern"))
			require.NoError(t, err)
			assert.Equal(t, "a boat", read(other, hash), "another server of the studio reads it")
			assert.Empty(t, read(stranger, hash), "another studio does not")

			gone, giveUp := context.WithCancel(ctx)
			giveUp()
			_, err = one.Keep(gone, []byte("half a lock gate"))
			require.Error(t, err)
			removed, err := one.Sweep(ctx, time.Now().Add(time.Hour), func(hashes []string) (map[string]bool, error) {
				assert.ElementsMatch(t, []string{hash, second}, hashes, "nothing half there")
				return map[string]bool{hash: true}, nil
			})
			require.NoError(t, err)
			assert.Equal(t, 1, removed)
			assert.Equal(t, "a boat", read(one, hash))
			assert.Empty(t, read(one, second))
			removed, err = one.Sweep(ctx, time.Now().Add(-time.Hour), func([]string) (map[string]bool, error) { return nil, nil })
			require.NoError(t, err)
			assert.Zero(t, removed, "what has just come is not cleared away")
		})
	}
}
