package backup_test

import (
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"gocloud.dev/blob/memblob"

	"tidykiln/internal/artwork"
)

// A file that is gone or rotten costs its picture, and not every backup from then on.
func TestALostAndADamagedPictureAreSaidAndTheRestIsKept(t *testing.T) {
	s := newStudio(t)
	whole := opened(t, s.made(""), "")
	studio, err := s.source.DB.Studio(t.Context())
	require.NoError(t, err)
	bucket := memblob.OpenBucket(nil)
	var hashes []string
	for _, e := range whole.Manifest.Entries {
		hash, is := strings.CutPrefix(e.Name, "pictures/")
		if !is {
			continue
		}
		hashes = append(hashes, hash)
		content, err := s.source.Files.Read(t.Context(), hash)
		require.NoError(t, err)
		switch len(hashes) {
		case 1: // lost
			continue
		case 2:
			content[len(content)/2] ^= 1
		}
		require.NoError(t, bucket.WriteAll(t.Context(), studio+"/"+hash[:2]+"/"+hash, content, nil))
	}
	s.source.Files = artwork.NewFiles(bucket, studio)
	archive := opened(t, s.made(""), "")
	assert.Equal(t, hashes[:2], archive.Manifest.Missing)
	assert.Equal(t, whole.Manifest.Pictures-2, archive.Manifest.Pictures)
}
