package backup

import (
	"errors"
	"fmt"
	"os"
	"path/filepath"
)

// spoolName begins the name of a file that tables are written to first.
const spoolName = "tidykiln-spool-"

// File is a backup's file on its way. Where it goes is needed when it is created and
// when it is kept or dropped, and not while it is written.
type File struct {
	path string
	part *os.File
	// spool is a file that a table is written to first; it has no name any more.
	spool *os.File
}

// Create begins a backup's file.
func Create(path string) (*File, error) {
	part, err := os.OpenFile(path+".part", os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o600)
	if err != nil {
		return nil, fmt.Errorf("making the backup's file: %w", err)
	}
	f := &File{path: path, part: part}
	if f.spool, err = os.CreateTemp(filepath.Dir(path), spoolName); err != nil {
		return nil, errors.Join(fmt.Errorf("making a file for the tables: %w", err), part.Close(), os.Remove(part.Name()))
	}
	if err := os.Remove(f.spool.Name()); err != nil {
		return nil, errors.Join(fmt.Errorf("making a file for the tables: %w", err), f.Drop())
	}
	return f, nil
}

// Keep ends the file, and gives it its name now that it is whole.
func (f *File) Keep() error {
	if err := errors.Join(f.part.Sync(), f.part.Close(), f.spool.Close()); err != nil {
		return errors.Join(fmt.Errorf("ending the backup's file: %w", err), os.Remove(f.part.Name()))
	}
	if err := os.Rename(f.part.Name(), f.path); err != nil {
		return errors.Join(fmt.Errorf("naming the backup's file: %w", err), os.Remove(f.part.Name()))
	}
	return nil
}

// Drop takes away what there is of the file.
func (f *File) Drop() error {
	return errors.Join(f.part.Close(), f.spool.Close(), os.Remove(f.part.Name()))
}
