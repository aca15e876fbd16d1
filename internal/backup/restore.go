package backup

import (
	"context"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"

	"gorm.io/gorm"

	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
)

// Target is where a backup is put back.
type Target struct {
	// DSN names the database of an empty studio.
	DSN string
	// Files opens the place for the pictures of a studio.
	Files func(studio string) (*artwork.Files, error)
	// Certificates is the folder of the studio's own authority.
	Certificates string
	// Erase erases again what was erased after the archive was made; nil for nothing.
	Erase func(tx *gorm.DB) error
}

// Restore puts an archive back. Its database is made whole beside the empty one, and
// takes its place in the last step.
func (a *Archive) Restore(ctx context.Context, into Target, told Progress) (err error) {
	r, err := a.rebuild(ctx, into.DSN, "_restoring", told)
	if err != nil {
		return err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, r.Drop(ctx))
		}
	}()
	if into.Erase != nil {
		if err := r.Change(ctx, into.Erase); err != nil {
			return fmt.Errorf("erasing again what had been erased: %w", err)
		}
	}
	files, err := into.Files(a.About.Studio)
	if err != nil {
		return err
	}
	if err := errors.Join(a.putBack(ctx, files, into.Certificates, told), files.Close()); err != nil {
		return err
	}
	return r.Become(ctx, into.DSN)
}

// Prove puts an archive into a database of its own beside that of dsn, counts what is
// there, and drops it again.
func (a *Archive) Prove(ctx context.Context, dsn string, told Progress) error {
	r, err := a.rebuild(ctx, dsn, "_proof", told)
	if err != nil {
		return err
	}
	return r.Drop(ctx)
}

// rebuild makes the database of an archive and counts its rows.
func (a *Archive) rebuild(ctx context.Context, dsn, suffix string, told Progress) (_ *database.Rebuilt, err error) {
	r, err := database.Rebuild(ctx, dsn, suffix, a.About.Schema)
	if err != nil {
		return nil, err
	}
	defer func() {
		if err != nil {
			err = errors.Join(err, r.Drop(ctx))
		}
	}()
	tables := map[string]database.ArchivedTable{}
	for _, t := range a.Manifest.Tables {
		tables[tablesIn+t.Name+".jsonl"] = t
	}
	done := 0
	err = a.each(ctx, func(name string, in io.Reader) error {
		t, is := tables[name]
		if !is {
			return nil
		}
		done++
		told(done, len(tables)+a.Manifest.Pictures)
		return r.Fill(ctx, t, lines(in))
	})
	if err != nil {
		return nil, err
	}
	if err := r.Check(ctx, a.Manifest.Tables); err != nil {
		return nil, Damaged{err.Error()}
	}
	return r, r.BringUp(ctx)
}

// putBack puts the files of pictures and the authority back.
func (a *Archive) putBack(ctx context.Context, files *artwork.Files, certificates string, told Progress) error {
	done := len(a.Manifest.Tables)
	return a.each(ctx, func(name string, in io.Reader) error {
		switch {
		case strings.HasPrefix(name, picturesIn):
			content, err := io.ReadAll(in)
			if err != nil {
				return unreadable(err)
			}
			done++
			told(done, len(a.Manifest.Tables)+a.Manifest.Pictures)
			_, err = files.Keep(ctx, content)
			return err
		case strings.HasPrefix(name, certificatesIn):
			content, err := io.ReadAll(in)
			if err != nil {
				return unreadable(err)
			}
			return putCertificate(filepath.Join(certificates, strings.TrimPrefix(name, certificatesIn)), content)
		}
		return nil
	})
}

func putCertificate(path string, content []byte) error {
	if err := os.MkdirAll(filepath.Dir(path), 0o700); err != nil {
		return fmt.Errorf("making the certificate's folder: %w", err)
	}
	if err := os.WriteFile(path, content, 0o600); err != nil {
		return fmt.Errorf("putting the certificate back: %w", err)
	}
	return nil
}
