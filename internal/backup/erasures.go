package backup

import (
	"bufio"
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"slices"
	"time"

	"tidykiln/internal/customers"
	"tidykiln/internal/database"
)

// erasuresName is the list, beside the backups, of whose data was erased: a backup of the
// time before has it still, and whoever puts it back erases it again.
const erasuresName = "erasures.jsonl"

// erased is a line of the list.
type erased struct {
	Studio string `json:"studio"`
	customers.Erasure
}

// NoteErasures brings the lists beside the backups up to date. They hold numbers and no names.
func (a *Area) NoteErasures(ctx context.Context) error {
	if a.places.Folder == "" {
		return nil
	}
	studio, err := a.db.Studio(ctx)
	if err != nil {
		return err
	}
	list, err := database.Look(ctx, a.db, customers.Erasures)
	if err != nil || len(list) == 0 {
		return err
	}
	for _, folder := range []string{a.places.Folder, a.places.Second} {
		if folder != "" {
			err = errors.Join(err, noteErasures(folder, studio, list))
		}
	}
	return err
}

// noteErasures adds to a folder's list what it lacks.
func noteErasures(folder, studio string, list []customers.Erasure) error {
	there, err := ErasuresIn(folder, studio, time.Time{})
	if err != nil {
		return err
	}
	var fresh bytes.Buffer
	for _, e := range list {
		if slices.ContainsFunc(there, func(o customers.Erasure) bool { return o.CustomerID == e.CustomerID && o.At.Equal(e.At) }) {
			continue
		}
		line, err := json.Marshal(erased{studio, e})
		if err != nil {
			return err
		}
		fresh.Write(append(line, '\n'))
	}
	if err := os.MkdirAll(folder, 0o700); err != nil {
		return fmt.Errorf("making the folder of backups: %w", err)
	}
	f, err := os.OpenFile(filepath.Join(folder, erasuresName), os.O_CREATE|os.O_APPEND|os.O_WRONLY, 0o600)
	if err != nil {
		return fmt.Errorf("noting whose data was erased: %w", err)
	}
	_, err = f.Write(fresh.Bytes())
	if err = errors.Join(err, f.Sync(), f.Close()); err != nil {
		return fmt.Errorf("noting whose data was erased: %w", err)
	}
	return nil
}

// ErasuresIn are whose data was erased in a studio since a moment, by the list in a
// folder; none where there is no list. A line that was never ended is left out. What was
// erased before a backup was made is none of its business: after a backup was put back,
// somebody else may have the number.
func ErasuresIn(folder, studio string, since time.Time) (list []customers.Erasure, err error) {
	text, err := os.ReadFile(filepath.Join(folder, erasuresName))
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading whose data was erased: %w", err)
	}
	for lines := bufio.NewScanner(bytes.NewReader(text)); lines.Scan(); {
		var e erased
		if json.Unmarshal(lines.Bytes(), &e) == nil && e.Studio == studio && !e.At.Before(since) {
			list = append(list, e.Erasure)
		}
	}
	return list, nil
}
