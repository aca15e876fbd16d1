package main

import (
	"context"
	"errors"
	"flag"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"strings"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/artwork"
	"tidykiln/internal/backup"
	"tidykiln/internal/customers"
	"tidykiln/internal/database"
	"tidykiln/internal/house"
	"tidykiln/internal/standin"
)

// archiveArguments are what the commands about backups take.
type archiveArguments struct {
	demo       bool
	path       string
	passphrase string
}

func readArchiveArguments(command string, args []string) (a archiveArguments, err error) {
	flags := flag.NewFlagSet(command, flag.ContinueOnError)
	flags.SetOutput(io.Discard)
	flags.BoolVar(&a.demo, "demo", false, "")
	passphraseFile := flags.String("passphrase-file", "", "")
	if err := flags.Parse(args); err != nil || flags.NArg() != 1 {
		return a, badInput{fmt.Errorf("%s takes: [--demo] [--passphrase-file FILE] FILE", command)}
	}
	a.path = flags.Arg(0)
	a.passphrase, err = readPassphrase(*passphraseFile)
	return a, err
}

// readPassphrase reads a passphrase from the first line of a file; empty without one.
func readPassphrase(path string) (string, error) {
	if path == "" {
		return "", nil
	}
	text, err := os.ReadFile(path)
	if err != nil {
		return "", badInput{fmt.Errorf("reading the passphrase: %w", err)}
	}
	line, _, _ := strings.Cut(string(text), "\n")
	if line = strings.TrimSuffix(line, "\r"); line == "" {
		return "", badInput{fmt.Errorf("reading the passphrase: %s is empty", path)}
	}
	return line, nil
}

// makeBackup writes everything into a file, while a server may be running.
func makeBackup(ctx context.Context, args []string) error {
	a, err := readArchiveArguments("backup", args)
	if err != nil {
		return err
	}
	if _, err := os.Stat(a.path); err == nil {
		return badInput{fmt.Errorf("%s is there already", a.path)}
	}
	s := readSettings()
	f, err := backup.Create(a.path) // where it goes may be root's alone
	if err != nil {
		return badInput{err}
	}
	rootAgain, err := lendRoot(s.folder)
	if err != nil {
		return errors.Join(err, f.Drop())
	}
	err = withStudio(ctx, a.demo, func(db *database.DB, _ string) error { return fill(ctx, f, db, s, a.passphrase) })
	if err = errors.Join(err, rootAgain()); err != nil {
		return errors.Join(err, f.Drop())
	}
	if err := f.Keep(); err != nil {
		return err
	}
	return readBack(ctx, a)
}

func fill(ctx context.Context, f *backup.File, db *database.DB, s settings, passphrase string) error {
	files, err := openFiles(ctx, db, s)
	if err != nil {
		return err
	}
	source := backup.Source{DB: db, Files: files, Certificates: s.certificates()}
	_, err = source.Make(ctx, f, passphrase, time.Now(), telling("Writing"))
	return errors.Join(err, files.Close())
}

func readBack(ctx context.Context, a archiveArguments) error {
	archive, err := backup.Open(ctx, a.path, a.passphrase)
	if err != nil {
		return fmt.Errorf("reading the backup back: %w", err)
	}
	m := archive.Manifest
	fmt.Printf("%s has %d rows and %d files of pictures, and was read back whole.\n", a.path, m.Rows, m.Pictures)
	if len(m.Missing) > 0 {
		fmt.Printf("%d files of pictures were lost or damaged before, and are not in it.\n", len(m.Missing))
	}
	return archive.Close()
}

// restore puts a backup into an empty studio.
func restore(ctx context.Context, args []string) error {
	a, err := readArchiveArguments("restore", args)
	if err != nil {
		return err
	}
	archive, err := backup.Open(ctx, a.path, a.passphrase)
	if err != nil {
		return badInput{err}
	}
	s := readSettings()
	erased, err := erasedSince(s, a.path, archive.About)
	if err != nil {
		return errors.Join(err, archive.Close())
	}
	err = withStudio(ctx, a.demo, func(db *database.DB, dsn string) error {
		if err := mayBeReplaced(ctx, db); err != nil {
			return err
		}
		rooms := house.New(db, time.Now, &standin.Hygrometer{}, standin.NewPrinter(time.Now))
		erase := func(tx *gorm.DB) error { return rooms.Privacy.Again(tx, erased) }
		target := backup.Target{DSN: dsn, Certificates: s.certificates(), Erase: erase, Files: func(studio string) (*artwork.Files, error) {
			return artwork.OpenFiles(ctx, s.pictures, filepath.Join(s.folder, "pictures"), studio)
		}}
		if err := archive.Restore(ctx, target, telling("Putting back")); err != nil {
			return err
		}
		if len(erased) > 0 {
			fmt.Println("What customers had asked to be erased was erased again.")
		}
		fmt.Printf("%d rows and %d files of pictures are back, as they stood on %s.\n", archive.Manifest.Rows, archive.Manifest.Pictures, archive.About.MadeAt.Local().Format("2 January 2006 15:04"))
		return nil
	})
	return errors.Join(err, archive.Close())
}

// erasedSince are whose data was erased after an archive was made, by the lists beside an archive and
// beside the backups of this machine.
func erasedSince(s settings, path string, of backup.About) (all []customers.Erasure, err error) {
	for _, folder := range []string{filepath.Dir(path), s.backups, s.second} {
		list, err := backup.ErasuresIn(folder, of.Studio, of.MadeAt)
		if err != nil {
			return nil, badInput{err}
		}
		all = append(all, list...)
	}
	return all, nil
}

// mayBeReplaced lets only an empty studio be filled that no server is using.
func mayBeReplaced(ctx context.Context, db *database.DB) error {
	empty, err := db.Empty(ctx)
	if err != nil {
		return err
	}
	if !empty {
		return badInput{errors.New("this studio is not empty: a backup is put into an empty one only, such as under another TIDYKILN_VAR")}
	}
	used, err := db.InUse(ctx)
	if err == nil && used {
		err = badInput{errors.New("a server is running on this studio: stop it first")}
	}
	return err
}

// telling writes how far something has come, in steps of tenths.
func telling(what string) backup.Progress {
	last := -1
	return func(done, total int) {
		if tenth := done * 10 / max(total, 1); tenth != last {
			last = tenth
			fmt.Fprintf(os.Stderr, "%s: %d of %d\n", what, done, total)
		}
	}
}
