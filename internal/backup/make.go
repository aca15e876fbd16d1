package backup

import (
	"bytes"
	"context"
	"crypto/sha256"
	"encoding/hex"
	"errors"
	"fmt"
	"maps"
	"os"
	"path/filepath"
	"slices"
	"time"

	"golang.org/x/sync/errgroup"

	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
)

// Source is what a backup is made of.
type Source struct {
	DB    *database.DB
	Files *artwork.Files
	// Certificates is the folder of the studio's own authority; it may be missing.
	Certificates string
}

// Progress is told how much of something is done.
type Progress func(done, total int)

// MakeFile writes a backup to a file, which is there whole or not at all.
func (s Source) MakeFile(ctx context.Context, path, passphrase string, at time.Time, told Progress) (m Manifest, err error) {
	f, err := Create(path)
	if err != nil {
		return m, err
	}
	if m, err = s.Make(ctx, f, passphrase, at, told); err != nil {
		return m, errors.Join(err, f.Drop())
	}
	return m, f.Keep()
}

// Make writes a backup: everything as it stands at one moment, while others go on writing.
func (s Source) Make(ctx context.Context, f *File, passphrase string, at time.Time, told Progress) (m Manifest, err error) {
	w, err := newWriter(f, passphrase, at)
	if err != nil {
		return m, err
	}
	err = s.DB.Snapshot(ctx, func(snapshot *database.Snapshot) error {
		if err := w.putJSON(aboutName, About{Format, program, at.UTC(), snapshot.Version, snapshot.Studio}); err != nil {
			return err
		}
		for i, t := range snapshot.Tables {
			if err := w.putTable(ctx, snapshot, t); err != nil {
				return err
			}
			told(i+1, len(snapshot.Tables))
		}
		return nil
	})
	if err != nil {
		return m, err
	}
	// Files of pictures are never changed: those that rows name are as they were at that moment.
	if err := s.putPictures(ctx, w, told); err != nil {
		return m, err
	}
	if err := s.putCertificates(w); err != nil {
		return m, err
	}
	return w.manifest, w.finish()
}

// picture is a file of one; there is no content where it was lost or is damaged.
type picture struct {
	hash    string
	content []byte
}

// putPictures writes the files of pictures; while one is written the next is read and checked.
func (s Source) putPictures(ctx context.Context, w *writer, told Progress) error {
	w.manifest.Missing = []string{}
	hashes := slices.Sorted(maps.Keys(w.named))
	tables := len(w.manifest.Tables)
	read := make(chan picture)
	group, ctx := errgroup.WithContext(ctx)
	group.Go(func() error {
		defer close(read)
		return s.readPictures(ctx, hashes, read)
	})
	group.Go(func() error {
		done := tables
		for p := range read {
			if p.content == nil {
				w.manifest.Missing = append(w.manifest.Missing, p.hash)
			} else if err := w.putPicture(p); err != nil {
				return err
			}
			done++
			told(done, tables+len(hashes))
		}
		return nil
	})
	return group.Wait()
}

func (s Source) readPictures(ctx context.Context, hashes []string, read chan<- picture) error {
	for _, hash := range hashes {
		content, err := s.Files.Read(ctx, hash)
		if err != nil {
			return err
		}
		if sum := sha256.Sum256(content); hex.EncodeToString(sum[:]) != hash {
			content = nil
		}
		select {
		case read <- picture{hash, content}:
		case <-ctx.Done():
			return ctx.Err()
		}
	}
	return nil
}

// putCertificates writes the studio's own authority, so that devices that trust it go on doing so.
func (s Source) putCertificates(w *writer) error {
	found, err := filepath.Glob(filepath.Join(s.Certificates, "*.pem"))
	if err != nil || s.Certificates == "" {
		return err
	}
	for _, path := range found {
		content, err := os.ReadFile(path)
		if err != nil {
			return fmt.Errorf("reading the certificate: %w", err)
		}
		if err := w.put(certificatesIn+filepath.Base(path), int64(len(content)), bytes.NewReader(content)); err != nil {
			return err
		}
	}
	return nil
}
