package artwork

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"io"
	"path/filepath"
	"time"

	"gocloud.dev/blob"
	"gocloud.dev/blob/fileblob"
	_ "gocloud.dev/blob/s3blob" // an object store by its address
	"gocloud.dev/gcerrors"
)

// Files keeps files under the SHA-256 of what is in them, in a folder or an object
// store that several servers may share. What is there is never changed.
type Files struct {
	bucket *blob.Bucket
}

// OpenFiles keeps the files of one studio in an object store named by its address
// (such as s3://pictures?region=eu), or, where that is empty, in a folder.
func OpenFiles(ctx context.Context, address, folder, studio string) (*Files, error) {
	bucket, err := openBucket(ctx, address, folder)
	if err != nil {
		return nil, fmt.Errorf("opening the place for pictures: %w", err)
	}
	return NewFiles(bucket, studio), nil
}

// NewFiles keeps the files of one studio in a bucket.
func NewFiles(bucket *blob.Bucket, studio string) *Files {
	return &Files{blob.PrefixedBucket(bucket, studio+"/")}
}

func openBucket(ctx context.Context, address, folder string) (*blob.Bucket, error) {
	if address != "" {
		return blob.OpenBucket(ctx, address)
	}
	folder, err := filepath.Abs(folder)
	if err != nil {
		return nil, err
	}
	return fileblob.OpenBucket(folder, &fileblob.Options{CreateDir: true, DirFileMode: 0o700, NoTempDir: true, Metadata: fileblob.MetadataDontWrite})
}

// Close lets go of the place.
func (f *Files) Close() error { return f.bucket.Close() }

// Clear removes all files of the studio.
func (f *Files) Clear(ctx context.Context) error {
	_, err := f.Sweep(ctx, time.Now().Add(time.Hour), func([]string) (map[string]bool, error) { return nil, nil })
	return err
}

// placeOf spreads files over folders.
func placeOf(hash string) string { return hash[:2] + "/" + hash }

// Keep keeps a content and gives its name. Where the same is there already it is
// written again, which makes it new for Sweep.
func (f *Files) Keep(ctx context.Context, content []byte) (hash string, err error) {
	sum := sha256.Sum256(content)
	hash = hex.EncodeToString(sum[:])
	return hash, f.write(ctx, hash, bytes.NewReader(content))
}

// write is all or nothing: what is not closed without a fault is not there.
func (f *Files) write(ctx context.Context, hash string, r io.Reader) error {
	ctx, giveUp := context.WithCancel(ctx)
	defer giveUp()
	w, err := f.bucket.NewWriter(ctx, placeOf(hash), &blob.WriterOptions{ContentType: "application/octet-stream"})
	if err != nil {
		return fmt.Errorf("keeping a picture: %w", err)
	}
	if _, err := io.Copy(w, r); err != nil {
		giveUp()
		return fmt.Errorf("keeping a picture: %w", errors.Join(err, ignoringCancel(w.Close())))
	}
	if err := w.Close(); err != nil {
		return fmt.Errorf("keeping a picture: %w", err)
	}
	return nil
}

func ignoringCancel(err error) error {
	if gcerrors.Code(err) == gcerrors.Canceled || errors.Is(err, context.Canceled) {
		return nil
	}
	return err
}

// Read reads a file whole; nil where there is none.
func (f *Files) Read(ctx context.Context, hash string) ([]byte, error) {
	content, err := f.bucket.ReadAll(ctx, placeOf(hash))
	if gcerrors.Code(err) == gcerrors.NotFound {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading a picture's file: %w", err)
	}
	return content, nil
}

// Sweep removes what was written before a moment and is not kept.
func (f *Files) Sweep(ctx context.Context, before time.Time, kept func(hashes []string) (map[string]bool, error)) (removed int, err error) {
	var old []string
	for list := f.bucket.List(nil); ; {
		o, err := list.Next(ctx)
		if errors.Is(err, io.EOF) {
			break
		}
		if err != nil {
			return 0, fmt.Errorf("listing the pictures' files: %w", err)
		}
		if o.ModTime.Before(before) {
			old = append(old, o.Key)
		}
	}
	hashes := make([]string, 0, len(old))
	for _, key := range old {
		hashes = append(hashes, key[max(0, len(key)-64):])
	}
	keep, err := kept(hashes)
	if err != nil {
		return 0, err
	}
	for i, key := range old {
		if keep[hashes[i]] {
			continue
		}
		// Somebody may have put the same in again meanwhile.
		if at, err := f.bucket.Attributes(ctx, key); err != nil || !at.ModTime.Before(before) {
			continue
		}
		if err := f.bucket.Delete(ctx, key); err != nil && gcerrors.Code(err) != gcerrors.NotFound {
			return removed, fmt.Errorf("clearing a picture's file away: %w", err)
		}
		removed++
	}
	return removed, nil
}
