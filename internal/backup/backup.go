package backup

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"io"
	"os"
	"path/filepath"
	"slices"
	"sync"
	"time"

	"gorm.io/gorm"

	"tidykiln/internal/artwork"
	"tidykiln/internal/database"
	"tidykiln/internal/problem"
	"tidykiln/internal/workshop"
)

// Places are where backups are kept, and what they are made of besides the database.
type Places struct {
	// Folder keeps them, Second has a copy of each; empty for none.
	Folder, Second string
	// DSN names the database beside which they are proven.
	DSN          string
	Passphrase   string
	Files        *artwork.Files
	Certificates string
}

// Area answers for backups.
type Area struct {
	db     *database.DB
	places Places
	mu     sync.Mutex
	making *Making
	// file is the one that is being made: whether it holds is not known yet.
	file  string
	asked chan struct{}
	// quiet is how long after the start nothing is made by itself.
	quiet time.Duration
}

// firstMinutes belong to whoever has started the studio.
const firstMinutes = 2 * time.Minute

// New makes the area on its database. Until it knows where to keep backups it makes none.
func New(db *database.DB) *Area {
	return &Area{db: db, asked: make(chan struct{}, 1), quiet: firstMinutes}
}

// KeepIn says where backups are kept.
func (a *Area) KeepIn(p Places) { a.places = p }

// Backups are those that are kept, the newest first.
type Backups struct {
	Folder  string   `json:"folder" doc:"empty where this server keeps none"`
	Second  string   `json:"second" doc:"a second folder, with a copy of each; empty for none"`
	Kept    []Backup `json:"kept" nullable:"false"`
	Making  *Making  `json:"making,omitempty"`
	Failure string   `json:"failure" doc:"why the last one was not made; empty where it was"`
	// HeldAt is when one was last put into a database of its own and counted.
	HeldAt *time.Time `json:"heldAt,omitempty"`
}

// Backup is one that is kept.
type Backup struct {
	Name      string    `json:"name"`
	MadeAt    time.Time `json:"madeAt"`
	Bytes     int64     `json:"bytes"`
	Encrypted bool      `json:"encrypted"`
	Proof
}

// Proof is what became of a backup after it was made. It is kept in a file beside it.
type Proof struct {
	Rows     int64 `json:"rows"`
	Pictures int   `json:"pictures"`
	// Missing is how many files of pictures were lost or damaged before.
	Missing int `json:"missing"`
	// HeldAt is when it was put into a database of its own and counted; Failure why that did not hold.
	HeldAt  *time.Time `json:"heldAt,omitempty"`
	Failure string     `json:"failure,omitempty"`
	// Copied tells that the second folder has it too; NotCopied why not.
	Copied    bool   `json:"copied"`
	NotCopied string `json:"notCopied,omitempty"`
}

// Making is how far the one that is being made has come.
type Making struct {
	Stage Stage `json:"stage" enum:"writing,reading,proving"`
	Done  int   `json:"done"`
	Total int   `json:"total"`
}

// Stage is what is being done.
type Stage string

const (
	Writing Stage = "writing"
	Reading Stage = "reading"
	Proving Stage = "proving"
)

// List gives the backups that are kept.
func (a *Area) List(context.Context) (b Backups, err error) {
	b = Backups{Folder: a.places.Folder, Second: a.places.Second, Kept: []Backup{}}
	a.mu.Lock()
	if a.making != nil {
		b.Making = new(*a.making)
	}
	making := a.file
	a.mu.Unlock()
	names, err := a.names()
	if err != nil {
		return b, err
	}
	for _, name := range names {
		if name == making {
			continue
		}
		one, err := a.kept(name)
		if errors.Is(err, os.ErrNotExist) {
			continue // it was removed meanwhile
		}
		if err != nil {
			return b, err
		}
		b.Kept = append(b.Kept, one)
		if one.HeldAt != nil && (b.HeldAt == nil || one.HeldAt.After(*b.HeldAt)) {
			b.HeldAt = one.HeldAt
		}
	}
	b.Failure = a.lastFailure()
	return b, nil
}

// names are the files of backups, the newest first.
func (a *Area) names() (names []string, err error) {
	if a.places.Folder == "" {
		return nil, nil
	}
	return backupsIn(a.places.Folder)
}

func backupsIn(folder string) (names []string, err error) {
	found, err := os.ReadDir(folder)
	if errors.Is(err, os.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, fmt.Errorf("reading the folder of backups: %w", err)
	}
	for _, f := range found {
		if _, is := madeAt(f.Name()); is {
			names = append(names, f.Name())
		}
	}
	slices.Sort(names)
	slices.Reverse(names)
	return names, nil
}

func (a *Area) kept(name string) (b Backup, err error) {
	path := filepath.Join(a.places.Folder, name)
	info, err := os.Stat(path)
	if err != nil {
		return b, err
	}
	at, _ := madeAt(name)
	b = Backup{Name: name, MadeAt: at, Bytes: info.Size(), Encrypted: filepath.Ext(name) == ".age"}
	text, err := os.ReadFile(proofOf(path))
	if err == nil {
		err = json.Unmarshal(text, &b.Proof)
	}
	if err != nil { // one that somebody has put there, or whose making was interrupted
		b.Proof = Proof{Failure: "nobody has looked yet whether it holds"}
	}
	return b, nil
}

func proofOf(path string) string { return path + ".proof.json" }

// Ask has a backup made now. One that is being made is enough.
func (a *Area) Ask(context.Context) error {
	if a.places.Folder == "" {
		return problem.Conflict(problem.Moved, "This server keeps no backups.")
	}
	a.mu.Lock()
	defer a.mu.Unlock()
	if a.making == nil {
		a.making = &Making{Stage: Writing}
		a.asked <- struct{}{}
	}
	return nil
}

// OpenFile opens a backup that is kept, to be taken away.
func (a *Area) OpenFile(name string) (io.ReadCloser, int64, error) {
	if _, is := madeAt(name); !is || a.places.Folder == "" {
		return nil, 0, problem.NotFound("backup")
	}
	f, err := os.Open(filepath.Join(a.places.Folder, name))
	if errors.Is(err, os.ErrNotExist) {
		return nil, 0, problem.NotFound("backup")
	}
	if err != nil {
		return nil, 0, fmt.Errorf("opening a backup: %w", err)
	}
	info, err := f.Stat()
	if err != nil {
		return nil, 0, errors.Join(err, f.Close())
	}
	return f, info.Size(), nil
}

// place is where the studio is, for the days of its backups.
func (a *Area) place(ctx context.Context) (*time.Location, error) {
	w, err := database.Look(ctx, a.db, func(tx *gorm.DB) (workshop.Workshop, error) { return workshop.LoadAlone(tx) })
	if err != nil {
		return nil, err
	}
	return w.Location(), nil
}
