package backup

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"time"
)

// night is the hour from which a day's own backup is made.
const night = 3

// lookEvery is how often it is looked whether the night's is due.
const lookEvery = 5 * time.Minute

// tryAgain is how long after one that failed the next is tried.
const tryAgain = time.Hour

// Keep makes the night's backups, and those that are asked for, until ctx ends. What goes
// wrong is given to report, and stands with the backups.
func (a *Area) Keep(ctx context.Context, report func(error)) {
	if a.places.Folder == "" {
		return
	}
	begun := time.NewTimer(a.quiet)
	defer begun.Stop()
	look := time.NewTicker(lookEvery)
	defer look.Stop()
	var tried time.Time
	for {
		select {
		case <-ctx.Done():
			return
		case <-a.asked:
			a.run(ctx, report)
			continue
		case <-begun.C:
		case <-look.C:
		}
		due, err := a.due(ctx, time.Now())
		if err != nil && ctx.Err() == nil {
			report(err)
		}
		if due && time.Since(tried) > tryAgain {
			tried = time.Now()
			a.note(&Making{Stage: Writing})
			a.run(ctx, report)
		}
	}
}

func (a *Area) run(ctx context.Context, report func(error)) {
	if err := a.Make(ctx, time.Now()); err != nil && ctx.Err() == nil {
		report(err)
	}
	a.note(nil)
}

func (a *Area) note(m *Making) {
	a.mu.Lock()
	defer a.mu.Unlock()
	a.making = m
}

func (a *Area) makes(file string) {
	a.mu.Lock()
	defer a.mu.Unlock()
	a.file = file
}

// told is how far a stage has come.
func (a *Area) told(stage Stage) Progress {
	return func(done, total int) { a.note(&Making{stage, done, total}) }
}

// due tells whether a backup is to be made by itself: none has been made since the last
// night began, by the clock on the studio's wall. An empty studio has nothing to lose.
func (a *Area) due(ctx context.Context, now time.Time) (bool, error) {
	empty, err := a.db.Empty(ctx)
	if err != nil || empty {
		return false, err
	}
	in, err := a.place(ctx)
	if err != nil {
		return false, err
	}
	begun := nightBefore(now, in)
	names, err := a.names()
	if err != nil || len(names) == 0 {
		return err == nil, err
	}
	last, _ := madeAt(names[0])
	return last.Before(begun), nil
}

// nightBefore is when the last night began at whose hour backups are made.
func nightBefore(now time.Time, in *time.Location) time.Time {
	now = now.In(in)
	begun := time.Date(now.Year(), now.Month(), now.Day(), night, 0, 0, 0, in)
	if now.Before(begun) {
		begun = begun.AddDate(0, 0, -1)
	}
	return begun
}

// Make makes a backup, reads it back, puts it into a database of its own and counts it,
// copies it to the second folder, and removes those that are not kept any more. One that
// does not hold is kept and said to be so; the older ones stay then.
func (a *Area) Make(ctx context.Context, at time.Time) (err error) {
	p := a.places
	defer func() { err = errors.Join(err, a.keepFailure(err)) }()
	if err := os.MkdirAll(p.Folder, 0o700); err != nil {
		return fmt.Errorf("making the folder of backups: %w", err)
	}
	if err := clearLeft(p.Folder, at.Add(-leftFor)); err != nil {
		return err
	}
	path := filepath.Join(p.Folder, nameOf(at, p.Passphrase != ""))
	a.makes(filepath.Base(path))
	defer a.makes("")
	source := Source{a.db, p.Files, p.Certificates}
	m, err := source.MakeFile(ctx, path, p.Passphrase, at, a.told(Writing))
	if err != nil {
		return err
	}
	proof := Proof{Rows: m.Rows, Pictures: m.Pictures, Missing: len(m.Missing)}
	held := a.prove(ctx, path)
	if held == nil {
		proof.HeldAt = new(time.Now().UTC())
	} else {
		proof.Failure = held.Error()
	}
	if p.Second != "" {
		proof.Copied = true
		if err := copyTo(p.Second, path); err != nil {
			proof.Copied, proof.NotCopied = false, err.Error()
		}
	}
	if err := keepProof(path, proof); err != nil || held != nil {
		return errors.Join(held, err)
	}
	if err := a.NoteErasures(ctx); err != nil {
		return err
	}
	folders := []string{p.Folder}
	if proof.Copied {
		folders = append(folders, p.Second)
	}
	return a.rotate(ctx, folders)
}

// leftFor is after how long what a killed server was writing is left by nobody else.
const leftFor = 24 * time.Hour

// clearLeft removes what was begun before a moment and never ended.
func clearLeft(folder string, before time.Time) error {
	for _, left := range []string{"*.part", spoolName + "*"} {
		found, err := filepath.Glob(filepath.Join(folder, left))
		if err != nil {
			return err
		}
		for _, path := range found {
			if info, err := os.Stat(path); err != nil || !info.Mode().IsRegular() || info.ModTime().After(before) {
				continue
			}
			if err := ignoreMissing(os.Remove(path)); err != nil {
				return fmt.Errorf("clearing away what was never ended: %w", err)
			}
		}
	}
	return nil
}

func (a *Area) prove(ctx context.Context, path string) error {
	a.told(Reading)(0, 0)
	archive, err := Open(ctx, path, a.places.Passphrase)
	if err != nil {
		return err
	}
	return errors.Join(archive.Prove(ctx, a.places.DSN, a.told(Proving)), archive.Close())
}

func keepProof(path string, p Proof) error {
	text, err := json.MarshalIndent(p, "", "  ")
	if err != nil {
		return err
	}
	if err := os.WriteFile(proofOf(path), text, 0o600); err != nil {
		return fmt.Errorf("noting whether the backup holds: %w", err)
	}
	return nil
}

// rotate removes what is not kept any more from folders.
func (a *Area) rotate(ctx context.Context, folders []string) error {
	in, err := a.place(ctx)
	if err != nil {
		return err
	}
	for _, folder := range folders {
		names, err := backupsIn(folder)
		if err != nil {
			return err
		}
		for _, name := range outdated(names, in) {
			path := filepath.Join(folder, name)
			if err := errors.Join(os.Remove(path), ignoreMissing(os.Remove(proofOf(path)))); err != nil {
				return fmt.Errorf("removing an old backup: %w", err)
			}
		}
	}
	return nil
}

func ignoreMissing(err error) error {
	if errors.Is(err, os.ErrNotExist) {
		return nil
	}
	return err
}

// copyTo copies a file into a folder, whole or not at all.
func copyTo(folder, path string) (err error) {
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return fmt.Errorf("making the second folder: %w", err)
	}
	from, err := os.Open(path)
	if err != nil {
		return err
	}
	defer from.Close()
	into := filepath.Join(folder, filepath.Base(path))
	part, err := os.OpenFile(into+".part", os.O_CREATE|os.O_WRONLY|os.O_TRUNC, 0o600)
	if err != nil {
		return fmt.Errorf("copying to the second folder: %w", err)
	}
	if _, err := io.Copy(part, from); err != nil {
		return errors.Join(fmt.Errorf("copying to the second folder: %w", err), part.Close(), os.Remove(part.Name()))
	}
	if err := errors.Join(part.Sync(), part.Close()); err != nil {
		return errors.Join(fmt.Errorf("copying to the second folder: %w", err), os.Remove(part.Name()))
	}
	return os.Rename(part.Name(), into)
}

// failureName is a file that says why the last backup was not made.
const failureName = "last-failure.txt"

func (a *Area) keepFailure(err error) error {
	path := filepath.Join(a.places.Folder, failureName)
	if err == nil {
		return ignoreMissing(os.Remove(path))
	}
	return os.WriteFile(path, []byte(time.Now().UTC().Format(time.RFC3339)+" "+err.Error()+"\n"), 0o600)
}

func (a *Area) lastFailure() string {
	text, err := os.ReadFile(filepath.Join(a.places.Folder, failureName))
	if err != nil || a.places.Folder == "" {
		return ""
	}
	return string(text)
}
